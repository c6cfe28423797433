"""What is said, as a fact: the key of a message with its figures by name. The sentence itself is a language's: `languages/*.po`.

The core makes no sentence. `str()` of words is English, for whoever reads the core alone; screens, papers and lists say them from
the key in their own language.
"""

import json
import re
from collections.abc import Callable, Iterable, Mapping
from datetime import date, datetime
from functools import cache, lru_cache
from pathlib import Path
from typing import Any

from pydantic import GetCoreSchemaHandler, GetJsonSchemaHandler
from pydantic_core import CoreSchema, core_schema

ENGLISH = Path(__file__).with_name("english.json")
"""Made of `languages/en.po` by `bin/client`."""
HOLE = re.compile(r"\{(\w+)\}")
CAPITAL = "capital"
AS_WRITTEN = "as_written"
"""The message of what was kept as a sentence by an older release: its figure `text`, in every language."""


class Figure:
    """A number with the places it is said with: `12.60`, whose places are its resolution. It is written out where it is read;
    a language writes its own sign for the point.
    """

    __slots__ = ("shape", "value")

    def __init__(self, value: float | str, shape: str = "") -> None:
        """A number and how it is formatted (`.2f`, `g`), or one that was written out before, with no shape."""
        self.value, self.shape = value, shape

    def __str__(self) -> str:
        """As it is written in English."""
        return format(self.value, self.shape)

    def __format__(self, how: str) -> str:
        """The same within a text."""
        return format(str(self), how)

    def __repr__(self) -> str:
        """As it is written in English."""
        return repr(str(self))

    def __reduce__(self) -> tuple[Any, ...]:
        """As it is kept and copied."""
        return Figure, (self.value, self.shape)

    def __eq__(self, other: object) -> bool:
        """The same number to the same places."""
        return isinstance(other, Figure | str) and str(self) == str(other)

    def __hash__(self) -> int:
        """By how it is written."""
        return hash(str(self))


class Day(str):
    """A day or a moment as it is written in English, `Mon 30 Nov 08:15`; a language writes its own by the same `shape`."""

    __slots__ = ("at", "shape")
    at: date
    shape: str

    def __new__(cls, at: date, shape: str) -> "Day":
        """A day, or a moment of the shop's own clock, by its shape in English."""
        new = super().__new__(cls, f"{at:{shape}}")
        new.at, new.shape = at, shape
        return new

    def __reduce__(self) -> tuple[Any, ...]:
        """As it is kept and copied."""
        return Day, (self.at, self.shape)


class Several:
    """Parts that stand in a row, with what is put between them: punctuation, or the key of a message such as *and*."""

    __slots__ = ("parts", "seam")

    def __init__(self, parts: Iterable["Argument"], seam: str) -> None:
        self.parts, self.seam = tuple(parts), seam

    def __reduce__(self) -> tuple[Any, ...]:
        """As it is kept and copied."""
        return Several, (self.parts, self.seam)

    def __str__(self) -> str:
        """In English."""
        return _english().get(self.seam, (self.seam, None))[0].join(map(str, self.parts))

    def __eq__(self, other: object) -> bool:
        """The same parts with the same between them."""
        return isinstance(other, Several) and (self.parts, self.seam) == (other.parts, other.seam)

    def __hash__(self) -> int:
        """By its parts."""
        return hash((self.parts, self.seam))


class Words:
    """A message by its key, with its figures by name. What somebody typed is a figure that is plain text: nobody looks it up."""

    __slots__ = ("figures", "key")

    def __init__(self, key: str, figures: Mapping[str, "Argument"]) -> None:
        self.key, self.figures = key, figures

    def __str__(self) -> str:
        """In English, for whoever reads the core alone."""
        if self.key == NOTHING.key:
            return ""
        if self.key == CAPITAL:
            text = str(self.figures["text"])
            return text[:1].upper() + text[1:]
        many, one = _english()[self.key]
        return (many if one is None or self.figures["count"] != 1 else one) % self.figures

    def __reduce__(self) -> tuple[Any, ...]:
        """As it is kept and copied."""
        return Words, (self.key, dict(self.figures))

    def __repr__(self) -> str:
        """By its key."""
        return f"Words({self.key!r}, {dict(self.figures)!r})"

    def __format__(self, how: str) -> str:
        """Raises TypeError: words within a text are a figure of a message."""
        raise TypeError(f"{self.key} stands in a text: say it as a figure of a message")

    def __bool__(self) -> bool:
        """Whether anything is said."""
        return self.key != "nothing"

    def __eq__(self, other: object) -> bool:
        """The same message with the same figures."""
        return isinstance(other, Words) and self.key == other.key and self.figures == other.figures

    def __hash__(self) -> int:
        """By key and figures."""
        return hash((self.key, tuple(self.figures.items())))

    def __add__(self, other: "Text") -> "Words":
        """What is said after it: the two stand in a row."""
        return (
            in_a_row((self, other))
            if other and self
            else self or (other if isinstance(other, Words) else as_written(other))
        )

    def __radd__(self, other: str) -> "Words":
        """What is said before it."""
        return in_a_row((other, self)) if other else self

    @classmethod
    def __get_pydantic_core_schema__(cls, source: type, handler: GetCoreSchemaHandler) -> CoreSchema:
        """Read from its fact or from a sentence as it was kept once; written as a fact."""
        return core_schema.union_schema(
            [core_schema.is_instance_schema(cls), core_schema.no_info_plain_validator_function(words_of)],
            mode="left_to_right", serialization=core_schema.plain_serializer_function_ser_schema(fact_of), ref=f"{__name__}.Words:0",
        )  # fmt: skip

    @classmethod
    def __get_pydantic_json_schema__(cls, schema: CoreSchema, handler: GetJsonSchemaHandler) -> dict[str, Any]:
        """The fact on the wire."""
        return {
            "type": "object",
            "title": "Words",
            "description": "A message by its key, with its figures by name; the language of who reads it says it.",
            "required": ["key", "with"],
            "properties": {"key": {"type": "string"}, "with": {"type": "object"}},
        }


Text = str | Words
"""Words, or what somebody typed."""
Argument = str | int | float | Figure | Words | Several


def say(key: str, /, **figures: Argument) -> Words:
    """A message with its figures. A key, or a figure, that the catalogue has not fails the test run (tests/core/test_words.py)."""
    return Words(key, figures)


NOTHING = Words("nothing", {})
"""Where nothing is said."""


def say_from(key: str, figures: Callable[[], Mapping[str, Argument]]) -> Words:
    """A message of a family, with those of its figures that it has a place for; they are asked for only where it has any."""
    holes = holes_of(key)
    if not holes:
        return say(key)
    values = figures()
    return say(key, **{name: values[name] for name in holes})


def has(key: str) -> bool:
    """Whether there is a message of that key."""
    return key in _english()


@cache
def holes_of(key: str) -> tuple[str, ...]:
    """The names of a message's figures."""
    return tuple(dict.fromkeys(re.findall(r"%\((\w+)\)s", _english()[key][0])))


@cache
def _english() -> dict[str, tuple[str, str | None]]:
    """Every message in English as a format, and as it is for one where it has a plural."""
    messages: dict[str, str | list[str]] = json.loads(ENGLISH.read_text("utf-8"))
    return {
        key: (_format(message), None) if isinstance(message, str) else (_format(message[1]), _format(message[0]))
        for key, message in messages.items()
    }


def _format(message: str) -> str:
    return HOLE.sub(r"%(\1)s", message.replace("%", "%%"))


@cache
def word(name: str) -> Words:
    """A word of a closed set by its name: a type, a use, a sign, a tool."""
    return say(f"word.{name}")


def in_a_row(parts: Iterable[Argument], seam: str = "") -> Words:
    """Several as one: whole sentences, or a sentence and what is added to it. `seam` stands between them; empty parts fall out."""
    there = [part for part in parts if not (isinstance(part, str | Words) and not part)]
    return say("in_a_row", parts=Several(there, seam)) if there else NOTHING


def capital(text: Argument) -> Words:
    """The same at the beginning of a line: its first letter large, as the language writes it."""
    return say(CAPITAL, text=text)


def listed(family: str, text: str) -> Words:
    """A text of the package's tables by its place in a family of messages, such as a source or a unit; as written elsewhere."""
    key = _by_text().get((family, text))
    return say(key) if key else as_written(text) if text else NOTHING


@cache
def _by_text() -> dict[tuple[str, str], str]:
    families = ("source.", "unit.", "school.")
    return {
        (key.partition(".")[0], many.replace("%%", "%")): key
        for key, (many, _) in _english().items()
        if key.startswith(families)
    }


HOUSE_CHOICE = "house choice: "
SOURCES_AT_HAND = 1024
"""Sources kept in words: a house writes its own, without an end."""


@lru_cache(maxsize=SOURCES_AT_HAND)
def cited(text: str) -> Words:
    """Where a value is from: a source of the package, or what the house wrote when it chose another."""
    if text.startswith(HOUSE_CHOICE) and ("source", text) not in _by_text():
        return say("rules.house_choice", reason=text.removeprefix(HOUSE_CHOICE))
    return listed("source", text)


OWN_VALUES = ", own values"


def rules_in_words(name: str) -> Words:
    """The name of a version of house rules: its school, and whether values were changed."""
    if name.endswith(OWN_VALUES):
        return say("rules.own_values", base_name=listed("school", name.removesuffix(OWN_VALUES)))
    return listed("school", name)


def for_record(words: Words) -> str:
    """Words as one text of a record, to be read by `from_record`."""
    return json.dumps(fact_of(words), ensure_ascii=False)


def from_record(text: str) -> Words:
    """Words that were kept as one text; a sentence of an older release is as it was written."""
    try:
        return words_of(json.loads(text) if text.startswith('{"key"') else text)
    except ValueError:
        return as_written(text)


def as_written(text: str) -> Words:
    """A sentence that was kept by an older release, or that somebody typed where a message stands: as it is, in every language."""
    return say(AS_WRITTEN, text=text)


PLACES = tuple(f".{places}f" for places in range(7))


def fixed(value: float, places: int) -> Figure:
    """A number with so many places."""
    return Figure(value, PLACES[places])


def digits(value: float) -> Figure:
    """A number with no more places than it has."""
    return Figure(value, "g")


def dated(at: date, shape: str) -> Day:
    """A day or a moment, by its shape in English."""
    return Day(at, shape)


def fact_of(words: Words) -> Any:
    """What goes over the line and into a record: key and figures."""
    return {"key": words.key, "with": {name: _argument(value) for name, value in words.figures.items()}}


def _argument(value: Argument) -> Any:
    if isinstance(value, Words):
        return fact_of(value)
    if isinstance(value, Figure):
        return {"n": str(value)}
    if isinstance(value, Day):
        return {"day": f"{value.at:%Y-%m-%dT%H:%M}", "shape": value.shape}
    if isinstance(value, Several):
        return {"all": [_argument(part) for part in value.parts], "seam": value.seam}
    return value


def words_of(value: Any) -> Words:
    """Words read from a fact, from other words, or from a sentence of an older release. Raises ValueError for anything else."""
    if isinstance(value, Words):
        return value
    if isinstance(value, str):
        return as_written(value) if value else NOTHING
    if not isinstance(value, dict) or not isinstance(value.get("key"), str) or not isinstance(value.get("with"), dict):
        raise ValueError("Words are a key with figures, or a sentence")
    if value["key"] == NOTHING.key:
        return NOTHING
    if value["key"] not in _english() or not value["with"].keys() >= set(holes_of(value["key"])):
        return as_written(value["key"])  # of a release that said it otherwise: it never stops whoever reads it
    return say(value["key"], **{name: _figure_of(argument) for name, argument in value["with"].items()})


def _figure_of(value: Any) -> Argument:
    if not isinstance(value, dict):
        return value  # type: ignore[no-any-return]
    if "n" in value:
        return Figure(value["n"], "")
    if "day" in value:
        return Day(datetime.fromisoformat(value["day"]), value["shape"])
    if "all" in value:
        return Several([_figure_of(part) for part in value["all"]], value["seam"])
    return words_of(value)
