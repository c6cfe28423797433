"""The tables. Readings, judgements, take-in entries, moves and claims are append-only: the database refuses a change."""

from .evidence import PLACES, BatteryRow, CheckRow, Claim, JudgementRow, Move, ReadingRow, TakeInEntry
from .goods import CatalogueItem, StockPiece, TermsRow, Vehicle
from .house import Customer, Erasure, RulesVersion, SignIn, SignInTry, Staff, Store, Write

APPEND_ONLY = (
    "take_in_entries", "readings", "judgements", "moves", "claims", "rules_versions", "sign_in_tries", "writes", "erasures",
)  # fmt: skip
"""Tables whose rows are evidence; a trigger refuses UPDATE and DELETE on them."""

__all__ = [
    "APPEND_ONLY",
    "BatteryRow",
    "CatalogueItem",
    "CheckRow",
    "Claim",
    "Customer",
    "Erasure",
    "JudgementRow",
    "Move",
    "PLACES",
    "ReadingRow",
    "RulesVersion",
    "SignIn",
    "SignInTry",
    "Staff",
    "StockPiece",
    "Store",
    "TakeInEntry",
    "TermsRow",
    "Vehicle",
    "Write",
]
