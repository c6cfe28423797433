"""Charge run and stand: whether it takes a charge and keeps it."""

from bisect import bisect_left, bisect_right
from operator import attrgetter
from statistics import median

from ..charge import (
    state_of_charge_pct,
    volts_scale,
)
from ..compare import GRAVITY, HOURS, TENTH_AMP, VOLTS, at_least, over, under
from ..equipment import Charger
from ..kinds import StepKey
from ..once import once, once_each
from ..outcomes import Finding, Outcome
from ..readings import Cells, ChargeRun
from ..tables import charging_limits
from . import Case, finding
from .charged import ah_in, stopped


@once
def reaches_volts(case: Case) -> float:
    """The volts [V] a charge comes up to when all cells work. Source: tables/charging.csv, less what the house allows."""
    limits = charging_limits()[case.battery.chemistry.value]
    short = case.rules.stuck_below_absorption_volts.value
    return (limits.absorption_volts - short) * volts_scale(case.battery.nominal_volts)


@once_each
def full_by(run: ChargeRun, case: Case) -> str | None:
    """By what a charge that was taken off counts as full, in words; None when nothing shows it.

    At its volts, those of the absorption or of the float after it, the current has tapered, or has not changed for an hour; or
    three gravities that far apart agree; or the charger says so and the rest volts after it agree. Source: the house's
    `full_amps_share`, `full_share_of_start` and `full_still_hours`.
    """
    rules = case.rules
    floats = charging_limits()[case.battery.chemistry.value].float_volts * volts_scale(case.battery.nominal_volts)
    if run.amps is not None and at_least(run.volts, floats, VOLTS):
        least = _tapered_amps(run, case)
        if least is not None and not over(run.amps, least, TENTH_AMP):
            return f"the current has fallen to {run.amps:.1f} A"
        if any(
            one.amps is not None
            and at_least((run.taken_at - one.taken_at).total_seconds() / 3600, rules.full_still_hours.value, HOURS)
            and not over(abs(one.amps - run.amps), rules.no_current_amps.value, TENTH_AMP)
            and at_least(one.volts, reaches_volts(case), VOLTS)
            for one in case.runs_of_charge(run)
        ):
            return "current and volts have stood still for an hour"
    if _gravities_agree(run, case):
        return "three hourly gravities agree"
    place = bisect_left(case.valid_rest_volts, run.taken_at, key=attrgetter("taken_at"))
    after = case.valid_rest_volts[place : place + 1]
    if (
        after
        and case.charges_off_before(after[0]) == case.charges_off_before(run)
        and at_least(after[0].volts, case.recharge_line_volts, VOLTS)
    ):
        return "the charger says so and the rest volts agree"
    return None


def began_amps(run: ChargeRun) -> float | None:
    """What it drew at the start, or at the first moment that was noted: that current fell or stood by either."""
    if run.start_amps is not None or not run.log:
        return run.start_amps
    return min(run.log, key=attrgetter("minutes")).amps


def _tapered_amps(run: ChargeRun, case: Case) -> float | None:
    """The amps [A] at which a charge at its volts counts as full; None when nothing tells."""
    if case.capacity_ah is not None:
        return case.capacity_ah * case.rules.full_amps_share.value
    began = began_amps(run)
    return None if began is None else began * case.rules.full_share_of_start.value


def _gravities_agree(run: ChargeRun, case: Case) -> bool:
    until = bisect_right(case.all_of(Cells), run.taken_at, key=attrgetter("taken_at"))
    read = [
        (cells.taken_at, median(cells.specific_gravities))
        for cells in case.all_of(Cells)[max(until - 3, 0) : until]
        if cells.specific_gravities
    ]
    apart = (len(read) - 1) * case.rules.full_still_hours.value
    if len(read) < 3 or under((read[-1][0] - read[0][0]).total_seconds() / 3600, apart, HOURS):
        return False
    gravities = [gravity for _, gravity in read]
    return not over(max(gravities) - min(gravities), case.rules.gravity_resolution.value, GRAVITY)


def charge_run(reading: ChargeRun, case: Case) -> Finding:
    """Whether it takes its charge: no current, a current that stays for hours below its volts, full or not."""
    reaches = reaches_volts(case)
    held = f"amps fall, volts reach {reaches:.1f} V"
    if reading.amps is None:
        return _maintained(reading, case)
    start = "" if reading.start_amps is None else f" of {reading.start_amps:.1f} A"
    shown = f"{reading.amps:.1f} A{start} at {reading.volts:.1f} V after {reading.hours:g} h"
    found = (
        _no_current(reading, case, shown, held)
        or _stuck(reading, case, shown, held)
        or _taken(reading, case, shown, held)
    )
    put = ah_in(reading, case)
    return found if put is None or put.at_most else found.but(figures=(round(put.ah, 1),))


def _maintained(reading: ChargeRun, case: Case) -> Finding:
    """A maintainer shows volts, not amps: before and after answer yes or no."""
    rules, scale = case.rules, volts_scale(case.battery.nominal_volts)
    least = rules.maintainer_rise_volts.value * scale
    before = reading.start_volts or 0.0
    rises = at_least(reading.volts - before, least, VOLTS)
    shown = f"{before:.2f} to {reading.volts:.2f} V in {reading.hours:g} h"
    return finding(
        reading, rules, "maintainer_rise_volts", points_to=None if rises else Outcome.CANNOT_TELL,
        weight=None if rises else "weight_doubtful", status="counts" if rises else "doubtful",
        remedy=None if rises else StepKey.CHARGE_AND_RETEST, reading_text=shown, limit_text=f"rise by {least:.2f} V",
        text=f"{shown} on a maintainer: " + ("yes, it charges" if rises else "no, it does not charge it"),
    )  # fmt: skip


def _no_current(reading: ChargeRun, case: Case, shown: str, held: str) -> Finding | None:
    """No current at any volts: a charger that does not see it, or a battery that takes none. Full ones take none either."""
    rules = case.rules
    if not case.no_current(reading):
        return None
    began = began_amps(reading)
    flowed = began is not None and over(began, rules.no_current_amps.value, TENTH_AMP)
    at_volts = at_least(reading.volts, reaches_volts(case), VOLTS)
    was = case.rest_until(reading.taken_at)
    if at_volts and (flowed or (was is not None and at_least(was.volts, case.recharge_line_volts, VOLTS))):
        return None
    earlier = any(
        run is not reading and run.taken_at < reading.taken_at
        and case.no_current(run) and at_least(run.volts, reaches_volts(case), VOLTS)
        for run in case.runs_of_charge(reading)
    )  # fmt: skip
    again = at_volts and (reading.recovery or earlier)
    remedy = StepKey.CHECK_CHARGER
    if at_volts and not reading.recovery and may_recover(case):
        remedy = StepKey.RECOVERY_CHARGE
    return finding(
        reading, rules, "no_current_amps", points_to=Outcome.WORN_OUT if again else Outcome.CANNOT_TELL,
        weight="weight_charge_run" if again else "weight_doubtful", status="counts" if again else "doubtful",
        remedy=None if again else remedy, reading_text=shown, limit_text=held,
        text=f"{shown}: it takes no current, "
        + ("dried, sulphated or an open link" if at_volts else "or the charger does not see it"),
    )  # fmt: skip


def may_recover(case: Case) -> bool:
    """Whether a recovery charge may be tried: the house wants it, the type stands it, and neither one nor a second full charge was given."""
    runs = case.all_of(ChargeRun)
    given = any(run.recovery for run in runs) or sum(run.finished for run in runs) > 1
    return case.rules.recovery_first.value == "yes" and case.may_equalise and not given


def _stuck(reading: ChargeRun, case: Case, shown: str, held: str) -> Finding | None:
    """Current that stays, or rises, for hours below the volts a charge comes to: a shorted cell, unless it may still be filling."""
    rules = case.rules
    assert reading.amps is not None
    began = began_amps(reading)
    start = reading.amps if began is None else began
    small = case.battery.capacity_ah_20h
    least = (
        rules.stuck_amps.value if small is None else min(rules.stuck_amps.value, small * rules.stuck_amps_per_ah.value)
    )
    stays = at_least(reading.amps, max(least, start * rules.stuck_share_of_start.value), TENTH_AMP)
    late = at_least(reading.hours, rules.stuck_hours.value, HOURS)
    short = under(reading.volts, reaches_volts(case), VOLTS)
    if short and _rises_and_stands(reading, case):
        return finding(
            reading, rules, "stuck_hours", points_to=Outcome.DEAD_CELL, weight="weight_charge_run", remedy=StepKey.STOP_CHARGE,
            reading_text=shown, limit_text=held,
            text=f"{shown}: the current has risen since the note before and the volts have not. A shorted cell: stop the charge",
        )  # fmt: skip
    if not (late and stays and short):
        return None
    rises = over(reading.amps, start, TENTH_AMP)
    if not rises and _may_still_fill(reading, start, case):
        if reading.stopped:
            return None  # nobody can look again within the hour: what it is worth says more
        return finding(
            reading, rules, "stuck_hours", points_to=Outcome.NEEDS_CHARGE, weight="weight_doubtful", status="doubtful",
            remedy=StepKey.WATCH_CHARGE, reading_text=shown, limit_text=held,
            text=f"{shown}: the current does not fall, but it may still be filling. Look again within the hour",
        )  # fmt: skip
    return finding(
        reading, rules, "stuck_hours", points_to=Outcome.DEAD_CELL, weight="weight_charge_run", remedy=StepKey.STOP_CHARGE,
        reading_text=shown, limit_text=held,
        text=f"{shown}: the current {'rises' if rises else 'does not fall'} and the volts do not come. A shorted cell: stop the charge",
    )  # fmt: skip


def _rises_and_stands(reading: ChargeRun, case: Case) -> bool:
    """Whether two notes of one charge show a current that rises at volts that do not: that needs no hours of waiting."""
    before = [run for run in case.runs_of_charge(reading) if run.taken_at < reading.taken_at and run.amps is not None]
    if not before or reading.amps is None:
        return False
    came = max(before, key=attrgetter("taken_at"))
    return over(reading.amps, came.amps or 0.0, TENTH_AMP) and not over(reading.volts, came.volts, VOLTS)


def _may_still_fill(reading: ChargeRun, start_amps: float, case: Case) -> bool:
    """Whether its Ah are not in it yet, and nothing else speaks of a dead cell: a small charger gives all it has for many hours.

    Where the Ah stand on no label, and the charger gives all it can, they are reckoned from the rating, less what that may be off.
    """
    capacity = case.battery.capacity_ah_20h
    if capacity is None and case.capacity_ah is not None and _gives_all(reading, case):
        capacity = case.capacity_ah * (1 - case.rules.estimate_spread_ratio.value)
    assert reading.amps is not None
    before = case.rest_until(reading.taken_at)
    if capacity is None or before is None:
        return False
    cells_gone = (
        before.volts
        <= (case.battery.nominal_volts // 2 - 1) * case.rules.live_cell_volts.value
        + case.rules.dead_cell_window_volts.value
    )
    missing = 1 - state_of_charge_pct(before.volts, case.battery.chemistry, case.battery.nominal_volts) / 100
    came = next((run for run in case.runs_of_charge(reading) if run.taken_at < reading.taken_at), None)
    still = came is not None and not over(reading.volts, came.volts, VOLTS)
    return not cells_gone and not still and (start_amps + reading.amps) / 2 * reading.hours < missing * capacity


def _gives_all(reading: ChargeRun, case: Case) -> bool:
    """Whether the charger it hangs on is known, and gives as much as it can: then its current cannot fall yet."""
    charger = None if reading.tool is None else reading.tool.tool
    if not isinstance(charger, Charger) or reading.amps is None:
        return False
    return at_least(reading.amps, charger.amps * case.rules.stuck_share_of_start.value, TENTH_AMP)


def _taken(reading: ChargeRun, case: Case, shown: str, held: str) -> Finding:
    rules = case.rules
    if reading.stopped and not reading.finished:
        return stopped(reading, case, shown, held)
    if not reading.finished:
        return finding(
            reading, rules, "stuck_hours", points_to=None, weight=None, reading_text=shown, limit_text=held,
            text=f"{shown}: taking its charge",
        )  # fmt: skip
    by = full_by(reading, case)
    if by is None:
        return finding(
            reading, rules, "full_amps_share", points_to=None, weight=None, status="doubtful", reading_text=shown,
            limit_text=held + _wanted(reading, case),
            text=f"{shown} and off: not shown to be full, whatever the charger says; the rest volts must agree",
        )  # fmt: skip
    return finding(
        reading, rules, "full_amps_share", points_to=None, weight=None, reading_text=shown, limit_text=held + _wanted(reading, case),
        text=f"{shown}: full and off, {by}",
    )  # fmt: skip


def _wanted(reading: ChargeRun, case: Case) -> str:
    least = _tapered_amps(reading, case)
    return "" if least is None else f", full at {least:.1f} A"
