"""Volts at the posts, off charge and off load."""

from enum import StrEnum
from typing import Annotated, Literal

from pydantic import Field

from ..findings.kinds import StepKey
from ..words import say
from .base import BatteryVolts, Reading, TemperatureC, Within
from .method import Method


class Settled(StrEnum):
    """What came before the volts were read."""

    RESTED = "rested"
    HEADLAMPS = "headlamps"
    JUST_CHARGED = "just_charged"
    MAINTAINER_ON = "maintainer_on"


MeterRange = Literal["20_v", "200_v", "600_v"]
RestedHours = Annotated[float, Within("rested_hours")]


class RestVolts(Reading):
    """Volts at the posts, off charge and off load."""

    kind: Literal["rest_volts"] = "rest_volts"
    volts: BatteryVolts = Field(description="volts")
    settled: Settled = Settled.RESTED
    rested_hours: RestedHours | None = None
    after_full_charge: bool = Field(False, description="a full charge came before this rest")
    confirmed: bool = Field(False, description="measured again on clean posts with the same result")
    meter_range: MeterRange | None = Field(None, description="range of the meter; a higher one drops a digit")
    temperature_c: TemperatureC | None = None


METHOD = Method(
    reading=RestVolts,
    title=say("rest_volts.volts"),
    read_with="meter",
    opened_by=frozenset(
        {
            StepKey.MEASURE_VOLTS,
            StepKey.MEASURE_AGAIN,
            StepKey.SETTLE,
            StepKey.REST_BY_HOURS,
            StepKey.MEASURE_AFTER_PULL,
        }
    ),
    counted_for=frozenset(),
    corrosion_spoils=False,
    needs_acid=False,
)
