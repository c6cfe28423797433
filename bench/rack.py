"""The rack's plan against first come first served, earliest promise first, and an exact solver, on seeded days.

python -m bench.rack                 the tables of docs/rack.md (with --solver also the exact one: requirements/bench.lock)
"""

import argparse
import random
import statistics
import time
from collections.abc import Callable, Sequence
from typing import Any, NamedTuple

from vane_check.core.charging.rack.board import Board
from vane_check.core.charging.rack.parts import TICK_MINUTES, ChargeJob, Cost, Lane, Placed, Rack, Unplaced
from vane_check.core.charging.rack.schedule import by_promise, cost_of, planned
from vane_check.core.words import NOTHING

HOUR = 60 // TICK_MINUTES
DAY = 24 * HOUR


class Size(NamedTuple):
    """How large a day is."""

    name: str
    chargers: int
    batteries: int
    hands: int


SIZES = (Size("a small shop", 4, 14, 1), Size("a busy shop", 8, 32, 2), Size("the largest asked for", 12, 60, 2))


def day(seed: int, size: Size) -> tuple[Rack, list[ChargeJob]]:
    """A day from nine on: open until half past five, and from half past eight the days after."""
    chance = random.Random(seed * 1000 + size.batteries)
    amps = {number: chance.choice((4, 6, 10, 10, 15, 25)) for number in range(size.chargers)}
    lanes = tuple(Lane(number, 1, chance.random() < 0.8) for number in sorted(amps, key=lambda number: amps[number]))
    closed = bytearray(4 * DAY)
    for tick in range(len(closed)):
        clock = (9 * HOUR + tick) % DAY
        closed[tick] = not 8.5 * HOUR <= clock < 17.5 * HOUR
    jobs = []
    for tag in range(size.batteries):
        ah, missing = chance.uniform(40, 110), chance.uniform(0.15, 0.95)
        charge = {
            number: max(round((ah * missing * 1.2 / min(rated, ah / 4) + 2) * HOUR), 1)
            for number, rated in amps.items()
            if chance.random() < 0.85
        }
        promised, weight = None, chance.choice((1.0, 1.0, 1.0, 2.0, 0.25))
        if chance.random() < 0.45:
            promised, weight = chance.choice((8, 25, 28, 32, 49, 52)) * HOUR, chance.choice((4.0, 4.0, 8.0))
        release = 0 if chance.random() < 0.7 else chance.randrange(0, 6 * HOUR)
        jobs.append(ChargeJob(tag, charge, 3, weight, promised, release))
    return Rack(lanes, bytes(closed), size.hands, 1, 3, 2 * DAY, 6.0), jobs


class Result(NamedTuple):
    """What a plan came to."""

    late: int
    late_hours: float
    unplaced: int
    idle_hours: float
    at_night: int
    cost: Cost


def measured(
    rack: Rack, jobs: Sequence[ChargeJob], placed: Sequence[Placed], unplaced: Sequence[Unplaced], really: Rack
) -> Result:
    """Promises broken, chargers idle in the first day while batteries wait, touches while nobody is in."""
    known = {job.tag: job for job in jobs}
    behind = [one for one in placed if one.late]
    lost = [none for none in unplaced if known[none.tag].promised is not None]
    waits_until = max((one.on for one in placed), default=0) if not unplaced else DAY
    busy = sum(max(min(one.ends, DAY) - min(one.starts, DAY), 0) for one in placed)
    idle = min(waits_until, DAY) * len(rack.lanes) - sum(
        max(min(one.ends, min(waits_until, DAY)) - min(one.starts, min(waits_until, DAY)), 0) for one in placed
    )
    touches = [tick for one in placed for tick in (one.on, one.off, one.ready - rack.test)]
    night = sum(tick < len(really.closed) and bool(really.closed[tick]) for tick in touches)
    assert busy >= 0
    return Result(
        len(behind) + len(lost), sum(one.late for one in behind) / HOUR, len(unplaced), idle / HOUR, night,
        cost_of(placed, unplaced, known, really, {}),
    )  # fmt: skip


def in_turn(rack: Rack, order: Sequence[ChargeJob]) -> tuple[list[Placed], list[Unplaced]]:
    """Each in turn on the charger that is free first: what people do with a list."""
    board, placed, unplaced = Board(rack), [], []
    for job in order:
        found = [
            one
            for lane in rack.lanes
            if lane.charger in job.charge and (one := board.place(job, lane, job.charge[lane.charger], job.release))
        ]
        if not found:
            unplaced.append(Unplaced(job.tag, NOTHING))
            continue
        best = min(found, key=lambda one: (one.on, one.ends))
        board.keep(best)
        placed.append(best)
    return placed, unplaced


def first_come(rack: Rack, jobs: Sequence[ChargeJob]) -> Result:
    """First come first served, and taken off when it is done, whoever must come in for it."""
    always = rack._replace(
        closed=bytes(len(rack.closed)), lanes=tuple(lane._replace(night=True) for lane in rack.lanes)
    )
    placed, unplaced = in_turn(always, sorted(jobs, key=lambda job: (job.release, job.tag)))
    return measured(always, jobs, placed, unplaced, rack)


def first_come_by_day(rack: Rack, jobs: Sequence[ChargeJob]) -> Result:
    """First come first served within opening hours."""
    placed, unplaced = in_turn(rack, sorted(jobs, key=lambda job: (job.release, job.tag)))
    return measured(rack, jobs, placed, unplaced, rack)


def earliest_promise(rack: Rack, jobs: Sequence[ChargeJob]) -> Result:
    """Earliest promise first within opening hours."""
    placed, unplaced = in_turn(rack, sorted(jobs, key=by_promise))
    return measured(rack, jobs, placed, unplaced, rack)


def ours(rack: Rack, jobs: Sequence[ChargeJob]) -> Result:
    """The product's own plan."""
    placed, unplaced, _ = planned(rack, jobs)
    return measured(rack, jobs, placed, unplaced, rack)


def exact(rack: Rack, jobs: Sequence[ChargeJob], seconds: float) -> tuple[Cost, bool]:
    """OR-Tools CP-SAT on the same rack: the fewest broken promises, then the least lateness, then the least waiting."""
    from ortools.sat.python import cp_model  # type: ignore[import-not-found,unused-ignore]

    model, end = cp_model.CpModel(), len(rack.closed)
    touches: list[Any] = []
    lanes: dict[Lane, list[Any]] = {lane: [] for lane in rack.lanes}
    spans = _spans(rack.closed)
    terms: dict[str, list[Any]] = {"broken": [], "late": [], "waiting": []}
    for job in jobs:
        on, off, test = (model.new_int_var(0, end, name) for name in ("on", "off", "test"))
        ready, here = model.new_int_var(0, end, "ready"), []
        for lane in rack.lanes:
            if lane.charger not in job.charge:
                continue
            there, long = model.new_bool_var("there"), model.new_int_var(0, end, "long")
            here.append(there)
            lanes[lane].append(model.new_optional_interval_var(on, long, off + rack.connect, there, "stay"))
            model.add(off >= on + rack.connect + job.charge[lane.charger]).only_enforce_if(there)
            if not lane.night:
                days = [model.new_bool_var("day") for _ in spans]
                model.add(sum(days) == 1).only_enforce_if(there)
                for picked, (opens, closes) in zip(days, spans, strict=True):
                    model.add(on >= opens).only_enforce_if(picked, there)
                    model.add(off + rack.connect <= closes).only_enforce_if(picked, there)
        placed = model.new_bool_var("placed")
        model.add(sum(here) == placed)
        model.add(on >= job.release)
        model.add(on < rack.days_ticks).only_enforce_if(placed)
        model.add(test >= off + rack.connect + job.rest)
        model.add(ready == test + rack.test).only_enforce_if(placed)
        model.add(ready == end).only_enforce_if(~placed)
        for start, ticks in ((on, rack.connect), (off, rack.connect), (test, rack.test)):
            touches.append(model.new_optional_fixed_size_interval_var(start, ticks, placed, "touch"))
        weight = round(job.weight * 4)
        terms["waiting"].append(weight * ready)
        if job.promised is not None:
            late, is_late = model.new_int_var(0, end, "late"), model.new_bool_var("is late")
            model.add(late >= ready - job.promised)
            model.add(late == 0).only_enforce_if(~is_late)
            terms["broken"].append(weight * is_late)
            terms["late"].append(weight * late)
    shut = [
        model.new_fixed_size_interval_var(start, stop - start, "closed")
        for start, stop in _spans(bytes(not one for one in rack.closed))
    ]
    model.add_cumulative([*touches, *shut], [1] * len(touches) + [rack.hands] * len(shut), rack.hands)
    for stays in lanes.values():
        model.add_no_overlap(stays)
    solver, proved, found = cp_model.CpSolver(), True, {}
    solver.parameters.max_time_in_seconds, solver.parameters.num_workers = seconds, 2
    for name, parts in terms.items():
        model.minimize(sum(parts) if parts else 0)
        status = solver.solve(model)
        if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            return Cost(float("inf"), float("inf"), float("inf")), False
        proved &= status == cp_model.OPTIMAL
        found[name] = solver.value(sum(parts)) if parts else 0
        if parts:
            model.add(sum(parts) <= found[name])
        model.clear_hints()
    return Cost(found["broken"] / 4, found["late"] / 4, found["waiting"] / 4), proved


def _spans(closed: bytes) -> list[tuple[int, int]]:
    """Stretches of ticks that are open."""
    spans, start = [], None
    for tick, is_closed in enumerate([*closed, 1]):
        if not is_closed and start is None:
            start = tick
        elif is_closed and start is not None:
            spans.append((start, tick))
            start = None
    return spans


WAYS: tuple[tuple[str, Callable[[Rack, Sequence[ChargeJob]], Result]], ...] = (
    ("first come first served, off when done", first_come),
    ("first come first served, by day", first_come_by_day),
    ("earliest promise first", earliest_promise),
    ("Vane Check", ours),
)


def main() -> None:
    """Print the tables."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--days", type=int, default=20)
    parser.add_argument(
        "--solver", type=float, default=0, help="seconds the exact solver may take for each of its three goals"
    )
    asked = parser.parse_args()
    for size in SIZES:
        days = [day(seed, size) for seed in range(asked.days)]
        promises = statistics.mean(sum(job.promised is not None for job in jobs) for _, jobs in days)
        print(
            f"\n{size.name}: {size.chargers} chargers, {size.batteries} batteries, {size.hands} hands, {promises:.1f} promises a day\n"
        )
        print("| | late promises | hours late | find no room in two days | idle charger hours | touches at night |")
        print("|---|---|---|---|---|---|")
        kept: list[Result] = []
        for name, way in WAYS:
            kept = [way(rack, jobs) for rack, jobs in days]
            print(
                f"| {name} | "
                + " | ".join(f"{statistics.mean(column):.1f}" for column in list(zip(*kept, strict=True))[:5])
                + " |"
            )
        times = []
        for rack, jobs in days:
            before, *_ = planned(rack, jobs)
            began = time.perf_counter()
            planned(rack, [job._replace(promised=None) if job.tag == 0 else job for job in jobs], before)
            times.append((time.perf_counter() - began) * 1000)
        times.sort()
        print(
            f"\nreplanned in {statistics.median(times):.0f} ms median, {times[int(len(times) * 0.95) - 1]:.0f} ms p95"
        )
        if asked.solver:
            against = [exact(rack, jobs, asked.solver) for rack, jobs in days[:10]]
            mine = [one.cost for one in kept[:10]]
            proved = sum(done for _, done in against)
            print(f"exact solver, {asked.solver:g} s a goal, {proved} of {len(against)} days proved best: broken by weight {statistics.mean(one.broken for one, _ in against):.2f} (ours {statistics.mean(one.broken for one in mine):.2f}), late {statistics.mean(one.late for one, _ in against):.0f} ({statistics.mean(one.late for one in mine):.0f}), waiting {statistics.mean(one.waiting for one, _ in against):.0f} ({statistics.mean(one.waiting for one in mine):.0f})")  # fmt: skip


if __name__ == "__main__":
    main()
