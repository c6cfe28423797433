"""Hydrometer correction, cell volts and freezing against published acid data."""

import unittest

import numpy as np

from tests.build import RULES
from tests.outside.electrochemistry import bode_cell_volts, gravity_of, mass_fraction_of, molality_of
from vane_check.core.facts.gravity import corrected_gravity, freezing_point_c
from vane_check.core.tables import handbook_freezing_points

KELVIN = 273.15


class Hydrometer(unittest.TestCase):
    """The trade's 0.004 for each 10 F against the acid's own expansion (Myhre 1998).

    Compared from -10 to 20 C, where the fit is sound; above 25 C the polynomial as packaged bends upwards (acid would
    grow denser when heated), so nothing is read off it there.
    """

    def physical_per_10f(self, true_gravity: float, from_c: float, to_c: float) -> float:
        fraction = mass_fraction_of(true_gravity, 20 + KELVIN)
        fall = gravity_of(fraction, from_c + KELVIN) - gravity_of(fraction, to_c + KELVIN)
        return fall / ((to_c - from_c) * 1.8 / 10)

    def test_both_slopes_side_by_side_for_working_acid(self) -> None:
        for true_gravity, physics in ((1.265, 0.0040), (1.225, 0.0038), (1.190, 0.0036)):
            found = self.physical_per_10f(true_gravity, 0, 20)
            self.assertAlmostEqual(found, physics, delta=0.0003)
            self.assertAlmostEqual(found, RULES.gravity.per_10f.value, delta=0.0008)

    def test_correction_between_two_temperatures_is_within_a_hydrometer_s_reading(self) -> None:
        for true_gravity in (1.120, 1.190, 1.265):
            fraction = mass_fraction_of(true_gravity, 20 + KELVIN)
            for celsius in np.arange(-10, 21, 5):
                cold, warm = (gravity_of(fraction, float(t) + KELVIN) for t in (celsius, 20))
                ours = corrected_gravity(cold, float(celsius), RULES) - corrected_gravity(warm, 20, RULES)
                self.assertLess(abs(ours), RULES.gravity.resolution.value + 0.003)


class CellVolts(unittest.TestCase):
    def test_cell_volts_are_about_gravity_plus_0_845(self) -> None:
        """Common practice, against Bode (1977): within 0.02 V over the working range."""
        for gravity in np.arange(1.12, 1.29, 0.01):
            volts = bode_cell_volts(molality_of(float(gravity)))
            self.assertAlmostEqual(volts, float(gravity) + 0.845, delta=0.02)

    def test_0_05_v_of_a_cell_is_0_050_of_gravity(self) -> None:
        fall = bode_cell_volts(molality_of(1.265)) - bode_cell_volts(molality_of(1.215))
        self.assertAlmostEqual(fall, RULES.cells.suspect_volts.value, delta=0.012)


class Freezing(unittest.TestCase):
    def test_against_the_freezing_curve_of_sulphuric_acid(self) -> None:
        """Points of the published freezing curve of dilute sulphuric acid by mass fraction (CRC Handbook, from memory):
        10 % -4.6 C, 20 % -13.5 C, 25 % -22 C, 30 % -36 C."""
        for fraction, celsius, delta in ((0.10, -4.6, 1.5), (0.20, -13.5, 2.5), (0.25, -22, 3.5), (0.30, -36, 5)):
            gravity = gravity_of(fraction, 293.15) if fraction > 0.1 else 1.067
            self.assertAlmostEqual(freezing_point_c(gravity), celsius, delta=delta)

    def test_more_acid_freezes_later_and_the_ends_hold(self) -> None:
        table = handbook_freezing_points()
        self.assertTrue(np.all(np.diff(table.freezing_point_c) < 0))
        self.assertEqual(freezing_point_c(1.0), 0)
        self.assertEqual(freezing_point_c(1.4), -69)
        self.assertTrue(-16 <= freezing_point_c(1.155) <= -15)
