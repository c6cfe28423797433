"""The match desk: what the car or the old battery asks for, against what the house has."""

from pydantic import BaseModel

from ..core.battery import Chemistry, Model
from ..core.check import FieldProblem
from ..core.matching import Candidate, Match, Requirement, match
from ..core.tables import footprints
from ..records import batteries, shop
from ..records.models import BatteryRow
from .counter import found_battery
from .desk import Desk, NotThere, Refused
from .views import Size, size_of


class Asked(Model):
    """A requirement typed by hand, or changed from what was found."""

    requirement: Requirement


class MatchView(BaseModel):
    """The requirement, every candidate judged against it, and the sizes needed to draw them."""

    tag: int | None
    requirement: Requirement | None
    matches: list[Match]
    sizes: dict[str, Size]
    currency: str


def for_battery(desk: Desk, tag: int) -> MatchView:
    """What replaces a battery: by its car's requirement, else by its own label."""
    row = found_battery(desk, tag)
    check = batteries.latest_check(desk.session, row.id)
    requirement = requirement_of(row, check.stop_start_car)
    if requirement is None:
        return MatchView(tag=tag, requirement=None, matches=[], sizes={}, currency=desk.store.currency)
    return _matched(desk, tag, requirement)


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
    chemistry = Chemistry(row.chemistry)
    if stop_start_car and chemistry in {Chemistry.FLOODED, Chemistry.CALCIUM}:
        chemistry = Chemistry.EFB
    return Requirement(
        group_code=row.group_code,
        min_cca_amps=row.rated_amps or 0,
        chemistry=chemistry,
        stop_start=stop_start_car,
        source="the old battery's label" + ("" if row.rated_amps else ", which gives no CCA"),
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


def _matched(desk: Desk, tag: int | None, requirement: Requirement) -> MatchView:
    candidates = [
        Candidate(
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
        for item, pieces, volts in shop.catalogue_with_stock(desk.session)
    ]
    matches = match(requirement, candidates, desk.rules)
    codes = {requirement.group_code, *(found.candidate.group_code for found in matches)}
    sizes = {code: size for code in sorted(codes) if (size := size_of(code)) is not None}
    return MatchView(tag=tag, requirement=requirement, matches=matches, sizes=sizes, currency=desk.store.currency)
