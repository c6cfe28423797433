"""What the charger is set to, for how long, and what comes before: worked by hand from the charging table."""

import unittest
from typing import Any

from tests.build import RULES, check, judge, look, reading, tester, volts
from vane_check.core.charging.plan import ChargePlan, ah_of_reserve, plan_of
from vane_check.core.facts.case import Case
from vane_check.core.findings.kinds import StepKey
from vane_check.core.findings.outcomes import Outcome
from vane_check.core.house.rules import changed_rules
from vane_check.core.judging.limits import limits_of
from vane_check.core.judging.steps import stand_hours, step


def plan(*readings: Any, key: StepKey = StepKey.CHARGE_AND_RETEST, **label: Any) -> ChargePlan:
    found = plan_of(Case.of(check(*readings, **label), RULES), key)
    assert found is not None
    return found


HALF = volts(12.24, temperature_c=25)


class Standing(unittest.TestCase):
    def test_a_night_of_standing_is_asked_and_days_where_it_went_flat_standing(self) -> None:
        """Common practice: a leak under 1 % a day does not show overnight."""
        rules = changed_rules(RULES, {"stand.hours": 10.0, "stand.long_hours": 60.0}, "a test")
        night = reading("stand", 700, volts=12.65, start_volts=12.66, hours=10)
        charge = reading("charge_run", -20, start_amps=6, amps=0.6, volts=14.4, hours=9, finished=True)
        flat = volts(12.0, -900), charge, volts(12.66)
        for read, complaint, hours in (
            ((volts(12.66),), "slow_crank", 10),
            ((volts(12.66),), "stood_for_weeks", 10),
            (flat, "stood_for_weeks", 10),
            ((*flat, night), "stood_for_weeks", 50),  # a night of the days is over
            ((*flat, night), "slow_crank", 10),
        ):
            case = Case.of(check(*read, context={"complaint": complaint}), rules)
            self.assertEqual(stand_hours(case), hours)
            self.assertIn(f"{hours} h", step(StepKey.STAND, case).text)
        lost = reading("stand", 700, volts=12.6, start_volts=12.66, hours=10)
        for rest, hours in (
            (volts(12.66, rested_hours=12), 50),
            (volts(12.66), 10),
        ):  # a small loss; surface charge, perhaps
            self.assertEqual(stand_hours(Case.of(check(rest, lost), rules)), hours)


class Figures(unittest.TestCase):
    def test_a_tenth_of_its_ah_until_what_is_missing_is_in(self) -> None:
        """60 Ah flooded at half charge: 30 Ah x 1.2 at 6 A are 6 h, and 2 h of tail (BCI table; common practice)."""
        found = plan(HALF, capacity_ah_20h=60)
        self.assertEqual((found.volts, found.amps, found.counted_from), (14.4, 6.0, "the Ah on its label"))
        self.assertAlmostEqual(found.hours, 8.0, delta=0.1)
        # 12.24 V are 0.081 V uncertain: 39 to 61 %, so 4.7 to 7.3 h and the tail
        self.assertAlmostEqual(found.hours_low, 6.7, delta=0.15)
        self.assertAlmostEqual(found.hours_high, 9.3, delta=0.15)
        self.assertEqual(found.words, "14.4 V, 6 A, 7 to 9 h")

    def test_colder_more_volts_warmer_less_and_never_over_the_ceiling(self) -> None:
        """-24 mV a degree from 25 °C: AGM 14.6 V at 25, 14.12 at 45; at 5 °C 15.08 would be over its 14.8 V (charging table)."""
        for warmth, wanted in ((25, 14.6), (45, 14.1), (20, 14.7), (5, 14.8), (-10, 14.8)):
            found = plan(volts(12.2, temperature_c=warmth), chemistry="agm", capacity_ah_20h=70)
            self.assertAlmostEqual(found.volts, wanted, delta=0.03, msg=f"{warmth} °C")
            self.assertLessEqual(found.volts, found.ceiling_volts)

    def test_the_table_is_for_25_degrees(self) -> None:
        """-24 mV a degree, in steps of 0.05 V: 14.6 less 0.024 at 26 °C is 14.6 still, less 0.048 at 27 is 14.55 (charging table, for 25 °C)."""
        at = {
            warm: plan(volts(12.2, temperature_c=warm), chemistry="agm", capacity_ah_20h=70).volts
            for warm in (25, 26, 27)
        }
        self.assertEqual(at, {25: 14.6, 26: 14.6, 27: 14.55})
        self.assertIn("at 25 °C, as nobody took its own", plan(volts(12.2), capacity_ah_20h=70).why)

    def test_amps_are_bounded_by_the_charger_and_by_what_the_type_stands(self) -> None:
        big = Case.of(check(HALF, capacity_ah_20h=180), RULES)
        self.assertEqual(
            plan(HALF, capacity_ah_20h=180).amps, 10.0
        )  # a tenth would be 18 A, the house's charger gives 10
        self.assertEqual(plan_of(big, charger_amps=30).amps, 18.0)  # type: ignore[union-attr]
        small = plan(volts(6.12), nominal_volts=6, rated=None, capacity_ah_20h=12)
        self.assertEqual((small.amps, small.volts, small.most_amps), (1.2, 7.2, 3.0))

    def test_where_the_ah_come_from(self) -> None:
        self.assertAlmostEqual(plan(HALF).capacity_ah, 63.2, delta=0.1)  # 9 to 10 CCA an Ah, common practice
        self.assertIn("its 600 CCA", plan(HALF).why)
        # 120 min at 25 A and a Peukert exponent of 1.25: (2 h x 25^1.25 x 20^0.25)^0.8 = 79.3 Ah
        self.assertAlmostEqual(ah_of_reserve(120, "flooded", {"flooded": 1.25}, 25), 79.3, delta=0.1)
        self.assertIn("its 120 reserve minutes", plan(HALF, rated=None, reserve_minutes=120).why)
        # nothing tells: the house's 45 Ah give or take seven tenths, at its 2 A, and somebody looks in
        unknown = plan(HALF, rated=None)
        self.assertEqual((unknown.capacity_ah, unknown.amps, unknown.most_amps), (45, 2, 2))
        self.assertGreater(unknown.hours_high, 4 * unknown.hours_low)
        self.assertIn("Nobody knows its Ah", str(unknown.notes[0]))
        loose, firm = plan(HALF), plan(HALF, capacity_ah_20h=63)
        self.assertGreater(loose.hours_high - loose.hours_low, firm.hours_high - firm.hours_low)

    def test_a_charge_nobody_knows_is_counted_from_empty(self) -> None:
        found = plan(capacity_ah_20h=60)
        self.assertEqual((found.missing_known, round(found.hours)), (False, 14))
        self.assertIn("counted from empty", found.why)

    def test_recovery_is_slow_and_equalising_only_where_the_type_stands_it(self) -> None:
        slow = plan(HALF, key=StepKey.RECOVERY_CHARGE, capacity_ah_20h=60)
        self.assertEqual((slow.mode, slow.amps), ("recovery", 1.8))
        even = plan(HALF, key=StepKey.EQUALISE, capacity_ah_20h=60)
        self.assertEqual((even.mode, even.volts, even.ceiling_volts, even.hours), ("equalise", 15.5, 15.5, 8))
        never = plan(HALF, key=StepKey.EQUALISE, capacity_ah_20h=60, chemistry="agm")
        self.assertEqual((never.mode, never.volts), ("ordinary", 14.6))

    def test_as_it_should_go(self) -> None:
        found = plan(HALF, capacity_ah_20h=60).expected
        self.assertEqual((found[0].hours, found[0].amps), (0, 6))
        self.assertAlmostEqual(found[-1].amps, 1.2)  # 60 Ah x 0.02, where it counts as full
        self.assertAlmostEqual(found[-1].hours, 8.0, delta=0.1)
        self.assertEqual(found[1].amps, 6)


class NotNow(unittest.TestCase):
    def test_what_forbids_a_charge_and_what_comes_first(self) -> None:
        flat = volts(11.9, temperature_c=20)
        for wrong, first in (
            ([look("bulged"), flat], "not charged at all"),
            ([volts(11.6, temperature_c=-12)], "Thaw it"),
            ([volts(11.9, temperature_c=46)], "Let it cool"),
            ([look(levels=["plates_bare"] * 6), flat], "Distilled water"),
        ):
            found = plan(*wrong, has_caps=True).refused
            assert found is not None
            self.assertIn(first, found.first)
        self.assertIn("Replace", plan(look(eye="clear"), flat, chemistry="agm").refused.first)  # type: ignore[union-attr]
        self.assertIsNone(plan(look(), flat).refused)
        self.assertIsNone(plan(volts(11.9, temperature_c=45)).refused)

    def test_the_step_says_it_first(self) -> None:
        hot = judge(volts(11.9, temperature_c=50))
        self.assertTrue(hot.next_step.text.startswith("Let it cool first; then charge it at "), hot.next_step.text)


class OnEveryStep(unittest.TestCase):
    def test_a_charge_step_says_this_batterys_plan_and_its_own_hours(self) -> None:
        judged = judge(HALF, capacity_ah_20h=60)
        self.assertEqual(judged.outcome, Outcome.NEEDS_CHARGE)
        self.assertEqual(judged.next_step.text, "Charge it at 14.4 V, 6 A, 7 to 9 h; let it rest, then test again")
        self.assertAlmostEqual(judged.next_step.minutes, 480, delta=10)
        assert judged.next_step.plan is not None
        self.assertIn("60 Ah (the Ah on its label)", judged.next_step.plan.why)
        self.assertNotIn("60 Ah", judged.next_step.why)  # the charge's own line says it, once
        unknown = judge(volts(12.0), rated=None).next_step.plan
        assert unknown is not None
        self.assertEqual(unknown.amps, 2)
        watched = judge(volts(10.5), capacity_ah_20h=60).next_step
        self.assertEqual((watched.key, watched.minutes), ("charge_and_watch", 60))
        self.assertIn("14.4 V, 6 A", watched.text)

    def test_what_matters_for_this_one(self) -> None:
        def notes(*readings: Any, **label: Any) -> str:
            return " ".join(map(str, plan(*readings, **label).notes))

        self.assertIn("a charger may not see it", notes(volts(6.0, confirmed=True)))
        self.assertNotIn("may not see it", notes(volts(11.0)))
        self.assertIn("negative off", notes(volts(12.0), context={"came_in": "in_car"}))
        self.assertIn("moving air", notes(volts(12.0)))
        self.assertNotIn("gasses", notes(volts(12.0), chemistry="agm"))
        self.assertIn("Not above 27 °C", notes(volts(12.0)))
        warm = changed_rules(RULES, {"charge.ambient_most_c": 30}, "a test")
        self.assertIn("30 °C", " ".join(map(str, plan_of(Case.of(check(volts(12.0)), warm)).notes)))  # type: ignore[union-attr]

    def test_what_keeps_a_standing_cars_battery_full(self) -> None:
        """60 Ah: 50 mA of the car and 6 % a month of its own (5 mA) x 1.2 are under a tenth of an amp; a fiftieth of 60 Ah is 1.2 A."""
        keeping = limits_of(Case.of(check(HALF, capacity_ah_20h=60), RULES)).keeping
        assert keeping is not None
        self.assertEqual((keeping.maintainer_amps, keeping.panel_without_controller_amps), (0.1, 1.2))
        self.assertIn("needs a diode, and a controller from 1.2 A on", keeping.words)
        self.assertEqual(judge(volts(12.62), tester(620)).next_step.plan, None)
        self.assertIsNone(judge(reading("charge_run", amps=2, volts=14, hours=1), rated=None).next_step.plan)
