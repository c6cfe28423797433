import unittest
from typing import Any

from tests.build import RULES, check, judge, reading, tester, volts
from vane_check.core.evidence.under_load import internal_resistance_ohm
from vane_check.core.facts.case import Case
from vane_check.core.facts.state_of_charge import load_words
from vane_check.core.findings.kinds import StepKey
from vane_check.core.findings.outcomes import Outcome
from vane_check.core.house.rules import HouseRules, changed_rules
from vane_check.core.judging.steps import cheapest, minutes_of
from vane_check.core.judging.steps import step as step_of

CHARGED = volts(12.6, temperature_c=21.1)


def pull(value: float, minutes: float = 5, amps: float = 300, seconds: float = 15, **body: Any) -> Any:
    return reading("adjustable_load", minutes, volts=value, amps=amps, seconds=seconds, **body)


def fixed(value: float, **body: Any) -> Any:
    return reading("fixed_load", 5, **{"volts": value, "seconds": 10, **body})


class Adjustable(unittest.TestCase):
    """Rated 600 CCA: 300 A for 15 s, 9.6 V at 21.1 C."""

    def test_table(self) -> None:
        table: list[tuple[str, list[Any], dict[str, Any], str, str]] = [
            ("holds", [CHARGED, pull(10.2)], {}, "sound", "give_back"),
            ("fails", [CHARGED, pull(8.9)], {}, "worn_out", "replace"),
            ("fails when flat", [volts(12.1), pull(8.0)], {}, "needs_charge", "charge_and_retest"),
            ("fails, charge unknown", [pull(8.0)], {}, "cannot_tell", "measure_volts"),
            ("smaller and holds", [CHARGED, pull(10.4, amps=200)], {}, "cannot_tell", "tester"),
            ("smaller and fails", [CHARGED, pull(9.0, amps=200)], {}, "worn_out", "replace"),
            ("too short and holds", [CHARGED, pull(10.2, seconds=5)], {}, "cannot_tell", "tester"),
            ("too short and fails", [CHARGED, pull(9.0, seconds=5)], {}, "worn_out", "replace"),
            ("too hard and fails", [CHARGED, pull(9.0, amps=400)], {}, "cannot_tell", "tester"),
            ("too hard and holds", [CHARGED, pull(10.0, amps=400)], {}, "sound", "give_back"),
            ("a hair above", [CHARGED, pull(9.63)], {}, "cannot_tell", "load_again"),
            ("a hair under", [CHARGED, pull(9.57)], {}, "cannot_tell", "load_again"),
            ("dropped after", [CHARGED, pull(10.2, needle="dropped_after")], {}, "cannot_tell", "load_again"),
            ("dropped at once", [CHARGED, pull(7.0, needle="dropped_at_once")], {}, "worn_out", "replace"),
            ("cold allowance passes", [volts(12.6), pull(9.5, temperature_c=-10)], {}, "sound", "give_back"),
            # 70 Ah usually come with 665 CCA, a quarter more or less: 416 A are half of the most, and pass it whatever it is
            ("by Ah, no CCA", [CHARGED, pull(11.2, amps=210)], {"rated": None, "capacity_ah_20h": 70}, "cannot_tell", "tester"),
            ("by Ah, hard enough", [CHARGED, pull(9.8, amps=416)], {"rated": None, "capacity_ah_20h": 70}, "sound", "give_back"),
            # 2.45 V of sag at 210 A are some 400 CCA where 70 Ah usually come with 665: a small pull that passes is weak evidence
            ("by Ah, and weak", [CHARGED, pull(10.2, amps=210)], {"rated": None, "capacity_ah_20h": 70}, "cannot_tell", "tester"),
            ("standby is watched", [CHARGED, pull(8.0)], {"context": {"use": "standby"}}, "watch", "retest_later"),
            ("no rating at all", [CHARGED, pull(10.2)], {"rated": None}, "cannot_tell", "read_label"),
            ("6 V", [volts(6.3), pull(5.1)], {"nominal_volts": 6}, "sound", "give_back"),
        ]  # fmt: skip
        for what, readings, battery, outcome, step in table:
            with self.subTest(what):
                judged = judge(*readings, **battery)
                self.assertEqual(
                    (judged.outcome.value, judged.next_step.key), (outcome, step), judged.findings[-1].text
                )

    def test_it_settles_what_the_tester_left_open_either_way(self) -> None:
        self.assertEqual(judge(CHARGED, tester(455), pull(10.2)).outcome, Outcome.SOUND)
        judged = judge(CHARGED, tester(455), pull(8.8))
        self.assertEqual(judged.outcome, Outcome.WORN_OUT)

    def test_two_methods_that_agree_are_surer_than_one(self) -> None:
        self.assertGreater(judge(CHARGED, tester(300), pull(8.8)).confidence, judge(CHARGED, pull(8.8)).confidence)

    def test_conflict_asks_for_a_second_pull_and_two_pulls_decide(self) -> None:
        first = judge(CHARGED, tester(620), pull(8.8))
        self.assertTrue(first.conflict)
        self.assertEqual((first.outcome, first.next_step.key), (Outcome.CANNOT_TELL, "load_again"))
        again = judge(CHARGED, tester(620), pull(8.8), pull(8.7, 20))
        self.assertEqual((again.outcome, again.conflict), (Outcome.WORN_OUT, False))
        slip = judge(CHARGED, tester(300), pull(10.2), pull(10.3, 20))
        self.assertEqual((slip.outcome, slip.next_step.key), (Outcome.CANNOT_TELL, "tester_again"))
        passed = judge(CHARGED, tester(300), tester(310, 4), pull(10.2), pull(10.3, 20))
        self.assertEqual(passed.outcome, Outcome.SOUND)

    def test_a_second_pull_too_soon_cannot_fail_it_but_may_pass_it(self) -> None:
        soon = judge(CHARGED, tester(620), pull(8.8), pull(8.7, 9))
        dropped = [found for found in soon.findings if found.status == "dropped"]
        self.assertEqual((soon.outcome, soon.next_step.key), (Outcome.CANNOT_TELL, "load_again"))
        self.assertIn("4 min after the pull before", dropped[0].why_not or "")
        self.assertEqual(judge(CHARGED, pull(9.62), pull(11.0, 9)).outcome, Outcome.SOUND)

    def test_a_missing_tool_and_a_charge_that_must_come_first_are_reckoned_in(self) -> None:
        def with_tools(*tools: str) -> HouseRules:
            return RULES.with_parameters(
                {"steps.tools_at_hand": RULES.steps.tools_at_hand.model_copy(update={"value": tools})}
            )

        here = judge(CHARGED, tester(455)).next_step
        bare = with_tools("meter", "tester", "charger")
        lent = step_of(StepKey.LOAD_TEST, Case.of(check(CHARGED, tester(455)), bare))
        self.assertEqual(here.key, "load_test")
        self.assertEqual(lent.minutes - here.minutes, RULES.steps.missing_tool_minutes.value)
        self.assertIn("lists no adjustable load", lent.needs)
        ended = judge(CHARGED, tester(455), rules=bare)  # what this house cannot do it does not ask for: it is watched
        self.assertEqual((ended.outcome, ended.next_step.key), (Outcome.WATCH, "retest_later"))
        meter_only = judge(CHARGED, rules=with_tools("meter"))
        self.assertEqual((meter_only.outcome, meter_only.next_step.key), (Outcome.CANNOT_TELL, "load_test"))
        no_tester = with_tools("meter", "adjustable_load")
        self.assertEqual(judge(CHARGED, rules=no_tester).next_step.key, "load_test")
        low = Case.of(check(volts(12.1)), RULES)
        self.assertGreater(minutes_of(StepKey.LOAD_TEST, low), RULES.steps.minutes.value["charge_and_retest"])
        self.assertEqual(cheapest([StepKey.LOAD_TEST, StepKey.TESTER], low).key, "tester")

    def test_a_load_too_small_for_the_house_says_it_can_only_fail(self) -> None:
        step = judge(volts(12.6), tester(900), rated=1200).next_step
        assert step.load is not None
        self.assertEqual((step.load.amps, step.load.can_pass), (500, False))
        self.assertIn("only fail", step.needs)


class Fixed(unittest.TestCase):
    def test_table(self) -> None:
        table: list[tuple[str, Any, dict[str, Any], str | None, str]] = [
            ("good but small", fixed(11.4), {}, None, "dropped"),
            ("good and big enough", fixed(11.4), {"rated": 190}, "sound", "counts"),
            ("between", fixed(10.2), {"rated": 190}, "cannot_tell", "doubtful"),
            ("under the floor", fixed(9.2), {}, "worn_out", "counts"),
            ("no bounce", fixed(10.0, bounce_volts=10.6), {}, "worn_out", "counts"),
            ("bounces back", fixed(11.4, bounce_volts=12.4), {"rated": 190}, "sound", "counts"),
            ("too short", fixed(11.4, seconds=4), {"rated": 190}, None, "dropped"),
            ("too short and fails", fixed(9.0, seconds=4), {}, "worn_out", "counts"),
        ]
        for what, body, battery, points_to, status in table:
            with self.subTest(what):
                found = judge(CHARGED, body, **battery).findings[1]
                self.assertEqual(
                    (found.points_to.value if found.points_to else None, found.status), (points_to, status), found.text
                )

    def test_failing_when_flat_asks_for_a_charge(self) -> None:
        self.assertEqual(judge(volts(12.0), fixed(8.5)).outcome, Outcome.NEEDS_CHARGE)


class Cranking(unittest.TestCase):
    def crank(self, value: float, **body: Any) -> Any:
        return reading("crank", 5, **{"volts": value, "seconds": 10, **body})

    def test_a_weak_crank_never_condemns_alone(self) -> None:
        judged = judge(CHARGED, self.crank(8.5))
        self.assertEqual(judged.outcome, Outcome.CANNOT_TELL)
        self.assertIn("cable or starter", judged.findings[1].text)

    def test_cold_allowance_follows_the_load_table(self) -> None:
        self.assertEqual(judge(CHARGED, self.crank(9.3, temperature_c=0)).findings[1].points_to, Outcome.SOUND)
        self.assertEqual(judge(CHARGED, self.crank(9.3)).findings[1].points_to, Outcome.CANNOT_TELL)

    def test_before_the_speed_settles_it_does_not_count(self) -> None:
        self.assertEqual(judge(CHARGED, self.crank(8.5, seconds=1)).findings[1].status, "dropped")


class Sag(unittest.TestCase):
    def test_second_opinion_has_a_range_and_no_say(self) -> None:
        judged = judge(CHARGED, pull(10.4, amps=150))
        found = judged.findings[-1]
        self.assertEqual((found.kind, found.status), ("sag", "doubtful"))
        self.assertRegex(found.text, r"roughly \d+ to \d+ CCA")
        self.assertEqual(judged.outcome, Outcome.CANNOT_TELL)

    def test_resistance_is_the_step_in_volts_over_amps(self) -> None:
        self.assertAlmostEqual(internal_resistance_ohm(12.6, 10.1, 250), 0.01)


class Words(unittest.TestCase):
    def test_the_size_of_a_pull_is_said_as_the_house_has_it(self) -> None:
        for share, said in ((0.5, "half the rated CCA"), (0.4, "40 % of the rated CCA")):
            rules = changed_rules(RULES, {"load.share_of_cca": share}, "a test")
            self.assertEqual(load_words(rules), said)
