"""The adjustable load, and what it shares with the fixed one. A load smaller than required can fail, never pass."""

from bisect import bisect_left
from operator import attrgetter

from ..facts.case import Case
from ..facts.state_of_charge import (
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
from ..words import NOTHING, Words, fixed, say
from .finding import finding
from .reads import reads


def temperature_of(reading: AdjustableLoad | FixedLoad | Crank, case: Case) -> float:
    """The battery's temperature [C] at the pull; the table's warmest row where nobody ever took it."""
    celsius = case.temperature_at(reading)
    return case.rules.load.default_temperature_c.value if celsius is None else celsius


def failed_pull_outcome(case: Case) -> Outcome:
    """What a failed pull says: worn out, or to be watched where starting is not the battery's work, whatever the pull's size."""
    return Outcome.WATCH if case.judged_by_reserve else Outcome.WORN_OUT


def amps_at_least(reading: AdjustableLoad | FixedLoad) -> float:
    """The amps [A] that were drawn throughout: the end's where they fell."""
    return min(reading.amps, reading.end_amps or reading.amps)


def fell_words(reading: AdjustableLoad | FixedLoad) -> Words:
    """What the amps and the needle say besides, in words."""
    words = (
        NOTHING
        if reading.end_amps is None or reading.end_amps >= reading.amps
        else say("adjustable_load.the_amps_fell_to", end_amps=fixed(reading.end_amps, 0))
    )
    return words + (say("adjustable_load.falling_all_the_while") if reading.needle is Needle.FELL_DURING else NOTHING)


_NEEDLE_WORDS = {
    Needle.DROPPED_AFTER: say("adjustable_load.it_held_for_the_time_then_dropped"),
    Needle.FELL_DURING: say("adjustable_load.it_fell_all_the_while"),
    Needle.DROPPED_AT_ONCE: say("adjustable_load.it_dropped_at_once"),
}


def gate_words(reading: AdjustableLoad | FixedLoad | Crank, case: Case) -> Words:
    """Why the charge was too low to be judged by a pull, as it really is: the share shown, or the house's line."""
    gate = case.rules.load.gate_soc_pct.value
    near = min(case.rests_near(reading), key=lambda volts: abs((volts.taken_at - reading.taken_at).total_seconds()))
    charge = state_of_charge_range(near.volts, case.battery, case.rules_for(near), meter_range=near.meter_range)
    if under(charge.high_pct, gate, PERCENT):
        return say(
            "adjustable_load.of_charge_under_the_asked",
            share_words=share_words(charge.low_pct, charge.high_pct),
            gate=fixed(gate, 0),
        )
    return say(
        "adjustable_load.not_clear_of_the_v_line_by_what_the_meter",
        recharge_line_volts=fixed(case.recharge_line_volts, 2),
    )


@reads(AdjustableLoad)
def find(reading: AdjustableLoad, case: Case) -> Finding:
    """The pull, its weight cut by how far a rating converted from another scale may be off."""
    finding = _adjustable(reading, case)
    spread = case.rated.relative_spread if case.rated is not None and case.rated.firm else 0.0
    return finding if not spread else finding.but(weight=round(finding.weight * (1 - spread), 3))


def _adjustable(reading: AdjustableLoad, case: Case) -> Finding:
    """Half the rated CCA for 15 s against the temperature table; gate at 75 % charge. Source: BCI load test."""
    rules = case.rules_for(reading)
    amps = case.load_amps
    limit = load_min_volts(temperature_of(reading, case), case.battery.nominal_volts)
    reading_text = say("common.v_under_a", volts=fixed(reading.volts, 2), amps=fixed(reading.amps, 0))
    limit_text = say("adjustable_load.hold_v", limit=fixed(limit, 2))
    if amps is None:
        return finding(
            reading, rules, "load.share_of_cca", points_to=None, weight=None, status="dropped", remedy=StepKey.READ_LABEL,
            reading_text=reading_text, limit_text=load_words(rules), text=say('adjustable_load.does_not_count_no_rating_to_size_the_load', reading_text=reading_text),
            why_not=say('adjustable_load.no_rating_to_size_the_load_by'),
        )  # fmt: skip
    full_size = at_least(amps_at_least(reading), amps * rules.load.enough_ratio.value, AMPS)
    full_time = at_least(reading.seconds, rules.load.seconds.value * rules.load.enough_ratio.value, SECONDS)
    if under(reading.volts, limit, VOLTS):
        if over(reading.amps, amps * rules.load.too_much_ratio.value, AMPS) and case.held_a_guess:
            return finding(
                reading, rules, "estimate.spread_ratio", points_to=Outcome.WATCH, weight="weight.doubtful", status="doubtful",
                reading_text=reading_text, limit_text=limit_text,
                text=say('adjustable_load.held_the_smaller_pull_not_this_its_rating_is_a_guess', reading_text=reading_text),
            )  # fmt: skip
        if over(reading.amps, amps * rules.load.too_much_ratio.value, AMPS):
            return too_small(
                reading,
                case,
                reading_text,
                limit_text,
                say(
                    "adjustable_load.pulled_a_where_a_are_asked_too_hard_to",
                    pulled_amps=fixed(reading.amps, 0),
                    asked_amps=fixed(amps, 0),
                ),
            )
        return _failed(reading, case, reading_text, limit_text, limit)
    if not full_size or not full_time:
        short = (
            say("adjustable_load.a_of_a", amps_at_least=fixed(amps_at_least(reading), 0), amps=fixed(amps, 0))
            if not full_size
            else say(
                "adjustable_load.s_of_s",
                seconds=fixed(reading.seconds, 0),
                asked_seconds=fixed(rules.load.seconds.value, 0),
            )
        )
        return too_small(
            reading,
            case,
            reading_text,
            limit_text,
            say("adjustable_load.only_such_a_pull_can_fail_a_battery_never", short=short),
        )
    if reading.needle is not Needle.HELD or under(
        reading.volts - meter_uncertainty_volts(reading.volts, rules), limit, VOLTS
    ):
        why = _NEEDLE_WORDS.get(reading.needle, say("adjustable_load.within_what_the_meter_may_be_off"))
        return finding(
            reading, rules, "load.seconds", points_to=Outcome.CANNOT_TELL, weight="weight.doubtful", status="doubtful",
            remedy=StepKey.LOAD_AGAIN, reading_text=reading_text, limit_text=limit_text, text=say('adjustable_load.for_s_borderline', reading_text=reading_text, seconds=fixed(reading.seconds, 0), why=why),
        )  # fmt: skip
    passing = case.passing_amps
    if passing is not None and under(amps_at_least(reading), passing * rules.load.enough_ratio.value, AMPS):
        return finding(
            reading, rules, "estimate.spread_ratio", points_to=None, weight=None, reading_text=reading_text, limit_text=limit_text,
            text=say('adjustable_load.holds_which_passes_no_rating_that_is_a_guess', reading_text=reading_text, passing=fixed(passing, 0)),
        )  # fmt: skip
    return finding(
        reading, rules, "load.seconds", points_to=Outcome.SOUND, weight="weight.load", reading_text=reading_text, limit_text=limit_text,
        text=say('adjustable_load.for_s_holds_the_v_asked_it_took_something', reading_text=reading_text, seconds=fixed(reading.seconds, 0), limit=fixed(limit, 2)),
    )  # fmt: skip


def _minutes_since_last_pull(reading: AdjustableLoad, case: Case) -> float | None:
    pulls = case.all_of(AdjustableLoad)
    place = bisect_left(pulls, reading.taken_at, key=attrgetter("taken_at"))
    return (reading.taken_at - pulls[place - 1].taken_at).total_seconds() / 60 if place else None


def _failed(reading: AdjustableLoad, case: Case, reading_text: Words, limit_text: Words, limit: float) -> Finding:
    rules = case.rules_for(reading)
    since, wait = _minutes_since_last_pull(reading, case), rules.load.wait_minutes.value
    if since is not None and under(since, wait, MINUTES):
        why = say(
            "adjustable_load.min_after_the_pull_before_it_had_no_time", since=fixed(since, 0), wait=fixed(wait, 0)
        )
        return finding(
            reading, rules, "load.wait_minutes", points_to=None, weight=None, status="dropped", remedy=StepKey.LOAD_AGAIN,
            reading_text=reading_text, limit_text=limit_text, text=say('common.does_not_count', reading_text=reading_text, why=why), why_not=why,
        )  # fmt: skip
    charge = case.charge_near(reading, rules.load.gate_soc_pct.value)
    if charge == "low":
        return finding(
            reading, rules, "load.gate_soc_pct", points_to=Outcome.NEEDS_CHARGE, weight="weight.doubtful", status="doubtful",
            remedy=StepKey.CHARGE_AND_RETEST, reading_text=reading_text, limit_text=limit_text,
            text=say('adjustable_load.failed_on_a_battery_charge_it_then_pull', reading_text=reading_text, gate_words=gate_words(reading, case)),
        )  # fmt: skip
    if charge == "unknown":
        return finding(
            reading, rules, "tester.pairing_minutes", points_to=Outcome.CANNOT_TELL, weight="weight.doubtful", status="doubtful",
            remedy=StepKey.MEASURE_VOLTS, reading_text=reading_text, limit_text=limit_text,
            text=say('adjustable_load.failed_but_no_rest_volts_near_in_time_say', reading_text=reading_text),
        )  # fmt: skip
    if (
        at_least(reading.volts + meter_uncertainty_volts(reading.volts, rules), limit, VOLTS)
        and reading.needle is Needle.HELD
    ):
        return finding(
            reading, rules, "load.seconds", points_to=Outcome.CANNOT_TELL, weight="weight.doubtful", status="doubtful",
            remedy=StepKey.LOAD_AGAIN, reading_text=reading_text, limit_text=limit_text,
            text=say('adjustable_load.v_under_within_what_the_meter_may_be_off', reading_text=reading_text, limit=fixed(limit - reading.volts, 2), wait_minutes=fixed(rules.load.wait_minutes.value, 0)),
        )  # fmt: skip
    by_its_ah = case.battery.rating is None and case.battery.capacity_ah_20h is not None  # a small pull, on purpose
    firm = by_its_ah or (case.rated is not None and case.rated.firm)
    return finding(
        reading, rules, "load.seconds", points_to=failed_pull_outcome(case), weight="weight.load" if firm else "weight.tester_equivocal",
        status="counts" if firm else "doubtful", reading_text=reading_text, limit_text=limit_text,
        text=say('adjustable_load.v_under_the_v_asked', reading_text=reading_text, short_volts=fixed(limit - reading.volts, 2), asked_volts=fixed(limit, 2))
        + (say('adjustable_load.at_once') if reading.needle is Needle.DROPPED_AT_ONCE else "") + fell_words(reading),
    )  # fmt: skip


def too_small(
    reading: AdjustableLoad | FixedLoad, case: Case, reading_text: Words, limit_text: Words, why: Words
) -> Finding:
    """A pull that says nothing: too small, too short, or too hard to fail it by."""
    return finding(
        reading, case.rules, "load.enough_ratio", points_to=None, weight=None, status="dropped", remedy=StepKey.LOAD_TEST,
        reading_text=reading_text, limit_text=limit_text, text=say('common.does_not_count', reading_text=reading_text, why=why), why_not=why,
    )  # fmt: skip
