"""What replaces it: the place, the rating, the chemistry and the use asked for, held against what the house has."""

from collections.abc import Iterator

from ..battery.label import CHEMISTRY_RANK
from ..house.rules import HouseRules
from .adaptations import to_do
from .bounds import Bounds, bounds_of, chemistries_that_fit, least_cca_amps
from .points import capacity_points, chemistry_points, rating_point, stock_points, terms_points, vent_points
from .requirement import OF_THE_PIECE, Candidate, Fit, Match, Measured, Piece, Point, Requirement
from .size_points import size_points
from .space import Space, space_of


def match(requirement: Requirement, candidates: list[Candidate], rules: HouseRules) -> list[Match]:
    """Every candidate judged, the best first.

    Exact before near before rejected; what the terms leave out for this use is never first where anything else fits;
    then in stock first, cheapest first. Raises KeyError when the required group code is not in the table.
    """
    space = space_of(requirement, rules)
    judged = [_judge(requirement, space, candidate, rules) for candidate in candidates]
    order = list(Fit)

    def rank(found: Match) -> tuple[bool, bool, int, int, bool, int, str]:
        against = sum(point.stands == "against" for point in found.points)
        return (
            found.fit is Fit.REJECTED,
            any(point.about == "terms" for point in found.points),
            order.index(found.fit),
            against,
            not found.candidate.in_stock,
            found.candidate.price_cents,
            found.candidate.name,
        )

    return sorted(judged, key=rank)


def points_of(requirement: Requirement, space: Space, has: Candidate, rules: HouseRules) -> Iterator[Point]:
    """Everything a candidate is held against."""
    yield from size_points(space, has, rules)
    yield rating_point(requirement, has)
    yield from capacity_points(requirement, has, rules)
    yield from chemistry_points(requirement, has.chemistry)
    yield from vent_points(requirement, has)
    yield from terms_points(requirement, has)
    yield from stock_points(has, rules)


def fit_of(points: tuple[Point, ...]) -> Fit:
    """How an item fits by its points; what concerns the piece alone says nothing of it."""
    stands = {point.stands for point in points if point.about not in OF_THE_PIECE}
    return Fit.REJECTED if "against" in stands else Fit.NEAR if "changes" in stands else Fit.EXACT


def _judge(requirement: Requirement, space: Space, candidate: Candidate, rules: HouseRules) -> Match:
    points = tuple(points_of(requirement, space, candidate, rules))
    fit = fit_of(points)
    return Match(
        candidate=candidate,
        fit=fit,
        points=points,
        length_difference_mm=round(candidate.length_mm - space.old.length_mm),
        width_difference_mm=round(candidate.width_mm - space.old.width_mm),
        height_difference_mm=round(candidate.height_mm - space.old.height_mm),
        to_do=tuple(to_do(requirement, space, candidate, rules)) if fit is not Fit.REJECTED else (),
    )


__all__ = [
    "CHEMISTRY_RANK",
    "Bounds",
    "Candidate",
    "Fit",
    "Match",
    "Measured",
    "Piece",
    "Point",
    "Requirement",
    "bounds_of",
    "chemistries_that_fit",
    "fit_of",
    "least_cca_amps",
    "match",
    "points_of",
    "space_of",
]
