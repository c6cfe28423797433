"""Warranty: is it ours, in time, did it fail a valid test, and is nothing excluding it. Money is integer cents."""

from datetime import date
from enum import StrEnum
from typing import Literal, NamedTuple

from pydantic import BaseModel, ConfigDict, Field

from ..battery.label import Use
from ..findings.outcomes import FAILED, Outcome
from ..units.model import Model
from ..units.months import add_months
from ..words import Words, as_written, dated, say, word
from .terms import PriceTaken, Terms, credit_cents, credit_share


class Done(Model):
    """Something that was done with a serial before: on which day, and in which store where that is another one."""

    on: date
    store: str = ""


class Question(Model):
    """What is asked of the warranty. Dates are days; `price_cents` is the price its terms take a share of, None where it is not known."""

    line: str
    sold_on: date | None = None
    made_on: date | None = None
    today: date
    outcome: Outcome
    use: Use = Use.PRIVATE
    wrong_type_for_car: bool = False
    was_dry: bool = Field(False, description="it came with its plates bare, or dry in a case that cannot be opened")
    claimed: Done | None = Field(None, description="a claim on this serial that is not this battery's own")
    given: Done | None = Field(None, description="it was given under warranty then: its dates are the first one's")
    taken_back: Done | None = Field(None, description="its sale was taken back then")
    price_cents: int | None = Field(None, ge=0)
    replacement_cents: int | None = Field(None, ge=0)


class WarrantyDecision(StrEnum):
    """What the warranty gives."""

    FREE = "free"
    PRO_RATA = "pro_rata"
    OUT_OF_TIME = "out_of_time"
    NOT_FAILED = "not_failed"
    EXCLUDED = "excluded"
    NOT_OURS = "not_ours"
    NO_DATE = "no_date"
    ASK_THE_MAKER = "ask_the_maker"


class Reason(BaseModel):
    """One line of the decision: what was asked, what was found, and whether it stands in the way."""

    model_config = ConfigDict(frozen=True)

    asks: Words
    found: Words
    holds: bool


class Answer(BaseModel):
    """The decision with its reasons, times and money. `pays_cents` is the customer's share of the replacement.

    `price_missing` names the price the terms take, where nobody knows it: no claim can be written before it is said.
    """

    model_config = ConfigDict(frozen=True)

    decision: WarrantyDecision
    headline: Words
    reasons: tuple[Reason, ...]
    counted_from: date | None
    counted_from_what: Literal["sale", "date code and shelf allowance", "nothing"]
    months_used: int | None
    free_months: int | None = None
    pro_rata_months: int | None = None
    """As they are for this use; none where no terms were found, and in claims of older releases."""
    free_until: date | None
    ends_on: date | None
    credit_cents: int
    price_missing: PriceTaken | None = None
    pays_cents: int | None
    next_for_customer: Words


class _Gate(NamedTuple):
    """One question in the way: when it does not hold, its decision stands."""

    asks: Words
    found: Words
    holds: bool
    decision: WarrantyDecision
    headline: Words
    next_for_customer: Words


def decide(question: Question, terms: Terms | None) -> Answer:
    """What the warranty gives. Terms are None when the line is not ours. The first thing in the way decides."""
    terms = terms.used_for(question.use) if terms else None
    start, counted_from_what = _counted_from(question, terms)
    reasons: list[Reason] = []
    decision, headline, next_for_customer, credit = _settled(question, terms, start, counted_from_what, reasons)
    replacement = question.replacement_cents
    dated = terms is not None and start is not None
    credits = decision in (WarrantyDecision.FREE, WarrantyDecision.PRO_RATA)
    missing = terms.price_taken if terms and credits and question.price_cents is None else None
    return Answer(
        decision=decision,
        headline=headline,
        reasons=tuple(reasons),
        counted_from=start,
        counted_from_what=counted_from_what,
        months_used=terms.months_used(start, question.today) if terms and start else None,
        free_months=terms.free_months if terms else None,
        pro_rata_months=terms.pro_rata_months if terms else None,
        free_until=add_months(start, terms.free_months) if dated and terms and start else None,
        ends_on=add_months(start, terms.term_months) if dated and terms and start else None,
        credit_cents=credit,
        price_missing=missing,
        pays_cents=None if replacement is None or missing else max(replacement - credit, 0),
        next_for_customer=next_for_customer,
    )


def _settled(
    question: Question, terms: Terms | None, start: date | None, counted_from_what: str, reasons: list[Reason]
) -> tuple[WarrantyDecision, Words, Words, int]:
    for gate in _gates(question, terms, start, counted_from_what):
        reasons.append(Reason(asks=gate.asks, found=gate.found, holds=gate.holds))
        if not gate.holds:
            return gate.decision, gate.headline, gate.next_for_customer, 0
    assert terms is not None
    assert start is not None
    used = terms.months_used(start, question.today)
    term = terms.term_months
    ends_on = add_months(start, term)
    in_time = question.today <= ends_on  # a term ends with the end of its last day
    words = say(
        "warranty.months_used_of_free_and_pro_rata",
        count=used,
        free_months=terms.free_months,
        pro_rata_months=terms.pro_rata_months,
    )
    reasons.append(Reason(asks=say("warranty.is_it_in_time"), found=words, holds=in_time))
    if not in_time:
        after = say("warranty.a_new_one_at_todays_price_the_old_one_goes")
        return (
            WarrantyDecision.OUT_OF_TIME,
            say("warranty.out_of_time_since", ends_on=dated(ends_on, "%d %b %Y")),
            after,
            0,
        )
    if question.given is not None:
        reasons.append(
            Reason(asks=say("warranty.was_it_given_under_warranty"), found=_when(question.given), holds=False)
        )
        return (
            WarrantyDecision.ASK_THE_MAKER,
            say("warranty.given_under_warranty_the_maker_decides_on_a_second_claim"),
            say("warranty.we_send_the_maker_both_claims_its_time_runs_from_the_first_sale"),
            0,
        )
    price = question.price_cents or 0
    if question.today <= add_months(start, terms.free_months) and terms.free_months:
        after = say("warranty.a_new_one_at_no_charge_it_keeps_the_first")
        return (
            WarrantyDecision.FREE,
            say("warranty.free_replacement_of_free_months_used", used=used, free_months=terms.free_months),
            after,
            price,
        )
    credit = credit_cents(price, credit_share(terms, start, question.today))
    return (
        WarrantyDecision.PRO_RATA,
        say("warranty.pro_rata_of_months_used", used=used, term=term),
        say("warranty.the_credit_comes_off_a_new_one_today"),
        credit,
    )


def _gates(question: Question, terms: Terms | None, start: date | None, counted_from_what: str) -> list[_Gate]:
    """What must hold before time is counted, in the order it is asked."""
    use, outcome = question.use, question.outcome
    ours = terms is not None
    return [
        _Gate(
            say('warranty.can_it_be_handed_back'), say('warranty.it_is_unsafe') if outcome is Outcome.UNSAFE else word('yes'), outcome is not Outcome.UNSAFE,
            WarrantyDecision.ASK_THE_MAKER if ours else WarrantyDecision.NOT_OURS,
            say('warranty.unsafe_to_test_the_maker_decides') if ours else say('warranty.unsafe_it_stays_here_held_apart'),
            say('warranty.we_hold_it_apart_and_send_the_maker_what') if ours
            else say('warranty.we_keep_it_whoever_sold_it_it_is_carried'),
        ),
        _Gate(
            say('warranty.was_it_claimed_before'), _when(question.claimed) if question.claimed else say('warranty.no_claim_on_it'),
            question.claimed is None, WarrantyDecision.EXCLUDED, say('warranty.already_claimed'),
            say('warranty.a_battery_given_under_warranty_keeps_the'),
        ),
        _Gate(
            say('warranty.does_its_sale_stand'), _when(question.taken_back) if question.taken_back else say('warranty.nobody_took_it_back'),
            question.taken_back is None, WarrantyDecision.EXCLUDED, say('warranty.its_sale_was_taken_back'),
            say('warranty.its_price_was_given_back_nothing_is_promised'),
        ),
        _Gate(
            say('warranty.is_it_a_line_we_sold'), as_written(question.line) if question.line else say('warranty.no_line_on_record'), terms is not None,
            WarrantyDecision.NOT_OURS, say('warranty.not_ours_to_claim'), say('warranty.take_it_back_to_where_it_was_bought_with'),
        ),
        _Gate(
            say('warranty.does_the_sale_fit_the_date_code'), _sale_fits(question), not _sold_before_made(question),
            WarrantyDecision.ASK_THE_MAKER, say('warranty.sold_before_it_was_made'), say('warranty.check_the_receipt_and_read_the_date_code'),
        ),
        _Gate(
            say('warranty.when_does_its_time_run_from'), say('figures.counted_from_what_start', counted_from_what=COUNTED_FROM[counted_from_what], start=dated(start, '%d %b %Y')) if start else COUNTED_FROM[counted_from_what],
            start is not None, WarrantyDecision.NO_DATE, say('warranty.no_date_to_count_from'),
            say('warranty.bring_the_receipt_or_read_the_date_code_on'),
        ),
        _Gate(
            say('warranty.did_it_fail_a_valid_test'), say('warranty.judged', outcome=word(outcome.value)), outcome in FAILED,
            WarrantyDecision.NOT_FAILED, say('warranty.discharged_or_unproven_is_not_failed'),
            say('warranty.we_charge_it_and_test_it_again_before'),
        ),
        _Gate(
            say('warranty.is_this_use_covered'), say('warranty.use', use=word(use.value)), terms is None or use not in terms.excluded_uses,
            WarrantyDecision.EXCLUDED, say('warranty.its_terms_leave_out_use', use=word(use.value)), say('warranty.ask_for_a_line_whose_terms_cover_this_use'),
        ),
        _Gate(
            say('warranty.was_it_the_right_type_for_the_car'),
            say('warranty.ordinary_battery_in_a_stop_start_car') if question.wrong_type_for_car else say('warranty.type_fits_the_car'),
            not question.wrong_type_for_car, WarrantyDecision.EXCLUDED, say('warranty.wrong_type_for_the_car'),
            say('warranty.fit_the_type_the_car_asks_for_it_will_last'),
        ),
        _Gate(
            say('warranty.was_it_kept_filled'), say('warranty.it_came_dry_overcharge_or_neglect') if question.was_dry else say('warranty.nothing_says_that_it_was_dry'),
            not question.was_dry, WarrantyDecision.ASK_THE_MAKER, say('warranty.it_came_dry_the_maker_decides'),
            say('warranty.we_send_what_was_seen_with_the_cars'),
        ),
    ]  # fmt: skip


COUNTED_FROM = {
    "sale": word("sale"), "nothing": word("nothing"), "date code and shelf allowance": say("warranty.date_code_and_shelf_allowance"),
}  # fmt: skip


def _counted_from(
    question: Question, terms: Terms | None
) -> tuple[date | None, Literal["sale", "date code and shelf allowance", "nothing"]]:
    if question.sold_on is not None:
        return question.sold_on, "sale"
    if question.made_on is not None and terms is not None:
        return add_months(question.made_on, terms.date_code_allowance_months), "date code and shelf allowance"
    return None, "nothing"


def _when(done: Done) -> Words:
    on = dated(done.on, "%d %b %Y")
    return say("warranty.on_in_store", on=on, store=done.store) if done.store else say("warranty.on_day", on=on)


def _sold_before_made(question: Question) -> bool:
    return question.sold_on is not None and question.made_on is not None and question.sold_on < question.made_on


def _sale_fits(question: Question) -> Words:
    if question.sold_on is None or question.made_on is None:
        return say("warranty.only_one_of_the_two_is_known")
    return say("warranty.made_sold", made_on=dated(question.made_on, "%b %Y"), sold_on=dated(question.sold_on, "%b %Y"))
