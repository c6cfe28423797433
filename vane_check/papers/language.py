"""The language papers are drawn in: set around the drawing, English where none is."""

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar

from ..core.words import Argument
from ..languages import OWN, speaker_of
from .scripts import lost_signs

_SPOKEN: ContextVar[str] = ContextVar("paper_language", default=OWN)


def translate(text: Argument) -> str:
    """Words in the language of the paper that is drawn; what somebody typed stands as it is."""
    return speaker_of(_SPOKEN.get()).say(text)


@contextmanager
def spoken(code: str) -> Iterator[None]:
    """Draw one paper in this language."""
    before = _SPOKEN.set(code)
    try:
        with lost_signs():
            yield
    finally:
        _SPOKEN.reset(before)
