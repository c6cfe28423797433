"""The adjustable load, and what it shares with the fixed one. A load smaller than required can fail, never pass."""

from bisect import bisect_left
from operator import attrgetter

from ..facts.case import Case
from ..facts.state_of_charge import (
    load_amps,
    load_min_volts,
    load_words,
    meter_uncertainty_volts,
    share_words,
    state_of_charge_range,
)
from ..findings.kinds import StepKey
from ..findings.outcomes import Finding, Outcome
from ..readings import AdjustableLoad, Crank, FixedLoad, Needle
from ..units.compare import AMPS, MINUTES, PERCENT, SECONDS, VOLTS, at_least, over, under
from .finding import finding
from .reads import reads


def temperature_of(reading: AdjustableLoad | FixedLoad | Crank, case: Case) -> float:
    """The battery's temperature [C] at the pull: as taken with it, else the last one taken, else the table's warmest row."""
    if reading.temperature_c is not None:
        return reading.temperature_c
    return case.temperature_c if case.temperature_c is not None else case.rules.load.default_temperature_c.value


def failed_pull_outcome(case: Case) -> Outcome:
    """What a failed pull says: worn out, or to be watched where starting is not the battery's work, whatever the pull's size."""
    return Outcome.WATCH if case.judged_by_reserve else Outcome.WORN_OUT


def amps_at_least(reading: AdjustableLoad | FixedLoad) -> float:
    """The amps [A] that were drawn throughout: the end's where they fell."""
    return min(reading.amps, reading.end_amps or reading.amps)


def fell_words(reading: AdjustableLoad | FixedLoad) -> str:
    """What the amps and the needle say besides, in words."""
    words = (
        ""
        if reading.end_amps is None or reading.end_amps >= reading.amps
        else f", the amps fell to {reading.end_amps:.0f}"
    )
    return words + (", falling all the while" if reading.needle is Needle.FELL_DURING else "")


_NEEDLE_WORDS = {
    Needle.DROPPED_AFTER: "it held for the time, then dropped",
    Needle.FELL_DURING: "it fell all the while",
    Needle.DROPPED_AT_ONCE: "it dropped at once",
}


def gate_words(reading: AdjustableLoad | FixedLoad | Crank, case: Case) -> str:
    """Why the charge was too low to be judged by a pull, as it really is: the share shown, or the house's line."""
    gate = case.rules.load.gate_soc_pct.value
    near = min(case.rests_near(reading), key=lambda volts: abs((volts.taken_at - reading.taken_at).total_seconds()))
    charge = state_of_charge_range(near.volts, case.battery, case.rules_for(near), meter_range=near.meter_range)
    if under(charge.high_pct, gate, PERCENT):
        return f"of {share_words(charge.low_pct, charge.high_pct)} charge, under the {gate:.0f} % asked"
    return f"not clear of the {case.recharge_line_volts:.2f} V line by what the meter may be off"


@reads(AdjustableLoad)
def find(reading: AdjustableLoad, case: Case) -> Finding:
    """The pull, its weight cut by how far a rating converted from another scale may be off."""
    finding = _adjustable(reading, case)
    spread = case.rated.relative_spread if case.rated is not None and case.rated.firm else 0.0
    return finding if not spread else finding.but(weight=round(finding.weight * (1 - spread), 3))


def _adjustable(reading: AdjustableLoad, case: Case) -> Finding:
    """Half the rated CCA for 15 s against the temperature table; gate at 75 % charge. Source: BCI load test."""
    rules = case.rules_for(reading)
    amps = load_amps(case.battery, rules)
    limit = load_min_volts(temperature_of(reading, case), case.battery.nominal_volts)
    reading_text = f"{reading.volts:.2f} V under {reading.amps:.0f} A"
    limit_text = f"hold {limit:.2f} V"
    if amps is None:
        return finding(
            reading, rules, "load.share_of_cca", points_to=None, weight=None, status="dropped", remedy=StepKey.READ_LABEL,
            reading_text=reading_text, limit_text=load_words(rules), text=f"{reading_text} does not count: no rating to size the load by",
            why_not="no rating to size the load by",
        )  # fmt: skip
    full_size = at_least(amps_at_least(reading), amps * rules.load.enough_ratio.value, AMPS)
    full_time = at_least(reading.seconds, rules.load.seconds.value * rules.load.enough_ratio.value, SECONDS)
    if under(reading.volts, limit, VOLTS):
        if over(reading.amps, amps * rules.load.too_much_ratio.value, AMPS):
            return too_small(
                reading,
                case,
                reading_text,
                limit_text,
                f"pulled {reading.amps:.0f} A where {amps:.0f} A are asked: too hard to fail it by",
            )
        return _failed(reading, case, reading_text, limit_text, limit)
    if not full_size or not full_time:
        short = (
            f"{amps_at_least(reading):.0f} A of {amps:.0f} A"
            if not full_size
            else f"{reading.seconds:.0f} s of {rules.load.seconds.value:.0f} s"
        )
        return too_small(
            reading, case, reading_text, limit_text, f"only {short}: such a pull can fail a battery, never pass it"
        )
    if reading.needle is not Needle.HELD or under(
        reading.volts - meter_uncertainty_volts(reading.volts, rules), limit, VOLTS
    ):
        why = _NEEDLE_WORDS.get(reading.needle, "within what the meter may be off")
        return finding(
            reading, rules, "load.seconds", points_to=Outcome.CANNOT_TELL, weight="weight.doubtful", status="doubtful",
            remedy=StepKey.LOAD_AGAIN, reading_text=reading_text, limit_text=limit_text, text=f"{reading_text} for {reading.seconds:.0f} s: borderline, {why}",
        )  # fmt: skip
    return finding(
        reading, rules, "load.seconds", points_to=Outcome.SOUND, weight="weight.load", reading_text=reading_text, limit_text=limit_text,
        text=f"{reading_text} for {reading.seconds:.0f} s: holds the {limit:.2f} V asked. It took something out: recharge it soon",
    )  # fmt: skip


def _minutes_since_last_pull(reading: AdjustableLoad, case: Case) -> float | None:
    pulls = case.all_of(AdjustableLoad)
    place = bisect_left(pulls, reading.taken_at, key=attrgetter("taken_at"))
    return (reading.taken_at - pulls[place - 1].taken_at).total_seconds() / 60 if place else None


def _failed(reading: AdjustableLoad, case: Case, reading_text: str, limit_text: str, limit: float) -> Finding:
    rules = case.rules_for(reading)
    since, wait = _minutes_since_last_pull(reading, case), rules.load.wait_minutes.value
    if since is not None and under(since, wait, MINUTES):
        why = f"{since:.0f} min after the pull before, it had no time to recover: wait {wait:.0f} min"
        return finding(
            reading, rules, "load.wait_minutes", points_to=None, weight=None, status="dropped", remedy=StepKey.LOAD_AGAIN,
            reading_text=reading_text, limit_text=limit_text, text=f"{reading_text} does not count: {why}", why_not=why,
        )  # fmt: skip
    charge = case.charge_near(reading, rules.load.gate_soc_pct.value)
    if charge == "low":
        return finding(
            reading, rules, "load.gate_soc_pct", points_to=Outcome.NEEDS_CHARGE, weight="weight.doubtful", status="doubtful",
            remedy=StepKey.CHARGE_AND_RETEST, reading_text=reading_text, limit_text=limit_text,
            text=f"{reading_text} failed on a battery {gate_words(reading, case)}: charge it, then pull again",
        )  # fmt: skip
    if charge == "unknown":
        return finding(
            reading, rules, "tester.pairing_minutes", points_to=Outcome.CANNOT_TELL, weight="weight.doubtful", status="doubtful",
            remedy=StepKey.MEASURE_VOLTS, reading_text=reading_text, limit_text=limit_text,
            text=f"{reading_text} failed, but no rest volts near in time say whether it was charged",
        )  # fmt: skip
    if (
        at_least(reading.volts + meter_uncertainty_volts(reading.volts, rules), limit, VOLTS)
        and reading.needle is Needle.HELD
    ):
        return finding(
            reading, rules, "load.seconds", points_to=Outcome.CANNOT_TELL, weight="weight.doubtful", status="doubtful",
            remedy=StepKey.LOAD_AGAIN, reading_text=reading_text, limit_text=limit_text,
            text=f"{reading_text}: {limit - reading.volts:.2f} V under, within what the meter may be off. Wait {rules.load.wait_minutes.value:.0f} min and pull again",
        )  # fmt: skip
    firm = case.battery.rating is None or (case.rated is not None and case.rated.firm)
    return finding(
        reading, rules, "load.seconds", points_to=failed_pull_outcome(case), weight="weight.load" if firm else "weight.tester_equivocal",
        status="counts" if firm else "doubtful", reading_text=reading_text, limit_text=limit_text,
        text=f"{reading_text}: {limit - reading.volts:.2f} V under the {limit:.2f} V asked"
        + (", at once" if reading.needle is Needle.DROPPED_AT_ONCE else "") + fell_words(reading),
    )  # fmt: skip


def too_small(reading: AdjustableLoad | FixedLoad, case: Case, reading_text: str, limit_text: str, why: str) -> Finding:
    """A pull that says nothing: too small, too short, or too hard to fail it by."""
    return finding(
        reading, case.rules, "load.enough_ratio", points_to=None, weight=None, status="dropped", remedy=StepKey.LOAD_TEST,
        reading_text=reading_text, limit_text=limit_text, text=f"{reading_text} does not count: {why}", why_not=why,
    )  # fmt: skip
