"""Everything that ships has a known licence on paper. Outside truth: what the packages themselves and npm's lock file say."""

import json
import re
import unittest
from importlib.metadata import metadata
from pathlib import Path

ROOT = Path(__file__).parents[2]
ROW = re.compile(r"^\| (\S+) \| (\S*) \| (.+) \|$", re.MULTILINE)


class Licences(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        text = (ROOT / "docs" / "licences.md").read_text()
        cls.parts = {part.split("\n", 1)[0]: ROW.findall(part) for part in text.split("\n## ")[1:]}

    def test_python_s_packages_are_those_of_the_lock_and_say_so_themselves(self) -> None:
        lock = (ROOT / "requirements" / "app.lock").read_text()
        pinned = set(re.findall(r"^([a-z0-9._-]+)(?:\[[^]]*\])?==([^ \\]+)", lock, re.MULTILINE))
        rows = [row for row in self.parts["Python"] if row[0] != "what" and row[0] != "---"]
        self.assertEqual({(name, version) for name, version, _ in rows}, pinned)
        for name, _, licence in rows:
            with self.subTest(name):
                own = metadata(name)
                said = [own.get("License-Expression"), own.get("License"), *(own.get_all("Classifier") or [])]
                self.assertTrue(any(licence.split(";")[0].strip()[:3] in (one or "") for one in said), said)

    def test_the_pages_packages_are_those_of_npm_s_lock(self) -> None:
        lock = json.loads((ROOT / "front" / "package-lock.json").read_text())["packages"]
        wanted = {
            (path.rpartition("node_modules/")[2], one["version"], one["license"])
            for path, one in lock.items()
            if path and not one.get("dev")
        }
        self.assertEqual(
            {row for row in self.parts["Pages"] if row[0] not in {"what", "---"}} - {("---", "---", "---")}, wanted
        )

    def test_every_font_is_there_with_a_licence_that_lies_beside_it(self) -> None:
        folder = ROOT / "vane_check" / "papers" / "fonts"
        rows = {row[0]: row[2] for row in self.parts["Fonts"] if row[0].endswith(".ttf")}
        self.assertEqual(set(rows), {path.name for path in folder.glob("*.ttf")})
        for name, licence in rows.items():
            for paper in re.findall(r"[\w.-]+\.txt", licence):
                self.assertTrue((folder / paper).is_file(), name)
