"""The language papers are drawn in: set around the drawing, English where none is."""

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar

from ..languages import reader_of
from .scripts import lost_signs

_SPOKEN: ContextVar[str] = ContextVar("paper_language", default="en")


def say(text: str) -> str:
    """A sentence in the language of the paper that is drawn."""
    reader = reader_of(_SPOKEN.get())
    return text if reader is None else reader.read(text)


@contextmanager
def spoken(code: str) -> Iterator[None]:
    """Draw one paper in this language."""
    before = _SPOKEN.set(code)
    try:
        with lost_signs():
            yield
    finally:
        _SPOKEN.reset(before)
