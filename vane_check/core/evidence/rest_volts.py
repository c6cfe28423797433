"""Rest volts: how much charge, never how healthy; unless a full charge came before."""

from ..facts.case import Case
from ..facts.rest import after_charge, school_hours
from ..facts.state_of_charge import (
    meter_uncertainty_volts,
    recharge_line_volts,
    share_words,
    state_of_charge_range,
    surface_charge_volts,
    volts_scale,
)
from ..findings.kinds import StepKey
from ..findings.outcomes import Finding, Outcome
from ..readings import Reserve, RestVolts, Settled, Stand
from ..units.compare import HOURS, VOLTS, at_least, over, under
from ..words import Words, digits, fixed, say
from .finding import finding
from .reads import reads


def missing_cells(volts: float, case: Case) -> int:
    """How many cells give nothing, from volts after a charge: 10.5 V of 12 is one of six, 8.4 V two. 0 when none.

    Every voltage up to a window over that of one cell short is some count of cells; nothing falls between.
    """
    cells, live = case.battery.nominal_volts // 2, case.rules.cells.live_volts.value
    own = case.rules.rest.chemistry_offset_volts.value[case.battery.chemistry.value] * volts_scale(
        case.battery.nominal_volts
    )
    if over(volts, (cells - 1) * live + own + case.rules.cells.dead_window_volts.value, VOLTS):
        return 0
    return max(1, cells - round(volts / live))


def charged_since_emptied(reading: RestVolts, case: Case) -> bool:
    """Whether a charge was taken off before this, full or not, and no timed discharge emptied it since."""
    off = case.charge_off_at
    if case.charges_off_before(reading) == 0 or off is None:
        return False
    return not any(off <= run.taken_at < reading.taken_at for run in case.all_of(Reserve))


def near_one_cell_short(volts: float, case: Case) -> bool:
    """Whether volts lie so near those of one cell short that a flat battery is not the likelier reading."""
    cells, live = case.battery.nominal_volts // 2, case.rules.cells.live_volts.value
    near = case.rules.rest.near_cell_short_volts.value * volts_scale(case.battery.nominal_volts)
    return not over(abs(volts - (cells - 1) * live), near, VOLTS)


@reads(RestVolts)
def find(reading: RestVolts, case: Case) -> Finding:
    """Low volts point to a charge; low volts after a charge to a dead cell or a leak; good volts to charge enough."""
    rules = case.rules_for(reading)
    reading_text = say("figures.volts_v", volts=fixed(reading.volts, 2))
    void = case.void(reading)
    if void is not None:
        return finding(
            reading, rules, void.rule, points_to=None, weight=None, status="dropped", reading_text=reading_text,
            limit_text=_limit_of(void.rule, case), text=say('common.does_not_count', reading_text=reading_text, why=void.why),
            why_not=void.why, remedy=void.remedy,
        )  # fmt: skip
    line = recharge_line_volts(case.battery, rules)
    charged = after_charge(reading) or case.charged_before(reading)
    gone = charged_since_emptied(reading, case) and missing_cells(reading.volts, case) > 0
    if (charged or gone) and under(reading.volts, line, VOLTS):
        return _low_after_charge(reading, case, line)
    charge = state_of_charge_range(reading.volts, case.battery, rules, meter_range=reading.meter_range)
    off = meter_uncertainty_volts(reading.volts, rules, reading.meter_range)
    limit_text = say("rest_volts.charge_below_v", line=fixed(line, 2))
    share = (
        say("rest_volts.charged", share_words=share_words(charge.low_pct, charge.high_pct))
        if charge.high_pct >= 0.5
        else say("rest_volts.empty")
    )
    if under(reading.volts + off, line, VOLTS):
        suspected = missing_cells(reading.volts, case)
        text = (
            say(
                "rest_volts.at_rest_as_if_cells_gave_nothing_or_only_flat",
                reading_text=reading_text,
                share=share,
                suspected=suspected,
                nominal_volts=case.battery.nominal_volts // 2,
            )
            if suspected
            else say("rest_volts.at_rest_flat_says_nothing_of_health", reading_text=reading_text, share=share)
        )
        return finding(
            reading, rules, "rest.recharge_line_volts", points_to=Outcome.NEEDS_CHARGE, weight="weight.rest_low",
            reading_text=reading_text, limit_text=limit_text, remedy=StepKey.CHARGE_AND_WATCH if suspected else None,
            text=text,
        )  # fmt: skip
    if under(reading.volts, line, VOLTS):
        return finding(
            reading, rules, "rest.recharge_line_volts", points_to=Outcome.NEEDS_CHARGE, weight="weight.rest_near_line",
            status="doubtful", reading_text=reading_text, limit_text=limit_text,
            text=say('rest_volts.at_rest_under_the_line_within_what_the', reading_text=reading_text, share=share),
        )  # fmt: skip
    near = under(reading.volts, line + off, VOLTS)
    return finding(
        reading, rules, "rest.recharge_line_volts", points_to=Outcome.SOUND, weight="weight.rest_charged",
        status="doubtful" if near else "counts", reading_text=reading_text, limit_text=limit_text,
        text=say('rest_volts.at_rest_on_the_line', reading_text=reading_text, share=share)
        if near
        else say('rest_volts.at_rest_enough_to_judge', reading_text=reading_text, share=share),
    )  # fmt: skip


def _low_after_charge(reading: RestVolts, case: Case, line: float) -> Finding:
    rules = case.rules_for(reading)
    reading_text = say("figures.volts_v", volts=fixed(reading.volts, 2))
    dead = missing_cells(reading.volts, case)
    off = meter_uncertainty_volts(reading.volts, rules, reading.meter_range)
    if dead:
        cells = case.battery.nominal_volts // 2
        return finding(
            reading, rules, "cells.live_volts", points_to=Outcome.DEAD_CELL, weight="weight.dead_cell_volts",
            reading_text=reading_text, limit_text=say('rest_volts.live_cells_are_about_v', cells=cells - dead, volts=fixed((cells - dead) * rules.cells.live_volts.value, 1)),
            text=say('rest_volts.after_a_charge_of_cells_nothing', reading_text=reading_text, dead=dead, cells=cells, count=dead),
        )  # fmt: skip
    hours = reading.rested_hours
    if reading.settled is Settled.RESTED and hours is not None and at_least(hours, rules.stand.hours.value, HOURS):
        near = at_least(reading.volts + off, line, VOLTS)
        return finding(
            reading, rules, "stand.hours", points_to=Outcome.NEEDS_CHARGE if near else Outcome.LEAKS_CHARGE,
            weight="weight.doubtful" if near else "weight.stand", status="doubtful" if near else "counts",
            reading_text=reading_text, limit_text=say('rest_volts.hold_v', line=fixed(line, 2)),
            text=say('rest_volts.after_a_full_charge_and_standing_just_under_the_line', reading_text=reading_text, hours=digits(hours))
            if near
            else say('rest_volts.after_a_full_charge_and_standing_it_does_not_hold', reading_text=reading_text, hours=digits(hours)),
        )  # fmt: skip
    stood = case.last_of(Stand)
    if (
        stood is not None
        and case.charge_off_at is not None
        and case.charge_off_at <= stood.taken_at <= reading.taken_at
    ):
        return finding(
            reading, rules, "rest.recharge_line_volts", points_to=Outcome.NEEDS_CHARGE, weight="weight.rest_near_line", status="doubtful",
            reading_text=reading_text, limit_text=say('rest_volts.charge_below_v', line=fixed(line, 2)), text=say('rest_volts.after_its_stand_what_it_lost_there_says', reading_text=reading_text),
        )  # fmt: skip
    if case.full_charges_before(reading) > 1 and under(reading.volts + off, line, VOLTS):
        return finding(
            reading, rules, "rest.low_after_charge", points_to=Outcome.WORN_OUT, weight="weight.stand",
            reading_text=reading_text, limit_text=say('rest_volts.come_up_to_v', line=fixed(line, 2)),
            text=say('rest_volts.after_a_second_full_charge_it_no_longer', reading_text=reading_text),
        )  # fmt: skip
    if rules.rest.low_after_charge.value == "replace" and under(reading.volts + off, line, VOLTS):
        return finding(
            reading, rules, "rest.low_after_charge", points_to=Outcome.LEAKS_CHARGE, weight="weight.stand",
            reading_text=reading_text, limit_text=say('rest_volts.charge_below_v', line=fixed(line, 2)),
            text=say('rest_volts.after_a_full_charge_this_house_replaces_it', reading_text=reading_text),
        )  # fmt: skip
    if case.full_charges_before(reading) > 1:
        return finding(
            reading, rules, "rest.recharge_line_volts", points_to=Outcome.SOUND, weight="weight.rest_charged", status="doubtful",
            reading_text=reading_text, limit_text=say('rest_volts.charge_below_v', line=fixed(line, 2)),
            text=say('rest_volts.after_a_second_full_charge_on_the_line_by', reading_text=reading_text),
        )  # fmt: skip
    return finding(
        reading, rules, "rest.recharge_line_volts", points_to=Outcome.NEEDS_CHARGE, weight="weight.rest_near_line",
        status="doubtful", reading_text=reading_text, limit_text=say('rest_volts.charge_below_v', line=fixed(line, 2)),
        text=say('rest_volts.after_a_charge_it_did_not_come_up_or_did', reading_text=reading_text),
    )  # fmt: skip


def _limit_of(rule: str, case: Case) -> Words:
    scale = volts_scale(case.battery.nominal_volts)
    if rule == "rest.surface_charge_volts":
        return say(
            "rest_volts.rested_volts_are_at_most_v",
            surface_charge_volts=fixed(surface_charge_volts(case.battery, case.rules), 2),
        )
    if rule == "rest.charging_volts":
        return say(
            "rest_volts.no_rest_voltage_reaches_v",
            charging_volts=fixed(case.rules.rest.charging_volts.value * scale, 1),
        )
    if rule == "meter.range_resolution_volts":
        return say("rest_volts.read_on_the_20_v_range")
    if rule == "rest.school":
        return say("rest_volts.rested_h_off_everything", school_hours=digits(school_hours(case.rules)))
    return say(
        "rest_volts.doubted_below_v", doubt_below_volts=fixed(case.rules.rest.doubt_below_volts.value * scale, 1)
    )
