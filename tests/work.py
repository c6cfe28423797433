"""A worker: a process with its own PostgreSQL, server and browser, which does one job after another."""

import gc
import os
import subprocess
import sys
import time
import traceback
import unittest
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any

from tests.checks import CHECKS, ROOT
from tests.jobs import DOCTESTS, Job, Outcome, doctests

MOST_TEXT = 6000


class Noting(unittest.TestResult):
    """Notes each test with its seconds; whatever it printed goes with a failure."""

    def __init__(self) -> None:
        super().__init__()
        self.buffer = True
        self.notes: list[Outcome] = []
        self._began = time.monotonic()
        self._texts: list[str] = []
        self._skipped = False

    def startTest(self, test: unittest.TestCase) -> None:
        super().startTest(test)
        self._began, self._texts, self._skipped = time.monotonic(), [], False

    def stopTest(self, test: unittest.TestCase) -> None:
        super().stopTest(test)
        result = "failed" if self._texts else "skipped" if self._skipped else "passed"
        self.notes.append(Outcome(test.id(), result, time.monotonic() - self._began, "\n".join(self._texts)))

    def _fault(self, test: Any, error: Any) -> None:
        text = self._exc_info_to_string(error, test)[-MOST_TEXT:]  # type: ignore[attr-defined]
        if isinstance(test, unittest.TestCase):
            self._texts.append(text)
        else:  # setting up or tidying a class
            self.notes.append(Outcome(str(test), "failed", 0.0, text))

    def addError(self, test: Any, error: Any) -> None:
        self._fault(test, error)

    def addFailure(self, test: Any, error: Any) -> None:
        self._fault(test, error)

    def addSubTest(self, test: Any, subtest: Any, error: Any) -> None:
        if error is not None:
            self._texts.append(f"{subtest}\n{self._exc_info_to_string(error, test)[-MOST_TEXT:]}")  # type: ignore[attr-defined]

    def addUnexpectedSuccess(self, test: unittest.TestCase) -> None:
        self._texts.append("it passed and should not have")

    def addSkip(self, test: Any, reason: str) -> None:
        super().addSkip(test, reason)
        self._skipped = True


def run_tests(job: Job) -> list[Outcome]:
    """The tests of a class, with its setting up."""
    suite = doctests() if job.name == DOCTESTS else unittest.defaultTestLoader.loadTestsFromNames(job.tests)
    result = Noting()
    suite.run(result)
    return result.notes


def run_check(job: Job) -> list[Outcome]:
    """One check of the source."""
    began = time.monotonic()
    done = subprocess.run(CHECKS[job.name], cwd=ROOT, stdin=subprocess.DEVNULL, capture_output=True, text=True)
    text = "" if done.returncode == 0 else (done.stdout + done.stderr)[-MOST_TEXT:]
    return [Outcome(job.name, "failed" if done.returncode else "passed", time.monotonic() - began, text)]


def do(job: Job, folder: Path) -> list[Outcome]:
    """Whatever the job is; a fault of the worker itself is the job's failure."""
    try:
        if job.part == "checks":
            return run_check(job)
        if job.part == "prepare":
            from tests import house

            house.make_templates(folder.parent / "templates")
            return [Outcome(job.name, "passed", 0.0)]
        if job.part != "screens":
            let_browser_go()
        return run_tests(job)
    except BaseException:
        return [Outcome(job.name, "failed", 0.0, traceback.format_exc()[-MOST_TEXT:])]


def let_browser_go() -> None:
    """The browser's loop stands in the way of tests that have one of their own."""
    browser = sys.modules.get("tests.screens.browser")
    if browser is not None:
        browser.close_browser()


def work(line: Connection, folder: Path) -> None:
    """Do jobs until there are none. What is printed beside the tests goes to a file."""
    folder.mkdir(parents=True, exist_ok=True)
    folder.chmod(0o755)
    gc.set_threshold(50_000, 20, 20)  # most of what lives here is what was loaded: it is looked through less often
    os.environ |= {"VANE_TEMPLATES": str(folder.parent / "templates"), "VANE_WORKER": str(folder)}
    output = (folder / "output").open("w")
    os.dup2(output.fileno(), 1)
    os.dup2(output.fileno(), 2)
    while True:
        try:
            job = line.recv()
        except EOFError:
            break
        if job is None:
            break
        outcomes = do(job, folder)
        for outcome in outcomes:
            outcome.part = job.part
        line.send(outcomes)
    let_browser_go()
