"""Writing a claim, and handing the replacement over with it: one act, one write."""

from datetime import datetime

from pydantic import Field

from ..core.battery.label import Use
from ..core.goods.warranty import WarrantyDecision
from ..core.readings.faults import FieldProblem
from ..core.tables import entry_limits
from ..core.units.model import Model, ShortText
from ..core.words import say, word, words_of
from ..records import batteries, goods, serials, shop
from ..records.models import BatteryRow, Claim
from .check import view
from .counter import MOST, PERSONAL, battery_or_refused
from .desk import Conflict, Desk, Refused
from .sales import Given, Sell, Settles, sell
from .tax import tax_now
from .views import announce_battery
from .warranty import WarrantyView, done_elsewhere, given_before, look_up

CREDITED = frozenset({WarrantyDecision.FREE, WarrantyDecision.PRO_RATA, WarrantyDecision.ASK_THE_MAKER})
"""Decisions a claim can be written for."""
_LIMITS = entry_limits()


class HandOver(Model):
    """The replacement as it goes over the counter with the claim: one act, one write."""

    piece_id: int | None = Field(None, ge=0, le=MOST, description="this very piece; else the oldest that may be sold")
    volts: float = Field(
        ge=_LIMITS["piece_volts"].low, le=_LIMITS["piece_volts"].high, description="rest volts at hand-over"
    )
    serial: ShortText = Field(min_length=1)
    serial_is_right: bool = False
    fitted_here: bool = True


class WriteClaim(Model):
    """The claim to be written, for a replacement; with what hands it over at once, where it is here.

    On a claim that is written already, what is handed over is given under it.
    """

    replacement_id: int | None = Field(None, ge=0, le=MOST)
    price_cents: int | None = Field(
        None,
        ge=0,
        le=int(_LIMITS["price_cents"].high),
        description="the price its terms take, where nobody else knows it",
    )
    hand_over: HandOver | None = None


def write_claim(desk: Desk, tag: int, body: WriteClaim, now: datetime) -> None:
    """Write the claim with all it rests on, and hand the replacement over with it where it is here. Refused when the warranty gives
    nothing, or a price is missing; once for a battery."""
    row = battery_or_refused(desk, tag, lock=True)
    written = batteries.claim_of(desk.session, row.id)
    if written is not None:
        if body.hand_over is None or goods.given_tag(desk.session, written.id) is not None:
            raise Conflict(say("warranty.a_claim_for_tag_is_written_already", tag=tag))
        _hand_over(desk, row, written, look_up(desk, tag, body.replacement_id, now), body.hand_over, now)
        announce_battery(desk, row, batteries.latest_check(desk.session, row.id).id)
        return
    batteries.lock_serial(desk.session, row.serial)
    if done_elsewhere(desk, "claimed", row, serials.done_with(desk.session, row.serial)):
        raise Conflict(say("warranty.serial_was_claimed_already_on_another_tag", serial=row.serial))
    folder = look_up(desk, tag, body.replacement_id, now, body.price_cents)
    if folder.answer.decision not in CREDITED:
        raise Refused(
            say(
                "warranty.no_claim_to_write",
                headline=folder.answer.headline,
                next_for_customer=folder.answer.next_for_customer,
            )
        )
    if folder.answer.price_missing is not None:
        taken = word(f"price_{folder.answer.price_missing.value}")
        raise Refused(
            say("common.it_cannot_be_right"),
            [FieldProblem("price_cents", say("warranty.no_price_on_record_say_it", taken=taken))],
        )
    check = batteries.latest_check(desk.session, row.id)
    kept = batteries.latest_judgement(desk.session, check.id)
    assert kept is not None, "only a judged battery gets a warranty decision that can be claimed"
    evidence = view(desk, tag)
    claim = Claim(
        battery_id=row.id,
        judgement_id=kept.id,
        replacement_item_id=folder.replacement_id,
        written_at=now,
        staff_id=desk.staff.id,
        serial=row.serial,
        decision=folder.answer.decision.value,
        credit_cents=folder.answer.credit_cents,
        body={
            "answer": folder.answer.model_dump(mode="json"),
            "terms": folder.terms.model_dump(mode="json") if folder.terms else None,
            "price_cents": folder.price_cents,
            "replacement": {"name": folder.replacement_name, "price_cents": folder.replacement_cents}
            if folder.replacement_id is not None
            else None,
            "currency": folder.currency,
            "tax": tax_now(
                desk, shop.item(desk.session, folder.replacement_id) if folder.replacement_id is not None else None
            ).model_dump(mode="json"),
            "tools": [
                {"equipment_id": tool.id, "checked_on": tool.checked_on.isoformat() if tool.checked_on else None}
                for tool in desk.equipment
            ],
            "evidence": evidence.model_dump(mode="json", exclude=PERSONAL),
        },
    )
    desk.session.add(claim)
    desk.session.flush()
    if body.hand_over is not None:
        _hand_over(desk, row, claim, folder, body.hand_over, now)
    announce_battery(desk, row, check.id)


def _hand_over(desk: Desk, row: BatteryRow, claim: Claim, folder: WarrantyView, given: HandOver, now: datetime) -> None:
    """The replacement leaves the stock under the claim, at what its credit leaves to pay; it keeps the first one's dates and terms."""
    if folder.replacement_id is None or folder.replacement_cents is None:
        raise Refused(
            say("warranty.no_replacement_is_picked"),
            [FieldProblem("replacement_id", say("warranty.pick_the_one_that_is_handed_over"))],
        )
    if claim.body.get("currency", folder.currency) != folder.currency:
        raise Refused(
            say("common.it_cannot_be_right"),
            [
                FieldProblem(
                    "replacement_id", say("warranty.its_credit_is_in_other_money", currency=claim.body["currency"])
                )
            ],
        )
    check = batteries.latest_check(desk.session, row.id)
    own = goods.sale_of_battery(desk.session, row.id)
    _, first = given_before(desk, row, own, serials.done_with(desk.session, row.serial))
    settles = first if first and first.terms else Settles(sold_on=row.sold_on, made_on=row.made_on, terms=folder.terms)
    credit = min(claim.credit_cents, folder.replacement_cents)
    sold = Sell(
        item_id=folder.replacement_id, piece_id=given.piece_id, volts=given.volts, serial=given.serial, serial_is_right=given.serial_is_right,
        price_cents=folder.replacement_cents - credit, old_tag=row.tag, use=Use(check.use), stop_start_car=check.stop_start_car, fitted_here=given.fitted_here,
    )  # fmt: skip
    try:
        sell(desk, sold, now, Given(claim.id, credit, settles))
    except Refused as refused:
        inside = {"volts", "serial", "piece_id"}
        raise Refused(
            words_of(refused.args[0]),
            [
                each._replace(path=f"hand_over.{each.path}") if each.path in inside else each
                for each in refused.problems
            ],
        ) from refused
