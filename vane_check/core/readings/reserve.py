"""A timed discharge from full."""

from typing import Annotated, Literal

from pydantic import Field

from ..findings.kinds import StepKey
from ..tables import entry_limits
from ..units.model import Model
from ..words import say
from .base import BatteryVolts, Reading, TemperatureC, Within
from .method import Method


class LogPoint(Model):
    """Volts at so many minutes of a timed discharge."""

    minutes: float = Field(ge=0, le=entry_limits()["discharge_minutes"].high)
    volts: float = Field(ge=0)


class Reserve(Reading):
    """A timed discharge from full at steady amps: minutes until the end volts, or as far as it went."""

    kind: Literal["reserve"] = "reserve"
    amps: Annotated[float, Within("discharge_amps")]
    minutes: Annotated[float, Within("discharge_minutes")]
    volts: BatteryVolts = Field(description="volts at the end, under load")
    log: tuple[LogPoint, ...] = Field((), max_length=500, description="volts on the way")
    after_full_charge: bool = Field(False, description="a full charge and a rest came before")
    temperature_c: TemperatureC | None = None


METHOD = Method(
    reading=Reserve,
    title=say("reserve.reserve_2"),
    read_with="discharger",
    asked_by=StepKey.RESERVE_TEST,
    opened_by=frozenset({StepKey.RESERVE_TEST}),
    through_posts=False,
    corrosion_spoils=False,
    shows_health=True,
)
