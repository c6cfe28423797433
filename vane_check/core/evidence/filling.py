"""Filling: plates that are bare, or were and have fresh water over them."""

from ..facts.case import Case
from ..findings.kinds import Kind, StepKey
from ..findings.outcomes import Finding, Outcome
from ..readings import Level
from .finding import background


def fresh_filling(case: Case) -> Finding | None:
    """Bare plates: water first, whatever it reads. Water is no charge: filled from dry it is charged, rested and tested anew."""
    if case.is_bare:
        result = background(
            case.rules, Kind.FRESH_FILLING, "plates bare", "plates covered",
            "Its plates are bare: water just over them first, then a charge, a rest and a test. What it reads now counts for nothing",
        )  # fmt: skip
        return result.but(
            points_to=Outcome.NEEDS_CHARGE,
            weight=case.rules.weight.rest_low.value,
            status="counts",
            remedy=StepKey.TOP_UP,
            rule="weight.rest_low",
        )
    if not case.is_fresh_filling:
        return None
    result = background(
        case.rules, Kind.FRESH_FILLING, "filled from dry, not charged since", "charged after the water went in",
        "It was dry and has fresh water: charge it, let it rest, then test it anew",
    )  # fmt: skip
    return result.but(
        points_to=Outcome.NEEDS_CHARGE, weight=case.rules.weight.rest_low.value, status="counts",
        remedy=StepKey.CHARGE_AND_RETEST, rule="weight.rest_low",
    )  # fmt: skip


def dry(case: Case) -> Finding | None:
    """A battery that was filled stays marked: overcharge or neglect, whatever the level is now."""
    if not case.was_dry or (case.looks and Level.PLATES_BARE in case.looks[-1].levels):
        return None
    return background(
        case.rules, Kind.WAS_DRY, "plates were bare, filled since", "plates covered",
        "It came dry and was filled: overcharge or neglect. It matters to a claim; check the car's running volts",
    )  # fmt: skip
