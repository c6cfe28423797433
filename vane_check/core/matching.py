"""What replaces it: size, positive side, rating, chemistry, stop-start and vent held against what the house has."""

from enum import StrEnum
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from .battery import Chemistry, Model, ShortText
from .charge import state_of_charge_pct
from .compare import AMPS, PERCENT, under
from .rules import HouseRules
from .tables import Footprint, entry_limits, footprints

CHEMISTRY_RANK = {Chemistry.FLOODED: 0, Chemistry.CALCIUM: 0, Chemistry.EFB: 1, Chemistry.AGM: 2}
"""AGM over EFB over flooded (calcium is flooded). Gel stands outside the ladder: only gel replaces gel."""


class Requirement(Model):
    """What the car, or the old battery, asks for. CCA in SAE amps."""

    group_code: ShortText
    also_codes: tuple[ShortText, ...] = Field((), max_length=20)
    min_cca_amps: float = Field(ge=0, le=entry_limits()["rated_amps"].high)
    chemistry: Chemistry = Chemistry.FLOODED
    stop_start: bool = False
    vent_tube: bool = False
    no_agm: bool = Field(False, description="hot bay or uncontrolled old regulator that would kill AGM")
    source: ShortText = ""


class Candidate(Model):
    """One catalogue item with what stands on the shelf of it."""

    item_id: int
    line: str
    name: str
    group_code: str
    chemistry: Chemistry
    cca_amps: float
    vent_tube: bool = False
    price_cents: int = 0
    in_stock: int = 0
    last_volts: float | None = Field(None, description="rest volts of the best piece in stock")


class Fit(StrEnum):
    """How a candidate stands."""

    EXACT = "exact"
    NEAR = "near"
    REJECTED = "rejected"


class Point(BaseModel):
    """One thing compared: in words and figures. `stands` is against, changes (fits, but something differs) or fits."""

    model_config = ConfigDict(frozen=True)

    about: Literal["size", "positive", "post", "rating", "chemistry", "vent", "stock", "charge", "volts"]
    stands: Literal["fits", "changes", "against"]
    text: str


class Match(BaseModel):
    """A candidate with how it fits, why, and how its case differs [mm, new minus old]."""

    model_config = ConfigDict(frozen=True)

    candidate: Candidate
    fit: Fit
    points: tuple[Point, ...]
    length_difference_mm: int
    width_difference_mm: int
    height_difference_mm: int
    to_do: tuple[str, ...]


def match(requirement: Requirement, candidates: list[Candidate], rules: HouseRules) -> list[Match]:
    """Every candidate judged, the best first: exact before near before rejected, in stock first, cheapest first.

    Raises KeyError when the required group code is not in the table.
    """
    asked = footprints()[requirement.group_code]
    codes = {candidate.group_code for candidate in candidates}
    sizes = {code: _size_points(requirement, asked, footprints()[code], rules) for code in codes}
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
        _rating_point(requirement, candidate),
        *_chemistry_points(requirement, candidate.chemistry),
        *_vent_points(requirement, candidate),
        *_stock_points(candidate, rules),
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
        to_do=tuple(_to_do(requirement, asked, size, candidate)) if fit is not Fit.REJECTED else (),
    )


def sizes_that_fit(requirement: Requirement, rules: HouseRules) -> dict[str, Fit]:
    """Every size of the table whose case, posts and volts suit, and whether exactly or nearly.

    Raises KeyError when the required group code is not in the table.
    """
    asked, found = footprints()[requirement.group_code], {}
    for code, size in footprints().items():
        stands = {point.stands for point in _size_points(requirement, asked, size, rules)}
        if "against" not in stands:
            found[code] = Fit.NEAR if "changes" in stands else Fit.EXACT
    return found


def chemistries_that_fit(requirement: Requirement) -> list[Chemistry]:
    """Every chemistry that may stand where this is asked."""
    return [
        chemistry
        for chemistry in Chemistry
        if all(point.stands != "against" for point in _chemistry_points(requirement, chemistry))
    ]


def least_cca_amps(requirement: Requirement) -> float:
    """The smallest CCA [A] that still shows as what is asked for: half a step of the figure under it."""
    return requirement.min_cca_amps - AMPS / 2


def _size_points(requirement: Requirement, asked: Footprint, size: Footprint, rules: HouseRules) -> list[Point]:
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


def _rating_point(requirement: Requirement, candidate: Candidate) -> Point:
    difference = candidate.cca_amps - requirement.min_cca_amps
    if under(candidate.cca_amps, requirement.min_cca_amps, AMPS):
        return Point(
            about="rating", stands="against",
            text=f"{candidate.cca_amps:.0f} CCA, {-difference:.0f} under the {requirement.min_cca_amps:.0f} asked",
        )  # fmt: skip
    return Point(
        about="rating", stands="fits", text=f"{candidate.cca_amps:.0f} CCA, {requirement.min_cca_amps:.0f} asked"
    )


def _chemistry_points(requirement: Requirement, has: Chemistry) -> list[Point]:
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


def _vent_points(requirement: Requirement, candidate: Candidate) -> list[Point]:
    if not requirement.vent_tube:
        return []
    if candidate.vent_tube:
        return [Point(about="vent", stands="fits", text="Takes a vent tube for cabin or boot")]
    return [Point(about="vent", stands="against", text="No vent tube, and it sits in the cabin or boot")]


def _stock_points(candidate: Candidate, rules: HouseRules) -> list[Point]:
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


def _to_do(requirement: Requirement, asked: Footprint, size: Footprint, candidate: Candidate) -> list[str]:
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
