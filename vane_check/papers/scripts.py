"""Names in other scripts on paper: the shop's own letters where they have the sign, the first wider family that has it where
they have not. All of them ship. What none has stands as its code in a box, never blank, and the paper says so once.
"""

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from functools import cache
from html import escape
from importlib.resources import files
from io import BytesIO
from typing import Any, NamedTuple

import arabic_reshaper
from bidi.algorithm import get_display
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont

REGULAR, BOLD = "VaneRegular", "VaneBold"
WIDE, WIDE_BOLD = "VaneWide", "VaneWideBold"
_FILES = {
    REGULAR: "AtkinsonHyperlegibleNext-Regular",
    BOLD: "AtkinsonHyperlegibleNext-Bold",
    WIDE: "DejaVuSans",
    WIDE_BOLD: "DejaVuSans-Bold",
}
_SCRIPTS = (
    "Thai", "Devanagari", "Bengali", "Tamil", "Telugu", "Gujarati", "Gurmukhi", "Kannada", "Malayalam", "Sinhala", "Oriya",
    "Ethiopic", "Khmer", "Lao", "Myanmar",
)  # fmt: skip
_WIDER = {
    "Vane Han": "DroidSansFallbackFull",
    "Vane Hangul": "NanumSquareR",
    "Vane Pictures": "Symbola",
    **{f"Vane {script}": f"NotoSans{script}-Regular" for script in _SCRIPTS},
}
"""Families that are read when a sign first asks for one."""
RIGHT_TO_LEFT = ((0x0590, 0x08FF), (0xFB1D, 0xFDFF), (0xFE70, 0xFEFF))
BOX = "#e4dfd3"
_LOST: ContextVar[set[str] | None] = ContextVar("signs in no letters", default=None)


def fonts() -> None:
    """Read the paper's own fonts, once."""
    if REGULAR in pdfmetrics.getRegisteredFontNames():
        return
    for name, file in _FILES.items():
        pdfmetrics.registerFont(TTFont(name, BytesIO(_body(file))))
    for name, bold in ((REGULAR, BOLD), (WIDE, WIDE_BOLD)):
        pdfmetrics.registerFontFamily(name, normal=name, bold=bold, italic=name, boldItalic=bold)
    for file in _WIDER.values():
        _body(file)  # a server that gave up root reads no file any more


@cache
def _body(file: str) -> bytes:
    return files(__package__).joinpath(f"fonts/{file}.ttf").read_bytes()


@cache
def _signs(font: str) -> frozenset[int]:
    fonts()
    if font in _WIDER:
        pdfmetrics.registerFont(TTFont(font, BytesIO(_body(_WIDER[font]))))
        pdfmetrics.registerFontFamily(font, normal=font, bold=font, italic=font, boldItalic=font)
    face: Any = pdfmetrics.getFont(font)
    return frozenset(face.face.charToGlyph)


def _family(sign: str, bold: bool) -> str | None:
    """The first family that has a sign."""
    families = (BOLD, WIDE_BOLD, *_WIDER) if bold else (REGULAR, WIDE, *_WIDER)
    return next((name for name in families if ord(sign) in _signs(name)), None)


def in_order(text: str) -> str:
    """The text as its signs stand on paper from left to right: Arabic joined, right-to-left runs turned."""
    if not any(low <= ord(sign) <= high for sign in text for low, high in RIGHT_TO_LEFT):
        return text
    return str(get_display(arabic_reshaper.reshape(text)))


class Part(NamedTuple):
    """Signs of one family; of none where they are the code of a sign that no family has."""

    font: str | None
    text: str


def parts(text: str, bold: bool = False) -> list[Part]:
    """A text as it goes onto paper: its signs in order, in the families that have them."""
    own = BOLD if bold else REGULAR
    result: list[Part] = []
    for sign in in_order(text):
        if _is_joiner(sign):
            continue
        family = own if sign.isspace() else _family(sign, bold)
        if family is None:
            if (lost := _LOST.get()) is not None:
                lost.add(sign)
            result.append(Part(None, f"{ord(sign):04X}"))
        elif result and result[-1].font == family:
            result[-1] = Part(family, result[-1].text + sign)
        else:
            result.append(Part(family, sign))
    return result


def _is_joiner(sign: str) -> bool:
    """Signs that have no shape of their own: they join others, choose their form, or give them a skin."""
    return sign in "\u200b\u200c\u200d\u200e\u200f\u2060\ufeff" or "\ufe00" <= sign <= "\ufe0f"


@contextmanager
def lost_signs() -> Iterator[set[str]]:
    """What of a paper is in no letters, gathered while it is written."""
    lost: set[str] = set()
    before = _LOST.set(lost)
    try:
        yield lost
    finally:
        _LOST.reset(before)


def lost_of_this_paper() -> int:
    """How many signs of the paper that is written are in no letters so far."""
    return len(_LOST.get() or ())


def markup(text: str, bold: bool = False) -> str:
    """A literal text as paragraph markup, in the families that have its signs.

    >>> markup("A & B")
    'A &amp; B'
    """
    return "".join(_run(part, bold) for part in parts(text, bold))


def _run(part: Part, bold: bool) -> str:
    words = escape(part.text, quote=False)
    if part.font is None:
        return f'<font name="{WIDE}" backColor="{BOX}">\u2009{words}\u2009</font>'
    return words if part.font == (BOLD if bold else REGULAR) else f'<font name="{part.font}">{words}</font>'
