"""Jobs hold the verdict on screen; limits follow the temperature; tools in full; reserve, stop-start, outlook."""

import re
from typing import Any

from playwright.sync_api import Page, expect

from tests.api.test_dangers import entry
from tests.house import LEAD, Client, app_on
from tests.screens.browser import Screens


class Bench(Screens):
    def read(self, tag: int, *bodies: dict[str, Any]) -> None:
        client = Client(app_on(self.url), LEAD)
        for body in bodies:
            self.assertEqual(client.send("POST", f"/batteries/{tag}/readings", body).status_code, 201)

    def standing(self, tag: int) -> list[dict[str, Any]]:
        kept = Client(app_on(self.url), LEAD).get(f"/batteries/{tag}").json()["readings"]
        return [one["reading"] for one in kept]


class Jobs(Bench):
    def test_a_job_is_the_next_step_and_a_look_proves_it(self) -> None:
        page = self.page(None)
        tag = self.taken_in(page, looked=False)
        self.read(tag, entry("look", corrosion="heavy", marks=[{"sign": "hold_down_missing"}]))
        expect(page.get_by_test_id("next-step")).to_contain_text("Clean posts and clamps to bright metal")
        page.keyboard.press("n")
        look = self.rung(page, "Look")
        expect(look).to_contain_text("change below what is done, then keep it")
        self.assertEqual(len(self.standing(tag)), 1)  # nothing is done by the key that was meant for the step
        self.say(page, "Look", "corrosion", "None")
        page.keyboard.press("Enter")
        expect(look).to_contain_text("No hold-down")
        expect(look).not_to_contain_text("corrosion")
        expect(self.rung(page, "Volts").locator("input[name=volts]")).to_be_visible()
        looks = [one for one in self.standing(tag) if one["kind"] == "look"]
        self.assertEqual([one["corrosion"] for one in looks], ["heavy", "none"])
        self.assertIsNone(looks[1]["replaces"])

    def test_sound_after_its_jobs_on_the_vane_the_shelf_and_in_the_list(self) -> None:
        page = self.page("/check/188")
        expect(self.headline(page)).to_have_text("Sound, after 4 jobs")
        expect(page.locator('[data-station="sound"]')).to_have_text("sound after jobs")
        shelf = page.get_by_role("navigation", name="Shelf")
        expect(shelf.get_by_role("link", name=re.compile("Tag 188.*sound, after: clean"))).to_be_visible()
        jobs = page.get_by_role("list", name="Jobs")
        expect(jobs.get_by_role("button")).to_have_count(2)  # the job that is the next step, and the others folded
        jobs.get_by_role("button", name="3 more jobs").click()
        jobs.get_by_text("clean posts and clamps").click()
        expect(jobs).to_contain_text("Negative off first")
        self.prove(page, "clean posts and clamps", "corrosion", "None")
        expect(self.headline(page)).to_have_text("Sound, after 3 jobs")
        jobs.get_by_text("fill to the mark with distilled water").click()
        jobs.get_by_role("button", name="Look again: is it done?").click()
        for _ in ("plates bare", "over", "at the mark"):
            self.rung(page, "Look").get_by_role("button", name=re.compile("^Cell 2:")).click()
        self.rung(page, "Look").get_by_role("button", name=re.compile("Loose hold-down")).click()
        page.keyboard.press("Enter")
        for job in ("fill to the mark with distilled water", "tighten the hold-down"):
            expect(jobs.get_by_text(job)).to_be_hidden()
        leakage = self.rung(page, "Leakage")
        expect(
            leakage.get_by_role("radio", name="Yes")
        ).to_be_checked()  # it was cleaned: that is what it is measured for
        leakage.locator("input[name=volts]").fill("0.1")
        leakage.get_by_role("button", name="Keep", exact=True).click()
        expect(self.headline(page)).to_have_text("Sound")

    def prove(self, page: Page, job: str, word: str, choice: str) -> None:
        """A job that is open in the list is proved by a look in which one word is changed by hand."""
        jobs = page.get_by_role("list", name="Jobs")
        jobs.get_by_role("button", name="Look again: is it done?").click()
        expect(self.rung(page, "Look")).to_contain_text(job)
        self.say(page, "Look", word, choice)
        page.keyboard.press("Enter")

    def test_posts_are_not_clean_after_a_look_that_says_otherwise(self) -> None:
        page = self.page(None)
        tag = self.taken_in(page, looked=False)
        self.read(tag, entry("look", corrosion="heavy"), entry("rest_volts", volts=12.62))
        self.open_rung(page, "t", "Tester")
        expect(self.rung(page, "Tester").locator("[data-word=posts_clean]")).to_contain_text("corroded, as seen")
        page.keyboard.type("300")
        expect(self.headline(page)).to_have_text("Cannot tell yet")
        self.say(page, "Tester", "posts_clean", "Clean")
        expect(self.headline(page)).to_have_text("Worn out")


class Tools(Bench):
    def test_the_battery_s_own_temperature_is_lent_and_the_limit_shown_is_the_limit_used(self) -> None:
        page = self.page(None)
        tag = self.taken_in(page)
        expect(self.rung(page, "Volts").locator("[data-word=temperature_c]")).to_contain_text("nobody took")
        page.keyboard.type("12.62")
        self.word(page, "Volts", "temperature_c").fill("0")
        self.rung(page, "Volts").get_by_role("button", name="Keep", exact=True).click()
        self.kept(page, "Volts", "0 °C")
        self.open_rung(page, "p", "Pull")
        expect(self.rung(page, "Pull")).to_contain_text("9.14 V")
        expect(self.rung(page, "Pull").locator("[data-word=temperature_c]")).to_contain_text("0 °C, as last taken")
        page.locator("input[name=volts]").fill("9.40")
        page.locator("input[name=volts]").press("Enter")
        self.kept(page, "Pull", "9.40")
        view = Client(app_on(self.url), LEAD).get(f"/batteries/{tag}").json()
        pull = next(each["reading"] for each in view["readings"] if each["reading"]["kind"] == "adjustable_load")
        self.assertIsNone(pull["temperature_c"])  # what was taken before is lent to it, never kept as read with it
        judged = view["judgement"]
        self.assertIn("hold 9.14 V", [found["limit_text"] for found in judged["findings"]])
        self.open_rung(page, "p", "Pull")
        self.word(page, "Pull", "temperature_c").fill("21")
        expect(self.rung(page, "Pull")).to_contain_text("9.60 V")

    def test_a_tester_that_only_says_something_is_a_reading(self) -> None:
        page = self.page(None)
        tag = self.taken_in(page)
        self.read(tag, entry("rest_volts", volts=12.62))
        self.kept(page, "Volts", "12.62")  # what another read moves the rungs: nothing is touched before it came
        self.open_rung(page, "t", "Tester")
        tester = self.rung(page, "Tester")
        expect(tester.locator("[data-word=resistance_mohm]")).to_be_hidden()
        tester.get_by_text("more…").click()
        expect(tester.locator("[data-word=resistance_mohm]")).to_be_visible()
        focused = page.locator("[data-rung=Tester] [data-word]:focus")
        expect(focused).to_have_count(1)  # the first of those that were folded, for whoever works by keys
        self.say(page, "Tester", "message", "Replace")
        tester.get_by_role("button", name="Keep", exact=True).click()
        self.kept(page, "Tester", "Replace")
        expect(self.headline(page)).to_have_text("Worn out")
        self.assertIsNone(self.standing(tag)[-1]["measured_cca_amps"])

    def test_a_timed_discharge_with_what_was_noted_on_the_way(self) -> None:
        page = self.page("/check/190")
        expect(page.locator("aside")).to_contain_text("225 Ah")
        self.open_rung(page, "Shift+D", "Reserve")
        rung = self.rung(page, "Reserve")
        expect(rung).to_contain_text("at least 60 % of 225 Ah")
        rung.locator("input[name=minutes]").fill("200")
        rung.get_by_label("After").fill("100")
        rung.get_by_label("Volts then").fill("5.9")
        rung.get_by_role("button", name="Note it").click()
        expect(rung).to_contain_text("100 min 5.9 V")
        rung.get_by_role("button", name="Keep", exact=True).click()
        self.kept(page, "Reserve", "200")
        expect(self.headline(page)).to_have_text("Worn out")
        self.assertEqual(self.standing(190)[-1]["log"], [{"minutes": 100, "volts": 5.9}])

    def test_a_size_of_6_v_sets_the_volts_and_reserve_is_asked_for(self) -> None:
        page = self.page("/counter")
        page.get_by_label("Group or box size").fill("GC2")
        expect(page.locator("[data-word=volts]")).to_contain_text("6 V")
        page.get_by_label("Reserve").fill("110")
        page.get_by_role("button", name="Take it in").click()
        page.wait_for_url("**/check/*")
        battery = Client(app_on(self.url), LEAD).get(f"/batteries/{page.url.rsplit('/', 1)[1]}").json()["battery"]
        self.assertEqual((battery["nominal_volts"], battery["reserve_minutes"]), (6, 110))

    def test_a_car_presets_the_type_only_until_somebody_picked_it(self) -> None:
        page = self.page("/counter")
        chemistry = page.locator("[data-word=chemistry]")
        page.get_by_label("Car, if known").fill("Brevan Tillet 1.2")
        expect(chemistry).to_contain_text("EFB")
        chemistry.click()
        page.get_by_text("Flooded", exact=True).last.click()
        page.get_by_label("Car, if known").fill("Brevan Ossel")
        expect(chemistry).to_contain_text("flooded")


class StopStart(Bench):
    def test_the_list_is_gone_through_then_the_reserve_is_asked(self) -> None:
        page = self.page("/check/191")
        expect(self.headline(page)).to_have_text("Cannot tell yet: why stop-start stopped")
        car = self.rung(page, "The car")
        bonnet = car.get_by_role("button", name=re.compile("^Bonnet shut"))
        bonnet.click()
        bonnet.click()
        expect(self.headline(page)).to_have_text("Sound")
        bonnet.click()
        car.get_by_role("button", name="All the others in order").click()
        car.get_by_role("button", name="Keep", exact=True).click()
        self.kept(page, "The car", "10 of 10 looked at")
        expect(page.get_by_test_id("next-step")).to_contain_text("Discharge it from full")

    def test_what_it_means_to_its_owner_stands_under_the_headline(self) -> None:
        page = self.page("/check/173")
        expect(page.get_by_test_id("outlook")).to_contain_text("Fit for lighter duty")
        page.goto(f"{self.base}/check/181")
        expect(page.get_by_test_id("outlook")).to_contain_text("Starts this car down to about")
