"""Charge run and stand: whether it takes a charge and keeps it."""

from operator import attrgetter

from ..facts.case import Case
from ..facts.charges import began_amps
from ..facts.put_in import ah_in, worth_so_far
from ..facts.state_of_charge import share_words, state_of_charge_pct, volts_scale
from ..findings.kinds import StepKey
from ..findings.outcomes import Finding, Outcome
from ..readings import ChargeRun
from ..tables import charging_limits
from ..units.compare import HOURS, PERCENT, TENTH_AMP, VOLTS, at_least, over, under
from ..words import NOTHING, Words, digits, fixed, say
from .finding import finding
from .reads import reads
from .rest_volts import missing_cells


@reads(ChargeRun)
def find(reading: ChargeRun, case: Case) -> Finding:
    """Whether it takes its charge: no current, a current that stays for hours below its volts, full or not."""
    reaches = case.charge_reaches_volts
    limit_text = say("charge_run.amps_fall_volts_reach_v", reaches=fixed(reaches, 1))
    if reading.amps is None:
        return _maintained(reading, case)
    start = "" if reading.start_amps is None else say("charge_run.of_a", start_amps=fixed(reading.start_amps, 1))
    reading_text = say(
        "charge_run.a_at_v_after_h",
        amps=fixed(reading.amps, 1),
        start=start,
        volts=fixed(reading.volts, 1),
        hours=digits(reading.hours),
    )
    finding = (
        _no_current(reading, case, reading_text, limit_text)
        or _stuck(reading, case, reading_text, limit_text)
        or _took_charge(reading, case, reading_text, limit_text)
    )
    put = ah_in(reading, case)
    return finding if put is None or put.at_most else finding.but(figures=(round(put.ah, 1),))


def _maintained(reading: ChargeRun, case: Case) -> Finding:
    """A maintainer shows volts, not amps: before and after answer yes or no."""
    rules, scale = case.rules, volts_scale(case.battery.nominal_volts)
    least = rules.charge.maintainer_rise_volts.value * scale
    before = reading.start_volts or 0.0
    rises = at_least(reading.volts - before, least, VOLTS)
    reading_text = say(
        "charge_run.to_v_in_h", before=fixed(before, 2), volts=fixed(reading.volts, 2), hours=digits(reading.hours)
    )
    return finding(
        reading, rules, "charge.maintainer_rise_volts", points_to=None if rises else Outcome.CANNOT_TELL,
        weight=None if rises else "weight.doubtful", status="counts" if rises else "doubtful",
        remedy=None if rises else StepKey.CHARGE_AND_RETEST, reading_text=reading_text, limit_text=say('charge_run.rise_by_v', least=fixed(least, 2)),
        text=say('charge_run.on_a_maintainer_it_charges', reading_text=reading_text)
        if rises
        else say('charge_run.on_a_maintainer_it_does_not', reading_text=reading_text),
    )  # fmt: skip


def _no_current(reading: ChargeRun, case: Case, reading_text: Words, limit_text: Words) -> Finding | None:
    """No current at any volts: a charger that does not see it, or a battery that takes none. Full ones take none either."""
    rules = case.rules
    if not case.no_current(reading):
        return None
    began = began_amps(reading)
    flowed = began is not None and over(began, rules.charge.no_current_amps.value, TENTH_AMP)
    at_volts = at_least(reading.volts, case.charge_reaches_volts, VOLTS)
    was = case.rest_until(reading.taken_at)
    if at_volts and (flowed or (was is not None and at_least(was.volts, case.recharge_line_volts, VOLTS))):
        return None
    earlier = any(
        run is not reading and run.taken_at < reading.taken_at
        and case.no_current(run) and at_least(run.volts, case.charge_reaches_volts, VOLTS)
        for run in case.runs_of_charge(reading)
    )  # fmt: skip
    again = at_volts and (reading.recovery or earlier)
    remedy = StepKey.CHECK_CHARGER
    if at_volts and not reading.recovery and may_recover(case):
        remedy = StepKey.RECOVERY_CHARGE
    return finding(
        reading, rules, "charge.no_current_amps", points_to=Outcome.WORN_OUT if again else Outcome.CANNOT_TELL,
        weight="weight.charge_run" if again else "weight.doubtful", status="counts" if again else "doubtful",
        remedy=None if again else remedy, reading_text=reading_text, limit_text=limit_text,
        text=say('charge_run.takes_no_current_dried_sulphated_or_open', reading_text=reading_text)
        if at_volts
        else say('charge_run.takes_no_current_or_the_charger_does_not_see_it', reading_text=reading_text),
    )  # fmt: skip


def may_recover(case: Case) -> bool:
    """Whether a recovery charge may be tried: the house wants it, the type stands it, and neither one nor a second full charge was given."""
    runs = case.all_of(ChargeRun)
    given = any(run.recovery for run in runs) or sum(run.finished for run in runs) > 1
    return case.rules.charge.recovery_first.value == "yes" and case.may_equalise and not given


def _stuck(reading: ChargeRun, case: Case, reading_text: Words, limit_text: Words) -> Finding | None:
    """Current that stays, or rises, for hours below the volts a charge comes to: a shorted cell, unless it may still be filling."""
    rules = case.rules
    assert reading.amps is not None
    began = began_amps(reading)
    start = reading.amps if began is None else began
    small = case.battery.capacity_ah_20h
    least = (
        rules.charge.stuck_amps.value
        if small is None
        else min(rules.charge.stuck_amps.value, small * rules.charge.stuck_amps_per_ah.value)
    )
    stays = at_least(reading.amps, max(least, start * rules.charge.stuck_share_of_start.value), TENTH_AMP)
    late = at_least(reading.hours, rules.charge.stuck_hours.value, HOURS)
    short = under(reading.volts, case.charge_reaches_volts, VOLTS)
    if short and _rises_and_stands(reading, case):
        return finding(
            reading, rules, "charge.stuck_hours", points_to=Outcome.DEAD_CELL, weight="weight.charge_run", remedy=StepKey.STOP_CHARGE,
            reading_text=reading_text, limit_text=limit_text,
            text=say('charge_run.the_current_has_risen_since_the_note', reading_text=reading_text),
        )  # fmt: skip
    if not (late and stays and short):
        return None
    stands = _volts_stand(reading, case, rules.charge.full_still_hours.value)
    hours = rules.charge.stuck_hours.value
    for_long = _volts_stand(reading, case, hours if _is_a_cell_short(reading, case) else 2 * hours)
    rises = over(reading.amps, start, TENTH_AMP) and not _volts_have_risen(reading, case)
    if not rises and not for_long and not (stands and _its_ah_are_in(reading, start, case)):
        if reading.stopped:
            return None  # nobody can look again within the hour: what it is worth says more
        may_be_short = stands or _its_ah_are_in(reading, start, case) or _rested_a_cell_short(reading, case)
        if not may_be_short or fills_well(case):
            return None
        return finding(
            reading, rules, "charge.stuck_hours", points_to=Outcome.NEEDS_CHARGE, weight="weight.doubtful", status="doubtful",
            remedy=StepKey.WATCH_CHARGE, reading_text=reading_text, limit_text=limit_text,
            text=say('charge_run.the_current_does_not_fall_but_it_may_still', reading_text=reading_text),
        )  # fmt: skip
    return finding(
        reading, rules, "charge.stuck_hours", points_to=Outcome.DEAD_CELL, weight="weight.charge_run", remedy=StepKey.STOP_CHARGE,
        reading_text=reading_text, limit_text=limit_text,
        text=say('charge_run.the_current_and_the_volts_do_not_come_a', reading_text=reading_text, what=say('charge_run.rises') if rises else say('charge_run.does_not_fall')),
    )  # fmt: skip


def _volts_have_risen(reading: ChargeRun, case: Case) -> bool:
    """Whether an earlier note of this charge had lower volts."""
    before = (run.volts for run in case.runs_of_charge(reading) if run.taken_at < reading.taken_at)
    return any(over(reading.volts, volts, VOLTS) for volts in before)


def _is_a_cell_short(reading: ChargeRun, case: Case) -> bool:
    """Whether its volts on charge are no more than all cells but one would have at the table's."""
    limits, cells = charging_limits()[case.battery.chemistry.value], case.battery.nominal_volts // 2
    most = limits.absorption_volts * volts_scale(case.battery.nominal_volts) * (cells - 1) / cells
    return not over(reading.volts, most, VOLTS)


def _volts_stand(reading: ChargeRun, case: Case, hours: float) -> bool:
    """Whether its volts are no higher than so many hours ago, by a digit or two of one meter."""
    rules = case.rules
    digit = rules.stand.digits_volts.value * volts_scale(case.battery.nominal_volts)
    return any(
        at_least((reading.taken_at - run.taken_at).total_seconds() / 3600, hours, HOURS)
        and not over(reading.volts, run.volts + digit, VOLTS)
        for run in case.runs_of_charge(reading)
    )


def fills_well(case: Case) -> bool:
    """Whether the charge that is on has been watched for its first hours and its volts rise: what looked like a cell gone was only flat."""
    last = case.last_of(ChargeRun)
    if last is None or last.finished or last.stopped or last.amps is None or case.no_current(last):
        return False
    late = at_least(last.hours, case.rules.charge.stuck_hours.value, HOURS)
    digit = case.rules.stand.digits_volts.value * volts_scale(case.battery.nominal_volts)
    rises = over(last.volts, min(run.volts for run in case.runs_of_charge(last)) + digit, VOLTS)
    return late and rises and not _volts_stand(last, case, case.rules.charge.full_still_hours.value)


def _rested_a_cell_short(reading: ChargeRun, case: Case) -> bool:
    """Whether it rested before as if a cell gave nothing, or was only flat: that charge is watched."""
    rest = case.rest_until(reading.taken_at)
    return rest is not None and missing_cells(rest.volts, case) > 0


def _rises_and_stands(reading: ChargeRun, case: Case) -> bool:
    """Whether two notes of one charge show a current that rises at volts that do not: that needs no hours of waiting."""
    before = [run for run in case.runs_of_charge(reading) if run.taken_at < reading.taken_at and run.amps is not None]
    if not before or reading.amps is None:
        return False
    came = max(before, key=attrgetter("taken_at"))
    return over(reading.amps, came.amps or 0.0, TENTH_AMP) and not over(reading.volts, came.volts, VOLTS)


def _its_ah_are_in(reading: ChargeRun, start_amps: float, case: Case) -> bool:
    """Whether it has had the Ah its charge takes: until then a small charger gives all it has for many hours, and nothing is dead.

    Where the Ah stand on no label they are reckoned from the rating, and more by what that may be off; where nothing tells them, volts that
    stand have the word.
    """
    assert reading.amps is not None
    capacity = case.battery.capacity_ah_20h
    if capacity is None and case.capacity_ah is not None:
        capacity = case.capacity_ah * (1 + case.rules.estimate.spread_ratio.value)
    if capacity is None:
        return True
    rest = case.rest_until(reading.taken_at)
    known = rest is not None and case.emptied_before(rest) == case.emptied_before(reading)
    pct = state_of_charge_pct(rest.volts, case.battery.chemistry, case.battery.nominal_volts) if known and rest else 0.0
    takes_ah = (1 - pct / 100) * capacity * case.rules.charge.overhead.value
    return not under((start_amps + reading.amps) / 2 * reading.hours, takes_ah, HOURS)


def _took_charge(reading: ChargeRun, case: Case, reading_text: Words, limit_text: Words) -> Finding:
    rules = case.rules
    if reading.stopped and not reading.finished:
        return stopped(reading, case, reading_text, limit_text)
    if not reading.finished:
        return finding(
            reading, rules, "charge.stuck_hours", points_to=None, weight=None, reading_text=reading_text, limit_text=limit_text,
            text=say('charge_run.taking_its_charge', reading_text=reading_text),
        )  # fmt: skip
    by = case.full_by(reading)
    if by is None:
        return finding(
            reading, rules, "charge.full_amps_share", points_to=None, weight=None, status="doubtful", reading_text=reading_text,
            limit_text=limit_text + _full_at_words(reading, case),
            text=say('charge_run.and_off_not_shown_to_be_full_whatever_the', reading_text=reading_text),
        )  # fmt: skip
    return finding(
        reading, rules, "charge.full_amps_share", points_to=None, weight=None, reading_text=reading_text, limit_text=limit_text + _full_at_words(reading, case),
        text=say('charge_run.full_and_off', reading_text=reading_text, by=by),
    )  # fmt: skip


def _full_at_words(reading: ChargeRun, case: Case) -> Words:
    least = case.tapered_amps(reading)
    return NOTHING if least is None else say("charge_run.full_at_a", least=fixed(least, 1))


def stopped(reading: ChargeRun, case: Case, reading_text: Words, limit_text: Words) -> Finding:
    """A charge stopped early says what it is worth: the share it came to; under the house's line it still needs a charge."""
    rules, worth = case.rules, worth_so_far(case)
    last = case.all_of(ChargeRun)[-1] is reading
    line = state_of_charge_pct(case.recharge_line_volts, case.battery.chemistry, case.battery.nominal_volts)
    low = last and (worth is None or under(worth.high_pct, line, PERCENT))
    if worth is None or not last:
        words = say("charge_run.what_it_is_worth_is_not_known_let_it_rest")
    else:
        words = say(
            "charge_run.about_ah_went_in_charged_now",
            stored_ah=fixed(worth.stored_ah, 0),
            share_words=share_words(worth.low_pct, worth.high_pct),
        )
    return finding(
        reading, rules, "charge.efficiency", points_to=Outcome.NEEDS_CHARGE if low else None,
        weight="weight.rest_near_line" if low else None, reading_text=reading_text, limit_text=limit_text,
        text=say('charge_run.taken_off_before_it_was_full', reading_text=reading_text, words=words),
    )  # fmt: skip
