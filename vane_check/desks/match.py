"""The match desk: what the car or the old battery asks for, against what the house has."""

from pydantic import BaseModel

from ..core.battery import ORDINARY, Chemistry, Model, RatingScale
from ..core.compare import AMPS, rounded
from ..core.faults import FieldProblem
from ..core.matching import (
    Candidate,
    Fit,
    Match,
    Requirement,
    chemistries_that_fit,
    least_cca_amps,
    match,
    sizes_that_fit,
)
from ..core.tables import footprints
from ..records import batteries, shop
from ..records.models import BatteryRow, CatalogueItem
from .counter import found_battery
from .desk import Desk, NotThere, Refused
from .views import Size, label_of, size_of


class Asked(Model):
    """A requirement typed by hand, or changed from what was found."""

    requirement: Requirement


class MatchView(BaseModel):
    """The requirement, every candidate judged against it, and the sizes needed to draw them."""

    tag: int | None
    requirement: Requirement | None
    asked_as: str
    """The rating on the scale it stands on, where that is not SAE CCA."""
    matches: list[Match]
    fitting: int
    rejected: int
    """How many fit and do not fit in all; `matches` holds the best of each."""
    rejected_more: bool
    """More than `rejected` do not fit: counting stopped there."""
    sizes: dict[str, Size]
    currency: str


def for_battery(desk: Desk, tag: int) -> MatchView:
    """What replaces a battery: by its car's requirement, else by its own label."""
    row = found_battery(desk, tag)
    check = batteries.latest_check(desk.session, row.id)
    requirement = requirement_of(row, check.stop_start_car)
    if requirement is None:
        return MatchView(
            tag=tag,
            requirement=None,
            asked_as="",
            matches=[],
            fitting=0,
            rejected=0,
            rejected_more=False,
            sizes={},
            currency=desk.store.currency,
        )
    return _matched(desk, tag, requirement, "" if row.vehicle else _asked_as(row))


def for_vehicle(desk: Desk, vehicle_id: int) -> MatchView:
    """What fits a vehicle of the list."""
    vehicle = shop.vehicle(desk.session, vehicle_id)
    if vehicle is None:
        raise NotThere("no such vehicle in the list")
    return _matched(desk, None, _of_vehicle(BatteryRow(vehicle=vehicle, chemistry="flooded")))


def for_requirement(desk: Desk, asked: Asked, tag: int | None = None) -> MatchView:
    """What fits a requirement as typed. Refused when its size is not in the table."""
    if asked.requirement.group_code not in footprints():
        raise Refused("No such size", [FieldProblem("requirement.group_code", "Pick a size from the list")])
    return _matched(desk, tag, asked.requirement)


def requirement_of(row: BatteryRow, stop_start_car: bool) -> Requirement | None:
    """What is asked for. The car rules; the old battery's chemistry is never stepped down on a stop-start car."""
    if row.vehicle is not None:
        return _of_vehicle(row)
    if row.group_code is None:
        return None
    chemistry, rating = Chemistry(row.chemistry), label_of(row).rating
    if stop_start_car and chemistry in ORDINARY:
        chemistry = Chemistry.EFB
    return Requirement(
        group_code=row.group_code,
        min_cca_amps=0 if rating is None else rounded(rating.cca_amps, AMPS),
        chemistry=chemistry,
        stop_start=stop_start_car,
        source="the old battery's label" + ("" if rating else ", which gives no CCA"),
    )


def _of_vehicle(row: BatteryRow) -> Requirement:
    car = row.vehicle
    assert car is not None
    chemistry = Chemistry(car.chemistry)
    if Chemistry(row.chemistry) is Chemistry.AGM and not car.no_agm:
        chemistry = Chemistry.AGM
    return Requirement(
        group_code=car.group_code,
        also_codes=tuple(car.also_codes),
        min_cca_amps=car.min_cca_amps,
        chemistry=chemistry,
        stop_start=car.stop_start,
        vent_tube=car.vent_tube,
        no_agm=car.no_agm,
        source=f"vehicle list: {car.make} {car.model}",
    )


def _asked_as(row: BatteryRow) -> str:
    rating = label_of(row).rating
    if rating is None or rating.scale is RatingScale.CCA:
        return ""
    return (
        f"{rating.amps:.0f} {rating.scale.value} is about {rating.cca_amps:.0f} CCA, give or take "
        f"{rating.relative_spread * 100:.0f} %"
    )


FITTING_AT_MOST, REJECTED_AT_MOST = 40, 24
"""So many of each are judged and shown, the best first; the rest are counted."""
ITEMS_COUNTED_AT_MOST = 5000
"""Beyond this the rest is "more than": counting a whole catalogue would take longer than finding what fits."""


def _matched(desk: Desk, tag: int | None, requirement: Requirement, asked_as: str = "") -> MatchView:
    """The catalogue is narrowed by what the core says of sizes and chemistries; then each item is judged by the core."""
    fits = sizes_that_fit(requirement, desk.rules)
    asked = shop.Asked(
        codes=list(fits),
        exact_codes=[code for code, fit in fits.items() if fit is Fit.EXACT],
        chemistries=[chemistry.value for chemistry in chemistries_that_fit(requirement)],
        min_cca_amps=least_cca_amps(requirement),
        vent_tube=requirement.vent_tube,
    )
    fitting, how_many = shop.fitting(desk.session, asked, FITTING_AT_MOST)
    offered = [*fitting, *shop.not_fitting(desk.session, asked, REJECTED_AT_MOST)]
    matches = match(requirement, [_candidate(*one) for one in offered], desk.rules)
    items = shop.count_items(desk.session, how_many + ITEMS_COUNTED_AT_MOST + 1)
    rest = items - how_many
    codes = {requirement.group_code, *(found.candidate.group_code for found in matches)}
    return MatchView(
        tag=tag,
        requirement=requirement,
        asked_as=asked_as,
        matches=matches,
        fitting=how_many,
        rejected=min(rest, ITEMS_COUNTED_AT_MOST),
        rejected_more=rest > ITEMS_COUNTED_AT_MOST,
        sizes={code: size for code in sorted(codes) if (size := size_of(code)) is not None},
        currency=desk.store.currency,
    )


def _candidate(item: CatalogueItem, pieces: int, volts: float | None) -> Candidate:
    return Candidate(
        item_id=item.id,
        line=item.line,
        name=item.name,
        group_code=item.group_code,
        chemistry=Chemistry(item.chemistry),
        cca_amps=item.cca_amps,
        vent_tube=item.vent_tube,
        price_cents=item.price_cents,
        in_stock=pieces,
        last_volts=volts,
    )
