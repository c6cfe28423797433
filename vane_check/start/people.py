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
        parser = does.add_parser(name, help=text)
        parser.add_argument("name")
        if name == "rename":
            parser.add_argument("new_name")
        if name == "add":
            parser.add_argument("role", choices=ROLES, nargs="?", default="counter")
        if name == "role":
            parser.add_argument("role", choices=ROLES)


def run(options: argparse.Namespace) -> int:
    """Run one command. Returns 0, or 2 with one sentence."""
    try:
        with owners_address(cluster_folder(ROOT)) as url:
            engine = engine_of(url)
            try:
                with sessions_of(engine).begin() as session:
                    assert isinstance(session, StoreSession)
                    print(_do(session, options, datetime.now(UTC)))
            finally:
                engine.dispose()
    except (CannotStart, ValueError, LookupError) as error:
        print(str(error).strip("'"), file=sys.stderr)
        return 2
    except (OSError, OperationalError) as error:
        print(in_a_sentence(error.orig if isinstance(error, OperationalError) else error), file=sys.stderr)
        return 2
    return 0


def _do(session: StoreSession, options: argparse.Namespace, now: datetime) -> str:
    store = _store(session, options.store)
    session.bind_to(store.id)
    if options.does == "list":
        staff = session.scalars(select(Staff).order_by(Staff.name)).all()
        return (
            "\n".join(f"{person.name}  {person.role}{'  left' if person.left_at else ''}" for person in staff)
            or "nobody yet"
        )
    words = _DOES[options.does](session, store, options, now)
    session.add(
        HouseEntry(written_at=now, what=f"people {options.does}", subject=options.name, body={"after": {"said": words}})
    )
    session.flush()
    announce(session, store.id, "staff")
    return words


def _add(session: StoreSession, store: Store, options: argparse.Namespace, now: datetime) -> str:
    if _person_of(session, options.name) is not None:
        raise ValueError(f"{options.name} works here already")
    if not options.name.strip() or len(options.name) > 60:
        raise ValueError("A name has 1 to 60 signs")
    session.add(Staff(name=options.name.strip(), role=options.role, pin_hash=_new_pin(store)))
    return f"{options.name} can sign in now"


def _rename(session: StoreSession, store: Store, options: argparse.Namespace, now: datetime) -> str:
    if _person_of(session, options.new_name) is not None:
        raise ValueError(f"{options.new_name} works here already")
    _person(session, options.name).name = options.new_name.strip()
    return f"{options.name} is {options.new_name} now"


def _leave(session: StoreSession, store: Store, options: argparse.Namespace, now: datetime) -> str:
    person = _person(session, options.name)
    at_work = session.scalars(select(Staff.role).where(Staff.left_at.is_(None), Staff.id != person.id)).all()
    if person.role == "owner" and "owner" not in at_work:
        raise ValueError(f"{options.name} is the only owner: make another one first")
    if person.role in LEADS and not LEADS.intersection(at_work):
        raise ValueError(f"{options.name} is the only lead: make another one first")
    person.left_at = now
    return f"{options.name} no longer works here; what was kept stays"


def _pin(session: StoreSession, store: Store, options: argparse.Namespace, now: datetime) -> str:
    _person(session, options.name).pin_hash = _new_pin(store)
    return f"{options.name} has a new PIN"


def _role(session: StoreSession, store: Store, options: argparse.Namespace, now: datetime) -> str:
    _person(session, options.name).role = options.role
    return f"{options.name} is {options.role} now"


def _unlock(session: StoreSession, store: Store, options: argparse.Namespace, now: datetime) -> str:
    person = _person(session, options.name)
    for address in session.scalars(select(SignInTry.address).where(SignInTry.staff_id == person.id).distinct()).all():
        session.add(SignInTry(staff_id=person.id, address=address, kind="lifted", tried_at=now))
    return f"{options.name} need not wait"


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
    result = [store for store in stores if store.name == name]
    if len(result) == 1:
        return result[0]
    raise LookupError("Which store? Say --store with one of: " + ", ".join(store.name for store in stores))


def _person_of(session: StoreSession, name: str) -> Staff | None:
    return session.scalar(select(Staff).where(func.lower(Staff.name) == name.strip().lower(), Staff.left_at.is_(None)))


def _person(session: StoreSession, name: str) -> Staff:
    result = _person_of(session, name)
    if result is None:
        raise LookupError(f"Nobody called {name} works here: see `people list`")
    return result


def _new_pin(store: Store) -> str:
    pin = getpass.getpass("PIN: ") if sys.stdin.isatty() else sys.stdin.readline().strip()
    if pin in PUBLISHED_PINS and not store.demo:
        raise ValueError("That PIN is printed in the demo shop for everybody to read: take another")
    return hash_pin(pin)
