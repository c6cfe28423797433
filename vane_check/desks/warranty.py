"""The warranty desk: what a battery's terms give, at which price, for which replacement."""

from collections.abc import Sequence
from datetime import date, datetime, timedelta
from typing import Any, NamedTuple

from pydantic import BaseModel

from ..core.battery.label import CHEMISTRY_RANK, Chemistry, Use
from ..core.findings.kinds import Kind
from ..core.findings.outcomes import Outcome
from ..core.goods.terms import PriceTaken, Terms, in_force
from ..core.goods.warranty import Answer, Done, Question, decide
from ..core.words import NOTHING, Words, say
from ..records import batteries, goods, serials, shop
from ..records.models import BatteryRow, CatalogueItem, Sale
from .counter import battery_or_refused
from .desk import Desk, NotThere
from .sales import Settles
from .tax import Tax, tax_now
from .terms import terms_of
from .views import label_of


class WarrantyView(BaseModel):
    """What the warranty gives, with the terms, the price they take and the replacement it was worked out for."""

    tag: int
    answer: Answer
    terms: Terms | None
    price_cents: int | None
    priced_as: str | None
    replacement_id: int | None
    replacement_name: str | None
    replacement_cents: int | None
    core_deposit_cents: int
    tax_words: Words
    """What comes on top of what is paid; empty where prices have their tax within."""
    tax_cents: int
    currency: str
    claimed: bool
    claimed_on: date | None
    given_tag: int | None
    """The battery that was given for it, under this claim."""


class _Priced(NamedTuple):
    """A price with the name of what it is of."""

    cents: int | None
    name: str | None


def look_up(
    desk: Desk, tag: int, replacement_id: int | None, now: datetime, price_cents: int | None = None
) -> WarrantyView:
    """What the warranty gives for a battery as it is judged now. `price_cents` is said where nobody knows the price its terms take."""
    row = battery_or_refused(desk, tag)
    check = batteries.latest_check(desk.session, row.id)
    kept = batteries.latest_judgement(desk.session, check.id)
    outcome = Outcome(kept.outcome) if kept else Outcome.CANNOT_TELL
    done = serials.done_with(desk.session, row.serial)
    own = goods.sale_of_battery(desk.session, row.id)
    back = goods.way_back(desk.session, own.id) if own else None
    given_at, first = given_before(desk, row, own, done)
    sold_on, made_on = (first.sold_on, first.made_on) if first else (row.sold_on, row.made_on)
    nearest = _nearest_item(desk, row, own)
    terms = first.terms if first else None
    if terms is None:
        editions = [terms_of(each) for each in shop.terms_of_line(desk.session, row.line)] if row.line else []
        terms = in_force(editions, sold_on or made_on or desk.today(now), nearest.name if nearest else "")
    priced = _price_taken(desk, terms, nearest, own, sold_on, price_cents) if terms else _Priced(None, None)
    replacement = _replacement(desk, replacement_id)
    claim = batteries.claim_of(desk.session, row.id)
    answer = decide(
        Question(
            line=row.line, sold_on=sold_on, made_on=made_on, today=desk.today(now), outcome=outcome, use=Use(check.use),
            wrong_type_for_car=_wrong_type(row, check.stop_start_car), was_dry=kept is not None and _was_dry(kept.body),
            claimed=done_elsewhere(desk, "claimed", row, done), given=given_at,
            taken_back=Done(on=desk.today(back.done_at)) if back else None, price_cents=priced.cents,
            replacement_cents=replacement.price_cents if replacement else None,
        ),
        terms,
    )  # fmt: skip
    tax = tax_now(desk, replacement)
    return WarrantyView(
        tag=tag,
        answer=answer,
        terms=terms,
        price_cents=priced.cents,
        priced_as=priced.name,
        replacement_id=replacement.id if replacement else None,
        replacement_name=replacement.name if replacement else None,
        replacement_cents=replacement.price_cents if replacement else None,
        core_deposit_cents=replacement.core_deposit_cents if replacement else 0,
        tax_words=tax.words if tax.on_top and tax.pct else NOTHING,
        tax_cents=tax.on_top_cents(answer.pays_cents or 0),
        currency=desk.store.currency,
        claimed=claim is not None,
        claimed_on=desk.today(claim.written_at) if claim else None,
        given_tag=goods.given_tag(desk.session, claim.id) if claim else None,
    )


def _nearest_item(desk: Desk, row: BatteryRow, own: Sale | None) -> CatalogueItem | None:
    """The item it was sold as, else today's item nearest to it of the same line and size."""
    if own is not None:
        return goods.item(desk.session, own.item_id)
    rating = label_of(row).rating
    return (
        shop.price_of_line(desk.session, row.line, row.group_code, rating.cca_amps if rating else None)
        if row.line
        else None
    )


def _price_taken(
    desk: Desk, terms: Terms, item: CatalogueItem | None, own: Sale | None, sold_on: date | None, price_said: int | None
) -> _Priced:
    """The price the terms take a share of, without what comes on top of it. What somebody says counts before what is on record."""
    if price_said is not None:
        return _Priced(price_said, None)
    if terms.price_taken is PriceTaken.PAID:
        if own is None or own.body.get("currency", desk.store.currency) != desk.store.currency:
            return _Priced(None, None)
        tax = Tax.model_validate(own.body.get("tax") or {})
        paid = own.price_cents + own.credit_cents - (tax.within_cents(own.price_cents) if tax.on_top else 0)
        return _Priced(paid, item.name if item else None)
    if item is None:
        return _Priced(None, None)
    if terms.price_taken is PriceTaken.LIST:
        return _Priced(_list_price(desk, item, sold_on) if sold_on else None, item.name)
    return _Priced(item.price_cents, item.name)


def _list_price(desk: Desk, item: CatalogueItem, on: date) -> int:
    """What an item cost by the catalogue at the end of a day [cents]."""
    entries = goods.entries_of_item(desk.session, item.id)  # the newest first
    ends = datetime(on.year, on.month, on.day, tzinfo=desk.zone) + timedelta(days=1)
    written = next((entry for entry in entries if not entry.stood and entry.written_at < ends), None)
    if written is not None:
        return int(written.body["price_cents"])
    # nothing was written by then: what stood until the first change after it
    later = next((entry for entry in reversed(entries) if entry.stood and entry.written_at >= ends), None)
    return int(later.body["price_cents"]) if later else item.price_cents


def given_before(
    desk: Desk, row: BatteryRow, own: Sale | None, done: Sequence[serials.Done]
) -> tuple[Done | None, Settles | None]:
    """When it was given under warranty, and the first one's dates and terms, which it keeps; a used one keeps its own first sale's."""
    if own is not None and own.body.get("warranty"):
        given = Done(on=desk.today(own.sold_at)) if own.claim_id is not None else None
        return given, Settles.model_validate(own.body["warranty"])
    for one in done:
        if one.what == "given" and one.warranty is not None:
            return Done(on=desk.today(one.at), store="" if one.is_here else one.store), Settles.model_validate(
                one.warranty
            )
    return None, None


def done_elsewhere(desk: Desk, what: str, row: BatteryRow, done: Sequence[serials.Done]) -> Done | None:
    """That it was done with another battery of this serial."""
    other = next((one for one in done if one.what == what and one.battery_id != row.id), None)
    return Done(on=desk.today(other.at), store="" if other.is_here else other.store) if other else None


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
