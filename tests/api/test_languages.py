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
from vane_check.core.words import words_of
from vane_check.languages import catalogues, speaker_of
from vane_check.languages.speak import Speaker

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
TYPED = frozenset(
    [
        "line",
        "name",
        "serial",
        "note",
        "reason",
        "who",
        "subject",
        "car",
        "customer_name",
        "standing",
        "place",
        "variant",
        "paper_head",
        "paper_foot",
        "access",
        "programme",
        "battery_place",
        "remarks",
        "memory",
    ]
)
"""Fields that hold what people typed."""
CLOSED = frozenset(
    {"before testing", "before charging", "before hand-back", "date code and shelf allowance", "vent tube"}
)
"""Words that code picks by, and each page says by its own message."""
TYPED_LINES = re.compile("Old batteries are taken back here|Hill Farm|Quayside Taxis|S. Ferreday|Weir Garage")
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
        self.assertEqual((found["locale"], found["messages"]["outcome.worn_out.headline"]), ("de", "Verschlissen"))
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

    def test_answers_carry_facts_alone_and_each_can_be_said(self) -> None:
        """What is plain text in an answer is what people typed, a name, or a word of a closed set that code reads."""
        german, plain = speaker_of("de"), dict[str, str]()

        def walk(value: Any, name: str) -> None:
            if isinstance(value, list):
                for one in value:
                    walk(one, name)
            elif isinstance(value, dict) and value.keys() == {"key", "with"}:
                self.assertTrue(german._can_say(words_of(value)), value)
                self.assertNotEqual(german.say(words_of(value)), "" if value["key"] != "nothing" else None)
            elif isinstance(value, dict):
                for inner, one in value.items():
                    walk(one, inner)
            elif isinstance(value, str) and re.search(r"[a-z]{2,}[ ,:]+[a-z]{2,}", value) and not NAMES.search(value):
                plain.update({value: name} if name not in TYPED and value not in CLOSED else {})

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
            "/house/changes",
        ]
        paths += [f"/batteries/{tag}{of}" for tag in tags for of in ("", "/life", "/warranty", "/match")]
        for path in paths:
            found = raw(self.owner, "GET", path)
            if found.status_code == 200:
                walk(json.loads(found.content), "")
        for body in ({"vehicle_id": 1}, {"vehicle_id": 50}, {"code": "55D23L"}):
            walk(json.loads(raw(self.owner, "POST", "/match", body).content), "")
        self.maxDiff = None
        self.assertEqual(plain, {})

    def test_refusals_are_facts_that_can_be_said(self) -> None:
        german = speaker_of("de")
        for method, path, body in (
            ("GET", "/batteries/9999", None), ("POST", "/batteries/173/readings", {"kind": "rest_volts"}), ("GET", "/house", None),
            ("POST", "/batteries", {"context": {}, "sold_on": "2999-01-01"}), ("PUT", "/batteries/173/place", {"place": "on_the_way"}),
            ("POST", "/batteries", {"context": {"use": "racing"}, "battery": {"capacity_ah_20h": "many", "rating": {"amps": -3}}}),
        ):  # fmt: skip
            told = json.loads(raw(self.teo, method, path, body).content)
            for fact in (told["detail"], *(one["message"] for one in told.get("errors") or [])):
                words = words_of(fact)
                self.assertNotEqual(words.key, "as_written", fact)
                self.assertTrue(german._can_say(words), fact)


def raw(client: Client, method: str, path: str, body: Any = None) -> Any:
    """An answer as it is on the wire."""
    with patch("tests.english.in_english", lambda value: value):
        return client.get(path) if method == "GET" else client.send(method, path, body)


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
            ("/batteries/173/slip.pdf", ("Nr. 173", "Verschlissen", "12,62 V", "Geprüft von", "Vorsicht", f"verkauft {sold.day}. {MONTHS[sold.month - 1]} {sold.year}", "enthält Säure"), ("12.62", "Worn out", "Take care")),
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
        unknown: dict[str, str] = {}
        drawn: Counter[str] = Counter()

        def said(german: Speaker, text: Any) -> str:
            typed = type(text) is not str or NAMES.search(text) or TYPED_LINES.search(text)
            if not typed and re.search(r"[a-z]{3}", text):
                unknown[text] = path
            if not german._can_say(text):
                unknown[str(text)] = path
            return whole(german, text)

        whole = Speaker.say
        tags = [one["tag"] for one in self.teo.get("/shelf").json()]
        with psycopg.connect(self.url) as connection:
            (secret,) = connection.execute("select calendar_secret from stores where id = 1").fetchone() or ("",)
        item = self.teo.get("/goods", params={"text": "Quellan Mat 48"}).json()["items"][0]
        written = self.teo.send("POST", "/batteries/173/claim", {"replacement_id": item["id"]})
        self.assertEqual(written.status_code, 201, written.text)
        paths = [f"/batteries/{tag}/{paper}.pdf" for tag in tags for paper in ("slip", "rack-tag", "claim", "recall")]
        with patch.object(Speaker, "say", said):
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
        kinds = {one["const"] for one in of_name(OPENAPI, "kind") if "const" in one}
        self.assertGreater(len(kinds), 15)
        messages = catalogues()["de"].messages
        for complaint in Complaint:
            self.assertIn(f"word.{complaint.value}", messages)

    def test_the_shop_s_own_lines_stand_as_typed(self) -> None:
        self.assertIn("Old batteries are taken back here", self.read("/batteries/173/slip.pdf"))

    def test_the_calendar_speaks_it_too(self) -> None:
        with psycopg.connect(self.url) as connection:
            (secret,) = connection.execute("select calendar_secret from stores where id = 1").fetchone() or ("",)
        feed = self.teo.http.get(f"/api/calendars/{secret}.ics").text
        self.assertIn("Batterie Nr. 185", feed)
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
        pairs = re.findall(r'^msgid "(.*)"\nmsgstr "(.*)"$', told, re.MULTILINE)
        joined = {key: json.loads(f'"{text}"') for key, text in pairs if key}
        one_form = {key: message for key, message in catalogues()["de"].messages.items() if isinstance(message, str)}
        self.assertEqual(joined, one_form)
