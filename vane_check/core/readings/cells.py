"""Gravity, volts and gassing of each cell."""

from enum import StrEnum
from typing import Annotated, Literal

from pydantic import Field

from ..findings.kinds import StepKey
from ..words import say
from .base import Reading, TemperatureC, Within
from .method import Method


class CellState(StrEnum):
    """How a cell looks while charging: lively gassing, or still."""

    LIVELY = "lively"
    STILL = "still"


class Band(StrEnum):
    """What a hydrometer with colours shows."""

    GREEN = "green"
    WHITE = "white"
    RED = "red"


class Cells(Reading):
    """Gravity, and where trained hands measure it volts, of each cell in order from the positive post."""

    kind: Literal["cells"] = "cells"
    specific_gravities: tuple[Annotated[float, Within("specific_gravity")], ...] = ()
    cell_volts: tuple[Annotated[float, Within("cell_volts")], ...] = ()
    on_charge: tuple[CellState, ...] = ()
    bands: tuple[Band, ...] = Field((), description="colours instead of figures")
    temperature_c: TemperatureC | None = None
    after_full_charge: bool = False
    equalised: bool = Field(False, description="an equalising charge came before")

    def rows_of_cells(self) -> dict[str, int]:
        """Every row, the empty ones too."""
        return {
            "specific_gravities": len(self.specific_gravities),
            "cell_volts": len(self.cell_volts),
            "on_charge": len(self.on_charge),
            "bands": len(self.bands),
        }


METHOD = Method(
    reading=Cells,
    title=say("cells.cells_2"),
    read_with="hydrometer",
    asked_by=StepKey.CELLS,
    opened_by=frozenset({StepKey.CELLS}),
    again_by=StepKey.CELLS,
    through_posts=False,
    corrosion_spoils=False,
    shows_health=True,
)
