"""A signed-in page on the served app, for every test of the real interface."""

import os
import shutil
import unittest
from collections.abc import Callable
from pathlib import Path
from typing import Any, ClassVar

from playwright.sync_api import Browser, Locator, Page, expect, sync_playwright

from tests.house import PINS, TEO, database, served

ROOT = Path(__file__).parents[2]
FLAGS = [
    "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
    "--disable-component-update", "--disable-sync",
]  # fmt: skip
WAIT_MS = int(
    os.environ.get("VANE_WAIT_MS", 60_000)
)  # a shared machine may be many times slower than a desk; a test that passes never waits that long


CPU_RATE = float(os.environ.get("VANE_CPU_RATE", 1))
"""How many times slower the page is made to run: what falls between on a slow machine shows here."""


class Screens(unittest.TestCase):
    browser: Browser
    base: str
    url: str
    signed_in: ClassVar[dict[str, Any]]
    shelf_name = "Shelf"

    @classmethod
    def setUpClass(cls) -> None:
        playwright = cls.enterClassContext(sync_playwright())
        cls.browser = playwright.chromium.launch(
            executable_path=shutil.which("chromium") or "/usr/bin/chromium", args=FLAGS
        )
        cls.addClassCleanup(cls.browser.close)
        cls.url = database()
        cls.signed_in = {}
        cls.base = cls.enterClassContext(served(cls.url))
        expect.set_options(timeout=WAIT_MS)

    def page(self, path: str = "/", person: str = TEO, fresh: bool = False) -> Page:
        """A page signed in, on a desk; `fresh` signs in anew. Any error of the page fails the test."""
        known = None if fresh else self.signed_in.get(person)
        context = self.browser.new_context(
            viewport={"width": 1280, "height": 800},
            reduced_motion="reduce",
            storage_state=known,
            service_workers="block",
        )
        self.addCleanup(context.close)
        page = context.new_page()
        page.set_default_timeout(WAIT_MS)
        if CPU_RATE > 1:
            context.new_cdp_session(page).send("Emulation.setCPUThrottlingRate", {"rate": CPU_RATE})
        errors: list[str] = []
        page.on("pageerror", lambda error: errors.append(str(error)))
        self.addCleanup(lambda: self.assertEqual(errors, []))
        page.goto(self.base + path)
        if known is None:
            self.sign_in(page, person)
            if not fresh:
                self.signed_in[person] = {"cookies": context.cookies(), "origins": []}
        expect(page.get_by_role("navigation", name=self.shelf_name)).to_be_visible()
        return page

    def sign_in(self, page: Page, person: str = TEO) -> None:
        page.get_by_role("button", name=person).click()
        page.keyboard.type(PINS[person])
        page.keyboard.press("Enter")
        expect(page.get_by_role("navigation", name=self.shelf_name)).to_be_visible()

    def wait_until(self, page: Page, is_so: Callable[[], bool]) -> None:
        """Wait for something that stands outside the page, while the page goes on."""
        for _ in range(WAIT_MS // 100):
            if is_so():
                return
            page.wait_for_timeout(100)
        self.fail("it did not come")

    @staticmethod
    def rung(page: Page, title: str) -> Locator:
        """One rung of the Check desk."""
        return page.locator(f'[data-rung="{title}"]')

    @staticmethod
    def headline(page: Page) -> Locator:
        """The judgement in words."""
        return page.get_by_test_id("headline")

    def kept(self, page: Page, title: str, figure: str = "") -> None:
        """The rung shows its figure and that it is kept."""
        expect(self.rung(page, title)).to_contain_text("kept")
        expect(self.rung(page, title)).to_contain_text(figure)

    def look_over(self, page: Page) -> None:
        """Nothing wrong: the look that comes first."""
        expect(page.get_by_role("button", name="Nothing wrong")).to_be_focused()
        page.keyboard.press("Enter")
        self.kept(page, "Look", "Nothing wrong")

    def word(self, page: Page, rung: str, name: str) -> Locator:
        """Open a figure of the spoken line; returns its field."""
        field = self.rung(page, rung).locator(f"input[name={name}]")
        if field.count() == 0:
            self.rung(page, rung).locator(f"[data-word={name}]").click()
        return field

    def say(self, page: Page, rung: str, name: str, choice: str) -> None:
        """Change a word of the spoken line."""
        self.rung(page, rung).locator(f"[data-word={name}]").click()
        self.rung(page, rung).get_by_text(choice, exact=True).last.click()

    def taken_in(self, page: Page, rated: str = "600", size: str = "47", looked: bool = True, **more: str) -> int:
        """Take a battery in at the counter and look it over; returns its tag."""
        page.goto(f"{self.base}/counter")
        expect(page.get_by_role("textbox", name="Rated figure")).to_be_focused()
        page.keyboard.type(rated)
        page.get_by_label("Group or box size").fill(size)
        for label, value in more.items():
            page.get_by_label(label.replace("_", " "), exact=True).fill(value)
        page.get_by_role("button", name="Take it in").click()
        page.wait_for_url("**/check/*")
        if looked:
            self.look_over(page)
        return int(page.url.rsplit("/", 1)[1])

    def open_rung(self, page: Page, letter: str, title: str) -> None:
        """Open a rung by its key."""
        expect(self.headline(page)).to_be_visible()
        page.keyboard.press(letter)
        expect(self.rung(page, title).locator("button[aria-expanded=true]").first).to_be_visible()
