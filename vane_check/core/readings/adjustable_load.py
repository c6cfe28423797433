"""A pull with a load that is set by the rating."""

from enum import StrEnum
from typing import Literal

from pydantic import Field

from ..findings.kinds import StepKey
from ..words import say
from .base import BatteryVolts, EndAmps, LoadAmps, LoadSeconds, PostsClean, Reading, TemperatureC
from .method import Method


class Needle(StrEnum):
    """What the volts did during the pull."""

    HELD = "held"
    FELL_DURING = "fell_during"
    DROPPED_AFTER = "dropped_after"
    DROPPED_AT_ONCE = "dropped_at_once"


class AdjustableLoad(Reading):
    """A pull with an adjustable load: amps set, seconds held, volts at the end under load."""

    kind: Literal["adjustable_load"] = "adjustable_load"
    amps: LoadAmps
    seconds: LoadSeconds
    volts: BatteryVolts = Field(description="volts at the end, under load")
    needle: Needle = Needle.HELD
    end_amps: EndAmps = None
    posts_clean: PostsClean = None
    temperature_c: TemperatureC | None = None


METHOD = Method(
    reading=AdjustableLoad,
    title=say("adjustable_load.pull"),
    read_with="adjustable_load",
    asked_by=StepKey.LOAD_TEST,
    opened_by=frozenset({StepKey.LOAD_TEST, StepKey.LOAD_AGAIN}),
    again_by=StepKey.LOAD_TEST,
    starting="deciding",
    loads=True,
)
