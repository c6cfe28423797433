"""A sale taken back: void on its own day, returned within its days, or exchanged; the piece goes back as what it now is."""

from datetime import date, datetime
from typing import Literal

from pydantic import BaseModel, Field

from ..core.battery.label import Use
from ..core.findings.outcomes import FAILED, Outcome
from ..core.goods.returns import return_until
from ..core.goods.terms import Terms, in_force
from ..core.readings.faults import FieldProblem
from ..core.tables import entry_limits
from ..core.units.compare import VOLTS, under
from ..core.units.model import Model, ShortText
from ..core.words import dated, fixed, say, words_of
from ..records import batteries, goods, shop
from ..records.events import announce
from ..records.models import BatteryRow, CatalogueItem, PieceEntry, Sale, StockPiece, WayBack
from .counter import PutThere, put
from .desk import Conflict, Desk, Refused
from .fitting_list import OLD_ONE, sale_or_refused, steps_of
from .sales import Sell, sell
from .tax import money
from .terms import terms_of
from .views import Place

_LIMITS = entry_limits()


class TakeBack(Model):
    """A sale taken back, with why; what is given back of its price, and its volts as it came."""

    what: Literal["void", "return", "exchange"]
    reason: ShortText = Field(min_length=1)
    volts: float | None = Field(None, ge=_LIMITS["piece_volts"].low, le=_LIMITS["piece_volts"].high)
    refund_cents: int | None = Field(
        None, ge=0, le=int(_LIMITS["price_cents"].high), description="all that was paid where nothing is said"
    )
    other: Sell | None = Field(None, description="of an exchange: the one handed over for it")


class WayBackView(BaseModel):
    """How a sale was taken back."""

    what: Literal["void", "return", "exchange"]
    reason: str
    at: datetime
    who: str
    refund_cents: int
    deposit_back_cents: int
    piece_id: int
    piece_is: Literal["new", "used", "dead"]
    other_tag: int | None


class MayGoBack(BaseModel):
    """What may still be done about a sale: void today, returned until a day; what it would give back."""

    void: bool
    return_until: date
    paid_cents: int
    deposit_back_cents: int


def may_go_back(desk: Desk, sale: Sale, now: datetime) -> MayGoBack:
    """What may still be done about a sale that stands."""
    sold_on = desk.today(sale.sold_at)
    return MayGoBack(
        void=desk.today(now) == sold_on,
        return_until=return_until(sold_on, _terms_of_sale(desk, sale), desk.rules),
        paid_cents=sale.price_cents,
        deposit_back_cents=_deposit_owed(desk, sale),
    )


def _terms_of_sale(desk: Desk, sale: Sale) -> Terms | None:
    """The terms of its line and item that were in force on its day."""
    item = goods.item(desk.session, sale.item_id)
    editions = [terms_of(each) for each in shop.terms_of_line(desk.session, item.line)] if item else []
    return in_force(editions, desk.today(sale.sold_at), item.name if item else "")


def _deposit_owed(desk: Desk, sale: Sale) -> int:
    """The deposit while the old battery is out; once it is here it was given back."""
    is_back = any(step.step.key == OLD_ONE and step.done for step in steps_of(desk, sale))
    return 0 if is_back else sale.core_deposit_cents


def take_back(desk: Desk, tag: int, body: TakeBack, now: datetime) -> int:
    """Take a sale back: its price and deposit go back, the piece goes into stock as what it now is. Answers the tag of the sale that
    stands then: the exchanged one's, else its own.

    Raises Conflict where it was taken back, Refused with the field: no reason, too late, more than was paid.
    """
    sale, battery = sale_or_refused(desk, tag)
    goods.lock_sale(desk.session, sale.id)
    if goods.way_back(desk.session, sale.id) is not None:
        raise Conflict(say("ways_back.this_sale_was_taken_back_already"))
    item = goods.item(desk.session, sale.item_id, lock=True)
    assert item is not None
    _faultless(desk, sale, battery, item, body, now)
    other_tag = None
    if body.what == "exchange" and body.other is not None:
        other_tag = _hand_the_other(desk, sale, battery, body.other, now)
    piece = _piece_again(desk, sale, battery, item, body, now)
    other = sale_or_refused(desk, other_tag)[0] if other_tag is not None else None
    refund = sale.price_cents if body.refund_cents is None or body.what == "void" else body.refund_cents
    desk.session.add(
        WayBack(
            sale_id=sale.id, staff_id=desk.staff.id, what=body.what, reason=body.reason, done_at=now, refund_cents=refund,
            deposit_back_cents=_deposit_owed(desk, sale), volts=body.volts, piece_id=piece.id, exchanged_sale_id=other.id if other else None,
        )
    )  # fmt: skip
    desk.session.flush()
    if battery.place != Place.GONE:
        put(desk, tag, PutThere(place=Place.GONE), now)
    announce(desk.session, desk.staff.store_id, "goods")
    return tag if other_tag is None else other_tag


def _hand_the_other(desk: Desk, sale: Sale, battery: BatteryRow, other: Sell, now: datetime) -> int:
    """The one that is handed over for it: to the same customer, for the same car, use and old battery; no second deposit is taken where
    that came already. Faults stand in the fields of its own form."""
    visit, customer = batteries.first_check(desk.session, battery.id), battery.customer
    old = desk.session.get(BatteryRow, sale.old_battery_id) if sale.old_battery_id is not None else None
    for_them = other.model_copy(
        update={
            "vehicle_id": battery.vehicle_id, "use": Use(visit.use), "stop_start_car": visit.stop_start_car, "old_tag": old.tag if old else None,
            "customer_name": customer.name if customer else "", "customer_phone": customer.phone if customer else "",
            "customer_plate": customer.plate if customer else "",
        }
    )  # fmt: skip
    try:
        return sell(desk, for_them, now, takes_deposit=not sale.core_deposit_cents or _deposit_owed(desk, sale) > 0)
    except Refused as refused:
        problems = [each._replace(path=f"other.{each.path}") for each in refused.problems]
        raise Refused(words_of(refused.args[0]), problems) from refused


def _faultless(desk: Desk, sale: Sale, battery: BatteryRow, item: CatalogueItem, body: TakeBack, now: datetime) -> None:
    """Raises Refused with every field that is wrong."""
    faults, may = [], may_go_back(desk, sale, now)
    today = desk.today(now)
    if body.what == "void" and not may.void:
        faults.append(FieldProblem("what", say("ways_back.a_sale_is_void_on_its_own_day_only")))
    if body.what != "void":
        if today > may.return_until and not desk.is_lead:
            until = dated(may.return_until, "%d %b %Y")
            faults.append(FieldProblem("what", say("ways_back.its_days_were_over_a_lead_may_take_it", until=until)))
        if body.volts is None:
            faults.append(FieldProblem("volts", say("pieces.enter_the_volts_at_rest_such_as_12_70")))
        elif body.volts > item.nominal_volts * _LIMITS["volts_per_nominal_volt"].high:
            words = say(
                "sales.v_cannot_be_read_on_a_v_battery", volts=fixed(body.volts, 2), nominal_volts=item.nominal_volts
            )
            faults.append(FieldProblem("volts", words))
        if body.refund_cents is not None and body.refund_cents > sale.price_cents:
            paid = money(sale.price_cents, sale.body.get("currency", desk.store.currency))
            faults.append(FieldProblem("refund_cents", say("ways_back.more_than_the_that_was_paid", paid=paid)))
    if body.what == "exchange" and body.other is None:
        faults.append(FieldProblem("other", say("ways_back.say_what_is_handed_over_for_it")))
    if batteries.claim_of(desk.session, battery.id) is not None:
        faults.append(FieldProblem("what", say("ways_back.a_claim_was_written_on_it")))
    if faults:
        raise Refused(say("common.it_cannot_be_right"), faults)


def _piece_again(
    desk: Desk, sale: Sale, battery: BatteryRow, item: CatalogueItem, body: TakeBack, now: datetime
) -> StockPiece:
    """The piece as it now is: as new where the sale was void, used where somebody had it, dead where it failed or stands empty."""
    was = desk.session.get_one(StockPiece, sale.piece_id)
    today = desk.today(now)
    mark = was.mark if body.what == "void" else "dead" if _is_dead(desk, battery, item, body.volts) else "used"
    piece = StockPiece(
        item_id=item.id, arrived_on=was.arrived_on if body.what == "void" else today, made_on=was.made_on, dry_charged=was.dry_charged,
        filled_on=was.filled_on, charged_on=was.charged_on, last_volts=body.volts or was.last_volts,
        last_volts_on=today if body.volts else was.last_volts_on, serial=battery.serial, mark=mark,
        from_sale_id=was.from_sale_id if body.what == "void" else sale.id,
    )  # fmt: skip
    desk.session.add(piece)
    desk.session.flush()
    entry = PieceEntry(
        piece_id=piece.id, what="came_back", done_at=now, staff_id=desk.staff.id, volts=body.volts, note=body.reason
    )
    desk.session.add(entry)
    return piece


def _is_dead(desk: Desk, battery: BatteryRow, item: CatalogueItem, volts: float | None) -> bool:
    """It failed its last check, or what it shows is a cell short of an empty one."""
    kept = batteries.latest_judgement(desk.session, batteries.latest_check(desk.session, battery.id).id)
    if kept is not None and Outcome(kept.outcome) in FAILED | {Outcome.UNSAFE}:
        return True
    cells = item.nominal_volts // 2
    return volts is not None and under(volts, (cells - 1) * desk.rules.cells.live_volts.value, VOLTS)


def way_back_of(desk: Desk, sale: Sale) -> WayBackView | None:
    """How a sale was taken back, where it was."""
    back = goods.way_back(desk.session, sale.id)
    if back is None:
        return None
    piece = desk.session.get_one(StockPiece, back.piece_id)
    is_dead = piece.mark == "dead"
    return WayBackView.model_validate(
        {
            "what": back.what, "reason": back.reason, "at": back.done_at, "who": back.staff.name, "refund_cents": back.refund_cents,
            "deposit_back_cents": back.deposit_back_cents, "piece_id": back.piece_id,
            "piece_is": "new" if back.what == "void" else "dead" if is_dead else "used",
            "other_tag": goods.tag_of_sale(desk.session, back.exchanged_sale_id) if back.exchanged_sale_id else None,
        }
    )  # fmt: skip
