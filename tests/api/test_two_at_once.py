"""Two at once: take-ins, changed rules, one serial; a write sent twice; two corrections of one label."""

import unittest
import uuid
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

import psycopg

from tests.api.test_api import TAKE_IN, reading, rest, tested
from tests.house import LEAD, NOOR, TEO, Client, app_on, database


class TwoAtOnce(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = database()
        cls.app = app_on(cls.url)
        cls.teo, cls.noor, cls.lead = (Client(cls.app, name) for name in (TEO, NOOR, LEAD))

    def count(self, what: str) -> int:
        with psycopg.connect(self.url) as connection:
            row = connection.execute(f"select count(*) from {what}").fetchone()
        assert row is not None
        return int(row[0])

    def together(self, *calls: Callable[[], Any]) -> list[int]:
        with ThreadPoolExecutor(len(calls)) as pool:
            return sorted(answer.status_code for answer in pool.map(lambda call: call(), calls))

    def taken_in(self, client: Client | None = None, **more: Any) -> dict[str, Any]:
        found = (client or self.teo).send("POST", "/batteries", {**TAKE_IN, **more})
        self.assertEqual(found.status_code, 201, found.text)
        seen: dict[str, Any] = found.json()
        return seen

    def worn(self, serial: str) -> int:
        tag = int(self.taken_in(battery={**TAKE_IN["battery"], "serial": serial})["tag"])
        for body in (rest(), tested(330)):
            self.assertEqual(self.teo.send("POST", f"/batteries/{tag}/readings", body).status_code, 201)
        return tag


class Moments(TwoAtOnce):
    def test_take_ins_at_the_same_moment_each_get_a_tag(self) -> None:
        for _ in range(12):
            calls = [
                lambda client=client: client.send("POST", "/batteries", TAKE_IN) for client in (self.teo, self.noor)
            ]
            self.assertEqual(self.together(*calls), [201, 201])
        self.assertEqual(self.count("(select tag from batteries group by store_id, tag having count(*) > 1) twice"), 0)

    def test_of_two_who_change_the_rules_one_is_told_to_look_again(self) -> None:
        for _ in range(6):
            version = self.lead.get("/rules").json()["version"]
            one_method = {"decision.methods_to_condemn": 1, "rest.to_condemn": "as_said"}
            body = {"school": "electronic_first", "values": one_method, "reason": "both at once", "based_on": version}
            calls = [lambda: self.lead.send("POST", "/rules", body)] * 2  # noqa: B023
            self.assertEqual(self.together(*calls), [201, 409])

    def test_one_serial_is_claimed_once_however_it_is_written(self) -> None:
        for one, other in (("SN 88", "sn-88"), ("q/7", "Q7"), ("S1-A", "s1a")):
            tags = [self.worn(one), self.worn(other)]
            calls = [lambda tag=tag: self.teo.send("POST", f"/batteries/{tag}/claim", {}) for tag in tags]
            self.assertEqual(self.together(*calls), [201, 409], one)
        self.assertEqual(self.teo.send("POST", f"/batteries/{self.worn('SN88')}/claim", {}).status_code, 409)
        self.assertEqual(self.teo.send("POST", f"/batteries/{self.worn('SN89')}/claim", {}).status_code, 201)
        for _ in range(2):  # no serial at all is no serial twice
            self.assertEqual(self.teo.send("POST", f"/batteries/{self.worn(' - ')}/claim", {}).status_code, 201)

    def test_one_name_at_the_same_moment_is_one_write(self) -> None:
        before, name = self.count("batteries"), str(uuid.uuid4())
        calls = [lambda: self.teo.send("POST", "/batteries", TAKE_IN, write_id=name)] * 4
        self.assertEqual(self.together(*calls), [201] * 4)
        self.assertEqual(self.count("batteries"), before + 1)


class SentTwice(TwoAtOnce):
    def test_every_write_is_done_once(self) -> None:
        tag = self.worn("ONCE-1")
        seen = self.teo.get(f"/batteries/{tag}").json()
        version = self.lead.get("/rules").json()["version"]
        hand = (datetime.now(UTC) + timedelta(hours=3)).isoformat()
        for client, method, path, body, table in (
            (self.teo, "POST", "/batteries", TAKE_IN, "batteries"),
            (self.teo, "PUT", f"/batteries/{tag}/place", {"place": "on_charge", "needs_hand_at": hand}, "moves"),
            (self.teo, "PUT", f"/batteries/{tag}", {**TAKE_IN, "based_on": seen["take_in_id"]}, "take_in_entries"),
            (self.teo, "POST", f"/batteries/{tag}/claim", {}, "claims"),
            (
                self.lead,
                "POST",
                "/rules",
                {"school": "cell_first", "reason": "twice", "based_on": version},
                "rules_versions",
            ),
            (self.lead, "POST", f"/batteries/{tag}/erase-customer", {}, "erasures"),
        ):
            with self.subTest(path):
                before, name = self.count(table), str(uuid.uuid4())
                first, second = (client.send(method, path, body, write_id=name) for _ in range(2))
                self.assertEqual((first.status_code, second.status_code), (first.status_code, first.status_code))
                self.assertIn(first.status_code, {200, 201}, first.text)
                self.assertEqual(first.json().get("tag"), second.json().get("tag"))
                self.assertEqual(self.count(table), before + 1)

    def test_a_name_used_for_something_else_or_by_somebody_else_is_a_conflict(self) -> None:
        name = str(uuid.uuid4())
        tag = self.teo.send("POST", "/batteries", TAKE_IN, write_id=name).json()["tag"]
        other = {**TAKE_IN, "customer_name": "Another"}
        self.assertEqual(self.teo.send("POST", "/batteries", other, write_id=name).status_code, 409)
        self.assertEqual(self.noor.send("POST", "/batteries", TAKE_IN, write_id=name).status_code, 409)
        self.assertEqual(
            self.teo.send("PUT", f"/batteries/{tag}/place", {"place": "bench"}, write_id=name).status_code, 409
        )

    def test_a_write_that_was_refused_may_be_mended_under_its_name(self) -> None:
        name = str(uuid.uuid4())
        wrong = {**TAKE_IN, "sold_on": (datetime.now(UTC) + timedelta(days=40)).date().isoformat()}
        self.assertEqual(self.teo.send("POST", "/batteries", wrong, write_id=name).status_code, 422)
        self.assertEqual(self.teo.send("POST", "/batteries", TAKE_IN, write_id=name).status_code, 201)

    def test_a_write_without_a_name_is_refused(self) -> None:
        for name in (None, "", "one"):
            headers = {} if name is None else {"Idempotency-Key": name}
            found = self.teo.http.post("/api/batteries", json=TAKE_IN, headers=headers)
            self.assertEqual(found.status_code, 422)

    def test_a_reading_of_the_same_name_with_other_contents_is_a_conflict(self) -> None:
        tag, body = self.taken_in()["tag"], rest(12.5)
        self.assertEqual(self.teo.send("POST", f"/batteries/{tag}/readings", body).status_code, 201)
        self.assertEqual(self.teo.send("POST", f"/batteries/{tag}/readings", body).status_code, 201)
        for change in (
            {"volts": 12.6},
            {"taken_at": (datetime.now(UTC) - timedelta(minutes=3)).isoformat()},
            {"kind": "stand", "start_volts": 12, "hours": 3},
        ):
            self.assertEqual(self.teo.send("POST", f"/batteries/{tag}/readings", {**body, **change}).status_code, 409)
        self.assertEqual(self.noor.send("POST", f"/batteries/{tag}/readings", body).status_code, 409, "not hers")
        self.assertEqual(len(self.teo.get(f"/batteries/{tag}").json()["readings"]), 1)


class Corrections(TwoAtOnce):
    def keep(self, tag: int, body: dict[str, Any], status: int = 201) -> Any:
        found = self.teo.send("POST", f"/batteries/{tag}/readings", body)
        self.assertEqual(found.status_code, status, found.text)
        return found.json()

    def standing(self, seen: Any) -> list[float]:
        return [
            one["reading"]["volts"] for one in seen["readings"] if "volts" in one["reading"] and not one["corrected"]
        ]

    def test_undoing_a_correction_brings_the_earlier_entry_back(self) -> None:
        tag, first = self.taken_in()["tag"], rest(12.6)
        self.keep(tag, first)
        slip = rest(11.2, replaces=first["id"])
        self.assertEqual(self.standing(self.keep(tag, slip)), [11.2])
        undone = self.keep(tag, reading("withdrawal", replaces=slip["id"]))
        self.assertEqual(self.standing(undone), [12.6])
        self.assertEqual(undone["judgement"]["findings"][0]["reading_text"], "12.60 V")
        again = self.keep(tag, rest(12.55, replaces=first["id"]))
        self.assertEqual(self.standing(again), [12.55])
        self.keep(tag, rest(12.4, replaces=first["id"]), 409)
        self.keep(tag, rest(12.4, replaces=slip["id"]), 409)

    def test_a_label_corrected_by_two_is_laid_side_by_side(self) -> None:
        seen = self.taken_in()
        tag, based_on = seen["tag"], seen["take_in_id"]
        mine = {**TAKE_IN, "battery": {**TAKE_IN["battery"], "rating": {"amps": 700}}, "based_on": based_on}
        theirs = {**TAKE_IN, "battery": {**TAKE_IN["battery"], "rating": {"amps": 720}}, "based_on": based_on}
        self.assertEqual(self.noor.send("PUT", f"/batteries/{tag}", theirs).status_code, 200)
        found = self.teo.send("PUT", f"/batteries/{tag}", mine)
        self.assertEqual(found.status_code, 409)
        told = found.json()["theirs"]
        self.assertEqual((told["who"], told["take_in"]["battery"]["rating"]["amps"]), (NOOR, 720))
        self.assertEqual(self.teo.get(f"/batteries/{tag}").json()["battery"]["rating"]["amps"], 720)
        over = self.teo.send("PUT", f"/batteries/{tag}", {**mine, "based_on": told["take_in_id"]})
        self.assertEqual((over.status_code, over.json()["battery"]["rating"]["amps"]), (200, 700))

    def test_a_fault_in_one_cell_names_that_cell(self) -> None:
        tag = self.taken_in()["tag"]
        body = reading("cells", specific_gravities=[1.26, 1.26, 12.6, 1.26, 1.26, 1.26])
        found = self.keep(tag, body, 422)["errors"]
        self.assertEqual([one["path"] for one in found], ["specific_gravities[2]"])

    def test_an_earlier_fault_of_a_battery_blocks_no_new_reading(self) -> None:
        tag = self.taken_in()["tag"]
        self.keep(tag, rest(12.6))
        self.keep(tag, reading("adjustable_load", amps=300, seconds=15, volts=12.9), 422)
        self.keep(tag, reading("adjustable_load", amps=300, seconds=15, volts=10.2))
        kept = self.teo.get(f"/batteries/{tag}").json()["readings"][0]["reading"]
        self.keep(tag, rest(9.8, replaces=kept["id"], taken_at=kept["taken_at"]))
        self.keep(tag, tested(500))


class Clocks(TwoAtOnce):
    def test_a_strange_time_is_asked_about_and_may_be_stood_by(self) -> None:
        tag = self.taken_in()["tag"]

        def sent(ago: timedelta, stands: bool = False) -> Any:
            body = {**rest(), "taken_at": (datetime.now(UTC) - ago).isoformat()}
            return self.teo.send("POST", f"/batteries/{tag}/readings{'?time_is_right=true' if stands else ''}", body)

        for ago, status in (
            (timedelta(hours=23), 201), (timedelta(hours=25), 422), (timedelta(days=365 * 20), 422), (timedelta(minutes=-1), 201),
            (timedelta(minutes=-3), 422), (timedelta(days=-400), 422),
        ):  # fmt: skip
            with self.subTest(ago=str(ago)):
                found = sent(ago)
                self.assertEqual(found.status_code, status, found.text)
                if status == 422:
                    self.assertEqual(found.json()["errors"][0]["path"], "taken_at")
        here = (datetime.now(UTC) - timedelta(hours=25)).astimezone(ZoneInfo(self.teo.me["store"]["time_zone"]))
        self.assertIn(f"taken on {here:%d %b %Y, %H:}", sent(timedelta(hours=25)).json()["errors"][0]["message"])
        self.assertEqual(sent(timedelta(hours=25), stands=True).status_code, 201)
        self.assertEqual(sent(timedelta(minutes=-3), stands=True).status_code, 422, "nobody measures in the future")
        epoch = {**rest(), "taken_at": "1970-01-01T00:00:00Z"}
        self.assertEqual(
            self.teo.send("POST", f"/batteries/{tag}/readings", epoch).json()["errors"][0]["path"], "taken_at"
        )

    def test_a_correction_keeps_the_time_of_what_it_corrects_however_old(self) -> None:
        tag, old = self.taken_in()["tag"], {**rest(), "taken_at": (datetime.now(UTC) - timedelta(days=3)).isoformat()}
        self.teo.send("POST", f"/batteries/{tag}/readings?time_is_right=true", old)
        mended = {**rest(12.5), "taken_at": old["taken_at"], "replaces": old["id"]}
        self.assertEqual(self.teo.send("POST", f"/batteries/{tag}/readings", mended).status_code, 201)

    def test_every_answer_tells_the_server_s_time(self) -> None:
        told = int(self.teo.get("/me").headers["x-vane-time"])
        self.assertLess(abs(told / 1000 - datetime.now(UTC).timestamp()), 5)
