"""Whose a battery is: an entry of somebody known, another way of writing them, or somebody new."""

from ..core.life.customers import Written, is_one, name_key
from ..core.readings.faults import FieldProblem
from ..core.words import say
from ..records import customers
from ..records.models import Customer
from .desk import Desk, Refused


def whose(desk: Desk, spelling: Written, picked: int | None, known: Customer | None) -> Customer | None:
    """The entry for whom is written; `picked` is whom of the customers, `known` who stood there before.

    What was written before stays with whom it was written for: another way of writing is an entry of its own. It is of the
    same person where one was picked, where a correction keeps the name, or where name and phone (or plate) are the same.
    """
    if not any(spelling):
        return None
    is_theirs = known is not None and known.erased_at is None and picked in (None, known.id, known.merged_into)
    if known is not None and is_theirs:
        if spelling == _spelling(known):
            return known
        if name_key(known.name) == name_key(spelling.name) != "":
            return _written_anew(desk, known, spelling)
    if picked is not None and not is_theirs:
        person = customers.person_of(desk.session, picked)
        if person is None or person.erased_at is not None:
            raise Refused(
                say("customer_match.nobody_of_that_number_is_known"),
                [FieldProblem("customer_name", say("customer_match.they_were_forgotten_meanwhile_write_them"))],
            )
        return _way_of(desk, person, spelling)
    same = [row for row in customers.find_exact_match(desk.session, spelling) if is_one(_spelling(row), spelling)]
    if not same:
        return _new(spelling)
    person = customers.person_of(desk.session, same[0].id)
    assert person is not None
    return _way_of(desk, person, spelling)


def _way_of(desk: Desk, person: Customer, spelling: Written) -> Customer:
    """The entry that says just this of a person, else a new one of theirs."""
    ways = customers.aliases_of(desk.session, [person.id])
    return next((row for row in ways if _spelling(row) == spelling), None) or _new(spelling, person.id)


def _written_anew(desk: Desk, known: Customer, spelling: Written) -> Customer:
    """Somebody of the same name corrected: what is written now stands for the person, what stood before is an earlier way."""
    customers.lock_people(desk.session, desk.staff.store_id)
    person = customers.person_of(desk.session, known.id)
    assert person is not None
    ways = customers.aliases_of(desk.session, [person.id])
    there = next((row for row in ways if _spelling(row) == spelling), None)
    if there is not None:
        return there
    now = _new(spelling)
    desk.session.add(now)
    desk.session.flush()
    customers.assign_aliases(desk.session, [row.id for row in ways], now.id)
    return now


def _new(spelling: Written, person_id: int | None = None) -> Customer:
    return Customer(name=spelling.name, phone=spelling.phone, plate=spelling.plate, merged_into=person_id)


def _spelling(row: Customer) -> Written:
    return Written(row.name, row.phone, row.plate)
