"""Held against a limit in whole steps of the instrument: as exact decimals say, whatever binary makes of them."""

import unittest
from decimal import Decimal

from hypothesis import given
from hypothesis import strategies as st

from vane_check.core.battery.label import Battery
from vane_check.core.facts.state_of_charge import recharge_line_volts, surface_charge_volts
from vane_check.core.house.rules import house_rules
from vane_check.core.units.compare import (
    AMPS,
    CELSIUS,
    GRAVITY,
    HOURS,
    MILLIAMPS,
    MINUTES,
    PERCENT,
    RATIO,
    SECONDS,
    TENTH_AMP,
    VOLTS,
    at_least,
    over,
    rounded,
    steps_of,
    under,
)

STEPS = {
    "0.01": VOLTS, "0.001": GRAVITY, "1": AMPS, "0.1": PERCENT,
}  # fmt: skip
whole = st.integers(-100_000, 100_000)


class Compare(unittest.TestCase):
    def test_the_steps_are_those_of_the_table(self) -> None:
        found = (VOLTS, GRAVITY, AMPS, TENTH_AMP, RATIO, PERCENT, SECONDS, MINUTES, HOURS, CELSIUS, MILLIAMPS)
        self.assertEqual(found, (0.01, 0.001, 1, 0.1, 0.001, 0.1, 0.1, 0.1, 0.01, 0.1, 1))

    @given(whole, whole, whole, st.sampled_from(list(STEPS)))
    def test_sums_and_differences_compare_as_decimals_do(self, one: int, other: int, limit: int, step: str) -> None:
        exact = Decimal(step)
        value = float(one * exact) - float(other * exact)
        line = float(limit * exact)
        said = (one - other) - limit
        self.assertEqual(
            (under(value, line, STEPS[step]), over(value, line, STEPS[step]), at_least(value, line, STEPS[step])),
            (said < 0, said > 0, said >= 0),
        )

    @given(st.floats(-1e4, 1e4), st.floats(-1e4, 1e4), st.sampled_from(list(STEPS.values())))
    def test_of_two_figures_one_thing_holds(self, one: float, other: float, step: float) -> None:
        self.assertEqual(under(one, other, step), over(other, one, step))
        self.assertLessEqual(under(one, other, step) + over(one, other, step), 1)
        self.assertEqual(at_least(one, other, step), not under(one, other, step))

    @given(st.floats(-1e4, 1e4), st.sampled_from(list(STEPS.values())))
    def test_a_rounded_figure_is_in_the_same_step(self, value: float, step: float) -> None:
        self.assertEqual(steps_of(rounded(value, step), step), steps_of(value, step))
        self.assertLessEqual(abs(rounded(value, step) - value), step * 0.51)

    def test_half_a_step_goes_up(self) -> None:
        self.assertEqual([steps_of(value, VOLTS) for value in (12.454, 12.455, 12.456, -0.005)], [1245, 1246, 1246, 0])

    def test_lines_carry_no_noise(self) -> None:
        rules = house_rules()
        for chemistry, line, surface in (("efb", 12.45, 12.95), ("calcium", 12.55, 13.05), ("flooded", 12.4, 12.9)):
            battery = Battery.model_validate({"chemistry": chemistry})
            self.assertEqual(
                (recharge_line_volts(battery, rules), surface_charge_volts(battery, rules)), (line, surface)
            )
            small = Battery.model_validate({"chemistry": chemistry, "nominal_volts": 6})
            self.assertEqual(recharge_line_volts(small, rules), line / 2)
