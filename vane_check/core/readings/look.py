"""What eyes, hands and nose find before anything is clamped on."""

from enum import StrEnum
from typing import Literal

from pydantic import Field

from ..findings.kinds import StepKey
from ..units.model import Model
from ..words import say
from .base import Reading
from .method import Method
from .signs import HAZARDS, Sign


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

    def rows_of_cells(self) -> dict[str, int]:
        """The levels."""
        return {"levels": len(self.levels)}

    def hazards(self) -> frozenset[Sign]:
        """Signs of danger it found."""
        return frozenset(mark.sign for mark in self.marks if mark.sign in HAZARDS)


METHOD = Method(
    reading=Look,
    title=say("look.look"),
    read_with=None,
    opened_by=frozenset({StepKey.LOOK, StepKey.LOOK_AGAIN}),
    counted_for=frozenset(),
    hands_on=False,
    through_posts=False,
    corrosion_spoils=False,
    needs_acid=False,
    dryness_spoils=False,
)
