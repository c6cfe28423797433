"""What holds of every check, tried on those made by chance; against the published tables, read here by numpy and not by us."""

import csv
import unittest
from pathlib import Path

import numpy as np

from tests.core.made_checks import made_checks
from vane_check.core.facts.case import Case
from vane_check.core.findings.kinds import Kind, StepKey
from vane_check.core.findings.outcomes import Finding, Outcome
from vane_check.core.house.rules import HouseRules, house_rules
from vane_check.core.judging.judgement import Judgement, assess
from vane_check.core.judging.limits import limits_of
from vane_check.core.readings.check import Check

TABLES = Path(__file__).parents[2] / "vane_check" / "core" / "tables"
JUDGED: list[tuple[Check, HouseRules, Judgement]] = []
CONDEMNED = {Outcome.WORN_OUT, Outcome.DEAD_CELL, Outcome.LEAKS_CHARGE}


def setUpModule() -> None:
    for made in made_checks():
        check, rules = Check.model_validate(made["check"]), house_rules(made["school"])
        JUDGED.append((check, rules, assess(check, rules)))


def tearDownModule() -> None:
    JUDGED.clear()


def rows(table: str) -> list[dict[str, str]]:
    with (TABLES / f"{table}.csv").open(encoding="utf-8") as file:
        return list(csv.DictReader(file))


class Reach(unittest.TestCase):
    def test_every_outcome_every_kind_of_finding_and_most_steps(self) -> None:
        self.assertEqual({judged.outcome for _, _, judged in JUDGED}, set(Outcome))
        kinds = {found.kind for _, _, judged in JUDGED for found in judged.findings}
        self.assertEqual(kinds, set(Kind) - {Kind.WITHDRAWAL})
        self.assertGreaterEqual(len({judged.next_step.key for _, _, judged in JUDGED} & set(StepKey)), 14)


class Cited(unittest.TestCase):
    """Common practice: a figure is only as good as its source, and what does not count weighs nothing."""

    def each(self) -> list[tuple[HouseRules, Finding]]:
        return [(rules, found) for _, rules, judged in JUDGED for found in judged.findings]

    def test_a_finding_that_cites_a_rule_gives_that_rule_s_source_or_that_of_a_table(self) -> None:
        of_tables = {
            row["source"] or "common practice"
            for table in TABLES.glob("*.csv")
            for row in rows(table.stem)
            if "source" in row
        }
        for rules, found in self.each():
            of_rule = {rules.parameter(found.rule).source} if "." in found.rule else set()
            self.assertIn(found.source, of_rule | of_tables | {"common practice"}, found.rule)

    def test_what_fell_off_weighs_nothing_points_nowhere_and_says_why(self) -> None:
        for _, found in self.each():
            self.assertTrue(0 <= found.weight <= 1, found)
            if found.status == "dropped":
                self.assertEqual(found.weight, 0, found)
                self.assertTrue(found.why_not, found)

    def test_a_condemned_battery_has_a_counted_finding_that_condemns_it(self) -> None:
        for _, _, judged in JUDGED:
            if judged.outcome in CONDEMNED:
                for_it = [
                    found for found in judged.findings if found.points_to in CONDEMNED and found.status == "counts"
                ]
                self.assertTrue(for_it, judged.headline)
                self.assertGreater(judged.confidence, 0)


class AgainstTables(unittest.TestCase):
    """Volts against charge and the load test's volts, as the tables have them (BCI Battery Service Manual; BCI load test table)."""

    def test_charge_from_volts_by_numpy(self) -> None:
        for check, _, judged in JUDGED:
            charge = judged.state_of_charge
            if charge is None or charge.rest_volts is None or charge.rules_by != "volts" or charge.at_most:
                continue
            table = sorted(
                (float(row["rest_volts_12v"]), float(row["state_of_charge_pct"]))
                for row in rows("state-of-charge")
                if row["chemistry"] == check.battery.chemistry.value
            )
            off, scale = charge.meter_uncertainty_volts or 0.0, 12 / check.battery.nominal_volts
            ends = [np.interp((charge.rest_volts + sign * off) * scale, *zip(*table, strict=True)) for sign in (-1, 1)]
            np.testing.assert_allclose((charge.low_pct, charge.high_pct), ends, atol=1e-9)

    def test_half_the_cca_and_the_table_s_volts(self) -> None:
        table = sorted((float(row["temperature_c"]), float(row["min_volts_12v"])) for row in rows("bci-load-test"))
        for check, rules, _ in JUDGED:
            case = Case.of(check, rules)
            load, rating = limits_of(case).load, check.battery.rating
            warmth = case.temperature_c if case.temperature_c is not None else 21.1
            volts = np.interp(warmth, *zip(*table, strict=True)) * check.battery.nominal_volts / 12
            self.assertAlmostEqual(load.min_volts, volts, places=9)
            if rating is not None and rating.scale.value == "CCA" and case.rated is not None and load.amps is not None:
                self.assertLessEqual(load.amps, max(rating.amps / 2, rules.load.max_amps.value))


class Safe(unittest.TestCase):
    """Common practice: a bulged, cracked, leaking, hot or frozen battery is neither tested nor charged."""

    def test_a_danger_that_stands_closes_everything(self) -> None:
        dangers = {"bulged", "cracked", "leaking", "hot", "frozen"}
        for check, _, judged in JUDGED:
            looks = [one for one in check.readings if one.kind == "look"]
            taken_back = {one.replaces for one in check.readings if one.kind == "withdrawal"}
            standing = [
                one for one in looks if one.id not in taken_back and dangers & {mark.sign.value for mark in one.marks}
            ]
            if standing and standing[-1] is looks[-1]:
                self.assertEqual(judged.outcome, Outcome.UNSAFE, judged.headline)
                self.assertEqual(judged.next_step.key, StepKey.HOLD_APART, judged.headline)


if __name__ == "__main__":
    unittest.main()
