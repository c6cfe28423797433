"""Customers: found while typing, one person however often they were written in, handed out and forgotten on request."""

from collections.abc import Sequence
from datetime import date, datetime

from pydantic import BaseModel, Field

from ..core.findings.kinds import StepKey
from ..core.findings.outcomes import Outcome
from ..core.life.customers import Written, name_key, why_alike
from ..core.readings.faults import FieldProblem
from ..core.tables import customer_figures
from ..core.units.model import Model, ShortText
from ..core.words import Words, say
from ..records import customer_rights, customers, stores
from ..records.events import announce
from ..records.models import Customer, CustomerEntry
from .desk import Conflict, Desk, NotThere, Refused
from .views import Place

CARS_SHOWN = 3


class KnownCustomer(BaseModel):
    """A customer as a list shows them."""

    id: int
    name: str
    phone: str
    plate: str
    cars: list[str]
    batteries: int
    newest_tag: int | None
    last_came_at: datetime | None


class CustomersFound(BaseModel):
    """Who is found; `more` where more has to be typed."""

    people: list[KnownCustomer]
    more: bool


class Way(BaseModel):
    """One way somebody was written in."""

    id: int
    name: str
    phone: str
    plate: str


class TheirBattery(BaseModel):
    """A battery of somebody; `now` is false where it came back as another's."""

    tag: int
    line: str
    serial: str
    came_at: datetime
    sold_on: date | None
    place: Place
    car: str
    outcome: Outcome | None
    sold: bool
    """It stands as it was handed over new."""
    now: bool


class Alike(KnownCustomer):
    """Somebody who may be the same person, and why."""

    why: Words


class CustomerView(BaseModel):
    """One person: how they were written in, their cars and batteries, who may be the same."""

    id: int
    edition: int
    own: Way
    ways: list[Way]
    cars: list[str]
    batteries: list[TheirBattery]
    alike: list[Alike]
    erased_at: datetime | None
    would_forget: int
    """How many entries forgetting them takes away, those that are surely theirs by phone or plate among them."""
    sent_to: list[str]
    """Other stores of the house they were sent to: there they are forgotten by that store."""


class WriteCustomer(Model):
    """Name, phone and plate written anew over those that were seen."""

    name: ShortText = ""
    phone: ShortText = ""
    plate: ShortText = ""
    based_on: int = Field(ge=0, le=2**31 - 1, description="the edition that was seen")


class OtherCustomer(Model):
    """Which other entry is meant."""

    other_id: int = Field(ge=0, le=2**31 - 1)


def find(desk: Desk, typed: str) -> CustomersFound:
    """People in whom the text is found, the likeliest first."""
    most = int(customer_figures()["shown_at_most"])
    ids = list(customers.find(desk.session, typed, most + 1))
    begins = name_key(typed)
    shown = sorted(_people(desk, ids[:most]), key=lambda person: person.newest_tag or 0, reverse=True)
    shown.sort(key=lambda person: not name_key(person.name).startswith(begins))
    return CustomersFound(people=shown, more=len(ids) > most)


def _people(desk: Desk, ids: Sequence[int]) -> list[KnownCustomer]:
    ways: dict[int, list[Customer]] = {customer_id: [] for customer_id in ids}
    for row in customers.aliases_of(desk.session, ids):
        ways[row.merged_into or row.id].append(row)
    person_of = {row.id: person for person, rows in ways.items() for row in rows}
    batteries: dict[int, list[customers.CustomerBattery]] = {customer_id: [] for customer_id in ids}
    for battery in customers.batteries_of(desk.session, list(person_of)):
        batteries[person_of[battery.customer_id]].append(battery)
    return [_person(ways[customer_id][0], batteries[customer_id]) for customer_id in ids if ways[customer_id]]


def _person(row: Customer, batteries: Sequence[customers.CustomerBattery]) -> KnownCustomer:
    return KnownCustomer(
        id=row.id,
        name=row.name,
        phone=row.phone,
        plate=row.plate,
        cars=_cars(batteries)[:CARS_SHOWN],
        batteries=len(batteries),
        newest_tag=batteries[0].tag if batteries else None,
        last_came_at=batteries[0].came_at if batteries else None,
    )


def _cars(batteries: Sequence[customers.CustomerBattery]) -> list[str]:
    return list(dict.fromkeys(battery.car for battery in batteries if battery.car and battery.now))


def view(desk: Desk, customer_id: int) -> CustomerView:
    """One person, by any of the ways they were written in. Raises NotThere."""
    row = customer_or_refused(desk, customer_id)
    ways = customers.aliases_of(desk.session, [row.id])
    batteries = customers.batteries_of(desk.session, [way.id for way in ways])
    outcomes = customers.outcomes(desk.session, [battery.battery_id for battery in batteries])
    return CustomerView(
        id=row.id,
        edition=customers.edition(desk.session, row.id),
        own=_way(row),
        ways=[_way(way) for way in ways if way.id != row.id],
        cars=_cars(batteries),
        batteries=[
            TheirBattery(
                tag=battery.tag,
                line=battery.line,
                serial=battery.serial,
                came_at=battery.came_at,
                sold_on=battery.sold_on,
                place=Place(battery.place),
                car=battery.car,
                outcome=Outcome(outcomes[battery.battery_id][0]) if battery.battery_id in outcomes else None,
                sold=battery.battery_id in outcomes and outcomes[battery.battery_id][1] == StepKey.SOLD,
                now=battery.now,
            )
            for battery in batteries
        ],
        alike=[] if row.erased_at else _alike(desk, ways),
        erased_at=row.erased_at,
        sent_to=list(stores.stores_sent_to(desk.session, [way.id for way in ways])),
        would_forget=0 if row.erased_at else len(customer_rights.same_people(desk.session, ways)),
    )


def _alike(desk: Desk, own: Sequence[Customer]) -> list[Alike]:
    most = int(customer_figures()["shown_at_most"])
    others = {person.id: person for person in _people(desk, customers.find_alike(desk.session, own, most))}
    result = []
    theirs: dict[int, list[Customer]] = {}
    for way in customers.aliases_of(desk.session, list(others)):
        theirs.setdefault(way.merged_into or way.id, []).append(way)
    for person_id, person in others.items():
        why = next(filter(None, (why_alike(_spelling(a), _spelling(b)) for a in own for b in theirs[person_id])), None)
        if why:
            result.append(Alike(**person.model_dump(), why=why))
    return result


def _spelling(row: Customer) -> Written:
    return Written(row.name, row.phone, row.plate)


def _way(row: Customer) -> Way:
    return Way(id=row.id, name=row.name, phone=row.phone, plate=row.plate)


def customer_or_refused(desk: Desk, customer_id: int, lock: bool = False) -> Customer:
    """Somebody by the number of their first entry. Raises NotThere."""
    row = customers.person_of(desk.session, customer_id, lock)
    if row is None:
        raise NotThere(say("customers.nobody_of_that_number_is_written_in_here"))
    return row


def correct(desk: Desk, customer_id: int, body: WriteCustomer, now: datetime) -> None:
    """Name, phone and plate from now on, on every paper and battery of theirs. Raises Conflict when somebody was first."""
    row = customer_or_refused(desk, customer_id, lock=True)
    not_erased(row)
    if not (body.name or body.phone or body.plate):
        raise Refused(
            say("customers.nobody_is_left"),
            [FieldProblem("name", say("customers.write_a_name_a_phone_or_a_plate_or_forget"))],
        )
    last = customers.last_entry(desk.session, row.id)
    if last is not None and last.id != body.based_on:
        raise Conflict(say("customers.changed_this_meanwhile_look_again", staff_name=last.staff.name))
    if (row.name, row.phone, row.plate) == (body.name, body.phone, body.plate):
        return
    row.name, row.phone, row.plate = body.name, body.phone, body.plate
    keep_entry(desk, row, "corrected", [], now)


def merge_customers(desk: Desk, customer_id: int, body: OtherCustomer, now: datetime) -> None:
    """The other is the same person as this one: their batteries and ways of writing are theirs. It can be taken apart again."""
    customers.lock_people(desk.session, desk.staff.store_id)
    row, other = customer_or_refused(desk, customer_id, lock=True), customer_or_refused(desk, body.other_id, lock=True)
    not_erased(row)
    not_erased(other)
    if row.id == other.id:
        raise Conflict(say("customers.the_two_are_one_person_already_look_again"))
    moved = [other.id, *(alias.id for alias in customers.aliases_of(desk.session, [other.id]) if alias.id != other.id)]
    customers.assign_aliases(desk.session, moved, row.id)
    keep_entry(desk, row, "merged", moved, now)


def split_customer(desk: Desk, customer_id: int, body: OtherCustomer, now: datetime) -> None:
    """Another way of writing is a person of its own again, with all that had come to this one together with it."""
    customers.lock_people(desk.session, desk.staff.store_id)
    row = customer_or_refused(desk, customer_id, lock=True)
    not_erased(row)
    ways = {alias.id for alias in customers.aliases_of(desk.session, [row.id])} - {row.id}
    if body.other_id not in ways:
        raise Conflict(say("customers.that_entry_is_not_among_theirs_any_more"))
    moved = [
        alias_id for alias_id in customers.aliases_merged_with(desk.session, row.id, body.other_id) if alias_id in ways
    ]
    customers.assign_aliases(desk.session, [body.other_id], None)
    customers.assign_aliases(desk.session, [alias_id for alias_id in moved if alias_id != body.other_id], body.other_id)
    keep_entry(desk, row, "apart", moved, now)


def not_erased(row: Customer) -> None:
    """Raises Refused for somebody who was forgotten."""
    if row.erased_at is not None:
        raise Refused(say("customers.they_were_forgotten_nothing_of_them_is"))


def keep_entry(desk: Desk, row: Customer, what: str, other_ids: list[int], now: datetime) -> None:
    """Keep what was done with somebody's entries, by whom and when."""
    desk.session.add(
        CustomerEntry(customer_id=row.id, staff_id=desk.staff.id, written_at=now, what=what, other_ids=other_ids)
    )
    desk.session.flush()
    announce(desk.session, desk.staff.store_id, "customers")
