"""The page as it is served: everything before the first desk is asked for at once; every file of the release is kept on the device."""

import json
import re
import unittest
from pathlib import Path
from typing import ClassVar

from tests.english import TestClient
from tests.house import HERE, app_on, empty

DIST = Path(__file__).parents[2] / "front" / "dist"


class Page(unittest.TestCase):
    http: ClassVar[TestClient]

    @classmethod
    def setUpClass(cls) -> None:
        cls.http = TestClient(app_on(empty()), base_url=HERE)

    def preloaded(self, path: str) -> set[str]:
        """Names of the scripts that the page of this address asks for at once, without their hashes."""
        page = self.http.get(path).text
        links = re.findall(r'<link rel="modulepreload" crossorigin href="/assets/([\w-]+?)-[\w-]{8}\.js">', page)
        return set(links)

    def test_each_desk_s_page_asks_for_that_desk_with_the_rest(self) -> None:
        for path, desk in (
            ("/", "CounterDesk"), ("/counter", "CounterDesk"), ("/check/173", "CheckDesk"), ("/check", "CheckDesk"), ("/take-in/5", "CorrectDesk"),
            ("/rack/176", "RackDesk"), ("/goods", "GoodsDesk"), ("/goods/lists", "ImportDesk"), ("/house", "HouseDesk"), ("/life/1", "LifeDesk"),
        ):  # fmt: skip
            with self.subTest(path):
                asked = self.preloaded(path)
                self.assertIn(desk, asked)
                self.assertIn("Whole", asked)
                self.assertEqual({one for one in asked if one.endswith("Desk")}, {desk})

    def test_an_address_nobody_knows_is_the_page_all_the_same(self) -> None:
        self.assertEqual({one for one in self.preloaded("/nowhere") if one.endswith("Desk")}, set())
        self.assertIn("Vane Check", self.http.get("/nowhere").text)

    def test_what_is_asked_for_is_there(self) -> None:
        for path in ("/", "/check/1", "/goods/lists"):
            for link in re.findall(r'(?:href|src)="(/[^"]+)"', self.http.get(path).text):
                self.assertEqual(self.http.get(link).status_code, 200, link)

    def test_every_file_of_the_release_is_kept_on_the_device(self) -> None:
        worker = (DIST / "sw.js").read_text()
        files = {
            path.relative_to(DIST).as_posix()
            for path in DIST.rglob("*")
            if path.suffix in {".html", ".js", ".css", ".woff2"}
        }
        self.assertEqual({one for one in files - {"sw.js"} if one not in worker}, set())
        self.assertNotRegex(worker, r"^\s*import\s")
        self.assertGreaterEqual(len(json.loads((DIST / "desks.json").read_text())), 15)
