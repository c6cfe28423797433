"""One thing compared at a time, in words and figures: rating, capacity, chemistry, vent, terms, the piece itself."""

from collections.abc import Iterator

from ..battery.label import CHEMISTRY_RANK, Chemistry
from ..facts.state_of_charge import state_of_charge_pct
from ..house.rules import HouseRules
from ..units.compare import AMPS, PERCENT, under
from ..words import Words, capital, fixed, say, word
from .requirement import About, Candidate, Point, Requirement, Stands, spread_of


def spread_between(requirement: Requirement, has: Candidate) -> float:
    """How far two ratings may be off against each other: nothing on one scale, else what both conversions may be off."""
    if has.rated_scale is requirement.cca_scale:
        return 0.0
    return requirement.cca_spread + spread_of(has.rated_scale)


def rating_point(requirement: Requirement, has: Candidate) -> Point:
    """CCA [SAE amps] against what is asked, with what the scales may be off."""
    amps = requirement.min_cca_amps
    words = say("figures.cca_amps_cca", cca_amps=fixed(has.cca_amps, 0))
    if has.rated_amps is not None and has.rated_scale.value != "CCA":
        words = say(
            "figures.rated_amps_rated_scale_words",
            rated_amps=fixed(has.rated_amps, 0),
            rated_scale=has.rated_scale.value,
            words=words,
        )
    if not under(has.cca_amps, amps, AMPS):
        return Point(
            about="rating",
            stands="fits",
            text=say("points.asked_2", words=words, amps=fixed(amps, 0)) if amps else words,
        )
    spread = spread_between(requirement, has)
    if spread and not under(has.cca_amps * (1 + spread), amps, AMPS):
        return Point(
            about="rating", stands="changes",
            text=say('points.asked_on_two_scales_which_may_differ_by_it', words=words, amps=fixed(amps, 0), spread=fixed(spread * 100, 0)),
        )  # fmt: skip
    return Point(
        about="rating",
        stands="against",
        text=say(
            "points.under_the_asked", words=words, short_amps=fixed(amps - has.cca_amps, 0), asked_amps=fixed(amps, 0)
        ),
    )


def capacity_points(requirement: Requirement, has: Candidate, rules: HouseRules) -> Iterator[Point]:
    """Ah and reserve against what is asked, where anything is."""
    if requirement.min_capacity_ah:
        yield _enough("capacity", say("points.ah"), has.capacity_ah_20h, requirement.min_capacity_ah, rules)
    if requirement.min_reserve_minutes:
        yield _enough(
            "reserve", say("points.min_of_reserve"), has.reserve_minutes, requirement.min_reserve_minutes, rules
        )


def _enough(about: About, unit: Words, has: float | None, least: float, rules: HouseRules) -> Point:
    if has is None:
        return Point(
            about, "changes", say("points.its_are_not_known_asked_look_at_its_sheet", unit=unit, least=fixed(least, 0))
        )
    short = (least - has) / least * 100
    words = say("points.asked", has=fixed(has, 0), unit=unit, least=fixed(least, 0))
    if under(rules.match.ah_short_most_pct.value, short, PERCENT):
        return Point(about, "against", say("points.less", words=words, short=fixed(short, 0)))
    if under(rules.match.ah_short_pct.value, short, PERCENT):
        return Point(about, "changes", say("points.less", words=words, short=fixed(short, 0)))
    return Point(about, "fits", words)


def chemistry_points(requirement: Requirement, has: Chemistry) -> list[Point]:
    """The chemistry ladder: never down, gel apart, no AGM where it would not last."""
    stands, text = _chemistry(requirement, has)
    return [Point("chemistry", stands, text)]


def _chemistry(requirement: Requirement, has: Chemistry) -> tuple[Stands, Words]:
    asks = requirement.chemistry
    name, words = _capital(has.words), asks.words
    if has is Chemistry.AGM and requirement.running_volts is not None:
        return (
            "against",
            say("points.agm_in_a_car_that_ran_at_v_would_not_last", running_volts=fixed(requirement.running_volts, 1)),
        )
    if requirement.flooded_stays and has in {Chemistry.AGM, Chemistry.GEL}:
        return "against", say("points.where_the_car_charges_by_a_profile_for", name=name)
    if Chemistry.GEL in {has, asks} and has is not asks:
        return "against", say("points.where_was_charged_differently", name=name, words=words)
    if has is asks:
        return "fits", say("points.as_asked", name=name)
    if requirement.no_agm and has is Chemistry.AGM:
        return "against", say("points.agm_under_a_hot_or_uncontrolled_charging")
    down = CHEMISTRY_RANK[asks] - CHEMISTRY_RANK[has]
    if down > 0:
        why = (
            say("points.stop_start_is_never_stepped_down")
            if requirement.stop_start
            else say("points.never_less_than_the_car_had")
        )
        return "against", say("points.where_is_asked", name=name, words=words, why=why)
    if down == 0:
        return "fits", say("points.a_flooded_type_as_asked", name=name)
    return "fits", say("points.a_step_up_from", name=name, words=words)


def vent_points(requirement: Requirement, has: Candidate) -> list[Point]:
    """A tube where it sits in the cabin or boot, on the side its hose comes from."""
    if not requirement.vent_tube:
        return []
    if not has.vent_tube:
        return [Point(about="vent", stands="against", text=say("points.no_vent_tube_and_it_sits_in_the_cabin_or"))]
    if requirement.vent_side and has.vent_side and has.vent_side != requirement.vent_side:
        return [
            Point(
                about="vent", stands="changes",
                text=say('points.its_vent_is_on_the_the_tube_comes_from_the', vent_side=word(has.vent_side), tube_side=word(requirement.vent_side)),
            )
        ]  # fmt: skip
    return [Point(about="vent", stands="fits", text=say("points.takes_a_vent_tube_for_cabin_or_boot"))]


def terms_points(requirement: Requirement, has: Candidate) -> list[Point]:
    """Whether the warranty of its line holds for how it will be used."""
    if requirement.use not in has.excluded_uses:
        return []
    use = word(requirement.use.value)
    return [
        Point(
            about="terms",
            stands="changes",
            text=say("points.no_warranty_in_use_the_terms_of_leave_it", use=use, line=has.line),
        )
    ]


def stock_points(has: Candidate, rules: HouseRules) -> list[Point]:
    """What stands on the shelf, how old its next piece is, and whether it is charged."""
    if not has.in_stock:
        return [Point(about="stock", stands="changes", text=say("points.none_in_stock_order_it"))]
    points = [Point(about="stock", stands="fits", text=say("points.in_stock", in_stock=has.in_stock))]
    if has.piece is not None and has.piece.mark == "reduced":
        months = has.piece.uncharged_months
        points.append(
            Point(
                about="stock",
                stands="changes",
                text=say("points.the_next_piece_stood_months_uncharged", count=round(months)),
            )
        )
    if has.piece is not None and has.piece.dry:
        points.append(
            Point(about="charge", stands="changes", text=say("points.dry_charged_fill_it_let_it_soak_then_read"))
        )
    elif has.last_volts is not None:
        charge = state_of_charge_pct(has.last_volts, has.chemistry, has.nominal_volts)
        if under(charge, rules.rest.charged_to_hand_over_soc_pct.value, PERCENT):
            points.append(
                Point(
                    about="charge",
                    stands="changes",
                    text=say("points.stands_at_v_charge_it_before_it_is_handed", last_volts=fixed(has.last_volts, 2)),
                )
            )
    return points


def _capital(words: Words) -> Words:
    return capital(words)
