"""The slip: gather what goes on the customer's paper."""

from datetime import datetime

from ..core.goods.returns import papers_with_own_call
from ..core.goods.warranty import WarrantyDecision
from ..core.words import Text, Words, in_a_row, say, word, words_of
from ..papers.slip import Claimed, Slip, draw
from ..records import batteries, house, shop
from ..records.models import BatteryRow, Claim
from .check import CheckView, view
from .counter import battery_or_refused
from .desk import Desk
from .paper_language import in_its_language
from .tax import Tax, money
from .views import Place
from .warranty import look_up


@in_its_language
def slip_pdf(desk: Desk, tag: int, now: datetime) -> bytes:
    """The slip of a battery as it is judged now, as a PDF."""
    row = battery_or_refused(desk, tag)
    check = batteries.latest_check(desk.session, row.id)
    seen = view(desk, tag)
    kept = batteries.judgement_with_rules(desk.session, check.id)
    shop_now = house.settings_now(desk.session, desk.staff.store_id)
    warranty = look_up(desk, tag, None, now).answer
    words = (
        None
        if warranty.decision in {WarrantyDecision.NOT_OURS, WarrantyDecision.NOT_FAILED}
        else in_a_row((warranty.headline, warranty.next_for_customer), ". ") + "."
    )
    return draw(
        Slip(
            shop=desk.store.name,
            tag=tag,
            battery=seen.battery,
            customer=seen.customer_name,
            car=seen.car.name if seen.car else "",
            judgement=seen.judgement,
            judged_at=(kept[0].made_at if kept else now).astimezone(desk.zone),
            printed_at=now.astimezone(desk.zone),
            who=kept[2].name if kept else desk.staff.name,
            ready_at=seen.promised_at.astimezone(desk.zone)
            if seen.promised_at and seen.place not in (Place.READY, Place.GONE)
            else None,
            own_call=_own_call(desk, seen),
            warranty=words,
            serial=row.serial,
            sold_on=row.sold_on,
            claim=_claimed(desk, row),
            head=shop_now.paper_head,
            foot=shop_now.paper_foot,
            paper_size="Letter" if shop_now.paper_size == "Letter" else "A4",
            logo=shop_now.logo if shop_now.logo_type else None,
        )
    )


def _own_call(desk: Desk, seen: CheckView) -> Text:
    """What whoever judged says otherwise, where the house shows it on slips."""
    call = seen.own_call
    if call is None or "slip" not in papers_with_own_call(desk.rules):
        return ""
    return say("own_word.says_otherwise", who=call.who, outcome=word(call.outcome.value), reason=call.reason)


def _claimed(desk: Desk, row: BatteryRow) -> Claimed | None:
    """The claim of a battery with the sum of what was paid, in whole cents."""
    claim = batteries.claim_of(desk.session, row.id)
    if claim is None:
        return None
    return Claimed(
        written_on=claim.written_at.astimezone(desk.zone).date(),
        decision=words_of(claim.body["answer"]["headline"]),
        sum=claimed_sum(desk, claim),
    )


def claimed_sum(desk: Desk, claim: Claim) -> tuple[tuple[Text, Words], ...]:
    """What was paid at a claim, line by line, as it was then."""
    item = shop.item(desk.session, claim.replacement_item_id) if claim.replacement_item_id else None
    currency = claim.body.get("currency", desk.store.currency)
    rows: list[tuple[Text, Words]] = []
    kept = claim.body.get("replacement")  # a claim of an older release does not say what it cost then
    name, price = (kept["name"], kept["price_cents"]) if kept else (item.name, item.price_cents) if item else ("", None)
    if price is not None:
        credit = min(claim.credit_cents, price)
        tax = Tax.model_validate(claim.body.get("tax") or {})
        on_top = tax.on_top_cents(price - credit)
        rows = [
            (name, money(price, currency)),
            (say("common.credit"), money(-credit, currency)),
            (say("slip.deposit_the_old_one_stays_here"), money(0, currency)),
            *([(tax.words, money(on_top, currency))] if on_top else []),
            (say("slip.to_pay"), money(price - credit + on_top, currency)),
        ]
        if tax.pct and not tax.on_top:
            rows.append((say("slip.of_which", tax=tax.words), money(tax.within_cents(price - credit), currency)))
    elif claim.credit_cents:
        rows = [(say("common.credit"), money(-claim.credit_cents, currency))]
    return tuple(rows)
