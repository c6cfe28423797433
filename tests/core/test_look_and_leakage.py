import unittest

from tests.build import judge, look, reading, tester, volts
from vane_check.core.findings.outcomes import Outcome
from vane_check.core.readings import HAZARDS

SOUND = (volts(12.6, 1), tester(620, 2))


class Looking(unittest.TestCase):
    def test_every_hazard_is_unsafe_whatever_else_reads_well_and_is_never_charged_or_tested(self) -> None:
        for sign in HAZARDS:
            with self.subTest(sign.value):
                judged = judge(
                    look(sign.value), *SOUND, reading("adjustable_load", 3, amps=300, seconds=15, volts=10.4)
                )
                self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.UNSAFE, "hold_apart"))
                self.assertEqual(judged.confidence, 1)

    def test_what_is_noted_is_no_hazard(self) -> None:
        for sign in ("hold_down_missing", "wet_top", "sticker_gone"):
            with self.subTest(sign):
                judged = judge(look(sign), *SOUND)
                self.assertEqual(judged.outcome, Outcome.SOUND)
                self.assertEqual(judged.headline == "Sound", sign == "sticker_gone")
                self.assertIn(sign.replace("_", " "), judged.findings[0].text.lower())

    def test_a_clear_eye_by_itself_condemns_nothing(self) -> None:
        """It sees one cell of six, and is misread: common practice. Looked at again, then the tester tells."""
        again = look(eye="clear", minutes=2)
        for label in ({"has_caps": False}, {"chemistry": "agm"}, {}):  # nobody knows of caps
            once = judge(look(eye="clear"), **label)
            self.assertEqual((once.outcome, once.next_step.key), (Outcome.CANNOT_TELL, "look_again"))
            twice = judge(look(eye="clear"), again, **label)
            self.assertEqual((twice.outcome, twice.next_step.key), (Outcome.CANNOT_TELL, "tester"))
        read = volts(12.65, 3), tester(620, 5)
        self.assertEqual(judge(look(eye="clear"), again, *read, has_caps=False).outcome, Outcome.WATCH)
        bad = volts(12.65, 3), tester(300, 5)
        self.assertEqual(judge(look(eye="clear"), again, *bad, has_caps=False).outcome, Outcome.WORN_OUT)

    def test_green_or_dark_eye_decides_nothing(self) -> None:
        for eye in ("green", "dark"):
            self.assertEqual(judge(look(eye=eye), *SOUND, has_caps=False).outcome, Outcome.SOUND)

    def test_bare_plates_are_covered_before_the_charge(self) -> None:
        levels = ["right", "right", "plates_bare", "right", "low", "right"]
        judged = judge(look(levels=levels), volts(12.0, 1), has_caps=True)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.NEEDS_CHARGE, "top_up"))
        self.assertIn("plates bare in 1 cell", judged.findings[0].text.lower())

    def test_corroded_posts_void_the_tester_until_they_are_clean(self) -> None:
        judged = judge(volts(12.6), tester(300, posts_clean=False))
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "clean_posts"))
        self.assertIn("corroded", judged.findings[-1].why_not or "")
        self.assertEqual(judge(volts(12.6), tester(300, posts_clean=False), tester(620, 9)).outcome, Outcome.SOUND)


class Ice(unittest.TestCase):
    def test_cold_and_flat_may_be_frozen(self) -> None:
        judged = judge(volts(11.9, temperature_c=-12))
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.UNSAFE, "hold_apart"))
        self.assertIn("may be frozen", judged.findings[-1].text)

    def test_cold_and_charged_is_not(self) -> None:
        self.assertNotEqual(judge(volts(12.64, temperature_c=-20)).outcome, Outcome.UNSAFE)

    def test_warm_and_flat_is_not(self) -> None:
        self.assertEqual(judge(volts(11.9, temperature_c=3)).outcome, Outcome.NEEDS_CHARGE)

    def test_gravity_speaks_for_the_acid_where_it_was_read(self) -> None:
        weak = [1.110, 1.115, 1.110, 1.115, 1.110, 1.110]
        judged = judge(reading("cells", specific_gravities=weak, temperature_c=-11), volts(12.5, 1))
        self.assertEqual(judged.outcome, Outcome.UNSAFE)


class Leakage(unittest.TestCase):
    def test_table(self) -> None:
        for value, cleaned, status, said in (
            (0.3, False, "counts", "clean and dry enough"),
            (4.0, False, "doubtful", "Clean it: caps shut, about 15 g of soda"),
            (4.0, True, "doubtful", "under the sticker"),
        ):
            with self.subTest(value=value, cleaned=cleaned):
                found = judge(reading("case_leakage", volts=value, cleaned=cleaned)).findings[0]
                self.assertEqual((found.status, found.points_to, found.weight), (status, None, 0))
                self.assertIn(said, found.text)

    def test_a_dirty_top_is_cleaned_before_a_lost_charge_condemns(self) -> None:
        lost = reading("stand", 900, start_volts=12.6, volts=12.0, hours=14)
        dirty, clean = (reading("case_leakage", 910, volts=value) for value in (5.0, 0.1))
        rested = volts(12.6, 0, rested_hours=12)
        self.assertEqual(judge(rested, lost, clean).outcome, Outcome.LEAKS_CHARGE)
        judged = judge(rested, lost, dirty)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "clean_top"))

    def test_the_worst_of_several_places_speaks(self) -> None:
        spots = [
            {"volts": each, "view": "top", "across": place / 4, "down": 0.5}
            for place, each in enumerate((0.2, 3.1, 0.4))
        ]
        found = judge(reading("case_leakage", volts=0.4, spots=spots)).findings[0]
        self.assertEqual(found.status, "doubtful")
        self.assertIn("3.1 V to the plastic at the worst of 3 places", found.text)


class TesterSettings(unittest.TestCase):
    def test_told_after_charge_on_a_low_battery_is_void(self) -> None:
        void = judge(volts(12.0), tester(300, charge_setting="after")).findings[1]
        self.assertEqual((void.status, void.remedy), ("dropped", "charge_and_retest"))
        self.assertEqual(judge(volts(12.6), tester(620, charge_setting="after")).outcome, Outcome.SOUND)
        self.assertEqual(judge(volts(12.0), tester(620, charge_setting="before")).findings[1].points_to, Outcome.SOUND)

    def test_a_rating_converted_for_the_load_costs_confidence(self) -> None:
        pull = reading("adjustable_load", 3, amps=316, seconds=15, volts=10.3)
        cca = judge(volts(12.6), pull, rated=632)
        en = judge(volts(12.6), pull, rated=None, rating={"amps": 600, "scale": "EN"})
        self.assertEqual((cca.outcome, en.outcome), (Outcome.SOUND, Outcome.SOUND))
        self.assertLess(en.confidence, cca.confidence)
