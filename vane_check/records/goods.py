"""Goods on the shelf: items, pieces, suppliers, orders, sales and what is ticked off at fitting."""

from collections.abc import Sequence
from typing import NamedTuple

from sqlalchemy import func, select, text
from sqlalchemy.orm import Session, aliased, joinedload

from .locks import CHANGES, wait_for
from .models import (
    BatteryRow,
    CatalogueItem,
    FittingTick,
    ItemEntry,
    OrderNote,
    Sale,
    SizeAlias,
    StockPiece,
    Supplier,
    WayBack,
)  # fmt: skip


def like(typed: str) -> str:
    """A text as a pattern that holds it anywhere; its own signs of a pattern are taken for what they are."""
    plain = typed.lower().replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_")
    return f"%{plain}%"


def items(
    session: Session, typed: str, in_stock: bool, at_most: int, after: int
) -> tuple[Sequence[CatalogueItem], int]:
    """Items whose name, size or code holds every word typed, by name; and how many there are, counted to a thousand."""
    query = select(CatalogueItem)
    for word in typed.split():
        query = query.where(CatalogueItem.search_text.like(like(word)))
    if in_stock:
        query = query.where(CatalogueItem.in_stock > 0)
    count = session.scalar(
        select(func.count()).select_from(query.with_only_columns(CatalogueItem.id).limit(1000).subquery())
    )
    rows = session.scalars(query.order_by(CatalogueItem.name).limit(at_most).offset(after)).all()
    return rows, count or 0


def item(session: Session, item_id: int, lock: bool = False) -> CatalogueItem | None:
    """One item."""
    query = select(CatalogueItem).where(CatalogueItem.id == item_id)
    return session.scalar(query.with_for_update() if lock else query)


def item_named(session: Session, name: str) -> CatalogueItem | None:
    """The item of a name."""
    return session.scalar(select(CatalogueItem).where(func.lower(CatalogueItem.name) == name.lower()))


def entries_of_item(session: Session, item_id: int) -> Sequence[ItemEntry]:
    """What was written of an item, the newest first."""
    query = select(ItemEntry).where(ItemEntry.item_id == item_id).options(joinedload(ItemEntry.staff))
    return session.scalars(query.order_by(ItemEntry.id.desc())).all()


def unsold_of(session: Session, item_ids: Sequence[int]) -> dict[int, list[StockPiece]]:
    """Pieces unsold of some items, the oldest first."""
    query = select(StockPiece).where(StockPiece.sold_on.is_(None), StockPiece.item_id == func.any(item_ids))
    result: dict[int, list[StockPiece]] = {}
    for piece in session.scalars(query.order_by(StockPiece.arrived_on, StockPiece.id)):
        result.setdefault(piece.item_id, []).append(piece)
    return result


class PieceWithItem(NamedTuple):
    """A piece and what it is."""

    piece: StockPiece
    item: CatalogueItem


def unsold(session: Session, at_most: int) -> list[PieceWithItem]:
    """Every piece unsold, the longest without a look first."""
    query = (
        select(StockPiece, CatalogueItem)
        .join(CatalogueItem, CatalogueItem.id == StockPiece.item_id)
        .where(StockPiece.sold_on.is_(None))
        .order_by(func.coalesce(StockPiece.last_volts_on, StockPiece.arrived_on), StockPiece.id)
        .limit(at_most)
    )
    return [PieceWithItem(*row) for row in session.execute(query)]


def piece(session: Session, piece_id: int, lock: bool = False) -> PieceWithItem | None:
    """One piece and its item."""
    query = select(StockPiece, CatalogueItem).join(CatalogueItem, CatalogueItem.id == StockPiece.item_id)
    query = query.where(StockPiece.id == piece_id)
    row = session.execute(query.with_for_update(of=StockPiece) if lock else query).one_or_none()
    return PieceWithItem(*row) if row else None


def suppliers(session: Session) -> Sequence[Supplier]:
    """Every supplier by name."""
    return session.scalars(select(Supplier).order_by(Supplier.name)).all()


def supplier(session: Session, supplier_id: int, lock: bool = False) -> Supplier | None:
    """One supplier."""
    query = select(Supplier).where(Supplier.id == supplier_id)
    return session.scalar(query.with_for_update() if lock else query)


def orders(session: Session, item_ids: Sequence[int] | None = None) -> Sequence[OrderNote]:
    """Orders that are open, of some items or of all, the soonest first."""
    query = select(OrderNote).where(OrderNote.state == "open").options(joinedload(OrderNote.item))
    if item_ids is not None:
        query = query.where(OrderNote.item_id == func.any(item_ids))
    return session.scalars(query.order_by(OrderNote.expected_on.nulls_last(), OrderNote.id)).all()


def order(session: Session, order_id: int) -> OrderNote | None:
    """One order, locked to be closed."""
    return session.scalar(select(OrderNote).where(OrderNote.id == order_id).with_for_update())


def sale_of_battery(session: Session, battery_id: int) -> Sale | None:
    """The sale a battery left by."""
    return session.scalar(select(Sale).where(Sale.battery_id == battery_id).options(joinedload(Sale.staff)))


def sale(session: Session, sale_id: int) -> Sale:
    """One sale."""
    return session.scalars(select(Sale).where(Sale.id == sale_id)).one()


def tag_of_sale(session: Session, sale_id: int) -> int:
    """The tag of the battery a sale became."""
    return session.scalars(
        select(BatteryRow.tag).join(Sale, Sale.battery_id == BatteryRow.id).where(Sale.id == sale_id)
    ).one()


def way_back(session: Session, sale_id: int) -> WayBack | None:
    """How a sale was taken back, where it was."""
    return session.scalar(select(WayBack).where(WayBack.sale_id == sale_id).options(joinedload(WayBack.staff)))


def given_tag(session: Session, claim_id: int) -> int | None:
    """The tag of the battery that was given under a claim, and was not taken back."""
    stands = ~select(WayBack.id).where(WayBack.sale_id == Sale.id).exists()
    return session.scalar(
        select(BatteryRow.tag).join(Sale, Sale.battery_id == BatteryRow.id).where(Sale.claim_id == claim_id, stands)
    )


def lives_beside(session: Session, battery_id: int) -> tuple[int | None, int | None]:
    """The tags of the battery it was sold for, and of the newest that was sold for it."""
    old, new = aliased(BatteryRow), aliased(BatteryRow)
    before = session.scalar(
        select(old.tag).join(Sale, Sale.old_battery_id == old.id).where(Sale.battery_id == battery_id)
    )
    after = session.scalar(
        select(new.tag)
        .join(Sale, Sale.battery_id == new.id)
        .where(Sale.old_battery_id == battery_id)
        .order_by(Sale.id.desc())
        .limit(1)
    )
    return before, after


def lock_sale(session: Session, sale_id: int) -> None:
    """One hand at a fitting list at a time."""
    wait_for(session, f"sale {sale_id}", CHANGES)


def ticks_of(session: Session, sale_id: int) -> Sequence[FittingTick]:
    """Everything ticked and taken back of a fitting list, in order."""
    query = select(FittingTick).where(FittingTick.sale_id == sale_id).options(joinedload(FittingTick.staff))
    return session.scalars(query.order_by(FittingTick.id)).all()


def newest_sales(session: Session, at_most: int) -> list[tuple[Sale, BatteryRow, CatalogueItem, str | None]]:
    """The newest sales with the battery each became, and how it was taken back."""
    query = (
        select(Sale, BatteryRow, CatalogueItem, WayBack.what)
        .outerjoin(WayBack, WayBack.sale_id == Sale.id)
        .join(BatteryRow, BatteryRow.id == Sale.battery_id)
        .join(CatalogueItem, CatalogueItem.id == Sale.item_id)
        .order_by(Sale.id.desc())
        .limit(at_most)
    )
    return [(sale, battery, of, back) for sale, battery, of, back in session.execute(query).unique()]


def alias(session: Session, code: str) -> SizeAlias | None:
    """A code of another trade as this shop brought it in."""
    return session.scalar(select(SizeAlias).where(SizeAlias.code == code))


def multiply_prices(session: Session, store_id: int, times: float) -> None:
    """Every price and deposit of the catalogue in another money; the trigger keeps what stood."""
    session.execute(
        text(
            "update catalogue_items set price_cents = round(price_cents * cast(:times as numeric)), "
            "core_deposit_cents = round(core_deposit_cents * cast(:times as numeric)), edition = edition + 1 where store_id = :store"
        ),
        {"times": times, "store": store_id},
    )
