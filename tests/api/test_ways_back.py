"""A sale taken back, money of another kind, several taxes, and what somebody says otherwise: each at its desk, as one act."""

from io import BytesIO
from typing import Any

from pypdf import PdfReader

from tests.api.test_one_act import Acts
from tests.house import Client


class WaysBack(Acts):
    def sold(self, client: Client, serial: str, **more: Any) -> Any:
        item = self.stocked(client)
        body = {"item_id": item["id"], "volts": 12.8, "serial": serial, "price_cents": 14000, **more}
        return self.post(client, "/sales", body)

    def back(self, client: Client, tag: int, status: int = 201, **body: Any) -> Any:
        return self.post(client, f"/batteries/{tag}/sale/way-back", {"reason": "wrong size", **body}, status)

    def paper(self, client: Client, path: str) -> str:
        found = client.get(path)
        self.assertEqual(found.status_code, 200, found.text)
        return " ".join(page.extract_text() for page in PdfReader(BytesIO(found.content)).pages)

    def pieces(self, client: Client) -> Any:
        return client.get(f"/goods/{self.item(client)['id']}").json()["pieces"]

    def test_a_void_sale_is_as_if_it_never_was(self) -> None:
        before = self.stocked(self.teo)["in_stock"]
        sale = self.sold(self.teo, "VOID-1")
        void = self.back(self.teo, sale["tag"], what="void")
        self.assertEqual(
            (void["way_back"]["what"], void["way_back"]["refund_cents"], void["way_back"]["piece_is"]),
            ("void", 14000, "new"),
        )
        self.assertEqual(self.item(self.teo)["in_stock"], before + 1)
        self.back(self.teo, sale["tag"], 409, what="void")
        self.post(self.teo, f"/batteries/{sale['tag']}/sale/ticks", {"step": "old_one"}, 409)
        self.sold(self.teo, "void 1")  # its serial was never sold: nobody is asked
        warranty = self.teo.get(f"/batteries/{sale['tag']}/warranty").json()["answer"]
        self.assertEqual(warranty["decision"], "excluded")
        self.assertIn("Void on", self.paper(self.teo, f"/batteries/{sale['tag']}/sale.pdf"))

    def test_a_returned_one_stands_as_used_and_is_sold_as_that_with_its_first_dates(self) -> None:
        sale = self.sold(self.teo, "USED-2")
        for body, field in (
            ({"volts": None}, "volts"),
            ({"volts": 12.6, "refund_cents": 14001}, "refund_cents"),
            ({"volts": 31}, "volts"),
        ):
            refused = self.back(self.teo, sale["tag"], 422, what="return", **body)
            self.assertEqual(refused["errors"][0]["path"], field)
        back = self.back(self.teo, sale["tag"], what="return", volts=12.7, refund_cents=9000)
        number = back["way_back"]["piece_id"]
        piece = next(one for one in self.pieces(self.teo) if one["id"] == number)
        self.assertEqual((piece["came_back"], piece["last_volts"], piece["serial"]), ("used", 12.7, "USED-2"))
        again = {
            "item_id": piece["item_id"], "piece_id": number, "volts": 12.7, "serial": "USED-2", "serial_is_right": True,
        }  # fmt: skip
        refused = self.post(self.teo, "/sales", again, 422)
        self.assertEqual(refused["errors"][0]["path"], "price_cents")
        second = self.post(self.teo, "/sales", {**again, "price_cents": 6000})
        folder = self.teo.get(f"/batteries/{second['tag']}/warranty").json()
        self.assertEqual(folder["answer"]["counted_from"], sale["sold_at"][:10])
        self.assertIn("keeps the first battery's dates", self.paper(self.teo, f"/batteries/{second['tag']}/sale.pdf"))

    def test_one_that_failed_comes_back_dead_and_is_sold_no_more(self) -> None:
        sale = self.sold(self.teo, "DEAD-3")
        dead = self.back(self.teo, sale["tag"], what="return", volts=10.4)["way_back"]
        self.assertEqual(dead["piece_is"], "dead")
        body = {
            "item_id": self.item(self.teo)["id"],
            "piece_id": dead["piece_id"],
            "volts": 12.8,
            "serial": "DEAD-3",
            "price_cents": 1,
        }
        self.assertEqual(self.post(self.teo, "/sales", body, 422)["errors"][0]["path"], "piece_id")
        self.post(self.teo, f"/pieces/{dead['piece_id']}", {"what": "recycled"})
        self.assertNotIn(dead["piece_id"], [one["id"] for one in self.pieces(self.teo)])

    def test_an_exchange_is_one_write_or_none(self) -> None:
        sale, item = self.sold(self.teo, "EX-4"), self.stocked(self.teo)
        other = {"item_id": item["id"], "volts": 12.1, "serial": "EX-5"}
        refused = self.back(self.teo, sale["tag"], 422, what="exchange", volts=12.7, other=other)
        self.assertEqual(refused["errors"][0]["path"], "other.volts")
        self.assertIsNone(self.teo.get(f"/batteries/{sale['tag']}/sale").json()["way_back"])
        stands = self.back(self.teo, sale["tag"], what="exchange", volts=12.7, other={**other, "volts": 12.8})
        self.assertEqual((stands["serial"], stands["way_back"]), ("EX-5", None))
        gone = self.teo.get(f"/batteries/{sale['tag']}/sale").json()["way_back"]
        self.assertEqual((gone["what"], gone["other_tag"]), ("exchange", stands["tag"]))

    def test_the_exchanged_one_is_for_the_same_customer_and_takes_no_second_deposit(self) -> None:
        for came in (False, True):
            with self.subTest(old_one_came=came):
                old = self.taken_in(self.teo)
                sale = self.sold(self.teo, f"SAME-{came}", old_tag=old, customer_name="Ida Fenn", use="taxi")
                self.assertGreater(sale["core_deposit_cents"], 0)
                if came:
                    self.post(self.teo, f"/batteries/{sale['tag']}/sale/ticks", {"step": "old_one"})
                other = {"item_id": self.stocked(self.teo)["id"], "volts": 12.8, "serial": f"OTHER-{came}"}
                stands = self.back(self.teo, sale["tag"], what="exchange", volts=12.7, other=other)
                gone = self.teo.get(f"/batteries/{sale['tag']}/sale").json()["way_back"]
                deposit = sale["core_deposit_cents"]
                self.assertEqual(
                    (gone["deposit_back_cents"], stands["core_deposit_cents"]), (0, 0) if came else (deposit, deposit)
                )
                seen = self.teo.get(f"/batteries/{stands['tag']}").json()
                self.assertEqual(
                    (seen["customer_name"], seen["context"]["use"], stands["old_tag"]), ("Ida Fenn", "taxi", old)
                )

    def test_after_its_day_it_is_not_void_and_after_its_days_a_lead_takes_it(self) -> None:
        sale = self.sold(self.teo, "LATE-6")
        with self.subTest("yesterday"):
            self.sold_days_ago(sale["tag"], 1)
            self.assertEqual(self.back(self.teo, sale["tag"], 422, what="void")["errors"][0]["path"], "what")
        with self.subTest("three weeks ago"):
            self.sold_days_ago(sale["tag"], 20)
            refused = self.back(self.teo, sale["tag"], 422, what="return", volts=12.7)
            self.assertIn("a lead may take it back", refused["errors"][0]["message"])
            self.back(self.lead, sale["tag"], what="return", volts=12.7)

    def sold_days_ago(self, tag: int, days: int) -> None:
        self.sql("alter table sales disable trigger user")
        self.sql(
            f"update sales set sold_at = sold_at - interval '{days} days' where battery_id = (select id from batteries where tag = {tag} and store_id = 1)"
        )
        self.sql("alter table sales enable trigger user")

    def test_a_claim_without_a_piece_is_handed_over_later_under_the_same_credit(self) -> None:
        tag = self.worn(self.teo, "LATER-7")
        self.post(self.teo, f"/batteries/{tag}/claim", {})
        self.post(self.teo, f"/batteries/{tag}/claim", {}, 409)
        given = self.given(self.teo, tag, "LATER-8")
        sale = self.teo.get(f"/batteries/{given['given_tag']}/sale").json()
        self.assertEqual(sale["price_cents"] + sale["credit_cents"], self.item(self.teo)["price_cents"])
        self.given(self.teo, tag, "LATER-9", 409)
        self.assertIn("credited", self.paper(self.teo, "/day-sheet.pdf").lower())

    def test_what_was_sold_stands_as_sold_until_somebody_reads_it_again(self) -> None:
        sale = self.sold(self.teo, "NEW-10")
        judged = self.teo.get(f"/batteries/{sale['tag']}").json()["judgement"]
        self.assertEqual((judged["headline"], judged["next_step"]["key"]), ("Sold", "sold"))
        line = self.teo.get("/checks", params={"text": "NEW-10"}).json()["checks"][0]
        self.assertEqual((line["tag"], line["sold"]), (sale["tag"], True))
        self.assertIn("free replacement", self.paper(self.teo, f"/batteries/{sale['tag']}/slip.pdf"))
        self.read(self.teo, sale["tag"], kind="look")
        judged = self.teo.get(f"/batteries/{sale['tag']}").json()["judgement"]
        self.assertNotEqual(judged["next_step"]["key"], "sold")

    def test_an_own_call_stands_beside_the_judgement_and_is_counted(self) -> None:
        tag = self.worn(self.teo, "OWN-11")
        said = {"what": "own_call", "text": "The clamps were loose", "outcome": "sound"}
        seen = self.post(self.teo, f"/batteries/{tag}/said", said)
        self.assertEqual((seen["judgement"]["outcome"], seen["own_call"]["outcome"]), ("worn_out", "sound"))
        self.assertIn("The clamps were loose", self.paper(self.teo, f"/batteries/{tag}/slip.pdf"))
        self.post(self.teo, f"/batteries/{tag}/claim", {})
        self.assertIn("The clamps were loose", self.paper(self.teo, f"/batteries/{tag}/claim.pdf"))
        self.assertIn({"judged": "worn_out", "called": "sound", "times": 1}, self.teo.get("/own-calls").json())
        same = self.post(self.teo, f"/batteries/{tag}/said", {**said, "outcome": "worn_out"}, 422)
        self.assertEqual(same["errors"][0]["path"], "outcome")
        story = {"what": "story", "text": "It clicked, Red, White and Blue lights on"}
        seen = self.post(self.teo, f"/batteries/{tag}/said", story)
        self.assertEqual(seen["remarks"][-1]["text"], story["text"])
        person = self.teo.get(f"/batteries/{tag}").json()["customer_id"]
        self.assertIn(story["text"], self.lead.send("POST", f"/customers/{person}/hand-out", {}).text)
        back = self.post(self.teo, f"/batteries/{tag}/said", {"what": "own_call", "text": "It is worn out"})
        self.assertIsNone(back["own_call"])
        self.post(self.lead, f"/batteries/{tag}/erase-customer", {}, 200)
        self.assertEqual(self.teo.get(f"/batteries/{tag}").json()["remarks"], [])

    def test_other_money_asks_about_prices_and_leaves_what_was_sold(self) -> None:
        sale = self.sold(self.teo, "YEN-12")
        seen, price = self.lead.get("/house").json(), self.item(self.teo)["price_cents"]
        body = {"shop": {**seen["shop"], "currency": "JPY"}, "based_on": seen["edition"]}
        refused = self.lead.send("PUT", "/house/shop", body)
        self.assertEqual((refused.status_code, refused.json()["errors"][0]["path"]), (422, "prices_times"))
        self.assertEqual(self.lead.send("PUT", "/house/shop", {**body, "prices_times": 160}).status_code, 200)
        self.assertEqual(self.item(self.teo)["price_cents"], round(price * 160 / 100))  # yen have no decimals
        self.assertEqual(self.teo.get(f"/batteries/{sale['tag']}/sale").json()["currency"], "EUR")
        self.assertIn("140.00 EUR", self.paper(self.teo, f"/batteries/{sale['tag']}/sale.pdf"))
        again = self.lead.get("/house").json()
        back = {"shop": {**again["shop"], "currency": "EUR"}, "based_on": again["edition"], "prices_times": 0.00625}
        self.assertEqual(self.lead.send("PUT", "/house/shop", back).status_code, 200)

    def test_a_tax_on_top_and_one_of_single_items(self) -> None:
        seen = self.lead.get("/house").json()
        shop = {**seen["shop"], "tax_on_top": True, "more_taxes": [{"name": "Low", "pct": 9}]}
        self.assertEqual(
            self.lead.send("PUT", "/house/shop", {"shop": shop, "based_on": seen["edition"]}).status_code, 200
        )
        try:
            sale = self.sold(self.teo, "TAX-13")
            self.assertEqual((sale["price_cents"], sale["tax_cents"]), (17220, 3220))  # 140.00 and 23 %
            item = self.teo.get(f"/goods/{self.item(self.teo)['id']}").json()
            low = {"item": {**item["item"], "tax_name": "Low"}, "based_on": item["edition"]}
            self.assertEqual(self.lead.send("PUT", f"/goods/{item['id']}", low).status_code, 200)
            sale = self.sold(self.teo, "TAX-14")
            self.assertEqual((sale["price_cents"], sale["tax_cents"]), (15260, 1260))
            said = self.paper(self.teo, f"/batteries/{sale['tag']}/sale.pdf")
            self.assertIn("Low 9 %", said)
        finally:
            seen = self.lead.get("/house").json()
            plain = {**seen["shop"], "tax_on_top": False, "more_taxes": []}
            self.lead.send("PUT", "/house/shop", {"shop": plain, "based_on": seen["edition"]})
