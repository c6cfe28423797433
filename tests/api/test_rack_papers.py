"""The rack tag and the reminders: read back by other libraries than the ones that wrote them."""

import re
import unittest
from datetime import UTC, date, datetime, timedelta
from io import BytesIO
from typing import Any

import vobject
from dateutil import parser as dates
from pypdf import PdfReader

from tests.api.test_dangers import entry
from tests.english import TestClient
from tests.house import HERE, LEAD, TEO, Client, app_on, database


def unfolded(text: str) -> list[str]:
    """RFC 5545, 3.1: a line is folded by a line break and a space."""
    return text.replace("\r\n ", "").split("\r\n")


def events(text: str) -> list[dict[str, str]]:
    """The events of a calendar by a reader of our own: a second pair of eyes beside the library that wrote it."""
    found: list[dict[str, str]] = []
    for line in unfolded(text):
        if line == "BEGIN:VEVENT":
            found.append({})
        elif found and ":" in line and not line.startswith("END"):
            name, _, value = line.partition(":")
            found[-1].setdefault(name.partition(";")[0], value)
    return found


class Papers(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.app = app_on(database())
        cls.lead, cls.counter = Client(cls.app, LEAD), Client(cls.app, TEO)

    def words(self, tag: int, size: str = "rack") -> tuple[str, Any]:
        answer = self.counter.get(f"/batteries/{tag}/rack-tag.pdf?size={size}")
        self.assertEqual((answer.status_code, answer.headers["content-type"]), (200, "application/pdf"))
        page = PdfReader(BytesIO(answer.content)).pages[0]
        return page.extract_text(), page.mediabox

    def test_a_rack_tag_says_what_to_set_and_when_it_is_due(self) -> None:
        words, box = self.words(176)
        self.assertIn("176", words)
        self.assertRegex(words, r"Set 14\.7 V, 5\.9 A, \d+ h on Charger 2")
        self.assertRegex(words, r"Off charge \w{3} \d{2} \w{3} \d{2}:\d{2}")
        self.assertIn("not on charge", words)
        self.assertEqual((round(box.width / 72 * 25.4), round(box.height / 72 * 25.4)), (148, 105))

    def test_a_label_printers_tag_is_small_and_says_the_same(self) -> None:
        words, box = self.words(176, "label")
        self.assertRegex(words, r"Set \d+\.\d V")
        self.assertEqual((round(box.width / 72 * 25.4), round(box.height / 72 * 25.4)), (89, 36))
        self.assertEqual(self.counter.get("/batteries/176/rack-tag.pdf?size=poster").status_code, 422)

    def test_a_dangerous_one_is_not_told_what_to_set(self) -> None:
        words, _ = self.words(183)
        self.assertIn("NOT ON CHARGE: hold it apart", words)
        self.assertNotIn("Set ", words)
        self.assertEqual(self.counter.get("/batteries/999999/rack-tag.pdf").status_code, 404)

    def test_a_watched_battery_has_a_day_of_its_own(self) -> None:
        answer = self.counter.get("/batteries/185/retest.ics")
        self.assertEqual(answer.headers["content-type"], "text/calendar; charset=utf-8")
        [event] = events(answer.text)
        until = self.counter.get("/batteries/185").json()["judgement"]["watch_until"]
        self.assertEqual(dates.parse(event["DTSTART"]).date(), date.fromisoformat(until))
        self.assertEqual(event["SUMMARY"], "Test battery 185 again")
        self.assertTrue(event["URL"].endswith("/check/185"))
        self.assertEqual(self.counter.get("/batteries/181/retest.ics").status_code, 404)

    def test_lines_are_folded_and_ended_as_the_standard_asks(self) -> None:
        """RFC 5545, 3.1: lines end with CR LF and are at most 75 octets long."""
        raw = self.counter.get("/batteries/185/retest.ics").content
        self.assertTrue(raw.startswith(b"BEGIN:VCALENDAR\r\n") and raw.endswith(b"END:VCALENDAR\r\n"))
        self.assertNotIn(b"\n", raw.replace(b"\r\n", b""))
        self.assertLessEqual(max(map(len, raw.split(b"\r\n"))), 75)


class Feed(unittest.TestCase):
    def setUp(self) -> None:
        self.app = app_on(database())
        self.lead, self.counter = Client(self.app, LEAD), Client(self.app, TEO)

    def path(self) -> str:
        address = self.lead.get("/calendar").json()["address"]
        return re.sub(r"^https?://[^/]+/api", "", address)

    def read(self, path: str) -> Any:
        """As somebody who never signed in."""
        return TestClient(self.app, base_url=HERE).get(f"/api{path}")

    def test_whoever_knows_the_address_reads_what_is_due_and_nobody_else(self) -> None:
        found = self.read(self.path())
        self.assertEqual(found.status_code, 200)
        told = events(found.text)
        titles = [event["SUMMARY"] for event in told]
        self.assertIn("176: take it off charge", titles)
        self.assertIn("Test battery 185 again", titles)
        self.assertEqual(len({event["UID"] for event in told}), len(told))
        due = datetime.fromisoformat(self.counter.get("/batteries/176").json()["needs_hand_at"]).astimezone(UTC)
        of_176 = next(event for event in told if event["SUMMARY"].startswith("176:"))
        self.assertEqual(of_176["DTSTART"], f"{due:%Y%m%dT%H%M%SZ}")
        self.assertEqual(dates.parse(of_176["DTEND"]) - dates.parse(of_176["DTSTART"]), timedelta(minutes=15))
        self.assertEqual(self.read("/calendars/aaaaaaaaaaaaaaaaaaaaaaaa.ics").status_code, 401)

    def test_a_second_library_reads_the_same_out_of_file_and_feed(self) -> None:
        """Read by vobject 0.9.9 (written by icalendar): RFC 5545 as two libraries understand it."""
        file = vobject.readOne(self.counter.get("/batteries/185/retest.ics").text)
        feed = vobject.readOne(self.read(self.path()).text)
        (only,) = file.vevent_list
        self.assertEqual(only.summary.value, "Test battery 185 again")
        self.assertIsInstance(only.dtstart.value, date)
        self.assertEqual(only.dtend.value - only.dtstart.value, timedelta(days=1))
        again = next(one for one in feed.vevent_list if one.uid.value == only.uid.value)
        self.assertEqual((again.dtstart.value, again.summary.value), (only.dtstart.value, only.summary.value))
        due = self.counter.get("/batteries/176").json()["needs_hand_at"]
        off = next(one for one in feed.vevent_list if one.summary.value.startswith("176: "))
        self.assertEqual(off.dtstart.value.replace(tzinfo=UTC), datetime.fromisoformat(due).replace(microsecond=0))

    def test_a_new_address_closes_the_old_one_and_only_a_lead_may(self) -> None:
        before = self.path()
        self.assertEqual(self.counter.get("/calendar").status_code, 403)
        self.assertEqual(self.counter.send("POST", "/calendar", {}).status_code, 403)
        renewed = self.lead.send("POST", "/calendar", {})
        self.assertEqual(renewed.status_code, 201)
        self.assertNotEqual(self.path(), before)
        self.assertEqual(self.read(before).status_code, 401)
        self.assertEqual(self.read(self.path()).status_code, 200)

    def test_a_battery_tested_again_and_sound_leaves_the_feed(self) -> None:
        for body in (
            entry("rest_volts", volts=12.9, settled="headlamps"),
            entry("electronic_tester", measured_cca_amps=800, type_set="agm_spiral"),
        ):
            self.assertEqual(self.counter.send("POST", "/batteries/185/readings", body).status_code, 201)
        self.assertEqual(self.counter.get("/batteries/185").json()["judgement"]["outcome"], "sound")
        self.assertNotIn("Test battery 185 again", [event["SUMMARY"] for event in events(self.read(self.path()).text)])
