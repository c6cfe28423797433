"""The shelf tag of an item: name, size, figures and price, for a roll of 62 mm labels."""

from io import BytesIO
from typing import NamedTuple

from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from ..core.words import Text, Words, say
from .language import translate
from .rack_tag import fitted
from .scripts import BOLD, REGULAR, fonts

SIZE = (62 * mm, 29 * mm)
MARGIN = 2.5 * mm


class ShelfTag(NamedTuple):
    """What stands on it."""

    shop: str
    line: str
    size: str
    figures: Words
    price: Text
    deposit: Text


def shelf_tag(tag: ShelfTag) -> bytes:
    """The tag as a PDF of its own size."""
    fonts()
    out = BytesIO()
    canvas = Canvas(out, pagesize=SIZE)
    canvas.setTitle(translate(say("shelf_tag.shelf_tag", line=tag.line, size=tag.size)))
    canvas.setAuthor(tag.shop)
    wide, high = SIZE[0] - 2 * MARGIN, SIZE[1]
    fitted(canvas, tag.line, MARGIN, high - 6.5 * mm, wide * 0.68, BOLD, 13)
    fitted(canvas, tag.size, SIZE[0] - MARGIN - wide * 0.28, high - 6.5 * mm, wide * 0.28, BOLD, 13)
    fitted(canvas, tag.figures, MARGIN, high - 11.5 * mm, wide, REGULAR, 8.5)
    fitted(canvas, tag.price, MARGIN, MARGIN + 4.5 * mm, wide, BOLD, 24)
    fitted(canvas, tag.deposit, MARGIN, MARGIN, wide, REGULAR, 7)
    canvas.showPage()
    canvas.save()
    return out.getvalue()
