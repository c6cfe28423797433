"""From store to store: a battery with all that was read of it, a piece of stock, a customer; in transit on both shelves."""

import uuid
from datetime import datetime
from typing import Any, Literal, NamedTuple

from pydantic import BaseModel, Field, model_validator

from ..core.battery import Model, ShortText
from ..core.customers import Written
from ..core.faults import FieldProblem
from ..core.outcomes import Outcome
from ..records import batteries, customers, goods, rack, shop, stores
from ..records.events import announce
from ..records.models import CatalogueItem, ItemEntry, PieceEntry, ReadingRow, Staff, StockPiece, Transfer
from .check import judge_again
from .counter import MOST, TakeIn, found_battery, move, take_in, take_in_of
from .desk import Conflict, Desk, NotThere, Refused
from .goods import GoodsItem, fill_item, item_of, tell_goods
from .pieces import found_piece
from .stores import StoreName, names
from .views import Place, announce_battery
from .whose import whose

Kind = Literal["battery", "piece", "customer"]
LATELY = 10


class Send(Model):
    """What goes where: one of a battery by its tag, a piece, a customer."""

    to_store_id: int = Field(ge=0, le=MOST)
    tag: int | None = Field(None, ge=0, le=MOST)
    piece_id: int | None = Field(None, ge=0, le=MOST)
    customer_id: int | None = Field(None, ge=0, le=MOST)
    note: ShortText = ""

    @model_validator(mode="after")
    def _one(self) -> "Send":
        if sum(one is not None for one in (self.tag, self.piece_id, self.customer_id)) != 1:
            raise ValueError("send one thing: a battery, a piece or a customer")
        return self


class TransferView(BaseModel):
    """Something between this store and another."""

    id: int
    kind: Kind
    subject: str
    whose: str
    tag: int | None
    """The tag it carries from the store that sent it."""
    arrived_tag: int | None
    note: str
    from_name: str
    to_name: str
    coming: bool
    """To this store; else from it."""
    state: Literal["on_the_way", "arrived", "called_back"]
    sent_at: datetime
    sent_by: str
    settled_at: datetime | None
    settled_by: str


class StoresView(BaseModel):
    """The stores of the house, what is between this one and others, and what was lately."""

    stores: list[StoreName]
    on_the_way: list[TransferView]
    lately: list[TransferView]


class _Packed(NamedTuple):
    """What is sent, as the other store needs it."""

    kind: Kind
    subject: str
    body: dict[str, Any]
    battery_id: int | None = None
    piece_id: int | None = None
    customer_id: int | None = None
    tag: int | None = None


def view(desk: Desk) -> StoresView:
    """What whoever works here sees of the other stores."""
    return StoresView(
        stores=names(desk),
        on_the_way=[_view(desk, one) for one in stores.on_the_way(desk.session)],
        lately=[_view(desk, one) for one in stores.settled(desk.session, LATELY)],
    )


def _view(desk: Desk, row: Transfer) -> TransferView:
    person = row.body.get("customer") or {}
    return TransferView(
        id=row.id, kind=row.kind, subject=row.subject, tag=row.tag, arrived_tag=row.arrived_tag, note=row.note,
        whose=person.get("name") or person.get("plate") or "", from_name=row.from_name, to_name=row.to_name,
        coming=row.to_store_id == desk.staff.store_id, state=row.state, sent_at=row.sent_at, sent_by=row.sent_by_name,
        settled_at=row.settled_at, settled_by=row.settled_by_name,
    )  # fmt: skip


def send(desk: Desk, asked: Send, now: datetime) -> int:
    """Put something on its way. Raises Refused with the field that is wrong, Conflict for what cannot leave."""
    to = next((one for one in names(desk) if one.id == asked.to_store_id and not one.here), None)
    if to is None:
        raise Refused("It cannot be right", [FieldProblem("to_store_id", "Pick another store of the house")])
    if asked.tag is not None:
        packed = _pack_battery(desk, asked.tag, now)
    elif asked.piece_id is not None:
        packed = _pack_piece(desk, asked.piece_id, now)
    else:
        packed = _pack_customer(desk, asked.customer_id or 0)
    row = Transfer(
        **packed._asdict(), from_store_id=desk.staff.store_id, to_store_id=to.id, from_name=desk.store.name, to_name=to.name,
        note=asked.note, state="on_the_way", sent_at=now, sent_by=desk.staff.id, sent_by_name=desk.staff.name, settled_by_name="",
    )  # fmt: skip
    desk.session.add(row)
    desk.session.flush()
    _tell(desk, row)
    return row.id


def _pack_battery(desk: Desk, tag: int, now: datetime) -> _Packed:
    row = found_battery(desk, tag, lock=True)
    if row.place == Place.GONE:
        raise Conflict(f"tag {tag} left the house: there is nothing to send")
    check = batteries.latest_check(desk.session, row.id)
    judged = batteries.last_judged(desk.session, check.id)
    if row.place == Place.HELD_APART or (judged is not None and judged.outcome == Outcome.UNSAFE):
        raise Conflict("It is unsafe or held apart: it does not travel between stores. Hand it on as local rules say")
    if batteries.claim_of(desk.session, row.id) is not None:
        raise Conflict("A claim is written for it: it stays where the claim is")
    promise = rack.newest_promise(desk.session, check.id)
    promised = promise.promised_at if promise is not None else None
    entry = batteries.newest_take_in(desk.session, check.id)
    written = take_in_of(entry).model_copy(
        update={"promised_at": None, "waits": False, "customer_id": None, "vehicle_id": None}
    )
    car, person = row.vehicle, row.customer
    body = {
        "take_in": written.model_dump(mode="json", exclude={"customer_name", "customer_phone", "customer_plate"}),
        "customer": None if person is None or person.erased_at else {"name": person.name, "phone": person.phone, "plate": person.plate},
        "car": None if car is None else {name: getattr(car, name) for name in ("make", "model", "from_year", "engine", "trim")},
        "promised_at": promised.isoformat() if promised is not None and promised > now else None,
        "readings": [
            {
                "uuid": str(one.reading_uuid), "kind": one.kind, "taken_at": one.taken_at.isoformat(), "kept_at": one.kept_at.isoformat(),
                "replaces": str(one.replaces) if one.replaces else None, "body": one.body,
                "who": str(one.staff.person_uuid), "name": one.staff.name,
            }
            for one in batteries.readings_of(desk.session, check.id)
        ],
    }  # fmt: skip
    move(desk, row, Place.ON_THE_WAY, None, now)
    announce_battery(desk, row, check.id)
    customer_id = None if person is None else person.id
    return _Packed("battery", row.line or "no line", body, battery_id=row.id, customer_id=customer_id, tag=tag)


def _pack_piece(desk: Desk, piece_id: int, now: datetime) -> _Packed:
    piece, item = found_piece(desk, piece_id)
    if piece.mark:
        raise Conflict("this piece is set aside: take it back first")
    piece.mark = "on_the_way"
    desk.session.add(
        PieceEntry(piece_id=piece.id, what="sent", done_at=now, staff_id=desk.staff.id, volts=None, note="")
    )
    tell_goods(desk)
    told = {
        name: value.isoformat() if hasattr(value, "isoformat") else value
        for name in _PIECE_FIELDS
        for value in [getattr(piece, name)]
    }
    body = {"item": item_of(item).model_copy(update={"supplier_id": None}).model_dump(mode="json"), "piece": told}
    return _Packed("piece", item.name, body, piece_id=piece.id)


_PIECE_FIELDS = (
    "arrived_on", "made_on", "dry_charged", "filled_on", "charged_on", "last_volts", "last_volts_on", "serial",
)  # fmt: skip


def _pack_customer(desk: Desk, customer_id: int) -> _Packed:
    person = customers.root(desk.session, customer_id)
    if person is None or person.erased_at is not None:
        raise NotThere("nobody of that number is known here")
    body = {"customer": {"name": person.name, "phone": person.phone, "plate": person.plate}}
    return _Packed("customer", "a customer", body, customer_id=person.id)


def arrived(desk: Desk, transfer_id: int, now: datetime) -> int | None:
    """It is here: written in as this store's own. Returns the tag a battery gets here. Settled once, whoever presses."""
    row = _open(desk, transfer_id)
    if row.to_store_id != desk.staff.store_id:
        raise Conflict(f"it goes to {row.to_name}: they say when it is there")
    if row.kind == "battery":
        row.arrived_tag = _unpack_battery(desk, row, now)
    elif row.kind == "piece":
        _unpack_piece(desk, row, now)
    elif row.body.get("customer"):
        _unpack_customer(desk, row.body["customer"])
    _settled(desk, row, "arrived", now)
    stores.settle(desk.session, row.id)
    announce(desk.session, row.from_store_id, "everything")
    return row.arrived_tag


def call_back(desk: Desk, transfer_id: int, now: datetime) -> None:
    """It does not go after all: it stands at the counter again, or on the shelf."""
    row = _open(desk, transfer_id)
    if row.from_store_id != desk.staff.store_id:
        raise Conflict(f"{row.from_name} sent it: they call it back")
    _settled(desk, row, "called_back", now)
    if row.battery_id is not None and row.tag is not None:
        battery = found_battery(desk, row.tag, lock=True, wherever=True)
        move(desk, battery, Place.COUNTER, None, now)
        announce_battery(desk, battery, batteries.latest_check(desk.session, battery.id).id)
    if row.piece_id is not None:
        stores.piece_of(desk.session, row.piece_id).mark = ""
        desk.session.add(
            PieceEntry(
                piece_id=row.piece_id, what="called back", done_at=now, staff_id=desk.staff.id, volts=None, note=""
            )
        )
        tell_goods(desk)


def _open(desk: Desk, transfer_id: int) -> Transfer:
    row = stores.transfer(desk.session, transfer_id)
    if row is None:
        raise NotThere("nothing of that number is on its way")
    if row.state != "on_the_way":
        said = "is here already" if row.state == "arrived" else "was called back"
        raise Conflict(f"it {said}: {row.settled_by_name} said so")
    return row


def _settled(desk: Desk, row: Transfer, state: str, now: datetime) -> None:
    row.state, row.settled_at, row.settled_by_name = state, now, desk.staff.name
    row.body = {}
    desk.session.flush()
    _tell(desk, row)


def _tell(desk: Desk, row: Transfer) -> None:
    for store_id in (row.from_store_id, row.to_store_id):
        announce(desk.session, store_id, "transfers")


def _unpack_battery(desk: Desk, row: Transfer, now: datetime) -> int:
    told = row.body
    person, car = told.get("customer") or {}, told.get("car")
    found = shop.same_car(desk.session, **car) if car else None
    written = TakeIn.model_validate(
        {
            **told["take_in"], "vehicle_id": None if found is None else found.id, "promised_at": told.get("promised_at"),
            **{f"customer_{name}": value for name, value in person.items()},
        }
    )  # fmt: skip
    today = desk.today(now)
    if written.sold_on is not None and written.sold_on > today:
        written = written.model_copy(update={"sold_on": today})
    if written.promised_at is not None and written.promised_at <= now:
        written = written.model_copy(update={"promised_at": None})
    tag = take_in(desk, written, now, label_is_right=True)
    check = batteries.latest_check(desk.session, found_battery(desk, tag).id)
    for one in told["readings"]:
        author = _author(desk, uuid.UUID(one["who"]), one["name"], now)
        name, replaced = _here(desk, one["uuid"]), one["replaces"] and _here(desk, one["replaces"])
        body = {**one["body"], "id": str(name), "replaces": str(replaced) if replaced else None}
        desk.session.add(
            ReadingRow(
                reading_uuid=name, check_id=check.id, kind=one["kind"], taken_at=datetime.fromisoformat(one["taken_at"]),
                kept_at=datetime.fromisoformat(one["kept_at"]), staff_id=author.id, replaces=replaced, body=body,
            )
        )  # fmt: skip
        desk.session.flush()
    judge_again(desk, tag, now)
    return tag


def _here(desk: Desk, name: str) -> uuid.UUID:
    """A reading's name in this store: the same however often it is asked, and another than where it was taken."""
    return uuid.uuid5(uuid.UUID(name), f"store {desk.staff.store_id}")


def _author(desk: Desk, person: uuid.UUID, name: str, now: datetime) -> Staff:
    """Who read it elsewhere stands here by name alone: without a PIN, not at work."""
    known = stores.author(desk.session, person)
    if known is None:
        known = Staff(person_uuid=person, name=name, role="counter", pin_hash="", left_at=now)
        desk.session.add(known)
        desk.session.flush()
    return known


def _unpack_piece(desk: Desk, row: Transfer, now: datetime) -> None:
    written = GoodsItem.model_validate(row.body["item"])
    item = goods.item_named(desk.session, written.name)
    if item is None:
        item = CatalogueItem(edition=1, in_stock=0)
        fill_item(desk, item, written)
        desk.session.add(item)
        desk.session.flush()
        desk.session.add(
            ItemEntry(item_id=item.id, edition=1, written_at=now, staff_id=desk.staff.id, body=row.body["item"])
        )
    piece = StockPiece(item_id=item.id, **row.body["piece"])
    desk.session.add(piece)
    desk.session.flush()
    desk.session.add(
        PieceEntry(
            piece_id=piece.id,
            what="received",
            done_at=now,
            staff_id=desk.staff.id,
            volts=None,
            note=f"from {row.from_name}",
        )
    )
    tell_goods(desk)


def _unpack_customer(desk: Desk, person: dict[str, str]) -> None:
    entry = whose(desk, Written(person["name"], person["phone"], person["plate"]), None, None)
    if entry is not None:
        desk.session.add(entry)
        desk.session.flush()
