"""Unit conversions against the package pint."""

import unittest

import pint

from vane_check.core.units.conversions import celsius_of, fahrenheit_of, inches_of

UNITS: pint.UnitRegistry[float] = pint.UnitRegistry()


class AgainstPint(unittest.TestCase):
    def test_temperatures_both_ways(self) -> None:
        for value in (-40.0, -17.8, 0.0, 21.1, 26.7, 60.0):
            self.assertAlmostEqual(fahrenheit_of(value), UNITS.Quantity(value, "degC").to("degF").magnitude, places=6)
            self.assertAlmostEqual(celsius_of(value), UNITS.Quantity(value, "degF").to("degC").magnitude, places=6)

    def test_lengths(self) -> None:
        for length_mm in (1.0, 190.0, 278.0):
            self.assertAlmostEqual(inches_of(length_mm), UNITS.Quantity(length_mm, "mm").to("inch").magnitude, places=9)
