"""The day sheet: what came, what was judged, sold and claimed on a day, and what is promised next."""

from collections.abc import Sequence
from datetime import date, datetime
from typing import NamedTuple

from reportlab.platypus import CondPageBreak, Flowable, Spacer

from ..core.words import Text, dated, say
from .family import GREY, Head, draw, head_of, heading, room, table_of, words

ROOM_FOR_A_PART = 90
"""A part begins on the next sheet where less is left: heading, titles and a row [points]."""


class DaySheet(NamedTuple):
    """A day in rows of text, each part with its own; `till` are the sums of the day."""

    shop: Head
    day: date
    printed_at: datetime
    who: str
    came: Sequence[tuple[Text, Text, Text, Text]]
    sold: Sequence[tuple[Text, Text, Text, Text]]
    back: Sequence[tuple[Text, Text, Text, Text]]
    claims: Sequence[tuple[Text, Text, Text, Text]]
    till: Sequence[tuple[Text, Text]]
    promised: Sequence[tuple[Text, Text, Text]]


def day_sheet(sheet: DaySheet) -> bytes:
    """The sheet as a PDF."""
    wide = room(sheet.shop)
    printed = say("day_sheet.printed_by", printed_at=dated(sheet.printed_at, "%d %b %Y, %H:%M"), who=sheet.who)
    parts: tuple[tuple[Text, Flowable], ...] = (
        (
            say('day_sheet.came_in', count=len(sheet.came)),
            table_of((say('day_sheet.tag'), say('common.what'), say('day_sheet.says'), say('day_sheet.judged')), sheet.came, (0.1, 0.34, 0.26, 0.3), wide),
        ),
        (say('day_sheet.sold', count=len(sheet.sold)), table_of((say('day_sheet.tag'), say('day_sheet.item'), say('day_sheet.serial'), say('day_sheet.price')), sheet.sold, (0.1, 0.44, 0.26, 0.2), wide)),
        *([(say('day_sheet.taken_back', count=len(sheet.back)), table_of((say('day_sheet.tag'), say('day_sheet.item'), say('day_sheet.how_and_why'), say('day_sheet.given_back')), sheet.back, (0.1, 0.34, 0.36, 0.2), wide))] if sheet.back else []),
        (say('day_sheet.claims', count=len(sheet.claims)), table_of((say('day_sheet.tag'), say('day_sheet.what_was_given'), say('day_sheet.handed_over'), say('common.credit')), sheet.claims, (0.1, 0.44, 0.26, 0.2), wide)),
        (say('day_sheet.for_the_till'), table_of(("", ""), sheet.till, (0.5, 0.25), wide)),
        (say('day_sheet.promised_and_not_ready_yet'), table_of((say('day_sheet.tag'), say('day_sheet.for'), say('common.what')), sheet.promised, (0.1, 0.3, 0.6), wide)),
    )  # fmt: skip
    story: list[Flowable] = [*head_of(sheet.shop, dated(sheet.day, "%A %d %B %Y"), printed, wide)]
    for title, part in parts:
        story += [CondPageBreak(ROOM_FOR_A_PART), heading(title), part, Spacer(1, 9)]
    return draw(
        sheet.shop,
        say("day_sheet.day_sheet", day=dated(sheet.day, "%d %b %Y")),
        [*story, words(say("day_sheet.the_day_goes_by_the_shops_own_clock"), 8.5, GREY)],
    )
