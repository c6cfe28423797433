"""What it does under load: adjustable, fixed, cranking."""

from enum import StrEnum
from typing import Annotated, Literal

from pydantic import Field

from ..tables import entry_limits
from .base import Reading, TemperatureC

_LIMITS = entry_limits()


LoadAmps = Annotated[float, Field(ge=_LIMITS["load_amps"].low, le=_LIMITS["load_amps"].high, description="amps")]
LoadSeconds = Annotated[
    float, Field(ge=_LIMITS["load_seconds"].low, le=_LIMITS["load_seconds"].high, description="seconds")
]


class Needle(StrEnum):
    """What the volts did during the pull."""

    HELD = "held"
    DROPPED_AFTER = "dropped_after"
    DROPPED_AT_ONCE = "dropped_at_once"


class AdjustableLoad(Reading):
    """A pull with an adjustable load: amps set, seconds held, volts at the end under load."""

    kind: Literal["adjustable_load"] = "adjustable_load"
    amps: LoadAmps
    seconds: LoadSeconds
    volts: float = Field(ge=0, description="volts at the end, under load")
    needle: Needle = Needle.HELD
    temperature_c: TemperatureC | None = None


class FixedLoad(Reading):
    """A pull with a fixed resistor, and where the volts came back to."""

    kind: Literal["fixed_load"] = "fixed_load"
    amps: LoadAmps = 100
    seconds: LoadSeconds
    volts: float = Field(ge=0, description="volts at the end, under load")
    bounce_volts: float | None = Field(None, ge=0, description="volts a minute after the load came off")
    temperature_c: TemperatureC | None = None


class Crank(Reading):
    """Volts at the posts while the starter turns a disabled engine at a steady speed."""

    kind: Literal["crank"] = "crank"
    volts: float = Field(ge=0)
    seconds: LoadSeconds
    engine_disabled: bool = True
    temperature_c: TemperatureC | None = None
