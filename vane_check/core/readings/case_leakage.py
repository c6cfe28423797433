"""What leaks over the case: volts from the positive post to damp plastic."""

from typing import Annotated, Literal

from pydantic import Field

from ..findings.kinds import StepKey
from ..units.model import Model
from ..words import say
from .base import Reading, Within
from .method import Method

LeakageVolts = Annotated[float, Within("leakage_volts")]


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


METHOD = Method(
    reading=CaseLeakage,
    title=say("case_leakage.leakage"),
    read_with="meter",
    opened_by=frozenset({StepKey.CLEAN_TOP}),
    counted_for=frozenset(),
    hands_on=False,
    corrosion_spoils=False,
    needs_acid=False,
)
