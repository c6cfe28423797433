"""What every reading has."""

from typing import Annotated

from pydantic import AfterValidator, Field

from ..battery import Model, Moment, ShortText, printable
from ..equipment import ToolUsed
from ..tables import entry_limits

_LIMITS = entry_limits()

Identity = Annotated[str, Field(min_length=1, max_length=64), AfterValidator(printable)]
TemperatureC = Annotated[
    float, Field(ge=_LIMITS["temperature_c"].low, le=_LIMITS["temperature_c"].high, description="Celsius")
]


class Reading(Model):
    """What every reading has: when, who, and which earlier entry it corrects."""

    id: Identity | None = None
    taken_at: Moment
    taken_by: ShortText = ""
    replaces: Identity | None = Field(None, description="id of the entry this one corrects")
    reason: ShortText = Field(
        "", description="why a hazard is taken back, or why it is read although the battery is unsafe"
    )
    tool: ToolUsed | None = Field(None, description="what it was read with, where the house keeps that in its book")
