"""The languages over the API: told to any page, chosen by a lead, said on papers; what the server says is German throughout."""

import json
import re
import unittest
from collections import Counter
from collections.abc import Iterator
from datetime import date
from io import BytesIO
from pathlib import Path
from typing import Any
from unittest.mock import patch

import psycopg
from pypdf import PdfReader

from tests.house import LEAD, OWNER_NAME, TEO, Client, app_on, database
from vane_check.core.battery.label import Complaint
from vane_check.languages import catalogues, reader_of
from vane_check.languages.reader import Reader

SOURCE = (Path(__file__).parents[2] / "front" / "src" / "language" / "sentences.ts").read_text("utf-8")
SENTENCES, WORDS, WHOLE = (
    set(re.findall(r'"(\w+)"', re.search(rf"const {name} = new Set\(\[([^\]]*)\]\)", SOURCE)[1]))  # type: ignore[index]
    for name in ("SENTENCES", "WORDS", "WHOLE")
)
NAMES = re.compile(
    r"merlow|quellan|aldane|corvin|tessaro|charger \d|terms sheet|vehicle list, edition|weir lane|quay street|teo|noor|ilse|wren|"
    r"(wet|mat|gel|slow recovery|6 V wet)$|bench|treloar|brevan|navarre|torvane|ister|caldo|pallin|ulmar|wendry|SN |"
    r"^(plain|silver|duty|cycle|mat) \w+$",
    re.IGNORECASE,
)
"""What the demo shop's goods, cars, people and tools are called: that is nobody's language."""
OPENAPI = json.loads((Path(__file__).parents[2] / "front" / "openapi.json").read_text("utf-8"))
MONTHS = ("Jan.", "Feb.", "März", "Apr.", "Mai", "Juni", "Juli", "Aug.", "Sept.", "Okt.", "Nov.", "Dez.")
"""As the Unicode CLDR cuts the months short in German (`Babel` reads it)."""
PAPERS = ("slip", "rack-tag", "claim", "recall", "day-sheet", "shelf-tag")


def of_name(value: Any, name: str) -> Iterator[dict[str, Any]]:
    """Everything that stands under a name, at any depth."""
    if isinstance(value, dict):
        if isinstance(value.get(name), dict):
            yield value[name]
        for inner in value.values():
            yield from of_name(inner, name)
    elif isinstance(value, list):
        for inner in value:
            yield from of_name(inner, name)


class Languages(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = database()
        app = app_on(cls.url)
        cls.teo, cls.lead, cls.owner = Client(app, TEO), Client(app, LEAD), Client(app, OWNER_NAME)

    def test_any_page_gets_a_catalogue_and_only_once(self) -> None:
        self.assertEqual(self.teo.http.get("/api/languages").json(), {"en": "English", "de": "Deutsch"})
        found = self.teo.http.get("/api/languages/de").json()
        self.assertEqual((found["locale"], found["messages"]["worn out"]), ("de", "verbraucht"))
        self.assertEqual(self.teo.http.get("/api/languages/de", params={"known": found["edition"]}).status_code, 204)
        self.assertEqual(self.teo.http.get("/api/languages/xx").status_code, 404)

    def test_a_lead_chooses_among_those_there_are(self) -> None:
        house = self.lead.get("/house").json()
        self.assertEqual(house["languages"], {"en": "English", "de": "Deutsch"})
        for language, status in (("xx", 422), ("de", 200), ("en", 200)):
            edition = self.lead.get("/house").json()["edition"]
            found = self.lead.send(
                "PUT", "/house/shop", {"shop": {**house["shop"], "language": language}, "based_on": edition}
            )
            self.assertEqual(found.status_code, status, found.text)
        self.assertEqual(found.json()["shop"]["language"], "en")
        changes = self.lead.get("/house/changes").json()
        self.assertEqual((changes[1]["before"]["language"], changes[1]["after"]["language"]), ("en", "de"))
        self.assertEqual(self.teo.http.get("/api/people").json()["language"], "en")

    def test_every_sentence_the_demo_shop_says_is_german(self) -> None:
        german, unknown = reader_of("de"), {}
        assert german is not None

        def walk(value: Any, name: str, whole: bool) -> None:
            if isinstance(value, dict):
                for inner, one in value.items():
                    walk(one, inner, whole or inner in WHOLE)
            elif isinstance(value, list):
                for one in value:
                    walk(one, name, whole)
            elif isinstance(value, str) and (whole or (name in SENTENCES and (name in WORDS or " " in value))):
                unknown.update({gap: (name, value) for gap in german.gaps(value) if not NAMES.search(gap)})

        tags = [one["tag"] for one in self.teo.get("/shelf").json()]
        paths = [
            "/house",
            "/house/stores",
            "/rules",
            "/reference",
            "/rack",
            "/equipment",
            "/goods",
            "/goods/due",
            "/orders",
            "/checks",
            "/set-up",
        ]
        paths += [f"/batteries/{tag}{of}" for tag in tags for of in ("", "/life", "/warranty", "/match")]
        for path in paths:
            found = self.owner.get(path)
            if found.status_code == 200:
                walk(found.json(), "", False)
        for body in ({"vehicle_id": 1}, {"vehicle_id": 50}, {"code": "55D23L"}):
            walk(self.owner.send("POST", "/match", body).json(), "", False)
        self.maxDiff = None
        self.assertEqual(unknown, {})

    def test_refusals_are_german(self) -> None:
        german = reader_of("de")
        assert german is not None
        for method, path, body in (
            ("GET", "/batteries/9999", None), ("POST", "/batteries/173/readings", {"kind": "rest_volts"}), ("GET", "/house", None),
            ("POST", "/batteries", {"context": {}, "sold_on": "2999-01-01"}), ("PUT", "/batteries/173/place", {"place": "on_the_way"}),
        ):  # fmt: skip
            told = self.teo.send(method, path, body).json()
            for said in (told["detail"], *(one["message"] for one in told.get("errors") or [])):
                self.assertEqual(german.gaps(said), (), said)


class Papers(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = database()
        with psycopg.connect(cls.url, autocommit=True) as connection:
            connection.execute("update stores set language = 'de' where id = 1")
        cls.teo = Client(app_on(cls.url), TEO)

    def read(self, path: str) -> str:
        found = self.teo.get(path)
        self.assertEqual(found.status_code, 200, path)
        pages = PdfReader(BytesIO(found.content)).pages
        return re.sub(r"\s+", " ", " ".join(page.extract_text() for page in pages))

    def test_papers_are_german_with_comma_and_day_as_there(self) -> None:
        sold = date.fromisoformat(self.teo.get("/batteries/173").json()["sold_on"])
        for path, said, not_said in (
            ("/batteries/173/slip.pdf", ("Anhänger 173", "Verbraucht", "12,62 V", "Geprüft von", "Vorsicht", f"verkauft {sold.day}. {MONTHS[sold.month - 1]} {sold.year}", "enthält Säure"), ("12.62", "Worn out", "Take care")),
            ("/batteries/185/recall.pdf", ("Wir haben uns Ihre Batterie", "oder danach wieder geprüft"), ("should be tested", "We looked")),
            ("/day-sheet.pdf", ("Hereingekommen", "Für die Kasse", "Der Tag geht nach der Uhr des Ladens"), ("Came in", "For the till")),
            ("/batteries/176/rack-tag.pdf", ("Gefroren, heiß, gewölbt",), ("Frozen",)),
            ("/goods/1/shelf-tag.pdf", ("94,00 EUR", "bis die alte zurück ist"), ("deposit",)),
        ):  # fmt: skip
            text = self.read(path)
            for one in said:
                self.assertIn(one, text, path)
            for one in not_said:
                self.assertNotIn(one, text, path)
            self.assertNotRegex(text, r"\b(Mon|Tues|Wednes|Thurs|Fri|Satur|Sun)day\b")

    def test_no_line_of_any_paper_stays_english(self) -> None:
        unknown: dict[str, tuple[str, str]] = {}
        drawn: Counter[str] = Counter()

        def read(german: Reader, text: str) -> str:
            unknown.update({gap: (path, text) for gap in german.gaps(text) if not NAMES.search(gap)})
            return whole(german, text)

        whole = Reader.read
        tags = [one["tag"] for one in self.teo.get("/shelf").json()]
        with psycopg.connect(self.url) as connection:
            (secret,) = connection.execute("select calendar_secret from stores where id = 1").fetchone() or ("",)
        item = self.teo.get("/goods", params={"text": "Quellan Mat 48"}).json()["items"][0]
        written = self.teo.send("POST", "/batteries/173/claim", {"replacement_id": item["id"]})
        self.assertEqual(written.status_code, 201, written.text)
        paths = [f"/batteries/{tag}/{paper}.pdf" for tag in tags for paper in ("slip", "rack-tag", "claim", "recall")]
        with patch.object(Reader, "read", read):
            for path in (
                *paths,
                "/day-sheet.pdf",
                "/goods/1/shelf-tag.pdf",
                "/goods/9/shelf-tag.pdf",
                f"/calendars/{secret}.ics",
            ):
                drawn[path.rsplit("/", 1)[1]] += self.teo.get(path).status_code == 200
        self.maxDiff = None
        self.assertEqual(unknown, {})
        self.assertEqual(
            {paper for paper, times in drawn.items() if times}, {*(f"{paper}.pdf" for paper in PAPERS), f"{secret}.ics"}
        )

    def test_kinds_of_readings_and_complaints_have_their_words(self) -> None:
        german = reader_of("de")
        assert german is not None
        kinds = {one["const"] for one in of_name(OPENAPI, "kind") if "const" in one}
        self.assertGreater(len(kinds), 15)
        for kind in (*kinds, *Complaint):
            said = kind.replace("_", " ")
            self.assertEqual(german.gaps(said), (), said)

    def test_the_shop_s_own_lines_stand_as_typed(self) -> None:
        self.assertIn("Old batteries are taken back here", self.read("/batteries/173/slip.pdf"))

    def test_the_calendar_speaks_it_too(self) -> None:
        with psycopg.connect(self.url) as connection:
            (secret,) = connection.execute("select calendar_secret from stores where id = 1").fetchone() or ("",)
        feed = self.teo.http.get(f"/api/calendars/{secret}.ics").text
        self.assertIn("Batterie 185", feed)
        self.assertNotIn("Test battery", feed)

    def test_another_store_speaks_its_own(self) -> None:
        self.assertEqual(self.teo.me["store"]["language"], "de")
        with psycopg.connect(self.url) as connection:
            self.assertEqual(
                connection.execute("select language from stores order by id").fetchall(), [("de",), ("en",)]
            )


class OneFile(unittest.TestCase):
    def test_the_file_is_plain_gettext(self) -> None:
        """Read by a second reader: the format of GNU gettext, msgid and msgstr."""
        told = (Path(__file__).parents[2] / "vane_check" / "languages" / "de.po").read_text("utf-8")
        pairs = re.findall(r'^msgid ((?:".*"\n)+)msgstr ((?:".*"\n)+)', told + "\n", re.MULTILINE)
        joined = {
            "".join(json.loads(line) for line in one.splitlines()): "".join(
                json.loads(line) for line in other.splitlines()
            )
            for one, other in pairs
        }
        joined.pop("")
        self.assertEqual(joined, catalogues()["de"].messages)
