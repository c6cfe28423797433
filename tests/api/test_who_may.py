"""Who gets in, from where, and for how long; what a database role may do; what is erased; what is refused at the edge."""

import io
import json
import logging
import threading
import time
import unittest
from contextlib import redirect_stderr
from datetime import datetime, timedelta
from typing import Any

import httpx
import psycopg

from tests.api.test_api import TAKE_IN, reading, rest, tested
from tests.english import TestClient, in_english
from tests.house import HERE, LEAD, NOOR, PINS, TEO, Client, app_on, as_app, database, served
from vane_check.api.edge import hosts_allowed
from vane_check.records.roles import INSERT_ONLY, OF_A_STORE


class WhoMay(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = database()
        cls.app = app_on(cls.url)
        cls.teo, cls.lead = Client(cls.app, TEO), Client(cls.app, LEAD)

    def rows(self, statement: str) -> list[Any]:
        with psycopg.connect(self.url) as connection:
            return connection.execute(statement).fetchall()


class Roles(WhoMay):
    def refused(self, connection: psycopg.Connection, statement: str) -> None:
        with self.subTest(statement), self.assertRaises(psycopg.errors.InsufficientPrivilege):
            connection.execute(statement)

    def test_the_application_owns_nothing_and_throws_nothing_away(self) -> None:
        with psycopg.connect(as_app(self.url), autocommit=True) as connection:
            found = connection.execute(
                "select current_user, rolsuper, rolcreatedb, rolcreaterole, rolbypassrls from pg_roles where rolname = current_user"
            ).fetchone()
            self.assertEqual(found, ("vane_app", False, False, False, False))
            self.assertEqual(
                connection.execute("select count(*) from pg_class where relowner = 'vane_app'::regrole").fetchone(),
                (0,),
            )
            for table in INSERT_ONLY:
                for statement in (
                    f"update {table} set id = id",
                    f"delete from {table}",
                    f"truncate {table}",
                    f"alter table {table} add column x int",
                    f"drop table {table}",
                ):
                    self.refused(connection, statement)
            for statement in (
                "delete from batteries", "truncate customers", "delete from staff", "update staff set store_id = 2", "update stores set door = 'x'", "insert into stores (name) values ('x')", "update stores set demo = false",
                "create table x (y int)", "alter table staff disable row level security", "update sessions set staff_id = 1", "delete from catalogue_items", "delete from stock_pieces", "update sales set price_cents = 1",
            ):  # fmt: skip
                self.refused(connection, statement)

    def test_row_level_security_shows_one_store_and_none_before(self) -> None:
        with psycopg.connect(as_app(self.url), autocommit=True) as connection:
            for table in OF_A_STORE:
                for store, seen in (("", False), ("99", False)):
                    connection.execute("select set_config('vane.store', %s, false)", (store,))
                    with self.subTest(table, store=store):
                        self.assertEqual(connection.execute(f"select count(*) from {table}").fetchone(), (0,), seen)
            connection.execute("select set_config('vane.store', '1', false)")
            self.assertGreater((connection.execute("select count(*) from batteries").fetchone() or (0,))[0], 100)
            with self.assertRaises(psycopg.errors.InsufficientPrivilege):
                connection.execute("insert into customers (store_id, name) values (2, 'theirs')")
            connection.execute("select set_config('vane.store', '3', false)")
            self.assertEqual(connection.execute("select count(*) from find_batteries('%%', 10)").fetchone(), (0,))
            self.assertEqual(connection.execute("select count(*) from walk_batteries('%%', 1, 10)").fetchone(), (0,))

    def test_at_the_door_only_staff_stores_and_sessions_are_seen(self) -> None:
        with psycopg.connect(as_app(self.url), autocommit=True) as connection:
            connection.execute("select set_config('vane.door', 'open', false)")
            seen = {table for table in OF_A_STORE if connection.execute(f"select 1 from {table} limit 1").fetchone()}
            self.assertLessEqual(seen, {"staff", "sessions", "sign_in_tries"})


class Streams(WhoMay):
    def test_a_stream_tells_what_changed_and_ends_with_its_session(self) -> None:
        with served(self.url) as base, httpx.Client(base_url=base, timeout=60) as http:
            person = next(one["id"] for one in http.get("/api/people").json()["people"] if one["name"] == NOOR)
            http.headers["X-Vane-CSRF"] = http.post(
                "/api/sign-in", json={"staff_id": person, "pin": PINS[NOOR]}
            ).json()["csrf_token"]
            heard: list[str] = []
            begun = threading.Event()

            def listen() -> None:
                with http.stream("GET", "/api/events") as stream:
                    for line in stream.iter_lines():
                        heard.append(line)
                        begun.set()

            listening = threading.Thread(target=listen)
            listening.start()
            begun.wait(30)
            self.teo.send("PUT", "/batteries/175/place", {"place": "ready"})
            for _ in range(300):
                if any('"tag": 175' in line and '"place": "ready"' in line for line in heard):
                    break
                time.sleep(0.05)
            else:
                self.fail("nothing was told")
            self.assertEqual(http.post("/api/sign-out").status_code, 204)
            listening.join(30)
            self.assertFalse(listening.is_alive(), "the stream goes with its session")
            self.assertEqual(http.get("/api/events").status_code, 401)


class Records(WhoMay):
    def test_tries_are_on_record_and_old_sessions_are_swept(self) -> None:
        http = TestClient(self.app, base_url=HERE, client=("10.9.9.9", 1))
        http.post("/api/sign-in", json={"staff_id": self.teo.me["id"], "pin": "000000"})
        found = self.rows("select kind, address from sign_in_tries where address = '10.9.9.9'")
        self.assertEqual(found, [("tried", "10.9.9.9")])
        with psycopg.connect(as_app(self.url)) as connection:
            before = (connection.execute("select sweep_sessions(now() - interval '30 days')").fetchone() or (None,))[0]
            gone = (connection.execute("select sweep_sessions(now() + interval '30 days')").fetchone() or (0,))[0]
            connection.rollback()
        self.assertEqual((before, gone >= 2), (0, True))


class Edge(WhoMay):
    def test_what_a_page_may_do_is_said_and_not_what_serves_it(self) -> None:
        with served(self.url) as base, httpx.Client(base_url=base) as http:
            for path in ("/counter", "/api/people", "/api/nothing", "/manifest.webmanifest"):
                with self.subTest(path):
                    found, head = http.get(path), http.head(path)
                    policy = dict(
                        part.strip().split(" ", 1) for part in found.headers["content-security-policy"].split(";")
                    )
                    self.assertEqual({policy["base-uri"], policy["object-src"]}, {"'none'"})
                    self.assertEqual(policy["form-action"], "'self'")
                    self.assertNotIn("server", found.headers)
                    self.assertEqual((head.status_code, head.content), (found.status_code, b""))
                    same = ("content-type", "content-length", "content-security-policy")
                    self.assertEqual(
                        [head.headers.get(name) for name in same], [found.headers.get(name) for name in same]
                    )
            self.assertEqual(http.head("/api/events").status_code, 405)

    def test_only_this_server_s_own_names_are_answered_to(self) -> None:
        for host, status in (
            ("127.0.0.1:8140", 200), ("localhost:9", 200), ("LOCALHOST", 200), ("[::1]:8140", 200), ("evil.example", 421), ("127.0.0.1.evil.example", 421),
            ("", 421), ("[", 421), ("counter.local", 421),
        ):  # fmt: skip
            with self.subTest(host):
                found = self.teo.http.get("/api/me", headers={"Host": host})
                self.assertEqual(found.status_code, status)
                self.assertIn("content-security-policy", found.headers)
        self.assertIn("counter.local", hosts_allowed(" counter.local , Other "))
        self.assertIn("other", hosts_allowed("counter.local,Other"))
        self.assertNotIn("", hosts_allowed(" , "))

    def test_writes_come_from_its_own_pages(self) -> None:
        for origin, status in (
            ("http://127.0.0.1:8140", 201), (None, 201), ("http://127.0.0.1:9000", 403), ("http://evil.example", 403), ("null", 403), ("http://localhost:8140", 403),
        ):  # fmt: skip
            with self.subTest(origin):
                headers = {} if origin is None else {"Origin": origin}
                self.assertEqual(self.teo.send("POST", "/batteries", TAKE_IN, headers=headers).status_code, status)

    def test_a_large_body_is_refused_before_it_is_read_whole(self) -> None:
        read = 0

        def pieces() -> Any:
            nonlocal read
            for _ in range(400):
                read += 1
                yield b" " * 50_000

        found = self.teo.http.post("/api/assess", content=pieces(), headers={"Content-Type": "application/json"})
        self.assertEqual((found.status_code, found.headers["content-type"]), (413, "application/problem+json"))
        found = self.teo.http.post("/api/assess", content=b" " * 1_000_001)
        self.assertEqual(found.status_code, 413)
        found = self.teo.http.post("/api/assess", content=b" " * 1_000_000)
        self.assertEqual(found.status_code, 422)

    def test_what_nobody_expected_is_a_problem_too_and_no_name_is_logged(self) -> None:
        app = app_on(database())

        @app.get("/api/broken")
        def broken() -> None:
            raise RuntimeError("Walker, 0555 0199")

        app.router.routes.insert(0, app.router.routes.pop())
        heard = io.StringIO()
        handler = logging.StreamHandler(heard)
        logging.getLogger("vane_check").addHandler(handler)
        self.addCleanup(logging.getLogger("vane_check").removeHandler, handler)
        with redirect_stderr(io.StringIO()) as said:
            found = TestClient(app, base_url=HERE).get("/api/broken")
        self.assertEqual((found.status_code, found.headers["content-type"]), (500, "application/problem+json"))
        self.assertIn("content-security-policy", found.headers)
        self.assertIn("RuntimeError", heard.getvalue())
        self.assertNotIn("0555", heard.getvalue() + said.getvalue() + found.text)

    def test_strange_requests_are_refused_in_the_field(self) -> None:
        send = self.teo.http.request
        for method, path, more in (
            ("GET", "/api/checks?text=%00", {}), ("GET", "/api/date-codes?code=%C2%B2%C2%B2", {}), ("GET", "/api/date-codes?code=%00", {}),
            ("GET", "/api/batteries/99999999999999999999999999", {}), ("GET", "/api/checks?page=-1", {}), ("GET", "/api/checks?text=" + "9" * 30, {}),
            ("GET", "/api/date-codes?code=C5&sold_on=0001-01-01", {}), ("GET", "/api/vehicles?text=%25_%5C", {}),
            ("POST", "/api/batteries", {"json": {"context": {}, "customer_name": "\x00"}}), ("POST", "/api/batteries", {"content": b'{"context": {}, "customer_name": "\\ud800"}'}),
            ("POST", "/api/batteries", {"json": {"context": {}, "vehicle_id": 2**63}}), ("POST", "/api/batteries", {"json": {"context": {}, "sold_on": "9999-12-31"}}),
            ("POST", "/api/batteries", {"content": b"\xff\xfe"}), ("PUT", "/api/batteries/173/place", {"json": {"place": "bench", "needs_hand_at": "9999-12-31T23:00:00-12:00"}}),
            ("PUT", "/api/batteries/173/place", {"json": {"place": "bench", "needs_hand_at": "2026-12-01T10:00:00"}}),
            ("POST", "/api/batteries/173/claim", {"json": {"replacement_id": 2**64}}),
            ("POST", "/api/rules", {"content": b'{"values": {"rest.school": ["\\ud800"]}, "reason": "try it", "based_on": "x"}'}),
        ):  # fmt: skip
            with self.subTest(path, more=str(more)[:60]):
                headers = {
                    "Idempotency-Key": "6f1c2b1e-0000-4000-8000-000000000001",
                    "Content-Type": "application/json",
                }
                found = send(method, path, headers=headers, **more)
                self.assertIn(found.status_code, {200, 422}, found.text)
                if found.status_code == 422:
                    self.assertEqual(found.headers["content-type"], "application/problem+json")

    def test_every_status_a_route_gives_is_documented_and_names_are_enums(self) -> None:
        schema = self.app.openapi()
        for path, methods in schema["paths"].items():
            for method, spec in methods.items():
                with self.subTest(f"{method} {path}"):
                    self.assertLessEqual({"422", "500", "503", "421", "413"}, spec["responses"].keys())
                    if (
                        method != "get"
                        and "sign" not in path
                        and path
                        not in {
                            "/api/assess",
                            "/api/assess/odds",
                            "/api/match",
                            "/api/match/others",
                            "/api/match/photo",
                            "/api/rack/earliest",
                        }
                    ):
                        self.assertLessEqual({"401", "403", "409"}, spec["responses"].keys())
        parts = schema["components"]["schemas"]
        for name, size in (("StepKey", 34), ("Kind", 22), ("Outcome", 8), ("Place", 8)):
            self.assertEqual(len(parts[name]["enum"]), size)
        for model, field, of in (
            ("NextStep", "key", "StepKey"),
            ("Finding", "kind", "Kind"),
            ("ShelfBattery", "place", "Place"),
        ):
            self.assertEqual(parts[model]["properties"][field]["$ref"], f"#/components/schemas/{of}")


class Erasure(WhoMay):
    def test_a_person_is_erased_everywhere_and_that_it_was_done_is_on_record(self) -> None:
        who = {"customer_name": "Vera Zimt", "customer_phone": "0555 7788", "customer_plate": "ZI 77"}
        one = self.teo.send("POST", "/batteries", {**TAKE_IN, **who}).json()
        other = self.teo.send("POST", "/batteries", {**TAKE_IN, **who, "customer_plate": ""}).json()
        stranger = self.teo.send(
            "POST", "/batteries", {**TAKE_IN, "customer_name": "Vera Zimt", "customer_phone": "0555 0000"}
        ).json()
        for body in (rest(), tested(330)):
            self.teo.send("POST", f"/batteries/{one['tag']}/readings", body)
        renamed = {**TAKE_IN, **who, "customer_name": "V. Zimt", "based_on": one["take_in_id"]}
        self.assertEqual(self.teo.send("PUT", f"/batteries/{one['tag']}", renamed).status_code, 200)
        self.assertEqual(self.teo.send("POST", f"/batteries/{one['tag']}/claim", {}).status_code, 201)
        for text in ("zimt", "0555 7788", "zi 77"):
            self.assertIn(
                one["tag"], [row["tag"] for row in self.teo.get("/checks", params={"text": text}).json()["checks"]]
            )
        path = f"/batteries/{one['tag']}/erase-customer"
        self.assertEqual(self.teo.send("POST", path, {}).status_code, 403)
        erased = self.lead.send("POST", path, {})
        self.assertEqual(erased.status_code, 200, erased.text)
        self.assertEqual((erased.json()["customer_name"], erased.json()["customer_erased"]), ("", True))
        for battery in (one, other):
            life = self.teo.get(f"/batteries/{battery['tag']}/life").text
            self.assertNotIn("Zimt", life)
            self.assertNotIn("7788", life)
        self.assertIn("Vera Zimt", self.teo.get(f"/batteries/{stranger['tag']}").text)
        tables = [name for (name,) in self.rows("select tablename from pg_tables where schemaname = 'public'")]
        for table in tables:
            with self.subTest(table):
                found = self.rows(
                    f"select t::text from {table} t where t::text ilike '%0555 7788%' or t::text ilike '%ZI 77%' or t::text ilike '%v. zimt%'"
                )
                self.assertEqual(found, [])
        record = self.rows("select staff_id, customers, tags from erasures order by id desc limit 1")[0]
        self.assertEqual((record[0], record[2]), (self.lead.me["id"], [one["tag"], other["tag"]]))
        self.assertEqual(self.lead.send("POST", path, {}).status_code, 422, "nobody is left to erase")
        self.assertEqual(self.teo.get("/checks", params={"text": "0555 7788"}).json()["found"], 0)

    def test_no_name_stands_in_any_evidence(self) -> None:
        self.teo.send("POST", "/batteries", {**TAKE_IN, "customer_name": "Quentin Ash"})
        for table in ("take_in_entries", "claims", "readings", "judgements", "moves", "writes"):
            self.assertEqual(self.rows(f"select 1 from {table} t where t::text ilike '%quentin%'"), [], table)


class Figures(WhoMay):
    def test_a_rating_is_asked_for_on_its_own_scale(self) -> None:
        for scale, amps, cca in (("DIN", 360, 632), ("MCA", 900, 720), ("CA", 750, 600), ("CCA", 640, 640)):
            with self.subTest(scale):
                body = {**TAKE_IN, "battery": {"group_code": "48", "rating": {"amps": amps, "scale": scale}}}
                tag = self.teo.send("POST", "/batteries", body).json()["tag"]
                found = self.teo.get(f"/batteries/{tag}/match").json()
                self.assertAlmostEqual(found["requirement"]["min_cca_amps"], cca, delta=cca * 0.012)
                self.assertEqual(found["asked_as"] == "", scale == "CCA")
        requirement = {"group_code": "48", "min_cca_amps": 720.0000000001}
        found = self.teo.send("POST", "/match", {"requirement": requirement}).json()
        self.assertTrue(
            any(one["fit"] != "rejected" and one["candidate"]["cca_amps"] == 720 for one in found["matches"])
            or found["fitting"]
        )

    def test_days_are_the_store_s(self) -> None:
        for zone, moment, day in (
            ("Pacific/Tongatapu", "2026-03-01T12:00:00+00:00", "2026-03-02"), ("America/Los_Angeles", "2026-03-01T05:00:00+00:00", "2026-02-28"),
        ):  # fmt: skip
            url = database()
            with psycopg.connect(url, autocommit=True) as connection:
                connection.execute("update stores set time_zone = %s", (zone,))
            app = app_on(url)
            app.state.clock = lambda moment=moment: datetime.fromisoformat(moment)
            client = Client(app, TEO)
            self.assertEqual(client.send("POST", "/batteries", {**TAKE_IN, "sold_on": day}).status_code, 201, zone)
            later = (datetime.fromisoformat(day) + timedelta(days=1)).date().isoformat()
            self.assertEqual(client.send("POST", "/batteries", {**TAKE_IN, "sold_on": later}).status_code, 422, zone)
            standby = {**TAKE_IN, "context": {"use": "standby"}, "sold_on": day}
            tag = client.send("POST", "/batteries", standby).json()["tag"]
            for body in (reading("look"), rest(12.62), tested(300)):
                found = client.send("POST", f"/batteries/{tag}/readings", {**body, "taken_at": moment})
            self.assertEqual(
                found.json()["judgement"]["watch_until"], {"2026-03-02": "2026-06-02", "2026-02-28": "2026-05-28"}[day]
            )
            self.assertEqual(client.get(f"/batteries/{tag}/warranty").json()["answer"]["months_used"], 0)

    def test_the_shelf_is_told_what_changed_and_no_name(self) -> None:
        heard = []
        with psycopg.connect(self.url, autocommit=True) as connection:
            connection.execute("listen vane_check")
            tag = self.teo.send("POST", "/batteries", {**TAKE_IN, "customer_name": "Nobody Else"}).json()["tag"]
            self.teo.send("POST", f"/batteries/{tag}/readings", rest(12.1))
            heard = [in_english(json.loads(one.payload)) for one in connection.notifies(timeout=3, stop_after=2)]
        self.assertEqual([one["shown"]["outcome"] for one in heard], [None, "needs_charge"])
        self.assertEqual(heard[1]["shown"], next(one for one in self.teo.get("/shelf").json() if one["tag"] == tag))
        self.assertNotIn("Nobody", json.dumps(heard))
