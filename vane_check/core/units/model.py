"""What every model of the trade is made of: a strict base, texts as typed, moments and days."""

import unicodedata
from datetime import date, datetime
from typing import Annotated

from pydantic import AfterValidator, AwareDatetime, BaseModel, ConfigDict, StringConstraints

from ..tables import entry_limits
from ..words import say

_LIMITS = entry_limits()


class Model(BaseModel):
    """Strict base: unknown fields are refused, values are not changed after they were checked."""

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)


def printable(text: str) -> str:
    """A text as typed. Raises ValueError for signs that no keyboard types and no label carries (NUL among them)."""
    if not text.isprintable() and any(unicodedata.category(sign) in {"Cc", "Cs"} for sign in text):
        raise ValueError(say("model.there_is_a_sign_in_it_that_cannot_be"))
    return text


def printable_lines(text: str) -> str:
    """Several lines as typed. Raises ValueError as `printable` does for a sign of one of them."""
    for line in text.split("\n"):
        printable(line)
    return text


ShortText = Annotated[str, StringConstraints(strip_whitespace=True, max_length=120), AfterValidator(printable)]


def _in_our_time(at: datetime) -> datetime:
    if not _LIMITS["moment_year"].low <= at.year <= _LIMITS["moment_year"].high:
        raise ValueError(
            say("model.is_no_year_for_this", year=at.year, what_to_enter=_LIMITS["moment_year"].what_to_enter)
        )
    return at


def _in_living_memory(day: date) -> date:
    if not _LIMITS["day_year"].low <= day.year <= _LIMITS["day_year"].high:
        raise ValueError(
            say("model.is_no_year_for_this_enter", year=day.year, what_to_enter=_LIMITS["day_year"].what_to_enter)
        )
    return day


Moment = Annotated[AwareDatetime, AfterValidator(_in_our_time)]
"""A moment with its offset, of a year that a screen's clock may show."""

Day = Annotated[date, AfterValidator(_in_living_memory)]
"""A day without time: never read as a moment of any zone."""
