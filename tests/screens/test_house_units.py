"""A house that reads Fahrenheit and inches, in the real browser."""

import psycopg
from playwright.sync_api import expect

from tests.house import Client, app_on
from tests.screens.browser import Screens


class Units(Screens):
    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        with psycopg.connect(cls.url, autocommit=True) as connection:
            connection.execute("update stores set temperature_unit = 'F', length_unit = 'in'")

    def test_fahrenheit_is_typed_and_shown_and_celsius_is_kept(self) -> None:
        page = self.page("/check/171")
        self.look_over(page)
        expect(page.locator("[data-word=temperature_c]")).to_contain_text("nobody took")
        warmth = self.word(page, "Volts", "temperature_c")
        page.locator("input[name=volts]").fill("12.7")
        warmth.fill("50")
        page.locator("input[name=volts]").press("Enter")
        self.kept(page, "Volts", "at 50 °F")
        kept = Client(app_on(self.url)).get("/batteries/171").json()["readings"][1]["reading"]
        self.assertEqual(kept["temperature_c"], 10)
        self.open_rung(page, "p", "Pull")
        expect(self.rung(page, "Pull")).to_contain_text("V at 50 °F")
        expect(self.rung(page, "Pull").locator("[data-word=temperature_c]")).to_contain_text("50 °F")

    def test_inches_on_the_case_and_in_the_match(self) -> None:
        page = self.page("/check/173")
        expect(page.locator("aside")).to_contain_text("10.94")
        page.goto(f"{self.base}/match/173")
        expect(page.get_by_text("length: 10.94 in, the same")).to_be_visible()

    def test_a_temperature_in_the_wrong_unit_is_caught(self) -> None:
        page = self.page("/check/172")
        self.look_over(page)
        page.locator("input[name=volts]").fill("12.7")
        self.word(page, "Volts", "temperature_c").fill("190")
        expect(self.rung(page, "Volts")).to_contain_text("usually Fahrenheit typed as Celsius")
        expect(page.locator("input[name=volts]")).to_have_value("12.7")
