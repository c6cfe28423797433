"""The line is cut for an hour of work: the page opens without its server, keeps what is typed, and sends it once, in order."""

import re
from typing import Any

import psycopg
from playwright.sync_api import BrowserContext, Page, Route, expect

from tests.api.test_dangers import entry
from tests.house import PINS, TEO, Client, app_on, free_port, served
from tests.screens.browser import Screens

ON_THE_DEVICE = """async () => {
  const database = await new Promise((found) => {
    const asks = indexedDB.open("vane-check-seen", 1);
    asks.onsuccess = () => found(asks.result);
  });
  const kept = await new Promise((found) => {
    const asks = database.transaction("seen").objectStore("seen").getAll();
    asks.onsuccess = () => found(asks.result);
  });
  database.close();
  return Object.fromEntries(kept.map(({ hash, at }) => [hash, at]));
}"""
"""What is kept on the device, by the names of what was asked, and when it was answered [ms]."""


class LineDown(Screens):
    """Each test has a server of its own, which goes away and comes back at the same address."""

    expected_seconds = 150.0

    def opened(self, base: str) -> tuple[BrowserContext, Page]:
        self.base = base  # what is asked of the browser from here on is asked of this server
        context = self.browser.new_context(
            viewport={"width": 1280, "height": 800}, reduced_motion="reduce", service_workers="allow"
        )
        self.addCleanup(context.close)
        page = context.new_page()
        errors: list[str] = []
        page.on("pageerror", lambda error: errors.append(str(error)))
        self.addCleanup(lambda: self.assertEqual(errors, []))
        page.goto(f"{base}/counter")
        self.sign_in(page)
        self.wait_until(page, lambda: bool(page.evaluate("navigator.serviceWorker.controller !== null")))
        return context, page

    def fetched(self, page: Page, *tags: int) -> None:
        """The batteries are on the device: fetched ahead, opened or not. A slow server is asked more seldom, so that this takes
        as long as it takes; it hangs when nothing more comes."""
        wanted, seen = {'["rack"]', *(f'["battery",{tag}]' for tag in tags)}, 0

        def more() -> bool:
            nonlocal kept
            kept = set(page.evaluate(ON_THE_DEVICE))
            return wanted <= kept or len(kept) > seen

        kept: set[str] = set()
        while not wanted <= kept:
            seen = len(kept)
            self.wait_until(page, more)

    def looked(self, page: Page) -> None:
        """Nothing wrong, while nobody answers."""
        expect(page.get_by_role("button", name="Nothing wrong")).to_be_focused()
        page.keyboard.press("Enter")
        expect(self.rung(page, "Look")).to_contain_text("not sent yet")
        expect(page.locator("input[name=volts]")).to_be_focused()

    def rows(self, tag: int) -> list[tuple[Any, ...]]:
        """What is kept of a battery: kind, volts, whose, in the order of keeping."""
        with psycopg.connect(self.url) as connection:
            return connection.execute(
                "select r.kind, r.body->>'volts', s.name from readings r join checks c on c.id = r.check_id"
                " join batteries b on b.id = c.battery_id join staff s on s.id = r.staff_id where b.tag = %s order by r.id",
                (tag,),
            ).fetchall()

    def test_an_hour_without_the_line_loses_and_doubles_nothing(self) -> None:
        port = free_port()
        with served(self.url, port) as base:
            _, page = self.opened(base)
            first, second = (self.taken_in(page, looked=False) for _ in range(2))
            self.fetched(page, first, second, 173)
            before = self.rows(173)
        away = page.get_by_text("The server does not answer")
        expect(away).to_be_visible()
        expect(page.get_by_text(re.compile(r"as of \d\d:\d\d"))).to_be_visible()

        # an hour of work: two batteries, a page that is loaded anew, a battery nobody had opened on this device
        page.goto(f"{base}/check/{first}")
        self.looked(page)
        page.keyboard.type("12.61")
        page.keyboard.press("Enter")
        expect(page.get_by_text("2 readings wait here to be sent")).to_be_visible()
        page.goto(f"{base}/check/{second}")
        expect(self.headline(page)).to_be_visible()
        page.reload()
        expect(away).to_be_visible()
        self.looked(page)
        page.keyboard.type("11.2")
        page.goto(f"{base}/check/173")
        expect(self.headline(page)).to_be_visible()  # the last judgement is readable
        self.open_rung(page, "v", "Volts")
        page.wait_for_timeout(100)
        page.goto(f"{base}/check/{second}")
        expect(page.locator("input[name=volts]")).to_have_value("11.2")
        page.locator("input[name=volts]").press("Enter")
        expect(page.get_by_text("4 readings wait here to be sent")).to_be_visible()
        page.get_by_role("navigation", name="Desks of the house").get_by_role("link", name="rack").click()
        expect(page.get_by_role("heading", name="At hand")).to_be_visible()

        with served(self.url, port):
            expect(page.get_by_text("4 readings that waited were sent, each once and in order")).to_be_visible()
            expect(away).to_have_count(0)
            page.goto(f"{base}/check/{first}")
            self.kept(page, "Volts", "12.61")
        self.assertEqual(self.rows(first), [("look", None, TEO), ("rest_volts", "12.61", TEO)])
        self.assertEqual(self.rows(second), [("look", None, TEO), ("rest_volts", "11.2", TEO)])
        self.assertEqual(self.rows(173), before)

    def test_batteries_written_in_without_the_line_get_their_tags_once_and_it_is_said_whose_they_are(self) -> None:
        port = free_port()
        with served(self.url, port) as base:
            _, page = self.opened(base)
            expect(page.get_by_label("Rated figure")).to_be_focused()
        expect(page.get_by_text("The server does not answer")).to_be_visible()
        for name, amps, ah in (("Ada Quist", "610", "60"), ("Bo Quist", "1200", "20")):
            page.get_by_label("Rated figure").fill(amps)
            page.get_by_label("Customer").fill(name)
            page.get_by_label("Capacity").fill(ah)
            page.get_by_role("button", name="Take it in").click()
            expect(page.get_by_label("Customer")).to_have_value("")
        expect(page.get_by_text("2 batteries wait for a tag")).to_be_visible()
        page.reload()
        expect(page.get_by_text("2 batteries wait for a tag")).to_be_visible()
        with served(self.url, port):
            hang = page.get_by_text("is the tag of Ada Quist, 610 CCA: hang it on")
            expect(hang).to_be_visible()
            # the other's figures hardly go together: the server asks, and what was typed can be mended
            page.get_by_role("button", name="1 refused").click()
            waits = page.get_by_role("dialog", name="What waits to be sent")
            expect(waits.get_by_text("Taken in: Bo Quist, 1200 CCA")).to_be_visible()
            waits.get_by_role("button", name="Mend it at the counter").click()
            expect(page.get_by_label("Customer")).to_have_value("Bo Quist")
            page.get_by_label("Rated figure").fill("120")
            page.get_by_role("button", name="Take it in").click()
            page.wait_for_url("**/check/*")
            expect(page.get_by_role("button", name="refused")).to_have_count(0)
            page.get_by_role("button", name="It hangs").click()
            expect(hang).to_have_count(0)
        with psycopg.connect(self.url) as connection:
            kept = connection.execute(
                "select c.name, count(*) from batteries b join customers c on c.id = b.customer_id where c.name like '% Quist'"
                " group by 1 order by 1"
            ).fetchall()
        self.assertEqual(kept, [("Ada Quist", 1), ("Bo Quist", 1)])

    def test_locked_or_left_alone_the_page_shows_nothing_of_anybody_without_the_line(self) -> None:
        port = free_port()
        with served(self.url, port) as base:
            context, page = self.opened(base)
            page.goto(f"{base}/check/173")
            expect(self.headline(page)).to_be_visible()
            self.fetched(page, 173)
        page.reload()
        expect(self.headline(page)).to_be_visible()
        # nobody touched it for longer than the shop lets a page lie open
        page.evaluate("localStorage.setItem('vane-check-touched', String(Date.now() - 11 * 60_000))")
        fresh = context.new_page()
        page.close()
        fresh.goto(f"{base}/check/173")
        expect(fresh.get_by_role("button", name=TEO)).to_be_visible()
        expect(fresh.get_by_text("The server does not answer")).to_be_visible()
        expect(self.headline(fresh)).to_have_count(0)
        left = fresh.evaluate(ON_THE_DEVICE)
        self.assertEqual([key for key in left if "people" not in key], [])
        # the PIN is asked of the server, not of the device
        fresh.get_by_role("button", name=TEO).click()
        fresh.keyboard.type(PINS[TEO])
        fresh.keyboard.press("Enter")
        expect(fresh.get_by_role("alert")).to_contain_text("does not answer")
        with served(self.url, port):
            expect(fresh.get_by_text("The server does not answer: what")).to_have_count(0)
            fresh.keyboard.type(PINS[TEO])
            fresh.keyboard.press("Enter")
            expect(self.headline(fresh)).to_be_visible()

    def test_what_waits_is_sent_by_its_author_alone(self) -> None:
        port = free_port()
        with served(self.url, port) as base:
            _, page = self.opened(base)
            tag = self.taken_in(page)
            self.fetched(page, tag)
        expect(page.get_by_text("The server does not answer")).to_be_visible()
        page.keyboard.type("12.44")
        page.keyboard.press("Enter")
        expect(page.get_by_text("One reading waits here to be sent")).to_be_visible()
        with psycopg.connect(self.url) as connection:
            connection.execute("update sessions set ended_at = now() where ended_at is null")
        with served(self.url, port):
            expect(page.get_by_role("button", name=re.compile("^Noor"))).to_be_visible()
            self.wait_until(page, lambda: all("people" in key for key in page.evaluate(ON_THE_DEVICE)))
            other = page.get_by_role("button", name=re.compile("^Noor"))
            other.click()
            page.keyboard.type(next(pin for name, pin in PINS.items() if name.startswith("Noor")))
            page.keyboard.press("Enter")
            expect(page.get_by_text("1 wait for others")).to_be_visible()
            self.assertEqual([row[0] for row in self.rows(tag)], ["look"])
            page.get_by_role("button", name=re.compile("^TB")).click()
            self.sign_in(page)
            self.wait_until(page, lambda: len(self.rows(tag)) == 2)
        self.assertEqual(self.rows(tag)[1], ("rest_volts", "12.44", TEO))

    def test_what_this_device_never_saw_says_so_and_comes_when_the_line_is_back(self) -> None:
        port = free_port()
        with served(self.url, port) as base:
            context, page = self.opened(base)
            self.fetched(page, 183)
        expect(page.get_by_text("The server does not answer")).to_be_visible()
        gone = 160  # it left the house long ago: nobody fetched it ahead
        page.goto(f"{base}/check/{gone}")
        expect(page.get_by_role("heading", name=f"{gone} was not opened on this device")).to_be_visible()
        expect(page.get_by_text("It is not on the shelf either")).to_be_visible()
        for path, words in (("records", "does not answer"), ("customers", "does not answer")):
            page.goto(f"{base}/{path}")
            expect(page.get_by_role("main").get_by_text(words).first).to_be_visible()
        # unsafe stays unsafe, and closed to clamps, without the line too
        page.goto(f"{base}/check/183")
        expect(self.headline(page)).to_have_text("Unsafe: hold it apart")
        self.assertEqual(page.evaluate("document.documentElement.scrollWidth"), 1280)
        page.set_viewport_size({"width": 390, "height": 844})
        wide = "document.documentElement.scrollWidth - document.documentElement.clientWidth"
        self.wait_until(page, lambda: page.evaluate(wide) == 0)
        page.goto(f"{base}/check/{gone}")
        with served(self.url, port):
            expect(self.headline(page)).to_be_visible()
        del context

    def test_what_is_given_up_for_a_change_is_fetched_ahead_again(self) -> None:
        """A colleague's work makes what is on its way out of date: it is asked for once more, though no desk looks at it."""
        with served(self.url) as base:
            _, page = self.opened(base)
            asked: list[Route] = []

            def rack_kept_at() -> float:
                return float(page.evaluate(ON_THE_DEVICE).get('["rack"]', 0))

            page.route("**/api/rack", lambda route: asked.append(route) if not asked else route.continue_())
            page.reload()
            self.wait_until(page, lambda: bool(asked))
            before = rack_kept_at()
            Client(app_on(self.url), TEO).send("POST", "/batteries/173/readings", entry("rest_volts", volts=12.55))
            page.wait_for_timeout(500)  # heard, and gathered for a moment
            asked[0].continue_()
            self.wait_until(page, lambda: rack_kept_at() > before)

    def test_a_second_tab_and_a_lock_in_it_take_all_off_the_device(self) -> None:
        port = free_port()
        with served(self.url, port) as base:
            context, page = self.opened(base)
            page.goto(f"{base}/check/173")
            self.fetched(page, 173)
            other = context.new_page()
            other.goto(f"{base}/counter")
            other.get_by_role("button", name=f"{TEO} is signed in: lock").click()
            expect(page.get_by_role("button", name=TEO)).to_be_visible()
            self.wait_until(page, lambda: all("people" in key for key in page.evaluate(ON_THE_DEVICE)))
        page.goto(f"{base}/check/173")
        expect(page.get_by_text("The server does not answer")).to_be_visible()
        expect(page.get_by_label("PIN", exact=True)).to_be_visible()
        expect(self.headline(page)).to_have_count(0)

    def test_a_lock_that_could_not_be_told_ends_the_session_when_the_line_is_back(self) -> None:
        port = free_port()
        with served(self.url, port) as base:
            context, page = self.opened(base)
            for stays in (True, False):
                with self.subTest(page_stays=stays):
                    expect(page.get_by_text("The server does not answer")).to_have_count(0)
                    self.assertEqual(context.request.get(f"{base}/api/me").status, 200)
                    context.set_offline(True)
                    page.get_by_role("button", name=f"{TEO} is signed in: lock").click()
                    expect(page.get_by_role("button", name=TEO)).to_be_visible()
                    self.assertEqual(context.request.get(f"{base}/api/me").status, 200)  # the server knows of nothing
                    if stays:
                        context.set_offline(False)
                        self.wait_until(page, lambda: context.request.get(f"{base}/api/me").status == 401)
                        self.sign_in(page)
                        page.wait_for_timeout(500)
                        self.assertEqual(context.request.get(f"{base}/api/me").status, 200)  # who came next stays
                        continue
                    page.close()
                    context.set_offline(False)
                    stranger = context.new_page()
                    stranger.goto(f"{base}/api/customers?text=a")
                    self.assertIn("signed_in.sign_in_first", stranger.content())
                    self.assertEqual(context.request.get(f"{base}/api/me").status, 401)

    def test_the_page_can_be_installed(self) -> None:
        with served(self.url) as base:
            context, page = self.opened(base)
            manifest = context.request.get(f"{base}/manifest.webmanifest")
            self.assertIn("application/manifest+json", manifest.headers["content-type"])
            self.assertEqual(manifest.json()["start_url"], "/counter")
            session = context.new_cdp_session(page)
            errors = session.send("Page.getInstallabilityErrors")["installabilityErrors"]
            self.assertEqual([one for one in errors if one["errorId"] != "in-incognito"], [])
