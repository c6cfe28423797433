"""What is wrong with a check, field by field, in words that say what to enter."""

from collections.abc import Mapping, Sequence
from typing import Any, NamedTuple

from ..tables import entry_limits
from . import READING_MODELS
from .bounds import limits_of_fields

READING_KINDS = frozenset(str(model.model_fields["kind"].default) for model in READING_MODELS)


class FieldProblem(NamedTuple):
    """A fault with the path of the field it stands in."""

    path: str
    message: str


class CheckRefused(ValueError):
    """A check that cannot be right; `problems` says in which fields and what to enter instead."""

    def __init__(self, problems: list[FieldProblem]) -> None:
        super().__init__("; ".join(f"{problem.path}: {problem.message}" for problem in problems))
        self.problems = problems


def field_path(location: tuple[int | str, ...]) -> str:
    """The path of a field as a person would write it: `readings[0].volts`. The kind of a reading is left out."""
    path = ""
    after_index = True
    for part in location:
        if isinstance(part, int):
            path += f"[{part}]"
            after_index = True
            continue
        if not (after_index and part in READING_KINDS):
            path += f".{part}" if path else part
        after_index = False
    return path


def field_problems(faults: Sequence[Mapping[str, Any]]) -> list[FieldProblem]:
    """Every fault of a refused model, in words that say what to enter, ready to stand in the field that is wrong."""
    return [FieldProblem(field_path(fault["loc"]), plain_fault(fault)) for fault in faults]


_LIMIT_OF_LABEL = {
    "amps": "rated_amps", "length_mm": "case_mm", "width_mm": "case_mm", "height_mm": "case_mm", "spare_cable_mm": "cable_spare_mm",
    "core_deposit_cents": "price_cents", "volts": "piece_volts",
}  # fmt: skip
"""Figures of a label or an item whose limit has another name; a reading's field carries its own."""


_PLAIN = {
    "missing": "This is needed",
    "extra_forbidden": "There is no such field",
    "float_parsing": "Enter a number",
    "float_type": "Enter a number",
    "int_parsing": "Enter a whole number",
    "finite_number": "Enter a number",
    "too_long": "That is longer than a check can be",
}


def plain_fault(fault: Mapping[str, Any]) -> str:
    """A validator's message in words for the counter."""
    if fault["type"] in {"greater_than_equal", "less_than_equal"} and fault["loc"]:
        words = [str(part) for part in fault["loc"] if not isinstance(part, int)]
        name = words[-1]
        owner = next((word for word in words if word in READING_KINDS), None)
        row = _LIMIT_OF_LABEL.get(name, name) if owner is None else limits_of_fields().get((owner, name), name)
        limit = entry_limits().get(row)
        if limit is not None:
            return (
                f"Enter {limit.low:g} to {limit.high:g}{' ' + limit.unit if limit.unit else ''}: {limit.what_to_enter}"
            )
    return _PLAIN.get(fault["type"], str(fault["msg"]).removeprefix("Value error, "))


FAULTS_AT_MOST = 100
"""A file with more faults than this is mended a hundred at a time."""
