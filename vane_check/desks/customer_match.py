"""Whose a battery is: an entry of somebody known, another way of writing them, or somebody new."""

from ..core.life.customers import Written, is_one, name_key
from ..core.readings.faults import FieldProblem
from ..records import customers
from ..records.models import Customer
from .desk import Desk, Refused


def whose(desk: Desk, words: Written, picked: int | None, known: Customer | None) -> Customer | None:
    """The entry for whom is written; `picked` is whom of the customers, `known` who stood there before.

    What was written before stays with whom it was written for: another way of writing is an entry of its own. It is of the
    same person where one was picked, where a correction keeps the name, or where name and phone (or plate) are the same.
    """
    if not any(words):
        return None
    is_theirs = known is not None and known.erased_at is None and picked in (None, known.id, known.merged_into)
    if known is not None and is_theirs:
        if words == _spelling(known):
            return known
        if name_key(known.name) == name_key(words.name) != "":
            return _written_anew(desk, known, words)
    if picked is not None and not is_theirs:
        person = customers.person_of(desk.session, picked)
        if person is None or person.erased_at is not None:
            raise Refused(
                "Nobody of that number is known",
                [FieldProblem("customer_name", "They were forgotten meanwhile: write them in anew")],
            )
        return _way_of(desk, person, words)
    same = [row for row in customers.find_exact_match(desk.session, words) if is_one(_spelling(row), words)]
    if not same:
        return _new(words)
    person = customers.person_of(desk.session, same[0].id)
    assert person is not None
    return _way_of(desk, person, words)


def _way_of(desk: Desk, person: Customer, words: Written) -> Customer:
    """The entry that says just this of a person, else a new one of theirs."""
    ways = customers.aliases_of(desk.session, [person.id])
    return next((row for row in ways if _spelling(row) == words), None) or _new(words, person.id)


def _written_anew(desk: Desk, known: Customer, words: Written) -> Customer:
    """Somebody of the same name corrected: what is written now stands for the person, what stood before is an earlier way."""
    customers.lock_people(desk.session, desk.staff.store_id)
    person = customers.person_of(desk.session, known.id)
    assert person is not None
    ways = customers.aliases_of(desk.session, [person.id])
    there = next((row for row in ways if _spelling(row) == words), None)
    if there is not None:
        return there
    now = _new(words)
    desk.session.add(now)
    desk.session.flush()
    customers.assign_aliases(desk.session, [row.id for row in ways], now.id)
    return now


def _new(words: Written, person_id: int | None = None) -> Customer:
    return Customer(name=words.name, phone=words.phone, plate=words.plate, merged_into=person_id)


def _spelling(row: Customer) -> Written:
    return Written(row.name, row.phone, row.plate)
