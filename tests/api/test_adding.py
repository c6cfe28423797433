"""docs/adding.md followed in a copy of the sources: what is forgotten is named, what is not said is the careful side, and the places are few."""

import json
import re
import shutil
import subprocess
import sys
import unittest
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import NamedTuple

ROOT = Path(__file__).parents[2]
PAGE = (ROOT / "docs" / "adding.md").read_text(encoding="utf-8")
BLOCK = re.compile(
    r"(?:In `(?P<in>[^`]+)`, after `(?P<after>[^`]*)`|New file `(?P<new>[^`]+)`)[^`]*?```\w+\n(?P<code>.*?)```", re.S
)


class Step(NamedTuple):
    """One block of the page: where it goes, behind which line (None: a file of its own), and what."""

    path: str
    after: str | None
    code: str


def steps_of(title: str) -> list[Step]:
    """The blocks of one part of the page."""
    part = PAGE.split(f"\n## {title}\n", 1)[1].split("\n## ", 1)[0]
    return [Step(found["in"] or found["new"], found["after"], found["code"]) for found in BLOCK.finditer(part)]


JUDGED = """
import json
from pydantic import ValidationError
from vane_check.core.house.rules import house_rules
from vane_check.core.judging.judgement import assess
from vane_check.core.readings import HANDS_ON, SPOILED_BY_WATER
from vane_check.core.readings.check import Check, parse_check
from vane_check.core.readings.faults import CheckRefused
from vane_check.core.goods.importing.fields import FIELDS
from vane_check.records import importing, roles_stores
from vane_check.desks import items

def judged(*before, **battery):
    at = "2026-03-02T09:{:02}:00Z"
    read = {"kind": "float_current", "amps": 30}
    rows = [{**one, "taken_at": at.format(minute)} for minute, one in enumerate((*before, read))]
    body = {"battery": {"capacity_ah_20h": 70, **battery}, "readings": rows}
    found = assess(Check.model_validate(body), house_rules()).findings
    return next(one for one in found if one.kind == "float_current")

dirty = judged({"kind": "look", "corrosion": "heavy"})
dry = judged({"kind": "look", "levels": ["plates_bare"] * 6}, has_caps=True)
try:
    parse_check(json.dumps({"format": "vane-check/1", "readings": [{"kind": "float_current", "amps": 900, "taken_at": "2026-03-02T09:00:00Z"}]}))
except CheckRefused as refused:
    slip = str(refused.problems[0].message)
print(json.dumps({
    "closed": ["float_current" in HANDS_ON, "float_current" in SPOILED_BY_WATER],
    "clean": judged({"kind": "look"}).points_to,
    "dirty": [dirty.points_to, dirty.remedy],
    "dry": [dry.points_to or dry.why_not, dry.remedy],
    "of_a_slip": slip,
    "column": [
        importing.types_out("items")["weight_kg"], "weight_kg" in importing.INTO["items"].columns,
        "weight_kg" in roles_stores.FUNCTIONS["follow(text, bigint, bigint, bigint)"],
        any(one.name == "weight_kg" for one in FIELDS["items"]), "weight_kg" in items.AS_WRITTEN,
    ],
}))
"""


class Adding(unittest.TestCase):
    maxDiff = 4000
    folder: Path

    @classmethod
    def setUpClass(cls) -> None:
        box = cls.enterClassContext(TemporaryDirectory(prefix="vane-adding-"))
        cls.folder = Path(box)
        left = shutil.ignore_patterns("__pycache__", "*.ttf", "*.otf", "node_modules", "dist")
        shutil.copytree(ROOT / "vane_check", cls.folder / "vane_check", ignore=left)
        shutil.copytree(ROOT / "front", cls.folder / "front", ignore=left)
        (cls.folder / "front" / "node_modules").symlink_to((ROOT / "front" / "node_modules").resolve())

    def apply(self, step: Step) -> None:
        path = self.folder / step.path
        if step.after is None:
            path.write_text(step.code, encoding="utf-8")
            return
        text = path.read_text(encoding="utf-8")
        self.assertEqual(text.count(f"{step.after}\n"), 1, f"{step.path}: {step.after}")
        path.write_text(text.replace(f"{step.after}\n", f"{step.after}\n{step.code}"), encoding="utf-8")

    def run_python(self, code: str) -> subprocess.CompletedProcess[str]:
        return subprocess.run(
            [sys.executable, "-c", code], cwd=self.folder, capture_output=True, text=True, check=False
        )

    def types_of_the_screens(self, made_anew: bool) -> str:
        """What the type checker says, once the client is made anew where that changed."""
        front = self.folder / "front"
        made = (
            {
                "vane_check.api.schema": "openapi.json",
                "vane_check.api.methods": "src/api/methods.ts",
                "vane_check.languages.for_pages": "src/language/english.ts",
            }
            if made_anew
            else {}
        )
        for module, to in made.items():
            done = subprocess.run(
                [sys.executable, "-m", module], cwd=self.folder, capture_output=True, text=True, check=True
            )
            (front / to).write_text(done.stdout, encoding="utf-8")
        client = [["openapi-typescript", "openapi.json", "-o", "src/api/schema.ts"]] if made_anew else []
        again = ["--incremental", "--tsBuildInfoFile", "types.tsbuildinfo"]
        schema = front / "src" / "api" / "schema.ts"
        for name, *rest in (*client, ["tsc", "--noEmit", "-p", ".", *again]):
            done = subprocess.run(
                [f"node_modules/.bin/{name}", *rest], cwd=front, capture_output=True, text=True, check=False
            )
            text = schema.read_text(encoding="utf-8")
            schema.write_text(text.replace('components["schemas"]["Words"]', "string"), encoding="utf-8")
        return done.stdout

    def few(self, steps: list[Step], python: int, screen: int) -> None:
        """The page touches no more places than that."""
        places = [{step.path for step in steps if step.path.endswith(end)} for end in (".py", ".tsx")]
        self.assertLessEqual((len(places[0]), len(places[1])), (python, screen))

    def test_each_place_is_named_where_it_is_forgotten_and_the_careful_side_is_what_is_not_said(self) -> None:
        method, columns = steps_of("A method"), steps_of("A column of an item")
        self.few(method, 4, 2)
        self.few(columns, 4, 1)
        kind, reading, imported, listed, messages, evidence, rung, shown, entered = method
        column, weight, table, migration, typed, form = columns
        judging, lists, items = (
            f"import vane_check.{name}" for name in ("core.judging.judgement", "records.importing", "desks.items")
        )
        for what, code, told in (
            ((reading, imported, listed), judging, "FloatCurrent: enter 'float_current' in findings/kinds.py"),
            ((kind,), judging, "no module of vane_check.core.evidence reads FloatCurrent"),
            ((evidence, reading._replace(code=reading.code.split("METHOD =")[0])), judging, "FloatCurrent: its file declares no METHOD for it"),
            ((reading, column), lists, "CatalogueItem has no column weight_kg: enter it in records/models/goods.py and a migration"),
            ((table, migration), items, "GoodsItem lacks weight_kg: enter it in desks/items.py"),
        ):  # fmt: skip
            for step in what:
                self.apply(step)
            self.assertEqual(self.run_python(code).stderr.splitlines()[-1], f"ImportError: {told}")
        for step in (typed, messages, weight):
            self.apply(step)
        done = self.run_python(JUDGED)
        self.assertEqual(done.stderr, "")
        self.assertEqual(
            json.loads(done.stdout),
            {
                "closed": [True, True], "clean": "worn_out", "dirty": ["cannot_tell", "clean_posts"],
                "dry": ["cannot_tell", "top_up"], "of_a_slip": "Enter 0 to 200 A: the charger's amps",
                "column": ["number", True, True, True, True],
            },
        )  # fmt: skip
        self.apply(rung._replace(code=rung.code.replace('name: "amps"', 'name: "ampere"')))
        told = self.types_of_the_screens(made_anew=True)
        self.assertRegex(told, r"src/desks/check/rungs\.tsx.*float_current")
        self.assertIn("src/desks/check/methods/float_current.tsx", told)
        self.assertRegex(told, r"src/desks/goods/ItemForm\.tsx.*weight_kg")
        for step in (rung, shown, entered, form):
            self.apply(step)
        self.assertEqual(self.types_of_the_screens(made_anew=False), "")
