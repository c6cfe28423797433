"""The customer's slip: one page with the figures, the judgement in plain words, the next step and the cautions."""

from datetime import datetime
from importlib.resources import files
from io import BytesIO
from typing import NamedTuple
from xml.sax.saxutils import escape

from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Flowable, HRFlowable, KeepInFrame, Paragraph, Spacer, Table, TableStyle

from ..core.battery import Battery
from ..core.judgement import Judgement
from ..core.outcomes import FAILED, Finding, Outcome
from ..core.tables import cautions
from ..core.units import fahrenheit_of

REGULAR, BOLD = "VaneRegular", "VaneBold"
LEAD, COPPER, VERDIGRIS, PLUM, GREY = "#1f2226", "#a94e14", "#0f6b5c", "#6b1f47", "#575d63"
MARGIN = 18 * mm
ENLARGED = 1.16
"""A slip is read across a counter: everything a little larger than the sizes written below."""


class Slip(NamedTuple):
    """What goes on the paper."""

    shop: str
    tag: int
    battery: Battery
    customer: str
    car: str
    judgement: Judgement
    judged_at: datetime
    printed_at: datetime
    who: str
    temperature_unit: str
    warranty: str | None


def draw(slip: Slip) -> bytes:
    """The slip as a one-page A4 PDF; what would run over is set smaller."""
    fonts()
    paper = BytesIO()
    canvas = Canvas(paper, pagesize=A4)
    canvas.setTitle(f"Battery slip, tag {slip.tag}")
    canvas.setAuthor(slip.shop)
    width, height = A4[0] - 2 * MARGIN, A4[1] - 2 * MARGIN
    story = [*_head(slip, width), *_verdict(slip), *_figures(slip, width), *_next(slip), *_cautions(), *_foot(slip)]
    box = KeepInFrame(width, height, story, mode="shrink", vAlign="TOP")
    _, used = box.wrapOn(canvas, width, height)
    box.drawOn(canvas, MARGIN, A4[1] - MARGIN - used)
    canvas.showPage()
    canvas.save()
    return paper.getvalue()


def fonts() -> None:
    """Read the slip's own fonts, once."""
    if REGULAR not in pdfmetrics.getRegisteredFontNames():
        for name, file in ((REGULAR, "Regular"), (BOLD, "Bold")):
            body = files(__package__).joinpath(f"fonts/AtkinsonHyperlegibleNext-{file}.ttf").read_bytes()
            pdfmetrics.registerFont(TTFont(name, BytesIO(body)))
        pdfmetrics.registerFontFamily(REGULAR, normal=REGULAR, bold=BOLD, italic=REGULAR, boldItalic=BOLD)


def _text(words: str, size: float = 10.5, colour: str = LEAD, bold: bool = False, space: float = 3) -> Paragraph:
    """A paragraph of literal words; only `<b>` made here is markup."""
    style = ParagraphStyle(
        "text",
        fontName=BOLD if bold else REGULAR,
        fontSize=size * ENLARGED,
        leading=size * ENLARGED * 1.3,
        textColor=HexColor(colour),
        spaceAfter=space,
    )
    return Paragraph(words, style)


def _head(slip: Slip, width: float) -> list[Flowable]:
    label = slip.battery
    rated = f"{label.rating.amps:.0f} {label.rating.scale.value}" if label.rating else "no rating on it"
    what = [label.line or "Battery without a line", f"{label.nominal_volts} V {label.chemistry.value.upper()}", rated]
    if label.group_code:
        what.append(f"group {label.group_code}")
    for_whom = ", ".join(part for part in (slip.customer, slip.car) if part)
    left = [
        _text(escape(slip.shop), 16, bold=True),
        _text(escape(" · ".join(what)), 11),
        _text(escape(for_whom), 10, GREY),
    ]
    right = [
        _text(f"Tag {slip.tag}", 20, bold=True),
        _text(f"{slip.judged_at:%d %b %Y, %H:%M}", 10, GREY),
    ]
    head = Table([[left, right]], colWidths=[width - 110, 110])
    head.setStyle(TableStyle([("VALIGN", (0, 0), (-1, -1), "TOP"), ("LEFTPADDING", (0, 0), (-1, -1), 0)]))
    return [head, HRFlowable(width="100%", thickness=1.4, color=HexColor(LEAD), spaceBefore=4, spaceAfter=10)]


def _verdict(slip: Slip) -> list[Flowable]:
    judged = slip.judgement
    colour = (
        PLUM
        if judged.outcome in FAILED | {Outcome.UNSAFE}
        else VERDIGRIS
        if judged.outcome is Outcome.SOUND
        else COPPER
    )
    lines = [
        _text(escape(judged.headline), 19, colour, bold=True, space=5),
        _text(escape(judged.outcome.plain), 12),
        _text(f"How sure we are: {escape(judged.sureness)}.", 10, GREY),
    ]
    charge = judged.state_of_charge
    if charge is not None:
        share = (
            f"at most {charge.high_pct:.0f} %" if charge.at_most else f"{charge.low_pct:.0f} to {charge.high_pct:.0f} %"
        )
        by = charge.rules_by
        if charge.rest_volts is not None and charge.meter_uncertainty_volts is not None:
            by += f" ({charge.rest_volts:.2f} V; the meter may be off by {charge.meter_uncertainty_volts:.2f} V)"
        lines.append(_text(f"Charge: <b>{share}</b>, by {escape(by)}.", 10.5))
    if judged.watch_until:
        lines.append(_text(f"Test again on <b>{judged.watch_until:%d %b %Y}</b>."))
    if judged.look_at_the_car_why:
        lines.append(_text(f"<b>Look at the car:</b> {escape(judged.look_at_the_car_why)}."))
    return [*lines, Spacer(1, 8)]


def _figures(slip: Slip, width: float) -> list[Flowable]:
    rows = [[_text(words, 9, GREY) for words in ("What was read", "Held against", "What it says", "By")]]
    rows += [_figure_row(found) for found in slip.judgement.findings]
    if len(rows) == 1:
        return [_text("Nothing was read from it yet.", 10.5, GREY)]
    table = Table(rows, colWidths=[width * share for share in (0.19, 0.22, 0.34, 0.25)])
    table.setStyle(
        TableStyle(
            [
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
                ("LINEBELOW", (0, 0), (-1, -1), 0.4, HexColor("#c9c2b3")),
                ("LEFTPADDING", (0, 0), (-1, -1), 0),
            ]
        )
    )
    return [table, Spacer(1, 10)]


def _figure_row(found: Finding) -> list[Paragraph]:
    says = found.text if found.status != "dropped" else f"Does not count: {found.why_not}"
    return [
        _text(escape(found.reading_text), 10, bold=True),
        _text(escape(found.limit_text), 9),
        _text(escape(says), 9),
        _text(escape(f"{found.source} ({found.standing})"), 8, GREY),
    ]


def _next(slip: Slip) -> list[Flowable]:
    step = slip.judgement.next_step
    lines = [_text("Next", 12, COPPER, bold=True), _text(escape(step.text) + ".", 11.5)]
    if step.load is not None:
        unit = slip.temperature_unit
        shown = fahrenheit_of(step.load.temperature_c) if unit == "F" else step.load.temperature_c
        lines.append(_text(f"The limit holds at {shown:.0f} °{unit}.", 9.5, GREY))
    if slip.warranty:
        lines.append(_text(f"<b>Warranty:</b> {escape(slip.warranty)}"))
    return [*lines, Spacer(1, 8)]


def _cautions() -> list[Flowable]:
    lines = [_text(f"• {escape(caution.text)}", 9.5) for caution in cautions() if caution.where == "slip"]
    return [_text("Take care", 12, COPPER, bold=True), *lines, Spacer(1, 8)]


def _foot(slip: Slip) -> list[Flowable]:
    judged = slip.judgement
    return [
        HRFlowable(width="100%", thickness=0.6, color=HexColor("#c9c2b3"), spaceAfter=4),
        _text(
            f"Judged under house rules {escape(judged.rules_version)}, {escape(judged.rules_name)}. Tested by {escape(slip.who)}. "
            f"Printed {slip.printed_at:%d %b %Y, %H:%M}.",
            8.5, GREY,
        ),
    ]  # fmt: skip
