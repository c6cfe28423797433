"""The tables. Readings, judgements, take-in entries, moves and claims are append-only: the database refuses a change."""

from .evidence import PLACES, BatteryRow, CheckRow, Claim, JudgementRow, Move, ReadingRow, TakeInEntry
from .goods import (
    CatalogueItem,
    FittingTick,
    ImportMapping,
    ImportRun,
    ItemBox,
    ItemEntry,
    OrderNote,
    PieceEntry,
    Sale,
    SizeAlias,
    StockPiece,
    Supplier,
    TermsRow,
    Vehicle,
)
from .house import Backup, Customer, Erasure, HouseEntry, RulesVersion, SignIn, SignInTry, Staff, Store, Write
from .rack import EquipmentEntry, EquipmentRow, Promise, RackPin, RackPlan, RackStay

APPEND_ONLY = (
    "take_in_entries", "readings", "judgements", "moves", "claims", "rules_versions", "sign_in_tries", "writes", "erasures",
    "equipment_entries", "promises", "rack_pins", "rack_plans", "piece_entries", "item_entries", "sales", "fitting_ticks",
    "house_entries",
)  # fmt: skip
"""Tables whose rows are evidence; a trigger refuses UPDATE and DELETE on them."""

__all__ = [
    "APPEND_ONLY",
    "Backup",
    "BatteryRow",
    "CatalogueItem",
    "CheckRow",
    "Claim",
    "Customer",
    "EquipmentEntry",
    "EquipmentRow",
    "Erasure",
    "FittingTick",
    "HouseEntry",
    "ImportMapping",
    "ImportRun",
    "ItemBox",
    "ItemEntry",
    "JudgementRow",
    "Move",
    "OrderNote",
    "PieceEntry",
    "PLACES",
    "Promise",
    "RackPin",
    "RackPlan",
    "RackStay",
    "ReadingRow",
    "RulesVersion",
    "Sale",
    "SignIn",
    "SignInTry",
    "SizeAlias",
    "Staff",
    "StockPiece",
    "Store",
    "Supplier",
    "TakeInEntry",
    "TermsRow",
    "Vehicle",
    "Write",
]
