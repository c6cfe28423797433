"""The rack over the API: clamp on, note, take off, promise, set by hand; two at once, two servers, while the server was down."""

import unittest
import uuid
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta
from typing import Any
from unittest.mock import patch

import psycopg
from sqlalchemy import event

from tests.api.test_dangers import entry
from tests.house import LEAD, NOOR, TEO, Client, app_on, database
from vane_check.desks.rack import in_order
from vane_check.desks.rack_slots import span_words

ALWAYS = {"days": [{"opens": "00:00", "closes": "23:59"}] * 7}


def figures(**more: Any) -> dict[str, Any]:
    return {"reading_id": str(uuid.uuid4()), **more}


class AtTheRack(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = database()
        cls.app = app_on(cls.url)

    def setUp(self) -> None:
        self.tidied()
        self.clock = datetime.now(UTC)
        self.app.state.clock = lambda: self.clock
        self.lead, self.teo = Client(self.app, LEAD), Client(self.app, TEO)
        self.assertEqual(self.lead.send("PUT", "/rack/hours", ALWAYS).status_code, 200)
        self.book = {one["equipment"]["name"]: one for one in self.teo.get("/equipment").json()}

    def tidied(self) -> None:
        """What earlier tests took in is gone, and hangs on nothing."""
        with psycopg.connect(self.url, autocommit=True) as connection:
            ours = "select id from batteries where tag > 197"
            connection.execute(
                f"update rack_stays set off_at = now(), how = 'moved' where off_at is null and battery_id in ({ours})"
            )
            connection.execute(f"update batteries set place = 'gone', needs_hand_at = null where id in ({ours})")

    def later(self, **more: float) -> None:
        """Time goes on; whoever stood idle signs in again."""
        self.clock += timedelta(**more)
        self.lead, self.teo = Client(self.app, LEAD), Client(self.app, TEO)

    def rack(self, client: Client | None = None) -> dict[str, Any]:
        found = (client or self.teo).get("/rack")
        self.assertEqual(found.status_code, 200, found.text)
        seen: dict[str, Any] = found.json()
        return seen

    def charger(self, name: str) -> int:
        return int(self.book[name]["id"])

    def slot(self, tag: int, rack: dict[str, Any] | None = None) -> dict[str, Any]:
        return next(one for one in (rack or self.rack())["slots"] if one["tag"] == tag)

    def flat(self, value: float = 11.9, **more: Any) -> int:
        body = {"battery": {"rating": {"amps": 600}, "capacity_ah_20h": 60}, "context": {}, **more}
        tag = int(self.teo.send("POST", "/batteries", body).json()["tag"])
        for reading in (entry("look", marks=[]), entry("rest_volts", volts=value)):
            reading["taken_at"] = self.clock.isoformat()
            self.assertEqual(self.teo.send("POST", f"/batteries/{tag}/readings", reading).status_code, 201)
        return tag

    def on(self, tag: int, name: str = "Charger 1", output: int = 1, **more: Any) -> Any:
        return self.teo.send(
            "POST", f"/batteries/{tag}/charge", figures(charger_id=self.charger(name), output=output, **more)
        )


class Work(AtTheRack):
    def test_clamped_on_noted_and_taken_off(self) -> None:
        tag = self.flat()
        done = self.on(tag, amps=6.0, volts=13.0)
        self.assertEqual(done.status_code, 201, done.text)
        slot = self.slot(tag, done.json())
        self.assertTrue(slot["hangs"])
        # 60 Ah: a tenth of it, 6 A, whatever the charger gives
        self.assertEqual((slot["volts"], slot["amps"], slot["mode"]), (14.7, 6, "wet"))
        view = self.teo.get(f"/batteries/{tag}").json()
        self.assertEqual((view["place"], view["stay"]["charger"]), ("on_charge", "Charger 1"))
        first = datetime.fromisoformat(slot["ends_at"])
        self.later(hours=4)
        noted = self.teo.send("POST", f"/batteries/{tag}/charge/note", figures(amps=6, volts=14.0))
        self.assertEqual(noted.status_code, 201, noted.text)
        # 6 A for four hours are 24 Ah, of which 21.6 stay: it is done when it was foreseen, within half an hour
        again = datetime.fromisoformat(self.slot(tag, noted.json())["ends_at"])
        self.assertLess(abs(again - first), timedelta(minutes=45))
        self.later(hours=7)
        off = self.teo.send("POST", f"/batteries/{tag}/charge/off", figures(how="full", amps=0.5, volts=14.6))
        self.assertEqual(off.status_code, 201, off.text)
        view = self.teo.get(f"/batteries/{tag}").json()
        self.assertEqual((view["place"], view["stay"]), ("standing", None))
        # a quarter of an hour by the school of headlamps
        self.assertEqual(datetime.fromisoformat(view["needs_hand_at"]), self.clock + timedelta(minutes=15))
        last = view["readings"][-1]["reading"]
        self.assertEqual((last["finished"], last["start_amps"], last["hours"], len(last["log"])), (True, 6, 11, 2))
        self.assertIn(tag, self.rack()["resting"])

    def test_full_or_stopped_at_the_check_desk_takes_it_off_everywhere(self) -> None:
        for more, place in (({"finished": True}, "standing"), ({"stopped": True}, "bench")):
            with self.subTest(place):
                tag = self.flat()
                self.assertEqual(self.on(tag, amps=6.0, volts=13.0).status_code, 201)
                self.later(hours=9)
                reading = entry("charge_run", amps=0.5, volts=14.6, hours=9, **more)
                reading["taken_at"] = self.clock.isoformat()
                kept = self.teo.send("POST", f"/batteries/{tag}/readings", reading)
                self.assertEqual(kept.status_code, 201, kept.text)
                view = self.teo.get(f"/batteries/{tag}").json()
                self.assertEqual((view["place"], view["stay"]), (place, None))
                self.assertNotIn(tag, [slot["tag"] for slot in self.rack()["slots"] if slot["hangs"]])

    def test_one_whose_ah_nobody_knows_goes_on_at_few_amps_and_is_looked_at_in_an_hour(self) -> None:
        tag = self.flat(battery={})
        self.assertEqual(self.on(tag).status_code, 201)
        view = self.teo.get(f"/batteries/{tag}").json()
        self.assertEqual((view["stay"]["amps"], view["limits"]["plan"]["ah_assumed"]), (2, True))
        self.assertEqual(datetime.fromisoformat(view["needs_hand_at"]), self.clock + timedelta(hours=1))

    def test_check_rack_and_tag_say_one_volts_one_amps_one_time(self) -> None:
        """The book's chargers hold 14.7 or 14.6 V where the type at its warmth would have 14.55 to 14.85."""
        slots = [slot for slot in self.rack()["slots"] if slot["tag"] < 198]
        self.assertEqual({slot["hangs"] for slot in slots}, {True, False})
        for slot in slots:
            with self.subTest(slot["tag"], hangs=slot["hangs"]):
                view = self.teo.get(f"/batteries/{slot['tag']}").json()
                plan = view["limits"]["plan"]
                self.assertEqual((plan["volts"], plan["amps"]), (slot["volts"], slot["amps"]))
                self.assertAlmostEqual(plan["hours"], slot["hours"], delta=0.1)
                self.assertEqual(view["planned"] is None, slot["hangs"])

    def test_a_charger_that_would_suit_it_and_is_out_of_order_is_named(self) -> None:
        six = {"nominal_volts": 6, "capacity_ah_20h": 70, "rating": {"amps": 600}}
        tag = self.flat(5.95, battery=six)
        book = self.lead.get("/equipment").json()
        mode = {"name": "six", "volts": 7.3, "chemistries": [], "does": "ordinary"}
        tool = {"kind": "charger", "amps": 8, "modes": [mode]}
        written = self.lead.send(
            "POST",
            "/equipment",
            {"equipment": {"name": "Six volts", "tool": tool, "state": "out_of_order"}, "based_on": 0},
        )
        self.assertEqual(written.status_code, 201, f"{written.text} {list(book)[:3]}")
        outside = next(one for one in self.rack()["outside"] if tag in one["tags"])
        self.assertIn("suits it and is out of order", outside["first"])

    def test_a_promise_for_a_time_when_it_is_closed_is_asked_about(self) -> None:
        tag = self.flat()
        then = self.clock + timedelta(days=3)
        shut = {
            "first": f"{then - timedelta(days=1):%Y-%m-%d}",
            "last": f"{then + timedelta(days=1):%Y-%m-%d}",
            "why": "Stocktaking",
        }
        self.lead.send("PUT", "/rack/hours", {**ALWAYS, "closed": [shut]})
        body = {"promised_at": then.isoformat()}
        asked = self.teo.send("PUT", f"/batteries/{tag}/promise", body)
        self.assertEqual((asked.status_code, asked.json()["errors"][0]["path"]), (422, "promised_at"))
        self.assertIn("Closed then (Stocktaking)", asked.json()["errors"][0]["message"])
        kept = self.teo.send("PUT", f"/batteries/{tag}/promise", {**body, "closed_is_right": True})
        self.assertEqual(kept.status_code, 200, kept.text)

    def test_taken_off_early_it_goes_to_the_bench_and_says_what_it_is_worth(self) -> None:
        tag = self.flat()
        self.on(tag, amps=6.0, volts=13.0)
        self.later(hours=3)
        off = self.teo.send("POST", f"/batteries/{tag}/charge/off", figures(how="early", amps=6.0, volts=13.9))
        self.assertEqual(off.status_code, 201, off.text)
        view = self.teo.get(f"/batteries/{tag}").json()
        self.assertEqual(view["place"], "bench")
        said = [one["text"] for one in view["judgement"]["findings"] if one["kind"] == "charge_run"]
        self.assertIn("about 16 Ah went in", said[-1])
        # what went in is not asked for again, on whichever charger is free at this time of day
        slot = self.slot(tag)
        before = 1.2 * 60 / slot["amps"] + 2
        self.assertLess(slot["hours"], before - 18 / slot["amps"])

    def test_amps_without_volts_are_asked_for_and_nothing_is_done(self) -> None:
        tag = self.flat()
        self.on(tag)
        off = self.teo.send("POST", f"/batteries/{tag}/charge/off", figures(how="full", amps=0.5))
        self.assertEqual((off.status_code, off.json()["errors"][0]["path"]), (422, "volts"))
        self.assertTrue(self.slot(tag)["hangs"])

    def test_full_without_a_figure_is_not_believed_early_without_one_is(self) -> None:
        tag = self.flat()
        self.on(tag)
        full = self.teo.send("POST", f"/batteries/{tag}/charge/off", figures(how="full"))
        self.assertEqual([one["path"] for one in full.json()["errors"]], ["amps", "volts"])
        self.assertTrue(self.slot(tag)["hangs"])
        early = self.teo.send("POST", f"/batteries/{tag}/charge/off", figures(how="early"))
        self.assertEqual(early.status_code, 201, early.text)
        self.assertEqual(self.teo.get(f"/batteries/{tag}").json()["place"], "bench")

    def test_where_another_hangs_or_it_does_not_suit_it_is_not_clamped(self) -> None:
        one, two = self.flat(), self.flat()
        self.assertEqual(self.on(one).status_code, 201)
        self.assertEqual(self.on(two).status_code, 409)
        six = self.flat(5.8, battery={"nominal_volts": 6, "capacity_ah_20h": 100})
        refused = self.on(six, "Charger 2")
        # the demo's second charger is taken; the fourth's free output has no mode for 6 V
        self.assertEqual(refused.status_code, 409)
        refused = self.on(six, "Charger 4", 2)
        self.assertEqual(refused.status_code, 422)
        self.assertIn("for 6 V", refused.json()["errors"][0]["message"])
        out = self.on(two, "Charger 5")
        self.assertIn("out of order", out.json()["errors"][0]["message"])

    def test_ice_and_danger_are_not_charged(self) -> None:
        tag = self.flat()
        self.teo.send(
            "POST",
            f"/batteries/{tag}/readings",
            {**entry("look", marks=[{"sign": "bulged"}]), "taken_at": self.clock.isoformat()},
        )
        refused = self.on(tag)
        self.assertEqual(refused.status_code, 422)
        self.assertIn("bulged", refused.json()["errors"][0]["message"])

    def test_one_held_apart_or_gone_is_not_clamped_on(self) -> None:
        tag = self.flat()
        for place, said in (("held_apart", "held apart"), ("gone", "left the house")):
            self.teo.send("PUT", f"/batteries/{tag}/place", {"place": place})
            refused = self.on(tag)
            self.assertEqual(refused.status_code, 422)
            self.assertIn(said, refused.json()["errors"][0]["message"])

    def test_one_forgotten_for_a_week_is_noted_and_taken_off(self) -> None:
        tag = self.flat()
        self.on(tag, amps=6, volts=13)
        self.later(hours=170)
        for path, body in (("note", figures(amps=0.4, volts=14.6)), ("off", figures(how="full", amps=0.4, volts=14.6))):
            done = self.teo.send("POST", f"/batteries/{tag}/charge/{path}", body)
            self.assertEqual(done.status_code, 201, done.text)
        last = self.teo.get(f"/batteries/{tag}").json()["readings"][-1]["reading"]
        self.assertEqual((last["hours"], last["finished"]), (120, True))

    def test_clamped_elsewhere_it_hangs_only_there(self) -> None:
        tag = self.flat()
        self.on(tag)
        self.assertEqual(self.on(tag, "Charger 4", 2).status_code, 201)
        mine = [slot for slot in self.rack()["slots"] if slot["tag"] == tag]
        self.assertEqual(
            [(one["charger_id"], one["output"], one["hangs"]) for one in mine], [(self.charger("Charger 4"), 2, True)]
        )
        self.assertEqual(self.on(self.flat()).status_code, 201)

    def test_put_elsewhere_at_the_check_it_hangs_on_nothing(self) -> None:
        tag = self.flat()
        self.on(tag)
        self.teo.send("PUT", f"/batteries/{tag}/place", {"place": "bench"})
        self.assertIsNone(self.teo.get(f"/batteries/{tag}").json()["stay"])
        note = self.teo.send("POST", f"/batteries/{tag}/charge/note", figures(amps=4, volts=14))
        self.assertEqual(note.status_code, 409)

    def test_one_that_needs_no_charge_may_be_clamped_on_nevertheless(self) -> None:
        tag = self.flat(12.7)
        self.assertNotIn(tag, [one["tag"] for one in self.rack()["slots"]])
        self.assertEqual(self.on(tag).status_code, 201)
        self.assertTrue(self.slot(tag)["hangs"])


class Plan(AtTheRack):
    def test_a_promise_is_planned_for_and_a_broken_one_is_said_with_the_earliest(self) -> None:
        tag = self.flat()
        soon = self.clock + timedelta(hours=2)
        body = {"promised_at": soon.isoformat(), "priority": "waiting"}
        rack = self.teo.send("PUT", f"/batteries/{tag}/promise", body).json()
        broken = next(one for one in rack["broken"] if one["tag"] == tag)
        self.assertEqual(broken["ready_at"], self.slot(tag, rack)["ready_at"])
        self.assertGreater(broken["ready_at"], soon.isoformat())
        later = {"promised_at": broken["ready_at"], "priority": "waiting"}
        rack = self.teo.send("PUT", f"/batteries/{tag}/promise", later).json()
        self.assertNotIn(tag, [one["tag"] for one in rack["broken"]])
        past = {"promised_at": (self.clock - timedelta(minutes=1)).isoformat()}
        self.assertEqual(
            self.teo.send("PUT", f"/batteries/{tag}/promise", past).json()["errors"][0]["path"], "promised_at"
        )

    def test_set_by_hand_it_stays_there_until_it_is_left_to_the_plan(self) -> None:
        tag = self.flat()
        target = self.charger("Charger 2")
        rack = self.teo.send("PUT", f"/batteries/{tag}/pin", {"charger_id": target, "output": 1}).json()
        self.assertEqual((self.slot(tag, rack)["charger_id"], self.slot(tag, rack)["pinned"]), (target, True))
        self.assertIn("was set on Charger 2", rack["changed_why"])
        self.assertEqual(self.slot(self.flat(11.8), rack=self.rack())["pinned"], False)
        self.assertTrue(self.slot(tag)["pinned"])
        rack = self.teo.send("PUT", f"/batteries/{tag}/pin", {"charger_id": None}).json()
        self.assertFalse(self.slot(tag, rack)["pinned"])

    def test_a_pin_that_cannot_be_kept_is_said(self) -> None:
        tag, name = self.flat(), "Charger 2"
        self.teo.send("PUT", f"/batteries/{tag}/pin", {"charger_id": self.charger(name), "output": 1})
        row = self.book[name]
        body = {"equipment": {**row["equipment"], "state": "out_of_order"}, "based_on": row["edition"]}
        self.teo.send("PUT", f"/equipment/{row['id']}", body)
        said = next(one for one in self.rack()["outside"] if tag in one["tags"])
        self.assertEqual(said["why"], "was set on Charger 2, where it cannot hang now")
        self.assertFalse(self.slot(tag)["pinned"])
        again = {"equipment": row["equipment"], "based_on": row["edition"] + 1}
        self.assertEqual(self.teo.send("PUT", f"/equipment/{row['id']}", again).status_code, 200)

    def test_sixty_batteries_find_their_place_or_are_told_together_why_not(self) -> None:
        tags = [self.flat(11.5 + (number % 8) / 10) for number in range(56)]
        rack = self.rack()
        told = [tag for one in rack["outside"] for tag in one["tags"]]
        self.assertLessEqual(len(rack["outside"]), 3)
        self.assertEqual(sorted(told + [one["tag"] for one in rack["slots"] if one["tag"] in tags]), tags)

    def test_what_changed_is_said_with_why(self) -> None:
        tag = self.flat()
        row = self.book[self.rack()["chargers"][0]["name"]]
        first = self.slot(tag)
        name = next(one["name"] for one in self.rack()["chargers"] if one["id"] == first["charger_id"])
        self.teo.send("PUT", f"/batteries/{tag}/pin", {"charger_id": None})
        row = self.book[name]
        body = {"equipment": {**row["equipment"], "state": "out_of_order"}, "based_on": row["edition"]}
        self.assertEqual(self.teo.send("PUT", f"/equipment/{row['id']}", body).status_code, 200)
        mended = {"equipment": row["equipment"], "based_on": row["edition"] + 1}
        self.addCleanup(lambda: self.teo.send("PUT", f"/equipment/{row['id']}", mended))
        moved = self.slot(tag)
        self.assertNotEqual(moved["charger_id"], first["charger_id"])
        other = self.flat(12.0)
        rack = self.teo.send("PUT", f"/batteries/{other}/promise", {"promised_at": None, "priority": "stock"}).json()
        self.assertIn(tag, [one["tag"] for one in rack["changes"]])
        self.assertIn(f"instead of {name}", next(one["words"] for one in rack["changes"] if one["tag"] == tag))
        self.assertIn(f"{other} is promised no more", rack["changed_why"])

    def test_what_fell_due_while_the_server_was_down_is_due_when_it_is_back(self) -> None:
        tag = self.flat(12.4)
        self.assertEqual(self.on(tag, amps=6, volts=13).status_code, 201)
        self.clock += timedelta(hours=20)
        again = app_on(self.url)
        again.state.clock = lambda: self.clock
        rack = self.rack(Client(again, TEO))
        hand = next(one for one in rack["hands"] if one["tag"] == tag)
        self.assertEqual((hand["does"], hand["overdue"]), ("off", True))
        self.assertLess(hand["at"], self.clock.isoformat())

    def test_a_plan_while_nobody_is_in_waits_for_the_morning(self) -> None:
        days = [{"opens": "08:00", "closes": "18:00"}] * 7
        self.lead.send("PUT", "/rack/hours", {"days": days})
        self.clock = datetime(2026, 12, 2, 20, 0, tzinfo=UTC)  # Dublin stands on UTC in December
        teo = Client(self.app, TEO)
        planned = [one for one in self.rack(teo)["slots"] if not one["hangs"]]
        self.assertGreaterEqual(min(one["on_at"] for one in planned), "2026-12-03T08:00:00Z")
        self.clock = datetime(2027, 3, 28, 0, 30, tzinfo=UTC)  # the clocks go forward that night (EU and Ireland)
        teo = Client(self.app, TEO)
        self.assertEqual(self.rack(teo)["open"][0]["opens"], "2027-03-28T07:00:00Z")

    def test_at_take_in_a_promise_is_held_against_the_rack(self) -> None:
        body = {"battery": {"rating": {"amps": 600}}, "context": {}}
        for hours, kept in ((1, False), (60, True)):
            asked = {"take_in": body, "promised_at": (self.clock + timedelta(hours=hours)).isoformat()}
            found = self.teo.send("POST", "/rack/earliest", asked).json()
            self.assertEqual(found["kept"], kept, found)
        self.assertIn(
            "Cannot be kept",
            self.teo.send("POST", "/rack/earliest", {"take_in": body, "promised_at": self.clock.isoformat()}).json()[
                "words"
            ],
        )
        unknown = self.teo.send("POST", "/rack/earliest", {"take_in": {"context": {}}, "waits": True}).json()
        self.assertIn("at the earliest", unknown["words"])  # nobody knows its Ah: the house's small amps
        taken = self.teo.send(
            "POST", "/batteries", {**body, "promised_at": (self.clock + timedelta(hours=60)).isoformat(), "waits": True}
        )
        seen = taken.json()
        self.assertEqual(
            (seen["priority"], seen["promised_at"][:13]),
            ("waiting", (self.clock + timedelta(hours=60)).isoformat()[:13]),
        )
        hands = [one for one in self.rack()["hands"] if one["tag"] == seen["tag"]]
        self.assertEqual([one["does"] for one in hands], ["read"])


class Order(unittest.TestCase):
    def test_names_with_numbers_stand_as_people_order_them(self) -> None:
        self.assertEqual(sorted(["B 10", "a 3", "B 2", "B"], key=in_order), ["a 3", "B", "B 2", "B 10"])

    def test_hours_as_people_say_them(self) -> None:
        self.assertEqual(
            [span_words(hours) for hours in (5.33, 0.5, 2.0, 17.74)], ["5 h 20", "30 min", "2 h", "17 h 45"]
        )


class Cost(AtTheRack):
    def asked(self) -> int:
        """How many statements one look at the rack takes."""
        said: list[str] = []

        def count(_: Any, __: Any, statement: str, *___: Any) -> None:
            said.append(statement)

        event.listen(self.app.state.engine, "before_cursor_execute", count)
        self.addCleanup(lambda: event.contains(self.app.state.engine, "before_cursor_execute", count) and event.remove(self.app.state.engine, "before_cursor_execute", count))  # fmt: skip
        self.rack()
        event.remove(self.app.state.engine, "before_cursor_execute", count)
        return len(said)

    def test_more_batteries_ask_no_more_of_the_database(self) -> None:
        self.rack()
        before = self.asked()
        for value in (11.7, 11.8, 11.9, 12.0, 12.1, 12.2):
            self.flat(value)
        self.rack()
        self.assertEqual(self.asked(), before)
        self.assertLessEqual(before, 14)

    def test_what_was_planned_with_an_action_is_not_planned_again_by_the_look_after_it(self) -> None:
        tag = self.flat()
        rack = self.teo.send("PUT", f"/batteries/{tag}/promise", {"promised_at": None, "priority": "warranty"}).json()
        with patch("vane_check.desks.rack_jobs.planned", side_effect=AssertionError("planned again")):
            self.assertEqual(self.rack()["slots"], rack["slots"])


class TwoAtOnce(AtTheRack):
    def together(self, *calls: Any) -> list[int]:
        with ThreadPoolExecutor(len(calls)) as pool:
            return sorted(answer.status_code for answer in pool.map(lambda call: call(), calls))

    def count(self, what: str) -> int:
        with psycopg.connect(self.url) as connection:
            row = connection.execute(f"select count(*) from {what}").fetchone()
        assert row is not None
        return int(row[0])

    def test_two_servers_hang_one_battery_on_one_output(self) -> None:
        other = app_on(self.url)
        other.state.clock = lambda: self.clock
        noor = Client(other, NOOR)
        one, two = self.flat(), self.flat()
        body = figures(charger_id=self.charger("Charger 1"), output=1)
        answers = self.together(
            lambda: self.teo.send("POST", f"/batteries/{one}/charge", body),
            lambda: noor.send("POST", f"/batteries/{two}/charge", {**body, "reading_id": str(uuid.uuid4())}),
        )
        self.assertEqual(answers, [201, 409])
        self.assertEqual(
            self.count(f"rack_stays where equipment_id = {self.charger('Charger 1')} and off_at is null"), 1
        )

    def test_sent_twice_it_is_done_once(self) -> None:
        tag, name = self.flat(), str(uuid.uuid4())
        body = figures(charger_id=self.charger("Charger 1"), output=1, amps=6, volts=13)
        calls = [lambda: self.teo.send("POST", f"/batteries/{tag}/charge", body, write_id=name)] * 3
        self.assertEqual(self.together(*calls), [201] * 3)
        self.assertEqual(self.count(f"rack_stays s join batteries b on b.id = s.battery_id where b.tag = {tag}"), 1)

    def test_of_two_who_write_a_tool_anew_one_is_told_to_look_again(self) -> None:
        row = self.book["Bench meter"]
        body = {"equipment": {**row["equipment"], "remarks": "dropped"}, "based_on": row["edition"]}
        calls = [lambda: self.teo.send("PUT", f"/equipment/{row['id']}", body)] * 2
        self.assertEqual(self.together(*calls), [200, 409])
        seen = self.teo.get(f"/equipment/{row['id']}").json()
        self.assertEqual([one["equipment"]["remarks"] for one in seen["before"]], ["dropped", ""])


class Empty(AtTheRack):
    def test_without_a_charger_the_rack_is_empty_and_nothing_is_planned(self) -> None:
        with psycopg.connect(self.url, autocommit=True) as connection:
            for table in ("rack_stays", "rack_pins", "equipment_entries", "equipment"):
                connection.execute(f"alter table {table} disable trigger user")
                connection.execute(f"delete from {table}")
        rack = self.rack()
        self.assertEqual((rack["chargers"], rack["slots"]), ([], []))
        self.assertEqual(rack["unnamed"], [176, 177, 178])
        asked = {
            "take_in": {"battery": {"rating": {"amps": 600}}, "context": {}},
            "promised_at": (self.clock + timedelta(hours=1)).isoformat(),
        }
        self.assertIn("No charger stands in the book", self.teo.send("POST", "/rack/earliest", asked).json()["words"])
