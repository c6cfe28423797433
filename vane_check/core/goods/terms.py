"""Warranty terms as they are written: free and pro-rata months, how a share is counted, of which price, for which use and item."""

from collections.abc import Sequence
from datetime import date
from enum import StrEnum
from fractions import Fraction

from pydantic import Field, model_validator

from ..battery.label import Use
from ..units.model import Day, Model
from ..units.months import add_months, months_begun, months_over
from ..words import say

MONTHS_AT_MOST = 120


class ProRata(StrEnum):
    """What the share of a pro-rata credit is counted over."""

    WHOLE_TERM = "whole_term"
    PRO_RATA_PART = "pro_rata_part"
    BY_DAYS = "by_days"
    STEPS = "steps"


class MonthsCount(StrEnum):
    """Which months count as used: those that are over, or the one that runs too."""

    COMPLETED = "completed"
    BEGUN = "begun"


class PriceTaken(StrEnum):
    """Which price a credit is a share of."""

    TODAY = "today"
    LIST = "list"
    PAID = "paid"


class Step(Model):
    """A line of a percent table: until the end of that month of the term, this share is credited."""

    until_month: int = Field(ge=1, le=MONTHS_AT_MOST)
    credit_pct: float = Field(ge=0, le=100)


class UseTerms(Model):
    """A shorter term for a use, instead of none."""

    use: Use
    free_months: int = Field(ge=0, le=MONTHS_AT_MOST)
    pro_rata_months: int = Field(0, ge=0, le=MONTHS_AT_MOST)


class Terms(Model):
    """What a line's warranty promises.

    The pro-rata period follows the free one. `date_code_allowance_months` is the time on a shelf that is granted when
    only the date code is known.
    """

    line: str
    item: str = Field("", description="the one item it is for; empty for the whole line")
    free_months: int = Field(ge=0, le=MONTHS_AT_MOST)
    pro_rata_months: int = Field(ge=0, le=MONTHS_AT_MOST)
    pro_rata: ProRata = ProRata.WHOLE_TERM
    steps: tuple[Step, ...] = Field((), max_length=MONTHS_AT_MOST)
    months_count: MonthsCount = MonthsCount.COMPLETED
    price_taken: PriceTaken = PriceTaken.TODAY
    date_code_allowance_months: int = Field(0, ge=0, le=36)
    excluded_uses: tuple[Use, ...] = ()
    use_terms: tuple[UseTerms, ...] = Field((), max_length=len(Use))
    return_days: int | None = Field(None, ge=0, le=365, description="its own days of return; none are the shop's")
    reference: str = Field("", description="where these terms stand")
    holds_from: Day | None = Field(None, description="first day of a sale they hold for; none is from the beginning")

    @model_validator(mode="after")
    def _steps_go_on(self) -> "Terms":
        ends = [step.until_month for step in self.steps]
        if ends != sorted(set(ends)):
            raise ValueError(say("terms.each_step_ends_after_the_one_before"))
        if self.pro_rata is ProRata.STEPS and self.pro_rata_months and (not ends or ends[-1] < self.term_months):
            raise ValueError(say("terms.the_steps_end_before_the_term", count=self.term_months))
        return self

    @property
    def term_months(self) -> int:
        """Free and pro-rata months together."""
        return self.free_months + self.pro_rata_months

    def used_for(self, use: Use) -> "Terms":
        """As they are for a use: shorter where they say so."""
        own = next((each for each in self.use_terms if each.use is use), None)
        if own is None:
            return self
        return self.model_copy(
            update={"free_months": own.free_months, "pro_rata_months": own.pro_rata_months, "excluded_uses": ()}
        )

    def months_used(self, start: date, today: date) -> int:
        """Months used by a day, as these terms count them [months]."""
        count = months_begun if self.months_count is MonthsCount.BEGUN else months_over
        return count(start, today)


def credit_share(terms: Terms, start: date, today: date) -> Fraction:
    """The share of the price that is credited on a day of the pro-rata period, 0 to 1.

    Over the whole term and over its pro-rata part are common practice; days are those from the sale to the end of the last day.
    A step counts until the end of its month.
    """
    used, term = terms.months_used(start, today), terms.term_months
    if terms.pro_rata is ProRata.STEPS:
        step = next((step for step in terms.steps if today <= add_months(start, step.until_month)), None)
        return Fraction(str(step.credit_pct)) / 100 if step else Fraction(0)
    if terms.pro_rata is ProRata.BY_DAYS:
        ends = add_months(start, term)
        whole = (ends - start).days
        return Fraction(max((ends - today).days, 0), whole) if whole else Fraction(0)
    over = terms.pro_rata_months if terms.pro_rata is ProRata.PRO_RATA_PART else term
    return min(Fraction(max(term - used, 0), over), Fraction(1)) if over else Fraction(0)


def credit_cents(price_cents: int, share: Fraction) -> int:
    """A share of a price in whole cents, half a cent rounded up."""
    return int(price_cents * share + Fraction(1, 2))


def in_force(editions: Sequence[Terms], on: date, item: str = "") -> Terms | None:
    """Of the editions of a line, in the order they were written, the one that holds for a sale of an item on that day.

    Those of the very item come before those of the whole line. The latest that began by then; of two from the same day the
    one written last. Before all of them the earliest holds.
    """
    own = [edition for edition in editions if item and edition.item.lower() == item.lower()]
    of_all = [edition for edition in editions if not edition.item]
    candidates = own or of_all
    if not candidates:
        return None
    begins = [(edition.holds_from or date.min, at) for at, edition in enumerate(candidates)]
    begun = [edition for edition in begins if edition[0] <= on]
    return candidates[max(begun)[1]] if begun else candidates[min(begins, key=lambda each: (each[0], -each[1]))[1]]
