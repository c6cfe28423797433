"""A field of a list that is brought in: how a cell is read, whether it must be there, what columns call it."""

from collections.abc import Callable
from typing import Any, NamedTuple

from ...words import Words
from . import values


class Field(NamedTuple):
    """A field of a list."""

    name: str
    label: Words
    read: Callable[[str], Any]
    needed: bool = False
    called: tuple[str, ...] = ()
    is_length: bool = False


def limited(name: str) -> Callable[[str], float | None]:
    """A cell that is a figure within a limit of tables/entry-limits.csv. What is not raises ValueError when it is read."""
    return lambda said: values.between(name, values.number(said))
