"""What must not slip by: nobody looked, a hazard wiped away, a load that was not on, a label misread."""

import unittest
from typing import Any

from tests.build import RULES, check, judge, look, reading, tester, volts
from vane_check.core.battery.doubts import label_doubts
from vane_check.core.battery.label import Battery, Rating, RatingScale
from vane_check.core.findings.outcomes import Outcome
from vane_check.core.judging.judgement import assess
from vane_check.core.readings.check import impossible_values

HANDS_ON = {"measure_volts", "tester", "load_test", "charge_and_retest", "give_back", "stand", "settle", "retest_later"}


class LookFirst(unittest.TestCase):
    def test_an_empty_check_asks_for_the_look(self) -> None:
        self.assertEqual(judge(looked=False).next_step.key, "look")
        self.assertEqual(judge(look()).next_step.key, "measure_volts")

    def test_nothing_is_sound_or_worked_on_before_somebody_looked(self) -> None:
        for read in (
            [volts(12.65), tester(620)],
            [volts(12.0)],
            [volts(12.65)],
            [volts(13.1)],
            [volts(12.65), tester(455)],
        ):
            judged = judge(*read, looked=False)
            with self.subTest([one.kind for one in read], outcome=judged.outcome):
                self.assertNotIn(judged.outcome, {Outcome.SOUND, Outcome.WATCH})
                self.assertEqual(judged.next_step.key, "look")
                self.assertNotIn(judged.next_step.key, HANDS_ON)

    def test_a_failed_battery_needs_no_look_to_be_failed(self) -> None:
        judged = judge(volts(12.65), tester(300), looked=False)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.WORN_OUT, "replace"))

    def test_a_standby_battery_is_no_exception(self) -> None:
        judged = judge(volts(12.65), tester(300), looked=False, context={"use": "standby"})
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "look"))


class Hazards(unittest.TestCase):
    def paths(self, *readings: Any) -> list[str]:
        return [one.path for one in impossible_values(check(*readings))]

    def test_a_hazard_is_taken_back_only_with_a_reason(self) -> None:
        bulged = look("bulged", id="a")
        self.assertEqual(self.paths(bulged, look(id="b", replaces="a")), ["readings[1].reason"])
        self.assertEqual(self.paths(bulged, look(id="b", replaces="a", reason="it was the one beside it")), [])
        self.assertEqual(self.paths(bulged, look("bulged", "hot", id="b", replaces="a")), [])
        self.assertEqual(
            self.paths(look("bulged", "hot", id="a"), look("hot", id="b", replaces="a")), ["readings[1].reason"]
        )
        self.assertEqual(self.paths(look("wet_top", id="a"), look(id="b", replaces="a")), [])
        back = reading("withdrawal", id="w", replaces="a")
        self.assertEqual(self.paths(bulged, back), ["readings[1].reason"])

    def test_a_later_look_that_finds_nothing_does_not_wipe_it_away(self) -> None:
        self.assertEqual(judge(look("bulged"), look(minutes=9), volts(12.65)).outcome, Outcome.UNSAFE)

    def test_the_words_say_what_was_marked(self) -> None:
        said = impossible_values(check(look("smelling_of_rotten_egg", id="a"), look(id="b", replaces="a")))[0].message
        self.assertTrue(said.startswith("Smelling of rotten egg was marked: say why"))


class Misread(unittest.TestCase):
    def test_a_pull_that_hardly_sags_was_no_pull(self) -> None:
        for value, wrong in ((12.41, True), (12.40, False), (9.9, False)):
            pull = reading("adjustable_load", 5, amps=300, seconds=15, volts=value)  # 600 CCA: at least 0.20 V
            found = impossible_values(check(volts(12.60), pull))
            with self.subTest(value):
                self.assertEqual([one.path for one in found], ["readings[1].volts"] if wrong else [])
                if wrong:
                    self.assertIn("was the load on?", found[0].message)
        six = reading("adjustable_load", 5, amps=300, seconds=15, volts=6.22)
        self.assertEqual(len(impossible_values(check(volts(6.30), six, nominal_volts=6))), 1)
        self.assertEqual(impossible_values(check(volts(12.60), reading("crank", 5, seconds=5, volts=12.5))), [])

    def test_a_label_whose_figures_do_not_go_together_is_asked_about(self) -> None:
        for amps, scale, code, ah, asked in (
            (550, "DIN", "47", None, "at most about 818 CCA"),
            (550, "EN", "47", None, None),
            (300, "DIN", "47", 62, None),
            (550, "DIN", None, 44, "44 Ah do not go together"),
            (550, "DIN", None, None, None),
            (110, "CCA", None, 60, "60 Ah do not go together"),
            (120, "CCA", None, 60, None),
            (817, "CCA", "47", None, None),
            (820, "CCA", "47", None, "group 47"),
        ):
            label = Battery(rating=Rating(amps=amps, scale=RatingScale(scale)), group_code=code, capacity_ah_20h=ah)
            found = label_doubts(label)
            with self.subTest(amps=amps, scale=scale, code=code):
                self.assertEqual(len(found), 0 if asked is None else 1)
                if asked:
                    self.assertEqual(found[0].path, "battery.rating.amps")
                    self.assertIn(asked, found[0].question)
        self.assertEqual(label_doubts(Battery()), [])

    def test_the_demo_goods_raise_no_question(self) -> None:
        from vane_check.demo.goods import items

        for item in items():
            label = Battery(
                rating=Rating(amps=item.cca_amps), group_code=item.group_code, capacity_ah_20h=item.capacity_ah_20h
            )
            self.assertEqual(label_doubts(label), [], item)


class Unsafe(unittest.TestCase):
    def test_ice_found_by_reckoning_stops_everything_too(self) -> None:
        judged = assess(check(look(), volts(11.8, temperature_c=-20)), RULES)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.UNSAFE, "hold_apart"))


class Questions(unittest.TestCase):
    def test_they_read_as_one_would_ask(self) -> None:
        for amps, scale, code, ah, said in (
            (900, "CCA", "47", None, "900 CCA is more than a case of group 47 gives (at most about 818 CCA): look at the label again, and at its scale"),
            (550, "DIN", "47", None, "550 DIN, about 965 CCA, is more than a case of group 47 gives (at most about 818 CCA): is it EN or CCA? Look at the label again"),
            (1100, "CA", "47", None, "1100 CA, about 880 CCA, is more than a case of group 47 gives (at most about 818 CCA): look at the label again, and at its scale"),
            (550, "DIN", None, 44, "550 DIN, about 965 CCA, and 44 Ah do not go together: is it EN or CCA? Look at the label again, or look at the Ah"),
            (600, "CCA", None, 30, "600 CCA and 30 Ah do not go together: look at the label again, and at its scale, or look at the Ah"),
        ):  # fmt: skip
            label = Battery(rating=Rating(amps=amps, scale=RatingScale(scale)), group_code=code, capacity_ah_20h=ah)
            self.assertEqual([doubt.question for doubt in label_doubts(label)], [said])

    def test_a_size_that_fits_does_not_silence_the_ah(self) -> None:
        label = Battery(rating=Rating(amps=600), group_code="47", capacity_ah_20h=30)
        self.assertIn("30 Ah do not go together", label_doubts(label)[0].question)


class Done(unittest.TestCase):
    def test_what_was_done_is_read_off_the_readings(self) -> None:
        table: list[tuple[list[Any], tuple[str, ...]]] = [
            ([look(corrosion="light")], ()),
            ([look(corrosion="light"), look(minutes=5)], ("posts and clamps cleaned",)),
            ([look(), look(minutes=5, corrosion="light")], ()),
            ([look(), reading("case_leakage", 2, volts=0.2, cleaned=True)], ("top cleaned and dried",)),
            ([look(), reading("case_leakage", 2, volts=4.0, cleaned=True)], ()),
            ([look(), reading("case_leakage", 2, volts=0.2, cleaned=True), reading("case_leakage", 9, volts=4.0)], ()),
            ([look(), reading("charge_run", 9, amps=0.4, start_amps=6, volts=14.4, hours=8)], ()),
            ([look(), reading("charge_run", 9, amps=0.4, start_amps=6, volts=14.4, hours=8, finished=True)], ("charged until full",)),
            ([look(), reading("cells", 9, specific_gravities=[1.26] * 6, equalised=True)], ("cells equalised",)),
        ]  # fmt: skip
        for read, told in table:
            with self.subTest([one.kind for one in read]):
                self.assertEqual(judge(*read).jobs_done, told)
