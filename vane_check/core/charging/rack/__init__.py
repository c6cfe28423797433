"""The charge rack: what stands on which charger when, from promises, opening hours, hands, rests and priorities."""

from .changes import Change, changes_between
from .hours import OpeningHours, open_spans
from .parts import Begun, ChargeJob, Lane, Pin, Placed, Rack, Unplaced
from .schedule import planned
from .suits import Suits, suits

__all__ = [
    "Begun",
    "Change",
    "ChargeJob",
    "Lane",
    "OpeningHours",
    "Pin",
    "Placed",
    "Rack",
    "Suits",
    "Unplaced",
    "changes_between",
    "open_spans",
    "planned",
    "suits",
]
