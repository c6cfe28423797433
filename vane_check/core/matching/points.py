"""One thing compared at a time, in words and figures: rating, capacity, chemistry, vent, terms, the piece itself."""

from collections.abc import Iterator

from ..battery.label import CHEMISTRY_RANK, Chemistry
from ..facts.state_of_charge import state_of_charge_pct
from ..house.rules import HouseRules
from ..units.compare import AMPS, PERCENT, under
from .requirement import About, Candidate, Point, Requirement, Stands, spread_of


def spread_between(requirement: Requirement, has: Candidate) -> float:
    """How far two ratings may be off against each other: nothing on one scale, else what both conversions may be off."""
    if has.rated_scale is requirement.cca_scale:
        return 0.0
    return requirement.cca_spread + spread_of(has.rated_scale)


def rating_point(requirement: Requirement, has: Candidate) -> Point:
    """CCA [SAE amps] against what is asked, with what the scales may be off."""
    amps = requirement.min_cca_amps
    words = f"{has.cca_amps:.0f} CCA"
    if has.rated_amps is not None and has.rated_scale.value != "CCA":
        words = f"{has.rated_amps:.0f} {has.rated_scale.value} ({words})"
    if not under(has.cca_amps, amps, AMPS):
        return Point(about="rating", stands="fits", text=f"{words}, {amps:.0f} asked" if amps else words)
    spread = spread_between(requirement, has)
    if spread and not under(has.cca_amps * (1 + spread), amps, AMPS):
        return Point(
            about="rating", stands="changes",
            text=f"{words}, {amps:.0f} asked: on two scales, which may differ by {spread * 100:.0f} %, it may be enough",
        )  # fmt: skip
    return Point(
        about="rating", stands="against", text=f"{words}, {amps - has.cca_amps:.0f} under the {amps:.0f} asked"
    )


def capacity_points(requirement: Requirement, has: Candidate, rules: HouseRules) -> Iterator[Point]:
    """Ah and reserve against what is asked, where anything is."""
    if requirement.min_capacity_ah:
        yield _enough("capacity", "Ah", has.capacity_ah_20h, requirement.min_capacity_ah, rules)
    if requirement.min_reserve_minutes:
        yield _enough("reserve", "min of reserve", has.reserve_minutes, requirement.min_reserve_minutes, rules)


def _enough(about: About, unit: str, has: float | None, least: float, rules: HouseRules) -> Point:
    if has is None:
        return Point(about, "changes", f"Its {unit} are not known, {least:.0f} asked: look at its sheet")
    short = (least - has) / least * 100
    words = f"{has:.0f} {unit}, {least:.0f} asked"
    if under(rules.match.ah_short_most_pct.value, short, PERCENT):
        return Point(about, "against", f"{words}: {short:.0f} % less")
    if under(rules.match.ah_short_pct.value, short, PERCENT):
        return Point(about, "changes", f"{words}: {short:.0f} % less")
    return Point(about, "fits", words)


def chemistry_points(requirement: Requirement, has: Chemistry) -> list[Point]:
    """The chemistry ladder: never down, gel apart, no AGM where it would not last."""
    stands, text = _chemistry(requirement, has)
    return [Point("chemistry", stands, text)]


def _chemistry(requirement: Requirement, has: Chemistry) -> tuple[Stands, str]:
    asks = requirement.chemistry
    name, words = _capital(has.words), asks.words
    if has is Chemistry.AGM and requirement.running_volts is not None:
        return (
            "against",
            f"AGM in a car that ran at {requirement.running_volts:.1f} V would not last: mend its charging first",
        )
    if requirement.flooded_stays and has in {Chemistry.AGM, Chemistry.GEL}:
        return "against", f"{name} where the car charges by a profile for flooded types alone"
    if Chemistry.GEL in {has, asks} and has is not asks:
        return "against", f"{name} where {words} was: charged differently"
    if has is asks:
        return "fits", f"{name}, as asked"
    if requirement.no_agm and has is Chemistry.AGM:
        return "against", "AGM under a hot or uncontrolled charging system would not last"
    down = CHEMISTRY_RANK[asks] - CHEMISTRY_RANK[has]
    if down > 0:
        why = "stop-start is never stepped down" if requirement.stop_start else "never less than the car had"
        return "against", f"{name} where {words} is asked: {why}"
    if down == 0:
        return "fits", f"{name}, a flooded type as asked"
    return "fits", f"{name}, a step up from {words}"


def vent_points(requirement: Requirement, has: Candidate) -> list[Point]:
    """A tube where it sits in the cabin or boot, on the side its hose comes from."""
    if not requirement.vent_tube:
        return []
    if not has.vent_tube:
        return [Point(about="vent", stands="against", text="No vent tube, and it sits in the cabin or boot")]
    if requirement.vent_side and has.vent_side and has.vent_side != requirement.vent_side:
        return [
            Point(
                about="vent", stands="changes",
                text=f"Its vent is on the {has.vent_side}, the tube comes from the {requirement.vent_side}: a longer tube",
            )
        ]  # fmt: skip
    return [Point(about="vent", stands="fits", text="Takes a vent tube for cabin or boot")]


def terms_points(requirement: Requirement, has: Candidate) -> list[Point]:
    """Whether the warranty of its line holds for how it will be used."""
    if requirement.use not in has.excluded_uses:
        return []
    use = requirement.use.value.replace("_", " ")
    return [
        Point(about="terms", stands="changes", text=f"No warranty in {use} use: the terms of {has.line} leave it out")
    ]


def stock_points(has: Candidate, rules: HouseRules) -> list[Point]:
    """What stands on the shelf, how old its next piece is, and whether it is charged."""
    if not has.in_stock:
        return [Point(about="stock", stands="changes", text="None in stock: order it")]
    points = [Point(about="stock", stands="fits", text=f"{has.in_stock} in stock")]
    if has.piece is not None and has.piece.mark == "reduced":
        months = has.piece.uncharged_months
        points.append(
            Point(
                about="stock", stands="changes", text=f"The next piece stood {months:.0f} months uncharged: priced down"
            )
        )
    if has.piece is not None and has.piece.dry:
        points.append(
            Point(about="charge", stands="changes", text="Dry-charged: fill it, let it soak, then read its volts")
        )
    elif has.last_volts is not None:
        charge = state_of_charge_pct(has.last_volts, has.chemistry, has.nominal_volts)
        if under(charge, rules.rest.charged_to_hand_over_soc_pct.value, PERCENT):
            points.append(
                Point(
                    about="charge",
                    stands="changes",
                    text=f"Stands at {has.last_volts:.2f} V: charge it before it is handed over",
                )
            )
    return points


def _capital(words: str) -> str:
    return words[:1].upper() + words[1:]
