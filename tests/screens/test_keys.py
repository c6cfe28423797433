"""No figure lost, none spoiled, nothing kept that nobody meant: whatever the pace of the keys and of the page."""

import re
from typing import Any

from playwright.sync_api import Page, expect

from tests.api.test_dangers import entry
from tests.house import NOOR, PINS, TEO, Client, app_on
from tests.screens.browser import CPU_RATE, Screens
from tests.screens.figures import LEAVES, PACES_MS, Figures, cases

SLOW = 6 if CPU_RATE == 1 else CPU_RATE
"""How many times slower the page is made to run where a key may fall between."""


class Keys(Screens):
    def setUp(self) -> None:
        self.desk_client = Client(app_on(self.url), TEO)

    def standing(self, tag: int) -> list[dict[str, Any]]:
        """What is kept of a battery and not replaced or taken back."""
        kept = [one["reading"] for one in self.desk_client.get(f"/batteries/{tag}").json()["readings"]]
        gone = {one.get("replaces") for one in kept}
        return [one for one in kept if one["id"] not in gone and one["kind"] != "withdrawal"]

    def figure(self, tag: int, kind: str, name: str) -> Any:
        return next((one.get(name) for one in self.standing(tag) if one["kind"] == kind), None)

    def take_back(self, page: Page, tag: int, kind: str) -> None:
        """The reading is taken back, so that the next pace finds its rung open and empty."""
        kept = next(one for one in self.standing(tag) if one["kind"] == kind)
        self.desk_client.send("POST", f"/batteries/{tag}/readings", entry("withdrawal", replaces=kept["id"]))
        self.wait_until(page, lambda: self.figure(tag, kind, "id") is None)


class TheLastDigit(Keys):
    expected_seconds = 150.0

    def test_a_way_key_right_behind_a_figure_takes_nothing_of_it(self) -> None:
        page = self.page(None)
        tag = self.taken_in(page)
        for rate in (1, SLOW):
            self.slowed(page, rate)
            for pace in PACES_MS:
                with self.subTest(pace=pace, slowed=rate):
                    self.open_rung(page, "v", "Volts")
                    expect(page.locator("input[name=volts]")).to_be_focused()
                    page.keyboard.type("12.65t", delay=pace)
                    expect(self.rung(page, "Tester").locator("input[name=measured_cca_amps]")).to_be_visible()
                    self.wait_until(page, lambda: self.figure(tag, "rest_volts", "volts") is not None)
                    self.assertEqual(self.figure(tag, "rest_volts", "volts"), 12.65)
                    self.take_back(page, tag, "rest_volts")
                    expect(self.rung(page, "Volts")).not_to_contain_text("12.65")

    def test_an_optional_figure_is_kept_whole_by_way_key_enter_and_tab(self) -> None:
        page = self.page(None)
        tag = self.taken_in(page)
        self.slowed(page, SLOW)
        for pace, ends in ((5, "t"), (20, "Enter"), (50, "Tab"), (100, "t")):
            with self.subTest(pace=pace, ends=ends):
                self.open_rung(page, "v", "Volts")
                page.locator("input[name=volts]").fill("12.66")
                celsius = self.word(page, "Volts", "temperature_c")
                expect(celsius).to_be_focused()
                page.keyboard.press("ControlOrMeta+a")
                page.keyboard.type("27", delay=pace)
                page.keyboard.press(ends)
                if ends == "Tab":
                    page.keyboard.press("Escape")
                    self.open_rung(page, "t", "Tester")
                self.wait_until(page, lambda: self.figure(tag, "rest_volts", "volts") is not None)
                self.assertEqual(self.figure(tag, "rest_volts", "temperature_c"), 27)
                self.take_back(page, tag, "rest_volts")
                expect(self.rung(page, "Volts")).not_to_contain_text("12.66")

    def test_a_figure_left_by_another_person_s_sign_in_is_whole_and_its_author_s(self) -> None:
        page = self.page("/counter", fresh=True)
        tag = self.taken_in(page)
        self.slowed(page, SLOW)
        expect(page.locator("input[name=volts]")).to_be_focused()
        page.keyboard.type("12.65", delay=5)
        page.get_by_role("button", name=f"Change to {NOOR}").click()
        page.keyboard.type(PINS[NOOR] + "\n", delay=50)
        expect(page.get_by_role("button", name=f"{NOOR} is signed in")).to_be_visible()
        kept = self.desk_client.get(f"/batteries/{tag}").json()["readings"]
        volts = [(one["reading"]["volts"], one["who"]) for one in kept if one["reading"]["kind"] == "rest_volts"]
        self.assertIn(volts, ([], [(12.65, TEO)]))  # whole, and its author's; or still half typed on this device


class EveryFigure(Figures):
    """One pace and one way to leave for every figure there is; `bench.keys` plays them all."""

    expected_seconds = 120.0

    def test_what_is_kept_of_any_figure_of_any_rung_is_what_was_typed(self) -> None:
        page = self.page("/counter", fresh=True)  # somebody else signs in on it too
        tag = self.taken_in(page)
        for case in cases(every=len(PACES_MS) * len(LEAVES) + 1):
            with self.subTest(case.said):
                self.assertIsNone(self.play(page, tag, case))

    def test_nor_on_a_slow_page(self) -> None:
        page = self.page("/counter", fresh=True)  # somebody else signs in on it too
        tag = self.taken_in(page)
        self.slowed(page, SLOW)
        for case in cases(every=5 * len(PACES_MS) * len(LEAVES) + 1):
            with self.subTest(case.said):
                self.assertIsNone(self.play(page, tag, case))


class Ahead(Keys):
    def test_keys_before_the_check_desk_stands_are_held_in_order(self) -> None:
        page = self.page("/counter")
        for rate, pace in ((1, 5), (1, 100), (SLOW, 5), (SLOW, 100)):
            with self.subTest(pace=pace, slowed=rate):
                self.slowed(page, rate)
                self.desk(page, "/counter")
                expect(page.get_by_role("textbox", name="Rated figure")).to_be_focused()
                page.keyboard.type("640\n", delay=pace)
                page.keyboard.type("\n12.66\n", delay=pace)
                page.wait_for_url("**/check/*")
                tag = int(page.url.rsplit("/", 1)[1])
                self.wait_until(page, lambda: self.figure(tag, "rest_volts", "volts") is not None)  # noqa: B023
                self.assertEqual([one["kind"] for one in self.standing(tag)], ["look", "rest_volts"])
                self.assertEqual(self.figure(tag, "rest_volts", "volts"), 12.66)

    def test_an_enter_too_many_looks_at_nothing(self) -> None:
        page = self.page("/counter")
        expect(page.get_by_role("textbox", name="Rated figure")).to_be_focused()
        page.keyboard.type("640\n\n")
        page.wait_for_url("**/check/*")
        tag = int(page.url.rsplit("/", 1)[1])
        expect(page.get_by_role("button", name="Nothing wrong")).to_be_focused()
        page.wait_for_timeout(400)
        self.assertEqual(self.standing(tag), [])


ON_SIGHT = """(letter) => {
  const watch = new MutationObserver(() => {
    if (!document.querySelector("[data-testid=headline]")) return;
    watch.disconnect();
    (document.activeElement ?? document.body).dispatchEvent(
      new KeyboardEvent("keydown", { key: letter, bubbles: true, cancelable: true }));
  });
  watch.observe(document.body, { subtree: true, childList: true });
}"""
"""Press a letter the moment the judgement is drawn, before the page has had time for anything else."""


class OnSight(Keys):
    def test_a_letter_pressed_as_soon_as_the_desk_is_seen_is_heard(self) -> None:
        page = self.page("/check/186")
        for letter, comes in (
            ("u", page.get_by_role("menuitem", name="Bench")),
            ("e", page.get_by_role("textbox", name="Post to plastic")),
        ):
            with self.subTest(letter):
                expect(self.headline(page)).to_be_visible()
                page.keyboard.press("m")
                page.wait_for_url("**/match/*")
                expect(self.headline(page)).to_have_count(0)
                page.evaluate(ON_SIGHT, letter)
                page.keyboard.press("b")
                expect(comes).to_be_visible(timeout=10_000)
                page.keyboard.press("Escape")


class TheLook(Keys):
    in_quick_run = True

    def test_enter_keeps_the_sign_that_was_marked_by_mouse_and_space_and_letters_mark(self) -> None:
        page = self.page(None)
        tag = self.taken_in(page, looked=False)
        look = self.rung(page, "Look")
        look.get_by_role("button", name="Bulged").click()
        page.keyboard.press("Enter")
        self.kept(page, "Look", "Bulged")
        self.assertEqual([mark["sign"] for mark in self.figure(tag, "look", "marks")], ["bulged"])
        other = self.page(None)
        tag = self.taken_in(other, looked=False)
        other.keyboard.press("Shift+J")
        expect(self.rung(other, "Look").get_by_role("button", name="Loose hold-down")).to_have_attribute(
            "aria-pressed", "true"
        )
        self.rung(other, "Look").get_by_role("button", name="Wet top").focus()
        other.keyboard.press("Space")
        other.keyboard.press("Enter")
        self.kept(other, "Look")
        marks = {mark["sign"] for mark in self.figure(tag, "look", "marks")}
        self.assertEqual(marks, {"hold_down_loose", "wet_top"})

    def test_the_next_look_begins_with_the_last_and_does_no_job_by_itself(self) -> None:
        page = self.page(None)
        tag = self.taken_in(page, looked=False)
        self.desk_client.send("POST", f"/batteries/{tag}/readings", entry("look", marks=[{"sign": "hold_down_loose"}]))
        self.kept(page, "Look", "Loose hold-down")
        page.keyboard.press("l")
        page.keyboard.press("Shift+W")
        page.keyboard.press("Enter")
        self.kept(page, "Look", "Wet top")
        looks = [one for one in self.standing(tag) if one["kind"] == "look"]
        self.assertEqual({mark["sign"] for mark in looks[-1]["marks"]}, {"hold_down_loose", "wet_top"})
        judged = self.desk_client.get(f"/batteries/{tag}").json()["judgement"]
        self.assertEqual(judged["jobs_done"], [])

    def test_a_second_enter_after_bare_plates_pours_no_water(self) -> None:
        for key in ("Enter", "n"):
            with self.subTest(key):
                page = self.page(None)
                tag = self.taken_in(page, looked=False)
                self.rung(page, "Look").locator("[data-word=levels]").click()
                self.rung(page, "Look").get_by_text("Cell by cell", exact=True).click()
                for _ in ("low", "plates bare"):
                    self.rung(page, "Look").get_by_role("button", name=re.compile("^Cell 1:")).click()
                page.keyboard.press("Enter")
                self.kept(page, "Look", "plates bare")
                expect(page.get_by_role("list", name="Jobs")).to_contain_text("distilled water")
                page.keyboard.press(key)
                page.wait_for_timeout(400)
                self.assertEqual([one["kind"] for one in self.standing(tag)], ["look"])
                self.assertIn("plates_bare", self.figure(tag, "look", "levels"))
                page.close()


class Wrong(Keys):
    in_quick_run = True

    def test_a_wrong_optional_figure_is_said_and_nothing_is_kept_without_it(self) -> None:
        page = self.page(None)
        tag = self.taken_in(page)
        page.keyboard.type("12.66\n")
        self.kept(page, "Volts", "12.66")
        tester = self.rung(page, "Tester")
        page.locator("input[name=measured_cca_amps]").fill("610")
        health = self.word(page, "Tester", "health_pct")
        expect(health).to_be_focused()
        page.keyboard.type("6.7.7")
        page.keyboard.press("Enter")
        expect(tester).to_contain_text("Enter a number")
        self.open_rung(page, "p", "Pull")
        expect(tester).to_contain_text("half typed")
        page.wait_for_timeout(400)
        self.assertIsNone(self.figure(tag, "electronic_tester", "id"))
        page.keyboard.press("t")
        health.fill("67")
        page.keyboard.press("Enter")
        self.kept(page, "Tester", "610")
        self.assertEqual(self.figure(tag, "electronic_tester", "health_pct"), 67)

    def test_a_word_picked_by_finger_leaves_the_hand_on_enter(self) -> None:
        page = self.page(None)
        tag = self.taken_in(page)
        page.keyboard.type("12.66\n")
        self.kept(page, "Volts", "12.66")
        page.locator("input[name=measured_cca_amps]").fill("610")
        self.say(page, "Tester", "clamped", "Studs")
        page.keyboard.press("Enter")
        self.wait_until(page, lambda: self.figure(tag, "electronic_tester", "clamped") is not None)
        self.assertEqual(self.figure(tag, "electronic_tester", "clamped"), "studs")

    def test_no_word_moves_under_a_finger_as_a_figure_is_typed(self) -> None:
        page = self.page(None)
        self.taken_in(page)
        page.keyboard.type("12.66\n")
        self.kept(page, "Volts", "12.66")
        tester = self.rung(page, "Tester")
        expect(tester).to_contain_text("Put the electronic tester on the lead posts")
        word = tester.locator("[data-word=clamped]")
        before = word.bounding_box()
        page.locator("input[name=measured_cca_amps]").fill("610")
        expect(self.headline(page)).to_contain_text("Sound")  # it is judged already, and another step is next
        self.drawn(page)
        self.assertEqual(word.bounding_box(), before)

    def test_hours_of_rest_are_said_afterwards_without_typing_the_volts_again(self) -> None:
        page = self.page(None)
        tag = self.taken_in(page)
        page.keyboard.type("12.94\n")
        expect(page.get_by_test_id("next-step")).to_contain_text("surface charge")
        self.open_rung(page, "v", "Volts")
        self.rung(page, "Volts").get_by_role("button", name="Correct what was kept").click()
        expect(page.locator("input[name=volts]")).to_have_value("12.94")
        self.word(page, "Volts", "rested_hours").fill("24")
        page.keyboard.press("Enter")
        self.wait_until(page, lambda: self.figure(tag, "rest_volts", "rested_hours") == 24)
        self.assertEqual(self.figure(tag, "rest_volts", "volts"), 12.94)

    def test_enter_in_the_size_field_takes_no_half_written_battery_in(self) -> None:
        page = self.page("/counter")
        here = Client(app_on(self.url), TEO)
        before = len(here.get("/shelf").json())
        page.get_by_label("Rated figure").fill("610")
        size = page.get_by_role("combobox", name="Group or box size")
        for text in ("48", "4", "no such size"):
            with self.subTest(text):
                size.fill(text)
                size.press("Enter")
                page.wait_for_timeout(300)
                self.assertTrue(page.url.endswith("/counter"))
                expect(page.get_by_label("Rated figure")).to_have_value("610")
        self.assertEqual(len(here.get("/shelf").json()), before)
        size.fill("")
        page.get_by_label("Rated figure").press("Enter")  # here it means it
        page.wait_for_url("**/check/*")
        self.assertEqual(len(here.get("/shelf").json()), before + 1)
