"""Cells: gravity and volts of each, and which gas on charge."""

from ..compare import GRAVITY, VOLTS, at_least, over, under
from ..kinds import StepKey
from ..outcomes import Finding, Outcome
from ..readings import Cells, CellState
from ..rules import HouseRules
from . import Case, finding

FAHRENHEIT_PER_CELSIUS = 1.8


def corrected_gravity(gravity: float, temperature_c: float, rules: HouseRules) -> float:
    """Gravity corrected to 26.7 C (80 F) [1]: 0.004 more for each 10 F above, less below. Source: trade tables.

    >>> from ..rules import house_rules
    >>> round(corrected_gravity(1.250, 4.5, house_rules()), 3)
    1.234
    """
    tens_of_f = (temperature_c - rules.gravity_reference_c.value) * FAHRENHEIT_PER_CELSIUS / 10
    return gravity + rules.gravity_per_10f.value * tens_of_f


def corrected_gravities(reading: Cells, rules: HouseRules) -> tuple[float, ...]:
    """All cells corrected; as read when no temperature was taken."""
    if reading.temperature_c is None:
        return reading.specific_gravities
    return tuple(corrected_gravity(gravity, reading.temperature_c, rules) for gravity in reading.specific_gravities)


def find(reading: Cells, case: Case) -> Finding:
    """Still cells beside lively ones, then volts, then gravity: the surest sign of a failing cell first."""
    return _on_charge(reading, case) or _by_volts(reading, case) or _by_gravity(reading, case)


def _numbers(places: list[int]) -> str:
    return ("cell " if len(places) == 1 else "cells ") + ", ".join(str(place + 1) for place in places)


def _on_charge(reading: Cells, case: Case) -> Finding | None:
    still = [place for place, state in enumerate(reading.on_charge) if state is CellState.STILL]
    if not still or len(still) == len(reading.on_charge):
        return None
    return finding(
        reading, case.rules, "weight_charge_run", points_to=Outcome.DEAD_CELL, weight="weight_charge_run",
        reading_text=f"{_numbers(still)} still", limit_text="all cells gas alike",
        text=f"{_numbers(still).capitalize()} still beside lively ones on charge: shorted. Stop the charge",
        places=tuple(still),
    )  # fmt: skip


def _by_volts(reading: Cells, case: Case) -> Finding | None:
    if not reading.cell_volts:
        return None
    rules, best = case.rules, max(reading.cell_volts)
    failing = [
        i for i, volts in enumerate(reading.cell_volts) if at_least(best - volts, rules.cell_failing_volts.value, VOLTS)
    ]
    if failing:
        return finding(
            reading, case.rules, "cell_failing_volts", points_to=Outcome.DEAD_CELL, weight="weight_cells",
            reading_text=f"{_numbers(failing)} {min(reading.cell_volts):.2f} V", limit_text=f"within {case.rules.cell_failing_volts.value:.2f} V of its mates",
            text=f"{_numbers(failing).capitalize()} {best - min(reading.cell_volts):.2f} V under the best: failing", places=tuple(failing),
        )  # fmt: skip
    if reading.specific_gravities:
        return None
    apart = [
        i for i, volts in enumerate(reading.cell_volts) if at_least(best - volts, rules.cell_suspect_volts.value, VOLTS)
    ]
    suspect = bool(apart)
    return finding(
        reading, case.rules, "cell_suspect_volts", points_to=Outcome.CANNOT_TELL if suspect else None,
        weight="weight_doubtful" if suspect else None, status="doubtful" if suspect else "counts", remedy=StepKey.CELLS if suspect else None,
        reading_text=f"{min(reading.cell_volts):.2f} to {best:.2f} V", limit_text=f"within {case.rules.cell_suspect_volts.value:.2f} V",
        text=f"Cells from {min(reading.cell_volts):.2f} to {best:.2f} V" + (": one is suspect" if suspect else ": alike"), places=tuple(apart),
    )  # fmt: skip


def _by_gravity(reading: Cells, case: Case) -> Finding:
    rules = case.rules
    gravities = corrected_gravities(reading, rules)
    if not gravities:
        return finding(
            reading, rules, "weight_charge_run", points_to=None, weight=None, reading_text="all lively",
            limit_text="all cells gas alike", text="Every cell gasses alike on charge",
        )  # fmt: skip
    low, high = min(gravities), max(gravities)
    spread = high - low
    shown = f"{low:.3f} to {high:.3f}"
    weak = [
        place
        for place, gravity in enumerate(gravities)
        if at_least(high - gravity, rules.gravity_spread.value, GRAVITY)
    ]
    charged = reading.after_full_charge or case.charged_before(reading)
    limit_text = f"spread under {rules.gravity_spread.value:.3f} after a charge"
    far_out = at_least(spread, rules.gravity_far_out.value, GRAVITY)
    if far_out or (charged and at_least(spread, rules.gravity_spread.value, GRAVITY)):
        few = len(weak) <= rules.weak_cells_to_equalise.value
        if charged and few and not reading.equalised and not far_out and case.may_equalise:
            return finding(
                reading, rules, "weak_cells_to_equalise", points_to=Outcome.NEEDS_CHARGE, weight="weight_rest_near_line",
                status="doubtful", remedy=StepKey.EQUALISE, reading_text=shown, limit_text=limit_text,
                text=f"{_numbers(weak).capitalize()} {spread:.3f} under the best after a charge: an equalising charge may bring it back", places=tuple(weak),
            )  # fmt: skip
        return finding(
            reading, rules, "gravity_spread", points_to=Outcome.DEAD_CELL, weight="weight_cells",
            reading_text=shown, limit_text=limit_text,
            text=f"{_numbers(weak).capitalize()} {spread:.3f} under the best: a failing cell", places=tuple(weak),
        )  # fmt: skip
    if not charged:
        flat = under(high, rules.gravity_healthy.value, GRAVITY)
        return finding(
            reading, rules, "gravity_healthy", points_to=Outcome.NEEDS_CHARGE if flat else None,
            weight="weight_rest_near_line" if flat else None, reading_text=shown, limit_text=f"charged from {rules.gravity_healthy.value:.3f}",
            text=f"Gravity {shown}, no cell far out" + (": charge it, then read them again" if flat else ""), places=tuple(weak),
        )  # fmt: skip
    if not over(high, rules.gravity_discharged.value, GRAVITY):
        return finding(
            reading, rules, "gravity_discharged", points_to=Outcome.WORN_OUT, weight="weight_cells",
            reading_text=shown, limit_text=f"above {rules.gravity_discharged.value:.3f} after a charge",
            text=f"Gravity {shown} after a full charge: it no longer comes up",
        )  # fmt: skip
    healthy = at_least(low, rules.gravity_healthy.value, GRAVITY)
    return finding(
        reading, rules, "gravity_healthy", points_to=Outcome.SOUND if healthy else Outcome.CANNOT_TELL,
        weight="weight_cells" if healthy else "weight_doubtful", status="counts" if healthy else "doubtful",
        remedy=None if healthy else StepKey.LOAD_TEST, reading_text=shown, limit_text=f"healthy from {rules.gravity_healthy.value:.3f}",
        text=f"Gravity {shown} after a charge, cells alike" + ("" if healthy else ", but none of it high"),
    )  # fmt: skip
