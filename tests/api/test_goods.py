"""Match, goods, sales and lists over the API: what is found, sold, ticked off, brought in and taken out."""

import io
import json
import threading
import time
import unittest
import uuid
import zipfile
from datetime import UTC, datetime, timedelta
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any
from unittest.mock import patch
from zoneinfo import ZoneInfo

import psycopg
from frictionless import Package
from openpyxl import Workbook
from sqlalchemy import select, text
from sqlalchemy.exc import OperationalError

from tests.api.test_api import TAKE_IN
from tests.english import TestClient
from tests.house import HERE, LEAD, NOOR, TEO, Client, app_on, database, sessions
from tests.photos import CARD, corners, seen
from tests.records.test_files import workbook
from vane_check.desks import import_runner
from vane_check.desks.import_runner import Runner
from vane_check.records.base import StoreSession
from vane_check.records.migrate import migrate
from vane_check.records.models import CatalogueItem, ImportRun, StockPiece, TermsRow

HEADING = "Name;Line;Size;Rating;Ah;Price;Deposit on the old one"


class Goods(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = database()
        app = app_on(cls.url)
        cls.lead, cls.teo, cls.noor = Client(app, LEAD), Client(app, TEO), Client(app, NOOR)

    def post(self, path: str, body: Any, status: int = 201, by: Client | None = None) -> Any:
        found = (by or self.teo).send("POST", path, body)
        self.assertEqual(found.status_code, status, found.text)
        return found.json()

    def match(self, **asked: Any) -> Any:
        return self.post("/match", asked, 200)

    def item(self, name: str) -> Any:
        return next(one for one in self.teo.get("/goods", params={"text": name}).json()["items"] if one["name"] == name)

    def car(self, text: str) -> Any:
        return self.teo.get("/vehicles", params={"text": text}).json()[0]

    def fault(self, found: Any) -> tuple[str, str]:
        one = found["errors"][0]
        return one["path"], one["message"]


class Matching(Goods):
    def test_a_size_that_is_no_text_is_refused_in_its_field(self) -> None:
        for code in ([], {}, ["48"], 48, True):
            found = self.teo.send("POST", "/match", {"requirement": {"group_code": code, "min_cca_amps": 600}})
            self.assertEqual((found.status_code, self.fault(found.json())[0]), (422, "requirement.group_code"), code)

    def test_a_car_by_make_model_year_and_its_variants(self) -> None:
        cars = self.teo.get("/vehicles", params={"text": "senna 2016"}).json()
        self.assertEqual(len(cars), 4)
        self.assertEqual({(one["make"], one["model"], one["from_year"]) for one in cars}, {("Ulmar", "Senna", 2014)})
        self.assertEqual(len({one["variant"] for one in cars}), 4)
        self.assertEqual(self.teo.get("/vehicles", params={"text": "senna 1990"}).json(), [])
        self.assertTrue(all(one["battery_place"] and one["access"] for one in cars))
        found = self.match(vehicle_id=cars[1]["id"])
        self.assertEqual(found["requirement"]["chemistry"], "efb")
        self.assertTrue(found["matches"])

    def test_a_code_that_says_nothing_has_its_sentence_in_its_field(self) -> None:
        self.assertEqual(self.fault(self.post("/match", {"code": "Q99X"}, 422))[0], "code")
        found = self.teo.get("/codes", params={"text": "Q99X"})
        self.assertEqual((found.status_code, self.fault(found.json())[0]), (422, "code"))
        self.assertEqual(self.match(code="560 408 054")["requirement"]["group_code"], "LN2")

    def test_the_tape_alone_is_enough_and_a_near_one_says_the_millimetres(self) -> None:
        tray = {
            "of": "tray",
            "length_mm": 290,
            "width_mm": 178,
            "height_mm": 200,
            "positive_side": "right",
            "post": "top",
        }
        found = self.match(measured=tray)
        self.assertTrue(found["matches"])
        first = next(one for one in found["matches"] if one["candidate"]["group_code"] == "48")
        self.assertEqual(first["fit"], "near")
        self.assertIn("Fit a spacer for 12 mm of length, then the hold-down", first["to_do"])
        self.assertEqual(first["length_difference_mm"], -12)
        wrong = self.post("/match", {"measured": {**tray, "length_mm": 27.8}}, 422)
        self.assertEqual(self.fault(wrong)[0], "measured.length_mm")

    def test_what_its_car_lent_is_the_car_s_word_once_and_never_the_label_s(self) -> None:
        car = self.car("Torvane T4 Tourer")

        def by_the_label(source: str) -> set[str]:
            battery = {"chemistry": "flooded", "chemistry_source": source, "group_code": "34", "size_source": source}
            tag = self.post("/batteries", {"battery": battery, "context": {}, "vehicle_id": car["id"]})["tag"]
            self.assertEqual(self.teo.get(f"/batteries/{tag}").json()["battery"]["size_source"], source)
            return {line["about"] for line in self.match(tag=tag)["lines"] if "label" in line["says"]}

        self.assertEqual(by_the_label("vehicle"), set())
        self.assertEqual(by_the_label("label"), {"size", "positive", "chemistry"})

    def test_a_car_that_ran_too_high_gets_no_agm_before_it_is_mended(self) -> None:
        car = self.car("Torvane T4 Tourer")
        body = {**TAKE_IN, "vehicle_id": car["id"], "context": {"came_in": "in_car", "complaint": "check_only"}}
        tag = self.post("/batteries", body)["tag"]
        before = self.match(tag=tag)
        self.assertTrue(
            any(one["fit"] != "rejected" and one["candidate"]["chemistry"] == "agm" for one in before["matches"])
        )
        named = {"id": str(uuid.uuid4()), "taken_at": datetime.now(UTC).isoformat()}
        self.post(f"/batteries/{tag}/readings", {"kind": "car", "idle_volts": 15.4, **named})
        after = self.match(tag=tag)
        self.assertEqual(after["requirement"]["running_volts"], 15.4)
        for one in after["matches"]:
            if one["candidate"]["chemistry"] == "agm":
                self.assertEqual(one["fit"], "rejected")
        said = [point["text"] for one in after["matches"] for point in one["points"] if point["about"] == "chemistry"]
        self.assertTrue(any("15.4 V would not last: mend its charging first" in text for text in said), said)

    def test_a_taxi_is_never_offered_first_what_its_terms_leave_out(self) -> None:
        with sessions(self.url).begin() as session:
            assert isinstance(session, StoreSession)
            session.bind_to(1)
            for line in ("Aldane Start", "Aldane Start Plus", "Corvin Field", "Corvin Long"):
                session.add(
                    TermsRow(
                        line=line,
                        free_months=12,
                        pro_rata_months=0,
                        date_code_allowance_months=0,
                        excluded_uses=["taxi"],
                    )
                )
        asked: Any = {"requirement": {"group_code": "65", "min_cca_amps": 745, "use": "taxi"}}
        found = [one for one in self.match(**asked)["matches"] if one["fit"] != "rejected"]
        left_out = [any(point["about"] == "terms" for point in one["points"]) for one in found]
        self.assertIn(True, left_out)
        self.assertEqual(left_out, sorted(left_out))
        asked["requirement"]["use"] = "private"
        private = [one for one in self.match(**asked)["matches"] if one["fit"] != "rejected"]
        self.assertFalse(any(point["about"] == "terms" for one in private for point in one["points"]))

    def test_nothing_here_says_when_ours_comes_and_who_has_it(self) -> None:
        found = self.match(tag=173)
        awaited = {one["item_id"]: one for one in found["awaited"]}
        missing = [
            one["candidate"]
            for one in found["matches"]
            if one["fit"] != "rejected" and not one["candidate"]["in_stock"]
        ]
        self.assertEqual(set(awaited), {one["item_id"] for one in missing})
        self.assertTrue(all(one["expected_on"] for one in awaited.values()))
        others = {store for one in awaited.values() for store in one["elsewhere"]}
        self.assertLessEqual(others, {"Weir Lane Batteries, Quay Street"})
        self.assertTrue(others)
        item = missing[0]
        self.post("/orders", {"item_id": item["item_id"], "for_tag": 173, "expected_on": "2099-01-05"})
        again = {one["item_id"]: one for one in self.match(tag=173)["awaited"]}[item["item_id"]]
        self.assertEqual((again["ordered"], again["expected_on"]), (1, "2099-01-05"))

    def test_why_the_others_do_not_fit(self) -> None:
        found = self.post("/match/others", {"tag": 173}, 200)
        self.assertGreater(found["total"], 1900)
        self.assertIn("size", {one["about"] for one in found["reasons"]})


class Shelf(Goods):
    def test_prices_are_a_lead_s_and_kept_by_edition(self) -> None:
        item = self.item("Merlow Silver 47 600")
        whole = self.teo.get(f"/goods/{item['id']}").json()
        body = {"item": {**whole["item"], "price_cents": 11111}, "based_on": whole["edition"]}
        self.assertEqual(self.teo.send("PUT", f"/goods/{item['id']}", body).status_code, 403)
        changed = self.lead.send("PUT", f"/goods/{item['id']}", body).json()
        self.assertEqual((changed["item"]["price_cents"], changed["edition"]), (11111, whole["edition"] + 1))
        written = [(one["who"], one["stood"], one["price_cents"]) for one in changed["before"]]
        self.assertEqual(
            written, [(LEAD, False, 11111), ("", True, whole["item"]["price_cents"])]
        )  # it came with a list
        self.assertEqual(self.lead.send("PUT", f"/goods/{item['id']}", body).status_code, 409)
        named = {**body["item"], "name": "merlow silver 48 680"}
        twin = self.lead.send("PUT", f"/goods/{item['id']}", {"item": named, "based_on": changed["edition"]})
        self.assertEqual(self.fault(twin.json())[0], "item.name")

    def test_an_item_of_its_own_size_needs_its_outside(self) -> None:
        item = {"line": "Odd", "name": "Odd one", "rating": {"amps": 500}, "price_cents": 9000}
        refused = self.post("/goods", {"item": item}, 422, self.lead)
        self.assertEqual(
            {one["path"] for one in refused["errors"]},
            {f"item.{name}" for name in ("length_mm", "width_mm", "height_mm", "positive_side")},
        )
        self.post(
            "/goods",
            {"item": {**item, "length_mm": 241, "width_mm": 175, "height_mm": 190, "positive_side": "right"}},
            201,
            self.lead,
        )
        tray = {"of": "old", "length_mm": 242, "width_mm": 175, "height_mm": 190, "positive_side": "right"}
        names = [one["candidate"]["name"] for one in self.match(measured=tray)["matches"] if one["fit"] == "exact"]
        self.assertIn(
            "Odd one",
            [
                one["candidate"]["name"]
                for one in self.match(requirement={"group_code": "47", "min_cca_amps": 400})["matches"]
            ]
            + names,
        )

    def test_received_read_charged_and_set_aside(self) -> None:
        item = self.item("Merlow Plain 58R 500")
        before = self.teo.get(f"/goods/{item['id']}").json()
        came = self.post("/goods/receive", {"item_id": item["id"], "pieces": 2, "volts": 12.3})
        self.assertEqual(came["in_stock"], before["in_stock"] + 2)
        piece = came["pieces"][-1]
        self.assertEqual(piece["state"]["due"], "charge")
        due = self.post(f"/pieces/{piece['id']}", {"what": "charged", "volts": 12.7})
        self.assertNotIn(piece["id"], [one["id"] for one in due["pieces"]])
        self.assertEqual(
            self.fault(self.post(f"/pieces/{piece['id']}", {"what": "volts", "volts": 19}, 422))[0], "volts"
        )
        self.post(f"/pieces/{piece['id']}", {"what": "set_aside"}, 403)
        self.post(f"/pieces/{piece['id']}", {"what": "set_aside"}, 201, self.lead)
        self.assertEqual(self.teo.get(f"/goods/{item['id']}").json()["in_stock"], before["in_stock"] + 1)
        self.assertEqual(
            self.fault(self.post("/goods/receive", {"item_id": item["id"], "dry_charged": True, "volts": 12.6}, 422))[
                0
            ],
            "volts",
        )

    def test_orders_are_closed_once_and_by_what_came(self) -> None:
        item = self.item("Merlow Plain 65 710")
        order = self.post("/orders", {"item_id": item["id"], "pieces": 3})[-1]
        self.post("/goods/receive", {"item_id": item["id"], "pieces": 3, "volts": 12.7, "order_id": order["id"]})
        self.assertNotIn(order["id"], [one["id"] for one in self.teo.get("/orders").json()])
        self.post(f"/orders/{order['id']}/close", {"how": "dropped"}, 409)

    def test_suppliers(self) -> None:
        written = {"name": "Third", "lead_days": 2, "delivers_on": [1], "order_before": "16:00"}
        self.post("/suppliers", {"supplier": written}, 403)
        found = self.post("/suppliers", {"supplier": written}, 201, self.lead)
        self.assertIn("Third", [one["supplier"]["name"] for one in found])
        for field, value in (("order_before", "soon"), ("delivers_on", [9]), ("lead_days", -1)):
            wrong = self.post("/suppliers", {"supplier": {**written, "name": "Fourth", field: value}}, 422, self.lead)
            self.assertEqual(self.fault(wrong)[0], f"supplier.{field}")


class Sales(Goods):
    def sold(self, **more: Any) -> Any:
        item = self.item("Quellan Cycle 48 700")
        self.post("/goods/receive", {"item_id": item["id"], "volts": 12.8})
        body = {"item_id": item["id"], "volts": 12.8, "serial": f"S-{uuid.uuid4().hex[:6]}", **more}
        return self.post("/sales", body)

    def test_a_piece_leaves_with_its_volts_and_serial_and_has_a_life(self) -> None:
        car = self.car("Brevan Tillet 1.2")
        before = self.item("Quellan Cycle 48 700")["in_stock"]
        sale = self.sold(vehicle_id=car["id"], serial="QC 4711", customer_name="V. Holm", fitted_here=False)
        self.assertEqual(self.item("Quellan Cycle 48 700")["in_stock"], before)
        life = self.teo.get(f"/batteries/{sale['tag']}").json()
        self.assertEqual(
            (life["battery"]["serial"], life["customer_name"], life["place"]), ("QC 4711", "V. Holm", "gone")
        )
        self.assertEqual(life["sold_on"], datetime.now(ZoneInfo("Europe/Dublin")).date().isoformat())
        self.assertEqual(life["readings"][0]["reading"]["volts"], 12.8)
        warranty = self.teo.get(f"/batteries/{sale['tag']}/warranty").json()
        self.assertEqual(warranty["terms"]["line"], "Quellan Cycle")

    def test_what_may_not_be_handed_over(self) -> None:
        item = self.item("Quellan Cycle 48 700")
        body = {"item_id": item["id"], "volts": 12.2, "serial": "A"}
        path, said = self.fault(self.post("/sales", body, 422))
        self.assertEqual((path, "charge it before it is handed over" in said), ("volts", True))
        self.assertEqual(self.fault(self.post("/sales", {**body, "volts": 12.8, "serial": ""}, 422))[0], "serial")
        with sessions(self.url).begin() as session:
            assert isinstance(session, StoreSession)
            session.bind_to(1)
            old = StockPiece(item_id=item["id"], arrived_on=(datetime.now(UTC) - timedelta(days=400)).date())
            dry = StockPiece(item_id=item["id"], arrived_on=datetime.now(UTC).date(), dry_charged=True)
            session.add_all([old, dry])
            session.flush()
            ids = old.id, dry.id
        for piece_id, words in zip(ids, ("not sold as new", "is dry: fill it"), strict=True):
            path, said = self.fault(self.post("/sales", {**body, "volts": 12.8, "piece_id": piece_id}, 422))
            self.assertEqual((path, words in said), ("piece_id", True), said)

    def test_one_piece_is_sold_once_by_two_at_the_same_moment(self) -> None:
        item = self.item("Tessaro Duty 78 730")
        came = self.post("/goods/receive", {"item_id": item["id"], "volts": 12.8})
        piece = came["pieces"][-1]["id"]
        said: list[int] = []

        def sell(by: Client) -> None:
            body = {"item_id": item["id"], "piece_id": piece, "volts": 12.8, "serial": "TWICE"}
            said.append(by.send("POST", "/sales", body).status_code)

        threads = [threading.Thread(target=sell, args=(one,)) for one in (self.teo, self.noor)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(sorted(said), [201, 409])
        self.post(f"/pieces/{piece}", {"what": "volts", "volts": 12.6}, 409)

    def test_the_fitting_list_is_ticked_once_and_is_the_new_ones_baseline(self) -> None:
        old = self.post("/batteries", {**TAKE_IN, "vehicle_id": self.car("Brevan Ossel 2018")["id"]})["tag"]
        sale = self.sold(old_tag=old)
        keys = [one["step"]["key"] for one in sale["steps"]]
        self.assertIn("register", keys)
        self.assertIn("transit_plugs", keys)
        path = f"/batteries/{sale['tag']}/sale/ticks"
        done = self.post(path, {"step": "negative_off"})
        self.assertEqual(done["left"], sale["left"] - 1)
        self.post(path, {"step": "negative_off"}, 409, self.noor)
        self.post(path, {"step": "negative_off", "done": False}, 201, self.noor)
        self.assertEqual(self.fault(self.post(path, {"step": "dance"}, 422))[0], "step")
        self.assertEqual(self.fault(self.post(path, {"step": "running_volts"}, 422))[0], "figure")
        self.assertEqual(self.fault(self.post(path, {"step": "running_volts", "figure": 44}, 422))[0], "figure")
        self.post(path, {"step": "running_volts", "figure": 14.3})
        self.post(path, {"step": "drain", "figure": 25})
        readings = [one["reading"] for one in self.teo.get(f"/batteries/{sale['tag']}").json()["readings"]]
        cars = [one for one in readings if one["kind"] == "car"]
        self.assertEqual((cars[-1]["idle_volts"], cars[-1]["drain_ma"]), (14.3, 25))
        after = self.post(path, {"step": "old_one"})
        self.assertTrue(after["deposit_back"])
        self.assertEqual(self.teo.get(f"/batteries/{old}").json()["place"], "held_apart")

    def test_one_step_is_ticked_once_by_two_at_the_same_moment(self) -> None:
        tag, said = self.sold()["tag"], []
        for step in ("covers_on", "side_by_side", "key_out", "positive_off", "tray_clean"):

            def tick(by: Client, step: str = step) -> None:
                said.append(by.send("POST", f"/batteries/{tag}/sale/ticks", {"step": step}).status_code)

            threads = [threading.Thread(target=tick, args=(one,)) for one in (self.teo, self.noor)]
            for thread in threads:
                thread.start()
            for thread in threads:
                thread.join()
        self.assertEqual(sorted(said), [201] * 5 + [409] * 5)

    def test_a_battery_that_was_not_sold_here_has_no_list(self) -> None:
        self.assertEqual(self.teo.get("/batteries/173/sale").status_code, 404)


class Lists(Goods):
    def sent(self, content: bytes, kind: str = "items") -> Any:
        found = self.send(content, kind)
        self.assertEqual(found.status_code, 201, found.text)
        return self.until(found.json()["id"], "sent", "failed")

    def send(self, content: bytes, kind: str = "items", by: Client | None = None) -> Any:
        by = by or self.lead
        return by.http.post(
            "/api/imports", params={"kind": kind, "name": "list.csv"}, content=content,
            headers={"Content-Type": "application/octet-stream", "Idempotency-Key": str(uuid.uuid4())},
        )  # fmt: skip

    def until(self, run_id: int, *states: str) -> Any:
        for _ in range(200):
            run = self.lead.get(f"/imports/{run_id}").json()
            if run["state"] in states:
                return run
            time.sleep(0.05)
        return self.fail(f"it stayed {run['state']}: {run['problem']}")

    def test_prices_have_the_decimals_of_the_shop_s_money(self) -> None:
        """ISO 4217: a yen has none. The same list in another money is other cents; a part no coin is made for is asked about."""
        seen = self.lead.get("/house").json()
        body = {"shop": {**seen["shop"], "currency": "JPY"}, "based_on": seen["edition"], "prices_times": 100}
        self.assertEqual(self.lead.send("PUT", "/house/shop", body).status_code, 200)
        try:
            run = self.looked_at(b"Name,Line,Size,CCA,Price\nYen 48,Plain,48,600,12900\nYen 47,Plain,47,540,129.5\n")
            self.assertEqual((run["rows_good"], run["rows_refused"]), (1, 1))
            self.post(f"/imports/{run['id']}/keep", {"leave_out": True}, 201, self.lead)
            self.until(run["id"], "kept")
            [row] = [one for one in self.lead.get("/goods", params={"text": "Yen 48"}).json()["items"]]
            self.assertEqual(row["price_cents"], 12900)
        finally:
            again = self.lead.get("/house").json()
            back = {"shop": {**again["shop"], "currency": "EUR"}, "based_on": again["edition"], "prices_times": 0.01}
            self.assertEqual(self.lead.send("PUT", "/house/shop", back).status_code, 200)

    def looked_at(self, content: bytes, kind: str = "items") -> Any:
        run = self.sent(content, kind)
        self.post(f"/imports/{run['id']}/check", {"mapping": run["mapping"]}, 201, self.lead)
        return self.until(run["id"], "checked")

    def kept(self, content: bytes, kind: str = "items") -> Any:
        run = self.looked_at(content, kind)
        self.post(f"/imports/{run['id']}/keep", {}, 201, self.lead)
        return self.until(run["id"], "kept")

    def test_a_list_is_looked_at_then_kept_and_its_heading_is_remembered(self) -> None:
        rows = "\n".join(f"Nordal {n};Nordal;LN3;{600 + n};70;99,50;7,5" for n in range(20))
        sent = self.sent(f"{HEADING}\n{rows}".encode())
        self.assertFalse(sent["remembered"])
        run = self.kept(f"{HEADING}\n{rows}".encode())
        self.assertEqual((run["rows_done"], run["rows_refused"]), (20, 0))
        item = self.item("Nordal 7")
        self.assertEqual((item["price_cents"], item["core_deposit_cents"], item["cca_amps"]), (9950, 750, 607))
        again = self.sent(f"{HEADING}\nNordal 7;Nordal;LN3;650;70;120;0".encode())
        self.assertTrue(again["remembered"])
        self.post(f"/imports/{again['id']}/keep", {}, 422, self.lead)  # nobody looked at it
        self.kept(f"{HEADING}\nNordal 7;Nordal;LN3;650;70;120;0".encode())
        self.assertEqual(self.item("Nordal 7")["price_cents"], 12000)
        self.assertEqual(self.item("Nordal 7")["edition"], 2)
        for price in ("120", "130"):  # the same again is nothing new
            self.kept(f"{HEADING}\nNordal 7;Nordal;LN3;650;70;{price};0".encode())
        before = self.teo.get(f"/goods/{item['id']}").json()["before"]
        self.assertEqual([(one["price_cents"], one["core_deposit_cents"]) for one in before], [(12000, 0), (9950, 750)])
        self.post(f"/imports/{run['id']}/keep", {}, 409, self.lead)

    def test_all_or_nothing_unless_somebody_says_they_stay_out(self) -> None:
        content = f"{HEADING}\nGood one;Nordal;LN3;600;70;99;0\nBad one;Nordal;ZZ;600;70;99;0".encode()
        run = self.looked_at(content)
        self.assertEqual((run["rows_good"], run["rows_refused"], run["refused"][0][0]), (1, 1, 3))
        self.assertEqual(self.fault(self.post(f"/imports/{run['id']}/keep", {}, 422, self.lead))[0], "leave_out")
        self.assertEqual(self.teo.get("/goods", params={"text": "good one"}).json()["found"], 0)
        refused = self.lead.get(f"/imports/{run['id']}/refused.csv").text
        self.assertIn('3,,"size ZZ is in no table here', refused)
        self.post(f"/imports/{run['id']}/keep", {"leave_out": True}, 201, self.lead)
        self.until(run["id"], "kept")
        self.assertEqual(self.teo.get("/goods", params={"text": "good one"}).json()["found"], 1)

    def test_stopped_and_nothing_of_it_is_kept(self) -> None:
        rows = "\n".join(f"Stopped {n};Nordal;LN3;600;70;99;0" for n in range(50))
        run = self.looked_at(f"{HEADING}\n{rows}".encode())
        with sessions(self.url).begin() as session:
            assert isinstance(session, StoreSession)
            session.bind_to(1)
            row = session.get_one(ImportRun, run["id"])
            row.state, row.beat_at = "keeping", datetime.now(UTC)
        self.post(f"/imports/{run['id']}/keep", {}, 409, self.lead)  # it is being worked at
        self.post(f"/imports/{run['id']}/stop", {}, 201, self.lead)
        runner = Runner(self.url)
        self.addCleanup(runner.close)
        runner.run(run["id"], 1)
        stopped = self.lead.get(f"/imports/{run['id']}").json()
        self.assertEqual((stopped["state"], "nothing of it was kept" in stopped["problem"]), ("stopped", True))
        self.assertEqual(self.teo.get("/goods", params={"text": "stopped"}).json()["found"], 0)

    def test_time_limits_hold_for_requests_and_not_for_the_work_on_lists(self) -> None:
        runner = Runner(self.url)
        self.addCleanup(runner.close)
        app = app_on(self.url)
        asked = [text(f"show {name}") for name in ("statement_timeout", "idle_in_transaction_session_timeout")]
        for begin, limits in ((runner._sessions.begin, ["0", "0"]), (app.state.sessions.begin, ["5s", "15s"])):
            with begin() as session:
                self.assertEqual([session.scalar(one) for one in asked], limits)

    def test_the_looking_is_stopped_too(self) -> None:
        run = self.looked_at(f"{HEADING}\nLooked;Nordal;LN3;600;70;99;0".encode())
        with sessions(self.url).begin() as session:
            assert isinstance(session, StoreSession)
            session.bind_to(1)
            row = session.get_one(ImportRun, run["id"])
            row.state, row.stop_asked, row.beat_at = "checking", True, datetime.now(UTC)
        runner = Runner(self.url)
        self.addCleanup(runner.close)
        runner.run(run["id"], 1)
        self.assertEqual(self.lead.get(f"/imports/{run['id']}").json()["state"], "stopped")

    def test_a_run_that_meets_a_database_that_went_away_says_so_when_it_is_back(self) -> None:
        run = self.sent(f"{HEADING}\nAway;Nordal;LN3;600;70;99;0".encode())
        runner = Runner(self.url)
        self.addCleanup(runner.close)
        with sessions(self.url).begin() as session:
            assert isinstance(session, StoreSession)
            session.bind_to(1)
            row = session.get_one(ImportRun, run["id"])
            row.state, row.mapping, row.beat_at = "checking", run["mapping"], datetime.now(UTC)
        away, say, times = OperationalError("select", {}, psycopg.OperationalError("gone")), runner._say, iter(range(9))

        def said(*one: Any, **told: Any) -> None:
            if next(times) < 3:
                raise away
            say(*one, **told)

        with (
            patch.object(import_runner, "AGAIN_SECONDS", 0.01),
            patch.object(runner, "_say", side_effect=said),
            self.assertLogs("vane_check", "WARNING") as logged,
        ):
            runner.run(run["id"], 1)
        found = self.lead.get(f"/imports/{run['id']}").json()
        self.assertEqual((found["state"], "try again" in found["problem"]), ("failed", True))
        self.assertEqual(len(logged.output), 1)
        self.assertNotIn("\n", logged.output[0])

    def test_a_run_whose_server_died_says_so_and_can_be_begun_again(self) -> None:
        run = self.looked_at(f"{HEADING}\nLate;Nordal;LN3;600;70;99;0".encode())
        with sessions(self.url).begin() as session:
            assert isinstance(session, StoreSession)
            session.bind_to(1)
            row = session.get_one(ImportRun, run["id"])
            row.state, row.beat_at = "checking", datetime.now(UTC) - timedelta(minutes=5)
        self.assertEqual(self.lead.get(f"/imports/{run['id']}").json()["state"], "failed")
        self.post(f"/imports/{run['id']}/check", {"mapping": run["mapping"]}, 201, self.lead)
        self.until(run["id"], "checked")

    def test_vehicles_stock_codes_and_terms(self) -> None:
        self.kept(
            b"Make,Model,From year,Size,CCA,Trim\nNordal,Fjord,2015,LN3,600,\nNordal,Fjord,2015,LN3,700,long\n",
            "vehicles",
        )
        self.assertEqual(len(self.teo.get("/vehicles", params={"text": "fjord"}).json()), 2)
        before = self.item("Merlow Plain 48 640")["in_stock"]
        self.kept(b"Item\tPieces\tArrived\tVolts\nMerlow Plain 48 640\t3\t2026-11-01\t12.7\n", "pieces")
        self.assertEqual(self.item("Merlow Plain 48 640")["in_stock"], before + 3)
        self.kept(b"Code,Size,Source\n7-701,LN3,harbour list\n", "aliases")
        self.assertEqual(self.teo.get("/codes", params={"text": "7701"}).json()["group_code"], "LN3")
        self.kept(b"Line;Months free;Excluded\nNordal Best;30;taxi\n", "terms")
        self.assertIn("Nordal Best", self.teo.get("/reference").json()["lines"])
        # terms are never written over: the same again adds nothing, what differs is an edition from today or its own day
        self.kept(b"Line;Months free;Excluded\nnordal best;30;taxi\n", "terms")
        self.kept(b"Line;Months free;Excluded\nNordal Best;24;taxi\n", "terms")
        self.kept(b"Line;Months free;Excluded;Holds from\nNordal Best;36;taxi;2030-01-01\n", "terms")
        line = next(one for one in self.lead.get("/house/terms").json() if one["line"] == "Nordal Best")
        today = str(datetime.now(ZoneInfo("Europe/Dublin")).date())
        self.assertEqual(
            [(one["terms"]["free_months"], one["terms"]["holds_from"], one["in_force"]) for one in line["editions"]],
            [(36, "2030-01-01", False), (24, today, True), (30, None, False)],
        )

    def test_a_spreadsheet(self) -> None:
        book = Workbook()
        sheet = book.active
        assert sheet is not None
        sheet.append(["Item", "Pieces", "Arrived", "Volts"])
        sheet.append(["Merlow Plain 47 560", 2, datetime(2026, 11, 3), 12.65])
        out = io.BytesIO()
        book.save(out)
        before = self.item("Merlow Plain 47 560")["in_stock"]
        run = self.kept(out.getvalue(), "pieces")
        self.assertEqual((run["rows_done"], self.item("Merlow Plain 47 560")["in_stock"]), (2, before + 2))

    def test_what_is_no_list_and_who_may(self) -> None:
        for content in (b"", b"one column\n1\n", b"PK\x03\x04nonsense", b"\x00\x01\x02,\n"):
            found = self.sent(content)
            self.assertEqual((found["state"], found["columns"], found["problem"] != ""), ("failed", [], True), content)
            self.post(f"/imports/{found['id']}/check", {"mapping": found["mapping"]}, 409, self.lead)
        self.assertEqual(self.send(b"a,b\n1,2\n", by=self.teo).status_code, 403)
        self.assertEqual(self.teo.get("/imports").status_code, 403)
        self.assertEqual(self.teo.get("/goods/package.zip").status_code, 403)
        run = self.sent(b"a,b\n1,2\n")
        wrong = self.post(f"/imports/{run['id']}/check", {"mapping": {"columns": {"name": "c"}}}, 422, self.lead)
        self.assertIn("mapping.columns.name", [one["path"] for one in wrong["errors"]])

    def test_a_long_list_is_taken_from_who_is_signed_in_and_from_no_stranger(self) -> None:
        long = b"Name;Line;Size;Rating;Price\n" + b"x;y;LN3;600;1\n" * 150_000
        self.assertEqual(self.send(long).status_code, 201)
        stranger = TestClient(app_on(self.url), base_url=HERE)
        self.assertEqual(stranger.post("/api/imports?kind=items", content=long).status_code, 413)

    def test_ten_files_that_would_stop_a_shop_and_everybody_else_is_served_meanwhile(self) -> None:
        stray = workbook(XFD1048576="x")
        sent = [self.send(stray).json()["id"] for _ in range(10)]
        began, states = time.monotonic(), set()
        while states != {"failed"}:
            self.assertLess(time.monotonic() - began, 600)
            self.assertEqual(self.teo.get("/shelf").status_code, 200)
            states = {self.lead.get(f"/imports/{one}").json()["state"] for one in sent}
        self.assertIn("XFD1048576", self.lead.get(f"/imports/{sent[-1]}").json()["problem"])

    def test_names_of_an_earlier_release_with_signs_that_no_form_takes_are_mended_and_open_again(self) -> None:
        url = database()
        with psycopg.connect(url, autocommit=True) as connection:
            run = connection.execute
            names = dict(run("select name, id from catalogue_items order by id limit 3").fetchall())
            first, second, third = names
            run(
                "update catalogue_items set name = 'Two\nlines', line = E'A\tline', price_cents = 1 where name = %s",
                (first,),
            )
            run("update catalogue_items set name = E'Two\u0007lines' where name = %s", (second,))
            run("update catalogue_items set name = 'Two lines' where name = %s", (third,))
            run(
                "update vehicles set source = E'a\rlist', also_codes = '{\"LN\n3\"}' where id = (select min(id) from vehicles)"
            )
            run("alter table batteries drop column chemistry_source, drop column size_source")
            run("alter table sales drop column claim_id, drop column credit_cents")
            run(
                "drop table ways_back, own_calls, remarks; drop function refuse_rewording(); drop index ix_sales_sold_at, ix_fitting_ticks_ticked_at"
            )
            run(
                "alter table stock_pieces drop column from_sale_id; alter table warranty_terms drop column item, drop column body"
            )
            run(
                "alter table stores drop column tax_on_top, drop column more_taxes; alter table catalogue_items drop column tax_name"
            )  # what came after it
            run("update alembic_version set version_num = '0016'")
        migrate(url)
        with psycopg.connect(url) as connection:
            for table in ("catalogue_items", "vehicles", "size_aliases", "suppliers"):
                bad = connection.execute(
                    f"select count(*) from {table} t where t::text ~ '[\\x01-\\x1f\\x7f-\\x9f]'"
                ).fetchone()
                self.assertEqual(bad, (0,), table)
            ids = list(names.values())
            found = connection.execute(
                "select name from catalogue_items where id = any(%s) order by id", (ids,)
            ).fetchall()
        self.assertEqual(found, [(f"Two lines ({ids[0]})",), (f"Two lines ({ids[1]})",), ("Two lines",)])
        teo = Client(app_on(url), TEO)
        for number in ids:
            self.assertEqual(teo.get(f"/goods/{number}").status_code, 200)
        self.assertTrue(teo.get("/vehicles").json())

    def test_out_as_a_data_package_that_frictionless_takes(self) -> None:
        packed = self.lead.get("/goods/package.zip").content
        with TemporaryDirectory() as folder:
            with zipfile.ZipFile(io.BytesIO(packed)) as archive:
                archive.extractall(folder)
            report = Package(str(Path(folder) / "datapackage.json")).validate()
            self.assertTrue(report.valid, report.to_summary())
            told = json.loads((Path(folder) / "datapackage.json").read_text())
            self.assertEqual(
                [one["name"] for one in told["resources"]], ["items", "pieces", "vehicles", "aliases", "terms"]
            )
            with sessions(self.url).begin() as session:
                assert isinstance(session, StoreSession)
                session.bind_to(1)
                items = len(session.scalars(select(CatalogueItem.id)).all())
            self.assertEqual((Path(folder) / "data" / "items.csv").read_text().count("\n"), items + 1)


class AnotherStore(Goods):
    def test_the_branch_is_asked_for_nothing_but_how_many(self) -> None:
        with sessions(self.url).begin() as session:
            assert isinstance(session, StoreSession)
            session.bind_to(2)
            theirs = session.scalars(select(CatalogueItem.id)).first()
            piece = session.scalars(select(StockPiece.id)).first()
        self.assertEqual(self.teo.get(f"/goods/{theirs}").status_code, 404)
        self.post(f"/pieces/{piece}", {"what": "volts", "volts": 12.6}, 404)
        self.post("/sales", {"item_id": theirs, "volts": 12.8, "serial": "A"}, 404)


class Photo(unittest.TestCase):
    def test_a_tray_is_measured_from_marks_and_each_fault_stands_at_its_shape(self) -> None:
        client = Client(app_on(database()), TEO)
        camera = {"tilt": 15.0, "turn": 8.0}
        tray = [seen(*point, **camera) for point in corners(278, 175)]
        card = [seen(*point, **camera) for point in corners(*CARD, at=(20, 10), turned=12)]
        asked = {"tray": tray, "card": card, "picture_px": 1600}
        found = client.http.post("/api/match/photo", json=asked)
        self.assertEqual(found.status_code, 200, found.text)
        self.assertAlmostEqual(found.json()["length_mm"], 278, delta=0.1)
        self.assertLess(found.json()["off_mm"], 30)
        tiny = [(800 + x / 12, 600 + y / 12) for x, y in corners(*CARD)]
        for more, path, said in (
            ({"card": tiny}, "card", "is it the card that is marked"),
            ({"picture_px": 20_000}, "card", "go closer"),
            ({"tray": [tray[0], tray[2], tray[1], tray[3]]}, "tray", "cross"),
        ):
            with self.subTest(said):
                wrong = client.http.post("/api/match/photo", json=asked | more)
                self.assertEqual((wrong.status_code, wrong.json()["errors"][0]["path"]), (422, path))
                self.assertIn(said, wrong.json()["errors"][0]["message"])
