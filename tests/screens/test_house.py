"""A shop set up on the first page, and the House desk of one that runs: people, settings, what was changed."""

import time
from io import BytesIO
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any, ClassVar
from unittest import mock

from PIL import Image
from playwright.sync_api import Page, expect
from pypdf import PdfReader

from tests.house import LEAD, OWNER_NAME, PINS, TEO, empty, served
from tests.screens.browser import Screens
from vane_check.start import backup
from vane_check.start.backup import Asked, CannotBackUp

CODE = "5ca1ab1e"


class SettingUp(Screens):
    keys: ClassVar[list[str]] = []

    def on_empty(self, base: str) -> Page:
        context = self.browser.new_context(
            viewport={"width": 1280, "height": 800}, timezone_id="Europe/Madrid", locale="en-GB"
        )
        self.addCleanup(context.close)
        page = context.new_page()
        errors: list[str] = []
        page.on("pageerror", lambda error: errors.append(str(error)))
        self.addCleanup(lambda: self.assertEqual(errors, []))
        page.goto(f"{base}/?code={CODE}")
        expect(page.get_by_role("heading", name="A shop of your own")).to_be_visible()
        return page

    def test_a_bare_server_is_a_shop_that_takes_a_battery_in(self) -> None:
        with served(empty(), set_up_code=CODE) as base:
            page = self.on_empty(base)
            expect(page.get_by_label("Time zone").first).to_have_value("Europe/Madrid")
            expect(page.get_by_label("Money").first).to_have_value("GBP")
            page.locator("input[name=shop]").fill("Quay Cells")
            page.locator("input[name=hours-0]").fill("8")
            expect(page.get_by_text("Enter from and until, such as 8:30 17:30")).to_be_visible()
            page.locator("input[name=hours-0]").fill("7:45 to 18")
            page.locator("input[name=hours-1]").fill("")
            page.locator("input[name=name-0]").fill("Maren Oduya")
            page.locator("input[name=pin-0]").fill("5505")
            page.get_by_role("button", name="One more person").click()
            page.locator("input[name=name-1]").fill("Pia Rell")
            page.locator("input[name=pin-1]").fill("660660")
            page.get_by_role("radiogroup", name="Have you an electronic tester").get_by_text("No").click()
            page.get_by_role("radiogroup", name="When two readings").get_by_text("the volts under load").click()
            expect(page.get_by_text("Crank first")).to_be_visible()
            page.get_by_role("radiogroup", name="always pulls the same").get_by_text("Yes").click()
            expect(page.get_by_text("Fixed load first")).to_be_visible()
            page.get_by_role("button", name="Open the shop").click()
            expect(page.get_by_text("A PIN has six digits or more")).to_be_visible()
            expect(page.locator("input[name=name-1]")).to_have_value("Pia Rell")
            page.locator("input[name=pin-0]").fill("550550")
            page.get_by_role("button", name="Open the shop").click()
            expect(page.get_by_role("heading", name="The house")).to_be_visible()
            expect(page.get_by_role("region", name="Still missing").get_by_role("listitem")).to_have_count(7)
            page.keyboard.press("c")
            page.locator("input[name=amps]").or_(page.get_by_label("Rated figure")).first.fill("600")
            page.get_by_text("Slow crank").click()
            page.get_by_role("button", name="Take it in").click()
            expect(page).to_have_url(f"{base}/check/1")
            other = self.on_door(base)
            expect(other.get_by_role("button", name="Pia Rell")).to_be_visible()
            page.goto(f"{base}/equipment")
            expect(page.get_by_label("Monday, open from and until")).to_have_value("07:45 18:00")
            expect(page.get_by_label("Friday, open from and until")).to_have_value("07:45 18:00")
            expect(page.get_by_label("Saturday, open from and until")).to_have_value("")

    def on_door(self, base: str) -> Page:
        context = self.browser.new_context()
        self.addCleanup(context.close)
        page = context.new_page()
        page.goto(base)
        return page

    def test_without_the_code_nothing_is_opened_and_nothing_typed_is_lost(self) -> None:
        with served(empty(), set_up_code=CODE) as base:
            page = self.on_empty(base)
            page.locator("input[name=shop]").fill("Quay Cells")
            page.locator("input[name=name-0]").fill("Maren Oduya")
            page.locator("input[name=pin-0]").fill("550550")
            page.locator("input[name=code]").fill("guess")
            page.get_by_role("button", name="Open the shop").click()
            expect(page.get_by_text("That is not the code the start command printed")).to_be_visible()
            expect(page.locator("input[name=shop]")).to_have_value("Quay Cells")

    def test_the_first_page_fits_a_tablet_and_a_phone(self) -> None:
        with served(empty(), set_up_code=CODE) as base:
            page = self.on_empty(base)
            for width, height in ((1024, 768), (820, 1180), (390, 844)):
                page.set_viewport_size({"width": width, "height": height})
                with self.subTest(width=width):
                    wide = page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth")
                    self.assertEqual(wide, 0)
                    low = page.evaluate(
                        "[...document.querySelectorAll('button, input')].filter(e => e.offsetParent && e.type !== 'radio' && "
                        "e.getBoundingClientRect().height < 40).map(e => e.outerHTML.slice(0, 80))"
                    )
                    self.assertEqual(low, [])
                    page.get_by_role("button", name="Open the shop").scroll_into_view_if_needed()
                    expect(page.get_by_role("button", name="Open the shop")).to_be_in_viewport()


class HouseDesk(Screens):
    def person(self, page: Page, name: str) -> Any:
        return page.get_by_role("region", name="The house").get_by_role("button", name=name)

    def test_people_come_change_and_go_and_all_of_it_stands_on_record(self) -> None:
        page = self.page("/house", OWNER_NAME)
        page.get_by_role("button", name="Write somebody in").click()
        page.locator("input[name=name]").fill("Pia Rell")
        page.locator("input[name=pin]").fill("12")
        page.get_by_role("button", name="Take on").click()
        expect(page.get_by_text("A pin has at least 6 digits")).to_be_visible()
        page.locator("input[name=pin]").fill("909090")
        page.get_by_role("button", name="Take on").click()
        self.person(page, "Pia Rell").click()
        page.get_by_role("radiogroup", name="May").get_by_text("lead").click()
        page.get_by_role("button", name="Keep it so").click()
        changes = page.get_by_role("list", name="What was changed")
        expect(changes.get_by_role("listitem").first).to_contain_text("role counter → lead")
        self.person(page, "Pia Rell").click()
        page.get_by_role("button", name="No longer works here").click()
        expect(changes.get_by_role("listitem").first).to_contain_text("works here yes → no")
        expect(self.person(page, "Pia Rell")).to_contain_text("left")
        self.assertEqual(page.get_by_text("909090").count(), 0)

    def test_a_new_edition_of_terms_holds_for_what_is_sold_from_its_day(self) -> None:
        page = self.page("/house", LEAD)
        page.get_by_role("button", name="Lines and editions").click()
        page.get_by_role("button", name="Quellan Cycle").click()
        form = page.get_by_role("form", name="New terms of Quellan Cycle")
        form.locator("input[name=free]").fill("1,5")
        form.get_by_role("button", name="Keep as a new edition").click()
        expect(form.locator("[data-invalid] input[name=free]").or_(form.get_by_text("whole")).first).to_be_visible()
        form.locator("input[name=free]").fill("48")
        form.get_by_text("Taxi").first.click()
        for part, typed in (("day", "01"), ("month", "10"), ("year", "2026")):
            form.get_by_role("spinbutton", name=part).click()
            page.keyboard.type(typed)
        form.get_by_role("button", name="Keep as a new edition").click()
        editions = page.get_by_role("list", name="Editions").get_by_role("listitem")
        expect(editions).to_have_count(2)
        expect(editions.first).to_contain_text("sold from 1 Oct 2026: 48 months free, 24 more by months used")
        expect(editions.first).to_contain_text("not for taxi (in force)")
        page.get_by_role("button", name="All lines").click()
        page.get_by_role("button", name="Leave it").click()
        expect(page.get_by_role("list", name="What was changed")).to_contain_text("months free 36 → 48")

    def test_what_papers_say_is_the_shop_s(self) -> None:
        page = self.page("/house", LEAD)
        form = page.get_by_role("form", name="The shop")
        form.locator("input[name=tax_pct]").fill("19,5")
        form.get_by_label("Under the name on every paper").fill("12 Quay\n0555 0999")
        form.get_by_role("radiogroup", name="Paper size").get_by_text("Letter").click()
        form.get_by_role("button", name="Save").click()
        changes = page.get_by_role("list", name="What was changed").get_by_role("listitem").first
        expect(changes).to_contain_text("tax, % 23 → 19.5")
        expect(changes).to_contain_text("sheets A4 → Letter")
        made = BytesIO()
        Image.new("RGB", (80, 30), (15, 107, 92)).save(made, "PNG")
        with page.expect_file_chooser() as chooser:
            page.get_by_role("button", name="A picture for papers").click()
        chooser.value.set_files({"name": "no.png", "mimeType": "image/png", "buffer": b"none"})
        expect(page.get_by_text("That is no picture that can be printed")).to_be_visible()
        with page.expect_file_chooser() as chooser:
            page.get_by_role("button", name="A picture for papers").click()
        chooser.value.set_files({"name": "mark.png", "mimeType": "image/png", "buffer": made.getvalue()})
        expect(page.get_by_text("a picture stands at the head of papers")).to_be_visible()
        paper = PdfReader(BytesIO(page.request.get(f"{self.base}/api/batteries/175/slip.pdf").body())).pages[0]
        self.assertEqual((len(paper.images), float(paper.mediabox.width)), (1, 612.0))
        self.assertIn("12 Quay", paper.extract_text())

    def test_a_lead_changes_counter_hands_and_a_counter_hand_nothing(self) -> None:
        lead = self.page("/house", LEAD)
        expect(self.person(lead, OWNER_NAME)).to_be_disabled()
        self.person(lead, TEO).click()
        lead.get_by_role("button", name="Lift a wait").click()
        expect(lead.get_by_role("list", name="What was changed").get_by_role("listitem").first).to_contain_text(
            "wait lifted"
        )
        teo = self.page("/house", TEO)
        expect(teo.get_by_text("only a lead can do this")).to_be_visible()
        rules = self.page("/rules", TEO)
        expect(rules.get_by_role("heading", name="House rules")).to_be_visible()
        expect(rules.get_by_role("link", name="the house and its people")).to_have_count(0)

    def test_settings_are_followed_at_once_and_two_at_once_are_told(self) -> None:
        one, two = self.page("/house", OWNER_NAME), self.page("/house", LEAD)
        expect(two.get_by_role("heading", name="The shop")).to_be_visible()
        two.locator("input[name=idle]").fill("25")
        one.get_by_role("radiogroup", name="Temperatures").get_by_text("°F").click()
        expect(one.locator("input[name=bay]")).to_have_value("19")
        one.locator("input[name=bay]").fill("66.2")
        one.get_by_role("button", name="Save").click()
        changes = one.get_by_role("list", name="What was changed")
        expect(changes.get_by_role("listitem").first).to_contain_text("temperatures C → F")
        expect(two.get_by_text("Changed meanwhile to Weir Lane Batteries")).to_be_visible()
        expect(two.locator("input[name=idle]")).to_have_value("25")
        two.get_by_role("button", name="Save").click()
        expect(two.get_by_text("what you typed is still here")).to_be_visible()
        two.get_by_role("button", name="Take what stands now").click()
        expect(two.locator("input[name=bay]")).to_have_value("66.2")
        teo = self.page("/equipment", TEO, fresh=True)
        expect(teo.get_by_role("heading", name="Book of equipment")).to_be_visible()
        one.reload()
        expect(one.locator("input[name=bay]")).to_have_value("66.2")


class BackupLine(Screens):
    def test_a_backup_is_asked_for_waited_for_and_its_fault_is_said(self) -> None:
        with TemporaryDirectory() as folder:
            asked = Asked(self.url, Path(folder))
            self.addCleanup(asked.close)
            self.assertFalse(asked.look(time.monotonic()))
            page = self.page("/house", LEAD)
            expect(page.get_by_text("No backup was made yet")).to_be_visible()
            page.get_by_role("button", name="Make one now").click()
            expect(page.get_by_role("button", name="It is being made")).to_be_disabled()
            self.assertTrue(asked.look(time.monotonic()))
            asked.make()
            expect(page.get_by_text("Last good backup today")).to_be_visible()
            expect(page.get_by_role("button", name="Make one now")).to_be_enabled()
            with mock.patch.object(backup, "run", side_effect=CannotBackUp("pg_dump failed: the disk is full")):
                asked.make()
            page.reload()
            expect(page.get_by_text("The last try failed: pg_dump failed: the disk is full")).to_be_visible()
            expect(page.get_by_text("Last good backup today")).to_be_visible()


class TwoServers(Screens):
    def test_what_is_done_at_one_server_stands_on_the_screens_of_the_other(self) -> None:
        with served(self.url) as other:
            here = self.page("/counter", TEO)
            context = self.browser.new_context(viewport={"width": 1280, "height": 800}, reduced_motion="reduce")
            self.addCleanup(context.close)
            there = context.new_page()
            there.goto(other)
            there.get_by_role("button", name=LEAD).click()
            with there.expect_response("**/api/events"):  # from here on it hears
                there.keyboard.type(PINS[LEAD] + "\n")
            expect(there.get_by_role("region", name="counter, 2")).to_be_visible()
            here.get_by_label("Rated figure").first.fill("610")
            here.get_by_text("Slow crank").click()
            here.get_by_role("button", name="Take it in").click()
            here.wait_for_url("**/check/*")
            expect(there.get_by_role("region", name="counter, 3")).to_be_visible()
