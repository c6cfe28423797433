"""Erasure: somebody's name, phone and plate are taken away everywhere; that it was done stays on record."""

from collections.abc import Sequence
from datetime import datetime

from ..core.words import say
from ..records import customer_rights, house, stores
from ..records.events import announce
from ..records.models import Customer, Erasure
from .counter import battery_or_refused
from .desk import Desk, Refused


def erase_customer(desk: Desk, tag: int, now: datetime) -> None:
    """Erase whom a battery is for, on this and on every other battery of theirs. Only a lead may.

    The same person is whoever was merged with them, has the same name and phone, or the same plate. What was measured stays.
    """
    desk.only_lead()
    row = battery_or_refused(desk, tag, lock=True, wherever=True)
    people = [customer for customer in customer_rights.customers_of(desk.session, row.id) if customer.erased_at is None]
    if not people:
        raise Refused(say("erasure.nobody_is_written_on_tag_there_is_nothing", tag=tag))
    erase_people(desk, people, now)


def erase_people(desk: Desk, people: Sequence[Customer], now: datetime) -> None:
    """Erase these entries and every other of the same people, and keep that it was done."""
    ids = customer_rights.same_people(desk.session, people)
    tags = list(customer_rights.tags_of(desk.session, ids))
    customer_rights.erase(desk.session, ids, now)
    stores.forget_on_the_way(desk.session, ids)
    desk.session.add(Erasure(erased_at=now, staff_id=desk.staff.id, customers=len(ids), tags=tags))
    desk.session.flush()
    house.say_somebody_is_forgotten(desk.session)
    announce(desk.session, desk.staff.store_id, "erased")
