"""What must hold for each kind of evidence, tried by hypothesis on drawn readings."""

import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.build import RULES, check, judge, reading, tester, volts
from vane_check.core.battery.label import Battery, Chemistry, Rating, RatingScale
from vane_check.core.facts.gravity import corrected_gravity, freezing_point_c
from vane_check.core.facts.state_of_charge import (
    load_min_volts,
    recharge_line_volts,
    state_of_charge_pct,
    state_of_charge_range,
)
from vane_check.core.findings.outcomes import FAILED, Outcome
from vane_check.core.readings import AnyReading
from vane_check.core.readings.check import CheckFile, parse_check

GOODNESS = {outcome: 0 for outcome in Outcome} | {
    Outcome.WATCH: 1, Outcome.CANNOT_TELL: 2, Outcome.NEEDS_CHARGE: 3, Outcome.SOUND: 4,
}  # fmt: skip
chemistries = st.sampled_from(list(Chemistry))
some_volts = st.floats(9, 13.5)
temperatures = st.floats(-17, 45)
CHARGED = volts(12.62)


def good(judged: Any) -> int:
    return GOODNESS[judged.outcome]


class Loads(unittest.TestCase):
    @settings(max_examples=120, deadline=None)
    @given(st.floats(6, 12), st.floats(6, 12), st.floats(100, 300), temperatures)
    def test_more_volts_under_load_never_make_it_worse(
        self, one: float, other: float, amps: float, celsius: float
    ) -> None:
        low, high = sorted((one, other))
        fields = {"amps": amps, "seconds": 15, "temperature_c": max(celsius, 1)}
        worse, better = (
            judge(CHARGED, tester(455), reading("adjustable_load", 5, volts=v, **fields)) for v in (low, high)
        )
        self.assertGreaterEqual(good(better), good(worse))

    @settings(max_examples=80, deadline=None)
    @given(st.floats(6, 12), st.floats(50, 280))
    def test_a_smaller_load_never_passes(self, value: float, amps: float) -> None:
        judged = judge(CHARGED, tester(455), reading("adjustable_load", 5, volts=value, amps=amps, seconds=15))
        self.assertIsNot(judged.outcome, Outcome.SOUND)

    @settings(max_examples=80, deadline=None)
    @given(temperatures, temperatures)
    def test_the_limit_never_rises_as_it_gets_colder(self, one: float, other: float) -> None:
        cold, warm = sorted((one, other))
        self.assertLessEqual(load_min_volts(cold), load_min_volts(warm))
        self.assertAlmostEqual(load_min_volts(cold, 6), load_min_volts(cold) / 2)

    @settings(max_examples=80, deadline=None)
    @given(st.floats(5, 12), st.floats(1, 20))
    def test_a_crank_alone_never_condemns(self, value: float, seconds: float) -> None:
        judged = judge(CHARGED, reading("crank", 5, volts=value, seconds=seconds))
        self.assertNotIn(judged.outcome, FAILED)


class Charge(unittest.TestCase):
    @settings(max_examples=150, deadline=None)
    @given(some_volts, some_volts, chemistries)
    def test_more_volts_mean_no_less_charge_and_ranges_hold_the_reading(
        self, one: float, other: float, chemistry: Chemistry
    ) -> None:
        low, high = sorted((one, other))
        self.assertLessEqual(state_of_charge_pct(low, chemistry), state_of_charge_pct(high, chemistry))
        found = state_of_charge_range(low, Battery(chemistry=chemistry), RULES)
        self.assertTrue(0 <= found.low_pct <= state_of_charge_pct(low, chemistry) <= found.high_pct <= 100)

    @settings(max_examples=100, deadline=None)
    @given(st.floats(4.5, 6.8), chemistries)
    def test_a_6_v_battery_is_read_as_half(self, value: float, chemistry: Chemistry) -> None:
        self.assertAlmostEqual(state_of_charge_pct(value, chemistry, 6), state_of_charge_pct(2 * value, chemistry, 12))
        small, large = (Battery(chemistry=chemistry, nominal_volts=nominal) for nominal in (6, 12))
        self.assertAlmostEqual(2 * recharge_line_volts(small, RULES), recharge_line_volts(large, RULES))

    @settings(max_examples=100, deadline=None)
    @given(st.floats(9, 12.3), st.floats(0, 1100), st.booleans())
    def test_a_flat_battery_is_never_called_worn_out_by_the_tester(
        self, value: float, cca: float, message: bool
    ) -> None:
        judged = judge(volts(value), tester(cca, message="replace" if message else None))
        self.assertIsNot(judged.outcome, Outcome.WORN_OUT)

    @settings(max_examples=100, deadline=None)
    @given(st.floats(0.5, 20), st.floats(0, 20), st.floats(10, 15), st.floats(0, 40))
    def test_a_current_that_falls_marks_no_cell(self, start: float, share: float, value: float, hours: float) -> None:
        falling = {"start_amps": start, "amps": min(start * share / 25, start), "volts": value, "hours": hours}
        found = judge(reading("charge_run", **falling)).findings[0]
        self.assertIsNot(found.points_to, Outcome.DEAD_CELL)


class Acid(unittest.TestCase):
    @settings(max_examples=100, deadline=None)
    @given(st.floats(1.05, 1.35), st.floats(-20, 50), st.floats(-20, 50))
    def test_correction_rises_with_temperature_and_keeps_differences(
        self, gravity: float, one: float, other: float
    ) -> None:
        cold, warm = sorted((one, other))
        self.assertLessEqual(corrected_gravity(gravity, cold, RULES), corrected_gravity(gravity, warm, RULES))
        shift = corrected_gravity(gravity, cold, RULES) - gravity
        self.assertAlmostEqual(corrected_gravity(gravity + 0.05, cold, RULES), gravity + 0.05 + shift)

    @settings(max_examples=100, deadline=None)
    @given(st.floats(1.0, 1.28), st.floats(1.0, 1.28))
    def test_stronger_acid_freezes_no_sooner(self, one: float, other: float) -> None:
        weak, strong = sorted((one, other))
        self.assertGreaterEqual(freezing_point_c(weak), freezing_point_c(strong))

    @settings(max_examples=100, deadline=None)
    @given(st.lists(st.floats(1.10, 1.25), min_size=6, max_size=6), st.floats(0, 0.05), st.booleans())
    def test_shifting_every_cell_alike_never_makes_a_dead_one(
        self, cells: list[float], shift: float, after: bool
    ) -> None:
        def dead(row: list[float]) -> bool:
            body = reading("cells", 2, specific_gravities=row, after_full_charge=after)
            return judge(body, has_caps=True).findings[0].points_to is Outcome.DEAD_CELL

        self.assertEqual(dead(cells), dead([gravity + shift for gravity in cells]))


class Labels(unittest.TestCase):
    @settings(max_examples=80, deadline=None)
    @given(st.floats(100, 1500), st.sampled_from([scale for scale in RatingScale if scale is not RatingScale.JIS]))
    def test_every_scale_converts_to_a_positive_cca_with_its_spread(self, amps: float, scale: RatingScale) -> None:
        found = Rating(amps=amps, scale=scale)
        self.assertGreater(found.cca_amps, 0)
        self.assertTrue(0 <= found.relative_spread < 0.2)
        self.assertEqual(found.cca_amps == amps, scale is RatingScale.CCA)

    @settings(max_examples=80, deadline=None)
    @given(st.floats(0.3, 1.2), st.sampled_from(["EN", "DIN", "CA", "IEC"]))
    def test_the_verdict_on_one_scale_is_the_verdict_on_cca(self, ratio: float, scale: str) -> None:
        on_cca = judge(CHARGED, tester(ratio * 600), rated=600)
        on_scale = judge(
            CHARGED, tester(ratio * 600, scale_set=scale), rated=None, rating={"amps": 600, "scale": scale}
        )
        self.assertEqual(on_cca.outcome, on_scale.outcome)


class Files(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(st.lists(st.one_of(st.builds(volts, some_volts), st.builds(tester, st.floats(0, 900))), max_size=5))
    def test_a_check_comes_back_from_its_file_as_it_was(self, readings: list[AnyReading]) -> None:
        written = CheckFile.model_validate({**check(*readings).model_dump(mode="json"), "format": "vane-check/1"})
        self.assertEqual(parse_check(written.model_dump_json()), written)

    @settings(max_examples=60, deadline=None)
    @given(
        st.lists(st.one_of(st.builds(volts, some_volts), st.builds(tester, st.floats(0, 900))), min_size=1, max_size=4),
        st.data(),
    )
    def test_taking_an_entry_back_is_as_if_it_had_never_been_read(
        self, readings: list[AnyReading], data: st.DataObject
    ) -> None:
        named = [one.model_copy(update={"id": str(place)}) for place, one in enumerate(readings)]
        place = data.draw(st.integers(0, len(named) - 1))
        back = reading("withdrawal", 500, replaces=str(place))
        self.assertEqual(judge(*named, back), judge(*(one for one in named if one.id != str(place))))
