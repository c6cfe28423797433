"""How many small faults the tests notice: one at a time is put into the core, and the core's tests run until one fails.

`python -m bench.mutation [--sample N] [--seed N] [--jobs N] [--only PART]` prints the share killed and every survivor. The faults are
cosmic-ray's (comparisons, arithmetic, and/or, numbers, loops, decorators); where one place can go wrong in many ways of the
same kind, one of them is tried. `|` is left out: in types it fails at once and would flatter the figure.
"""

import argparse
import random
import shutil
import subprocess
import sys
import tempfile
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from queue import Queue
from typing import Any, NamedTuple

ROOT = Path(__file__).parents[1]
CORE = Path("vane_check") / "core"
SEED = 20261125
PATIENCE = 3
"""A fault that makes the tests run so many times longer than without one is noticed too."""
ACCEPTED = Path(__file__).with_name("mutation-accepted.txt")
"""Survivors that change nothing anybody could see, each with its reason."""


class Fault(NamedTuple):
    """A fault: where, of which kind, and the source with it."""

    path: Path
    kind: str
    line: int
    was: str
    source: str

    @property
    def name(self) -> str:
        """How it is written in the list of survivors."""
        return f"{self.path.relative_to(CORE)}:{self.was.strip()[:90]} [{self.kind}]"


def faults(chance: random.Random, only: str, sample: int) -> tuple[int, list[Fault]]:
    """How many places the core has, a place and kind of fault counted once, and a sample of them in a random order."""
    from cosmic_ray.commands.init import _all_work_items

    paths = [
        path.relative_to(ROOT)
        for path in sorted((ROOT / CORE).rglob("*.py"))
        if path.name != "__init__.py" or path.stat().st_size > 400
    ]
    by_place: dict[tuple[Any, ...], list[Any]] = {}
    for item in _all_work_items([path for path in paths if only in str(path)], {}):
        (mutation,) = item.mutations
        kind = mutation.operator_name.removeprefix("core/")
        if "BitOr" in kind.split("_")[1:2]:
            continue
        by_place.setdefault((mutation.module_path, mutation.start_pos, kind.split("_")[0]), []).append(mutation)
    picked = [chance.choice(same) for _, same in sorted(by_place.items(), key=lambda each: str(each[0]))]
    chance.shuffle(picked)
    return len(picked), [_made(mutation) for mutation in picked[:sample]]


def _made(mutation: Any) -> Fault:
    from cosmic_ray.mutating import mutate_code
    from cosmic_ray.plugins import get_operator

    path = Path(mutation.module_path)
    source = (ROOT / path).read_text()
    operator = get_operator(mutation.operator_name)(**(mutation.operator_args or {}))
    mutated = mutate_code(source, operator, mutation.occurrence)
    line = int(mutation.start_pos[0])
    return Fault(
        path, mutation.operator_name.removeprefix("core/"), line, source.splitlines()[line - 1], mutated or source
    )


def passes(tree: Path, seconds: float | None = None) -> bool:
    """Whether the tests pass in a copy of the project."""
    done = subprocess.run(
        [sys.executable, "-X", "faulthandler", "-m", "tests.quickly"],
        cwd=tree, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, timeout=seconds,
    )  # fmt: skip
    return done.returncode == 0


def survives(fault: Fault, tree: Path, seconds: float) -> bool:
    """Whether the tests pass, in so many seconds, with the fault in a copy of the project."""
    target = tree / fault.path
    before = target.read_text()
    target.write_text(fault.source)
    try:
        return passes(tree, seconds)
    except subprocess.TimeoutExpired:
        return False
    finally:
        target.write_text(before)


def main() -> int:
    """Run a sample and print what came of it. Returns 1 under the share that is asked."""
    parser = argparse.ArgumentParser(prog="bench.mutation")
    parser.add_argument("--sample", type=int, default=400)
    parser.add_argument("--jobs", type=int, default=2)
    parser.add_argument("--only", default="", help="modules whose path holds this")
    parser.add_argument("--asked", type=float, default=0.85)
    parser.add_argument("--seed", type=int, default=SEED, help="another sample")
    asked = parser.parse_args()
    places, picked = faults(random.Random(asked.seed), asked.only, asked.sample)
    accepted = (
        {line.split(" # ")[0].strip() for line in ACCEPTED.read_text().splitlines() if " # " in line}
        if ACCEPTED.exists()
        else set()
    )
    print(f"{places} places, {len(picked)} tried", flush=True)
    began, survivors, killed, same = time.monotonic(), [], 0, 0
    with tempfile.TemporaryDirectory() as folder:
        trees: Queue[Path] = Queue()
        for number in range(asked.jobs):
            tree = Path(folder) / str(number)
            for part in (
                "vane_check",
                "tests",
                "docs",
                "front/openapi.json",
                "front/src",
                "front/package.json",
                "bench",
                "bin",
                "pyproject.toml",
            ):
                source = ROOT / part
                (tree / part).parent.mkdir(parents=True, exist_ok=True)
                shutil.copytree(source, tree / part) if source.is_dir() else shutil.copy(source, tree / part)
            (tree / "front" / "node_modules").symlink_to(
                ROOT / "front" / "node_modules"
            )  # the languages are tried in Node
            trees.put(tree)
        assert passes(tree), "the tests fail without any fault"
        patience = PATIENCE * (time.monotonic() - began)

        def one(fault: Fault) -> tuple[Fault, bool]:
            tree = trees.get()
            try:
                return fault, survives(fault, tree, patience)
            finally:
                trees.put(tree)

        with ThreadPoolExecutor(asked.jobs) as pool:
            for fault, lived in pool.map(one, picked):
                if not lived:
                    killed += 1
                elif fault.name in accepted:
                    same += 1
                else:
                    survivors.append(fault)
                    print(f"SURVIVED {fault.line} {fault.name}", flush=True)
    tried = killed + len(survivors)
    share = killed / tried if tried else 1.0
    print(f"{killed} of {tried} killed, {share:.1%} ({same} more change nothing), in {time.monotonic() - began:.0f} s")
    return 0 if share >= asked.asked else 1


if __name__ == "__main__":
    sys.exit(main())
