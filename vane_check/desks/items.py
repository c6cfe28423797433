"""An item of the catalogue as it is written: its outside, rating and price."""

from datetime import datetime
from typing import Literal

from pydantic import Field

from ..core.battery.label import Chemistry, Rating
from ..core.goods.importing.item_columns import AS_WRITTEN
from ..core.matching.requirement import Ledge, Post, Side
from ..core.readings.faults import FieldProblem
from ..core.tables import entry_limits, footprints
from ..core.units.model import Model, ShortText
from ..core.words import say
from ..records import goods
from ..records.events import announce
from ..records.models import CatalogueItem, ItemEntry
from .counter import MOST
from .desk import Conflict, Desk, NotThere, Refused
from .stores import let_follow, own_or_refused

Cents = int


_LIMITS = entry_limits()


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
    tax_name: ShortText = Field("", description="which of the shop's further taxes it is sold at; empty for the first")


if _missing := set(AS_WRITTEN) - set(GoodsItem.model_fields):
    raise ImportError(f"GoodsItem lacks {', '.join(sorted(_missing))}: enter it in desks/items.py")


class WriteItem(Model):
    """An item written new or anew; `based_on` says which edition was seen."""

    item: GoodsItem
    based_on: int = Field(0, ge=0, le=MOST)


def item_or_refused(desk: Desk, item_id: int, lock: bool = False) -> CatalogueItem:
    """An item of the catalogue. Raises NotThere."""
    row = goods.item(desk.session, item_id, lock)
    if row is None:
        raise NotThere(say("common.no_such_item_in_the_catalogue"))
    return row


def item_of(row: CatalogueItem) -> GoodsItem:
    """A row as it is written."""
    body = {
        name: getattr(row, name)
        for name in GoodsItem.model_fields
        if name not in {"rating", "positive_side"} and hasattr(row, name)
    }
    rating = {"amps": row.rated_amps or row.cca_amps, "scale": row.rated_scale if row.rated_amps else "CCA"}
    return GoodsItem.model_validate({**body, "positive_side": row.positive_side, "rating": rating})


def write_item(desk: Desk, item_id: int | None, body: WriteItem, now: datetime) -> None:
    """Write an item of the catalogue with its price. Only a lead may; what stood before stays readable."""
    desk.only_lead()
    own_or_refused(desk, "catalogue")
    row = CatalogueItem(edition=0, in_stock=0) if item_id is None else item_or_refused(desk, item_id, lock=True)
    if row.edition != body.based_on:
        raise Conflict(say("common.was_written_anew_meanwhile_look_at_what", row_name=row.name))
    twin = goods.item_named(desk.session, body.item.name)
    if twin is not None and twin.id != row.id:
        raise Refused(
            say("common.it_cannot_be_right"),
            [FieldProblem("item.name", say("items.another_item_has_this_name_give_each_its"))],
        )
    fill_item(desk, row, body.item)
    row.edition += 1
    desk.session.add(row)
    desk.session.flush()
    desk.session.add(
        ItemEntry(
            item_id=row.id, edition=row.edition, written_at=now, staff_id=desk.staff.id, body=body.item.model_dump(mode="json")
        )
    )  # fmt: skip
    let_follow(desk, "catalogue", row.id)
    tell_goods(desk)


def fill_item(desk: Desk, row: CatalogueItem, item: GoodsItem) -> None:
    """Put what is written into a row; what is not said of the outside is that of its size. Raises Refused."""
    size = footprints().get(item.group_code)
    own = {name: getattr(item, name) for name in ("length_mm", "width_mm", "height_mm", "positive_side")}
    faults = [
        FieldProblem(f"item.{name}", say("items.enter_it_or_pick_a_size_of_the_table"))
        for name, value in own.items()
        if value is None and size is None
    ]
    for name in ("length_mm", "width_mm", "height_mm"):
        if own[name] is not None and not _LIMITS["case_mm"].low <= own[name] <= _LIMITS["case_mm"].high:
            faults.append(
                FieldProblem(f"item.{name}", say("items.enter", what_to_enter=_LIMITS["case_mm"].what_to_enter))
            )
    if item.supplier_id is not None and goods.supplier(desk.session, item.supplier_id) is None:
        faults.append(FieldProblem("item.supplier_id", say("items.pick_a_supplier_from_the_list")))
    if faults:
        raise Refused(say("common.it_cannot_be_right"), faults)
    for name, value in own.items():
        setattr(row, name, value if value is not None else getattr(size, name))
    row.post = item.post or (size.post if size else "top")
    row.ledge = item.ledge or (size.ledge if size else "none")
    row.nominal_volts = size.nominal_volts if size else item.nominal_volts
    row.same_as = size.same_as if size else ""
    row.rated_amps, row.rated_scale = item.rating.amps, item.rating.scale.value
    row.cca_amps = round(item.rating.cca_amps, 1)
    row.chemistry = item.chemistry.value
    row.tax_name = item.tax_name
    for name in AS_WRITTEN:
        setattr(row, name, getattr(item, name))


def tell_goods(desk: Desk) -> None:
    """Tell other screens that the goods changed."""
    desk.session.flush()
    announce(desk.session, desk.staff.store_id, "goods")
