"""Every chain ends, and nothing doubtful is signed: no step for ever, a second look, what was not measured is said."""

import random
import unittest
from collections import Counter
from typing import Any

from tests.build import RULES, judge, reading, tester, volts
from vane_check.core.findings.outcomes import Outcome
from vane_check.core.house.rules import SCHOOLS, changed_rules, house_rules
from vane_check.core.simulation import population


def pull(value: float, minutes: float, amps: float = 300) -> Any:
    return reading("adjustable_load", minutes, amps=amps, seconds=15, volts=value)


def full(minutes: float) -> Any:
    return reading("charge_run", minutes, start_amps=7, amps=0.6, volts=14.5, hours=9, finished=True)


class NoLoops(unittest.TestCase):
    def test_a_load_that_can_never_pass_it_is_not_asked_twice(self) -> None:
        """500 A on 1,100 CCA: 550 A are asked."""
        judged = judge(volts(12.62), tester(820), pull(10.2, 9, 500), rated=1100)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.WATCH, "retest_later"))
        self.assertIsNotNone(judged.watch_until)

    def test_two_full_charges_on_the_line_are_charge_enough(self) -> None:
        judged = judge(volts(12.0), full(600), volts(12.38, 640), full(1300), volts(12.38, 1340))
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "tester"))

    def test_three_borderline_pulls_and_no_fourth(self) -> None:
        borderline = [pull(9.62, 9 + 12 * each) for each in range(3)]
        judged = judge(volts(12.62), *borderline)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "tester"))
        both = judge(volts(12.62), *borderline, tester(470, 50))
        self.assertEqual(both.outcome, Outcome.WATCH)

    def test_a_figure_far_over_an_estimate_is_no_slip(self) -> None:
        judged = judge(volts(12.9), tester(800, type_set="agm_flat"), rated=None, capacity_ah_20h=60, chemistry="agm")
        self.assertEqual(judged.outcome, Outcome.SOUND)
        self.assertEqual(judge(volts(12.62), tester(1201)).next_step.key, "tester_again")

    def test_no_step_is_asked_for_ever_by_any_school(self) -> None:
        from bench.policies import CHARGES, MOST_STEPS, by_the_house

        for school in SCHOOLS:
            play = by_the_house(house_rules(school))
            for place, arrival in enumerate(population(60, 29)):
                end = play(arrival, random.Random(place))
                asked = Counter(step.split(" -> ")[1] for step in end.asked[:-1])
                with self.subTest(school, place=place, truth=arrival.battery.truth.value):
                    often = {
                        key: count for key, count in asked.items() if key not in CHARGES
                    }  # a charge is looked at again and again
                    self.assertLessEqual(max(often.values(), default=0), 4, end.asked)
                    self.assertLessEqual(sum(asked.values()), MOST_STEPS, end.asked)


class SecondLook(unittest.TestCase):
    def test_in_every_position_of_its_switch(self) -> None:
        for rule, carried, returned in (
            ("no", Outcome.WORN_OUT, Outcome.WORN_OUT),
            ("yes", Outcome.CANNOT_TELL, Outcome.CANNOT_TELL),
            ("for_returns", Outcome.WORN_OUT, Outcome.CANNOT_TELL),
        ):
            rules = changed_rules(RULES, {"decision.second_look": rule}, "a test")
            for came, outcome in (("carried_in", carried), ("returned", returned)):
                judged = judge(volts(12.62), tester(300), rules=rules, context={"came_in": came})
                self.assertEqual((rule, came, judged.outcome), (rule, came, outcome))

    def test_clamped_again_the_same_it_condemns_and_otherwise_not(self) -> None:
        back: dict[str, Any] = {"context": {"came_in": "returned"}}
        first = judge(volts(12.62), tester(300), **back)
        self.assertEqual(
            (first.next_step.key, first.headline),
            ("tester_again", "One tester reading: clamp again, read the type aloud"),
        )
        self.assertEqual(judge(volts(12.62), tester(300), tester(310, 5), **back).outcome, Outcome.WORN_OUT)
        self.assertEqual(judge(volts(12.62), tester(300), tester(610, 5), **back).outcome, Outcome.SOUND)
        self.assertEqual(judge(volts(12.62), tester(300), pull(8.0, 8), **back).outcome, Outcome.WORN_OUT)


class NotMeasured(unittest.TestCase):
    def test_what_it_holds_is_said_to_be_unknown_where_that_is_its_work(self) -> None:
        passed = (volts(12.7), tester(610, type_set="efb"))
        for context in ({"stop_start_car": True}, {"use": "standby"}, {"use": "deep_cycle"}):
            judged = judge(*passed, chemistry="efb", context=context)
            self.assertEqual((judged.outcome, judged.sureness), (Outcome.SOUND, "fairly sure"))
            self.assertEqual(judged.not_measured, "It starts well; what it holds was not measured")
        self.assertEqual(judge(*passed, chemistry="efb").sureness, "sure")
        reserve = reading("reserve", 300, amps=25, minutes=110, volts=10.5, after_full_charge=True, temperature_c=27)
        whole = judge(*passed, reserve, chemistry="efb", reserve_minutes=110, context={"stop_start_car": True})
        self.assertEqual((whole.not_measured, whole.sureness), (None, "sure"))


class OneEstimate(unittest.TestCase):
    def test_a_pull_gives_amps(self) -> None:
        """12.62 V to 9.75 V under 300 A are 9.57 mΩ warm; (12.6 - 7.2) V over it at 21 C, 15 s, nearly full: about 380 CCA."""
        found = judge(volts(12.62), pull(9.75, 9)).estimate
        assert found is not None
        self.assertAlmostEqual(found.cca_amps, 381, delta=3)
        self.assertEqual(found.methods, ("pull",))

    def test_fused_it_is_narrower_than_either(self) -> None:
        both = judge(volts(12.62), tester(560), pull(10.55, 9)).estimate
        one = judge(volts(12.62), tester(560)).estimate
        assert both is not None and one is not None
        self.assertLess(both.high_amps - both.low_amps, one.high_amps - one.low_amps)
        self.assertEqual((both.conflict, both.methods), (False, ("tester", "pull")))
        self.assertEqual((one.low_amps, one.cca_amps, one.high_amps), (504, 560, 616))

    def test_where_they_do_not_overlap_it_takes_no_mean(self) -> None:
        found = judge(volts(12.62), tester(300), pull(10.6, 9)).estimate
        assert found is not None
        self.assertTrue(found.conflict)
        self.assertEqual(found.low_amps, 270)

    def test_a_pull_that_holds_does_not_outweigh_a_clear_tester(self) -> None:
        """58 % by the tester and 9.75 V twice: both say the same in amps. It is clamped again first: a slip is what is likely."""
        judged = judge(volts(12.62), tester(348), pull(9.75, 9), pull(9.75, 22))
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "tester_again"))
        judged = judge(volts(12.62), tester(348), pull(9.75, 9), pull(9.75, 22), tester(350, 30))
        self.assertEqual(judged.outcome, Outcome.WORN_OUT)
        hair = judge(volts(12.62), pull(9.75, 9))
        self.assertEqual((hair.outcome, hair.next_step.key), (Outcome.CANNOT_TELL, "tester"))
        self.assertEqual(judge(volts(12.62), pull(9.75, 9), tester(430, 14)).outcome, Outcome.WATCH)

    def test_nothing_measured_is_no_estimate(self) -> None:
        self.assertIsNone(judge(volts(12.62), tester(0)).estimate)
        self.assertIsNone(judge(volts(12.62)).estimate)
