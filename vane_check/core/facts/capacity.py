"""What a charge tells of the Ah a battery still holds: Ah that went in, times their efficiency, over the share that was missing."""

from typing import NamedTuple

from ..readings import ChargeRun
from ..units.compare import PERCENT, at_least, under
from .case import Case
from .put_in import ah_in
from .remembered import remembered
from .state_of_charge import state_of_charge_range


class Capacity(NamedTuple):
    """What it holds [Ah, 20 h] by a charge, with its width; `at_most` where only the upper end is known."""

    ah: float
    low_ah: float
    high_ah: float
    at_most: bool
    ah_in: float
    missing_pct: float


@remembered
def capacity_of(case: Case) -> Capacity | None:
    """The Ah it holds by its last full charge, from a known rest before it; None where too little was missing to tell.

    Efficiency and width are the house's (`charge.efficiency`, `capacity.spread_ratio`): good to 15 or 20 %, and worse the less was missing.
    """
    rules = case.rules
    runs = [run for run in case.all_of(ChargeRun) if run.finished and not run.recovery and case.full_by(run)]
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
        if under(middle, rules.capacity.least_missing_pct.value, PERCENT) or least <= 0:
            continue
        stored = put.ah * rules.charge.efficiency.value[case.battery.chemistry.value]
        spread = rules.capacity.spread_ratio.value
        low, high = stored / (most / 100) * (1 - spread), stored / (least / 100) * (1 + spread)
        return Capacity(stored / (middle / 100), 0.0 if put.at_most else low, high, put.at_most, put.ah, middle)
    return None


def is_known_to_hold(case: Case) -> bool:
    """Whether a charge measured well enough what it holds, and that it is as good as new."""
    rated, fade = case.battery.capacity_ah_20h, capacity_of(case)
    if fade is None or rated is None or fade.at_most:
        return False
    return at_least(fade.ah / rated * 100, case.rules.reserve.new_pct.value, PERCENT)
