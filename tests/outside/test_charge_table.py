"""The flooded charge table against electrochemistry, and interpolation against SciPy. The table itself: BCI Battery
Service Manual; the load table: BCI load test."""

import unittest

import numpy as np
from scipy.interpolate import interp1d

from tests.outside.electrochemistry import CELLS, bode_cell_volts, molality_of
from vane_check.core.battery.label import Chemistry
from vane_check.core.facts.state_of_charge import load_min_volts, state_of_charge_pct
from vane_check.core.tables import bci_load_test, charge_tables


class AgainstElectrochemistry(unittest.TestCase):
    def test_flooded_table_is_within_0_03_v_at_all_five_points(self) -> None:
        table = charge_tables()["flooded"]
        self.assertEqual(len(table.specific_gravity), 5)
        for rest_volts, gravity in zip(table.rest_volts_12v, table.specific_gravity, strict=True):
            assert gravity is not None
            self.assertAlmostEqual(CELLS * bode_cell_volts(molality_of(gravity)), rest_volts, delta=0.03)


class AgainstSciPy(unittest.TestCase):
    def test_state_of_charge_between_the_points(self) -> None:
        for chemistry in Chemistry:
            table = charge_tables()[chemistry.value]
            line = interp1d(table.rest_volts_12v, table.state_of_charge_pct)
            for volts in np.linspace(table.rest_volts_12v[0], table.rest_volts_12v[-1], 37):
                self.assertAlmostEqual(state_of_charge_pct(float(volts), chemistry), float(line(volts)), places=9)

    def test_load_limit_between_the_rows_of_the_bci_table(self) -> None:
        """BCI load test: half the rated CCA for 15 s; 9.6 V at 70 F down to 8.5 V at 0 F for a 12 V battery."""
        published_f = {70: 9.6, 60: 9.5, 50: 9.4, 40: 9.3, 30: 9.1, 20: 8.9, 10: 8.7, 0: 8.5}
        for fahrenheit, volts in published_f.items():
            self.assertAlmostEqual(load_min_volts((fahrenheit - 32) / 1.8), volts, delta=0.006)
        line = interp1d(bci_load_test().temperature_c, bci_load_test().min_volts_12v)
        for celsius in np.linspace(-17.8, 21.1, 29):
            self.assertAlmostEqual(load_min_volts(float(celsius)), float(line(celsius)), places=9)
        self.assertEqual(load_min_volts(35), 9.6)
        self.assertAlmostEqual(load_min_volts(21.1, nominal_volts=6), 4.8)
