"""Customers: kept apart from evidence, and erased from everywhere at once."""

from collections.abc import Sequence
from datetime import datetime

from sqlalchemy import ColumnElement, func, or_, select, update
from sqlalchemy.orm import Session

from .models import BatteryRow, CheckRow, Customer, TakeInEntry


def customers_of(session: Session, battery_id: int) -> Sequence[Customer]:
    """Everybody a battery was ever written in for."""
    entries = (
        select(TakeInEntry.customer_id)
        .join(CheckRow, CheckRow.id == TakeInEntry.check_id)
        .where(CheckRow.battery_id == battery_id)
    )
    now = select(BatteryRow.customer_id).where(BatteryRow.id == battery_id)
    return session.scalars(select(Customer).where(or_(Customer.id.in_(entries), Customer.id.in_(now)))).all()


def same_people(session: Session, people: Sequence[Customer]) -> set[int]:
    """All entries of these people in this store: the same name and the same phone, or the same plate."""
    ids = {one.id for one in people}
    for one in people:
        same: list[ColumnElement[bool]] = []
        if one.name and one.phone:
            same.append((func.lower(Customer.name) == one.name.lower()) & (Customer.phone == one.phone))
        if one.plate:
            same.append(func.lower(Customer.plate) == one.plate.lower())
        if same:
            ids.update(session.scalars(select(Customer.id).where(or_(*same))))
    return ids


def tags_of(session: Session, customer_ids: set[int]) -> Sequence[int]:
    """The batteries these entries belong to."""
    return session.scalars(
        select(BatteryRow.tag)
        .join(CheckRow, CheckRow.battery_id == BatteryRow.id)
        .join(TakeInEntry, TakeInEntry.check_id == CheckRow.id)
        .where(TakeInEntry.customer_id.in_(customer_ids))
        .distinct()
        .order_by(BatteryRow.tag)
    ).all()


def erase(session: Session, customer_ids: set[int], now: datetime) -> None:
    """Take name, phone and plate away."""
    session.execute(
        update(Customer).where(Customer.id.in_(customer_ids)).values(name="", phone="", plate="", erased_at=now),
        execution_options={"synchronize_session": "fetch"},
    )
