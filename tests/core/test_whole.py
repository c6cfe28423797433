"""What must hang together across the project: rules that are used, words for every name, cautions where hazards arise."""

import ast
import json
import re
import unittest
from pathlib import Path
from typing import Any

from tests.build import check, judge, look, reading, tester, volts
from tests.core.test_worked_cases import CASES
from vane_check.core.findings.outcomes import FAILED, Outcome
from vane_check.core.house.rules import SCHOOLS, Parameter, house_rules
from vane_check.core.judging.judgement import assess
from vane_check.core.readings import METHODS
from vane_check.core.tables import cautions

ROOT = Path(__file__).parents[2]
WORDS = (ROOT / "front" / "src" / "kit" / "words.ts").read_text()
RUNGS = ROOT / "front" / "src" / "desks" / "check" / "methods"
TABLES = {"settings_as_on_the_label", "was_dry", "wrong_type", "fresh_filling", "newest_stands"}
"""What a finding may rest on that is no rule: a table with a source of its own."""


def schema(name: str) -> dict[str, Any]:
    found: dict[str, Any] = json.loads((ROOT / "front" / "openapi.json").read_text())["components"]["schemas"][name]
    return found


class Rules(unittest.TestCase):
    def test_every_rule_is_read_somewhere(self) -> None:
        core = "\n".join(
            path.read_text() for path in (ROOT / "vane_check" / "core").rglob("*.py") if "rules" not in path.parts
        )
        for path in house_rules().parameters():
            with self.subTest(path):
                self.assertRegex(core, rf'rules\.{path}\b|"{path}"|rules_for\(\w+\)\.{path}\b')

    def test_every_rule_a_finding_names_is_a_rule(self) -> None:
        rules = house_rules()
        for battery, lines in CASES.values():
            for found in assess(check(*(line.read for line in lines), **battery), rules).findings:
                if found.rule not in TABLES:
                    self.assertIsInstance(rules.parameter(found.rule), Parameter)

    def test_no_school_passes_what_another_condemns(self) -> None:
        for name, (battery, lines) in CASES.items():
            outcomes = {
                assess(check(*(line.read for line in lines), **battery), house_rules(school)).outcome
                for school in SCHOOLS
            }
            with self.subTest(name):
                self.assertFalse(outcomes & FAILED and Outcome.SOUND in outcomes, outcomes)
                if Outcome.UNSAFE in outcomes:
                    self.assertEqual(outcomes, {Outcome.UNSAFE})


class Records(unittest.TestCase):
    def test_nothing_of_the_core_is_imported_late(self) -> None:
        late = [
            f"{path.relative_to(ROOT)}:{node.lineno}"
            for path in (ROOT / "vane_check" / "core").rglob("*.py")
            for node in ast.walk(ast.parse(path.read_text()))
            if isinstance(node, ast.Import | ast.ImportFrom) and node.col_offset
        ]
        self.assertEqual(late, [])

    def test_nothing_writes_into_an_object_s_dictionary(self) -> None:
        reaches = [
            f"{path.relative_to(ROOT)}:{node.lineno}"
            for path in (ROOT / "vane_check").rglob("*.py")
            for node in ast.walk(ast.parse(path.read_text()))
            if isinstance(node, ast.Attribute) and node.attr == "__dict__"
        ]
        self.assertEqual(reaches, [])


class Words(unittest.TestCase):
    def test_every_name_of_the_api_has_its_word_on_screen(self) -> None:
        for name in (
            "Outcome", "Chemistry", "CameIn", "Complaint", "Use", "Sign", "Corrosion", "Level", "Eye", "CellState",
            "Needle", "Settled", "TypeSet", "Clamped", "TesterMessage",
        ):  # fmt: skip
            for value in schema(name)["enum"]:
                with self.subTest(name, value=value):
                    self.assertRegex(WORDS, rf"\b{re.escape(value)}: ")

    def test_every_step_has_its_word_on_the_shelf(self) -> None:
        hands = WORDS[WORDS.index("HANDS") :]
        for key in house_rules().steps.minutes.value:
            with self.subTest(key):
                self.assertRegex(hands, rf"\b{key}: ")

    def test_every_outcome_has_a_headline(self) -> None:
        self.assertTrue(all(outcome.headline and outcome.plain for outcome in Outcome))

    def test_every_rung_has_a_letter_of_its_own(self) -> None:
        letters = [
            letter
            for path in sorted(RUNGS.glob("*.tsx"))
            for letter in re.findall(r'letter: "(⇧?\w)",\n  quiet', path.read_text())
        ]
        self.assertEqual(len(letters), len(METHODS))
        self.assertEqual(len(set(letters)), len(letters))


class Cautions(unittest.TestCase):
    def test_every_rung_that_can_hurt_says_so(self) -> None:
        said = {caution.where for caution in cautions()}
        harmless = {"stand"}  # off everything
        kinds = {str(method.kind) for method in METHODS} - harmless
        for kind in sorted(kinds | {"take_in", "hold_apart", "charge_and_retest", "load_test", "fit", "slip"}):
            with self.subTest(kind):
                self.assertIn(kind, said)

    def test_they_defer_to_makers_and_local_rules(self) -> None:
        words = " ".join(str(caution.text) for caution in cautions())
        for said in ("vehicle maker", "local rules", "Ventilate", "eye protection", "negative first"):
            self.assertIn(said, words)
        safety = (ROOT / "docs" / "safety.md").read_text()
        for said in ("Eye protection", "negative first", "frozen", "licensed"):
            self.assertIn(said, safety)


class Citations(unittest.TestCase):
    """A reading that fell off cites what dropped it, and says what that asks for; never the rule it would have been held against."""

    def cited(self, *readings: Any, **battery: Any) -> tuple[str, str, str]:
        kind = battery.pop("kind", None)
        found = next(
            one for one in judge(*readings, **battery).findings if one.status == "dropped" and kind in {None, one.kind}
        )
        return found.rule, found.source, found.limit_text

    def test_a_tester_s_figure(self) -> None:
        cold = self.cited(volts(12.65, temperature_c=-25), tester(500))
        self.assertEqual((cold[0], cold[1]), ("tester.void_c", house_rules().tester.void_c.source))
        self.assertIn("°C up", cold[2])
        told = self.cited(volts(12.1), tester(300, charge_setting="after"))
        self.assertEqual((told[0], told[2]), ("rest.recharge_line_volts", "charged from 12.40 V"))
        double = self.cited(volts(12.65), tester(1300))
        self.assertEqual((double[0], double[2]), ("tester.absurd_ratio", "at most 1200 CCA"))
        unrated = self.cited(volts(12.65), tester(500), rated=None)
        self.assertEqual(unrated[0], "tester.replace_below_ratio")
        wrong = self.cited(volts(12.65), tester(500, type_set="gel"))
        self.assertEqual((wrong[0], wrong[2]), ("settings_as_on_the_label", "settings as on the label"))

    def test_what_was_read_again_since(self) -> None:
        self.assertEqual(self.cited(volts(12.3), volts(12.7, 30))[:2], ("newest_stands", "common practice"))
        charged = reading("charge_run", 600, start_amps=6, amps=0.3, volts=14.4, hours=9, finished=True)
        self.assertEqual(self.cited(volts(12.1), charged)[:2], ("newest_stands", "common practice"))
        filled = self.cited(
            look(levels=["plates_bare"] * 6, minutes=-20), tester(300, -10), look(levels=["right"] * 6, minutes=5),
            has_caps=True, kind="electronic_tester",
        )  # fmt: skip
        self.assertEqual(filled[:2], ("fresh_filling", "common practice"))
