import json
import subprocess
import sys
import unittest
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

from vane_check.core.findings.outcomes import Outcome
from vane_check.core.house.rules import house_rules
from vane_check.core.judging.judgement import assess
from vane_check.core.readings import READING_MODELS
from vane_check.core.readings.check import CheckFile, parse_check
from vane_check.core.readings.faults import CheckRefused
from vane_check.core.tables import charge_tables, entry_limits, footprints

ROOT = Path(__file__).parents[2]
EXAMPLE = ROOT / "docs" / "formats" / "example.json"


def refused(**change: Any) -> dict[str, str]:
    body = json.loads(EXAMPLE.read_text())
    for path, value in change.items():
        where: Any = body
        *parents, last = path.split("__")
        for part in parents:
            where = where[int(part) if part.isdigit() else part]
        where[last] = value
    try:
        parse_check(json.dumps(body))
    except CheckRefused as error:
        return dict(error.problems)
    return {}


class CheckFiles(unittest.TestCase):
    def test_the_documented_example_is_read(self) -> None:
        self.assertEqual(len(parse_check(EXAMPLE.read_text()).readings), 3)

    def test_the_full_example_holds_every_kind_and_asks_for_what_decides(self) -> None:
        full = parse_check((EXAMPLE.parent / "example-full.json").read_text())
        kinds = {str(model.model_fields["kind"].default) for model in READING_MODELS} - {"withdrawal"}
        self.assertEqual({reading.kind for reading in full.readings}, kinds)
        found = assess(full, house_rules())
        # tester, pull and what the sag is worth were all asked, and none passes; the cells are sound for all that
        self.assertEqual((found.outcome, found.next_step.key), (Outcome.WORN_OUT, "replace"))

    def test_wrong_values_name_their_field(self) -> None:
        table: list[tuple[dict[str, Any], str, str]] = [
            ({"battery__rating__amps": 5}, "battery.rating.amps", "Enter 50 to 2000 A"),
            ({"battery__rating__scale": "JIS"}, "battery.rating.scale", "type code"),
            ({"battery__group_code": "99Z"}, "battery.group_code", "99Z"),
            ({"battery__colour": "red"}, "battery.colour", "no such field"),
            ({"readings__1__volts": 26}, "readings[1].volts", "26 V cannot be read on a 12 V"),
            ({"readings__1__volts": "much"}, "readings[1].volts", "Enter a number"),
            ({"readings__1__temperature_c": 75}, "readings[1].temperature_c", "Fahrenheit"),
            ({"readings__2__type_set": "wet"}, "readings[2].type_set", ""),
            ({"readings__2__kind": "guess"}, "readings[2]", "guess"),
            ({"format": "other/9"}, "format", ""),
        ]
        for change, path, said in table:
            with self.subTest(path):
                faults = refused(**change)
                self.assertIn(path, faults)
                self.assertIn(said, faults[path])

    def test_the_schema_in_the_docs_is_current(self) -> None:
        kept = json.loads((ROOT / "docs" / "formats" / "check.schema.json").read_text())
        self.assertEqual(kept, CheckFile.model_json_schema(), "run bin/client")

    def run_cli(self, *arguments: str, typed: str = "") -> subprocess.CompletedProcess[str]:
        return subprocess.run(
            [sys.executable, "-m", "vane_check", *arguments], input=typed, capture_output=True, text=True, cwd=ROOT
        )

    def test_command_line_judges_a_file_and_standard_input_alike(self) -> None:
        from_file = self.run_cli("assess", str(EXAMPLE))
        from_input = self.run_cli("assess", "-", typed=EXAMPLE.read_text())
        self.assertEqual(from_file.returncode, 0, from_file.stderr)
        self.assertEqual(from_file.stdout, from_input.stdout)
        judged = json.loads(from_file.stdout)
        self.assertEqual((judged["outcome"], judged["next_step"]["key"]), ("cannot_tell", "load_test"))
        self.assertEqual(
            round(sum(judged["odds"][name] for name in ("sound", "worn_out", "dead_cell", "leaks_charge")), 3), 1
        )
        self.assertTrue({"confidence", "findings", "next_step", "rules_version"} <= judged.keys())

    def test_command_line_judges_by_a_school_by_rules_of_ones_own_and_a_list_line_by_line(self) -> None:
        with TemporaryDirectory() as folder:
            own, lines = Path(folder) / "own.toml", Path(folder) / "lines.jsonl"
            own.write_text("[decision]\nmethods_to_condemn = 1\n")
            check = json.loads(EXAMPLE.read_text())
            wrong = {**check, "battery": {**check["battery"], "chemistry": "wet"}}
            lines.write_text("\n".join([json.dumps(check), "", "{", json.dumps(wrong), json.dumps(check)]))
            said = self.run_cli("assess", str(lines), "--lines", "--rules", str(own))
            self.assertEqual(said.returncode, 2)
            judged = [json.loads(line) for line in said.stdout.splitlines()]
            self.assertEqual([line["line"] for line in judged], [1, 3, 4, 5])
            self.assertEqual([line.get("outcome") for line in judged], ["worn_out", None, None, "worn_out"])
            self.assertEqual(judged[2]["refused"][0]["path"], "battery.chemistry")
            own.write_text("[decision]\nmethods_to_condemn = 9\nnonsense = 1\n")
            refused = self.run_cli("assess", str(EXAMPLE), "--rules", str(own))
            self.assertEqual(refused.returncode, 2)
            paths = [fault["path"] for fault in json.loads(refused.stderr)["refused"]]
            self.assertEqual(sorted(paths), ["decision.methods_to_condemn", "decision.nonsense"])
        school = json.loads(self.run_cli("assess", str(EXAMPLE), "--school", "load_first").stdout)
        self.assertEqual(
            (school["rules_version"], school["next_step"]["key"]), ("load-first 2026.1", "charge_and_retest")
        )

    def test_command_line_refuses_with_the_path(self) -> None:
        done = self.run_cli("assess", "-", typed='{"format": "vane-check/1", "readings": [{"kind": "look"}]}')
        self.assertEqual(done.returncode, 2)
        self.assertEqual(json.loads(done.stderr)["refused"][0]["path"], "readings[0].taken_at")
        self.assertEqual(self.run_cli("assess", "nowhere.json").returncode, 2)


class Sources(unittest.TestCase):
    def test_every_rule_has_unit_source_and_standing(self) -> None:
        rules = house_rules()
        for path, parameter in rules.parameters().items():
            self.assertTrue(parameter.unit and parameter.source, path)
        with self.assertRaises(KeyError):
            rules.parameter("version")

    def test_every_table_row_has_source_and_standing(self) -> None:
        origins = [row.origin for row in (*footprints().values(), *charge_tables().values(), *entry_limits().values())]
        self.assertTrue(
            all(origin.source and origin.standing in {"published", "practice", "memory"} for origin in origins)
        )

    def test_same_footprints_agree_within_the_house_s_tolerance(self) -> None:
        tolerance = house_rules().match.footprint_tolerance_mm.value
        for size in footprints().values():
            other = footprints().get(size.same_as)
            if other is not None and {size.code, other.code}.isdisjoint({"24F", "27F", "D26L", "D31L"}):
                self.assertLessEqual(abs(size.length_mm - other.length_mm), tolerance, size.code)
                self.assertEqual(size.positive_side, other.positive_side, size.code)
