"""Names in other scripts on paper: the shop's own letters where they have the sign, a wider family where they have not.

Latin, Greek, Cyrillic, Hebrew and Arabic ship; for other signs a font installed on this machine is looked for; what none has is
said, never printed blank.
"""

from functools import cache
from html import escape
from importlib.resources import files
from io import BytesIO
from pathlib import Path
from typing import Any

import arabic_reshaper
from bidi.algorithm import get_display
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFError, TTFont

REGULAR, BOLD = "VaneRegular", "VaneBold"
WIDE, WIDE_BOLD = "VaneWide", "VaneWideBold"
_FILES = {
    REGULAR: "AtkinsonHyperlegibleNext-Regular",
    BOLD: "AtkinsonHyperlegibleNext-Bold",
    WIDE: "DejaVuSans",
    WIDE_BOLD: "DejaVuSans-Bold",
}
RIGHT_TO_LEFT = ((0x0590, 0x08FF), (0xFB1D, 0xFDFF), (0xFE70, 0xFEFF))
MISSING = "▯"
"""Stands for a sign that no shipped family has; the paper says so beside it."""


def fonts() -> None:
    """Read the paper's own fonts, once."""
    if REGULAR in pdfmetrics.getRegisteredFontNames():
        return
    for name, file in _FILES.items():
        body = files(__package__).joinpath(f"fonts/{file}.ttf").read_bytes()
        pdfmetrics.registerFont(TTFont(name, BytesIO(body)))
    for name, bold in ((REGULAR, BOLD), (WIDE, WIDE_BOLD)):
        pdfmetrics.registerFontFamily(name, normal=name, bold=bold, italic=name, boldItalic=bold)


@cache
def _signs(font: str) -> frozenset[int]:
    fonts()
    face: Any = pdfmetrics.getFont(font)
    return frozenset(face.face.charToGlyph)


INSTALLED = (Path("/usr/share/fonts"), Path("/usr/local/share/fonts"), Path.home() / ".fonts", Path("C:/Windows/Fonts"))
"""Where a machine keeps its fonts."""


@cache
def installed_font(sign: str, folders: tuple[Path, ...] = INSTALLED) -> str | None:
    """The name of an installed family that has a sign, read on the way; None when there is none."""
    for folder in folders:
        for file in sorted(folder.rglob("*.tt[fc]")):
            name = f"Installed {file.stem}"
            try:
                if name not in pdfmetrics.getRegisteredFontNames():
                    pdfmetrics.registerFont(TTFont(name, str(file)))
            except (TTFError, OSError, ValueError):
                continue  # a collection or an outline that cannot go into a PDF
            if ord(sign) in _signs(name):
                return name
    return None


def in_order(text: str) -> str:
    """The text as its signs stand on paper from left to right: Arabic joined, right-to-left runs turned."""
    if not any(low <= ord(sign) <= high for sign in text for low, high in RIGHT_TO_LEFT):
        return text
    return str(get_display(arabic_reshaper.reshape(text)))


def missing(text: str) -> str:
    """The signs of a text that no shipped family has."""
    known = _signs(REGULAR) | _signs(WIDE)
    other = dict.fromkeys(sign for sign in in_order(text) if ord(sign) not in known and not sign.isspace())
    return "".join(sign for sign in other if installed_font(sign) is None)


def written(text: str, bold: bool = False) -> str:
    """A literal text as paragraph markup, in the family that has its signs.

    >>> written("A & B")
    'A &amp; B'
    """
    own, wide = _signs(BOLD if bold else REGULAR), _signs(WIDE_BOLD if bold else WIDE)
    runs: list[tuple[str | None, str]] = []
    for sign in in_order(text):
        family: str | None = None
        if ord(sign) not in own and not sign.isspace():
            family = WIDE_BOLD if bold else WIDE
            if ord(sign) not in wide and (family := installed_font(sign)) is None:
                family, sign = WIDE, MISSING
        if runs and runs[-1][0] == family:
            runs[-1] = (family, runs[-1][1] + sign)
        else:
            runs.append((family, sign))
    return "".join(_run(run, family) for family, run in runs)


def _run(text: str, family: str | None) -> str:
    words = escape(text, quote=False)
    return f'<font name="{family}">{words}</font>' if family else words
