"""The rack tag: a large number, what to set, when it is due, and a code that opens the battery on any phone at the rack."""

from datetime import datetime
from io import BytesIO
from typing import Literal, NamedTuple

import segno
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from ..core.words import NOTHING, Text, Words, dated, in_a_row, say
from .language import translate
from .scripts import BOLD, REGULAR, Part, fonts, parts

TagSize = Literal["rack", "label"]
SIZES: dict[TagSize, tuple[float, float]] = {"rack": (148 * mm, 105 * mm), "label": (89 * mm, 36 * mm)}
"""A6 for the rack; the roll of a small label printer."""

MARGIN_SHARE = 0.06
SMALLEST_POINTS = 6.0


class RackTag(NamedTuple):
    """What goes on the tag. `set_words` is the charge plan in a line, None where no charge is due."""

    shop: str
    tag: int
    line: str
    rating: Text
    set_words: Words | None
    forbidden: Words | None
    due_at: datetime | None
    due_words: Words
    address: str
    printed_at: datetime


def draw(tag: RackTag, size: TagSize = "rack") -> bytes:
    """The tag as a one-page PDF of its own size."""
    fonts()
    wide, high = SIZES[size]
    out = BytesIO()
    canvas = Canvas(out, pagesize=(wide, high))
    canvas.setTitle(translate(say("rack_tag.rack_tag", tag=tag.tag)))
    canvas.setAuthor(tag.shop)
    margin = wide * MARGIN_SHARE
    code = high * (0.46 if size == "rack" else 0.72)
    _code(canvas, tag.address, wide - margin - code, high - margin - code, code)
    text_wide = wide - code - 3 * margin
    big = high * (0.36 if size == "rack" else 0.42)
    at = high - margin - big * 0.74
    fitted(canvas, str(tag.tag), margin, at, text_wide, BOLD, big)
    step = high * (0.085 if size == "rack" else 0.125)
    at -= step * 1.1
    fitted(canvas, in_a_row((tag.line, tag.rating), " "), margin, at, text_wide, REGULAR, step * 0.72)
    full = wide - 2 * margin
    below = high - margin - code - step * 1.05
    at = min(at - step * 1.3, below) if size == "rack" else at - step * 1.3
    room = full if size == "rack" else text_wide
    if tag.forbidden:
        fitted(canvas, say("rack_tag.not_on_charge", why=tag.forbidden), margin, at, room, BOLD, step)
    elif tag.set_words:
        fitted(canvas, say("rack_tag.set", set_words=tag.set_words), margin, at, room, BOLD, step)
    at -= step * 1.25
    due = in_a_row((tag.due_words, dated(tag.due_at, "%a %d %b %H:%M") if tag.due_at else NOTHING), " ")
    fitted(canvas, due, margin, at, room, BOLD if tag.due_at else REGULAR, step)
    if size == "rack":
        fitted(canvas, say('rack_tag.frozen_hot_bulged_cracked_or_leaking_not'),
              margin, margin + step * 0.75, full, REGULAR, step * 0.5)  # fmt: skip
        fitted(
            canvas,
            say("figures.shop_printed_at", shop=tag.shop, printed_at=dated(tag.printed_at, "%d %b %Y %H:%M")),
            margin,
            margin,
            full,
            REGULAR,
            step * 0.5,
        )
    canvas.showPage()
    canvas.save()
    return out.getvalue()


def fitted(canvas: Canvas, words: Text, x: float, y: float, room: float, font: str, points: float) -> None:
    """A line in the shop's language, set smaller until it fits; cut where even the smallest is too long. `own` words are not read."""
    said = parts(translate(words), bold=font == BOLD)

    def wide() -> float:
        return sum(canvas.stringWidth(text, family or font, points) for family, text in said)

    while points > SMALLEST_POINTS and wide() > room:
        points *= 0.95
    while wide() > room and sum(len(text) for _, text in said) > 1:
        said = _shorter(said)
    for family, text in said:
        canvas.setFont(family or font, points)
        canvas.drawString(x, y, text)
        if family is None:
            canvas.rect(x, y - points * 0.15, canvas.stringWidth(text, font, points), points * 0.95, stroke=1, fill=0)
        x += canvas.stringWidth(text, family or font, points)


def _shorter(text: list[Part]) -> list[Part]:
    """The same without its last sign, a code as a whole, and with dots for it."""
    *before, last = text
    if last.text == "…":
        *before, last = before
    rest = "" if last.font is None else last.text[:-1].rstrip()
    return [*before, *([last._replace(text=rest)] if rest else []), Part(REGULAR, "…")]


def _code(canvas: Canvas, address: str, x: float, y: float, side: float) -> None:
    """The address as a QR code (ISO/IEC 18004), in vectors, with its quiet zone."""
    rows = list(segno.make(address, error="m", micro=False).matrix_iter(border=2))
    of_one = side / len(rows)
    canvas.setFillGray(0)
    for down, row in enumerate(rows):
        for across, dark in enumerate(row):
            if dark:
                canvas.rect(x + across * of_one, y + side - (down + 1) * of_one, of_one, of_one, stroke=0, fill=1)
