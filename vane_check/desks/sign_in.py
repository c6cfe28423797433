"""Signing in with a PIN: hashed with argon2, slowed and then locked after wrong tries, a server-side session."""

import hashlib
import secrets
from datetime import datetime, timedelta
from typing import NamedTuple

from argon2 import PasswordHasher
from argon2.exceptions import VerificationError
from pydantic import BaseModel

from ..records import people
from ..records.base import StoreSession
from ..records.models import SignIn, Staff
from .desk import Desk

PIN_AT_LEAST = 6
FREE_TRIES = 2
"""Wrong tries that cost no waiting: a gloved finger slips."""
LOCK_AFTER = 6
LOCK_FOR = timedelta(minutes=15)
TOUCH_EVERY = timedelta(seconds=30)

_HASHER = PasswordHasher()


class Person(BaseModel):
    """A name on the sign-in page."""

    id: int
    name: str
    role: str
    store: str


class WrongPin(ValueError):
    """The PIN was wrong or it is too soon; `wait_seconds` until the next try is looked at."""

    def __init__(self, message: str, wait_seconds: int) -> None:
        super().__init__(message)
        self.wait_seconds = wait_seconds


class Opened(NamedTuple):
    """A new session: the token goes into the cookie and is kept nowhere."""

    token: str
    sign_in: SignIn


def hash_pin(pin: str) -> str:
    """The argon2 hash of a PIN. Raises ValueError for one that is too short or not digits."""
    if len(pin) < PIN_AT_LEAST or not pin.isdigit():
        raise ValueError(f"a PIN has at least {PIN_AT_LEAST} digits")
    return _HASHER.hash(pin)


def people_here(session: StoreSession) -> list[Person]:
    """Everybody who can sign in."""
    return [
        Person(id=staff.id, name=staff.name, role=staff.role, store=store.name)
        for store, staff in people.everyone(session)
    ]


def sign_in(session: StoreSession, staff_id: int, pin: str, now: datetime) -> Opened | WrongPin:
    """Try a PIN. A wrong try is returned, not raised, so that its count is kept with the transaction."""
    staff = people.staff_for_sign_in(session, staff_id)
    if staff is None:
        return WrongPin("Nobody of that name here", 0)
    if staff.wait_until is not None and staff.wait_until > now:
        wait = int((staff.wait_until - now).total_seconds()) + 1
        return WrongPin(f"Too soon: try again in {_in_words(wait)}", wait)
    session.bind_to(staff.store_id)
    if not _right(staff, pin):
        wait = _after_a_wrong_try(staff, now)
        return WrongPin("That is not the PIN" + (f": wait {_in_words(wait)}" if wait else ""), wait)
    staff.wrong_tries, staff.wait_until = 0, None
    token = secrets.token_urlsafe(32)
    opened = SignIn(
        store_id=staff.store_id,
        staff_id=staff.id,
        token_hash=token_hash(token),
        csrf_token=secrets.token_urlsafe(24),
        began_at=now,
        seen_at=now,
    )
    session.add(opened)
    session.flush()
    return Opened(token, opened)


def desk_of(session: StoreSession, token: str, now: datetime) -> tuple[Desk, SignIn] | None:
    """The desk of a session's person, or None when the session has ended or stood idle too long."""
    found = people.open_sign_in(session, token_hash(token))
    if found is None:
        return None
    session.bind_to(found.store_id)
    desk = Desk(session, found.staff)
    desk.store = found.store
    if now - found.seen_at > timedelta(minutes=found.store.idle_minutes):
        return None
    if now - found.seen_at > TOUCH_EVERY:
        people.touch(session, found, now)
    return desk, found


def sign_out(sign_in_row: SignIn, now: datetime) -> None:
    """End a session for good."""
    sign_in_row.ended_at = now


def token_hash(token: str) -> str:
    """What is kept of a session's token."""
    return hashlib.sha256(token.encode()).hexdigest()


def _right(staff: Staff, pin: str) -> bool:
    try:
        return _HASHER.verify(staff.pin_hash, pin)
    except VerificationError:
        return False


def _after_a_wrong_try(staff: Staff, now: datetime) -> int:
    """Count a wrong try; returns the seconds to wait: none, then doubling, then the lock."""
    staff.wrong_tries += 1
    if staff.wrong_tries >= LOCK_AFTER:
        staff.wrong_tries, wait = 0, LOCK_FOR
    elif staff.wrong_tries > FREE_TRIES:
        wait = timedelta(seconds=2 ** (staff.wrong_tries - FREE_TRIES))
    else:
        return 0
    staff.wait_until = now + wait
    return int(wait.total_seconds())


def _in_words(seconds: int) -> str:
    return f"{seconds} s" if seconds < 60 else f"{-(-seconds // 60)} min"
