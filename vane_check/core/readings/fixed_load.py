"""A pull with a fixed resistor."""

from enum import StrEnum
from typing import Annotated, Literal

from pydantic import Field

from ..findings.kinds import StepKey
from ..words import Words, say
from .adjustable_load import Needle
from .base import BatteryVolts, EndAmps, LoadAmps, LoadSeconds, PostsClean, Reading, TemperatureC, Within
from .method import Method


class ShownBand(StrEnum):
    """What a load tester's scale shows where it shows colours or words instead of volts."""

    GOOD = "good"
    WEAK = "weak"
    BAD = "bad"


class FixedLoad(Reading):
    """A pull with a fixed resistor, and where the volts came back to."""

    kind: Literal["fixed_load"] = "fixed_load"
    amps: LoadAmps = 100
    seconds: LoadSeconds
    volts: BatteryVolts | None = Field(None, description="volts at the end, under load; None where it shows none")
    bounce_volts: BatteryVolts | None = Field(None, description="volts a minute after the load came off")
    band: ShownBand | None = Field(None, description="what its scale shows instead of volts")
    shown_cca_amps: Annotated[float, Within("measured_cca_amps")] | None = Field(None, description="CCA on its scale")
    needle: Needle = Needle.HELD
    end_amps: EndAmps = None
    posts_clean: PostsClean = None
    temperature_c: TemperatureC | None = None

    def nothing_read(self) -> tuple[str, Words] | None:
        """No volts, no band, no CCA."""
        if self.volts is None and self.band is None and self.shown_cca_amps is None:
            return "volts", say("fixed_load.enter_the_volts_at_the_end_or_what_its")
        return None


METHOD = Method(
    reading=FixedLoad,
    title=say("fixed_load.fixed_load"),
    read_with="fixed_load",
    asked_by=StepKey.FIXED_TEST,
    opened_by=frozenset({StepKey.FIXED_TEST}),
    again_by=StepKey.FIXED_TEST,
    starting="quick",
    loads=True,
)
