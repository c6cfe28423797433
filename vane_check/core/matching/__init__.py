"""What replaces it: size, positive side, rating, chemistry, stop-start and vent held against what the house has."""

from ..battery import CHEMISTRY_RANK, Chemistry
from ..compare import AMPS
from ..rules import HouseRules
from ..tables import Footprint, footprints
from .asked import Candidate, Fit, Match, Point, Requirement
from .points import chemistry_points, rating_point, size_points, stock_points, to_do, vent_points


def match(requirement: Requirement, candidates: list[Candidate], rules: HouseRules) -> list[Match]:
    """Every candidate judged, the best first: exact before near before rejected, in stock first, cheapest first.

    Raises KeyError when the required group code is not in the table.
    """
    asked = footprints()[requirement.group_code]
    codes = {candidate.group_code for candidate in candidates}
    sizes = {code: size_points(requirement, asked, footprints()[code], rules) for code in codes}
    judged = [_judge(requirement, asked, candidate, sizes[candidate.group_code], rules) for candidate in candidates]
    order = list(Fit)

    def rank(found: Match) -> tuple[int, int, bool, int, str]:
        against = sum(point.stands == "against" for point in found.points)
        return (
            order.index(found.fit),
            against,
            not found.candidate.in_stock,
            found.candidate.price_cents,
            found.candidate.name,
        )

    return sorted(judged, key=rank)


def _judge(
    requirement: Requirement, asked: Footprint, candidate: Candidate, of_size: list[Point], rules: HouseRules
) -> Match:
    size = footprints()[candidate.group_code]
    points = [
        *of_size,
        rating_point(requirement, candidate),
        *chemistry_points(requirement, candidate.chemistry),
        *vent_points(requirement, candidate),
        *stock_points(candidate, rules),
    ]
    stands = {point.stands for point in points if point.about not in {"stock", "charge"}}
    fit = Fit.REJECTED if "against" in stands else Fit.NEAR if "changes" in stands else Fit.EXACT
    return Match(
        candidate=candidate,
        fit=fit,
        points=tuple(points),
        length_difference_mm=size.length_mm - asked.length_mm,
        width_difference_mm=size.width_mm - asked.width_mm,
        height_difference_mm=size.height_mm - asked.height_mm,
        to_do=tuple(to_do(requirement, asked, size, candidate)) if fit is not Fit.REJECTED else (),
    )


def sizes_that_fit(requirement: Requirement, rules: HouseRules) -> dict[str, Fit]:
    """Every size of the table whose case, posts and volts suit, and whether exactly or nearly.

    Raises KeyError when the required group code is not in the table.
    """
    asked, found = footprints()[requirement.group_code], {}
    for code, size in footprints().items():
        stands = {point.stands for point in size_points(requirement, asked, size, rules)}
        if "against" not in stands:
            found[code] = Fit.NEAR if "changes" in stands else Fit.EXACT
    return found


def chemistries_that_fit(requirement: Requirement) -> list[Chemistry]:
    """Every chemistry that may stand where this is asked."""
    return [
        chemistry
        for chemistry in Chemistry
        if all(point.stands != "against" for point in chemistry_points(requirement, chemistry))
    ]


def least_cca_amps(requirement: Requirement) -> float:
    """The smallest CCA [A] that still shows as what is asked for: half a step of the figure under it."""
    return requirement.min_cca_amps - AMPS / 2


__all__ = [
    "CHEMISTRY_RANK",
    "Candidate",
    "Fit",
    "Match",
    "Point",
    "Requirement",
    "chemistries_that_fit",
    "least_cca_amps",
    "match",
    "sizes_that_fit",
]
