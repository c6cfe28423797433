"""Batteries, checks, readings, judgements."""

import uuid
from collections.abc import Sequence

from sqlalchemy import func, select
from sqlalchemy.orm import Session, joinedload

from .models import BatteryRow, CheckRow, Claim, JudgementRow, Move, ReadingRow, RulesVersion, Staff, TakeInEntry


def battery_of_tag(session: Session, tag: int, lock: bool = False) -> BatteryRow | None:
    """The battery that carries a tag."""
    asked = select(BatteryRow).where(BatteryRow.tag == tag)
    if lock:
        asked = asked.with_for_update(of=BatteryRow)
    return session.scalar(asked)


def latest_check(session: Session, battery_id: int) -> CheckRow:
    """The battery's present visit."""
    return session.scalars(
        select(CheckRow).where(CheckRow.battery_id == battery_id).order_by(CheckRow.id.desc()).limit(1)
    ).one()


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


def replaced_by(session: Session, reading_uuid: uuid.UUID) -> ReadingRow | None:
    """The entry that corrects this one, if any."""
    return session.scalar(select(ReadingRow).where(ReadingRow.replaces == reading_uuid))


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


def in_house(session: Session) -> Sequence[tuple[BatteryRow, JudgementRow | None]]:
    """Every battery in the house with its last judgement, in one query."""
    last = (
        select(CheckRow.battery_id, func.max(JudgementRow.id).label("judgement_id"))
        .join(JudgementRow, JudgementRow.check_id == CheckRow.id)
        .group_by(CheckRow.battery_id)
        .subquery()
    )
    rows = session.execute(
        select(BatteryRow, JudgementRow)
        .outerjoin(last, last.c.battery_id == BatteryRow.id)
        .outerjoin(JudgementRow, JudgementRow.id == last.c.judgement_id)
        .where(BatteryRow.place != "gone")
        .order_by(BatteryRow.needs_hand_at.nulls_last(), BatteryRow.tag)
    )
    return [(battery, judgement) for battery, judgement in rows]


def past_checks(
    session: Session, limit: int, text: str = ""
) -> Sequence[tuple[CheckRow, BatteryRow, JudgementRow | None]]:
    """Checks, newest first, whose line, serial, customer or tag holds the text."""
    last = (
        select(JudgementRow.check_id, func.max(JudgementRow.id).label("judgement_id"))
        .group_by(JudgementRow.check_id)
        .subquery()
    )
    asked = (
        select(CheckRow, BatteryRow, JudgementRow)
        .join(BatteryRow, BatteryRow.id == CheckRow.battery_id)
        .outerjoin(last, last.c.check_id == CheckRow.id)
        .outerjoin(JudgementRow, JudgementRow.id == last.c.judgement_id)
        .order_by(CheckRow.opened_at.desc())
        .limit(limit)
    )
    if text.strip():
        words = f"%{text.strip()}%"
        found = BatteryRow.line.ilike(words) | BatteryRow.serial.ilike(words)
        if text.strip().isdigit():
            found = found | (BatteryRow.tag == int(text))
        asked = asked.where(found)
    return [(check, battery, judgement) for check, battery, judgement in session.execute(asked)]


def take_in_entries(session: Session, check_id: int) -> Sequence[tuple[TakeInEntry, Staff]]:
    """The take-in as first written and its corrections, oldest first."""
    rows = session.execute(
        select(TakeInEntry, Staff)
        .join(Staff, Staff.id == TakeInEntry.staff_id)
        .where(TakeInEntry.check_id == check_id)
        .order_by(TakeInEntry.id)
    )
    return [(entry, staff) for entry, staff in rows]


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


def serial_was_claimed(session: Session, serial: str, but_not: int) -> bool:
    """Whether another battery with this serial has a claim."""
    if not serial:
        return False
    return (
        session.scalar(select(Claim.id).where(Claim.serial == serial, Claim.battery_id != but_not).limit(1)) is not None
    )
