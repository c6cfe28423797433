"""What desks hand to screens, shared by several of them."""

from datetime import datetime
from enum import StrEnum
from typing import Literal

from pydantic import BaseModel

from ..core.battery.label import Battery, Chemistry, Context, Rating, RatingScale
from ..core.findings.kinds import StepKey
from ..core.findings.outcomes import Outcome
from ..core.tables import Footprint, footprints
from ..core.words import Words, cited, say
from ..records import batteries
from ..records.batteries import Judged
from ..records.events import UNHEARD, announce
from ..records.models import BatteryRow, CheckRow, Vehicle
from .desk import Desk


class Place(StrEnum):
    """Where a battery physically is."""

    COUNTER = "counter"
    BENCH = "bench"
    ON_CHARGE = "on_charge"
    STANDING = "standing"
    READY = "ready"
    HELD_APART = "held_apart"
    ON_THE_WAY = "on_the_way"
    GONE = "gone"


class Size(BaseModel):
    """A case's outside in millimetres, with its posts."""

    code: str
    system: str
    length_mm: int
    width_mm: int
    height_mm: int
    nominal_volts: int
    positive_side: Literal["left", "right"]
    post: str
    same_as: str
    source: Words
    standing: str


class ListedCar(BaseModel):
    """A vehicle of the list and what it asks of its battery."""

    id: int
    name: str
    years: Words
    group_code: str
    also_codes: list[str]
    min_cca_amps: float
    chemistry: Chemistry
    stop_start: bool
    vent_tube: bool
    no_agm: bool
    make: str
    model: str
    variant: str
    """Engine and trim: what tells variants of one year apart."""
    from_year: int
    to_year: int | None
    rated_scale: str
    min_capacity_ah: float | None
    flooded_stays: bool
    battery_place: str
    access: str
    programme: str
    memory: str
    needs_registration: bool
    source: Words


class ShelfBattery(BaseModel):
    """A battery as it stands on the shelf."""

    tag: int
    place: Place
    needs_hand_at: datetime | None
    line: str
    size: Size | None
    outcome: Outcome | None
    next_step: StepKey | None
    charge_low_pct: float | None
    charge_high_pct: float | None


def size_of(code: str | None) -> Size | None:
    """The size of a group code."""
    footprint = footprints().get(code or "")
    return None if footprint is None else size_view(footprint)


def size_view(footprint: Footprint) -> Size:
    """A footprint for a screen."""
    row = footprint._asdict()
    origin = row.pop("origin")
    return Size(**row, source=cited(origin.source), standing=origin.standing)


def car_view(vehicle: Vehicle) -> ListedCar:
    """A vehicle for a screen."""
    variant = " ".join(part for part in (vehicle.engine, vehicle.trim) if part)
    years = (
        say("views.to", from_year=vehicle.from_year, to_year=vehicle.to_year)
        if vehicle.to_year
        else say("views.from_on", from_year=vehicle.from_year)
    )
    return ListedCar(
        id=vehicle.id,
        name=" ".join(part for part in (vehicle.make, vehicle.model, variant) if part),
        years=years,
        make=vehicle.make,
        model=vehicle.model,
        variant=variant,
        from_year=vehicle.from_year,
        to_year=vehicle.to_year,
        rated_scale=vehicle.rated_scale,
        min_capacity_ah=vehicle.min_capacity_ah,
        flooded_stays=vehicle.flooded_stays,
        battery_place=vehicle.battery_place,
        access=vehicle.access,
        programme=vehicle.programme,
        memory=vehicle.memory,
        needs_registration=vehicle.needs_registration,
        source=cited(vehicle.source),
        group_code=vehicle.group_code,
        also_codes=list(vehicle.also_codes),
        min_cca_amps=vehicle.min_cca_amps,
        chemistry=Chemistry(vehicle.chemistry),
        stop_start=vehicle.stop_start,
        vent_tube=vehicle.vent_tube,
        no_agm=vehicle.no_agm,
    )


def label_of(row: BatteryRow) -> Battery:
    """The label as the core reads it."""
    rating = (
        None if row.rated_amps is None else Rating(amps=row.rated_amps, scale=RatingScale(row.rated_scale or "CCA"))
    )
    return Battery.model_validate(
        {
            "line": row.line,
            "nominal_volts": row.nominal_volts,
            "chemistry": row.chemistry,
            "chemistry_source": row.chemistry_source,
            "rating": rating,
            "rating_source": row.rating_source,
            "has_caps": row.has_caps,
            "capacity_ah_20h": row.capacity_ah_20h,
            "reserve_minutes": row.reserve_minutes,
            "group_code": row.group_code,
            "size_source": row.size_source,
            "serial": row.serial,
            "made_on": row.made_on,
        }
    )


def context_of(row: CheckRow, battery: BatteryRow) -> Context:
    """How it came in and what its car asks, as the core reads it."""
    columns = {"came_in": row.came_in, "complaint": row.complaint, "use": row.use, "stop_start_car": row.stop_start_car}
    car = battery.vehicle
    if car is not None:
        columns |= {
            "stop_start_car": row.stop_start_car or car.stop_start,
            "car_chemistry": car.chemistry if car.stop_start else None,
            "car_cca_amps": car.min_cca_amps,
            "stop_start_line_volts": car.stop_start_line_volts,
            "engine_litres": car.engine_litres,
            "engine_fuel": car.engine_fuel,
            "needs_registration": car.needs_registration,
        }
    return Context.model_validate({**columns, "sold_on": battery.sold_on})


def shelf_battery(row: BatteryRow, judged: Judged | None) -> ShelfBattery:
    """A battery for the shelf, with its last judgement as it was kept."""
    return ShelfBattery(
        tag=row.tag,
        place=Place(row.place),
        needs_hand_at=row.needs_hand_at,
        line=row.line,
        size=size_of(row.group_code),
        outcome=Outcome(judged.outcome) if judged else None,
        next_step=StepKey(judged.next_step) if judged and judged.next_step else None,
        charge_low_pct=judged.charge_low_pct if judged else None,
        charge_high_pct=judged.charge_high_pct if judged else None,
    )


def announce_battery(desk: Desk, row: BatteryRow, check_id: int) -> None:
    """Tell other screens how a battery stands now, so that none has to ask for the whole shelf."""
    if desk.session.info.get(UNHEARD):
        return
    battery = shelf_battery(row, batteries.last_judged(desk.session, check_id))
    announce(desk.session, desk.staff.store_id, "battery", row.tag, battery.model_dump(mode="json"))
