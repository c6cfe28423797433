"""Papers beside the slip, read back by pypdf: claim pack, day sheet, recall letter, shelf tag; and the line for the till."""

import re
import unittest
from datetime import date, datetime, timedelta
from io import BytesIO
from typing import Any
from zoneinfo import ZoneInfo

from pypdf import PdfReader

from tests.house import LEAD, TEO, Client, app_on, database

DUBLIN = ZoneInfo("Europe/Dublin")


class Papers(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.app = app_on(database())
        cls.teo, cls.lead = Client(cls.app, TEO), Client(cls.app, LEAD)

    def paper(self, path: str) -> PdfReader:
        found = self.teo.get(path)
        self.assertEqual(found.status_code, 200, found.text[:300])
        self.assertEqual(found.headers["content-type"], "application/pdf")
        return PdfReader(BytesIO(found.content))

    def words(self, path: str) -> str:
        return re.sub(r"\s+", " ", " ".join(page.extract_text() for page in self.paper(path).pages))

    def till(self, said: str) -> list[float]:
        """How many were sold, for how much, the tax in it, the deposits taken."""
        titles = (
            r"Sold: (\d+)",
            r"Sold ([\d.]+) EUR",
            r"of which VAT 23 % ([\d.]+) EUR",
            r"Deposits taken ([\d.]+) EUR",
        )
        found = [re.search(title, said) for title in titles]
        return [float(one[1]) if one else 0.0 for one in found]

    def item(self, name: str) -> Any:
        return self.teo.get("/goods", params={"text": name}).json()["items"][0]

    def test_a_claim_pack_has_all_the_claim_rests_on_and_stays_as_it_was_written(self) -> None:
        worn = next(one for one in self.teo.get("/shelf").json() if one["outcome"] == "worn_out" and one["line"])["tag"]
        self.assertEqual(self.teo.get(f"/batteries/{worn}/claim.pdf").status_code, 404)
        seen = self.teo.get(f"/batteries/{worn}").json()
        item = self.item("Quellan Mat 48")
        found = self.teo.send("POST", f"/batteries/{worn}/claim", {"replacement_id": item["id"]}).json()
        said = self.words(f"/batteries/{worn}/claim.pdf")
        for words in (
            f"Warranty claim, tag {worn}", seen["battery"]["line"], found["answer"]["headline"], found["terms"]["reference"],
            seen["judgement"]["headline"], TEO, "To pay", "of which VAT 23 %", "4 Weir Lane", "The customer", "12 V EFB, 48",
            f"Counted from {date.fromisoformat(seen['sold_on']):%d %b %Y} (sale)",
            *(one["asks"] for one in found["answer"]["reasons"]), *(one["reading_text"] for one in seen["judgement"]["findings"]),
        ):  # fmt: skip
            self.assertIn(words, said)
        self.assertNotIn(seen["customer_name"], said)  # the maker need not know whose it was
        self.teo.send("PUT", f"/batteries/{worn}/place", {"place": "gone"})
        self.assertEqual(self.words(f"/batteries/{worn}/claim.pdf"), said)

    def test_a_day_sheet_adds_up(self) -> None:
        before = self.till(self.words("/day-sheet.pdf"))
        item = self.item("Quellan Cycle 48 700")
        self.lead.send("POST", "/goods/receive", {"item_id": item["id"], "pieces": 2, "volts": 12.8})
        for serial, cents in (("D-1", 12300), ("D-2", 24600)):
            body = {"item_id": item["id"], "volts": 12.8, "serial": serial, "price_cents": cents}
            self.assertEqual(self.teo.send("POST", "/sales", body).status_code, 201)
        body = {"context": {"came_in": "carried_in", "complaint": "clicks"}, "battery": {"line": "Day Line"}}
        tag = self.teo.send("POST", "/batteries", body).json()["tag"]
        undone = self.teo.send("POST", "/batteries", {**body, "battery": {"line": "Taken Back"}}).json()["tag"]
        self.teo.send("POST", f"/batteries/{undone}/undo", {})
        said = self.words("/day-sheet.pdf")
        today = datetime.now(DUBLIN)
        self.assertIn(f"{today:%A %d %B %Y}", said)
        for words in (f"{tag} Day Line", "clicks", "D-1", "246.00 EUR"):
            self.assertIn(words, said)
        sums = [round(after - was, 2) for was, after in zip(before, self.till(said), strict=True)]
        self.assertEqual(sums, [2, 369.0, 69.0, 24.0])
        self.assertNotIn("Taken Back", said)
        yesterday = self.words(f"/day-sheet.pdf?on={(today - timedelta(days=1)).date()}")
        self.assertNotIn("Day Line", yesterday)
        self.assertIn("Sold: 0", self.words(f"/day-sheet.pdf?on={(today - timedelta(days=400)).date()}"))
        self.assertEqual(self.teo.get("/day-sheet.pdf", params={"on": "yesterday"}).status_code, 422)

    def test_a_day_goes_by_the_shop_s_clock(self) -> None:
        with_tag = self.teo.send(
            "POST", "/batteries", {"context": {"came_in": "carried_in", "complaint": "check_only"}, "battery": {"line": "Zoned"}}
        ).json()  # fmt: skip
        came = datetime.fromisoformat(with_tag["came_at"])
        self.assertIn("Zoned", self.words(f"/day-sheet.pdf?on={came.astimezone(DUBLIN).date()}"))

    def test_a_recall_letter_is_for_what_is_under_watch(self) -> None:
        watched = next(one["tag"] for one in self.teo.get("/shelf").json() if one["outcome"] == "watch")
        seen = self.teo.get(f"/batteries/{watched}").json()
        said = self.words(f"/batteries/{watched}/recall.pdf")
        due = datetime.fromisoformat(seen["judgement"]["watch_until"])
        for words in (
            f"Tag {watched}",
            seen["customer_name"],
            f"on or after {due:%d %B %Y}",
            "do not charge it",
            "0555 0100",
        ):
            self.assertIn(words, said)
        other = next(one["tag"] for one in self.teo.get("/shelf").json() if one["outcome"] == "sound")
        self.assertEqual(self.teo.get(f"/batteries/{other}/recall.pdf").status_code, 422)

    def test_a_shelf_tag_is_for_a_62_mm_roll(self) -> None:
        item = self.item("Quellan Mat 48")
        paper = self.paper(f"/goods/{item['id']}/shelf-tag.pdf")
        wide, high = (float(side) / 72 * 25.4 for side in paper.pages[0].mediabox[2:])
        self.assertEqual((round(wide), round(high), len(paper.pages)), (62, 29, 1))
        said = paper.pages[0].extract_text()
        self.assertIn(f"{item['price_cents'] / 100:.2f} EUR", said)
        self.assertIn("Quellan Mat", said)
        self.assertEqual(self.teo.get("/goods/999999/shelf-tag.pdf").status_code, 404)

    def test_the_line_for_the_till(self) -> None:
        item = self.item("Quellan Cycle 48 700")
        self.lead.send("POST", "/goods/receive", {"item_id": item["id"], "pieces": 1, "volts": 12.8})
        body = {"item_id": item["id"], "volts": 12.8, "serial": "TILL-1", "price_cents": 12300}
        tag = self.teo.send("POST", "/sales", body).json()["tag"]
        sale = self.teo.get(f"/batteries/{tag}/sale").json()
        self.assertEqual(
            sale["till_line"],
            "Quellan Cycle 48 700  SN TILL-1  123.00 EUR  incl. VAT 23 % 23.00 EUR  deposit 12.00 EUR",
        )
