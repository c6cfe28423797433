"""What every reading has, and the quantities that several share. A bound stands in tables/entry-limits.csv and nowhere else."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Annotated

from annotated_types import Ge, GroupedMetadata, Le
from pydantic import AfterValidator, Field

from ..house.equipment import ToolUsed
from ..tables import entry_limits
from ..units.model import Model, Moment, ShortText, printable
from ..words import Words
from .signs import Sign


@dataclass(frozen=True)
class Within(GroupedMetadata):
    """The ends of a figure, by the name of their row in tables/entry-limits.csv; what is wrong with it is said from there too."""

    name: str

    def __iter__(self) -> Iterator[object]:
        """Its two ends, as a validator reads them."""
        limit = entry_limits()[self.name]
        return iter((Ge(limit.low), Le(limit.high)))


class OwnVolts:
    """Marks volts of the battery itself: no more than its nominal volts allow."""


Identity = Annotated[str, Field(min_length=1, max_length=64), AfterValidator(printable)]
BatteryVolts = Annotated[float, Field(ge=0), OwnVolts()]
TemperatureC = Annotated[float, Within("temperature_c"), Field(description="Celsius")]
LoadAmps = Annotated[float, Within("load_amps"), Field(description="amps")]
LoadSeconds = Annotated[float, Within("load_seconds"), Field(description="seconds")]
EndAmps = Annotated[Annotated[float, Within("load_amps")] | None, Field(description="amps at the end, where they fell")]
PostsClean = Annotated[bool | None, Field(description="None: as the last look found them")]


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

    def nothing_read(self) -> tuple[str, Words] | None:
        """The field that is missing where this says nothing at all, and what to enter; None where it says something."""
        return None

    def rows_of_cells(self) -> dict[str, int]:
        """Fields with one place a cell, and how many places are filled: as many as the battery has cells, or none."""
        return {}

    def hazards(self) -> frozenset[Sign]:
        """Signs of danger it found."""
        return frozenset()
