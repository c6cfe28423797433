"""The goods desk: the catalogue with its prices, one item with its pieces and what was written of it, orders."""

from datetime import date, datetime
from typing import Literal

from pydantic import BaseModel, Field

from ..core.battery.label import Chemistry, RatingScale
from ..core.goods.pieces import PieceState
from ..core.tables import entry_limits
from ..core.units.model import Day, Model, ShortText
from ..core.words import say
from ..records import goods
from ..records.goods import PieceWithItem
from ..records.models import CatalogueItem, OrderNote
from .counter import MOST
from .desk import Conflict, Desk, NotThere
from .items import GoodsItem, item_of, item_or_refused, tell_goods
from .match import piece_state

_LIMITS = entry_limits()
PAGE = 40


class ItemView(BaseModel):
    """An item in a list."""

    id: int
    edition: int
    name: str
    line: str
    group_code: str
    chemistry: Chemistry
    cca_amps: float
    rated_amps: float | None
    rated_scale: RatingScale
    capacity_ah_20h: float | None
    price_cents: int
    core_deposit_cents: int
    in_stock: int


class GoodsView(BaseModel):
    """A page of the catalogue."""

    items: list[ItemView]
    found: int
    found_more: bool
    currency: str


class PieceView(BaseModel):
    """A piece with how it stands."""

    id: int
    item_id: int
    name: str
    arrived_on: date
    made_on: date | None
    last_volts: float | None
    last_volts_on: date | None
    serial: str
    set_aside: bool
    came_back: Literal["", "used", "dead"]
    """It was sold and taken back: used it may be sold as what it is, dead it goes to recycling."""
    on_the_way: bool
    """To another store of the house."""
    state: PieceState


class OrderView(BaseModel):
    """An order that is open."""

    id: int
    item_id: int
    name: str
    pieces: int
    for_tag: int | None
    note: str
    expected_on: date | None
    written_at: datetime


class EntryView(BaseModel):
    """Something written of an item."""

    who: str = Field(description="nobody where it came with the catalogue of another store, or a list changed it")
    at: datetime
    stood: bool = Field(description="as it was until then")
    name: str
    price_cents: int
    core_deposit_cents: int


class ItemDetail(BaseModel):
    """An item whole: as it stands, its pieces, what is on order, what was written before."""

    id: int
    edition: int
    item: GoodsItem
    in_stock: int
    pieces: list[PieceView]
    orders: list[OrderView]
    before: list[EntryView]
    currency: str


class WriteOrder(Model):
    """Goods to order."""

    item_id: int = Field(ge=0, le=MOST)
    pieces: int = Field(1, ge=int(_LIMITS["pieces"].low), le=int(_LIMITS["pieces"].high))
    for_tag: int | None = Field(None, ge=0, le=MOST)
    note: ShortText = ""
    expected_on: Day | None = None


class CloseOrder(Model):
    """An order that came, or that is not wanted any more."""

    how: Literal["received", "dropped"]


def catalogue(desk: Desk, text: str, in_stock: bool, page: int) -> GoodsView:
    """A page of the catalogue."""
    rows, result = goods.items(desk.session, text, in_stock, PAGE, page * PAGE)
    return GoodsView(
        items=[item_view(row) for row in rows], found=result, found_more=result >= 1000, currency=desk.store.currency
    )


def item_view(row: CatalogueItem) -> ItemView:
    """An item for a list."""
    return ItemView(
        id=row.id, edition=row.edition, name=row.name, line=row.line, group_code=row.group_code,
        chemistry=Chemistry(row.chemistry), cca_amps=row.cca_amps, rated_amps=row.rated_amps,
        rated_scale=RatingScale(row.rated_scale), capacity_ah_20h=row.capacity_ah_20h, price_cents=row.price_cents,
        core_deposit_cents=row.core_deposit_cents, in_stock=row.in_stock,
    )  # fmt: skip


def one_item(desk: Desk, item_id: int, now: datetime) -> ItemDetail:
    """An item with its pieces, orders and what was written of it."""
    row = item_or_refused(desk, item_id)
    pieces = goods.unsold_of(desk.session, [row.id]).get(row.id, [])
    return ItemDetail(
        id=row.id,
        edition=row.edition,
        item=item_of(row),
        in_stock=row.in_stock,
        pieces=[piece_view(desk, PieceWithItem(piece, row), desk.today(now)) for piece in pieces],
        orders=[order_view(order) for order in goods.orders(desk.session, [row.id])],
        before=[
            EntryView(
                who=entry.staff.name if entry.staff else "", at=entry.written_at, stood=entry.stood, name=entry.body["name"],
                price_cents=entry.body["price_cents"], core_deposit_cents=entry.body.get("core_deposit_cents", 0),
            )
            for entry in goods.entries_of_item(desk.session, row.id)
        ],
        currency=desk.store.currency,
    )  # fmt: skip


def piece_view(desk: Desk, piece_with_item: PieceWithItem, today: date) -> PieceView:
    """A piece for a list."""
    piece, item = piece_with_item
    return PieceView(
        id=piece.id, item_id=item.id, name=item.name, arrived_on=piece.arrived_on, made_on=piece.made_on,
        last_volts=piece.last_volts, last_volts_on=piece.last_volts_on, serial=piece.serial, set_aside=piece.mark == "refused", came_back="used" if piece.mark == "used" else "dead" if piece.mark == "dead" else "", on_the_way=piece.mark == "on_the_way",
        state=piece_state(piece, item, today, desk.rules),
    )  # fmt: skip


def order_view(order: OrderNote) -> OrderView:
    """An order for a list."""
    return OrderView(
        id=order.id, item_id=order.item_id, name=order.item.name, pieces=order.pieces, for_tag=order.for_tag,
        note=order.note, expected_on=order.expected_on, written_at=order.written_at,
    )  # fmt: skip


def orders(desk: Desk) -> list[OrderView]:
    """What is on order, the soonest first."""
    return [order_view(order) for order in goods.orders(desk.session)]


def write_order(desk: Desk, body: WriteOrder, now: datetime) -> None:
    """Write down what is to be ordered."""
    item = item_or_refused(desk, body.item_id)
    desk.session.add(
        OrderNote(
            item_id=item.id, pieces=body.pieces, for_tag=body.for_tag, note=body.note, written_at=now, staff_id=desk.staff.id,
            expected_on=body.expected_on, state="open",
        )
    )  # fmt: skip
    tell_goods(desk)


def close_order(desk: Desk, order_id: int, how: CloseOrder, now: datetime) -> None:
    """An order came, or is dropped. Raises NotThere, and Conflict for one that is closed."""
    order = goods.order(desk.session, order_id)
    if order is None:
        raise NotThere(say("goods.no_such_order"))
    if order.state != "open":
        raise Conflict(say("goods.this_order_was_closed_already"))
    order.state, order.closed_at, order.closed_by = how.how, now, desk.staff.id
    tell_goods(desk)
