"""Terms sheets in editions, tax within prices, texts and a picture on papers: data of the house, told in its book."""

import base64
import unittest
import uuid
from datetime import date
from io import BytesIO
from typing import Any

import psycopg
from PIL import Image
from pypdf import PdfReader

from tests.house import LEAD, TEO, Client, app_on, database
from vane_check.core.goods.terms import Terms, in_force
from vane_check.core.units.money import tax_within_cents


def picture(kind: str = "PNG", size: tuple[int, int] = (60, 20)) -> str:
    made = BytesIO()
    Image.new("RGB", size, (169, 78, 20)).save(made, kind)
    return base64.b64encode(made.getvalue()).decode()


class TermsAndPapers(unittest.TestCase):
    def setUp(self) -> None:
        self.url = database()
        self.app = app_on(self.url)
        self.lead, self.teo = Client(self.app, LEAD), Client(self.app, TEO)

    def line(self, name: str) -> Any:
        return next(one for one in self.lead.get("/house/terms").json() if one["line"] == name)

    def taken_in(self, sold_on: str) -> int:
        body = {
            "battery": {"line": "Quellan Mat", "group_code": "48", "rating": {"amps": 760}, "chemistry": "agm"},
            "context": {"came_in": "returned", "complaint": "will_not_start"}, "sold_on": sold_on,
        }  # fmt: skip
        tag: int = self.teo.send("POST", "/batteries", body).json()["tag"]
        return tag

    def shop(self, **more: Any) -> Any:
        seen = self.lead.get("/house").json()
        return self.lead.send("PUT", "/house/shop", {"shop": {**seen["shop"], **more}, "based_on": seen["edition"]})

    def slip(self, tag: int) -> str:
        paper = PdfReader(BytesIO(self.teo.get(f"/batteries/{tag}/slip.pdf").content))
        return " ".join(page.extract_text() for page in paper.pages)

    def test_what_was_sold_before_an_edition_keeps_its_own_terms(self) -> None:
        now = self.line("Quellan Mat")
        self.assertEqual([one["terms"]["free_months"] for one in now["editions"]], [36])
        old, new = self.taken_in("2026-03-31"), self.taken_in("2026-04-01")
        new_edition = {
            "line": "Quellan Mat", "free_months": 12, "pro_rata_months": 0, "reference": "edition 5",
            "holds_from": "2026-04-01", "based_on": now["editions"][0]["id"],
        }  # fmt: skip
        written = self.lead.send("POST", "/house/terms", new_edition)
        self.assertEqual(written.status_code, 201, written.text)
        found = {tag: self.teo.get(f"/batteries/{tag}/warranty").json() for tag in (old, new)}
        self.assertEqual(found[old]["terms"]["free_months"], 36)
        self.assertEqual(found[new]["terms"]["free_months"], 12)
        self.assertEqual(found[old]["answer"]["free_until"], "2029-03-31")
        self.assertEqual(found[new]["answer"]["free_until"], "2027-04-01")
        self.assertEqual([one["in_force"] for one in self.line("Quellan Mat")["editions"]], [True, False])
        change = self.lead.get("/house/changes").json()[0]
        self.assertEqual((change["what"], change["subject"], change["who"]), ("terms", "Quellan Mat", LEAD))
        self.assertEqual((change["before"]["free_months"], change["after"]["free_months"]), (36, 12))

    def test_an_edition_is_never_written_over_and_two_leads_are_told(self) -> None:
        seen = self.line("Merlow Silver")
        self.assertEqual(len(seen["editions"]), 2)
        body = {"line": "Merlow Silver", "free_months": 30, "based_on": seen["editions"][0]["id"]}
        no_day = self.lead.send("POST", "/house/terms", body)
        self.assertEqual((no_day.status_code, no_day.json()["errors"][0]["path"]), (422, "holds_from"))
        body["holds_from"] = "2026-11-01"
        name = str(uuid.uuid4())
        self.assertEqual(self.lead.send("POST", "/house/terms", body, name).status_code, 201)
        self.assertEqual(self.lead.send("POST", "/house/terms", body, name).status_code, 201)  # once
        self.assertEqual(len(self.line("Merlow Silver")["editions"]), 3)
        late = self.lead.send("POST", "/house/terms", {**body, "free_months": 31})
        self.assertEqual(late.status_code, 409)
        again = {**body, "based_on": self.line("Merlow Silver")["editions"][0]["id"]}
        same = self.lead.send("POST", "/house/terms", again)
        self.assertEqual((same.status_code, same.json()["errors"][0]["path"]), (422, "free_months"))
        self.assertEqual(self.teo.send("POST", "/house/terms", body).status_code, 403)
        self.assertEqual(self.teo.get("/house/terms").status_code, 403)
        with psycopg.connect(self.url) as connection, self.assertRaisesRegex(psycopg.Error, "append-only"):
            connection.execute("update warranty_terms set free_months = 99")

    def test_tax_within_what_is_paid_is_said_on_the_slip_of_a_claim_and_stays_what_it_was(self) -> None:
        worn = next(one for one in self.teo.get("/shelf").json() if one["outcome"] == "worn_out" and one["line"])["tag"]
        item = self.teo.get("/goods", params={"text": "Quellan Mat 48"}).json()["items"][0]
        found = self.teo.send("POST", f"/batteries/{worn}/claim", {"replacement_id": item["id"]})
        self.assertEqual(found.status_code, 201, found.text)
        pays = found.json()["answer"]["pays_cents"]
        self.shop(tax_name="VAT", tax_pct=19)
        said = self.slip(worn)
        within = round(pays * 23 / 123)
        self.assertIn("of which VAT 23 %", said)
        self.assertIn(f"{within / 100:.2f}", said)

    def test_a_tax_needs_its_name_and_papers_say_what_the_shop_says(self) -> None:
        wrong = self.shop(tax_name="", tax_pct=19)
        self.assertEqual((wrong.status_code, wrong.json()["errors"][0]["path"]), (422, "shop.tax_name"))
        for field, value in (("tax_pct", 51), ("tax_pct", -1), ("paper_head", "x" * 401), ("paper_foot", "a\x00b")):
            with self.subTest(field):
                found = self.shop(**{field: value})
                self.assertEqual((found.status_code, found.json()["errors"][0]["path"]), (422, f"shop.{field}"))
        right = self.shop(paper_head="9 Mill Row\nTelephone 0555 0999", paper_foot="Open on Saturdays too.")
        self.assertEqual(right.status_code, 200, right.text)
        said = self.slip(self.taken_in("2026-06-01"))
        sizes = []
        for size in ("A4", "Letter"):
            self.assertEqual(self.shop(paper_size=size).status_code, 200)
            content = self.teo.get("/batteries/175/slip.pdf").content
            sizes.append(tuple(round(float(side)) for side in PdfReader(BytesIO(content)).pages[0].mediabox[2:]))
        self.assertEqual(sizes, [(595, 842), (612, 792)])  # ISO 216: 210 x 297 mm; Letter: 8.5 x 11 in
        for words in ("9 Mill Row", "Telephone 0555 0999", "Open on Saturdays too."):
            self.assertIn(words, said)

    def test_a_picture_stands_on_papers_and_what_is_none_is_refused(self) -> None:
        tag = self.taken_in("2026-06-01")
        images = lambda: len(PdfReader(BytesIO(self.teo.get(f"/batteries/{tag}/slip.pdf").content)).pages[0].images)  # noqa: E731
        self.assertEqual(images(), 0)
        for wrong in ("not base64!", base64.b64encode(b"GIF89a").decode(), picture(size=(5000, 4))):
            found = self.lead.send("PUT", "/house/logo", {"picture": wrong})
            self.assertEqual((found.status_code, found.json()["errors"][0]["path"]), (422, "picture"), found.text)
        self.assertEqual(self.teo.send("PUT", "/house/logo", {"picture": picture()}).status_code, 403)
        for kind in ("PNG", "JPEG"):
            kept = self.lead.send("PUT", "/house/logo", {"picture": picture(kind)})
            self.assertTrue(kept.json()["has_logo"], kept.text)
            self.assertEqual(images(), 1)
        self.assertFalse(self.lead.send("PUT", "/house/logo", {"picture": ""}).json()["has_logo"])
        self.assertEqual(images(), 0)

    def test_a_sale_keeps_the_tax_it_was_made_with(self) -> None:
        item = self.teo.get("/goods", params={"text": "Quellan Cycle 48 700"}).json()["items"][0]
        self.lead.send("POST", "/goods/receive", {"item_id": item["id"], "pieces": 1, "volts": 12.8})
        sold = self.teo.send(
            "POST", "/sales", {"item_id": item["id"], "volts": 12.8, "serial": "T-1", "price_cents": 12300}
        )
        self.assertEqual(sold.status_code, 201, sold.text)
        tag = sold.json()["tag"]
        self.shop(tax_name="VAT", tax_pct=19)
        sale = self.teo.get(f"/batteries/{tag}/sale").json()
        self.assertEqual((sale["tax_words"], sale["tax_cents"]), ("VAT 23 %", 2300))


class Editions(unittest.TestCase):
    """Common practice: the terms of the day of sale hold."""

    def test_the_latest_that_began_by_the_day_holds(self) -> None:
        def edition(months: int, begins: date | None) -> Terms:
            return Terms(line="L", free_months=months, pro_rata_months=0, holds_from=begins)

        first, second = edition(12, None), edition(24, date(2024, 1, 1))
        mended, third = edition(18, date(2024, 1, 1)), edition(36, date(2025, 1, 1))
        every = [first, second, third, mended]
        for day, months in (
            (date(2023, 12, 31), 12), (date(2024, 1, 1), 18), (date(2024, 12, 31), 18), (date(2025, 1, 1), 36),
        ):  # fmt: skip
            with self.subTest(day):
                found = in_force(every, day)
                assert found is not None
                self.assertEqual(found.free_months, months)
        alone = in_force([second], date(2020, 1, 1))
        assert alone is not None
        self.assertEqual(alone.free_months, 24)  # before all of them the earliest holds
        self.assertIsNone(in_force([], date(2024, 1, 1)))

    def test_tax_within_a_price(self) -> None:
        """By hand: 119.00 at 19 % holds 19.00; 100.00 at 7.5 % holds 6.976…, so 6.98; half a cent goes up."""
        self.assertEqual(tax_within_cents(11900, 19), 1900)
        self.assertEqual(tax_within_cents(10000, 7.5), 698)
        self.assertEqual(tax_within_cents(3, 20), 1)  # 0.5 cents
        self.assertEqual(tax_within_cents(-11900, 19), -1900)
        self.assertEqual(tax_within_cents(5000, 0), 0)
