"""A sale taken back at the fitting desk, and what somebody says otherwise at the Check desk, through the page."""

import re
from typing import Any

from playwright.sync_api import expect

from tests.house import LEAD, Client, app_on
from tests.screens.browser import Screens


class AtTheDesk(Screens):
    def setUp(self) -> None:
        super().setUp()
        self.api = Client(app_on(self.url), LEAD)

    def sold(self, serial: str) -> Any:
        items = self.api.get("/goods", params={"in_stock": True, "text": "Quellan Mat"}).json()["items"]
        body = {"item_id": items[0]["id"], "volts": 12.9, "serial": serial, "price_cents": 15000}
        found = self.api.send("POST", "/sales", body)
        self.assertEqual(found.status_code, 201, found.text)
        return found.json()

    def test_a_return_says_what_goes_back_and_stands_for_good(self) -> None:
        sale = self.sold("BACK-1")
        page = self.page(f"/fitting/{sale['tag']}")
        page.get_by_role("button", name="Take it back").click()
        page.get_by_text("Returned", exact=True).click()
        send = page.get_by_role("button", name="Take it back")
        expect(send).to_be_disabled()
        page.locator("input[name=reason]").fill("Too high for the tray")
        page.locator("input[name=volts]").fill("12.8")
        page.locator("input[name=refund_cents]").fill("200")
        send.click()
        expect(page.get_by_text(re.compile("At most the"))).to_be_visible()
        page.locator("input[name=refund_cents]").fill("120")
        expect(page.get_by_text(re.compile("goes back, deposit with it"))).to_be_visible()
        send.click()
        expect(page.get_by_role("status").filter(has_text="Too high for the tray")).to_be_visible()
        expect(page.get_by_role("button", name="Take it back")).to_have_count(0)
        page.reload()
        expect(page.get_by_role("status").filter(has_text="It stands in stock as used")).to_be_visible()

    def test_somebody_says_otherwise_and_the_judgement_stays(self) -> None:
        page = self.page("/check/181")
        headline = page.get_by_test_id("headline")
        before = headline.inner_text()
        page.get_by_role("button", name=re.compile("Put it somewhere else")).click()
        page.get_by_role("menuitem", name="Note, or say otherwise").click()
        page.get_by_text("I say otherwise", exact=True).click()
        page.get_by_role("combobox", name="It is").fill("Worn")
        page.get_by_role("option", name="worn out").click()
        page.locator("textarea[name=text]").click()
        page.keyboard.type("It cranked slowly on our own starter")  # letters of the desk are letters here
        expect(page.locator("textarea[name=text]")).to_have_value("It cranked slowly on our own starter")
        page.get_by_role("button", name="Keep", exact=True).click()
        expect(page.get_by_test_id("own-call")).to_contain_text("It cranked slowly on our own starter")
        self.assertEqual(headline.inner_text(), before)
