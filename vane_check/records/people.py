"""Staff, sign-ins and stores."""

from collections.abc import Sequence
from datetime import datetime

from sqlalchemy import func, select, update
from sqlalchemy.orm import Session, joinedload

from .base import ACROSS, StoreSession
from .locks import CHANGES, TRIES, wait_for
from .models import RulesVersion, SignIn, SignInTry, Staff, Store


def stores(session: StoreSession) -> Sequence[Store]:
    """Every store on this server."""
    session.at_the_door()
    return session.scalars(select(Store).order_by(Store.id)).all()


def doors(session: StoreSession) -> Sequence[Store]:
    """The stores that somebody but their owner signs in at; all of them while nobody does anywhere."""
    every = stores(session)
    works_in = select(Staff.store_id).where(Staff.left_at.is_(None), Staff.role != "owner").distinct()
    manned = set(session.scalars(works_in, execution_options={ACROSS: True}))
    return [store for store in every if store.id in manned] or every


def staff_of(session: StoreSession, store_id: int) -> Sequence[Staff]:
    """Who works in a store now."""
    session.at_the_door()
    return session.scalars(
        select(Staff).where(Staff.store_id == store_id, Staff.left_at.is_(None)).order_by(Staff.name),
        execution_options={ACROSS: True},
    ).all()


def one_of_staff(session: StoreSession, staff_id: int) -> Staff | None:
    """One person who works here now."""
    session.at_the_door()
    return session.scalar(
        select(Staff).where(Staff.id == staff_id, Staff.left_at.is_(None)), execution_options={ACROSS: True}
    )


def lock_tries(session: Session, address: str) -> None:
    """One try at a time from one address, so that tries at the same moment are counted one after the other."""
    wait_for(session, f"pin {address}", TRIES)


def tries_since_right(session: Session, address: str, staff_id: int | None) -> tuple[int, datetime | None]:
    """How many tries failed since the last right or lifted one from an address, and when the last was.

    Of one person, or of everybody together.
    """
    of = [SignInTry.address == address] + ([] if staff_id is None else [SignInTry.staff_id == staff_id])
    last_good = select(func.coalesce(func.max(SignInTry.id), 0)).where(*of, SignInTry.kind != "tried").scalar_subquery()
    count, last = session.execute(
        select(func.count(), func.max(SignInTry.tried_at)).where(
            *of, SignInTry.kind == "tried", SignInTry.id > last_good
        ),
        execution_options={ACROSS: True},
    ).one()
    return count, last


def open_sign_in(session: StoreSession, token_hash: str) -> SignIn | None:
    """The session of a token, with its person and store in one query, if it was not ended and the person still works here."""
    session.at_the_door()
    return session.scalar(
        select(SignIn)
        .options(joinedload(SignIn.staff, innerjoin=True), joinedload(SignIn.store, innerjoin=True))
        .join(Staff, Staff.id == SignIn.staff_id)
        .where(SignIn.token_hash == token_hash, SignIn.ended_at.is_(None), Staff.left_at.is_(None)),
        execution_options={ACROSS: True},
    )


def touch(session: Session, sign_in_id: int, now: datetime) -> None:
    """Note that the person is still there."""
    session.execute(update(SignIn).where(SignIn.id == sign_in_id).values(seen_at=now), execution_options={ACROSS: True})


def end(session: Session, sign_in_id: int, now: datetime) -> None:
    """End a session for good."""
    session.execute(
        update(SignIn).where(SignIn.id == sign_in_id).values(ended_at=now), execution_options={ACROSS: True}
    )


def sweep(session: Session, before: datetime) -> int:
    """Throw away sessions that ended before. Returns how many."""
    return session.scalar(select(func.sweep_sessions(before))) or 0


def store_of(session: Session, store_id: int) -> Store:
    """The store."""
    return session.scalars(select(Store).where(Store.id == store_id)).one()


def take_next_tag(session: Session, store_id: int) -> int:
    """The next free tag, taken in one statement: two at the same moment get two."""
    return session.scalars(
        update(Store).where(Store.id == store_id).values(next_tag=Store.next_tag + 1).returning(Store.next_tag - 1),
        execution_options={"synchronize_session": False},
    ).one()


def newest_rules_id(session: Session) -> int:
    """Which version of the rules is in force."""
    return session.scalars(select(RulesVersion.id).order_by(RulesVersion.id.desc()).limit(1)).one()


def lock_rules(session: Session, store_id: int) -> None:
    """One change of a store's rules at a time."""
    wait_for(session, f"rules {store_id}", CHANGES)


def rules_versions(session: Session, at_most: int) -> Sequence[tuple[RulesVersion, Staff | None]]:
    """The newest versions the house has had, with who made each."""
    rows = session.execute(
        select(RulesVersion, Staff)
        .outerjoin(Staff, Staff.id == RulesVersion.made_by)
        .order_by(RulesVersion.id.desc())
        .limit(at_most)
    )
    return [(row, staff) for row, staff in rows]


def count_rules_versions(session: Session) -> int:
    """How many versions the house has had."""
    return session.scalar(select(func.count()).select_from(RulesVersion)) or 0


def rules_of(session: Session, rules_id: int) -> RulesVersion:
    """One version of the rules, whole."""
    return session.scalars(select(RulesVersion).where(RulesVersion.id == rules_id)).one()


def new_calendar_secret(session: Session, store_id: int, secret: str) -> None:
    """Another one from now on."""
    session.execute(update(Store).where(Store.id == store_id).values(calendar_secret=secret))
