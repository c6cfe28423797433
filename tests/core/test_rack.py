"""The charge rack by hand-reckoned days: what stands where when, in figures written out."""

import unittest
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

from pydantic import ValidationError

from tests.build import RULES, check, look, reading, volts
from tests.racks import MONDAY, WEEK, by_day, charger, job, rack
from vane_check.core.charging.rack import Begun, Lane, OpeningHours, Pin, changes_between, open_spans, planned, suits
from vane_check.core.charging.rack.house import job_of, rack_of, tick_after, tick_at
from vane_check.core.facts.case import Case
from vane_check.core.findings.kinds import StepKey
from vane_check.core.house.rules import changed_rules
from vane_check.core.judging.judgement import assess

ONE, TWO = Lane(1, 1, True), Lane(2, 1, True)
BY_DAY = Lane(3, 1, False)


class ByHand(unittest.TestCase):
    def test_one_battery_goes_through_on_the_minute(self) -> None:
        placed, unplaced, _ = planned(rack([ONE]), [job(7, {1: 24})])
        self.assertEqual(unplaced, [])
        # clamped on 0 to 5 min, two hours of charge, off 125 to 130, two hours of rest, tested 250 to 265 min
        (one,) = placed
        self.assertEqual((one.on, one.starts, one.ends, one.off, one.rested, one.ready), (0, 1, 25, 25, 50, 53))

    def test_one_hand_clamps_one_after_the_other_two_hands_at_once(self) -> None:
        jobs = [job(1, {1: 24, 2: 24}), job(2, {1: 24, 2: 24})]
        with_one, *_ = planned(rack([ONE, TWO]), jobs)
        self.assertEqual(sorted(one.on for one in with_one), [0, 1])
        with_two, *_ = planned(rack([ONE, TWO], hands=2), jobs)
        self.assertEqual([one.on for one in with_two], [0, 0])

    def test_a_charge_runs_through_the_night_and_comes_off_when_the_shop_opens(self) -> None:
        (one,), *_ = planned(rack([ONE]), [job(1, {1: 150})])
        self.assertEqual((one.ends, one.off, one.ready), (151, 288, 288 + 1 + 24 + 3))

    def test_a_battery_may_be_clamped_on_from_now(self) -> None:
        self.assertEqual(job(1, {1: 24}).release, 0)

    def test_what_does_not_limit_itself_runs_only_while_somebody_is_in(self) -> None:
        # nine hours fit into the first day's ten; put off by two hours they go to the next day
        (one,), *_ = planned(rack([BY_DAY]), [job(1, {3: 108})])
        self.assertEqual((one.on, one.off), (0, 109))
        (late,), *_ = planned(rack([BY_DAY]), [job(1, {3: 108}, release=24)])
        self.assertEqual((late.on, late.off), (288, 397))
        placed, unplaced, _ = planned(rack([BY_DAY]), [job(1, {3: 121})])
        self.assertEqual((placed, [none.why for none in unplaced]), ([], ["no room in the days planned"]))

    def test_one_begun_there_stops_at_closing_and_goes_on_in_the_morning(self) -> None:
        hangs = job(1, {3: 200}, begun=Begun(BY_DAY, 150))
        (one,), *_ = planned(rack([BY_DAY]), [hangs])
        self.assertEqual((one.begun, one.ends), (True, 288 + 30))

    def test_one_begun_that_nobody_is_there_to_take_off_has_no_place(self) -> None:
        # open for ten minutes more and then closed for good: the night lane's charge ends, but nobody takes it off
        nobody = rack([ONE], closed=by_day(2, 1000, 1))
        placed, unplaced, _ = planned(nobody, [job(1, {1: 24}, begun=Begun(ONE, 10))])
        self.assertEqual(([one.tag for one in placed], [none.tag for none in unplaced]), ([], [1]))

    def test_a_promise_goes_first_where_both_cannot(self) -> None:
        jobs = [job(1, {1: 24}), job(2, {1: 24}, weight=4, promised=60)]
        placed, _, cost = planned(rack([ONE]), jobs)
        self.assertEqual([one.tag for one in placed], [2, 1])
        self.assertEqual((cost.broken, [one.late for one in placed]), (0, [0, 0]))

    def test_a_promise_that_cannot_be_kept_is_late_by_so_much(self) -> None:
        (one,), _, cost = planned(rack([ONE]), [job(2, {1: 24}, weight=4, promised=40)])
        self.assertEqual((one.ready, one.late, cost.broken, cost.late), (53, 13, 4, 52))

    def test_what_hangs_and_what_was_set_by_hand_stays(self) -> None:
        jobs = [
            job(1, {1: 24, 2: 24}, begun=Begun(TWO, 10)),
            job(2, {1: 24, 2: 24}, pin=Pin(TWO, None)),
            job(3, {1: 24, 2: 24}, weight=8, promised=53),
        ]
        placed, *_ = planned(rack([ONE, TWO]), jobs)
        self.assertEqual({one.tag: one.lane for one in placed}, {1: TWO, 2: TWO, 3: ONE})
        # the one that hangs comes off at 10, and only then the one set there goes on
        self.assertEqual([(one.tag, one.on) for one in placed if one.tag != 3], [(1, 0), (2, 11)])

    def test_a_pin_that_cannot_be_leaves_it_to_the_plan(self) -> None:
        (one,), *_ = planned(rack([ONE, TWO]), [job(1, {1: 24}, pin=Pin(TWO, None))])
        self.assertEqual((one.lane, one.pinned), (ONE, False))

    def test_a_change_of_charger_must_save_half_an_hour(self) -> None:
        before, *_ = planned(rack([TWO]), [job(1, {2: 30})])
        # the other charger is 25 minutes quicker: it stays; 35 minutes quicker: it moves
        (stays,), *_ = planned(rack([ONE, TWO]), [job(1, {1: 25, 2: 30})], before)
        (moves,), *_ = planned(rack([ONE, TWO]), [job(1, {1: 23, 2: 30})], before)
        self.assertEqual((stays.lane, moves.lane), (TWO, ONE))
        (new,), *_ = planned(rack([ONE, TWO]), [job(9, {1: 30})])  # not planned before: nothing of it changed
        said = changes_between(before, [new, moves], lambda lane: f"Charger {lane.charger}", 30)
        self.assertEqual(
            [(one.tag, one.words) for one in said], [(1, "Charger 1 instead of Charger 2, ready 35 min sooner")]
        )

    def test_nothing_suits_is_said(self) -> None:
        _, unplaced, _ = planned(rack([ONE]), [job(1, {})])
        self.assertEqual([none.why for none in unplaced], ["no charger here suits it"])

    def test_a_battery_that_only_rests_takes_a_hand_when_it_is_tested(self) -> None:
        (one,), *_ = planned(rack([ONE], rests=(0,)), [job(1, {1: 24})])
        self.assertEqual(one.on, 3)

    def test_the_same_rack_is_planned_the_same_way(self) -> None:
        jobs = [job(tag, {1: 20 + tag * 3, 2: 30 + tag}, promised=150 if tag % 3 else None) for tag in range(12)]
        self.assertEqual(planned(rack([ONE, TWO]), jobs), planned(rack([ONE, TWO]), jobs))

    def test_trying_betters_what_was_sorted(self) -> None:
        # whichever order is sorted, one of these four is behind; tried, none is
        jobs = [
            job(1, {1: 30, 2: 30}, 2, promised=50),
            job(2, {1: 20, 2: 10}, 2, promised=30),
            job(3, {1: 30, 2: 40}, 2, promised=50),
            job(4, {1: 10, 2: 20}, 2, promised=70),
        ]
        self.assertEqual(planned(rack([ONE, TWO]), jobs, tries=0)[2].broken, 1)
        self.assertEqual(planned(rack([ONE, TWO]), jobs)[2].broken, 0)

    def test_what_finds_no_room_costs_the_whole_time(self) -> None:
        _, _, with_room = planned(rack([ONE]), [job(1, {1: 24}, weight=2)])
        _, unplaced, without = planned(rack([ONE]), [job(1, {}, weight=2, promised=10)])
        self.assertEqual((with_room, len(unplaced)), ((0, 0, 2 * 53), 1))
        self.assertEqual(without, (2, 2 * (1152 - 10), 2 * 1152))

    def test_what_hangs_is_told_as_no_change(self) -> None:
        before, *_ = planned(rack([TWO]), [job(1, {2: 30})])
        hangs, *_ = planned(rack([ONE, TWO]), [job(1, {1: 90, 2: 90}, begun=Begun(ONE, 90))], before)
        self.assertEqual(changes_between(before, hangs, str, 30), [])


class Hours(unittest.TestCase):
    def spans(self, start: datetime, days: int, zone: str = "Europe/Berlin") -> list[str]:
        found = open_spans(OpeningHours.model_validate(WEEK), ZoneInfo(zone), start, start + timedelta(days=days))
        return [f"{opens:%d %H:%M}-{closes:%d %H:%M}" for opens, closes in found]

    def test_the_shop_s_clock_rules_through_a_change_of_clocks(self) -> None:
        # Central Europe puts the clock back on 25 October 2026 (EU rules): eight by the wall is 6:00 UTC before, 7:00 after
        friday = datetime(2026, 10, 23, 0, 0, tzinfo=UTC)
        self.assertEqual(self.spans(friday, 4), ["23 06:00-23 16:00", "24 06:00-24 16:00", "26 07:00-26 17:00"])

    def test_it_begins_in_the_middle_of_a_day_and_ends_in_one(self) -> None:
        self.assertEqual(
            self.spans(datetime(2026, 3, 2, 9, 30, tzinfo=UTC), 1, "UTC"), ["02 09:30-02 18:00", "03 08:00-03 09:30"]
        )

    def test_hours_that_cannot_be_are_refused(self) -> None:
        for days in (
            [None] * 7,
            WEEK["days"][:6],
            [{"opens": "18:00", "closes": "08:00"}] * 7,
            [{"opens": "8", "closes": "9"}] * 7,
        ):
            with self.assertRaises(ValidationError):
                OpeningHours.model_validate({"days": days})


class Suiting(unittest.TestCase):
    def case(self, *readings: object, **label: object) -> Case:
        return Case.of(check(*(readings or (volts(12.0),)), capacity_ah_20h=60, **label), RULES)  # type: ignore[arg-type]

    def test_the_mode_reaches_what_the_type_needs_and_never_lies_over_its_ceiling(self) -> None:
        wet = suits(self.case(), StepKey.CHARGE_AND_RETEST, charger(10), 20)
        mat = suits(self.case(chemistry="agm"), StepKey.CHARGE_AND_RETEST, charger(10), 20)
        self.assertEqual((wet.mode and wet.mode.volts, mat.mode and mat.mode.volts), (14.7, 14.6))
        hot = charger(10, modes=[{"name": "boost", "volts": 15.5}])
        self.assertIsNone(suits(self.case(chemistry="agm"), StepKey.CHARGE_AND_RETEST, hot, 20).mode)
        low = charger(10, modes=[{"name": "float", "volts": 13.5}])
        self.assertIn("no mode of", suits(self.case(), StepKey.CHARGE_AND_RETEST, low, 20).why_not)

    def test_of_several_modes_the_one_with_the_most_volts(self) -> None:
        both = charger(10, modes=[{"name": "strong", "volts": 14.7}, {"name": "mild", "volts": 14.3}])
        found = suits(self.case(), StepKey.CHARGE_AND_RETEST, both, 20).mode
        self.assertEqual(found and found.name, "strong")

    def test_a_six_volt_battery_hangs_on_no_twelve_volt_mode(self) -> None:
        six = self.case(volts(6.0), nominal_volts=6)
        self.assertIn("for 6 V", suits(six, StepKey.CHARGE_AND_RETEST, charger(10), 20).why_not)
        its = charger(10, modes=[{"name": "6 V", "volts": 7.3}])
        self.assertEqual(suits(six, StepKey.CHARGE_AND_RETEST, its, 20).mode, its.modes[0])

    def test_a_recovery_charge_asks_for_its_mode(self) -> None:
        self.assertIsNone(suits(self.case(), StepKey.RECOVERY_CHARGE, charger(10), 20).mode)
        slow = charger(10, modes=[{"name": "slow", "volts": 14.6, "does": "recovery"}])
        self.assertIsNotNone(suits(self.case(), StepKey.RECOVERY_CHARGE, slow, 20).mode)
        self.assertIsNone(suits(self.case(), StepKey.CHARGE_AND_RETEST, slow, 20).mode)

    def test_ice_heat_and_a_warm_room_forbid(self) -> None:
        iced = self.case(look("frozen"), volts(11.0, 2))
        self.assertIn("frozen", suits(iced, StepKey.CHARGE_AND_RETEST, charger(10), 20).why_not)
        self.assertIn("30 °C around it", suits(self.case(), StepKey.CHARGE_AND_RETEST, charger(10), 30).why_not)
        self.assertIsNotNone(suits(self.case(), StepKey.CHARGE_AND_RETEST, charger(10), 27).mode)
        self.assertIn("-3 °C", suits(self.case(), StepKey.CHARGE_AND_RETEST, charger(10), -3).why_not)

    def test_hours_by_the_charger_s_own_amps(self) -> None:
        # 60 Ah at 12.0 V: 15 to 35 % charged by the table and the meter; 1.2 x missing / amps and two hours of tail
        slow, quick = (suits(self.case(), StepKey.CHARGE_AND_RETEST, charger(amps), 20).plan for amps in (3, 25))
        assert slow is not None
        assert quick is not None
        self.assertEqual((slow.amps, quick.amps), (3, 6))
        self.assertAlmostEqual((slow.hours - 2) / (quick.hours - 2), 2, places=2)


class House(unittest.TestCase):
    def test_the_book_and_the_rules_make_the_lanes(self) -> None:
        chargers = {4: charger(20, limits_itself=False), 5: charger(4, outputs=2)}
        spans = [(MONDAY, MONDAY + timedelta(hours=9))]
        built = rack_of(chargers, spans, MONDAY, MONDAY + timedelta(days=4), [], RULES)
        self.assertEqual(built.lanes, (Lane(5, 1, True), Lane(5, 2, True), Lane(4, 1, False)))
        self.assertEqual(
            (len(built.closed), built.closed.count(0), built.hands, built.connect, built.test), (1152, 108, 1, 1, 3)
        )
        careful = rack_of(
            chargers,
            spans,
            MONDAY,
            MONDAY + timedelta(days=4),
            [],
            changed_rules(RULES, {"rack.night_run": "none"}, "test"),
        )
        self.assertFalse(any(lane.night for lane in careful.lanes))

    def test_the_tick_of_a_moment(self) -> None:
        """Ticks of five minutes: a moment on one is that tick, a second later lies in it and waits for the next."""
        self.assertEqual([tick_at(MONDAY + timedelta(minutes=m), MONDAY) for m in (0, 4, 5, 720)], [0, 0, 1, 144])
        self.assertEqual([tick_after(MONDAY + timedelta(minutes=m), MONDAY) for m in (0, 4, 5, 720)], [0, 1, 1, 144])

    def test_rest_by_the_house_s_school(self) -> None:
        night = changed_rules(RULES, {"rest.school": "12_h"}, "test")
        self.assertEqual(
            (job_of(1, {}, "ordinary", None, RULES).rest, job_of(1, {}, "ordinary", None, night).rest), (3, 144)
        )

    def test_who_waits_weighs_more_than_stock(self) -> None:
        weights = [
            job_of(1, {}, name, None, RULES).weight for name in ("waiting", "promised", "warranty", "ordinary", "stock")
        ]
        self.assertEqual(weights, [8, 4, 2, 1, 0.25])


class Worth(unittest.TestCase):
    """A charge stopped early: 60 Ah flooded from 12.0 V, 0.90 of what goes in is stored, good to 18 %."""

    def test_it_says_what_went_in_and_how_far_it_came(self) -> None:
        run = reading("charge_run", 300, start_amps=6, amps=6, volts=14.0, hours=4, ah_in=24, stopped=True)
        judged = assess(check(look(), volts(12.0, 2), run, capacity_ah_20h=60), RULES)
        (found,) = (one for one in judged.findings if one.kind == "charge_run")
        self.assertIn("about 22 Ah went in", found.text)
        self.assertEqual(judged.outcome, "needs_charge")

    def test_what_went_in_is_no_longer_missing(self) -> None:
        flat = check(volts(12.0), capacity_ah_20h=60)
        half = check(
            volts(12.0),
            reading("charge_run", 300, start_amps=6, amps=6, volts=14, hours=4, ah_in=24),
            capacity_ah_20h=60,
        )
        before, after = (
            suits(Case.of(one, RULES), StepKey.CHARGE_AND_RETEST, charger(6), 20).plan for one in (flat, half)
        )
        assert before is not None
        assert after is not None
        # 24 Ah x 0.90 of 60 Ah are 36 points of the missing 65 to 85; 7.2 of its hours are saved by 21.6 Ah x 1.2 / 6 A = 4.3 h
        self.assertAlmostEqual(before.hours - after.hours, 24 * 0.9 * 1.2 / 6, delta=0.1)

    def test_two_charges_stopped_early_add_up(self) -> None:
        first = reading("charge_run", 200, start_amps=6, amps=6, volts=13.8, hours=2, ah_in=12, stopped=True)
        then = reading("charge_run", 500, start_amps=6, amps=6, volts=14.0, hours=2, ah_in=12)
        one, both = (
            suits(
                Case.of(check(volts(12.0), *runs, capacity_ah_20h=60), RULES), StepKey.CHARGE_AND_RETEST, charger(6), 20
            ).plan
            for runs in ((then,), (first, then))
        )
        assert one is not None
        assert both is not None
        # another 12 Ah, of which 10.8 stay: 10.8 x 1.2 / 6 A are 2.2 h less
        self.assertAlmostEqual(one.hours - both.hours, 2.16, delta=0.1)

    def test_stopped_when_it_may_be_over_the_line_it_is_not_called_flat(self) -> None:
        run = reading("charge_run", 400, start_amps=6, amps=4, volts=14.3, hours=5, ah_in=27, stopped=True)
        judged = assess(check(look(), volts(12.3, 2), run, capacity_ah_20h=60), RULES)
        (found,) = (one for one in judged.findings if one.kind == "charge_run")
        self.assertIsNone(found.points_to)
        self.assertIn("% charged now", found.text)

    def test_a_rest_since_tells_better(self) -> None:
        run = reading("charge_run", 300, start_amps=6, amps=6, volts=14.0, hours=4, ah_in=24, stopped=True)
        rested = check(volts(12.0), run, volts(12.45, 600, rested_hours=4), capacity_ah_20h=60)
        plan = suits(Case.of(rested, RULES), StepKey.CHARGE_AND_RETEST, charger(6), 20).plan
        assert plan is not None
        self.assertTrue(plan.missing_low_pct < 25 < plan.missing_high_pct)


class ByDay(unittest.TestCase):
    def test_the_builder_of_these_tests_is_ten_hours_open_and_fourteen_closed(self) -> None:
        self.assertEqual((len(by_day()), by_day().count(0)), (1152, 480))
