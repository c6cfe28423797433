"""The other desks: house rules, records, warranty, counter help; and what a screen reader finds wrong on each."""

import json
import re

from playwright.sync_api import Page, expect

from tests.house import LEAD, TEO, Client, app_on
from tests.screens.browser import ROOT, WAIT_MS, Screens
from vane_check.core.house.rules import house_rules

AXE = ROOT / "front" / "node_modules" / "axe-core" / "axe.min.js"


COLOUR = "link => getComputedStyle(link).color"


def rgb(code: str) -> str:
    """A colour as a browser says it."""
    return f"rgb({', '.join(str(int(code[place : place + 2], 16)) for place in (1, 3, 5))})"


class HouseRules(Screens):
    def test_a_lead_makes_a_new_version_with_a_reason_and_the_check_follows_it(self) -> None:
        page = self.page("/rules", LEAD)
        page.get_by_label("replace below ratio").fill("0.70")
        make = page.get_by_role("button", name="New version from now on")
        expect(make).to_be_disabled()
        page.get_by_label("Reason").fill("our makers take claims at 70 %")
        make.click()
        expect(page.get_by_role("heading", name=re.compile("House rules .*own values"))).to_be_visible()
        expect(page.get_by_text("our makers take claims at 70 %").first).to_be_visible()
        row = page.locator('[data-rule="tester.replace_below_ratio"]')
        expect(row).not_to_contain_text("May 2026")  # from today, not from the package's day
        tag = self.taken_in(page)
        expect(page.locator("input[name=volts]")).to_be_focused()
        page.keyboard.type("1266")
        page.keyboard.press("Enter")
        expect(page.locator("input[name=measured_cca_amps]")).to_be_focused()
        expect(self.rung(page, "Tester")).to_contain_text("replace below 420")
        self.desk(page, "/check/174")
        expect(self.headline(page)).to_have_text("Cannot tell yet")
        self.desk(page, "/life/174")
        expect(page.get_by_text("house rules 2026.1)")).to_be_visible()
        self.assertGreater(tag, 0)

    def test_lists_and_values_by_name_are_set_too(self) -> None:
        page = self.page("/rules", LEAD)
        tools = page.locator('[data-rule="steps.tools_at_hand"]')
        tools.get_by_role("button", name="adjustable load").click()
        page.get_by_role("group").filter(has_text="steps").locator("summary").click()
        page.get_by_role("button", name="Set steps: minutes").click()
        page.get_by_label("tester again", exact=True).fill("3")
        page.get_by_label("Reason").fill("the load is lent out")
        page.get_by_role("button", name="New version from now on").click()
        expect(page.get_by_text("the load is lent out").first).to_be_visible()
        expect(tools.get_by_role("button", name="adjustable load")).to_have_attribute("aria-pressed", "false")
        expect(page.get_by_text("tester again 3", exact=False).first).to_be_visible()
        # of the kinds that stand in the book of equipment the book says what is at hand
        api = Client(app_on(self.url), LEAD)
        load = next(one for one in api.get("/equipment").json() if one["equipment"]["name"] == "Bench load")
        lent = {"equipment": {**load["equipment"], "state": "away"}, "based_on": load["edition"]}
        self.assertEqual(api.send("PUT", f"/equipment/{load['id']}", lent).status_code, 200)
        self.taken_in(page)
        page.locator("input[name=volts]").fill("12.75")
        page.keyboard.press("Enter")
        expect(page.locator("input[name=measured_cca_amps]")).to_be_focused()
        page.keyboard.type("450")
        # what this house has not got is not asked for: it is watched
        expect(self.headline(page)).to_have_text("It stays open here: watch it")

    def test_a_value_that_cannot_be_says_so_in_its_row(self) -> None:
        page = self.page("/rules", LEAD)
        page.get_by_label("recharge line volts").fill("124")
        page.get_by_label("Reason").fill("slip")
        page.get_by_role("button", name="New version from now on").click()
        expect(page.get_by_text("Enter 12 to 12.7")).to_be_visible()
        expect(page.get_by_label("recharge line volts")).to_have_value("124")

    def test_a_preset_shows_what_it_changes(self) -> None:
        page = self.page("/rules", LEAD)
        page.get_by_text("Load first").first.click()
        expect(page.get_by_label("recharge line volts")).to_have_value("12.5")
        expect(page.locator("[data-changed=true]")).to_have_count(3)

    def test_the_counter_reads_every_value_and_changes_none(self) -> None:
        page = self.page("/rules", TEO)
        expect(page.get_by_text("Only a lead makes a new version")).to_be_visible()
        expect(page.get_by_role("button", name="New version from now on")).to_have_count(0)
        rows = page.locator("[data-rule]")
        self.assertLess(rows.count(), 20)  # what houses differ in; the rest is folded by what it is about
        for matter in page.locator("summary").all():
            matter.click()
        expect(rows).to_have_count(len(house_rules().parameters()))
        for text in rows.all_inner_texts():
            self.assertRegex(text, "(published|practice|memory), holds from \\d+ \\w+ 2026")

    def test_a_rule_is_found_by_its_words_and_says_from_when_it_holds(self) -> None:
        page = self.page("/rules", TEO)
        page.get_by_label("Find a rule").fill("tester cold")
        found = page.locator("[data-rule]")
        expect(found).to_have_count(2)
        rules = len(house_rules().parameters())
        expect(page.get_by_text(f"2 of {rules} rules")).to_be_visible()
        expect(found.first).to_contain_text("tester")
        page.get_by_label("Find a rule").fill("zeppelin")
        expect(page.get_by_text(f"0 of {rules} rules")).to_be_visible()


class Counter(Screens):
    def test_a_date_code_is_read_into_months_to_pick_from(self) -> None:
        page = self.page("/counter")
        page.get_by_label("Date code").fill("C5")
        expect(page.get_by_role("radio", name="Mar 2025")).to_be_checked()
        page.get_by_text("Mar 2015 ?").click()
        page.get_by_role("button", name="Take it in").click()
        page.wait_for_url("**/check/*")
        expect(page.locator("aside")).to_contain_text("Mar 2015")

    def test_a_code_that_is_no_date_says_what_to_try(self) -> None:
        page = self.page("/counter")
        page.get_by_label("Date code").fill("XYZ")
        page.get_by_role("button", name="Take it in").click()
        expect(page.get_by_text("try C5, 0325 or 2512")).to_be_visible()
        expect(page.get_by_label("Date code")).to_have_value("XYZ")

    def test_a_type_code_is_recognised_as_its_size(self) -> None:
        page = self.page("/counter")
        self.taken_in_by_hand(page, size="55D23L")
        expect(page.locator("aside")).to_contain_text("D23L, + right")

    def test_an_unknown_size_is_refused_in_its_field_and_nothing_typed_is_lost(self) -> None:
        page = self.page("/counter")
        expect(page.get_by_role("textbox", name="Rated figure")).to_be_focused()
        page.keyboard.type("640")
        page.get_by_label("Group or box size").fill("99Z")
        page.get_by_role("button", name="Take it in").click()
        expect(page.get_by_text("no group or box size is called 99Z")).to_be_visible()
        expect(page.get_by_role("textbox", name="Rated figure")).to_have_value("640")

    def test_jis_as_a_scale_of_amps_is_refused_with_the_way_out(self) -> None:
        page = self.page("/counter")
        expect(page.get_by_role("textbox", name="Rated figure")).to_be_focused()
        page.keyboard.type("65")
        page.locator("[data-word=scale]").click()
        page.get_by_text("JIS", exact=True).click()
        page.get_by_role("button", name="Take it in").click()
        expect(page.get_by_text("is a type code, not a number of amps")).to_be_visible()

    def test_a_car_that_is_taken_away_takes_the_size_it_lent_and_leaves_one_that_was_read(self) -> None:
        page = self.page("/counter")
        car, size = page.get_by_label("Car, if known"), page.get_by_label("Group or box size")
        for read, left in ((None, ""), ("48", "48")):
            with self.subTest(read):
                if read:
                    size.fill(read)
                    page.keyboard.press("Enter")
                car.fill("Brevan Tillet 1.2")
                expect(page.locator("[data-word=stop_start_car]")).to_contain_text("Stop-start: stop-start")
                self.assertNotEqual(size.input_value(), "")
                car.fill("")
                page.keyboard.press("Tab")
                expect(size).to_have_value(left)

    def test_a_missing_rating_is_borrowed_from_the_car_and_the_label_can_be_corrected(self) -> None:
        page = self.page("/counter")
        page.get_by_label("Car, if known").fill("Brevan Tillet 1.2")
        expect(page.locator("[data-word=stop_start_car]")).to_contain_text("Stop-start: stop-start")
        page.get_by_role("button", name="Take it in").click()
        page.wait_for_url("**/check/*")
        expect(page.locator("aside")).to_contain_text("680 CCA from the vehicle")
        lent = page.locator("aside").get_by_role("link", name="as the car asks")
        expect(lent).to_have_count(2)  # its type and its size: nobody read either
        self.assertEqual(lent.first.evaluate(COLOUR), lent.last.evaluate(COLOUR))
        plum = page.evaluate("getComputedStyle(document.documentElement).getPropertyValue('--plum')").strip()
        self.assertEqual(lent.first.evaluate(COLOUR), rgb(plum))
        page.get_by_role("link", name="Correct the label").click()
        expect(page.get_by_role("textbox", name="Rated figure")).to_have_value("")
        page.get_by_role("textbox", name="Rated figure").fill("700")
        size = page.get_by_label("Group or box size")
        size.fill(size.input_value())
        page.keyboard.press("Enter")
        page.get_by_role("button", name="Write the correction").click()
        page.wait_for_url("**/check/*")
        expect(page.locator("aside")).to_contain_text("700 CCA")
        expect(page.locator("aside")).not_to_contain_text("from the vehicle")
        expect(lent).to_have_count(1)  # the size is read now


class Warranty(Screens):
    def test_each_standing_battery_gets_its_plain_answer(self) -> None:
        page = self.page("/warranty/173")
        for tag, said in (
            (173, "free months used"),
            (176, "Discharged or unproven"),
            (178, "taxi"),
            (183, "Unsafe"),
            (171, "No date"),
        ):
            with self.subTest(tag=tag):
                self.desk(page, f"/warranty/{tag}")
                if tag == 178:
                    expect(page.get_by_test_id("decision")).to_contain_text("Discharged")
                elif tag == 171:
                    expect(page.get_by_test_id("decision")).to_be_visible()
                else:
                    expect(page.get_by_test_id("decision")).to_contain_text(said)
                expect(page.get_by_text("Can it be handed back?")).to_be_visible()

    def test_no_claim_where_nothing_is_given(self) -> None:
        page = self.page("/warranty/176")
        expect(page.get_by_test_id("decision")).to_be_visible()
        expect(page.get_by_role("button", name="Write the claim")).to_have_count(0)


class Records(Screens):
    def test_half_a_year_is_searched_by_line_and_tag(self) -> None:
        page = self.page("/records")
        expect(page.get_by_role("link", name=re.compile("worn out")).first).to_be_visible()
        page.get_by_label("Search by tag").fill("QC48")
        expect(page.locator("main").get_by_role("link", name=re.compile(r"^\d"))).to_have_count(1)
        page.get_by_label("Search by tag").fill("no such thing")
        expect(page.get_by_text("No check matches")).to_be_visible()

    def test_a_check_file_can_be_taken_out(self) -> None:
        page = self.page("/life/173")
        expect(page.get_by_test_id("trend")).to_contain_text("-39 %")
        expect(page.get_by_role("link", name="Check file")).to_be_visible()
        body = page.evaluate("fetch('/api/batteries/173/check-file').then((answer) => answer.text())")
        self.assertEqual(json.loads(body)["format"], "vane-check/1")


class Accessible(Screens):
    expected_seconds = 80.0

    def findings(self, page: Page, about: tuple[str, ...] = ()) -> list[str]:
        """What axe finds, or only what it finds about these things."""
        if not page.evaluate("'axe' in window"):
            page.evaluate(AXE.read_text())
        found = page.evaluate(
            """(about) => axe.run(about.length ? { runOnly: about } : {}).then((result) =>
              result.violations.map((one) => `${one.id}: ${one.nodes[0].html}`))""",
            about,
        )
        return list(found)

    def test_axe_finds_nothing_on_any_desk_in_either_light(self) -> None:
        context = self.browser.new_context(
            viewport={"width": 1280, "height": 800}, bypass_csp=True, reduced_motion="reduce"
        )
        self.addCleanup(context.close)
        page = context.new_page()
        page.set_default_timeout(WAIT_MS)
        page.goto(self.base)
        expect(page.get_by_role("button", name=LEAD)).to_be_visible()
        self.assertEqual(self.findings(page), [])
        self.sign_in(page, LEAD)
        for light in ("paper", "bench"):
            for path in (
                "/counter",
                "/check",
                "/check/174",
                "/check/186",
                "/match",
                "/match/173",
                "/goods",
                "/goods?view=catalogue",
                "/goods/lists",
                "/fitting/197",
                "/warranty/173",
                "/life/173",
                "/records",
                "/customers",
                "/rack",
                "/rack/176",
                "/equipment",
                "/house",
                "/rules",
            ):
                with self.subTest(path, light=light):
                    self.desk(page, path)
                    expect(page.get_by_role("navigation", name="Shelf")).to_be_visible()
                    expect(page.locator("main").locator("h1, h2").first).to_be_visible()
                    self.drawn(page)
                    # the other light is the same page in other colours
                    self.assertEqual(self.findings(page, () if light == "paper" else ("cat.color",)), [])
            page.get_by_role("button", name=re.compile("Change to bench light|Change to paper light")).click()
