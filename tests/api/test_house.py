"""A shop set up from nothing, its people and settings, and the record of what was changed."""

import unittest
from typing import Any

import psycopg
from fastapi.testclient import TestClient

from tests.house import HERE, LEAD, OWNER_NAME, PINS, TEO, Client, app_on, as_app, database, empty, kept
from vane_check.api.app import make_app
from vane_check.core.setting_up import Answers, Believes, Counts, missing, school_for

CODE = "5ca1ab1e"
SHOP = {
    "name": "Quay Cells",
    "currency": "USD",
    "temperature_unit": "F",
    "length_unit": "in",
    "time_zone": "America/Chicago",
}
FIRST = {"name": "Maren Oduya", "role": "owner", "pin": "550550"}


class SettingUp(unittest.TestCase):
    def setUp(self) -> None:
        self.url = empty()
        self.app = make_app(as_app(self.url), set_up_code=CODE)
        kept(self.app.state.engine)
        self.http = TestClient(self.app, base_url=HERE)

    def said(self, **more: Any) -> dict[str, Any]:
        return {"code": CODE, "shop": SHOP, "people": [FIRST], **more}

    def test_a_server_without_a_shop_says_so_and_asks_five_questions(self) -> None:
        self.assertTrue(self.http.get("/api/people").json()["set_up"])
        found = self.http.get("/api/set-up").json()
        self.assertTrue(found["open"])
        self.assertEqual(len(found["questions"]), 5)
        self.assertEqual(len(found["schools"]), 64)
        self.assertIn("America/Chicago", found["zones"])

    def test_a_whole_shop_in_one_write_and_its_owner_is_in(self) -> None:
        people = [FIRST, {"name": "Teo Two", "role": "counter", "pin": "660660"}]
        answers = {"has_tester": False, "has_fixed_load": True, "believes": "load"}
        made = self.http.post("/api/set-up", json=self.said(people=people, answers=answers))
        self.assertEqual(made.status_code, 201, made.text)
        self.assertEqual(
            (made.json()["name"], made.json()["role"], made.json()["store"]["currency"]),
            ("Maren Oduya", "owner", "USD"),
        )
        rules = self.http.get("/api/rules").json()
        self.assertEqual(rules["rules"]["name"], "Fixed load first")
        self.assertEqual(rules["rules"]["tools_at_hand"]["value"], ["meter", "charger", "car", "fixed_load"])
        house = self.http.get("/api/house").json()
        self.assertEqual(house["shop"]["time_zone"], "America/Chicago")
        self.assertEqual(
            [one["what"] for one in house["missing"]],
            ["No charger stands in the book", "No tester or load stands in the book", "The catalogue is empty", "The vehicle list is empty",
             "No warranty terms", "No supplier", "One person alone may lead"],
        )  # fmt: skip
        self.assertEqual(self.http.get("/api/house/changes").json()[0]["what"], "set up")
        self.assertFalse(self.http.get("/api/set-up").json()["open"])
        again = self.http.post("/api/set-up", json=self.said())
        self.assertEqual(again.status_code, 409)

    def test_only_with_the_code_that_was_printed(self) -> None:
        for code in ("", "5ca1ab1f", "ünknown"):
            self.assertEqual(self.http.post("/api/set-up", json=self.said(code=code)).status_code, 403)
        self.app.state.set_up_code = None
        self.assertEqual(self.http.post("/api/set-up", json=self.said()).status_code, 403)
        self.assertTrue(self.http.get("/api/set-up").json()["open"])

    def test_each_fault_stands_in_its_field_and_nothing_is_half_made(self) -> None:
        for more, path in (
            ({"people": [{**FIRST, "pin": "123"}]}, "people[0].pin"),
            ({"people": [{**FIRST, "role": "lead"}]}, "people[0].role"),
            ({"people": [FIRST, {**FIRST, "name": "maren oduya"}]}, "people[1].name"),
            ({"shop": {**SHOP, "time_zone": "Mars/Olympus"}}, "shop.time_zone"),
            ({"shop": {**SHOP, "currency": "dollars"}}, "shop.currency"),
            ({"shop": {**SHOP, "name": " "}}, "shop.name"),
        ):
            with self.subTest(path):
                found = self.http.post("/api/set-up", json=self.said(**more))
                self.assertEqual(found.status_code, 422)
                self.assertEqual([one["path"] for one in found.json()["errors"]], [path])
                self.assertTrue(self.http.get("/api/set-up").json()["open"])

    def test_two_who_set_up_at_once_make_one_shop(self) -> None:
        from concurrent.futures import ThreadPoolExecutor

        with ThreadPoolExecutor(4) as pool:
            codes = list(
                pool.map(
                    lambda _: TestClient(self.app, base_url=HERE).post("/api/set-up", json=self.said()).status_code,
                    range(4),
                )
            )
        self.assertEqual(sorted(codes), [201, 409, 409, 409])
        with psycopg.connect(self.url) as connection:
            self.assertEqual(connection.execute("select count(*) from stores").fetchone(), (1,))

    def test_its_first_battery_can_be_taken_in_and_judged(self) -> None:
        from tests.api.test_api import TAKE_IN

        client = Client.__new__(Client)
        client.http = self.http
        me = self.http.post("/api/set-up", json=self.said()).json()
        self.http.headers["X-Vane-CSRF"] = me["csrf_token"]
        found = client.send("POST", "/batteries", TAKE_IN)
        self.assertEqual(found.status_code, 201, found.text)


class Choosing(unittest.TestCase):
    def test_five_answers_lead_to_the_school_that_believes_what_is_there(self) -> None:
        for answers, school in (
            ({}, "electronic_first"),
            ({"has_adjustable_load": True, "believes": "load"}, "load_first"),
            ({"has_adjustable_load": False, "believes": "load"}, "electronic_first"),
            ({"has_tester": False, "has_fixed_load": True, "believes": "load"}, "fixed_first"),
            ({"has_hydrometer": True, "believes": "cells"}, "cell_first"),
            ({"has_tester": False, "believes": "cells"}, "crank_first"),
            ({"believes": "crank"}, "crank_first"),
            ({"has_tester": False, "has_hydrometer": True}, "cell_first"),
        ):
            with self.subTest(answers):
                self.assertEqual(school_for(Answers.model_validate(answers)).school, school)
        self.assertEqual(
            school_for(Answers(has_hydrometer=True)).tools, ("meter", "charger", "car", "tester", "hydrometer")
        )
        self.assertEqual(set(Believes), {"tester", "load", "cells", "crank"})

    def test_what_is_missing_goes_when_it_is_there(self) -> None:
        whole = {name: 3 for name in Counts.model_fields} | {"lines_without_terms": 0}
        self.assertEqual(missing(Counts.model_validate(whole)), [])
        for name, where in (
            ("chargers", "/equipment"),
            ("items", "/goods/lists"),
            ("pieces", "/goods"),
            ("terms", "/goods/lists"),
        ):
            self.assertEqual([one.where for one in missing(Counts.model_validate(whole | {name: 0}))], [where], name)
        self.assertEqual([one.where for one in missing(Counts.model_validate(whole | {"leads": 1}))], ["/house"])


class House(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = database()
        cls.app = app_on(cls.url)
        cls.owner, cls.lead, cls.teo = (Client(cls.app, name) for name in (OWNER_NAME, LEAD, TEO))

    def person(self, name: str) -> Any:
        return next(one for one in self.owner.get("/house").json()["people"] if one["name"] == name)

    def change(self, client: Client, whose: str, **more: Any) -> Any:
        row = self.person(whose)
        body = {"name": row["name"], "role": row["role"], "works_here": row["left_at"] is None, **more}
        return client.send("PUT", f"/house/people/{row['id']}", body)

    def test_a_counter_hand_sees_and_changes_nothing_of_the_house(self) -> None:
        for path in ("/house", "/house/changes"):
            self.assertEqual(self.teo.get(path).status_code, 403)
        self.assertEqual(self.change(self.teo, LEAD, name="Someone").status_code, 403)
        self.assertEqual(self.teo.send("POST", "/house/people", {**FIRST, "role": "counter"}).status_code, 403)

    def test_a_lead_takes_on_counter_hands_and_only_an_owner_leads(self) -> None:
        new = {"name": "Pia Rell", "role": "counter", "pin": "909090"}
        self.assertEqual(self.lead.send("POST", "/house/people", {**new, "role": "lead"}).status_code, 403)
        self.assertEqual(self.lead.send("POST", "/house/people", new).status_code, 201)
        self.assertEqual(self.lead.send("POST", "/house/people", new).json()["errors"][0]["path"], "name")
        self.assertEqual(self.change(self.lead, "Pia Rell", role="lead").status_code, 403)
        self.assertEqual(self.change(self.owner, "Pia Rell", role="lead").status_code, 200)
        self.assertEqual(self.change(self.lead, "Pia Rell", pin="919191").status_code, 403)
        self.assertEqual(self.change(self.owner, "Pia Rell", name="Pia Rell-Ott").status_code, 200)
        changes = self.lead.get("/house/changes").json()
        self.assertEqual(
            (changes[0]["who"], changes[0]["before"]["name"], changes[0]["after"]["name"]),
            (OWNER_NAME, "Pia Rell", "Pia Rell-Ott"),
        )

    def test_who_leaves_is_out_at_once_and_may_come_back(self) -> None:
        self.lead.send("POST", "/house/people", {"name": "Oto Lind", "role": "counter", "pin": "818181"})
        oto = Client.__new__(Client)
        oto.http = TestClient(self.app, base_url=HERE)
        oto.sign_in("Oto Lind", "818181")
        self.assertEqual(oto.get("/shelf").status_code, 200)
        self.assertEqual(self.change(self.lead, "Oto Lind", works_here=False).status_code, 200)
        self.app.state.signed_in.forget()
        self.assertEqual(oto.get("/shelf").status_code, 401)
        names = [one["name"] for one in self.owner.http.get("/api/people").json()["people"]]
        self.assertNotIn("Oto Lind", names)
        self.assertEqual(self.change(self.lead, "Oto Lind", works_here=True, pin="828282").status_code, 200)
        oto.sign_in("Oto Lind", "828282")
        self.assertEqual(oto.get("/shelf").status_code, 200)

    def test_the_only_owner_stays_one(self) -> None:
        for more in ({"role": "lead"}, {"works_here": False}):
            found = self.change(self.owner, OWNER_NAME, **more)
            self.assertEqual((found.status_code, found.json()["errors"][0]["path"]), (422, "role"))

    def test_a_wait_is_lifted_from_the_desk(self) -> None:
        stranger, row = TestClient(self.app, base_url=HERE), self.person(TEO)
        for _ in range(5):
            stranger.post("/api/sign-in", json={"staff_id": row["id"], "pin": "000000"})
        right = {"staff_id": row["id"], "pin": PINS[TEO]}
        self.assertEqual(stranger.post("/api/sign-in", json=right).status_code, 429)
        self.assertEqual(self.lead.send("POST", f"/house/people/{row['id']}/unlock", {}).status_code, 201)
        self.assertEqual(stranger.post("/api/sign-in", json=right).status_code, 200)

    def test_settings_hold_from_now_on_over_what_was_seen(self) -> None:
        seen = self.lead.get("/house").json()
        shop = {**seen["shop"], "name": "Weir Lane Cells", "idle_minutes": 20}
        self.assertEqual(
            self.lead.send("PUT", "/house/shop", {"shop": shop, "based_on": seen["edition"]}).status_code, 200
        )
        late = self.owner.send("PUT", "/house/shop", {"shop": shop, "based_on": seen["edition"]})
        self.assertEqual(late.status_code, 409)
        self.app.state.signed_in.forget()
        self.assertEqual(self.teo.get("/me").json()["store"]["name"], "Weir Lane Cells")
        self.assertEqual(self.teo.get("/me").json()["store"]["idle_minutes"], 20)
        edition = self.lead.get("/house").json()["edition"]
        for field, value in (
            ("currency", "USD"),
            ("idle_minutes", 241),
            ("time_zone", "Nowhere/Else"),
            ("bay_temperature_c", 51),
        ):
            with self.subTest(field):
                found = self.lead.send("PUT", "/house/shop", {"shop": {**shop, field: value}, "based_on": edition})
                self.assertEqual((found.status_code, found.json()["errors"][0]["path"]), (422, f"shop.{field}"))

    def test_a_pin_leaves_no_trace_but_its_hash(self) -> None:
        self.lead.send("POST", "/house/people", {"name": "Ana Vell", "role": "counter", "pin": "737373"})
        with psycopg.connect(self.url) as connection:
            for table in ("house_entries", "writes", "staff"):
                found = connection.execute(f"select count(*) from {table} t where t::text like '%737373%'").fetchone()
                self.assertEqual(found, (0,), table)
