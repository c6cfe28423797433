import unittest

from tests.build import judge, look, reading, tester, volts
from vane_check.core.findings.outcomes import Outcome

TABLE = [
    # what, readings, battery, outcome, next step
    ("nothing read", [], {}, "cannot_tell", "measure_volts"),
    ("charged, tester far below", [volts(12.6), tester(300)], {}, "worn_out", "replace"),
    ("charged, tester far above", [volts(12.6), tester(620)], {}, "sound", "give_back"),
    ("charged, tester near the limit", [volts(12.6), tester(455)], {}, "cannot_tell", "load_test"),
    ("flat, tester far below", [volts(12.0), tester(200)], {}, "needs_charge", "charge_and_retest"),
    ("flat, tester far above", [volts(12.0), tester(620)], {}, "needs_charge", "charge_and_retest"),
    ("on the line, tester far below", [volts(12.43), tester(200)], {}, "needs_charge", "charge_and_retest"),
    ("volts alone", [volts(12.6)], {}, "cannot_tell", "tester"),
    ("tester alone, low", [tester(300)], {}, "cannot_tell", "measure_volts"),
    ("no rating", [volts(12.6)], {"rated": None}, "cannot_tell", "read_label"),
    ("surface charge", [volts(13.1)], {}, "cannot_tell", "settle"),
    ("agm rests higher", [volts(12.95), tester(620, type_set="agm_flat")], {"chemistry": "agm"}, "sound", "give_back"),
    ("straight off the charger", [volts(12.7, settled="just_charged")], {}, "cannot_tell", "settle"),
    ("charging voltage", [volts(14.2)], {}, "cannot_tell", "measure_again"),
    ("absurdly low once", [volts(2.4)], {}, "cannot_tell", "measure_again"),
    ("absurdly low twice", [volts(2.4, confirmed=True)], {}, "needs_charge", "charge_and_watch"),
    ("10.5 V before a charge", [volts(10.5)], {}, "needs_charge", "charge_and_watch"),
    ("10.5 V after a charge", [volts(10.5, after_full_charge=True)], {}, "dead_cell", "replace"),
    ("8.4 V after a charge", [volts(8.4, settled="just_charged")], {}, "dead_cell", "replace"),
    ("6 V battery, two live cells", [volts(4.2, after_full_charge=True)], {"nominal_volts": 6}, "dead_cell", "replace"),
    ("stood 14 h after a charge, low", [volts(12.1, after_full_charge=True, rested_hours=14)], {}, "leaks_charge", "replace"),
    ("low after a charge, not stood", [volts(12.1, after_full_charge=True)], {}, "needs_charge", "charge_and_retest"),
    ("hazard", [look("bulged"), volts(12.6), tester(620)], {}, "unsafe", "hold_apart"),
    ("bad cell message", [volts(12.6), tester(250, message="bad_cell")], {}, "dead_cell", "replace"),
    ("message against figure", [volts(12.6), tester(620, message="replace")], {}, "cannot_tell", "load_test"),
    ("figure against message", [volts(12.6), tester(300, message="good")], {}, "cannot_tell", "load_test"),
    ("message for another rating", [volts(12.6), tester(300, message="good", rated_set_amps=350)], {}, "worn_out", "replace"),
    ("standby battery low", [volts(12.6), tester(300)], {"context": {"use": "standby"}}, "watch", "retest_later"),
]  # fmt: skip

VOID = [
    ("studs", tester(250, clamped="studs"), {}, "less than half"),
    ("cable clamps", tester(250, clamped="cable_clamps"), {}, "low"),
    ("wrong type", tester(250, type_set="efb"), {}, "fifth to a quarter"),
    ("wrong scale", tester(250, scale_set="EN"), {}, "another scale"),
    ("double the rating", tester(1300), {}, "double"),
]


class Judging(unittest.TestCase):
    def test_table(self) -> None:
        for what, readings, battery, outcome, step in TABLE:
            with self.subTest(what):
                judged = judge(*readings, **battery)
                self.assertEqual((judged.outcome.value, judged.next_step.key), (outcome, step))

    def test_void_testers_fall_off_with_the_reason_and_the_usual_error(self) -> None:
        for what, void, battery, said in VOID:
            with self.subTest(what):
                judged = judge(volts(12.6), void, **battery)
                dropped = judged.findings[-1]
                self.assertEqual((dropped.status, dropped.weight), ("dropped", 0))
                self.assertIn(said, dropped.why_not or "")
                self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "tester_again"))

    def test_calcium_is_tested_as_flooded(self) -> None:
        self.assertEqual(judge(volts(12.75), tester(620), chemistry="calcium").outcome, Outcome.SOUND)

    def test_a_corrected_entry_no_longer_counts(self) -> None:
        slip = tester(62, id="a")
        right = tester(620, id="b", replaces="a")
        judged = judge(volts(12.6), slip, right)
        self.assertEqual(judged.outcome, Outcome.SOUND)
        self.assertEqual([found.reading_id for found in judged.findings], [None, "b"])

    def test_the_later_reading_of_a_kind_stands_and_the_earlier_says_so(self) -> None:
        judged = judge(volts(11.9), volts(12.65, 700), tester(300, 702))
        self.assertEqual(judged.outcome, Outcome.WORN_OUT)
        self.assertEqual(judged.findings[0].why_not, "measured again later")

    def test_a_low_figure_from_before_the_charge_does_not_condemn_after_it(self) -> None:
        judged = judge(volts(11.9), tester(200, 2), volts(12.65, 700))
        self.assertNotEqual(judged.outcome, Outcome.WORN_OUT)

    def test_a_hazard_once_seen_stays(self) -> None:
        self.assertEqual(judge(look("cracked"), look(minutes=5), volts(12.6)).outcome, Outcome.UNSAFE)

    def test_dead_cell_against_a_strong_pass_is_a_conflict_for_the_load_test(self) -> None:
        judged = judge(volts(12.6, 0), tester(620, 2), volts(10.5, 300, after_full_charge=True))
        self.assertTrue(judged.conflict)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "load_test"))

    def test_load_step_carries_this_battery_s_figures(self) -> None:
        step = judge(volts(12.6, temperature_c=10), tester(455)).next_step
        self.assertIn("300 A for 15 s", step.text)
        assert step.load is not None
        self.assertEqual((step.load.min_volts, step.load.temperature_measured), (9.4, True))

    def test_look_at_the_car_beside_a_sound_battery_with_a_complaint(self) -> None:
        loaded = reading("adjustable_load", 5, amps=300, seconds=15, volts=10.4)
        blamed = judge(volts(12.6), tester(620), loaded, context={"complaint": "slow_crank"})
        asked = judge(volts(12.6), tester(620), context={"complaint": "check_only"})
        self.assertTrue(blamed.look_at_the_car)
        self.assertFalse(asked.look_at_the_car)

    def test_watch_names_a_date_three_months_on(self) -> None:
        judged = judge(volts(12.6), tester(300), context={"use": "standby"})
        self.assertEqual(str(judged.watch_until), "2026-06-02")

    def test_every_finding_and_judgement_names_its_rule_source_and_version(self) -> None:
        judged = judge(look(), volts(12.6), tester(455))
        self.assertEqual(judged.rules_version, "2026.1")
        for found in judged.findings:
            self.assertTrue(found.rule and found.source and found.standing and found.limit_text)

    def test_charge_is_a_range_from_the_meter_s_uncertainty(self) -> None:
        charge = judge(volts(12.24)).state_of_charge
        assert charge is not None
        self.assertAlmostEqual(charge.meter_uncertainty_volts, 12.24 * 0.005 + 0.02)
        self.assertLess(charge.low_pct, 45)
        self.assertGreater(charge.high_pct, 55)
        flattered = judge(volts(12.24, settled="just_charged")).state_of_charge
        assert flattered is not None
        self.assertEqual((flattered.low_pct, flattered.at_most), (0, True))
