"""A day of a shop: what came, was sold and claimed between two moments, and what is promised; one query each."""

from collections.abc import Sequence
from datetime import datetime
from typing import Any, NamedTuple

from sqlalchemy import select, true
from sqlalchemy.orm import Session

from ..core.words import Words, words_of
from .models import BatteryRow, CatalogueItem, CheckRow, Claim, JudgementRow, Promise, Sale

ROWS_AT_MOST = 1000


class Came(NamedTuple):
    """A battery that was written in, and what was last thought of that visit."""

    tag: int
    line: str
    rated_amps: float | None
    rated_scale: str | None
    complaint: str
    headline: Words | None


def came_between(session: Session, begins: datetime, ends: datetime) -> Sequence[Came]:
    """Visits that began then, in order; without those taken back and those that are only a sale's new life."""
    last = (
        select(JudgementRow.body["headline"].label("headline"))
        .where(JudgementRow.check_id == CheckRow.id)
        .order_by(JudgementRow.id.desc())
        .limit(1)
        .lateral("last_judgement")
    )
    rows = session.execute(
        select(
            BatteryRow.tag, BatteryRow.line, BatteryRow.rated_amps, BatteryRow.rated_scale, CheckRow.complaint, last.c.headline
        )
        .select_from(CheckRow)
        .join(BatteryRow, BatteryRow.id == CheckRow.battery_id)
        .outerjoin(last, true())
        .outerjoin(Sale, Sale.battery_id == BatteryRow.id)
        .where(CheckRow.opened_at >= begins, CheckRow.opened_at < ends, CheckRow.undone_at.is_(None), Sale.id.is_(None))
        .order_by(CheckRow.id)
        .limit(ROWS_AT_MOST)
    )  # fmt: skip
    return [
        Came(tag, line, amps, scale, complaint, None if headline is None else words_of(headline))
        for tag, line, amps, scale, complaint, headline in rows
    ]


class Sold(NamedTuple):
    """A sale with the battery it became."""

    tag: int
    name: str
    serial: str
    price_cents: int
    core_deposit_cents: int
    body: dict[str, Any]


def sold_between(session: Session, begins: datetime, ends: datetime) -> Sequence[Sold]:
    """Sales made then, in order."""
    rows = session.execute(
        select(
            BatteryRow.tag, CatalogueItem.name, BatteryRow.serial, Sale.price_cents, Sale.core_deposit_cents, Sale.body
        )
        .select_from(Sale)
        .join(BatteryRow, BatteryRow.id == Sale.battery_id)
        .join(CatalogueItem, CatalogueItem.id == Sale.item_id)
        .where(Sale.sold_at >= begins, Sale.sold_at < ends)
        .order_by(Sale.id)
        .limit(ROWS_AT_MOST)
    )
    return [Sold(*row) for row in _tuples(rows)]


def claimed_between(session: Session, begins: datetime, ends: datetime) -> Sequence[tuple[int, Words, int]]:
    """Claims written then: tag, what was given, credit in cents."""
    rows = session.execute(
        select(BatteryRow.tag, Claim.body["answer"]["headline"], Claim.credit_cents)
        .select_from(Claim)
        .join(BatteryRow, BatteryRow.id == Claim.battery_id)
        .where(Claim.written_at >= begins, Claim.written_at < ends)
        .order_by(Claim.id)
        .limit(ROWS_AT_MOST)
    )
    return [(tag, words_of(headline), cents) for tag, headline, cents in rows]


def promised(session: Session) -> Sequence[tuple[int, str, datetime]]:
    """Batteries in the house that were promised and are not ready: tag, line, for when; the soonest first."""
    check = (
        select(CheckRow.id)
        .where(CheckRow.battery_id == BatteryRow.id)
        .order_by(CheckRow.id.desc())
        .limit(1)
        .lateral("last_check")
    )
    newest = (
        select(Promise.promised_at)
        .where(Promise.check_id == check.c.id)
        .order_by(Promise.id.desc())
        .limit(1)
        .lateral("newest_promise")
    )
    rows = session.execute(
        select(BatteryRow.tag, BatteryRow.line, newest.c.promised_at)
        .select_from(BatteryRow)
        .join(check, true())
        .join(newest, true())
        .where(BatteryRow.place.not_in(("gone", "ready")), newest.c.promised_at.is_not(None))
        .order_by(newest.c.promised_at)
        .limit(ROWS_AT_MOST)
    )
    return [(tag, line, at) for tag, line, at in rows if at is not None]


def _tuples(rows: Any) -> list[tuple[Any, ...]]:
    return [tuple(row) for row in rows]
