"""People on the command line: `bin/vane-check people ...`, until a screen does it."""

import argparse
import getpass
import sys
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path

from sqlalchemy import func, select
from sqlalchemy.exc import OperationalError

from ..demo import goods
from ..desks.desk import LEADS
from ..desks.sign_in import hash_pin
from ..records import people as people_records
from ..records.base import StoreSession, engine_of, sessions_of
from ..records.events import announce
from ..records.models import HouseEntry, SignInTry, Staff, Store
from .cluster import CannotStart, cluster_folder, owners_address
from .sentences import in_a_sentence

ROOT = Path(__file__).parents[2]
ROLES = ("counter", "lead", "owner")
PUBLISHED_PINS = frozenset(pin for _, _, pin in goods.PEOPLE)
"""Everybody can read these: they open the demo shop and nothing else."""


def add_commands(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    """The commands and what each takes."""
    people = commands.add_parser("people", help="who may sign in")
    people.add_argument("--store", help="the store's name, where there are several")
    does = people.add_subparsers(dest="does", required=True)
    does.add_parser("list", help="everybody who works here")
    for name, text in (
        ("add", "a new person; asks for the PIN"),
        ("rename", "another name"),
        ("leave", "no longer works here: signed out at once, records stay"),
        ("pin", "a new PIN; asks for it"),
        ("role", "counter or lead"),
        ("unlock", "end the waiting after wrong PINs"),
    ):
        one = does.add_parser(name, help=text)
        one.add_argument("name")
        if name == "rename":
            one.add_argument("new_name")
        if name == "add":
            one.add_argument("role", choices=ROLES, nargs="?", default="counter")
        if name == "role":
            one.add_argument("role", choices=ROLES)


def run(asked: argparse.Namespace) -> int:
    """Run one command. Returns 0, or 2 with one sentence."""
    try:
        with owners_address(cluster_folder(ROOT)) as url:
            engine = engine_of(url)
            try:
                with sessions_of(engine).begin() as session:
                    assert isinstance(session, StoreSession)
                    print(_do(session, asked, datetime.now(UTC)))
            finally:
                engine.dispose()
    except (CannotStart, ValueError, LookupError) as error:
        print(str(error).strip("'"), file=sys.stderr)
        return 2
    except (OSError, OperationalError) as error:
        print(in_a_sentence(error.orig if isinstance(error, OperationalError) else error), file=sys.stderr)
        return 2
    return 0


def _do(session: StoreSession, asked: argparse.Namespace, now: datetime) -> str:
    store = _store(session, asked.store)
    session.bind_to(store.id)
    if asked.does == "list":
        staff = session.scalars(select(Staff).order_by(Staff.name)).all()
        return "\n".join(f"{one.name}  {one.role}{'  left' if one.left_at else ''}" for one in staff) or "nobody yet"
    said = _DOES[asked.does](session, store, asked, now)
    session.add(
        HouseEntry(written_at=now, what=f"people {asked.does}", subject=asked.name, body={"after": {"said": said}})
    )
    session.flush()
    announce(session, store.id, "staff")
    return said


def _add(session: StoreSession, store: Store, asked: argparse.Namespace, now: datetime) -> str:
    if _found(session, asked.name) is not None:
        raise ValueError(f"{asked.name} works here already")
    if not asked.name.strip() or len(asked.name) > 60:
        raise ValueError("A name has 1 to 60 signs")
    session.add(Staff(name=asked.name.strip(), role=asked.role, pin_hash=_new_pin(store)))
    return f"{asked.name} can sign in now"


def _rename(session: StoreSession, store: Store, asked: argparse.Namespace, now: datetime) -> str:
    if _found(session, asked.new_name) is not None:
        raise ValueError(f"{asked.new_name} works here already")
    _person(session, asked.name).name = asked.new_name.strip()
    return f"{asked.name} is {asked.new_name} now"


def _leave(session: StoreSession, store: Store, asked: argparse.Namespace, now: datetime) -> str:
    person = _person(session, asked.name)
    at_work = session.scalars(select(Staff.role).where(Staff.left_at.is_(None), Staff.id != person.id)).all()
    if person.role == "owner" and "owner" not in at_work:
        raise ValueError(f"{asked.name} is the only owner: make another one first")
    if person.role in LEADS and not LEADS.intersection(at_work):
        raise ValueError(f"{asked.name} is the only lead: make another one first")
    person.left_at = now
    return f"{asked.name} no longer works here; what was kept stays"


def _pin(session: StoreSession, store: Store, asked: argparse.Namespace, now: datetime) -> str:
    _person(session, asked.name).pin_hash = _new_pin(store)
    return f"{asked.name} has a new PIN"


def _role(session: StoreSession, store: Store, asked: argparse.Namespace, now: datetime) -> str:
    _person(session, asked.name).role = asked.role
    return f"{asked.name} is {asked.role} now"


def _unlock(session: StoreSession, store: Store, asked: argparse.Namespace, now: datetime) -> str:
    person = _person(session, asked.name)
    for address in session.scalars(select(SignInTry.address).where(SignInTry.staff_id == person.id).distinct()).all():
        session.add(SignInTry(staff_id=person.id, address=address, kind="lifted", tried_at=now))
    return f"{asked.name} need not wait"


_DOES: dict[str, Callable[[StoreSession, Store, argparse.Namespace, datetime], str]] = {
    "add": _add,
    "rename": _rename,
    "leave": _leave,
    "pin": _pin,
    "role": _role,
    "unlock": _unlock,
}


def _store(session: StoreSession, name: str | None) -> Store:
    stores = session.scalars(select(Store).order_by(Store.id)).all()
    doors = people_records.doors(session)
    if name is None and len(doors) == 1:
        return doors[0]
    found = [store for store in stores if store.name == name]
    if len(found) == 1:
        return found[0]
    raise LookupError("Which store? Say --store with one of: " + ", ".join(store.name for store in stores))


def _found(session: StoreSession, name: str) -> Staff | None:
    return session.scalar(select(Staff).where(func.lower(Staff.name) == name.strip().lower(), Staff.left_at.is_(None)))


def _person(session: StoreSession, name: str) -> Staff:
    found = _found(session, name)
    if found is None:
        raise LookupError(f"Nobody called {name} works here: see `people list`")
    return found


def _new_pin(store: Store) -> str:
    pin = getpass.getpass("PIN: ") if sys.stdin.isatty() else sys.stdin.readline().strip()
    if pin in PUBLISHED_PINS and not store.demo:
        raise ValueError("That PIN is printed in the demo shop for everybody to read: take another")
    return hash_pin(pin)
