"""The day sheet: what came, what was judged, sold and claimed on a day, and what is promised next."""

from collections.abc import Sequence
from datetime import date, datetime
from typing import NamedTuple

from reportlab.platypus import Flowable, Spacer

from .family import GREY, Head, draw, head_of, heading, room, table_of, words


class DaySheet(NamedTuple):
    """A day in rows of text, each part with its own; `till` are the sums of the day."""

    shop: Head
    day: date
    printed_at: datetime
    who: str
    came: Sequence[tuple[str, str, str, str]]
    sold: Sequence[tuple[str, str, str, str]]
    claims: Sequence[tuple[str, str, str]]
    till: Sequence[tuple[str, str]]
    promised: Sequence[tuple[str, str, str]]


def day_sheet(sheet: DaySheet) -> bytes:
    """The sheet as a PDF."""
    wide = room(sheet.shop)
    printed = f"printed {sheet.printed_at:%d %b %Y, %H:%M} by {sheet.who}"
    parts: tuple[tuple[str, Flowable], ...] = (
        (
            f"Came in: {len(sheet.came)}",
            table_of(("Tag", "What", "Says", "Judged"), sheet.came, (0.1, 0.34, 0.26, 0.3), wide),
        ),
        (f"Sold: {len(sheet.sold)}", table_of(("Tag", "Item", "Serial", "Price"), sheet.sold, (0.1, 0.44, 0.26, 0.2), wide)),
        (f"Claims: {len(sheet.claims)}", table_of(("Tag", "What was given", "Credit"), sheet.claims, (0.1, 0.64, 0.26), wide)),
        ("For the till", table_of(("", ""), sheet.till, (0.5, 0.25), wide)),
        ("Promised and not ready yet", table_of(("Tag", "For", "What"), sheet.promised, (0.1, 0.3, 0.6), wide)),
    )  # fmt: skip
    story: list[Flowable] = [*head_of(sheet.shop, f"{sheet.day:%A %d %B %Y}", printed, wide)]
    for title, part in parts:
        story += [heading(title), part, Spacer(1, 9)]
    return draw(
        sheet.shop, f"Day sheet {sheet.day}", [*story, words("The day goes by the shop's own clock.", 8.5, GREY)]
    )
