"""From store to store: a battery with all that was read of it, a piece of stock, a customer; in transit on both shelves."""

from datetime import datetime
from typing import Literal

from pydantic import BaseModel, Field, model_validator

from ..core.readings.faults import FieldProblem
from ..core.units.model import Model, ShortText
from ..core.words import Words, from_record, say
from ..records import batteries, stores
from ..records.events import announce
from ..records.models import PieceEntry, Transfer
from .counter import MOST, battery_or_refused, move
from .desk import Conflict, Desk, NotThere, Refused
from .items import tell_goods
from .packing import Kind, pack_battery, pack_customer, pack_piece, unpack_battery, unpack_customer, unpack_piece
from .stores import StoreName, names
from .views import Place, announce_battery

LATELY = 10


class Send(Model):
    """What goes where: one of a battery by its tag, a piece, a customer."""

    to_store_id: int = Field(ge=0, le=MOST)
    tag: int | None = Field(None, ge=0, le=MOST)
    piece_id: int | None = Field(None, ge=0, le=MOST)
    customer_id: int | None = Field(None, ge=0, le=MOST)
    note: ShortText = ""

    @model_validator(mode="after")
    def _names_one_thing(self) -> "Send":
        if sum(sent is not None for sent in (self.tag, self.piece_id, self.customer_id)) != 1:
            raise ValueError(say("sending.send_one_thing_a_battery_a_piece_or_a"))
        return self


class TransferView(BaseModel):
    """Something between this store and another."""

    id: int
    kind: Kind
    subject: Words
    whose: Words
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


def view(desk: Desk) -> StoresView:
    """What whoever works here sees of the other stores."""
    return StoresView(
        stores=names(desk),
        on_the_way=[_view(desk, sending) for sending in stores.on_the_way(desk.session)],
        lately=[_view(desk, sending) for sending in stores.settled(desk.session, LATELY)],
    )


def _view(desk: Desk, row: Transfer) -> TransferView:
    person = row.body.get("customer") or {}
    return TransferView(
        id=row.id, kind=row.kind, subject=from_record(row.subject), tag=row.tag, arrived_tag=row.arrived_tag, note=row.note,
        whose=person.get("name") or person.get("plate") or "", from_name=row.from_name, to_name=row.to_name,
        coming=row.to_store_id == desk.staff.store_id, state=row.state, sent_at=row.sent_at, sent_by=row.sent_by_name,
        settled_at=row.settled_at, settled_by=row.settled_by_name,
    )  # fmt: skip


def send(desk: Desk, body: Send, now: datetime) -> int:
    """Put something on its way. Raises Refused with the field that is wrong, Conflict for what cannot leave."""
    to = next((name for name in names(desk) if name.id == body.to_store_id and not name.here), None)
    if to is None:
        raise Refused(
            say("common.it_cannot_be_right"),
            [FieldProblem("to_store_id", say("sending.pick_another_store_of_the_house"))],
        )
    if body.tag is not None:
        packed = pack_battery(desk, body.tag, now)
    elif body.piece_id is not None:
        packed = pack_piece(desk, body.piece_id, now)
    else:
        packed = pack_customer(desk, body.customer_id or 0)
    row = Transfer(
        **packed._asdict(), from_store_id=desk.staff.store_id, to_store_id=to.id, from_name=desk.store.name, to_name=to.name,
        note=body.note, state="on_the_way", sent_at=now, sent_by=desk.staff.id, sent_by_name=desk.staff.name, settled_by_name="",
    )  # fmt: skip
    desk.session.add(row)
    desk.session.flush()
    _tell(desk, row)
    return row.id


def arrived(desk: Desk, transfer_id: int, now: datetime) -> int | None:
    """It is here: written in as this store's own. Returns the tag a battery gets here. Settled once, whoever presses."""
    row = _open(desk, transfer_id)
    if row.to_store_id != desk.staff.store_id:
        raise Conflict(say("sending.it_goes_to_they_say_when_it_is_there", to_name=row.to_name))
    if row.kind == "battery":
        row.arrived_tag = unpack_battery(desk, row, now)
    elif row.kind == "piece":
        unpack_piece(desk, row, now)
    elif row.body.get("customer"):
        unpack_customer(desk, row.body["customer"])
    _settled(desk, row, "arrived", now)
    stores.settle(desk.session, row.id)
    announce(desk.session, row.from_store_id, "everything")
    return row.arrived_tag


def call_back(desk: Desk, transfer_id: int, now: datetime) -> None:
    """It does not go after all: it stands at the counter again, or on the shelf."""
    row = _open(desk, transfer_id)
    if row.from_store_id != desk.staff.store_id:
        raise Conflict(say("sending.sent_it_they_call_it_back", from_name=row.from_name))
    _settled(desk, row, "called_back", now)
    if row.battery_id is not None and row.tag is not None:
        battery = battery_or_refused(desk, row.tag, lock=True, wherever=True)
        move(desk, battery, Place.COUNTER, None, now)
        announce_battery(desk, battery, batteries.latest_check(desk.session, battery.id).id)
    if row.piece_id is not None:
        stores.piece_of(desk.session, row.piece_id).mark = ""
        desk.session.add(
            PieceEntry(
                piece_id=row.piece_id,
                what="called back",
                done_at=now,
                staff_id=desk.staff.id,
                volts=None,
                note="",
            )
        )
        tell_goods(desk)


def _open(desk: Desk, transfer_id: int) -> Transfer:
    row = stores.transfer(desk.session, transfer_id)
    if row is None:
        raise NotThere(say("sending.nothing_of_that_number_is_on_its_way"))
    if row.state != "on_the_way":
        words = say("sending.is_here_already") if row.state == "arrived" else say("sending.was_called_back")
        raise Conflict(say("sending.it_said_so", words=words, settled_by_name=row.settled_by_name))
    return row


def _settled(desk: Desk, row: Transfer, state: str, now: datetime) -> None:
    row.state, row.settled_at, row.settled_by_name = state, now, desk.staff.name
    row.body = {}
    desk.session.flush()
    _tell(desk, row)


def _tell(desk: Desk, row: Transfer) -> None:
    for store_id in (row.from_store_id, row.to_store_id):
        announce(desk.session, store_id, "transfers")
