"""The house's own book: what was changed of it, who works in it, how much of what it needs is there."""

from collections.abc import Sequence
from datetime import datetime
from typing import Any

from sqlalchemy import func, select, text, update
from sqlalchemy.orm import Session, joinedload

from .models import Backup, HouseEntry, SignIn, SignInTry, Staff, Store


def lock_house(session: Session, store_id: int) -> None:
    """One change of a house at a time."""
    session.execute(text("select pg_advisory_xact_lock(hashtextextended(:name, 2))"), {"name": f"house {store_id}"})


def open_shop(session: Session, told: str) -> int | None:
    """The first store of a server, from JSON; None where there is one already."""
    found: int | None = session.execute(text("select open_shop(cast(:told as jsonb))"), {"told": told}).scalar()
    return found


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
    session.execute(text("select pg_notify(:channel, :what)"), {"channel": BACKUP_CHANNEL, "what": what})


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
    asked = select(HouseEntry).options(joinedload(HouseEntry.staff)).order_by(HouseEntry.id.desc()).limit(at_most)
    return session.scalars(asked if before is None else asked.where(HouseEntry.id < before)).all()


def settings_edition(session: Session) -> int:
    """The number of the last change of the shop's settings; 0 before the first."""
    of = HouseEntry.what.in_(("shop", "set up"))
    return session.scalar(select(func.coalesce(func.max(HouseEntry.id), 0)).where(of)) or 0


_COUNTS = """
    select (select count(*) from catalogue_items where store_id = :store) as items,
      (select count(*) from stock_pieces where store_id = :store and sold_on is null) as pieces,
      (select count(*) from catalogue_items where store_id = :store and price_cents > 0) as priced,
      (select count(*) from warranty_terms where store_id = :store) as terms,
      (select count(*) from (select distinct line_key from catalogue_items where store_id = :store) l
       where not exists (select from warranty_terms t where t.store_id = :store and lower(t.line) = l.line_key)) as lines_without_terms,
      (select count(*) from vehicles where store_id = :store) as vehicles,
      (select count(*) from suppliers where store_id = :store) as suppliers,
      (select count(*) from equipment where store_id = :store and kind = 'charger' and state = 'in_use') as chargers,
      (select count(*) from equipment where store_id = :store and kind <> 'charger' and state = 'in_use') as testers,
      (select count(*) from staff where store_id = :store and left_at is null) as people,
      (select count(*) from staff where store_id = :store and left_at is null and role <> 'counter') as leads,
      (select count(*) from sales where store_id = :store) as sales
"""


def counts(session: Session, store_id: int) -> dict[str, int]:
    """How many of what a shop's work hangs on there are."""
    return dict(session.execute(text(_COUNTS), {"store": store_id}).mappings().one())
