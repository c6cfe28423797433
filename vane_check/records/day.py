"""A day of a shop: what came, was sold and claimed between two moments, and what is promised; one query each."""

from collections.abc import Sequence
from datetime import datetime
from typing import Any, NamedTuple

from sqlalchemy import select, true
from sqlalchemy.orm import Session, aliased

from ..core.words import Words, words_of
from .models import BatteryRow, CatalogueItem, CheckRow, Claim, FittingTick, JudgementRow, Promise, Sale, WayBack

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
    credit_cents: int
    core_deposit_cents: int
    body: dict[str, Any]


class Back(NamedTuple):
    """A sale that was taken back: how and why, with what was given back, and the tax it was sold at."""

    tag: int
    name: str
    what: str
    reason: str
    refund_cents: int
    credit_cents: int
    deposit_back_cents: int
    body: dict[str, Any]


class DepositMoved(NamedTuple):
    """The old battery came for a sale's deposit, or it was found that it had not."""

    is_back: bool
    cents: int
    body: dict[str, Any]


def sold_between(session: Session, begins: datetime, ends: datetime) -> Sequence[Sold]:
    """Sales made then, in order."""
    rows = session.execute(
        select(
            BatteryRow.tag,
            CatalogueItem.name,
            BatteryRow.serial,
            Sale.price_cents,
            Sale.credit_cents,
            Sale.core_deposit_cents,
            Sale.body,
        )
        .select_from(Sale)
        .join(BatteryRow, BatteryRow.id == Sale.battery_id)
        .join(CatalogueItem, CatalogueItem.id == Sale.item_id)
        .where(Sale.sold_at >= begins, Sale.sold_at < ends)
        .order_by(Sale.id)
    )
    return [Sold(*row) for row in _tuples(rows)]


def taken_back_between(session: Session, begins: datetime, ends: datetime) -> Sequence[Back]:
    """Sales taken back then, in order, whenever they were made."""
    rows = session.execute(
        select(BatteryRow.tag, CatalogueItem.name, WayBack.what, WayBack.reason, WayBack.refund_cents, Sale.credit_cents, WayBack.deposit_back_cents, Sale.body)
        .select_from(WayBack)
        .join(Sale, Sale.id == WayBack.sale_id)
        .join(BatteryRow, BatteryRow.id == Sale.battery_id)
        .join(CatalogueItem, CatalogueItem.id == Sale.item_id)
        .where(WayBack.done_at >= begins, WayBack.done_at < ends)
        .order_by(WayBack.id)
    )  # fmt: skip
    return [Back(*row) for row in _tuples(rows)]


def deposits_between(session: Session, begins: datetime, ends: datetime, step: str) -> Sequence[DepositMoved]:
    """Deposits that went back by a step of a fitting list then, or were taken in again as the step was taken back."""
    rows = session.execute(
        select(FittingTick.done, Sale.core_deposit_cents, Sale.body)
        .join(Sale, Sale.id == FittingTick.sale_id)
        .where(
            FittingTick.ticked_at >= begins, FittingTick.ticked_at < ends, FittingTick.step == step, Sale.core_deposit_cents > 0
        )
        .order_by(FittingTick.id)
    )  # fmt: skip
    return [DepositMoved(*row) for row in _tuples(rows)]


class Claimed(NamedTuple):
    """A claim: what was given, and the tag of what was handed over under it; without one its credit is still open."""

    tag: int
    headline: Words
    credit_cents: int
    given_tag: int | None
    body: dict[str, Any]


def claimed_between(session: Session, begins: datetime, ends: datetime) -> Sequence[Claimed]:
    """Claims written then, in order."""
    new = aliased(BatteryRow)
    stands = ~select(WayBack.id).where(WayBack.sale_id == Sale.id).exists()
    rows = session.execute(
        select(BatteryRow.tag, Claim.body["answer"]["headline"], Claim.credit_cents, new.tag, Claim.body)
        .select_from(Claim)
        .outerjoin(Sale, (Sale.claim_id == Claim.id) & stands)
        .outerjoin(new, new.id == Sale.battery_id)
        .join(BatteryRow, BatteryRow.id == Claim.battery_id)
        .where(Claim.written_at >= begins, Claim.written_at < ends)
        .order_by(Claim.id)
    )
    return [Claimed(tag, words_of(headline), cents, given, body) for tag, headline, cents, given, body in _tuples(rows)]


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
