"""What a new plan changed against the one before it, a line for each battery."""

from collections.abc import Callable, Sequence
from typing import NamedTuple

from ...words import Words, in_a_row, say
from .parts import TICK_MINUTES, Lane, Placed


class Change(NamedTuple):
    """What changed for a battery: another charger, sooner or later."""

    tag: int
    words: Words


def changes_between(
    before: Sequence[Placed], after: Sequence[Placed], named: Callable[[Lane], str], least_minutes: float
) -> list[Change]:
    """Every battery whose charger changed, or that is ready so many minutes sooner or later than it was."""
    was = {placement.tag: placement for placement in before}
    changes = []
    for placement in after:
        old = was.get(placement.tag)
        if old is None or placement.begun:
            continue
        words: list[Words] = []
        if old.lane != placement.lane:
            words.append(say("changes.instead_of", charger=named(placement.lane), earlier_charger=named(old.lane)))
        minutes = (placement.ready - old.ready) * TICK_MINUTES
        if abs(minutes) >= least_minutes:
            words.append(
                say("changes.ready_later" if minutes > 0 else "changes.ready_sooner", span=_span(abs(minutes)))
            )
        if words:
            changes.append(Change(placement.tag, in_a_row(words, ", ")))
    return changes


def _span(minutes: int) -> Words:
    """A span in words.

    >>> str(_span(35)), str(_span(125))
    ('35 min', '2 h 5 min')
    """
    hours, rest = divmod(minutes, 60)
    return (
        say("common.min", minutes=minutes)
        if not hours
        else say("changes.h_min", hours=hours, rest=rest)
        if rest
        else say("common.h", hours=hours)
    )
