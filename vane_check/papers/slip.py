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
from ..core.findings.outcomes import FAILED, Outcome
from ..core.judging.judgement import Judgement
from ..core.readings import METHODS
from ..core.tables import cautions
from ..core.words import NOTHING, Text, Words, dated, fixed, in_a_row, say
from .family import logo, lost_note
from .language import translate
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


class Slip(NamedTuple):
    """What goes on the paper: what it is, why in a sentence, what its owner does, until when. Nothing of the shop's own steps."""

    shop: str
    tag: int
    battery: Battery
    customer: str
    car: str
    judgement: Judgement
    judged_at: datetime
    printed_at: datetime
    who: str
    warranty: Words | None
    serial: str = ""
    sold_on: date | None = None
    claim: "Claimed | None" = None
    head: str = ""
    """What stands under the shop's name, in lines."""
    foot: str = ""
    logo: bytes | None = None
    paper_size: PaperSize = "A4"
    ready_at: datetime | None = None
    own_call: Text = ""
    """What whoever judged says otherwise, where the house shows it."""


class Claimed(NamedTuple):
    """The claim as it was written: when, what was given, and the sum that was paid, line by line."""

    written_on: date
    decision: Words
    sum: tuple[tuple[Text, Text], ...]


def draw(slip: Slip) -> bytes:
    """The slip as a PDF of one sheet; what would run over is set smaller."""
    fonts()
    paper = BytesIO()
    sheet = SHEETS[slip.paper_size]
    canvas = Canvas(paper, pagesize=sheet)
    canvas.setTitle(translate(say("slip.battery_slip_tag", tag=slip.tag)))
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
        *_to_do(slip),
        *_measured(slip),
        *_claim(slip, width),
        *_cautions(slip),
        *_foot(slip),
        *lost_note(),
    ]


def _text(
    words: Text,
    size: float = 10.5,
    colour: str = LEAD,
    bold: bool = False,
    space: float = 3,
    lead: Text = "",
    point: str = "",
) -> Paragraph:
    """A paragraph of literal words in the shop's language, behind a few in bold; what somebody typed stands as it is."""
    line = escape(translate(words), bold)
    style = ParagraphStyle(
        "text",
        fontName=BOLD if bold else REGULAR,
        fontSize=size * ENLARGED,
        leading=size * ENLARGED * 1.3,
        textColor=HexColor(colour),
        spaceAfter=space,
        leftIndent=POINT_ROOM if point else 0,
    )
    line = f"<b>{escape(translate(lead), bold=True)}:</b> {line}" if lead else line
    return Paragraph(line, style, bulletText=point or None)


def _head(slip: Slip, width: float) -> list[Flowable]:
    label = slip.battery
    rated = (
        say("figures.amps_scale", amps=fixed(label.rating.amps, 0), scale=label.rating.scale.value)
        if label.rating
        else say("slip.no_rating_on_it")
    )
    what: list[Words] = [say("papers.volts_and_type", volts=label.nominal_volts, type=label.chemistry.words), rated]
    if label.group_code:
        what.append(say("slip.group", group_code=label.group_code))
    line: Text = label.line or say("slip.battery_without_a_line")
    for_whom = ", ".join(part for part in (slip.customer, slip.car) if part)
    more = [say("slip.serial", serial=label.serial)] if label.serial else []
    if slip.sold_on:
        more.append(say("slip.sold", sold_on=dated(slip.sold_on, "%d %b %Y")))
    left: list[Flowable] = [
        *logo(slip.logo),
        _text(slip.shop, 16, bold=True, space=1 if slip.head else 3),
        *(_text(line, 8.5, GREY, space=0) for line in slip.head.splitlines()),
        *([Spacer(1, 5)] if slip.head else []),
        _text(in_a_row((line, *what), " · "), 11),
        _text(in_a_row(more, ", "), 10, GREY),
        _text(for_whom, 10, GREY),
    ]
    right = [
        _text(say("common.tag", tag=slip.tag), 20, bold=True),
        _text(dated(slip.judged_at, "%d %b %Y, %H:%M"), 10, GREY),
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
        _text(judged.headline if holding else judged.outcome.headline, 24, colour, bold=True, space=5),
        _text(_plain(slip), 13),
    ]
    if slip.own_call:
        lines.append(_text(slip.own_call, 11, bold=True))
    lines += [_text(line + ".", 11) for line in _outlook(slip)]
    return [*lines, Spacer(1, 8)]


def _to_do(slip: Slip) -> list[Flowable]:
    """What its owner does, and until when; what the shop does by itself stands on no slip."""
    judged = slip.judgement
    holding = any(job.holds for job in judged.jobs)
    key = "sound_after" if judged.outcome is Outcome.SOUND and holding else judged.outcome.value
    lines = [_text(say(f"slip.do.{key}"), 12.5, bold=True)]
    if judged.watch_until:
        lines.append(_text(dated(judged.watch_until, "%d %b %Y"), 12.5, lead=say("slip.test_again")))
    if slip.ready_at:
        lines.append(_text(dated(slip.ready_at, "%a %d %b, %H:%M"), 12.5, lead=say("slip.ready_at")))
    theirs = [job for job in judged.jobs if job.whose != "house"]
    for job in theirs:
        lines.append(_text(job.text + ".", 11, lead=in_a_row((WHOSE[job.whose], WHEN[job.when]), ", ")))
    if judged.look_at_the_car_why and not theirs:
        lines.append(_text(judged.look_at_the_car_why + ".", 11, lead=say("slip.look_at_the_car")))
    if slip.warranty:
        lines.append(_text(slip.warranty, 11, lead=say("slip.warranty")))
    return [_text(say("slip.what_to_do"), 12, COPPER, bold=True), *lines, Spacer(1, 8)]


WHOSE = {"owner": say("slip.yours"), "garage": say("slip.a_garages")}
"""Whose a job is, in the paper's words."""
WHEN = {
    "before testing": say("slip.before_testing"), "before charging": say("slip.before_charging"), "before hand-back": say("slip.before_hand_back"),
}  # fmt: skip
"""By when a job is done."""


def _plain(slip: Slip) -> Words:
    """The outcome in plain words; never in good order while a job holds it."""
    judged = slip.judgement
    if judged.outcome is Outcome.SOUND and any(job.holds for job in judged.jobs):
        return say("slip.this_battery_is_healthy_and_charged_enough")
    return judged.outcome.plain


def _outlook(slip: Slip) -> list[Words]:
    """Age, the cold to come, and what it died of, as far as they are known."""
    judged = slip.judgement
    lines = [judged.not_measured] if judged.not_measured else []
    lines += [judged.age.words] if judged.age else []
    if judged.prospect and judged.outcome not in FAILED:  # what a condemned one might still start stands on no paper
        lines.append(judged.prospect.words)
    if judged.cause:
        lines.append(
            say(
                "slip.likely_cause_what_helps_the_next_one",
                cause=judged.cause.words,
                change=judged.cause.change or NOTHING,
            )
        )
    return lines


_READ = frozenset(method.kind for method in METHODS)
"""Kinds that somebody read; what follows from several readings stands on no slip."""


def _measured(slip: Slip) -> list[Flowable]:
    """What was measured, in a line or two: the figures that count."""
    judged = slip.judgement
    figures: list[Text] = [
        finding.reading_text for finding in judged.findings if finding.status != "dropped" and finding.kind in _READ
    ]
    charge = judged.state_of_charge
    if charge is not None:
        share = (
            say("slip.at_most", high_pct=fixed(charge.high_pct, 0))
            if charge.at_most
            else share_words(charge.low_pct, charge.high_pct)
        )
        figures.append(say("slip.charged", share=share))
    if not figures:
        return [_text(say("slip.nothing_was_read_from_it_yet"), 10.5, GREY), Spacer(1, 8)]
    return [_text(in_a_row(dict.fromkeys(figures), " · "), 10.5, GREY, lead=say("slip.measured")), Spacer(1, 8)]


def _claim(slip: Slip, width: float) -> list[Flowable]:
    """The claim and what was paid, as a sum one can add up."""
    if slip.claim is None:
        return []
    rows = [
        [_text(part, 10), _text(amount, 10, bold=isinstance(part, Words) and part.key == "slip.to_pay")]
        for part, amount in slip.claim.sum
    ]
    style = [("LEFTPADDING", (0, 0), (-1, -1), 0), ("TOPPADDING", (0, 0), (-1, -1), 1)]
    table = Table(rows, colWidths=(width * 0.34, width * 0.18), hAlign="LEFT", style=style) if rows else Spacer(1, 1)
    return [
        _text(
            slip.claim.decision + ".",
            lead=say("slip.claim_written", written_on=dated(slip.claim.written_on, "%d %b %Y")),
        ),
        table,
        Spacer(1, 8),
    ]


def _cautions(slip: Slip) -> list[Flowable]:
    unsafe = slip.judgement.outcome is Outcome.UNSAFE
    wanted = {"slip", "slip_unsafe"} if unsafe else {"slip"}
    lines = [_text(caution.text, 9.5, point="•") for caution in cautions() if caution.where in wanted]
    return [_text(say("slip.take_care"), 12, COPPER, bold=True), *lines, Spacer(1, 8)]


def _foot(slip: Slip) -> list[Flowable]:
    judged = slip.judgement
    return [
        HRFlowable(width="100%", thickness=0.6, color=HexColor("#c9c2b3"), spaceAfter=4),
        _text(
            say('slip.judged_under_house_rules_tested_by_printed', rules_version=judged.rules_version, rules_name=judged.rules_name, who=slip.who, printed_at=dated(slip.printed_at, '%d %b %Y, %H:%M')),
            8.5, GREY,
        ),
        *(_text(line, 8.5, space=0) for line in slip.foot.splitlines()),
    ]  # fmt: skip
