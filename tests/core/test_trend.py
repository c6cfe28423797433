"""What a battery gave over the years: a fall counts where the widths do not meet, and is drawn on to the house's line."""

import unittest
from datetime import date

from vane_check.core.judging.estimate import Estimate
from vane_check.core.life.trend import Given, Trend, trend_of


def given(day: date, amps: float, width: float, conflict: bool = False) -> Given:
    said = Estimate(
        cca_amps=amps, low_amps=amps - width, high_amps=amps + width, methods=("tester",), conflict=conflict, words=""
    )
    return Given(day, said)


def found(*visits: Given, least: float | None = 450) -> Trend:
    trend = trend_of(visits, least)
    assert trend is not None
    return trend


SPRING = given(date(2025, 3, 1), 600, 40)


class Trends(unittest.TestCase):
    def test_a_clear_fall_and_where_it_leads(self) -> None:
        """600 to 510 in ten months are 9 a month; the 60 that are left over the line last six months."""
        trend = found(SPRING, given(date(2026, 1, 5), 510, 40))
        self.assertEqual(
            (trend.change_pct, trend.months, trend.is_clear, trend.months_to_the_line), (-15.0, 10, True, 6)
        )
        self.assertEqual(
            trend.words,
            "600 ±40 CCA on 01 Mar 2025, 510 ±40 CCA on 05 Jan 2026: -15 % in 10 months; at this rate under the house's line in 6 months",
        )

    def test_within_the_widths_nothing_is_foretold(self) -> None:
        trend = found(SPRING, given(date(2026, 1, 5), 530, 40))
        self.assertEqual((trend.is_clear, trend.months_to_the_line), (False, None))
        self.assertIn("within what the two may be off", trend.words)
        self.assertEqual(found(SPRING, given(date(2026, 1, 5), 700, 40)).months_to_the_line, None)

    def test_under_the_line_already_and_without_one(self) -> None:
        later = given(date(2026, 1, 5), 400, 40)
        self.assertEqual(found(SPRING, later).months_to_the_line, 0)
        self.assertTrue(found(SPRING, later).words.endswith("; under the house's line"))
        self.assertIsNone(found(SPRING, later, least=None).months_to_the_line)

    def test_one_visit_is_none_and_a_disagreement_does_not_count(self) -> None:
        self.assertIsNone(trend_of([SPRING], 450))
        self.assertIsNone(trend_of([SPRING, given(date(2026, 1, 5), 400, 90, conflict=True)], 450))
        self.assertIsNone(trend_of([], None))
