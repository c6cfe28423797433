"""Customers at the counter and on their own page."""

import json

from playwright.sync_api import expect

from tests.house import LEAD, TEO
from tests.screens.browser import Screens


class Customers(Screens):
    def test_somebody_known_is_taken_at_the_counter_and_the_battery_is_theirs(self) -> None:
        page = self.page("/counter")
        page.get_by_label("Rated figure").fill("640")
        page.get_by_label("Phone").fill("05550141")
        known = page.get_by_role("group", name="Known here")
        known.get_by_role("button", name="M. Lindqvar").click()
        expect(page.get_by_label("Customer")).to_have_value("M. Lindqvar")
        expect(page.get_by_label("Phone")).to_have_value("05550141")  # what was typed stays
        expect(known).to_have_count(0)
        page.get_by_role("button", name="Take it in").click()
        page.wait_for_url("**/check/*")
        tag = page.url.rsplit("/", 1)[1]
        page.goto(f"{self.base}/life/{tag}")
        page.get_by_role("link", name="Its customer").click()
        expect(page.get_by_role("heading", name="M. Lindqvar")).to_be_visible()
        theirs = page.get_by_role("region", name="Their batteries")
        expect(theirs.get_by_role("link", name=tag)).to_be_visible()
        ways = page.get_by_role("region", name="Also written in as")
        expect(ways).to_contain_text("05550141")
        # a person told from the counter is told apart again there
        ways.get_by_role("button").click()
        expect(ways).to_have_count(0)
        expect(page.get_by_role("region", name="May be the same person")).to_contain_text("the same phone")

    def test_the_same_person_is_merged_corrected_handed_out_and_forgotten(self) -> None:
        page = self.page("/customers", LEAD)
        other = self.page("/customers?text=bram", TEO, fresh=True)
        expect(other.get_by_role("button", name="L. Bramwell")).to_have_count(2)
        page.get_by_label("Name, phone, plate").fill("0555-0145")
        expect(page.get_by_role("button", name="L. Bramwell")).to_have_count(1)
        page.get_by_role("button", name="L. Bramwell").click()
        alike = page.get_by_role("region", name="May be the same person")
        expect(alike).to_contain_text("the same name")
        alike.get_by_role("button", name="The same person").click()
        expect(alike).to_have_count(0)
        expect(page.get_by_role("region", name="Also written in as").get_by_role("button")).to_have_count(2)
        expect(other.get_by_role("button", name="L. Bramwell")).to_have_count(1)  # told, not asked

        page.get_by_role("button", name="Correct").click()
        form = page.get_by_role("form", name="Correct the customer")
        form.get_by_label("Name").fill("")
        form.get_by_label("Phone").fill("")
        form.get_by_role("button", name="Keep it so").click()
        expect(form.get_by_text("Write a name, a phone or a plate")).to_be_visible()
        form.get_by_label("Name").fill("Lena Bramwell")
        form.get_by_role("button", name="Keep it so").click()
        expect(page.get_by_role("heading", name="Lena Bramwell")).to_be_visible()

        with page.expect_download() as kept:
            page.get_by_role("button", name="Hand out all we keep").click()
        out = json.loads(kept.value.path().read_text())
        self.assertEqual(out["written_in_as"][0]["name"], "Lena Bramwell")
        page.get_by_role("button", name="Forget them").click()
        expect(page.get_by_text("Nothing brings them back")).to_be_visible()
        page.get_by_role("button", name="Forget for good").click()
        expect(page.get_by_role("heading", name="Forgotten on")).to_be_visible()
        expect(other.get_by_text("Nobody here is known by")).to_be_visible()
