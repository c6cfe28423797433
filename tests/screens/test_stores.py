"""Two stores of one owner on the screen: sent, arrived, called back, opened, shared, gone to work in."""

import psycopg
from playwright.sync_api import expect

from tests.house import LEAD, OWNER_NAME, TEO, empty, served
from tests.screens.browser import WAIT_MS, Screens
from tests.screens.test_desks import AXE
from vane_check.demo import catalogue


class Stores(Screens):
    def test_a_battery_comes_from_the_branch_with_what_was_read_there(self) -> None:
        page = self.page("/counter")
        page.get_by_role("button", name="between stores").click()
        sheet = page.get_by_role("dialog", name="Between the stores")
        expect(sheet).to_contain_text("Merlow Silver, tag 41, A. Treloar")
        expect(sheet).to_contain_text("no tester here")
        sheet.get_by_role("button", name="It is here: Merlow Silver").click()
        page.wait_for_url("**/check/*")
        expect(self.rung(page, "Volts")).to_contain_text("12.31")
        expect(self.headline(page)).to_be_visible()

    def test_sent_from_the_check_desk_it_stands_on_the_way_and_is_called_back(self) -> None:
        page, other = self.page("/check/173"), self.page("/counter", LEAD)
        page.get_by_role("button", name="Put it somewhere else").click()
        page.get_by_role("menuitem", name=f"Send to {catalogue.BRANCH}").click()
        expect(page.get_by_text(f"On its way to {catalogue.BRANCH}")).to_be_visible()
        shelf = other.get_by_role("region", name="on the way, 1")
        expect(shelf).to_contain_text("173")
        page.get_by_role("button", name="Call it back").click()
        expect(page.get_by_text(f"On its way to {catalogue.BRANCH}")).to_be_hidden()
        expect(other.get_by_role("region", name="on the way")).to_have_count(0)


class AnotherStore(Screens):
    def test_an_owner_opens_a_store_gives_it_somebody_and_goes_to_work_there(self) -> None:
        page = self.page("/house?stores", OWNER_NAME, fresh=True)
        page.get_by_role("button", name="Open another").click()
        page.get_by_label("Its name").fill("Lock Gate Batteries")
        page.get_by_role("button", name="Warranty terms", exact=True).click()
        page.get_by_role("button", name="Open it").click()
        table = page.get_by_role("table", name="Stores side by side")
        row = table.get_by_role("row", name="catalogue and prices")
        expect(row).to_contain_text("as Weir Lane Batteries")
        expect(table.get_by_role("row", name="warranty terms")).not_to_contain_text("as Weir Lane")
        page.get_by_role("button", name=f"{TEO} counter").click()
        page.get_by_role("region", name="Also works in").get_by_role("button", name="Lock Gate").click()
        expect(page.get_by_role("button", name="Lock Gate", pressed=True)).to_be_visible()
        page.get_by_role("button", name="In Weir Lane Batteries: go to another store").click()
        page.get_by_role("button", name="Work in Lock Gate Batteries").click()
        expect(page.get_by_text("No battery is in the house")).to_be_visible()
        page.goto(f"{self.base}/house?stores")
        expect(page.get_by_role("region", name="What Lock Gate Batteries shares")).to_be_visible()
        page.goto(f"{self.base}/goods")
        page.get_by_role("radio", name="Catalogue").click(force=True)
        expect(page.get_by_text("Aldane").first).to_be_visible()
        page.get_by_role("button", name=f"{OWNER_NAME} is signed in: lock").click()
        expect(page.get_by_role("heading", name="Lock Gate Batteries")).to_be_visible()
        expect(page.get_by_role("button", name=TEO)).to_be_visible()


class StoresAtAnySize(Screens):
    def test_axe_finds_nothing_and_nothing_runs_over(self) -> None:
        context = self.browser.new_context(
            viewport={"width": 1280, "height": 800}, bypass_csp=True, service_workers="block"
        )
        self.addCleanup(context.close)
        page = context.new_page()
        page.set_default_timeout(WAIT_MS)
        page.goto(self.base)
        self.sign_in(page, OWNER_NAME)
        self.desk(page, "/house?stores")
        expect(page.get_by_role("table", name="Stores side by side")).to_be_visible()
        page.evaluate(AXE.read_text("utf-8"))
        found = page.evaluate(
            "axe.run().then((result) => result.violations.map((one) => `${one.id}: ${one.nodes[0].html}`))"
        )
        self.assertEqual(found, [])
        for language in ("en", "de"):
            with psycopg.connect(self.url, autocommit=True) as connection:
                connection.execute("update stores set language = %s", (language,))
                connection.execute(
                    """select pg_notify('vane_check', '{"store_id": 1, "what": "staff", "tag": null}')"""
                )
            page.wait_for_timeout(6000)  # a session is known for five seconds
            page.goto(f"{self.base}/house?stores")
            expect(page.get_by_role("navigation", name="Shelf" if language == "en" else "Regal")).to_be_visible()
            for width, height in ((1280, 800), (1024, 768), (820, 1180), (390, 844)):
                page.set_viewport_size({"width": width, "height": height})
                for path in ("/house?stores", "/check/173"):
                    self.desk(page, path)
                    self.drawn(page)
                    with self.subTest(path, language=language, width=width):
                        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), width)
                        over = "(() => { const bar = document.querySelector('header'); return bar.scrollWidth - bar.clientWidth; })()"
                        self.assertLessEqual(page.evaluate(over), 1, "the top line runs over")


class PiecesAndPeople(Screens):
    def test_a_piece_goes_from_its_item_and_is_called_back_from_the_shelf(self) -> None:
        page = self.page("/goods?view=catalogue", LEAD)
        page.get_by_label("Name, size or the supplier's number").fill("Merlow Silver 48 680")
        page.get_by_role("button", name="Merlow Silver 48 680").first.click()
        send = page.get_by_role("button", name="to another store").first
        number = (send.get_attribute("aria-label") or "").split(" to ")[0].removeprefix("Send ")
        send.click()
        page.get_by_role("menuitem", name=catalogue.BRANCH).click()
        expect(page.get_by_text("on the way", exact=True).first).to_be_visible()
        page.get_by_role("button", name="between stores").click()
        sheet = page.get_by_role("dialog", name="Between the stores")
        row = sheet.get_by_role("listitem").filter(has_text="Merlow Silver 48 680")
        expect(row).to_contain_text(f"to {catalogue.BRANCH}")
        row.get_by_role("button", name="Call it back").click()
        expect(sheet).to_contain_text("Merlow Silver 48 680 called back")
        page.keyboard.press("Escape")
        expect(page.get_by_role("button", name=f"Send {number} to another store")).to_be_visible()

    def test_a_customer_is_made_known_to_the_other_store(self) -> None:
        page = self.page("/customers")
        page.get_by_label("Name, phone, plate, car, or serial of a battery").fill("Ferreday")
        page.get_by_text("S. Ferreday").first.click()
        page.get_by_role("button", name="Send S. Ferreday to another store").click()
        page.get_by_role("menuitem", name=catalogue.BRANCH).click()
        expect(page.get_by_text(f"on the way to {catalogue.BRANCH}")).to_be_visible()
        with psycopg.connect(self.url) as connection:
            told = connection.execute(
                "select kind, state, body->'customer'->>'name' from transfers order by id desc limit 1"
            ).fetchone()
        self.assertEqual(told, ("customer", "on_the_way", "S. Ferreday"))

    def test_with_one_store_alone_nothing_of_stores_is_on_the_screen(self) -> None:
        with served(empty(), set_up_code="5ca1ab1e") as base:
            context = self.browser.new_context(viewport={"width": 1280, "height": 800}, service_workers="block")
            self.addCleanup(context.close)
            page = context.new_page()
            page.goto(f"{base}/?code=5ca1ab1e")
            page.locator("input[name=shop]").fill("Quay Cells")
            page.locator("input[name=name-0]").fill("Maren Oduya")
            page.locator("input[name=pin-0]").fill("550591")
            page.get_by_role("button", name="Open the shop").click()
            expect(page.get_by_role("heading", name="The house")).to_be_visible()
            self.assertEqual(page.get_by_text("between stores").count(), 0)
            self.assertEqual(page.get_by_role("button", name="go to another store").count(), 0)
