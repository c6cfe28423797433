"""Runs every test with unittest and closes with the line 'N passed, N failed'. Part names narrow it: `python -m tests.run core`."""

import argparse
import doctest
import importlib
import pkgutil
import sys
import time
import unittest

import vane_check.core

PARTS = ("core", "outside", "records", "api", "screens")


class Counting(unittest.TextTestResult):
    passed = 0

    def addSuccess(self, test: unittest.TestCase) -> None:
        super().addSuccess(test)
        self.passed += 1


def doctests() -> unittest.TestSuite:
    suite = unittest.TestSuite()
    for module in pkgutil.walk_packages(vane_check.core.__path__, "vane_check.core."):
        suite.addTests(doctest.DocTestSuite(importlib.import_module(module.name)))
    return suite


def main() -> int:
    parser = argparse.ArgumentParser()
    parser.add_argument("parts", nargs="*", default=PARTS)
    parser.add_argument("--steps-failed", type=int, default=0)
    asked = parser.parse_args()
    passed = skipped = 0
    failed = asked.steps_failed
    for part in asked.parts or PARTS:
        began = time.monotonic()
        suite = unittest.defaultTestLoader.discover(f"tests/{part}", pattern="test_*.py", top_level_dir=".")
        if part == "core":
            suite.addTests(doctests())
        result = unittest.TextTestRunner(resultclass=Counting, verbosity=0, stream=sys.stdout).run(suite)
        passed += result.passed  # type: ignore[attr-defined]
        failed += len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
        skipped += len(result.skipped)
        print(f"{part}: {result.testsRun} tests in {time.monotonic() - began:.1f} s", flush=True)
    print(f"{passed} passed, {failed} failed" + (f", {skipped} skipped" if skipped else ""))
    return 1 if failed or not passed else 0


if __name__ == "__main__":
    sys.exit(main())
