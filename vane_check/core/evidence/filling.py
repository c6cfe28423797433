"""Filling: plates that are bare, or were and have fresh water over them."""

from ..facts.case import Case
from ..findings.kinds import Kind, StepKey
from ..findings.outcomes import Finding, Outcome
from ..readings import Level
from ..words import say
from .finding import background


def fresh_filling(case: Case) -> Finding | None:
    """Bare plates: water first, whatever it reads. Water is no charge: filled from dry it is charged, rested and tested anew."""
    if case.is_bare:
        result = background(
            case.rules, Kind.FRESH_FILLING, say('common.plates_bare'), say('filling.plates_covered'),
            say('filling.its_plates_are_bare_water_just_over_them'),
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
        case.rules, Kind.FRESH_FILLING, say('filling.filled_from_dry_not_charged_since'), say('filling.charged_after_the_water_went_in'),
        say('filling.it_was_dry_and_has_fresh_water_charge_it'),
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
        case.rules, Kind.WAS_DRY, say('filling.plates_were_bare_filled_since'), say('filling.plates_covered'),
        say('filling.it_came_dry_and_was_filled_overcharge_or'),
    )  # fmt: skip
