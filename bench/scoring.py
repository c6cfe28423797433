"""How the ends of a population count: wrong condemnations, wrong passes, what was left open, hours."""

from collections import Counter
from statistics import median
from typing import NamedTuple

from scipy.stats import binomtest

from bench.policies import End
from vane_check.core.simulation import Arrival, SimulatedBattery, Truth
from vane_check.core.simulation.population import FIT_FROM

NEAR_THE_LINE = 0.05
"""A worn one so little under the line is counted by itself: no instrument at a counter tells it from one over it."""

CAUSES = ("worn", "worn, near the line", "faded", "leaks", "weak_cell", "shorted_cell", "open_link", "hazard")


class Row(NamedTuple):
    """What a policy did over the population. Wrong condemnations in per cent of the fit, wrong passes of the unfit; ends of 95 % intervals
    beside the three that matter most."""

    name: str
    wrong_condemned_pct: float
    wrong_condemned_ends: tuple[float, float]
    wrong_passed_pct: float
    passed_but_capacity_pct: float
    passed_but_capacity_ends: tuple[float, float]
    faded_said_pct: float
    undecided_pct: float
    watched_pct: float
    watched_fit_pct: float
    watched_fit_ends: tuple[float, float]
    hazardous: int
    tests: float
    median_minutes: float
    minutes: float
    passed_by_cause: dict[str, int]


def cause_of(battery: SimulatedBattery) -> str:
    """By what a bad one is bad; a worn one near the line apart."""
    if battery.truth is Truth.WORN and battery.strength >= FIT_FROM - NEAR_THE_LINE:
        return "worn, near the line"
    return battery.truth.value


def _pct(part: int, whole: int) -> float:
    return 100 * part / max(whole, 1)


def interval(part: int, whole: int) -> tuple[float, float]:
    """Ends of the 95 % interval of a share [%]. Source: Clopper and Pearson 1934, by SciPy."""
    ends = binomtest(part, max(whole, 1)).proportion_ci(0.95, method="exact")
    return 100 * ends.low, 100 * ends.high


def row_of(name: str, both: list[tuple[Arrival, End]]) -> Row:
    """How the ends of a population count. A danger nobody could see counts neither way."""
    both = [(arrival, end) for arrival, end in both if arrival.battery.hazard is None or arrival.battery.hazard_shows]
    fit = [end for arrival, end in both if arrival.battery.truth is Truth.GOOD]
    unfit = [(arrival.battery, end) for arrival, end in both if arrival.battery.truth.is_bad]
    faded = [end for battery, end in unfit if battery.truth is Truth.FADED]
    others = [end for battery, end in unfit if battery.truth is not Truth.FADED]
    wrong, passed_others = sum(end.condemned for end in fit), sum(end.passed for end in others)
    passed = Counter(cause_of(battery) for battery, end in unfit if end.passed)
    size = len(both)
    return Row(
        name=name,
        wrong_condemned_pct=_pct(wrong, len(fit)),
        wrong_condemned_ends=interval(wrong, len(fit)),
        wrong_passed_pct=_pct(passed.total(), len(unfit)),
        passed_but_capacity_pct=_pct(passed_others, len(unfit)),
        passed_but_capacity_ends=interval(passed_others, len(unfit)),
        faded_said_pct=_pct(sum(not end.passed or end.said for end in faded), len(faded)),
        undecided_pct=_pct(sum(not (end.condemned or end.passed or end.watched) for _, end in both), size),
        watched_pct=_pct(sum(end.watched for _, end in both), size),
        watched_fit_pct=_pct(sum(end.watched for end in fit), len(fit)),
        watched_fit_ends=interval(sum(end.watched for end in fit), len(fit)),
        hazardous=sum(end.hazardous for _, end in both),
        tests=sum(end.tests for _, end in both) / size,
        median_minutes=median(end.minutes for _, end in both),
        minutes=sum(end.minutes for _, end in both) / size,
        passed_by_cause={cause: passed[cause] for cause in CAUSES},
    )
