"""Label help: date codes read into candidates, and size codes recognised in what is printed."""

import re
from calendar import isleap
from collections.abc import Iterator
from datetime import date, timedelta
from typing import NamedTuple

from pydantic import BaseModel, ConfigDict

from ..words import Words, say

TYPICAL_LIFE_YEARS = 8
"""Common practice: three to five years, eight when well kept; older is hard to believe at a counter."""

_WITH_I = "ABCDEFGHIJKL"
_WITHOUT_I = "ABCDEFGHJKLM"


class DateCandidate(BaseModel):
    """A month a code may mean, how it was read, and how plausible it is (0 to 1)."""

    model_config = ConfigDict(frozen=True)

    made_on: date
    read_as: Words
    plausibility: float


class _Raw(NamedTuple):
    made_on: date
    read_as: Words


def date_candidates(code: str, today: date, sold_on: date | None = None) -> list[DateCandidate]:
    """What a date code may mean, the most plausible first; empty when it fits no way of writing.

    Letter for month (with or without the letter I) and a digit or two for the year; month and year; year and week;
    year and day of the year. A one-digit year is ambiguous by ten years: both are given.

    >>> [found.made_on.isoformat() for found in date_candidates("C5", date(2026, 3, 1))]
    ['2025-03-01', '2015-03-01']
    """
    plain = re.sub(r"[\s./-]+", "", code.strip().upper())
    result: dict[date, DateCandidate] = {}
    for raw in (*_letter(plain, today), *_digits(plain, today)):
        month = raw.made_on.replace(day=1)
        plausibility = _plausibility(month, today, sold_on)
        if plausibility > 0 and month not in result:
            result[month] = DateCandidate(made_on=month, read_as=raw.read_as, plausibility=plausibility)
    return sorted(result.values(), key=lambda found: (-found.plausibility, -found.made_on.toordinal()))


def _years(digits: str, today: date) -> list[int]:
    """The years one or two digits may mean, none in the future."""
    if len(digits) == 2:
        return [2000 + int(digits)]
    this = today.year - today.year % 10 + int(digits)
    return [year for year in (this, this - 10, this - 20) if year <= today.year][:2]


def _letter(plain: str, today: date) -> Iterator[_Raw]:
    match = re.match(r"([A-M])([0-9]{2}|[0-9])(?![0-9]*[A-Z])", plain)
    if not match:
        return
    letter, digits = match.groups()
    spellings = [digits] if len(digits) == 1 else [digits, digits[0]]
    for alphabet, words in ((_WITHOUT_I, say("date_codes.without_i")), (_WITH_I, say("date_codes.with_i"))):
        if letter not in alphabet:
            continue
        for spelled in spellings:
            for year in _years(spelled, today):
                yield _Raw(
                    date(year, alphabet.index(letter) + 1, 1),
                    say("date_codes.letter_for_month_for_year", words=words, spelled=spelled),
                )


def _digits(plain: str, today: date) -> Iterator[_Raw]:
    if not re.fullmatch(r"[0-9]+", plain):
        return
    if len(plain) in {3, 4}:
        month, year = int(plain[:-2]), 2000 + int(plain[-2:])
        if 1 <= month <= 12:
            yield _Raw(date(year, month, 1), say("date_codes.month_and_year"))
    if len(plain) == 4 and plain[:2] == "20":
        yield _Raw(date(int(plain), 1, 1), say("date_codes.a_year"))
    if len(plain) == 4:
        year, week = 2000 + int(plain[:2]), int(plain[2:])
        if 1 <= week <= _weeks(year):
            yield _Raw(date.fromisocalendar(year, week, 1), say("date_codes.year_and_week"))
        week, year = int(plain[:2]), 2000 + int(plain[2:])
        if 13 <= week <= _weeks(year):
            yield _Raw(date.fromisocalendar(year, week, 1), say("date_codes.week_and_year"))
    if len(plain) == 5:
        year, day = 2000 + int(plain[:2]), int(plain[2:])
        if 1 <= day <= 365 + isleap(year):
            yield _Raw(date(year, 1, 1) + timedelta(days=day - 1), say("date_codes.year_and_day_of_the_year"))
    if len(plain) == 6 and 1 <= int(plain[:2]) <= 12 and plain[2:4] == "20":
        yield _Raw(date(int(plain[2:]), int(plain[:2]), 1), say("date_codes.month_and_year"))


def _weeks(year: int) -> int:
    """How many weeks a year has. Source: ISO 8601: 28 December always lies in the last one."""
    return date(year, 12, 28).isocalendar().week


def _plausibility(made_on: date, today: date, sold_on: date | None) -> float:
    """0 for the future; little for after the sale or far older than batteries live."""
    if made_on > today:
        return 0.0
    if sold_on is not None and made_on > sold_on:
        return 0.05
    years = (today - made_on).days / 365.25
    if years > 2 * TYPICAL_LIFE_YEARS:
        return 0.0
    plausible = 1.0 if years <= TYPICAL_LIFE_YEARS else 0.2
    if sold_on is not None and (sold_on - made_on).days > 730:
        plausible *= 0.3
    return plausible
