"""The car: what it does to its battery. It never condemns one; it says to look at the car."""

from ..charge import volts_scale
from ..compare import MILLIAMPS, VOLTS, over, under
from ..outcomes import Finding
from ..readings import Car
from ..rules import HouseRules
from . import Case, finding
from .derived import state_of_charge

HOURS_PER_DAY = 24
HALF_PCT = 50.0


def days_until(soc_pct: float, capacity_ah_20h: float, drain_ma: float, end_soc_pct: float) -> float | None:
    """Days [d] of a steady drain from one state of charge [%] down to another; None when there is no drain.

    >>> round(days_until(100, 60, 100, 50), 1)
    12.5
    """
    if drain_ma <= 0:
        return None
    amp_hours = max(soc_pct - end_soc_pct, 0) / 100 * capacity_ah_20h
    return amp_hours / (drain_ma / 1000) / HOURS_PER_DAY


def faults_of(reading: Car, case: Case) -> list[str]:
    """What is wrong with the car, in words; empty when nothing is."""
    rules, scale = case.rules, volts_scale(case.battery.nominal_volts)
    low, high = rules.running_low_volts.value * scale, rules.running_high_volts.value * scale
    faults = []
    for where, volts in (("idling", reading.idle_volts), ("with the loads on", reading.loaded_volts)):
        if volts is not None and under(volts, low, VOLTS):
            faults.append(f"{volts:.1f} V {where} is under {low:.1f} V: not charging")
        elif volts is not None and over(volts, high, VOLTS):
            faults.append(f"{volts:.1f} V {where} is over {high:.1f} V: overcharging, it boils dry")
    if reading.clamp_moves:
        faults.append("volts jump when a clamp is moved: clean and tighten it")
    if (
        reading.drain_ma is not None
        and reading.modules_asleep
        and over(reading.drain_ma, rules.drain_ma.value, MILLIAMPS)
    ):
        faults.append(_drain(reading.drain_ma, case))
    if reading.unregistered:
        faults.append("the battery was never registered with the battery management system")
    if reading.short_trips:
        faults.append("short trips do not fill it: a maintainer, or longer drives")
    return faults


def _drain(drain_ma: float, case: Case) -> str:
    rules = case.rules
    said = f"{drain_ma:.0f} mA with the key off is over {rules.drain_ma.value:.0f} mA"
    capacity = case.battery.capacity_ah_20h or (case.rated.amps / rules.cca_per_ah.value if case.rated else None)
    if capacity is None:
        return said
    charge = state_of_charge(case)
    now = (
        ""
        if charge is None
        else f"; from the {charge.low_pct:.0f} % it has now {_until(charge.low_pct, capacity, drain_ma, rules)}"
    )
    return f"{said}: from full {_until(100.0, capacity, drain_ma, rules)}{now}"


def _until(soc_pct: float, capacity_ah_20h: float, drain_ma: float, rules: HouseRules) -> str:
    half = days_until(soc_pct, capacity_ah_20h, drain_ma, HALF_PCT) or 0
    dead = days_until(soc_pct, capacity_ah_20h, drain_ma, rules.no_start_soc_pct.value) or 0
    if dead == 0:
        return "no start as it is"
    return (f"{_days(half)} to half, " if half else "") + f"{_days(dead)} to no start"


def _days(days: float) -> str:
    if days < 1:
        return "less than a day"
    return f"{days:.0f} day" + ("" if round(days) == 1 else "s")


def find(reading: Car, case: Case) -> Finding:
    """Everything the car does wrong in one line."""
    faults = faults_of(reading, case)
    shown = f"{reading.idle_volts:.1f} V running" if reading.idle_volts is not None else "car"
    waits = reading.drain_ma is not None and not reading.modules_asleep
    text = "; ".join(faults) if faults else "Charging, clamps and drain are as they should be"
    return finding(
        reading, case.rules, "running_low_volts", points_to=None, weight=None,
        status="doubtful" if waits else "counts", reading_text=shown,
        limit_text=f"{case.rules.running_low_volts.value:.1f} to {case.rules.running_high_volts.value:.1f} V, drain under {case.rules.drain_ma.value:.0f} mA",
        text=f"{text[:1].upper()}{text[1:]}" + ("; the drain was read before the modules slept: wait 20 to 60 minutes" if waits else ""),
    )  # fmt: skip
