"""What a charge put in: Ah as read or written down, and what a charge that was stopped early is worth."""

from itertools import pairwise
from typing import NamedTuple

from ..readings import Cells, ChargeRun, ElectronicTester, RestVolts
from ..units.compare import HOURS, under
from ..units.conversions import MINUTES_PER_HOUR
from .acid import AcidFacts
from .remembered import remembered


class AhIn(NamedTuple):
    """Ah that went in [Ah]: as read, as written down on the way, or at most so many."""

    ah: float
    at_most: bool


def ah_in(run: ChargeRun, case: AcidFacts) -> AhIn | None:
    """Ah that a charge put in: the charger's own figure, else the amps written down on the way, else at most the first amps for
    all its hours (a charger's current only falls). None where nothing tells.

    >>> from ..readings.check import Check
    >>> from .case import Case
    >>> from ..house.rules import house_rules
    >>> run = ChargeRun(taken_at="2026-03-02T09:00:00Z", start_amps=6, amps=0.6, volts=14.4, hours=5)
    >>> ah_in(run, Case.of(Check(readings=(run,)), house_rules()))
    AhIn(ah=30.0, at_most=True)
    """
    if run.ah_in is not None:
        return AhIn(run.ah_in, at_most=False)
    points = [(point.minutes / MINUTES_PER_HOUR, point.amps) for point in run.log]
    if run.start_amps is not None:
        points.append((0.0, run.start_amps))
    if run.amps is not None:
        points.append((run.hours, run.amps))
    points = sorted(set(points))
    if len(points) < case.rules.charge.points_least.value or under(points[-1][0], run.hours, HOURS) or points[0][0] > 0:
        return None if run.start_amps is None else AhIn(max(amps for _, amps in points) * run.hours, at_most=True)
    drawn = sum((after - before) * (one + other) / 2 for (before, one), (after, other) in pairwise(points))
    return AhIn(drawn, at_most=False)


class Worth(NamedTuple):
    """What a charge that is not finished has put in so far: the share of charge it came to [%], and the Ah still missing."""

    low_pct: float
    high_pct: float
    stored_ah: float


@remembered
def worth_so_far(case: AcidFacts) -> Worth | None:
    """How far the charge that was begun last and not finished has come: charge before it and Ah since, by the house's efficiency.

    None where the charge before it is not known, nothing tells its Ah, or something was read since that tells its charge better.
    """
    runs = [run for run in case.all_of(ChargeRun) if run.amps is not None]
    if not runs or runs[-1].finished or case.capacity_ah is None:
        return None
    run, was = runs[-1], case.state_of_charge
    evidence = (*case.all_of(RestVolts), *case.all_of(Cells), *case.all_of(ElectronicTester))
    if was is None or any(reading.taken_at > run.taken_at for reading in evidence):
        return None
    since = max((reading.taken_at for reading in evidence), default=runs[0].taken_at)
    # each note of a charge holds those before it: the last one counts, and the last of every charge stopped before it
    counted = [note for note in runs if note is run or (note.stopped and note.taken_at > since)]
    known = [(run, put) for run in counted if (put := ah_in(run, case)) is not None]
    if len(known) < len(counted):
        return None
    rules = case.rules
    # where only the most is known, the amps now for all the hours are the least: a charger's current only falls
    least_ah = sum((run.amps or 0.0) * run.hours if put.at_most else put.ah for run, put in known)
    efficiency = rules.charge.efficiency.value[case.battery.chemistry.value]
    stored, least_stored = sum(put.ah for _, put in known) * efficiency, least_ah * efficiency
    share, spread = stored / case.capacity_ah * 100, rules.capacity.spread_ratio.value
    least = least_stored / case.capacity_ah * 100 * (1 - spread)
    return Worth(min(was.low_pct + least, 100.0), min(was.high_pct + share * (1 + spread), 100.0), stored)
