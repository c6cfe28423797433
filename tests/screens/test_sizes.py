"""Every size and light: a bench tablet, one held upright, a phone at the car, a page at 200 %; and a house full of batteries."""

import re
from typing import Any

import psycopg
from playwright.sync_api import Page, expect

from tests.house import LEAD, PINS, TEO, database, served
from tests.screens.browser import CPU_RATE, WAIT_MS, Screens

SIZES = {"bench tablet": (1024, 768), "upright": (820, 1180), "phone": (390, 844), "200 %": (640, 400)}
DESKS = (
    "/counter",
    "/check/171",
    "/check/174",
    "/check/186",
    "/match",
    "/match/173",
    "/goods",
    "/goods?view=catalogue",
    "/goods/lists",
    "/fitting/197",
    "/warranty/173",
    "/life/173",
    "/records",
    "/customers",
    "/rack",
    "/rack/176",
    "/equipment",
    "/house",
    "/rules",
)

SIDEWAYS = """() => {
  const wide = document.documentElement;
  const out = [];
  if (wide.scrollWidth > wide.clientWidth + 1) out.push(`the page: ${wide.scrollWidth} of ${wide.clientWidth}`);
  for (const main of document.querySelectorAll("main, main > section, main > form, form > section"))
    if (main.scrollWidth > main.clientWidth + 1)
      out.push(`${main.tagName} ${main.getAttribute("aria-label") ?? ""}: ${main.scrollWidth} of ${main.clientWidth}`);
  return out;
}"""
"""What can be slid sideways."""

SMALL = """() => [...document.querySelectorAll("main button, main a, header button, header a, nav[aria-label=Shelf] button")]
  .filter((one) => one.offsetParent !== null && !one.closest(".quiet") && !one.classList.contains("quiet"))
  .map((one) => [one.getBoundingClientRect(), (one.getAttribute("aria-label") ?? one.textContent).slice(0, 40)])
  .filter(([box]) => box.width > 0 && (box.height < 43.5 || box.width < 39.5))
  .map(([box, name]) => `${name}: ${Math.round(box.width)} x ${Math.round(box.height)}`)"""
"""What a finger cannot hit."""

OVER = """() => {
  const shown = [...document.querySelectorAll("header button, header a")].filter((one) => one.offsetParent !== null);
  const boxes = shown.map((one) => [one.getBoundingClientRect(), one.textContent]);
  return boxes.flatMap(([a, name], i) => boxes.slice(i + 1)
    .filter(([b]) => a.left < b.right - 1 && b.left < a.right - 1 && a.top < b.bottom - 1 && b.top < a.bottom - 1)
    .map(([, other]) => `${name} over ${other}`));
}"""
"""What lies over another in the top line."""


class Sized(Screens):
    def at(self, size: tuple[int, int], person: str = LEAD, touch: bool = True) -> Page:
        context = self.browser.new_context(
            viewport={"width": size[0], "height": size[1]}, has_touch=touch, reduced_motion="reduce"
        )
        self.addCleanup(context.close)
        page = context.new_page()
        page.set_default_timeout(WAIT_MS)
        if CPU_RATE > 1:
            context.new_cdp_session(page).send("Emulation.setCPUThrottlingRate", {"rate": CPU_RATE})
        page.goto(self.base)
        page.get_by_role("button", name=person).click()
        page.keyboard.type(PINS[person] + "\n")
        expect(page.get_by_role("navigation", name="Shelf")).to_be_visible()
        return page

    def measured(self, page: Page, question: str) -> Any:
        return page.evaluate(question)


class EverySize(Sized):
    expected_seconds = 100.0

    def test_no_desk_slides_sideways_nothing_is_too_small_for_a_finger(self) -> None:
        page = self.at(SIZES["bench tablet"])
        for name, size in SIZES.items():
            page.set_viewport_size({"width": size[0], "height": size[1]})
            for desk in DESKS:
                self.desk(page, desk)
                expect(page.locator("main").locator("h1, h2").first).to_be_attached()
                self.drawn(page)
                with self.subTest(desk, size=name):
                    self.assertEqual(self.measured(page, SIDEWAYS), [])
                    self.assertEqual(self.measured(page, SMALL), [])
                    self.assertEqual(self.measured(page, OVER), [])
                    self.assertEqual(page.locator("h1").count(), 1)

    def test_a_day_by_touch_alone(self) -> None:
        """Take in, look, volts, tester, keep, correct, put away: on a tablet, without one key but the figures' own."""
        page = self.at(SIZES["bench tablet"], TEO)
        page.get_by_role("textbox", name="Rated figure").tap()
        page.get_by_role("textbox", name="Rated figure").fill("600")
        page.get_by_text("Slow crank").tap()
        page.get_by_role("button", name="Take it in").tap()
        page.wait_for_url("**/check/*")
        page.get_by_role("button", name="Nothing wrong").tap()
        self.kept(page, "Look")
        page.locator("input[name=volts]").fill("12.66")
        self.rung(page, "Volts").get_by_role("button", name="Keep").tap()
        self.kept(page, "Volts", "12.66")
        page.locator("input[name=measured_cca_amps]").fill("610")
        expect(self.headline(page)).to_have_text(
            "Sound"
        )  # its answer moves what stands below: touched once it is there
        for word, says in (("Studs", "studs"), ("Lead posts", "lead posts")):
            self.rung(page, "Tester").locator("[data-word=clamped]").tap()
            self.rung(page, "Tester").get_by_text(word, exact=True).tap()
            expect(self.rung(page, "Tester").locator("[data-word=clamped]")).to_contain_text(says)
        self.rung(page, "Tester").get_by_role("button", name="Keep").tap()
        self.kept(page, "Tester", "610")
        expect(self.headline(page)).to_have_text("Sound")
        page.get_by_role("button", name="Undo the last entry: Tester").tap()
        expect(self.headline(page)).to_have_text("Cannot tell yet")
        self.rung(page, "Tester").get_by_role("button").first.tap()
        page.get_by_role("button", name=re.compile("Stands: counter")).tap()
        page.get_by_role("menuitem", name="Bench").tap()
        expect(page.get_by_role("button", name=re.compile("Stands: bench"))).to_be_visible()
        page.get_by_role("button", name="Menu").tap()
        page.get_by_role("dialog", name="Menu").get_by_role("link", name="records").tap()
        page.wait_for_url("**/records")

    def test_a_day_by_keys_alone(self) -> None:
        """The same without a pointer, from the counter to the warranty and back."""
        page = self.at((1280, 800), TEO, touch=False)
        expect(page.get_by_role("textbox", name="Rated figure")).to_be_focused()
        page.keyboard.type("600")
        page.keyboard.press("Tab")
        page.keyboard.type("K. Board")
        page.keyboard.press("Enter")
        page.wait_for_url("**/check/*")
        self.look_over(page)
        page.keyboard.type("12.66\n")
        expect(page.locator("input[name=measured_cca_amps]")).to_be_focused()
        page.keyboard.type("300\n")
        expect(page.get_by_role("link", name=re.compile("^Warranty"))).to_be_focused()
        page.keyboard.press("n")
        page.wait_for_url("**/warranty/*")
        expect(page.get_by_test_id("decision")).to_be_visible()
        page.keyboard.press("m")
        page.wait_for_url("**/match/*")
        page.keyboard.press("b")
        page.wait_for_url("**/check/*")
        expect(self.headline(page)).to_have_text("Worn out")
        page.keyboard.press("u")
        bench = page.get_by_role("menuitem", name="Bench")
        expect(bench).to_be_visible()
        for _ in range(4):
            if bench.evaluate("el => el === document.activeElement"):
                break
            page.keyboard.press("ArrowDown")
        page.keyboard.press("Enter")
        expect(page.get_by_role("button", name=re.compile("Stands: bench"))).to_be_visible()
        page.keyboard.press("i")
        page.wait_for_url("**/life/*")
        page.keyboard.press("r")
        page.wait_for_url("**/records")
        page.keyboard.press("/")
        page.keyboard.type("186\n")
        page.wait_for_url("**/check/186")

    def test_the_bench_light_and_high_contrast_hold(self) -> None:
        page = self.at((1280, 800), touch=False)
        page.goto(f"{self.base}/check/186")
        expect(self.headline(page)).to_be_visible()
        page.get_by_role("button", name="Change to bench light").click()
        step = page.get_by_test_id("next-step").locator("xpath=..")
        bright = (
            "el => getComputedStyle(el).backgroundColor.match(/\\d+/g).slice(0, 3).reduce((a, b) => a + Number(b), 0)"
        )
        self.assertLess(step.evaluate(bright), 250)  # nothing glares
        page.emulate_media(contrast="more")
        soft = "getComputedStyle(document.documentElement).getPropertyValue('--ground').trim()"
        self.assertEqual(page.evaluate(soft), "#000000")
        page.emulate_media(forced_colors="active", contrast="no-preference")
        current = page.get_by_role("link", name="check", exact=True)
        self.assertEqual(current.evaluate("el => getComputedStyle(el).outlineStyle"), "solid")
        self.assertEqual(current.get_attribute("aria-current"), "page")


class ManyBatteries(Sized):
    def test_sixty_and_more_keep_every_place_its_name_and_its_count(self) -> None:
        url = database()
        with psycopg.connect(url, autocommit=True) as connection:
            connection.execute(
                "insert into batteries (store_id, tag, place, line, nominal_volts, chemistry, serial, rating_source) "
                "select 1, 300 + n, (array['counter', 'bench', 'on_charge', 'standing', 'ready', 'held_apart'])[1 + n % 6], "
                "'Merlow Plain', 12, 'flooded', '', 'label' from generate_series(1, 48) n"
            )
            connection.execute(
                "insert into checks (store_id, battery_id, opened_by, came_in, complaint, use, stop_start_car) "
                "select 1, id, 1, 'carried_in', 'clicks', 'private', false from batteries where tag > 300"
            )
            connection.execute(
                "insert into take_in_entries (store_id, check_id, staff_id, body) "
                'select 1, c.id, 1, \'{"context": {"came_in": "carried_in"}}\' from checks c join batteries b on b.id = c.battery_id '
                "where b.tag > 300"
            )
        with served(url) as base:
            self.base = base
            page = self.at((1280, 800))
            for name, size in {"desk": (1280, 800), **SIZES}.items():
                page.set_viewport_size({"width": size[0], "height": size[1]})
                for tag in (171, 344, 186):
                    self.desk(page, f"/check/{tag}")
                    expect(self.headline(page)).to_be_visible()
                    self.drawn(page)
                    shelf = page.get_by_role("navigation", name="Shelf")
                    with self.subTest(name, tag=tag):
                        counts = [int(text) for text in shelf.locator("section > button b").all_inner_texts()]
                        self.assertEqual(
                            (len(counts), sum(counts)), (7, 75), "six places, and what is between the stores"
                        )
                        for place in shelf.locator("section > button").all():
                            box = place.bounding_box()
                            assert box is not None
                            self.assertGreaterEqual(box["x"], 0)
                            self.assertLessEqual(box["x"] + box["width"], size[0] + 1)
                        if size[0] > 700:
                            marked = shelf.locator('[aria-current="true"]').bounding_box()
                            assert marked is not None
                            self.assertTrue(0 <= marked["x"] <= size[0] - 40)
                        self.assertEqual(self.measured(page, SIDEWAYS), [])
            page.set_viewport_size({"width": 1280, "height": 800})
            page.get_by_role("button", name=re.compile(r"^counter \d+")).click()
            everything = page.get_by_role("dialog", name="All counter")
            expect(everything.get_by_role("link")).to_have_count(10)
            everything.get_by_role("link", name=re.compile("342")).click()
            page.wait_for_url("**/check/342")
