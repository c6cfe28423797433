"""The stores of the house: which there are, who works where, what is on its way between them, what an owner sees side by side."""

import uuid
from collections.abc import Collection, Sequence
from typing import Any, NamedTuple

from sqlalchemy import cast, func, literal, select, text, update
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Session

from .models import Staff, StockPiece, Store, Transfer


class OtherStore(NamedTuple):
    """A store of the house by name, and whether a person works in it."""

    id: int
    name: str
    works: bool


def all_stores(session: Session, person: uuid.UUID) -> Sequence[OtherStore]:
    """The stores of the house, the first opened first."""
    stores = func.house_stores(person).table_valued("id", "name", "works")
    rows = session.execute(select(stores.c.id, stores.c.name, stores.c.works))
    return [OtherStore(*row) for row in rows]


def open_store(session: Session, body: str, by: uuid.UUID) -> int | None:
    """Another store, from JSON, with its owner in it; None where whoever asks owns none here."""
    result: int | None = session.scalar(select(func.open_store(cast(literal(body), JSONB), by)))
    return result


def give(session: Session, person: uuid.UUID, by: uuid.UUID, target: int, works: bool) -> str:
    """Let somebody work in another store, or no longer. Empty where it was done, else one word of why not."""
    return str(session.scalar(select(func.give_store(person, by, target, works))))


def spread(session: Session, person: uuid.UUID, new_pin: bool) -> None:
    """What was written of a person here holds in every store they are known in."""
    session.execute(select(func.spread_person(person, new_pin)))


def staff_elsewhere(session: Session, person: uuid.UUID, target: int) -> int | None:
    """As whom somebody at work here works in another store."""
    result: int | None = session.scalar(select(func.staff_elsewhere(person, target)))
    return result


def follow(session: Session, what: str, leader: int, follower: int | None = None, only_item: int | None = None) -> None:
    """What a store wrote stands in every store that works by it, or in one of them."""
    session.execute(select(func.follow(what, leader, follower, only_item)))


def leader_of(session: Session, store_id: int, what: str) -> int | None:
    """Whose rules, catalogue or terms a store works by; None for its own."""
    return session.scalar(select(getattr(Store, f"{what}_from")).where(Store.id == store_id))


def side_by_side(session: Session, owner: uuid.UUID) -> Sequence[dict[str, Any]]:
    """Counts and sums of every store of an owner."""
    rows = session.execute(text("select * from side_by_side(:owner)"), {"owner": owner}).mappings()
    return [dict(row) for row in rows]


def author(session: Session, person: uuid.UUID) -> Staff | None:
    """Somebody who is known here, at work or only by evidence."""
    return session.scalar(select(Staff).where(Staff.person_uuid == person))


def transfer(session: Session, transfer_id: int) -> Transfer | None:
    """One that this store sent or is sent, locked to be settled."""
    return session.scalar(select(Transfer).where(Transfer.id == transfer_id).with_for_update())


def on_the_way(session: Session) -> Sequence[Transfer]:
    """What is between this store and others, the longest on its way first."""
    return session.scalars(select(Transfer).where(Transfer.state == "on_the_way").order_by(Transfer.id)).all()


def settled(session: Session, at_most: int) -> Sequence[Transfer]:
    """What arrived or was called back lately."""
    query = select(Transfer).where(Transfer.state != "on_the_way").order_by(Transfer.id.desc())
    return session.scalars(query.limit(at_most)).all()


def where_it_went(session: Session, battery_id: int) -> Transfer | None:
    """How a battery of this store is or went to another."""
    return session.scalar(
        select(Transfer).where(Transfer.battery_id == battery_id, Transfer.state != "called_back").limit(1)
    )


def settle(session: Session, transfer_id: int) -> None:
    """What arrived here left the store it came from."""
    session.execute(select(func.settle_transfer(transfer_id)))


def stores_sent_to(session: Session, customer_ids: Collection[int]) -> Sequence[str]:
    """The stores somebody was sent to, with a battery or alone."""
    query = (
        select(Transfer.to_name).where(Transfer.customer_id.in_(customer_ids), Transfer.state == "arrived").distinct()
    )
    return session.scalars(query.order_by(Transfer.to_name)).all()


def forget_on_the_way(session: Session, customer_ids: Collection[int]) -> None:
    """Whoever is forgotten does not travel on either."""
    gone = func.jsonb_set(Transfer.body, ["customer"], cast(literal("null"), JSONB))
    session.execute(
        update(Transfer).where(Transfer.customer_id.in_(customer_ids)).values(body=gone),
        execution_options={"synchronize_session": False},
    )


def piece_of(session: Session, piece_id: int) -> StockPiece:
    """A piece of this store, locked."""
    return session.scalars(select(StockPiece).where(StockPiece.id == piece_id).with_for_update()).one()
