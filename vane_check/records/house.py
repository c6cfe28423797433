"""The house's own book: what was changed of it, who works in it, how much of what it needs is there."""

from collections.abc import Sequence
from datetime import datetime
from typing import Any

from sqlalchemy import ColumnElement, ScalarSelect, cast, exists, func, literal, select, update
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Session, joinedload

from .locks import CHANGES, wait_for
from .models import (
    Backup,
    CatalogueItem,
    EquipmentRow,
    HouseEntry,
    Sale,
    SignIn,
    SignInTry,
    Staff,
    StockPiece,
    Store,
    Supplier,
    TermsRow,
    Vehicle,
)  # fmt: skip


def lock_house(session: Session, store_id: int) -> None:
    """One change of a house at a time."""
    wait_for(session, f"house {store_id}", CHANGES)


def open_shop(session: Session, body: str) -> int | None:
    """The first store of a server, from JSON; None where there is one already."""
    result: int | None = session.scalar(select(func.open_shop(cast(literal(body), JSONB))))
    return result


def settings_now(session: Session, store_id: int) -> Store:
    """The store's row as it stands, whatever a session remembers of it."""
    return session.scalars(
        select(Store).where(Store.id == store_id), execution_options={"populate_existing": True}
    ).one()


def write_settings(session: Session, store_id: int, values: dict[str, Any]) -> None:
    """The store's settings from now on; of none there is nothing to write."""
    if not values:
        return
    session.execute(update(Store).where(Store.id == store_id).values(**values))


BACKUP_CHANNEL = "vane_backup"
"""Heard by whoever watches over this server."""
FOR_A_BACKUP, SOMEBODY_FORGOTTEN = "backup", "forgotten"


def ask_for_backup(session: Session) -> None:
    """Tell whoever watches over this server to make one, once this transaction is committed."""
    _tell_the_watch(session, FOR_A_BACKUP)


def say_somebody_is_forgotten(session: Session) -> None:
    """Tell whoever watches over this server, who keeps in mind who was forgotten, once this transaction is committed."""
    _tell_the_watch(session, SOMEBODY_FORGOTTEN)


def _tell_the_watch(session: Session, what: str) -> None:
    session.execute(select(func.pg_notify(BACKUP_CHANNEL, what)))


def newest_backups(session: Session) -> tuple[Backup | None, Backup | None]:
    """The last good one, and the last one tried."""
    tried = select(Backup).order_by(Backup.id.desc()).limit(1)
    return session.scalar(tried.where(Backup.problem == "")), session.scalar(tried)


def everybody(session: Session) -> Sequence[Staff]:
    """Who works here and who did: those at work first, by name."""
    known = select(Staff).where(
        Staff.pin_hash != ""
    )  # without a PIN stands who is known by evidence of another store alone
    return session.scalars(known.order_by(Staff.left_at.is_not(None), Staff.name, Staff.id)).all()


def person(session: Session, staff_id: int) -> Staff | None:
    """One person of this store, whether they work here or left."""
    return session.scalar(
        select(Staff).where(Staff.id == staff_id, Staff.pin_hash != ""), execution_options={"populate_existing": True}
    )


def end_sessions(session: Session, staff_id: int, now: datetime) -> None:
    """End everything a person has open."""
    session.execute(update(SignIn).where(SignIn.staff_id == staff_id, SignIn.ended_at.is_(None)).values(ended_at=now))


def addresses_tried(session: Session, staff_id: int) -> Sequence[str]:
    """Where somebody tried a PIN of this person."""
    return session.scalars(select(SignInTry.address).where(SignInTry.staff_id == staff_id).distinct()).all()


def entries(session: Session, at_most: int, before: int | None) -> Sequence[HouseEntry]:
    """The newest of what was changed, or those before one of them."""
    query = select(HouseEntry).options(joinedload(HouseEntry.staff)).order_by(HouseEntry.id.desc()).limit(at_most)
    return session.scalars(query if before is None else query.where(HouseEntry.id < before)).all()


def settings_edition(session: Session) -> int:
    """The number of the last change of the shop's settings; 0 before the first."""
    of = HouseEntry.what.in_(("shop", "set up"))
    return session.scalar(select(func.coalesce(func.max(HouseEntry.id), 0)).where(of)) or 0


def counts(session: Session, store_id: int) -> dict[str, int]:
    """How many of what a shop's work hangs on there are."""

    def many(of: type[Any], *where: ColumnElement[bool]) -> ScalarSelect[int]:
        return select(func.count()).select_from(of).where(of.store_id == store_id, *where).scalar_subquery()

    lines = select(CatalogueItem.line_key).where(CatalogueItem.store_id == store_id).distinct().subquery()
    has_terms = exists().where(TermsRow.store_id == store_id, func.lower(TermsRow.line) == lines.c.line_key)
    in_use, at_work = EquipmentRow.state == "in_use", Staff.left_at.is_(None)
    result = {
        "items": many(CatalogueItem),
        "pieces": many(StockPiece, StockPiece.sold_on.is_(None)),
        "priced": many(CatalogueItem, CatalogueItem.price_cents > 0),
        "terms": many(TermsRow),
        "lines_without_terms": select(func.count()).select_from(lines).where(~has_terms).scalar_subquery(),
        "vehicles": many(Vehicle),
        "suppliers": many(Supplier),
        "chargers": many(EquipmentRow, EquipmentRow.kind == "charger", in_use),
        "testers": many(EquipmentRow, EquipmentRow.kind != "charger", in_use),
        "people": many(Staff, at_work),
        "leads": many(Staff, at_work, Staff.role != "counter"),
        "sales": many(Sale),
    }
    row = session.execute(select(*(count.label(name) for name, count in result.items()))).mappings().one()
    return dict(row)
