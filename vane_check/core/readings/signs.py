"""Signs: what eyes, hands and nose can find on a battery, and which of them forbid everything else."""

from enum import StrEnum


class Sign(StrEnum):
    """What eyes, hands and nose can find on a battery."""

    BULGED = "bulged"
    CRACKED = "cracked"
    LEAKING = "leaking"
    HOT = "hot"
    ROTTEN_EGG_SMELL = "smelling_of_rotten_egg"
    FROZEN = "frozen"
    MELTED_POST = "melted_post"
    LOOSE_POST = "loose_post"
    HOLD_DOWN_MISSING = "hold_down_missing"
    HOLD_DOWN_LOOSE = "hold_down_loose"
    THIN_POST = "thin_post"
    VENT_TUBE_OFF = "vent_tube_off"
    TRAY_RUSTED = "tray_rusted"
    WET_TOP = "wet_top"
    STICKER_GONE = "sticker_gone"


HAZARDS = frozenset(
    {
        Sign.BULGED, Sign.CRACKED, Sign.LEAKING, Sign.HOT, Sign.ROTTEN_EGG_SMELL, Sign.FROZEN, Sign.MELTED_POST,
        Sign.LOOSE_POST,
    }
)  # fmt: skip
"""Signs that forbid testing and charging."""
