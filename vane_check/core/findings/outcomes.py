"""The closed set of outcomes, and what one piece of evidence says."""

from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Any, Literal

from ..words import Words, say
from .kinds import Kind, StepKey


class Outcome(StrEnum):
    """What the judgement can say of the battery itself: its headline, the same in plain words, whether it condemns."""

    headline: Words
    plain: Words
    condemns: bool

    def __new__(cls, key: str, condemns: bool = False) -> "Outcome":
        """An outcome with all that belongs to it."""
        member = str.__new__(cls, key)
        member._value_ = key
        member.headline, member.plain = say(f"outcome.{key}.headline"), say(f"outcome.{key}.plain")
        member.condemns = condemns
        return member

    UNSAFE = "unsafe"
    SOUND = "sound"
    NEEDS_CHARGE = "needs_charge"
    CANNOT_TELL = "cannot_tell"
    WORN_OUT = ("worn_out", True)
    DEAD_CELL = ("dead_cell", True)
    LEAKS_CHARGE = ("leaks_charge", True)
    WATCH = "watch"


FAILED = frozenset(outcome for outcome in Outcome if outcome.condemns)
"""Outcomes that condemn the battery."""

Status = Literal["counts", "doubtful", "dropped"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Finding:
    """One reading held against one rule. A plain record: a judgement makes a dozen of them.

    `weight` is 0 to 1. A dropped finding has weight 0 and says in `why_not` why it does not count; a doubtful one
    counts less. `remedy` names the step that would make a dropped or doubtful reading count. `places` are those cells or
    spots of the reading, counted from 0, that the finding is about; `figures` the cells' gravities as corrected, or the Ah that a charge put in.
    """

    kind: Kind
    reading_id: str | None
    status: Status
    points_to: Outcome | None
    weight: float
    reading_text: Words
    limit_text: Words
    text: Words
    why_not: Words | None = None
    remedy: StepKey | None = None
    places: tuple[int, ...] = ()
    figures: tuple[float, ...] = ()
    rule: str
    source: Words
    standing: str

    def but(self, **changes: Any) -> "Finding":
        """The same with some of it changed."""
        return replace(self, **changes)
