"""What must not go to the wrong battery or be wiped away, through the API: undo of a take-in, unsafe, misread labels."""

import unittest
import uuid
from datetime import UTC, datetime
from typing import Any

from tests.house import LEAD, NOOR, Client, app_on, database


def entry(kind: str, **body: Any) -> dict[str, Any]:
    return {"id": str(uuid.uuid4()), "kind": kind, "taken_at": datetime.now(UTC).isoformat(), **body}


class Desk(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = database()
        cls.client = Client(app_on(cls.url))

    def take_in(self, **battery: Any) -> int:
        body = {
            "battery": {"rating": {"amps": 600}, **battery},
            "context": {"came_in": "carried_in", "complaint": "clicks"},
        }
        return int(self.client.send("POST", "/batteries", body).json()["tag"])

    def read(self, tag: int, reading: dict[str, Any]) -> Any:
        return self.client.send("POST", f"/batteries/{tag}/readings", reading)


class TakenInByMistake(Desk):
    def test_it_leaves_the_shelf_stays_readable_and_says_so(self) -> None:
        tag = self.take_in()
        undone = self.client.send("POST", f"/batteries/{tag}/undo", {})
        self.assertEqual((undone.status_code, undone.json()["undone"], undone.json()["place"]), (200, True, "gone"))
        self.assertNotIn(tag, [one["tag"] for one in self.client.get("/shelf").json()])
        listed = self.client.get("/checks", params={"text": str(tag)}).json()["checks"]
        self.assertEqual([one["undone"] for one in listed if one["tag"] == tag], [True])
        life = self.client.get(f"/batteries/{tag}/life").json()
        self.assertEqual([stay["place"] for stay in life["stays"]], ["counter", "gone"])

    def test_not_once_something_was_read_of_it_unless_that_was_taken_back(self) -> None:
        tag = self.take_in()
        kept = entry("rest_volts", volts=12.6)
        self.read(tag, kept)
        refused = self.client.send("POST", f"/batteries/{tag}/undo", {})
        self.assertEqual(refused.status_code, 409)
        self.assertIn("something was read of it already", refused.text)
        self.read(tag, entry("withdrawal", replaces=kept["id"]))
        self.assertEqual(self.client.send("POST", f"/batteries/{tag}/undo", {}).status_code, 200)

    def test_twice_is_once_and_a_colleague_sees_it(self) -> None:
        tag = self.take_in()
        for _ in range(2):
            self.assertTrue(self.client.send("POST", f"/batteries/{tag}/undo", {}).json()["undone"])
        self.assertTrue(Client(app_on(self.url), NOOR).get(f"/batteries/{tag}").json()["undone"])
        self.assertEqual(len(self.client.get(f"/batteries/{tag}/life").json()["stays"]), 2)


class Unsafe(Desk):
    def test_nothing_is_clamped_to_it_without_a_reason_that_stays(self) -> None:
        tag = self.take_in()
        self.read(tag, entry("look", marks=[{"sign": "cracked"}]))
        refused = self.read(tag, entry("rest_volts", volts=12.6))
        self.assertEqual(refused.status_code, 422)
        self.assertEqual([one["path"] for one in refused.json()["errors"]], ["reason"])
        why = "the maker's field man asked for it"
        self.assertEqual(self.read(tag, entry("rest_volts", volts=12.6, reason=why)).status_code, 201)
        kept = self.client.get(f"/batteries/{tag}").json()
        self.assertEqual(kept["readings"][1]["reading"]["reason"], why)
        self.assertEqual(kept["judgement"]["outcome"], "unsafe")
        self.assertEqual(self.read(tag, entry("look", marks=[{"sign": "hot"}])).status_code, 201)
        self.assertEqual(self.read(tag, entry("car", idle_volts=14.2)).status_code, 201)

    def test_a_hazard_is_not_wiped_away(self) -> None:
        tag = self.take_in()
        seen = entry("look", marks=[{"sign": "bulged"}])
        self.read(tag, seen)
        for undone in (entry("look", replaces=seen["id"]), entry("withdrawal", replaces=seen["id"])):
            refused = self.read(tag, undone)
            self.assertEqual(refused.status_code, 422)
            self.assertIn("Bulged was marked: say why", refused.json()["errors"][0]["message"])
        self.read(tag, entry("look"))
        self.assertEqual(self.client.get(f"/batteries/{tag}").json()["judgement"]["outcome"], "unsafe")
        self.read(tag, entry("look", replaces=seen["id"], reason="it was the one beside it"))
        self.assertEqual(self.client.get(f"/batteries/{tag}").json()["judgement"]["next_step"]["key"], "measure_volts")
        # what was taken back with a reason does not stand in the way of a label's correction
        view = self.client.get(f"/batteries/{tag}").json()
        written = {"battery": view["battery"], "context": view["context"], "based_on": view["take_in_id"]}
        self.assertEqual(self.client.send("PUT", f"/batteries/{tag}", written).status_code, 200)

    def test_the_page_knows_what_is_dangerous_and_what_is_closed(self) -> None:
        known = self.client.get("/reference").json()
        self.assertIn("smelling_of_rotten_egg", known["hazards"])
        self.assertNotIn("wet_top", known["hazards"])
        open_ = {method["kind"] for method in known["methods"] if not method["hands_on"]}
        self.assertEqual(open_, {"look", "case_leakage", "car"})  # no clamp, no current


class Misread(Desk):
    def test_a_label_that_hardly_can_be_is_asked_about_and_taken_when_somebody_looked_again(self) -> None:
        body = {
            "battery": {"rating": {"amps": 550, "scale": "DIN"}, "group_code": "47"},
            "context": {"came_in": "carried_in", "complaint": "clicks"},
        }
        write = str(uuid.uuid4())
        asked = self.client.send("POST", "/batteries", body, write_id=write)
        self.assertEqual(asked.status_code, 422)
        self.assertIn("is it EN or CCA?", asked.json()["errors"][0]["message"])
        taken = self.client.send("POST", "/batteries", body, write_id=write, params={"label_is_right": True})
        self.assertEqual(taken.status_code, 201)
        view = taken.json()
        again = {"battery": view["battery"], "context": view["context"], "based_on": view["take_in_id"]}
        lead = Client(app_on(self.url), LEAD)
        self.assertEqual(lead.send("PUT", f"/batteries/{view['tag']}", again).status_code, 422)
        sure = lead.send("PUT", f"/batteries/{view['tag']}", again, params={"label_is_right": True})
        self.assertEqual(sure.status_code, 200)

    def test_jobs_are_told_with_the_judgement(self) -> None:
        tag = self.take_in()
        self.read(tag, entry("look", marks=[{"sign": "wet_top"}], corrosion="light"))
        told = self.read(tag, entry("car", drain_ma=400)).json()["judgement"]["jobs"]
        self.assertEqual(
            [(job["text"], job["when"], job["whose"]) for job in told],
            [
                ("clean and dry the top, measure it again", "before hand-back", "house"),
                ("clean posts and clamps", "before hand-back", "house"),
                ("the car: 400 mA with the key off is over 50 mA", "before hand-back", "garage"),
            ],
        )
