"""Jobs: what is seen holds the verdict. Nothing is handed back with a job undone, nothing condemned through dirt or dryness."""

import unittest
from typing import Any

from tests.build import judge, look, reading, tester, volts
from vane_check.core.findings.outcomes import Outcome
from vane_check.core.judging.jobs import Job
from vane_check.core.judging.judgement import Judgement
from vane_check.core.tables import job_rows

BARE = ["plates_bare"] * 6
RIGHT = ["right"] * 6


def leak(value: float, minutes: float = 1, **body: Any) -> Any:
    return reading("case_leakage", minutes, volts=value, **body)


def full(minutes: float) -> Any:
    return reading("charge_run", minutes, start_amps=7, amps=0.6, volts=14.5, hours=9, finished=True)


def keys(judged: Judgement) -> list[str]:
    return [job.key for job in judged.jobs]


class HoldsTheVerdict(unittest.TestCase):
    def test_bare_plates_and_a_pass_are_not_sound(self) -> None:
        judged = judge(look(levels=BARE), volts(12.60, 1), tester(480), rated=500, has_caps=True)
        self.assertEqual(judged.outcome, Outcome.NEEDS_CHARGE)
        self.assertEqual((judged.next_step.key, judged.next_step.job), ("top_up", "top_up"))
        self.assertEqual(keys(judged), ["top_up", "fill_to_mark", "check_running_volts"])

    def test_bare_plates_and_a_fail_condemn_nothing(self) -> None:
        judged = judge(look(levels=BARE), volts(12.60, 1), tester(300), has_caps=True)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.NEEDS_CHARGE, "top_up"))
        self.assertTrue(any("too little acid" in found.text for found in judged.findings))

    def test_low_plates_and_a_fail_condemn_nothing_either(self) -> None:
        judged = judge(look(levels=["low"] * 6), volts(12.60, 1), tester(300), has_caps=True)
        self.assertEqual((judged.outcome, judged.next_step.job), (Outcome.CANNOT_TELL, "fill_to_mark"))

    def test_filled_charged_and_read_again_it_may_be_condemned(self) -> None:
        dry = (look(levels=BARE), volts(12.60, 1), tester(300))
        filled = look(levels=RIGHT, minutes=20)
        self.assertEqual(judge(*dry, filled, has_caps=True).next_step.key, "charge_and_retest")
        charged = (*dry, filled, full(600), volts(12.64, 640))
        self.assertEqual(judge(*charged, has_caps=True).next_step.key, "tester_again")
        again = judge(*charged, tester(300, 645), has_caps=True)
        self.assertEqual(again.outcome, Outcome.WORN_OUT)
        self.assertEqual(again.cause and again.cause.key, "dried_out")

    def test_volts_on_the_case_and_heavy_corrosion(self) -> None:
        for value in (8.5, 11.0):
            judged = judge(look(corrosion="heavy"), leak(value), volts(12.6, 2), tester(610, 4))
            self.assertEqual((judged.outcome, judged.headline), (Outcome.SOUND, "Sound, after: clean posts, clean top"))
            self.assertEqual(judged.next_step.key, "clean_posts")
            for done in (look(minutes=10), leak(0.1, 12, cleaned=True)):
                judged = judge(look(corrosion="heavy"), leak(value), volts(12.6, 2), tester(610, 4), done)
                self.assertNotEqual(judged.headline, "Sound")
        both = (look(minutes=10), leak(0.1, 12, cleaned=True))
        judged = judge(look(corrosion="heavy"), leak(8.5), volts(12.6, 2), tester(610, 4), *both)
        self.assertEqual((judged.headline, judged.next_step.key), ("Sound", "give_back"))
        self.assertEqual(judged.jobs_done, ("posts and clamps cleaned", "top cleaned and dried"))

    def test_it_comes_back_after_cleaning(self) -> None:
        judged = judge(look(), leak(3.0), leak(2.0, 5, cleaned=True), volts(12.6, 6), tester(610, 7))
        self.assertEqual((judged.headline, keys(judged)), ("Sound, after: find the wet", ["under_sticker"]))

    def test_each_thing_seen_has_its_job(self) -> None:
        for sign, key in (
            ("hold_down_missing", "fit_hold_down"),
            ("hold_down_loose", "tighten_hold_down"),
            ("thin_post", "shim_post"),
            ("vent_tube_off", "vent_tube"),
            ("tray_rusted", "mend_tray"),
            ("wet_top", "clean_top"),
        ):
            with self.subTest(sign):
                judged = judge(look(sign), volts(12.6, 1), tester(610))
                self.assertEqual((judged.outcome, keys(judged)), (Outcome.SOUND, [key]))
                self.assertTrue(judged.headline.startswith("Sound, after: "))
                self.assertNotEqual(judged.next_step.key, "give_back")

    def test_a_low_or_over_cell_does_not_vanish(self) -> None:
        low = judge(look(levels=[*RIGHT[:5], "low"]), volts(12.6, 1), tester(610), has_caps=True)
        self.assertEqual((low.headline, keys(low)), ("Sound, after: fill to the mark", ["fill_to_mark"]))
        over = judge(look(levels=[*RIGHT[:5], "over"]), volts(12.6, 1), tester(610), has_caps=True)
        self.assertEqual((over.headline, keys(over)), ("Sound", ["mind_level"]))
        self.assertIn("over the mark in 1 cell", over.findings[0].text)

    def test_an_ordinary_battery_under_a_stop_start_car(self) -> None:
        for chemistry in ("flooded", "hybrid", "calcium"):
            judged = judge(volts(12.7), tester(610), chemistry=chemistry, context={"stop_start_car": True})
            self.assertEqual((judged.headline, keys(judged)), ("Sound, after: right type", ["right_type"]))
            self.assertIn("Wrong type", judged.findings[-1].text)
        right = judge(volts(12.75), tester(610, type_set="efb"), chemistry="efb", context={"stop_start_car": True})
        self.assertEqual(right.headline, "Sound")
        listed = judge(
            volts(12.75),
            tester(610, type_set="efb"),
            chemistry="efb",
            context={"car_chemistry": "agm", "stop_start_car": True},
        )
        self.assertEqual((keys(listed), listed.jobs[0].text), (["right_type"], "this car asks for AGM"))

    def test_a_filled_dry_battery_stays_marked(self) -> None:
        judged = judge(
            look(levels=BARE), look(levels=RIGHT, minutes=20), volts(12.6, 30), tester(610, 32), has_caps=True
        )
        self.assertEqual(keys(judged), ["check_running_volts"])
        self.assertIn("overcharge or neglect", " ".join(str(found.text) for found in judged.findings))
        ran = judge(
            look(levels=BARE), look(levels=RIGHT, minutes=20), volts(12.6, 30), tester(610, 32),
            reading("car", 40, idle_volts=14.1, loaded_volts=13.9), has_caps=True,
        )  # fmt: skip
        self.assertEqual(keys(ran), [])
        self.assertIn("running volts checked", ran.jobs_done)

    def test_after_a_pull_or_good_but_recharge_it_is_charged_soon(self) -> None:
        pulled = judge(volts(12.62), reading("adjustable_load", 5, amps=300, seconds=15, volts=10.4), tester(610, 8))
        told = judge(volts(12.62), tester(610, message="good_recharge"))
        for judged in (pulled, told):
            self.assertEqual((judged.headline, keys(judged)), ("Sound", ["recharge"]))


class Order(unittest.TestCase):
    def test_heavy_corrosion_is_cleaned_before_anything_is_clamped_on(self) -> None:
        judged = judge(look(corrosion="heavy"))
        self.assertEqual((judged.next_step.key, judged.jobs[0].when), ("clean_posts", "before testing"))
        self.assertEqual(judge(look(corrosion="light")).next_step.key, "measure_volts")

    def test_no_failing_figure_condemns_through_heavy_corrosion(self) -> None:
        dirty = (look(corrosion="heavy"), volts(12.62, 1))
        fails = (
            tester(300),
            reading("adjustable_load", 3, amps=300, seconds=15, volts=8.0),
            reading("fixed_load", 3, amps=100, seconds=10, volts=9.0),
        )
        for failing in fails:
            with self.subTest(failing.kind):
                judged = judge(*dirty, failing)
                self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "clean_posts"))
                said = failing.model_copy(update={"posts_clean": True})
                self.assertEqual(judge(*dirty, said).outcome, Outcome.WORN_OUT)  # cleaned before, as its form says
        self.assertEqual(judge(*dirty, tester(610)).outcome, Outcome.SOUND)

    def test_cleaned_since_it_is_read_again(self) -> None:
        read = (look(corrosion="heavy"), volts(12.62, 1), tester(300))
        self.assertEqual(judge(*read, look(minutes=9)).next_step.key, "tester_again")
        self.assertEqual(judge(*read, look(minutes=9), tester(300, 12)).outcome, Outcome.WORN_OUT)

    def test_wrong_clamps_only_take_away(self) -> None:
        for clamped in ("studs", "cable_clamps"):
            low = judge(volts(12.62), tester(300, clamped=clamped))
            self.assertEqual((low.outcome, low.next_step.key), (Outcome.CANNOT_TELL, "tester_again"))
            self.assertEqual(judge(volts(12.62), tester(610, clamped=clamped)).outcome, Outcome.SOUND)

    def test_a_leak_over_the_top_is_named_before_the_car(self) -> None:
        story = {"context": {"complaint": "will_not_start", "came_in": "in_car"}}
        wet = judge(look(), leak(8.5), volts(12.0, 2), **story)
        self.assertFalse(wet.look_at_the_car)
        self.assertIn("likely why it is flat", " ".join(str(found.text) for found in wet.findings))
        self.assertTrue(judge(look(), leak(0.2), volts(12.0, 2), **story).look_at_the_car)

    def test_water_comes_before_the_charge(self) -> None:
        judged = judge(look(levels=BARE), volts(11.9, 1), has_caps=True)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.NEEDS_CHARGE, "top_up"))


class TheEye(unittest.TestCase):
    def test_clear_without_caps_is_not_charged(self) -> None:
        for caps in (False, None):
            judged = judge(look(eye="clear"), volts(12.0, 1), has_caps=caps)
            self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "look_again"))

    def test_clear_with_caps_asks_for_water(self) -> None:
        judged = judge(look(eye="clear"), volts(12.0, 1), has_caps=True)
        self.assertEqual(
            (judged.outcome, judged.next_step.key, keys(judged)[0]), (Outcome.NEEDS_CHARGE, "top_up", "top_up")
        )

    def test_charged_and_clear_it_is_filled_before_a_test_that_needs_acid(self) -> None:
        """Common practice: what is read with too little acid over the plates says nothing."""
        judged = judge(look(eye="clear"), volts(12.65, 1), has_caps=True)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "top_up"))

    def test_dark_says_that_it_sees_one_cell_of_six(self) -> None:
        judged = judge(look(eye="dark"))
        self.assertIn("one cell of six", judged.findings[0].text)
        self.assertEqual(judged.next_step.key, "measure_volts")

    def test_against_a_pass_it_asks_for_a_second_look_then_watches(self) -> None:
        passed = (look(eye="clear"), volts(12.9, 1), tester(610, type_set="agm_flat"))
        once = judge(*passed, chemistry="agm")
        self.assertEqual((once.outcome, once.next_step.key), (Outcome.CANNOT_TELL, "look_again"))
        twice = judge(*passed, look(eye="clear", minutes=9), chemistry="agm")
        self.assertEqual((twice.outcome, twice.next_step.key), (Outcome.WATCH, "retest_later"))
        self.assertEqual(judge(*passed, look(eye="green", minutes=9), chemistry="agm").outcome, Outcome.SOUND)


class Words(unittest.TestCase):
    def test_every_job_says_when_whose_how_and_by_what_it_is_proved(self) -> None:
        rows = job_rows()
        self.assertEqual(len(rows), 17)
        for row in rows.values():
            with self.subTest(row.key):
                self.assertTrue(Job(key=row.key, text=row.text, when=row.time, whose=row.whose, how=row.how).how)  # type: ignore[arg-type]
                self.assertIn(row.proof, {"look", "case_leakage", "car", ""})
        self.assertIn("15 g of soda in a quarter litre", rows["clean_top"].how)
        self.assertIn("kills the acid", rows["clean_top"].how)
        self.assertIn("never acid", rows["top_up"].how)

    def test_jobs_kept_by_an_earlier_release_are_read(self) -> None:
        old = Job.model_validate({"text": "fit a hold-down", "when": "with the car", "whose": "ours"})
        self.assertEqual((old.when, old.whose, old.key), ("before hand-back", "house", ""))
