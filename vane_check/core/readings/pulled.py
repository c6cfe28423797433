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
    FELL_DURING = "fell_during"
    DROPPED_AFTER = "dropped_after"
    DROPPED_AT_ONCE = "dropped_at_once"


PostsClean = Annotated[bool | None, Field(description="None: as the last look found them")]
EndAmps = Annotated[
    float | None,
    Field(ge=_LIMITS["load_amps"].low, le=_LIMITS["load_amps"].high, description="amps at the end, where they fell"),
]


class ShownBand(StrEnum):
    """What a load tester's scale shows where it shows colours or words instead of volts."""

    GOOD = "good"
    WEAK = "weak"
    BAD = "bad"


class AdjustableLoad(Reading):
    """A pull with an adjustable load: amps set, seconds held, volts at the end under load."""

    kind: Literal["adjustable_load"] = "adjustable_load"
    amps: LoadAmps
    seconds: LoadSeconds
    volts: float = Field(ge=0, description="volts at the end, under load")
    needle: Needle = Needle.HELD
    end_amps: EndAmps = None
    posts_clean: PostsClean = None
    temperature_c: TemperatureC | None = None


class FixedLoad(Reading):
    """A pull with a fixed resistor, and where the volts came back to."""

    kind: Literal["fixed_load"] = "fixed_load"
    amps: LoadAmps = 100
    seconds: LoadSeconds
    volts: float | None = Field(None, ge=0, description="volts at the end, under load; None where it shows none")
    bounce_volts: float | None = Field(None, ge=0, description="volts a minute after the load came off")
    band: ShownBand | None = Field(None, description="what its scale shows instead of volts")
    shown_cca_amps: float | None = Field(
        None, ge=_LIMITS["measured_cca_amps"].low, le=_LIMITS["measured_cca_amps"].high, description="CCA on its scale"
    )
    needle: Needle = Needle.HELD
    end_amps: EndAmps = None
    posts_clean: PostsClean = None
    temperature_c: TemperatureC | None = None


class Crank(Reading):
    """Volts at the posts while the starter turns a disabled engine at a steady speed."""

    kind: Literal["crank"] = "crank"
    volts: float | None = Field(None, ge=0, description="volts while the speed is steady")
    seconds: LoadSeconds
    dip_volts: float | None = Field(None, ge=0, description="the lowest instant of the start, as the meter kept it")
    at_posts: bool = Field(True, description="probes on the battery's own posts, not on clamps or cable")
    engine_disabled: bool = True
    temperature_c: TemperatureC | None = None
