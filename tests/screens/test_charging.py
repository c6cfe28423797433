"""The charge: what to set stands where it is due, moments go in by two keys, and are drawn beside how it should go."""

import re

from playwright.sync_api import expect

from tests.house import LEAD, Client, app_on
from tests.screens.browser import CHROMIUM, Screens


class Charging(Screens):
    def test_the_plan_the_moments_and_the_curve(self) -> None:
        page = self.page(None)
        tag = self.taken_in(page)
        page.locator("input[name=volts]").fill("12.00")
        self.rung(page, "Volts").get_by_role("button", name="Keep").click()
        self.kept(page, "Volts", "12.00")
        rung = self.rung(page, "Charge")
        # flooded, nobody took its temperature: 14.4 V; 600 CCA are reckoned 63 Ah, a tenth of it is 6.3 A
        expect(page.get_by_test_id("next-step")).to_contain_text("Charge it at 14.4 V, 6.3 A, 9 to 16 h")
        page.keyboard.press("h")
        expect(rung).to_contain_text("Set 14.4 V, 6.3 A, 9 to 16 h")
        rung.get_by_role("button", name=re.compile("more")).first.click()
        expect(rung).to_contain_text("63 Ah (its 600 CCA)")
        expect(rung).to_contain_text("Not above 27 °C around it")
        for name, value in (("amps", "2"), ("volts", "14.4"), ("start_amps", "10"), ("hours", "10")):
            rung.locator(f"input[name={name}]").fill(value)
        expect(page.get_by_test_id("charge-curve")).to_be_hidden()
        rung.get_by_label("After").fill("240")
        page.keyboard.press("Tab")
        page.keyboard.type("10")
        page.keyboard.press("Enter")
        expect(rung.get_by_label("After")).to_be_focused()
        page.keyboard.type("480")
        page.keyboard.press("Tab")
        page.keyboard.type("6")
        page.keyboard.press("Enter")
        # 10 A for 4 h, 10 to 6 A in 4 h, 6 to 2 A in 2 h: 40 + 32 + 8
        expect(page.get_by_test_id("charge-curve")).to_contain_text("80 Ah in over 10 h")
        expect(page.get_by_test_id("charge-curve").get_by_role("img")).to_have_attribute(
            "aria-label", re.compile("80 Ah in")
        )
        rung.get_by_role("button", name="Keep").click()
        self.kept(page, "Charge", "2 A of 10 A")
        kept = Client(app_on(self.url), LEAD).get(f"/batteries/{tag}").json()["readings"][-1]["reading"]
        self.assertEqual([(one["minutes"], one["amps"]) for one in kept["log"]], [(240, 10), (480, 6)])
        rung.get_by_role("button").first.click()
        expect(rung.get_by_role("button", name="Throw away 240 min, 10 A")).to_be_visible()
        expect(page.get_by_test_id("charge-curve")).to_be_visible()

    def test_what_forbids_a_charge_is_said_before_what_to_set(self) -> None:
        page = self.page(None)
        self.taken_in(page)
        page.locator("input[name=volts]").fill("12.00")
        self.word(page, "Volts", "temperature_c").fill("50")
        self.rung(page, "Volts").get_by_role("button", name="Keep").click()
        self.kept(page, "Volts", "12.00")
        expect(page.get_by_test_id("next-step")).to_contain_text("Let it cool first; then charge it at")
        page.keyboard.press("h")
        expect(self.rung(page, "Charge")).to_contain_text("Not now, it is 50 °C warm, over 45 °C")


class Papers(Screens):
    program = CHROMIUM  # a paper opens in a page of its own

    def test_where_it_is_put_follows_its_plan_and_the_tag_is_printed_there(self) -> None:
        page = self.page(None)
        tag = self.taken_in(page)
        page.locator("input[name=volts]").fill("12.00")
        self.rung(page, "Volts").get_by_role("button", name="Keep").click()
        self.kept(page, "Volts", "12.00")
        page.keyboard.press("u")
        # 100 Ah (its 600 CCA), 84 % of it missing at 10 A: about 12 h with its tail
        expect(page.get_by_role("menuitem", name=re.compile(r"On charge, by its plan 1[123] h"))).to_be_visible()
        with page.context.expect_page() as opened:
            page.get_by_role("menuitem", name="Print its rack tag").click()
        opened.value.wait_for_url(f"**/api/batteries/{tag}/rack-tag.pdf", wait_until="commit")

    def test_a_lead_finds_the_calendars_address_and_makes_a_new_one(self) -> None:
        page = self.page("/rules", LEAD)
        address = page.get_by_test_id("calendar-address")
        before = address.inner_text()
        self.assertRegex(before, r"/api/calendars/[\w-]{20,}\.ics$")
        page.get_by_role("button", name="Make a new address").click()
        expect(address).not_to_have_text(before)

    def test_others_do_not(self) -> None:
        page = self.page("/rules")
        expect(page.get_by_role("heading", name="Versions")).to_be_visible()
        expect(page.get_by_test_id("calendar-address")).to_be_hidden()
