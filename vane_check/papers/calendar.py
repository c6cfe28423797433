"""Reminders as iCalendar (RFC 5545): a day to test again, a moment that needs a hand."""

from collections.abc import Iterable
from datetime import date, datetime, timedelta
from typing import NamedTuple

from icalendar import Calendar, Event

from ..core.words import Words
from .language import translate

PRODUCT = "-//Vane Check//reminders//EN"
LASTS = timedelta(minutes=15)
"""How long a hand is wanted."""


class Reminder(NamedTuple):
    """One thing to do at a time. `uid` stays the same as long as it is the same thing."""

    uid: str
    when: date | datetime
    title: Words
    words: Words
    address: str
    made_at: datetime


def calendar_file(reminders: Iterable[Reminder], name: str) -> bytes:
    """The reminders as one calendar, in the order of time. Moments in UTC, days as days."""
    calendar = Calendar()
    calendar.add("prodid", PRODUCT)
    calendar.add("version", "2.0")
    calendar.add("method", "PUBLISH")
    calendar.add("name", name)
    calendar.add("x-wr-calname", name)
    for one in sorted(reminders, key=lambda one: (str(one.when), one.uid)):
        event = Event()
        event.add("uid", one.uid)
        event.add("dtstamp", one.made_at)
        event.add("summary", translate(one.title))
        event.add("description", translate(one.words))
        event.add("url", one.address)
        event.add("dtstart", one.when)
        event.add("dtend", one.when + (LASTS if isinstance(one.when, datetime) else timedelta(days=1)))
        event.add("transp", "TRANSPARENT")
        calendar.add_component(event)
    return bytes(calendar.to_ical())
