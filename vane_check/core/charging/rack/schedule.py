"""The schedule: jobs set one after another where they are ready soonest, in an order that is bettered by trying.

A hand is needed to clamp a battery on, to take it off, and to test it once it has rested; hands are there while the shop is
open. A charger that does not limit itself runs only under somebody's eye. What has begun and what is pinned stays. Compared
with an exact solver in bench/rack (docs/rack.md).
"""

import random
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ...words import NOTHING, Words, say
from .board import Board
from .parts import ChargeJob, Cost, Lane, Placed, Rack, Unplaced

PLACINGS = 43_000
"""So many places are tried in all, however large the rack: what a second holds at twelve chargers and sixty batteries."""
FRUITLESS = 150
"""Orders tried in a row without a better one, after which none is expected."""


def _place_running(board: Board, job: ChargeJob) -> Placed | None:
    assert job.begun is not None
    rack, lane = board.rack, job.begun.lane
    ends = max(job.begun.ends if lane.night else _by_day(rack.closed, job.begun.ends), 0)
    off = board.hand(ends, rack.connect)
    if off is None:
        return None
    rested = off + rack.connect + job.rest
    test = board.hand(rested, rack.test)
    if test is None:
        return None
    return Placed(
        job.tag,
        lane,
        0,
        0,
        ends,
        off,
        rested,
        test + rack.test,
        job.promised,
        job.pin is not None,
        True,
    )


def _by_day(closed: bytes, ticks: int) -> int:
    """When a charge is done that is switched off while nobody is in and goes on in the morning."""
    for tick, is_closed in enumerate(closed):
        if ticks <= 0:
            return tick
        ticks -= not is_closed
    return len(closed)


def _fixed(board: Board, jobs: Sequence[ChargeJob]) -> tuple[list[Placed], list[ChargeJob], list[Unplaced]]:
    """What has begun, what only rests and what is pinned, in that order; and the jobs that are still free."""
    placed, free, not_placed = [], [], []
    for job in sorted((job for job in jobs if job.begun), key=lambda job: (job.begun and job.begun.ends, job.tag)):
        place = _place_running(board, job)
        if place is None:
            not_placed.append(Unplaced(job.tag, say("schedule.it_cannot_be_taken_off_in_the_days_planned")))
            continue
        board.keep(place)
        placed.append(place)
    for job in sorted(
        (job for job in jobs if job.pin and not job.begun), key=lambda job: ((job.pin and job.pin.start) or 0, job.tag)
    ):
        assert job.pin is not None
        ticks = job.charge.get(job.pin.lane.charger)
        place = None
        if ticks is not None and job.pin.lane in board.taken:
            place = board.place(job, job.pin.lane, ticks, max(job.release, job.pin.start or 0))
        if place is None:
            free.append(job._replace(pin=None))
            continue
        place = place._replace(pinned=True)
        board.keep(place)
        placed.append(place)
    return placed, [*free, *(job for job in jobs if not job.begun and not job.pin)], not_placed


def _soonest(board: Board, job: ChargeJob, before: Mapping[int, Lane]) -> Placed | None:
    """Where a job is ready soonest as the board stands; the lane it had before is worth a wait."""
    rack = board.rack
    best: Placed | None = None
    best_key = (0.0, 0, 0)
    seen: set[tuple[int, bool, tuple[tuple[int, int], ...]]] = set()
    around = 2 * rack.connect + job.rest + rack.test
    for lane in rack.lanes:
        ticks = job.charge.get(lane.charger)
        if ticks is None or board.first_end[lane] >= rack.days_ticks:
            continue
        if best is not None and max(job.release, board.first_end[lane]) + ticks + around > best_key[0]:
            continue  # not sooner, whatever stands on it
        alike = (ticks, lane.night, tuple(board.taken[lane]))
        if alike in seen and before.get(job.tag) != lane:
            continue  # a lane of the same kind that stands the same was tried
        seen.add(alike)
        place = board.place(job, lane, ticks, job.release)
        if place is None:
            continue
        moved = job.tag in before and before[job.tag] != lane
        key = (place.ready + (rack.move_ticks if moved else 0), place.off - place.on, place.on)
        if best is None or key < best_key:
            best, best_key = place, key
    return best


@dataclass
class _Tried:
    """An order of jobs with what comes of it; the board as it stood before each, so that another order begins where it differs."""

    order: list[ChargeJob]
    placed: list[Placed | None]
    boards: list[Board]
    cost: Cost


@dataclass
class _Search:
    """Orders of the free jobs, tried on a board that holds what is fixed."""

    empty: Board
    fixed: list[Placed]
    known: Mapping[int, ChargeJob]
    kept: Mapping[int, Lane]
    never: list[Unplaced]

    def try_order(self, order: list[ChargeJob], like: _Tried | None = None, until: int = 0) -> _Tried:
        """What comes of an order; up to `until` it is that of another, whose board is taken over."""
        placed = like.placed[:until] if like else []
        boards = like.boards[:until] if like else []
        board = (like.boards[until] if like else self.empty).copy()
        for job in order[until:]:
            boards.append(board.copy())
            place = _soonest(board, job, self.kept)
            placed.append(place)
            if place is not None:
                board.keep(place)
        return _Tried(order, placed, boards, self.cost(order, placed))

    def cost(self, order: list[ChargeJob], placed: list[Placed | None]) -> Cost:
        """What it costs with what is fixed."""
        here = [placement for placement in placed if placement is not None]
        none = [Unplaced(job.tag, NOTHING) for job, placement in zip(order, placed, strict=True) if placement is None]
        return cost_of([*self.fixed, *here], [*self.never, *none], self.known, self.empty.rack, self.kept)


def _why_none(rack: Rack, job: ChargeJob) -> Words:
    if not any(lane.charger in job.charge for lane in rack.lanes):
        return say("schedule.no_charger_here_suits_it")
    return say("common.no_room_in_the_days_planned")


def cost_of(
    placed: Sequence[Placed],
    not_placed: Sequence[Unplaced],
    jobs: Mapping[int, ChargeJob],
    rack: Rack,
    before: Mapping[int, Lane],
) -> Cost:
    """What a plan costs: see `Cost`."""
    end = len(rack.closed)
    broken = late = waiting = 0.0
    for placement in placed:
        weight = jobs[placement.tag].weight
        waiting += weight * placement.ready
        if placement.tag in before and before[placement.tag] != placement.lane:
            waiting += weight * rack.move_ticks
        if placement.late:
            broken += weight
            late += weight * placement.late
    for none in not_placed:
        job = jobs[none.tag]
        waiting += job.weight * end
        if job.promised is not None:
            broken += job.weight
            late += job.weight * max(end - job.promised, 0)
    return Cost(broken, late, waiting)


def by_promise(job: ChargeJob) -> tuple[float, float, int]:
    """The earliest promise first, then what weighs most for its time."""
    least = min(job.charge.values(), default=1)
    return (
        float("inf") if job.promised is None else job.promised - least - job.rest,
        -job.weight / max(least, 1),
        job.tag,
    )


def by_weight(job: ChargeJob) -> tuple[float, int]:
    """What weighs most for the time it takes first."""
    return (-job.weight / max(min(job.charge.values(), default=1), 1), job.tag)


def planned(
    rack: Rack, jobs: Sequence[ChargeJob], before: Sequence[Placed] = (), tries: int | None = None
) -> tuple[list[Placed], list[Unplaced], Cost]:
    """The plan of all jobs, the soonest clamped on first; what finds no place, and what the plan costs.

    `tries` is how many orders are tried after the first ones; None is by the size of the rack.
    `before` is the plan until now: its order is the first that is tried, and a change of charger must save `move_ticks`. The
    same input gives the same plan.
    """
    known = {job.tag: job for job in jobs}
    board = Board(rack)
    fixed, free, never = _fixed(board, jobs)
    search = _Search(board, fixed, known, {placement.tag: placement.lane for placement in before}, never)
    turn = {placement.tag: place for place, placement in enumerate(before)}
    orders = [sorted(free, key=by_promise), sorted(free, key=by_weight)]
    if before:
        orders.insert(0, sorted(free, key=lambda job: (turn.get(job.tag, len(turn)), by_promise(job))))
    best = min((search.try_order(order) for order in orders), key=lambda plan: plan.cost)
    chance = random.Random(len(free))
    if tries is None:
        tries = PLACINGS // max(len(free) * len(rack.lanes), 1)
    fruitless = 0
    while len(free) > 1 and tries > 0 and fruitless < FRUITLESS:
        order, until = _another(best, chance)
        other = search.try_order(order, best, until)
        tries -= 1
        fruitless += 1
        if other.cost < best.cost:
            best, fruitless = other, 0
    here = [placement for placement in best.placed if placement is not None]
    none = [
        Unplaced(job.tag, _why_none(rack, job))
        for job, placement in zip(best.order, best.placed, strict=True)
        if placement is None
    ]
    return (
        sorted([*fixed, *here], key=lambda placement: (placement.on, placement.ready, placement.tag)),
        [*never, *none],
        best.cost,
    )


def _another(best: _Tried, chance: random.Random) -> tuple[list[ChargeJob], int]:
    """An order near the best, and up to where they are the same: a battery behind its promise is mostly moved earlier."""
    order = list(best.order)
    late = [place for place, placement in enumerate(best.placed) if placement is not None and placement.late]
    taken = chance.choice(late) if late and chance.random() < LATE_SHARE else chance.randrange(len(order))
    job = order.pop(taken)
    earlier = taken and chance.random() < LATE_SHARE
    put = chance.randrange(taken) if earlier else chance.randrange(len(order) + 1)
    order.insert(put, job)
    return order, min(taken, put)


LATE_SHARE = 0.7
"""How often a try moves a battery that is behind its promise, and moves it earlier."""
