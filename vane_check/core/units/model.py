"""What every model of the trade is made of: a strict base, texts as typed, moments and days."""

import unicodedata
from datetime import date, datetime
from typing import Annotated

from pydantic import AfterValidator, AwareDatetime, BaseModel, ConfigDict, StringConstraints

from ..tables import entry_limits

_LIMITS = entry_limits()


class Model(BaseModel):
    """Strict base: unknown fields are refused, values are not changed after they were checked."""

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)


def printable(text: str) -> str:
    """A text as typed. Raises ValueError for signs that no keyboard types and no label carries (NUL among them)."""
    if not text.isprintable() and any(unicodedata.category(sign) in {"Cc", "Cs"} for sign in text):
        raise ValueError("There is a sign in it that cannot be printed: type it again")
    return text


def printable_lines(text: str) -> str:
    """Several lines as typed. Raises ValueError as `printable` does for a sign of one of them."""
    for line in text.split("\n"):
        printable(line)
    return text


ShortText = Annotated[str, StringConstraints(strip_whitespace=True, max_length=120), AfterValidator(printable)]


def _in_our_time(at: datetime) -> datetime:
    if not _LIMITS["moment_year"].low <= at.year <= _LIMITS["moment_year"].high:
        raise ValueError(f"{at.year} is no year for this: {_LIMITS['moment_year'].what_to_enter}")
    return at


def _in_living_memory(day: date) -> date:
    if not _LIMITS["day_year"].low <= day.year <= _LIMITS["day_year"].high:
        raise ValueError(f"{day.year} is no year for this: enter {_LIMITS['day_year'].what_to_enter}")
    return day


Moment = Annotated[AwareDatetime, AfterValidator(_in_our_time)]
"""A moment with its offset, of a year that a screen's clock may show."""

Day = Annotated[date, AfterValidator(_in_living_memory)]
"""A day without time: never read as a moment of any zone."""
