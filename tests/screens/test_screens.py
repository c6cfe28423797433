"""The real interface in headless Chromium, over the real server and database: one battery, moving about, and losses."""

import contextlib
import os
import re
import signal
import subprocess
import sys
import time

from playwright.sync_api import APIResponse, Error, Route, expect

from tests.house import LEAD, PINS, Client, app_on, database, served
from tests.screens.browser import ROOT, Screens
from vane_check.start.cluster import free_port


class OneBattery(Screens):
    def test_from_the_counter_to_the_slip(self) -> None:
        page = self.page("/counter")
        rated = page.get_by_role("textbox", name="Rated figure")
        expect(rated).to_be_focused()
        page.keyboard.type("640")
        page.get_by_label("Car, if known").fill("Caldo Stanza")
        expect(page.get_by_text("Caldo Stanza asks for group 47")).to_be_visible()
        page.get_by_label("Line", exact=True).fill("Merlow Plain")
        page.get_by_label("Date code").fill("0325")
        page.get_by_label("Customer").fill("B. Walker")
        page.get_by_role("button", name="Take it in").click()
        page.wait_for_url("**/check/*")
        tag = page.url.rsplit("/", 1)[1]
        self.look_over(page)
        volts = page.locator("input[name=volts]")
        expect(volts).to_be_focused()
        page.keyboard.type("1262")
        expect(page.get_by_text("12.62 V at rest")).to_be_visible()
        page.keyboard.press("Enter")
        expect(page.locator("input[name=measured_cca_amps]")).to_be_focused()
        page.keyboard.type("390")
        expect(page.get_by_test_id("headline")).to_have_text("Worn out")
        expect(page.locator("[data-rung=Tester]")).not_to_contain_text("kept")
        page.keyboard.press("Enter")
        expect(page.locator("[data-rung=Tester]")).to_contain_text("kept")
        page.reload()
        expect(page.locator("[data-rung=Volts]")).to_contain_text("12.62")
        page.locator("[data-reason=electronic_tester]").click()
        expect(page.get_by_text("replace below 75 %, ±10 %")).to_be_visible()
        page.get_by_role("link", name="Match", exact=False).last.click()
        expect(page.locator('[data-fit="exact"]').first).to_contain_text("47")
        expect(page.locator('[data-fit="rejected"]').first).to_contain_text("does not fit")
        expect(page.get_by_role("img", name=re.compile("New over old"))).to_be_visible()
        page.get_by_role("link", name="Price it against the warranty").click()
        expect(page.get_by_test_id("pays")).to_be_visible()
        expect(page.get_by_test_id("decision")).to_contain_text("months used")
        form = page.get_by_role("form", name="Hand it over with the claim")
        form.locator("input[name=volts]").fill("12.1")
        form.locator("input[name=serial]").fill("GIVEN-1")
        page.get_by_role("button", name="Write the claim, hand it over").click()
        expect(form).to_contain_text(re.compile("charge it before"))  # nothing is written, nothing typed is lost
        form.locator("input[name=volts]").fill("12.75")
        page.get_by_role("button", name="Write the claim, hand it over").click()
        expect(page.get_by_text("Claim written")).to_be_visible()
        expect(page.get_by_role("link", name="Given for it", exact=False)).to_be_visible()
        with page.context.expect_page() as opened:
            page.get_by_role("link", name="Slip").click()
        self.assertIn(f"/api/batteries/{tag}/slip.pdf", opened.value.url or f"/api/batteries/{tag}/slip.pdf")

    def test_a_void_test_falls_off_while_it_is_typed_and_a_fault_stands_in_its_field(self) -> None:
        page = self.page("/check/171")
        self.look_over(page)
        page.locator("input[name=volts]").fill("26")
        expect(page.get_by_text("26 V cannot be read on a 12 V battery")).to_be_visible()
        page.keyboard.press("Enter")
        expect(page.locator("input[name=volts]")).to_have_value(re.compile("^26"))
        page.locator("input[name=volts]").fill("12.78")
        page.keyboard.press("Enter")
        page.locator("input[name=measured_cca_amps]").fill("300")
        expect(page.get_by_test_id("headline")).to_have_text("Worn out")
        self.say(page, "Tester", "clamped", "Studs")
        expect(page.get_by_test_id("headline")).to_have_text("Cannot tell yet")
        page.get_by_role("button", name=re.compile("does not count|do not count")).click()
        expect(page.get_by_text("on studs a tester can read less than half").first).to_be_visible()

    def test_a_correction_keeps_the_old_entry_readable(self) -> None:
        page = self.page("/check/174")
        page.get_by_role("button", name="Correct Tester").click()
        page.locator("input[name=measured_cca_amps]").fill("640")
        page.keyboard.press("Enter")
        expect(page.get_by_test_id("headline")).to_have_text("Sound")
        page.get_by_role("link", name="life").click()
        expect(page.get_by_text("corrected later")).to_be_visible()
        expect(page.get_by_text("a correction")).to_be_visible()

    def test_leaving_a_rung_keeps_what_was_typed(self) -> None:
        page = self.page("/check/172")
        self.look_over(page)
        page.locator("input[name=volts]").fill("12.70")
        expect(page.get_by_text("12.70 V at rest")).to_be_visible()
        page.get_by_role("img", name=re.compile("The vane points")).click()
        expect(page.locator("[data-rung=Volts]")).to_contain_text("kept")


class Moving(Screens):
    def test_a_tag_is_asked_for_and_shown_before_it_is_gone_to_and_the_keys_are_shown(self) -> None:
        page = self.page("/records")
        page.keyboard.press("/")
        page.keyboard.type("173")
        expect(page.get_by_role("dialog").get_by_text("Quellan Cycle")).to_be_visible()
        page.keyboard.press("Enter")
        page.wait_for_url("**/check/173")
        expect(page.get_by_test_id("headline")).to_be_visible()
        page.keyboard.press("?")
        expect(page.get_by_text("go to a battery: type its tag, or scan it")).to_be_visible()
        page.keyboard.press("Escape")
        page.go_back()
        page.wait_for_url("**/records")
        self.desk(page, "/check/9999")
        expect(page.get_by_text("no battery here carries tag 9999")).to_be_visible()

    def test_the_shelf_of_a_second_screen_moves(self) -> None:
        one, other = self.page("/check/181"), self.page("/counter", LEAD)
        ready = other.get_by_role("region", name=re.compile("^ready"))
        expect(ready).to_contain_text("181")
        one.get_by_role("button", name="Stands: ready").click()
        one.get_by_role("menuitem", name="Held apart").click()
        expect(other.get_by_role("region", name=re.compile("^held apart"))).to_contain_text("181")
        expect(ready).not_to_contain_text("181")

    def test_change_of_person_takes_two_actions_and_a_wrong_pin_says_so(self) -> None:
        page = self.page("/counter", fresh=True)
        page.get_by_role("button", name=f"Change to {LEAD}").click()
        page.keyboard.type("000000")
        page.keyboard.press("Enter")
        expect(page.get_by_role("alert")).to_have_text("That is not the PIN")
        page.keyboard.type(PINS[LEAD])
        page.keyboard.press("Enter")
        expect(page.get_by_role("button", name=f"{LEAD} is signed in")).to_be_visible()

    def test_match_says_why_each_other_one_does_not_fit(self) -> None:
        page = self.page("/match/173")
        rejected = page.locator('[data-fit="rejected"]')
        expect(rejected.first).to_be_visible()
        self.assertEqual(rejected.count(), 2)
        for text in rejected.all_inner_texts():
            self.assertRegex(
                text,
                r"too (long|wide|high)|less (long|wide|high)|under the|stepped down|Positive on|posts, the|vent tube",
            )
        page.get_by_role("button", name="Say it by hand").click()
        page.get_by_label("Rating at least").fill("1400")
        page.get_by_role("button", name="Match this").click()
        expect(page.get_by_text("Nothing in the catalogue fits")).to_be_visible()
        self.assertGreater(rejected.count(), 2)

    def test_match_claims_nothing_before_it_has_an_answer_and_keeps_what_is_typed(self) -> None:
        page = self.page("/records")
        held: list[Route] = []
        page.route(
            "**/api/match", lambda route: held.append(route) if not held else route.continue_()
        )  # the first is held back
        self.desk(page, "/match/173")
        expect(page.get_by_text("Looking through the catalogue")).to_be_visible()
        expect(page.get_by_text("its car is not known")).to_have_count(0)
        expect(page.locator("input[name=code]")).to_have_count(0)
        page.wait_for_timeout(50)
        held[0].continue_()
        expect(page.locator('[data-fit="exact"]').first).to_be_visible()
        page.get_by_role("button", name="Say it by hand").click()
        expect(page.get_by_label("Group or box size")).to_have_value("48")
        page.get_by_label("Rating at least").fill("300")
        page.get_by_role("button", name="Match this").click()
        expect(page.get_by_text("from typed at the counter")).to_be_visible()
        expect(page.get_by_label("Rating at least")).to_have_value("300")
        expect(page.get_by_label("Group or box size")).to_have_value("48")
        page.get_by_role("button", name="Back to what 173 asks for").click()
        expect(page.get_by_label("What is asked")).to_contain_text("680 CCA")
        page.get_by_role("button", name="Say it by hand").click()
        expect(page.get_by_label("Rating at least")).to_have_value("680")

    def test_bench_light_and_units_of_the_house(self) -> None:
        page = self.page("/check/173")
        page.get_by_role("button", name="Change to bench light").click()
        expect(page.locator("html")).to_have_attribute("data-theme", "bench")


class Lost(Screens):
    def test_server_gone_typing_goes_on_and_is_sent_later(self) -> None:
        url, port = database(), free_port()
        with served(url, port) as base:
            self.base = base
            page = self.page("/check/171", fresh=True)
            self.look_over(page)
            expect(page.locator("input[name=volts]")).to_be_focused()
        page.keyboard.type("12.66")
        page.keyboard.press("Enter")
        expect(page.get_by_text("1 not sent yet")).to_be_visible()
        expect(page.locator("[data-rung=Volts]")).to_contain_text("12.66")
        with served(url, port):
            expect(page.locator("[data-rung=Volts]")).to_contain_text("kept")
            kept = Client(app_on(url)).get("/batteries/171").json()["readings"]
            self.assertEqual([one["reading"].get("volts") for one in kept], [None, 12.66])

    def test_what_is_typed_stays_when_the_page_cannot_be_read_afresh(self) -> None:
        page = self.page("/check/172")
        self.look_over(page)
        refused: list[str] = []

        def refuse(route: Route) -> None:
            refused.append(route.request.url)
            route.abort()

        page.route("**/api/batteries/172", refuse)
        volts = page.locator("input[name=volts]")
        volts.fill("12.66")
        other = Client(app_on(self.url), LEAD)
        other.send("PUT", "/batteries/172/place", {"place": "bench", "needs_hand_at": None})
        self.wait_until(page, lambda: len(refused) >= 3)
        page.wait_for_timeout(200)
        expect(volts).to_have_value(re.compile("^12.66"))
        page.route("**/api/batteries/172/place", lambda route: route.abort())
        page.get_by_role("button", name="Stands:").click()
        page.get_by_role("menuitem", name="Held apart").click()
        expect(page.get_by_role("alert")).to_have_text(
            re.compile("^Not moved, still (bench|counter): the server does not answer")
        )

    def test_a_screen_that_was_cut_off_looks_at_everything_afresh(self) -> None:
        url, port = database(), free_port()
        with served(url, port) as base:
            self.base = base
            page = self.page("/counter", fresh=True)
            expect(page.get_by_role("region", name=re.compile("^ready"))).to_contain_text("182")
        moved = Client(app_on(url), LEAD).send(
            "PUT", "/batteries/182/place", {"place": "held_apart", "needs_hand_at": None}
        )
        self.assertEqual(moved.status_code, 200)
        with served(url, port):
            expect(page.get_by_role("region", name=re.compile("^held apart"))).to_contain_text("182")

    def test_an_answer_asked_for_before_a_change_never_passes_for_fresh(self) -> None:
        page = self.page("/check/175")
        held: list[Route] = []
        early: list[tuple[Route, APIResponse]] = []

        def life(route: Route) -> None:
            if early:
                route.continue_()
            else:
                early.append((route, route.fetch()))

        page.route("**/api/batteries/175/readings", lambda route: held.append(route))
        page.route("**/api/batteries/175/life", life)
        page.get_by_role("button", name="Correct Volts").click()
        page.locator("input[name=volts]").fill("12.77")
        page.keyboard.press("Enter")
        expect(self.rung(page, "Volts")).to_contain_text("not sent yet")
        page.get_by_role("link", name="life").click()
        self.wait_until(page, lambda: bool(held and early))
        held[0].continue_()
        expect(page.get_by_text("corrected later")).to_be_visible()
        with contextlib.suppress(Error):  # the page has given this one up
            early[0][0].fulfill(response=early[0][1])
        page.wait_for_timeout(200)
        expect(page.get_by_text("corrected later")).to_be_visible()

    def test_a_kill_in_mid_work_loses_nothing_that_showed_kept(self) -> None:
        url, port = database(), free_port()
        environment = {**os.environ, "VANE_DATABASE_URL": url, "VANE_PORT": str(port)}
        command = [sys.executable, "-m", "vane_check.start"]

        def start() -> "subprocess.Popen[str]":
            process = subprocess.Popen(command, env=environment, cwd=ROOT, stdout=subprocess.PIPE, text=True)
            assert process.stdout is not None
            for line in process.stdout:
                if "Ctrl-C" in line:
                    break
            return process

        process = start()
        self.base = f"http://127.0.0.1:{port}"
        _wait_for_port(port)
        page = self.page("/check/171", fresh=True)
        self.look_over(page)
        page.locator("input[name=volts]").fill("12.61")
        page.keyboard.press("Enter")
        expect(page.locator("[data-rung=Volts]")).to_contain_text("kept")
        process.send_signal(signal.SIGKILL)
        process.communicate()
        process = start()
        self.addCleanup(process.communicate)
        self.addCleanup(process.terminate)
        _wait_for_port(port)
        page.reload()
        expect(page.locator("[data-rung=Volts]")).to_contain_text("12.61")


def _wait_for_port(port: int) -> None:
    import socket

    for _ in range(1200):
        with socket.socket() as probe:
            if probe.connect_ex(("127.0.0.1", port)) == 0:
                return
        time.sleep(0.05)
