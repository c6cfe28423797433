"""Runs the checks and every test side by side, a worker a core and one more, and closes with the line 'N passed, N failed'.

bin/test                 everything
bin/test quick           format, lint, types, layers, the core, a handful of journeys
bin/test core api        these parts; `checks` is a part too
bin/test tests.screens.test_rungs        these modules or classes
bin/test --failed        what failed in the run before
"""

import argparse
import json
import os
import shutil
import sys
import tempfile
import time
from collections import defaultdict, deque
from multiprocessing import connection, get_context
from pathlib import Path

from tests.checks import CHECKS
from tests.jobs import PARTS, Job, Outcome, jobs_of, prepare_job
from tests.work import work
from vane_check.start.cluster import Cluster

ROOT = Path(__file__).parents[1]
LAST_RUN = ROOT / ".vane" / "last-run.json"
"""How long each job took and what failed: the next run begins with the longest."""
SLOWEST = 10
LOST_AFTER_SECONDS = float(os.environ.get("VANE_JOB_SECONDS", 1800))
"""A job that takes longer hangs: its worker is ended, the job has failed, and the run goes on."""


class Run:
    """The jobs of one run, who does what, and what came of it."""

    def __init__(self, jobs: list[Job], folder: Path, seconds_before: dict[str, float]) -> None:
        for job in jobs:
            job.expected_seconds = seconds_before.get(job.name, job.expected_seconds)
        needs_shop = any(job.needs_shop for job in jobs)
        ready = sorted(jobs, key=lambda job: (-job.order, -job.expected_seconds))
        self.waiting = deque([prepare_job(), *ready] if needs_shop else ready)
        self.prepared = not needs_shop
        self.folder = folder
        self.outcomes: list[Outcome] = []
        self.job_seconds: dict[str, float] = {}
        self.part_seconds: dict[str, float] = defaultdict(float)
        self.failures = 0

    def next_job(self) -> Job | None:
        """What is begun next: the shop's databases first, then what may begin without them until they are made."""
        for job in self.waiting:
            if self.prepared or not job.needs_shop:
                self.waiting.remove(job)
                return job
        return None

    def end(self, job: Job, outcomes: list[Outcome], seconds: float) -> None:
        """Note what came of a job; failures are said at once."""
        self.job_seconds[job.name] = seconds
        self.part_seconds[job.part] += seconds
        self.outcomes += outcomes
        for outcome in outcomes:
            if outcome.result == "failed":
                self.failures += 1
                print(f"FAILED  {outcome.name} ({outcome.seconds:.1f} s)\n{outcome.text}", flush=True)
        if job.part == "checks":
            print(
                f"{'ok     ' if outcomes[0].result == 'passed' else 'FAILED '} {job.name} in {seconds:.1f} s",
                flush=True,
            )
        elif job.part in PARTS and not any(outcome.result == "failed" for outcome in outcomes):
            print(f"ok      {job.name}: {len(outcomes)} in {seconds:.1f} s", flush=True)
        if job.part == "prepare":
            self.prepared = True
            if any(outcome.result == "failed" for outcome in outcomes):
                self.waiting = deque(one for one in self.waiting if not one.needs_shop)

    def play(self, workers: int) -> None:
        """Hand out every job and wait for all of them."""
        hands = [Hand(self.folder, number) for number in range(workers)]
        try:
            while True:
                for hand in hands:
                    if hand.job is None and (job := self.next_job()) is not None:
                        hand.begin(job)
                busy = [hand for hand in hands if hand.job is not None]
                if not busy:
                    return
                connection.wait([hand.line for hand in busy], timeout=1)
                for hand in busy:
                    ended = hand.answer()
                    if ended is not None:
                        self.end(*ended)
        finally:
            for hand in hands:
                hand.leave()


class Hand:
    """One worker process as the run sees it; one that dies or hangs is replaced."""

    def __init__(self, folder: Path, number: int) -> None:
        self.folder = folder / f"worker-{number}"
        self.job: Job | None = None
        self.began = 0.0
        self._start()

    def _start(self) -> None:
        context = get_context("spawn")
        self.line, theirs = context.Pipe()
        self.process = context.Process(target=work, args=(theirs, self.folder), daemon=False)
        self.process.start()
        theirs.close()

    def begin(self, job: Job) -> None:
        """Give it a job."""
        self.job, self.began = job, time.monotonic()
        self.line.send(job)

    def answer(self) -> tuple[Job, list[Outcome], float] | None:
        """What came of its job, if it has ended one way or another."""
        job, took = self.job, time.monotonic() - self.began
        assert job is not None
        reason = ""
        try:
            if self.line.poll():
                self.job = None
                return job, self.line.recv(), took
            if not self.process.is_alive():
                reason = "its worker died"
        except (EOFError, ConnectionError):
            reason = "its worker died"
        if took > LOST_AFTER_SECONDS:
            reason = f"it was not over after {LOST_AFTER_SECONDS:.0f} s"
        if not reason:
            return None
        self.process.kill()
        self.process.join()
        self.job = None
        log = self.folder / "output"
        tail = log.read_text(errors="replace")[-3000:] if log.exists() else ""
        self._start()
        return job, [Outcome(job.name, "failed", took, f"{reason}\n{tail}")], took

    def leave(self) -> None:
        """Let it go home."""
        try:
            self.line.send(None)
        except (OSError, ValueError):
            return
        self.process.join(30)
        if self.process.is_alive():
            self.process.kill()
        Cluster(self.folder / "postgres").stop()  # where it died before it could


def last_run() -> dict[str, dict[str, float] | list[str]]:
    """What is known of the run before."""
    try:
        found: dict[str, dict[str, float] | list[str]] = json.loads(LAST_RUN.read_text())
    except (OSError, ValueError):
        return {}
    return found


def report(run: Run, seconds: float, worked: float, stolen: float) -> None:
    """The closing lines: seconds a part, the slowest, the count."""
    tests = [outcome for outcome in run.outcomes if outcome.is_test]
    print()
    for part in ("prepare", "checks", *PARTS):
        if part in run.part_seconds:
            count = sum(outcome.part == part for outcome in tests)
            told = f"{count} tests, " if part in PARTS else ""
            print(f"{part}: {told}{run.part_seconds[part]:.0f} s of one worker")
    print(f"the {SLOWEST} slowest:")
    for outcome in sorted(tests, key=lambda one: -one.seconds)[:SLOWEST]:
        print(f"  {outcome.seconds:6.1f} s  {outcome.name}")
    passed = sum(outcome.result == "passed" for outcome in tests)
    skipped = sum(outcome.result == "skipped" for outcome in tests)
    print(
        f"all of it in {seconds:.0f} s; processors worked {worked:.0f} s, and other machines had them for {stolen:.0f} s"
    )
    print(f"{passed} passed, {run.failures} failed" + (f", {skipped} skipped" if skipped else ""))


def processor_seconds() -> tuple[float, float]:
    """What all processors of this machine worked since it began, and what they were kept from by others beside it [s]."""
    figures = [int(one) for one in Path("/proc/stat").read_text().split("\n", 1)[0].split()[1:]]
    ticks = os.sysconf("SC_CLK_TCK")
    return (sum(figures[:3]) + sum(figures[5:7])) / ticks, figures[7] / ticks


def main() -> int:
    """0 when everything asked for ran and passed."""
    parser = argparse.ArgumentParser(prog="bin/test")
    parser.add_argument("parts", nargs="*", metavar="PART", help=f"quick, checks, {', '.join(PARTS)}")
    parser.add_argument("--failed", action="store_true", help="what failed in the run before")
    many = (os.cpu_count() or 1) + 1  # one waits for its page or its clock while the others work
    parser.add_argument("--workers", type=int, default=int(os.environ.get("VANE_WORKERS", many)))
    asked = parser.parse_args()
    named = {one for one in asked.parts if one.startswith("tests.")}
    unknown = set(asked.parts) - {"quick", "checks", *PARTS} - named
    if unknown:
        parser.error(f"there is no part {', '.join(sorted(unknown))}: {', '.join(('quick', 'checks', *PARTS))}")
    before = last_run()
    quick = "quick" in asked.parts
    wanted = {"checks", *PARTS} if not asked.parts or quick else set(asked.parts)
    only = set(before.get("failed", ())) if asked.failed else None
    began, worked = time.monotonic(), processor_seconds()
    if named:
        wanted |= {name.split(".")[1] for name in named}
    jobs = jobs_of(wanted, quick=quick, only=only)
    if named:
        whole = set(asked.parts)
        jobs = [
            one for one in jobs if one.part in whole or any(f"{one.name}.".startswith(f"{name}.") for name in named)
        ]
    if "checks" in wanted:
        jobs += [Job("checks", name, [], 20.0) for name in CHECKS if only is None or name in only]
    if not jobs:
        print("Nothing to run: nothing failed in the run before." if asked.failed else "There is no such test.")
        return 0 if asked.failed else 1
    seconds = before.get("seconds", {})
    assert isinstance(seconds, dict)
    folder = Path(tempfile.mkdtemp(prefix="vane-tests-", dir="/var/lib" if os.geteuid() == 0 else None))
    folder.chmod(0o755)
    try:
        run = Run(jobs, folder, seconds)
        run.play(max(1, asked.workers))
    finally:
        shutil.rmtree(folder, ignore_errors=True)
    report(run, time.monotonic() - began, *(now - then for now, then in zip(processor_seconds(), worked, strict=True)))
    LAST_RUN.parent.mkdir(exist_ok=True)
    failed = [outcome.name for outcome in run.outcomes if outcome.result == "failed"]
    LAST_RUN.write_text(json.dumps({"seconds": {**seconds, **run.job_seconds}, "failed": failed}))
    return 1 if run.failures or not any(outcome.result == "passed" for outcome in run.outcomes) else 0


if __name__ == "__main__":
    sys.exit(main())
