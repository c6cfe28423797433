"""The car: what it does to its battery. It never condemns one; it says to look at the car."""

from ..facts.case import Case
from ..facts.remembered import remembered_each
from ..facts.state_of_charge import volts_scale
from ..findings.outcomes import Finding
from ..house.rules import HouseRules
from ..readings import Car
from ..tables import stop_start_waits
from ..units.compare import MILLIAMPS, VOLTS, at_least, over, under
from ..words import NOTHING, Words, capital, fixed, in_a_row, say, word
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
def faults_of(reading: Car, case: Case) -> list[Words]:
    """What is wrong with the car, in words; empty when nothing is."""
    rules, scale = case.rules, volts_scale(case.battery.nominal_volts)
    low, high = rules.car.running_low_volts.value * scale, rules.car.running_high_volts.value * scale
    faults: list[Words] = []
    for where, volts in ((say("car.idling"), reading.idle_volts), (say("car.with_the_loads_on"), reading.loaded_volts)):
        if where.key == "car.idling" and idle_alone_is_doubtful(reading, case):
            continue
        if volts is not None and under(volts, low, VOLTS):
            faults.append(say("car.v_is_under_v_not_charging", volts=fixed(volts, 1), where=where, low=fixed(low, 1)))
        elif volts is not None and over(volts, high, VOLTS):
            faults.append(
                say(
                    "car.v_is_over_v_overcharging_it_boils_dry", volts=fixed(volts, 1), where=where, high=fixed(high, 1)
                )
            )
    faults += _drops(reading, case)
    if reading.clamp_moves:
        faults.append(say("car.volts_jump_when_a_clamp_is_moved_clean_and"))
    if (
        reading.drain_ma is not None
        and reading.modules_asleep
        and over(reading.drain_ma, rules.car.drain_ma.value, MILLIAMPS)
    ):
        faults.append(_drain(reading.drain_ma, case))
    if reading.unregistered:
        faults.append(say("car.the_battery_was_never_registered_with_the"))
    faults += [say("car.found_wrong", words=stop_start_waits()[wait.value].words) for wait in reading.waits_found]
    if reading.short_trips:
        faults.append(say("car.short_trips_do_not_fill_it_a_maintainer_or"))
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


def _drops(reading: Car, case: Case) -> list[Words]:
    """Sections that drop more than they may while the starter turns."""
    rules = case.rules
    sections = (
        (say("car.battery_post_to_clamp"), reading.drop_joint_volts, rules.car.drop_joint_volts.value),
        (say("car.battery_post_to_chassis"), reading.drop_ground_volts, rules.car.drop_cable_volts.value),
        (say("car.battery_post_to_starter"), reading.drop_starter_volts, rules.car.drop_side_volts.value),
    )
    return [
        say("car.v_from_while_cranking_over_v_clean_tighten", volts=fixed(volts, 2), where=where, limit=fixed(limit, 1))
        for where, volts, limit in sections
        if volts is not None and over(volts, limit, VOLTS)
    ]


def _fine(reading: Car) -> Words:
    """What was read and is in order: never more than was read."""
    fine: list[Words] = []
    if reading.idle_volts is not None or reading.loaded_volts is not None:
        fine.append(
            say("car.charging_volts") if reading.loaded_volts is not None else say("car.charging_volts_at_idle")
        )
    if reading.drain_ma is not None and reading.modules_asleep:
        fine.append(say("car.key_off_drain"))
    drops = (reading.drop_joint_volts, reading.drop_ground_volts, reading.drop_starter_volts)
    if any(volts is not None for volts in drops):
        fine.append(say("car.volt_drop_over_what_was_measured"))
    if reading.waits_checked:
        fine.append(
            say(
                "car.of_things_stop_start_waits_for",
                count=len(reading.waits_checked),
                stop_start_waits_count=len(stop_start_waits()),
            )
        )
    return (
        say("car.as_it_should_be", fine=capital(in_a_row(fine, ", ")))
        if fine
        else say("car.nothing_measured_on_the_car")
    )


def _drain(drain_ma: float, case: Case) -> Words:
    rules = case.rules
    words = say(
        "car.ma_with_the_key_off_is_over_ma", drain_ma=fixed(drain_ma, 0), most_ma=fixed(rules.car.drain_ma.value, 0)
    )
    capacity = case.capacity_ah
    if capacity is None:
        return words
    charge = case.state_of_charge
    now = (
        NOTHING
        if charge is None
        else say(
            "car.from_the_it_has_now",
            low_pct=fixed(charge.low_pct, 0),
            until=_until(charge.low_pct, capacity, drain_ma, rules),
        )
    )
    return say("car.from_full", words=words, until=_until(100.0, capacity, drain_ma, rules), now=now)


UNREGISTERED = "car.the_battery_was_never_registered_with_the"
"""The fault that is a job of its own: by its key."""


def without_days(fault: Words) -> Words:
    """A fault as a job names it: of a drain how much it is, not how long it would take."""
    amount = fault.figures.get("words") if fault.key == "car.from_full" else None
    return amount if isinstance(amount, Words) else fault


def _until(soc_pct: float, capacity_ah_20h: float, drain_ma: float, rules: HouseRules) -> Words:
    half = days_until(soc_pct, capacity_ah_20h, drain_ma, HALF_PCT) or 0
    dead = days_until(soc_pct, capacity_ah_20h, drain_ma, rules.car.no_start_soc_pct.value) or 0
    if dead == 0:
        return say("car.no_start_as_it_is")
    return (say("car.to_half", days=_days(half)) if half else NOTHING) + say("car.to_no_start", days=_days(dead))


def _days(days: float) -> Words:
    if days < 1:
        return say("car.less_than_a_day")
    return say("car.days", days=fixed(days, 0), count=round(days))


@reads(Car)
def find(reading: Car, case: Case) -> Finding:
    """Everything the car does wrong in one line; else what was read, and no more."""
    rules, faults = case.rules, faults_of(reading, case)
    reading_text = (
        say("car.v_running", idle_volts=fixed(reading.idle_volts, 1)) if reading.idle_volts is not None else word("car")
    )
    waits = reading.drain_ma is not None and not reading.modules_asleep
    idle = idle_alone_is_doubtful(reading, case)
    parts = [in_a_row(faults, "; ")] if faults else [] if idle else [_fine(reading)]
    if idle and reading.idle_volts is not None:
        parts.append(say("car.v_at_idle_alone_says_neither_measure_with", idle_volts=fixed(reading.idle_volts, 1)))
    text = in_a_row(parts, "; ") + (say("car.the_drain_was_read_before_the_modules") if waits else NOTHING)
    return finding(
        reading, rules, "car.running_low_volts", points_to=None, weight=None,
        status="doubtful" if waits or idle else "counts", reading_text=reading_text,
        limit_text=say('car.to_v_drain_under_ma', running_low_volts=fixed(rules.car.running_low_volts.value, 1), running_high_volts=fixed(rules.car.running_high_volts.value, 1), drain_ma=fixed(rules.car.drain_ma.value, 0)),
        text=capital(text),
    )  # fmt: skip
