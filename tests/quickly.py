"""The core's tests, the quickest to notice first, until one fails: `python -m tests.quickly`."""

import sys
import unittest

from tests.jobs import doctests

FIRST = (
    "core.test_made_checks", "core.test_ends_of_fields", "core.test_edges", "core.test_worked_cases", "core.test_standing", "core.test_cells", "core.test_loads",
    "core.test_labels", "core.test_matching", "core.test_warranty", "core.test_compare", "core.test_judgement", "core.test_schools",
    "core.test_look_and_leakage", "core.test_charge_stand_car", "core.test_corrections_and_houses", "core.test_check_file", "core.test_simulation",
    "outside.test_units", "outside.test_cells_and_acid", "outside.test_measurement", "outside.test_charge_table",
    "core.test_jobs", "core.test_overwhelming", "core.test_tools_in_full", "core.test_reserve_and_outlook", "core.test_ends",
    "core.test_safe_hands", "core.test_safety_words", "core.test_dangers", "core.test_ties", "core.test_whole", "core.test_rules_as_delivered",
)  # fmt: skip


def main() -> int:
    """0 when all pass."""
    for part in ("doctests", *FIRST):
        suite = doctests() if part == "doctests" else unittest.defaultTestLoader.loadTestsFromName(f"tests.{part}")
        if not unittest.TextTestRunner(verbosity=0, failfast=True, buffer=True).run(suite).wasSuccessful():
            return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
