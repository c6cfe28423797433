"""Warranty: is it ours, in time, did it fail a valid test, and is nothing excluding it. Money is integer cents."""

from collections.abc import Sequence
from datetime import date
from enum import StrEnum
from typing import Literal, NamedTuple

from pydantic import BaseModel, ConfigDict, Field

from ..battery.label import Use
from ..findings.outcomes import FAILED, Outcome
from ..units.model import Day, Model
from ..units.months import add_months, whole_months_between


class Terms(Model):
    """What a line's warranty promises.

    The pro-rata period follows the free one. `date_code_allowance_months` is the time on a shelf that is granted when
    only the date code is known.
    """

    line: str
    free_months: int = Field(ge=0, le=120)
    pro_rata_months: int = Field(ge=0, le=120)
    date_code_allowance_months: int = Field(0, ge=0, le=36)
    excluded_uses: tuple[Use, ...] = ()
    reference: str = Field("", description="where these terms stand")
    holds_from: Day | None = Field(None, description="first day of a sale they hold for; none is from the beginning")


def in_force(editions: Sequence[Terms], on: date) -> Terms | None:
    """Of the editions of a line, in the order they were written, the one that holds for a sale on that day.

    The latest that began by then; of two from the same day the one written last. Before all of them the earliest holds.
    """
    if not editions:
        return None
    begins = [(one.holds_from or date.min, at) for at, one in enumerate(editions)]
    begun = [edition for edition in begins if edition[0] <= on]
    return editions[max(begun)[1]] if begun else editions[min(begins, key=lambda found: (found[0], -found[1]))[1]]


class Question(Model):
    """What is asked of the warranty. Dates are days; `price_cents` is what the battery costs today."""

    line: str
    sold_on: date | None = None
    made_on: date | None = None
    today: date
    outcome: Outcome
    use: Use = Use.PRIVATE
    wrong_type_for_car: bool = False
    was_dry: bool = Field(False, description="it came with its plates bare, or dry in a case that cannot be opened")
    already_claimed: bool = False
    price_cents: int = Field(ge=0)
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

    asks: str
    found: str
    holds: bool


class Answer(BaseModel):
    """The decision with its reasons, times and money. `pays_cents` is the customer's share of the replacement."""

    model_config = ConfigDict(frozen=True)

    decision: WarrantyDecision
    headline: str
    reasons: tuple[Reason, ...]
    counted_from: date | None
    counted_from_what: Literal["sale", "date code and shelf allowance", "nothing"]
    months_used: int | None
    free_until: date | None
    ends_on: date | None
    credit_cents: int
    pays_cents: int | None
    next_for_customer: str


def pro_rata_credit_cents(price_cents: int, months_used: int, free_months: int, pro_rata_months: int) -> int:
    """Credit [cents] in the pro-rata period: the share of the whole term not yet used, half a cent rounded up.

    By months used over the whole term (free and pro rata together), common practice; terms that count otherwise go by
    the maker's own sheet. 0 once the term is over.

    >>> pro_rata_credit_cents(12000, months_used=30, free_months=24, pro_rata_months=36)
    6000
    """
    term = free_months + pro_rata_months
    left = max(term - months_used, 0)
    return (2 * price_cents * left + term) // (2 * term) if term else 0


class _Gate(NamedTuple):
    """One question in the way: when it does not hold, its decision stands."""

    asks: str
    found: str
    holds: bool
    decision: WarrantyDecision
    headline: str
    next_for_customer: str


def decide(question: Question, terms: Terms | None) -> Answer:
    """What the warranty gives. Terms are None when the line is not ours. The first thing in the way decides."""
    start, counted_from_what = _counted_from(question, terms)
    reasons: list[Reason] = []
    decision, headline, next_for_customer, credit_cents = _settled(question, terms, start, counted_from_what, reasons)
    replacement = question.replacement_cents
    dated = terms is not None and start is not None
    return Answer(
        decision=decision,
        headline=headline,
        reasons=tuple(reasons),
        counted_from=start,
        counted_from_what=counted_from_what,
        months_used=whole_months_between(start, question.today) if start else None,
        free_until=add_months(start, terms.free_months) if dated and terms and start else None,
        ends_on=add_months(start, terms.free_months + terms.pro_rata_months) if dated and terms and start else None,
        credit_cents=credit_cents,
        pays_cents=None if replacement is None else max(replacement - credit_cents, 0),
        next_for_customer=next_for_customer,
    )


def _settled(
    question: Question, terms: Terms | None, start: date | None, counted_from_what: str, reasons: list[Reason]
) -> tuple[WarrantyDecision, str, str, int]:
    for gate in _gates(question, terms, start, counted_from_what):
        reasons.append(Reason(asks=gate.asks, found=gate.found, holds=gate.holds))
        if not gate.holds:
            return gate.decision, gate.headline, gate.next_for_customer, 0
    assert terms is not None
    assert start is not None
    used = whole_months_between(start, question.today)
    term = terms.free_months + terms.pro_rata_months
    ends_on = add_months(start, term)
    in_time = question.today < ends_on
    words = f"{used} months used of {terms.free_months} free and {terms.pro_rata_months} pro rata"
    reasons.append(Reason(asks="Is it in time?", found=words, holds=in_time))
    if not in_time:
        after = "A new one at today's price; the old one goes back for recycling"
        return WarrantyDecision.OUT_OF_TIME, f"Out of time since {ends_on:%d %b %Y}", after, 0
    if question.today < add_months(start, terms.free_months):
        after = "A new one at no charge; it keeps the first one's dates"
        return (
            WarrantyDecision.FREE,
            f"Free replacement: {used} of {terms.free_months} free months used",
            after,
            question.price_cents,
        )
    credit = pro_rata_credit_cents(question.price_cents, used, terms.free_months, terms.pro_rata_months)
    return (
        WarrantyDecision.PRO_RATA,
        f"Pro rata: {used} of {term} months used",
        "The credit comes off a new one today",
        credit,
    )


def _gates(question: Question, terms: Terms | None, start: date | None, counted_from_what: str) -> list[_Gate]:
    """What must hold before time is counted, in the order it is asked."""
    use, outcome = question.use, question.outcome
    ours = terms is not None
    return [
        _Gate(
            "Can it be handed back?", "it is unsafe" if outcome is Outcome.UNSAFE else "yes", outcome is not Outcome.UNSAFE,
            WarrantyDecision.ASK_THE_MAKER if ours else WarrantyDecision.NOT_OURS,
            "Unsafe to test: the maker decides" if ours else "Unsafe: it stays here, held apart",
            "We hold it apart and send the maker what was seen" if ours
            else "We keep it, whoever sold it: it is carried nowhere, and goes to recycling as the local rules say",
        ),
        _Gate(
            "Is it a line we sold?", question.line or "no line on record", terms is not None,
            WarrantyDecision.NOT_OURS, "Not ours to claim", "Take it back to where it was bought, with the receipt",
        ),
        _Gate(
            "Was it claimed before?", "this one has a claim" if question.already_claimed else "no claim on it",
            not question.already_claimed, WarrantyDecision.EXCLUDED, "Already claimed",
            "A battery given under warranty keeps the first one's dates: bring that receipt",
        ),
        _Gate(
            "Does the sale fit the date code?", _sale_fits(question), not _sold_before_made(question),
            WarrantyDecision.ASK_THE_MAKER, "Sold before it was made", "Check the receipt and read the date code again",
        ),
        _Gate(
            "When does its time run from?", f"{counted_from_what}, {start:%d %b %Y}" if start else counted_from_what,
            start is not None, WarrantyDecision.NO_DATE, "No date to count from",
            "Bring the receipt, or read the date code on the case",
        ),
        _Gate(
            "Did it fail a valid test?", f"judged {outcome.value.replace('_', ' ')}", outcome in FAILED,
            WarrantyDecision.NOT_FAILED, "Discharged or unproven is not failed",
            "We charge it and test it again before anything is refused",
        ),
        _Gate(
            "Is this use covered?", f"{use.value} use", terms is None or use not in terms.excluded_uses,
            WarrantyDecision.EXCLUDED, f"Its terms leave out {use.value} use", "Ask for a line whose terms cover this use",
        ),
        _Gate(
            "Was it the right type for the car?",
            "ordinary battery in a stop-start car" if question.wrong_type_for_car else "type fits the car",
            not question.wrong_type_for_car, WarrantyDecision.EXCLUDED, "Wrong type for the car",
            "Fit the type the car asks for: it will last",
        ),
        _Gate(
            "Was it kept filled?", "it came dry: overcharge or neglect" if question.was_dry else "nothing says that it was dry",
            not question.was_dry, WarrantyDecision.ASK_THE_MAKER, "It came dry: the maker decides",
            "We send what was seen, with the car's running volts",
        ),
    ]  # fmt: skip


def _counted_from(
    question: Question, terms: Terms | None
) -> tuple[date | None, Literal["sale", "date code and shelf allowance", "nothing"]]:
    if question.sold_on is not None:
        return question.sold_on, "sale"
    if question.made_on is not None and terms is not None:
        return add_months(question.made_on, terms.date_code_allowance_months), "date code and shelf allowance"
    return None, "nothing"


def _sold_before_made(question: Question) -> bool:
    return question.sold_on is not None and question.made_on is not None and question.sold_on < question.made_on


def _sale_fits(question: Question) -> str:
    if question.sold_on is None or question.made_on is None:
        return "only one of the two is known"
    return f"made {question.made_on:%b %Y}, sold {question.sold_on:%b %Y}"
