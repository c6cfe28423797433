"""Advice that can hurt somebody is not given: each line here is a case that once was answered wrongly."""

import itertools
import unittest
from datetime import UTC, datetime
from typing import Any, ClassVar

from tests.build import START, check, judge, look, reading, tester, volts
from vane_check.core.battery.label import Chemistry
from vane_check.core.charging.plan import refusal_of
from vane_check.core.facts.case import Case
from vane_check.core.findings.kinds import StepKey
from vane_check.core.findings.outcomes import FAILED, Finding, Outcome
from vane_check.core.goods.terms import Terms
from vane_check.core.goods.warranty import Question, WarrantyDecision, decide
from vane_check.core.house.rules import SCHOOLS, house_rules
from vane_check.core.judging.estimate import estimate_of
from vane_check.core.readings import HANDS_ON, HAZARDS
from vane_check.core.readings.check import impossible_values

RULES = house_rules()
CHARGES = {StepKey.CHARGE_AND_RETEST, StepKey.CHARGE_AND_WATCH, StepKey.RECOVERY_CHARGE, StepKey.EQUALISE}
BARE = ["plates_bare"] * 6
FULL = ["right"] * 6
DEEP: dict[str, Any] = {"rated": None, "capacity_ah_20h": 100, "context": {"use": "deep_cycle"}}


def gravities(*cells: float, minutes: float = 10, **body: Any) -> Any:
    return reading("cells", minutes, specific_gravities=list(cells), temperature_c=26.7, after_full_charge=True, **body)


def pull(volts_held: float, minutes: float = 20, amps: float = 300, **body: Any) -> Any:
    return reading("adjustable_load", minutes, amps=amps, seconds=15, volts=volts_held, temperature_c=21, **body)


class Dry(unittest.TestCase):
    """Handbook of the trade, 25: bare is bare whatever the label says. Water first, never a charge."""

    def test_no_type_with_any_word_on_caps_is_charged_over_a_bare_plate(self) -> None:
        places = ([0], [5], list(range(6)))
        for chemistry, caps, where in itertools.product(Chemistry, (None, True, False), places):
            levels = ["plates_bare" if cell in where else "right" for cell in range(6)]
            for more in ((), (volts(11.8),), (volts(12.7), tester(640)), (volts(12.7), pull(9.9))):
                with self.subTest(chemistry.value, caps=caps, bare=where, read=len(more)):
                    seen = look(levels=levels, minutes=-30)
                    judged = judge(seen, *more, chemistry=chemistry.value, has_caps=caps)
                    self.assertNotIn(judged.next_step.key, CHARGES)
                    self.assertIsNot(judged.outcome, Outcome.SOUND)
                    case = Case.of(check(seen, *more, chemistry=chemistry.value, has_caps=caps), RULES)
                    refused = refusal_of(case)
                    assert refused is not None
                    self.assertEqual(refused.why, "its plates are bare")

    def test_a_label_that_says_sealed_is_asked_about(self) -> None:
        judged = judge(look(levels=BARE), has_caps=False)
        self.assertIn("marked as sealed: look at its label again", judged.findings[0].text)
        self.assertNotIn("marked as sealed", judge(look(levels=BARE), has_caps=True).findings[0].text)

    def test_filled_it_is_charged_before_anything_it_reads_counts(self) -> None:
        before, filled = look(levels=BARE, minutes=-60), look(levels=FULL, minutes=0)
        for read in (
            volts(12.7, 5),
            tester(640, 6),
            tester(200, 6),
            pull(9.9, 7),
            pull(7.0, 7),
            gravities(*[1.27] * 6),
        ):
            with self.subTest(read.kind):
                judged = judge(before, filled, read)
                self.assertEqual(judged.outcome, Outcome.NEEDS_CHARGE)
                self.assertIn(judged.next_step.key, CHARGES)
        charge = reading("charge_run", 600, start_amps=6, amps=0.3, volts=14.5, hours=9, finished=True)
        anew = judge(
            before,
            volts(12.7, -50),
            tester(200, -45),
            filled,
            charge,
            volts(12.66, 1400),
            tester(640, 1405),
            reading("stand", 2200, start_volts=12.66, volts=12.65, hours=13),
        )
        self.assertEqual(anew.outcome, Outcome.SOUND)
        old = [found.why_not for found in anew.findings if found.reading_id is None and found.status == "dropped"]
        self.assertIn("measured again later", old)


class OneCell(unittest.TestCase):
    """Each cell is held against the median of its mates, and against what a cell can read (common practice)."""

    def test_one_reading_too_high_condemns_nobody(self) -> None:
        for place in range(6):
            high = [1.265] * 6
            high[place] = 1.375
            over = [2.12] * 6
            over[place] = 2.35
            for body in (gravities(*high), reading("cells", 10, cell_volts=over)):
                with self.subTest(place, body=body.specific_gravities or body.cell_volts):
                    judged = judge(volts(12.65), body, has_caps=True)
                    self.assertNotIn(judged.outcome, FAILED)
                    found = next(one for one in judged.findings if one.kind == "cells")
                    self.assertEqual((found.points_to, found.places), (Outcome.CANNOT_TELL, (place,)))

    def test_six_cells_too_strong_are_no_proof_of_health(self) -> None:
        for strong in (1.305, 1.340, 1.390):
            first = judge(volts(12.65), gravities(*[strong] * 6), has_caps=True)
            again = judge(volts(12.65), gravities(*[strong] * 6), gravities(*[strong] * 6, minutes=30), has_caps=True)
            self.assertNotIn(Outcome.SOUND, (first.outcome, again.outcome))
            self.assertIn("another method decides", again.findings[-1].text.lower() + again.headline.lower())
        self.assertEqual(judge(volts(12.65), gravities(*[1.28] * 6), tester(640), has_caps=True).outcome, Outcome.SOUND)

    def test_a_cell_is_held_against_the_middle_of_its_mates_not_the_best(self) -> None:
        row = gravities(1.280, 1.265, 1.260, 1.255, 1.250, 1.225)  # 0.055 under the best, 0.035 under the middle
        found = next(one for one in judge(volts(12.65), row, has_caps=True).findings if one.kind == "cells")
        self.assertEqual(found.places, ())

    def test_one_that_fails_is_named_still(self) -> None:
        for weak in range(6):
            cells = [1.265] * 6
            cells[weak] = 1.10
            found = judge(volts(12.5), gravities(*cells), has_caps=True).findings
            self.assertEqual(next(one.places for one in found if one.kind == "cells"), (weak,))
            self.assertIs(next(one.points_to for one in found if one.kind == "cells"), Outcome.DEAD_CELL)


class ItsOwnWork(unittest.TestCase):
    def test_a_measured_reserve_outranks_a_starting_pull(self) -> None:
        reserve = reading("reserve", 10, amps=25, minutes=200, volts=10.5, after_full_charge=True, temperature_c=27)
        rest = volts(12.7, 400, rested_hours=12)
        for held in (8.0, 5.9):
            for told in (DEEP, {"rated": None, "capacity_ah_20h": 100}):
                judged = judge(volts(12.75), reserve, rest, pull(held, 420), **told)
                self.assertEqual((judged.outcome, judged.confidence > 0.5), (Outcome.SOUND, True))

    def test_a_full_reserve_against_a_failed_pull_of_one_that_starts_is_a_conflict_until_a_second_pull(self) -> None:
        reserve = reading("reserve", 10, amps=25, minutes=110, volts=10.5, after_full_charge=True, temperature_c=27)
        read = (volts(12.75), reserve, volts(12.7, 400, rested_hours=12), pull(8.0, 420))
        once = judge(*read, reserve_minutes=110)
        self.assertEqual(
            (once.outcome, once.conflict, once.next_step.key.value), (Outcome.CANNOT_TELL, True, "load_again")
        )
        twice = judge(*read, pull(8.0, 440), reserve_minutes=110)
        self.assertEqual((twice.outcome, twice.conflict), (Outcome.WORN_OUT, False))

    def test_no_starting_test_condemns_what_holds_charge_for_its_living(self) -> None:
        for use in ("deep_cycle", "standby"):
            for test in (pull(6.0), tester(150), reading("fixed_load", 20, amps=100, seconds=10, volts=8.0)):
                for label in ({"rated": 600}, {"rated": None, "capacity_ah_20h": 100}):
                    judged = judge(volts(12.7), test, **label, context={"use": use})
                    self.assertNotIn(judged.outcome, FAILED - {Outcome.DEAD_CELL})

    def test_no_pull_is_asked_of_a_6_v_one_rated_in_ah(self) -> None:
        for school in SCHOOLS:
            for tools in (house_rules(school).steps.tools_at_hand.value, ("meter", "adjustable_load"), ("meter",)):
                rules = house_rules(school)
                limited = rules.with_parameters(
                    {"steps.tools_at_hand": rules.steps.tools_at_hand.model_copy(update={"value": tools})}
                )
                judged = judge(volts(6.4), rated=None, capacity_ah_20h=225, nominal_volts=6, rules=limited)
                self.assertNotIn(judged.next_step.key, {StepKey.LOAD_TEST, StepKey.LOAD_AGAIN, StepKey.FIXED_TEST})
                self.assertIsNot(judged.outcome, Outcome.SOUND)


class Unsafe(unittest.TestCase):
    """Every danger forbids a charge and every test, by itself and whatever else is there."""

    COLD: ClassVar[dict[str, Any]] = {"volts": 11.5, "temperature_c": -25}

    def test_each_danger_alone_and_with_each_other(self) -> None:
        hot = volts(12.0, temperature_c=55)
        ice = volts(11.0, temperature_c=-30)
        for first, other in itertools.product(sorted(HAZARDS), repeat=2):
            for more in ((), (ice,), (hot,)):
                with self.subTest(first.value, other=other.value, more=len(more)):
                    seen = look(first.value, minutes=-30), look(other.value, minutes=-20)
                    case = Case.of(check(*seen, *more), RULES)
                    refused = refusal_of(case)
                    assert refused is not None
                    for sign in (first, other):
                        self.assertIn(sign.value.replace("_", " "), refused.why)
                    self.assertEqual(refused.first, "Hold it apart: it is not charged at all")
                    judged = judge(*seen, *more)
                    self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.UNSAFE, "hold_apart"))

    def test_ice_and_heat_forbid_a_charge_by_themselves(self) -> None:
        for read, why in (
            (volts(11.0, temperature_c=-30), "it may hold ice"),
            (volts(12.0, temperature_c=55), "55 °C"),
        ):
            refused = refusal_of(Case.of(check(look(minutes=-30), read), RULES))
            assert refused is not None
            self.assertIn(why, refused.why)

    def test_what_is_closed_on_an_unsafe_battery_is_all_that_touches_it(self) -> None:
        self.assertEqual(
            HANDS_ON,
            {"rest_volts", "electronic_tester", "cells", "adjustable_load", "fixed_load", "crank", "charge_run", "stand", "reserve"},
        )  # fmt: skip

    def test_a_swollen_one_stays_here_whoever_sold_it(self) -> None:
        asked = {"line": "Merlow Plain", "today": "2026-03-20", "sold_on": "2026-01-02", "price_cents": 9000}
        ours = Terms(line="Merlow Plain", free_months=24, pro_rata_months=12)
        for terms in (None, ours):
            given = decide(Question.model_validate({**asked, "outcome": "unsafe"}), terms)
            self.assertNotIn("Take it back", given.next_for_customer)
            self.assertIn(given.decision, {WarrantyDecision.NOT_OURS, WarrantyDecision.ASK_THE_MAKER})
            self.assertEqual((given.credit_cents, given.reasons[0].asks), (0, "Can it be handed back?"))


class Charged(unittest.TestCase):
    def charge(self, minutes: float, **body: Any) -> Any:
        return reading(
            "charge_run", minutes, **{"start_amps": 6, "amps": 0.4, "volts": 14.5, "hours": 9, "finished": True, **body}
        )

    def test_what_comes_off_a_charger_this_minute_is_not_rested(self) -> None:
        for minutes in (0.1, 5, 25):
            judged = judge(volts(11.8), self.charge(600), volts(12.7, 600 + minutes), tester(200, 601 + minutes))
            self.assertNotIn(judged.outcome, FAILED | {Outcome.SOUND})
            early = reading("charge_run", 300, start_amps=6, amps=3, volts=14.1, hours=5, stopped=True)
            judged = judge(volts(11.8), early, volts(12.7, 300 + minutes), tester(640, 301 + minutes))
            self.assertIsNot(judged.outcome, Outcome.SOUND, "taken off early it is flattered just so")
        begun = reading("charge_run", 10, start_amps=6, amps=6, volts=13, hours=0)
        self.assertEqual(judge(volts(12.5, 10), begun).findings[0].status, "counts")  # read as it was clamped on
        told = judge(volts(11.8), self.charge(600), volts(12.7, 605, rested_hours=12), tester(640, 606))
        self.assertNotEqual(told.next_step.key, StepKey.SETTLE)  # hours that were counted outrank the clock

    def test_full_after_no_time_is_asked_about_in_its_field(self) -> None:
        made = check(volts(11.8), self.charge(30, hours=0))
        faults = [(fault.path, "Enter the hours" in fault.message) for fault in impossible_values(made)]
        self.assertEqual(faults, [("readings[1].hours", True)])
        self.assertEqual(impossible_values(check(volts(11.8), self.charge(600))), [])

    def test_a_hundredth_under_the_car_s_line_is_met_once_it_is_full(self) -> None:
        story: dict[str, Any] = {
            "chemistry": "efb",
            "context": {"complaint": "stop_start_stopped", "stop_start_car": True, "stop_start_line_volts": 12.70},
        }
        once = judge(
            volts(12.4), self.charge(600), volts(12.68, 1400, rested_hours=12), tester(640, 1405, "efb"), **story
        )
        self.assertNotIn(once.next_step.key, CHARGES)
        far = [
            volts(12.0),
            self.charge(600),
            volts(12.5, 1400, rested_hours=12),
            self.charge(2000),
            volts(12.5, 2800, rested_hours=12),
        ]
        twice = judge(*far, tester(640, 2805, "efb"), **story)
        self.assertNotIn(twice.next_step.key, CHARGES)

    def test_stop_the_charge_is_over_when_it_is_off(self) -> None:
        stuck = self.charge(300, amps=6.2, start_amps=6.0, volts=12.1, hours=5, finished=False)
        on = judge(volts(10.4), stuck)
        self.assertEqual((on.outcome, on.next_step.key), (Outcome.DEAD_CELL, "stop_charge"))
        off = judge(volts(10.4), stuck, self.charge(310, amps=6.2, start_amps=6.0, volts=12.1, hours=5))
        self.assertEqual((off.outcome, off.next_step.key), (Outcome.DEAD_CELL, "replace"))

    def test_current_that_rises_at_volts_that_stand_needs_two_notes_not_three_hours(self) -> None:
        first = self.charge(30, amps=5.0, volts=12.6, hours=0.5, finished=False)
        later = self.charge(60, amps=5.6, volts=12.6, hours=1, finished=False)
        self.assertEqual(judge(volts(10.6), first, later).next_step.key, "stop_charge")
        rising = self.charge(60, amps=5.0, volts=13.1, hours=1, finished=False)
        self.assertNotEqual(judge(volts(10.6), first, rising).next_step.key, "stop_charge")


class WhatItCanGive(unittest.TestCase):
    def estimate(self, *read: Any, **more: Any) -> Any:
        return estimate_of(Case.of(check(look(minutes=-30), *read, **more), RULES))

    def test_no_figure_from_a_flat_one_a_small_load_or_a_needle_that_fell(self) -> None:
        self.assertIsNone(self.estimate(volts(11.5), pull(9.0, amps=100), rated=None))
        self.assertIsNone(self.estimate(volts(12.65), pull(12.0, amps=60)))
        self.assertIsNone(self.estimate(volts(12.65), pull(10.0, needle="fell_during")))
        self.assertIsNotNone(self.estimate(volts(12.65), pull(10.0)))

    def test_the_less_is_known_the_wider(self) -> None:
        for held in (9.7, 10.2, 10.8):
            with_label = self.estimate(volts(12.65), pull(held))
            without = self.estimate(volts(12.65), pull(held), rated=None)
            smaller = self.estimate(volts(12.65), pull(held, amps=150))

            def width(one: Any) -> float:
                return float((one.high_amps - one.low_amps) / one.cca_amps)

            self.assertGreater(width(without), width(with_label))
            self.assertGreater(width(smaller), width(with_label))

    def test_a_crank_is_a_load_only_where_it_was_settled_at_the_posts_after_a_rest(self) -> None:
        def crank(**more: Any) -> Any:
            return reading("crank", 5, **{"volts": 10.4, "seconds": 4, "at_posts": True, **more})

        self.assertIsNotNone(self.estimate(volts(12.65), crank()))
        # common practice: at the clamps it is the cable's drop too, in the first moment the starter's inrush,
        # and without volts at rest before it nothing says how far it sagged
        for said, read in (
            ("at the clamps", (volts(12.65), crank(at_posts=False))),
            ("too short", (volts(12.65), crank(seconds=1))),
            ("no rest", (crank(),)),
            ("no sag", (volts(12.65), crank(volts=12.65))),
        ):
            with self.subTest(said):
                self.assertIsNone(self.estimate(*read))
        with self.subTest("neither rating nor car"):
            self.assertIsNone(self.estimate(volts(12.65), crank(), rated=None))

    def test_lighter_duty_never_means_more_than_it_was_sold_for(self) -> None:
        for held in (9.4, 8.8, 8.0):
            judged = judge(volts(12.65), pull(held), volts(12.6, 40), pull(held, 45))
            light = judged.prospect.lighter_duty if judged.prospect else None
            if light:
                litres = float(light.split("about ")[1].split()[0])
                self.assertLessEqual(litres * RULES.match.need_cca_per_litre.value["petrol"], 600)

    def test_this_car_only_where_a_car_is_known(self) -> None:
        bare = judge(volts(12.65), tester(600))
        known = judge(volts(12.65), tester(600), context={"car_cca_amps": 600})
        assert bare.prospect is not None
        assert known.prospect is not None
        self.assertNotIn("this car", bare.prospect.words)
        self.assertIn("this car", known.prospect.words)

    def test_a_needle_that_was_never_loaded_passes_nothing(self) -> None:
        scale = reading("fixed_load", 20, amps=100, seconds=10, shown_cca_amps=1000, temperature_c=21)
        for school in SCHOOLS:
            judged = judge(volts(12.66), scale, rated=320, rules=house_rules(school))
            self.assertIsNot(judged.outcome, Outcome.SOUND)
            found = next(one for one in judged.findings if one.kind == "fixed_load")
            self.assertEqual((found.status, found.remedy), ("dropped", "fixed_test"))

    def test_a_scale_in_cca_is_held_against_cca_and_less_where_it_is_cold(self) -> None:
        """Shares worked out by hand from the published load table: at 0 °F 12.45 V may sag to 8.5 V, warm to 9.6 V: 2.85 of 3.95."""

        def found(amps: float, celsius: float, **label: Any) -> Finding:
            scale = reading("fixed_load", 20, amps=100, seconds=10, shown_cca_amps=amps, temperature_c=celsius)
            return judge(volts(12.66), scale, **label).findings[1]

        warm, cold = found(320, 25), found(320, -17.8)
        self.assertEqual((warm.points_to, cold.points_to), (Outcome.WORN_OUT, Outcome.CANNOT_TELL))
        self.assertEqual(warm.text, "320 CCA on its scale under 100 A: clear under the 450 CCA asked")
        self.assertEqual(warm.limit_text, "450 CCA, 75 % of 600")
        self.assertEqual(cold.limit_text, "325 CCA, 75 % of 600, less at -18 °C")
        self.assertEqual(warm.rule, "tester.replace_below_ratio")
        self.assertEqual(found(220, -17.8).points_to, Outcome.WORN_OUT)  # under 325 by more than such a scale is off
        for one in (warm, cold, found(600, 25)):
            self.assertNotRegex(one.text + one.limit_text, r"\d V\b")
        self.assertIn("no rating to hold it against", found(340, 25, rated=None).text)
        scale = reading(
            "fixed_load", 20, amps=100, seconds=10, shown_cca_amps=750, needle="fell_during", temperature_c=21
        )
        self.assertIn("still good at the end, falling all the while", judge(volts(12.66), scale).findings[1].text)

    def test_whole_volts_say_nothing(self) -> None:
        for shown in (10, 12, 13):
            judged = judge(volts(shown, meter_range="600_v"), tester(640))
            self.assertEqual(judged.findings[0].status, "dropped")
            self.assertIsNone(judged.state_of_charge)


class NothingForNothing(unittest.TestCase):
    """Nothing is sound without one finding on its health, in no school."""

    def test_a_start_dip_or_volts_alone_pass_nothing(self) -> None:
        for school in SCHOOLS:
            for read in (
                (),
                (reading("crank", 10, dip_volts=8.2, seconds=15),),
                (reading("crank", 10, dip_volts=9.9, seconds=15),),
            ):
                judged = judge(
                    volts(12.66, rested_hours=12), *read, rules=house_rules(school), context={"came_in": "in_car"}
                )
                self.assertIsNot(judged.outcome, Outcome.SOUND)

    def test_what_is_watched_for_want_of_a_test_is_as_sure_as_what_there_is(self) -> None:
        judged = judge(volts(6.4), rated=None, capacity_ah_20h=225, nominal_volts=6)
        if judged.outcome is Outcome.WATCH:
            self.assertGreater(judged.confidence, 0)


class LevelAsked(unittest.TestCase):
    """Where caps open the acid is looked at before a charge: a charge on bare plates ruins them (common practice)."""

    def test_it_is_asked_with_the_charge_until_somebody_says_it(self) -> None:
        flat = volts(11.9, 5, rested_hours=24)
        for caps, levels, asked in (
            (True, (), True),
            (True, ["right"] * 6, False),
            (False, (), False),
            (None, (), False),
        ):
            with self.subTest(caps=caps, levels=levels):
                judged = judge(look(levels=levels), flat, has_caps=caps, capacity_ah_20h=60)
                self.assertEqual(judged.next_step.key.value, "charge_and_retest")
                self.assertEqual("acid covers its plates" in judged.next_step.text, asked)
                self.assertIn("14.4 V", judged.next_step.text)


class IceAndCurrent(unittest.TestCase):
    """Ice takes no current (physics): what took some is not asked for its temperature any more."""

    def test_what_took_a_charge_holds_no_ice(self) -> None:
        winter = datetime(2026, 1, 12, 9, 0, tzinfo=UTC) - START
        at = winter.total_seconds() / 60
        flat = (look(minutes=at - 30), volts(11.5, at, rested_hours=24))
        self.assertIn("ice", judge(*flat, capacity_ah_20h=60).headline)
        for amps, holds in ((6, False), (0, True)):
            charged = reading("charge_run", at + 180, start_amps=amps, amps=amps, volts=13.6, hours=3, stopped=True)
            again = volts(11.7, at + 500, rested_hours=4)
            self.assertEqual("ice" in judge(*flat, charged, again, capacity_ah_20h=60).headline, holds, amps)


class TakesNoCurrent(unittest.TestCase):
    """What takes no current is tried once in recovery, or its joints and the charger looked at; not charged as it was
    for half a day more (common practice)."""

    def charged(self, amps: float, minutes: float = 125, at: float = 14.6, **more: Any) -> Any:
        return reading("charge_run", minutes, start_amps=0.1, amps=amps, volts=at, hours=2, **more)

    def test_it_is_never_charged_once_more_as_it_was(self) -> None:
        for school, ah, ends in itertools.product(SCHOOLS, (None, 60), ({}, {"stopped": True}, {"finished": True})):
            with self.subTest(school, ah=ah, **ends):
                after = [volts(12.0, 400, rested_hours=4)] if ends else []
                judged = judge(
                    volts(12.0, 5, rested_hours=24), self.charged(0, **ends), *after,
                    rules=house_rules(school), capacity_ah_20h=ah,
                )  # fmt: skip
                self.assertEqual(judged.next_step.key.value, "recovery_charge")
                self.assertIn("takes none yet", judged.headline)

    def test_where_no_recovery_may_be_tried_the_joints_are_looked_at(self) -> None:
        judged = judge(volts(12.0, 5, rested_hours=24), self.charged(0), chemistry="agm")
        self.assertEqual(judged.next_step.key.value, "check_charger")

    def test_a_charger_that_does_not_see_it_is_looked_at_three_times_and_then_it_is_put_by(self) -> None:
        read: list[Any] = [volts(4.0, 5, confirmed=True, rested_hours=24)]
        for turn in range(1, 5):
            judged = judge(*read, self.charged(0, turn * 100, at=4.1))
            read.append(self.charged(0, turn * 100, at=4.1))
            self.assertEqual(judged.next_step.key.value, "check_charger" if turn < 3 else "retest_later", turn)

    def test_with_current_it_is_charged(self) -> None:
        judged = judge(volts(12.0, 5, rested_hours=24), self.charged(5, at=13.6))
        self.assertEqual(judged.next_step.key.value, "charge_and_retest")


class EverySchool(unittest.TestCase):
    """A good battery, handled as the product asks, passes in every school with that school's own tools, and no step that was
    done properly is asked again in the same form."""

    def answer(self, key: str, minutes: float, step: Any) -> list[Any]:
        """What a good 600 CCA battery gives when the step is done. It sags 5.4 V at 600 A and -18 C (SAE J537), about 0.7 V at 100 A and 1.5 V at the 216 A of
        a starter in the warm."""
        rested = volts(12.66, minutes, rested_hours=24)
        load = {"amps": step.load.amps if step.load else 300, "seconds": 15}
        given: dict[str, list[Any]] = {
            "look": [look(minutes=minutes)],
            "measure_volts": [rested],
            "measure_again": [rested],
            "settle": [rested],
            "measure_after_pull": [rested],
            "tester": [tester(630, minutes)],
            "tester_again": [tester(630, minutes)],
            "load_test": [reading("adjustable_load", minutes, **load, volts=10.4, temperature_c=21)],
            "load_again": [reading("adjustable_load", minutes, **load, volts=10.4, temperature_c=21)],
            "fixed_test": [reading("fixed_load", minutes, amps=100, seconds=10, volts=12.0, bounce_volts=12.6)],
            "crank_test": [reading("crank", minutes, volts=11.1, seconds=15, temperature_c=21)],
            "cells": [gravities(*[1.268] * 6, minutes=minutes)],
            "stand": [reading("stand", minutes, start_volts=12.66, volts=12.65, hours=24)],
            "charge_and_retest": [
                reading("charge_run", minutes, start_amps=6, amps=0.4, volts=14.5, hours=9, finished=True)
            ],
            "reserve_test": [reading("reserve", minutes, amps=25, minutes=115, volts=10.5, after_full_charge=True, temperature_c=27)],
        }  # fmt: skip
        return given.get(key, [])

    def test_a_good_one_passes(self) -> None:
        for school, came_in, caps, flat in itertools.product(
            SCHOOLS, ("in_car", "carried_in", "returned"), (True, False), (True, False)
        ):
            with self.subTest(school, came_in=came_in, caps=caps, flat=flat):
                rules = house_rules(school)
                label: dict[str, Any] = {"has_caps": caps, "reserve_minutes": 110, "context": {"came_in": came_in}}
                read: list[Any] = [look(minutes=0), volts(11.9, 5, rested_hours=24)] if flat else []
                asked: list[str] = []
                now = 60.0
                for _ in range(12):
                    judged = judge(*read, rules=rules, looked=False, **label)
                    key = judged.next_step.key.value
                    if judged.outcome in {Outcome.SOUND, Outcome.WATCH}:
                        break
                    now += {"stand": 1500, "charge_and_retest": 600}.get(key, 20)
                    answer = self.answer(key, now, judged.next_step)
                    self.assertTrue(answer, f"asked {key} after {asked}")
                    self.assertLess(asked.count(key), 2, f"{key} again, after {asked}")
                    asked.append(key)
                    read += answer
                self.assertNotIn(judged.outcome, FAILED | {Outcome.UNSAFE, Outcome.CANNOT_TELL, Outcome.NEEDS_CHARGE})
                lacks = school in {
                    "crank_first",
                    "fixed_first",
                }  # a fixed load is too small to pass it, a car may be away
                if not lacks or came_in == "in_car":
                    self.assertIs(judged.outcome, Outcome.SOUND, asked)
