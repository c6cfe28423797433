"""At the door: wrong PINs and how long they wait, whose word is taken, and how a session ends."""

import os
import unittest
import uuid
from datetime import UTC, datetime, timedelta
from typing import Any
from unittest import mock

import httpx
from sqlalchemy.exc import OperationalError

from tests.english import TestClient
from tests.house import HERE, LEAD, NOOR, OWNER_NAME, PINS, TEO, Client, app_on, database, served
from vane_check.records.models import SignInTry


class Door(unittest.TestCase):
    def setUp(self) -> None:
        self.clock = datetime.now(UTC)
        self.own = app_on(database())
        self.own.state.clock = lambda: self.clock

    def at(self, address: str) -> TestClient:
        return TestClient(self.own, base_url=HERE, client=(address, 5000))

    def person(self, name: str) -> int:
        people = self.at("10.0.0.1").get("/api/people").json()["people"]
        return int(next(one["id"] for one in people if one["name"] == name))

    def attempt(self, http: TestClient, name: str, pin: str = "000000") -> Any:
        return http.post("/api/sign-in", json={"staff_id": self.person(name), "pin": pin})

    def test_waiting_is_of_a_person_at_an_address_and_a_lead_lifts_it_there(self) -> None:
        here, there = self.at("10.0.0.5"), self.at("10.0.0.6")
        for _ in range(5):
            self.clock += timedelta(seconds=self.attempt(here, TEO).json()["wait_seconds"] or 0)
        self.attempt(here, TEO)
        self.assertEqual(self.attempt(here, TEO, PINS[TEO]).status_code, 429)
        self.assertEqual(self.attempt(there, TEO, PINS[TEO]).status_code, 200, "another counter is not shut")
        self.assertEqual(self.attempt(here, NOOR, PINS[NOOR]).status_code, 200, "nor another person at this one")
        self.attempt(here, TEO)
        body = {"staff_id": self.person(TEO), "lead_id": self.person(LEAD), "lead_pin": PINS[TEO]}
        self.assertEqual(here.post("/api/sign-in/lift", json=body).status_code, 401)
        body = {"staff_id": self.person(TEO), "lead_id": self.person(NOOR), "lead_pin": PINS[NOOR]}
        self.assertEqual(here.post("/api/sign-in/lift", json=body).status_code, 401, "no lead")
        body = {"staff_id": self.person(TEO), "lead_id": self.person(LEAD), "lead_pin": PINS[LEAD]}
        self.assertEqual(here.post("/api/sign-in/lift", json=body).status_code, 204)
        self.assertEqual(self.attempt(here, TEO, PINS[TEO]).status_code, 200)

    def test_guessing_through_the_names_from_one_address_is_slowed_too(self) -> None:
        here, waits = self.at("10.0.0.7"), []
        for number in range(14):
            found = self.attempt(here, (TEO, NOOR, LEAD)[number % 3])
            waits.append(found.json()["wait_seconds"] or 0)
            self.clock += timedelta(seconds=waits[-1])
        self.assertEqual(waits[:6], [0] * 6)
        self.assertGreater(waits[-1], 0)

    def test_tries_at_the_same_moment_count_each(self) -> None:
        from concurrent.futures import ThreadPoolExecutor

        here = self.at("10.0.0.8")
        with ThreadPoolExecutor(6) as pool:
            found = list(pool.map(lambda _: self.attempt(here, TEO).status_code, range(6)))
        self.assertLessEqual(found.count(401), 3)
        self.assertGreaterEqual(found.count(429), 3)

    def test_nobody_and_somebody_with_another_pin_are_answered_the_same(self) -> None:
        somebody, nobody = self.at("10.0.0.9"), self.at("10.0.0.10")
        one = self.attempt(somebody, TEO)
        other = nobody.post("/api/sign-in", json={"staff_id": 999_999, "pin": "000000"})
        self.assertEqual((one.status_code, one.json()), (other.status_code, other.json()))
        body = {"staff_id": self.person(TEO), "lead_id": 999_999, "lead_pin": "000000"}
        wrong = {**body, "lead_id": self.person(NOOR), "lead_pin": PINS[NOOR]}
        self.assertEqual(*(self.at("10.0.0.11").post("/api/sign-in/lift", json=each).json() for each in (body, wrong)))

    def test_an_owner_s_waiting_is_lifted_by_an_owner_alone(self) -> None:
        here = self.at("10.0.0.12")
        for _ in range(5):
            self.clock += timedelta(seconds=self.attempt(here, OWNER_NAME).json()["wait_seconds"] or 0)
        self.attempt(here, OWNER_NAME)
        body = {"staff_id": self.person(OWNER_NAME), "lead_id": self.person(LEAD), "lead_pin": PINS[LEAD]}
        self.assertEqual(here.post("/api/sign-in/lift", json=body).status_code, 401)
        self.assertEqual(self.attempt(here, OWNER_NAME, PINS[OWNER_NAME]).status_code, 429)
        lead = Client(self.own, LEAD)
        self.assertEqual(lead.send("POST", f"/house/people/{self.person(OWNER_NAME)}/unlock", {}).status_code, 403)
        body |= {"lead_id": self.person(OWNER_NAME), "lead_pin": PINS[OWNER_NAME]}
        self.assertEqual(self.at("10.0.0.13").post("/api/sign-in/lift", json=body).status_code, 204)

    def test_the_right_pin_as_the_database_goes_away_is_no_wrong_try(self) -> None:
        here = self.at("10.0.0.14")
        opened = SignInTry.__init__

        def dies(row: SignInTry, **said: Any) -> None:
            if said.get("kind") == "right" and dying:
                raise OperationalError("insert", {}, Exception("terminating connection"))
            opened(row, **said)

        dying = True
        with mock.patch.object(SignInTry, "__init__", dies):
            for _ in range(8):
                dying = True
                self.assertGreaterEqual(self.attempt(here, TEO, PINS[TEO]).status_code, 500)
                dying = False
                dying = True
                lift = {"staff_id": self.person(NOOR), "lead_id": self.person(LEAD), "lead_pin": PINS[LEAD]}
                self.assertGreaterEqual(here.post("/api/sign-in/lift", json=lift).status_code, 500)
                dying = False
        self.assertEqual(here.post("/api/sign-in/lift", json=lift).status_code, 204)
        self.assertEqual(self.attempt(here, TEO).json()["wait_seconds"], None)  # two wrong ones are free, as ever
        self.assertEqual(self.attempt(here, TEO, PINS[TEO]).status_code, 200)

    def test_signing_in_again_ends_the_session_before(self) -> None:
        here = self.at("10.0.0.15")
        self.assertEqual(self.attempt(here, TEO, PINS[TEO]).status_code, 200)
        before = here.cookies["vane_session"]
        self.assertEqual(self.attempt(here, NOOR, PINS[NOOR]).status_code, 200)
        self.assertEqual(here.get("/api/me").json()["name"], NOOR)
        self.assertEqual(
            self.at("10.0.0.15").get("/api/me", headers={"Cookie": f"vane_session={before}"}).status_code, 401
        )

    def test_a_second_pin_under_the_name_of_a_write_that_was_made_is_a_conflict(self) -> None:
        lead, name = Client(self.own, LEAD), str(uuid.uuid4())
        body = {"name": "Ada Quist", "role": "counter", "works_here": True, "pin": "482913"}

        def send(pin: str) -> int:
            headers = {"Idempotency-Key": name}
            return int(lead.send("POST", "/house/people", {**body, "pin": pin}, headers=headers).status_code)

        self.assertEqual([send(pin) for pin in ("482913", "482913", "739152", "482913")], [201, 201, 409, 201])

    def test_nobody_s_word_on_where_a_request_comes_from_is_taken_unless_they_are_named(self) -> None:
        url = database()
        for trusted, waits in (("", True), ("127.0.0.1", False)):
            with self.subTest(trusted), mock.patch.dict(os.environ, {"VANE_PROXIES": trusted}), served(url) as base:
                people = httpx.get(f"{base}/api/people").json()["people"]
                person = next(one["id"] for one in people if one["name"] == (TEO if waits else NOOR))
                found = [
                    httpx.post(
                        f"{base}/api/sign-in",
                        json={"staff_id": person, "pin": "000000"},
                        headers={"X-Forwarded-For": f"198.51.100.{number}"},  # for documentation: RFC 5737
                    ).status_code
                    for number in range(6)
                ]
                self.assertEqual(429 in found, waits)

    def test_a_session_ends_after_its_hours_however_busy(self) -> None:
        client = Client(self.own, TEO)
        for _ in range(12 * 8 - 1):
            self.clock += timedelta(minutes=7.5)
            self.assertEqual(client.get("/me").status_code, 200)
        self.clock += timedelta(minutes=8)
        self.assertEqual(client.get("/me").status_code, 401)

    def test_signing_out_needs_nothing_and_always_answers(self) -> None:
        client = Client(self.own, TEO)
        token = client.http.cookies["vane_session"]
        del client.http.headers["X-Vane-CSRF"]
        self.assertEqual(client.http.post("/api/sign-out").status_code, 204)
        client.http.cookies.set("vane_session", token)
        self.assertEqual(client.get("/me").status_code, 401)
        for cookie in (token, "nonsense", ""):
            client.http.cookies.set("vane_session", cookie)
            self.assertEqual(client.http.post("/api/sign-out").status_code, 204)
