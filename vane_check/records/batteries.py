"""Batteries, checks, readings, judgements."""

import re
import uuid
from collections.abc import Sequence
from datetime import datetime
from typing import Any, NamedTuple

from sqlalchemy import func, select, true
from sqlalchemy.orm import Session, aliased, joinedload, lazyload

from ..core.words import Words, words_of
from .locks import SERIALS, wait_for
from .models import BatteryRow, CheckRow, Claim, JudgementRow, Move, ReadingRow, RulesVersion, Staff, TakeInEntry


def battery_of_tag(session: Session, tag: int, lock: bool = False) -> BatteryRow | None:
    """The battery that carries a tag."""
    query = select(BatteryRow).where(BatteryRow.tag == tag)
    if lock:
        query = query.with_for_update(of=BatteryRow)
    return session.scalar(query)


def latest_check(session: Session, battery_id: int) -> CheckRow:
    """The battery's present visit."""
    return session.scalars(
        select(CheckRow).where(CheckRow.battery_id == battery_id).order_by(CheckRow.id.desc()).limit(1)
    ).one()


def first_check(session: Session, battery_id: int) -> CheckRow:
    """The battery's first visit: of one sold here, its sale."""
    query = select(CheckRow).where(CheckRow.battery_id == battery_id)
    return session.scalars(query.order_by(CheckRow.id).limit(1)).one()


def readings_of(session: Session, check_id: int) -> Sequence[ReadingRow]:
    """Every entry of a check with who made it, in the order they were kept."""
    return session.scalars(
        select(ReadingRow)
        .options(joinedload(ReadingRow.staff))
        .where(ReadingRow.check_id == check_id)
        .order_by(ReadingRow.id)
    ).all()


def reading_of_uuid(session: Session, reading_uuid: uuid.UUID) -> ReadingRow | None:
    """An entry by the name its author gave it."""
    return session.scalar(select(ReadingRow).where(ReadingRow.reading_uuid == reading_uuid))


def latest_judgement(session: Session, check_id: int) -> JudgementRow | None:
    """What was last thought of a check."""
    return session.scalar(
        select(JudgementRow).where(JudgementRow.check_id == check_id).order_by(JudgementRow.id.desc()).limit(1)
    )


def judgement_with_rules(session: Session, check_id: int) -> tuple[JudgementRow, RulesVersion, Staff] | None:
    """The last judgement with the rules it was made under and who caused it."""
    row = session.execute(
        select(JudgementRow, RulesVersion, Staff)
        .join(RulesVersion, RulesVersion.id == JudgementRow.rules_version_id)
        .join(Staff, Staff.id == JudgementRow.staff_id)
        .where(JudgementRow.check_id == check_id)
        .order_by(JudgementRow.id.desc())
        .limit(1)
    ).first()
    return (row[0], row[1], row[2]) if row else None


class Judged(NamedTuple):
    """What a list shows of the last judgement."""

    outcome: str
    next_step: str | None
    charge_low_pct: float | None
    charge_high_pct: float | None


def last_judged(session: Session, check_id: int) -> Judged | None:
    """What a list shows of a check."""
    row = session.execute(
        select(*_JUDGED).where(JudgementRow.check_id == check_id).order_by(JudgementRow.id.desc()).limit(1)
    ).first()
    return Judged(*row) if row else None


_JUDGED = (
    JudgementRow.outcome, JudgementRow.next_step, JudgementRow.charge_low_pct, JudgementRow.charge_high_pct,
)  # fmt: skip


def in_house(session: Session) -> Sequence[tuple[BatteryRow, Judged | None]]:
    """Every battery in the house with its last judgement, in one query; by index for each, however many left long ago."""
    check = (
        select(CheckRow.id)
        .where(CheckRow.battery_id == BatteryRow.id)
        .order_by(CheckRow.id.desc())
        .limit(1)
        .lateral("last_check")
    )
    last = (
        select(*_JUDGED)
        .where(JudgementRow.check_id == check.c.id)
        .order_by(JudgementRow.id.desc())
        .limit(1)
        .lateral("last_judgement")
    )
    rows = session.execute(
        select(BatteryRow, *last.c)
        .select_from(BatteryRow)
        .options(lazyload(BatteryRow.customer), lazyload(BatteryRow.vehicle))
        .outerjoin(check, true())
        .outerjoin(last, true())
        .where(BatteryRow.place != "gone")
        .order_by(BatteryRow.needs_hand_at.nulls_last(), BatteryRow.tag)
    )
    return [(row[0], Judged(*row[1:]) if row[1] is not None else None) for row in rows]


def estimates_of_serial(session: Session, serial: str) -> Sequence[tuple[int, datetime, dict[str, Any]]]:
    """Tag, day and estimate of every visit of batteries with this serial, however it is written, the oldest first."""
    key = serial_key(serial)
    if not key:
        return []
    later = aliased(JudgementRow)
    last = select(func.max(later.id)).where(later.check_id == CheckRow.id).correlate(CheckRow)
    rows = session.execute(
        select(BatteryRow.tag, JudgementRow.made_at, JudgementRow.body["estimate"])
        .select_from(BatteryRow)
        .join(CheckRow, CheckRow.battery_id == BatteryRow.id)
        .join(JudgementRow, JudgementRow.id == last.scalar_subquery())
        .where(BatteryRow.serial_key == key, JudgementRow.body["estimate"]["cca_amps"].astext.is_not(None))
        .order_by(JudgementRow.made_at)
        .limit(VISITS_AT_MOST)
    )
    return [(tag, made_at, estimate) for tag, made_at, estimate in rows]


VISITS_AT_MOST = 200


class ToTestAgain(NamedTuple):
    """A watched battery and the day it is tested again, as it was written (ISO)."""

    tag: int
    line: str
    day: str
    headline: Words
    made_at: datetime


def to_test_again(session: Session) -> Sequence[ToTestAgain]:
    """Every battery whose last judgement watches it, gone home or not, the soonest first; one query."""
    later = aliased(JudgementRow)
    last = select(func.max(later.id)).where(later.check_id == JudgementRow.check_id).correlate(JudgementRow)
    newest = select(func.max(CheckRow.id)).where(CheckRow.battery_id == BatteryRow.id).correlate(BatteryRow)
    day = JudgementRow.body["watch_until"].astext
    rows = session.execute(
        select(BatteryRow.tag, BatteryRow.line, day, JudgementRow.body["headline"], JudgementRow.made_at)
        .select_from(JudgementRow)
        .join(CheckRow, CheckRow.id == JudgementRow.check_id)
        .join(BatteryRow, BatteryRow.id == CheckRow.battery_id)
        .where(
            JudgementRow.outcome == "watch",
            day.is_not(None),
            JudgementRow.id == last.scalar_subquery(),
            CheckRow.id == newest.scalar_subquery(),
        )
        .order_by(day, BatteryRow.tag)
        .limit(REMINDERS_AT_MOST)
    )
    return [ToTestAgain(tag, line, on, words_of(headline), made_at) for tag, line, on, headline, made_at in rows]


REMINDERS_AT_MOST = 2000


def take_in_entries(session: Session, check_id: int) -> Sequence[TakeInEntry]:
    """The take-in as first written and its corrections, oldest first, each with who wrote it and whose battery it is."""
    return session.scalars(
        select(TakeInEntry)
        .options(joinedload(TakeInEntry.staff), joinedload(TakeInEntry.customer))
        .where(TakeInEntry.check_id == check_id)
        .order_by(TakeInEntry.id)
    ).all()


def newest_take_in(session: Session, check_id: int) -> TakeInEntry:
    """The take-in as it was last written."""
    return session.scalars(
        select(TakeInEntry)
        .options(joinedload(TakeInEntry.staff), joinedload(TakeInEntry.customer))
        .where(TakeInEntry.check_id == check_id)
        .order_by(TakeInEntry.id.desc())
        .limit(1)
    ).one()


def moves_of(session: Session, battery_id: int) -> Sequence[tuple[Move, Staff]]:
    """Where a battery has been, oldest first."""
    rows = session.execute(
        select(Move, Staff)
        .join(Staff, Staff.id == Move.staff_id)
        .where(Move.battery_id == battery_id)
        .order_by(Move.id)
    )
    return [(move, staff) for move, staff in rows]


def claim_of(session: Session, battery_id: int) -> Claim | None:
    """The claim written for a battery, if any."""
    return session.scalar(select(Claim).where(Claim.battery_id == battery_id))


def lock_serial(session: Session, serial: str) -> None:
    """One claim, one sale at a time for one serial, in all stores of the house."""
    if key := serial_key(serial):
        wait_for(session, f"serial {key}", SERIALS)


def serial_key(serial: str) -> str:
    """A serial without what people write between its signs.

    >>> serial_key("s-1") == serial_key("S1")
    True
    """
    return re.sub(r"[^0-9A-Za-z]", "", serial).upper()
