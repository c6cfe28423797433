"""What a battery gave over the years: the estimates of its visits beside one another, and where that leads."""

from collections.abc import Sequence
from datetime import date
from typing import NamedTuple

from pydantic import BaseModel, ConfigDict

from ..judging.estimate import Estimate
from ..units.compare import AMPS, over
from ..units.months import whole_months_between
from ..words import Figure, Words, dated, fixed, say


class Given(NamedTuple):
    """What it gave on a day, as all methods together said it."""

    day: date
    estimate: Estimate


class Trend(BaseModel):
    """The first and the last estimate held against one another: per cent, whether more than the two may be off, months to the line."""

    model_config = ConfigDict(frozen=True)

    change_pct: float
    months: int
    is_clear: bool
    months_to_the_line: int | None
    words: Words


def trend_of(given: Sequence[Given], least_amps: float | None) -> Trend | None:
    """The trend of estimates that agreed within themselves; None where fewer than two tell.

    A change counts as clear where the two widths do not meet. `least_amps` is the house's line: on a straight line from the first to
    the last it is reached in so many months from the last day.
    """
    points = sorted(
        (point for point in given if not point.estimate.conflict and point.estimate.cca_amps > 0),
        key=lambda point: point.day,
    )
    if len(points) < 2:
        return None
    first, last = points[0], points[-1]
    was, now = first.estimate, last.estimate
    months = whole_months_between(first.day, last.day)
    change = (now.cca_amps / was.cca_amps - 1) * 100
    fell = over(was.low_amps, now.high_amps, AMPS)
    clear = fell or over(now.low_amps, was.high_amps, AMPS)
    left = None
    if fell and months > 0 and least_amps is not None:
        left = max(int((now.cca_amps - least_amps) / ((was.cca_amps - now.cca_amps) / months)), 0)
    words = say(
        "trend.on_on_in_months",
        first=_figure(was),
        first_day=dated(first.day, "%d %b %Y"),
        last=_figure(now),
        last_day=dated(last.day, "%d %b %Y"),
        change_pct=Figure(f"{change:+.0f}"),
        count=months,
    )
    if not clear:
        words += say("trend.within_what_the_two_may_be_off")
    elif left is not None:
        words += (
            say("trend.at_this_rate_under_the_houses_line_in", count=left)
            if left
            else say("trend.under_the_houses_line")
        )
    return Trend(change_pct=round(change, 1), months=months, is_clear=clear, months_to_the_line=left, words=words)


def _figure(estimate: Estimate) -> Words:
    return say(
        "figures.cca_amps_high_amps_cca",
        cca_amps=fixed(estimate.cca_amps, 0),
        high_amps=fixed((estimate.high_amps - estimate.low_amps) / 2, 0),
    )
