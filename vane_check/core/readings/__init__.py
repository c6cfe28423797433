"""Readings: one file a method, with what is written down and how it is taken. Volts, amps and Celsius, unit in the field's name.

A reading that is kept never changes its shape: new kinds and fields only add.
"""

import sys
from typing import Annotated, get_args

from pydantic import Field

from ..findings.kinds import Kind, StepKey
from .adjustable_load import AdjustableLoad, Needle
from .base import Identity, Reading, Within
from .car import Car, Waits
from .case_leakage import CaseLeakage, Spot
from .cells import Band, Cells, CellState
from .charge_run import ChargePoint, ChargeRun
from .crank import Crank
from .electronic_tester import Clamped, ElectronicTester, TesterMessage, TypeSet
from .fixed_load import FixedLoad, ShownBand
from .look import Corrosion, Eye, Level, Look, Mark
from .method import Method, kinds_of
from .reserve import LogPoint, Reserve
from .rest_volts import RestVolts, Settled
from .signs import HAZARDS, Sign
from .stand import Stand
from .withdrawal import Withdrawal

AnyReading = Annotated[
    Look
    | CaseLeakage
    | RestVolts
    | Cells
    | ElectronicTester
    | AdjustableLoad
    | FixedLoad
    | Crank
    | ChargeRun
    | Stand
    | Reserve
    | Car
    | Withdrawal,
    Field(discriminator="kind"),
]
"""Any kind of reading, told apart by `kind`, in the order of work."""

READING_MODELS: tuple[type[Reading], ...] = get_args(get_args(AnyReading)[0])
"""Every kind, as `AnyReading` lists them."""


def _declared(model: type[Reading]) -> Method:
    """The method beside a reading. Raises ImportError where its file declares none."""
    method = getattr(sys.modules[model.__module__], "METHOD", None)
    if not isinstance(method, Method) or method.reading is not model:
        raise ImportError(f"{model.__name__}: its file declares no METHOD for it")
    return method


METHODS: tuple[Method, ...] = tuple(_declared(model) for model in READING_MODELS if model is not Withdrawal)
"""Every method, in the order of `AnyReading`. A withdrawal is none."""

METHOD_OF: dict[type[Reading], Method] = {method.reading: method for method in METHODS}
METHOD_OF_STEP: dict[StepKey, Method] = {
    key: method for method in METHODS for key in method.opened_by | method.counts_for
}
"""What a step brings in."""

HANDS_ON = kinds_of(method for method in METHODS if method.hands_on)
"""What puts hands, clamps or current on a battery: closed while it is unsafe."""

SPOILED_BY_WATER = kinds_of(method for method in METHODS if method.hands_on and method.dryness_spoils)
"""What is read of a battery: nothing of it holds once water went onto bare plates."""

STARTING = kinds_of(method for method in METHODS if method.starting)
"""Every starting test: on what works by reserve it raises a question, and a measured reserve answers it."""

QUICK_STARTING = kinds_of(method for method in METHODS if method.starting == "quick")
"""Quicker starting tests: a counted pull with the adjustable load settles what they leave open."""

LOADING = kinds_of(method for method in METHODS if method.loads)
"""What puts a load on: it takes surface charge, and fails a battery where that hid that it is flat."""

SHOWS_HEALTH = kinds_of(method for method in METHODS if method.starting or method.shows_health)
"""What can show that it does its work: nothing is sound without one of them. Charge, and keeping it, are not health."""

STEP_OF_KIND: dict[Kind, StepKey] = {method.kind: method.asked_by for method in METHODS if method.asked_by}
"""The step that asks for a kind of reading the house decides by."""

WITH_TEMPERATURE = frozenset(model for model in READING_MODELS if "temperature_c" in model.model_fields)
"""The kinds that may carry the battery's own temperature."""

__all__ = [
    "AdjustableLoad", "AnyReading", "Band", "Car", "CaseLeakage", "CellState", "Cells", "ChargePoint", "ChargeRun", "Clamped",
    "Corrosion", "Crank", "ElectronicTester", "Eye", "FixedLoad", "HANDS_ON", "HAZARDS", "Identity", "LOADING", "Level", "LogPoint",
    "Look", "METHODS", "METHOD_OF", "METHOD_OF_STEP", "Mark", "Method", "Needle", "QUICK_STARTING",
    "READING_MODELS", "Reading", "Reserve", "RestVolts", "SHOWS_HEALTH", "SPOILED_BY_WATER", "STARTING", "STEP_OF_KIND", "Settled",
    "ShownBand", "Sign", "Spot", "Stand", "TesterMessage", "TypeSet", "WITH_TEMPERATURE", "Waits", "Withdrawal", "Within",
]  # fmt: skip
