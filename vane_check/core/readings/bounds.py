"""The marks on the fields of readings: which limit holds a figure, which are volts of the battery."""

from collections.abc import Iterator
from functools import cache
from typing import Any, TypeVar, get_args

from pydantic import BaseModel
from pydantic.fields import FieldInfo

from . import READING_MODELS
from .base import Within

Mark = TypeVar("Mark")


def _parts(annotation: Any) -> Iterator[Any]:
    """A type, and all it is made of: of `tuple[Annotated[float, Within("x")], ...] | None` the mark too."""
    yield annotation
    for part in get_args(annotation):
        yield from _parts(part)
    yield from getattr(annotation, "__metadata__", ())


def marks_of(field: FieldInfo, kind: type[Mark]) -> list[Mark]:
    """Marks of one kind on a field, on itself or within its type."""
    return [part for part in (*field.metadata, *_parts(field.annotation)) if isinstance(part, kind)]


def marked(field: FieldInfo, kind: type[object]) -> bool:
    """Whether a field carries such a mark."""
    return bool(marks_of(field, kind))


@cache
def limits_of_fields() -> dict[tuple[str, str], str]:
    """By kind of reading and field, those of what it holds too: the row of tables/entry-limits.csv that holds the figure."""
    result: dict[tuple[str, str], str] = {}

    def enter(kind: str, model: type[BaseModel]) -> None:
        for name, field in model.model_fields.items():
            for mark in marks_of(field, Within):
                result.setdefault((kind, name), mark.name)
            for part in _parts(field.annotation):
                if isinstance(part, type) and issubclass(part, BaseModel):
                    enter(kind, part)

    for model in READING_MODELS:
        enter(str(model.model_fields["kind"].default), model)
    return result
