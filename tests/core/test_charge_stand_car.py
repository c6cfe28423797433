import unittest
from typing import Any

from tests.build import judge, look, reading, tester, volts
from vane_check.core.evidence.car import days_until
from vane_check.core.findings.outcomes import Finding, Outcome


def run(minutes: float = 300, **body: Any) -> Any:
    return reading("charge_run", minutes, **{"start_amps": 8, "amps": 1, "volts": 14.4, "hours": 5, **body})


class ChargeRuns(unittest.TestCase):
    def test_table(self) -> None:
        table: list[tuple[str, dict[str, Any], Outcome | None]] = [
            ("falls and reaches voltage", {}, None),
            (
                "stays and never reaches voltage, its Ah in",
                {"amps": 8, "volts": 12.6, "hours": 12},
                Outcome.NEEDS_CHARGE,
            ),
            ("stays, its Ah not in yet", {"amps": 8, "volts": 12.6}, None),
            ("rises", {"amps": 9, "volts": 12.4}, Outcome.DEAD_CELL),
            ("stays but too early to say", {"amps": 8, "volts": 12.6, "hours": 1}, None),
            ("stays at voltage", {"amps": 8, "volts": 14.3}, None),
            ("small current that stays", {"start_amps": 2, "amps": 2, "volts": 12.9}, None),
        ]
        for what, body, points_to in table:
            with self.subTest(what):
                self.assertEqual(judge(volts(12.0), run(**body)).findings[1].points_to, points_to)

    def test_where_nobody_read_the_start_the_first_moment_noted_tells_whether_it_falls(self) -> None:
        log = [{"minutes": 120, "amps": 8}, {"minutes": 30, "amps": 12}]
        falls = {"start_amps": None, "amps": 5, "volts": 12.6, "hours": 16}
        self.assertEqual(
            judge(volts(12.0), run(**falls)).findings[1].points_to, Outcome.NEEDS_CHARGE
        )  # for all anybody knows it stays: looked at again within the hour
        found = judge(volts(12.0), run(**falls, log=log)).findings[1]
        self.assertIsNone(found.points_to)
        self.assertNotIn("does not fall", found.text)
        stays = judge(volts(12.0), run(**falls | {"amps": 11.5}, log=log)).findings[1]
        self.assertEqual(stays.points_to, Outcome.NEEDS_CHARGE)
        self.assertIn("does not fall", stays.text)

    def test_a_shorted_cell_on_charge_stops_the_charge(self) -> None:
        """Volts that stand from one note to the next while the current stays, its Ah in: common practice, stop. A cell short for three
        hours is enough by itself."""
        once = judge(volts(12.0), run(660, amps=8, volts=12.6, hours=11))
        self.assertEqual((once.outcome, once.next_step.key), (Outcome.NEEDS_CHARGE, "watch_charge"))
        stands = run(660, amps=8, volts=12.6, hours=11), run(720, amps=8, volts=12.6, hours=12)
        judged = judge(volts(12.0), *stands)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.DEAD_CELL, "stop_charge"))
        for later, outcome in ((120, Outcome.NEEDS_CHARGE), (180, Outcome.DEAD_CELL)):
            body = {"start_amps": 6, "amps": 6, "volts": 11.9}
            notes = run(60, hours=1, **body), run(60 + later, hours=1 + later / 60, **body)
            self.assertEqual(judge(volts(10.6), *notes, capacity_ah_20h=90).outcome, outcome)

    def test_without_a_label_rising_volts_are_no_dead_cell(self) -> None:
        """Nothing tells its Ah: while the volts come it fills; once they stand it does not."""
        rising = (
            run(60, volts=12.4, amps=8, hours=1),
            run(180, volts=13.0, amps=8, hours=3),
            run(300, volts=13.4, amps=8),
        )
        judged = judge(volts(11.9), *rising, rated=None)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.NEEDS_CHARGE, "charge_and_retest"))
        judged = judge(volts(11.9), *rising, run(360, volts=13.4, amps=8, hours=6), rated=None)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.DEAD_CELL, "stop_charge"))

    def test_volts_that_stand_for_six_hours_need_no_ah(self) -> None:
        """A charge lifts what it fills, hour by hour: common practice. 6 A for 3 h into 90 Ah is nothing; volts that stood for 6 h are."""
        for hours, outcome in ((3, Outcome.NEEDS_CHARGE), (5, Outcome.NEEDS_CHARGE), (6, Outcome.DEAD_CELL)):
            body = {"start_amps": 6, "amps": 6, "volts": 12.6}
            notes = run(120, hours=2, **body), run(120 + 60 * hours, hours=2 + hours, **body)
            judged = judge(volts(10.6), *notes, capacity_ah_20h=90)
            self.assertEqual(judged.outcome, outcome, hours)

    def test_bare_plates_do_not_hide_it(self) -> None:
        """Docs/safety.md: a shorted cell on charge is stopped, whatever else is wrong with it."""
        bare = look(minutes=0, levels=["plates_bare"] * 6)
        stands = run(660, amps=8, volts=12.6, hours=11), run(720, amps=8, volts=12.6, hours=12)
        judged = judge(bare, volts(12.0, 5), *stands, has_caps=True)
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.DEAD_CELL, "stop_charge"))

    def test_a_maintainer_that_lifts_it_asks_for_nothing_more(self) -> None:
        """Common practice: 12.60 climbing to 12.70 says it charges."""
        for after, points_to, remedy in ((12.70, None, None), (12.62, Outcome.CANNOT_TELL, "charge_and_retest")):
            held = reading("charge_run", 100, start_volts=12.60, volts=after, hours=1)
            found = judge(volts(12.6), held).findings[1]
            self.assertEqual((found.points_to, found.remedy), (points_to, remedy))

    def test_one_deeply_flat_is_not_dead_while_its_volts_rise(self) -> None:
        """60 Ah at 10.2 V on 6 A: 12.6 V after an hour, 13.4 V after three, ten hours of its charge to come. Common practice: a
        flat battery at a tenth of its Ah is under 14 V at the third hour, and rests as if a cell were gone."""
        flat, label = volts(10.2, confirmed=True), {"capacity_ah_20h": 60, "rated": 540}
        first = run(60, start_amps=6, amps=6, volts=12.6, hours=1)
        third = run(180, start_amps=6, amps=6, volts=13.4, hours=3)
        for runs, goes_on in (((third,), "watch_charge"), ((first, third), "charge_and_retest")):
            judged = judge(flat, *runs, **label)
            self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.NEEDS_CHARGE, goes_on))
        stands = run(300, start_amps=6, amps=6, volts=13.4, hours=5)
        judged = judge(
            flat, first, third, stands, **label
        )  # its volts stand, its Ah are not in: looked at within the hour
        self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.NEEDS_CHARGE, "watch_charge"))
        late = run(660, start_amps=6, amps=6, volts=13.5, hours=11)
        for later, what in (
            ((run(200, start_amps=6, amps=6.4, volts=13.4, hours=3.3),), "amps that rise while volts stand"),
            ((late, run(720, start_amps=6, amps=6, volts=13.5, hours=12)), "volts that stand, its Ah in"),
        ):
            with self.subTest(what):
                judged = judge(flat, first, third, *later, **label)
                self.assertEqual((judged.outcome, judged.next_step.key), (Outcome.DEAD_CELL, "stop_charge"))

    def test_a_finished_charge_makes_the_flat_reading_old(self) -> None:
        before = judge(volts(12.0), tester(250))
        after = judge(volts(12.0), tester(250), run(finished=True))
        self.assertEqual(before.outcome, Outcome.NEEDS_CHARGE)
        self.assertEqual((after.outcome, after.next_step.key), (Outcome.CANNOT_TELL, "measure_volts"))
        self.assertEqual(after.findings[0].why_not, "from before the charge")
        self.assertIsNone(after.state_of_charge)

    def test_low_volts_after_a_finished_charge_need_no_second_asking(self) -> None:
        judged = judge(run(finished=True), volts(10.5, 400))
        self.assertEqual(judged.outcome, Outcome.DEAD_CELL)

    def test_a_failing_tester_before_the_charge_is_not_paired_with_volts_after_it(self) -> None:
        judged = judge(tester(250, 290), run(300, finished=True), volts(12.65, 310))
        self.assertNotEqual(judged.outcome, Outcome.WORN_OUT)

    def test_low_after_a_second_full_charge_no_longer_comes_up(self) -> None:
        judged = judge(volts(11.9), run(finished=True), volts(12.1, 310), run(700, finished=True), volts(12.1, 720))
        self.assertEqual(judged.outcome, Outcome.WORN_OUT)
        self.assertIn("second full charge", judged.findings[-1].text)

    def test_after_a_full_charge_the_line_itself_is_enough_to_condemn(self) -> None:
        near = 12.41
        self.assertEqual(judge(volts(near), tester(250)).outcome, Outcome.NEEDS_CHARGE)
        charged = judge(run(0, finished=True), volts(near, 30), tester(250, 32))
        self.assertEqual(charged.outcome, Outcome.WORN_OUT)

    def test_a_battery_that_came_in_flat_stands_before_it_is_called_sound(self) -> None:
        flat, charged = volts(11.9), (run(300, finished=True), volts(12.65, 330), tester(620, 332))
        self.assertEqual(judge(flat, *charged).next_step.key, "stand")
        stood = reading("stand", 1200, start_volts=12.7, volts=12.62, hours=14)
        self.assertEqual(judge(flat, *charged, stood).outcome, Outcome.SOUND)
        self.assertEqual(judge(*charged).next_step.key, "stand")  # it was charged for something


def late(start: float, end: float, hours: float, chemistry: str = "flooded") -> Finding:
    """A stand whose start was read after half a day of rest."""
    stood = reading("stand", hours * 60 + 60, start_volts=start, volts=end, hours=hours)
    return judge(volts(start, 0, rested_hours=12), stood, chemistry=chemistry).findings[1]


class Stands(unittest.TestCase):
    def test_what_ends_at_the_tables_full_is_not_condemned(self) -> None:
        """Headlamps take most surface charge, not all: 12.90 after them, 12.82 to 12.78 V in two days, full all the while. A doubtful
        one asks for the later reading. Common practice."""
        lamps = volts(12.9, settled="headlamps")
        for hours, outcome in ((48, Outcome.SOUND), (72, Outcome.SOUND)):
            stood = reading("stand", hours * 60 + 60, start_volts=12.82, volts=12.78, hours=hours)
            self.assertIs(judge(lamps, stood).findings[1].points_to, outcome)
        for end in (
            12.74,
            12.55,
        ):  # a tenth and more in a night, from what headlamps left: doubted, looked at again from here
            first = reading("stand", 900, start_volts=12.86, volts=end, hours=14)
            found = judge(lamps, first).findings[1]
            self.assertEqual((found.points_to, found.remedy), (Outcome.CANNOT_TELL, "stand"))
            again = reading("stand", 1700, start_volts=end, volts=end, hours=12)
            self.assertIs(judge(lamps, first, again).findings[-1].points_to, Outcome.SOUND)
            leaks = reading("stand", 1700, start_volts=end, volts=end - 0.12, hours=12)
            self.assertIs(judge(lamps, first, leaks).findings[-1].points_to, Outcome.LEAKS_CHARGE)

    def test_a_loss_that_dies_away_is_surface_charge(self) -> None:
        """A leak goes on as it began; surface charge is lost less an hour the longer it stands. Looked at once more, then held."""
        first = reading("stand", 800, start_volts=12.78, volts=12.66, hours=12)
        second = reading("stand", 2990, start_volts=12.66, volts=12.58, hours=36)
        third = reading("stand", 5180, start_volts=12.58, volts=12.57, hours=36)
        lamps = volts(12.8, settled="headlamps")
        twice = judge(lamps, first, second).findings[-1]
        self.assertEqual((twice.points_to, twice.remedy), (Outcome.CANNOT_TELL, "stand"))
        self.assertIs(judge(lamps, first, second, third).findings[-1].points_to, Outcome.SOUND)
        goes_on = reading("stand", 2990, start_volts=12.66, volts=12.45, hours=36)
        self.assertIs(judge(lamps, first, goes_on).findings[-1].points_to, Outcome.LEAKS_CHARGE)

    def test_corroded_posts_spoil_no_stand(self) -> None:
        """A meter on bright lead reads through nothing; what was lost was lost. Common practice."""
        for corrosion in ("none", "heavy"):
            stood = reading("stand", 900, start_volts=12.68, volts=12.1, hours=14)
            found = judge(look(minutes=0, corrosion=corrosion), volts(12.7, 5, rested_hours=12), stood).findings[-1]
            self.assertEqual((found.points_to, found.status), (Outcome.LEAKS_CHARGE, "counts"))

    def test_table(self) -> None:
        table: list[tuple[str, dict[str, Any], Outcome | None, str]] = [
            ("holds", {"volts": 12.62, "hours": 14}, Outcome.SOUND, "counts"),
            ("too soon", {"volts": 12.62, "hours": 5}, None, "dropped"),
            ("lost early", {"volts": 12.1, "hours": 5}, Outcome.LEAKS_CHARGE, "counts"),
            ("lost", {"volts": 12.1, "hours": 20}, Outcome.LEAKS_CHARGE, "counts"),
            ("on the line", {"volts": 12.36, "hours": 14}, Outcome.LEAKS_CHARGE, "counts"),
        ]
        for what, body, points_to, status in table:
            with self.subTest(what):
                found = late(12.64, body["volts"], body["hours"])
                self.assertEqual((found.points_to, found.status), (points_to, status))

    def test_loss_is_held_against_the_chemistry_s_own_line(self) -> None:
        charged = run(0, finished=True)
        stood = reading("stand", 900, start_volts=12.9, volts=12.45, hours=14)
        self.assertEqual(judge(charged, stood).findings[1].points_to, Outcome.CANNOT_TELL)  # a quarter of it went
        self.assertEqual(judge(charged, stood, chemistry="agm").findings[1].points_to, Outcome.LEAKS_CHARGE)
        self.assertEqual(
            judge(stood, chemistry="agm").findings[0].points_to, Outcome.NEEDS_CHARGE
        )  # nobody saw it full

    def test_the_loss_is_told_against_what_its_type_loses_by_itself(self) -> None:
        def stood(chemistry: str, start: float, end: float) -> Finding:
            return late(start, end, 24, chemistry)

        self.assertIn("about 1 % lost, where flooded loses 0.2 %", stood("flooded", 12.67, 12.66).text)
        self.assertIn("where AGM loses 0.1 %", stood("agm", 12.86, 12.84).text)
        much = stood("flooded", 12.65, 12.44)
        self.assertEqual(
            (much.points_to, much.status, much.rule), (Outcome.LEAKS_CHARGE, "counts", "stand.leak_pct_per_day")
        )

    def test_it_is_judged_by_what_it_lost_a_day(self) -> None:
        """Flooded, 12.65 to 12.45 V are 25 %: 0.008 % a millivolt; two hundredths are the digits of one meter."""
        for start, end, hours, points_to in (
            (12.66, 12.43, 13, Outcome.LEAKS_CHARGE),
            (12.46, 12.45, 14, Outcome.SOUND),
            (12.38, 12.37, 14, Outcome.NEEDS_CHARGE),  # lost nothing, stands low: it lacked charge
            (12.64, 12.56, 14, Outcome.LEAKS_CHARGE),  # 7.5 % beyond the digits in 14 h: 12.9 % a day
            (12.64, 12.59, 14, Outcome.CANNOT_TELL),  # 3.75 % in 14 h: 6.2 % a day, a longer stand tells
            (12.64, 12.60, 14, Outcome.CANNOT_TELL),  # 2.5 % beyond the digits in 14 h: 4.1 % a day
            (12.64, 12.61, 14, Outcome.SOUND),  # 1.25 % less 0.1 of its own: 1.95 % a day, under the 2.0 of the doubt
            (12.64, 12.62, 14, Outcome.SOUND),
            (12.64, 12.56, 72, Outcome.LEAKS_CHARGE),  # 7.5 % in three days: small, and settled
            (12.64, 12.58, 72, Outcome.SOUND),  # 5 % less 0.6 of its own: 1.5 % a day
            (12.64, 12.61, 72, Outcome.SOUND),  # 1.25 % less 0.6: 0.2 % a day
            (12.64, 12.58, 48, Outcome.LEAKS_CHARGE),  # two days are enough: 2.3 % a day
            (12.64, 12.59, 48, Outcome.SOUND),  # 1.7 % a day
            (12.64, 12.61, 48, Outcome.SOUND),  # a digit more than the meter's: 0.4 % a day
        ):
            with self.subTest(start=start, end=end, hours=hours):
                found = late(start, end, hours)
                self.assertEqual(found.points_to, points_to, found.text)

    def test_over_the_tables_full_what_was_lost_counts_once_the_start_was_at_rest(self) -> None:
        """Some rest higher than the table: from 12.75 V an EFB's top slope is 0.20 V to 25 %; 0.09 V in two days are 4.3 % a day."""
        stood = reading("stand", 3000, start_volts=12.75, volts=12.66, hours=48)
        self.assertEqual(late(12.75, 12.66, 48, "efb").points_to, Outcome.LEAKS_CHARGE)
        for settled in ("rested", "headlamps"):
            judged = judge(volts(12.75, settled=settled), stood, chemistry="efb")
            self.assertNotEqual(judged.outcome, Outcome.LEAKS_CHARGE)


class TheCar(unittest.TestCase):
    def test_it_never_condemns_and_always_says_what_to_look_at(self) -> None:
        table: list[tuple[dict[str, Any], str]] = [
            ({"idle_volts": 12.4}, "not charging"),
            ({"idle_volts": 14.1, "loaded_volts": 13.0}, "not charging"),
            ({"idle_volts": 15.6}, "overcharging"),
            ({"clamp_moves": True}, "clean and tighten"),
            ({"drain_ma": 400}, "to no start"),
            ({"unregistered": True}, "registered"),
            ({"short_trips": True}, "maintainer"),
        ]
        for body, said in table:
            with self.subTest(said):
                judged = judge(volts(12.6), tester(620), reading("car", 9, **body))
                self.assertEqual(judged.outcome, Outcome.SOUND)
                self.assertTrue(judged.look_at_the_car)
                self.assertIn(said, judged.look_at_the_car_why or "")
                self.assertIsNone(judged.findings[2].points_to)

    def test_a_car_that_is_right_is_not_blamed(self) -> None:
        right = reading("car", 9, idle_volts=14.2, loaded_volts=13.9, drain_ma=28)
        self.assertFalse(judge(volts(12.6), tester(620), right, context={"complaint": "slow_crank"}).look_at_the_car)

    def test_a_drain_read_before_the_modules_sleep_waits(self) -> None:
        judged = judge(volts(12.6), tester(620), reading("car", 9, drain_ma=900, modules_asleep=False))
        self.assertFalse(judged.look_at_the_car)
        self.assertEqual(judged.findings[2].status, "doubtful")

    def test_a_drain_is_counted_from_full_and_from_the_charge_it_has(self) -> None:
        def said(rest: float) -> str:
            judged = judge(volts(rest), reading("car", 9, drain_ma=500), capacity_ah_20h=60)
            return judged.look_at_the_car_why or ""

        self.assertIn("from full 2 days to half, 4 days to no start", said(12.6))
        self.assertRegex(said(12.45), r"from the \d\d % it has now (1 day|less than a day) to half, 2 days to no start")
        self.assertRegex(said(12.15), r"from the \d\d % it has now less than a day to no start")
        self.assertIn("it has now no start as it is", said(11.8))

    def test_days_of_a_drain(self) -> None:
        self.assertAlmostEqual(days_until(100, 60, 50, 50) or 0, 25)
        self.assertIsNone(days_until(100, 60, 0, 50))
