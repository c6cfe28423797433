"""Opening hours: when a hand is in the shop, in its own zone, whatever the clocks do."""

from datetime import UTC, date, datetime, time, timedelta
from typing import Annotated
from zoneinfo import ZoneInfo

from pydantic import AfterValidator, StringConstraints, model_validator

from ...units.model import Model
from ...words import say

ClockTime = Annotated[str, StringConstraints(pattern=r"^([01]\d|2[0-3]):[0-5]\d$")]
"""A time of the shop's own clock, such as 08:30."""


class DayHours(Model):
    """Open from and until, by the shop's clock."""

    opens: ClockTime
    closes: ClockTime

    @model_validator(mode="after")
    def _opens_first(self) -> "DayHours":
        if self.opens >= self.closes:
            raise ValueError(say("hours.it_must_open_before_it_closes"))
        return self


def _some_day_open(days: "tuple[DayHours | None, ...]") -> "tuple[DayHours | None, ...]":
    if len(days) != DAYS:
        raise ValueError(say("hours.seven_days_monday_first_none_is_a_day_it"))
    if not any(days):
        raise ValueError(say("hours.at_least_one_day_must_be_open_nothing"))
    return days


DAYS = 7


class OpeningHours(Model):
    """A week, Monday first; None is a closed day."""

    days: Annotated[tuple[DayHours | None, ...], AfterValidator(_some_day_open)]


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
        open_that_day = hours.days[day.weekday()]
        if open_that_day is None:
            continue
        opens, closes = (
            _moment(day, time.fromisoformat(clock), zone) for clock in (open_that_day.opens, open_that_day.closes)
        )
        begin, end = max(opens, start), min(closes, until)
        if begin < end:
            spans.append((begin, end))


def _moment(day: date, clock: time, zone: ZoneInfo) -> datetime:
    return datetime.combine(day, clock, zone).astimezone(UTC)
