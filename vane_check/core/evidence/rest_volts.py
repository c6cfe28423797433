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
from ..readings import RestVolts, Settled, Stand
from ..units.compare import HOURS, VOLTS, at_least, over, under
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


def near_one_cell_short(volts: float, case: Case) -> bool:
    """Whether volts lie so near those of one cell short that a flat battery is not the likelier reading."""
    cells, live = case.battery.nominal_volts // 2, case.rules.cells.live_volts.value
    near = case.rules.rest.near_cell_short_volts.value * volts_scale(case.battery.nominal_volts)
    return not over(abs(volts - (cells - 1) * live), near, VOLTS)


@reads(RestVolts)
def find(reading: RestVolts, case: Case) -> Finding:
    """Low volts point to a charge; low volts after a charge to a dead cell or a leak; good volts to charge enough."""
    rules = case.rules_for(reading)
    reading_text = f"{reading.volts:.2f} V"
    void = case.void(reading)
    if void is not None:
        return finding(
            reading, rules, void.rule, points_to=None, weight=None, status="dropped", reading_text=reading_text,
            limit_text=_limit_of(void.rule, case), text=f"{reading_text} does not count: {void.why}",
            why_not=void.why, remedy=void.remedy,
        )  # fmt: skip
    line = recharge_line_volts(case.battery, rules)
    charged = after_charge(reading) or case.charged_before(reading)
    gone = case.charges_off_before(reading) > 0 and missing_cells(reading.volts, case) > 0
    if (charged or gone) and under(reading.volts, line, VOLTS):
        return _low_after_charge(reading, case, line)
    charge = state_of_charge_range(reading.volts, case.battery, rules, meter_range=reading.meter_range)
    off = meter_uncertainty_volts(reading.volts, rules, reading.meter_range)
    limit_text = f"charge below {line:.2f} V"
    share = f"{share_words(charge.low_pct, charge.high_pct)} charged" if charge.high_pct >= 0.5 else "empty"
    if under(reading.volts + off, line, VOLTS):
        suspected = missing_cells(reading.volts, case)
        doubt = (
            f"as if {suspected} of {case.battery.nominal_volts // 2} cells gave nothing, or only flat: the charge tells"
            if suspected
            else "flat says nothing of health"
        )
        return finding(
            reading, rules, "rest.recharge_line_volts", points_to=Outcome.NEEDS_CHARGE, weight="weight.rest_low",
            reading_text=reading_text, limit_text=limit_text, remedy=StepKey.CHARGE_AND_WATCH if suspected else None,
            text=f"{reading_text} at rest, {share}: {doubt}",
        )  # fmt: skip
    if under(reading.volts, line, VOLTS):
        return finding(
            reading, rules, "rest.recharge_line_volts", points_to=Outcome.NEEDS_CHARGE, weight="weight.rest_near_line",
            status="doubtful", reading_text=reading_text, limit_text=limit_text,
            text=f"{reading_text} at rest, {share}: under the line, within what the meter may be off",
        )  # fmt: skip
    near = under(reading.volts, line + off, VOLTS)
    return finding(
        reading, rules, "rest.recharge_line_volts", points_to=Outcome.SOUND, weight="weight.rest_charged",
        status="doubtful" if near else "counts", reading_text=reading_text, limit_text=limit_text,
        text=f"{reading_text} at rest, {share}: "
        + ("on the line, within what the meter may be off" if near else "enough to judge"),
    )  # fmt: skip


def _low_after_charge(reading: RestVolts, case: Case, line: float) -> Finding:
    rules = case.rules_for(reading)
    reading_text = f"{reading.volts:.2f} V"
    dead = missing_cells(reading.volts, case)
    off = meter_uncertainty_volts(reading.volts, rules, reading.meter_range)
    if dead:
        cells = case.battery.nominal_volts // 2
        return finding(
            reading, rules, "cells.live_volts", points_to=Outcome.DEAD_CELL, weight="weight.dead_cell_volts",
            reading_text=reading_text, limit_text=f"{cells - dead} live cells are about {(cells - dead) * rules.cells.live_volts.value:.1f} V",
            text=f"{reading_text} after a charge: {dead} of {cells} cells {'gives' if dead == 1 else 'give'} nothing",
        )  # fmt: skip
    hours = reading.rested_hours
    if reading.settled is Settled.RESTED and hours is not None and at_least(hours, rules.stand.hours.value, HOURS):
        near = at_least(reading.volts + off, line, VOLTS)
        return finding(
            reading, rules, "stand.hours", points_to=Outcome.NEEDS_CHARGE if near else Outcome.LEAKS_CHARGE,
            weight="weight.doubtful" if near else "weight.stand", status="doubtful" if near else "counts",
            reading_text=reading_text, limit_text=f"hold {line:.2f} V",
            text=f"{reading_text} after a full charge and {hours:g} h of standing: "
            + ("just under the line" if near else "it does not hold its charge"),
        )  # fmt: skip
    stood = case.last_of(Stand)
    if (
        stood is not None
        and case.charge_off_at is not None
        and case.charge_off_at <= stood.taken_at <= reading.taken_at
    ):
        return finding(
            reading, rules, "rest.recharge_line_volts", points_to=Outcome.NEEDS_CHARGE, weight="weight.rest_near_line", status="doubtful",
            reading_text=reading_text, limit_text=f"charge below {line:.2f} V", text=f"{reading_text} after its stand: what it lost there says why",
        )  # fmt: skip
    if case.full_charges_before(reading) > 1 and under(reading.volts + off, line, VOLTS):
        return finding(
            reading, rules, "rest.low_after_charge", points_to=Outcome.WORN_OUT, weight="weight.stand",
            reading_text=reading_text, limit_text=f"come up to {line:.2f} V",
            text=f"{reading_text} after a second full charge: it no longer comes up",
        )  # fmt: skip
    if rules.rest.low_after_charge.value == "replace" and under(reading.volts + off, line, VOLTS):
        return finding(
            reading, rules, "rest.low_after_charge", points_to=Outcome.LEAKS_CHARGE, weight="weight.stand",
            reading_text=reading_text, limit_text=f"charge below {line:.2f} V",
            text=f"{reading_text} after a full charge: this house replaces it",
        )  # fmt: skip
    if case.full_charges_before(reading) > 1:
        return finding(
            reading, rules, "rest.recharge_line_volts", points_to=Outcome.SOUND, weight="weight.rest_charged", status="doubtful",
            reading_text=reading_text, limit_text=f"charge below {line:.2f} V",
            text=f"{reading_text} after a second full charge: on the line by what the meter may be off, there is no more to give",
        )  # fmt: skip
    return finding(
        reading, rules, "rest.recharge_line_volts", points_to=Outcome.NEEDS_CHARGE, weight="weight.rest_near_line",
        status="doubtful", reading_text=reading_text, limit_text=f"charge below {line:.2f} V",
        text=f"{reading_text} after a charge: it did not come up, or did not hold. Charge once more and let it stand",
    )  # fmt: skip


def _limit_of(rule: str, case: Case) -> str:
    scale = volts_scale(case.battery.nominal_volts)
    if rule == "rest.surface_charge_volts":
        return f"rested volts are at most {surface_charge_volts(case.battery, case.rules):.2f} V"
    if rule == "rest.charging_volts":
        return f"no rest voltage reaches {case.rules.rest.charging_volts.value * scale:.1f} V"
    if rule == "meter.range_resolution_volts":
        return "read on the 20 V range"
    if rule == "rest.school":
        return f"rested {school_hours(case.rules):g} h, off everything"
    return f"doubted below {case.rules.rest.doubt_below_volts.value * scale:.1f} V"
