"""A signed-in page on the served app, for every test of the real interface."""

import atexit
import os
import shutil
import unittest
import uuid
from collections.abc import Callable
from datetime import UTC, datetime
from functools import cache
from pathlib import Path
from typing import Any, ClassVar

import httpx
from playwright.sync_api import Browser, BrowserContext, Error, Locator, Page, Playwright, expect, sync_playwright

from tests.house import PINS, TEO, database, served
from vane_check.start.cluster import free_port

ROOT = Path(__file__).parents[2]
FLAGS = [
    "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
    "--disable-component-update", "--disable-sync",
]  # fmt: skip
CHROMIUM = "/usr/bin/chromium"
SHELL = shutil.which("chromium-headless-shell") or CHROMIUM
"""The same browser without a window of its own: a whole one draws its tabs and bars for every page, at half the cost again."""
WAIT_MS = int(
    os.environ.get("VANE_WAIT_MS", 60_000)
)  # a shared machine may be many times slower than a desk; a test that passes never waits that long


CPU_RATE = float(os.environ.get("VANE_CPU_RATE", 1))
"""How many times slower the page is made to run: what falls between on a slow machine shows here."""


@cache
def _playwright() -> Playwright:
    return sync_playwright().start()


_browsers: dict[str, Browser] = {}


def kept_browser(program: str) -> Browser:
    """This process's browser, started once for all classes; each page has a context of its own."""
    if program not in _browsers:
        _browsers[program] = _playwright().chromium.launch(executable_path=program, args=FLAGS)
    return _browsers[program]


@atexit.register
def close_browser() -> None:
    """Let it go; whoever asks next gets a new one."""
    _idle.clear()
    while _browsers:
        _browsers.popitem()[1].close()
    if _playwright.cache_info().currsize:
        _playwright().stop()
        _playwright.cache_clear()


LASTING = {"add_init_script", "clock", "context", "emulate_media", "on", "once", "route", "set_viewport_size"}
"""What a test does to a page that stays with it."""


class Lent(Page):
    """A page that is given back when its test is over, if nothing was done to it that stays: loading the app in a page
    that had it before takes less than half of what a new page takes."""

    def __getattribute__(self, name: str) -> Any:
        if name in LASTING:
            self.__dict__["spent"] = True
        return super().__getattribute__(name)


LENT_MS = 15_000
"""How long a page that lay idle may take to be emptied; a new one costs less than waiting for it."""

_idle: list[tuple[Page, BrowserContext]] = []
"""Pages nobody has now, on no site."""

FORGET = """async () => {
  localStorage.clear();
  sessionStorage.clear();
  for (const { name } of await indexedDB.databases()) indexedDB.deleteDatabase(name);
}"""

_port = cache(free_port)
"""Where this process serves: the same place for each class, so that the browser has its scripts already."""


ANOTHER_DESK = """(path) => {
  history.pushState(null, "", path);
  dispatchEvent(new PopStateEvent("popstate"));
}"""


class Screens(unittest.TestCase):
    browser: Browser
    program: ClassVar[str] = SHELL
    base: str
    url: str
    signed_in: ClassVar[dict[tuple[str, str], Any]]
    shelf_name = "Shelf"

    @classmethod
    def setUpClass(cls) -> None:
        cls.browser = kept_browser(cls.program)
        cls.url = database()
        cls.signed_in = {}
        cls.base = cls.enterClassContext(served(cls.url, _port()))
        expect.set_options(timeout=WAIT_MS)

    def page(self, path: str | None = "/", person: str = TEO, fresh: bool = False) -> Page:
        """A page signed in, on a desk, or on none yet; `fresh` signs in anew. Any error of the page fails the test."""
        known = None if fresh else self.session_of(person)
        page, context = self.new_page() if self.program != SHELL or CPU_RATE > 1 else self.idle_page()
        if known is not None:
            context.add_cookies(known)
        errors: list[str] = []

        def note(error: Error) -> None:
            errors.append(str(error))

        Page.on(page, "pageerror", note)
        self.addCleanup(self.give_back, page, context, note)
        self.addCleanup(lambda: self.assertEqual(errors, []))
        if path is None:
            return page
        page.goto(self.base + path)
        if fresh:
            self.sign_in(page, person)
        expect(page.get_by_role("navigation", name=self.shelf_name)).to_be_visible()
        return page

    def new_page(self) -> tuple[Page, BrowserContext]:
        """A page nobody had before, in a context of its own."""
        context = self.browser.new_context(
            viewport={"width": 1280, "height": 800}, reduced_motion="reduce", service_workers="block"
        )
        page = context.new_page()
        page.set_default_timeout(WAIT_MS)
        if CPU_RATE > 1:
            context.new_cdp_session(page).send("Emulation.setCPUThrottlingRate", {"rate": CPU_RATE})
        return page, context

    def idle_page(self) -> tuple[Page, BrowserContext]:
        """A page that another test had, with nothing left of it; or a new one."""
        while _idle:
            page, context = _idle.pop()
            try:
                page.goto(f"{self.base}/manifest.webmanifest", timeout=LENT_MS)
                page.evaluate(FORGET)
            except (
                Error
            ):  # now and then one that lay idle while a server went and came does not load again: it is let go
                context.close()
                continue
            return page, context
        page, context = self.new_page()
        page.__class__ = Lent
        return page, context

    @staticmethod
    def give_back(page: Page, context: BrowserContext, note: Callable[[Error], None]) -> None:
        """Take a page from its test: for the next one, unless something was done to it that stays."""
        Page.remove_listener(page, "pageerror", note)
        try:
            if not isinstance(page, Lent) or page.__dict__.get("spent") or len(context.pages) != 1:
                context.close()
                return
            page.mouse.move(-1, -1)
            page.goto("about:blank")
            context.clear_cookies()
        except Error:
            context.close()
            return
        _idle.append((page, context))

    @staticmethod
    def desk(page: Page, path: str) -> None:
        """Another desk, as a link of the page leads there: nothing is loaded anew. It stands when its outline is gone."""
        page.evaluate(ANOTHER_DESK, path)
        expect(page.locator(f'[data-at="{path.split("?")[0]}"]')).to_be_attached()
        expect(page.locator("[aria-busy=true]")).to_have_count(0)

    def slowed(self, page: Page, rate: float) -> None:
        """The page runs so many times slower, until its test is over."""
        session = self.context_of(page).new_cdp_session(page)
        session.send("Emulation.setCPUThrottlingRate", {"rate": rate})
        if isinstance(page, Lent) and rate > 1:
            self.addCleanup(session.send, "Emulation.setCPUThrottlingRate", {"rate": 1})

    @staticmethod
    def context_of(page: Page) -> BrowserContext:
        """Its context, for what does not stay."""
        context: BrowserContext = object.__getattribute__(page, "context")
        return context

    @staticmethod
    def drawn(page: Page) -> None:
        """What came last is on the screen: two frames went by."""
        page.evaluate("() => new Promise((found) => requestAnimationFrame(() => requestAnimationFrame(found)))")

    def session_of(self, person: str) -> Any:
        """The cookies of somebody signed in on the served app, for a page that begins behind the door."""
        key = (self.base, person)
        known = {one["name"]: one["value"] for one in self.signed_in.get(key, ())}
        if (
            not known or httpx.get(f"{self.base}/api/me", cookies=known).status_code != 200
        ):  # a page's next one ended it
            with httpx.Client(base_url=f"{self.base}/api") as http:
                people = http.get("/people").raise_for_status().json()["people"]
                staff_id = next(one["id"] for one in people if one["name"] == person)
                http.post("/sign-in", json={"staff_id": staff_id, "pin": PINS[person]}).raise_for_status()
                found = [{"name": one.name, "value": one.value or "", "url": self.base} for one in http.cookies.jar]
            self.signed_in[key] = found
        return self.signed_in[key]

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

    def taken_in(self, page: Page, rated: str = "600", size: str = "47", looked: bool = True, **more: Any) -> int:
        """A battery taken in and looked over by whoever is signed in on the page, its check open; returns its tag."""
        api = f"{self.base}/api"
        csrf = page.request.get(f"{api}/me").json()["csrf_token"]

        def send(path: str, body: dict[str, Any]) -> Any:
            headers = {"X-Vane-CSRF": csrf, "Idempotency-Key": str(uuid.uuid4())}
            answer = page.request.post(f"{api}{path}", data=body, headers=headers)
            self.assertTrue(answer.ok, answer.text())
            return answer.json()

        label = {"rating": {"amps": float(rated)}, "group_code": size, **more}
        tag = int(send("/batteries", {"battery": label, "context": {"complaint": "slow_crank"}})["tag"])
        if looked:
            now = datetime.now(UTC).isoformat()
            send(f"/batteries/{tag}/readings", {"id": str(uuid.uuid4()), "kind": "look", "taken_at": now})
        if page.locator("[data-at]").count():
            self.desk(page, f"/check/{tag}")
        else:
            page.goto(f"{self.base}/check/{tag}")
        if looked:
            self.kept(page, "Look", "Nothing wrong")
        else:
            expect(page.get_by_role("button", name="Nothing wrong")).to_be_focused()
        return tag

    def taken_in_by_hand(self, page: Page, rated: str = "600", size: str = "47", looked: bool = True) -> int:
        """The same as a person does it, from the counter on."""
        page.goto(f"{self.base}/counter")
        expect(page.get_by_role("textbox", name="Rated figure")).to_be_focused()
        page.keyboard.type(rated)
        page.get_by_label("Group or box size").fill(size)
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
