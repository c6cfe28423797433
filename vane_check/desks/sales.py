"""Selling a piece: what goes over the counter with it, what it becomes for the till, and the sale as it is shown."""

import uuid
from datetime import datetime

from pydantic import BaseModel, Field

from ..core.battery.label import Battery, CameIn, Chemistry, Complaint, Context, Rating, RatingScale, Use
from ..core.facts.state_of_charge import state_of_charge_pct
from ..core.goods.fitting import FittingCar
from ..core.matching import Requirement, space_of
from ..core.matching.adaptations import spacer_words
from ..core.readings import RestVolts
from ..core.readings.faults import FieldProblem
from ..core.tables import entry_limits, footprints
from ..core.units.compare import PERCENT, under
from ..core.units.model import Model, ShortText
from ..core.units.money import tax_within_cents
from ..core.words import NOTHING, Text, Words, digits, fixed, in_a_row, say
from ..records import goods, shop
from ..records.events import announce
from ..records.models import BatteryRow, CatalogueItem, PieceEntry, Sale, StockPiece, Vehicle
from . import match
from .check import keep_reading
from .counter import MOST, PutThere, TakeIn, battery_or_refused, put, take_in
from .desk import Desk, Refused
from .fitting_list import OLD_ONE, TickedStep, sale_or_refused, steps_of
from .items import item_or_refused
from .match import piece_state
from .match_claims import AskMatch
from .pieces import piece_or_refused
from .tax import Tax, money, tax_now
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
    price_cents: int | None = Field(None, ge=0, le=int(_LIMITS["price_cents"].high))
    old_tag: int | None = Field(None, ge=0, le=MOST, description="the battery it replaces, where that has a tag")
    vehicle_id: int | None = Field(None, ge=0, le=MOST)
    use: Use = Use.PRIVATE
    stop_start_car: bool = False
    customer_name: ShortText = ""
    customer_phone: ShortText = ""
    customer_plate: ShortText = ""
    fitted_here: bool = Field(True, description="it is fitted in the shop; else it leaves over the counter")


class SaleView(BaseModel):
    """A sale with its fitting list."""

    tag: int
    name: str
    serial: str
    sold_at: datetime
    who: str
    volts: float
    price_cents: int
    core_deposit_cents: int
    tax_words: Words
    """The tax within the price as it was at the sale; empty where there was none."""
    tax_cents: int
    till_line: Words
    """What it is rung up as: item, serial, price with the tax in it, the deposit while the old one is out."""
    deposit_back: bool
    old_tag: int | None
    car: str
    battery_place: str
    access: str
    steps: list[TickedStep]
    left: int
    currency: str


def sell(desk: Desk, sold: Sell, now: datetime) -> int:
    """Hand a piece over: it leaves the stock, becomes a battery with a tag and a life, and has its fitting list.

    Raises Refused with the field: a piece that may not be sold, volts under the charged line; Conflict for one that went.
    """
    item = item_or_refused(desk, sold.item_id)
    piece = _piece(desk, sold, item, now)
    state = piece_state(piece, item, desk.today(now), desk.rules)
    faults = list(_faults(desk, sold, item, piece, state.is_dry))
    if state.refused:
        faults.append(FieldProblem("piece_id", say("sales.this_piece_take_another_or_send_it_back", why=state.why)))
    if faults:
        raise Refused(say("sales.it_cannot_be_sold_like_this"), faults)
    old = battery_or_refused(desk, sold.old_tag) if sold.old_tag is not None else None
    vehicle_id = sold.vehicle_id if sold.vehicle_id is not None else old.vehicle_id if old else None
    car = shop.vehicle(desk.session, vehicle_id) if vehicle_id is not None else None
    tag = take_in(desk, _take_piece(desk, sold, item, piece, old, vehicle_id, now), now, label_is_right=True)
    battery = battery_or_refused(desk, tag)
    sale = Sale(
        piece_id=piece.id, item_id=item.id, battery_id=battery.id, old_battery_id=old.id if old else None, sold_at=now,
        staff_id=desk.staff.id, volts=sold.volts, price_cents=state.price_cents if sold.price_cents is None else sold.price_cents,
        core_deposit_cents=item.core_deposit_cents, body={"car": _for_fitter(desk, item, car, old, now).model_dump(), "tax": tax_now(desk).model_dump()},
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
        piece
        for piece in pieces
        if not piece.mark and not piece_state(piece, item, desk.today(now), desk.rules).refused
    ]
    if not fresh:
        raise Refused(
            say("sales.none_in_stock"),
            [FieldProblem("item_id", say("sales.no_may_be_sold_now_order_one", item_name=item.name))],
        )
    return piece_or_refused(desk, fresh[0].id).piece


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
    if piece.mark:
        faults.append(FieldProblem("piece_id", say("sales.this_piece_was_set_aside_take_another")))
    if is_dry:
        faults.append(FieldProblem("piece_id", say("sales.this_piece_is_dry_fill_it_let_it_soak_and")))
    return faults


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
            came_in=CameIn.CARRIED_IN, complaint=Complaint.CHECK_ONLY, use=sold.use, stop_start_car=sold.stop_start_car
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


def sale_view(desk: Desk, tag: int) -> SaleView:
    """A sale with its fitting list as it stands."""
    sale, battery = sale_or_refused(desk, tag)
    steps = steps_of(desk, sale)
    tax = Tax.model_validate(sale.body.get("tax") or {})
    car, item = battery.vehicle, item_or_refused(desk, sale.item_id)
    old = desk.session.get(BatteryRow, sale.old_battery_id) if sale.old_battery_id else None
    view = SaleView(
        tag=tag, till_line=NOTHING, name=item.name, serial=battery.serial, sold_at=sale.sold_at, who=sale.staff.name, volts=sale.volts,
        price_cents=sale.price_cents, core_deposit_cents=sale.core_deposit_cents,
        tax_words=tax.words if tax.pct else NOTHING, tax_cents=tax_within_cents(sale.price_cents, tax.pct),
        deposit_back=any(step.step.key == OLD_ONE and step.done for step in steps), old_tag=old.tag if old else None,
        car=" ".join(part for part in (car.make, car.model, car.engine, car.trim) if part) if car else "",
        battery_place=car.battery_place if car else "", access=car.access if car else "", steps=steps,
        left=sum(not step.done for step in steps), currency=desk.store.currency,
    )  # fmt: skip
    return view.model_copy(update={"till_line": _till_line(view)})


def _till_line(sale: SaleView) -> Words:
    parts: list[Text] = [sale.name, f"SN {sale.serial}", money(sale.price_cents, sale.currency)]
    parts += (
        [say("sales.incl", tax_words=sale.tax_words, money=money(sale.tax_cents, sale.currency))]
        if sale.tax_words
        else []
    )
    owed = 0 if sale.deposit_back else sale.core_deposit_cents
    parts += [say("sales.deposit", money=money(owed, sale.currency))] if owed else []
    return in_a_row(parts, "  ")


class SoldView(BaseModel):
    """A sale in the list of the newest."""

    tag: int
    name: str
    serial: str
    sold_at: datetime
    price_cents: int


NEWEST = 30


def newest(desk: Desk) -> list[SoldView]:
    """The newest sales."""
    return [
        SoldView(
            tag=battery.tag, name=item.name, serial=battery.serial, sold_at=sale.sold_at, price_cents=sale.price_cents
        )
        for sale, battery, item in goods.newest_sales(desk.session, NEWEST)
    ]
