"""Charge run and stand: whether it takes a charge and keeps it."""

from ..charge import meter_uncertainty_volts, recharge_line_volts, state_of_charge_pct, volts_scale
from ..compare import HOURS, PERCENT, TENTH_AMP, VOLTS, at_least, over, under
from ..kinds import StepKey
from ..outcomes import Finding, Outcome
from ..readings import ChargeRun, Stand
from ..tables import charging_limits
from . import Case, finding


def reaches_volts(case: Case) -> float:
    """The volts [V] a charge comes up to when all cells work. Source: tables/charging.csv, less what the house allows."""
    limits = charging_limits()[case.battery.chemistry.value]
    short = case.rules.stuck_below_absorption_volts.value
    return (limits.absorption_volts - short) * volts_scale(case.battery.nominal_volts)


def charge_run(reading: ChargeRun, case: Case) -> Finding:
    """Current that stays for hours on a battery that never reaches voltage marks a shorted cell: stop."""
    rules, reaches = case.rules, reaches_volts(case)
    shown = f"{reading.amps:.1f} A at {reading.volts:.1f} V after {reading.hours:g} h"
    held = f"amps fall, volts reach {reaches:.1f} V"
    stays = at_least(
        reading.amps, max(rules.stuck_amps.value, reading.start_amps * rules.stuck_share_of_start.value), TENTH_AMP
    )
    if at_least(reading.hours, rules.stuck_hours.value, HOURS) and stays and under(reading.volts, reaches, VOLTS):
        rises = over(reading.amps, reading.start_amps, TENTH_AMP)
        return finding(
            reading, rules, "stuck_hours", points_to=Outcome.DEAD_CELL, weight="weight_charge_run", remedy=StepKey.STOP_CHARGE,
            reading_text=shown, limit_text=held,
            text=f"{shown}: the current {'rises' if rises else 'does not fall'} and the volts do not come. A shorted cell: stop the charge",
        )  # fmt: skip
    words = "full and off" if reading.finished else "taking its charge"
    return finding(
        reading, rules, "stuck_hours", points_to=None, weight=None, reading_text=shown, limit_text=held,
        text=f"{shown}: {words}",
    )  # fmt: skip


HOURS_PER_MONTH = 730


def own_loss_pct(hours: float, case: Case) -> float:
    """What a good battery of this chemistry loses by itself [% of charge] over so many hours."""
    return case.rules.self_discharge_pct_per_month.value[case.battery.chemistry.value] * hours / HOURS_PER_MONTH


def lost_pct(reading: Stand, case: Case) -> float:
    """Charge lost over the stand [%], by the table; surface charge at the start reads as full, never as more."""
    start, end = (
        state_of_charge_pct(volts, case.battery.chemistry, case.battery.nominal_volts)
        for volts in (reading.start_volts, reading.volts)
    )
    return max(start - end, 0.0)


def stand(reading: Stand, case: Case) -> Finding:
    """After a full charge, off everything: under the charged line before the time is out is a leak inside."""
    rules = case.rules
    line = recharge_line_volts(case.battery, rules)
    shown = f"{reading.start_volts:.2f} to {reading.volts:.2f} V in {reading.hours:g} h"
    held = f"hold {line:.2f} V for {rules.stand_hours.value:.0f} h"
    off = meter_uncertainty_volts(reading.volts, rules)
    if under(reading.volts + off, line, VOLTS):
        return finding(
            reading, rules, "stand_hours", points_to=Outcome.LEAKS_CHARGE, weight="weight_stand", reading_text=shown,
            limit_text=held, text=f"{shown}: it does not hold its charge",
        )  # fmt: skip
    if under(reading.volts, line, VOLTS):
        return finding(
            reading, rules, "stand_hours", points_to=Outcome.CANNOT_TELL, weight="weight_doubtful", status="doubtful",
            remedy=StepKey.STAND, reading_text=shown, limit_text=held, text=f"{shown}: on the line, within what the meter may be off",
        )  # fmt: skip
    if under(reading.hours, rules.stand_hours.value, HOURS):
        why = f"{reading.hours:g} h of {rules.stand_hours.value:.0f} h: too soon to say it holds"
        return finding(
            reading, rules, "stand_hours", points_to=None, weight=None, status="dropped", remedy=StepKey.STAND, reading_text=shown,
            limit_text=held, text=f"{shown} does not count: {why}", why_not=why,
        )  # fmt: skip
    lost, own = lost_pct(reading, case), own_loss_pct(reading.hours, case)
    said = f"about {lost:.0f} % lost, where {case.battery.chemistry.words} loses {own:.1f} %"
    if at_least(lost - own, rules.stand_loss_pct.value, PERCENT):
        return finding(
            reading, rules, "stand_loss_pct", points_to=Outcome.SOUND, weight="weight_doubtful", status="doubtful", remedy=StepKey.STAND,
            reading_text=shown, limit_text=held, text=f"{shown}: above the line, but {said}: doubtful, a longer stand would tell",
        )  # fmt: skip
    return finding(
        reading, rules, "stand_hours", points_to=Outcome.SOUND, weight="weight_rest_charged", reading_text=shown,
        limit_text=held, text=f"{shown}: it holds its charge, {said}",
    )  # fmt: skip
