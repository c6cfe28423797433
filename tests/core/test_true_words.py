"""What a judgement says is true of the case at hand: nothing of a tester where none was read, of a label that says nothing, of a
house's method that is not its own. What is asked here is common practice: a reason that does not hold is no reason."""

import re
import unittest
from collections.abc import Callable

from tests.build import judge, look, reading, tester, volts
from tests.core.made_checks import made_checks
from tests.core.test_loads import pull
from vane_check.core.battery.label import RatingSource, Use
from vane_check.core.house.rules import SCHOOLS, HouseRules, changed_rules, house_rules
from vane_check.core.judging.judgement import Judgement, assess
from vane_check.core.readings.check import Check

Holds = Callable[[Check, HouseRules, Judgement], bool]


def was_read(kind: str, figure: str | None = None) -> Holds:
    def holds(check: Check, rules: HouseRules, judged: Judgement) -> bool:
        return any(one.kind == kind and (figure is None or getattr(one, figure)) for one in check.readings)

    return holds


def decides(kind: str) -> Holds:
    return lambda check, rules, judged: kind in rules.decision.deciding_kinds.value


DOES_NOT_START = {"clicks", "will_not_start", "failed_elsewhere"}
CLAIMS: dict[str, Holds] = {
    r"own milliohms": was_read("electronic_tester", "resistance_mohm"),
    r"Milliohms and": was_read("electronic_tester", "resistance_mohm"),
    r"(?i)\bcrank lie apart": was_read("crank"),
    r"(?i)\bpull (and crank )?lies? apart": lambda check, rules, judged: any(
        one.kind in {"adjustable_load", "fixed_load"} for one in check.readings
    ),
    r"The tester cannot settle it": was_read("electronic_tester"),
    r"The figure there is cannot be used": was_read("electronic_tester"),
    r"This house decides by the cells": decides("cells"),
    r"This house decides by it": decides("fixed_load"),
    r"The starter is the load this house has": lambda check, rules, judged: (
        "crank" in rules.decision.deciding_kinds.value or "adjustable_load" not in rules.steps.tools_at_hand.value
    ),
    r"A break inside opens only under a load": lambda check, rules, judged: check.context.complaint in DOES_NOT_START,
    r"standby or deep-cycle": lambda check, rules, judged: check.context.use is not Use.PRIVATE,
    r"its label asks": lambda check, rules, judged: (
        check.battery.rating_source is RatingSource.LABEL
        and check.battery.rating is not None
        and check.context.car_cca_amps is None
    ),
    r"its car asks \d": lambda check, rules, judged: (
        check.context.car_cca_amps is not None or check.battery.rating_source is RatingSource.VEHICLE
    ),
    r"with charge enough to be judged": lambda check, rules, judged: judged.outcome == "worn_out",
    r"\b(\d+) to \1 ": lambda check, rules, judged: False,
    r"and \d+ more$": lambda check, rules, judged: False,
}
"""What is said, and when it may be."""


def said_of(judged: Judgement) -> list[str]:
    plan, prospect = judged.next_step.plan, judged.prospect
    return [
        judged.headline, judged.next_step.text, judged.next_step.why, judged.next_step.needs, *(one.text for one in judged.findings),
        *([plan.why, plan.words] if plan else []), *([prospect.words] if prospect else []),
    ]  # fmt: skip


class OfChance(unittest.TestCase):
    def test_what_is_said_of_checks_made_by_chance_is_so(self) -> None:
        met = set()
        for made in made_checks():
            check, rules = Check.model_validate(made["check"]), house_rules(made["school"])
            judged = assess(check, rules)
            for claim, holds in CLAIMS.items():
                for text in said_of(judged):
                    if re.search(claim, str(text)):
                        met.add(claim)
                        self.assertTrue(holds(check, rules, judged), text)
        self.assertGreaterEqual(len(met), 6)


class Apart(unittest.TestCase):
    def test_the_two_that_lie_apart_are_named(self) -> None:
        by_mohm = judge(volts(12.62), tester(620, resistance_mohm=14))
        self.assertIn("Tester and its own milliohms lie apart", by_mohm.headline)
        by_pull = judge(volts(12.62), tester(660), pull(9.7, 9))
        self.assertNotIn("milliohm", by_pull.headline)
        for school in SCHOOLS:
            held = judge(volts(12.62), tester(300), pull(10.6, 9), rules=house_rules(school))
            self.assertNotIn("milliohm", held.headline)


class Why(unittest.TestCase):
    def test_a_load_is_asked_for_without_a_word_of_a_tester_that_nobody_used(self) -> None:
        rules = house_rules("load_first")
        self.assertEqual(judge(volts(12.65), rules=rules).next_step.key, "load_test")
        self.assertNotIn("tester", judge(volts(12.65), rules=rules).next_step.why)
        after = judge(volts(12.65), tester(450), rules=house_rules("electronic_first"))
        self.assertEqual(after.next_step.key, "load_test")
        self.assertIn("tester cannot settle it", after.next_step.why)

    def test_a_house_is_said_to_decide_by_a_load_only_where_it_does(self) -> None:
        clicks = {"complaint": "clicks", "came_in": "in_car"}
        for school, why in (
            ("fixed_first", "This house decides by it"),
            ("electronic_first", "A break inside opens only under a load"),
        ):
            asked = judge(volts(12.66), tester(620), rules=house_rules(school), context=clicks)
            self.assertEqual(asked.next_step.key, "fixed_test", school)
            self.assertIn(why, asked.next_step.why)

    def test_a_figure_that_counts_is_not_called_useless_because_a_second_is_asked_for(self) -> None:
        rules = changed_rules(house_rules("electronic_first"), {"decision.second_look": "yes"}, "a test")
        for type_set, useless in (("flooded", False), ("gel", True)):
            asked = judge(volts(12.66), tester(300, type_set=type_set), rules=rules)
            self.assertEqual(asked.next_step.key, "tester_again")
            self.assertEqual("cannot be used" in asked.next_step.why, useless)

    def test_a_private_car_s_battery_is_watched_for_a_reason_of_its_own(self) -> None:
        low = (
            volts(6.0),
            reading("charge_run", 60, amps=0.5, volts=14.6, hours=12, finished=True),
            volts(12.66, 1600, rested_hours=12),
        )
        private = judge(*low, tester(620, 1610), pull(10.4, 1620))
        self.assertEqual((private.outcome, private.next_step.key), ("watch", "retest_later"))
        self.assertNotIn("standby", private.next_step.why)
        standby = judge(*low, tester(620, 1610), pull(10.4, 1620), context={"use": "standby"})
        self.assertEqual(standby.next_step.key, "retest_later")
        self.assertIn("standby", standby.next_step.why)

    def test_a_dead_cell_is_replaced_for_its_cell(self) -> None:
        low = reading("cells", 5, specific_gravities=[1.265, 1.260, 1.100, 1.265, 1.262, 1.264], temperature_c=27)
        dead = judge(
            volts(10.55),
            low,
            reading("charge_run", 600, amps=6.0, volts=12.4, hours=6, finished=True),
            volts(10.5, 1400),
        )
        self.assertEqual((dead.outcome, dead.next_step.key), ("dead_cell", "replace"))
        self.assertNotIn("charge enough", dead.next_step.why)
        worn = judge(volts(12.66), pull(8.2, 5), volts(12.6, 20), pull(8.2, 30))
        self.assertEqual((worn.outcome, worn.next_step.key), ("worn_out", "replace"))
        self.assertIn("charge enough", worn.next_step.why)

    def test_a_top_is_cleaned_in_place_of_a_stand_only_where_one_was_begun(self) -> None:
        self.assertNotIn(
            "another stand", judge(look("wet_top"), volts(12.66), tester(620), pull(10.4, 9)).next_step.why
        )

    def test_who_asks_for_the_amps_is_who_said_them(self) -> None:
        read = (volts(12.66), tester(560))
        for source, words in (
            ("label", "its label asks"),
            ("vehicle", "its car asks"),
            ("catalogue", "its line in the catalogue asks"),
        ):
            prospect = judge(*read, rating_source=source).prospect
            assert prospect is not None
            self.assertIn(words, prospect.words)


class Jobs(unittest.TestCase):
    def test_two_jobs_are_named_and_more_are_counted(self) -> None:
        two = judge(look("wet_top", corrosion="heavy"), volts(12.66), tester(620), pull(10.4, 9))
        many = judge(look("wet_top", "hold_down_missing", corrosion="heavy"), volts(12.66), tester(620), pull(10.4, 9))
        self.assertEqual(two.headline, "Sound, after: clean posts, clean top")
        self.assertEqual(many.headline, "Sound, after 3 jobs")
