"""Stand: what it lost off everything, a day, beyond what its type loses by itself and the digits of one meter."""

from datetime import datetime, timedelta

from ..facts.case import Case
from ..facts.history import last_before, last_until
from ..facts.remembered import remembered_each
from ..facts.state_of_charge import (
    meter_uncertainty_volts,
    recharge_line_volts,
    state_of_charge_pct,
    volts_at_pct,
    volts_scale,
)
from ..findings.kinds import StepKey
from ..findings.outcomes import Finding, Outcome
from ..readings import Stand
from ..units.compare import HOURS, PERCENT, VOLTS, at_least, over, under
from ..units.conversions import HOURS_PER_DAY, HOURS_PER_MONTH
from ..words import Words, digits, fixed, say
from .finding import finding
from .reads import reads


def own_loss_pct(hours: float, case: Case) -> float:
    """What a good battery of this chemistry loses by itself [% of charge] over so many hours."""
    return case.rules.stand.self_discharge_pct_per_month.value[case.battery.chemistry.value] * hours / HOURS_PER_MONTH


def lost_pct(reading: Stand, case: Case, forgiven_volts: float = 0.0) -> float:
    """Charge lost over the stand [%], by the table; surface charge at the start reads as full, never as more.

    A start that was proven to be at rest may lie over the table's full: some types rest higher, and what it lost from there counts.
    `forgiven_volts` are not counted as lost [V].
    """
    whole = started_at_rest(reading, case)
    start, end = (
        _pct(volts, case, over_full=whole)
        for volts in (reading.start_volts, min(reading.volts + forgiven_volts, reading.start_volts))
    )
    return max(start - end, 0.0)


def _pct(volts: float, case: Case, over_full: bool) -> float:
    """Charge by the table [%]; over its full by the slope of its top part where that is wanted."""
    pct = state_of_charge_pct(volts, case.battery.chemistry, case.battery.nominal_volts)
    full = volts_at_pct(FULL_PCT, case.battery)
    if not over_full or volts <= full:
        return pct
    return pct + (volts - full) * PER_CENT_OF_TOP / (full - volts_at_pct(FULL_PCT - PER_CENT_OF_TOP, case.battery))


PER_CENT_OF_TOP = 25.0
"""The table's top part, whose slope goes on over its end."""


@remembered_each
def started_at_rest(reading: Stand, case: Case) -> bool:
    """Whether headlamps, counted hours or a stand since the last charge prove that no surface charge was left at its start: it began
    at no more than what was read then."""
    offs = case.charges_off_before(reading)
    digits = case.rules.stand.digits_volts.value * volts_scale(case.battery.nominal_volts)
    rested, stood = last_until(case.proven_rests, _began(reading, case)), _stood_before(reading, case)
    proven = next(
        (proof for proof in (rested, stood) if proof is not None and case.charges_off_before(proof) == offs), None
    )
    return proven is not None and not over(reading.start_volts, proven.volts + digits, VOLTS)


def _began(reading: Stand, case: Case) -> datetime:
    """When the stand began; its start's volts may be the very rest volts that were read, and written down a little later."""
    return reading.taken_at + timedelta(minutes=case.rules.stand.start_minutes.value, hours=-reading.hours)


def _stood_before(reading: Stand, case: Case) -> Stand | None:
    return last_before(case.all_of(Stand), reading.taken_at)


def leak_pct_per_day(reading: Stand, case: Case) -> float:
    """Charge lost a day [%] beyond what the type loses by itself and the digits of one meter; never below 0.

    The same meter twice cancels its own error, so that only the digits remain.
    """
    digits = case.rules.stand.digits_volts.value * volts_scale(case.battery.nominal_volts)
    lost = lost_pct(reading, case, forgiven_volts=digits) - own_loss_pct(reading.hours, case)
    return max(lost, 0.0) / reading.hours * HOURS_PER_DAY


@remembered_each
def was_at_rest(reading: Stand, case: Case) -> bool:
    """Whether its start may be trusted to be free of surface charge.

    Not where it came in charged and nothing but a word says that it was rested: no headlamps, no hours, no stand before it.
    """
    if case.charges_off_before(reading) or _stood_before(reading, case) is not None:
        return True
    began = _began(reading, case)
    return case.rest_until(began) is None or last_until(case.proven_rests, began) is not None


FULL_PCT = 100.0
"""A start above what full batteries rest at still has its surface charge."""


@reads(Stand)
def find(reading: Stand, case: Case) -> Finding:
    """Off everything: judged by what was lost a day; where the surface charge was still on at the start, by the line."""
    rules = case.rules_for(reading)
    line = recharge_line_volts(case.battery, rules)
    reading_text = say(
        "stand.to_v_in_h",
        start_volts=fixed(reading.start_volts, 2),
        volts=fixed(reading.volts, 2),
        hours=digits(reading.hours),
    )
    lost, own = lost_pct(reading, case), own_loss_pct(reading.hours, case)
    words = say(
        "stand.about_lost_where_loses", lost=fixed(lost, 0), chemistry=case.battery.chemistry.words, own=fixed(own, 1)
    )
    limit_text = say(
        "stand.lose_less_than_a_day_hold_v_for_h",
        leak_pct_per_day=fixed(rules.stand.leak_pct_per_day.value, 0),
        line=fixed(line, 2),
        hours=fixed(rules.stand.hours.value, 0),
    )

    def told(
        rule: str,
        points_to: Outcome | None,
        weight: str | None,
        text: Words,
        remedy: StepKey | None = None,
        why: Words | None = None,
    ) -> Finding:
        return finding(
            reading, rules, rule, points_to=points_to, weight=weight, remedy=remedy, reading_text=reading_text, limit_text=limit_text,
            status="dropped" if why else "doubtful" if remedy else "counts", why_not=why, text=text,
        )  # fmt: skip

    off = meter_uncertainty_volts(reading.volts, rules)
    readout = rules.stand.digits_volts.value * volts_scale(case.battery.nominal_volts)
    settled = started_at_rest(reading, case) or not over(
        reading.start_volts, volts_at_pct(FULL_PCT, case.battery) + 2 * readout, VOLTS
    )
    a_day = leak_pct_per_day(reading, case)
    is_long = at_least(reading.hours, rules.stand.long_hours.value, HOURS)
    small = at_least(
        a_day, (rules.stand.leak_long_pct_per_day if is_long else rules.stand.leak_doubt_pct_per_day).value, PERCENT
    )
    ends_full = at_least(reading.volts, volts_at_pct(FULL_PCT, case.battery), VOLTS)
    large = at_least(a_day, rules.stand.leak_pct_per_day.value, PERCENT)
    if settled and (small or large) and not was_at_rest(reading, case):
        low = under(reading.volts, line, VOLTS)
        why = (
            say("stand.surface_charge_at_its_start_charge_it_first", reading_text=reading_text)
            if low
            else say("stand.surface_charge_at_its_start_stand_it_on", reading_text=reading_text)
        )
        step = StepKey.CHARGE_AND_RETEST if low else StepKey.STAND
        points = Outcome.NEEDS_CHARGE if low else Outcome.CANNOT_TELL
        return told("stand.leak_doubt_pct_per_day", points, "weight.doubtful", why, step)
    if settled and large and not ends_full:
        return told(
            "stand.leak_pct_per_day",
            Outcome.LEAKS_CHARGE,
            "weight.stand",
            say("stand.it_does_not_hold_its_charge", reading_text=reading_text, words=words),
        )
    if not settled and under(reading.volts + off, line, VOLTS):
        return told(
            "stand.hours",
            Outcome.LEAKS_CHARGE,
            "weight.stand",
            say("stand.it_does_not_hold_its_charge_2", reading_text=reading_text),
        )
    if under(reading.hours, rules.stand.hours.value, HOURS):
        why = say(
            "stand.h_of_h_too_soon_to_say_it_holds",
            hours=digits(reading.hours),
            asked_hours=fixed(rules.stand.hours.value, 0),
        )
        return told(
            "stand.hours",
            None,
            None,
            say("stand.does_not_count", reading_text=reading_text, why=why),
            StepKey.STAND,
            why,
        )
    if settled and small and is_long and not ends_full:
        return told(
            "stand.leak_long_pct_per_day",
            Outcome.LEAKS_CHARGE,
            "weight.stand",
            say("stand.a_small_leak", reading_text=reading_text, words=words),
        )
    if settled and small and not is_long:
        longer = say(
            "stand.stand_it_h_that_settles_it",
            reading_text=reading_text,
            words=words,
            long_hours=fixed(rules.stand.long_hours.value, 0),
        )
        return told("stand.leak_doubt_pct_per_day", Outcome.CANNOT_TELL, "weight.doubtful", longer, StepKey.STAND)
    if under(reading.volts, line, VOLTS):
        lacks = (
            say("stand.it_lost_nothing_but_stands_low_it_lacked", reading_text=reading_text)
            if settled
            else say("stand.on_the_line_charge_it_on", reading_text=reading_text)
        )
        return told(
            "rest.recharge_line_volts", Outcome.NEEDS_CHARGE, "weight.rest_near_line", lacks, StepKey.CHARGE_AND_RETEST
        )
    if not is_long and at_least(lost - own, rules.stand.loss_pct.value, PERCENT):
        return told(
            "stand.loss_pct",
            Outcome.CANNOT_TELL,
            "weight.doubtful",
            say("stand.above_the_line_but_a_longer_stand_tells", reading_text=reading_text, words=words),
            StepKey.STAND,
        )
    return told(
        "stand.hours",
        Outcome.SOUND,
        "weight.rest_charged",
        say("stand.it_holds_its_charge", reading_text=reading_text, words=words),
    )
