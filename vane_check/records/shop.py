"""The catalogue, stock, vehicle list and warranty terms."""

from collections.abc import Sequence
from typing import NamedTuple

from sqlalchemy import ColumnElement, and_, exists, func, not_, select
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


def offered(session: Session, asked: Asked, fitting: bool, at_most: int) -> Sequence[Offered]:
    """Items that fit, or the nearest of those that do not: the very size first, in stock first, cheapest first."""
    fits = _fits(asked)
    in_stock = exists().where(StockPiece.item_id == CatalogueItem.id, StockPiece.sold_on.is_(None))
    items = session.scalars(
        select(CatalogueItem)
        .where(fits if fitting else not_(fits) & CatalogueItem.group_code.in_(asked.codes))
        .order_by(CatalogueItem.group_code.in_(asked.exact_codes).desc(), in_stock.desc(), CatalogueItem.price_cents)
        .limit(at_most)
    ).all()
    if not fitting and len(items) < at_most:
        others = select(CatalogueItem).where(CatalogueItem.group_code.not_in(asked.codes))
        items = [*items, *session.scalars(others.order_by(CatalogueItem.id).limit(at_most - len(items)))]
    return _with_stock(session, items)


def count_items(session: Session, asked: Asked | None = None) -> int:
    """How many items there are, or fit."""
    counted = select(func.count()).select_from(CatalogueItem)
    return session.scalar(counted if asked is None else counted.where(_fits(asked))) or 0


def _fits(asked: Asked) -> ColumnElement[bool]:
    fits = and_(
        CatalogueItem.group_code.in_(asked.codes),
        CatalogueItem.chemistry.in_(asked.chemistries),
        CatalogueItem.cca_amps >= asked.min_cca_amps,
    )
    return fits & CatalogueItem.vent_tube if asked.vent_tube else fits


def _with_stock(session: Session, items: Sequence[CatalogueItem]) -> Sequence[Offered]:
    rows = session.execute(
        select(StockPiece.item_id, func.count(), func.max(StockPiece.last_volts))
        .where(StockPiece.sold_on.is_(None), StockPiece.item_id.in_([item.id for item in items]))
        .group_by(StockPiece.item_id)
    )
    stock = {item_id: (pieces, volts) for item_id, pieces, volts in rows}
    return [Offered(item, *stock.get(item.id, (0, None))) for item in items]


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
