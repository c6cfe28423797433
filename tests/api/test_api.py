import unittest
import uuid
from datetime import UTC, datetime, timedelta
from io import BytesIO
from pathlib import Path
from typing import Any
from unittest.mock import patch

from pypdf import PdfReader

from tests.house import LEAD, NOOR, TEO, Client, app_on, database
from vane_check.api.currencies import currencies_text
from vane_check.api.methods import methods_text
from vane_check.api.schema import schema_text
from vane_check.desks import check
from vane_check.languages import for_pages

FRONT = Path(__file__).parents[2] / "front"


def reading(kind: str, **body: Any) -> dict[str, Any]:
    return {"id": str(uuid.uuid4()), "kind": kind, "taken_at": datetime.now(UTC).isoformat(), **body}


def rest(volts: float = 12.64, **more: Any) -> dict[str, Any]:
    return reading("rest_volts", volts=volts, **more)


def tested(cca: float, **more: Any) -> dict[str, Any]:
    return reading("electronic_tester", measured_cca_amps=cca, type_set="flooded", **more)


TAKE_IN = {
    "battery": {"line": "Merlow Plain", "rating": {"amps": 640}, "group_code": "48", "serial": "S1"},
    "context": {"came_in": "carried_in", "complaint": "slow_crank"},
    "sold_on": (datetime.now(UTC) - timedelta(days=100)).date().isoformat(),
    "customer_name": "A. Tester",
}


class Api(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.app = app_on(database())
        cls.teo = Client(cls.app, TEO)

    def taken_in(self, **more: Any) -> int:
        found = self.teo.send("POST", "/batteries", {**TAKE_IN, **more})
        self.assertEqual(found.status_code, 201, found.text)
        return int(found.json()["tag"])

    def keep(self, tag: int, body: dict[str, Any], status: int = 201) -> Any:
        found = self.teo.send("POST", f"/batteries/{tag}/readings", body)
        self.assertEqual(found.status_code, status, found.text)
        return found.json()


class FromCounterToSlip(Api):
    def test_one_battery_end_to_end(self) -> None:
        tag = self.taken_in()
        self.assertIn(tag, [found["tag"] for found in self.teo.get("/shelf").json()])
        self.assertEqual(self.teo.get(f"/batteries/{tag}").json()["judgement"]["next_step"]["key"], "look")
        looked = self.keep(tag, reading("look"))
        self.assertEqual(looked["judgement"]["next_step"]["key"], "measure_volts")
        self.keep(tag, rest())
        seen = self.keep(tag, tested(330))
        self.assertEqual((seen["judgement"]["outcome"], len(seen["readings"])), ("worn_out", 3))
        given = self.teo.get(f"/batteries/{tag}/warranty").json()
        self.assertEqual(given["answer"]["decision"], "free")
        matched = self.teo.get(f"/batteries/{tag}/match").json()
        best = matched["matches"][0]
        self.assertEqual((best["fit"], best["candidate"]["group_code"]), ("exact", "48"))
        self.assertTrue(all(one["points"] for one in matched["matches"]))
        priced = self.teo.get(
            f"/batteries/{tag}/warranty", params={"replacement_id": best["candidate"]["item_id"]}
        ).json()
        self.assertEqual(
            priced["answer"]["pays_cents"], max(priced["replacement_cents"] - priced["answer"]["credit_cents"], 0)
        )
        written = self.teo.send("POST", f"/batteries/{tag}/claim", {"replacement_id": best["candidate"]["item_id"]})
        self.assertEqual((written.status_code, written.json()["claimed"]), (201, True))
        self.assertEqual(self.teo.send("POST", f"/batteries/{tag}/claim", {}).status_code, 409)
        paper = self.teo.get(f"/batteries/{tag}/slip.pdf")
        pages = PdfReader(BytesIO(paper.content)).pages
        words = " ".join(pages[0].extract_text().split())
        self.assertEqual(len(pages), 1)
        for said in (
            f"Tag {tag}",
            "Worn out",
            "12.64 V",
            "330 CCA",
            "house rules 2026.1",
            "Take care",
            "A. Tester",
            "What to do",
        ):
            self.assertIn(said, words)

    def test_a_second_battery_with_a_claimed_serial_is_refused(self) -> None:
        for expected in ("free", "excluded"):
            tag = self.taken_in(battery={**TAKE_IN["battery"], "serial": "TWICE"})
            self.keep(tag, rest())
            self.keep(tag, tested(330))
            self.assertEqual(self.teo.get(f"/batteries/{tag}/warranty").json()["answer"]["decision"], expected)
            status = self.teo.send("POST", f"/batteries/{tag}/claim", {}).status_code
            self.assertEqual(status, 201 if expected == "free" else 409)

    def test_the_check_file_gives_the_same_judgement_when_sent_back(self) -> None:
        body = self.teo.get("/batteries/173/check-file").json()
        self.assertEqual(self.teo.send("POST", "/assess", body).json()["outcome"], "worn_out")
        before = len(self.teo.get("/batteries/173").json()["readings"])
        self.assertEqual(len(self.teo.get("/batteries/173").json()["readings"]), before)

    def test_label_correction_judges_again_and_keeps_the_first(self) -> None:
        tag = self.taken_in()
        for body in (reading("look"), rest(), tested(330)):
            self.keep(tag, body)
        right = {**TAKE_IN, "battery": {**TAKE_IN["battery"], "rating": {"amps": 340}}}
        based_on = self.teo.get(f"/batteries/{tag}").json()["take_in_id"]
        seen = self.teo.send("PUT", f"/batteries/{tag}", {**right, "based_on": based_on}).json()
        self.assertEqual(seen["judgement"]["outcome"], "sound")
        life = self.teo.get(f"/batteries/{tag}/life").json()
        self.assertEqual([one["take_in"]["battery"]["rating"]["amps"] for one in life["take_ins"]], [640, 340])

    def test_moves_are_kept(self) -> None:
        tag = self.taken_in()
        seen = self.teo.send(
            "PUT", f"/batteries/{tag}/place", {"place": "on_charge", "needs_hand_at": "2026-12-01T10:00:00Z"}
        )
        self.assertEqual(seen.json()["place"], "on_charge")
        self.assertEqual(
            [stay["place"] for stay in self.teo.get(f"/batteries/{tag}/life").json()["stays"]], ["counter", "on_charge"]
        )

    def test_past_checks_are_found_by_line_and_tag(self) -> None:
        self.assertEqual(
            [one["tag"] for one in self.teo.get("/checks", params={"text": "173"}).json()["checks"]], [173]
        )
        lines = {
            one["battery"]["line"] for one in self.teo.get("/checks", params={"text": "quellan mat"}).json()["checks"]
        }
        self.assertEqual(lines, {"Quellan Mat"})


class Readings(Api):
    def test_sent_twice_it_is_kept_once(self) -> None:
        tag, body = self.taken_in(), rest()
        self.keep(tag, body)
        self.assertEqual(len(self.keep(tag, body)["readings"]), 1)

    def test_a_correction_is_a_new_entry_and_the_old_one_stays_readable(self) -> None:
        tag, slip = self.taken_in(), rest(11.26)
        self.keep(tag, slip)
        seen = self.keep(tag, rest(12.61, replaces=slip["id"]))
        self.assertEqual(
            [(one["reading"]["volts"], one["corrected"]) for one in seen["readings"]], [(11.26, True), (12.61, False)]
        )
        self.keep(tag, rest(12.5, replaces=slip["id"]), status=409)
        self.keep(tag, rest(12.5, replaces=str(uuid.uuid4())), status=422)

    def test_wrong_values_name_the_field(self) -> None:
        tag = self.taken_in()
        self.assertEqual(self.keep(tag, rest(26), status=422)["errors"][0]["path"], "volts")
        hot = self.keep(tag, rest(temperature_c=75), status=422)
        self.assertEqual(hot["errors"][0]["path"], "temperature_c")
        self.assertIn("Fahrenheit", hot["errors"][0]["message"])
        later = (datetime.now(UTC) + timedelta(hours=2)).isoformat()
        self.assertEqual(self.keep(tag, {**rest(), "taken_at": later}, status=422)["errors"][0]["path"], "taken_at")
        self.assertEqual(self.keep(tag, {**rest(), "id": "x"}, status=422)["errors"][0]["path"], "id")
        refused = self.teo.send("POST", "/batteries", {**TAKE_IN, "battery": {"rating": {"amps": 600, "scale": "JIS"}}})
        self.assertEqual(refused.headers["content-type"], "application/problem+json")
        self.assertEqual(refused.json()["errors"][0]["path"], "battery.rating.scale")
        future = self.teo.send("POST", "/batteries", {**TAKE_IN, "sold_on": "2100-01-01"})
        self.assertEqual(future.json()["errors"][0]["path"], "sold_on")

    def test_assess_refuses_with_the_path_of_the_field(self) -> None:
        found = self.teo.send("POST", "/assess", {"format": "vane-check/1", "readings": [rest(26)]})
        self.assertEqual((found.status_code, found.json()["errors"][0]["path"]), (422, "readings[0].volts"))

    def test_a_file_as_long_as_a_visit_may_be_is_judged_and_a_longer_one_refused(self) -> None:
        body = self.teo.get("/batteries/173/check-file").json()
        one = next(found for found in body["readings"] if found["kind"] == "rest_volts")
        for more, status in ((900, 200), (1001, 422)):
            many = [{**one, "id": f"more-{at}"} for at in range(more - len(body["readings"]))]
            found = self.teo.send("POST", "/assess", {**body, "readings": [*body["readings"], *many]})
            self.assertEqual(found.status_code, status)
        self.assertEqual(found.json()["errors"][0]["path"], "readings")

    def test_a_visit_of_a_thousand_entries_takes_no_more(self) -> None:
        tag = self.taken_in()
        self.keep(tag, rest())
        limits = {**check.entry_limits(), "check_readings": check.entry_limits()["check_readings"]._replace(high=1)}
        with patch.object(check, "entry_limits", return_value=limits):
            self.assertIn("take the battery in anew", self.keep(tag, rest(), status=422)["errors"][0]["message"])

    def test_unknown_things_are_not_there(self) -> None:
        for path in ("/batteries/9999", "/batteries/9999/warranty", "/vehicles/9999/match", "/nowhere"):
            self.assertEqual(self.teo.get(path).status_code, 404, path)


class SigningIn(Api):
    def test_nothing_without_a_session_and_no_write_without_its_token(self) -> None:
        stranger = Client(self.app)
        stranger.http.cookies.clear()
        for path in ("/me", "/shelf", "/reference", "/batteries/173", "/batteries/173/slip.pdf", "/events"):
            self.assertEqual(stranger.get(path).status_code, 401, path)
        noor = Client(self.app, NOOR)
        del noor.http.headers["X-Vane-CSRF"]
        self.assertEqual(noor.send("POST", "/batteries", TAKE_IN).status_code, 403)
        noor.http.headers["X-Vane-CSRF"] = noor.me["csrf_token"]
        other = noor.send("POST", "/batteries", TAKE_IN, headers={"Origin": "http://elsewhere.example"})
        self.assertEqual(other.status_code, 403)

    def test_the_cookie_is_out_of_reach_of_scripts_and_other_sites(self) -> None:
        person = self.teo.me["id"]
        found = self.teo.http.post("/api/sign-in", json={"staff_id": person, "pin": "271828"})
        cookie = found.headers["set-cookie"].lower()
        self.assertIn("httponly", cookie)
        self.assertIn("samesite=strict", cookie)

    def test_signing_out_ends_the_session(self) -> None:
        noor = Client(self.app, NOOR)
        token = noor.http.cookies["vane_session"]
        self.assertEqual(noor.send("POST", "/sign-out", None).status_code, 204)
        noor.http.cookies.set("vane_session", token)
        self.assertEqual(noor.get("/me").status_code, 401)

    def test_wrong_tries_are_slowed_then_locked_for_a_while(self) -> None:
        app = app_on(database())
        clock = datetime.now(UTC)
        app.state.clock = lambda: clock
        client = Client(app, LEAD)

        def attempt(pin: str) -> Any:
            return client.http.post("/api/sign-in", json={"staff_id": client.me["id"], "pin": pin})

        waits = []
        for _ in range(12):
            waits.append(attempt("000000").json()["wait_seconds"] or 0)
            clock += timedelta(seconds=waits[-1])
        self.assertEqual(waits, [0, 0, 2, 4, 8, 16, 32, 64, 128, 256, 300, 300])
        clock -= timedelta(seconds=10)
        self.assertEqual(attempt("314159").status_code, 429, "even the right PIN waits")
        clock += timedelta(seconds=10)
        self.assertEqual(attempt("314159").status_code, 200)

    def test_an_idle_session_is_over(self) -> None:
        app = app_on(database())
        clock = datetime.now(UTC)
        app.state.clock = lambda: clock
        client = Client(app)
        clock += timedelta(minutes=9)
        self.assertEqual(client.get("/me").status_code, 200)
        clock += timedelta(minutes=9)
        self.assertEqual(client.get("/me").status_code, 200)
        clock += timedelta(minutes=11)
        self.assertEqual(client.get("/me").status_code, 401)


class Generated(unittest.TestCase):
    def test_the_client_s_schema_is_current(self) -> None:
        self.assertEqual((FRONT / "openapi.json").read_text(), schema_text(), "run bin/client")

    def test_english_of_the_core_and_of_the_pages_is_that_of_its_file(self) -> None:
        pages = (FRONT / "src" / "language" / "english.ts").read_text("utf-8")
        core = (FRONT.parent / "vane_check" / "core" / "english.json").read_text("utf-8")
        self.assertEqual(
            (pages == for_pages.for_pages(), core == for_pages.for_the_core()), (True, True), "run bin/client"
        )

    def test_the_methods_of_the_screens_are_those_of_the_core(self) -> None:
        self.assertEqual((FRONT / "src" / "api" / "methods.ts").read_text(), methods_text(), "run bin/client")
        self.assertEqual((FRONT / "src" / "api" / "currencies.ts").read_text(), currencies_text(), "run bin/client")
