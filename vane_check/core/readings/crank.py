"""Cranking in the car, the engine disabled."""

from typing import Literal

from pydantic import Field

from ..findings.kinds import StepKey
from ..words import Words, say
from .base import BatteryVolts, LoadSeconds, Reading, TemperatureC
from .method import Method


class Crank(Reading):
    """Volts at the posts while the starter turns a disabled engine at a steady speed."""

    kind: Literal["crank"] = "crank"
    volts: BatteryVolts | None = Field(None, description="volts while the speed is steady")
    seconds: LoadSeconds
    dip_volts: BatteryVolts | None = Field(None, description="the lowest instant of the start, as the meter kept it")
    at_posts: bool = Field(True, description="probes on the battery's own posts, not on clamps or cable")
    engine_disabled: bool = True
    temperature_c: TemperatureC | None = None

    def nothing_read(self) -> tuple[str, Words] | None:
        """Neither the steady volts nor the lowest instant."""
        if self.volts is None and self.dip_volts is None:
            return "volts", say("crank.enter_the_volts_while_the_speed_is_steady")
        return None


METHOD = Method(
    reading=Crank,
    title=say("crank.crank"),
    read_with="meter",
    asked_by=StepKey.CRANK_TEST,
    opened_by=frozenset({StepKey.CRANK_TEST}),
    again_by=StepKey.CRANK_TEST,
    starting="quick",
    loads=True,
)
