import unittest
from typing import Any

from tests.build import RULES, check, judge, look, reading, tester, volts
from vane_check.core.battery.label import RESERVE_USES
from vane_check.core.facts.case import Case
from vane_check.core.findings.kinds import StepKey
from vane_check.core.findings.outcomes import Outcome
from vane_check.core.house.rules import HouseRules, house_rules, rules_from
from vane_check.core.judging.judgement import assess
from vane_check.core.judging.limits import limits_of
from vane_check.core.judging.steps import step
from vane_check.core.readings.check import Check, impossible_values, parse_check
from vane_check.core.readings.faults import CheckRefused
from vane_check.core.units.lines import on_line


class TakenBack(unittest.TestCase):
    def test_a_reading_taken_back_no_longer_counts(self) -> None:
        slip = tester(300, id="slip")
        self.assertEqual(judge(volts(12.6), slip).outcome, Outcome.WORN_OUT)
        judged = judge(volts(12.6), slip, reading("withdrawal", 9, id="back", replaces="slip"))
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "tester"))
        self.assertEqual([found.kind for found in judged.findings], ["rest_volts"])

    def test_a_hazard_seen_by_mistake_can_be_taken_back(self) -> None:
        judged = judge(look("hot", id="slip"), reading("withdrawal", 9, replaces="slip"))  # type: ignore[arg-type]
        self.assertNotEqual(judged.outcome, Outcome.UNSAFE)

    def test_a_chain_of_corrections_leaves_the_last(self) -> None:
        chain = [volts(11.0, id="a"), volts(11.9, 1, id="b", replaces="a"), volts(12.6, 2, id="c", replaces="b")]
        judged = judge(*chain, tester(620, 4))
        self.assertEqual(judged.outcome, Outcome.SOUND)


class Rest(unittest.TestCase):
    def under(self, school: str, **body: Any) -> Any:
        rules: HouseRules = RULES.with_parameters(
            {"rest.school": RULES.rest.school.model_copy(update={"value": school})}
        )
        return judge(volts(12.6, **body), tester(620), rules=rules)

    def test_each_school_asks_for_its_own_rest(self) -> None:
        for school, hours, counts in (
            ("headlamps", 0.2, False),
            ("headlamps", 2, True),
            ("2_h", 1, False),
            ("2_h", 2, True),
            ("12_h", 3, False),
            ("12_h", 12, True),
            ("24_h", 13, False),
            ("24_h", 24, True),
        ):
            with self.subTest(school=school, hours=hours):
                judged = self.under(school, rested_hours=hours)
                self.assertEqual(judged.findings[0].status != "dropped", counts)
                self.assertEqual(judged.next_step.key, "give_back" if counts else "settle")

    def test_headlamps_are_the_short_cut_everywhere(self) -> None:
        for school in ("2_h", "12_h", "24_h"):
            self.assertEqual(self.under(school, settled="headlamps").outcome, Outcome.SOUND)

    def test_low_volts_count_however_short_the_rest(self) -> None:
        rules = RULES.with_parameters({"rest.school": RULES.rest.school.model_copy(update={"value": "24_h"})})
        self.assertEqual(assess(check(volts(12.0, rested_hours=1)), rules).outcome, Outcome.NEEDS_CHARGE)


class Reserve(unittest.TestCase):
    def test_standby_and_deep_cycle_are_watched_not_condemned_by_a_starting_test(self) -> None:
        pull = reading("adjustable_load", 5, amps=300, seconds=15, volts=8.5)
        for use in RESERVE_USES:
            for evidence in (tester(250), pull):
                with self.subTest(use=use.value, kind=evidence.kind):
                    judged = judge(volts(12.6), evidence, tester(250, 8), context={"use": use.value})
                    self.assertEqual(judged.outcome, Outcome.WATCH)
                    self.assertIsNotNone(judged.watch_until)

    def test_they_are_condemned_by_what_is_not_a_starting_test(self) -> None:
        lost = reading("stand", 1400, start_volts=12.6, volts=11.9, hours=20)
        rested = volts(12.6, rested_hours=12)
        self.assertEqual(judge(rested, lost, context={"use": "standby"}).outcome, Outcome.LEAKS_CHARGE)
        dead = volts(10.5, after_full_charge=True)
        self.assertEqual(judge(dead, context={"use": "deep_cycle"}).outcome, Outcome.DEAD_CELL)


class Impossible(unittest.TestCase):
    def test_values_that_cannot_be_together(self) -> None:
        table: list[tuple[Any, dict[str, Any], str]] = [
            (volts(13), {"nominal_volts": 6}, "readings[0].volts"),
            (reading("stand", start_volts=19, volts=12, hours=12), {}, "readings[0].start_volts"),
            (reading("fixed_load", volts=11, seconds=10, bounce_volts=20), {}, "readings[0].bounce_volts"),
            (reading("cells", specific_gravities=[1.26] * 5), {}, "readings[0].specific_gravities"),
            (reading("cells", cell_volts=[2.1] * 6), {"nominal_volts": 6}, "readings[0].cell_volts"),
            (reading("cells"), {}, "readings[0].specific_gravities"),
            (look(levels=["right"] * 4), {}, "readings[0].levels"),
        ]
        for body, battery, path in table:
            with self.subTest(path):
                self.assertIn(path, [problem.path for problem in impossible_values(check(body, **battery))])

    def test_leakage_may_be_any_share_of_the_battery_s_volts(self) -> None:
        self.assertEqual(impossible_values(check(reading("case_leakage", volts=11.8))), [])

    def test_limits_of_every_kind_say_what_to_enter(self) -> None:
        table = [
            ('{"kind": "adjustable_load", "amps": 300, "seconds": 90, "volts": 9}', "seconds", "longer than a minute"),
            ('{"kind": "adjustable_load", "amps": 3, "seconds": 15, "volts": 9}', "amps", "5 to 1500 A"),
            ('{"kind": "charge_run", "start_amps": 8, "amps": 900, "volts": 14, "hours": 3}', "amps", "0 to 200 A"),
            (
                '{"kind": "cells", "specific_gravities": [1265, 1.2, 1.2, 1.2, 1.2, 1.2]}',
                "specific_gravities[0]",
                "1265 is typed 1.265",
            ),
            ('{"kind": "car", "idle_volts": 142}', "idle_volts", "8 to 20 V"),
            ('{"kind": "rest_volts", "volts": 12.6, "temperature_c": 72}', "temperature_c", "Fahrenheit"),
        ]
        for body, field, said in table:
            with self.subTest(field), self.assertRaises(CheckRefused) as refused:
                stamped = body[:-1] + ', "taken_at": "2026-03-02T09:00:00Z"}'
                parse_check(f'{{"format": "vane-check/1", "readings": [{stamped}]}}')
            problem = refused.exception.problems[0]
            self.assertEqual(problem.path, f"readings[0].{field}")
            self.assertIn(said, problem.message)


class Figures(unittest.TestCase):
    def case(self, **battery: Any) -> Case:
        return Case.of(Check.model_validate(check(volts(12.6, temperature_c=10), **battery).model_dump()), RULES)

    def test_limits_are_worked_out_before_anything_is_typed(self) -> None:
        limits = limits_of(self.case(rated=680))
        self.assertEqual((limits.load.amps, limits.load.min_volts, limits.replace_below_amps), (340, 9.4, 510))
        self.assertEqual(limits.rating_words, "680 CCA")
        estimated = limits_of(self.case(rated=None, capacity_ah_20h=70))
        self.assertEqual((estimated.load.amps, estimated.replace_below_amps), (210, 498.75))  # 9.5 x 70 x 0.75
        self.assertIn("estimated from Ah", estimated.rating_words or "")
        nothing = limits_of(self.case(rated=None))
        self.assertEqual((nothing.load.amps, nothing.rating_words), (None, None))

    def test_every_rung_s_figures_follow_the_house_and_the_battery(self) -> None:
        small, large = limits_of(self.case(rated=200)), limits_of(self.case(rated=680))
        self.assertEqual((small.fixed.amps, small.fixed.can_pass, large.fixed.can_pass), (100, True, False))
        self.assertAlmostEqual(large.crank.min_volts, 9.4)
        six = limits_of(self.case(nominal_volts=6, rated=400))
        self.assertEqual(
            (six.fixed.good_volts, six.fixed.floor_volts, six.running_low_volts * 2),
            (5.5, 4.75, RULES.car.running_low_volts.value),
        )
        self.assertLess(large.charge_reaches_volts, limits_of(self.case(chemistry="calcium")).charge_reaches_volts)
        own = RULES.with_parameters({"fixed_load.seconds": RULES.fixed_load.seconds.model_copy(update={"value": 5.0})})
        changed = Case(battery=self.case().battery, context=self.case().context, readings=(), rules=own)
        self.assertEqual((limits_of(changed).fixed.seconds, large.fixed.seconds), (5, 10))

    def test_a_version_kept_before_a_rule_was_there_is_still_read(self) -> None:
        body = house_rules("load_first").model_dump(mode="json")
        del body["rest"]["headlamp_seconds"]
        read = rules_from(body)
        self.assertEqual((read.rest.headlamp_seconds, read.rest.school.value), (RULES.rest.headlamp_seconds, "12_h"))

    def test_every_step_has_words_needs_and_a_cost(self) -> None:
        elsewhere = {"charge_and_watch", "watch_charge", "stand"}  # their minutes have a rule of their own
        self.assertEqual(set(RULES.steps.minutes.value) | elsewhere, set(StepKey))
        for key in StepKey:
            found = step(key, self.case())
            self.assertTrue(found.text and found.why and found.needs, key)
            self.assertGreater(found.minutes, 0)

    def test_lines_hold_at_the_ends_and_pass_through_the_points(self) -> None:
        xs, ys = (1.0, 2.0, 4.0), (10.0, 20.0, 0.0)
        for x, y in ((0, 10), (1, 10), (1.25, 12.5), (2, 20), (3, 10), (4, 0), (9, 0)):
            self.assertEqual(on_line(x, xs, ys), y)
