"""What a run is made of: a job is a class of tests, or one check; a worker does one at a time."""

import doctest
import importlib
import pkgutil
import unittest
from collections.abc import Iterator
from dataclasses import dataclass, field

import vane_check.core

PARTS = ("screens", "api", "records", "core", "outside")
"""In the order they are begun: the longest first, so that no worker is left alone with it at the end."""
EXPECTED_SECONDS = {"screens": 6.0, "api": 1.0, "records": 1.5, "core": 0.2, "outside": 0.5}
"""What a test of each part takes, roughly; only for the order of a first run."""
LONG_SECONDS = 20.0
QUICK_PARTS = {"core"}


@dataclass
class Job:
    """A class of tests of one part, or one check by its name."""

    part: str
    name: str
    tests: list[str] = field(default_factory=list)
    expected_seconds: float = 1.0

    @property
    def needs_shop(self) -> bool:
        """Whether it works on copies of the demo shop's database."""
        return self.part in ("screens", "api", "records")

    @property
    def order(self) -> int:
        """What is begun first stands highest: the browser's part, then whatever is long, then the rest."""
        return 3 if self.part == "screens" else 2 if self.expected_seconds >= LONG_SECONDS else 1


@dataclass
class Outcome:
    """What came of one test or check."""

    name: str
    result: str
    """passed, failed or skipped."""
    seconds: float
    text: str = ""
    part: str = ""

    @property
    def is_test(self) -> bool:
        """A check of the source is none."""
        return self.part in PARTS


def prepare_job() -> Job:
    """Makes the databases that all others are copied from."""
    return Job("prepare", "the shop's databases")


def doctests() -> unittest.TestSuite:
    """The worked examples in the core's docstrings."""
    suite = unittest.TestSuite()
    for module in pkgutil.walk_packages(vane_check.core.__path__, "vane_check.core."):
        suite.addTests(doctest.DocTestSuite(importlib.import_module(module.name)))
    return suite


def flat(suite: unittest.TestSuite) -> Iterator[unittest.TestCase]:
    """Every test of a suite."""
    for one in suite:
        if isinstance(one, unittest.TestSuite):
            yield from flat(one)
        else:
            yield one


DOCTESTS = "worked examples in the core's docstrings"


def jobs_of(parts: set[str], quick: bool = False, only: set[str] | None = None) -> list[Job]:
    """A job a class; of a quick run the core but for what is long, and elsewhere the classes that say so. `only` keeps these tests."""
    jobs: dict[str, Job] = {}
    for part in PARTS:
        if part not in parts:
            continue
        for test in flat(unittest.defaultTestLoader.discover(f"tests/{part}", pattern="test_*.py", top_level_dir=".")):
            kind = type(test)
            name = f"{kind.__module__}.{kind.__qualname__}"
            if not isinstance(test, unittest.TestCase) or kind.__module__.startswith("unittest"):
                name = test.id()  # a module that cannot be imported
            elif quick and not getattr(kind, "in_quick_run", part in QUICK_PARTS):
                continue
            if only is not None and test.id() not in only and name not in only:
                continue
            job = jobs.setdefault(name, Job(part, name, expected_seconds=0))
            job.tests.append(test.id())
            job.expected_seconds += EXPECTED_SECONDS[part]
            job.expected_seconds = max(job.expected_seconds, getattr(kind, "expected_seconds", 0.0))
    if "core" in parts and (only is None or DOCTESTS in only):
        jobs[DOCTESTS] = Job("core", DOCTESTS)
    return list(jobs.values())
