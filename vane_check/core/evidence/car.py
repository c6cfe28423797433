"""The car: what it does to its battery. It never condemns one; it says to look at the car."""

from ..facts.case import Case
from ..facts.remembered import remembered_each
from ..facts.state_of_charge import volts_scale
from ..findings.outcomes import Finding
from ..house.rules import HouseRules
from ..readings import Car
from ..tables import stop_start_waits
from ..units.compare import MILLIAMPS, VOLTS, at_least, over, under
from .finding import finding
from .reads import reads

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


@remembered_each
def faults_of(reading: Car, case: Case) -> list[str]:
    """What is wrong with the car, in words; empty when nothing is."""
    rules, scale = case.rules, volts_scale(case.battery.nominal_volts)
    low, high = rules.car.running_low_volts.value * scale, rules.car.running_high_volts.value * scale
    faults = []
    for where, volts in (("idling", reading.idle_volts), ("with the loads on", reading.loaded_volts)):
        if where == "idling" and idle_alone_is_doubtful(reading, case):
            continue
        if volts is not None and under(volts, low, VOLTS):
            faults.append(f"{volts:.1f} V {where} is under {low:.1f} V: not charging")
        elif volts is not None and over(volts, high, VOLTS):
            faults.append(f"{volts:.1f} V {where} is over {high:.1f} V: overcharging, it boils dry")
    faults += _drops(reading, case)
    if reading.clamp_moves:
        faults.append("volts jump when a clamp is moved: clean and tighten it")
    if (
        reading.drain_ma is not None
        and reading.modules_asleep
        and over(reading.drain_ma, rules.car.drain_ma.value, MILLIAMPS)
    ):
        faults.append(_drain(reading.drain_ma, case))
    if reading.unregistered:
        faults.append("the battery was never registered with the battery management system")
    faults += [f"{stop_start_waits()[one.value].words}: found wrong" for one in reading.waits_found]
    if reading.short_trips:
        faults.append("short trips do not fill it: a maintainer, or longer drives")
    return faults


def idle_alone_is_doubtful(reading: Car, case: Case) -> bool:
    """Whether idle volts alone lie where only revs and loads can say that it does not charge."""
    rules, scale = case.rules, volts_scale(case.battery.nominal_volts)
    idle = reading.idle_volts
    if idle is None or reading.loaded_volts is not None:
        return False
    return at_least(idle, rules.car.running_doubt_volts.value * scale, VOLTS) and under(
        idle, rules.car.running_low_volts.value * scale, VOLTS
    )


def _drops(reading: Car, case: Case) -> list[str]:
    """Sections that drop more than they may while the starter turns."""
    rules = case.rules
    sections = (
        ("battery post to clamp", reading.drop_joint_volts, rules.car.drop_joint_volts.value),
        ("battery post to chassis", reading.drop_ground_volts, rules.car.drop_cable_volts.value),
        ("battery post to starter", reading.drop_starter_volts, rules.car.drop_side_volts.value),
    )
    return [
        f"{volts:.2f} V from {where} while cranking, over {limit:.1f} V: clean, tighten or renew that section"
        for where, volts, limit in sections
        if volts is not None and over(volts, limit, VOLTS)
    ]


def _fine(reading: Car) -> str:
    """What was read and is in order: never more than was read."""
    fine = []
    if reading.idle_volts is not None or reading.loaded_volts is not None:
        fine.append("charging volts" if reading.loaded_volts is not None else "charging volts at idle")
    if reading.drain_ma is not None and reading.modules_asleep:
        fine.append("key-off drain")
    drops = (reading.drop_joint_volts, reading.drop_ground_volts, reading.drop_starter_volts)
    if any(volts is not None for volts in drops):
        fine.append("volt drop over what was measured")
    if reading.waits_checked:
        fine.append(f"{len(reading.waits_checked)} of {len(stop_start_waits())} things stop-start waits for")
    words = ", ".join(fine)
    return f"{words[:1].upper()}{words[1:]} as it should be" if fine else "Nothing measured on the car"


def _drain(drain_ma: float, case: Case) -> str:
    rules = case.rules
    words = f"{drain_ma:.0f} mA with the key off is over {rules.car.drain_ma.value:.0f} mA"
    capacity = case.capacity_ah
    if capacity is None:
        return words
    charge = case.state_of_charge
    now = (
        ""
        if charge is None
        else f"; from the {charge.low_pct:.0f} % it has now {_until(charge.low_pct, capacity, drain_ma, rules)}"
    )
    return f"{words}: from full {_until(100.0, capacity, drain_ma, rules)}{now}"


def _until(soc_pct: float, capacity_ah_20h: float, drain_ma: float, rules: HouseRules) -> str:
    half = days_until(soc_pct, capacity_ah_20h, drain_ma, HALF_PCT) or 0
    dead = days_until(soc_pct, capacity_ah_20h, drain_ma, rules.car.no_start_soc_pct.value) or 0
    if dead == 0:
        return "no start as it is"
    return (f"{_days(half)} to half, " if half else "") + f"{_days(dead)} to no start"


def _days(days: float) -> str:
    if days < 1:
        return "less than a day"
    return f"{days:.0f} day" + ("" if round(days) == 1 else "s")


@reads(Car)
def find(reading: Car, case: Case) -> Finding:
    """Everything the car does wrong in one line; else what was read, and no more."""
    rules, faults = case.rules, faults_of(reading, case)
    reading_text = f"{reading.idle_volts:.1f} V running" if reading.idle_volts is not None else "car"
    waits = reading.drain_ma is not None and not reading.modules_asleep
    idle = idle_alone_is_doubtful(reading, case)
    text = "; ".join(faults) if faults else "" if idle else _fine(reading)
    if idle:
        text += f"{'; ' if text else ''}{reading.idle_volts:.1f} V at idle alone says neither: measure with revs and with loads on"
    text += "; the drain was read before the modules slept: wait 20 to 60 minutes" if waits else ""
    return finding(
        reading, rules, "car.running_low_volts", points_to=None, weight=None,
        status="doubtful" if waits or idle else "counts", reading_text=reading_text,
        limit_text=f"{rules.car.running_low_volts.value:.1f} to {rules.car.running_high_volts.value:.1f} V, drain under {rules.car.drain_ma.value:.0f} mA",
        text=f"{text[:1].upper()}{text[1:]}",
    )  # fmt: skip
