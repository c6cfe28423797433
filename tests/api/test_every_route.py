"""What holds for every route: signed in, writes carry their token, problems are problems, one store sees one store."""

import asyncio
import json
import unittest
from datetime import UTC, datetime, timedelta
from typing import Any

from sqlalchemy import select

from tests.api.test_api import TAKE_IN, rest
from tests.english import TestClient
from tests.house import HERE, LEAD, PINS, TEO, Client, app_on, as_app, cluster, database, sessions
from vane_check.desks.sign_in import hash_pin
from vane_check.records.base import StoreSession
from vane_check.records.events import LISTENER, Announcements, announce, count_of
from vane_check.records.models import RulesVersion, Staff, Store
from vane_check.start.cluster import ADMIN

WAIT_SECONDS = 60
OPEN = {("GET", "/api/people"), ("POST", "/api/sign-in"), ("POST", "/api/sign-in/lift"), ("POST", "/api/sign-out"),
        ("GET", "/api/set-up"), ("POST", "/api/set-up"), ("GET", "/api/health"), ("GET", "/api/ready"), ("GET", "/api/metrics"),
        ("GET", "/api/languages"), ("GET", "/api/languages/{code}")}  # fmt: skip


def filled(path: str) -> str:
    return path.replace("{tag}", "173").replace("{vehicle_id}", "1")


class EveryRoute(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = database()
        cls.app = app_on(cls.url)
        cls.teo = Client(cls.app, TEO)
        cls.routes = [
            (method.upper(), path)
            for path, methods in cls.app.openapi()["paths"].items()
            for method in methods
            if (method.upper(), path) not in OPEN
        ]

    def test_there_are_as_many_as_expected(self) -> None:
        self.assertGreaterEqual(len(self.routes), 18)

    def test_none_answers_a_stranger(self) -> None:
        stranger = Client(self.app)
        stranger.http.cookies.clear()
        for method, path in self.routes:
            with self.subTest(f"{method} {path}"):
                found = stranger.http.request(method, filled(path), json={})
                self.assertEqual(found.status_code, 401)
                self.assertEqual(found.headers["content-type"], "application/problem+json")

    def test_every_answer_of_the_store_says_how_new_it_is(self) -> None:
        """Without its count an answer would never be asked for again by what is told of changes after it."""
        lead, looked_at = Client(self.app, LEAD), 0
        for method, path in self.routes:
            if method != "GET" or path in {"/api/me", "/api/events"}:  # who is signed in is told of by itself
                continue
            found = lead.http.get(filled(path))
            if found.status_code == 200 and "json" in found.headers["content-type"]:
                looked_at += 1
                with self.subTest(path):
                    self.assertGreater(int(found.headers.get("x-vane-count", 0)), 0)
        self.assertGreater(looked_at, 15)

    def test_no_write_goes_through_without_its_token(self) -> None:
        noor = Client(self.app, LEAD)
        del noor.http.headers["X-Vane-CSRF"]
        for method, path in self.routes:
            if method == "GET":
                continue
            with self.subTest(f"{method} {path}"):
                self.assertEqual(noor.http.request(method, filled(path), json={}).status_code, 403)

    def test_every_answer_says_what_the_page_may_load(self) -> None:
        for path in ("/api/me", "/api/shelf", "/api/nowhere"):
            headers = self.teo.http.get(path).headers
            self.assertIn("default-src 'self'", headers["content-security-policy"])
            self.assertEqual(headers["x-content-type-options"], "nosniff")
            self.assertEqual(headers["cache-control"], "no-store")

    def test_a_problem_has_the_parts_of_rfc_9457(self) -> None:
        found = self.teo.get("/batteries/9999").json()
        self.assertLessEqual({"type", "title", "status", "detail"}, found.keys())
        self.assertEqual((found["status"], found["title"]), (404, "Not Found"))

    def test_nonsense_is_refused_not_fallen_over(self) -> None:
        for body in ("", "[]", "null", '"x"', '{"kind": 3}', "{not json"):
            with self.subTest(body):
                found = self.teo.http.post(
                    "/api/batteries/173/readings", content=body, headers={"Content-Type": "application/json"}
                )
                self.assertEqual(found.status_code, 422)
        for tag in ("0", "-1", "99999999999999999999", "abc"):
            with self.subTest(tag):
                self.assertIn(self.teo.get(f"/batteries/{tag}").status_code, (404, 422))

    def test_unknown_fields_are_refused_wherever_something_is_written(self) -> None:
        for method, path, body in (
            ("POST", "/batteries", {**TAKE_IN, "colour": "red"}),
            ("PUT", "/batteries/173/place", {"place": "bench", "shelf": 3}),
            ("POST", "/batteries/173/readings", {**rest(), "mood": "good"}),
            ("POST", "/match", {"requirement": {"group_code": "48", "min_cca_amps": 1, "smell": 1}}),
            ("POST", "/assess", {"format": "vane-check/1", "extra": 1}),
        ):
            with self.subTest(path):
                found = self.teo.send(method, path, body)
                self.assertEqual(found.status_code, 422)
                self.assertIn("no such field", found.json()["errors"][0]["message"])


class OtherStore(unittest.TestCase):
    """A second shop in the same database sees nothing of the first, whatever it asks for."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.url = database()
        with sessions(cls.url).begin() as session:
            assert isinstance(session, StoreSession)
            first = session.scalars(select(RulesVersion), execution_options={"across_stores": True}).first()
            assert first is not None
            cls.door = session.scalars(select(Store).order_by(Store.id)).first().door  # type: ignore[union-attr]
            store = Store(name="Over the road", temperature_unit="F", length_unit="in", door="over-the-road")
            session.add(store)
            session.flush()
            session.bind_to(store.id)
            session.add_all(
                [
                    Staff(name="Rival", role="lead", pin_hash=hash_pin("999999")),
                    RulesVersion(version=first.version, reason="as delivered", body=first.body),
                ]
            )
        cls.app = app_on(cls.url)
        cls.ours = Client.__new__(Client)
        cls.ours.http = TestClient(cls.app, base_url=HERE)
        cls.ours.sign_in(TEO, PINS[TEO], door=cls.door)
        cls.rival = Client.__new__(Client)
        cls.rival.http = cls.ours.http.__class__(cls.app, base_url=HERE)
        cls.rival.sign_in("Rival", "999999", door="over-the-road")

    def test_a_stranger_learns_no_names_without_a_door(self) -> None:
        stranger = TestClient(self.app, base_url=HERE)
        for door, store in (
            ("", ""),
            ("guess", ""),
            ("over-the-road", "Over the road"),
            (self.door, "Weir Lane Batteries"),
        ):
            found = stranger.get("/api/people", params={"door": door}).json()
            self.assertEqual((found["store"], bool(found["people"])), (store, bool(store)))
        self.assertEqual([one["name"] for one in self.rival.get("/people").json()["people"]], ["Rival"])

    def test_lists_are_empty(self) -> None:
        for found in (self.rival.get("/shelf").json(), self.rival.get("/checks").json()["checks"]):
            self.assertTrue(all(one["tag"] < 50 and not one.get("line") for one in found))
        self.assertEqual(self.rival.get("/reference").json()["cars"], [])

    def test_nothing_of_the_first_is_found_or_written(self) -> None:
        for method, path, body in (
            ("GET", "/batteries/173", None),
            ("GET", "/batteries/173/life", None),
            ("GET", "/batteries/173/warranty", None),
            ("GET", "/batteries/173/match", None),
            ("GET", "/batteries/173/check-file", None),
            ("GET", "/batteries/173/slip.pdf", None),
            ("GET", "/vehicles/1/match", None),
            ("GET", "/batteries/197/sale", None),
            ("POST", "/batteries/197/sale/ticks", {"step": "negative_off"}),
            ("POST", "/match", {"tag": 173}),
            ("POST", "/match", {"vehicle_id": 1}),
            ("GET", "/goods/1", None),
            ("POST", "/goods/receive", {"item_id": 1}),
            ("POST", "/pieces/1", {"what": "volts", "volts": 12.6}),
            ("POST", "/orders", {"item_id": 1}),
            ("POST", "/orders/1/close", {"how": "dropped"}),
            ("POST", "/sales", {"item_id": 1, "volts": 12.8, "serial": "A"}),
            ("POST", "/batteries/173/readings", rest()),
            ("POST", "/batteries/173/claim", {}),
            ("PUT", "/batteries/173/place", {"place": "gone"}),
            ("PUT", "/batteries/173", {**TAKE_IN, "based_on": 1}),
            ("POST", "/batteries/173/erase-customer", {}),
        ):
            with self.subTest(path):
                self.assertEqual(self.rival.send(method, path, body).status_code, 404)

    def test_a_reading_s_name_cannot_be_used_to_reach_across(self) -> None:
        kept = self.ours.get("/batteries/173").json()["readings"][1]["reading"]
        tag = self.rival.send("POST", "/batteries", {"context": {"came_in": "returned"}}).json()["tag"]
        body = {**rest(), "replaces": kept["id"]}
        self.assertEqual(self.rival.send("POST", f"/batteries/{tag}/readings", body).status_code, 422)

    def test_a_vehicle_of_the_first_is_no_vehicle_of_the_second(self) -> None:
        found = self.rival.send("POST", "/batteries", {"context": {"came_in": "returned"}, "vehicle_id": 1})
        self.assertEqual((found.status_code, found.json()["errors"][0]["path"]), (422, "vehicle_id"))

    def test_a_change_of_one_s_rules_leaves_the_other_s(self) -> None:
        before = self.ours.get("/rules").json()["version"]
        made = self.rival.send("POST", "/rules", {"school": "load_first", "reason": "our way", "based_on": before})
        self.assertEqual(made.status_code, 201)
        self.assertEqual(self.ours.get("/rules").json()["version"], before)

    def test_tags_of_two_shops_may_be_the_same(self) -> None:
        tag = self.rival.send("POST", "/batteries", {"context": {"came_in": "returned"}}).json()["tag"]
        self.assertLess(tag, 50)
        ours, theirs = (client.get(f"/batteries/{tag}").json() for client in (self.ours, self.rival))
        self.assertNotEqual(ours["came_at"], theirs["came_at"])


class LiveUpdates(unittest.IsolatedAsyncioTestCase):
    async def asyncSetUp(self) -> None:
        self.url = database()
        self.sessions = sessions(self.url)
        self.announcements = Announcements(as_app(self.url), patience_seconds=30)
        self.listening = asyncio.create_task(self.announcements.listen())
        async with self.announcements.screen(0) as queue:
            await asyncio.wait_for(queue.get(), WAIT_SECONDS)  # what every screen is told once the listening stands

    async def asyncTearDown(self) -> None:
        self.listening.cancel()

    async def heard(self, queue: "asyncio.Queue[str | None]") -> Any:
        message = await asyncio.wait_for(queue.get(), WAIT_SECONDS)
        return json.loads(message) if message else message

    async def test_what_is_committed_is_heard_by_its_store_alone(self) -> None:
        async with self.announcements.screen(1) as ours, self.announcements.screen(2) as theirs:
            with self.sessions.begin() as session:
                announce(session, 1, "battery", 42)
            told = await self.heard(ours)
            self.assertGreater(told.pop("count"), 0)
            self.assertEqual(told, {"what": "battery", "tag": 42})
            self.assertTrue(theirs.empty())

    async def test_an_answer_and_what_is_told_carry_one_count(self) -> None:
        """What is told is in every answer of a higher count; an answer from before it has none so high."""
        teo = Client(app_on(self.url), TEO)

        def answered() -> int:
            return int(teo.get("/shelf").headers["x-vane-count"])

        async with self.announcements.screen(1) as ours:
            before = answered()
            with self.sessions.begin() as session:
                announce(session, 1, "battery", 42)
                within = await asyncio.to_thread(answered)
            told = (await self.heard(ours))["count"]
            with self.sessions.begin() as session:
                opened = count_of(session)
            after = answered()
        self.assertLessEqual(before, told)
        self.assertLessEqual(within, told, "not committed yet: it cannot be in that answer")
        self.assertGreater(after, told)
        self.assertGreater(opened, told)
        self.assertGreaterEqual(after, opened, "nothing happened since: nothing is asked for again")

    async def test_what_is_rolled_back_is_never_heard(self) -> None:
        async with self.announcements.screen(1) as ours:
            session = self.sessions()
            announce(session, 1, "battery", 7)
            session.rollback()
            with self.sessions.begin() as later:
                announce(later, 1, "battery", 8)
            self.assertEqual((await self.heard(ours))["tag"], 8)
            session.close()

    async def test_closing_tells_every_screen(self) -> None:
        async with self.announcements.screen(1) as ours:
            self.announcements.close()
            self.assertIsNone(await self.heard(ours))

    async def test_a_lost_connection_is_taken_up_again(self) -> None:
        import psycopg

        async with self.announcements.screen(1) as ours:
            with psycopg.connect(cluster().address(ADMIN, self.url.rsplit("/", 1)[1]), autocommit=True) as other:
                other.execute(
                    "select pg_terminate_backend(pid) from pg_stat_activity where application_name = %s and datname = current_database()",
                    (LISTENER,),
                )
            self.assertEqual(await asyncio.wait_for(self.heard(ours), 8), {"what": "everything"})


class Clock(unittest.TestCase):
    def test_a_reading_keeps_the_time_it_was_taken_not_the_time_it_was_sent(self) -> None:
        teo = Client(app_on(database()), TEO)
        tag = teo.send("POST", "/batteries", TAKE_IN).json()["tag"]
        earlier = datetime.now(UTC) - timedelta(hours=20)
        kept = teo.send("POST", f"/batteries/{tag}/readings", {**rest(), "taken_at": earlier.isoformat()}).json()
        entry = kept["readings"][0]
        self.assertEqual(datetime.fromisoformat(entry["reading"]["taken_at"]), earlier)
        self.assertGreater(datetime.fromisoformat(entry["kept_at"]), earlier)
        self.assertEqual(entry["reading"]["taken_by"], TEO)
