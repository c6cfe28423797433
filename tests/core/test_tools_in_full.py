"""No tool is half used: cells, the tester's every face, loads, the starter, the meter, the schools of small tools."""

import unittest
from dataclasses import replace
from typing import Any

from tests.build import RULES, check, judge, look, reading, tester, volts
from vane_check.core.facts.case import Case
from vane_check.core.findings.outcomes import Finding, Outcome
from vane_check.core.house.rules import HouseRules, changed_rules, house_rules
from vane_check.core.judging.judgement import Judgement, assess
from vane_check.core.judging.limits import limits_of
from vane_check.core.judging.steps import load_figures
from vane_check.core.readings.check import impossible_values, parse_check
from vane_check.core.readings.faults import CheckRefused

CHARGED = volts(12.62)


def cells(*gravities: float, minutes: float = 2, **body: Any) -> Any:
    return reading("cells", minutes, specific_gravities=list(gravities), **body)


def last(*readings: Any, **battery: Any) -> Finding:
    """What the last reading says."""
    name = readings[-1].model_copy(update={"id": "last"})
    judged = judge(*readings[:-1], name, **battery)
    return next(found for found in judged.findings if found.reading_id == "last")


def with_rules(values: dict[str, Any]) -> HouseRules:
    return changed_rules(RULES, values, "a test")


def said(judged: Judgement) -> str:
    return " | ".join(str(found.text) for found in judged.findings)


class Gravity(unittest.TestCase):
    def test_six_full_cells_prove_the_charge_by_themselves(self) -> None:
        for row in ([1.270] * 6, [1.300] * 6, [1.270, 1.280, 1.290, 1.300, 1.275, 1.285]):
            found = last(cells(*row))
            self.assertEqual((found.points_to, found.status), (Outcome.SOUND, "counts"))
            self.assertIn("by its gravity full", found.text)
        self.assertEqual(last(cells(*[1.250] * 6)).points_to, None)  # who knows what came before

    def test_one_or_two_weak_among_full_ones_are_named_and_equalised_once(self) -> None:
        for row, named in (
            ([1.270, 1.270, 1.215, 1.270, 1.270, 1.270], "Cell 3"),
            ([1.265, 1.219, 1.265, 1.265, 1.219, 1.265], "Cells 2, 5"),
        ):
            found = last(cells(*row), has_caps=True)
            self.assertEqual((found.points_to, found.remedy), (Outcome.NEEDS_CHARGE, "equalise"))
            self.assertTrue(found.text.startswith(named), found.text)
            self.assertEqual(last(cells(*row, equalised=True), has_caps=True).points_to, Outcome.DEAD_CELL)

    def test_three_weak_ones_will_hardly_come_back(self) -> None:
        found = last(cells(1.27, 1.21, 1.27, 1.21, 1.27, 1.21), has_caps=True)
        self.assertEqual(found.points_to, Outcome.DEAD_CELL)
        self.assertIn("recovery is unlikely", found.text)

    def test_no_word_says_alike_where_a_cell_is_out(self) -> None:
        for row in ([1.18, 1.18, 1.12, 1.18, 1.18, 1.18], [1.20, 1.20, 1.19, 1.14, 1.20, 1.20], [1.265] * 5 + [1.22]):
            found = last(cells(*row))
            for word in ("alike", "no cell", "none far out"):
                self.assertNotIn(word, found.text)
            self.assertEqual(bool(found.places), "Cell" in found.text or "cell" in found.text, found.text)

    def test_raw_corrected_and_mean_are_the_same_everywhere(self) -> None:
        """0.004 less for each 10 F under 80 F: at 4.5 C (40.1 F) 0.016 less (trade tables)."""
        found = last(cells(1.250, 1.252, 1.250, 1.248, 1.250, 1.250, temperature_c=4.5))
        self.assertEqual(found.figures, (1.234, 1.236, 1.234, 1.232, 1.234, 1.234))
        self.assertIn("1.232 to 1.236, mean 1.234", found.reading_text)
        self.assertIn(found.reading_text, found.text)

    def test_cell_volts_add_up_to_the_battery_s(self) -> None:
        found = last(volts(12.37), reading("cells", 2, cell_volts=[1.74, 2.12, 2.5, 2.5, 2.5, 2.5]))
        self.assertEqual((found.status, found.remedy), ("dropped", "cells"))
        self.assertIn("add up to 13.86 V, the battery read 12.37 V", found.text)
        self.assertEqual(
            last(volts(10.52), reading("cells", 2, cell_volts=[2.1] * 5 + [0.02])).points_to, Outcome.DEAD_CELL
        )

    def test_colours_instead_of_figures(self) -> None:
        green = ["green"] * 6
        self.assertEqual(last(reading("cells", bands=green, after_full_charge=True)).points_to, Outcome.SOUND)
        self.assertEqual(last(reading("cells", bands=["red"] * 6)).points_to, Outcome.NEEDS_CHARGE)
        odd = last(reading("cells", bands=[*green[:5], "red"]))
        self.assertEqual((odd.points_to, odd.places, odd.remedy), (Outcome.CANNOT_TELL, (5,), "cells"))


class Tester(unittest.TestCase):
    def test_amps_are_said_as_a_label_prints_them(self) -> None:
        found = judge(volts(12.65), tester(500)).findings[1]
        self.assertEqual(found.text, "500 of 600 CCA, 83 %: clear above the house's 75 %")

    def test_its_volts_and_a_meters_that_lie_apart_are_asked_about(self) -> None:
        """0.7 V between two tools on the same posts is a clamp, a lead or another battery: common practice."""
        for shown, step in (
            (12.0, "give_back"),
            (11.93, "give_back"),
            (11.92, "tester_again"),
            (13.32, "tester_again"),
        ):
            judged = judge(volts(12.62), tester(610, volts=shown))
            self.assertEqual(judged.next_step.key, step, shown)
        twice = judge(volts(12.62), tester(610, volts=11.9), tester(612, 6, volts=11.9))
        self.assertEqual(twice.next_step.key, "measure_again")  # both are read once more
        self.assertIn(
            "the tester showed 11.90 V, the meter 12.62 V", " ".join(str(one.why_not) for one in twice.findings)
        )
        six = judge(volts(6.31), tester(610, volts=5.97), nominal_volts=6)
        self.assertEqual(six.next_step.key, "give_back")
        self.assertEqual(judge(volts(6.31), tester(610, volts=5.95), nominal_volts=6).next_step.key, "tester_again")

    def test_minutes_in_the_field_of_milliohms_are_refused_there(self) -> None:
        """About 5 mΩ at 600 CCA, 12 V (from memory), a fifth to five times that: 1 to 25 mΩ; half of it at 6 V."""
        for mohm, volts_of_it, fits in (
            (1.0, 12, True),
            (0.9, 12, False),
            (25, 12, True),
            (110, 12, False),
            (13, 6, False),
            (12, 6, True),
        ):
            one = check(volts(volts_of_it * 1.05), tester(600, resistance_mohm=mohm), nominal_volts=volts_of_it)
            fields = [problem.path for problem in impossible_values(one)]
            self.assertEqual(fields, [] if fits else ["readings[1].resistance_mohm"], mohm)

    def test_only_a_message(self) -> None:
        for message, before, outcome in (
            ("good", CHARGED, Outcome.SOUND),
            ("replace", CHARGED, Outcome.WORN_OUT),
            ("bad_cell", CHARGED, Outcome.DEAD_CELL),
            ("replace", volts(12.0), Outcome.NEEDS_CHARGE),
            ("recharge_retest", CHARGED, Outcome.NEEDS_CHARGE),
        ):
            with self.subTest(message):
                told = reading("electronic_tester", 2, type_set="flooded", message=message)
                self.assertEqual(judge(before, told).outcome, outcome)
        wrong = judge(CHARGED, reading("electronic_tester", 2, type_set="gel", message="replace"))
        self.assertEqual(wrong.next_step.key, "tester_again")
        nothing = check(reading("electronic_tester", 2, type_set="flooded"))
        self.assertEqual([fault.path for fault in impossible_values(nothing)], ["readings[0].measured_cca_amps"])

    def test_recharge_and_retest_means_that(self) -> None:
        judged = judge(CHARGED, tester(610, message="recharge_retest"))
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.NEEDS_CHARGE, "charge_and_retest"))

    def test_its_own_health_has_a_limit_of_its_own(self) -> None:
        fine = judge(CHARGED, tester(610, health_pct=60))
        low = judge(CHARGED, tester(610, health_pct=59))
        self.assertEqual(
            (fine.outcome, low.outcome, low.next_step.key), (Outcome.SOUND, Outcome.CANNOT_TELL, "load_test")
        )
        self.assertIn("610 of 600 CCA, 102 %; its own health 59 %, under the 60 % of this house", said(low))

    def test_resistance_beside_the_figure_and_alone(self) -> None:
        self.assertIn("5.2 mΩ where a good one has about 5.0", said(judge(CHARGED, tester(580, resistance_mohm=5.2))))
        alone = last(CHARGED, reading("electronic_tester", 2, type_set="flooded", resistance_mohm=12))
        self.assertEqual(alone.points_to, Outcome.WORN_OUT)  # 3000 / 12 = 250 CCA, a quarter either way, of 600
        near = last(CHARGED, reading("electronic_tester", 2, type_set="flooded", resistance_mohm=7))
        self.assertEqual(near.points_to, Outcome.CANNOT_TELL)

    def test_its_own_volts_where_there_is_nothing_better(self) -> None:
        self.assertEqual(judge(tester(610, volts=12.65)).outcome, Outcome.SOUND)
        low = judge(tester(300, volts=12.0))
        self.assertEqual(
            (low.outcome, low.state_of_charge and low.state_of_charge.rest_volts), (Outcome.NEEDS_CHARGE, 12.0)
        )
        better = judge(volts(12.62), tester(610, volts=12.1))
        self.assertEqual(
            (better.outcome, better.state_of_charge and better.state_of_charge.rest_volts), (Outcome.SOUND, 12.62)
        )
        self.assertEqual(judge(tester(610, volts=13.3)).next_step.key, "measure_volts")

    def test_cold_widens_the_band_and_great_cold_voids_it(self) -> None:
        # 75 % of 600 A: 520 A clears it by 10 %, not by 20 %
        for temperature, points_to in ((0, Outcome.SOUND), (-1, Outcome.CANNOT_TELL), (-18, Outcome.CANNOT_TELL)):
            self.assertEqual(last(CHARGED, tester(520, temperature_c=temperature)).points_to, points_to)
        self.assertEqual(last(CHARGED, tester(520, temperature_c=-19)).status, "dropped")

    def test_a_scale_it_cannot_be_set_to_is_converted_with_its_spread(self) -> None:
        for amps, scale, cca in ((750, "CA", 600), (640, "EN", 674)):
            judged = judge(CHARGED, tester(610), rated=None, rating={"amps": amps, "scale": scale})
            self.assertEqual(judged.outcome, Outcome.SOUND)
            self.assertIn(f"about {cca} CCA ({amps} {scale}, ±5 %)", said(judged))
        # 450 of 600: 500 clears 10 %, not 15 %
        self.assertEqual(last(CHARGED, tester(505)).points_to, Outcome.SOUND)
        self.assertEqual(
            last(CHARGED, tester(505), rated=None, rating={"amps": 750, "scale": "CA"}).points_to, Outcome.CANNOT_TELL
        )

    def test_two_readings_one_setting_apart_say_the_difference(self) -> None:
        judged = judge(volts(12.7), tester(480, 2, "flooded"), tester(600, 5, "efb"), chemistry="efb")
        self.assertIn("+25 % against 480 with type flooded instead of EFB", said(judged))


class Loads(unittest.TestCase):
    def fixed(self, **body: Any) -> Any:
        return reading("fixed_load", 5, **{"amps": 100, "seconds": 10, **body})

    def pull(self, value: float, **body: Any) -> Any:
        return reading("adjustable_load", 5, **{"amps": 300, "seconds": 15, "volts": value, **body})

    def test_between_floor_and_good_stays_as_a_doubt_with_its_band(self) -> None:
        found = last(CHARGED, self.fixed(volts=10.0))
        self.assertEqual((found.status, found.points_to), ("doubtful", Outcome.CANNOT_TELL))
        self.assertIn("between the floor of 9.5 V and 11.0 V", found.text)

    def test_what_its_scale_shows_instead_of_volts(self) -> None:
        for body, points_to in (
            ({"band": "bad"}, Outcome.WORN_OUT),
            ({"band": "weak"}, Outcome.CANNOT_TELL),
            ({"band": "good"}, None),  # too small to pass
            ({"shown_cca_amps": 300}, Outcome.WORN_OUT),
            ({"shown_cca_amps": 420}, Outcome.CANNOT_TELL),
        ):
            self.assertEqual(last(CHARGED, self.fixed(**body)).points_to, points_to)
        self.assertEqual(last(CHARGED, self.fixed(band="good"), rated=200).points_to, Outcome.SOUND)
        self.assertEqual([fault.path for fault in impossible_values(check(self.fixed()))], ["readings[0].volts"])

    def test_fell_during_is_another_thing_than_fell_after(self) -> None:
        for needle, words in (
            ("fell_during", "it fell all the while"),
            ("dropped_after", "it held for the time, then dropped"),
        ):
            found = last(CHARGED, self.pull(10.0, needle=needle))
            self.assertEqual((found.points_to, found.remedy), (Outcome.CANNOT_TELL, "load_again"))
            self.assertIn(words, found.text)

    def test_amps_that_fell_were_not_all_there(self) -> None:
        self.assertEqual(last(CHARGED, self.pull(10.2, end_amps=290)).points_to, Outcome.SOUND)
        self.assertEqual(last(CHARGED, self.pull(10.2, end_amps=270)).status, "dropped")
        self.assertIn("the amps fell to 240", last(CHARGED, self.pull(8.5, end_amps=240)).text)

    def test_a_pass_says_recharge(self) -> None:
        self.assertIn("recharge it soon", last(CHARGED, self.pull(10.4)).text)

    def test_a_small_pull_s_sag_has_the_width_it_deserves(self) -> None:
        judged = judge(CHARGED, tester(584), self.fixed(volts=11.4))
        sag = next(found for found in judged.findings if found.kind == "sag")
        self.assertEqual((sag.points_to, sag.weight), (None, 0.0))

    def test_the_gate_says_what_it_is(self) -> None:
        self.assertIn("of 10 to 33 % charge, under the 75 % asked", last(volts(12.04), self.pull(9.0)).text)
        self.assertIn("not clear of the 12.40 V line", last(volts(12.42), self.pull(9.0)).text)

    def test_the_limit_shown_is_the_limit_used(self) -> None:
        cold = volts(12.62, temperature_c=0)
        shown = limits_of(Case.of(check(cold), RULES)).load.min_volts
        self.assertEqual(round(shown, 2), 9.14)
        self.assertIn("9.14 V", last(cold, self.pull(9.5)).limit_text)
        self.assertEqual(last(cold, self.pull(9.5)).points_to, Outcome.SOUND)


class WarmthOfItsTime(unittest.TestCase):
    """A reading with no temperature of its own goes by the one before it, not by what the night made of it. BCI load test: 9.6 V at
    21 C, 8.5 V at -18 C."""

    def found(self, *readings: Any, kind: str = "adjustable_load") -> Any:
        return next(each for each in judge(*readings).findings if each.kind == kind)

    def test_a_pull_keeps_the_limit_it_was_held_against(self) -> None:
        warm, pull = volts(12.62, temperature_c=21), reading("adjustable_load", 5, amps=300, seconds=15, volts=9.2)
        for later in ((), (volts(12.6, 900, temperature_c=-18),), (tester(600, 900, temperature_c=-18),)):
            with self.subTest(later):
                self.assertEqual(self.found(warm, pull, *later).limit_text, "hold 9.60 V")
                self.assertEqual(self.found(warm, pull, *later).points_to, Outcome.WORN_OUT)

    def test_the_last_before_it_counts_and_the_first_after_it_where_there_is_none(self) -> None:
        pull = reading("adjustable_load", 905, amps=300, seconds=15, volts=9.2)
        cold, colder = volts(12.6, 900, temperature_c=0), volts(12.6, 1800, temperature_c=-18)
        self.assertEqual(self.found(volts(12.62, temperature_c=21), cold, pull, colder).limit_text, "hold 9.14 V")
        self.assertEqual(
            self.found(volts(12.62, 890), pull, volts(12.6, 920, temperature_c=0), colder).limit_text, "hold 9.14 V"
        )

    def test_a_tester_too_cold_to_judge_is_so_by_its_own_hour(self) -> None:
        warm, again = volts(12.62, temperature_c=21), volts(12.6, 900, temperature_c=-18)
        self.assertEqual(self.found(warm, tester(300), again, kind="electronic_tester").points_to, Outcome.WORN_OUT)


class Starter(unittest.TestCase):
    def crank(self, value: float | None, minutes: float = 5, **body: Any) -> Any:
        return reading("crank", minutes, volts=value, seconds=10, **body)

    def test_two_failed_cranks_at_the_posts_settle_it(self) -> None:
        self.assertEqual(judge(CHARGED, tester(470), self.crank(8.5)).outcome, Outcome.CANNOT_TELL)
        twice = judge(CHARGED, self.crank(8.5), self.crank(8.4, 20))
        self.assertEqual(twice.outcome, Outcome.WORN_OUT)
        for second in (self.crank(8.4, 20, at_posts=False), self.crank(8.4, 9)):
            self.assertEqual(judge(CHARGED, self.crank(8.5), second).outcome, Outcome.CANNOT_TELL)
        self.assertEqual(judge(volts(12.0), self.crank(8.5), self.crank(8.4, 20)).outcome, Outcome.NEEDS_CHARGE)

    def test_the_dip_is_never_held_against_the_steady_floor(self) -> None:
        both = last(CHARGED, self.crank(10.1, dip_volts=8.6))
        self.assertEqual(both.points_to, Outcome.SOUND)
        self.assertIn("dipped to 8.6 V, low, not suspicious", both.text)
        for dip, status, points_to in (
            (9.6, "counts", None),
            (9.5, "doubtful", None),
            (8.0, "doubtful", None),
            (7.9, "doubtful", Outcome.CANNOT_TELL),
        ):
            found = last(CHARGED, self.crank(None, dip_volts=dip))
            self.assertEqual((found.status, found.points_to), (status, points_to))
        self.assertEqual([fault.path for fault in impossible_values(check(self.crank(None)))], ["readings[0].volts"])

    def test_volt_drop_finds_the_bad_section(self) -> None:
        for body, words in (
            ({"drop_joint_volts": 0.11}, "battery post to clamp"),
            ({"drop_ground_volts": 0.21}, "battery post to chassis"),
            ({"drop_starter_volts": 0.51}, "battery post to starter"),
        ):
            judged = judge(CHARGED, tester(610), reading("car", 5, **body))
            self.assertTrue(judged.look_at_the_car)
            self.assertIn(words, judged.look_at_the_car_why or "")
        fine = {"drop_joint_volts": 0.1, "drop_ground_volts": 0.2, "drop_starter_volts": 0.5}
        self.assertFalse(judge(CHARGED, tester(610), reading("car", 5, **fine)).look_at_the_car)

    def test_idle_alone_says_neither_and_nothing_more_than_was_read(self) -> None:
        for idle in (13.0, 13.4, 13.69):
            found = last(CHARGED, reading("car", 5, idle_volts=idle))
            self.assertEqual(found.status, "doubtful")
            self.assertIn("measure with revs and with loads on", found.text)
        self.assertEqual(last(reading("car", 5, idle_volts=14.2)).text, "Charging volts at idle as it should be")
        self.assertEqual(last(reading("car", 5, drain_ma=20)).text, "Key-off drain as it should be")


class Schools(unittest.TestCase):
    def small(self, school: str, *readings: Any, **battery: Any) -> Judgement:
        context = {"came_in": battery.pop("came_in", "in_car")}
        return assess(check(look(minutes=-30), *readings, context=context, **battery), house_rules(school))

    def test_a_resistor_passes_what_it_is_large_enough_for(self) -> None:
        rested = volts(12.65, rested_hours=14)
        good, bad = (reading("fixed_load", 5, volts=each, seconds=10, bounce_volts=12.4) for each in (11.4, 9.2))
        self.assertEqual(self.small("fixed_first", rested).next_step.key, "fixed_test")
        self.assertEqual(self.small("fixed_first", rested, good, rated=200).outcome, Outcome.SOUND)
        self.assertEqual(self.small("fixed_first", rested, bad).outcome, Outcome.WORN_OUT)
        large = self.small("fixed_first", rested, good)
        self.assertEqual((large.outcome, large.next_step.key), (Outcome.CANNOT_TELL, "crank_test"))
        held = self.small(
            "fixed_first",
            rested,
            reading("fixed_load", 5, volts=11.9, seconds=10),
            reading("crank", 20, volts=10.9, seconds=15),
        )
        self.assertEqual((held.outcome, held.sureness), (Outcome.SOUND, "not sure"))
        # 11.4 V lies in the good band, and 1.25 V under 100 A are some 270 CCA of 600: it is watched
        hardly = self.small("fixed_first", rested, good, reading("crank", 20, volts=10.9, seconds=15))
        self.assertEqual(hardly.outcome, Outcome.WATCH)
        carried = self.small("fixed_first", rested, good, came_in="carried_in")
        self.assertEqual(
            (carried.outcome, carried.next_step.key), (Outcome.WATCH, "retest_later")
        )  # what it cannot do it asks not

    def test_the_starter_alone(self) -> None:
        rested = volts(12.65, rested_hours=3)
        self.assertEqual(self.small("crank_first", rested).next_step.key, "crank_test")
        # 10.0 V holds, and 2.65 V under about 216 A are 12 mΩ, some 290 CCA of 600: it passes and is watched
        for value, outcome in ((10.9, Outcome.SOUND), (10.0, Outcome.WATCH), (9.9, Outcome.CANNOT_TELL)):
            self.assertEqual(
                self.small("crank_first", rested, reading("crank", 5, volts=value, seconds=15)).outcome, outcome
            )
        twice = (reading("crank", minutes, volts=9.5, seconds=15) for minutes in (5, 20))
        self.assertEqual(self.small("crank_first", rested, *twice).outcome, Outcome.WORN_OUT)

    def test_a_line_drawn_in_per_cent(self) -> None:
        per_cent = with_rules({"rest.recharge_line_in": "per_cent", "rest.recharge_line_soc_pct": 75})
        self.assertEqual(judge(volts(12.35), rules=RULES).outcome, Outcome.NEEDS_CHARGE)
        for value, outcome in ((12.44, Outcome.NEEDS_CHARGE), (12.45, Outcome.SOUND)):
            self.assertEqual(judge(volts(value), tester(610), rules=per_cent).outcome, outcome)
        self.assertEqual(judge(volts(12.42), tester(610), rules=RULES).outcome, Outcome.SOUND)

    def test_a_low_maintenance_battery_is_a_type_of_its_own(self) -> None:
        judged = judge(volts(12.55), tester(610), chemistry="hybrid")
        assert judged.state_of_charge is not None
        self.assertLess(judged.state_of_charge.low_pct, 75)
        self.assertGreater(judged.state_of_charge.high_pct, 75)


class Entry(unittest.TestCase):
    def test_a_size_of_6_v_sets_the_volts(self) -> None:
        self.assertEqual(check(group_code="GC2", rated=None).battery.nominal_volts, 6)
        self.assertEqual(check(group_code="48").battery.nominal_volts, 12)

    def test_a_charge_without_amps_says_what_to_enter(self) -> None:
        text = '{"format": "vane-check/1", "readings": [{"kind": "charge_run", "taken_at": "2026-03-02T09:00:00Z", "volts": 12.7, "hours": 3}]}'
        with self.assertRaises(CheckRefused) as refused:
            parse_check(text)
        self.assertIn("a maintainer shows none", str(refused.exception))


class AnotherCase(unittest.TestCase):
    def test_what_was_worked_out_of_a_case_does_not_go_with_it_into_another(self) -> None:
        """A case with other rules is another case: nothing that was remembered of the first holds in it."""
        case = Case.of(check(volts(12.62), rated=600), RULES)
        first = load_figures(case)
        other = replace(case, rules=changed_rules(RULES, {"load.seconds": 10}, "a house"))
        self.assertIsNot(other.answers, case.answers)
        self.assertEqual((first.seconds, load_figures(other).seconds, load_figures(case).seconds), (15, 10, 15))
