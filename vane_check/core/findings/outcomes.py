"""The closed set of outcomes, and what one piece of evidence says."""

from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Any, Literal

from .kinds import Kind, StepKey


class Outcome(StrEnum):
    """What the judgement can say of the battery itself: its headline, the same in plain words, whether it condemns."""

    headline: str
    plain: str
    condemns: bool

    def __new__(cls, key: str, headline: str = "", plain: str = "", condemns: bool = False) -> "Outcome":
        """An outcome with all that belongs to it."""
        member = str.__new__(cls, key)
        member._value_ = key
        member.headline, member.plain, member.condemns = headline, plain, condemns
        return member

    UNSAFE = (
        "unsafe",
        "Unsafe: hold it apart",
        "This battery is not safe to test, charge or use. We hold it apart.",
    )
    SOUND = ("sound", "Sound", "This battery is in good order and charged enough to use.")
    NEEDS_CHARGE = (
        "needs_charge",
        "Needs a charge before anything else is said",
        "This battery is low on charge. That says nothing yet about its health: it is charged first, then tested.",
    )
    CANNOT_TELL = (
        "cannot_tell",
        "Cannot tell yet",
        "What was measured does not settle it yet. One more step will.",
    )
    WORN_OUT = (
        "worn_out",
        "Worn out",
        "This battery is worn out: charged enough to be judged, it gives too little of its rated starting power.",
        True,
    )
    DEAD_CELL = (
        "dead_cell",
        "A cell is dead",
        "One part of this battery (a cell) no longer gives any voltage. A charge cannot bring it back.",
        True,
    )
    LEAKS_CHARGE = (
        "leaks_charge",
        "Will not hold its charge",
        "This battery takes a charge but does not hold it.",
        True,
    )
    WATCH = ("watch", "Watch it", "This battery is kept in use and tested again on the date below.")


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
    reading_text: str
    limit_text: str
    text: str
    why_not: str | None = None
    remedy: StepKey | None = None
    places: tuple[int, ...] = ()
    figures: tuple[float, ...] = ()
    rule: str
    source: str
    standing: str

    def but(self, **changes: Any) -> "Finding":
        """The same with some of it changed."""
        return replace(self, **changes)
