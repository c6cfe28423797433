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
    for reminder in sorted(reminders, key=lambda reminder: (str(reminder.when), reminder.uid)):
        event = Event()
        event.add("uid", reminder.uid)
        event.add("dtstamp", reminder.made_at)
        event.add("summary", translate(reminder.title))
        event.add("description", translate(reminder.words))
        event.add("url", reminder.address)
        event.add("dtstart", reminder.when)
        event.add("dtend", reminder.when + (LASTS if isinstance(reminder.when, datetime) else timedelta(days=1)))
        event.add("transp", "TRANSPARENT")
        calendar.add_component(event)
    return bytes(calendar.to_ical())
