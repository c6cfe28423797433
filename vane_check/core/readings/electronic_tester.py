"""What an electronic tester shows, with the settings it was made under."""

from enum import StrEnum
from typing import Annotated, Literal

from pydantic import Field

from ..battery.label import RatingScale
from ..findings.kinds import StepKey
from ..units.model import ShortText
from ..words import Words, say
from .base import BatteryVolts, PostsClean, Reading, TemperatureC, Within
from .method import Method


class TypeSet(StrEnum):
    """The battery type an electronic tester is set to."""

    FLOODED = "flooded"
    EFB = "efb"
    AGM_FLAT = "agm_flat"
    AGM_SPIRAL = "agm_spiral"
    GEL = "gel"


class Clamped(StrEnum):
    """Where the tester's jaws sat."""

    LEAD_POSTS = "lead_posts"
    STUDS = "studs"
    CABLE_CLAMPS = "cable_clamps"


class TesterMessage(StrEnum):
    """The five messages testers give, in substance."""

    GOOD = "good"
    GOOD_RECHARGE = "good_recharge"
    RECHARGE_RETEST = "recharge_retest"
    REPLACE = "replace"
    BAD_CELL = "bad_cell"


Percent = Annotated[float, Within("health_pct")]


class ElectronicTester(Reading):
    """A conductance or impedance tester's result with the settings it was made under."""

    kind: Literal["electronic_tester"] = "electronic_tester"
    measured_cca_amps: Annotated[float, Within("measured_cca_amps")] | None = Field(
        None, description="amps; None where the result is only a message, or a resistance"
    )
    type_set: TypeSet
    scale_set: RatingScale = RatingScale.CCA
    rated_set_amps: Annotated[float, Within("rated_amps")] | None = Field(
        None, description="rated figure set on the tester"
    )
    clamped: Clamped = Clamped.LEAD_POSTS
    message: TesterMessage | None = None
    health_pct: Percent | None = None
    charge_setting: Literal["before", "after"] | None = Field(
        None, description="the tester's own question: before or after charge"
    )
    state_of_charge_pct: Percent | None = Field(None, description="the tester's own estimate")
    volts: BatteryVolts | None = Field(None, description="the tester's own volts, before it tests")
    resistance_mohm: Annotated[float, Within("resistance_mohm")] | None = None
    in_vehicle: bool = False
    posts_clean: PostsClean = None
    tester_name: ShortText = ""
    temperature_c: TemperatureC | None = None

    def nothing_read(self) -> tuple[str, Words] | None:
        """No amps, no message, no resistance."""
        if self.measured_cca_amps is None and self.message is None and self.resistance_mohm is None:
            return "measured_cca_amps", say("electronic_tester.enter_the_measured_amps_where_the_tester")
        return None


METHOD = Method(
    reading=ElectronicTester,
    title=say("electronic_tester.tester"),
    read_with="tester",
    asked_by=StepKey.TESTER,
    opened_by=frozenset({StepKey.TESTER, StepKey.TESTER_AGAIN}),
    again_by=StepKey.TESTER_AGAIN,
    starting="quick",
)
