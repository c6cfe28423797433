"""The customer's slip: one page with the figures, the judgement in plain words, the next step and the cautions."""

from datetime import date, datetime
from io import BytesIO
from typing import NamedTuple

from reportlab.lib.colors import HexColor
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Flowable, HRFlowable, KeepInFrame, Paragraph, Spacer, Table, TableStyle
from reportlab.platypus.doctemplate import LayoutError

from ..core.battery.label import Battery
from ..core.facts.state_of_charge import share_words
from ..core.findings.outcomes import FAILED, Finding, Outcome
from ..core.judging.judgement import Judgement
from ..core.tables import cautions
from ..core.units.conversions import fahrenheit_of
from .family import logo, lost_note
from .language import say
from .scripts import BOLD, REGULAR, fonts
from .scripts import markup as escape
from .sizes import SHEETS, PaperSize

LEAD, COPPER, VERDIGRIS, PLUM, GREY = "#1f2226", "#a94e14", "#0f6b5c", "#6b1f47", "#575d63"
MARGIN = 18 * mm
POINT_ROOM = 9
"""What a point stands in before its line."""
ENLARGED = 1.16
"""A slip is read across a counter: everything a little larger than the sizes written below."""


SCALES = tuple(step / 100 for step in range(100, 38, -4))
"""How small a slip is set before it is squeezed: it is one sheet, as wide as its text, however much was read."""


STANDINGS = {"published": "published", "practice": "practice", "memory": "from our own memory"}
"""Where a value comes from, in the paper's words."""


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
    serial: str = ""
    sold_on: date | None = None
    claim: "Claimed | None" = None
    head: str = ""
    """What stands under the shop's name, in lines."""
    foot: str = ""
    logo: bytes | None = None
    paper_size: PaperSize = "A4"


class Claimed(NamedTuple):
    """The claim as it was written: when, what was given, and the sum that was paid, line by line."""

    written_on: date
    decision: str
    sum: tuple[tuple[str, str], ...]


def draw(slip: Slip) -> bytes:
    """The slip as a PDF of one sheet; what would run over is set smaller."""
    fonts()
    paper = BytesIO()
    sheet = SHEETS[slip.paper_size]
    canvas = Canvas(paper, pagesize=sheet)
    canvas.setTitle(say(f"Battery slip, tag {slip.tag}"))
    canvas.setAuthor(slip.shop)
    width, height = sheet[0] - 2 * MARGIN, sheet[1] - 2 * MARGIN
    for scale in SCALES:
        room = (width / scale, height / scale)
        box = KeepInFrame(*room, _story(slip, room[0]), mode="shrink" if scale == SCALES[-1] else "error")
        try:
            _, used = box.wrapOn(canvas, *room)
        except LayoutError:
            continue
        break
    canvas.scale(scale, scale)
    box.drawOn(canvas, MARGIN / scale, (sheet[1] - MARGIN) / scale - used)
    canvas.showPage()
    canvas.save()
    return paper.getvalue()


def _story(slip: Slip, width: float) -> list[Flowable]:
    """All that stands on the sheet, from the top."""
    return [
        *_head(slip, width),
        *_verdict(slip),
        *_figures(slip, width),
        *_next(slip),
        *_claim(slip, width),
        *_cautions(slip),
        *_foot(slip),
        *lost_note(),
    ]


def _text(
    words: str,
    size: float = 10.5,
    colour: str = LEAD,
    bold: bool = False,
    space: float = 3,
    own: bool = False,
    lead: str = "",
    point: str = "",
) -> Paragraph:
    """A paragraph of literal words in the shop's language, behind a few in bold; `own` words stand as somebody typed them."""
    line = escape(words if own else say(words), bold)
    style = ParagraphStyle(
        "text",
        fontName=BOLD if bold else REGULAR,
        fontSize=size * ENLARGED,
        leading=size * ENLARGED * 1.3,
        textColor=HexColor(colour),
        spaceAfter=space,
        leftIndent=POINT_ROOM if point else 0,
    )
    line = f"<b>{escape(say(lead), bold=True)}:</b> {line}" if lead else line
    return Paragraph(line, style, bulletText=point or None)


def _head(slip: Slip, width: float) -> list[Flowable]:
    label = slip.battery
    rated = f"{label.rating.amps:.0f} {label.rating.scale.value}" if label.rating else "no rating on it"
    what = [f"{label.nominal_volts} V {label.chemistry.value.upper()}", rated]
    if label.group_code:
        what.append(f"group {label.group_code}")
    line = label.line or say("Battery without a line")
    for_whom = ", ".join(part for part in (slip.customer, slip.car) if part)
    more = [f"serial {label.serial}"] if label.serial else []
    if slip.sold_on:
        more.append(f"sold {slip.sold_on:%d %b %Y}")
    left: list[Flowable] = [
        *logo(slip.logo),
        _text(slip.shop, 16, bold=True, space=1 if slip.head else 3, own=True),
        *(_text(line, 8.5, GREY, space=0, own=True) for line in slip.head.splitlines()),
        *([Spacer(1, 5)] if slip.head else []),
        _text(" · ".join((line, *map(say, what))), 11, own=True),
        _text(", ".join(more), 10, GREY),
        _text(for_whom, 10, GREY, own=True),
    ]
    right = [
        _text(f"Tag {slip.tag}", 20, bold=True),
        _text(f"{slip.judged_at:%d %b %Y, %H:%M}", 10, GREY),
    ]
    head = Table([[left, right]], colWidths=(width * 0.7, width * 0.3))
    head.setStyle(TableStyle([("VALIGN", (0, 0), (-1, -1), "TOP"), ("LEFTPADDING", (0, 0), (-1, -1), 0)]))
    return [head, HRFlowable(width="100%", thickness=1.4, color=HexColor(LEAD), spaceBefore=4, spaceAfter=10)]


def _verdict(slip: Slip) -> list[Flowable]:
    judged = slip.judgement
    holding = [job for job in judged.jobs if job.holds]
    colour = (
        PLUM
        if judged.outcome in FAILED | {Outcome.UNSAFE}
        else VERDIGRIS
        if judged.outcome is Outcome.SOUND and not holding
        else COPPER
    )
    lines = [
        _text(judged.headline, 19, colour, bold=True, space=5),
        _text(_plain(slip), 12),
        _text(f"How sure we are: {judged.sureness}.", 10, GREY),
    ]
    charge = judged.state_of_charge
    if charge is not None:
        share = f"at most {charge.high_pct:.0f} %" if charge.at_most else share_words(charge.low_pct, charge.high_pct)
        by = charge.rules_by
        if charge.rest_volts is not None and charge.meter_uncertainty_volts is not None:
            by += f" ({charge.rest_volts:.2f} V; the meter may be off by {charge.meter_uncertainty_volts:.2f} V)"
        lines.append(_text(f"{share}, by {by}.", 10.5, lead="State of charge"))
    if judged.watch_until:
        lines.append(_text(f"Test again on {judged.watch_until:%d %b %Y}.", bold=True))
    if judged.jobs_done:
        lines.append(_text(f"{', '.join(judged.jobs_done)}.", lead="Done"))
    for job in judged.jobs:
        lines.append(_text(f"{job.text}.", lead=f"{WHOSE[job.whose]}, {job.when}"))
    lines += [_text(f"{line}.", 10.5) for line in _outlook(slip)]
    if judged.look_at_the_car_why and not any(job.whose != "house" for job in judged.jobs):
        lines.append(_text(f"{judged.look_at_the_car_why}.", lead="Look at the car"))
    return [*lines, Spacer(1, 8)]


WHOSE = {"house": "Ours", "owner": "Yours", "garage": "A garage's"}
"""Whose a job is, in the paper's words."""


def _plain(slip: Slip) -> str:
    """The outcome in plain words; never in good order while a job holds it."""
    judged = slip.judgement
    if judged.outcome is Outcome.SOUND and any(job.holds for job in judged.jobs):
        return "This battery is healthy and charged enough to use once what stands below is done."
    return judged.outcome.plain


def _outlook(slip: Slip) -> list[str]:
    """Age, the cold to come, and what it died of, as far as they are known."""
    judged = slip.judgement
    lines = [judged.not_measured] if judged.not_measured else []
    lines += [judged.age.words] if judged.age else []
    if judged.prospect and judged.outcome not in FAILED:  # what a condemned one might still start stands on no paper
        lines.append(judged.prospect.words)
    if judged.cause:
        lines.append(f"Likely cause: {judged.cause.words}. What helps the next one: {judged.cause.change}")
    return lines


def _figures(slip: Slip, width: float) -> list[Flowable]:
    rows = [[_text(words, 9, GREY) for words in ("What was read", "Held against", "What it says", "By")]]
    rows += [_figure_row(finding) for finding in slip.judgement.findings]
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


def _figure_row(finding: Finding) -> list[Paragraph]:
    says = finding.text if finding.status != "dropped" else f"Does not count: {finding.why_not}"
    return [
        _text(finding.reading_text, 10, bold=True),
        _text(finding.limit_text, 9),
        _text(says, 9),
        _text(f"{finding.source} ({STANDINGS[finding.standing]})", 8, GREY),
    ]


def _next(slip: Slip) -> list[Flowable]:
    step = slip.judgement.next_step
    lines = [_text("Next", 12, COPPER, bold=True), _text(step.text + ".", 11.5)]
    if step.load is not None:
        unit = slip.temperature_unit
        fahrenheit = fahrenheit_of(step.load.temperature_c) if unit == "F" else step.load.temperature_c
        lines.append(_text(f"The limit holds at {fahrenheit:.0f} °{unit}.", 9.5, GREY))
    if slip.warranty:
        lines.append(_text(slip.warranty, lead="Warranty"))
    return [*lines, Spacer(1, 8)]


def _claim(slip: Slip, width: float) -> list[Flowable]:
    """The claim and what was paid, as a sum one can add up."""
    if slip.claim is None:
        return []
    rows = [[_text(part, 10), _text(amount, 10, bold=part.startswith("To pay"))] for part, amount in slip.claim.sum]
    style = [("LEFTPADDING", (0, 0), (-1, -1), 0), ("TOPPADDING", (0, 0), (-1, -1), 1)]
    table = Table(rows, colWidths=(width * 0.34, width * 0.18), hAlign="LEFT", style=style) if rows else Spacer(1, 1)
    return [
        _text(f"{slip.claim.decision}.", lead=f"Claim written {slip.claim.written_on:%d %b %Y}"),
        table,
        Spacer(1, 8),
    ]


def _cautions(slip: Slip) -> list[Flowable]:
    unsafe = slip.judgement.outcome is Outcome.UNSAFE
    wanted = {"slip", "slip_unsafe"} if unsafe else {"slip"}
    lines = [_text(caution.text, 9.5, point="•") for caution in cautions() if caution.where in wanted]
    return [_text("Take care", 12, COPPER, bold=True), *lines, Spacer(1, 8)]


def _foot(slip: Slip) -> list[Flowable]:
    judged = slip.judgement
    return [
        HRFlowable(width="100%", thickness=0.6, color=HexColor("#c9c2b3"), spaceAfter=4),
        _text(
            f"Judged under house rules {judged.rules_version}, {judged.rules_name}. Tested by {slip.who}. "
            f"Printed {slip.printed_at:%d %b %Y, %H:%M}.",
            8.5, GREY,
        ),
        *(_text(line, 8.5, space=0, own=True) for line in slip.foot.splitlines()),
    ]  # fmt: skip
