"""The catalogue, stock, vehicle list and warranty terms."""

from collections.abc import Sequence
from typing import NamedTuple

from sqlalchemy import ColumnElement, and_, func, not_, select
from sqlalchemy.orm import Session

from .models import CatalogueItem, StockPiece, TermsRow, Vehicle


def vehicles(session: Session, at_most: int, typed: str = "") -> Sequence[Vehicle]:
    """The vehicle list by make and model; those whose name holds every word typed."""
    asked = select(Vehicle).order_by(Vehicle.make, Vehicle.model, Vehicle.from_year).limit(at_most)
    for word in typed.lower().split():
        asked = asked.where(func.lower(Vehicle.make + " " + Vehicle.model).contains(word, autoescape=True))
    return session.scalars(asked).all()


def count_vehicles(session: Session) -> int:
    """How many vehicles the list has."""
    return session.scalar(select(func.count()).select_from(Vehicle)) or 0


def vehicle(session: Session, vehicle_id: int) -> Vehicle | None:
    """One vehicle of the list."""
    return session.scalar(select(Vehicle).where(Vehicle.id == vehicle_id))


class Offered(NamedTuple):
    """An item with how many pieces stand unsold and the rest volts of the best of them."""

    item: CatalogueItem
    pieces: int
    volts: float | None


class Asked(NamedTuple):
    """What an item must be to fit: sizes (those of the very size first), chemistries, CCA at least, vent tube."""

    codes: Sequence[str]
    exact_codes: Sequence[str]
    chemistries: Sequence[str]
    min_cca_amps: float
    vent_tube: bool


def fitting(session: Session, asked: Asked, at_most: int) -> tuple[Sequence[Offered], int]:
    """Items that fit and how many there are: the very size first, in stock first, cheapest first."""
    exact = CatalogueItem.group_code.in_(asked.exact_codes)
    rows = session.execute(
        select(CatalogueItem.id, exact, CatalogueItem.price_cents, func.count().over())
        .where(_fits(asked))
        .order_by(exact.desc(), CatalogueItem.price_cents)
        .limit(LOOKED_AT)
    ).all()
    stock = _stock(session, [row[0] for row in rows])
    ranked = sorted((not is_exact, item_id not in stock, cents, item_id) for item_id, is_exact, cents, _ in rows)
    return _loaded(session, [item_id for *_, item_id in ranked[:at_most]], stock), rows[0][3] if rows else 0


LOOKED_AT = 600
"""So many of what fits, the very size and the cheapest first, are asked whether they are in stock."""


def not_fitting(session: Session, asked: Asked, at_most: int) -> Sequence[Offered]:
    """Items that do not fit, the nearest first: the right size with something else against it, then other sizes."""
    same = CatalogueItem.group_code.in_(asked.codes)
    nearest = (
        select(CatalogueItem.id)
        .where(not_(_fits(asked)) & same)
        .order_by(CatalogueItem.group_code.in_(asked.exact_codes).desc(), CatalogueItem.price_cents)
    )
    ids = list(session.scalars(nearest.limit(at_most)))
    if len(ids) < at_most:
        others = select(CatalogueItem.id).where(CatalogueItem.group_code.not_in(asked.codes)).order_by(CatalogueItem.id)
        ids += session.scalars(others.limit(at_most - len(ids)))
    return _loaded(session, ids, _stock(session, ids))


def count_items(session: Session, at_most: int) -> int:
    """How many items there are; counting stops at so many."""
    return session.scalar(select(func.count()).select_from(select(CatalogueItem.id).limit(at_most).subquery())) or 0


def _fits(asked: Asked) -> ColumnElement[bool]:
    fits = and_(
        CatalogueItem.group_code.in_(asked.codes),
        CatalogueItem.chemistry.in_(asked.chemistries),
        CatalogueItem.cca_amps >= asked.min_cca_amps,
    )
    return fits & CatalogueItem.vent_tube if asked.vent_tube else fits


def _stock(session: Session, item_ids: Sequence[int]) -> dict[int, tuple[int, float | None]]:
    """Pieces unsold and the best of their rest volts, of those items that have any."""
    rows = session.execute(
        select(StockPiece.item_id, func.count(), func.max(StockPiece.last_volts))
        .where(StockPiece.sold_on.is_(None), StockPiece.item_id == func.any(item_ids))
        .group_by(StockPiece.item_id)
    )
    return {item_id: (pieces, volts) for item_id, pieces, volts in rows}


def _loaded(session: Session, item_ids: Sequence[int], stock: dict[int, tuple[int, float | None]]) -> list[Offered]:
    items = {item.id: item for item in session.scalars(select(CatalogueItem).where(CatalogueItem.id.in_(item_ids)))}
    return [Offered(items[item_id], *stock.get(item_id, (0, None))) for item_id in item_ids]


def item(session: Session, item_id: int) -> CatalogueItem | None:
    """One catalogue item."""
    return session.scalar(select(CatalogueItem).where(CatalogueItem.id == item_id))


def terms_of_line(session: Session, line: str) -> TermsRow | None:
    """The warranty terms of a line we sell."""
    return session.scalar(select(TermsRow).where(func.lower(TermsRow.line) == line.strip().lower()))


def lines(session: Session, at_most: int) -> Sequence[TermsRow]:
    """Lines with terms."""
    return session.scalars(select(TermsRow).order_by(TermsRow.line).limit(at_most)).all()


def price_of_line(session: Session, line: str, group_code: str | None, cca_amps: float | None) -> CatalogueItem | None:
    """Today's item nearest to a battery of ours: same line and group, SAE CCA nearest."""
    asked = select(CatalogueItem).where(func.lower(CatalogueItem.line) == line.strip().lower())
    if group_code:
        asked = asked.where(CatalogueItem.group_code == group_code)
    if cca_amps:
        asked = asked.order_by(func.abs(CatalogueItem.cca_amps - cca_amps))
    return session.scalar(asked.order_by(CatalogueItem.price_cents).limit(1))
