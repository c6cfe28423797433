"""What takes hours, or concerns the car, and what is taken back."""

from typing import Annotated, Literal

from pydantic import Field

from ..tables import entry_limits
from .base import Identity, Reading, TemperatureC

_LIMITS = entry_limits()


class Stand(Reading):
    """A full charge, then rest off everything: volts after settling and at the end."""

    kind: Literal["stand"] = "stand"
    start_volts: float = Field(ge=0)
    volts: float = Field(ge=0, description="volts at the end")
    hours: float = Field(gt=0, le=_LIMITS["rested_hours"].high)
    temperature_c: TemperatureC | None = None


ChargeAmps = Annotated[float, Field(ge=_LIMITS["charge_amps"].low, le=_LIMITS["charge_amps"].high)]
ChargeVolts = Annotated[float, Field(ge=_LIMITS["charge_volts"].low, le=_LIMITS["charge_volts"].high)]


class ChargeRun(Reading):
    """A charge as it is seen at the charger: amps and volts at the start and now."""

    kind: Literal["charge_run"] = "charge_run"
    start_amps: ChargeAmps
    amps: ChargeAmps
    volts: ChargeVolts
    hours: float = Field(ge=_LIMITS["charge_hours"].low, le=_LIMITS["charge_hours"].high)
    finished: bool = Field(False, description="fully charged and taken off")


RunningVolts = Annotated[float, Field(ge=_LIMITS["running_volts"].low, le=_LIMITS["running_volts"].high)]


class Car(Reading):
    """What the car does to its battery."""

    kind: Literal["car"] = "car"
    idle_volts: RunningVolts | None = None
    loaded_volts: RunningVolts | None = None
    clamp_moves: bool = Field(False, description="volts jump when a clamp is moved")
    drain_ma: float | None = Field(None, ge=_LIMITS["drain_ma"].low, le=_LIMITS["drain_ma"].high)
    modules_asleep: bool = True
    unregistered: bool = Field(False, description="replaced without telling the battery management system")
    short_trips: bool = False


class Withdrawal(Reading):
    """Takes an entry back that was a slip of the finger. The entry stays readable; it no longer counts."""

    kind: Literal["withdrawal"] = "withdrawal"
    replaces: Identity = Field(description="id of the entry that is taken back")
