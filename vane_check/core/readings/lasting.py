"""What takes hours, or concerns the car, and what is taken back."""

from enum import StrEnum
from typing import Annotated, Literal

from pydantic import Field

from ..battery import Model
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


class ChargePoint(Model):
    """Amps at so many minutes of a charge, and volts where they were read."""

    minutes: float = Field(ge=0, le=_LIMITS["charge_hours"].high * 60)
    amps: ChargeAmps
    volts: ChargeVolts | None = None


class ChargeRun(Reading):
    """A charge as it is seen at the charger: amps and volts at the start and now, and on the way where they were written down."""

    kind: Literal["charge_run"] = "charge_run"
    start_amps: ChargeAmps | None = None
    amps: ChargeAmps | None = Field(None, description="amps now; a maintainer shows none")
    start_volts: ChargeVolts | None = Field(None, description="volts before it went on")
    volts: ChargeVolts
    hours: float = Field(ge=_LIMITS["charge_hours"].low, le=_LIMITS["charge_hours"].high)
    finished: bool = Field(False, description="fully charged and taken off, as the charger says")
    stopped: bool = Field(False, description="taken off before it was full")
    recovery: bool = Field(False, description="a recovery charge: slow, with a mode for long flat batteries")
    ah_in: float | None = Field(
        None,
        ge=_LIMITS["charge_ah"].low,
        le=_LIMITS["charge_ah"].high,
        description="Ah put in, as the charger shows them",
    )
    log: tuple[ChargePoint, ...] = Field((), max_length=500, description="amps on the way")


RunningVolts = Annotated[float, Field(ge=_LIMITS["running_volts"].low, le=_LIMITS["running_volts"].high)]


DropVolts = Annotated[float | None, Field(ge=_LIMITS["drop_volts"].low, le=_LIMITS["drop_volts"].high)]


class Waits(StrEnum):
    """What a stop-start system waits for; words in tables/stop-start-waits.csv."""

    DRIVER = "driver"
    BONNET = "bonnet"
    ENGINE_WARM = "engine_warm"
    BATTERY_WARM = "battery_warm"
    CLIMATE = "climate"
    STEERING = "steering"
    OWN_SWITCH = "own_switch"
    SENSOR = "sensor"
    CODES = "codes"
    REGISTERED = "registered"


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
    drop_joint_volts: DropVolts = Field(None, description="battery post to its clamp, while cranking")
    drop_ground_volts: DropVolts = Field(None, description="negative post to chassis, while cranking")
    drop_starter_volts: DropVolts = Field(None, description="positive post to starter, while cranking")
    waits_checked: tuple[Waits, ...] = Field((), description="what stop-start waits for, looked at and in order")
    waits_found: tuple[Waits, ...] = Field((), description="what stop-start waits for, and was found wrong")


class LogPoint(Model):
    """Volts at so many minutes of a timed discharge."""

    minutes: float = Field(ge=0, le=_LIMITS["discharge_minutes"].high)
    volts: float = Field(ge=0)


class Reserve(Reading):
    """A timed discharge from full at steady amps: minutes until the end volts, or as far as it went."""

    kind: Literal["reserve"] = "reserve"
    amps: float = Field(ge=_LIMITS["discharge_amps"].low, le=_LIMITS["discharge_amps"].high)
    minutes: float = Field(ge=_LIMITS["discharge_minutes"].low, le=_LIMITS["discharge_minutes"].high)
    volts: float = Field(ge=0, description="volts at the end, under load")
    log: tuple[LogPoint, ...] = Field((), max_length=500, description="volts on the way")
    after_full_charge: bool = Field(False, description="a full charge and a rest came before")
    temperature_c: TemperatureC | None = None


class Withdrawal(Reading):
    """Takes an entry back that was a slip of the finger. The entry stays readable; it no longer counts."""

    kind: Literal["withdrawal"] = "withdrawal"
    replaces: Identity = Field(description="id of the entry that is taken back")
