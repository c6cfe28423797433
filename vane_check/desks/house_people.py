"""Who works here: added, renamed, given a role, let go, unlocked; and the book every change of the house goes into."""

from datetime import datetime
from enum import StrEnum
from typing import Annotated, Any

from pydantic import AfterValidator, BaseModel, StringConstraints

from ..core.readings.faults import FieldProblem
from ..core.units.model import Model, printable
from ..core.words import capital, fact_of, say, words_of
from ..records import house, stores
from ..records.events import announce
from ..records.models import HouseEntry, SignInTry, Staff
from .desk import LEADS, Desk, NotThere, Refused
from .sign_in import TOO_EASY, guessable, hash_pin, is_right, may_lift

Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60), AfterValidator(printable)]
Pin = Annotated[str, StringConstraints(min_length=1, max_length=32)]


class Role(StrEnum):
    """What somebody may: the counter works, a lead changes rules and prices, an owner the house and its leads."""

    COUNTER = "counter"
    LEAD = "lead"
    OWNER = "owner"


class WritePerson(Model):
    """A person as they shall stand; a PIN where they get one."""

    name: Name
    role: Role
    works_here: bool = True
    pin: Pin | None = None


class PersonRow(BaseModel):
    """Somebody of the house."""

    id: int
    name: str
    role: Role
    left_at: datetime | None
    may_change: bool
    """Whether whoever looks may."""


def add_person(desk: Desk, body: WritePerson, now: datetime) -> int:
    """Somebody new. A lead takes on counter hands, an owner anybody."""
    _may_give(desk, body.role)
    house.lock_house(desk.session, desk.staff.store_id)
    _name_is_free(desk, body.name, None)
    if body.pin is None:
        raise Refused(
            say("common.it_cannot_be_right"),
            [FieldProblem("pin", say("house_people.give_a_pin_to_begin_with_six_digits_or"))],
        )
    row = Staff(name=body.name, role=body.role.value, pin_hash=_hashed(desk, body.pin, "pin"))
    desk.session.add(row)
    desk.session.flush()
    note(desk, now, "person added", row.name, {}, _entry_of(row))
    return row.id


def has_pin(desk: Desk, staff_id: int | None, pin: str | None) -> bool:
    """Whether somebody's PIN is this one; where none is said there is nothing to differ."""
    row = None if staff_id is None else house.person(desk.session, staff_id)
    return pin is None or row is None or is_right(row.pin_hash, pin)


def write_person(desk: Desk, staff_id: int, body: WritePerson, now: datetime) -> None:
    """Rename, give another role or PIN, let go or take back. What they kept stays theirs; their sessions end with them."""
    desk.only_lead()
    house.lock_house(desk.session, desk.staff.store_id)
    row = house.person(desk.session, staff_id)
    if row is None:
        raise NotThere(say("common.nobody_of_that_number_works_here"))
    if body.role != row.role or not body.works_here or row.id != desk.staff.id:
        _may_give(desk, Role(row.role))
    if body.role != row.role:
        _may_give(desk, body.role)
    _name_is_free(desk, body.name, row.id)
    before = _entry_of(row)
    row.name, row.role = body.name, body.role.value
    if body.works_here != (row.left_at is None):
        row.left_at = None if body.works_here else now
    if before["works_here"]:
        _somebody_stays(desk, row, Role(before["role"]))
    if body.pin is not None:
        row.pin_hash = _hashed(desk, body.pin, "pin")
    desk.session.flush()
    if (row.left_at is not None or body.pin is not None) and row.id != desk.staff.id:
        house.end_sessions(desk.session, row.id, now)
    if (row.name, row.role) != (before["name"], before["role"]) or body.pin is not None:
        stores.spread(desk.session, row.person_uuid, body.pin is not None)
    after = _entry_of(row) | ({"pin": fact_of(say("house_people.a_new_one"))} if body.pin is not None else {})
    if after != before:
        note(desk, now, "person", row.name, before, after)


def unlock(desk: Desk, staff_id: int, now: datetime) -> None:
    """End somebody's waiting after wrong PINs, wherever they tried. Only a lead may."""
    desk.only_lead()
    row = house.person(desk.session, staff_id)
    if row is None:
        raise NotThere(say("common.nobody_of_that_number_works_here"))
    if not may_lift(Role(desk.staff.role), Role(row.role)):
        raise PermissionError(say("house_people.an_owners_waiting_is_lifted_by_an_owner"))
    for address in house.addresses_tried(desk.session, row.id):
        desk.session.add(
            SignInTry(staff_id=row.id, address=address, kind="lifted", tried_at=now, lifted_by=desk.staff.id)
        )
    note(desk, now, "wait lifted", row.name, {}, {})


def _hashed(desk: Desk, pin: str, path: str) -> str:
    if not desk.store.demo and guessable(pin):
        raise Refused(say("common.it_cannot_be_right"), [FieldProblem(path, TOO_EASY)])
    try:
        return hash_pin(pin)
    except ValueError as error:
        raise Refused(
            say("common.it_cannot_be_right"),
            [FieldProblem(path, say("house_people.six_or_more_no_letters", error=capital(words_of(error.args[0]))))],
        ) from error


def may(desk: Desk, role: str) -> bool:
    """Whether whoever asks may give a role, or change somebody who has it."""
    return (
        desk.staff.role == Role.OWNER or (desk.staff.role == Role.LEAD and role == Role.COUNTER) or not desk.has_owner
    )


def _may_give(desk: Desk, role: Role) -> None:
    desk.only_lead()
    if not may(desk, role):
        raise PermissionError(say("house_people.only_an_owner_changes_leads_and_owners"))


def _name_is_free(desk: Desk, name: str, of: int | None) -> None:
    if any(person.id != of and person.name.lower() == name.lower() for person in house.everybody(desk.session)):
        raise Refused(
            say("common.it_cannot_be_right"),
            [FieldProblem("name", say("house_people.somebody_has_this_name_or_had_it_give_each"))],
        )


def _somebody_stays(desk: Desk, row: Staff, was: Role) -> None:
    """Raises Refused where nobody would own the shop any more, or nobody lead it."""
    at_work = [
        Role(person.role) for person in house.everybody(desk.session) if person.id != row.id and person.left_at is None
    ]
    if row.left_at is None:
        at_work.append(Role(row.role))
    if was is Role.OWNER and Role.OWNER not in at_work:
        raise Refused(
            say("common.it_cannot_be_right"),
            [FieldProblem("role", say("house_people.the_only_owner_make_somebody_else_one"))],
        )
    if was is not Role.COUNTER and not LEADS.intersection(at_work):
        raise Refused(
            say("common.it_cannot_be_right"),
            [FieldProblem("role", say("house_people.the_only_lead_make_somebody_else_one_first"))],
        )


def _entry_of(row: Staff) -> dict[str, Any]:
    return {"name": row.name, "role": row.role, "works_here": row.left_at is None}


def note(desk: Desk, now: datetime, what: str, subject: str, before: dict[str, Any], after: dict[str, Any]) -> None:
    """Write a change of the house into its book."""
    body = {"before": before, "after": after}
    desk.session.add(HouseEntry(staff_id=desk.staff.id, written_at=now, what=what, subject=subject, body=body))
    desk.session.flush()
    announce(desk.session, desk.staff.store_id, "staff")
