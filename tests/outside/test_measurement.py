"""Ranges and decision rules against the metrology they claim to follow."""

import math
import unittest

from scipy.stats import norm
from uncertainties import ufloat

from tests.build import RULES, judge, tester, volts
from vane_check.core.battery.label import Battery, Rating
from vane_check.core.evidence.under_load import internal_resistance_ohm
from vane_check.core.facts.state_of_charge import meter_uncertainty_volts, state_of_charge_range
from vane_check.core.findings.outcomes import Outcome
from vane_check.core.tables import scale_definitions


class Ranges(unittest.TestCase):
    def test_meter_s_half_width_carried_through_the_table_is_linear_propagation(self) -> None:
        """Between two points the table is a line: our range is the package uncertainties' propagation through it."""
        volts_read = 12.35
        half = meter_uncertainty_volts(volts_read, RULES)
        self.assertAlmostEqual(half, 0.005 * volts_read + 0.02, places=9)
        x = ufloat(volts_read, half)
        line = 50 + (x - 12.24) / (12.45 - 12.24) * 25
        found = state_of_charge_range(volts_read, Battery(), RULES)
        self.assertAlmostEqual((found.high_pct - found.low_pct) / 2, line.std_dev, delta=0.02 * line.std_dev)

    def test_resistance_of_a_load_step(self) -> None:
        ohm = (ufloat(12.6, 0.02) - ufloat(10.1, 0.02)) / ufloat(250, 5)
        self.assertAlmostEqual(internal_resistance_ohm(12.6, 10.1, 250), ohm.nominal_value)


class GuardBand(unittest.TestCase):
    """JCGM 106:2012, 8.3: with a guard band as wide as the expanded uncertainty (k = 2) a conforming item measured at
    the acceptance limit is non-conforming with probability of about 2.3 %."""

    def test_a_pass_at_the_edge_of_the_band_is_wrong_in_2_3_per_cent(self) -> None:
        limit, uncertainty = RULES.tester.replace_below_ratio.value, RULES.tester.uncertainty_ratio.value
        edge = limit / (1 - uncertainty)
        standard = edge * uncertainty / 2
        self.assertAlmostEqual(norm.cdf(limit, loc=edge, scale=standard), 0.0228, places=3)

    def test_the_judgement_accepts_and_rejects_at_those_edges(self) -> None:
        limit, uncertainty, rated = RULES.tester.replace_below_ratio.value, RULES.tester.uncertainty_ratio.value, 600
        accept, reject = rated * limit / (1 - uncertainty), rated * limit / (1 + uncertainty)
        for cca, outcome in (
            (math.ceil(accept), Outcome.SOUND),
            (math.floor(accept) - 1, Outcome.CANNOT_TELL),
            (math.ceil(reject), Outcome.CANNOT_TELL),
            (math.floor(reject) - 1, Outcome.WORN_OUT),
        ):
            with self.subTest(cca=cca):
                self.assertEqual(judge(volts(12.6), tester(cca)).outcome, outcome)


class Scales(unittest.TestCase):
    def test_cca_is_sae_j537(self) -> None:
        """SAE J537: amps at -18 C (0 F) for 30 s at or above 7.2 V for a 12 V battery."""
        cca = scale_definitions()["CCA"]
        self.assertEqual((cca.origin.source, cca.origin.standing), ("SAE J537", "published"))
        for part in ("30 s", "7.2 V"):
            self.assertIn(part, cca.definition)
        self.assertEqual(RULES.load.sag_end_volts.value, 7.2)

    def test_cca_is_about_0_8_of_ca(self) -> None:
        """Common practice."""
        self.assertAlmostEqual(Rating.model_validate({"amps": 1000, "scale": "CA"}).cca_amps, 800)

    def test_every_ratio_has_its_spread_and_only_cca_has_none(self) -> None:
        for name, scale in scale_definitions().items():
            self.assertEqual(scale.relative_spread == 0, name == "CCA")
