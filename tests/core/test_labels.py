import unittest
from datetime import date

from vane_check.core.battery.date_codes import date_candidates
from vane_check.core.battery.label import Battery
from vane_check.core.battery.sizes import recognised_size

TODAY = date(2026, 3, 1)


def months(code: str, sold_on: date | None = None) -> list[str]:
    return [f"{found.made_on:%Y-%m}" for found in date_candidates(code, TODAY, sold_on)]


class DateCodes(unittest.TestCase):
    def test_table(self) -> None:
        table = [
            ("C5", ["2025-03", "2015-03"]),
            ("c25", ["2025-03"]),
            ("K4", ["2024-11", "2024-10", "2014-11", "2014-10"]),
            ("I4", ["2024-09", "2014-09"]),
            ("M3", ["2023-12", "2013-12"]),
            ("0325", ["2025-03"]),
            ("3/25", ["2025-03"]),
            ("03 2025", ["2025-03"]),
            ("2512", ["2025-03"]),
            ("4524", ["2024-11"]),
            ("25074", ["2025-03"]),
            ("D6", ["2016-04"]),
            ("Z9", []),
            ("hello", []),
            ("", []),
        ]  # fmt: skip
        for code, expected in table:
            with self.subTest(code):
                found = months(code)
                self.assertEqual(sorted(set(found) & set(expected)), sorted(expected), found)
                if expected:
                    self.assertEqual(found[0], expected[0])

    def test_a_year_has_the_days_and_weeks_its_calendar_gives_it(self) -> None:
        """ISO 8601: 2020 has 53 weeks, 2024 has 52; 2024 is a leap year, 2023 is none."""
        for code, expected in (
            ("24366", ["2024-12"]),
            ("23366", []),
            ("23365", ["2023-12"]),
            ("2053", ["2020-12"]),
            ("2453", []),
        ):
            with self.subTest(code):
                self.assertEqual(months(code), expected)

    def test_nothing_lies_in_the_future(self) -> None:
        for code in ("0526", "L6", "2620", "26200"):
            self.assertTrue(all(one.made_on <= TODAY for one in date_candidates(code, TODAY)), code)

    def test_the_sale_makes_one_of_two_decades_plausible(self) -> None:
        old = date_candidates("C5", TODAY, sold_on=date(2015, 6, 1))
        self.assertEqual(old[0].made_on, date(2015, 3, 1))
        new = date_candidates("C5", TODAY, sold_on=date(2025, 6, 1))
        self.assertEqual(new[0].made_on, date(2025, 3, 1))
        self.assertLess(new[1].plausibility, new[0].plausibility)

    def test_a_code_after_the_sale_is_kept_but_hardly_believed(self) -> None:
        found = date_candidates("0126", TODAY, sold_on=date(2025, 6, 1))
        self.assertLess(found[0].plausibility, 0.1)


class Sizes(unittest.TestCase):
    def test_table(self) -> None:
        for printed, code in (
            ("48", "48"), ("24f", "24F"), ("Group 35", "35"), ("LN3", "LN3"), ("L3", "LN3"), ("LB2", "LB2"),
            ("55D23L", "D23L"), ("80D26R", "D26R"), ("46B24LS", "B24L"), ("99Z", None), ("", None),
        ):  # fmt: skip
            with self.subTest(printed):
                self.assertEqual(recognised_size(printed), code)

    def test_a_battery_takes_what_is_printed(self) -> None:
        self.assertEqual(Battery(group_code="55d23l").group_code, "D23L")
