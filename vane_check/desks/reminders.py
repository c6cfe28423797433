"""Reminders: when a battery is to be tested again, and what needs a hand when; one file a battery, and a feed of the shop."""

import hmac
import secrets
from datetime import datetime

from pydantic import BaseModel

from ..core.units.model import Model
from ..core.words import Words, as_written, in_a_row, say
from ..papers.calendar import Reminder, calendar_file
from ..papers.language import spoken
from ..records import batteries, people
from ..records.base import StoreSession
from .check import view
from .counter import battery_or_refused
from .desk import Desk, NotThere


class CalendarView(BaseModel):
    """The secret address of this shop's feed."""

    address: str


class Renewal(Model):
    """A new address; the old one shows nothing any more."""


HANDS = {
    "on_charge": say("reminders.take_it_off_charge"),
    "standing": say("reminders.rested_enough_read_its_volts"),
    "ready": say("reminders.somebody_calls_for_it"),
}


def of_battery(desk: Desk, tag: int, base: str) -> bytes:
    """The day this battery is to be tested again, as a calendar. Raises NotThere where it is not watched."""
    row = battery_or_refused(desk, tag)
    judged = view(desk, tag).judgement
    if judged.watch_until is None:
        raise NotThere(say("reminders.battery_is_not_watched_there_is_no_day_to", tag=tag))
    kept = batteries.judgement_with_rules(desk.session, batteries.latest_check(desk.session, row.id).id)
    assert kept is not None
    return calendar_file(
        [_again(tag, judged.watch_until.isoformat(), row.line, judged.headline, base, kept[0].made_at)],
        str(say("reminders.battery", tag=tag)),
    )


def _again(tag: int, day: str, line: str, headline: Words, base: str, made_at: datetime) -> Reminder:
    return Reminder(
        uid=f"retest-{tag}@{_host(base)}",
        when=datetime.fromisoformat(day).date(),
        title=say("reminders.test_battery_again", tag=tag),
        words=in_a_row((line or say("reminders.a_battery"), f" {tag}: ", headline)),
        address=f"{base.rstrip('/')}/check/{tag}",
        made_at=made_at,
    )


def _host(base: str) -> str:
    return base.partition("://")[2].rstrip("/").partition(":")[0] or "vane-check"


def feed(session: StoreSession, secret: str, base: str, now: datetime) -> bytes:
    """Everything the shop is reminded of, for whoever knows the feed's secret address. Raises NotThere for an unknown one."""
    store = next(
        (
            person
            for person in people.stores(session)
            if hmac.compare_digest(person.calendar_secret.encode(), secret.encode())
        ),
        None,
    )
    if store is None:
        raise NotThere(say("reminders.there_is_no_such_calendar"))
    session.bind_to(store.id)
    reminders = [
        _again(due.tag, due.day, due.line, due.headline, base, due.made_at) for due in batteries.to_test_again(session)
    ]
    for row, _ in batteries.in_house(session):
        if row.needs_hand_at is None:
            continue
        reminders.append(
            Reminder(
                uid=f"hand-{row.tag}-{row.needs_hand_at:%Y%m%dT%H%M%S}@{_host(base)}",
                when=row.needs_hand_at,
                title=in_a_row((str(row.tag), HANDS.get(row.place) or say("reminders.needs_a_hand")), ": "),
                words=as_written(row.line),
                address=f"{base.rstrip('/')}/check/{row.tag}",
                made_at=now,
            )
        )
    with spoken(store.language):
        return calendar_file(reminders, store.name)


def address(desk: Desk, base: str) -> CalendarView:
    """The secret address of this shop's feed. Only a lead may know it."""
    desk.only_lead()
    return CalendarView(
        address=f"{base.rstrip('/')}/api/calendars/{people.store_of(desk.session, desk.staff.store_id).calendar_secret}.ics"
    )


def renew(desk: Desk) -> None:
    """A new secret: whoever has the old address sees nothing more."""
    desk.only_lead()
    people.new_calendar_secret(desk.session, desk.staff.store_id, secrets.token_urlsafe(24))
