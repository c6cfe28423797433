"""What is said in a language: a message by its key, with figures and days as the place writes them.

What somebody typed is a figure that is plain text, and stands as it was typed. A message that a language has not, or that
holds another which it has not, is said in English whole.
"""

import re
from collections.abc import Callable, Mapping
from datetime import date, datetime
from typing import Any

from babel.dates import format_date, format_skeleton, get_day_names
from babel.numbers import get_decimal_symbol, get_group_symbol

from ..core.words import AS_WRITTEN, CAPITAL, HOLE, NOTHING, Argument, Day, Figure, Several, Words, words_of

Message = str | tuple[str, ...]


ENGLISH_LOCALE = "en-GB"
"""What the words are in already."""


class Speaker:
    """Says messages in one language: `messages` by key, several where it has a plural, chosen by `plural_of` a number."""

    def __init__(self, messages: Mapping[str, Message], locale: str, plural_of: Callable[[int], int]) -> None:
        self._messages, self._plural_of, self._is_own = messages, plural_of, locale == ENGLISH_LOCALE
        self._locale = locale.replace("-", "_")
        self._signs = str.maketrans({".": get_decimal_symbol(self._locale), ",": get_group_symbol(self._locale)})

    def say(self, text: Argument) -> str:
        """A message in the language; whole in English where it, or one within it, is not written there. Typed text as typed."""
        if self._is_own or not self._can_say(text):
            return str(text)
        return self._said(text)

    def with_text(self, value: Any) -> Any:
        """What was made for a machine, with each fact's sentence beside its key and figures as `text`."""
        if isinstance(value, list):
            return [self.with_text(part) for part in value]
        if not isinstance(value, dict):
            return value
        if value.keys() == {"key", "with"}:
            return {**value, "text": self.say(words_of(value))}
        return {name: self.with_text(part) for name, part in value.items()}

    def _can_say(self, text: Argument) -> bool:
        if isinstance(text, Several):
            return all(map(self._can_say, text.parts)) and (
                " " in text.seam or not text.seam or text.seam in self._messages
            )
        if not isinstance(text, Words) or text.key in {AS_WRITTEN, NOTHING.key}:
            return True
        return (text.key == CAPITAL or text.key in self._messages) and all(map(self._can_say, text.figures.values()))

    def _said(self, text: Argument) -> str:
        if isinstance(text, Words):
            return self._words(text)
        if isinstance(text, Several):
            seam = self._messages.get(text.seam, text.seam)
            return str(seam).join(map(self._said, text.parts))
        if isinstance(text, Day):
            return self._day(text.at, text.shape)
        if isinstance(text, Figure | float):
            return str.translate(str(text), self._signs)
        return str(text)

    def _words(self, text: Words) -> str:
        if text.key == NOTHING.key:
            return ""
        if text.key == AS_WRITTEN:
            return str(text.figures["text"])
        if text.key == CAPITAL:
            inner = self._said(text.figures["text"])
            return inner[:1].upper() + inner[1:]
        message = self._messages[text.key]
        if not isinstance(message, str):
            message = message[self._plural_of(int(str(text.figures["count"])))]
        return HOLE.sub(lambda hole: self._said(text.figures[hole[1]]), message)

    def _day(self, at: date, shape: str) -> str:
        """A day by its shape in English, such as `%a %d %b %H:%M`, as the place writes it."""
        clock = " %H:%M" if shape.endswith("%H:%M") else ""
        parts = [local_day(at, shape.removesuffix("%H:%M").rstrip(", "), self._locale)] if shape != "%H:%M" else []
        if clock and isinstance(at, datetime):
            parts.append(f"{at:%H:%M}")
        return (", " if ", %H" in shape else " ").join(parts)


def local_day(at: date, shape: str, locale: str) -> str:
    """A day by its shape in English, without a time, as a place writes it."""
    weekday = "%A" if "%A" in shape else "%a" if "%a" in shape else ""
    has_day, has_year, is_long = bool(re.search("%-?d", shape)), "%Y" in shape, "%B" in shape
    said = ""
    if "%b" in shape or is_long:
        skeleton = ("y" if has_year else "") + ("MMMM" if is_long else "MMM") + ("d" if has_day else "")
        whole = is_long and has_year and has_day
        said = format_date(at, "long", locale) if whole else format_skeleton(skeleton, at, locale=locale)
    if not weekday:
        return said
    name = get_day_names("wide" if weekday == "%A" else "abbreviated", "stand-alone", locale)[at.weekday()]
    return f"{name}, {said}" if said else name
