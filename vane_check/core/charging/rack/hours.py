"""Opening hours: when a hand is in the shop, in its own zone, whatever the clocks do."""

from datetime import UTC, date, datetime, time, timedelta
from typing import Annotated
from zoneinfo import ZoneInfo

from pydantic import AfterValidator, Field, StringConstraints, model_validator

from ...units.model import Day, Model, ShortText
from ...words import say

ClockTime = Annotated[str, StringConstraints(pattern=r"^([01]\d|2[0-3]):[0-5]\d$")]
"""A time of the shop's own clock, such as 08:30."""


class DayHours(Model):
    """Open from and until, by the shop's clock."""

    opens: ClockTime
    closes: ClockTime
    pause_from: ClockTime | None = Field(None, description="nobody is in from then on, at noon")
    pause_until: ClockTime | None = None

    @model_validator(mode="after")
    def _opens_first(self) -> "DayHours":
        if self.opens >= self.closes:
            raise ValueError(say("hours.it_must_open_before_it_closes"))
        pause = self.pause_from, self.pause_until
        if pause != (None, None) and (None in pause or not self.opens < str(pause[0]) < str(pause[1]) < self.closes):
            raise ValueError(say("hours.the_pause_lies_within_the_day"))
        return self

    @property
    def parts(self) -> tuple[tuple[str, str], ...]:
        """The day in one part, or in the two about its pause."""
        if self.pause_from is None or self.pause_until is None:
            return ((self.opens, self.closes),)
        return (self.opens, self.pause_from), (self.pause_until, self.closes)


class ClosedDays(Model):
    """Days nobody is in although the week says so: a holiday, works holidays. Both ends are closed."""

    first: Day
    last: Day
    why: ShortText = ""

    @model_validator(mode="after")
    def _first_is_first(self) -> "ClosedDays":
        if self.first > self.last:
            raise ValueError(say("hours.the_first_closed_day_comes_before_the_last"))
        return self


def _some_day_open(days: "tuple[DayHours | None, ...]") -> "tuple[DayHours | None, ...]":
    if len(days) != DAYS:
        raise ValueError(say("hours.seven_days_monday_first_none_is_a_day_it"))
    if not any(days):
        raise ValueError(say("hours.at_least_one_day_must_be_open_nothing"))
    return days


DAYS = 7


class OpeningHours(Model):
    """A week, Monday first; None is a closed day. `closed` are days that are not as their week."""

    days: Annotated[tuple[DayHours | None, ...], AfterValidator(_some_day_open)]
    closed: tuple[ClosedDays, ...] = Field((), max_length=60)

    def on(self, day: date) -> DayHours | None:
        """The hours of a day; None where it is closed."""
        shut = any(each.first <= day <= each.last for each in self.closed)
        return None if shut else self.days[day.weekday()]

    def is_open(self, moment: datetime, zone: ZoneInfo) -> bool:
        """Whether somebody is in at a moment, by the shop's clock."""
        there = moment.astimezone(zone)
        hours, clock = self.on(there.date()), f"{there:%H:%M}"
        return hours is not None and any(opens <= clock <= closes for opens, closes in hours.parts)


def open_spans(
    hours: OpeningHours, zone: ZoneInfo, start: datetime, until: datetime
) -> list[tuple[datetime, datetime]]:
    """When the shop is open between two moments, in UTC: a day with a clock change is as long as it really is.

    >>> always = OpeningHours(days=(DayHours(opens="00:30", closes="09:00"),) * 7)
    >>> from datetime import datetime, UTC
    >>> spans = open_spans(always, ZoneInfo("Europe/Dublin"), datetime(2026, 10, 24, 23, tzinfo=UTC), datetime(2026, 10, 25, 12, tzinfo=UTC))
    >>> [str(close - begin) for begin, close in spans]
    ['9:30:00']
    """
    spans: list[tuple[datetime, datetime]] = []
    day = start.astimezone(zone).date() - timedelta(days=1)
    while True:
        day += timedelta(days=1)
        midnight = _moment(day, time(), zone)
        if midnight >= until:
            return spans
        open_that_day = hours.on(day)
        if open_that_day is None:
            continue
        for part in open_that_day.parts:
            opens, closes = (_moment(day, time.fromisoformat(clock), zone) for clock in part)
            begin, end = max(opens, start), min(closes, until)
            if begin < end:
                spans.append((begin, end))


def _moment(day: date, clock: time, zone: ZoneInfo) -> datetime:
    return datetime.combine(day, clock, zone).astimezone(UTC)
