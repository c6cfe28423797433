"""What each source says a battery must be: the car's list, the label, a code, the tape, the owner, the check."""

from collections.abc import Iterator

from pydantic import Field

from ..core.battery.codes import CodeRead, UnknownCode, plain, read_code
from ..core.battery.label import Chemistry, RatingScale, RatingSource, Use
from ..core.matching import Measured, Requirement
from ..core.matching.claims import Claim, Need, SourceKey
from ..core.matching.requirement import CableSpare
from ..core.matching.sources import too_high_running_volts
from ..core.readings import Car
from ..core.readings.check import standing_of
from ..core.readings.faults import FieldProblem
from ..core.tables.base import Sourced
from ..core.tables.codes import Figures
from ..core.units.compare import AMPS, rounded
from ..core.units.model import Model, ShortText
from ..core.words import NOTHING, cited, in_a_row, say, word, words_of
from ..records import batteries, goods, shop
from ..records.models import BatteryRow, CheckRow, Vehicle
from .check import reading_of
from .counter import MOST, battery_or_refused
from .desk import Desk, NotThere, Refused
from .views import label_of


class AskMatch(Model):
    """What is known: a battery in the house, a car of the list, a code, the tape, the owner's needs; or all of it typed."""

    tag: int | None = Field(None, ge=0, le=MOST)
    vehicle_id: int | None = Field(None, ge=0, le=MOST)
    code: ShortText = ""
    measured: Measured | None = None
    needs: tuple[Need, ...] = Field((), max_length=10)
    spare_cable_mm: CableSpare | None = None
    use: Use | None = None
    requirement: Requirement | None = Field(None, description="typed whole: then nothing else is asked")


def claims_of(desk: Desk, body: AskMatch) -> list[Claim]:
    """Every source that says anything. Raises NotThere, and Refused with the field for a code that says nothing."""
    return list(_claims(desk, body))


def _claims(desk: Desk, body: AskMatch) -> Iterator[Claim]:
    row = battery_or_refused(desk, body.tag) if body.tag is not None else None
    check = batteries.latest_check(desk.session, row.id) if row else None
    car = row.vehicle if row else None
    if body.vehicle_id is not None:
        car = shop.vehicle(desk.session, body.vehicle_id)
        if car is None:
            raise NotThere(say("match_claims.no_such_vehicle_in_the_list"))
    if body.measured is not None:
        title = (
            say("match_claims.the_tray_measured")
            if body.measured.of == "tray"
            else say("match_claims.the_old_one_measured")
        )
        yield Claim(
            key=SourceKey.TAPE,
            title=title,
            measured=body.measured,
            post=body.measured.post,
            standing=say("match_claims.measured_here"),
        )
    if car is not None:
        yield claim_of_car(car)
    if body.code.strip():
        yield _of_code(code_read(desk, body.code))
    if row is not None:
        yield _of_label(row)
    use = body.use or (Use(check.use) if check else None)
    if use or body.needs or body.spare_cable_mm or (check and check.stop_start_car):
        yield Claim(
            key=SourceKey.OWNER, title=say('common.the_owner'), needs=body.needs, use=use, spare_cable_mm=body.spare_cable_mm,
            stop_start=True if check and check.stop_start_car else None,
        )  # fmt: skip
    if check is not None:
        volts = too_high_running_volts(_running(desk, check), desk.rules)
        if volts is not None:
            yield Claim(
                key=SourceKey.CHECK,
                title=say("common.the_check"),
                running_volts=volts,
                standing=say("match_claims.measured_here"),
            )


def _running(desk: Desk, check: CheckRow) -> list[float]:
    """What the car ran at in this check, of readings that stand."""
    kept = [reading_of(entry) for entry in batteries.readings_of(desk.session, check.id)]
    return [
        volts
        for reading in standing_of(kept)
        if isinstance(reading, Car)
        for volts in (reading.idle_volts, reading.loaded_volts)
        if volts is not None
    ]


def claim_of_car(car: Vehicle) -> Claim:
    """What the car's list says."""
    name = " ".join(part for part in (car.make, car.model, car.engine, car.trim) if part)
    scale = RatingScale(car.rated_scale)
    return Claim(
        key=SourceKey.CAR,
        title=say("match_claims.vehicle_list", name=name[:120]),
        group_code=car.group_code,
        also_codes=tuple(car.also_codes),
        ledge=car.ledge,
        spare_cable_mm=car.spare_cable_mm or None,
        cca_amps=car.min_cca_amps,
        cca_scale=scale,
        capacity_ah=car.min_capacity_ah,
        reserve_minutes=car.min_reserve_minutes,
        chemistry=Chemistry(car.chemistry),
        stop_start=car.stop_start or None,
        vent_tube=car.vent_tube or None,
        vent_side=car.vent_side,
        no_agm=car.no_agm or None,
        flooded_stays=car.flooded_stays or None,
        standing=cited(car.source[:120]),
    )


def _of_label(row: BatteryRow) -> Claim:
    """What the battery says of itself. What its car lent it is the car's word alone: it stands there, once."""
    label = label_of(row)
    lent = RatingSource.VEHICLE
    rating = None if label.rating_source is lent else label.rating
    return Claim(
        key=SourceKey.LABEL,
        title=say("match_claims.the_old_batterys_label")
        + (NOTHING if rating else say("match_claims.which_gives_no_cca")),
        group_code=(row.group_code or "") if label.size_source is not lent else "",
        nominal_volts=row.nominal_volts,
        cca_amps=None if rating is None else rounded(rating.cca_amps, AMPS),
        cca_scale=RatingScale.CCA if rating is None else rating.scale,
        capacity_ah=row.capacity_ah_20h,
        reserve_minutes=row.reserve_minutes,
        chemistry=None if label.chemistry_source is lent else label.chemistry,
        standing=say("match_claims.as_it_was_taken_in"),
    )


def code_read(desk: Desk, text: str) -> CodeRead:
    """What a code says, by this shop's own list first. Raises Refused with a sentence in its field."""
    alias = goods.alias(desk.session, plain(text))
    own = {}
    if alias is not None:
        own[alias.code] = Figures(
            alias.size, alias.positive_side, alias.capacity_ah_20h, alias.rated_amps, alias.rated_scale, alias.trade,
            Sourced(alias.source, "practice"),
        )  # fmt: skip
    try:
        return read_code(text, own)
    except UnknownCode as error:
        raise Refused(say("match_claims.unknown_code"), [FieldProblem("code", words_of(error.args[0]))]) from error


def _of_code(code_read: CodeRead) -> Claim:
    measured = None
    if code_read.group_code is None and code_read.length_mm and code_read.width_mm and code_read.height_mm:
        measured = Measured(
            of="old", length_mm=code_read.length_mm, width_mm=code_read.width_mm, height_mm=code_read.height_mm,
            positive_side=code_read.positive_side, post=code_read.post,
        )  # fmt: skip
    return Claim(
        key=SourceKey.CODE,
        title=say("match_claims.code", code=code_read.code),
        group_code=code_read.group_code or "",
        measured=measured,
        nominal_volts=code_read.nominal_volts,
        positive_side=code_read.positive_side,
        post=code_read.post,
        cca_amps=None if code_read.rating is None else rounded(code_read.rating.cca_amps, AMPS),
        cca_scale=RatingScale.CCA if code_read.rating is None else code_read.rating.scale,
        capacity_ah=code_read.capacity_ah_20h,
        chemistry=code_read.chemistry,
        standing=in_a_row((code_read.source, word(code_read.standing)), ", "),
    )
