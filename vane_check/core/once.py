"""Worked out once for each case: a judgement asks the same question from several sides."""

from collections.abc import Callable
from functools import wraps
from typing import TYPE_CHECKING, Any, TypeVar

if TYPE_CHECKING:
    from .evidence import Case

Answer = TypeVar("Answer")
Read = TypeVar("Read")


def once(ask: "Callable[[Case], Answer]") -> "Callable[[Case], Answer]":
    """The answer of a question about a case, kept with the case: a case never changes."""
    name = f"{ask.__module__}.{ask.__qualname__}"

    @wraps(ask)
    def kept(case: "Case") -> Answer:
        answers: dict[str, Any] = case.__dict__
        if name not in answers:
            answers[name] = ask(case)
        return answers[name]  # type: ignore[no-any-return]

    return kept


def once_each(ask: "Callable[[Read, Case], Answer]") -> "Callable[[Read, Case], Answer]":
    """The same of a question about one of the case's own readings. A reading that is not the case's is asked about anew."""
    name = f"{ask.__module__}.{ask.__qualname__}"

    @wraps(ask)
    def kept(reading: Read, case: "Case") -> Answer:
        answers: dict[int, Answer] = case.__dict__.setdefault(name, {})
        key = id(reading)
        if key in answers:
            return answers[key]
        answer = ask(reading, case)
        if key in case.own:
            answers[key] = answer
        return answer

    return kept
