"""Customers: one person however often they were written in; found, merged, handed out, forgotten."""

import unittest
import uuid
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import psycopg

from tests.house import LEAD, NOOR, TEO, Client, app_on, database
from vane_check.core.life.customers import name_likeness


class Customers(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = database()
        cls.app = app_on(cls.url)
        cls.client, cls.lead = Client(cls.app, TEO), Client(cls.app, LEAD)

    def taken_in(self, name: str = "", phone: str = "", plate: str = "", **more: Any) -> Any:
        body = {
            "context": {"came_in": "carried_in", "complaint": "check_only"},
            "customer_name": name, "customer_phone": phone, "customer_plate": plate, **more,
        }  # fmt: skip
        found = self.client.send("POST", "/batteries", body)
        self.assertEqual(found.status_code, 201, found.text)
        return found.json()

    def found(self, text: str) -> list[dict[str, Any]]:
        people: list[dict[str, Any]] = self.client.get("/customers", params={"text": text}).json()["people"]
        return people

    def one(self, customer_id: int) -> Any:
        return self.client.get(f"/customers/{customer_id}").json()

    def test_somebody_who_comes_again_is_the_same_person_and_another_way_of_writing_is_kept_beside(self) -> None:
        first = self.taken_in("Oda Brekke", "0171 444 0001")
        again = self.taken_in("oda brekke", "+49 171 4440001", "OB 77")
        self.assertEqual(first["customer_id"], again["customer_id"])
        seen = self.one(first["customer_id"])
        self.assertEqual(seen["own"]["phone"], "0171 444 0001")
        self.assertEqual([(way["phone"], way["plate"]) for way in seen["ways"]], [("+49 171 4440001", "OB 77")])
        self.assertEqual({one["tag"] for one in seen["batteries"]}, {first["tag"], again["tag"]})
        # the very same words make no third entry
        self.taken_in("Oda Brekke", "0171 444 0001")
        self.assertEqual(len(self.one(first["customer_id"])["ways"]), 1)
        # the same name with another phone is somebody else, shown as perhaps the same
        other = self.taken_in("Oda Brekke", "0171 444 9999")
        self.assertNotEqual(other["customer_id"], first["customer_id"])
        alike = self.one(first["customer_id"])["alike"]
        self.assertEqual([(one["id"], one["why"]) for one in alike], [(other["customer_id"], "the same name")])

    def test_found_by_name_phone_plate_serial_and_car_in_any_spelling(self) -> None:
        car = self.client.get("/vehicles", params={"text": "caldo verno"}).json()[0]
        one = self.taken_in(
            "Runa Ekdal", "0171/333-22 11", "RE-x 55", vehicle_id=car["id"],
            battery={"serial": "ZZ-90817", "line": "Merlow Plain"},
        )  # fmt: skip
        for text in ("run", "ekd", "0171333", "3332211", "333-22", "rex55", "RE-X", "zz-908", "verno"):
            with self.subTest(text):
                self.assertIn(one["customer_id"], [found["id"] for found in self.found(text)])
        self.assertEqual(self.found("run")[0]["cars"], ["Caldo Verno"])
        for text in ("100%", "_una", "\\"):
            with self.subTest(text):
                self.assertNotIn(one["customer_id"], [found["id"] for found in self.found(text)])

    def test_merged_is_one_person_and_taken_apart_is_two_again(self) -> None:
        a = self.taken_in("Sten Varga")["customer_id"]
        b = self.taken_in("Sten Vargha", "0171 222 0002")["customer_id"]
        c = self.taken_in("S. Varga", "0171 222 0003")["customer_id"]
        self.assertEqual(self.client.send("POST", f"/customers/{b}/merge", {"other_id": c}).status_code, 201)
        merged = self.client.send("POST", f"/customers/{a}/merge", {"other_id": b}).json()
        self.assertEqual([way["id"] for way in merged["ways"]], [b, c])
        self.assertEqual(len(merged["batteries"]), 3)
        self.assertEqual(self.one(c)["id"], a)  # an old address still finds the person
        self.assertEqual(len([one for one in self.found("varg") if one["id"] in (a, b, c)]), 1)
        again = self.client.send("POST", f"/customers/{a}/merge", {"other_id": c})
        self.assertEqual(again.status_code, 409)
        apart = self.client.send("POST", f"/customers/{a}/apart", {"other_id": b}).json()
        self.assertEqual(apart["ways"], [])
        self.assertEqual([way["id"] for way in self.one(b)["ways"]], [c])  # what had come with it goes with it
        self.assertEqual(self.client.send("POST", f"/customers/{a}/apart", {"other_id": b}).status_code, 409)

    def test_a_correction_stands_on_every_battery_and_two_at_once_are_told(self) -> None:
        tag = self.taken_in("Mirja Holt", "0171 111 0001")["tag"]
        one = self.client.get(f"/batteries/{tag}").json()["customer_id"]
        written = {"name": "Mirja Holt-Lund", "phone": "0171 111 0001", "plate": "MH 1", "based_on": 0}
        found = self.client.send("PUT", f"/customers/{one}", written)
        self.assertEqual(found.status_code, 200, found.text)
        self.assertEqual(self.client.get(f"/batteries/{tag}").json()["customer_name"], "Mirja Holt-Lund")
        late = self.lead.send("PUT", f"/customers/{one}", {**written, "name": "Mirja Lund"})
        self.assertEqual(late.status_code, 409)
        self.assertIn(TEO, late.json()["detail"])
        nobody = self.lead.send("PUT", f"/customers/{one}", {"based_on": found.json()["edition"]})
        self.assertEqual((nobody.status_code, nobody.json()["errors"][0]["path"]), (422, "name"))

    def test_a_corrected_take_in_of_the_same_name_is_the_same_person_with_what_is_written_now(self) -> None:
        taken = self.taken_in("Vigo Strand", "0171 555 7")
        written = {
            "context": {"came_in": "carried_in", "complaint": "check_only"}, "customer_name": "Vigo Strand",
            "customer_phone": "0171 555 7788", "based_on": taken["take_in_id"],
        }  # fmt: skip
        now = self.client.send("PUT", f"/batteries/{taken['tag']}", written).json()
        seen = self.one(now["customer_id"])
        self.assertEqual(
            (seen["own"]["phone"], [way["phone"] for way in seen["ways"]]), ("0171 555 7788", ["0171 555 7"])
        )
        self.assertEqual(self.one(taken["customer_id"])["id"], seen["id"])

    def test_picked_at_the_counter_it_is_theirs_whatever_else_is_written(self) -> None:
        one = self.taken_in("Weir Motors", "0171 666 0001")["customer_id"]
        taken = self.taken_in("Weir Motors", "0171 666 0002", customer_id=one)
        self.assertEqual(taken["customer_id"], one)
        gone = self.client.send(
            "POST", "/batteries",
            {"context": {"came_in": "carried_in", "complaint": "check_only"}, "customer_name": "X", "customer_id": 999_999},
        )  # fmt: skip
        self.assertEqual((gone.status_code, gone.json()["errors"][0]["path"]), (422, "customer_name"))

    def test_all_that_is_kept_is_handed_out_by_a_lead_only_and_stays_on_record(self) -> None:
        one = next(found["id"] for found in self.found("lindqvar"))
        self.assertEqual(self.client.send("POST", f"/customers/{one}/hand-out", {}).status_code, 403)
        out = self.lead.send("POST", f"/customers/{one}/hand-out", {}).json()
        seen = self.one(one)
        self.assertEqual(out["format"], "vane-check-customer/1")
        self.assertEqual([b["tag"] for b in out["batteries"]], [b["tag"] for b in seen["batteries"]])
        tags = {b["tag"] for b in seen["batteries"]}
        for part in ("take_ins", "readings", "judgements"):
            self.assertLessEqual({row["tag"] for row in out[part]}, tags)
            self.assertTrue(out[part], part)
        self.assertNotIn("taken_by", str(out))  # whoever read it is nobody's business outside
        with psycopg.connect(self.url) as connection:
            kept = connection.execute("select what from customer_entries where customer_id = %s", (one,)).fetchall()
        self.assertEqual(kept[-1], ("handed out",))

    def test_forgotten_is_gone_from_everywhere_and_what_was_measured_stays(self) -> None:
        taken = self.taken_in("Tove Askeland", "0171 777 0001", "TA 9")
        twin = self.taken_in("T. Askeland", "", "ta-9")  # the same car: surely theirs
        one = taken["customer_id"]
        self.assertEqual(self.one(one)["would_forget"], 2)
        self.assertEqual(self.client.send("POST", f"/customers/{one}/forget", {}).status_code, 403)
        gone = self.lead.send("POST", f"/customers/{one}/forget", {}).json()
        self.assertIsNotNone(gone["erased_at"])
        self.assertEqual(self.found("askeland"), [])
        for tag in (taken["tag"], twin["tag"]):
            self.assertTrue(self.client.get(f"/batteries/{tag}").json()["customer_erased"])
        with psycopg.connect(self.url) as connection:
            left = connection.execute(
                "select count(*) from customers where concat(name, phone, plate, name_key, phone_key, plate_key, search_text)"
                " ~* 'askeland|7770001|TA ?9'"
            ).fetchone()
        self.assertEqual(left, (0,))
        again = self.lead.send("POST", f"/customers/{one}/forget", {})
        self.assertEqual(again.status_code, 422)
        self.assertEqual(self.lead.send("PUT", f"/customers/{one}", {"name": "Tove", "based_on": 0}).status_code, 422)

    def test_a_write_sent_twice_is_done_once(self) -> None:
        a, b = (self.taken_in(f"Twice {name}", f"0171 888 000{at}")["customer_id"] for at, name in enumerate("AB"))
        name = str(uuid.uuid4())
        first = self.client.send("POST", f"/customers/{a}/merge", {"other_id": b}, name)
        second = self.client.send("POST", f"/customers/{a}/merge", {"other_id": b}, name)
        self.assertEqual((first.status_code, second.status_code), (201, 201))
        self.assertEqual(self.one(a)["edition"], first.json()["edition"])

    def test_nobody_of_another_store_is_found_seen_or_merged(self) -> None:
        with psycopg.connect(self.url) as connection:
            other = connection.execute(
                "insert into customers (store_id, name, phone, plate, name_key, phone_key) select max(id), 'Elsewhere Only',"
                " '0171 999 0001', '', 'elsewhere only', '9990001' from stores returning id"
            ).fetchone()
        assert other is not None
        self.assertEqual(self.found("elsewhere"), [])
        self.assertEqual(self.client.get(f"/customers/{other[0]}").status_code, 404)
        here = self.taken_in("Elsewhere Only", "0171 999 0001")["customer_id"]
        self.assertEqual(self.one(here)["alike"], [])
        self.assertEqual(self.client.send("POST", f"/customers/{here}/merge", {"other_id": other[0]}).status_code, 404)

    def test_likeness_is_what_postgresql_counts(self) -> None:
        """Outside the project: PostgreSQL's pg_trgm, similarity()."""
        pairs = [
            ("Ida Holm", "Ida Holme"),
            ("L. Bramwell", "Bramwell"),
            ("Åse Ødegård", "Ase Ødegård"),
            ("R2 D2", "r2d2"),
        ]
        with psycopg.connect(self.url) as connection:
            for one, other in pairs:
                found = connection.execute("select similarity(%s, %s)", (one, other)).fetchone()
                assert found is not None
                with self.subTest((one, other)):
                    self.assertAlmostEqual(name_likeness(one, other), found[0], places=5)

    def test_somebody_else_at_the_counter_sees_the_merge_at_once(self) -> None:
        noor = Client(self.app, NOOR)
        a, b = (self.taken_in(f"Seen {name}", f"0171 121 000{at}")["customer_id"] for at, name in enumerate("AB"))
        self.client.send("POST", f"/customers/{a}/merge", {"other_id": b})
        self.assertEqual([way["id"] for way in noor.get(f"/customers/{a}").json()["ways"]], [b])

    def test_two_who_merge_the_same_two_both_ways_at_once_make_no_ring(self) -> None:
        noor = Client(self.app, NOOR)
        for _ in range(4):
            a, b = (
                self.taken_in(f"Ring {name}", f"0171 454 {uuid.uuid4().int % 10000:04}")["customer_id"] for name in "AB"
            )
            with ThreadPoolExecutor(2) as hands:
                one = hands.submit(self.client.send, "POST", f"/customers/{a}/merge", {"other_id": b})
                other = hands.submit(noor.send, "POST", f"/customers/{b}/merge", {"other_id": a})
                statuses = sorted((one.result().status_code, other.result().status_code))
            self.assertEqual(statuses, [201, 409])
            self.assertEqual(self.one(a)["id"], self.one(b)["id"])
            self.assertEqual(len(self.one(a)["batteries"]), 2)

    def test_of_many_the_beginning_of_the_name_comes_first_and_it_says_that_there_are_more(self) -> None:
        with psycopg.connect(self.url) as connection:
            connection.execute(
                "insert into customers (store_id, name, phone, plate, name_key) select 1, 'Bulk ' || i, '', '', 'bulk ' || i"
                " from generate_series(1, 40) i"
            )
        self.taken_in("Old Bulk")
        first = self.taken_in("Bulkeley")
        found = self.client.get("/customers", params={"text": "bulk"}).json()
        self.assertEqual((len(found["people"]), found["more"]), (20, True))
        self.assertTrue(all(one["name"].startswith("Bulk") for one in found["people"]))
        self.assertEqual([one["id"] for one in self.found("bulke")], [first["customer_id"]])
        exact = self.client.get("/customers", params={"text": "bulk 17"}).json()
        self.assertEqual(([one["name"] for one in exact["people"]], exact["more"]), (["Bulk 17"], False))

    def test_a_battery_that_came_back_as_another_s_is_no_longer_theirs_and_is_still_shown(self) -> None:
        taken = self.taken_in("First Owner", "0171 565 0001")
        written = {
            "context": {"came_in": "carried_in", "complaint": "check_only"}, "customer_name": "Second Owner",
            "customer_phone": "0171 565 0002", "based_on": taken["take_in_id"],
        }  # fmt: skip
        now = self.client.send("PUT", f"/batteries/{taken['tag']}", written).json()
        was, has = (self.one(one) for one in (taken["customer_id"], now["customer_id"]))
        self.assertEqual([(one["tag"], one["now"]) for one in was["batteries"]], [(taken["tag"], False)])
        self.assertEqual([(one["tag"], one["now"]) for one in has["batteries"]], [(taken["tag"], True)])
        handed = self.lead.send("POST", f"/customers/{was['id']}/hand-out", {}).json()
        self.assertEqual([one["tag"] for one in handed["take_ins"]], [taken["tag"]])
        self.assertNotIn("Second", str(handed))
