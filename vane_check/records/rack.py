"""The charge rack and the book of equipment."""

from collections.abc import Sequence
from typing import Any, NamedTuple

from sqlalchemy import func, select, update
from sqlalchemy.orm import Session, aliased, joinedload, lazyload

from .locks import RACKS, wait_for
from .models import (
    BatteryRow,
    CheckRow,
    EquipmentEntry,
    EquipmentRow,
    JudgementRow,
    Promise,
    RackPin,
    RackPlan,
    RackStay,
    ReadingRow,
    Store,
)


def equipment(session: Session) -> Sequence[EquipmentRow]:
    """The book of equipment, by kind and name."""
    return session.scalars(select(EquipmentRow).order_by(EquipmentRow.kind, EquipmentRow.name)).all()


def tool_of(session: Session, equipment_id: int, lock: bool = False) -> EquipmentRow | None:
    """One tool."""
    query = select(EquipmentRow).where(EquipmentRow.id == equipment_id)
    return session.scalar(query.with_for_update() if lock else query)


def entries_of(session: Session, equipment_id: int) -> Sequence[EquipmentEntry]:
    """What was written of a tool, the newest first, each with who wrote it."""
    return session.scalars(
        select(EquipmentEntry)
        .options(joinedload(EquipmentEntry.staff))
        .where(EquipmentEntry.equipment_id == equipment_id)
        .order_by(EquipmentEntry.id.desc())
        .limit(ENTRIES_AT_MOST)
    ).all()


ENTRIES_AT_MOST = 50


def lock_rack(session: Session, store_id: int) -> None:
    """One change of a store's rack at a time: two processes never plan over one another."""
    wait_for(session, f"rack {store_id}", RACKS)


def open_stay(session: Session, battery_id: int) -> RackStay | None:
    """Where a battery hangs now."""
    return session.scalar(
        select(RackStay)
        .options(joinedload(RackStay.equipment))
        .where(RackStay.battery_id == battery_id, RackStay.off_at.is_(None))
    )


def on_output(session: Session, equipment_id: int, output: int) -> RackStay | None:
    """What hangs on an output now."""
    return session.scalar(
        select(RackStay)
        .options(joinedload(RackStay.battery))
        .where(RackStay.equipment_id == equipment_id, RackStay.output == output, RackStay.off_at.is_(None))
    )


class AtRack(NamedTuple):
    """A battery in the house with what the rack must know of it."""

    row: BatteryRow
    check: CheckRow
    step: str | None
    stay: RackStay | None
    promise: Promise | None
    pin: RackPin | None


def at_rack(session: Session) -> list[AtRack]:
    """Every battery in the house with its visit, next step, stay, promise and pin, in one query."""
    check, last = _newest(CheckRow, "battery_id", BatteryRow.id), aliased(JudgementRow)
    later, promised, pinned = aliased(JudgementRow), aliased(Promise), aliased(RackPin)
    rows = session.execute(
        select(BatteryRow, CheckRow, last.next_step, RackStay, promised, pinned)
        .select_from(BatteryRow)
        .join(CheckRow, CheckRow.id == check)
        .outerjoin(
            last,
            last.id
            == select(func.max(later.id)).where(later.check_id == CheckRow.id).correlate(CheckRow).scalar_subquery(),
        )
        .outerjoin(RackStay, (RackStay.battery_id == BatteryRow.id) & RackStay.off_at.is_(None))
        .outerjoin(promised, promised.id == _newest(Promise, "check_id", CheckRow.id))
        .outerjoin(pinned, pinned.id == _newest(RackPin, "check_id", CheckRow.id))
        .options(lazyload(BatteryRow.customer), joinedload(BatteryRow.vehicle))
        .where(BatteryRow.place.not_in(("gone", "held_apart")))
        .order_by(BatteryRow.tag)
    )
    return [AtRack(*row) for row in rows]


def _newest(model: Any, by: str, of: Any) -> Any:
    other = aliased(model)
    return select(func.max(other.id)).where(getattr(other, by) == of).correlate(of.class_).scalar_subquery()


def readings_of_all(session: Session, check_ids: Sequence[int]) -> dict[int, list[ReadingRow]]:
    """The entries of several checks, in the order they were kept; one query."""
    result: dict[int, list[ReadingRow]] = {check_id: [] for check_id in check_ids}
    if not result:
        return result
    rows = session.scalars(
        select(ReadingRow)
        .options(lazyload(ReadingRow.staff))
        .where(ReadingRow.check_id.in_(result))
        .order_by(ReadingRow.id)
    )
    for row in rows:
        result[row.check_id].append(row)
    return result


def newest_promise(session: Session, check_id: int) -> Promise | None:
    """What was last promised of a visit."""
    return session.scalar(select(Promise).where(Promise.check_id == check_id).order_by(Promise.id.desc()).limit(1))


def newest_plan(session: Session) -> RackPlan | None:
    """The plan as it was last acted upon."""
    return session.scalar(select(RackPlan).options(joinedload(RackPlan.staff)).order_by(RackPlan.id.desc()).limit(1))


def hours_of(session: Session, store_id: int) -> dict[str, Any]:
    """When the shop is open, as it stands now: a session's own store may be seconds old."""
    result: dict[str, Any] = session.scalars(select(Store.opening_hours).where(Store.id == store_id)).one()
    return result


def set_hours(session: Session, store_id: int, week: dict[str, Any]) -> None:
    """When the shop is open, from now on."""
    session.execute(update(Store).where(Store.id == store_id).values(opening_hours=week))
