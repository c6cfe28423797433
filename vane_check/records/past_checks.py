"""Past checks, found by whatever is known of them, a page at a time."""

from collections.abc import Sequence
from typing import NamedTuple

from sqlalchemy import ColumnElement, func, select, true
from sqlalchemy.orm import Session, lazyload

from .models import BatteryRow, CheckRow, JudgementRow


class Found(NamedTuple):
    """A page of checks: the rows, how many there are, and whether counting stopped there."""

    rows: Sequence[tuple[CheckRow, BatteryRow, str | None, str | None, Sequence[str]]]
    total: int
    more_than_counted: bool


COUNTED_AT_MOST = 1000
"""Beyond this a list says "more than": nobody reads on that far, and counting all costs more than finding."""
HITS_AT_MOST = 400
"""The same for what a text finds: eight pages on, one types another letter."""


def find_checks(session: Session, page_size: int, page: int, typed: str = "") -> Found:
    """Checks, newest first, whose tag, line, serial, customer, phone, plate or car holds the text.

    Few hits are found by their trigrams and sorted; many are walked from the newest on until the page is full.
    """
    words = typed.strip().lower()
    offset = page * page_size
    if not words:
        count = session.scalar(
            select(func.count()).select_from(select(CheckRow.id).limit(COUNTED_AT_MOST + 1).subquery())
        )
        return _page(session, true(), page_size, offset, count or 0, COUNTED_AT_MOST)
    pattern = f"%{literally(words)}%"
    most = HITS_AT_MOST + 1
    ways: dict[int, set[int]] = {}
    hits = func.find_batteries(pattern, most).table_valued("way", "battery_id")
    for way, battery_id in session.execute(select(hits.c.way, hits.c.battery_id)):
        ways.setdefault(way, set()).add(battery_id)
    total = len(set().union(*ways.values()))
    for way, ids in ways.items():
        if len(ids) >= most:  # these are any of many: the newest of them are asked for
            ways[way] = set(session.scalars(select(func.walk_batteries(pattern, way, offset + page_size))))
    newest = sorted(set().union(*ways.values()), reverse=True)[offset : offset + page_size]
    if not newest:
        return Found([], 0, False)
    return _page(session, CheckRow.battery_id.in_(newest), page_size, 0, total, HITS_AT_MOST)


def _page(session: Session, fits: ColumnElement[bool], size: int, offset: int, count: int, at_most: int) -> Found:
    last = (
        select(JudgementRow.outcome, JudgementRow.next_step, JudgementRow.figures)
        .where(JudgementRow.check_id == CheckRow.id)
        .order_by(JudgementRow.id.desc())
        .limit(1)
        .lateral("last_judgement")
    )
    rows = session.execute(
        select(CheckRow, BatteryRow, last.c.outcome, last.c.next_step, last.c.figures)
        .select_from(CheckRow)
        .join(BatteryRow, BatteryRow.id == CheckRow.battery_id)
        .options(lazyload(BatteryRow.customer), lazyload(BatteryRow.vehicle))
        .outerjoin(last, true())
        .where(fits)
        .order_by(CheckRow.id.desc())
        .limit(size)
        .offset(offset)
    )
    result = [(check, battery, outcome, step, figures or ()) for check, battery, outcome, step, figures in rows]
    return Found(result, min(count, at_most), count > at_most)


def literally(words: str) -> str:
    """The words with the signs that LIKE reads otherwise taken literally."""
    return words.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_")
