"""Where each paper hangs: claim pack, recall letter, day sheet, shelf tag, and the line for the till."""

from io import BytesIO

from playwright.sync_api import Locator, Page, expect
from pypdf import PdfReader

from tests.house import TEO
from tests.screens.browser import Screens


class Papers(Screens):
    def words_of(self, page: Page, link: Locator) -> str:
        """What the paper behind a link says."""
        expect(link).to_be_visible()
        found = page.request.get(self.base + str(link.get_attribute("href")))
        self.assertEqual((found.status, found.headers["content-type"]), (200, "application/pdf"))
        return " ".join(one.extract_text() for one in PdfReader(BytesIO(found.body())).pages)

    def test_a_claim_has_its_pack_once_it_is_written(self) -> None:
        page = self.page("/warranty/173")
        pack = page.get_by_role("link", name="Claim pack")
        expect(page.get_by_role("button", name="Write the claim")).to_be_visible()
        expect(pack).to_have_count(0)
        page.get_by_role("button", name="Write the claim").click()
        said = self.words_of(page, pack)
        self.assertIn("Warranty claim, tag 173", said)
        self.assertIn(TEO, said)

    def test_a_watched_battery_has_its_letter_and_a_sound_one_none(self) -> None:
        page = self.page("/life/185")
        said = self.words_of(page, page.get_by_role("link", name="Letter to test it again"))
        self.assertIn("should be tested again on or after", said)
        page.goto(f"{self.base}/life/182")
        expect(page.get_by_role("link", name="Slip")).to_be_visible()
        expect(page.get_by_role("link", name="Letter to test it again")).to_have_count(0)

    def test_the_day_has_its_sheet_and_an_item_its_tag(self) -> None:
        page = self.page("/records")
        self.assertIn("Came in:", self.words_of(page, page.get_by_role("link", name="day sheet")))
        page.goto(f"{self.base}/goods?view=catalogue")
        page.get_by_label("Name, size or the supplier's number").fill("Quellan Mat 48")
        page.get_by_role("button", name="Quellan Mat 48 760").first.click()
        said = self.words_of(page, page.get_by_role("link", name="Shelf tag"))
        self.assertIn("Quellan Mat", said)

    def test_a_sale_s_line_goes_to_the_till(self) -> None:
        page = self.page("/fitting/197")
        page.context.grant_permissions(["clipboard-read", "clipboard-write"])
        line = page.get_by_text("Quellan Mat 94R 840 SN QM-11872")
        expect(line).to_be_visible()
        page.get_by_role("button", name="Copy").click()
        expect(page.get_by_role("button", name="Copied")).to_be_visible()
        copied = page.evaluate("navigator.clipboard.readText()")
        self.assertIn("incl. VAT 23 % 43.49 EUR", copied)
        self.assertIn("deposit 12.00 EUR", copied)
