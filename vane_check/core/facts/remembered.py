"""Worked out once for each case: a judgement asks the same question from several sides."""

from collections.abc import Callable
from functools import wraps
from typing import Any, Generic, Protocol, Self, TypeVar, overload

Answer = TypeVar("Answer")
Read = TypeVar("Read")


class Remembers(Protocol):
    """What holds the answers that were worked out from it: it never changes itself."""

    @property
    def answers(self) -> dict[Any, Any]:
        """By question, and by the reading it was asked about."""

    @property
    def own(self) -> frozenset[int]:
        """Which objects its readings are: only what is asked about one of them is remembered."""


Known = TypeVar("Known", bound=Remembers)


def remembered(ask: Callable[[Known], Answer]) -> Callable[[Known], Answer]:
    """The answer of a question about a case, asked once."""

    @wraps(ask)
    def answer(case: Known) -> Answer:
        answers = case.answers
        if ask not in answers:
            answers[ask] = ask(case)
        return answers[ask]  # type: ignore[no-any-return]

    return answer


def remembered_each(ask: Callable[[Read, Known], Answer]) -> Callable[[Read, Known], Answer]:
    """The same of a question about one of the case's own readings. A reading that is not the case's is asked about anew."""

    @wraps(ask)
    def answer(reading: Read, case: Known) -> Answer:
        answers, key = case.answers, (ask, id(reading))
        if key in answers:
            return answers[key]  # type: ignore[no-any-return]
        result = ask(reading, case)
        if id(reading) in case.own:
            answers[key] = result
        return result

    return answer


class derived(Generic[Answer]):
    """A property worked out once: `functools.cached_property` without its lock, which costs more than most answers do.

    Two threads may both work it out, to the same answer: a case never changes.
    """

    def __init__(self, ask: Callable[[Any], Answer]) -> None:
        self.ask, self.name, self.__doc__ = ask, ask.__name__, ask.__doc__

    @overload
    def __get__(self, known: None, owner: type) -> Self: ...
    @overload
    def __get__(self, known: object, owner: type) -> Answer: ...
    def __get__(self, known: object | None, owner: type) -> Self | Answer:
        if known is None:
            return self
        result = self.ask(known)
        object.__setattr__(known, self.name, result)  # as a frozen record sets its own
        return result
