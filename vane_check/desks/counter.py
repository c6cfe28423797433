"""The counter: take a battery in, correct what was written, move it about the house, and the shelf."""

from datetime import datetime

from pydantic import BaseModel, Field

from ..core.battery.doubts import label_doubts
from ..core.battery.label import Battery, Context, Rating, RatingSource
from ..core.life.customers import Written
from ..core.readings.check import ONE_READING, standing_of
from ..core.readings.faults import FieldProblem
from ..core.units.model import Day, Model, Moment, ShortText
from ..core.words import say
from ..records import batteries, people, rack, shop, stores
from ..records.models import BatteryRow, CheckRow, Move, Promise, TakeInEntry
from .customer_match import whose
from .desk import Conflict, Desk, NotThere, Refused
from .views import Place, ShelfBattery, announce_battery, shelf_battery

MOST = 2**31 - 1
"""No tag or number of a row goes beyond what the database counts in."""


class TakeIn(Model):
    """What is written when a battery crosses the counter. Everything but how it came has a sensible default."""

    battery: Battery = Battery()
    context: Context
    sold_on: Day | None = Field(None, description="date of sale if we sold it")
    customer_name: ShortText = ""
    customer_phone: ShortText = ""
    customer_plate: ShortText = ""
    customer_id: int | None = Field(None, ge=0, le=MOST, description="whom of the customers known here, where picked")
    promised_at: Moment | None = Field(None, description="when it was promised at take-in; later by its own promise")
    waits: bool = Field(False, description="the customer waits in the shop")
    vehicle_id: int | None = Field(None, ge=0, le=MOST)


class CorrectTakeIn(TakeIn):
    """The take-in written anew over the one that was seen."""

    based_on: int = Field(
        ge=0, le=2**63 - 1, description="id of the take-in that was corrected, as the battery's view gave it"
    )


class Theirs(BaseModel):
    """The newer take-in that somebody else wrote meanwhile."""

    take_in_id: int
    who: str
    written_at: datetime
    take_in: TakeIn


class PutThere(Model):
    """Where a battery is put and when it next needs a hand."""

    place: Place
    needs_hand_at: Moment | None = None


def shelf(desk: Desk) -> list[ShelfBattery]:
    """Every battery in the house, the one that needs a hand soonest first."""
    return [shelf_battery(row, judged) for row, judged in batteries.in_house(desk.session)]


def take_in(desk: Desk, body: TakeIn, now: datetime, label_is_right: bool = False) -> int:
    """Write a battery in. Returns its tag. Raises Refused with the field that is wrong.

    `label_is_right` says that somebody looked again at a label whose figures hardly go together.
    """
    _refuse_impossible(desk, body, now, label_is_right)
    row = BatteryRow(tag=people.take_next_tag(desk.session, desk.staff.store_id), place="counter", came_at=now)
    _label(desk, row, body)
    desk.session.add(row)
    desk.session.flush()
    check = CheckRow(battery_id=row.id, opened_at=now, opened_by=desk.staff.id, **_context_columns(body))
    desk.session.add(check)
    desk.session.flush()
    _keep_entry(desk, row, check, body, now)
    _keep_move(desk, row, now)
    if body.promised_at is not None or body.waits:
        priority = "waiting" if body.waits else "ordinary"
        desk.session.add(
            Promise(
                check_id=check.id,
                promised_at=body.promised_at,
                priority=priority,
                said_at=now,
                staff_id=desk.staff.id,
            )
        )
        desk.session.flush()
    announce_battery(desk, row, check.id)
    return row.tag


def correct_take_in(desk: Desk, tag: int, body: CorrectTakeIn, now: datetime, label_is_right: bool = False) -> None:
    """Write the take-in anew; what was written before stays readable as an earlier entry.

    Raises Conflict with the newer entry when somebody else corrected it since it was looked at.
    """
    _refuse_impossible(desk, body, now, label_is_right)
    row = battery_or_refused(desk, tag, lock=True)
    check = batteries.latest_check(desk.session, row.id)
    newest = batteries.newest_take_in(desk.session, check.id)
    if newest.id != body.based_on:
        raise Conflict(
            say("counter.corrected_this_label_meanwhile_compare_the", staff_name=newest.staff.name),
            Theirs(
                take_in_id=newest.id, who=newest.staff.name, written_at=newest.written_at, take_in=take_in_of(newest)
            ),
        )
    _label(desk, row, body)
    for name, value in _context_columns(body).items():
        setattr(check, name, value)
    desk.session.flush()
    _keep_entry(desk, row, check, body, now)


def take_in_of(entry: TakeInEntry) -> TakeIn:
    """The take-in as it was written, with whom it was for unless that was erased."""
    known = {field: value for field, value in entry.body.items() if field in TakeIn.model_fields}
    customer = entry.customer
    if customer is not None:
        known |= {
            "customer_name": customer.name,
            "customer_phone": customer.phone,
            "customer_plate": customer.plate,
            "customer_id": None if customer.erased_at else customer.merged_into or customer.id,
        }
    return TakeIn.model_validate(known)


def put(desk: Desk, tag: int, there: PutThere, now: datetime) -> None:
    """Put a battery somewhere in the house, or out of it."""
    if there.place is Place.ON_THE_WAY:
        words = say("counter.send_it_to_a_store_of_the_house_that_puts")
        raise Refused(say("counter.it_cannot_be_put_there"), [FieldProblem("place", words)])
    row = battery_or_refused(desk, tag, lock=True)
    move(desk, row, there.place, there.needs_hand_at, now)
    announce_battery(desk, row, batteries.latest_check(desk.session, row.id).id)


def move(desk: Desk, row: BatteryRow, place: Place, needs_hand_at: datetime | None, now: datetime) -> None:
    """Put a battery that was found and locked somewhere; it hangs on no charger any more unless it is put on charge."""
    if place is not Place.ON_CHARGE:
        _off_its_charger(desk, row, now)
    row.place, row.needs_hand_at = place, needs_hand_at
    _keep_move(desk, row, now)


def _off_its_charger(desk: Desk, row: BatteryRow, now: datetime) -> None:
    """A battery that is put elsewhere hangs on no charger any more."""
    stay = rack.open_stay(desk.session, row.id)
    if stay is not None:
        stay.off_at, stay.off_by, stay.how = now, desk.staff.id, "moved"
        desk.session.flush()


def battery_or_refused(desk: Desk, tag: int, lock: bool = False, wherever: bool = False) -> BatteryRow:
    """The battery of a tag. Raises NotThere, and Conflict where it is locked to be worked on and another store has it."""
    row = batteries.battery_of_tag(desk.session, tag, lock)
    if row is None:
        raise NotThere(say("counter.no_battery_here_carries_tag", tag=tag))
    if lock and not wherever and row.place in (Place.ON_THE_WAY, Place.GONE):
        sent = stores.where_it_went(desk.session, row.id)
        if sent is not None and sent.state == "on_the_way":
            raise Conflict(say("counter.it_is_on_its_way_to_call_it_back_first", to_name=sent.to_name))
        if sent is not None:
            raise Conflict(
                say("counter.it_went_to_and_carries_tag_there", to_name=sent.to_name, arrived_tag=sent.arrived_tag or 0)
            )
    return row


def undo_take_in(desk: Desk, tag: int, now: datetime) -> None:
    """Take back a take-in made by mistake: the battery leaves the shelf, the entry stays readable and says so.

    Raises Conflict once something was read of it or a claim was written: then it is handed over, not undone.
    """
    row = battery_or_refused(desk, tag, lock=True)
    check = batteries.latest_check(desk.session, row.id)
    if check.undone_at is not None:
        return
    read = [ONE_READING.validate_python(entry.body) for entry in batteries.readings_of(desk.session, check.id)]
    if standing_of(read) or batteries.claim_of(desk.session, row.id) is not None:
        raise Conflict(say("counter.something_was_read_of_it_already_correct"))
    check.undone_at, check.undone_by = now, desk.staff.id
    row.place, row.needs_hand_at = Place.GONE, None
    desk.session.flush()
    _keep_move(desk, row, now)
    announce_battery(desk, row, check.id)


def _refuse_impossible(desk: Desk, body: TakeIn, now: datetime, label_is_right: bool) -> None:
    problems = []
    today = desk.today(now)
    if body.sold_on is not None and body.sold_on > today:
        problems.append(FieldProblem("sold_on", say("counter.the_sale_lies_in_the_future_enter_the_day")))
    if body.battery.made_on is not None and body.battery.made_on > today:
        problems.append(FieldProblem("battery.made_on", say("common.made_in_the_future_read_the_date_code")))
    if body.promised_at is not None and not isinstance(body, CorrectTakeIn) and body.promised_at <= now:
        problems.append(FieldProblem("promised_at", say("common.that_time_has_passed_promise_a_later_one")))
    if body.vehicle_id is not None and shop.vehicle(desk.session, body.vehicle_id) is None:
        problems.append(FieldProblem("vehicle_id", say("counter.no_such_vehicle_in_the_list_pick_one_or")))
    if problems:
        raise Refused(say("counter.the_take_in_cannot_be_right"), problems)
    if not label_is_right and (doubts := label_doubts(body.battery)):
        raise Refused(say("counter.look_at_the_label_again"), [FieldProblem(*doubt) for doubt in doubts])


def _label(desk: Desk, row: BatteryRow, body: TakeIn) -> None:
    label = with_a_rating(desk, body)
    row.line, row.nominal_volts, row.chemistry = label.line, label.nominal_volts, label.chemistry.value
    row.chemistry_source, row.size_source = label.chemistry_source.value, label.size_source.value
    row.rated_amps = label.rating.amps if label.rating else None
    row.rated_scale = label.rating.scale.value if label.rating else None
    row.rating_source = label.rating_source.value
    row.capacity_ah_20h, row.group_code, row.has_caps = label.capacity_ah_20h, label.group_code, label.has_caps
    row.reserve_minutes = label.reserve_minutes
    row.serial, row.made_on, row.sold_on = label.serial, label.made_on, body.sold_on
    row.vehicle_id = body.vehicle_id
    spelling = Written(body.customer_name, body.customer_phone, body.customer_plate)
    row.customer = whose(desk, spelling, body.customer_id, row.customer)


def with_a_rating(desk: Desk, body: TakeIn) -> Battery:
    """The label; where it has no rating one is borrowed from the car, else from our own catalogue, and says so."""
    label = body.battery
    if label.rating is not None:
        return label
    car = shop.vehicle(desk.session, body.vehicle_id) if body.vehicle_id is not None else None
    if car is not None:
        return label.model_copy(update={"rating": Rating(amps=car.min_cca_amps), "rating_source": RatingSource.VEHICLE})
    item = (
        shop.price_of_line(desk.session, label.line, label.group_code, None)
        if label.line and label.group_code
        else None
    )
    if item is not None:
        return label.model_copy(update={"rating": Rating(amps=item.cca_amps), "rating_source": RatingSource.CATALOGUE})
    return label


def _context_columns(body: TakeIn) -> dict[str, str | bool]:
    context = body.context
    return {
        "came_in": context.came_in.value,
        "complaint": context.complaint.value,
        "use": context.use.value,
        "stop_start_car": context.stop_start_car,
    }


PERSONAL = {"customer_name", "customer_phone", "customer_plate", "customer_id"}
"""What is kept apart from evidence."""


def _keep_entry(desk: Desk, row: BatteryRow, check: CheckRow, entry: TakeIn, now: datetime) -> None:
    body = entry.model_dump(mode="json", exclude=PERSONAL | {"based_on"})
    desk.session.add(
        TakeInEntry(check_id=check.id, staff_id=desk.staff.id, written_at=now, customer_id=row.customer_id, body=body)
    )
    desk.session.flush()


def _keep_move(desk: Desk, row: BatteryRow, now: datetime) -> None:
    desk.session.add(
        Move(battery_id=row.id, place=row.place, needs_hand_at=row.needs_hand_at, moved_at=now, staff_id=desk.staff.id)
    )
