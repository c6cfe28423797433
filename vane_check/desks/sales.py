"""Selling a piece: what goes over the counter with it, what it becomes for the till, and the sale as it is shown."""

import uuid
from datetime import datetime
from typing import NamedTuple

from pydantic import Field

from ..core.battery.label import Battery, CameIn, Chemistry, Complaint, Context, Rating, RatingScale, Use
from ..core.facts.state_of_charge import state_of_charge_pct
from ..core.goods.fitting import FittingCar
from ..core.goods.pieces import PieceState
from ..core.goods.terms import Terms
from ..core.matching import Requirement, space_of
from ..core.matching.adaptations import spacer_words
from ..core.readings import RestVolts
from ..core.readings.faults import FieldProblem
from ..core.tables import entry_limits, footprints
from ..core.units.compare import PERCENT, under
from ..core.units.model import Day, Model, ShortText
from ..core.words import NOTHING, dated, digits, fixed, say
from ..records import batteries, goods, serials, shop
from ..records.events import announce
from ..records.models import BatteryRow, CatalogueItem, PieceEntry, Sale, StockPiece, Vehicle
from . import match
from .check import keep_reading
from .counter import MOST, PutThere, TakeIn, battery_or_refused, put, take_in
from .desk import Desk, Refused
from .items import item_or_refused
from .match import piece_state
from .match_claims import AskMatch
from .pieces import piece_or_refused
from .tax import tax_now
from .views import Place

_LIMITS = entry_limits()


class Sell(Model):
    """A piece handed over, with what is read and written at the counter."""

    item_id: int = Field(ge=0, le=MOST)
    piece_id: int | None = Field(None, ge=0, le=MOST, description="this very piece; else the oldest that may be sold")
    volts: float = Field(
        ge=_LIMITS["piece_volts"].low, le=_LIMITS["piece_volts"].high, description="rest volts at hand-over"
    )
    serial: ShortText = Field(min_length=1)
    serial_is_right: bool = Field(
        False, description="somebody looked again: this serial, though the house sold it before"
    )
    price_cents: int | None = Field(None, ge=0, le=int(_LIMITS["price_cents"].high))
    old_tag: int | None = Field(None, ge=0, le=MOST, description="the battery it replaces, where that has a tag")
    vehicle_id: int | None = Field(None, ge=0, le=MOST)
    use: Use = Use.PRIVATE
    stop_start_car: bool = False
    customer_name: ShortText = ""
    customer_phone: ShortText = ""
    customer_plate: ShortText = ""
    fitted_here: bool = Field(True, description="it is fitted in the shop; else it leaves over the counter")


class Settles(Model):
    """What a battery keeps of an earlier sale, the one it was given for or its own first: its dates, and the terms as they were."""

    sold_on: Day | None
    made_on: Day | None
    terms: Terms | None


class Given(NamedTuple):
    """What a sale settles: the claim, the credit that came off its price [cents], and what it keeps of the first one."""

    claim_id: int
    credit_cents: int
    settles: Settles


def sell(desk: Desk, sold: Sell, now: datetime, given: Given | None = None, takes_deposit: bool = True) -> int:
    """Hand a piece over: it leaves the stock, becomes a battery with a tag and a life, and has its fitting list. With a claim it is
    given under warranty: no deposit is taken, for the old one stays here, and it keeps the first one's dates. `takes_deposit` is
    False too where the old one of an exchange is here already.

    Raises Refused with the field: a piece that may not be sold, volts under the charged line; Conflict for one that went.
    """
    batteries.lock_serial(desk.session, sold.serial)
    item = item_or_refused(desk, sold.item_id)
    piece = _piece(desk, sold, item, now)
    state = piece_state(piece, item, desk.today(now), desk.rules)
    faults = [*_faults(desk, sold, item, piece, state.is_dry), *_serial_faults(desk, sold)]
    if state.refused and piece.mark != "used":
        faults.append(FieldProblem("piece_id", say("sales.this_piece_take_another_or_send_it_back", why=state.why)))
    if faults:
        raise Refused(say("sales.it_cannot_be_sold_like_this"), faults)
    old = battery_or_refused(desk, sold.old_tag) if sold.old_tag is not None else None
    vehicle_id = sold.vehicle_id if sold.vehicle_id is not None else old.vehicle_id if old else None
    car = shop.vehicle(desk.session, vehicle_id) if vehicle_id is not None else None
    tag = take_in(desk, _take_piece(desk, sold, item, piece, old, vehicle_id, now), now, label_is_right=True)
    battery = battery_or_refused(desk, tag)
    tax, price = tax_now(desk, item), state.price_cents if sold.price_cents is None else sold.price_cents
    settles = given.settles if given else _of_first_sale(desk, piece)
    sale = Sale(
        piece_id=piece.id, item_id=item.id, battery_id=battery.id, old_battery_id=old.id if old else None, claim_id=given.claim_id if given else None,
        sold_at=now, staff_id=desk.staff.id, volts=sold.volts, price_cents=price + tax.on_top_cents(price), credit_cents=given.credit_cents if given else 0,
        core_deposit_cents=item.core_deposit_cents if takes_deposit and given is None else 0,
        body={
            "car": _for_fitter(desk, item, car, old, now).model_dump(), "tax": tax.model_dump(), "currency": desk.store.currency,
            "fitted_here": sold.fitted_here, "name": item.name,
        } | ({"warranty": settles.model_dump(mode="json")} if settles else {}),
    )  # fmt: skip
    piece.sold_on, piece.serial = desk.today(now), sold.serial
    desk.session.add_all(
        [
            sale,
            PieceEntry(piece_id=piece.id, what="sold", done_at=now, staff_id=desk.staff.id, volts=sold.volts, note=""),
        ]
    )
    desk.session.flush()
    read = RestVolts(id=str(uuid.uuid4()), taken_at=now, volts=sold.volts)
    keep_reading(desk, tag, read, now)
    put(desk, tag, PutThere(place=Place.READY if sold.fitted_here else Place.GONE), now)
    announce(desk.session, desk.staff.store_id, "goods")
    return tag


def _of_first_sale(desk: Desk, piece: StockPiece) -> Settles | None:
    """What a piece that came back used keeps: its time runs from its first sale. One whose sale was void was never sold."""
    if piece.mark != "used" or piece.from_sale_id is None:
        return None
    first = goods.sale(desk.session, piece.from_sale_id)
    kept = first.body.get("warranty")
    return (
        Settles.model_validate(kept)
        if kept
        else Settles(sold_on=desk.today(first.sold_at), made_on=piece.made_on, terms=None)
    )


def _piece(desk: Desk, sold: Sell, item: CatalogueItem, now: datetime) -> StockPiece:
    if sold.piece_id is not None:
        piece, of = piece_or_refused(desk, sold.piece_id)
        if of.id != item.id:
            raise Refused(
                say("sales.another_item"), [FieldProblem("piece_id", say("sales.this_piece_is_of_another_item"))]
            )
        return piece
    pieces = goods.unsold_of(desk.session, [item.id]).get(item.id, [])
    fresh = [
        piece for piece in pieces if not piece.mark and _may_go(piece_state(piece, item, desk.today(now), desk.rules))
    ]
    if not fresh:
        raise Refused(
            say("sales.none_in_stock"),
            [FieldProblem("item_id", say("sales.no_may_be_sold_now_order_one", item_name=item.name))],
        )
    return piece_or_refused(desk, fresh[0].id).piece


def _may_go(state: PieceState) -> bool:
    """It may be sold as new, and there is acid in it."""
    return not state.refused and not state.is_dry


def _faults(desk: Desk, sold: Sell, item: CatalogueItem, piece: StockPiece, is_dry: bool) -> list[FieldProblem]:
    faults = []
    charge = state_of_charge_pct(sold.volts, Chemistry(item.chemistry), item.nominal_volts)
    if sold.volts > item.nominal_volts * _LIMITS["volts_per_nominal_volt"].high:
        faults.append(
            FieldProblem(
                "volts",
                say(
                    "sales.v_cannot_be_read_on_a_v_battery", volts=digits(sold.volts), nominal_volts=item.nominal_volts
                ),
            )
        )
    elif under(charge, desk.rules.rest.charged_to_hand_over_soc_pct.value, PERCENT):
        faults.append(
            FieldProblem(
                "volts",
                say(
                    "sales.v_is_charged_charge_it_before_it_is_handed",
                    volts=fixed(sold.volts, 2),
                    charge=fixed(charge, 0),
                ),
            )
        )
    if piece.mark == "used" and sold.price_cents is None:
        faults.append(FieldProblem("price_cents", say("sales.it_came_back_used_say_what_it_costs")))
    elif piece.mark == "dead":
        faults.append(FieldProblem("piece_id", say("sales.this_piece_came_back_dead_it_goes_to_recycling")))
    elif piece.mark not in ("", "used"):
        faults.append(FieldProblem("piece_id", say("sales.this_piece_was_set_aside_take_another")))
    if is_dry:
        faults.append(FieldProblem("piece_id", say("sales.this_piece_is_dry_fill_it_let_it_soak_and")))
    return faults


def _serial_faults(desk: Desk, sold: Sell) -> list[FieldProblem]:
    """A serial that went over a counter of the house before: looked at again, or it is another battery's."""
    before = next((one for one in serials.done_with(desk.session, sold.serial)), None)
    if before is None or sold.serial_is_right:
        return []
    on = dated(before.at.astimezone(desk.zone).date(), "%d %b %Y")
    what = say("sales.serial_was_claimed_on") if before.what == "claimed" else say("sales.serial_was_sold_on")
    return [FieldProblem("serial", say("sales.this_serial", what=what, on=on, store=before.store))]


def _take_piece(
    desk: Desk,
    sold: Sell,
    item: CatalogueItem,
    piece: StockPiece,
    old: BatteryRow | None,
    vehicle_id: int | None,
    now: datetime,
) -> TakeIn:
    customer = old.customer if old and not sold.customer_name else None
    label = Battery(
        line=item.line, nominal_volts=item.nominal_volts, chemistry=Chemistry(item.chemistry),
        rating=Rating(amps=item.rated_amps or item.cca_amps, scale=RatingScale(item.rated_scale if item.rated_amps else "CCA")),
        capacity_ah_20h=item.capacity_ah_20h, reserve_minutes=item.reserve_minutes,
        group_code=item.group_code if item.group_code in footprints() else None, serial=sold.serial, made_on=piece.made_on,
    )  # fmt: skip
    return TakeIn(
        battery=label,
        context=Context(
            came_in=CameIn.SOLD, complaint=Complaint.CHECK_ONLY, use=sold.use, stop_start_car=sold.stop_start_car
        ),
        sold_on=desk.today(now),
        customer_name=customer.name if customer else sold.customer_name,
        customer_phone=customer.phone if customer else sold.customer_phone,
        customer_plate=customer.plate if customer else sold.customer_plate,
        vehicle_id=vehicle_id,
    )


def _for_fitter(
    desk: Desk, item: CatalogueItem, car: Vehicle | None, old: BatteryRow | None, now: datetime
) -> FittingCar:
    """What the list needs to know, as it is at the sale: later changes of the car's list change no list that is begun."""
    body = AskMatch(tag=old.tag if old else None, vehicle_id=car.id if car else None)
    requirement: Requirement | None = match.requirement_for(desk, body)
    spacer, shim = None, False
    if requirement is not None:
        space = space_of(requirement, desk.rules)
        candidate = match.plain_candidate(item)
        spacer, shim = spacer_words(space, candidate), (item.post, space.post) == ("pencil", "top")
    return FittingCar(
        positive_side=item.positive_side,
        memory=car.memory if car else "",
        programme=car.programme if car else "",
        needs_registration=bool(car and (car.needs_registration or car.programme)),
        after=tuple(car.after_fitting) if car else (),
        vent_tube=bool(car and car.vent_tube),
        vent_side=(car.vent_side or "") if car else "",
        spacer=spacer or NOTHING,
        shim=shim,
        hold_down={
            "none": say("sales.over_the_top"),
            "long": say("sales.at_the_long_sides_of_its_foot"),
            "all": say("sales.at_its_foot"),
        }[item.ledge],
        core_deposit=item.core_deposit_cents > 0,
    )
