"""Which module reads which kind of reading: the one place where a new kind is entered; mypy names it when it is forgotten."""

from typing import assert_never

from ..outcomes import Finding
from ..readings import (
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
    loads,
    look,
    obstacles,
    reserve,
    rest_volts,
    standing,
)


def find(reading: AnyReading, case: Case) -> Finding:
    """What one reading says in its case, as far as dirt and dryness let it. Raises ValueError for a withdrawal."""
    return obstacles.held_back(_found(reading, case), reading, case)


def _found(reading: AnyReading, case: Case) -> Finding:
    match reading:
        case RestVolts():
            return rest_volts.find(reading, case)
        case ElectronicTester():
            return electronic_tester.find(reading, case)
        case Look():
            return look.find(reading, case)
        case CaseLeakage():
            return case_leakage.find(reading, case)
        case Cells():
            return cells.find(reading, case)
        case AdjustableLoad():
            return loads.adjustable(reading, case)
        case FixedLoad():
            return loads.fixed(reading, case)
        case Crank():
            return cranking.find(reading, case)
        case ChargeRun():
            return charging.charge_run(reading, case)
        case Stand():
            return standing.stand(reading, case)
        case Reserve():
            return reserve.find(reading, case)
        case Car():
            return car.find(reading, case)
        case Withdrawal():
            raise ValueError("a withdrawal is no evidence")
        case _:
            assert_never(reading)
