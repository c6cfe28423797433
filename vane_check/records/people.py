"""Staff, sign-ins and stores."""

from collections.abc import Sequence
from datetime import datetime

from sqlalchemy import select, update
from sqlalchemy.orm import Session, joinedload

from .base import ACROSS
from .models import RulesVersion, SignIn, Staff, Store


def everyone(session: Session) -> Sequence[tuple[Store, Staff]]:
    """All staff with their stores, for the sign-in page; nobody is signed in yet."""
    rows = session.execute(
        select(Store, Staff).join(Staff, Staff.store_id == Store.id).order_by(Store.id, Staff.name),
        execution_options={ACROSS: True},
    )
    return [(store, staff) for store, staff in rows]


def staff_for_sign_in(session: Session, staff_id: int) -> Staff | None:
    """One person, locked so that two tries at a PIN count as two."""
    return session.scalar(select(Staff).where(Staff.id == staff_id).with_for_update(), execution_options={ACROSS: True})


def open_sign_in(session: Session, token_hash: str) -> SignIn | None:
    """The session of a token, with its person and store in one query, if it was not ended."""
    return session.scalar(
        select(SignIn)
        .options(joinedload(SignIn.staff, innerjoin=True), joinedload(SignIn.store, innerjoin=True))
        .where(SignIn.token_hash == token_hash, SignIn.ended_at.is_(None)),
        execution_options={ACROSS: True},
    )


def touch(session: Session, sign_in: SignIn, now: datetime) -> None:
    """Note that the person is still there."""
    session.execute(update(SignIn).where(SignIn.id == sign_in.id).values(seen_at=now), execution_options={ACROSS: True})


def store_of(session: Session, store_id: int, lock: bool = False) -> Store:
    """The store; locked when its next tag is to be taken."""
    asked = select(Store).where(Store.id == store_id)
    return session.scalars(asked.with_for_update() if lock else asked).one()


def newest_rules_id(session: Session) -> int:
    """Which version of the rules is in force."""
    return session.scalars(select(RulesVersion.id).order_by(RulesVersion.id.desc()).limit(1)).one()


def rules_versions(session: Session) -> Sequence[tuple[RulesVersion, Staff | None]]:
    """Every version the house has had, the newest first, with who made it."""
    rows = session.execute(
        select(RulesVersion, Staff).outerjoin(Staff, Staff.id == RulesVersion.made_by).order_by(RulesVersion.id.desc())
    )
    return [(row, staff) for row, staff in rows]


def rules_of(session: Session, rules_id: int) -> RulesVersion:
    """One version of the rules, whole."""
    return session.scalars(select(RulesVersion).where(RulesVersion.id == rules_id)).one()
