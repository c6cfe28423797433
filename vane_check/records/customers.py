"""Customers: kept apart from evidence, found by whatever is known of them, one person however often they were written in,
and erased from everywhere at once."""

from collections.abc import Collection, Sequence
from datetime import date, datetime
from typing import Any, NamedTuple

from sqlalchemy import REAL, ColumnElement, Executable, Text, cast, func, or_, select, true, update
from sqlalchemy.dialects.postgresql import ARRAY
from sqlalchemy.orm import Session, joinedload

from ..core.life.customers import Written, name_key, phone_key, plate_key
from ..core.tables import customer_figures
from .locks import NAMES, wait_for
from .models import BatteryRow, CheckRow, Customer, CustomerEntry, JudgementRow, TakeInEntry, Vehicle
from .past_checks import literally


def find(session: Session, typed: str, most: int) -> Sequence[int]:
    """Ids of the people in whom the text is found: by the beginning of their name, name, phone, plate, battery or car."""
    words = name_key(typed)
    if not words:
        return session.scalars(
            select(Customer.id)
            .where(Customer.merged_into.is_(None), Customer.erased_at.is_(None), Customer.search_text != "")
            .order_by(Customer.id.desc())
            .limit(most)
        ).all()
    keyed = "".join(sign for sign in words if sign.isalnum())
    plain = literally(words)
    is_key = len(keyed) > 2 and any(sign.isdigit() for sign in keyed)
    people = func.find_people(f"%{plain}%", f"%{keyed}%" if is_key else f"%{plain}%", f"{plain}%", most)
    return session.scalars(select(people.table_valued("person").c.person)).all()


def person_of(session: Session, customer_id: int, lock: bool = False) -> Customer | None:
    """Who stands for the person an entry belongs to."""
    row = session.get(Customer, customer_id, populate_existing=True)
    if row is None:
        return None
    query = select(Customer).where(Customer.id == (row.merged_into or row.id))
    if lock:
        query = query.with_for_update()
    return session.scalars(query, execution_options={"populate_existing": True}).one()


def lock_people(session: Session, store_id: int) -> None:
    """One merging of people of a store at a time."""
    wait_for(session, f"people {store_id}", NAMES)


def aliases_of(session: Session, person_ids: Collection[int]) -> Sequence[Customer]:
    """Every way these people were written in, the person's own first."""
    return session.scalars(
        select(Customer)
        .where(or_(Customer.id.in_(person_ids), Customer.merged_into.in_(person_ids)))
        .order_by(Customer.merged_into.is_not(None), Customer.id)
    ).all()


class CustomerBattery(NamedTuple):
    """A battery somebody is or was written in for."""

    customer_id: int
    battery_id: int
    tag: int
    line: str
    serial: str
    came_at: datetime
    sold_on: date | None
    place: str
    car: str
    now: bool
    """Still theirs; else it was, by an earlier take-in."""


BATTERIES_AT_MOST = 2000


def batteries_of(session: Session, customer_ids: Collection[int]) -> Sequence[CustomerBattery]:
    """The batteries of these entries, newest first; of one that came again to another, `now` is false."""
    columns = (
        BatteryRow.tag,
        BatteryRow.line,
        BatteryRow.serial,
        BatteryRow.came_at,
        BatteryRow.sold_on,
        BatteryRow.place,
    )
    car = func.coalesce(Vehicle.make + " " + Vehicle.model, "")
    now = (
        select(BatteryRow.customer_id, BatteryRow.id, *columns, car, true())
        .outerjoin(Vehicle, Vehicle.id == BatteryRow.vehicle_id)
        .where(BatteryRow.customer_id.in_(customer_ids))
        .order_by(BatteryRow.id.desc())
        .limit(BATTERIES_AT_MOST)
    )
    rows = [CustomerBattery(*row) for row in _tuples(session, now)]
    seen = {row.battery_id for row in rows}
    earlier = (
        select(TakeInEntry.customer_id, BatteryRow.id, *columns, car, ~true())
        .select_from(TakeInEntry)
        .join(CheckRow, CheckRow.id == TakeInEntry.check_id)
        .join(BatteryRow, BatteryRow.id == CheckRow.battery_id)
        .outerjoin(Vehicle, Vehicle.id == BatteryRow.vehicle_id)
        .where(TakeInEntry.customer_id.in_(customer_ids), BatteryRow.id.not_in(seen))
        .order_by(TakeInEntry.id.desc())
        .limit(BATTERIES_AT_MOST)
    )
    for row in _tuples(session, earlier):
        if row[1] not in seen:
            seen.add(row[1])
            rows.append(CustomerBattery(*row))
    return sorted(rows, key=lambda row: -row.battery_id)


def _tuples(session: Session, body: Executable) -> list[tuple[Any, ...]]:
    return [tuple(row) for row in session.execute(body)]


def outcomes(session: Session, battery_ids: Collection[int]) -> dict[int, tuple[str, str | None]]:
    """What was last thought of each battery, with its next step; none where nothing was read."""
    last = (
        select(JudgementRow.outcome, JudgementRow.next_step)
        .where(JudgementRow.check_id == CheckRow.id)
        .order_by(JudgementRow.id.desc())
        .limit(1)
        .lateral("last_judgement")
    )
    rows = session.execute(
        select(CheckRow.battery_id, last.c.outcome, last.c.next_step)
        .join(last, true())
        .where(CheckRow.battery_id.in_(battery_ids))
        .order_by(CheckRow.id)
    )
    return {battery_id: (outcome, step) for battery_id, outcome, step in rows}


def find_alike(session: Session, own: Sequence[Customer], most: int) -> Sequence[int]:
    """Other people who may be this one, by id: the same phone or plate, a name nearly the same."""
    keys = (
        sorted({key for row in own if (key := getattr(row, name))}) for name in ("phone_key", "plate_key", "name_key")
    )
    likeness = cast(customer_figures()["name_likeness"], REAL)
    alike = func.find_alike(*(cast(key, ARRAY(Text)) for key in keys), likeness, most + len(own))
    ids = session.scalars(select(alike)).all()
    ours = {row.id for row in own}
    return [customer_id for customer_id in ids if customer_id not in ours][:most]


def find_exact_match(session: Session, row: Written) -> Sequence[Customer]:
    """Entries of the same name with the same phone or plate, the oldest first."""
    keys: list[ColumnElement[bool]] = []
    if key := phone_key(row.phone):
        keys.append(Customer.phone_key == key)
    if key := plate_key(row.plate):
        keys.append(Customer.plate_key == key)
    if not keys or not name_key(row.name):
        return []
    return session.scalars(
        select(Customer)
        .where(Customer.name_key == name_key(row.name), or_(*keys), Customer.erased_at.is_(None))
        .order_by(Customer.id)
        .limit(20)
    ).all()


def edition(session: Session, person_id: int) -> int:
    """The number of the last thing done with somebody's entries; 0 before the first."""
    query = select(func.coalesce(func.max(CustomerEntry.id), 0)).where(CustomerEntry.customer_id == person_id)
    return session.scalar(query) or 0


def last_entry(session: Session, person_id: int) -> CustomerEntry | None:
    """The last thing done with somebody's entries, and by whom."""
    return session.scalar(
        select(CustomerEntry)
        .options(joinedload(CustomerEntry.staff))
        .where(CustomerEntry.customer_id == person_id)
        .order_by(CustomerEntry.id.desc())
        .limit(1)
    )


def aliases_merged_with(session: Session, person_id: int, way_id: int) -> Sequence[int]:
    """The ways of writing that came to a person together with this one, when it was last merged into them."""
    result = session.scalar(
        select(CustomerEntry.other_ids)
        .where(
            CustomerEntry.customer_id == person_id,
            CustomerEntry.what == "merged",
            CustomerEntry.other_ids[1] == way_id,
        )
        .order_by(CustomerEntry.id.desc())
        .limit(1)
    )
    return result or [way_id]


def assign_aliases(session: Session, ids: Collection[int], person_id: int | None) -> None:
    """These ways of writing are this person's from now on; None makes one a person of its own."""
    session.execute(
        update(Customer).where(Customer.id.in_(ids)).values(merged_into=person_id),
        execution_options={"synchronize_session": "fetch"},
    )
