"""What follows from several readings together: ice, and the fused state of charge."""

from statistics import median

from ..battery import Chemistry
from ..charge import StateOfCharge, state_of_charge_range
from ..compare import CELSIUS, over
from ..kinds import Kind
from ..lines import on_line
from ..once import once
from ..outcomes import Finding, Outcome
from ..readings import Cells, ChargeRun, ElectronicTester
from ..tables import charge_tables, freezing_table
from . import Case
from .cells import corrected_gravities
from .rest_volts import after_charge
from .tester_settings import why_void


def freezing_point_c(specific_gravity: float) -> float:
    """Where acid of this gravity freezes [C], by straight lines. Source: tables/electrolyte.csv (from memory).

    >>> freezing_point_c(1.265)
    -58.0
    """
    table = freezing_table()
    return on_line(specific_gravity, table.specific_gravity, table.freezing_point_c)


@once
def _latest_gravities(case: Case) -> tuple[float, ...]:
    for reading in reversed(case.all_of(Cells)):
        if reading.specific_gravities and not _is_older(case, reading):
            return corrected_gravities(reading, case.rules_for(reading))
    return ()


def _is_older(case: Case, reading: Cells) -> bool:
    """Whether a charge was taken off after this was read."""
    return case.charge_off_at is not None and reading.taken_at < case.charge_off_at


def _gravity_at(soc_pct: float, case: Case) -> float:
    """Gravity at a state of charge, from the chemistry's table; where that has none (AGM, gel) the weaker acid of a flooded one."""
    table = charge_tables()[case.battery.chemistry.value]
    if None in table.specific_gravity:
        table = charge_tables()[Chemistry.FLOODED.value]
    gravities = [gravity for gravity in table.specific_gravity if gravity is not None]
    return on_line(soc_pct, table.state_of_charge_pct, gravities)


@once
def weakest_gravity(case: Case) -> float | None:
    """Gravity of its weakest acid as far as it is known, from the cells, else from the low end of its charge; None when nothing tells."""
    gravities = _latest_gravities(case)
    if gravities:
        return min(gravities)
    charge = state_of_charge(case)
    if charge is None:
        return None
    by_table = _gravity_at(charge.low_pct, case)
    if charge.low_pct > 0 or charge.rest_volts is None or charge.meter_uncertainty_volts is None:
        return by_table
    # under the table's empty the acid goes on getting weaker: a cell's volts are its gravity and a constant
    cells = case.battery.nominal_volts // 2
    by_volts = (charge.rest_volts - charge.meter_uncertainty_volts) / cells - case.rules.cell_volts_over_gravity.value
    return max(min(by_table, by_volts), 1.0)


def may_hold_ice(case: Case) -> float | None:
    """Where its acid freezes [C], if that is warmer than a battery may be here and nobody took its temperature; None otherwise."""
    if case.temperature_c is not None or not case.readings:
        return None
    if any(run.amps is not None and not case.no_current(run) for run in case.all_of(ChargeRun)):
        return None  # ice takes no current
    if str(case.readings[-1].taken_at.month) not in case.rules.cold_months.value:
        return None
    gravity = weakest_gravity(case)
    point = None if gravity is None else freezing_point_c(gravity)
    return point if point is not None and over(point, case.rules.coldest_c.value, CELSIUS) else None


def ice(case: Case) -> Finding | None:
    """A warning when the battery is as cold as its weakest acid freezes: it may hold ice and must not be charged."""
    if case.temperature_c is None or case.temperature_c > 0:
        return None
    gravity = weakest_gravity(case)
    if gravity is None or over(case.temperature_c, (point := freezing_point_c(gravity)), CELSIUS):
        return None
    origin = freezing_table().origin
    return Finding(
        kind=Kind.ICE, reading_id=None, status="counts", points_to=Outcome.UNSAFE, weight=case.rules.weight_hazard.value,
        reading_text=f"acid about {gravity:.3f}", limit_text=f"freezes at {point:.0f} °C",
        text=f"At {case.temperature_c:.0f} °C acid of {gravity:.3f} may be frozen: thaw it in the warm, then look for cracks",
        rule="weight_hazard", source=origin.source, standing=origin.standing,
    )  # fmt: skip


@once
def state_of_charge(case: Case) -> StateOfCharge | None:
    """One range of charge from gravity, rest volts and the tester, and which of them rules.

    Gravity reads the acid itself; volts can still be lifted by surface charge; a tester only guesses. A stronger source is
    narrowed by a weaker one where the two overlap, and rules alone where they do not.
    """
    sources = [found for found in (_by_gravity(case), _by_volts(case), _by_tester(case)) if found is not None]
    if not sources:
        return None
    fused, agreeing, against = sources[0], [sources[0].rules_by], []
    for other in sources[1:]:
        low, high = max(fused.low_pct, other.low_pct), min(fused.high_pct, other.high_pct)
        if low <= high:
            agreeing.append(other.rules_by)
            fused = fused.model_copy(
                update={"low_pct": low, "high_pct": high, "at_most": fused.at_most and other.at_most}
            )
        else:
            against.append(other.rules_by)
    volts = next((found.rest_volts for found in sources if found.rest_volts is not None), None)
    off = next((found.meter_uncertainty_volts for found in sources if found.meter_uncertainty_volts is not None), None)
    words = " and ".join(agreeing) + (f", against the {' and '.join(against)}" if against else "")
    return fused.model_copy(update={"rest_volts": volts, "meter_uncertainty_volts": off, "rules_by": words})


def _by_tester(case: Case) -> StateOfCharge | None:
    for reading in reversed(case.all_of(ElectronicTester)):
        if reading.state_of_charge_pct is not None:
            if why_void(reading, case) is not None or (case.charge_off_at and reading.taken_at < case.charge_off_at):
                return None
            spread = case.rules.tester_soc_spread_pct
            return StateOfCharge(
                low_pct=max(reading.state_of_charge_pct - spread.value, 0.0),
                high_pct=min(reading.state_of_charge_pct + spread.value, 100.0),
                rest_volts=None, meter_uncertainty_volts=None, at_most=False,
                source=spread.source, standing=spread.standing, rules_by="tester",
            )  # fmt: skip
    return None


def _by_volts(case: Case) -> StateOfCharge | None:
    if not case.valid_rest_volts:
        return None
    last = case.valid_rest_volts[-1]
    if case.charge_off_at is not None and last.taken_at < case.charge_off_at:
        return None
    at_most = after_charge(last) and not last.after_full_charge
    return state_of_charge_range(
        last.volts, case.battery, case.rules_for(last), at_most=at_most, meter_range=last.meter_range
    )


def _by_gravity(case: Case) -> StateOfCharge | None:
    gravities = _latest_gravities(case)
    table = charge_tables()[case.battery.chemistry.value]
    known = [gravity for gravity in table.specific_gravity if gravity is not None]
    if not gravities or len(known) != len(table.specific_gravity):
        return None
    middle = median(gravities)  # one dead cell says nothing of the charge of the others
    off = case.rules_for(case.all_of(Cells)[-1]).gravity_resolution.value
    low, high = (on_line(middle + shift, known, table.state_of_charge_pct) for shift in (-off, off))
    return StateOfCharge(
        low_pct=low, high_pct=high, rest_volts=None, meter_uncertainty_volts=None, at_most=False,
        source=table.origin.source, standing=table.origin.standing, rules_by="gravity",
    )  # fmt: skip
