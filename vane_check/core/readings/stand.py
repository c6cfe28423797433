"""A stand off everything."""

from typing import Annotated, Literal

from pydantic import Field

from ..findings.kinds import StepKey
from ..tables import entry_limits
from ..words import say
from .base import BatteryVolts, Reading, TemperatureC
from .method import Method


class Stand(Reading):
    """A full charge, then rest off everything: volts after settling and at the end."""

    kind: Literal["stand"] = "stand"
    start_volts: BatteryVolts
    volts: BatteryVolts = Field(description="volts at the end")
    hours: Annotated[float, Field(gt=0, le=entry_limits()["rested_hours"].high)]
    temperature_c: TemperatureC | None = None


METHOD = Method(
    reading=Stand,
    title=say("stand.stand"),
    read_with="meter",
    opened_by=frozenset({StepKey.STAND}),
    corrosion_spoils=False,
    needs_acid=False,
)
