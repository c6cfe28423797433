"""What a charge tells of the Ah a battery still holds: Ah that went in, times their efficiency, over the share that was missing."""

from typing import NamedTuple

from ..battery import RESERVE_USES
from ..charge import state_of_charge_range
from ..compare import PERCENT, at_least, under
from ..kinds import Kind, StepKey
from ..once import once
from ..outcomes import Finding, Outcome
from ..readings import ChargeRun, Reserve
from . import Case
from .charged import ah_in
from .charging import full_by


class Capacity(NamedTuple):
    """What it holds [Ah, 20 h] by a charge, with its width; `at_most` where only the upper end is known."""

    ah: float
    low_ah: float
    high_ah: float
    at_most: bool
    ah_in: float
    missing_pct: float


@once
def capacity_of(case: Case) -> Capacity | None:
    """The Ah it holds by its last full charge, from a known rest before it; None where too little was missing to tell.

    Efficiency and width are the house's (`charge_efficiency`, `capacity_spread_ratio`): good to 15 or 20 %, and worse the less was missing.
    """
    rules = case.rules
    runs = [run for run in case.all_of(ChargeRun) if run.finished and not run.recovery and full_by(run, case)]
    for run in reversed(runs):
        put = ah_in(run, case)
        before = case.rest_until(run.taken_at)
        known = before is not None and case.charges_off_before(before) == case.charges_off_before(run) - 1
        if put is None or before is None or not known:
            continue
        charge = state_of_charge_range(
            before.volts, case.battery, case.rules_for(before), meter_range=before.meter_range
        )
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
    rules, found, rated = case.rules, capacity_of(case), case.capacity_ah
    firm = case.battery.capacity_ah_20h is not None
    if found is None or rated is None or (found.at_most and not firm):
        return None
    spread = 0.0 if firm else rules.estimate_spread_ratio.value
    limit = rules.capacity_faded_pct.value
    low, high = found.low_ah / rated * 100 / (1 + spread), found.high_ah / rated * 100 / (1 - spread)
    faded = under(high, limit, PERCENT)
    if found.at_most and not faded:
        return None  # an upper end that is high says nothing
    measured = case.last_of(Reserve) is not None
    says = None if not faded or measured else _says(case)
    label = f"{rated:.0f} Ah" + ("" if firm else " reckoned from its rating")
    went = f"{'at most ' if found.at_most else ''}{found.ah_in:.0f} Ah went in where about {found.missing_pct:.0f} % was missing"
    holds = f"at most {found.high_ah:.0f} Ah" if found.at_most else f"{found.low_ah:.0f} to {found.high_ah:.0f} Ah"
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
    if rule == "worn_out":
        return Outcome.WORN_OUT
    can = "discharger" in case.rules.tools_at_hand.value
    asked = rule == "reserve_test" or (rule == "where_it_matters" and matters)
    return Outcome.CANNOT_TELL if can and asked else Outcome.WATCH


def is_known_to_hold(case: Case) -> bool:
    """Whether a charge measured well enough what it holds, and that it is as good as new."""
    rated, found = case.battery.capacity_ah_20h, capacity_of(case)
    if found is None or rated is None or found.at_most:
        return False
    return at_least(found.ah / rated * 100, case.rules.reserve_new_pct.value, PERCENT)
