"""A person's rights: all that is kept of somebody, found and handed over, and taken away."""

from collections.abc import Collection, Sequence
from datetime import datetime
from typing import Any, NamedTuple

from sqlalchemy import ColumnElement, or_, select, update
from sqlalchemy.orm import Session

from .customers import _tuples, aliases_of
from .models import BatteryRow, CheckRow, Claim, Customer, JudgementRow, ReadingRow, Remark, TakeInEntry


class Kept(NamedTuple):
    """Everything kept of some batteries, as it was written, each list in its order; one query each."""

    take_ins: Sequence[tuple[int, datetime, dict[str, Any]]]
    readings: Sequence[tuple[int, datetime, dict[str, Any]]]
    judgements: Sequence[tuple[int, datetime, str, str]]
    claims: Sequence[tuple[int, datetime, str, int]]
    remarks: Sequence[tuple[int, datetime, str, str]]


def everything_about(session: Session, customer_ids: Collection[int], battery_ids: Collection[int]) -> Kept:
    """What was written and read of batteries while they were these entries', each row with its tag first."""
    checks = (
        select(CheckRow.id, BatteryRow.tag)
        .join(BatteryRow, BatteryRow.id == CheckRow.battery_id)
        .where(
            CheckRow.battery_id.in_(battery_ids),
            CheckRow.id.in_(select(TakeInEntry.check_id).where(TakeInEntry.customer_id.in_(customer_ids))),
        )
        .subquery()
    )
    take_ins = (
        select(checks.c.tag, TakeInEntry.written_at, TakeInEntry.body)
        .join(checks, checks.c.id == TakeInEntry.check_id)
        .where(TakeInEntry.customer_id.in_(customer_ids))
        .order_by(TakeInEntry.id)
    )
    readings = (
        select(checks.c.tag, ReadingRow.taken_at, ReadingRow.body)
        .join(checks, checks.c.id == ReadingRow.check_id)
        .order_by(ReadingRow.id)
    )
    judgements = (
        select(checks.c.tag, JudgementRow.made_at, JudgementRow.outcome, JudgementRow.body["headline"])
        .join(checks, checks.c.id == JudgementRow.check_id)
        .order_by(JudgementRow.id)
    )
    claims = (
        select(BatteryRow.tag, Claim.written_at, Claim.decision, Claim.credit_cents)
        .join(BatteryRow, BatteryRow.id == Claim.battery_id)
        .where(BatteryRow.customer_id.in_(customer_ids))
        .order_by(Claim.id)
    )
    remarks = (
        select(checks.c.tag, Remark.written_at, Remark.what, Remark.text)
        .join(checks, checks.c.id == Remark.check_id)
        .order_by(Remark.id)
    )
    return Kept(*(_tuples(session, query) for query in (take_ins, readings, judgements, claims, remarks)))


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
    """All entries of these people in this store: what was merged, the same name with the same phone, the same plate."""
    persons = {person.merged_into or person.id for person in people}
    every = {row.id: row for row in [*people, *aliases_of(session, persons)]}
    same: list[ColumnElement[bool]] = []
    for alias in every.values():
        if alias.name_key and alias.phone:
            same.append((Customer.name_key == alias.name_key) & (Customer.phone == alias.phone))
        if alias.name_key and alias.phone_key:
            same.append((Customer.name_key == alias.name_key) & (Customer.phone_key == alias.phone_key))
        if alias.plate_key:
            same.append(Customer.plate_key == alias.plate_key)
    ids = set(every)
    if same:
        ids.update(session.scalars(select(Customer.id).where(or_(*same), Customer.erased_at.is_(None))))
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
    nobody = {field: "" for field in ("name", "phone", "plate", "name_key", "phone_key", "plate_key")}
    session.execute(
        update(Customer).where(Customer.id.in_(customer_ids)).values(**nobody, erased_at=now),
        execution_options={"synchronize_session": "fetch"},
    )
    theirs = select(TakeInEntry.check_id).where(TakeInEntry.customer_id.in_(customer_ids))
    session.execute(
        update(Remark).where(Remark.check_id.in_(theirs)).values(text=""),
        execution_options={"synchronize_session": "fetch"},
    )
