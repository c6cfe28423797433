"""What all sheets have in common: the shop's head and foot, headings, tables, page numbers."""

from collections.abc import Sequence
from io import BytesIO
from typing import NamedTuple

from reportlab.lib.colors import HexColor
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import (
    BaseDocTemplate,
    Flowable,
    Frame,
    HRFlowable,
    Image,
    PageTemplate,
    Paragraph,
    Spacer,
    Table,
)

from ..core.words import Text, say
from .language import translate
from .scripts import BOLD, REGULAR, fonts, lost_of_this_paper
from .scripts import markup as escape
from .sizes import SHEETS, PaperSize

LEAD, COPPER, GREY, RULE = "#1f2226", "#a94e14", "#575d63", "#c9c2b3"
MARGIN = 18 * mm
LOGO_MM = (46, 16)
FOOT_ROOM = 12 * mm


class Head(NamedTuple):
    """The shop as it stands on every paper; `head` and `foot` are lines."""

    shop: str
    head: str = ""
    foot: str = ""
    logo: bytes | None = None
    paper_size: PaperSize = "A4"


def words(text: Text, size: float = 10.5, colour: str = LEAD, bold: bool = False, space: float = 3) -> Paragraph:
    """A paragraph of literal words, in the shop's language; what somebody typed stands as it is."""
    text = translate(text)
    style = ParagraphStyle(
        "words", fontName=BOLD if bold else REGULAR, fontSize=size, leading=size * 1.3, textColor=HexColor(colour),
        spaceAfter=space,
    )  # fmt: skip
    return Paragraph(escape(text, bold), style)


def heading(text: Text) -> Paragraph:
    """What stands over a part."""
    return words(text, 12, COPPER, bold=True, space=4)


def logo(picture: bytes | None) -> list[Flowable]:
    """The shop's picture, as large as its room lets it be."""
    if picture is None:
        return []
    result = Image(BytesIO(picture))
    scale = min(LOGO_MM[0] * mm / result.imageWidth, LOGO_MM[1] * mm / result.imageHeight)
    result.drawWidth, result.drawHeight = result.imageWidth * scale, result.imageHeight * scale
    result.hAlign = "LEFT"
    return [result, Spacer(1, 4)]


def head_of(shop: Head, title: Text, under: Text, width: float) -> list[Flowable]:
    """The shop on the left, what the paper is on the right, a rule below."""
    left = [*logo(shop.logo), words(shop.shop, 14, bold=True, space=1)]
    left += [words(line, 8.5, GREY, space=0) for line in shop.head.splitlines()]
    right = [words(title, 16, bold=True), words(under, 9.5, GREY)]
    table = Table([[left, right]], colWidths=[width * 0.56, width * 0.44])
    table.setStyle([("VALIGN", (0, 0), (-1, -1), "TOP"), ("LEFTPADDING", (0, 0), (-1, -1), 0)])
    return [table, HRFlowable(width="100%", thickness=1.4, color=HexColor(LEAD), spaceBefore=4, spaceAfter=8)]


def table_of(titles: Sequence[Text], rows: Sequence[Sequence[Text]], shares: Sequence[float], width: float) -> Flowable:
    """Rows under their titles; a row is never cut, titles come again on every page. Nothing to show is said."""
    if not rows:
        return words(say("papers.none"), 10, GREY)
    cells = [[words(title, 8.5, GREY, space=0) for title in titles]]
    cells += [[words(text, 9.5, space=0) for text in row] for row in rows]
    table = Table(cells, colWidths=[width * share for share in shares], repeatRows=1, hAlign="LEFT")
    table.setStyle(
        [
            ("VALIGN", (0, 0), (-1, -1), "TOP"),
            ("LINEBELOW", (0, 0), (-1, -1), 0.4, HexColor(RULE)),
            ("LEFTPADDING", (0, 0), (-1, -1), 0),
            ("TOPPADDING", (0, 0), (-1, -1), 2),
            ("BOTTOMPADDING", (0, 0), (-1, -1), 3),
        ]
    )
    return table


def lost_note() -> list[Flowable]:
    """Says once that signs of the paper stand as codes, where any do."""
    lost = lost_of_this_paper()
    line = say("family.signs_here_are_in_no_letters_this_shop_has", count=lost)
    return [Spacer(1, 4), words(line, 8.5, GREY)] if lost else []


def room(shop: Head) -> float:
    """How wide a line may be on the shop's sheets [points]."""
    return SHEETS[shop.paper_size][0] - 2 * MARGIN


def draw(shop: Head, title: Text, story: Sequence[Flowable]) -> bytes:
    """The sheets as a PDF, each with the shop's foot and its number."""
    fonts()
    out = BytesIO()
    sheet = SHEETS[shop.paper_size]
    paper = BaseDocTemplate(out, pagesize=sheet, title=translate(title), author=shop.shop)
    frame = Frame(
        MARGIN, MARGIN + FOOT_ROOM, sheet[0] - 2 * MARGIN, sheet[1] - 2 * MARGIN - FOOT_ROOM, 0, 0, 0, 0, id="all"
    )

    def foot(canvas: Canvas, _: object) -> None:
        canvas.saveState()
        canvas.setFillColor(HexColor(GREY))
        canvas.setFont(REGULAR, 8)
        canvas.drawRightString(sheet[0] - MARGIN, MARGIN, str(canvas.getPageNumber()))
        for at, line in enumerate(reversed(shop.foot.splitlines()[:2])):
            said = words(line, 8, GREY, space=0)
            said.wrapOn(canvas, sheet[0] - 2 * MARGIN - FOOT_ROOM, FOOT_ROOM)
            said.drawOn(canvas, MARGIN, MARGIN + at * 10 - 2)
        canvas.restoreState()

    paper.addPageTemplates([PageTemplate(id="all", frames=[frame], onPage=foot)])
    paper.build([*story, *lost_note()])
    return out.getvalue()
