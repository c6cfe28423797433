"""The claim pack: everything a maker asks of a claim, as it was when the claim was written."""

from collections.abc import Sequence
from datetime import date, datetime
from typing import NamedTuple

from reportlab.platypus import Flowable, Spacer

from .family import GREY, Head, draw, head_of, heading, room, table_of, words


class ClaimPack(NamedTuple):
    """What goes into it. Readings are when, who, what was read; reasons what was asked and found."""

    shop: Head
    tag: int
    written_at: datetime
    who: str
    battery: Sequence[tuple[str, str]]
    decision: str
    terms: Sequence[str]
    reasons: Sequence[tuple[str, str, bool]]
    judgement: str
    findings: Sequence[tuple[str, str, str]]
    readings: Sequence[tuple[datetime, str, str]]
    sum: Sequence[tuple[str, str]]
    rules: str
    sold_on: date | None


def claim_pack(pack: ClaimPack) -> bytes:
    """The pack as a PDF, with room for two signatures."""
    wide = room(pack.shop)
    when = f"{pack.written_at:%d %b %Y, %H:%M}, {pack.who}"
    story: list[Flowable] = [
        *head_of(pack.shop, f"Warranty claim, tag {pack.tag}", when, wide),
        table_of(("The battery", ""), pack.battery, (0.28, 0.72), wide),
        Spacer(1, 8),
        heading("What the warranty gives"),
        words(pack.decision, 12, bold=True),
        *(words(line, 9.5, GREY) for line in pack.terms),
        table_of(
            ("Asked", "Found", ""),
            [(asks, found, "holds" if holds else "stands in the way") for asks, found, holds in pack.reasons],
            (0.3, 0.5, 0.2), wide,
        ),
        Spacer(1, 8),
        heading("Why it failed"),
        words(pack.judgement, 11, bold=True),
        table_of(("What was read", "Held against", "What it says"), pack.findings, (0.26, 0.28, 0.46), wide),
        Spacer(1, 8),
        heading("Every reading, as it was kept"),
        table_of(
            ("When", "By", "What"), [(f"{at:%d %b %Y %H:%M}", who, what) for at, who, what in pack.readings],
            (0.22, 0.2, 0.58), wide,
        ),
    ]  # fmt: skip
    if pack.sum:
        story += [Spacer(1, 8), heading("What was paid"), table_of(("", ""), pack.sum, (0.5, 0.25), wide)]
    story += [
        Spacer(1, 22),
        table_of(("For the shop", "The customer"), [("", "")], (0.5, 0.5), wide),
        Spacer(1, 6),
        words(f"Judged under house rules {pack.rules}.", 8.5, GREY),
    ]
    return draw(pack.shop, f"Warranty claim, tag {pack.tag}", story)
