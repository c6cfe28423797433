"""Evidence that leaves nothing open, and evidence that only seems to: collapse, missing cells, the charge, the rest."""

import unittest
from typing import Any

from tests.build import RULES, check, judge, look, reading, tester, volts
from vane_check.core.evidence.under_load import flattest_volts
from vane_check.core.facts.case import Case
from vane_check.core.facts.state_of_charge import resistance_mohm
from vane_check.core.findings.outcomes import Outcome
from vane_check.core.house.rules import changed_rules
from vane_check.core.judging.judgement import Judgement


def pull(value: float, minutes: float = 5, amps: float = 300, **body: Any) -> Any:
    return reading("adjustable_load", minutes, amps=amps, seconds=15, volts=value, **body)


def fixed(value: float, minutes: float = 5, **body: Any) -> Any:
    return reading("fixed_load", minutes, **{"amps": 100, "seconds": 10, "volts": value, **body})


def charge(minutes: float = 600, **body: Any) -> Any:
    return reading("charge_run", minutes, **{"start_amps": 8, "amps": 0.6, "volts": 14.5, "hours": 9, **body})


def said(judged: Judgement) -> str:
    return " | ".join(str(found.text) for found in judged.findings)


class Collapse(unittest.TestCase):
    def test_it_is_broken_whatever_its_charge(self) -> None:
        for name, judged in (
            ("0 V at 100 A", judge(volts(11.6), fixed(0.0))),
            ("2 V at 100 A", judge(volts(12.1), fixed(2.0))),
            ("6.9 V at 250 A, 1400 CCA", judge(volts(12.4, rested_hours=24), pull(6.9, amps=250), rated=1400)),
            (
                "deep cycle",
                judge(volts(12.5), fixed(2.0), rated=None, capacity_ah_20h=100, context={"use": "deep_cycle"}),
            ),
            ("against a tester", judge(volts(12.6), tester(610), fixed(1.0))),
        ):
            with self.subTest(name):
                self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.DEAD_CELL, "replace"))
                self.assertEqual(judged.headline, "Broken inside: it collapses under load")
                self.assertIn("whatever its charge", said(judged))

    def test_between_that_and_the_limit_it_is_charged_first(self) -> None:
        for judged in (
            judge(volts(12.0), fixed(8.5)),
            judge(volts(12.0), pull(8.0)),
            judge(volts(11.9), pull(8.8, amps=250), rated=1400),
        ):
            self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.NEEDS_CHARGE, "charge_and_retest"))

    def test_empty_at_rest_it_is_no_collapse(self) -> None:
        self.assertEqual(judge(volts(11.4), fixed(2.0)).outcome, Outcome.NEEDS_CHARGE)

    def test_the_floor_is_nothing_where_the_load_is_more_than_the_flattest_bears(self) -> None:
        case = Case.of(check(volts(12.6)), RULES)
        self.assertEqual(flattest_volts(12.6, 2000, 600, 21, case), 0.0)

    def test_the_floor_follows_from_the_rating_the_cold_and_the_empty_plates(self) -> None:
        # (12.6 - 7.2) V / 600 A at -18 C, 0.7 of it at 21 C, 0.95 after 15 s: 5.99 mΩ; five times that when empty
        self.assertAlmostEqual(resistance_mohm(600, 21), 5.985, places=3)
        self.assertAlmostEqual(resistance_mohm(600, 21, charge_pct=0), 29.925, places=3)
        self.assertAlmostEqual(resistance_mohm(600, -18, seconds=30), 9.0, places=3)
        # 75 % of 600 A: 39.9 mΩ, so 100 A take 3.99 V off 12.00 V
        self.assertEqual(judge(volts(12.0), fixed(8.02)).outcome, Outcome.NEEDS_CHARGE)
        self.assertEqual(judge(volts(12.0), fixed(8.00)).outcome, Outcome.DEAD_CELL)
        self.assertEqual(judge(volts(12.0, temperature_c=-8), fixed(8.00)).outcome, Outcome.NEEDS_CHARGE)

    def test_a_larger_pull_that_holds_later_takes_it_back(self) -> None:
        self.assertNotEqual(judge(volts(12.6), fixed(1.0), pull(10.4, 20)).outcome, Outcome.DEAD_CELL)
        self.assertEqual(judge(volts(12.6), pull(10.4), fixed(1.0, 20)).outcome, Outcome.DEAD_CELL)

    def test_through_bare_plates_it_condemns_nothing(self) -> None:
        judged = judge(look(levels=["plates_bare"] * 6), volts(12.0, 1), fixed(1.0), has_caps=True)
        self.assertEqual(judged.next_step.key, "top_up")


class Cells(unittest.TestCase):
    def test_after_a_full_charge_every_low_voltage_is_a_count_of_cells(self) -> None:
        for value, gone in ((10.0, 1), (8.8, 2), (8.0, 2), (6.3, 3), (4.2, 4), (2.1, 5)):
            for judged in (
                judge(volts(value, after_full_charge=True)),
                judge(volts(12.0, -700), charge(finished=True), volts(value, 620)),
            ):
                with self.subTest(value):
                    self.assertEqual(judged.outcome, Outcome.DEAD_CELL)
                    self.assertIn(f"{gone} of 6 cells", said(judged))

    def test_before_a_charge_it_is_charged_and_looked_at_within_the_hour(self) -> None:
        for judged in (
            judge(volts(10.5)),
            judge(volts(11.9), tester(200, message="bad_cell")),
            judge(volts(11.9), reading("electronic_tester", 2, type_set="flooded", message="bad_cell")),
        ):
            self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.NEEDS_CHARGE, "charge_and_watch"))
            self.assertEqual(judged.next_step.minutes, 60)
            self.assertIn("within 60 min: current, volts, cells", judged.next_step.text)

    def test_still_beside_lively_stops_the_charge_now(self) -> None:
        judged = judge(reading("cells", on_charge=["lively"] * 5 + ["still"]), has_caps=True)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.DEAD_CELL, "stop_charge"))
        self.assertTrue(judged.next_step.text.startswith("Stop the charge now"))


class Acceptance(unittest.TestCase):
    def test_no_current_at_any_volts(self) -> None:
        for amps in (0, 0.1, 0.2):
            for at_volts, step in ((12.4, "check_charger"), (14.6, "recovery_charge")):
                judged = judge(volts(11.9), charge(60, start_amps=amps, amps=amps, volts=at_volts, hours=1))
                self.assertEqual(judged.findings[1].points_to, Outcome.CANNOT_TELL)
                self.assertEqual(judged.findings[1].remedy, step)
                self.assertNotIn("taking its charge", said(judged))
        self.assertIn("taking its charge", said(judge(volts(11.9), charge(60, amps=0.3, volts=12.4, hours=1))))

    def test_a_full_one_takes_none_either(self) -> None:
        self.assertIn("full and off", said(judge(volts(12.7), charge(30, amps=0.0, start_amps=0.1, finished=True))))

    def test_none_even_after_a_recovery_charge(self) -> None:
        judged = judge(volts(11.9), charge(900, start_amps=0.1, amps=0.1, volts=15.4, recovery=True))
        self.assertEqual(judged.outcome, Outcome.WORN_OUT)

    def test_stuck_between_13_and_14_1_for_hours(self) -> None:
        for at_volts in (13.0, 13.5, 14.1):
            for amps, hours, outcome, step in (
                (8, 4, Outcome.NEEDS_CHARGE, "watch_charge"),  # half of its Ah: looked at within the hour
                (8, 12, Outcome.DEAD_CELL, "stop_charge"),
                (9, 4, Outcome.DEAD_CELL, "stop_charge"),  # amps that rise at volts that stand need no Ah
            ):
                before = charge(hours * 60, amps=8, volts=at_volts, hours=hours)
                after = charge(hours * 60 + 60, amps=amps, volts=at_volts, hours=hours + 1)
                judged = judge(volts(11.9), before, after)
                self.assertEqual((judged.outcome, judged.next_step.key), (outcome, step))

    def test_a_large_one_may_still_be_filling(self) -> None:
        """100 Ah from half full want 50 Ah, and a fifth more goes in (common practice): seven hours at 8 A are 56, eight are 64."""
        for hours in (5, 7):
            filling = judge(volts(12.24), charge(hours * 60, amps=8, volts=13.5, hours=hours), capacity_ah_20h=100)
            self.assertEqual((filling.outcome, filling.next_step.key), (Outcome.NEEDS_CHARGE, "charge_and_retest"))
        over = judge(volts(12.24), charge(480, amps=8, volts=13.5, hours=8), capacity_ah_20h=100)
        rises = judge(volts(12.24), charge(300, amps=8.5, volts=13.5, hours=5), capacity_ah_20h=100)
        deeply = judge(volts(10.6), charge(300, amps=8, volts=13.5, hours=5), capacity_ah_20h=100)
        self.assertEqual((deeply.outcome, deeply.next_step.key), (Outcome.NEEDS_CHARGE, "watch_charge"))
        self.assertEqual((over.outcome, over.next_step.key), (Outcome.NEEDS_CHARGE, "watch_charge"))
        notes = [charge(hours * 60, amps=8, volts=13.5, hours=hours) for hours in (1, 5, 8)]
        still = judge(volts(12.24), *notes[:2], capacity_ah_20h=100)
        self.assertEqual((still.outcome, still.next_step.key), (Outcome.NEEDS_CHARGE, "watch_charge"))
        for judged in (judge(volts(12.24), *notes, capacity_ah_20h=100), rises):
            self.assertEqual(judged.outcome, Outcome.DEAD_CELL)

    def test_what_counts_as_stuck_goes_by_size(self) -> None:
        notes = [charge(hours * 60, start_amps=1.1, amps=1.0, volts=13.2, hours=hours) for hours in (12, 14)]
        small = judge(volts(12.0), *notes, capacity_ah_20h=12, rated=None)
        self.assertEqual(small.outcome, Outcome.DEAD_CELL)
        large = judge(volts(12.0), *notes, capacity_ah_20h=60, rated=None)
        self.assertEqual(large.outcome, Outcome.NEEDS_CHARGE)

    def test_full_and_off_says_by_what(self) -> None:
        for name, judged, by in (
            ("tapered", judge(volts(12.0), charge(finished=True)), "the current has fallen to 0.6 A"),
            (
                "an hour",
                judge(volts(12.0), charge(500, amps=3.0, volts=14.4), charge(570, amps=3.0, volts=14.4, finished=True)),
                "stood still for an hour",
            ),
            (
                "rest agrees",
                judge(volts(12.0), charge(start_amps=12, amps=9.5, volts=13.2, finished=True), volts(12.6, 640)),
                "the rest volts agree",
            ),
        ):
            with self.subTest(name):
                self.assertIn("full and off", said(judged))
                self.assertIn(by, said(judged))

    def test_a_green_light_at_9_5_a_is_not_full(self) -> None:
        judged = judge(volts(12.0), charge(start_amps=12, amps=9.5, volts=13.2, finished=True))
        self.assertIn("not shown to be full", said(judged))
        low = judge(volts(12.0), charge(start_amps=12, amps=9.5, volts=13.2, finished=True), volts(12.2, 640))
        self.assertEqual((low.outcome, low.next_step.key), (Outcome.NEEDS_CHARGE, "charge_and_retest"))

    def test_gravities_an_hour_apart_prove_it(self) -> None:
        hourly = [reading("cells", 480 + 60 * hour, specific_gravities=[1.25] * 6) for hour in range(3)]
        judged = judge(
            volts(12.0), *hourly, charge(600, start_amps=12, amps=9.5, volts=13.2, finished=True), has_caps=True
        )
        self.assertIn("three hourly gravities agree", said(judged))

    def test_a_maintainer_answers_yes_or_no(self) -> None:
        yes = judge(reading("charge_run", start_volts=12.60, volts=12.70, hours=24))
        no = judge(reading("charge_run", start_volts=12.60, volts=12.62, hours=24))
        self.assertIn("yes, it charges", said(yes))
        self.assertIn("no, it does not", said(no))
        self.assertEqual((yes.findings[0].points_to, no.findings[0].points_to), (None, Outcome.CANNOT_TELL))


class Rest(unittest.TestCase):
    def test_hours_that_were_counted_outrank_the_line(self) -> None:
        self.assertEqual(judge(volts(13.1, rested_hours=24), tester(610)).outcome, Outcome.SOUND)
        self.assertEqual(judge(volts(13.1), tester(610)).next_step.key, "settle")

    def test_twelve_minutes_are_no_rest(self) -> None:
        judged = judge(volts(12.70, rested_hours=0.2), tester(300))
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "settle"))
        self.assertIn("waits 2 h", said(judged))

    def test_a_maintainer_left_on_is_no_rest(self) -> None:
        judged = judge(volts(12.7, settled="maintainer_on", rested_hours=30), tester(610))
        self.assertEqual(judged.next_step.key, "settle")

    def test_the_range_of_the_meter_sets_its_width(self) -> None:
        fine, coarse = (judge(volts(12.5, meter_range=on)).state_of_charge for on in ("20_v", "200_v"))
        assert fine is not None and coarse is not None
        self.assertAlmostEqual(fine.meter_uncertainty_volts or 0, 0.0825)
        self.assertAlmostEqual(coarse.meter_uncertainty_volts or 0, 0.2625)


class SecondPull(unittest.TestCase):
    RETURNED: dict[str, Any] = {"context": {"came_in": "returned"}}

    def test_a_returned_battery_is_pulled_twice(self) -> None:
        first = (volts(12.62), pull(8.6))
        judged = judge(*first, **self.RETURNED)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "measure_after_pull"))
        self.assertEqual(judged.next_step.text, "Wait 10 min, then read the volts: a second pull decides")
        self.assertEqual(judge(*first, volts(12.55, 16), **self.RETURNED).next_step.key, "load_again")
        self.assertEqual(judge(*first, volts(12.1, 16), **self.RETURNED).next_step.key, "charge_and_retest")
        self.assertEqual(judge(*first, volts(12.55, 16), pull(8.5, 17), **self.RETURNED).outcome, Outcome.WORN_OUT)

    def test_the_switch_in_all_positions(self) -> None:
        for rule, carried, returned in (
            ("one", Outcome.WORN_OUT, Outcome.WORN_OUT),
            ("two", Outcome.CANNOT_TELL, Outcome.CANNOT_TELL),
            ("two_for_returns", Outcome.WORN_OUT, Outcome.CANNOT_TELL),
        ):
            rules = changed_rules(RULES, {"load.pulls_to_condemn": rule}, "a test")
            self.assertEqual(judge(volts(12.62), pull(8.6), rules=rules).outcome, carried)
            self.assertEqual(judge(volts(12.62), pull(8.6), rules=rules, **self.RETURNED).outcome, returned)


class Sulphated(unittest.TestCase):
    STOOD: dict[str, Any] = {"context": {"complaint": "stood_for_weeks"}}
    FLAT = (volts(12.0), charge(600, finished=True), volts(12.63, 640), tester(300, 645))

    def test_one_recovery_charge_is_cheaper_than_condemnation(self) -> None:
        judged = judge(*self.FLAT, **self.STOOD)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.NEEDS_CHARGE, "recovery_charge"))
        self.assertEqual(judge(*self.FLAT).outcome, Outcome.WORN_OUT)
        self.assertEqual(
            judge(
                *self.FLAT,
                chemistry="flooded",
                rules=changed_rules(RULES, {"charge.recovery_first": "no"}, "a test"),
                **self.STOOD,
            ).outcome,
            Outcome.WORN_OUT,
        )

    def test_only_once_and_only_where_the_type_allows(self) -> None:
        once = (*self.FLAT, charge(2200, recovery=True, finished=True, hours=24), volts(12.63, 2240))
        self.assertEqual(judge(*once, **self.STOOD).next_step.key, "tester")
        again = judge(*once, tester(310, 2245), **self.STOOD)
        self.assertEqual((again.outcome, again.cause and again.cause.key), (Outcome.WORN_OUT, "standing"))
        agm = (volts(12.2), charge(600, finished=True), volts(12.9, 640), tester(300, 645, type_set="agm_flat"))
        self.assertEqual(judge(*agm, chemistry="agm", **self.STOOD).outcome, Outcome.WORN_OUT)

    def test_long_under_the_line_by_two_readings_weeks_apart(self) -> None:
        day = 60 * 24
        for days, step in ((15, "recovery_charge"), (13, "replace")):
            judged = judge(
                volts(12.0),
                volts(11.95, days * day),
                charge(days * day + 600, finished=True),
                volts(12.63, days * day + 640),
                tester(300, days * day + 645),
            )
            self.assertEqual(judged.next_step.key, step)

    def test_brought_back_from_under_10_v_is_watched_with_a_date(self) -> None:
        back = (
            charge(600, finished=True),
            volts(12.66, 640),
            tester(610, 642),
            reading("stand", 1500, start_volts=12.7, volts=12.64, hours=14),
        )
        judged = judge(volts(9.2), *back)
        self.assertEqual((judged.outcome, str(judged.watch_until)), (Outcome.WATCH, "2026-06-03"))
        self.assertEqual(judged.headline, "Watch it: brought back from 9.2 V")
        self.assertEqual(judge(volts(11.2), *back).outcome, Outcome.SOUND)
