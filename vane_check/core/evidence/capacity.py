"""What a charge tells of the Ah a battery still holds: Ah that went in, times their efficiency, over the share that was missing."""

from itertools import pairwise
from typing import NamedTuple

from ..battery import RESERVE_USES
from ..charge import state_of_charge_range
from ..compare import HOURS, PERCENT, at_least, under
from ..kinds import Kind, StepKey
from ..once import once
from ..outcomes import Finding, Outcome
from ..readings import ChargeRun, Reserve
from . import Case
from .charging import full_by

MINUTES_PER_HOUR = 60


class AhIn(NamedTuple):
    """Ah that went in [Ah]: as read, as written down on the way, or at most so many."""

    ah: float
    at_most: bool


class Capacity(NamedTuple):
    """What it holds [Ah, 20 h] by a charge, with its width; `at_most` where only the upper end is known."""

    ah: float
    low_ah: float
    high_ah: float
    at_most: bool
    ah_in: float
    missing_pct: float


def ah_in(run: ChargeRun, case: Case) -> AhIn | None:
    """Ah that a charge put in: the charger's own figure, else the amps written down on the way, else at most the first amps for
    all its hours (a charger's current only falls). None where nothing tells.

    >>> from ..check import Check
    >>> from ..rules import house_rules
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
    if len(points) < case.rules.charge_points_least.value or under(points[-1][0], run.hours, HOURS) or points[0][0] > 0:
        return None if run.start_amps is None else AhIn(max(amps for _, amps in points) * run.hours, at_most=True)
    drawn = sum((after - before) * (one + other) / 2 for (before, one), (after, other) in pairwise(points))
    return AhIn(drawn, at_most=False)


@once
def capacity_of(case: Case) -> Capacity | None:
    """The Ah it holds by its last full charge, from a known rest before it; None where too little was missing to tell.

    Efficiency and width are the house's (`charge_efficiency`, `capacity_spread_ratio`): good to 15 or 20 %, and worse the less was missing.
    """
    rules = case.rules
    runs = [run for run in case.all_of(ChargeRun) if run.finished and not run.recovery and full_by(run, case)]
    for run in reversed(runs):
        put = ah_in(run, case)
        before = [
            volts
            for volts in case.valid_rest_volts
            if volts.taken_at <= run.taken_at and case.charges_off_before(volts) == case.charges_off_before(run) - 1
        ]
        if put is None or not before:
            continue
        charge = state_of_charge_range(before[-1].volts, case.battery, rules, meter_range=before[-1].meter_range)
        least, most = 100 - charge.high_pct, 100 - charge.low_pct
        middle = (least + most) / 2
        if under(middle, rules.capacity_least_missing_pct.value, PERCENT) or least <= 0:
            continue
        stored = put.ah * rules.charge_efficiency.value[case.battery.chemistry.value]
        spread = rules.capacity_spread_ratio.value
        low, high = stored / (most / 100) * (1 - spread), stored / (least / 100) * (1 + spread)
        return Capacity(stored / (middle / 100), 0.0 if put.at_most else low, high, put.at_most, put.ah, middle)
    return None


def fade(case: Case) -> Finding | None:
    """Whether the last charge says that it holds far less than its label: a doubt that a timed discharge settles, never a verdict."""
    rules, rated = case.rules, case.battery.capacity_ah_20h
    found = capacity_of(case)
    if found is None or (found.at_most and rated is None):
        return None
    firm = rated is not None
    rated = rated if rated is not None else case.capacity_ah
    if rated is None:
        return None
    spread = 0.0 if firm else rules.estimate_spread_ratio.value
    limit = rules.capacity_faded_pct.value
    low, high = found.low_ah / rated * 100 / (1 + spread), found.high_ah / rated * 100 / (1 - spread)
    faded = under(high, limit, PERCENT)
    measured = case.last_of(Reserve) is not None
    says = None if not faded or measured else _says(case)
    label = f"{rated:.0f} Ah" + ("" if firm else " reckoned from its rating")
    went = f"{'at most ' if found.at_most else ''}{found.ah_in:.0f} Ah went in where about {found.missing_pct:.0f} % was missing"
    holds = f"at most {found.high_ah:.0f} Ah" if found.at_most else f"{found.low_ah:.0f} to {found.high_ah:.0f} Ah"
    if found.at_most and not faded:
        return None  # an upper end that is high says nothing
    return Finding(
        kind=Kind.FADE, reading_id=None, status="doubtful", points_to=says, weight=rules.weight_capacity.value if says else 0.0,
        reading_text=f"holds {holds}", limit_text=f"doubted below {limit:.0f} % of {label}",
        text=f"{went}: it holds {holds} of {label}, {max(low, 0):.0f} to {min(high, 150):.0f} %"
        + (", far less than it was made with" if faded else ""),
        remedy=StepKey.RESERVE_TEST if says is Outcome.CANNOT_TELL else None, rule="capacity_faded_pct",
        source=rules.capacity_faded_pct.source, standing=rules.capacity_faded_pct.standing,
    )  # fmt: skip


def _says(case: Case) -> Outcome:
    """A timed discharge is asked where reserve is its work and this house can run one; else it is watched."""
    context, rule = case.context, case.rules.fade_asks.value
    matters = context.use in RESERVE_USES or context.stop_start_car
    can = "discharger" in case.rules.tools_at_hand.value
    asked = rule == "reserve_test" or (rule == "where_it_matters" and matters)
    return Outcome.CANNOT_TELL if can and asked else Outcome.WATCH


def is_known_to_hold(case: Case) -> bool:
    """Whether what it holds was measured well enough to say so: a timed discharge, or a charge that says it is not faded."""
    rated, found = case.battery.capacity_ah_20h, capacity_of(case)
    if found is None or rated is None or found.at_most:
        return False
    return at_least(found.ah / rated * 100, case.rules.reserve_new_pct.value, PERCENT)
