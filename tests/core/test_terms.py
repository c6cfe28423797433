"""Ten term sheets as shops have them, each worked by hand on paper, and what a day counts as."""

import unittest
from datetime import date, timedelta
from fractions import Fraction
from typing import Any

from dateutil.relativedelta import relativedelta
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from vane_check.core.battery.label import Use
from vane_check.core.findings.outcomes import Outcome
from vane_check.core.goods.returns import return_until
from vane_check.core.goods.terms import Terms, credit_share, in_force
from vane_check.core.goods.warranty import Answer, Question, WarrantyDecision, decide
from vane_check.core.house.rules import house_rules
from vane_check.core.units.months import add_months, months_begun, months_over


def ask(terms: dict[str, Any], sold: str, today: str, price: int | None = 12000, **more: Any) -> Answer:
    body = {
        "line": "Plain", "sold_on": sold, "today": today, "outcome": Outcome.WORN_OUT, "price_cents": price, "replacement_cents": 14000, **more,
    }  # fmt: skip
    return decide(Question.model_validate(body), Terms.model_validate({"line": "Plain", **terms}))


FREE, SHARE, OVER, OUT = (
    WarrantyDecision.FREE,
    WarrantyDecision.PRO_RATA,
    WarrantyDecision.OUT_OF_TIME,
    WarrantyDecision.EXCLUDED,
)
STEPS = [
    {"until_month": 12, "credit_pct": 100},
    {"until_month": 24, "credit_pct": 50},
    {"until_month": 36, "credit_pct": 25},
]
SHEETS: dict[str, tuple[dict[str, Any], list[tuple[str, str, WarrantyDecision, int]]]] = {
    # sold, today, decision, cents of 120.00
    "1 two years free, nothing after": (
        {"free_months": 24, "pro_rata_months": 0},
        [("2025-03-14", "2027-03-14", FREE, 12000), ("2025-03-14", "2027-03-15", OVER, 0)],
    ),
    "2 one year free, then over the whole 36 months": (
        # 18 months over: 18 of 36 are left
        {"free_months": 12, "pro_rata_months": 24},
        [("2025-01-15", "2026-01-15", FREE, 12000), ("2025-01-15", "2026-07-20", SHARE, 6000)],
    ),
    "3 the same, over the pro-rata part": (
        # 18 months over: 18 of the 24 that are pro rata are left, 120.00 x 18/24
        {"free_months": 12, "pro_rata_months": 24, "pro_rata": "pro_rata_part"},
        [("2025-01-15", "2026-07-20", SHARE, 9000), ("2025-01-15", "2026-01-16", SHARE, 12000)],
    ),
    "4 by days over two years": (
        # 1 Jan 2025 to 1 Jan 2027 are 730 days; on 1 Jul 2026 (day 546) 184 are left: 120.00 x 184/730 = 30.2466
        {"free_months": 0, "pro_rata_months": 24, "pro_rata": "by_days"},
        [("2025-01-01", "2026-07-01", SHARE, 3025), ("2025-01-01", "2027-01-01", SHARE, 0)],
    ),
    "5 by steps: 100, 50, 25 per cent": (
        {"free_months": 0, "pro_rata_months": 36, "pro_rata": "steps", "steps": STEPS},
        [
            ("2025-02-28", "2026-02-28", SHARE, 12000),
            ("2025-02-28", "2026-03-01", SHARE, 6000),
            ("2025-02-28", "2028-02-28", SHARE, 3000),
            ("2025-02-28", "2028-02-29", OVER, 0),
        ],
    ),
    "6 months begun count": (
        # on 16 Jan 2026 the thirteenth month has begun: 120.00 x 23/36 = 76.67
        {"free_months": 12, "pro_rata_months": 24, "months_count": "begun"},
        [("2025-01-15", "2026-01-16", SHARE, 7667), ("2025-01-15", "2028-01-15", SHARE, 0)],
    ),
    "7 sold on the last of a month": (
        # one month from 31 Jan ends with the end of 28 Feb, two with the end of 31 Mar
        {"free_months": 1, "pro_rata_months": 1},
        [
            ("2025-01-31", "2025-02-28", FREE, 12000),
            ("2025-01-31", "2025-03-01", SHARE, 6000),
            ("2025-01-31", "2025-03-31", SHARE, 6000),
            ("2025-01-31", "2025-04-01", OVER, 0),
        ],
    ),
    "8 a leap day": (
        {"free_months": 12, "pro_rata_months": 0},
        [("2024-02-29", "2025-02-28", FREE, 12000), ("2024-02-29", "2025-03-01", OVER, 0)],
    ),
}


class Sheets(unittest.TestCase):
    def test_each_gives_what_was_worked_out_by_hand(self) -> None:
        for name, (terms, cases) in SHEETS.items():
            for sold, today, decision, cents in cases:
                with self.subTest(name, sold=sold, today=today):
                    found = ask(terms, sold, today)
                    self.assertEqual((found.decision, found.credit_cents), (decision, cents))
                    self.assertEqual(found.pays_cents, 14000 - cents if cents else 14000)

    def test_9_a_taxi_has_a_shorter_term_instead_of_none(self) -> None:
        terms = {
            "free_months": 24, "pro_rata_months": 12, "excluded_uses": ["taxi", "delivery"],
            "use_terms": [{"use": "taxi", "free_months": 6, "pro_rata_months": 6}],
        }  # fmt: skip
        day = "2025-09-10"  # eight months over of twelve: 120.00 x 4/12
        found = ask(terms, "2025-01-05", day, use=Use.TAXI)
        self.assertEqual((found.decision, found.credit_cents), (SHARE, 4000))
        self.assertEqual((found.free_until, found.ends_on), (date(2025, 7, 5), date(2026, 1, 5)))
        self.assertEqual(ask(terms, "2025-01-05", day, use=Use.DELIVERY).decision, OUT)
        self.assertEqual(ask(terms, "2025-01-05", day).decision, FREE)

    def test_10_a_price_nobody_knows_is_asked_for_and_stops_a_free_that_costs(self) -> None:
        for price_taken in ("today", "list", "paid"):
            terms = {"free_months": 24, "pro_rata_months": 12, "price_taken": price_taken}
            for today in ("2025-06-01", "2027-06-01"):
                with self.subTest(price_taken, today=today):
                    found = ask(terms, "2025-01-05", today, price=None)
                    self.assertEqual((found.price_missing, found.pays_cents), (price_taken, None))
        self.assertIsNone(ask({"free_months": 1, "pro_rata_months": 0}, "2020-01-05", "2025-01-05", None).price_missing)

    def test_steps_go_on_to_the_end_of_the_term(self) -> None:
        for steps in (STEPS[:2], [], [STEPS[1], STEPS[0]], [STEPS[0], STEPS[0]]):
            with self.subTest(steps=steps), self.assertRaises(ValidationError):
                Terms.model_validate(
                    {"line": "P", "free_months": 12, "pro_rata_months": 24, "pro_rata": "steps", "steps": steps}
                )


class WhichEdition(unittest.TestCase):
    def test_those_of_the_very_item_come_before_those_of_its_line(self) -> None:
        line = Terms(line="Plain", free_months=12, pro_rata_months=0)
        own = Terms(line="Plain", free_months=36, pro_rata_months=0, item="Plain 48")
        self.assertIs(in_force([own, line], date(2025, 1, 1), "plain 48"), own)
        self.assertIs(in_force([own, line], date(2025, 1, 1), "Plain 47"), line)
        self.assertIs(in_force([own, line], date(2025, 1, 1)), line)
        self.assertIsNone(in_force([own], date(2025, 1, 1), "Plain 47"))

    def test_days_of_return_are_the_terms_own_or_the_shops(self) -> None:
        rules, sold = house_rules(), date(2026, 2, 20)
        own = Terms(line="Plain", free_months=12, pro_rata_months=0, return_days=30)
        self.assertEqual(return_until(sold, own, rules), date(2026, 3, 22))
        self.assertEqual(return_until(sold, None, rules), date(2026, 3, 6))
        self.assertEqual(return_until(sold, own.model_copy(update={"return_days": 0}), rules), sold)


DAYS = st.dates(date(1995, 1, 1), date(2060, 1, 1))


class Months(unittest.TestCase):
    """Against dateutil, and Regulation (EEC, Euratom) No 1182/71, Article 3: the day of the sale is not counted, a period in months
    ends with the end of the day that has the date of its start, else with the month's last."""

    @settings(max_examples=400, deadline=None)
    @given(DAYS, st.integers(0, 120))
    def test_a_month_is_over_the_day_after_its_last(self, start: date, months: int) -> None:
        last = start + relativedelta(months=months)
        self.assertEqual(add_months(start, months), last)
        self.assertEqual(months_over(start, last + timedelta(days=1)), months)
        if months:
            self.assertEqual(months_over(start, last), months - 1)
        self.assertEqual(months_begun(start, last), months)

    @settings(max_examples=400, deadline=None)
    @given(DAYS, st.integers(0, 2000), st.sampled_from(["whole_term", "pro_rata_part", "by_days", "steps"]))
    def test_no_share_grows_with_time_or_leaves_nought_to_one(self, start: date, later: int, kind: str) -> None:
        terms = Terms.model_validate(
            {"line": "P", "free_months": 12, "pro_rata_months": 24, "pro_rata": kind, "steps": STEPS}
        )
        now = start + timedelta(days=later)
        share, next_day = (credit_share(terms, start, day) for day in (now, now + timedelta(days=1)))
        self.assertTrue(Fraction(0) <= next_day <= share <= Fraction(1))
