"""The claim pack: everything a maker asks of a claim, as it was when the claim was written."""

from collections.abc import Sequence
from datetime import date, datetime
from typing import NamedTuple

from reportlab.platypus import Flowable, Spacer

from ..core.words import Text, Words, dated, say
from .family import GREY, Head, draw, head_of, heading, room, table_of, words


class ClaimPack(NamedTuple):
    """What goes into it. Readings are when, who, what was read; reasons what was asked and found."""

    shop: Head
    tag: int
    written_at: datetime
    who: str
    battery: Sequence[tuple[Text, Text]]
    decision: Words
    terms: Sequence[Text]
    reasons: Sequence[tuple[Text, Text, bool]]
    judgement: Words
    findings: Sequence[tuple[Text, Text, Text]]
    readings: Sequence[tuple[datetime, Text, Text]]
    sum: Sequence[tuple[Text, Text]]
    rules: Text
    sold_on: date | None
    own_call: Text = ""


def claim_pack(pack: ClaimPack) -> bytes:
    """The pack as a PDF, with room for two signatures."""
    wide = room(pack.shop)
    when = say("figures.written_at_who", written_at=dated(pack.written_at, "%d %b %Y, %H:%M"), who=pack.who)
    story: list[Flowable] = [
        *head_of(pack.shop, say('claim_pack.warranty_claim_tag', tag=pack.tag), when, wide),
        table_of((say('claim_pack.the_battery'), ""), pack.battery, (0.28, 0.72), wide),
        Spacer(1, 8),
        heading(say('claim_pack.what_the_warranty_gives')),
        words(pack.decision, 12, bold=True),
        *(words(line, 9.5, GREY) for line in pack.terms),
        table_of(
            (say('common.asked'), say('claim_pack.found'), ""),
            [(asks, found, say("claim_pack.holds") if holds else say('claim_pack.stands_in_the_way')) for asks, found, holds in pack.reasons],
            (0.3, 0.5, 0.2), wide,
        ),
        Spacer(1, 8),
        heading(say('claim_pack.why_it_failed')),
        words(pack.judgement, 11, bold=True),
        *([words(pack.own_call, 10.5)] if pack.own_call else []),
        table_of((say('common.what_was_read'), say('common.held_against'), say('common.what_it_says')), pack.findings, (0.26, 0.28, 0.46), wide),
        Spacer(1, 8),
        heading(say('claim_pack.every_reading_as_it_was_kept')),
        table_of(
            (say('claim_pack.when'), say("common.by"), say('common.what')), [(dated(at, "%d %b %Y %H:%M"), who, what) for at, who, what in pack.readings],
            (0.22, 0.2, 0.58), wide,
        ),
    ]  # fmt: skip
    if pack.sum:
        story += [
            Spacer(1, 8),
            heading(say("claim_pack.what_was_paid")),
            table_of(("", ""), pack.sum, (0.5, 0.25), wide),
        ]
    story += [
        Spacer(1, 22),
        table_of((say("claim_pack.for_the_shop"), say("claim_pack.the_customer")), [("", "")], (0.5, 0.5), wide),
        Spacer(1, 6),
        words(say("claim_pack.judged_under_house_rules", rules=pack.rules), 8.5, GREY),
    ]
    return draw(pack.shop, say("claim_pack.warranty_claim_tag", tag=pack.tag), story)
