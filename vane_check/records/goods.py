"""Goods on the shelf: items, pieces, suppliers, orders, sales and what is ticked off at fitting."""

from collections.abc import Sequence
from typing import NamedTuple

from sqlalchemy import func, select
from sqlalchemy.orm import Session, joinedload

from .locks import CHANGES, wait_for
from .models import BatteryRow, CatalogueItem, FittingTick, ItemEntry, OrderNote, Sale, SizeAlias, StockPiece, Supplier


def like(typed: str) -> str:
    """A text as a pattern that holds it anywhere; its own signs of a pattern are taken for what they are."""
    plain = typed.lower().replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_")
    return f"%{plain}%"


def items(
    session: Session, typed: str, in_stock: bool, at_most: int, after: int
) -> tuple[Sequence[CatalogueItem], int]:
    """Items whose name, size or code holds every word typed, by name; and how many there are, counted to a thousand."""
    asked = select(CatalogueItem)
    for word in typed.split():
        asked = asked.where(CatalogueItem.search_text.like(like(word)))
    if in_stock:
        asked = asked.where(CatalogueItem.in_stock > 0)
    count = session.scalar(
        select(func.count()).select_from(asked.with_only_columns(CatalogueItem.id).limit(1000).subquery())
    )
    rows = session.scalars(asked.order_by(CatalogueItem.name).limit(at_most).offset(after)).all()
    return rows, count or 0


def item(session: Session, item_id: int, lock: bool = False) -> CatalogueItem | None:
    """One item."""
    asked = select(CatalogueItem).where(CatalogueItem.id == item_id)
    return session.scalar(asked.with_for_update() if lock else asked)


def item_named(session: Session, name: str) -> CatalogueItem | None:
    """The item of a name."""
    return session.scalar(select(CatalogueItem).where(func.lower(CatalogueItem.name) == name.lower()))


def entries_of_item(session: Session, item_id: int) -> Sequence[ItemEntry]:
    """What was written of an item, the newest first."""
    asked = select(ItemEntry).where(ItemEntry.item_id == item_id).options(joinedload(ItemEntry.staff))
    return session.scalars(asked.order_by(ItemEntry.id.desc())).all()


def unsold_of(session: Session, item_ids: Sequence[int]) -> dict[int, list[StockPiece]]:
    """Pieces unsold of some items, the oldest first."""
    asked = select(StockPiece).where(StockPiece.sold_on.is_(None), StockPiece.item_id == func.any(item_ids))
    found: dict[int, list[StockPiece]] = {}
    for piece in session.scalars(asked.order_by(StockPiece.arrived_on, StockPiece.id)):
        found.setdefault(piece.item_id, []).append(piece)
    return found


class PieceWithItem(NamedTuple):
    """A piece and what it is."""

    piece: StockPiece
    item: CatalogueItem


def unsold(session: Session, at_most: int) -> list[PieceWithItem]:
    """Every piece unsold, the longest without a look first."""
    asked = (
        select(StockPiece, CatalogueItem)
        .join(CatalogueItem, CatalogueItem.id == StockPiece.item_id)
        .where(StockPiece.sold_on.is_(None))
        .order_by(func.coalesce(StockPiece.last_volts_on, StockPiece.arrived_on), StockPiece.id)
        .limit(at_most)
    )
    return [PieceWithItem(*row) for row in session.execute(asked)]


def piece(session: Session, piece_id: int, lock: bool = False) -> PieceWithItem | None:
    """One piece and its item."""
    asked = select(StockPiece, CatalogueItem).join(CatalogueItem, CatalogueItem.id == StockPiece.item_id)
    asked = asked.where(StockPiece.id == piece_id)
    row = session.execute(asked.with_for_update(of=StockPiece) if lock else asked).one_or_none()
    return PieceWithItem(*row) if row else None


def suppliers(session: Session) -> Sequence[Supplier]:
    """Every supplier by name."""
    return session.scalars(select(Supplier).order_by(Supplier.name)).all()


def supplier(session: Session, supplier_id: int, lock: bool = False) -> Supplier | None:
    """One supplier."""
    asked = select(Supplier).where(Supplier.id == supplier_id)
    return session.scalar(asked.with_for_update() if lock else asked)


def orders(session: Session, item_ids: Sequence[int] | None = None) -> Sequence[OrderNote]:
    """Orders that are open, of some items or of all, the soonest first."""
    asked = select(OrderNote).where(OrderNote.state == "open").options(joinedload(OrderNote.item))
    if item_ids is not None:
        asked = asked.where(OrderNote.item_id == func.any(item_ids))
    return session.scalars(asked.order_by(OrderNote.expected_on.nulls_last(), OrderNote.id)).all()


def order(session: Session, order_id: int) -> OrderNote | None:
    """One order, locked to be closed."""
    return session.scalar(select(OrderNote).where(OrderNote.id == order_id).with_for_update())


def sale_of_battery(session: Session, battery_id: int) -> Sale | None:
    """The sale a battery left by."""
    return session.scalar(select(Sale).where(Sale.battery_id == battery_id).options(joinedload(Sale.staff)))


def lock_sale(session: Session, sale_id: int) -> None:
    """One hand at a fitting list at a time."""
    wait_for(session, f"sale {sale_id}", CHANGES)


def ticks_of(session: Session, sale_id: int) -> Sequence[FittingTick]:
    """Everything ticked and taken back of a fitting list, in order."""
    asked = select(FittingTick).where(FittingTick.sale_id == sale_id).options(joinedload(FittingTick.staff))
    return session.scalars(asked.order_by(FittingTick.id)).all()


def newest_sales(session: Session, at_most: int) -> list[tuple[Sale, BatteryRow, CatalogueItem]]:
    """The newest sales with the battery each became."""
    asked = (
        select(Sale, BatteryRow, CatalogueItem)
        .join(BatteryRow, BatteryRow.id == Sale.battery_id)
        .join(CatalogueItem, CatalogueItem.id == Sale.item_id)
        .order_by(Sale.id.desc())
        .limit(at_most)
    )
    return [(sale, battery, of) for sale, battery, of in session.execute(asked).unique()]


def alias(session: Session, code: str) -> SizeAlias | None:
    """A code of another trade as this shop brought it in."""
    return session.scalar(select(SizeAlias).where(SizeAlias.code == code))
