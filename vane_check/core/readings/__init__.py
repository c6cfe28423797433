"""One model per kind of reading. Volts, amps and Celsius, with the unit in the field's name. New kinds only add."""

from typing import Annotated, get_args

from pydantic import Field

from .base import Identity, Reading
from .lasting import Car, ChargePoint, ChargeRun, LogPoint, Reserve, Stand, Waits, Withdrawal
from .measured import (
    Band,
    Cells,
    CellState,
    Clamped,
    ElectronicTester,
    RestVolts,
    Settled,
    TesterMessage,
    TypeSet,
)
from .pulled import AdjustableLoad, Crank, FixedLoad, Needle, ShownBand
from .seen import HAZARDS, CaseLeakage, Corrosion, Eye, Level, Look, Mark, Sign, Spot

AnyReading = Annotated[
    Look
    | CaseLeakage
    | RestVolts
    | ElectronicTester
    | Cells
    | AdjustableLoad
    | FixedLoad
    | Crank
    | Stand
    | Reserve
    | ChargeRun
    | Car
    | Withdrawal,
    Field(discriminator="kind"),
]
"""Any kind of reading, told apart by `kind`."""

READING_MODELS: tuple[type[Reading], ...] = get_args(get_args(AnyReading)[0])
"""Every kind, as `AnyReading` lists them."""

WITH_TEMPERATURE = frozenset(model for model in READING_MODELS if "temperature_c" in model.model_fields)
"""The kinds that may carry the battery's own temperature."""

__all__ = [
    "AdjustableLoad",
    "AnyReading",
    "Band",
    "Car",
    "CaseLeakage",
    "CellState",
    "Cells",
    "ChargePoint",
    "ChargeRun",
    "Clamped",
    "Corrosion",
    "Crank",
    "ElectronicTester",
    "Eye",
    "FixedLoad",
    "HAZARDS",
    "Identity",
    "Level",
    "LogPoint",
    "Look",
    "Mark",
    "Needle",
    "READING_MODELS",
    "Reading",
    "Reserve",
    "RestVolts",
    "Settled",
    "ShownBand",
    "Sign",
    "Spot",
    "Stand",
    "TesterMessage",
    "TypeSet",
    "WITH_TEMPERATURE",
    "Waits",
    "Withdrawal",
]
