"""From where to where formulas hold, whose curves are whose, and what each source is."""

import unittest
from csv import DictReader
from pathlib import Path
from typing import Any

from tests.build import judge, look, reading, volts
from vane_check.core.house.rules import house_rules
from vane_check.core.tables import (
    bci_load_test,
    charge_tables,
    handbook_freezing_points,
    model_resistance_ratios,
    practice_cold_shares,
    sources,
    validity,
)

TABLES = Path(__file__).parents[2] / "vane_check" / "core" / "tables"
CHARGED = volts(12.65)


def load(temperature_c: float | None = None, seconds: float = 15, held: float = 9.9) -> Any:
    return reading("adjustable_load", 6, amps=300, seconds=seconds, volts=held, temperature_c=temperature_c)


class Outside(unittest.TestCase):
    def formulas(self, *readings: Any, **battery: Any) -> list[tuple[str, float]]:
        return [(one.formula, one.value) for one in judge(*readings, **battery).outside_validity]

    def test_a_pull_colder_than_the_load_test_s_last_row_says_so(self) -> None:
        """The BCI load test table ends at 0 F, -17.8 C, with 8.5 V."""
        self.assertEqual(self.formulas(CHARGED, load(-17.8)), [])
        self.assertEqual(self.formulas(CHARGED, load(-17.9)), [("bci_load_test", -17.9)])
        self.assertEqual(self.formulas(CHARGED, load(-25)), [("bci_load_test", -25.0), ("model_resistance", -25.0)])
        said = judge(CHARGED, load(-25)).outside_validity[0]
        self.assertEqual((said.low, said.unit, said.words), (-17.8, "°C", "minimum volts under load"))
        self.assertTrue(said.source.startswith("BCI load test table"))

    def test_a_crank_takes_its_cold_allowance_from_the_same_table(self) -> None:
        cold, warm = (reading("crank", 6, volts=9.9, seconds=10, temperature_c=celsius) for celsius in (-20, -17.8))
        self.assertEqual(self.formulas(CHARGED, cold), [("bci_load_test", -20.0)])
        self.assertEqual(self.formulas(CHARGED, warm), [])

    def test_warmth_read_beside_another_reading_is_the_battery_s(self) -> None:
        cold = reading("rest_volts", 1, volts=12.65, settled="rested", temperature_c=-22)
        self.assertIn(("bci_load_test", -22.0), self.formulas(look(), cold, load()))

    def test_each_formula_says_it_once_and_what_fell_off_does_not(self) -> None:
        self.assertEqual(len(self.formulas(CHARGED, load(-17.9), load(-17.9))), 1)
        unrated = judge(CHARGED, load(-17.9, held=8.0), rating=None)  # no rating to size the load by
        self.assertEqual([one.status for one in unrated.findings if one.kind == "adjustable_load"], ["dropped"])
        self.assertEqual(unrated.outside_validity, ())
        colder = judge(CHARGED, load(-25, held=8.0), rating=None)  # its sag is still told
        self.assertEqual([one.formula for one in colder.outside_validity], ["model_resistance"])

    def test_acid_and_reserve(self) -> None:
        cells = reading("cells", 3, specific_gravities=[1.265] * 6, temperature_c=56, after_full_charge=True)
        self.assertEqual(self.formulas(CHARGED, cells), [("gravity_correction", 56.0)])
        reserve = {"minutes": 40, "volts": 10.5, "after_full_charge": True}
        slow = reading("reserve", 9, amps=1, temperature_c=27, **reserve)
        self.assertEqual(self.formulas(CHARGED, slow, capacity_ah_20h=60), [("peukert", round(1 / 60, 3))])
        rated = reading("reserve", 9, amps=25, temperature_c=-3, **reserve)
        self.assertEqual(self.formulas(CHARGED, rated, capacity_ah_20h=60), [("reserve_in_the_cold", -3.0)])

    def test_ends_are_those_of_the_curves(self) -> None:
        ends = {(one.formula, one.figure): (one.low, one.high) for one in validity()}
        lows = {one.low for one in validity() if one.formula == "bci_load_test"}
        self.assertEqual(lows, {min(bci_load_test().temperature_c)})
        for figure in ("temperature_c", "seconds"):
            at = model_resistance_ratios()[figure].at
            self.assertEqual(ends["model_resistance", figure], (at[0], at[-1]))


class Whose(unittest.TestCase):
    def test_a_curve_s_name_says_whose_it_is(self) -> None:
        """Only flooded batteries have a published table of volts against charge (BCI Battery Service Manual)."""
        for chemistry, table in charge_tables().items():
            published = table.origin.standing == "published"
            self.assertEqual(table.curve, f"{'bci' if published else 'practice'}_{chemistry}")
        self.assertEqual([name for name, one in charge_tables().items() if one.curve.startswith("bci")], ["flooded"])
        self.assertEqual(bci_load_test().origin.source, "BCI load test table")
        self.assertEqual(practice_cold_shares()["battery_share"].origin.standing, "practice")
        self.assertEqual(handbook_freezing_points().origin.standing, "memory")

    def test_each_published_source_is_described_once_and_each_description_is_cited(self) -> None:
        rows = [row for name in TABLES.glob("*.csv") if name.name != "sources.csv" for row in DictReader(name.read_text(encoding="utf-8").splitlines())]  # fmt: skip
        named = {source for row in rows if (source := row.get("source"))}
        cited = {row["source"] for row in rows if row.get("standing") == "published"}
        cited |= {rule.source for rule in house_rules().parameters().values() if rule.standing == "published"}
        for source in cited:
            self.assertTrue(any(name in source for name in sources()), source)
        for name in sources():
            self.assertTrue(any(name in source for source in cited | named), name)


if __name__ == "__main__":
    unittest.main()
