"""The core's tests, the quickest to notice first, until one fails: `python -m tests.quickly`."""

import sys
import unittest
from pathlib import Path

from tests.jobs import doctests

FIRST = (
    "core.test_made_checks", "core.test_ends_of_fields", "core.test_edges", "core.test_worked_cases", "core.test_standing", "core.test_cells", "core.test_loads",
    "core.test_labels", "core.test_matching", "core.test_warranty", "core.test_compare", "core.test_judgement", "core.test_schools",
    "core.test_look_and_leakage", "core.test_charge_stand_car", "core.test_corrections_and_houses", "core.test_check_file",
    "outside.test_units", "outside.test_cells_and_acid", "outside.test_measurement", "outside.test_charge_table",
    "core.test_jobs", "core.test_overwhelming", "core.test_tools_in_full", "core.test_reserve_and_outlook", "core.test_ends",
    "core.test_safe_hands", "core.test_safety_words", "core.test_dangers", "core.test_ties", "core.test_whole",
)  # fmt: skip
"""What notices most; every other module of the core follows."""
LAST = ("core.test_simulation", "core.test_rules_as_delivered")
"""What takes longest."""
NOT_OF_THE_CORE = frozenset({"core.test_languages", "outside.test_licences", "outside.test_pins"})


def modules() -> list[str]:
    """All of them: a test that is added is among them by itself."""
    here = Path(__file__).parent
    there = {
        f"{path.parent.name}.{path.stem}" for part in ("core", "outside") for path in (here / part).glob("test_*.py")
    }
    return [*FIRST, *sorted(there - {*FIRST, *LAST} - NOT_OF_THE_CORE), *LAST]


def main() -> int:
    """0 when all pass."""
    for part in ("doctests", *modules()):
        suite = doctests() if part == "doctests" else unittest.defaultTestLoader.loadTestsFromName(f"tests.{part}")
        if not unittest.TextTestRunner(verbosity=0, failfast=True, buffer=True).run(suite).wasSuccessful():
            return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
