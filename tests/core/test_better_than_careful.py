"""What a careful hand would miss: what a charge says of capacity, ice without a sign, what stood before a charge, a start not at rest."""

import sys
import unittest
from typing import Any

from tests.build import RULES, check, judge, look, reading, tester, volts
from vane_check.core.facts.capacity import ah_in, capacity_of
from vane_check.core.facts.case import Case
from vane_check.core.findings.outcomes import Outcome
from vane_check.core.house.rules import HouseRules, changed_rules, house_rules
from vane_check.core.judging.judgement import assess

WINTER = -90 * 24 * 60
"""Minutes from the tests' spring back to the first days of December."""


def full(minutes: float, **body: Any) -> Any:
    return reading(
        "charge_run", minutes, **{"start_amps": 7, "amps": 0.6, "volts": 14.5, "hours": 9, "finished": True, **body}
    )


def with_rules(values: dict[str, Any]) -> HouseRules:
    return changed_rules(RULES, values, "a test")


def run(**body: Any) -> Any:
    return full(600, **body)


def log(*points: tuple[float, float]) -> Any:
    return [{"minutes": minutes, "amps": amps} for minutes, amps in points]


def case(*readings: Any, **label: Any) -> Case:
    return Case.of(check(*readings, **label), RULES)


class AhPutIn(unittest.TestCase):
    def test_the_chargers_own_figure_then_the_log_then_an_upper_end(self) -> None:
        shown = run(ah_in=31.5, log=log((60, 7), (300, 4)))
        self.assertEqual(ah_in(shown, case(shown)), (31.5, False))
        written = run(start_amps=8, amps=1, hours=6, log=log((120, 8), (240, 4)))
        # 8 A for 2 h, 8 to 4 A in 2 h, 4 to 1 A in 2 h: 16 + 12 + 5
        self.assertEqual(ah_in(written, case(written)), (33.0, False))
        few = run(start_amps=8, amps=1, hours=6)
        self.assertEqual(ah_in(few, case(few)), (48.0, True))
        early = run(start_amps=8, amps=1, hours=6, log=log((60, 8), (120, 8)))
        self.assertFalse(ah_in(early, case(early)).at_most)  # type: ignore[union-attr]
        blind = run(start_amps=None, amps=0.4)
        self.assertIsNone(ah_in(blind, case(blind)))


class CapacityOfACharge(unittest.TestCase):
    def test_ah_in_times_efficiency_over_what_was_missing(self) -> None:
        """Flooded, 12.06 V are 25 %: 75 % missing; 30 Ah x 0.90 stay, so it holds 36 Ah (BCI table; efficiency from memory)."""
        found = capacity_of(case(volts(12.06), run(ah_in=30), volts(12.65, 640), capacity_ah_20h=60))
        assert found is not None
        # the meter is off by 0.5 % and two digits, 0.080 V: 63.9 to 86.8 % missing; and 15 % either way
        self.assertAlmostEqual(found.ah, 36.0, delta=0.7)
        self.assertAlmostEqual(found.low_ah, 27 / 0.868 * 0.85, delta=0.6)
        self.assertAlmostEqual(found.high_ah, 27 / 0.6385 * 1.15, delta=0.6)

    def test_too_little_missing_says_nothing(self) -> None:
        self.assertIsNone(capacity_of(case(volts(12.38), run(ah_in=20), volts(12.65, 640))))
        self.assertIsNone(capacity_of(case(run(ah_in=30), volts(12.65, 640))))
        self.assertIsNone(capacity_of(case(volts(12.06), run(ah_in=30, recovery=True), volts(12.65, 640))))

    def charged(self, ah: float, *more: Any, rules: HouseRules = RULES, **label: Any) -> Any:
        label = {"capacity_ah_20h": 60, "chemistry": "efb", **label}
        stood = reading("stand", 1560, start_volts=12.68, volts=12.67, hours=14)
        passed = tester(610, 1562, type_set="efb")
        return judge(volts(12.0), run(ah_in=ah), volts(12.66, 640), *more, passed, stood, rules=rules, **label)

    def test_a_faded_one_is_watched_and_asked_for_its_reserve_where_that_matters(self) -> None:
        whole = self.charged(48)
        self.assertEqual(whole.outcome, Outcome.SOUND)
        told = [(found.points_to, "far less" in found.text) for found in whole.findings if found.kind == "fade"]
        self.assertEqual(told, [(None, False)])
        faded = self.charged(20)
        self.assertEqual((faded.outcome, faded.next_step.key), (Outcome.WATCH, "retest_later"))
        says = next(found.text for found in faded.findings if found.kind == "fade")
        self.assertIn("20 Ah went in where about 88 % was missing", says)
        self.assertIn("of 60 Ah", says)
        matters: dict[str, Any] = {"context": {"stop_start_car": True}}
        asked = self.charged(20, **matters)
        self.assertEqual((asked.outcome, asked.next_step.key), (Outcome.CANNOT_TELL, "reserve_test"))
        no_load = with_rules({"steps.tools_at_hand": ["meter", "tester", "charger"]})
        self.assertEqual(self.charged(20, rules=no_load, **matters).outcome, Outcome.WATCH)

    def test_in_every_position_of_its_switch(self) -> None:
        for position, plain, stop_start in (
            ("watch", Outcome.WATCH, Outcome.WATCH),
            ("where_it_matters", Outcome.WATCH, Outcome.CANNOT_TELL),
            ("reserve_test", Outcome.CANNOT_TELL, Outcome.CANNOT_TELL),
            ("worn_out", Outcome.WATCH, Outcome.WATCH),
        ):
            rules = with_rules({"capacity.fade_asks": position})
            self.assertEqual((position, self.charged(20, rules=rules).outcome), (position, plain))
            other = self.charged(20, rules=rules, context={"stop_start_car": True})
            self.assertEqual((position, other.outcome), (position, stop_start))

    def test_by_house_rule_it_speaks_for_worn_out_beside_another_and_never_alone(self) -> None:
        rules = with_rules({"capacity.fade_asks": "worn_out", "decision.methods_to_condemn": 2})
        read = (volts(12.06), full(600, ah_in=15), volts(12.66, 640))
        for rest, expected in (((), False), ((tester(620, 642),), False), ((tester(330, 642),), True)):
            judged = judge(*read, *rest, capacity_ah_20h=60, rules=rules)
            self.assertIn(Outcome.WORN_OUT, {found.points_to for found in judged.findings})
            self.assertEqual(judged.outcome is Outcome.WORN_OUT, expected)
        alone = judge(*read, tester(330, 642), capacity_ah_20h=60, rules=with_rules({"decision.methods_to_condemn": 2}))
        self.assertIsNot(alone.outcome, Outcome.WORN_OUT)

    def test_it_never_condemns_and_a_timed_discharge_settles_it(self) -> None:
        self.assertNotIn(self.charged(3).outcome, {Outcome.WORN_OUT, Outcome.DEAD_CELL})
        good = reading("reserve", 900, amps=25, minutes=110, volts=10.5, after_full_charge=True, temperature_c=27)
        again = full(1500, ah_in=50), volts(12.66, 1540)
        settled = self.charged(20, good, *again, reserve_minutes=110, context={"stop_start_car": True})
        self.assertEqual((settled.outcome, settled.not_measured), (Outcome.SOUND, None))

    def test_an_upper_end_may_doubt_and_never_clears(self) -> None:
        short = judge(
            volts(12.0), run(start_amps=7, hours=2.5), volts(12.66, 640), tester(610, 642),
            reading("stand", 1560, start_volts=12.64, volts=12.63, hours=14), capacity_ah_20h=60,
        )  # fmt: skip
        self.assertEqual(short.outcome, Outcome.WATCH)  # at most 17.5 Ah
        said = next(found.text for found in short.findings if found.kind == "fade")
        self.assertIn("at most", said)
        self.assertIn(", 0 to ", said)
        long = judge(volts(12.0), run(), volts(12.66, 640), tester(610, 642), capacity_ah_20h=60)
        self.assertNotIn("fade", {found.kind for found in long.findings})


class NotMeasured(unittest.TestCase):
    def test_it_is_said_of_every_pass_and_cuts_how_sure_one_is_where_that_is_its_work(self) -> None:
        plain = judge(volts(12.62), tester(620))
        self.assertEqual(
            (plain.not_measured, plain.sureness), ("It starts well; what it holds was not measured", "sure")
        )
        holding = judge(volts(12.62), tester(620), context={"use": "standby"})
        self.assertEqual((holding.not_measured, holding.sureness), (plain.not_measured, "fairly sure"))
        self.assertIsNone(judge(volts(12.62), tester(300)).not_measured)


def winter(value: float, rules: HouseRules = RULES, **body: Any) -> Any:
    return judge(look(minutes=WINTER - 5), volts(value, WINTER, **body), rules=rules)


class Ice(unittest.TestCase):
    def test_very_flat_in_a_cold_month_it_is_asked_for_its_temperature(self) -> None:
        asked = winter(11.9)
        self.assertEqual((asked.outcome, asked.next_step.key), (Outcome.NEEDS_CHARGE, "measure_volts"))
        self.assertIn("Take its temperature", asked.next_step.text)
        self.assertIn("ice at -10 °C", asked.next_step.text)
        self.assertEqual(winter(11.9, temperature_c=4).next_step.key, "charge_and_retest")
        self.assertEqual(judge(volts(11.9)).next_step.key, "charge_and_retest")  # in March
        self.assertEqual(winter(12.3).next_step.key, "charge_and_retest")  # its acid stands -20 °C
        self.assertEqual(winter(11.9, rules=with_rules({"outlook.coldest_c": 5})).next_step.key, "charge_and_retest")

    def test_before_water_and_a_watched_charge_too(self) -> None:
        self.assertEqual(winter(10.6).next_step.key, "measure_volts")
        self.assertEqual(winter(10.6, temperature_c=4).next_step.key, "charge_and_watch")

    def test_sealed_types_freeze_too(self) -> None:
        """Acid of 1.12 freezes near -10 °C (handbook table, from memory), whatever holds it."""
        for chemistry in ("agm", "gel", "efb"):
            held = judge(volts(11.7, temperature_c=-12), chemistry=chemistry)
            self.assertEqual((held.outcome, held.headline), (Outcome.UNSAFE, "Unsafe: it may hold ice"), chemistry)
            self.assertIn("in the warm for a day", held.next_step.text)
        thawed = judge(volts(11.7, temperature_c=-12), volts(11.7, 1500, temperature_c=15), chemistry="agm")
        self.assertEqual(thawed.outcome, Outcome.NEEDS_CHARGE)

    def test_an_agm_that_is_not_quite_empty_has_a_flooded_ones_acid(self) -> None:
        """11.95 V less 0.08 are 7 % of an AGM's charge; a flooded one's acid there is 1.130, frozen at about -11.6 °C; two degrees over
        that are doubted, as two tables of acid differ by so much."""
        self.assertEqual(judge(volts(11.95, temperature_c=-10), chemistry="agm").outcome, Outcome.UNSAFE)
        self.assertEqual(judge(volts(11.95, temperature_c=-9), chemistry="agm").outcome, Outcome.NEEDS_CHARGE)

    def test_under_the_tables_empty_the_acid_goes_on_getting_weaker(self) -> None:
        """A cell's volts are its gravity and 0.84 V: (11.5 - 0.08) / 6 - 0.84 is 1.063, frozen at about -4.5 °C."""
        self.assertEqual(judge(volts(11.5, temperature_c=-3)).outcome, Outcome.UNSAFE)
        self.assertEqual(judge(volts(11.5, temperature_c=-2)).outcome, Outcome.NEEDS_CHARGE)


class Remembered(unittest.TestCase):
    AFTER = (
        full(600),
        volts(12.64, 640),
        tester(620, 642),
        reading("stand", 1560, start_volts=12.64, volts=12.63, hours=14),
    )

    def test_a_rest_as_if_a_cell_were_gone(self) -> None:
        """Watched, unless a night has shown that all its cells hold: it came to its volts, and lost nothing."""
        off = with_rules({"stand.after_flat": "no"})
        judged = judge(volts(10.52), *self.AFTER[:3], rules=off)
        self.assertEqual(judged.outcome, Outcome.WATCH)
        self.assertIn("it rested at 10.52 V, as if a cell were gone", judged.headline)
        for rested in (10.52, 11.2):
            self.assertEqual(judge(volts(rested), *self.AFTER).outcome, Outcome.SOUND)

    def test_a_cell_an_eighth_of_a_volt_under_its_mates_is_read_again(self) -> None:
        def cells(low: float, minutes: float, **body: Any) -> Any:
            row = [2.0, 2.0, low, 2.0, 2.0, 2.0]
            return reading("cells", minutes, cell_volts=row, specific_gravities=[1.15] * 6, **body)

        flat = volts(12.0)
        before = judge(flat, cells(1.875, 5), *self.AFTER, has_caps=True)
        self.assertEqual((before.outcome, before.next_step.key), (Outcome.CANNOT_TELL, "cells"))
        self.assertIn("cell 3", before.headline)
        even = reading("cells", 1580, specific_gravities=[1.265] * 6, after_full_charge=True)
        self.assertEqual(judge(flat, cells(1.875, 5), *self.AFTER, even, has_caps=True).outcome, Outcome.SOUND)
        self.assertEqual(judge(flat, cells(1.875, 5), *self.AFTER).outcome, Outcome.WATCH)  # nobody can open it
        self.assertEqual(judge(flat, cells(1.96, 5), *self.AFTER, has_caps=True).outcome, Outcome.SOUND)

    def test_an_agm_a_hair_over_the_flooded_line_after_its_charge(self) -> None:
        judged = judge(volts(11.9), full(600), volts(10.95, 640), chemistry="agm")
        self.assertEqual(judged.outcome, Outcome.DEAD_CELL)
        self.assertEqual(judge(volts(11.9), full(600), volts(11.1, 640), chemistry="agm").outcome, Outcome.NEEDS_CHARGE)


class Stories(unittest.TestCase):
    STOOD: dict[str, Any] = {"context": {"complaint": "stood_for_weeks"}}

    def test_with_a_story_of_going_flat_it_stands_a_night_and_two_days_where_it_came_flat(self) -> None:
        """A leak under a few per cent a day does not show overnight: common practice. One look in the morning is part of them."""
        charged = volts(12.62), tester(620)
        judged = judge(*charged, **self.STOOD)
        self.assertEqual(
            (judged.outcome, judged.next_step.key, judged.next_step.minutes), (Outcome.CANNOT_TELL, "stand", 720)
        )
        night = reading("stand", 1500, start_volts=12.62, volts=12.61, hours=12)
        self.assertEqual(judge(*charged, night, **self.STOOD).outcome, Outcome.SOUND)
        flat = volts(12.0, -900), full(-30), volts(12.62), tester(620)
        judged = judge(*flat, night, **self.STOOD)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "stand"))
        self.assertIn("36 h", judged.next_step.text)
        self.assertEqual(judged.next_step.minutes, 36 * 60)
        days = reading("stand", 3700, start_volts=12.61, volts=12.60, hours=36)
        stood = *flat, night, days
        judged = judge(*stood, **self.STOOD)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "tester"))
        self.assertIn("One cell that has emptied", judged.next_step.why)
        self.assertEqual(judge(*stood, volts(12.60, 3701), tester(615, 3705), **self.STOOD).outcome, Outcome.SOUND)
        emptied = *stood, volts(12.58, 3701), tester(280, 3705), tester(285, 3710)
        self.assertEqual(judge(*emptied, **self.STOOD).next_step.key, "recovery_charge")

    def test_a_start_nobody_rested_may_be_surface_charge(self) -> None:
        lost = reading("stand", 3000, start_volts=12.62, volts=12.50, hours=48)
        word = judge(volts(12.62), tester(620), lost, **self.STOOD)
        self.assertEqual((word.outcome, word.next_step.key), (Outcome.CANNOT_TELL, "stand"))
        lamps = judge(volts(12.62, settled="headlamps"), tester(620), lost, **self.STOOD)
        self.assertEqual((lamps.outcome, lamps.next_step.key), (Outcome.CANNOT_TELL, "stand"))  # they leave part of it
        shown = judge(volts(12.62, rested_hours=12), tester(620), lost, **self.STOOD)
        self.assertEqual(shown.outcome, Outcome.LEAKS_CHARGE)
        low = reading("stand", 3000, start_volts=12.62, volts=12.20, hours=48)
        self.assertEqual(judge(volts(12.62), tester(620), low, **self.STOOD).outcome, Outcome.NEEDS_CHARGE)
        on = reading("stand", 6000, start_volts=12.50, volts=12.49, hours=48)
        judged = judge(volts(12.62), tester(620), lost, on, **self.STOOD)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "tester"))

    def test_it_only_clicks_and_no_load_was_on_it(self) -> None:
        clicks: dict[str, Any] = {"context": {"complaint": "clicks", "came_in": "in_car"}}
        judged = judge(volts(12.62), tester(620), **clicks)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "fixed_test"))
        opened = reading("fixed_load", 9, amps=100, seconds=10, volts=1.4)
        self.assertEqual(judge(volts(12.62), tester(620), opened, **clicks).outcome, Outcome.DEAD_CELL)
        held = reading("fixed_load", 9, amps=100, seconds=10, volts=11.9)
        self.assertEqual(judge(volts(12.62), tester(620), held, **clicks).outcome, Outcome.SOUND)
        carried: dict[str, Any] = {"context": {"complaint": "clicks"}}
        no_load = with_rules({"steps.tools_at_hand": ["meter", "tester", "charger"]})
        self.assertEqual(judge(volts(12.62), tester(620), rules=no_load, **carried).outcome, Outcome.SOUND)
        off = with_rules({"load.after_clicks": "no"})
        self.assertEqual(judge(volts(12.62), tester(620), rules=off, **clicks).outcome, Outcome.SOUND)


class Doubt(unittest.TestCase):
    def test_a_pass_that_gives_hardly_enough(self) -> None:
        """Half the rating held by a hair: 2.85 V under 300 A are 9.5 mΩ, some 383 CCA of 600, 64 %."""
        hair = judge(volts(12.62), reading("adjustable_load", 9, amps=300, seconds=15, volts=9.77))
        self.assertEqual((hair.outcome, hair.next_step.key), (Outcome.CANNOT_TELL, "tester"))
        after = judge(
            volts(12.5), reading("adjustable_load", 9, amps=300, seconds=15, volts=9.77), full(600), volts(12.64, 640)
        )  # a charge since does not make the pull forgotten
        self.assertNotEqual(after.outcome, Outcome.SOUND)

    def test_a_tester_that_slipped_does_not_condemn_against_a_pull_that_held(self) -> None:
        pulls = reading("adjustable_load", 9, amps=300, seconds=15, volts=10.2)
        slip = judge(volts(12.62), pulls, tester(370, 14))
        self.assertEqual((slip.outcome, slip.next_step.key), (Outcome.CANNOT_TELL, "tester_again"))
        twice = judge(volts(12.62), pulls, tester(330, 14), tester(330, 16), pulls.model_copy(update={"id": "b"}))
        self.assertNotEqual(twice.next_step.key, "tester_again")

    def test_where_a_tester_and_its_own_milliohms_disagree_a_slip_is_asked_about(self) -> None:
        """5.0 mΩ are about 600 CCA (3,000 mΩ x A, from memory), 300 are measured: beyond their widths; 9.5 mΩ say the same as 300."""
        slip = judge(volts(12.62), tester(300, resistance_mohm=5.0))
        self.assertEqual((slip.outcome, slip.next_step.key, slip.conflict), (Outcome.CANNOT_TELL, "tester_again", True))
        self.assertIn("on studs, or the wrong type set?", slip.headline)
        self.assertEqual(judge(volts(12.62), tester(300, resistance_mohm=9.5)).outcome, Outcome.WORN_OUT)
        again = judge(volts(12.62), tester(300, resistance_mohm=5.0), tester(305, 5, resistance_mohm=9.4))
        self.assertEqual(again.outcome, Outcome.WORN_OUT)
        mended = judge(volts(12.62), tester(300, resistance_mohm=5.0), tester(610, 5, resistance_mohm=5.0))
        self.assertEqual(mended.outcome, Outcome.SOUND)

    def test_a_pass_whose_milliohms_say_the_opposite_is_no_pass(self) -> None:
        """14 mΩ are about 214 CCA where the tester shows 620."""
        once = judge(volts(12.62), tester(620, resistance_mohm=14))
        self.assertEqual((once.outcome, once.next_step.key), (Outcome.CANNOT_TELL, "tester_again"))
        twice = judge(volts(12.62), tester(620, resistance_mohm=14), tester(615, 5, resistance_mohm=14))
        self.assertEqual((twice.outcome, twice.next_step.key), (Outcome.CANNOT_TELL, "load_test"))
        bare = with_rules({"steps.tools_at_hand": ["meter", "tester", "charger"]})
        ended = judge(volts(12.62), tester(620, resistance_mohm=14), tester(615, 5, resistance_mohm=14), rules=bare)
        self.assertEqual(ended.outcome, Outcome.WATCH)

    def test_the_starter_gives_amps_where_nothing_better_does(self) -> None:
        """12.62 to 10.9 V under 0.36 x 600 A are 8.0 mΩ: about 460 CCA, good to four tenths."""
        rules = house_rules("crank_first")
        crank = reading("crank", 9, volts=10.9, seconds=15)
        found = judge(volts(12.62, rested_hours=3), crank, rules=rules, context={"came_in": "in_car"}).estimate
        assert found is not None
        self.assertEqual(found.methods, ("crank",))
        self.assertAlmostEqual(found.cca_amps, 454, delta=8)
        beside = judge(volts(12.62), tester(600), crank).estimate
        self.assertEqual(beside.methods if beside else (), ("tester",))


class InWhichOrder(unittest.TestCase):
    def test_minutes_before_days(self) -> None:
        """Flat, charged, and a pull that gives hardly enough: the tester is asked before a night of standing."""
        hair = reading("adjustable_load", 650, amps=300, seconds=15, volts=9.77)
        judged = judge(volts(12.0), full(600), volts(12.62, 640), hair, rules=house_rules("load_first"))
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "tester"))

    def test_a_dirty_top_is_cleaned_before_it_stands(self) -> None:
        flat = volts(12.0), full(600), volts(12.64, 640), tester(620, 642)
        self.assertEqual(judge(look(minutes=-5), *flat).next_step.key, "stand")
        self.assertEqual(judge(look("wet_top", minutes=-5), *flat).next_step.key, "clean_top")

    def test_a_pull_that_was_failed_flat_condemns_nothing_after_the_charge(self) -> None:
        """Surface charge hid it: 12.66 V, 8.9 V under load, 12.25 V once it had recovered; then it is charged."""
        pulled = reading("adjustable_load", 5, amps=300, seconds=15, volts=8.9)
        charged = volts(12.66), pulled, volts(12.25, 16), full(600), volts(12.66, 640)
        judged = judge(*charged, rules=house_rules("load_first"))
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "load_test"))

    def test_no_current_at_full_volts_twice_is_a_verdict(self) -> None:
        def none(minutes: float) -> Any:
            return reading("charge_run", minutes, start_amps=0, amps=0, volts=14.5, hours=1)

        once = judge(volts(11.9), none(60))
        self.assertEqual((once.outcome, once.next_step.key), (Outcome.NEEDS_CHARGE, "recovery_charge"))
        self.assertEqual(judge(volts(11.9), none(60), none(140)).outcome, Outcome.WORN_OUT)


class NoLabel(unittest.TestCase):
    def test_it_is_asked_for_once_and_never_for_ever(self) -> None:
        first = judge(volts(12.62), tester(500), rated=None)
        self.assertEqual((first.outcome, first.next_step.key), (Outcome.CANNOT_TELL, "read_label"))
        crank = reading("crank", 9, volts=10.8, seconds=15)
        second = judge(volts(12.62), tester(500), crank, rated=None)
        self.assertEqual((second.outcome, second.headline), (Outcome.WATCH, "No label to hold it against: watch it"))

    def test_what_its_car_asks_stands_in_and_condemns_nothing_alone(self) -> None:
        for context in ({"car_cca_amps": 500}, {"engine_litres": 2.0, "engine_fuel": "diesel"}):
            good = judge(volts(12.62), tester(620), rated=None, context=context)
            self.assertEqual(good.outcome, Outcome.SOUND, context)
            weak = judge(volts(12.62), tester(150), rated=None, context=context)
            self.assertNotEqual(weak.outcome, Outcome.WORN_OUT)
        said = judge(volts(12.62), tester(620), rated=None, context={"car_cca_amps": 500})
        self.assertIn("that its car asks for", " ".join(str(found.text) for found in said.findings))


class OneRecovery(unittest.TestCase):
    def test_a_second_full_charge_is_recovery_enough(self) -> None:
        """Whoever charges it plainly where a recovery charge was asked is not asked for one for ever."""
        story: dict[str, Any] = {"context": {"complaint": "stood_for_weeks"}}
        first = volts(12.0), full(600), volts(12.64, 640), tester(300, 642)
        self.assertEqual(judge(*first, **story).next_step.key, "recovery_charge")
        plain = judge(*first, full(1300), volts(12.64, 1340), tester(300, 1342), **story)
        self.assertEqual(plain.outcome, Outcome.WORN_OUT)

    def test_twice_the_readings_cost_no_more_than_twice_the_work(self) -> None:
        """Counted in calls, so that no clock is asked."""

        def calls(visits: int) -> int:
            read: list[Any] = [look(minutes=-5)]
            for at in range(0, visits * 60, 60):
                read += [
                    volts(12.6, at, settled="headlamps" if at % 120 else "rested"), tester(560, at + 2), full(at + 30, hours=0.4),
                    reading("adjustable_load", at + 9, amps=300, seconds=15, volts=9.0), reading("crank", at + 12, volts=8.4, seconds=15),
                    reading("stand", at + 20, start_volts=12.6, volts=12.55, hours=0.2), look(minutes=at + 21, corrosion="light"),
                    reading("case_leakage", at + 22, volts=0.1), reading("car", at + 23, idle_volts=14.1),
                    reading("cells", at + 24, specific_gravities=[1.26] * 6),
                ]  # fmt: skip
            made, counted = check(*read), 0

            def count(*_: object) -> None:
                nonlocal counted
                counted += 1

            sys.setprofile(count)
            try:
                assess(made, RULES)
            finally:
                sys.setprofile(None)
            return counted

        few, many = calls(40), calls(160)
        self.assertLess(many / few, 4.4)

    def test_assess_reads_the_same_check_the_same_way(self) -> None:
        made = check(volts(12.0), run(ah_in=20), volts(12.66, 640), capacity_ah_20h=60)
        self.assertEqual(assess(made, RULES), assess(made, RULES))
