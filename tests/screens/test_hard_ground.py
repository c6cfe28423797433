"""What is typed: nothing falls between, nothing is wiped, nothing goes out under another name; two at once; the line down."""

import json
import re
from datetime import UTC, datetime, timedelta
from functools import cached_property
from typing import Any

import psycopg
from playwright.sync_api import Page, Route, expect

from tests.api.test_api import rest
from tests.api.test_equipment import TESTER
from tests.house import LEAD, NOOR, OWNER_NAME, PINS, TEO, Client, app_on, database, served
from tests.screens.browser import Screens
from vane_check.api.problems import FULL
from vane_check.core.words import fact_of
from vane_check.start.cluster import free_port


def slowly(page: Page, pattern: str, ms: int = 900) -> None:
    """A slow line: what matches the pattern is answered late."""

    def later(route: Route) -> None:
        page.wait_for_timeout(ms)
        route.continue_()

    page.route(pattern, later)


def weaken(page: Page, pattern: str) -> list[Route]:
    """What matches the pattern is not answered until somebody lets it go on."""
    held: list[Route] = []
    page.route(pattern, lambda route: held.append(route))
    return held


def at_last(test: Screens, page: Page) -> None:
    """Whatever is still held back when a test ends is nobody's any more."""
    test.addCleanup(lambda: page.unroute_all(behavior="ignoreErrors"))


LOOKED = ("look", None)

SUBMIT_AND_TYPE = """(field, keys) => {
  field.form.requestSubmit();
  for (const key of keys)
    (document.activeElement ?? document.body).dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true }));
}"""


class Typing(Screens):
    @cached_property
    def watch(self) -> Client:
        return Client(app_on(self.url), LEAD)

    def readings(self, tag: int) -> list[tuple[str, Any]]:
        seen = self.watch.get(f"/batteries/{tag}").json()["readings"]
        return [
            (one["reading"]["kind"], one["reading"].get("measured_cca_amps", one["reading"].get("volts")))
            for one in seen
        ]

    def kept_in_all(self, page: Page, tag: int, wanted: list[tuple[str, Any]]) -> None:
        self.wait_until(page, lambda: len(self.readings(tag)) >= len(wanted))
        self.assertEqual(self.readings(tag), wanted)

    def test_keys_before_the_next_field_is_there(self) -> None:
        page = self.page("/counter")
        at_last(self, page)
        for slow in (False, True):
            tag = self.taken_in(page)
            expect(page.locator("input[name=volts]")).to_be_focused()
            if slow:
                slowly(page, re.compile("/api/(assess|batteries/.*readings)"))  # type: ignore[arg-type]
            page.keyboard.type("12.62\n390\n")
            expect(self.rung(page, "Tester")).to_contain_text("390")
            self.kept_in_all(page, tag, [LOOKED, ("rest_volts", 12.62), ("electronic_tester", 390)])

    def test_keys_in_the_very_moment_a_rung_closes_are_the_next_one_s(self) -> None:
        page = self.page(None)
        tag = self.taken_in(page)
        volts = page.locator("input[name=volts]")
        expect(volts).to_be_focused()
        page.keyboard.type("12.62")
        volts.evaluate(SUBMIT_AND_TYPE, ["3", "9", "0", "Enter"])  # before anything can be drawn
        self.kept_in_all(page, tag, [LOOKED, ("rest_volts", 12.62), ("electronic_tester", 390)])

    def test_keys_before_the_battery_is_there(self) -> None:
        page = self.page("/records")
        tag = self.taken_in(page)
        page.goto(f"{self.base}/records")
        expect(page.get_by_text("checks, page 1")).to_be_visible()
        at_last(self, page)
        page.route(f"**/api/batteries/{tag}", lambda route: (page.wait_for_timeout(700), route.continue_()))
        page.keyboard.press("/")
        page.keyboard.type(f"{tag}\n")
        page.wait_for_url(f"**/check/{tag}")
        page.keyboard.type("12.58\n")
        self.kept_in_all(page, tag, [LOOKED, ("rest_volts", 12.58)])

    def test_keys_while_a_battery_is_taken_in_go_to_its_check(self) -> None:
        page = self.page("/counter")
        expect(page.get_by_role("textbox", name="Rated figure")).to_be_focused()
        at_last(self, page)
        page.route("**/api/batteries", lambda route: (page.wait_for_timeout(700), route.continue_()))
        page.keyboard.type("620\n12.61\n")
        page.wait_for_url("**/check/*")
        tag = int(page.url.rsplit("/", 1)[1])
        expect(page.get_by_role("button", name="Nothing wrong")).to_be_focused()
        self.assertEqual(self.readings(tag), [])  # an Enter that was on its way looked at nothing
        self.look_over(page)
        self.kept_in_all(page, tag, [LOOKED, ("rest_volts", 12.61)])
        self.assertEqual(self.watch.get(f"/batteries/{tag}").json()["battery"]["rating"]["amps"], 620)

    def test_half_typed_figures_survive_whatever_comes(self) -> None:
        page = self.page(None)
        tag = self.taken_in(page)
        volts = page.locator("input[name=volts]")
        expect(volts).to_be_focused()
        page.keyboard.type("12.")
        other = Client(app_on(self.url), NOOR)
        look = {"id": rest()["id"], "kind": "look", "taken_at": datetime.now(UTC).isoformat()}
        other.send("POST", f"/batteries/{tag}/readings", {**look, "corrosion": "light"})
        expect(self.rung(page, "Look")).to_contain_text("light corrosion")
        expect(volts).to_have_value("12.")
        page.keyboard.type("5")
        expect(volts).to_have_value("12.5")
        page.reload()
        expect(volts).to_have_value("12.5")
        page.get_by_role("link", name="counter").click()
        page.get_by_label("Customer").fill("Half a na")
        page.get_by_label("Serial").fill("SN-")
        page.go_back()
        self.kept(page, "Volts", "12.50")  # left for another desk, it was whole and was kept
        page.get_by_role("link", name="counter").click()
        expect(page.get_by_label("Customer")).to_have_value("Half a na")
        page.reload()
        expect(page.get_by_label("Serial")).to_have_value("SN-")
        page.get_by_role("button", name="Throw away what is typed").click()
        expect(page.get_by_label("Serial")).to_have_value("")

    def test_a_closed_tab_takes_nothing_and_another_person_sees_none_of_it(self) -> None:
        page = self.page("/counter", fresh=True)
        tag = self.taken_in(page)
        expect(page.locator("input[name=volts]")).to_be_focused()
        page.keyboard.type("11.")
        again = page.context.new_page()
        page.close()
        again.goto(f"{self.base}/check/{tag}")
        expect(again.locator("input[name=volts]")).to_have_value("11.")
        again.get_by_role("button", name=f"Change to {NOOR}").click()
        again.keyboard.type(PINS[NOOR] + "\n")
        expect(again.get_by_role("button", name=f"{NOOR} is signed in")).to_be_visible()
        expect(again.locator("input[name=volts]")).to_have_value("")
        expect(again.get_by_text("wait for others")).to_have_count(0)
        self.assertEqual(self.readings(tag), [LOOKED])

    def test_two_tabs_on_one_battery_each_keep_their_own_draft(self) -> None:
        one = self.page("/counter", fresh=True)
        tag = self.taken_in(one)
        expect(one.locator("input[name=volts]")).to_be_focused()
        one.keyboard.type("12.4")
        other = one.context.new_page()
        other.goto(f"{self.base}/check/{tag}")
        expect(other.locator("input[name=volts]")).to_have_value("")
        other.locator("input[name=volts]").fill("11.")
        for _ in range(2):  # each draws its own again, whichever was touched last
            for page, volts in ((one, "12.4"), (other, "11.")):
                page.reload()
                expect(page.locator("input[name=volts]")).to_have_value(volts)
        third = one.context.new_page()
        third.goto(f"{self.base}/check/{tag}")
        expect(third.locator("input[name=volts]")).to_have_value("")
        other.close()
        third.reload()  # what a closed tab left is the next one's, and of one alone
        expect(third.locator("input[name=volts]")).to_have_value("11.")
        one.reload()
        expect(one.locator("input[name=volts]")).to_have_value("12.4")
        third.evaluate("window.addEventListener('pagehide', (event) => event.stopImmediatePropagation(), true)")
        third.close()  # and where a tab died without a word
        one.evaluate(
            "for (const key of Object.keys(localStorage)) if (key.startsWith('vane-check-left')) localStorage.removeItem(key)"
        )
        fourth = one.context.new_page()
        fourth.goto(f"{self.base}/check/{tag}")
        expect(fourth.locator("input[name=volts]")).to_have_value("11.")
        one.locator("input[name=volts]").press("Enter")
        self.kept_in_all(one, tag, [LOOKED, ("rest_volts", 12.4)])
        expect(fourth.locator("input[name=volts]")).to_have_value("11.")

    def test_a_tab_that_is_doubled_begins_with_nothing_of_the_other_s(self) -> None:
        one = self.page("/counter", fresh=True)
        tag = self.taken_in(one)
        one.locator("input[name=volts]").fill("12.4")
        name = one.evaluate("sessionStorage.getItem('vane-check-tab')")
        other = one.context.new_page()
        other.add_init_script(
            f"sessionStorage.getItem('doubled') ?? (sessionStorage.setItem('doubled', '1'), sessionStorage.setItem('vane-check-tab', '{name}'))"
        )
        other.goto(f"{self.base}/check/{tag}")
        expect(other.locator("input[name=volts]")).to_have_value("")
        other.locator("input[name=volts]").fill("11.")
        one.reload()
        expect(one.locator("input[name=volts]")).to_have_value("12.4")

    def test_a_figure_that_ends_in_its_point_is_kept_by_nobody_s_leaving(self) -> None:
        page = self.page(None)
        tag = self.taken_in(page)
        volts = page.locator("input[name=volts]")
        for half in ("12", "12."):
            expect(volts).to_be_focused()
            page.keyboard.press("ControlOrMeta+a")
            page.keyboard.type(half)
            self.open_rung(page, "T", "Tester")
            expect(self.rung(page, "Volts")).to_contain_text("half typed")
            page.wait_for_timeout(400)
            self.assertEqual(self.readings(tag), [LOOKED])
            page.keyboard.press("V")
            expect(volts).to_have_value(half)
        page.keyboard.type("4")
        self.open_rung(page, "T", "Tester")
        self.kept(page, "Volts", "12.40")
        page.keyboard.type("450.")
        page.keyboard.press("Enter")  # said to be whole
        self.kept_in_all(page, tag, [LOOKED, ("rest_volts", 12.4), ("electronic_tester", 450)])

    def test_undoing_a_correction_brings_the_earlier_entry_back(self) -> None:
        page = self.page(None)
        tag = self.taken_in(page)
        page.keyboard.type("12.64\n")
        self.kept(page, "Volts", "12.64")
        page.get_by_role("button", name="Correct Volts").click()
        page.locator("input[name=volts]").fill("11.20")
        page.keyboard.press("Enter")
        self.kept(page, "Volts", "11.20")
        page.get_by_role("button", name="Correct Volts").click()
        page.get_by_role("button", name="Undo: take this reading back").click()
        self.kept(page, "Volts", "12.64")
        page.reload()
        self.kept(page, "Volts", "12.64")
        self.assertEqual(len(self.readings(tag)), 4)

    def test_an_answer_that_comes_late_takes_no_keys_from_the_rung_that_was_opened_since(self) -> None:
        page = self.page(None)
        tag = self.taken_in(page)
        at_last(self, page)
        slowly(page, re.compile("/api/(assess|batteries/.*readings)"))  # type: ignore[arg-type]
        page.keyboard.type("11.20\n")
        expect(self.rung(page, "Volts")).to_contain_text("not sent yet")
        page.get_by_role("button", name="Correct Volts").click()
        volts = page.locator("input[name=volts]")
        expect(volts).to_be_focused()
        self.wait_until(page, lambda: ("rest_volts", 11.2) in self.readings(tag))
        expect(self.headline(page)).to_contain_text("Needs a charge")
        page.wait_for_timeout(1500)  # until whatever the answer moves has moved
        expect(volts).to_be_focused()
        page.keyboard.press("ControlOrMeta+a")
        page.keyboard.type("11.90\n")
        self.kept(page, "Volts", "11.90")

    def test_a_fault_of_one_cell_stands_in_that_cell(self) -> None:
        page = self.page(None)
        self.taken_in(page)
        self.open_rung(page, "G", "Cells")
        for cell, text in enumerate(("1265", "1262", "1.9", "1264", "1266", "1263"), 1):
            self.rung(page, "Cells").get_by_label(f"cell {cell}").first.fill(text)
        bad = self.rung(page, "Cells").get_by_label("cell 3").first
        expect(bad).to_have_attribute("aria-invalid", "true")
        expect(self.rung(page, "Cells").get_by_label("cell 2").first).not_to_have_attribute("aria-invalid", "true")
        expect(self.rung(page, "Cells").get_by_text("Enter 1 to 1.4")).to_have_count(1)
        bad.fill("1261")
        page.keyboard.press("Enter")
        self.kept(page, "Cells", "1.261")


PRESS_AND_TYPE = """(button, keys) => {
  button.click();
  const typed = (key) => new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true });
  for (const key of keys) (document.activeElement ?? document.body).dispatchEvent(typed(key));
}"""


class Whose(Screens):
    def test_what_waits_is_sent_as_its_author_s_or_not_at_all(self) -> None:
        url, port = database(), free_port()
        with served(url, port) as base:
            self.base = base
            page = self.page("/check/171", fresh=True)
            self.look_over(page)
            expect(page.locator("input[name=volts]")).to_be_focused()
        page.keyboard.type("12.66\n")
        expect(page.get_by_role("button", name="1 not sent yet")).to_be_visible()
        page.get_by_role("button", name=f"{TEO} is signed in: lock").click()
        expect(page.get_by_label("PIN", exact=True)).to_be_visible()
        with served(url, port):
            page.reload()
            page.get_by_role("button", name=NOOR).click()
            page.keyboard.type(PINS[NOOR] + "\n")
            expect(page.get_by_text("1 wait for others")).to_be_visible()
            page.wait_for_timeout(3200)  # the sender has come round at least once
            watch = Client(app_on(url), LEAD)
            self.assertEqual(len(watch.get("/batteries/171").json()["readings"]), 1)
            page.get_by_role("button", name=f"Change to {TEO}").click()
            page.keyboard.type(PINS[TEO] + "\n")
            self.wait_until(page, lambda: len(watch.get("/batteries/171").json()["readings"]) == 2)
            self.assertEqual(watch.get("/batteries/171").json()["readings"][1]["who"], TEO)

    def test_a_refused_reading_says_why_and_blocks_nothing_behind_it(self) -> None:
        page = self.page(None)
        tag = self.taken_in(page)
        page.route("**/api/assess", lambda route: route.abort())
        page.keyboard.type("26\n")  # the page could not ask, the server refuses
        expect(page.get_by_role("button", name="1 refused")).to_be_visible()
        expect(self.rung(page, "Volts").get_by_role("alert")).to_contain_text("26 V cannot be read on a 12 V battery")
        other = self.taken_in(page)
        page.keyboard.type("12.6\n")
        self.kept(page, "Volts", "12.60")
        page.get_by_role("button", name="1 refused").click()
        expect(page.get_by_role("dialog").get_by_text("26 V cannot be read")).to_be_visible()
        page.get_by_role("dialog").get_by_role("link", name=f"Go to {tag}").click()
        page.wait_for_url(f"**/check/{tag}")
        page.keyboard.press("Escape")
        with page.expect_event("requestfailed", lambda request: "/assess" in request.url):
            page.locator("input[name=volts]").fill("12.6")
        page.wait_for_timeout(100)  # by then the page knows that nobody foresees anything
        page.locator("input[name=volts]").press("Enter")
        self.kept(page, "Volts", "12.60")
        expect(page.get_by_text("1 refused")).to_have_count(0)
        self.assertNotEqual(tag, other)

    def test_what_a_colleague_does_before_this_page_hears_anything_stands_on_its_shelf(self) -> None:
        page = self.page("/records")
        at_last(self, page)
        slowly(page, "**/api/events", 3000)
        colleague = Client(app_on(self.url), NOOR)
        there = sum(one["place"] == "counter" for one in colleague.get("/shelf").json())
        page.reload()
        expect(page.get_by_role("region", name=f"counter, {there}")).to_be_visible()
        taken = colleague.send("POST", "/batteries", {"battery": {"rating": {"amps": 611}}, "context": {}})
        self.assertEqual(taken.status_code, 201)
        expect(page.get_by_role("region", name=f"counter, {there + 1}")).to_be_visible()

    def test_every_desk_hears_what_happened_between_its_first_answer_and_its_stream(self) -> None:
        colleague, owner = Client(app_on(self.url), LEAD), Client(app_on(self.url), OWNER_NAME)

        def took_in(name: str) -> None:
            body = {"battery": {"line": name}, "context": {}, "customer_name": name, "customer_phone": "0555 77 88"}
            self.assertEqual(colleague.send("POST", "/batteries", body).status_code, 201)

        def new_tool(name: str) -> None:
            found = colleague.send("POST", "/equipment", {"equipment": {"name": name, "tool": TESTER}})
            self.assertLess(found.status_code, 300, found.text)

        def other_name(name: str) -> None:
            first = colleague.get("/goods").json()["items"][0]
            item = colleague.get(f"/goods/{first['id']}").json()["item"]
            written = {"item": {**item, "name": name}, "based_on": first["edition"]}
            found = colleague.send("PUT", f"/goods/{first['id']}", written)
            self.assertLess(found.status_code, 300, found.text)

        def new_person(name: str) -> None:
            found = owner.send("POST", "/house/people", {"name": name, "role": "counter", "pin": "482913"})
            self.assertLess(found.status_code, 300, found.text)

        def new_rules(name: str) -> None:
            now = colleague.get("/rules").json()
            found = colleague.send(
                "POST", "/rules", {"school": "load_first", "reason": name, "based_on": now["version"]}
            )
            self.assertLess(found.status_code, 300, found.text)

        def new_store(name: str) -> None:
            found = owner.send("POST", "/house/stores", {"name": name, "time_zone": "Europe/Dublin"})
            self.assertLess(found.status_code, 300, found.text)

        for path, act, name in (
            ("/records", took_in, "Heard Records"),
            ("/customers", took_in, "Heard Customer"),
            ("/equipment", new_tool, "Heard meter"),
            ("/goods?view=catalogue", other_name, "AA Heard item"),
            ("/house", new_person, "Heard Person"),
            ("/house", new_store, "Heard Store"),
            ("/rules", new_rules, "heard rules"),
        ):
            with self.subTest(path, name=name):
                page = self.page(None, person=OWNER_NAME)
                at_last(self, page)
                held = weaken(page, "**/api/events")
                page.goto(self.base + path)
                expect(page.locator("[aria-busy=true]")).to_have_count(0)
                self.wait_until(page, lambda held=held: len(held) > 0)
                page.wait_for_timeout(700)  # what it asks for a moment later is answered too
                expect(page.get_by_text(name)).to_have_count(0)
                act(name)
                for route in held:
                    route.continue_()
                page.unroute("**/api/events")
                expect(page.get_by_text(name).first).to_be_visible()

    def test_an_answer_older_than_what_was_told_meanwhile_takes_nothing_off_the_shelf(self) -> None:
        page = self.page("/records")
        at_last(self, page)
        asked: list[str] = []

        def later(route: Route) -> None:
            asked.append("now")
            if len(asked) == 1:
                return route.continue_()
            old = route.fetch()
            asked.append("answered")
            page.wait_for_timeout(3000)
            route.fulfill(response=old)
            asked.append("told")

        page.route("**/api/shelf", later)
        page.reload()
        expect(page.get_by_role("region", name=re.compile("^counter, "))).to_be_visible()
        with psycopg.connect(self.url, autocommit=True) as connection:
            told = """select pg_notify('vane_check', '{"store_id": 1, "what": "everything", "tag": null}')"""
            while "answered" not in asked:  # it may not hear yet
                connection.execute(told)
                page.wait_for_timeout(200)
        colleague = Client(app_on(self.url), NOOR)
        there = sum(one["place"] == "counter" for one in colleague.get("/shelf").json())
        colleague.send("POST", "/batteries", {"battery": {"rating": {"amps": 612}}, "context": {}})
        expect(page.get_by_role("region", name=f"counter, {there + 1}")).to_be_visible()
        self.wait_until(page, lambda: "told" in asked)
        page.wait_for_timeout(500)
        expect(page.get_by_role("region", name=f"counter, {there + 1}")).to_be_visible(timeout=1000)

    def test_a_full_disk_is_said_what_is_there_is_read_and_what_is_typed_waits_until_there_is_room(self) -> None:
        page = self.page(None)
        at_last(self, page)
        tag = self.taken_in(page)
        full = {
            "title": "Insufficient Storage",
            "status": 507,
            "detail": fact_of(FULL),
            "errors": [],
            "wait_seconds": 5,
        }
        is_full = True

        def answer(route: Route) -> None:
            if not is_full:
                route.continue_()
            else:
                route.fulfill(status=507, content_type="application/problem+json", body=json.dumps(full))

        page.route(f"**/api/batteries/{tag}/readings*", answer)
        page.route("**/api/ready", answer)
        page.keyboard.type("12.44\n")
        strip = page.get_by_role("status").filter(has_text="is full")
        expect(strip).to_contain_text("One reading waits here to be sent")
        expect(self.rung(page, "Volts")).to_contain_text("not sent yet")
        self.desk(page, "/records")
        expect(page.locator("main")).to_contain_text("Merlow")  # and everything else is read as ever
        expect(strip).to_be_visible()
        is_full = False
        expect(strip).to_have_count(0)
        self.desk(page, f"/check/{tag}")
        self.kept(page, "Volts", "12.44")

    def test_a_refused_correction_is_never_kept_as_a_new_reading(self) -> None:
        page = self.page(None)
        tag = self.taken_in(page)
        page.keyboard.type("12.64\n")
        self.kept(page, "Volts", "12.64")
        teo = Client(app_on(self.url), NOOR)
        first = teo.get(f"/batteries/{tag}").json()["readings"][1]["reading"]
        page.route("**/api/events", lambda route: route.abort())
        page.reload()  # a page that hears of nothing: one that did would see the fault in its field, and send nothing
        page.get_by_role("button", name="Correct Volts").click()
        page.locator("input[name=volts]").fill("12.11")
        theirs = {**first, "id": rest()["id"], "volts": 12.3, "replaces": first["id"], "taken_by": ""}
        self.assertEqual(teo.send("POST", f"/batteries/{tag}/readings", theirs).status_code, 201)
        page.locator("input[name=volts]").press("Enter")
        expect(self.rung(page, "Volts").get_by_role("alert")).to_contain_text("corrected or taken back already")
        page.locator("input[name=volts]").fill("12.12")
        page.locator("input[name=volts]").press("Enter")
        page.wait_for_timeout(800)
        kept = teo.get(f"/batteries/{tag}").json()["readings"]
        self.assertEqual([one["reading"].get("volts") for one in kept if not one["corrected"]], [None, 12.3])
        self.rung(page, "Volts").get_by_role("button", name="Throw it away").click()
        expect(page.get_by_text("1 refused")).to_have_count(0)

    def test_a_second_enter_and_a_lost_answer_make_one_battery(self) -> None:
        page = self.page("/counter")
        expect(page.get_by_role("textbox", name="Rated figure")).to_be_focused()
        page.keyboard.type("555")
        lost: list[int] = []

        def lose(route: Route) -> None:
            if lost:
                return route.continue_()
            lost.append(route.fetch().status)
            route.abort()

        page.route("**/api/batteries", lose)
        page.get_by_role("button", name="Take it in").click()
        expect(page.get_by_label("Rated figure")).to_have_value("")
        page.wait_for_timeout(900)
        page.get_by_role("button", name="Take it in").click()  # however late: it was meant for the one before
        expect(page.get_by_text("Nothing is written of it yet")).to_be_visible()
        # it is sent again by itself, under its name, and its tag is said
        expect(page.get_by_text("is the tag of 555 CCA: hang it on")).to_be_visible()
        page.get_by_label("Rated figure").focus()
        page.keyboard.type("556")
        expect(page.get_by_text("Nothing is written of it yet")).to_have_count(0)
        page.get_by_role("button", name="Take it in").dblclick()
        page.wait_for_url("**/check/*")
        watch = Client(app_on(self.url), LEAD)
        shelf = watch.get("/shelf").json()
        newest = max(one["tag"] for one in shelf)
        self.assertEqual((lost, page.url.rsplit("/", 1)[1]), ([201], str(newest)))
        labels = [watch.get(f"/batteries/{tag}").json()["battery"]["rating"] for tag in (newest - 1, newest)]
        self.assertEqual([one and one["amps"] for one in labels], [555, 556])

    def test_a_battery_of_which_nothing_is_known_is_taken_in_when_somebody_says_so_twice(self) -> None:
        page = self.page("/counter")
        rated = page.get_by_role("textbox", name="Rated figure")
        expect(rated).to_be_focused()
        watch = Client(app_on(self.url), LEAD)
        before = len(watch.get("/shelf").json())
        for _ in range(5):  # an Enter that is held down
            page.keyboard.press("Enter")
        expect(page.get_by_text("Nothing is written of it yet")).to_be_visible()
        page.wait_for_timeout(900)
        self.assertEqual(len(watch.get("/shelf").json()), before)
        rated.press("Enter")
        page.wait_for_url("**/check/*")
        tag = int(page.url.rsplit("/", 1)[1])
        self.assertIsNone(watch.get(f"/batteries/{tag}").json()["battery"]["rating"])


class Clocks(Screens):
    def test_a_screen_whose_clock_is_wrong_keeps_the_right_time(self) -> None:
        for off in (timedelta(minutes=-10), timedelta(minutes=20)):
            context = self.browser.new_context(viewport={"width": 1280, "height": 800}, reduced_motion="reduce")
            self.addCleanup(context.close)
            page = context.new_page()
            page.clock.install(time=datetime.now(UTC) + off)
            page.goto(f"{self.base}/check/171")
            page.clock.resume()
            self.sign_in(page)
            before = Client(app_on(self.url), NOOR)
            before.send("POST", "/batteries/171/readings", rest(12.1))
            self.open_rung(page, "V", "Volts")
            page.keyboard.type("12.66\n")
            self.kept(page, "Volts", "12.66")
            kept = before.get("/batteries/171").json()
            taken = datetime.fromisoformat(kept["readings"][-1]["reading"]["taken_at"])
            self.assertLess(abs((datetime.now(UTC) - taken).total_seconds()), 90, off)
            last = [found for found in kept["judgement"]["findings"] if found["status"] != "dropped"]
            self.assertEqual(last[0]["reading_text"], "12.66 V")


class Locked(Screens):
    def test_the_lock_holds_with_the_line_down_and_nothing_personal_stays(self) -> None:
        url, port = database(), free_port()
        with served(url, port) as base:
            self.base = base
            page = self.page("/check/174", fresh=True)
            expect(page.locator("aside").get_by_text("R. Osei-Tan")).to_be_visible()
            other = page.context.new_page()
            other.goto(f"{base}/check/173")
            expect(other.locator("aside").get_by_text("M. Lindqvar")).to_be_visible()
        page.get_by_role("button", name=f"{TEO} is signed in: lock").click()
        expect(page.get_by_label("PIN", exact=True)).to_be_visible()
        expect(other.get_by_label("PIN", exact=True)).to_be_visible()
        for one in (page, other):
            self.assertNotRegex(one.content(), r"Osei|Lindqvar|\b0555")
        with served(url, port):
            page.reload()
            expect(page.get_by_label("PIN", exact=True)).to_be_visible()
            self.assertEqual(page.evaluate("fetch('/api/me').then((answer) => answer.status)"), 401)
            page.get_by_role("button", name=NOOR).click()
            page.keyboard.type(PINS[NOOR] + "\n")
            expect(page.get_by_role("button", name=f"{NOOR} is signed in")).to_be_visible()
            expect(other.get_by_role("button", name=f"{NOOR} is signed in")).to_be_visible()

    def test_a_pin_begun_before_its_field_is_drawn_is_not_lost(self) -> None:
        page = self.page("/counter", fresh=True)
        change = page.get_by_role("button", name=f"Change to {NOOR}")
        change.evaluate(PRESS_AND_TYPE, [*PINS[NOOR], "Enter"])  # before anything can be drawn
        expect(page.get_by_role("button", name=f"{NOOR} is signed in")).to_be_visible()

    def test_figures_typed_on_a_name_are_the_pin(self) -> None:
        page = self.page("/counter", fresh=True)
        page.get_by_role("button", name=f"Change to {NOOR}").click()
        name = page.get_by_role("button", name=NOOR)
        name.focus()
        page.keyboard.type(PINS[NOOR] + "\n")
        expect(page.get_by_role("button", name=f"{NOOR} is signed in")).to_be_visible()

    def test_a_lead_lifts_the_wait_at_the_counter(self) -> None:
        page = self.page("/counter", fresh=True)
        page.get_by_role("button", name=f"Change to {NOOR}").click()
        for _ in range(3):
            with page.expect_response("**/api/sign-in") as answer:
                page.keyboard.type("000000\n")
            self.assertFalse(answer.value.ok)
            expect(page.get_by_role("alert")).to_contain_text("That is not the PIN")
        page.get_by_role("button", name=f"{LEAD} can lift this").click()
        page.keyboard.type(PINS[LEAD] + "\n")
        expect(page.get_by_role("alert")).to_contain_text("lifted the wait")
        page.keyboard.type(PINS[NOOR] + "\n")
        expect(page.get_by_role("button", name=f"{NOOR} is signed in")).to_be_visible()


class Together(Screens):
    def test_two_corrections_of_one_label_are_laid_side_by_side(self) -> None:
        page = self.page(None)
        tag = self.taken_in(page)
        page.goto(f"{self.base}/take-in/{tag}")
        page.get_by_role("textbox", name="Rated figure").fill("700")
        noor = Client(app_on(self.url), NOOR)
        seen = noor.get(f"/batteries/{tag}").json()
        theirs = {
            "battery": {**seen["battery"], "rating": {"amps": 720}},
            "context": seen["context"],
            "based_on": seen["take_in_id"],
        }
        self.assertEqual(noor.send("PUT", f"/batteries/{tag}", theirs).status_code, 200)
        page.get_by_role("button", name="Write the correction").click()
        both = page.get_by_role("group", name="Two corrections side by side")
        expect(both.get_by_role("row", name=re.compile("rated 700 CCA 720 CCA"))).to_be_visible()
        page.get_by_role("button", name="Write mine over it").click()
        page.wait_for_url(f"**/check/{tag}")
        self.assertEqual(noor.get(f"/batteries/{tag}").json()["battery"]["rating"]["amps"], 700)

    def test_a_line_that_is_down_is_said_and_comes_back_by_itself(self) -> None:
        url, port = database(), free_port()
        with served(url, port) as base:
            self.base = base
            page = self.page("/counter", fresh=True)
        page.get_by_role("link", name="records").click()
        expect(page.get_by_text("The server does not answer: what you type is kept")).to_be_visible()
        with served(url, port):
            expect(page.get_by_text("checks, page 1")).to_be_visible()
            expect(page.get_by_text("The server does not answer")).to_have_count(0)

    def test_records_are_paged_found_by_name_and_a_lead_erases_a_person(self) -> None:
        page = self.page("/records", LEAD)
        expect(page.get_by_text(re.compile(r"^1\d\d checks, page 1 of 4$"))).to_be_visible()
        page.get_by_role("button", name="Older").click()
        expect(page.get_by_text("page 2 of 4")).to_be_visible()
        page.get_by_label("Search by tag").fill("hill farm")
        expect(page.get_by_text("page 2 of 4")).to_have_count(0)
        expect(page.get_by_role("status").filter(has_text=re.compile(r"^\d{1,2} checks?$"))).to_be_visible()
        page.get_by_label("Past checks").get_by_role("link", name=re.compile(r"^\d")).first.click()
        page.get_by_role("button", name=re.compile("^Erase Hill Farm")).click()
        page.get_by_role("button", name="Erase for good").click()
        expect(page.get_by_text("Its customer was erased")).to_be_visible()
        page.go_back()
        expect(page.get_by_label("Search by tag")).to_have_value("hill farm")
        page.get_by_label("Search by tag").fill("hill farm")
        expect(page.get_by_text("No check matches “hill farm”")).to_be_visible()
