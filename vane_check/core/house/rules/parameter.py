"""What a house rule is: a value with its unit, where it comes from, from when it holds, and what it may be at all."""

from datetime import date
from typing import Generic, Literal, TypeVar

from pydantic import BaseModel, ConfigDict, model_validator

from ...words import Words, digits, in_a_row, listed, say, word

Standing = Literal["published", "practice", "memory"]


Value = TypeVar("Value")


class Parameter(BaseModel, Generic[Value]):
    """One value of the house rules: where it comes from, and what it may be at all.

    Numbers (also those in a table by name) lie between `low` and `high`; words are among `choices`. Raises on anything
    else, NaN and infinity among it, with what to enter instead.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    value: Value
    unit: str
    source: str
    standing: Standing
    holds_from: date
    low: float | None = None
    high: float | None = None
    choices: tuple[str, ...] = ()
    at_least: int = 0

    @model_validator(mode="after")
    def _can_be(self) -> "Parameter[Value]":
        if fault := self.fault_of(self.value):
            raise ValueError(fault)
        return self

    def fault_of(self, value: object) -> Words | None:
        """What to enter instead of a value that this rule cannot have; None for one that it can."""
        if self.choices:
            picked = value if isinstance(value, tuple) else (value,)
            if not set(picked) <= set(self.choices):
                return say("parameter.pick_from", choices=in_a_row(map(word, self.choices), ", "))
            return say("parameter.pick_at_least", at_least=self.at_least) if len(picked) < self.at_least else None
        figures = value.values() if isinstance(value, dict) else (value,)
        if self.low is None or self.high is None:
            raise AssertionError("A rule of the package has no bounds")
        if not all(isinstance(figure, float) and self.low <= figure <= self.high for figure in figures):
            return say(
                "parameter.enter_to", low=digits(self.low), high=digits(self.high), unit=listed("unit", self.unit)
            )
        return None


Number = Parameter[float]
ByName = Parameter[dict[str, float]]
Choice = Parameter[str]
Names = Parameter[tuple[str, ...]]


class RuleGroup(BaseModel):
    """Rules of one matter."""

    model_config = ConfigDict(frozen=True, extra="forbid")
