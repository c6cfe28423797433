"""Signing in with a PIN: hashed with argon2, slowed by tries from one place, a server-side session with an end."""

import hashlib
import secrets
from collections.abc import Callable, Iterator
from contextlib import AbstractContextManager, contextmanager
from datetime import datetime, timedelta
from functools import cache
from itertools import pairwise
from typing import NamedTuple

from argon2 import PasswordHasher
from argon2.exceptions import VerificationError
from pydantic import BaseModel

from ..core.words import NOTHING, Words, say
from ..records import people
from ..records.base import StoreSession
from ..records.events import announce
from ..records.models import SignIn, SignInTry, Staff, Store
from .desk import LEADS, OWNER, Desk

PIN_AT_LEAST = 6
FREE_TRIES = 2
"""Wrong tries of one person from one address that cost no waiting: a gloved finger slips."""
FREE_TRIES_FROM_HERE = 10
"""Wrong tries from one address, whoever for, that cost no waiting."""
WRONG = say("sign_in.that_is_not_the_pin")
WAIT_AT_MOST = timedelta(minutes=5)
"""No waiting is for good: whoever stands at the counter gets another try, and a lead lifts it."""
TOUCH_EVERY = timedelta(seconds=30)

Opener = Callable[[], AbstractContextManager[StoreSession]]
"""Opens a transaction. A PIN is checked between two of them: hashing takes long and needs no connection."""

_HASHER = PasswordHasher()

_right_unwritten: set[tuple[int, str]] = set()
"""Who gave the right PIN where when the database went away before it was on record: no wrong try. Of this process alone."""


class Person(BaseModel):
    """A name on the sign-in page."""

    id: int
    name: str
    role: str


class DoorView(BaseModel):
    """The sign-in page of one store: its name and who works there. Without a store that is known, nobody."""

    store: str
    people: list[Person]
    language: str = "en"
    set_up: bool = False
    """There is no shop on this server yet: it wants to be set up."""


class WrongPin(ValueError):
    """The PIN was wrong or it is too soon; `wait_seconds` until the next try is looked at."""

    def __init__(self, message: Words, wait_seconds: int) -> None:
        super().__init__(message)
        self.wait_seconds = wait_seconds


class Opened(NamedTuple):
    """A new session: the token goes into the cookie and is kept nowhere."""

    token: str
    staff: Staff
    store: Store
    session_id: int
    csrf_token: str


def hash_pin(pin: str) -> str:
    """The argon2 hash of a PIN. Raises ValueError for one that is too short or not digits."""
    if len(pin) < PIN_AT_LEAST or not (pin.isascii() and pin.isdecimal()):
        raise ValueError(say("sign_in.a_pin_has_at_least_digits", pin_at_least=PIN_AT_LEAST))
    return _HASHER.hash(pin)


_KNOWN_BY_HEART = frozenset({"314159", "271828", "161803", "141421"})
"""The demo shop's, for everybody to read, and what else is known by heart."""
TOO_EASY = say("sign_in.everybody_guesses_this_one_no_row_no_one")


def guessable(pin: str) -> bool:
    """Whether a PIN is one figure over and over, a row up or down, or known by heart. One that is no PIN at all is not."""
    if len(pin) < PIN_AT_LEAST or not (pin.isascii() and pin.isdecimal()):
        return False
    steps = {(int(after) - int(before)) % 10 for before, after in pairwise(pin)}
    return pin in _KNOWN_BY_HEART or (len(steps) == 1 and steps <= {0, 1, 9})


def people_here(session: StoreSession, door: str) -> DoorView:
    """Who can sign in at this door. A server with one store needs no door; with several, a stranger learns no names."""
    every = people.stores(session)
    if not every:
        return DoorView(store="", people=[], set_up=True)
    store = next((store for store in every if store.door == door), None)
    if store is None and len(manned := people.doors(session)) == 1:
        store = manned[0]
    if store is None:
        return DoorView(store="", people=[])
    return DoorView(
        store=store.name,
        language=store.language,
        people=[
            Person(id=person.id, name=person.name, role=person.role) for person in people.staff_of(session, store.id)
        ],
    )


def sign_in(opener: Opener, staff_id: int, pin: str, address: str, now: datetime) -> Opened | WrongPin:
    """Try a PIN from an address. Every try is on record before it is looked at, so that no two at once count as one."""
    known = _try(opener, staff_id, address, now)
    if isinstance(known, WrongPin):
        return known
    if known is None or not is_right(known.pin_hash, pin):
        if known is None:
            is_right(_nobody_s(), pin)
        with opener() as session:
            wait = _wait_seconds(session, staff_id, address, now)
        return WrongPin(WRONG + (say("sign_in.wait", in_words=in_words(wait)) if wait else NOTHING), wait)
    with _proved(opener, staff_id, address) as session:
        session.bind_to(known.store_id)
        session.add(SignInTry(staff_id=staff_id, address=address, kind="right", tried_at=now))
        return _open(session, known, now)


def change_store(session: StoreSession, token: str, staff_id: int, now: datetime) -> Opened:
    """Somebody who is signed in goes to work in another store of theirs: one session ends, another begins."""
    sign_out(session, token, now)
    staff = people.one_of_staff(session, staff_id)
    assert staff is not None
    session.bind_to(staff.store_id)
    return _open(session, staff, now)


def _open(session: StoreSession, staff: Staff, now: datetime) -> Opened:
    token, store = secrets.token_urlsafe(32), people.store_of(session, staff.store_id)
    opened = SignIn(
        store_id=staff.store_id,
        staff_id=staff.id,
        token_hash=token_hash(token),
        csrf_token=secrets.token_urlsafe(24),
        began_at=now,
        seen_at=now,
        ends_at=now + timedelta(hours=store.session_hours),
    )
    session.add(opened)
    session.flush()
    return Opened(token, staff, store, opened.id, opened.csrf_token)


def lift(opener: Opener, staff_id: int, lead_id: int, lead_pin: str, address: str, now: datetime) -> WrongPin | None:
    """A lead ends somebody's waiting, at the counter they stand at. Returns why not, when not."""
    lead = _try(opener, lead_id, address, now, from_here=False)
    if isinstance(lead, WrongPin):
        return lead
    if lead is None or not is_right(lead.pin_hash, lead_pin) or lead.role not in LEADS:
        if lead is None:
            is_right(_nobody_s(), lead_pin)
        return WrongPin(say("sign_in.that_is_no_leads_pin"), 0)
    with _proved(opener, lead_id, address) as session:
        person = people.one_of_staff(session, staff_id)
        if person is None or person.store_id != lead.store_id:
            return WrongPin(say("sign_in.nobody_of_that_name_here"), 0)
        if not may_lift(lead.role, person.role):
            return WrongPin(say("sign_in.an_owners_waiting_is_lifted_by_an_owner"), 0)
        session.bind_to(lead.store_id)
        session.add(SignInTry(staff_id=lead_id, address=address, kind="right", tried_at=now))
        session.add(SignInTry(staff_id=staff_id, address=address, kind="lifted", tried_at=now, lifted_by=lead_id))
    return None


@contextmanager
def _proved(opener: Opener, staff_id: int, address: str) -> Iterator[StoreSession]:
    """What a right PIN leads to. Where the database goes away meanwhile, it was right all the same."""
    try:
        with opener() as session:
            yield session
    except Exception:
        _right_unwritten.add((staff_id, address))
        raise


@cache
def _nobody_s() -> str:
    """What the PIN of nobody is held against: it takes as long to be wrong."""
    return _HASHER.hash(secrets.token_hex(16))


def may_lift(role: str, of: str) -> bool:
    """Whether somebody of a role ends the waiting of somebody of another: nobody below an owner an owner's."""
    return of != OWNER or role == OWNER


def _try(opener: Opener, staff_id: int, address: str, now: datetime, from_here: bool = True) -> Staff | WrongPin | None:
    """Put a try on record, unless it comes too soon. Returns the person, whose PIN is not looked at yet; None for nobody,
    whom no answer tells from somebody with another PIN."""
    with opener() as session:
        people.lock_tries(session, address)
        person = people.one_of_staff(session, staff_id)
        if (staff_id, address) in _right_unwritten and person is not None:
            session.bind_to(person.store_id)
            session.add(SignInTry(staff_id=staff_id, address=address, kind="right", tried_at=now))
            session.flush()
        wait = _wait_seconds(session, staff_id, address, now, from_here)
        if wait:
            return WrongPin(say("sign_in.too_soon_try_again_in", in_words=in_words(wait)), wait)
        if person is None:
            return None
        session.bind_to(person.store_id)
        session.add(SignInTry(staff_id=staff_id, address=address, kind="tried", tried_at=now))
    _right_unwritten.discard((staff_id, address))
    return person


def _wait_seconds(session: StoreSession, staff_id: int, address: str, now: datetime, from_here: bool = True) -> int:
    """Seconds until the next try is looked at: by the person's tries from here, and by all tries from here."""
    session.at_the_door()
    waits = [_seconds_to_wait(people.tries_since_right(session, address, staff_id), FREE_TRIES, now)]
    if from_here:
        waits.append(_seconds_to_wait(people.tries_since_right(session, address, None), FREE_TRIES_FROM_HERE, now))
    return max(waits)


def _seconds_to_wait(tries: tuple[int, datetime | None], free: int, now: datetime) -> int:
    count, last = tries
    if count <= free or last is None:
        return 0
    wait = min(timedelta(seconds=2 ** min(count - free, 20)), WAIT_AT_MOST)
    return max(0, -int((now - last - wait).total_seconds() // 1))


class Session(NamedTuple):
    """A session as it was found: who, where, its write token, and until when it holds."""

    id: int
    staff: Staff
    store: Store
    csrf_token: str
    seen_at: datetime
    ends_at: datetime

    def holds(self, now: datetime) -> bool:
        """Whether it has not reached its end and did not stand idle too long."""
        return now < self.ends_at and now - self.seen_at <= timedelta(minutes=self.store.idle_minutes)


def session_of(session: StoreSession, token: str, now: datetime) -> Session | None:
    """The session of a token, or None when it has ended or stood idle too long."""
    signed_in = people.open_sign_in(session, token_hash(token))
    if signed_in is None:
        return None
    for row in (signed_in, signed_in.staff, signed_in.store):
        session.expunge(row)  # it is kept longer than this transaction
    seen = Session(
        signed_in.id, signed_in.staff, signed_in.store, signed_in.csrf_token, signed_in.seen_at, signed_in.ends_at
    )
    return seen if seen.holds(now) else None


def desk_for(session: StoreSession, person: Session) -> Desk:
    """The desk of a session's person, kept to their store."""
    session.bind_to(person.staff.store_id)
    desk = Desk(session, person.staff)
    desk.store = person.store
    return desk


def touch(session: StoreSession, person: Session, now: datetime) -> None:
    """Note that the person is still there."""
    people.touch(session, person.id, now)


def sign_out(session: StoreSession, token: str, now: datetime) -> None:
    """End a session for good; its live stream ends with it. A token nobody knows ends nothing."""
    signed_in = people.open_sign_in(session, token_hash(token))
    if signed_in is not None:
        session.bind_to(signed_in.store_id)
        people.end(session, signed_in.id, now)
        announce(session, signed_in.store_id, "session", signed_in.id)


def token_hash(token: str) -> str:
    """What is kept of a session's token."""
    return hashlib.sha256(token.encode(errors="surrogatepass")).hexdigest()


def is_right(pin_hash: str, pin: str) -> bool:
    """Whether a hash is of this PIN."""
    try:
        return _HASHER.verify(pin_hash, pin)
    except VerificationError:
        return False


def in_words(seconds: int) -> Words:
    """Seconds as people say them."""
    return say("common.s", seconds=seconds) if seconds < 60 else say("common.min", minutes=-(-seconds // 60))
