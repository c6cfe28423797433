"""The closed set of outcomes, and what one piece of evidence says."""

from enum import StrEnum
from typing import Literal

from pydantic import BaseModel, ConfigDict


class Outcome(StrEnum):
    """What the judgement can say of the battery itself."""

    UNSAFE = "unsafe"
    SOUND = "sound"
    NEEDS_CHARGE = "needs_charge"
    CANNOT_TELL = "cannot_tell"
    WORN_OUT = "worn_out"
    DEAD_CELL = "dead_cell"
    LEAKS_CHARGE = "leaks_charge"
    WATCH = "watch"


FAILED = frozenset({Outcome.WORN_OUT, Outcome.DEAD_CELL, Outcome.LEAKS_CHARGE})
"""Outcomes that condemn the battery."""

Status = Literal["counts", "doubtful", "dropped"]


class Finding(BaseModel):
    """One reading held against one rule.

    `weight` is 0 to 1. A dropped finding has weight 0 and says in `why_not` why it does not count; a doubtful one
    counts less. `remedy` names the step that would make a dropped or doubtful reading count.
    """

    model_config = ConfigDict(frozen=True)

    kind: str
    reading_id: str | None
    status: Status
    points_to: Outcome | None
    weight: float
    reading_text: str
    limit_text: str
    text: str
    why_not: str | None = None
    remedy: str | None = None
    rule: str
    source: str
    standing: str
