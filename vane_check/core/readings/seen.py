"""What eyes, hands and nose find, and what leaks over the case."""

from enum import StrEnum
from typing import Annotated, Literal

from pydantic import Field

from ..battery import Model
from ..tables import entry_limits
from .base import Reading

_LIMITS = entry_limits()


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


class Mark(Model):
    """A sign where it was touched on the drawn case: shares of the view's width and height, from the top left."""

    sign: Sign
    view: Literal["front", "top"] = "front"
    across: float = Field(0.16, ge=0, le=1)
    down: float = Field(0.8, ge=0, le=1)


class Corrosion(StrEnum):
    """How far the posts and clamps are grown over."""

    NONE = "none"
    LIGHT = "light"
    HEAVY = "heavy"


class Level(StrEnum):
    """Acid over the plates of one cell."""

    OVER = "over"
    RIGHT = "right"
    LOW = "low"
    PLATES_BARE = "plates_bare"


class Eye(StrEnum):
    """The charge indicator: it watches one cell of six and decides nothing alone, but clear means low acid."""

    GREEN = "green"
    DARK = "dark"
    CLEAR = "clear"


class Look(Reading):
    """What eyes, hands and nose say before anything is clamped on. No marks means nothing was found."""

    kind: Literal["look"] = "look"
    marks: tuple[Mark, ...] = ()
    corrosion: Corrosion = Corrosion.NONE
    levels: tuple[Level, ...] = Field((), description="cell by cell from the positive post; empty when not looked at")
    eye: Eye | None = None


LeakageVolts = Annotated[float, Field(ge=_LIMITS["leakage_volts"].low, le=_LIMITS["leakage_volts"].high)]


class Spot(Model):
    """Volts at one place of the drawn case: shares of the view's width and height, from the top left."""

    volts: LeakageVolts
    view: Literal["front", "top"] = "top"
    across: float = Field(0.5, ge=0, le=1)
    down: float = Field(0.5, ge=0, le=1)


class CaseLeakage(Reading):
    """Volts from the positive post to the damp plastic of the case: the worst of the places that were touched."""

    kind: Literal["case_leakage"] = "case_leakage"
    volts: LeakageVolts = Field(description="volts at the worst place")
    cleaned: bool = Field(False, description="cleaned, dried and measured again")
    spots: tuple[Spot, ...] = Field((), description="each place touched, where on the case it is")

    @property
    def worst_volts(self) -> float:
        """The highest of all places [V]."""
        return max((self.volts, *(spot.volts for spot in self.spots)))
