"""Words as an English reader sees them: tests compare sentences, where the code has facts."""

import json
import unittest
from collections.abc import Callable
from typing import Any

from fastapi import testclient

from vane_check.core.words import Words, words_of


def read_in_english() -> None:
    """From here on words are the same as their sentence in English, and whatever a text can do they can: for tests alone."""
    same = Words.__eq__

    def equal(words: Words, other: object) -> bool:
        return str(words) == other if isinstance(other, str) else same(words, other)

    def as_text(words: Words, name: str) -> Any:
        if name.startswith("__") or name in Words.__slots__:
            raise AttributeError(name)
        return getattr(str(words), name)

    reading = {
        "__eq__": equal, "__hash__": lambda words: hash(str(words)), "__contains__": lambda words, part: str(part) in str(words),
        "__getattr__": as_text, "__len__": lambda words: len(str(words)),
        "__iter__": lambda words: iter(str(words)), "__lt__": lambda words, other: str(words) < str(other),
        "__getitem__": lambda words, place: str(words)[place],
    }  # fmt: skip
    for name, read in reading.items():
        setattr(Words, name, read)
    for name in ("assertRegex", "assertNotRegex"):
        setattr(unittest.TestCase, name, _on_texts(getattr(unittest.TestCase, name)))


def _on_texts(check: Callable[..., None]) -> Callable[..., None]:
    """The check, where words are given it, of their sentence."""
    return lambda test, text, *more, **named: check(
        test, str(text) if isinstance(text, Words) else text, *more, **named
    )


def in_english(value: Any) -> Any:
    """An answer of the API with every fact in it in words."""
    if isinstance(value, list):
        return [in_english(part) for part in value]
    if not isinstance(value, dict):
        return value
    if value.keys() == {"key", "with"}:
        return str(words_of(value))
    return {name: in_english(part) for name, part in value.items()}


class TestClient(testclient.TestClient):
    """The API in process; an answer has words in place of facts."""

    def request(self, *args: Any, **more: Any) -> Any:
        answer = super().request(*args, **more)
        if "json" in answer.headers.get("content-type", "") and b'"with"' in answer.content:
            answer._content = json.dumps(in_english(json.loads(answer.content)), ensure_ascii=False).encode()
        return answer
