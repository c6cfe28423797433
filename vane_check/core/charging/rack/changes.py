"""What a new plan changed against the one before it, a line for each battery."""

from collections.abc import Callable, Sequence
from typing import NamedTuple

from .parts import TICK_MINUTES, Lane, Placed


class Change(NamedTuple):
    """What changed for a battery: another charger, sooner or later."""

    tag: int
    words: str


def changes_between(
    before: Sequence[Placed], after: Sequence[Placed], named: Callable[[Lane], str], least_minutes: float
) -> list[Change]:
    """Every battery whose charger changed, or that is ready so many minutes sooner or later than it was."""
    was = {one.tag: one for one in before}
    changes = []
    for one in after:
        old = was.get(one.tag)
        if old is None or one.begun:
            continue
        words = []
        if old.lane != one.lane:
            words.append(f"{named(one.lane)} instead of {named(old.lane)}")
        minutes = (one.ready - old.ready) * TICK_MINUTES
        if abs(minutes) >= least_minutes:
            words.append(f"ready {_span(abs(minutes))} {'later' if minutes > 0 else 'sooner'}")
        if words:
            changes.append(Change(one.tag, ", ".join(words)))
    return changes


def _span(minutes: int) -> str:
    """A span in words.

    >>> _span(35), _span(125)
    ('35 min', '2 h 5 min')
    """
    hours, rest = divmod(minutes, 60)
    return f"{minutes} min" if not hours else f"{hours} h {rest} min" if rest else f"{hours} h"
