"""A shop set up from nothing, its people and settings, and the record of what was changed."""

import io
import json
import logging.config
import unittest
import uuid
from contextlib import redirect_stdout
from typing import Any
from unittest import mock

import psycopg

from tests.english import TestClient
from tests.house import HERE, LEAD, NOOR, OWNER_NAME, PINS, TEO, Client, app_on, as_app, database, empty, kept
from vane_check.__main__ import main
from vane_check.api.app import make_app
from vane_check.core.house.setting_up import Answers, Believes, Counts, missing, school_for
from vane_check.start import logs

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
        self.assertEqual(rules["name"], "Fixed load first")
        self.assertEqual(rules["rules"]["steps.tools_at_hand"]["value"], ["meter", "charger", "car", "fixed_load"])
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
            ({"people": [{**FIRST, "pin": "314159"}]}, "people[0].pin"),
            ({"people": [{**FIRST, "pin": "7777777"}]}, "people[0].pin"),
            ({"people": [FIRST, {**FIRST, "name": "Two", "pin": "890123"}]}, "people[1].pin"),
            ({"people": [FIRST, {**FIRST, "name": "Two", "pin": "654321"}]}, "people[1].pin"),
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


class Watched(unittest.TestCase):
    def test_alive_is_not_ready_until_the_tables_are_this_release_s(self) -> None:
        url = database()
        http = TestClient(app_on(url), base_url=HERE)
        self.assertEqual([http.get(f"/api/{path}").status_code for path in ("health", "ready")], [200, 200])
        with psycopg.connect(url, autocommit=True) as connection:
            connection.execute("update alembic_version set version_num = '0010'")
        late = http.get("/api/ready")
        self.assertEqual((http.get("/api/health").status_code, late.status_code), (200, 503))
        self.assertIn("version 0010", late.json()["detail"])
        self.assertEqual(set(http.get("/api/health").json()), {"release"})

    def test_figures_are_read_with_the_word_and_hold_no_name_and_no_tag(self) -> None:
        from prometheus_client.parser import text_string_to_metric_families

        teo = Client(app_on(database()), TEO)
        teo.get("/batteries/174")
        teo.get("/vehicles", params={"text": "Lindqvar"})
        self.assertEqual(teo.get("/metrics").status_code, 404)
        with mock.patch.dict("os.environ", {"VANE_METRICS_TOKEN": "a-word"}):
            self.assertEqual(teo.get("/metrics", headers={"Authorization": "Bearer other"}).status_code, 401)
            found = teo.get("/metrics", headers={"Authorization": "Bearer a-word"}).text
        families = list(text_string_to_metric_families(found))
        labels = {value for family in families for one in family.samples for value in one.labels.values()}
        for name in ("174", "Lindqvar", TEO):
            self.assertEqual([label for label in labels if name in label], [])
        counts = {
            (one.labels["method"], one.labels["route"], one.labels["status"]): one.value
            for family in families for one in family.samples if one.name == "vane_request_seconds_count"
        }  # fmt: skip
        self.assertEqual(counts["GET", "/api/batteries/{tag}", "200"], 1)
        self.assertEqual(counts["POST", "/api/sign-in", "200"], 1)
        self.assertEqual(counts["GET", "/api/vehicles", "200"], 1)
        self.assertEqual(counts["GET", "/api/metrics", "404"], 1)

    def test_a_log_line_is_one_json_object_with_the_place_and_not_the_words_of_an_error(self) -> None:
        said = io.StringIO()
        with mock.patch.dict("os.environ", {"VANE_LOG": "json"}):
            settings = logs.config("warning")
        assert settings is not None
        self.assertIsNone(logs.config("warning"))
        settings["handlers"]["lines"]["stream"] = said
        settings["loggers"] = {"vane_check.try": settings["loggers"]["vane_check"]}
        logging.config.dictConfig(settings)
        try:
            int("M. Lindqvar")
        except ValueError:
            logging.getLogger("vane_check.try").exception("a route failed")
        logging.getLogger("vane_check.try").warning("second line")
        first, second = [json.loads(line) for line in said.getvalue().splitlines()]
        self.assertEqual((first["level"], first["message"], first["error"]), ("error", "a route failed", "ValueError"))
        self.assertIn("test_house.py", first["places"][0])
        self.assertNotIn("Lindqvar", said.getvalue())
        self.assertEqual((second["message"], "error" in second), ("second line", False))

    def test_behind_tls_the_cookie_keeps_to_it(self) -> None:
        app = app_on(database())
        for told, secure in (("yes", True), ("", False)):
            with mock.patch.dict("os.environ", {"VANE_TLS": told}):
                http = TestClient(app, base_url=HERE)
                person = next(one for one in http.get("/api/people").json()["people"] if one["name"] == TEO)
                made = http.post("/api/sign-in", json={"staff_id": person["id"], "pin": PINS[TEO]})
                self.assertEqual("secure" in made.headers["set-cookie"].lower(), secure)


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
            ("terms", "/house?terms"),
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

    def test_a_lead_gives_themselves_another_pin_and_stays_signed_in(self) -> None:
        row = self.person(LEAD)
        self.assertTrue(
            next(one for one in self.lead.get("/house").json()["people"] if one["id"] == row["id"])["may_change"]
        )
        self.assertEqual(self.change(self.lead, LEAD, pin="141592").status_code, 200)
        self.assertEqual(self.lead.get("/house").status_code, 200)
        stranger = TestClient(self.app, base_url=HERE)
        codes = [
            stranger.post("/api/sign-in", json={"staff_id": row["id"], "pin": pin}).status_code
            for pin in (PINS[LEAD], "141592")
        ]
        self.assertEqual(codes, [401, 200])
        self.assertEqual(self.change(self.lead, LEAD, role="owner").status_code, 403)
        self.assertEqual(self.change(self.lead, LEAD, works_here=False).status_code, 403)
        self.assertEqual(self.change(self.owner, LEAD, pin=PINS[LEAD]).status_code, 200)
        self.lead.sign_in(LEAD, PINS[LEAD])

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
            ("currency", "ABQ"),
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

    def test_sent_twice_somebody_is_taken_on_once_and_another_under_the_same_name_of_write_is_refused(self) -> None:
        new, name = {"name": "Ivo Task", "role": "counter", "pin": "636363"}, str(uuid.uuid4())
        codes = [self.lead.send("POST", "/house/people", new, write_id=name).status_code for _ in range(2)]
        self.assertEqual(codes, [201, 201])
        other = self.lead.send("POST", "/house/people", {**new, "name": "Eva Task"}, write_id=name)
        self.assertEqual(other.status_code, 409)
        names = [one["name"] for one in self.owner.get("/house").json()["people"]]
        self.assertEqual((names.count("Ivo Task"), names.count("Eva Task")), (1, 0))

    def test_what_was_changed_is_read_back_page_by_page(self) -> None:
        for number in range(27):
            for before, after in ((NOOR, f"Noor Halvard {number}"), (f"Noor Halvard {number}", NOOR)):
                self.assertEqual(self.change(self.owner, before, name=after).status_code, 200)
        first = self.lead.get("/house/changes").json()
        second = self.lead.get("/house/changes", params={"before": first[-1]["id"]}).json()
        self.assertEqual(len(first), 50)
        self.assertGreater(len(second), 0)
        ids = [one["id"] for one in first + second]
        self.assertEqual(ids, sorted(ids, reverse=True))
        self.assertEqual(len(set(ids)), len(ids))
        with psycopg.connect(self.url) as connection, self.assertRaises(psycopg.errors.RestrictViolation):
            connection.execute("delete from house_entries")

    def test_nobody_of_another_number_and_no_other_store_is_reached(self) -> None:
        row = self.person(TEO)
        body = {"name": "X", "role": "counter", "works_here": True}
        self.assertEqual(self.owner.send("PUT", "/house/people/99999", body).status_code, 404)
        with psycopg.connect(self.url, autocommit=True) as connection:
            found = connection.execute(
                "insert into staff (store_id, name, role, pin_hash) select max(id), 'Far Away', 'counter', 'x' from stores returning id"
            ).fetchone()
        assert found is not None
        for path in (f"/house/people/{found[0]}", f"/house/people/{found[0]}/unlock"):
            method, sent = ("PUT", body) if path.endswith(str(found[0])) else ("POST", {})
            self.assertEqual(self.owner.send(method, path, sent).status_code, 404, path)
        self.assertNotIn("Far Away", [one["name"] for one in self.owner.get("/house").json()["people"]])
        self.assertEqual(self.person(TEO), row)
        with psycopg.connect(self.url, autocommit=True) as connection:
            connection.execute("delete from staff where name = 'Far Away'")


class OldHouse(unittest.TestCase):
    """A house from before there were owners."""

    def test_its_leads_may_make_one_and_then_no_longer_make_leads(self) -> None:
        url = database()
        with psycopg.connect(url, autocommit=True) as connection:
            connection.execute("update staff set left_at = now() where role = 'owner'")
        lead = Client(app_on(url), LEAD)
        people = {one["name"]: one for one in lead.get("/house").json()["people"]}
        self.assertTrue(people[LEAD]["may_change"])

        def change(whose: str, role: str) -> int:
            body = {"name": whose, "role": role, "works_here": True}
            return int(lead.send("PUT", f"/house/people/{people[whose]['id']}", body).status_code)

        self.assertEqual(change(LEAD, "counter"), 422, "the only one who leads")
        self.assertEqual(change(TEO, "owner"), 200)
        self.assertEqual(change(NOOR, "lead"), 403)
        self.assertEqual(change(TEO, "counter"), 403)

    def test_what_is_done_at_the_server_stands_on_record_too(self) -> None:
        url = database()
        with mock.patch.dict("os.environ", {"VANE_OWNER_URL": url}), redirect_stdout(io.StringIO()):
            self.assertEqual(main(["people", "--store", "Weir Lane Batteries", "rename", NOOR, "Noor H."]), 0)
            self.assertEqual(main(["people", "--store", "Weir Lane Batteries", "role", "Noor H.", "lead"]), 0)
        newest, before = Client(app_on(url), LEAD).get("/house/changes").json()[:2]
        self.assertEqual(
            (newest["who"], newest["what"], newest["subject"]), ("at the server", "people role", "Noor H.")
        )
        self.assertEqual(before["after"], {"said": "Noor Halvard is Noor H. now"})
