"""What a word of safety hangs on: a danger is not hidden by another, the later of two events counts, a rule's ends are its own.

Each of these lets a fault through that no other test saw: put into the core by hand, one of them fails.
"""

import unittest

from pydantic import ValidationError

from tests.build import RULES, judge, look, reading, tester, volts
from vane_check.core.findings.outcomes import Outcome
from vane_check.core.house.rules import RulesRefused, changed_rules
from vane_check.core.house.rules.parameter import Number, Parameter
from vane_check.core.judging.judgement import Judgement

FAILS = 8.9
"""Volts under half its CCA after 15 s at 20 °C: it holds from 9.6 V at 21 °C (common practice); this lies under."""


class Ice(unittest.TestCase):
    """Acid of a flat battery at -20 °C may be ice: that alone is waited for in the warm; another danger is not."""

    def test_ice_alone_is_thawed(self) -> None:
        judged = judge(volts(11.0, temperature_c=-20))
        self.assertEqual((judged.outcome, judged.headline), (Outcome.UNSAFE, "Unsafe: it may hold ice"))
        self.assertIn("in the warm for a day", judged.next_step.text)

    def test_a_danger_that_was_seen_is_never_hidden_behind_ice(self) -> None:
        for sign in ("cracked", "bulged", "leaking", "hot", "smelling_of_rotten_egg"):
            with self.subTest(sign):
                judged = judge(look(sign, minutes=-5), volts(11.0, temperature_c=-20))
                self.assertEqual((judged.outcome, judged.headline), (Outcome.UNSAFE, "Unsafe: hold it apart"))
                self.assertNotIn("warm", judged.next_step.text)
                self.assertIn("Hold it apart", judged.next_step.text)

    def test_the_danger_stands_whichever_was_read_last(self) -> None:
        judged = judge(volts(11.0, temperature_c=-20), look("bulged", minutes=5))
        self.assertEqual(judged.headline, "Unsafe: hold it apart")


class SecondPull(unittest.TestCase):
    """One pull fails: before the second the volts are read again, after the later of the pull and the charge."""

    def failed(self, *more: object) -> Judgement:
        pull = reading("adjustable_load", 10, amps=300, seconds=15, volts=FAILS, temperature_c=20)
        two = changed_rules(
            RULES, {"load.pulls_to_condemn": "two", "decision.deciding_kinds": ["adjustable_load"]}, "a house"
        )
        return judge(volts(12.7, settled="headlamps"), pull, *more, rules=two)  # type: ignore[arg-type]

    def test_volts_read_before_the_pull_do_not_stand_for_those_after(self) -> None:
        self.assertEqual(self.failed().next_step.key, "measure_after_pull")

    def test_volts_read_after_the_pull_do(self) -> None:
        self.assertEqual(self.failed(volts(12.62, 40)).next_step.key, "load_again")

    def test_volts_from_before_a_charge_do_not_stand_for_those_after_it(self) -> None:
        """A full charge came off at 700 min: what was read at 40 min says nothing of it."""
        charged = reading("charge_run", 700, start_amps=6, amps=0.3, volts=14.4, hours=10, finished=True)
        self.assertNotEqual(self.failed(volts(12.62, 40), charged).next_step.key, "load_again")
        self.assertEqual(self.failed(volts(12.62, 40), charged, volts(12.7, 2200)).next_step.key, "load_again")


class Ends(unittest.TestCase):
    """A rule takes its own ends and nothing beyond; figures by name each lie within."""

    def parameter(self, value: float) -> Number:
        return Parameter[float](
            value=value, unit="V", source="", standing="practice", holds_from=RULES.holds_from, low=12.0, high=13.0
        )

    def test_both_ends_are_within(self) -> None:
        for value in (12.0, 12.5, 13.0):
            self.assertEqual(self.parameter(value).value, value)

    def test_nothing_beyond_and_no_figure_that_is_none(self) -> None:
        for value in (11.999, 13.001, float("nan"), float("inf"), -12.5):
            with self.subTest(value), self.assertRaises(ValidationError):
                self.parameter(value)

    def test_a_house_cannot_write_over_them(self) -> None:
        for name in ("rest.recharge_line_volts", "tester.replace_below_ratio"):
            kept = RULES.parameter(name)  # its ends stand in rules-as-delivered.json
            for value in (kept.low - 0.001, kept.high + 0.001):
                with self.subTest(name, value=value), self.assertRaises(RulesRefused):
                    changed_rules(RULES, {name: value}, "a house")
            for value in (kept.low, kept.high):
                self.assertEqual(changed_rules(RULES, {name: value}, "a house").parameter(name).value, value)


class Closed(unittest.TestCase):
    """A hazard outranks whatever passes, and is not outweighed by any number of good readings."""

    def test_no_number_of_passing_tests_opens_an_unsafe_battery(self) -> None:
        good = [tester(640, minute) for minute in range(5, 60, 5)]
        judged = judge(look("hot", minutes=-5), volts(12.7), *good)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.UNSAFE, "hold_apart"))
