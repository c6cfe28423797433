"""The goods desk: the catalogue with its prices, receiving, the list of pieces due for a hand, and what is done to a piece."""

from datetime import date, datetime
from typing import Literal

from pydantic import BaseModel, Field

from ..core.battery import Chemistry, Day, Model, Rating, RatingScale, ShortText
from ..core.faults import FieldProblem
from ..core.matching.asked import Ledge, Post, Side
from ..core.pieces import PieceState
from ..core.tables import entry_limits, footprints
from ..records import goods
from ..records.events import announce
from ..records.goods import PieceWithItem
from ..records.models import CatalogueItem, ItemEntry, OrderNote
from .counter import MOST
from .desk import Conflict, Desk, NotThere, Refused
from .match import piece_state
from .stores import let_follow, own_or_refused

_LIMITS = entry_limits()
Cents = int
PAGE = 40


class GoodsItem(Model):
    """An item of the catalogue, as it is written."""

    line: ShortText = Field(min_length=1)
    name: ShortText = Field(min_length=1)
    group_code: ShortText = ""
    length_mm: int | None = None
    width_mm: int | None = None
    height_mm: int | None = None
    nominal_volts: Literal[6, 12] = 12
    positive_side: Side | None = None
    post: Post | None = None
    ledge: Ledge | None = None
    chemistry: Chemistry = Chemistry.FLOODED
    rating: Rating
    capacity_ah_20h: float | None = Field(
        None, ge=_LIMITS["capacity_ah_20h"].low, le=_LIMITS["capacity_ah_20h"].high, description="Ah, 20 h rate"
    )
    reserve_minutes: float | None = Field(
        None, ge=_LIMITS["reserve_minutes"].low, le=_LIMITS["reserve_minutes"].high, description="minutes at 25 A"
    )
    vent_tube: bool = False
    vent_side: Side | None = None
    price_cents: Cents = Field(ge=0, le=int(_LIMITS["price_cents"].high))
    core_deposit_cents: Cents = Field(0, ge=0, le=int(_LIMITS["price_cents"].high))
    supplier_id: int | None = Field(None, ge=0, le=MOST)
    supplier_code: ShortText = ""


class WriteItem(Model):
    """An item written new or anew; `based_on` says which edition was seen."""

    item: GoodsItem
    based_on: int = Field(0, ge=0, le=MOST)


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
    rows, found = goods.items(desk.session, text, in_stock, PAGE, page * PAGE)
    return GoodsView(
        items=[item_view(row) for row in rows], found=found, found_more=found >= 1000, currency=desk.store.currency
    )


def item_view(row: CatalogueItem) -> ItemView:
    """An item for a list."""
    return ItemView(
        id=row.id, edition=row.edition, name=row.name, line=row.line, group_code=row.group_code,
        chemistry=Chemistry(row.chemistry), cca_amps=row.cca_amps, rated_amps=row.rated_amps,
        rated_scale=RatingScale(row.rated_scale), capacity_ah_20h=row.capacity_ah_20h, price_cents=row.price_cents,
        core_deposit_cents=row.core_deposit_cents, in_stock=row.in_stock,
    )  # fmt: skip


def found_item(desk: Desk, item_id: int, lock: bool = False) -> CatalogueItem:
    """An item of the catalogue. Raises NotThere."""
    row = goods.item(desk.session, item_id, lock)
    if row is None:
        raise NotThere("no such item in the catalogue")
    return row


def one_item(desk: Desk, item_id: int, now: datetime) -> ItemDetail:
    """An item with its pieces, orders and what was written of it."""
    row = found_item(desk, item_id)
    pieces = goods.unsold_of(desk.session, [row.id]).get(row.id, [])
    return ItemDetail(
        id=row.id,
        edition=row.edition,
        item=item_of(row),
        in_stock=row.in_stock,
        pieces=[piece_view(desk, PieceWithItem(piece, row), desk.today(now)) for piece in pieces],
        orders=[order_view(one) for one in goods.orders(desk.session, [row.id])],
        before=[
            EntryView(
                who=entry.staff.name if entry.staff else "", at=entry.written_at, stood=entry.stood, name=entry.body["name"],
                price_cents=entry.body["price_cents"], core_deposit_cents=entry.body.get("core_deposit_cents", 0),
            )
            for entry in goods.entries_of_item(desk.session, row.id)
        ],
        currency=desk.store.currency,
    )  # fmt: skip


def item_of(row: CatalogueItem) -> GoodsItem:
    """A row as it is written."""
    told = {
        name: getattr(row, name)
        for name in GoodsItem.model_fields
        if name not in {"rating", "positive_side"} and hasattr(row, name)
    }
    rating = {"amps": row.rated_amps or row.cca_amps, "scale": row.rated_scale if row.rated_amps else "CCA"}
    return GoodsItem.model_validate({**told, "positive_side": row.positive_side, "rating": rating})


def write_item(desk: Desk, item_id: int | None, written: WriteItem, now: datetime) -> None:
    """Write an item of the catalogue with its price. Only a lead may; what stood before stays readable."""
    desk.only_lead()
    own_or_refused(desk, "catalogue")
    row = CatalogueItem(edition=0, in_stock=0) if item_id is None else found_item(desk, item_id, lock=True)
    if row.edition != written.based_on:
        raise Conflict(f"{row.name} was written anew meanwhile: look at what stands now")
    twin = goods.item_named(desk.session, written.item.name)
    if twin is not None and twin.id != row.id:
        raise Refused(
            "It cannot be right", [FieldProblem("item.name", "Another item has this name: give each its own")]
        )
    fill_item(desk, row, written.item)
    row.edition += 1
    desk.session.add(row)
    desk.session.flush()
    desk.session.add(
        ItemEntry(
            item_id=row.id, edition=row.edition, written_at=now, staff_id=desk.staff.id, body=written.item.model_dump(mode="json")
        )
    )  # fmt: skip
    let_follow(desk, "catalogue", row.id)
    tell_goods(desk)


def fill_item(desk: Desk, row: CatalogueItem, item: GoodsItem) -> None:
    """Put what is written into a row; what is not said of the outside is that of its size. Raises Refused."""
    size = footprints().get(item.group_code)
    own = {name: getattr(item, name) for name in ("length_mm", "width_mm", "height_mm", "positive_side")}
    faults = [
        FieldProblem(f"item.{name}", "Enter it, or pick a size of the table: nothing can be matched without")
        for name, value in own.items()
        if value is None and size is None
    ]
    for name in ("length_mm", "width_mm", "height_mm"):
        if own[name] is not None and not _LIMITS["case_mm"].low <= own[name] <= _LIMITS["case_mm"].high:
            faults.append(FieldProblem(f"item.{name}", f"Enter {_LIMITS['case_mm'].what_to_enter}"))
    if item.supplier_id is not None and goods.supplier(desk.session, item.supplier_id) is None:
        faults.append(FieldProblem("item.supplier_id", "Pick a supplier from the list"))
    if faults:
        raise Refused("It cannot be right", faults)
    for name, value in own.items():
        setattr(row, name, value if value is not None else getattr(size, name))
    row.post = item.post or (size.post if size else "top")
    row.ledge = item.ledge or (size.ledge if size else "none")
    row.nominal_volts = size.nominal_volts if size else item.nominal_volts
    row.same_as = size.same_as if size else ""
    row.rated_amps, row.rated_scale = item.rating.amps, item.rating.scale.value
    row.cca_amps = round(item.rating.cca_amps, 1)
    row.chemistry = item.chemistry.value
    for name in (
        "line", "name", "group_code", "capacity_ah_20h", "reserve_minutes", "vent_tube", "vent_side", "price_cents",
        "core_deposit_cents", "supplier_id", "supplier_code",
    ):  # fmt: skip
        setattr(row, name, getattr(item, name))


def piece_view(desk: Desk, one: PieceWithItem, today: date) -> PieceView:
    """A piece for a list."""
    piece, item = one
    return PieceView(
        id=piece.id, item_id=item.id, name=item.name, arrived_on=piece.arrived_on, made_on=piece.made_on,
        last_volts=piece.last_volts, last_volts_on=piece.last_volts_on, serial=piece.serial, set_aside=piece.mark == "refused", on_the_way=piece.mark == "on_the_way",
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
    return [order_view(one) for one in goods.orders(desk.session)]


def write_order(desk: Desk, asked: WriteOrder, now: datetime) -> None:
    """Write down what is to be ordered."""
    item = found_item(desk, asked.item_id)
    desk.session.add(
        OrderNote(
            item_id=item.id, pieces=asked.pieces, for_tag=asked.for_tag, note=asked.note, written_at=now, staff_id=desk.staff.id,
            expected_on=asked.expected_on, state="open",
        )
    )  # fmt: skip
    tell_goods(desk)


def close_order(desk: Desk, order_id: int, how: CloseOrder, now: datetime) -> None:
    """An order came, or is dropped. Raises NotThere, and Conflict for one that is closed."""
    order = goods.order(desk.session, order_id)
    if order is None:
        raise NotThere("no such order")
    if order.state != "open":
        raise Conflict("this order was closed already")
    order.state, order.closed_at, order.closed_by = how.how, now, desk.staff.id
    tell_goods(desk)


def tell_goods(desk: Desk) -> None:
    """Tell other screens that the goods changed."""
    desk.session.flush()
    announce(desk.session, desk.staff.store_id, "goods")
