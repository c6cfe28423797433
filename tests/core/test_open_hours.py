"""When a shop is open: a pause at noon, holidays, and both clock changes; and a charger that cannot go down far enough."""

import unittest
from datetime import UTC, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from pydantic import ValidationError

from tests.build import check, volts
from vane_check.core.charging.rack import OpeningHours, open_spans, suits
from vane_check.core.facts.case import Case
from vane_check.core.findings.kinds import StepKey
from vane_check.core.house.equipment import Charger, ChargerMode
from vane_check.core.house.rules import house_rules

ZONE = ZoneInfo("Europe/Dublin")
DAY = {"opens": "08:00", "closes": "17:00", "pause_from": "12:00", "pause_until": "13:00"}


def week(**more: Any) -> OpeningHours:
    return OpeningHours.model_validate({"days": [DAY] * 6 + [None], **more})


def spans(hours: OpeningHours, day: datetime, days: int = 1) -> list[tuple[str, str]]:
    found = open_spans(hours, ZONE, day, day + timedelta(days=days))
    return [(f"{a.astimezone(ZONE):%d %H:%M}", f"{b.astimezone(ZONE):%H:%M}") for a, b in found]


class Hours(unittest.TestCase):
    def test_a_pause_parts_the_day_in_two(self) -> None:
        tuesday = datetime(2026, 12, 1, tzinfo=ZONE)
        self.assertEqual(spans(week(), tuesday), [("01 08:00", "12:00"), ("01 13:00", "17:00")])
        for clock, is_open in (("07:59", False), ("08:00", True), ("12:30", False), ("13:00", True), ("17:01", False)):
            with self.subTest(clock):
                moment = datetime.fromisoformat(f"2026-12-01T{clock}").replace(tzinfo=ZONE).astimezone(UTC)
                self.assertEqual(week().is_open(moment, ZONE), is_open)

    def test_closed_days_are_closed_from_the_first_to_the_last(self) -> None:
        hours = week(closed=[{"first": "2026-12-24", "last": "2026-12-26", "why": "Holidays"}])
        days = {one[:2] for one, _ in spans(hours, datetime(2026, 12, 22, tzinfo=ZONE), 7)}
        self.assertEqual(days, {"22", "23", "28"})  # the 27th is a Sunday

    def test_days_of_a_clock_change_keep_the_shops_clock(self) -> None:
        for sunday in (datetime(2026, 10, 26, tzinfo=ZONE), datetime(2026, 3, 30, tzinfo=ZONE)):
            self.assertEqual([each[1] for each in spans(week(), sunday)], ["12:00", "17:00"])

    def test_what_cannot_be_is_refused(self) -> None:
        for pause in (
            {"pause_from": "07:00"},
            {"pause_until": None},
            {"pause_until": "17:00"},
            {"pause_from": "13:30"},
        ):
            with self.subTest(pause=pause), self.assertRaises(ValidationError):
                OpeningHours.model_validate({"days": [{**DAY, **pause}] * 7})
        with self.assertRaises(ValidationError):
            week(closed=[{"first": "2026-12-26", "last": "2026-12-24"}])


class Small(unittest.TestCase):
    def test_a_charger_that_cannot_go_down_is_not_for_a_small_one(self) -> None:
        mode = ChargerMode(name="wet", volts=14.7)
        large, small = (Charger(amps=20, least_amps=least, modes=(mode,)) for least in (6.0, None))
        rules = house_rules()
        for ah, charger, fits in ((9, large, False), (9, small, True), (70, large, True)):
            with self.subTest(ah=ah, least=charger.least_amps):
                case = Case.of(check(volts(12.1), capacity_ah_20h=ah, rated=None), rules)
                found = suits(case, StepKey.CHARGE_AND_RETEST, charger, None)
                self.assertEqual(found.mode is not None, fits)
                if not fits:
                    self.assertIn("goes down to 6 A", str(found.why_not))
