"""Charge run and stand: whether it takes a charge and keeps it."""

from ..charge import meter_uncertainty_volts, recharge_line_volts, volts_scale
from ..outcomes import Finding, Outcome
from ..readings import ChargeRun, Stand
from ..tables import charging_limits
from . import Case, finding


def charge_run(reading: ChargeRun, case: Case) -> Finding:
    """Current that stays for hours on a battery that never reaches voltage marks a shorted cell: stop."""
    rules, scale = case.rules, volts_scale(case.battery.nominal_volts)
    limits = charging_limits()[case.battery.chemistry.value]
    reaches = (limits.absorption_volts - rules.stuck_below_absorption_volts.value) * scale
    shown = f"{reading.amps:.1f} A at {reading.volts:.1f} V after {reading.hours:g} h"
    held = f"amps fall, volts reach {reaches:.1f} V"
    stays = reading.amps >= max(rules.stuck_amps.value, reading.start_amps * rules.stuck_share_of_start.value)
    if reading.hours >= rules.stuck_hours.value and stays and reading.volts < reaches:
        rises = reading.amps > reading.start_amps
        return finding(
            reading, rules, "stuck_hours", points_to=Outcome.DEAD_CELL, weight="weight_charge_run", remedy="stop_charge",
            reading_text=shown, limit_text=held,
            text=f"{shown}: the current {'rises' if rises else 'does not fall'} and the volts do not come. A shorted cell: stop the charge",
        )  # fmt: skip
    words = "full and off" if reading.finished else "taking its charge"
    return finding(
        reading, rules, "stuck_hours", points_to=None, weight=None, reading_text=shown, limit_text=held,
        text=f"{shown}: {words}",
    )  # fmt: skip


def stand(reading: Stand, case: Case) -> Finding:
    """After a full charge, off everything: under the charged line before the time is out is a leak inside."""
    rules = case.rules
    line = recharge_line_volts(case.battery, rules)
    shown = f"{reading.start_volts:.2f} to {reading.volts:.2f} V in {reading.hours:g} h"
    held = f"hold {line:.2f} V for {rules.stand_hours.value:.0f} h"
    off = meter_uncertainty_volts(reading.volts, rules)
    if reading.volts + off < line:
        return finding(
            reading, rules, "stand_hours", points_to=Outcome.LEAKS_CHARGE, weight="weight_stand", reading_text=shown,
            limit_text=held, text=f"{shown}: it does not hold its charge",
        )  # fmt: skip
    if reading.volts < line:
        return finding(
            reading, rules, "stand_hours", points_to=Outcome.CANNOT_TELL, weight="weight_doubtful", status="doubtful",
            remedy="stand", reading_text=shown, limit_text=held, text=f"{shown}: on the line, within what the meter may be off",
        )  # fmt: skip
    if reading.hours < rules.stand_hours.value:
        why = f"{reading.hours:g} h of {rules.stand_hours.value:.0f} h: too soon to say it holds"
        return finding(
            reading, rules, "stand_hours", points_to=None, weight=None, status="dropped", remedy="stand", reading_text=shown,
            limit_text=held, text=f"{shown} does not count: {why}", why_not=why,
        )  # fmt: skip
    return finding(
        reading, rules, "stand_hours", points_to=Outcome.SOUND, weight="weight_rest_charged", reading_text=shown,
        limit_text=held, text=f"{shown}: it holds its charge",
    )  # fmt: skip
