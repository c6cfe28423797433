"""What is known of the battery beside its readings: it was dry once, it is the wrong type for its car, its car waits for charge."""

from datetime import datetime
from itertools import pairwise

from ..battery import CHEMISTRY_RANK, ORDINARY, Chemistry, Complaint
from ..charge import meter_uncertainty_volts, state_of_charge_pct, volts_at_pct
from ..compare import VOLTS, at_least, under
from ..kinds import Kind, StepKey
from ..once import once
from ..outcomes import Finding, Outcome
from ..readings import Level
from . import Case


@once
def was_dry(case: Case) -> bool:
    """Whether plates were bare at any look of this check."""
    return any(Level.PLATES_BARE in look.levels for look in case.looks)


@once
def filled_at(case: Case) -> datetime | None:
    """When plates that stood bare were last seen covered; None where they never were bare, or are bare still."""
    at = None
    for earlier, look in pairwise(case.looks):
        if Level.PLATES_BARE in look.levels:
            at = None
        elif Level.PLATES_BARE in earlier.levels and look.levels:
            at = look.taken_at
    return at


@once
def is_bare(case: Case) -> bool:
    """Whether plates stand bare now: at the last look into the cells."""
    seen = next((look for look in reversed(case.looks) if look.levels), None)
    return seen is not None and Level.PLATES_BARE in seen.levels


@once
def is_fresh_filling(case: Case) -> bool:
    """Whether it was filled from dry and not charged since: whatever it reads then says nothing."""
    at, off = filled_at(case), case.charge_off_at
    return at is not None and (off is None or off < at)


def fresh_filling(case: Case) -> Finding | None:
    """Bare plates: water first, whatever it reads. Water is no charge: filled from dry it is charged, rested and tested anew."""
    if is_bare(case):
        found = _known(
            case, Kind.FRESH_FILLING, "plates bare", "plates covered",
            "Its plates are bare: water just over them first, then a charge, a rest and a test. What it reads now counts for nothing",
        )  # fmt: skip
        return found.but(
            points_to=Outcome.NEEDS_CHARGE,
            weight=case.rules.weight_rest_low.value,
            status="counts",
            remedy=StepKey.TOP_UP,
            rule="weight_rest_low",
        )
    if not is_fresh_filling(case):
        return None
    found = _known(
        case, Kind.FRESH_FILLING, "filled from dry, not charged since", "charged after the water went in",
        "It was dry and has fresh water: charge it, let it rest, then test it anew",
    )  # fmt: skip
    return found.but(
        points_to=Outcome.NEEDS_CHARGE, weight=case.rules.weight_rest_low.value, status="counts",
        remedy=StepKey.CHARGE_AND_RETEST, rule="weight_rest_low",
    )  # fmt: skip


def dry(case: Case) -> Finding | None:
    """A battery that was filled stays marked: overcharge or neglect, whatever the level is now."""
    if not was_dry(case) or (case.looks and Level.PLATES_BARE in case.looks[-1].levels):
        return None
    return _known(
        case, Kind.WAS_DRY, "plates were bare, filled since", "plates covered",
        "It came dry and was filled: overcharge or neglect. It matters to a claim; check the car's running volts",
    )  # fmt: skip


@once
def asked_type(case: Case) -> str | None:
    """The type the car asks for where this battery is less; None where it is right or nothing is known."""
    has, context = case.battery.chemistry, case.context
    listed = context.car_chemistry
    ranks = CHEMISTRY_RANK
    if listed in ranks and has in ranks and ranks[has] < ranks[listed]:
        return listed.words + (" or better" if listed is Chemistry.EFB else "")
    if context.stop_start_car and has in ORDINARY:
        return "EFB or better"
    return None


def wrong_type(case: Case) -> Finding | None:
    """An ordinary battery under a stop-start car, or a lesser type than the list asks for: said at the check."""
    asked = asked_type(case)
    if asked is None:
        return None
    return _known(
        case, Kind.WRONG_TYPE, case.battery.chemistry.words, f"its car asks for {asked}",
        f"Wrong type: {case.battery.chemistry.words} in a car that asks for {asked}. It may be healthy and still die early there",
    )  # fmt: skip


def stop_start_line_volts(case: Case) -> float:
    """Rest volts [V] under which its car switches stop-start off: the car's own, else by the house's share of charge."""
    own = case.context.stop_start_line_volts
    return own if own is not None else volts_at_pct(case.rules.stop_start_line_soc_pct.value, case.battery)


def went_flat_standing(case: Case) -> bool:
    """Whether its story says that it went flat while it stood."""
    return case.context.complaint is Complaint.STOOD_FOR_WEEKS


def asks_why_stop_start_stopped(case: Case) -> bool:
    """Whether the complaint is that stop-start no longer stops the engine."""
    return case.context.complaint is Complaint.STOP_START_STOPPED


def stop_start(case: Case) -> Finding | None:
    """Below the car's own line the function is off by design: a charge comes before any door, belt or pedal is blamed."""
    if not asks_why_stop_start_stopped(case) or not case.valid_rest_volts:
        return None
    last, line = case.valid_rest_volts[-1], stop_start_line_volts(case)
    if case.charge_off_at is not None and last.taken_at < case.charge_off_at:
        return None
    if not under(last.volts, line, VOLTS):
        return None
    off = meter_uncertainty_volts(last.volts, case.rules_for(last), last.meter_range)
    full = case.full_charges_before(last)
    if full and at_least(last.volts + off, line, VOLTS):
        return None  # full, and the line is met as near as the meter tells: another charge brings nothing
    if full > 1:
        return _known(
            case, Kind.STOP_START, f"{last.volts:.2f} V, full twice", f"stop-start is off below {line:.2f} V",
            f"Full twice and still {last.volts:.2f} V, under the {line:.2f} V of its car: look whether its type is the one the car asks for",
        ).but(points_to=Outcome.WATCH, weight=case.rules.weight_doubtful.value)  # fmt: skip
    pct = state_of_charge_pct(last.volts, case.battery.chemistry, case.battery.nominal_volts)
    whose = "this car's" if case.context.stop_start_line_volts is not None else "the usual"
    found = _known(
        case, Kind.STOP_START, f"{last.volts:.2f} V, about {pct:.0f} %", f"stop-start is off below {line:.2f} V",
        f"{last.volts:.2f} V is under {whose} {line:.2f} V at which stop-start is switched off: charge it before anything else is blamed",
    )  # fmt: skip
    return found.but(
        points_to=Outcome.NEEDS_CHARGE, weight=case.rules.weight_rest_near_line.value, status="doubtful",
        remedy=StepKey.CHARGE_AND_RETEST, rule="stop_start_line_soc_pct",
    )  # fmt: skip


def _known(case: Case, kind: Kind, reading_text: str, limit_text: str, text: str) -> Finding:
    source = case.rules.stop_start_line_soc_pct if kind is Kind.STOP_START else None
    return Finding(
        kind=kind, reading_id=None, status="doubtful", points_to=None, weight=0.0, reading_text=reading_text, limit_text=limit_text,
        text=text, rule=kind.value, source=source.source if source else "common practice", standing=source.standing if source else "practice",
    )  # fmt: skip
