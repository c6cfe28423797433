"""Batteries that do not start engines, stop-start, age, the cold to come, and what a battery died of."""

import unittest
from typing import Any

from tests.build import RULES, check, judge, look, reading, tester, volts
from vane_check.core.facts.case import Case
from vane_check.core.findings.outcomes import Outcome
from vane_check.core.house.rules import changed_rules
from vane_check.core.judging.judgement import Judgement
from vane_check.core.judging.limits import limits_of
from vane_check.core.judging.outlook import starts_down_to_c
from vane_check.core.readings import Waits

GC2: dict[str, Any] = {"rated": None, "capacity_ah_20h": 225, "group_code": "GC2", "context": {"use": "deep_cycle"}}
STANDBY: dict[str, Any] = {"rated": None, "reserve_minutes": 120, "context": {"use": "standby"}}
CHARGED = volts(12.65)


def discharge(minutes: float, at: float = 300, **body: Any) -> Any:
    return reading(
        "reserve",
        at,
        **{"amps": 25, "minutes": minutes, "volts": 10.5, "after_full_charge": True, "temperature_c": 27, **body},
    )


def share(judged: Judgement) -> str:
    return next(found.text for found in judged.findings if found.kind == "reserve")


class Reserve(unittest.TestCase):
    def test_reserve_minutes_at_their_own_rate(self) -> None:
        """SAE J537: minutes at 25 A at 27 C to 10.5 V; standby is replaced under 80 % (IEEE 450, IEEE 1188)."""
        for minutes, outcome in ((96, Outcome.SOUND), (95, Outcome.WORN_OUT)):
            judged = judge(CHARGED, discharge(minutes), **STANDBY)
            self.assertEqual(judged.outcome, outcome)
        self.assertIn(
            "96 min at 25 A to 10.50 V: 80 %, of 120 min at 25 A", share(judge(CHARGED, discharge(96), **STANDBY))
        )

    def test_ah_by_peukert_and_temperature(self) -> None:
        """100 Ah are 5 A for 20 h. 10 A for 8 h 24: 5 x 8.4 x 2^1.25 = 99.9 Ah; at 17 C 0.8 % a degree more."""
        label: dict[str, Any] = {"rated": None, "capacity_ah_20h": 100, "context": {"use": "standby"}}
        self.assertIn("100 %, 100 of 100 Ah", share(judge(CHARGED, discharge(504, amps=10), **label)))
        cold = share(judge(CHARGED, discharge(504, amps=10, temperature_c=17), **label))
        self.assertIn("109 %", cold)  # 1 / (1 - 0.08)
        self.assertIn("548 min when warm", cold)

    def test_deep_cycle_in_use_has_a_limit_of_its_own(self) -> None:
        # 225 Ah, 6 V: 11.25 A for 20 h. 25 A: minutes / 60 x 11.25 x (25 / 11.25)^1.25 = 0.5088 Ah a minute; by an exponent of 1.15
        # 0.4698, by 1.35 0.5511: 60 % are 135 Ah, from 288 min whatever it is, under 245 whatever it is
        for minutes, outcome in (
            (288, Outcome.SOUND), (287, Outcome.WATCH), (266, Outcome.WATCH), (245, Outcome.WATCH), (244, Outcome.WORN_OUT),
        ):  # fmt: skip
            judged = judge(volts(6.35), discharge(minutes, volts=5.25), **GC2)
            self.assertEqual((judged.outcome, minutes), (outcome, minutes))

    def test_no_pull_is_asked_where_no_cca_belongs(self) -> None:
        judged = judge(volts(6.35), **GC2)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.CANNOT_TELL, "reserve_test"))
        case = Case.of(check(look(), **GC2), RULES)
        self.assertIsNone(case.rated)
        self.assertEqual(case.battery.nominal_volts, 6)
        figures = limits_of(case).reserve
        self.assertEqual(
            (figures.amps, figures.end_volts, figures.limit_pct, figures.rated_words), (25, 5.25, 60, "225 Ah")
        )

    def test_a_running_log_says_when_it_passed_the_end(self) -> None:
        """From 10.9 V after 90 min to 10.1 V after 110 min it passes 10.5 V half way: after 100 min of 120, 83 %."""
        log = [{"minutes": 30, "volts": 12.0}, {"minutes": 90, "volts": 10.9}]
        self.assertIn("83 %", share(judge(CHARGED, discharge(110, volts=10.1, log=log), **STANDBY)))
        self.assertIn("92 %", share(judge(CHARGED, discharge(110, volts=10.5, log=log), **STANDBY)))

    def test_its_own_work_outweighs_a_failed_start(self) -> None:
        story: dict[str, Any] = {"reserve_minutes": 110, "context": {"use": "standby"}}
        self.assertEqual(judge(CHARGED, tester(250), **story).outcome, Outcome.WATCH)
        self.assertEqual(judge(CHARGED, tester(250), discharge(100), **story).outcome, Outcome.SOUND)

    def test_stopped_early_it_says_at_least(self) -> None:
        early = judge(CHARGED, discharge(60, volts=11.6), **STANDBY)
        # it is half empty by now: charged, then run again
        self.assertEqual((early.outcome, early.next_step.key), (Outcome.NEEDS_CHARGE, "charge_and_retest"))
        self.assertIn("it says at least 50 %", early.findings[-1].why_not or "")
        self.assertEqual(judge(CHARGED, discharge(100, volts=11.6), **STANDBY).outcome, Outcome.SOUND)

    def test_not_shown_full_before_a_fail_asks_for_a_charge(self) -> None:
        judged = judge(volts(12.2), discharge(60, after_full_charge=False), **STANDBY)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.NEEDS_CHARGE, "charge_and_retest"))

    def test_no_pull_of_any_size_is_a_verdict_on_what_works_by_reserve(self) -> None:
        full = reading("charge_run", 600, start_amps=20, amps=2, volts=7.3, hours=9, finished=True)
        pull = reading("adjustable_load", 700, amps=500, seconds=15, volts=4.5)
        after = judge(volts(6.0), full, volts(6.35, 690, rested_hours=2), pull, **GC2)
        self.assertEqual(
            (after.outcome, after.next_step.key), (Outcome.CANNOT_TELL, "stand")
        )  # the discharge comes last
        before = judge(volts(6.35, 690), pull, **GC2)
        self.assertEqual(before.outcome, Outcome.CANNOT_TELL)


class StopStart(unittest.TestCase):
    STORY: dict[str, Any] = {
        "chemistry": "efb",
        "context": {"complaint": "stop_start_stopped", "stop_start_car": True, "came_in": "in_car"},
    }

    def test_below_its_line_it_is_charged_before_any_door_is_blamed(self) -> None:
        # 78 % of an EFB is 12.52 V
        low = judge(volts(12.51), tester(610, type_set="efb"), **self.STORY)
        self.assertEqual(
            (low.outcome, low.next_step.key, low.look_at_the_car), (Outcome.NEEDS_CHARGE, "charge_and_retest", True)
        )
        self.assertIn("12.52 V at which stop-start is switched off", low.findings[-1].text)
        self.assertNotIn("doors", low.look_at_the_car_why or "")
        own = {**self.STORY["context"], "stop_start_line_volts": 12.6}
        self.assertEqual(
            judge(volts(12.59), tester(610, type_set="efb"), chemistry="efb", context=own).outcome, Outcome.NEEDS_CHARGE
        )

    def test_then_the_list_then_the_reserve_that_starting_amps_hide(self) -> None:
        good = (volts(12.7), tester(610, type_set="efb"))
        first = judge(*good, **self.STORY)
        self.assertEqual(
            (first.outcome, first.next_step.key, first.look_at_the_car), (Outcome.CANNOT_TELL, "stop_start_list", True)
        )
        some = reading("car", 5, waits_checked=["driver", "bonnet"])
        self.assertEqual(judge(*good, some, **self.STORY).next_step.key, "stop_start_list")
        everything = reading("car", 5, waits_checked=list(Waits))
        label = {**self.STORY, "reserve_minutes": 110}
        self.assertEqual(judge(*good, everything, **label).next_step.key, "reserve_test")
        self.assertEqual(
            judge(*good, everything, **self.STORY).outcome, Outcome.SOUND
        )  # nothing on it to hold minutes against
        done = judge(*good, everything, discharge(100, 200), **label)
        self.assertEqual(done.outcome, Outcome.SOUND)
        weak = judge(*good, everything, discharge(60, 200), **label)
        self.assertEqual(
            (weak.outcome, weak.next_step.key), (Outcome.NEEDS_CHARGE, "charge_and_retest")
        )  # then a load decides
        self.assertNotEqual(weak.outcome, Outcome.SOUND)

    def test_what_is_found_is_the_car_s(self) -> None:
        found = reading("car", 5, waits_found=["bonnet"])
        judged = judge(volts(12.7), tester(610, type_set="efb"), found, **self.STORY)
        self.assertEqual((judged.outcome, judged.look_at_the_car), (Outcome.SOUND, True))
        self.assertIn("Bonnet shut and its switch: found wrong", judged.look_at_the_car_why or "")

    def test_an_unregistered_battery_is_a_job(self) -> None:
        judged = judge(volts(12.7), tester(610, type_set="efb"), reading("car", 5, unregistered=True), **self.STORY)
        self.assertEqual([job.key for job in judged.jobs], ["register"])
        self.assertIn("clear the stored codes", judged.jobs[0].how)

    def test_the_wrong_type_is_the_answer(self) -> None:
        judged = judge(volts(12.7), tester(610), **{**self.STORY, "chemistry": "flooded"})
        self.assertEqual((judged.outcome, judged.headline), (Outcome.SOUND, "Sound, after: right type"))


class Age(unittest.TestCase):
    def test_years_and_months_against_what_is_usual(self) -> None:
        for made, use, words, past in (
            (
                "2022-01-01",
                "private",
                "4 years 2 months since it was made; about 5 years are usual in private use",
                False,
            ),
            ("2021-03-02", "private", "5 years since it was made", True),
            ("2024-03-02", "taxi", "2 years since it was made; about 2 years are usual in taxi use", True),
            ("2026-02-01", "private", "1 month since it was made", False),
        ):
            judged = judge(CHARGED, tester(610), made_on=made, context={"use": use})
            assert judged.age is not None
            self.assertIn(words, judged.age.words)
            self.assertEqual(judged.age.past_usual, past)
        sold = judge(CHARGED, context={"sold_on": "2025-03-02"}).age
        self.assertEqual(sold and (sold.years, sold.months, sold.counted_from), (1, 0, "sold"))
        self.assertIsNone(judge(CHARGED).age)


class Outlook(unittest.TestCase):
    def test_equal_figures_meet_at_the_rating_s_own_cold(self) -> None:
        """SAE J537: CCA is what it gives at -18 C."""
        self.assertEqual(starts_down_to_c(600, 600), -18)

    def test_less_starts_in_less_cold(self) -> None:
        # at -6 C: 56.7 % of warm amps where -18 C gives 40 %, 173 % asked where -18 C asks 210 %
        self.assertEqual(starts_down_to_c(360, 600), -6)
        self.assertEqual(starts_down_to_c(1000, 600), -27)
        self.assertEqual(starts_down_to_c(1200, 600), -30)
        self.assertIsNone(starts_down_to_c(100, 600))
        lowest = [starts_down_to_c(amps, 600) for amps in range(200, 900, 50)]
        self.assertEqual(
            [each for each in lowest if each is not None],
            sorted((each for each in lowest if each is not None), reverse=True),
        )

    def test_said_in_words_with_whose_figure_it_is(self) -> None:
        judged = judge(CHARGED, tester(330), context={"car_cca_amps": 450})
        assert judged.prospect is not None
        self.assertEqual(judged.prospect.words, "Starts this car down to about -11 °C: 330 CCA where its car asks 450")
        self.assertIn("up to about 5.5 litres", judged.prospect.lighter_duty or "")
        thumb = judge(
            CHARGED,
            tester(330),
            rated=None,
            capacity_ah_20h=70,
            context={"engine_litres": 2.0, "engine_fuel": "diesel"},
        )
        self.assertEqual(
            thumb.prospect and (thumb.prospect.asked_cca_amps, thumb.prospect.asked_by),
            (240, "a 2 litre diesel engine"),
        )

    def test_nothing_is_foretold_of_what_is_dead_flat_or_dangerous(self) -> None:
        for judged in (
            judge(volts(12.0), tester(610)),
            judge(look("leaking")),
            judge(volts(10.5, after_full_charge=True), tester(300)),
        ):
            self.assertIsNone(judged.prospect)

    def test_lighter_duty_only_where_there_is_something_left(self) -> None:
        for amps, honest in ((240, True), (230, False)):
            judged = judge(CHARGED, tester(amps))
            assert judged.prospect is not None
            self.assertEqual((judged.outcome, judged.prospect.lighter_duty is not None), (Outcome.WORN_OUT, honest))


class Cause(unittest.TestCase):
    def test_from_the_evidence_in_plain_words(self) -> None:
        dead = tester(300)
        flat = (
            volts(12.0),
            reading("charge_run", 600, start_amps=7, amps=0.6, volts=14.5, hours=9, finished=True),
            volts(12.63, 640),
        )
        once = changed_rules(RULES, {"charge.recovery_first": "no"}, "a test")
        for key, judged in (
            ("overcharged", judge(CHARGED, dead, reading("car", 5, loaded_volts=15.2))),
            ("dried_out", judge(look(eye="clear"), CHARGED, dead)),
            ("drained", judge(CHARGED, dead, reading("car", 5, drain_ma=400))),
            ("wrong_type", judge(CHARGED, dead, context={"stop_start_car": True})),
            ("vibration", judge(look("hold_down_missing"), CHARGED, dead)),
            ("standing", judge(*flat, tester(300, 645), rules=once, context={"complaint": "stood_for_weeks"})),
            ("undercharged", judge(CHARGED, dead, reading("car", 5, short_trips=True))),
            ("hard_use", judge(CHARGED, dead, made_on="2023-01-01", context={"use": "taxi"})),
            ("age", judge(CHARGED, dead, made_on="2019-01-01")),
        ):
            with self.subTest(key):
                self.assertEqual(judged.cause and judged.cause.key, key)
                self.assertTrue(judged.cause and judged.cause.words and judged.cause.change)
        self.assertIsNone(judge(CHARGED, dead).cause)
        self.assertIsNone(judge(CHARGED, tester(610), made_on="2019-01-01").cause)
