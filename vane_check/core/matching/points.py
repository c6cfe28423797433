"""One thing compared at a time, in words and figures."""

from ..battery import CHEMISTRY_RANK, Chemistry
from ..charge import state_of_charge_pct
from ..compare import AMPS, PERCENT, under
from ..rules import HouseRules
from ..tables import Footprint, footprints
from .asked import Candidate, Point, Requirement

"""AGM over EFB over flooded (calcium is flooded). Gel stands outside the ladder: only gel replaces gel."""


def size_points(requirement: Requirement, asked: Footprint, size: Footprint, rules: HouseRules) -> list[Point]:
    """Case, posts, side and volts of a size against what is asked."""
    points = []
    if size.nominal_volts != asked.nominal_volts:
        points.append(
            Point(about="volts", stands="against", text=f"{size.nominal_volts} V, the car has {asked.nominal_volts} V")
        )
    same = {asked.code, asked.same_as, *requirement.also_codes}
    if size.code in same or size.same_as in {asked.code, *requirement.also_codes}:
        points.append(Point(about="size", stands="fits", text=f"Group {size.code}: the size asked for"))
    else:
        points += _measured_points(asked, size, rules)
    if size.positive_side == asked.positive_side:
        points.append(Point(about="positive", stands="fits", text=f"Positive on the {size.positive_side}"))
    else:
        points.append(
            Point(
                about="positive",
                stands="against",
                text=f"Positive on the {size.positive_side}, the cables reach the {asked.positive_side}",
            )
        )
    if size.post == asked.post:
        points.append(Point(about="post", stands="fits", text=f"{size.post.capitalize()} posts"))
    elif (size.post, asked.post) == ("pencil", "top"):
        points.append(Point(about="post", stands="changes", text="Thin posts where thick ones were: needs shims"))
    else:
        points.append(
            Point(about="post", stands="against", text=f"{size.post.capitalize()} posts, the clamps take {asked.post}")
        )
    return points


def _measured_points(asked: Footprint, size: Footprint, rules: HouseRules) -> list[Point]:
    """A size with another name fits when nothing is larger and it is shorter by no more than a spacer fills."""
    tolerance, spacer = rules.footprint_tolerance_mm.value, rules.spacer_max_mm.value
    points = []
    for what, difference in (
        ("long", size.length_mm - asked.length_mm),
        ("wide", size.width_mm - asked.width_mm),
        ("high", size.height_mm - asked.height_mm),
    ):
        if difference > tolerance:
            points.append(
                Point(about="size", stands="against", text=f"Group {size.code} is {difference} mm too {what}")
            )
        elif difference < -spacer:
            points.append(
                Point(
                    about="size",
                    stands="against",
                    text=f"Group {size.code} is {-difference} mm less {what}: more than a spacer takes up ({spacer:.0f} mm)",
                )
            )
        elif difference < -tolerance:
            points.append(
                Point(about="size", stands="changes", text=f"Group {size.code} is {-difference} mm less {what}")
            )
    if not points:
        points.append(
            Point(
                about="size",
                stands="changes",
                text=f"Group {size.code}: another name, within {tolerance:.0f} mm of group {asked.code}",
            )
        )
    return points


def rating_point(requirement: Requirement, candidate: Candidate) -> Point:
    """CCA [SAE amps] against what is asked."""
    difference = candidate.cca_amps - requirement.min_cca_amps
    if under(candidate.cca_amps, requirement.min_cca_amps, AMPS):
        return Point(
            about="rating", stands="against",
            text=f"{candidate.cca_amps:.0f} CCA, {-difference:.0f} under the {requirement.min_cca_amps:.0f} asked",
        )  # fmt: skip
    return Point(
        about="rating", stands="fits", text=f"{candidate.cca_amps:.0f} CCA, {requirement.min_cca_amps:.0f} asked"
    )


def chemistry_points(requirement: Requirement, has: Chemistry) -> list[Point]:
    """The chemistry ladder: never down, gel apart, no AGM where it would not last."""
    asks = requirement.chemistry
    names = {chemistry: chemistry.words for chemistry in Chemistry}
    if Chemistry.GEL in {has, asks} and has is not asks:
        return [
            Point(
                about="chemistry",
                stands="against",
                text=f"{_capital(names[has])} where {names[asks]} was: charged differently",
            )
        ]
    if has is asks:
        return [Point(about="chemistry", stands="fits", text=f"{_capital(names[has])}, as asked")]
    if requirement.no_agm and has is Chemistry.AGM:
        return [
            Point(
                about="chemistry",
                stands="against",
                text="AGM under a hot or uncontrolled charging system would not last",
            )
        ]
    down = CHEMISTRY_RANK[asks] - CHEMISTRY_RANK[has]
    if down > 0:
        why = "stop-start is never stepped down" if requirement.stop_start else "never less than the car had"
        return [
            Point(
                about="chemistry", stands="against", text=f"{_capital(names[has])} where {names[asks]} is asked: {why}"
            )
        ]
    if down == 0:
        return [Point(about="chemistry", stands="fits", text=f"{_capital(names[has])}, a flooded type as asked")]
    return [Point(about="chemistry", stands="fits", text=f"{_capital(names[has])}, a step up from {names[asks]}")]


def vent_points(requirement: Requirement, candidate: Candidate) -> list[Point]:
    """A tube where it sits in the cabin or boot."""
    if not requirement.vent_tube:
        return []
    if candidate.vent_tube:
        return [Point(about="vent", stands="fits", text="Takes a vent tube for cabin or boot")]
    return [Point(about="vent", stands="against", text="No vent tube, and it sits in the cabin or boot")]


def stock_points(candidate: Candidate, rules: HouseRules) -> list[Point]:
    """What stands on the shelf, and whether it is charged."""
    if not candidate.in_stock:
        return [Point(about="stock", stands="changes", text="None in stock: order it")]
    points = [Point(about="stock", stands="fits", text=f"{candidate.in_stock} in stock")]
    if candidate.last_volts is not None:
        nominal_volts = footprints()[candidate.group_code].nominal_volts
        charge = state_of_charge_pct(candidate.last_volts, candidate.chemistry, nominal_volts)
        if under(charge, rules.charged_to_hand_over_soc_pct.value, PERCENT):
            points.append(
                Point(
                    about="charge",
                    stands="changes",
                    text=f"Stands at {candidate.last_volts:.2f} V: charge it before it is handed over",
                )
            )
    return points


def to_do(requirement: Requirement, asked: Footprint, size: Footprint, candidate: Candidate) -> list[str]:
    """What must be done when this one goes in."""
    jobs = ["Lay old and new side by side before it leaves the counter"]
    if size.length_mm < asked.length_mm and size.code != asked.code and size.same_as != asked.code:
        jobs.append(f"Fit a spacer for {asked.length_mm - size.length_mm} mm of length, then the hold-down")
    if size.post == "pencil" and asked.post == "top":
        jobs.append("Fit shims on the thin posts")
    if requirement.vent_tube:
        jobs.append("Connect the vent tube and take the transit plugs out")
    if requirement.stop_start:
        jobs.append("Register the new battery with the car's battery management, where the maker asks for it")
    return jobs


def _capital(words: str) -> str:
    return words[:1].upper() + words[1:]
