"""Match and warranty: what must hold for all of them, and months and money against other libraries."""

import unittest
from datetime import date
from decimal import ROUND_HALF_UP, Decimal
from fractions import Fraction

from dateutil.relativedelta import relativedelta
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.build import RULES
from vane_check.core.battery.label import Chemistry
from vane_check.core.findings.outcomes import FAILED, Outcome
from vane_check.core.goods.terms import Terms, credit_cents, credit_share
from vane_check.core.goods.warranty import Question, WarrantyDecision, decide
from vane_check.core.matching import Candidate, Fit, Match, Requirement, match
from vane_check.core.tables import footprints
from vane_check.core.units.money import tax_within_cents
from vane_check.core.units.months import add_months, whole_months_between

CODES = sorted(footprints())
days = st.dates(date(2005, 1, 1), date(2035, 12, 31))
codes = st.sampled_from(CODES)
chemistries = st.sampled_from(list(Chemistry))
requirements = st.builds(
    Requirement,
    group_code=codes,
    min_cca_amps=st.floats(0, 1000),
    chemistry=chemistries,
    stop_start=st.booleans(),
    vent_tube=st.booleans(),
    no_agm=st.booleans(),
)
candidates = st.builds(
    Candidate,
    item_id=st.integers(1, 1000),
    line=st.just("Plain"),
    name=st.text("abc", min_size=1, max_size=4),
    group_code=codes,
    chemistry=chemistries,
    cca_amps=st.floats(100, 1200),
    vent_tube=st.booleans(),
    price_cents=st.integers(0, 50_000),
    in_stock=st.integers(0, 5),
)
ORDER = list(Fit)


def one(requirement: Requirement, candidate: Candidate) -> Match:
    return match(requirement, [candidate], RULES)[0]


class Months(unittest.TestCase):
    """Against python-dateutil's relativedelta."""

    @settings(max_examples=300, deadline=None)
    @given(days, st.integers(-200, 200))
    def test_adding(self, start: date, months: int) -> None:
        self.assertEqual(add_months(start, months), start + relativedelta(months=months))

    @settings(max_examples=300, deadline=None)
    @given(days, st.integers(0, 5000))
    def test_counting(self, start: date, later: int) -> None:
        end = date.fromordinal(start.toordinal() + later)
        counted = whole_months_between(start, end)
        self.assertLessEqual(add_months(start, counted), end)
        self.assertGreater(add_months(start, counted + 1), end)


class Money(unittest.TestCase):
    """Against exact fractions."""

    @settings(max_examples=300, deadline=None)
    @given(st.integers(0, 100_000), st.integers(0, 130), st.integers(0, 60), st.integers(0, 60))
    def test_credit_is_the_exact_share_rounded_half_up(self, price: int, used: int, free: int, pro_rata: int) -> None:
        terms = Terms(line="Plain", free_months=free, pro_rata_months=pro_rata)
        start = date(2001, 1, 1)
        day_after = date.fromordinal(add_months(start, used).toordinal() + 1)  # its last month is over
        found = credit_cents(price, credit_share(terms, start, day_after))
        term = free + pro_rata
        exact = Fraction(price * max(term - used, 0), term) if term else Fraction(0)
        self.assertLessEqual(abs(found - exact), Fraction(1, 2))
        self.assertTrue(0 <= found <= price)

    @settings(max_examples=200, deadline=None)
    @given(days, st.integers(0, 2500), st.integers(0, 48), st.integers(0, 60), st.integers(0, 90_000))
    def test_credit_never_grows_with_time(self, sold: date, later: int, free: int, pro_rata: int, price: int) -> None:
        terms = Terms(line="Plain", free_months=free, pro_rata_months=pro_rata)

        def credit(day: date) -> int:
            asked = Question(line="Plain", sold_on=sold, today=day, outcome=Outcome.WORN_OUT, price_cents=price)
            return decide(asked, terms).credit_cents

        now = date.fromordinal(sold.toordinal() + later)
        self.assertGreaterEqual(credit(now), credit(add_months(now, 1)))

    @settings(max_examples=200, deadline=None)
    @given(st.sampled_from(list(Outcome)), days, st.integers(0, 2500), st.integers(0, 50_000), st.integers(0, 50_000))
    def test_only_a_failed_battery_is_credited_and_nobody_is_paid_to_take_one(
        self, outcome: Outcome, sold: date, later: int, price: int, replacement: int
    ) -> None:
        terms = Terms(line="Plain", free_months=12, pro_rata_months=24)
        found = decide(
            Question(
                line="Plain",
                sold_on=sold,
                today=date.fromordinal(sold.toordinal() + later),
                outcome=outcome,
                price_cents=price,
                replacement_cents=replacement,
            ),
            terms,
        )
        if outcome not in FAILED:
            self.assertEqual(found.credit_cents, 0)
            self.assertNotIn(found.decision, {WarrantyDecision.FREE, WarrantyDecision.PRO_RATA})
        assert found.pays_cents is not None
        self.assertTrue(0 <= found.pays_cents <= replacement)
        self.assertTrue(found.headline and found.next_for_customer and found.reasons)


class Matching(unittest.TestCase):
    @settings(max_examples=300, deadline=None)
    @given(requirements, candidates, st.floats(0, 400))
    def test_more_cca_never_fits_worse(self, asked: Requirement, candidate: Candidate, more: float) -> None:
        stronger = candidate.model_copy(update={"cca_amps": candidate.cca_amps + more})
        self.assertLessEqual(ORDER.index(one(asked, stronger).fit), ORDER.index(one(asked, candidate).fit))

    @settings(max_examples=300, deadline=None)
    @given(requirements, candidates)
    def test_a_rejected_one_says_why_in_figures_or_words(self, asked: Requirement, candidate: Candidate) -> None:
        found = one(asked, candidate)
        against = [point for point in found.points if point.stands == "against"]
        self.assertEqual(found.fit is Fit.REJECTED, bool(against))
        self.assertTrue(all(point.text for point in found.points))
        self.assertEqual(bool(found.to_do), found.fit is not Fit.REJECTED)

    @settings(max_examples=200, deadline=None)
    @given(requirements, candidates)
    def test_stop_start_is_never_stepped_down(self, asked: Requirement, candidate: Candidate) -> None:
        asked = asked.model_copy(update={"stop_start": True, "chemistry": Chemistry.AGM})
        if one(asked, candidate).fit is not Fit.REJECTED:
            self.assertIs(candidate.chemistry, Chemistry.AGM)

    @settings(max_examples=200, deadline=None)
    @given(requirements, candidates)
    def test_nothing_larger_than_the_tray_fits(self, asked: Requirement, candidate: Candidate) -> None:
        tray, case = footprints()[asked.group_code], footprints()[candidate.group_code]
        found = one(asked, candidate)
        same = {case.code, case.same_as} & {tray.code, tray.same_as, *asked.also_codes} - {""}
        tolerance = RULES.match.footprint_tolerance_mm.value
        if found.fit is not Fit.REJECTED and not same:
            self.assertLessEqual(case.length_mm - tray.length_mm, tolerance)
            self.assertLessEqual(case.width_mm - tray.width_mm, tolerance)
            self.assertLessEqual(case.height_mm - tray.height_mm, tolerance)
            self.assertEqual(case.positive_side, tray.positive_side)
            self.assertEqual(case.nominal_volts, tray.nominal_volts)

    @settings(max_examples=100, deadline=None)
    @given(requirements, st.lists(candidates, max_size=8))
    def test_each_is_judged_alone_and_the_best_come_first(self, asked: Requirement, shelf: list[Candidate]) -> None:
        found = match(asked, shelf, RULES)
        self.assertEqual(len(found), len(shelf))
        ranks = [ORDER.index(each.fit) for each in found]
        self.assertEqual(ranks, sorted(ranks))
        for each in found:
            self.assertEqual(each, one(asked, each.candidate))

    @settings(max_examples=100, deadline=None)
    @given(codes, codes)
    def test_millimetres_differ_the_other_way_round(self, old: str, new: str) -> None:
        def between(tray: str, case: str) -> tuple[int, int, int]:
            asked = Requirement(group_code=tray, min_cca_amps=0)
            body = Candidate(item_id=1, line="", name="x", group_code=case, chemistry=Chemistry.FLOODED, cca_amps=500)
            found = one(asked, body)
            return found.length_difference_mm, found.width_difference_mm, found.height_difference_mm

        self.assertEqual(between(old, new), tuple(-each for each in between(new, old)))


class Tax(unittest.TestCase):
    """Outside the project: Python's decimal, rounding half up, and the sum of net and tax."""

    def test_the_tax_within_a_price_is_what_decimal_says(self) -> None:
        for rate in ("5", "7.7", "8.875", "19", "20", "23", "25.5"):
            for cents in (1, 2, 49, 99, 100, 12345, 99999, 1234567):
                exact = Decimal(cents) * Decimal(rate) / (Decimal(100) + Decimal(rate))
                wanted = int(exact.quantize(Decimal(1), ROUND_HALF_UP))
                with self.subTest((rate, cents)):
                    found = tax_within_cents(cents, float(rate))
                    self.assertEqual(found, wanted)
                    net = cents - found
                    self.assertLessEqual(abs(net * float(rate) / 100 - found), 1)  # what is left is taxed to the same
