"""Resistive loads: adjustable and fixed. A load smaller than required can fail, never pass."""

from bisect import bisect_left
from operator import attrgetter

from ..charge import (
    load_amps,
    load_min_volts,
    load_words,
    meter_uncertainty_volts,
    share_words,
    state_of_charge_range,
    volts_scale,
)
from ..compare import AMPS, MINUTES, PERCENT, SECONDS, VOLTS, at_least, over, under
from ..kinds import StepKey
from ..outcomes import Finding, Outcome
from ..readings import AdjustableLoad, Crank, FixedLoad, Needle
from ..tables import entry_limits
from . import Case, finding
from .reserve import judged_by_reserve


def temperature_of(reading: AdjustableLoad | FixedLoad | Crank, case: Case) -> float:
    """The battery's temperature [C] at the pull: as taken with it, else the last one taken, else the table's warmest row."""
    if reading.temperature_c is not None:
        return reading.temperature_c
    return case.temperature_c if case.temperature_c is not None else case.rules.load_default_temperature_c.value


def condemned_as(case: Case) -> Outcome:
    """What a failed pull says: worn out, or to be watched where starting is not the battery's work, whatever the pull's size."""
    return Outcome.WATCH if judged_by_reserve(case) else Outcome.WORN_OUT


def amps_at_least(reading: AdjustableLoad | FixedLoad) -> float:
    """The amps [A] that were drawn throughout: the end's where they fell."""
    return min(reading.amps, reading.end_amps or reading.amps)


def _fell(reading: AdjustableLoad | FixedLoad) -> str:
    """What the amps and the needle say besides, in words."""
    said = (
        ""
        if reading.end_amps is None or reading.end_amps >= reading.amps
        else f", the amps fell to {reading.end_amps:.0f}"
    )
    return said + (", falling all the while" if reading.needle is Needle.FELL_DURING else "")


_NEEDLE_WORDS = {
    Needle.DROPPED_AFTER: "it held for the time, then dropped",
    Needle.FELL_DURING: "it fell all the while",
    Needle.DROPPED_AT_ONCE: "it dropped at once",
}


def gate_words(reading: AdjustableLoad | FixedLoad | Crank, case: Case) -> str:
    """Why the charge was too low to be judged by a pull, as it really is: the share shown, or the house's line."""
    gate = case.rules.load_gate_soc_pct.value
    near = min(case.rests_near(reading), key=lambda volts: abs((volts.taken_at - reading.taken_at).total_seconds()))
    charge = state_of_charge_range(near.volts, case.battery, case.rules_for(near), meter_range=near.meter_range)
    if under(charge.high_pct, gate, PERCENT):
        return f"of {share_words(charge.low_pct, charge.high_pct)} charge, under the {gate:.0f} % asked"
    return f"not clear of the {case.recharge_line_volts:.2f} V line by what the meter may be off"


def adjustable(reading: AdjustableLoad, case: Case) -> Finding:
    """The pull, its weight cut by how far a rating converted from another scale may be off."""
    found = _adjustable(reading, case)
    spread = case.rated.relative_spread if case.rated is not None and case.rated.firm else 0.0
    return found if not spread else found.but(weight=round(found.weight * (1 - spread), 3))


def _adjustable(reading: AdjustableLoad, case: Case) -> Finding:
    """Half the rated CCA for 15 s against the temperature table; gate at 75 % charge. Source: BCI load test."""
    rules = case.rules_for(reading)
    asked = load_amps(case.battery, rules)
    limit = load_min_volts(temperature_of(reading, case), case.battery.nominal_volts)
    shown = f"{reading.volts:.2f} V under {reading.amps:.0f} A"
    held = f"hold {limit:.2f} V"
    if asked is None:
        return finding(
            reading, rules, "load_share_of_cca", points_to=None, weight=None, status="dropped", remedy=StepKey.READ_LABEL,
            reading_text=shown, limit_text=load_words(rules), text=f"{shown} does not count: no rating to size the load by",
            why_not="no rating to size the load by",
        )  # fmt: skip
    full_size = at_least(amps_at_least(reading), asked * rules.load_enough_ratio.value, AMPS)
    full_time = at_least(reading.seconds, rules.load_seconds.value * rules.load_enough_ratio.value, SECONDS)
    if under(reading.volts, limit, VOLTS):
        if over(reading.amps, asked * rules.load_too_much_ratio.value, AMPS):
            return _dropped(
                reading,
                case,
                shown,
                held,
                f"pulled {reading.amps:.0f} A where {asked:.0f} A are asked: too hard to fail it by",
            )
        return _failed(reading, case, shown, held, limit)
    if not full_size or not full_time:
        short = (
            f"{amps_at_least(reading):.0f} A of {asked:.0f} A"
            if not full_size
            else f"{reading.seconds:.0f} s of {rules.load_seconds.value:.0f} s"
        )
        return _dropped(reading, case, shown, held, f"only {short}: such a pull can fail a battery, never pass it")
    if reading.needle is not Needle.HELD or under(
        reading.volts - meter_uncertainty_volts(reading.volts, rules), limit, VOLTS
    ):
        why = _NEEDLE_WORDS.get(reading.needle, "within what the meter may be off")
        return finding(
            reading, rules, "load_seconds", points_to=Outcome.CANNOT_TELL, weight="weight_doubtful", status="doubtful",
            remedy=StepKey.LOAD_AGAIN, reading_text=shown, limit_text=held, text=f"{shown} for {reading.seconds:.0f} s: borderline, {why}",
        )  # fmt: skip
    return finding(
        reading, rules, "load_seconds", points_to=Outcome.SOUND, weight="weight_load", reading_text=shown, limit_text=held,
        text=f"{shown} for {reading.seconds:.0f} s: holds the {limit:.2f} V asked. It took something out: recharge it soon",
    )  # fmt: skip


def _minutes_since_last_pull(reading: AdjustableLoad, case: Case) -> float | None:
    pulls = case.all_of(AdjustableLoad)
    place = bisect_left(pulls, reading.taken_at, key=attrgetter("taken_at"))
    return (reading.taken_at - pulls[place - 1].taken_at).total_seconds() / 60 if place else None


def _failed(reading: AdjustableLoad, case: Case, shown: str, held: str, limit: float) -> Finding:
    rules = case.rules_for(reading)
    since, wait = _minutes_since_last_pull(reading, case), rules.load_wait_minutes.value
    if since is not None and under(since, wait, MINUTES):
        why = f"{since:.0f} min after the pull before, it had no time to recover: wait {wait:.0f} min"
        return finding(
            reading, rules, "load_wait_minutes", points_to=None, weight=None, status="dropped", remedy=StepKey.LOAD_AGAIN,
            reading_text=shown, limit_text=held, text=f"{shown} does not count: {why}", why_not=why,
        )  # fmt: skip
    charge = case.charge_near(reading, rules.load_gate_soc_pct.value)
    if charge == "low":
        return finding(
            reading, rules, "load_gate_soc_pct", points_to=Outcome.NEEDS_CHARGE, weight="weight_doubtful", status="doubtful",
            remedy=StepKey.CHARGE_AND_RETEST, reading_text=shown, limit_text=held,
            text=f"{shown} failed on a battery {gate_words(reading, case)}: charge it, then pull again",
        )  # fmt: skip
    if charge == "unknown":
        return finding(
            reading, rules, "pairing_minutes", points_to=Outcome.CANNOT_TELL, weight="weight_doubtful", status="doubtful",
            remedy=StepKey.MEASURE_VOLTS, reading_text=shown, limit_text=held,
            text=f"{shown} failed, but no rest volts near in time say whether it was charged",
        )  # fmt: skip
    if (
        at_least(reading.volts + meter_uncertainty_volts(reading.volts, rules), limit, VOLTS)
        and reading.needle is Needle.HELD
    ):
        return finding(
            reading, rules, "load_seconds", points_to=Outcome.CANNOT_TELL, weight="weight_doubtful", status="doubtful",
            remedy=StepKey.LOAD_AGAIN, reading_text=shown, limit_text=held,
            text=f"{shown}: {limit - reading.volts:.2f} V under, within what the meter may be off. Wait {rules.load_wait_minutes.value:.0f} min and pull again",
        )  # fmt: skip
    firm = case.battery.rating is None or (case.rated is not None and case.rated.firm)
    return finding(
        reading, rules, "load_seconds", points_to=condemned_as(case), weight="weight_load" if firm else "weight_tester_equivocal",
        status="counts" if firm else "doubtful", reading_text=shown, limit_text=held,
        text=f"{shown}: {limit - reading.volts:.2f} V under the {limit:.2f} V asked"
        + (", at once" if reading.needle is Needle.DROPPED_AT_ONCE else "") + _fell(reading),
    )  # fmt: skip


def fixed(reading: FixedLoad, case: Case) -> Finding:
    """About 100 A for ten seconds: bands and bounce-back; too small to pass most batteries, large enough to doubt or fail them."""
    rules, scale = case.rules_for(reading), volts_scale(case.battery.nominal_volts)
    floor, good, bounce = (
        value * scale
        for value in (rules.fixed_floor_volts.value, rules.fixed_good_volts.value, rules.bounce_volts.value)
    )
    shown = _fixed_shown(reading)
    held = f"good above {good:.1f} V, floor {floor:.1f} V"
    if _never_loaded(reading, case):
        why = f"more than a battery of {case.rated.amps if case.rated else 0:.0f} CCA can give: the load was not on"
        return finding(
            reading, rules, "load_enough_ratio", points_to=None, weight=None, status="dropped", remedy=StepKey.FIXED_TEST,
            reading_text=shown, limit_text="a needle that moved", text=f"{shown} does not count: {why}", why_not=why,
        )  # fmt: skip
    no_bounce = reading.bounce_volts is not None and under(reading.bounce_volts, bounce, VOLTS)
    level = _level(reading, floor, good, case)
    if level == "bad" or no_bounce:
        charge = case.charge_near(reading, rules.load_gate_soc_pct.value)
        if charge != "enough":
            why = (
                f"on a battery {gate_words(reading, case)}" if charge == "low" else "but it was not known to be charged"
            )
            return finding(
                reading, rules, "load_gate_soc_pct", points_to=Outcome.NEEDS_CHARGE if charge == "low" else Outcome.CANNOT_TELL,
                weight="weight_doubtful", status="doubtful", remedy=StepKey.CHARGE_AND_RETEST if charge == "low" else StepKey.MEASURE_VOLTS,
                reading_text=shown, limit_text=held, text=f"{shown} failed {why}",
            )  # fmt: skip
        why = f"came back only to {reading.bounce_volts:.1f} V" if no_bounce else f"under the floor of {floor:.1f} V"
        return finding(
            reading, rules, "fixed_floor_volts", points_to=condemned_as(case), weight="weight_fixed",
            reading_text=shown, limit_text=held, text=f"{shown}: {why}{_fell(reading)}",
        )  # fmt: skip
    if level == "weak":
        return finding(
            reading, rules, "fixed_good_volts", points_to=Outcome.CANNOT_TELL, weight="weight_doubtful", status="doubtful",
            remedy=StepKey.LOAD_TEST, reading_text=shown, limit_text=held,
            text=f"{shown}: between the floor of {floor:.1f} V and {good:.1f} V{_fell(reading)}",
        )  # fmt: skip
    if under(reading.seconds, rules.fixed_seconds.value * rules.load_enough_ratio.value, SECONDS):
        return _dropped(
            reading,
            case,
            shown,
            held,
            f"pulled {reading.seconds:.0f} s of {rules.fixed_seconds.value:.0f} s: too short to pass",
        )
    asked = load_amps(case.battery, rules)
    drawn = amps_at_least(reading)
    if asked is None or under(drawn, asked * rules.load_enough_ratio.value, AMPS):
        size = f"{drawn:.0f} A" + (f" where {asked:.0f} A are asked" if asked else "")
        return _dropped(reading, case, shown, held, f"{size}: such a pull can fail a battery, never pass it")
    return finding(
        reading, rules, "fixed_good_volts", points_to=Outcome.SOUND, weight="weight_fixed", reading_text=shown,
        limit_text=held, text=f"{shown}: good. Recharge it soon",
    )  # fmt: skip


def _never_loaded(reading: FixedLoad, case: Case) -> bool:
    """Whether its scale shows more than any battery of this rating gives: its needle stood where it stands without a load.
    Source: tables/entry-limits.csv (cca_over_rated)."""
    if reading.shown_cca_amps is None or case.rated is None:
        return False
    return over(reading.shown_cca_amps, case.rated.amps * entry_limits()["cca_over_rated"].high, AMPS)


def _fixed_shown(reading: FixedLoad) -> str:
    if reading.volts is not None:
        return f"{reading.volts:.1f} V under {reading.amps:.0f} A"
    if reading.shown_cca_amps is not None:
        return f"{reading.shown_cca_amps:.0f} CCA on its scale under {reading.amps:.0f} A"
    return f"{reading.band.value if reading.band else 'nothing'} on its scale under {reading.amps:.0f} A"


def _level(reading: FixedLoad, floor: float, good: float, case: Case) -> str:
    """Good, weak or bad: by volts, else by what its own scale shows."""
    if reading.volts is not None:
        if under(reading.volts, floor, VOLTS):
            return "bad"
        return "weak" if under(reading.volts, good, VOLTS) or reading.needle is Needle.FELL_DURING else "good"
    if reading.band is not None:
        return reading.band.value
    if reading.shown_cca_amps is None or case.rated is None:
        return "weak"
    rules = case.rules
    off = rules.sag_spread_ratio.value
    limit = case.rated.amps * rules.replace_below_ratio.value
    if under(reading.shown_cca_amps * (1 + off), limit, AMPS):
        return "bad"
    return "good" if at_least(reading.shown_cca_amps * (1 - off), limit, AMPS) else "weak"


def _dropped(reading: AdjustableLoad | FixedLoad | Crank, case: Case, shown: str, held: str, why: str) -> Finding:
    return finding(
        reading, case.rules, "load_enough_ratio", points_to=None, weight=None, status="dropped", remedy=StepKey.LOAD_TEST,
        reading_text=shown, limit_text=held, text=f"{shown} does not count: {why}", why_not=why,
    )  # fmt: skip
