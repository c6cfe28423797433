"""The warranty desk: what a battery's terms give, and writing the claim."""

from collections.abc import Sequence
from datetime import date, datetime
from typing import Any

from pydantic import BaseModel, Field

from ..core.battery.label import CHEMISTRY_RANK, Chemistry, Use
from ..core.findings.kinds import Kind
from ..core.findings.outcomes import Outcome
from ..core.goods.warranty import Answer, Done, Question, Terms, WarrantyDecision, decide, in_force
from ..core.readings.faults import FieldProblem
from ..core.tables import entry_limits
from ..core.units.model import Model, ShortText
from ..core.words import say, words_of
from ..records import batteries, goods, serials, shop
from ..records.models import BatteryRow, CatalogueItem, Claim, TermsRow
from .check import view
from .counter import MOST, PERSONAL, battery_or_refused
from .desk import Conflict, Desk, NotThere, Refused
from .sales import Sell, Settles, sell
from .tax import tax_now
from .views import announce_battery, label_of

CREDITED = frozenset({WarrantyDecision.FREE, WarrantyDecision.PRO_RATA, WarrantyDecision.ASK_THE_MAKER})
"""Decisions a claim can be written for."""


class WarrantyView(BaseModel):
    """What the warranty gives, with the terms, today's price and the replacement it was worked out for."""

    tag: int
    answer: Answer
    terms: Terms | None
    price_cents: int
    priced_as: str | None
    replacement_id: int | None
    replacement_name: str | None
    replacement_cents: int | None
    core_deposit_cents: int
    currency: str
    claimed: bool
    claimed_on: date | None
    given_tag: int | None
    """The battery that was given for it, under this claim."""


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
    """The claim to be written, for a replacement; with what hands it over at once, where it is here."""

    replacement_id: int | None = Field(None, ge=0, le=MOST)
    hand_over: HandOver | None = None


def look_up(desk: Desk, tag: int, replacement_id: int | None, now: datetime) -> WarrantyView:
    """What the warranty gives for a battery as it is judged now."""
    row = battery_or_refused(desk, tag)
    check = batteries.latest_check(desk.session, row.id)
    kept = batteries.latest_judgement(desk.session, check.id)
    outcome = Outcome(kept.outcome) if kept else Outcome.CANNOT_TELL
    rating = label_of(row).rating
    done = serials.done_with(desk.session, row.serial)
    given_at, first = _given(desk, row, done)
    sold_on, made_on = (first.sold_on, first.made_on) if first else (row.sold_on, row.made_on)
    editions = [terms_of(terms) for terms in shop.terms_of_line(desk.session, row.line)] if row.line else []
    terms = first.terms if first else in_force(editions, sold_on or made_on or desk.today(now))
    priced = (
        shop.price_of_line(desk.session, row.line, row.group_code, rating.cca_amps if rating else None)
        if terms
        else None
    )
    replacement = _replacement(desk, replacement_id)
    claim = batteries.claim_of(desk.session, row.id)
    question = Question(
        line=row.line,
        sold_on=sold_on,
        made_on=made_on,
        today=desk.today(now),
        outcome=outcome,
        use=Use(check.use),
        wrong_type_for_car=_wrong_type(row, check.stop_start_car),
        was_dry=kept is not None and _was_dry(kept.body),
        claimed=_done_elsewhere(desk, "claimed", row, done),
        given=given_at,
        price_cents=priced.price_cents if priced else 0,
        replacement_cents=replacement.price_cents if replacement else None,
    )
    return WarrantyView(
        tag=tag,
        answer=decide(question, terms),
        terms=terms,
        price_cents=question.price_cents,
        priced_as=priced.name if priced else None,
        replacement_id=replacement.id if replacement else None,
        replacement_name=replacement.name if replacement else None,
        replacement_cents=question.replacement_cents,
        core_deposit_cents=replacement.core_deposit_cents if replacement else 0,
        currency=desk.store.currency,
        claimed=claim is not None,
        claimed_on=claim.written_at.astimezone(desk.zone).date() if claim else None,
        given_tag=goods.given_tag(desk.session, claim.id) if claim else None,
    )


def _given(desk: Desk, row: BatteryRow, done: Sequence[serials.Done]) -> tuple[Done | None, Settles | None]:
    """When it was given under warranty, and the first one's dates and terms, which it keeps."""
    own = goods.sale_of_battery(desk.session, row.id)
    if own is not None and own.claim_id is not None:
        on = own.sold_at.astimezone(desk.zone).date()
        return Done(on=on), Settles.model_validate(own.body["warranty"])
    for one in done:
        if one.what == "given" and one.warranty is not None:
            on = one.at.astimezone(desk.zone).date()
            return Done(on=on, store="" if one.is_here else one.store), Settles.model_validate(one.warranty)
    return None, None


def _done_elsewhere(desk: Desk, what: str, row: BatteryRow, done: Sequence[serials.Done]) -> Done | None:
    """That it was done with another battery of this serial."""
    other = next((one for one in done if one.what == what and one.battery_id != row.id), None)
    if other is None:
        return None
    return Done(on=other.at.astimezone(desk.zone).date(), store="" if other.is_here else other.store)


def write_claim(desk: Desk, tag: int, body: WriteClaim, now: datetime) -> None:
    """Write the claim with all it rests on, and hand the replacement over with it where it is here. Refused when the warranty gives
    nothing; once for a battery."""
    row = battery_or_refused(desk, tag, lock=True)
    if batteries.claim_of(desk.session, row.id) is not None:
        raise Conflict(say("warranty.a_claim_for_tag_is_written_already", tag=tag))
    batteries.lock_serial(desk.session, row.serial)
    if _done_elsewhere(desk, "claimed", row, serials.done_with(desk.session, row.serial)):
        raise Conflict(say("warranty.serial_was_claimed_already_on_another_tag", serial=row.serial))
    folder = look_up(desk, tag, body.replacement_id, now)
    if folder.answer.decision not in CREDITED:
        raise Refused(
            say(
                "warranty.no_claim_to_write",
                headline=folder.answer.headline,
                next_for_customer=folder.answer.next_for_customer,
            )
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
            "tax": tax_now(desk).model_dump(mode="json"),
            "evidence": evidence.model_dump(mode="json", exclude=PERSONAL),
        },
    )
    desk.session.add(claim)
    desk.session.flush()
    if body.hand_over is not None:
        _hand_over(desk, row, claim, folder, body.hand_over, now)
    announce_battery(desk, row, check.id)


def _hand_over(desk: Desk, row: BatteryRow, claim: Claim, folder: WarrantyView, given: HandOver, now: datetime) -> None:
    """The replacement leaves the stock with the claim, at what the warranty leaves to pay; it keeps the first one's dates and terms."""
    if folder.replacement_id is None or folder.answer.pays_cents is None:
        raise Refused(
            say("warranty.no_replacement_is_picked"),
            [FieldProblem("replacement_id", say("warranty.pick_the_one_that_is_handed_over"))],
        )
    check = batteries.latest_check(desk.session, row.id)
    _, first = _given(desk, row, serials.done_with(desk.session, row.serial))
    settles = first or Settles(sold_on=row.sold_on, made_on=row.made_on, terms=folder.terms)
    sold = Sell(
        item_id=folder.replacement_id, piece_id=given.piece_id, volts=given.volts, serial=given.serial, serial_is_right=given.serial_is_right,
        price_cents=folder.answer.pays_cents, old_tag=row.tag, use=Use(check.use), stop_start_car=check.stop_start_car, fitted_here=given.fitted_here,
    )  # fmt: skip
    try:
        sell(desk, sold, now, claim_id=claim.id, settles=settles)
    except Refused as refused:
        inside = {"volts", "serial", "piece_id"}
        raise Refused(
            words_of(refused.args[0]),
            [
                each._replace(path=f"hand_over.{each.path}") if each.path in inside else each
                for each in refused.problems
            ],
        ) from refused


def terms_of(row: TermsRow) -> Terms:
    """An edition as the core knows it."""
    return Terms(
        line=row.line,
        free_months=row.free_months,
        pro_rata_months=row.pro_rata_months,
        date_code_allowance_months=row.date_code_allowance_months,
        excluded_uses=tuple(Use(use) for use in row.excluded_uses),
        reference=row.reference,
        holds_from=row.holds_from,
    )


def _was_dry(judged: dict[str, Any]) -> bool:
    """Whether the judgement says that it came dry."""
    marked = any(finding["kind"] == Kind.WAS_DRY for finding in judged["findings"])
    return marked or (judged.get("cause") or {}).get("key") == "dried_out"


def _replacement(desk: Desk, item_id: int | None) -> CatalogueItem | None:
    if item_id is None:
        return None
    item = shop.item(desk.session, item_id)
    if item is None:
        raise NotThere(say("common.no_such_item_in_the_catalogue"))
    return item


def _wrong_type(row: BatteryRow, stop_start_car: bool) -> bool:
    """An ordinary battery where the car's list, or stop-start, asks for more."""
    chemistry = (
        Chemistry(row.vehicle.chemistry) if row.vehicle else Chemistry.EFB if stop_start_car else Chemistry.FLOODED
    )
    has = Chemistry(row.chemistry)
    return CHEMISTRY_RANK.get(has, 0) < CHEMISTRY_RANK.get(chemistry, 0) and (
        stop_start_car or bool(row.vehicle and row.vehicle.stop_start)
    )
