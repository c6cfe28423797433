"""What must hang together across the project: rules that are used, words for every name, cautions where hazards arise."""

import json
import re
import unittest
from pathlib import Path
from typing import Any

from tests.build import check
from tests.core.test_worked_cases import CASES
from vane_check.core.findings.outcomes import FAILED, Outcome
from vane_check.core.house.rules import SCHOOLS, HouseRules, Parameter, house_rules
from vane_check.core.judging.judgement import assess
from vane_check.core.readings import METHODS
from vane_check.core.tables import cautions

ROOT = Path(__file__).parents[2]
WORDS = (ROOT / "front" / "src" / "kit" / "words.ts").read_text()
RUNGS = ROOT / "front" / "src" / "desks" / "check" / "methods"
TABLES = {"settings_as_on_the_label", "was_dry", "wrong_type"}
"""What a finding may rest on that is no rule: a table with a source of its own."""


def schema(name: str) -> dict[str, Any]:
    found: dict[str, Any] = json.loads((ROOT / "front" / "openapi.json").read_text())["components"]["schemas"][name]
    return found


class Rules(unittest.TestCase):
    def test_every_rule_is_read_somewhere(self) -> None:
        core = "\n".join(
            path.read_text() for path in (ROOT / "vane_check" / "core").rglob("*.py") if "rules" not in path.parts
        )
        for name in HouseRules.model_fields:
            if isinstance(getattr(house_rules(), name), Parameter):
                with self.subTest(name):
                    self.assertRegex(core, rf'rules\.{name}\b|"{name}"')

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
        for key in house_rules().step_minutes.value:
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
        words = " ".join(caution.text for caution in cautions())
        for said in ("vehicle maker", "local rules", "Ventilate", "eye protection", "negative first"):
            self.assertIn(said, words)
        safety = (ROOT / "docs" / "safety.md").read_text()
        for said in ("Eye protection", "negative first", "frozen", "licensed"):
            self.assertIn(said, safety)
