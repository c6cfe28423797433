"""A replacement under warranty is one act: claim, stock, sale and dates in one write; and a serial is known in every store of the house."""

from datetime import UTC, datetime, timedelta
from typing import Any

from tests.api.test_stores import Stores
from tests.house import Client

SOLD_ON = (datetime.now(UTC) - timedelta(days=100)).date().isoformat()
GIVEN = "Quellan Cycle 48 700"


class Acts(Stores):
    """A counter and what is done at it."""

    def post(self, client: Client, path: str, body: Any, status: int = 201) -> Any:
        found = client.send("POST", path, body)
        self.assertEqual(found.status_code, status, found.text)
        return found.json()

    def worn(self, client: Client, serial: str, line: str = "Merlow Plain", sold_on: str | None = SOLD_ON) -> int:
        tag = self.taken_in(
            client,
            battery={"line": line, "rating": {"amps": 640}, "group_code": "48", "serial": serial},
            sold_on=sold_on,
        )
        self.read(client, tag, kind="look")
        self.fails(client, tag)
        return tag

    def fails(self, client: Client, tag: int) -> None:
        self.read(client, tag, kind="rest_volts", volts=12.64, settled="rested", rested_hours=12)
        self.read(client, tag, kind="electronic_tester", measured_cca_amps=300, type_set="flooded", posts_clean=True)
        self.read(client, tag, kind="adjustable_load", amps=320, seconds=15, volts=7.9, temperature_c=20)
        self.assertEqual(client.get(f"/batteries/{tag}").json()["judgement"]["outcome"], "worn_out")

    def item(self, client: Client, name: str = GIVEN) -> Any:
        return next(
            each for each in client.get("/goods", params={"text": name}).json()["items"] if each["name"] == name
        )

    def stocked(self, client: Client, name: str = GIVEN) -> Any:
        self.post(client, "/goods/receive", {"item_id": self.item(client, name)["id"], "volts": 12.8})
        return self.item(client, name)

    def given(self, client: Client, tag: int, serial: str, status: int = 201, **more: Any) -> Any:
        item = self.stocked(client)
        hand_over = {"volts": 12.8, "serial": serial, **more}
        return self.post(
            client, f"/batteries/{tag}/claim", {"replacement_id": item["id"], "hand_over": hand_over}, status
        )


class OneAct(Acts):
    def test_claim_stock_sale_and_dates_are_one_write(self) -> None:
        tag, before = self.worn(self.teo, "FIRST-1"), self.stocked(self.teo)
        priced = self.teo.get(f"/batteries/{tag}/warranty", params={"replacement_id": before["id"]}).json()
        written = self.given(self.teo, tag, "NEW-1")
        self.assertEqual((written["claimed"], written["answer"]["decision"]), (True, "free"))
        self.assertEqual(self.item(self.teo)["in_stock"], before["in_stock"])  # one more came, one went
        sale = self.teo.get(f"/batteries/{written['given_tag']}/sale").json()
        self.assertEqual((sale["price_cents"], sale["core_deposit_cents"]), (priced["answer"]["pays_cents"], 0))
        self.assertEqual((sale["old_tag"], sale["serial"]), (tag, "NEW-1"))
        first_day = datetime.fromisoformat(SOLD_ON).strftime("%d %b %Y")
        self.assertIn(f"Given under warranty for {tag}: its time runs from {first_day}", sale["warranty_words"])
        lives = [self.teo.get(f"/batteries/{each}/life").json() for each in (tag, written["given_tag"])]
        self.assertEqual((lives[0]["replaced_by"], lives[1]["sold_for"]), (written["given_tag"], tag))

    def test_nothing_is_written_where_the_hand_over_cannot_be(self) -> None:
        tag = self.worn(self.teo, "FIRST-2")
        for more, field in (({"volts": 12.1}, "hand_over.volts"), ({"volts": 31}, "hand_over.volts")):
            refused = self.given(self.teo, tag, "NEW-2", 422, **more)
            self.assertEqual(refused["errors"][0]["path"], field)
        alone = {"hand_over": {"volts": 12.8, "serial": "NEW-2"}}
        refused = self.post(self.teo, f"/batteries/{tag}/claim", alone, 422)
        self.assertEqual(refused["errors"][0]["path"], "replacement_id")
        self.assertFalse(self.teo.get(f"/batteries/{tag}/warranty").json()["claimed"])
        self.assertEqual(
            self.sql("select count(*) from sales s join batteries b on b.id = s.battery_id where b.serial = 'NEW-2'"),
            [(0,)],
        )

    def test_a_free_one_whose_price_nobody_knows_is_not_written_before_it_is_said(self) -> None:
        self.post(self.lead, "/house/terms", {"line": "Ostrel Gone", "free_months": 24})
        tag = self.worn(self.teo, "GONE-4", line="Ostrel Gone")
        folder = self.teo.get(f"/batteries/{tag}/warranty", params={"replacement_id": self.item(self.teo)["id"]}).json()
        self.assertEqual((folder["answer"]["decision"], folder["answer"]["price_missing"]), ("free", "today"))
        self.assertIsNone(folder["answer"]["pays_cents"])  # not its whole price
        refused = self.post(self.teo, f"/batteries/{tag}/claim", {}, 422)
        self.assertEqual(refused["errors"][0]["path"], "price_cents")
        said = {"price_cents": 10100, "replacement_id": self.item(self.teo)["id"]}
        written = self.post(self.teo, f"/batteries/{tag}/claim", said)
        self.assertEqual((written["claimed"], written["answer"]["credit_cents"]), (True, 10100))

    def test_it_keeps_the_first_ones_dates_and_terms_and_a_second_claim_goes_to_the_maker(self) -> None:
        first = self.worn(self.teo, "FIRST-3")
        terms = self.teo.get(f"/batteries/{first}/warranty").json()["terms"]
        second = self.given(self.teo, first, "NEW-3")["given_tag"]
        self.fails(self.teo, second)
        folder = self.teo.get(f"/batteries/{second}/warranty").json()
        self.assertEqual((folder["answer"]["counted_from"], folder["terms"]), (SOLD_ON, terms))
        self.assertEqual((folder["answer"]["decision"], folder["answer"]["credit_cents"]), ("ask_the_maker", 0))
        third = self.given(self.teo, second, "NEW-3B")["given_tag"]  # its own price: the maker has not said yet
        self.fails(self.teo, third)
        self.assertEqual(self.teo.get(f"/batteries/{third}/warranty").json()["answer"]["counted_from"], SOLD_ON)

    def test_every_store_of_the_house_knows_it_and_no_customer_of_it(self) -> None:
        first = self.worn(self.teo, "FIRST-5")
        self.given(self.teo, first, "NEW-5")
        for serial, decision in (("first 5", "excluded"), ("new5", "ask_the_maker")):
            with self.subTest(serial):
                tag = self.worn(self.there, serial, sold_on=datetime.now(UTC).date().isoformat())
                folder = self.there.get(f"/batteries/{tag}/warranty").json()
                self.assertEqual(folder["answer"]["decision"], decision)
                said = " ".join(reason["found"] for reason in folder["answer"]["reasons"])
                self.assertIn(f"at {self.teo.me['store']['name']}", said)
                self.assertNotIn("Quarm", str(folder))
        self.assertEqual(folder["answer"]["counted_from"], SOLD_ON)  # not from the sale somebody typed there
        excluded = self.worn(self.there, "FIRST5")
        self.post(self.there, f"/batteries/{excluded}/claim", {}, 409)

    def test_a_serial_that_was_sold_is_read_again_before_it_is_sold_again(self) -> None:
        item = self.stocked(self.teo)
        body = {"item_id": item["id"], "volts": 12.8, "serial": "ONCE-6"}
        self.post(self.teo, "/sales", body)
        for client, spelling in ((self.teo, "once 6"), (self.there, "ONCE6")):
            theirs = self.stocked(client, client.get("/goods").json()["items"][0]["name"])
            again = {**body, "item_id": theirs["id"], "serial": spelling}
            refused = self.post(client, "/sales", again, 422)["errors"][0]
            self.assertEqual(refused["path"], "serial")
            self.assertIn(f"at {self.teo.me['store']['name']}: read it again", refused["message"])
            self.post(client, "/sales", {**again, "serial_is_right": True})
