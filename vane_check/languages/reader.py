"""A sentence that was written in English, read back by its pattern in the catalogue and said in another language.

What was kept years ago is read so too: evidence stays as it was written. `front/src/language/reader.ts` does the same for
screens; both are held against one list of examples (`examples.json`).
"""

import re
from collections.abc import Iterable, Iterator
from datetime import date
from threading import Lock
from typing import NamedTuple

from babel.dates import format_date, format_skeleton, get_day_names
from babel.numbers import get_decimal_symbol

HOLE = re.compile(r"\{(\w+)\}")
LAST = re.compile(r"\{(\w+)\}$")
FULL_STOP = re.compile(r"\.$|\. [A-ZÄÖÜ]")
LETTERS_AT_LEAST = 2
FIGURE = re.compile(r"(?!20\d\d\.)[-\u2212±+]?\d+\.\d+")
INSIDE = re.compile(r"(?<![\d.])(?!20\d\d\.)\d+\.\d+(?![\d.])")
"""Figures; the edition of house rules, such as 2026.1, is none."""
MONTHS = ("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec")
_MONTH = r"(?P<month>(?:Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sep|Oct|Nov|Dec)[a-z]*)"
_WEEKDAY = r"(?:(?P<weekday>(?:Mon|Tue|Wed|Thu|Fri|Sat|Sun)[a-z]*),? )?"
DAY = re.compile(rf"{_WEEKDAY}(?P<day>\d{{1,2}}) {_MONTH}(?: (?P<year>\d{{4}}))?(?P<time>,? \d{{2}}:\d{{2}})?")
MONTH = re.compile(rf"{_MONTH} (?P<year>\d{{4}})")
SHORT = 4
"""A month or a weekday written with no more letters is cut short."""
LEAP_YEAR = 2024
"""Stands where no year is said."""
WEEKDAYS = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
SEAMS = ("  ", ". ", "; ", ": ", ", ", " · ", " (", " and ")
"""Where a sentence may be parted, the strongest first."""
DEEPEST = 8
UNKNOWN_AT_MOST = 0.6
"""Of a sentence: half of one in another language helps nobody."""
SURE_SHARE = 0.35
"""Of a sentence that a pattern says itself, from which it goes before parting the sentence."""
LOOKS_AT_MOST = 600
"""Parts looked at in one sentence: the longest of the product takes 315, a page somebody typed would take any number."""
KEPT_AT_MOST = 20_000
LETTER = re.compile(r"[^\W\d_]")


class _Pattern(NamedTuple):
    shape: re.Pattern[str]
    said: str
    weight: int
    last: str | None
    """The hole it ends with: what fills it may stand elsewhere in the language, so no full stop goes along."""


class _Said(NamedTuple):
    """A sentence in the language, and what of it no pattern knows."""

    text: str
    gaps: tuple[str, ...]

    @property
    def missed(self) -> int:
        return sum(map(len, self.gaps))


class Reader:
    """Reads sentences in one language. Of several ways to read one it takes the way that leaves least unknown."""

    def __init__(self, messages: dict[str, str], locale: str) -> None:
        self._locale = locale.replace("-", "_")
        self._decimal = get_decimal_symbol(self._locale)
        self._exact = {message: said for message, said in messages.items() if not HOLE.search(message)}
        self._by_word: dict[str, list[_Pattern]] = {}
        self._known: dict[str, _Said] = {}
        self._one_at_a_time = Lock()
        self._left = LOOKS_AT_MOST
        for message, said in messages.items():
            self._learn(message, said)
        for every in self._by_word.values():
            every.sort(key=lambda one: -one.weight)

    def read(self, text: str) -> str:
        """The sentence in the language; what no pattern knows stays as it is, and so does all of it where that is most of it."""
        found = self._whole(text)
        return found.text if found.missed <= len(text) * UNKNOWN_AT_MOST else text

    def gaps(self, text: str) -> tuple[str, ...]:
        """What of a sentence no pattern knows: names of people and goods, and what is not translated yet."""
        return self._whole(text).gaps

    def figure(self, text: str) -> str:
        """A figure or a day as the place writes it."""
        if FIGURE.fullmatch(text):
            return text.replace(".", self._decimal)
        found = DAY.fullmatch(text) or MONTH.fullmatch(text)
        if found is None:
            return text
        told = found.groupdict()
        at = date(
            int(told["year"] or LEAP_YEAR), MONTHS.index(told["month"][:3].lower()) + 1, int(told.get("day") or 1)
        )
        is_long = len(told["month"]) > SHORT
        skeleton = ("y" if told["year"] else "") + ("MMMM" if is_long else "MMM") + ("d" if told.get("day") else "")
        whole = is_long and told["year"] and told.get("day")
        said = format_date(at, "long", self._locale) if whole else format_skeleton(skeleton, at, locale=self._locale)
        if weekday := told.get("weekday"):
            of = WEEKDAYS.index(weekday[:3].lower())
            said = f"{get_day_names('abbreviated' if len(weekday) <= SHORT else 'wide', 'stand-alone', self._locale)[of]}, {said}"
        return said + (told.get("time") or "")

    def _figures(self, text: str) -> str:
        whole = self.figure(text)
        return INSIDE.sub(lambda one: one[0].replace(".", self._decimal), text) if whole == text else whole

    def _learn(self, message: str, said: str) -> None:
        bare = HOLE.sub("", message)
        if not HOLE.search(message) or len(LETTER.findall(bare)) < LETTERS_AT_LEAST:
            return
        seen: set[str] = set()
        shape = ""
        for index, part in enumerate(HOLE.split(message)):
            if index % 2 == 0:
                shape += re.escape(part)
            elif part in seen:
                shape += f"(?P=v{part})"
            else:
                seen.add(part)
                shape += f"(?P<v{part}>.*?)"
        word = _first_word(message)
        self._by_word.setdefault(word, []).append(
            _Pattern(re.compile(shape, re.DOTALL), said, len(bare), last[1] if (last := LAST.search(message)) else None)
        )

    def _whole(self, text: str) -> _Said:
        known = self._known.get(text)
        if known is not None:
            return known
        with self._one_at_a_time:
            self._left = LOOKS_AT_MOST
            return self._found(text, 0)

    def _found(self, text: str, depth: int) -> _Said:
        known = self._known.get(text)
        if known is not None:
            return known
        if self._left <= 0:
            return _Said(text, (text,))
        self._left -= 1
        if len(self._known) > KEPT_AT_MOST:
            self._known.clear()
        found = self._look(text, depth)
        if self._left > 0:
            self._known[text] = found
        elif depth == 0:  # given up half way: it is no sentence of the product
            found = self._known[text] = _Said(text, (text,))
        return found

    def _look(self, text: str, depth: int) -> _Said:
        if text in self._exact:
            return _Said(self._exact[text], ())
        if self.figure(text) != text or not is_said(text):
            return _Said(self._figures(text), ())
        best = _Said(text, (text,))
        if depth > DEEPEST:
            return best
        for way in self._ways(text, depth):
            if way.missed < best.missed:
                best = way
            if not best.missed:
                break
        return best

    def _ways(self, text: str, depth: int) -> Iterator[_Said]:
        """Every way to read it, the likeliest first."""
        turned = self._turned(text)
        if turned is not None:
            yield _Said(turned, ())
        patterns = (*self._by_word.get(_first_word(text), ()), *self._by_word.get("", ()))
        sure = len(text) * SURE_SHARE
        yield from self._filled((one for one in patterns if one.weight >= sure), text, depth)
        if text[:1].isupper() and text[1:2].islower():  # a part of a sentence that stands at its beginning
            small = self._found(text[0].lower() + text[1:], depth + 1)
            yield _Said(small.text[:1].upper() + small.text[1:], small.gaps)
        yield from self._parted(text, depth)
        yield from self._filled((one for one in patterns if one.weight < sure), text, depth)

    def _filled(self, patterns: Iterable[_Pattern], text: str, depth: int) -> Iterator[_Said]:
        for pattern in patterns:
            values = pattern.shape.fullmatch(text)
            if values and not (pattern.last and FULL_STOP.search(values[f"v{pattern.last}"])):
                holes = {name[1:]: self._found(value, depth + 1) for name, value in values.groupdict().items()}
                said = HOLE.sub(lambda hole, holes=holes: holes[hole[1]].text, pattern.said)  # type: ignore[misc]
                yield _Said(said, tuple(gap for one in holes.values() for gap in one.gaps))

    def _turned(self, text: str) -> str | None:
        """With another first letter: a word of a list stands at the beginning of a sentence, or inside one."""
        first = text[:1]
        for other in (first.lower(), first.upper()):
            said = self._exact.get(other + text[1:]) if other != first else None
            if said is not None:
                return said[:1].upper() + said[1:] if first.isupper() else said
        return None

    def _parted(self, text: str, depth: int) -> Iterator[_Said]:
        for seam in SEAMS:
            at = text.find(seam)
            while at > 0:
                one = self._found(text[:at], depth + 1)
                if (
                    len(one.gaps) < 1 or one.gaps[0] != text[:at]
                ):  # where the beginning is wholly unknown nothing is won
                    with_seam = self._found(text[at:], depth + 1)  # a part that was put behind brings its seam along
                    yield _Said(one.text + with_seam.text, one.gaps + with_seam.gaps)
                other = self._found(text[at + len(seam) :], depth + 1)
                yield _Said(one.text + self._exact.get(seam, seam) + other.text, one.gaps + other.gaps)
                at = text.find(seam, at + 1)
        end = re.fullmatch(r"(.*[^.)])([.)]+)", text, re.DOTALL)
        if end:
            whole = self._found(end[1], depth + 1)
            yield _Said(whole.text + end[2], whole.gaps)


UNITS = frozenset({"mm", "cm", "min", "kg", "ms"})
SMALL = re.compile(r"[A-ZÄÖÜ]?[a-zäöüß]{2,}")


def is_said(text: str) -> bool:
    """Whether there is a word in it: more than figures, units and names of scales."""
    return any(word not in UNITS for word in SMALL.findall(text))


def _first_word(text: str) -> str:
    """The word a pattern begins with, where it begins with a whole one."""
    found = re.match(r"[^\s{]+(?=\s)", text)
    return found[0] if found else ""
