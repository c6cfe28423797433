"""Every threshold of the house's rules, just under it and just over it. Figures come from the rules, not from here."""

import unittest
from typing import Any

from tests.build import RULES, judge, look, reading, tester, volts
from vane_check.core.charge import meter_uncertainty_volts
from vane_check.core.outcomes import Finding, Outcome

A_LITTLE = 1e-6
LINE = RULES.recharge_line_volts.value
CHARGED = volts(12.62)


def last(*readings: Any, **battery: Any) -> Finding:
    """The finding of the last reading."""
    found = [one for one in judge(*readings, **battery).findings if one.kind == readings[-1].kind]
    return found[-1]


class Volts(unittest.TestCase):
    def test_recharge_line(self) -> None:
        off = meter_uncertainty_volts(LINE, RULES)
        for value, points_to, status in (
            (LINE - off - 0.01, Outcome.NEEDS_CHARGE, "counts"),
            (LINE - A_LITTLE, Outcome.NEEDS_CHARGE, "doubtful"),
            (LINE, Outcome.SOUND, "doubtful"),
            (LINE + off + 0.01, Outcome.SOUND, "counts"),
        ):
            with self.subTest(value=value):
                found = last(volts(value))
                self.assertEqual((found.points_to, found.status), (points_to, status))

    def test_each_chemistry_has_its_own_line(self) -> None:
        for chemistry, offset in RULES.chemistry_rest_offset_volts.value.items():
            with self.subTest(chemistry):
                low, high = (last(volts(LINE + offset + side), chemistry=chemistry) for side in (-0.01, 0.01))
                self.assertEqual((low.points_to, high.points_to), (Outcome.NEEDS_CHARGE, Outcome.SOUND))

    def test_surface_charge_charging_and_doubt(self) -> None:
        surface, charging, doubt = (
            RULES.surface_charge_volts.value, RULES.charging_volts.value, RULES.doubt_below_volts.value,
        )  # fmt: skip
        for value, remedy in (
            (surface, None),
            (surface + 0.01, "settle"),
            (charging - A_LITTLE, "settle"),
            (charging, "measure_again"),
            (doubt, None),
            (doubt - 0.01, "measure_again"),
        ):
            with self.subTest(value=value):
                found = last(volts(value))
                self.assertEqual(found.remedy, remedy)
                self.assertEqual(found.status == "dropped", remedy is not None)

    def test_window_of_a_missing_cell(self) -> None:
        window, live = RULES.dead_cell_window_volts.value, 5 * RULES.live_cell_volts.value
        for value, dead in ((live - window + 0.01, True), (live + window - 0.01, True), (live + window + 0.05, False)):
            with self.subTest(value=value):
                found = last(volts(value, after_full_charge=True))
                self.assertEqual(found.points_to is Outcome.DEAD_CELL, dead)

    def test_hours_of_standing(self) -> None:
        hours = RULES.stand_hours.value
        for stood, leaks in ((hours - 0.1, False), (hours, True)):
            found = last(volts(12.0, after_full_charge=True, rested_hours=stood))
            self.assertEqual(found.points_to is Outcome.LEAKS_CHARGE, leaks)


class Tester(unittest.TestCase):
    def test_guard_band_on_both_sides(self) -> None:
        limit, off = RULES.replace_below_ratio.value, RULES.tester_uncertainty_ratio.value
        for ratio, points_to in (
            (limit / (1 + off) - 0.001, Outcome.WORN_OUT),
            (limit / (1 + off) + 0.001, Outcome.CANNOT_TELL),
            (limit / (1 - off) - 0.001, Outcome.CANNOT_TELL),
            (limit / (1 - off) + 0.001, Outcome.SOUND),
        ):
            with self.subTest(ratio=ratio):
                self.assertEqual(last(CHARGED, tester(600 * ratio)).points_to, points_to)

    def test_absurd_figures(self) -> None:
        most = 600 * RULES.absurd_ratio.value
        self.assertEqual(last(CHARGED, tester(most)).status, "counts")
        self.assertEqual(last(CHARGED, tester(most + 1)).status, "dropped")

    def test_how_near_in_time_the_volts_must_be(self) -> None:
        minutes = RULES.pairing_minutes.value
        near, far = (judge(CHARGED, tester(300, gap)).outcome for gap in (minutes, minutes + 1))
        self.assertEqual((near, far), (Outcome.WORN_OUT, Outcome.CANNOT_TELL))

    def test_no_verdict_hangs_on_a_hundredth_of_a_volt(self) -> None:
        off = meter_uncertainty_volts(LINE, RULES)
        for value in (LINE - 0.01, LINE, LINE + 0.01, LINE + off - 0.01):
            with self.subTest(value=value):
                self.assertEqual(judge(volts(value), tester(250)).outcome, Outcome.NEEDS_CHARGE)
        self.assertEqual(judge(volts(LINE + off + 0.01), tester(250)).outcome, Outcome.WORN_OUT)


class Loads(unittest.TestCase):
    def pull(self, value: float, **body: Any) -> Finding:
        return last(CHARGED, reading("adjustable_load", 5, **{"volts": value, "amps": 300, "seconds": 15, **body}))

    def test_size_and_time_of_a_pull(self) -> None:
        enough, too_much = RULES.load_enough_ratio.value, RULES.load_too_much_ratio.value
        self.assertEqual(self.pull(10.4, amps=300 * enough).status, "counts")
        self.assertEqual(self.pull(10.4, amps=300 * enough - 1).status, "dropped")
        self.assertEqual(self.pull(10.4, seconds=15 * enough).status, "counts")
        self.assertEqual(self.pull(10.4, seconds=15 * enough - 0.1).status, "dropped")
        self.assertEqual(self.pull(8.5, amps=300 * too_much).points_to, Outcome.WORN_OUT)
        self.assertEqual(self.pull(8.5, amps=300 * too_much + 1).status, "dropped")

    def test_the_meter_s_width_around_the_limit(self) -> None:
        off = meter_uncertainty_volts(9.6, RULES)
        for value, points_to in (
            (9.6 - off - 0.01, Outcome.WORN_OUT),
            (9.6 - off + 0.01, Outcome.CANNOT_TELL),
            (9.6 + off - 0.01, Outcome.CANNOT_TELL),
            (9.6 + off + 0.02, Outcome.SOUND),
        ):
            with self.subTest(value=value):
                self.assertEqual(self.pull(value).points_to, points_to)

    def test_fixed_load_s_bands(self) -> None:
        floor, good, bounce = (
            RULES.fixed_floor_volts.value, RULES.fixed_good_volts.value, RULES.bounce_volts.value,
        )  # fmt: skip
        for value, back, points_to in (
            (floor - 0.1, 12.4, Outcome.WORN_OUT),
            (floor, 12.4, Outcome.CANNOT_TELL),
            (good - 0.1, 12.4, Outcome.CANNOT_TELL),
            (good, 12.4, Outcome.SOUND),
            (good, bounce - 0.1, Outcome.WORN_OUT),
        ):
            with self.subTest(value=value, back=back):
                body = reading("fixed_load", 5, volts=value, seconds=RULES.fixed_seconds.value, bounce_volts=back)
                self.assertEqual(last(CHARGED, body, rated=190).points_to, points_to)

    def test_crank_s_floor_and_time(self) -> None:
        floor, seconds = RULES.crank_floor_volts.value, RULES.crank_seconds.value
        for value, held, points_to in (
            (floor, seconds, Outcome.SOUND),
            (floor - 0.1, seconds, Outcome.CANNOT_TELL),
            (floor, seconds - 0.5, None),
        ):
            with self.subTest(value=value, held=held):
                self.assertEqual(last(CHARGED, reading("crank", 5, volts=value, seconds=held)).points_to, points_to)


class Rest(unittest.TestCase):
    def test_leakage(self) -> None:
        limit = RULES.leakage_volts.value
        self.assertEqual(last(reading("case_leakage", volts=limit)).status, "counts")
        self.assertEqual(last(reading("case_leakage", volts=limit + 0.01)).status, "doubtful")

    def test_gravity(self) -> None:
        healthy, flat = RULES.gravity_healthy.value, RULES.gravity_discharged.value
        for level, points_to in (
            (flat, Outcome.WORN_OUT),
            (flat + 0.001, Outcome.CANNOT_TELL),
            (healthy, Outcome.SOUND),
        ):
            with self.subTest(level=level):
                found = last(reading("cells", specific_gravities=[level] * 6, after_full_charge=True))
                self.assertEqual(found.points_to, points_to)

    def test_a_current_that_stays(self) -> None:
        hours, share, amps = RULES.stuck_hours.value, RULES.stuck_share_of_start.value, RULES.stuck_amps.value
        stuck = {"start_amps": 8, "amps": 8, "volts": 12.4, "hours": hours}
        for change, dead in (
            ({}, True),
            ({"hours": hours - 0.1}, False),
            ({"amps": 8 * share - 0.1}, False),
            ({"start_amps": amps, "amps": amps}, True),
            ({"start_amps": amps - 0.1, "amps": amps - 0.1}, False),
            ({"volts": 14.4 - RULES.stuck_below_absorption_volts.value}, False),
        ):
            with self.subTest(change):
                found = last(reading("charge_run", **{**stuck, **change}))
                self.assertEqual(found.points_to is Outcome.DEAD_CELL, dead)

    def test_the_car(self) -> None:
        low, high, drain = RULES.running_low_volts.value, RULES.running_high_volts.value, RULES.drain_ma.value
        for body, blamed in (
            ({"idle_volts": low}, False),
            ({"idle_volts": low - 0.1}, True),
            ({"loaded_volts": high}, False),
            ({"loaded_volts": high + 0.1}, True),
            ({"drain_ma": drain}, False),
            ({"drain_ma": drain + 1}, True),
        ):
            with self.subTest(body):
                self.assertEqual(judge(CHARGED, tester(620), reading("car", 5, **body)).look_at_the_car, blamed)

    def test_six_volts_is_half_of_everything(self) -> None:
        for value, kind in ((LINE / 2 - 0.05, Outcome.NEEDS_CHARGE), (LINE / 2 + 0.1, Outcome.SOUND)):
            self.assertEqual(last(volts(value), nominal_volts=6).points_to, kind)
        surface = last(volts(RULES.surface_charge_volts.value / 2 + 0.02), nominal_volts=6)
        self.assertEqual(surface.remedy, "settle")
        self.assertEqual(judge(look("leaking"), nominal_volts=6).outcome, Outcome.UNSAFE)
