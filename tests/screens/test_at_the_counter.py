"""At the counter: no wrong battery, no hazard wiped away, one hand, one glance."""

import re

from playwright.sync_api import Page, Route, expect

from tests.house import LEAD, Client, app_on
from tests.screens.browser import Screens


class NoWrongBattery(Screens):
    def test_bare_digits_are_never_a_tag(self) -> None:
        page = self.page("/records")
        page.locator("h1").click()
        page.keyboard.type("173\n")
        page.wait_for_timeout(300)
        self.assertTrue(page.url.endswith("/records"))
        self.desk(page, "/check/171")
        self.look_over(page)
        page.keyboard.type("126\n")  # a tag typed where volts are asked
        said = "Did you mean {} V? Type the point. A tag goes after /"
        expect(self.rung(page, "Volts")).to_contain_text(said.format("12.6"))
        page.keyboard.press("Backspace")
        page.keyboard.type("7")
        expect(self.rung(page, "Volts")).to_contain_text(said.format("12.7"))
        page.wait_for_timeout(600)  # until nothing is drawn anew by itself
        page.keyboard.press("Enter")
        page.wait_for_timeout(300)
        expect(self.rung(page, "Volts")).to_contain_text(said.format("12.7"))
        page.keyboard.press("Backspace")
        page.keyboard.type("6")
        expect(page.locator("input[name=volts]")).to_have_value("126")
        kept = Client(app_on(self.url), LEAD).get("/batteries/171").json()["readings"]
        self.assertEqual([one["reading"]["kind"] for one in kept], ["look"])

    def test_one_key_opens_the_tag_line_from_inside_a_field_and_what_was_typed_stays(self) -> None:
        page = self.page(None)
        self.taken_in(page)
        expect(page.locator("input[name=volts]")).to_be_focused()
        page.keyboard.type("12.")
        page.keyboard.press("/")
        page.keyboard.type("183")
        line = page.get_by_role("dialog", name="Go to a battery")
        expect(line.get_by_text("unsafe")).to_be_visible()
        expect(line.get_by_text("Hill Farm", exact=False)).to_be_visible()
        page.keyboard.press("Escape")
        expect(page.locator("input[name=volts]")).to_have_value("12.")
        page.keyboard.press("/")
        page.keyboard.type("9999")
        expect(line.get_by_text("No battery here carries 9999")).to_be_visible()
        expect(line.get_by_role("button", name=re.compile("^Go to"))).to_be_disabled()

    def test_a_scanned_code_shows_the_battery_and_leaves_the_field_it_fell_into_as_it_was(self) -> None:
        page = self.page("/counter")
        customer = page.get_by_label("Customer")
        customer.fill("O'Brien / Sons")
        self.scan(page, "/186")
        line = page.get_by_role("dialog", name="Go to a battery")
        expect(line.get_by_text("Tessaro Duty")).to_be_visible()
        self.assertTrue(page.url.endswith("/counter"))  # shown first; a person says go
        page.keyboard.press("Enter")
        page.wait_for_url("**/check/186")
        page.go_back()
        expect(customer).to_have_value("O'Brien / Sons")

    def test_an_enter_that_comes_before_the_line_of_a_scanned_code_is_drawn_still_goes(self) -> None:
        page = self.page("/counter")
        page.get_by_label("Customer").fill("Sons")
        # the scan and the person's Enter in one go, as on a device that draws late
        page.evaluate(
            """(keys) => {
              const pressed = (key) => new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true });
              const all = keys.map(pressed);
              const later = pressed("Enter");
              Object.defineProperty(later, "timeStamp", { value: all.at(-1).timeStamp + 200 });
              for (const typed of [...all, later]) (document.activeElement ?? document.body).dispatchEvent(typed);
            }""",
            [*"/186", "Enter"],
        )
        page.wait_for_url("**/check/186")

    def scan(self, page: Page, code: str) -> None:
        """Keys as quick as a scanner's, into whatever has the focus."""
        page.evaluate(
            """(keys) => {
              // made at once: a key's time is when it was pressed, however long the page takes over it
              const all = keys.map((key) => new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true }));
              for (const typed of all) {
                const at = document.activeElement ?? document.body;
                if (at.dispatchEvent(typed) && typed.key.length === 1)
                  document.execCommand("insertText", false, typed.key);
              }
            }""",
            [*code, "Enter"],
        )

    def test_a_take_in_made_by_mistake_is_undone_by_one_key(self) -> None:
        page = self.page(None)
        tag = self.taken_in(page, looked=False)
        expect(page.get_by_text("nothing read yet")).to_be_visible()
        page.keyboard.press("z")
        page.wait_for_url("**/counter")
        expect(page.get_by_role("navigation", name="Shelf")).not_to_contain_text(str(tag))
        self.desk(page, f"/check/{tag}")
        expect(page.get_by_text("Taken in by mistake and taken back")).to_be_visible()

    def test_a_label_misread_is_asked_about(self) -> None:
        page = self.page("/counter")
        expect(page.get_by_role("textbox", name="Rated figure")).to_be_focused()
        page.keyboard.type("550")
        page.get_by_label("Group or box size").fill("47")
        page.keyboard.press("Tab")
        page.locator("[data-word=scale]").click()
        page.get_by_text("DIN", exact=True).click()
        page.get_by_role("button", name="Take it in").click()
        expect(page.get_by_text("about 965 CCA", exact=False).first).to_be_visible()
        page.get_by_role("button", name="It says so: take it as it is").click()
        page.wait_for_url("**/check/*")
        expect(page.locator("aside")).to_contain_text("550 DIN")


class Hazards(Screens):
    def test_nothing_wrong_is_gone_once_a_sign_is_marked_and_a_hazard_goes_only_with_a_reason(self) -> None:
        page = self.page(None)
        self.taken_in(page, looked=False)
        look = self.rung(page, "Look")
        look.get_by_role("button", name="Bulged").click()
        expect(page.get_by_role("button", name="Nothing wrong")).to_have_count(0)
        expect(self.headline(page)).to_have_text("Unsafe: hold it apart")
        look.get_by_role("button", name="Keep what is seen").click()
        self.kept(page, "Look", "Bulged")
        expect(page.get_by_role("button", name="Nothing wrong")).to_have_count(0)
        page.keyboard.press("z")  # one key does not wipe it away
        expect(look.get_by_role("button", name="Undo: take this reading back")).to_be_disabled()
        look.get_by_role("button", name="Bulged").click()
        expect(look.get_by_text("Say why, such as")).to_be_visible()
        expect(look.get_by_role("button", name="Keep what is seen")).to_be_disabled()
        look.get_by_label("Why is").fill("it was the battery beside it")
        look.get_by_role("button", name="Keep what is seen").click()
        self.kept(page, "Look", "Nothing wrong")
        expect(self.headline(page)).to_have_text("Cannot tell yet")

    def test_unsafe_closes_tests_and_charge_and_holding_apart_is_the_one_big_thing(self) -> None:
        page = self.page(None)
        tag = self.taken_in(page, looked=False)
        self.rung(page, "Look").get_by_role("button", name="Cracked").click()
        self.rung(page, "Look").get_by_role("button", name="Keep what is seen").click()
        self.kept(page, "Look", "Cracked")
        expect(self.rung(page, "Tester").get_by_role("button")).to_be_disabled()
        page.keyboard.press("t")
        expect(page.locator("[data-open]")).to_have_count(0)
        hold = page.get_by_role("button", name="Hold it apart now")
        expect(hold).to_be_focused()
        page.keyboard.press("Enter")
        expect(page.get_by_role("region", name=re.compile("^held apart"))).to_contain_text(str(tag))
        page.get_by_role("button", name="Open with a reason").click()
        page.get_by_label("Why is it read nevertheless?").fill("the maker asked for it")
        page.keyboard.press("Enter")
        self.open_rung(page, "V", "Volts")
        page.keyboard.type("12.6\n")
        self.kept(page, "Volts", "12.60")
        kept = Client(app_on(self.url), LEAD).get(f"/batteries/{tag}").json()["readings"][-1]["reading"]
        self.assertEqual(kept["reason"], "the maker asked for it")


class OneGlance(Screens):
    def test_a_word_opens_by_its_letter_and_one_at_odds_stands_out(self) -> None:
        page = self.page(None)
        self.taken_in(page)
        page.keyboard.type("12.65\n")
        expect(page.locator("input[name=measured_cca_amps]")).to_be_focused()
        word = self.rung(page, "Tester").locator("[data-word=type_set]")
        expect(word).to_have_attribute("aria-expanded", "false")
        page.keyboard.press("y")
        expect(word).to_have_attribute("aria-expanded", "true")
        self.rung(page, "Tester").get_by_text("Gel", exact=True).click()
        page.keyboard.press("Shift+H")
        expect(page.locator("input[name=health_pct]")).to_be_focused()
        for one in page.locator("[data-word]").all():
            expect(one.locator("sup")).to_have_count(1)  # every word shows its letter
        expect(word).to_contain_text("gel")
        expect(word).to_contain_text("not as on the label")

    def test_a_feather_and_its_reason_are_one_thing(self) -> None:
        page = self.page("/check/186")
        reason = page.locator("[data-reason=adjustable_load]")
        expect(reason).to_contain_text("1")
        page.locator("[data-kind=adjustable_load]").dispatch_event("click")
        expect(reason).to_have_attribute("aria-expanded", "true")
        reason.click()
        expect(reason).to_have_attribute("aria-expanded", "false")

    def test_reasons_jobs_and_the_next_step_are_in_sight_together_on_every_check(self) -> None:
        page = self.page("/counter")
        for tag in range(171, 188):
            self.desk(page, f"/check/{tag}")
            expect(self.headline(page)).to_be_visible()
            page.wait_for_timeout(150)
            with self.subTest(tag):
                bottom = page.get_by_role("navigation", name="Shelf").bounding_box()
                assert bottom is not None
                parts = [page.get_by_test_id("next-step"), page.locator("[data-reason]").first, self.headline(page)]
                if page.get_by_role("list", name="Jobs").count():
                    parts.append(page.get_by_role("list", name="Jobs").locator("li").last)
                for part in parts:
                    if part.count() == 0:
                        continue  # nothing was read yet
                    box = part.bounding_box()
                    assert box is not None
                    self.assertLess(box["y"] + box["height"], bottom["y"])
                    shown = "el => { const b = el.getBoundingClientRect(); const e = document.elementFromPoint(b.x + 8, b.y + b.height / 2); return el.contains(e) || e.contains(el); }"
                    self.assertTrue(part.evaluate(shown), part)

    def test_after_the_last_keep_the_focus_goes_to_what_is_next(self) -> None:
        page = self.page(None)
        self.taken_in(page)
        page.keyboard.type("12.65\n")
        expect(page.locator("input[name=measured_cca_amps]")).to_be_focused()
        page.keyboard.type("300\n")
        expect(page.get_by_role("link", name=re.compile("^Warranty"))).to_be_focused()
        page.keyboard.press("z")
        expect(self.headline(page)).to_have_text("Cannot tell yet")

    def test_no_label_of_the_vane_lies_over_another(self) -> None:
        page = self.page("/check/174")
        expect(self.headline(page)).to_be_visible()
        boxes = page.locator("[data-station]").evaluate_all(
            "all => all.map(g => { const b = g.getBoundingClientRect(); return [b.left, b.top, b.right, b.bottom]; })"
        )
        self.assertEqual(len(boxes), 8)
        for index, one in enumerate(boxes):
            for other in boxes[index + 1 :]:
                apart = one[2] <= other[0] or other[2] <= one[0] or one[3] <= other[1] or other[3] <= one[1]
                self.assertTrue(apart, (one, other))

    def test_help_is_a_page_for_each_desk_and_back_brings_the_search_again(self) -> None:
        page = self.page("/records")
        page.get_by_label("Search by tag").fill("merlow")
        expect(page.get_by_text("page 1 of")).to_be_visible()
        page.get_by_label("Past checks").get_by_role("link").nth(3).click()
        page.wait_for_url("**/life/*")
        page.go_back()
        expect(page.get_by_label("Search by tag")).to_have_value("merlow")
        page.locator("h1").click()
        page.keyboard.press("?")
        expect(page.get_by_role("dialog").get_by_role("heading", name="Records")).to_be_visible()
        page.keyboard.press("Escape")
        self.desk(page, "/check/174")
        expect(self.headline(page)).to_be_visible()
        page.locator("aside").click()
        page.keyboard.press("?")
        expect(page.get_by_role("dialog")).to_contain_text("undo the last entry")

    def test_a_known_customer_s_battery_is_taken_in_with_at_most_ten_inputs(self) -> None:
        """An input is a field filled, a key pressed for itself, or a press of a button."""
        page = self.page("/counter")
        expect(page.get_by_role("textbox", name="Rated figure")).to_be_focused()
        inputs = 0
        page.keyboard.type("680")
        inputs += 1
        for label, text in (
            ("Customer", "M. Lindqvar"),
            ("Car, if known", "Brevan Tillet 1.2"),
            ("Line", "Quellan Cycle"),
        ):
            page.get_by_label(label, exact=True).fill(text)
            inputs += 1
        page.get_by_text("Slow crank").click()
        inputs += 1
        page.get_by_role("button", name="Take it in").click()
        inputs += 1
        page.wait_for_url("**/check/*")
        expect(page.locator("aside")).to_contain_text("48, + right")
        expect(page.locator("aside")).to_contain_text("slow crank")
        self.assertLessEqual(inputs, 10)

    def test_a_six_volt_battery_is_drawn_with_three_cells_whether_its_size_is_known_or_not(self) -> None:
        page = self.page("/counter")
        for size in ("GC2", ""):
            self.desk(page, "/counter")
            expect(page.get_by_role("textbox", name="Rated figure")).to_be_focused()
            page.locator("[data-word=volts]").click()
            page.get_by_text("6 V", exact=True).last.click()
            if size:
                page.get_by_label("Group or box size").fill(size)
            page.get_by_role("button", name="Take it in").click()
            page.wait_for_url("**/check/*")
            expect(page.locator("aside")).to_contain_text("6\u00a0V")
            expect(page.locator("aside svg circle")).to_have_count(5)  # three vents and two posts


class Released(Screens):
    def test_a_page_left_open_over_a_new_release_loads_again_and_loses_nothing(self) -> None:
        page = self.page("/counter")
        gone: list[str] = []

        def old(route: Route) -> None:
            if gone:
                return route.continue_()
            gone.append(route.request.url)
            route.fulfill(status=404, body="no such file")

        fresh = page.context.new_page()
        fresh.route("**/assets/RulesDesk*.js", old)
        fresh.goto(f"{self.base}/counter")
        expect(fresh.get_by_role("navigation", name="Shelf")).to_be_visible()
        fresh.get_by_label("Customer").fill("Half a na")
        fresh.get_by_role("link", name="house rules").click()
        expect(fresh.get_by_role("heading", name=re.compile("^House rules"))).to_be_visible()
        self.assertEqual(len(gone), 1)
        fresh.goto(f"{self.base}/counter")
        expect(fresh.get_by_label("Customer")).to_have_value("Half a na")
