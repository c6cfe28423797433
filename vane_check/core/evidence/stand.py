"""Stand: what it lost off everything, a day, beyond what its type loses by itself and the digits of one meter."""

from datetime import datetime, timedelta

from ..facts.case import Case
from ..facts.history import last_before, last_until
from ..facts.remembered import remembered, remembered_each
from ..facts.state_of_charge import (
    meter_uncertainty_volts,
    recharge_line_volts,
    state_of_charge_pct,
    volts_at_pct,
    volts_scale,
)
from ..findings.kinds import StepKey
from ..findings.outcomes import Finding, Outcome
from ..readings import RestVolts, Stand
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
    """Whether its start was read hours after the charger: at the end of a stand, or after hours of rest that were counted; and no higher
    than what was read then. Headlamps take most of the surface charge, not all of it."""
    offs = case.charges_off_before(reading)
    digits = case.rules.stand.digits_volts.value * volts_scale(case.battery.nominal_volts)
    late = case.rules.stand.settle_hours.value
    counted = _counted(case)
    rested, stood = last_until(counted, _began(reading, case)), _stood_before(reading, case)
    if stood is not None and under(hours_stood(stood, case), late, HOURS):
        stood = None
    proven = next(
        (proof for proof in (stood, rested) if proof is not None and case.charges_off_before(proof) == offs), None
    )
    return proven is not None and not over(reading.start_volts, proven.volts + digits, VOLTS)


@remembered
def _counted(case: Case) -> list[RestVolts]:
    """Rest volts after so many counted hours that no surface charge is left."""
    late = case.rules.stand.settle_hours.value
    return [volts for volts in case.valid_rest_volts if at_least(volts.rested_hours or 0, late, HOURS)]


def hours_stood(reading: Stand, case: Case) -> float:
    """Hours it has stood since the last charge [h], the stands before this one too."""
    return _hours_stood(case)[id(reading)]


@remembered
def _hours_stood(case: Case) -> dict[int, float]:
    """Of each stand the hours since the last charge, by the object it is."""
    result, sums = dict[int, float](), dict[int, float]()
    for stand in case.all_of(Stand):
        offs = case.charges_off_before(stand)
        sums[offs] = sums.get(offs, 0.0) + stand.hours
        result[id(stand)] = sums[offs]
    return result


@remembered
def _most_lost_volts(case: Case) -> float:
    """The most any stand of this check lost [V]."""
    return max((_lost_volts(stand) for stand in case.all_of(Stand)), default=0.0)


STANDS_AT_MOST = 3
"""A loss that dies away is looked at once more, not for ever."""


def dies_away(reading: Stand, case: Case) -> bool:
    """Whether it lost less than half as much an hour as in the stand before: surface charge goes so, a leak goes on as it began."""
    before = _stood_before(reading, case)
    if before is None or case.charges_off_before(before) != case.charges_off_before(reading):
        return False
    now, then = (max(stand.start_volts - stand.volts, 0.0) / stand.hours for stand in (reading, before))
    return 2 * now < then


def _lost_volts(reading: Stand) -> float:
    return max(reading.start_volts - reading.volts, 0.0)


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
    settled = started_at_rest(reading, case)
    a_day = leak_pct_per_day(reading, case)
    is_long = at_least(hours_stood(reading, case), rules.stand.long_hours.value, HOURS)
    small = at_least(
        a_day, (rules.stand.leak_long_pct_per_day if is_long else rules.stand.leak_doubt_pct_per_day).value, PERCENT
    )
    ends_full = at_least(reading.volts, volts_at_pct(FULL_PCT, case.battery), VOLTS)
    large = at_least(a_day, rules.stand.leak_pct_per_day.value, PERCENT)
    lost_all_a_charge_gave = under(reading.volts + off, line, VOLTS) and case.charged_before(reading)
    if settled and large and not ends_full:
        return told(
            "stand.leak_pct_per_day",
            Outcome.LEAKS_CHARGE,
            "weight.stand",
            say("stand.it_does_not_hold_its_charge", reading_text=reading_text, words=words),
        )
    if not settled and lost_all_a_charge_gave:
        return told(
            "stand.hours",
            Outcome.LEAKS_CHARGE,
            "weight.stand",
            say("stand.it_does_not_hold_its_charge_2", reading_text=reading_text),
        )
    over_a_night = _lost_volts(reading) / reading.hours * HOURS_PER_DAY  # with what lies over the table's full
    drops = at_least(over_a_night, 2 * rules.stand.drop_volts.value * volts_scale(case.battery.nominal_volts), VOLTS)
    if not settled and (((small or large) and not ends_full) or drops):
        low = under(reading.volts, line, VOLTS)
        why = (
            say("stand.surface_charge_at_its_start_charge_it_first", reading_text=reading_text)
            if low
            else say("stand.surface_charge_at_its_start_stand_it_on", reading_text=reading_text)
        )
        step = StepKey.CHARGE_AND_RETEST if low else StepKey.STAND
        points = Outcome.NEEDS_CHARGE if low else Outcome.CANNOT_TELL
        return told("stand.settle_hours", points, "weight.doubtful", why, step)
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
    if settled and small and is_long and dies_away(reading, case) and len(case.all_of(Stand)) < STANDS_AT_MOST:
        again = say("stand.it_lost_less_than_before_stand_it_on", reading_text=reading_text)
        return told("stand.leak_long_pct_per_day", Outcome.CANNOT_TELL, "weight.doubtful", again, StepKey.STAND)
    if settled and small and is_long and not ends_full and not dies_away(reading, case):
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
    given_all = case.charged_before(reading) and (
        at_least(reading.volts + off, line, VOLTS) or case.full_charges_before(reading) > 1
    )
    held_every_time = not over(
        _most_lost_volts(case), rules.stand.drop_volts.value * volts_scale(case.battery.nominal_volts), VOLTS
    )
    if under(reading.volts, line, VOLTS) and given_all and held_every_time and not small:
        words = say("stand.it_holds_all_a_full_charge_gave", reading_text=reading_text)
        return told("stand.hours", Outcome.SOUND, "weight.rest_near_line", words)
    if under(reading.volts, line, VOLTS):
        lacks = (
            say("stand.it_lost_nothing_but_stands_low_it_lacked", reading_text=reading_text)
            if settled or not over(reading.start_volts, volts_at_pct(FULL_PCT, case.battery), VOLTS)
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
