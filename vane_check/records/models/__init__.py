"""The tables. Readings, judgements, take-in entries, moves and claims are append-only: the database refuses a change."""

from .evidence import PLACES, BatteryRow, CheckRow, Claim, JudgementRow, Move, OwnCall, ReadingRow, Remark, TakeInEntry
from .goods import (
    CatalogueItem,
    FittingTick,
    ItemBox,
    ItemEntry,
    OrderNote,
    PieceEntry,
    Sale,
    StockPiece,
    Supplier,
    Vehicle,
    WayBack,
)
from .house import (
    Backup,
    Customer,
    CustomerEntry,
    Erasure,
    HouseEntry,
    RulesVersion,
    SealRow,
    SignIn,
    SignInTry,
    Staff,
    Store,
    Write,
)
from .lists import ImportMapping, ImportRun, SizeAlias, TermsRow
from .rack import EquipmentEntry, EquipmentRow, Promise, RackPin, RackPlan, RackStay
from .stores import Transfer

APPEND_ONLY = (
    "take_in_entries", "readings", "judgements", "moves", "claims", "rules_versions", "sign_in_tries", "writes", "erasures",
    "equipment_entries", "promises", "rack_pins", "rack_plans", "piece_entries", "item_entries", "sales", "fitting_ticks",
    "house_entries", "customer_entries", "warranty_terms", "ways_back", "own_calls",
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
    "CustomerEntry",
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
    "OwnCall",
    "PieceEntry",
    "PLACES",
    "Promise",
    "RackPin",
    "RackPlan",
    "RackStay",
    "ReadingRow",
    "Remark",
    "RulesVersion",
    "Sale",
    "SealRow",
    "SignIn",
    "SignInTry",
    "SizeAlias",
    "Staff",
    "StockPiece",
    "Store",
    "Supplier",
    "TakeInEntry",
    "TermsRow",
    "Transfer",
    "Vehicle",
    "WayBack",
    "Write",
]
