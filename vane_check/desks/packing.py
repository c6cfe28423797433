"""What travels from store to store: packed where it leaves, unpacked where it is said to be here."""

import uuid
from datetime import datetime
from typing import Any, Literal, NamedTuple

from ..core.findings.outcomes import Outcome
from ..core.life.customers import Written
from ..core.words import for_record, say
from ..records import batteries, customers, goods, rack, shop, stores
from ..records.models import CatalogueItem, ItemEntry, PieceEntry, ReadingRow, Staff, StockPiece, Transfer
from .check import judge_again
from .counter import TakeIn, battery_or_refused, move, take_in, take_in_of
from .customer_match import whose
from .desk import Conflict, Desk, NotThere
from .items import GoodsItem, fill_item, item_of, tell_goods
from .pieces import piece_or_refused
from .views import Place, announce_battery

Kind = Literal["battery", "piece", "customer"]


class Packed(NamedTuple):
    """What is sent, as the other store needs it."""

    kind: Kind
    subject: str
    body: dict[str, Any]
    battery_id: int | None = None
    piece_id: int | None = None
    customer_id: int | None = None
    tag: int | None = None


def pack_battery(desk: Desk, tag: int, now: datetime) -> Packed:
    """A battery with its take-in, customer and every reading. Raises Conflict for what cannot travel."""
    row = battery_or_refused(desk, tag, lock=True)
    if row.place == Place.GONE:
        raise Conflict(say("packing.tag_left_the_house_there_is_nothing_to", tag=tag))
    check = batteries.latest_check(desk.session, row.id)
    judged = batteries.last_judged(desk.session, check.id)
    if row.place == Place.HELD_APART or (judged is not None and judged.outcome == Outcome.UNSAFE):
        raise Conflict(say("packing.it_is_unsafe_or_held_apart_it_does_not"))
    if batteries.claim_of(desk.session, row.id) is not None:
        raise Conflict(say("packing.a_claim_is_written_for_it_it_stays_where"))
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
                "uuid": str(reading.reading_uuid), "kind": reading.kind, "taken_at": reading.taken_at.isoformat(), "kept_at": reading.kept_at.isoformat(),
                "replaces": str(reading.replaces) if reading.replaces else None, "body": reading.body,
                "who": str(reading.staff.person_uuid), "name": reading.staff.name,
            }
            for reading in batteries.readings_of(desk.session, check.id)
        ],
    }  # fmt: skip
    move(desk, row, Place.ON_THE_WAY, None, now)
    announce_battery(desk, row, check.id)
    customer_id = None if person is None else person.id
    return Packed(
        "battery",
        row.line or for_record(say("common.no_line")),
        body,
        battery_id=row.id,
        customer_id=customer_id,
        tag=tag,
    )


def pack_piece(desk: Desk, piece_id: int, now: datetime) -> Packed:
    """A piece with its item and age. Raises Conflict for what cannot travel."""
    piece, item = piece_or_refused(desk, piece_id)
    if piece.mark:
        raise Conflict(say("packing.this_piece_is_set_aside_take_it_back_first"))
    piece.mark = "on_the_way"
    desk.session.add(
        PieceEntry(piece_id=piece.id, what="sent", done_at=now, staff_id=desk.staff.id, volts=None, note="")
    )
    tell_goods(desk)
    values = {
        name: value.isoformat() if hasattr(value, "isoformat") else value
        for name in _PIECE_FIELDS
        for value in [getattr(piece, name)]
    }
    body = {"item": item_of(item).model_copy(update={"supplier_id": None}).model_dump(mode="json"), "piece": values}
    return Packed("piece", item.name, body, piece_id=piece.id)


_PIECE_FIELDS = (
    "arrived_on", "made_on", "dry_charged", "filled_on", "charged_on", "last_volts", "last_volts_on", "serial",
)  # fmt: skip


def pack_customer(desk: Desk, customer_id: int) -> Packed:
    """A customer alone. Raises NotThere."""
    person = customers.person_of(desk.session, customer_id)
    if person is None or person.erased_at is not None:
        raise NotThere(say("packing.nobody_of_that_number_is_known_here"))
    body = {"customer": {"name": person.name, "phone": person.phone, "plate": person.plate}}
    return Packed("customer", for_record(say("packing.a_customer")), body, customer_id=person.id)


def unpack_battery(desk: Desk, row: Transfer, now: datetime) -> int:
    """Take a battery in as it was sent. Returns the tag it has here."""
    values = row.body
    person, car = values.get("customer") or {}, values.get("car")
    same_car = shop.same_car(desk.session, **car) if car else None
    entry = TakeIn.model_validate(
        {
            **values["take_in"], "vehicle_id": None if same_car is None else same_car.id, "promised_at": values.get("promised_at"),
            **{f"customer_{name}": value for name, value in person.items()},
        }
    )  # fmt: skip
    today = desk.today(now)
    if entry.sold_on is not None and entry.sold_on > today:
        entry = entry.model_copy(update={"sold_on": today})
    if entry.promised_at is not None and entry.promised_at <= now:
        entry = entry.model_copy(update={"promised_at": None})
    tag = take_in(desk, entry, now, label_is_right=True)
    check = batteries.latest_check(desk.session, battery_or_refused(desk, tag).id)
    for reading in values["readings"]:
        author = _author(desk, uuid.UUID(reading["who"]), reading["name"], now)
        name, replaced = _here(desk, reading["uuid"]), reading["replaces"] and _here(desk, reading["replaces"])
        body = {**reading["body"], "id": str(name), "replaces": str(replaced) if replaced else None}
        desk.session.add(
            ReadingRow(
                reading_uuid=name, check_id=check.id, kind=reading["kind"], taken_at=datetime.fromisoformat(reading["taken_at"]),
                kept_at=datetime.fromisoformat(reading["kept_at"]), staff_id=author.id, replaces=replaced, body=body,
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


def unpack_piece(desk: Desk, row: Transfer, now: datetime) -> None:
    """Put a piece on the shelf here, under the item of its name."""
    entry = GoodsItem.model_validate(row.body["item"])
    item = goods.item_named(desk.session, entry.name)
    if item is None:
        item = CatalogueItem(edition=1, in_stock=0)
        fill_item(desk, item, entry)
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
            note=for_record(say("packing.from_store", store=row.from_name)),
        )
    )
    tell_goods(desk)


def unpack_customer(desk: Desk, person: dict[str, str]) -> None:
    """Make a customer known here, or find who it is already."""
    entry = whose(desk, Written(person["name"], person["phone"], person["plate"]), None, None)
    if entry is not None:
        desk.session.add(entry)
        desk.session.flush()
