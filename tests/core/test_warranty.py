import unittest
from datetime import date
from fractions import Fraction
from typing import Any

from vane_check.core.battery.label import Use
from vane_check.core.findings.outcomes import Outcome
from vane_check.core.goods.terms import Terms, credit_cents
from vane_check.core.goods.warranty import (
    Answer,
    Done,
    Question,
    WarrantyDecision,
    decide,
)
from vane_check.core.units.months import add_months, whole_months_between

TERMS = Terms(line="Plain", free_months=12, pro_rata_months=24, date_code_allowance_months=3, excluded_uses=(Use.TAXI,))


def ask(terms: Terms | None = TERMS, **more: Any) -> Answer:
    asked = {
        "line": "Plain", "sold_on": date(2025, 1, 15), "today": date(2025, 6, 1), "outcome": Outcome.WORN_OUT,
        "price_cents": 12000, **more,
    }  # fmt: skip
    return decide(Question.model_validate(asked), terms)


class Deciding(unittest.TestCase):
    def test_table(self) -> None:
        table: list[tuple[str, dict[str, Any], WarrantyDecision, int]] = [
            ("free", {}, WarrantyDecision.FREE, 12000),
            ("last free day, until its end", {"today": date(2026, 1, 15)}, WarrantyDecision.FREE, 12000),
            ("first pro-rata day", {"today": date(2026, 1, 16)}, WarrantyDecision.PRO_RATA, 8000),
            ("half way", {"today": date(2026, 7, 20)}, WarrantyDecision.PRO_RATA, 6000),
            ("last day of all, until its end", {"today": date(2028, 1, 15)}, WarrantyDecision.PRO_RATA, 333),
            ("over", {"today": date(2028, 1, 16)}, WarrantyDecision.OUT_OF_TIME, 0),
            ("discharged is not failed", {"outcome": Outcome.NEEDS_CHARGE}, WarrantyDecision.NOT_FAILED, 0),
            ("unproven is not failed", {"outcome": Outcome.CANNOT_TELL}, WarrantyDecision.NOT_FAILED, 0),
            ("sound is not failed", {"outcome": Outcome.SOUND}, WarrantyDecision.NOT_FAILED, 0),
            ("unsafe goes to the maker", {"outcome": Outcome.UNSAFE}, WarrantyDecision.ASK_THE_MAKER, 0),
            ("taxi left out", {"use": Use.TAXI}, WarrantyDecision.EXCLUDED, 0),
            ("wrong type", {"wrong_type_for_car": True}, WarrantyDecision.EXCLUDED, 0),
            ("claimed before", {"claimed": Done(on=date(2025, 6, 1))}, WarrantyDecision.EXCLUDED, 0),
            ("given under warranty", {"given": Done(on=date(2025, 2, 1))}, WarrantyDecision.ASK_THE_MAKER, 0),
            (
                "given, and the first one's time is over",
                {"given": Done(on=date(2025, 2, 1)), "today": date(2028, 1, 16)},
                WarrantyDecision.OUT_OF_TIME,
                0,
            ),
            ("taken back", {"taken_back": Done(on=date(2025, 1, 20))}, WarrantyDecision.EXCLUDED, 0),
            ("sold before made", {"made_on": date(2025, 3, 1)}, WarrantyDecision.ASK_THE_MAKER, 0),
            ("no date at all", {"sold_on": None}, WarrantyDecision.NO_DATE, 0),
        ]
        for what, more, decision, credit in table:
            with self.subTest(what):
                found = ask(**more)
                self.assertEqual((found.decision, found.credit_cents), (decision, credit))
                self.assertTrue(found.next_for_customer)

    def test_not_our_line(self) -> None:
        self.assertEqual(ask(None).decision, WarrantyDecision.NOT_OURS)

    def test_date_code_with_the_shelf_allowance_stands_in_for_the_sale(self) -> None:
        found = ask(sold_on=None, made_on=date(2024, 10, 1))
        self.assertEqual((found.counted_from, found.months_used), (date(2025, 1, 1), 4))  # the fifth ends with that day
        self.assertEqual(found.counted_from_what, "date code and shelf allowance")

    def test_customer_pays_the_difference_never_less_than_nothing(self) -> None:
        self.assertEqual(ask(replacement_cents=15000).pays_cents, 3000)
        self.assertEqual(ask(replacement_cents=9000).pays_cents, 0)

    def test_every_refusal_shows_the_question_that_stood_in_the_way(self) -> None:
        found = ask(use=Use.TAXI)
        self.assertFalse(found.reasons[-1].holds)
        self.assertTrue(all(reason.holds for reason in found.reasons[:-1]))


class Money(unittest.TestCase):
    def test_credit_is_whole_cents_rounded_half_up(self) -> None:
        self.assertEqual(credit_cents(9999, Fraction(23, 36)), 6388)  # 6388.25
        self.assertEqual(credit_cents(1, Fraction(1, 2)), 1)
        self.assertEqual(credit_cents(5000, Fraction(0)), 0)


class Months(unittest.TestCase):
    def test_month_ends(self) -> None:
        self.assertEqual(add_months(date(2023, 8, 31), 6), date(2024, 2, 29))
        self.assertEqual(whole_months_between(date(2023, 8, 31), date(2024, 2, 29)), 6)
        self.assertEqual(whole_months_between(date(2024, 2, 29), date(2023, 8, 31)), 0)
