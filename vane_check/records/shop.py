"""The catalogue, stock, vehicle list and warranty terms."""

from collections.abc import Sequence

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from .models import CatalogueItem, StockPiece, TermsRow, Vehicle


def vehicles(session: Session) -> Sequence[Vehicle]:
    """The whole vehicle list, by make and model."""
    return session.scalars(select(Vehicle).order_by(Vehicle.make, Vehicle.model, Vehicle.from_year)).all()


def vehicle(session: Session, vehicle_id: int) -> Vehicle | None:
    """One vehicle of the list."""
    return session.scalar(select(Vehicle).where(Vehicle.id == vehicle_id))


def catalogue_with_stock(session: Session) -> Sequence[tuple[CatalogueItem, int, float | None]]:
    """Every item with how many pieces stand unsold and the rest volts of the best of them, in one query."""
    stock = (
        select(StockPiece.item_id, func.count().label("pieces"), func.max(StockPiece.last_volts).label("volts"))
        .where(StockPiece.sold_on.is_(None))
        .group_by(StockPiece.item_id)
        .subquery()
    )
    rows = session.execute(
        select(CatalogueItem, func.coalesce(stock.c.pieces, 0), stock.c.volts)
        .outerjoin(stock, stock.c.item_id == CatalogueItem.id)
        .order_by(CatalogueItem.group_code, CatalogueItem.price_cents)
    )
    return [(item, pieces, volts) for item, pieces, volts in rows]


def item(session: Session, item_id: int) -> CatalogueItem | None:
    """One catalogue item."""
    return session.scalar(select(CatalogueItem).where(CatalogueItem.id == item_id))


def terms_of_line(session: Session, line: str) -> TermsRow | None:
    """The warranty terms of a line we sell."""
    return session.scalar(select(TermsRow).where(func.lower(TermsRow.line) == line.strip().lower()))


def lines(session: Session) -> Sequence[TermsRow]:
    """Every line with terms."""
    return session.scalars(select(TermsRow).order_by(TermsRow.line)).all()


def price_of_line(
    session: Session, line: str, group_code: str | None, rated_amps: float | None
) -> CatalogueItem | None:
    """Today's item nearest to a battery of ours: same line and group, CCA nearest."""
    asked = select(CatalogueItem).where(func.lower(CatalogueItem.line) == line.strip().lower())
    if group_code:
        asked = asked.where(CatalogueItem.group_code == group_code)
    if rated_amps:
        asked = asked.order_by(func.abs(CatalogueItem.cca_amps - rated_amps))
    return session.scalar(asked.order_by(CatalogueItem.price_cents).limit(1))
