"""The sheets papers are printed on."""

from typing import Literal

from reportlab.lib.pagesizes import A4, LETTER

PaperSize = Literal["A4", "Letter"]
SHEETS: dict[str, tuple[float, float]] = {"A4": A4, "Letter": LETTER}
"""Width and height [points]: ISO 216 A4, ANSI/ASME Y14.1 Letter."""
