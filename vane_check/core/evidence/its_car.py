"""Its car: the type it asks for, and the charge under which it switches stop-start off."""

from ..facts.case import Case
from ..facts.state_of_charge import meter_uncertainty_volts, state_of_charge_pct
from ..findings.kinds import Kind, StepKey
from ..findings.outcomes import Finding, Outcome
from ..units.compare import VOLTS, at_least, under
from ..words import fixed, say
from .finding import background


def wrong_type(case: Case) -> Finding | None:
    """An ordinary battery under a stop-start car, or a lesser type than the list asks for: said at the check."""
    chemistry = case.type_the_car_asks_for
    if chemistry is None:
        return None
    return background(
        case.rules, Kind.WRONG_TYPE, case.battery.chemistry.words, say('its_car.its_car_asks_for', chemistry=chemistry),
        say('its_car.wrong_type_in_a_car_that_asks_for_it_may', chemistry=case.battery.chemistry.words, asked=chemistry),
    )  # fmt: skip


def stop_start(case: Case) -> Finding | None:
    """Below the car's own line the function is off by design: a charge comes before any door, belt or pedal is blamed."""
    if not case.asks_why_stop_start_stopped or not case.valid_rest_volts:
        return None
    last, line = case.valid_rest_volts[-1], case.stop_start_line_volts
    if case.charge_off_at is not None and last.taken_at < case.charge_off_at:
        return None
    if not under(last.volts, line, VOLTS):
        return None
    off = meter_uncertainty_volts(last.volts, case.rules_for(last), last.meter_range)
    full = case.full_charges_before(last)
    if full and at_least(last.volts + off, line, VOLTS):
        return None  # full, and the line is met as near as the meter tells: another charge brings nothing
    if full > 1:
        return background(
            case.rules, Kind.STOP_START, say('its_car.v_full_twice', volts=fixed(last.volts, 2)), say('its_car.stop_start_is_off_below_v', line=fixed(line, 2)),
            say('its_car.full_twice_and_still_v_under_the_v_of_its', volts=fixed(last.volts, 2), line=fixed(line, 2)),
            rule="rest.stop_start_line_soc_pct",
        ).but(points_to=Outcome.WATCH, weight=case.rules.weight.doubtful.value)  # fmt: skip
    pct = state_of_charge_pct(last.volts, case.battery.chemistry, case.battery.nominal_volts)
    whose = say("its_car.this_cars") if case.context.stop_start_line_volts is not None else say("its_car.the_usual")
    result = background(
        case.rules, Kind.STOP_START, say('its_car.v_about', volts=fixed(last.volts, 2), pct=fixed(pct, 0)), say('its_car.stop_start_is_off_below_v', line=fixed(line, 2)),
        say('its_car.v_is_under_v_at_which_stop_start_is', volts=fixed(last.volts, 2), whose=whose, line=fixed(line, 2)),
        rule="rest.stop_start_line_soc_pct",
    )  # fmt: skip
    return result.but(
        points_to=Outcome.NEEDS_CHARGE, weight=case.rules.weight.rest_near_line.value, status="doubtful",
        remedy=StepKey.CHARGE_AND_RETEST, rule="rest.stop_start_line_soc_pct",
    )  # fmt: skip
