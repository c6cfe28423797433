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
    RestVolts,
    Stand,
    Withdrawal,
)
from . import Case, car, case_leakage, cells, charging, electronic_tester, loads, look, rest_volts


def find(reading: AnyReading, case: Case) -> Finding:
    """What one reading says in its case. Raises ValueError for a withdrawal, which is no evidence."""
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
            return loads.crank(reading, case)
        case ChargeRun():
            return charging.charge_run(reading, case)
        case Stand():
            return charging.stand(reading, case)
        case Car():
            return car.find(reading, case)
        case Withdrawal():
            raise ValueError("a withdrawal is no evidence")
        case _:
            assert_never(reading)
