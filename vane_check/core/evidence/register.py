"""Which module reads which kind of reading: the one place where a new kind is entered."""

from collections.abc import Callable
from typing import Any

from ..outcomes import Finding
from ..readings import (
    READING_MODELS,
    AdjustableLoad,
    AnyReading,
    Car,
    CaseLeakage,
    Cells,
    ChargeRun,
    Crank,
    ElectronicTester,
    FixedLoad,
    Look,
    Reserve,
    RestVolts,
    Stand,
    Withdrawal,
)
from . import (
    Case,
    car,
    case_leakage,
    cells,
    charging,
    cranking,
    electronic_tester,
    fixed_load,
    loads,
    look,
    obstacles,
    reserve,
    rest_volts,
    standing,
)


def find(reading: AnyReading, case: Case) -> Finding:
    """What one reading says in its case, as far as dirt and dryness let it. Raises ValueError for a withdrawal."""
    finder = FINDERS.get(type(reading))
    if finder is None:
        raise ValueError("a withdrawal is no evidence")
    return _overdue(obstacles.held_back(finder(reading, case), reading, case), reading)


def _overdue(found: Finding, reading: AnyReading) -> Finding:
    """A tool whose check had fallen due says so on what was read with it."""
    used = reading.tool
    if used is None or used.overdue_since is None:
        return found
    name = used.name or "its tool"
    return found.but(
        reading_text=f"{found.reading_text}, {name} overdue for its check",
        text=f"{found.text}. {name[:1].upper()}{name[1:]} was due for its check on {used.overdue_since:%d %b %Y}",
    )


FINDERS: dict[type, Callable[[Any, Case], Finding]] = {
    RestVolts: rest_volts.find,
    ElectronicTester: electronic_tester.find,
    Look: look.find,
    CaseLeakage: case_leakage.find,
    Cells: cells.find,
    AdjustableLoad: loads.adjustable,
    FixedLoad: fixed_load.find,
    Crank: cranking.find,
    ChargeRun: charging.charge_run,
    Stand: standing.stand,
    Reserve: reserve.find,
    Car: car.find,
}
assert FINDERS.keys() | {Withdrawal} == set(READING_MODELS), "a kind of reading that no module reads"
