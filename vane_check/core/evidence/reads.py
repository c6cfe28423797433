"""Which function reads which kind of reading: each says so itself, where it is written."""

from collections.abc import Callable
from typing import Any, TypeVar

from ..facts.case import Case
from ..findings.outcomes import Finding
from ..readings import Reading

Read = TypeVar("Read", bound=Reading)

FINDERS: dict[type[Reading], Callable[[Any, Case], Finding]] = {}
"""By kind of reading: reading + case -> finding."""


def reads(kind: type[Read]) -> Callable[[Callable[[Read, Case], Finding]], Callable[[Read, Case], Finding]]:
    """Enter a function as the one that reads this kind. Raises ImportError where another does already."""

    def enter(find: Callable[[Read, Case], Finding]) -> Callable[[Read, Case], Finding]:
        if kind in FINDERS:
            raise ImportError(f"{kind.__name__} is read twice")
        FINDERS[kind] = find
        return find

    return enter
