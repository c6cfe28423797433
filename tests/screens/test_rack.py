"""The rack in the browser: what needs a hand, a battery moved by drag, by arrows and by touch, a promise, the book of equipment."""

import re
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

from playwright.sync_api import Page, expect

from tests.api.test_rack import ALWAYS
from tests.house import LEAD, Client, app_on
from tests.screens.browser import Screens
from tests.screens.test_sizes import Sized


class Rack(Screens):
    def setUp(self) -> None:
        self.api = Client(app_on(self.url), LEAD)
        self.assertEqual(self.api.send("PUT", "/rack/hours", ALWAYS).status_code, 200)

    def open(self, tag: int | None = None) -> Page:
        page = self.page("/rack" if tag is None else f"/rack/{tag}")
        expect(page.get_by_role("heading", name="At hand")).to_be_visible()
        expect(self.case(page, 178)).to_be_visible()
        return page

    def case(self, page: Page, tag: int) -> object:
        return page.locator(f"button[data-tag='{tag}']")

    def board(self, page: Page, name: str) -> object:
        return page.get_by_role("group", name=re.compile(rf"^{name}:"))

    def lane(self, tag: int) -> str:
        rack = self.api.get("/rack").json()
        slot = next(one for one in rack["slots"] if one["tag"] == tag)
        return next(str(one["name"]) for one in rack["chargers"] if one["id"] == slot["charger_id"])


class AtHand(Rack):
    def test_clamped_on_noted_taken_off_one_action_each(self) -> None:
        tag = 194  # set on the first charger by hand
        page = self.open()
        card = page.locator(f"[data-hand=connect-{tag}]")
        expect(card).to_contain_text("wet: 14.7 V")
        card.get_by_role("button", name="Clamped on").click()
        expect(card).to_be_hidden()
        expect(self.case(page, tag)).to_have_attribute("data-kind", "hangs")
        self.case(page, tag).click()
        chosen = page.get_by_role("form", name=f"Battery {tag} at the rack")
        chosen.get_by_label("Amps").fill("5.8")
        expect(chosen.get_by_role("button", name="Note")).to_be_disabled()
        chosen.get_by_label("Volts").fill("13.2")
        chosen.get_by_role("button", name="Note").click()
        expect(chosen.get_by_label("Amps")).to_have_value("")
        kept = self.api.get(f"/batteries/{tag}").json()["readings"][-1]["reading"]
        self.assertEqual(
            (kept["kind"], kept["amps"], kept["volts"], kept["finished"]), ("charge_run", 5.8, 13.2, False)
        )
        chosen.get_by_label("Amps").fill("0.5")
        chosen.get_by_role("button", name="Full, off").click()
        # half a reading is asked for, and what was typed stays
        expect(chosen.get_by_text("Enter the volts too, or neither")).to_be_visible()
        expect(chosen.get_by_label("Amps")).to_have_value("0.5")
        chosen.get_by_label("Volts").fill("14.6")
        chosen.get_by_role("button", name="Full, off").click()
        expect(self.board(page, "Rest").locator(f"button[data-tag='{tag}']")).to_be_visible()

    def test_from_the_check_one_key_leads_to_its_place_at_the_rack(self) -> None:
        page = self.page("/check/192")
        expect(page.get_by_role("link", name="Onto a charger, at the rack")).to_be_visible()
        page.keyboard.press("n")
        page.wait_for_url("**/rack/192")
        expect(page.get_by_role("form", name="Battery 192 at the rack")).to_be_visible()
        page.keyboard.press("=")
        page.wait_for_url("**/rack")

    def test_what_another_does_comes_by_itself(self) -> None:
        page = self.open()
        tag = 195
        expect(self.case(page, tag)).to_have_attribute("data-kind", "planned")
        slot = next(one for one in self.api.get("/rack").json()["slots"] if one["tag"] == tag)
        self.api.send("PUT", f"/batteries/{tag}/pin", {"charger_id": slot["charger_id"], "output": slot["output"]})
        expect(self.case(page, tag)).to_have_attribute("aria-label", re.compile("set by hand"))
        self.api.send("PUT", f"/batteries/{tag}/pin", {"charger_id": None})
        expect(self.case(page, tag)).not_to_have_attribute("aria-label", re.compile("set by hand"))

    def test_a_promise_that_cannot_be_kept_is_said_and_made_anew(self) -> None:
        soon = (datetime.now(UTC) + timedelta(minutes=40)).isoformat()
        self.api.send("PUT", "/batteries/176/promise", {"promised_at": soon, "priority": "promised"})
        page = self.open()
        broken = page.get_by_role("form", name="Promise of 176")
        expect(broken).to_contain_text("176 can be ready")
        broken.get_by_role("button", name=re.compile("Promise .* instead")).click()
        expect(broken).to_be_hidden()
        expect(page.get_by_text(re.compile("176 was promised for"))).to_be_visible()


class Charge(Rack):
    def test_its_curve_stands_at_the_rack_and_the_next_note_goes_on_from_it(self) -> None:
        page = self.open(176)
        chosen = page.get_by_role("form", name="Battery 176 at the rack")
        expect(chosen.get_by_test_id("charge-curve")).to_contain_text("16 Ah in over 3.0 h")
        page.goto(f"{self.base}/check/176")
        expect(page.get_by_test_id("next-step")).to_contain_text("It hangs on Charger 2 at 14.7 V, 5.9 A")
        page.keyboard.press("h")
        rung = self.rung(page, "Charge")
        expect(rung.locator("input[name=start_amps]")).to_have_value("6")
        rung.locator("input[name=amps]").fill("3.9")
        rung.locator("input[name=volts]").fill("13.8")
        expect(rung.get_by_test_id("charge-curve")).to_be_visible()
        rung.get_by_role("button", name="Keep").click()
        self.kept(page, "Charge", "3.9 A")
        kept = self.api.get("/batteries/176").json()["readings"][-1]["reading"]
        self.assertEqual([point["minutes"] for point in kept["log"]], [0, 30, 60, 120, 180])
        self.assertEqual(kept["tool"]["name"], "Charger 2")


class Moved(Rack):
    def test_dragged_onto_another_board_it_is_set_there(self) -> None:
        page = self.open()
        tag = 194
        self.api.send("PUT", f"/batteries/{tag}/pin", {"charger_id": None})
        expect(self.case(page, tag)).not_to_have_attribute("aria-label", re.compile("set by hand"))
        target = "Charger 2" if self.lane(tag) != "Charger 2" else "Charger 1"
        box, board = self.case(page, tag).bounding_box(), self.board(page, target).bounding_box()
        assert box is not None
        assert board is not None
        page.mouse.move(box["x"] + 20, box["y"] + 20)
        page.mouse.down()
        page.mouse.move(box["x"] + 40, board["y"] + 30, steps=6)
        expect(self.board(page, target)).to_have_attribute("data-over", "true")
        page.mouse.up()
        expect(self.board(page, target).locator(f"button[data-tag='{tag}']")).to_have_attribute(
            "aria-label", re.compile("set by hand")
        )
        self.assertEqual(self.lane(tag), target)

    def test_a_shaking_hand_is_no_drag_and_a_drop_beside_changes_nothing(self) -> None:
        page = self.open()
        before = self.lane(195)
        box = self.case(page, 195).bounding_box()
        assert box is not None
        page.mouse.move(box["x"] + 20, box["y"] + 20)
        page.mouse.down()
        page.mouse.move(box["x"] + 24, box["y"] + 23)
        page.mouse.up()
        expect(page.get_by_role("form", name="Battery 195 at the rack")).to_be_visible()
        page.mouse.move(box["x"] + 20, box["y"] + 20)
        page.mouse.down()
        page.mouse.move(40, 400, steps=5)
        page.mouse.up()
        page.wait_for_timeout(300)
        self.assertEqual(self.lane(195), before)

    def place(self, tag: int) -> str:
        slot = next(one for one in self.api.get("/rack").json()["slots"] if one["tag"] == tag)
        return f"{slot['charger_id']}-{slot['output']}"

    def test_by_arrows_it_goes_a_board_up_or_down(self) -> None:
        page = self.open()
        boards = [one.get_attribute("data-lane") for one in page.locator("[data-lane]:not([data-out='true'])").all()]
        before = self.place(192)
        key, step = ("ArrowUp", -1) if boards.index(before) > 0 else ("ArrowDown", 1)
        self.case(page, 192).focus()
        page.keyboard.press(key)
        self.wait_until(page, lambda: self.place(192) == boards[boards.index(before) + step])
        page.keyboard.press("Enter")
        expect(page.get_by_role("form", name="Battery 192 at the rack")).to_be_visible()

    def test_set_by_its_choices_without_any_drag(self) -> None:
        page = self.open(192)
        chosen = page.get_by_role("form", name="Battery 192 at the rack")
        chosen.get_by_text("Charger 1", exact=True).click()
        self.wait_until(page, lambda: self.lane(192) == "Charger 1")
        expect(chosen.get_by_text(re.compile("Charger 1.*set by hand"))).to_be_visible()
        chosen.get_by_role("button", name="Leave it to the plan").click()
        expect(chosen.get_by_text(re.compile("set by hand"))).to_be_hidden()

    def test_where_it_may_not_hang_the_reason_is_said(self) -> None:
        page = self.open()
        chosen = page.get_by_role("form", name=re.compile("at the rack"))
        self.case(page, 178).click()
        chosen.get_by_text("Charger 2", exact=True).click()
        expect(chosen.get_by_role("alert")).to_have_text(re.compile("176 hangs there"))


class Touched(Sized):
    def test_a_finger_moves_it_and_opens_it(self) -> None:
        api = Client(app_on(self.url), LEAD)
        api.send("PUT", "/rack/hours", ALWAYS)
        api.send("PUT", "/batteries/194/pin", {"charger_id": None})
        page = self.at((1024, 768))
        page.goto(f"{self.base}/rack")
        case = page.locator("button[data-tag='194']")
        case.tap()
        expect(page.get_by_role("form", name="Battery 194 at the rack")).to_be_visible()
        page.get_by_role("button", name="Close 194").tap()
        target = page.get_by_role("group", name=re.compile("^Charger 2:"))
        box, board = case.bounding_box(), target.bounding_box()
        assert box is not None
        assert board is not None
        touch = page.context.new_cdp_session(page)
        at = {"x": box["x"] + 20, "y": box["y"] + 20}
        touch.send("Input.dispatchTouchEvent", {"type": "touchStart", "touchPoints": [at]})
        for part in range(1, 7):
            moved = {"x": at["x"], "y": at["y"] + (board["y"] + 30 - at["y"]) * part / 6}
            touch.send("Input.dispatchTouchEvent", {"type": "touchMove", "touchPoints": [moved]})
        touch.send("Input.dispatchTouchEvent", {"type": "touchEnd", "touchPoints": []})
        expect(target.locator("button[data-tag='194']")).to_be_visible()


class Promised(Rack):
    def test_said_at_take_in_with_the_earliest_that_can(self) -> None:
        page = self.page("/counter")
        expect(page.get_by_role("textbox", name="Rated figure")).to_be_focused()
        page.keyboard.type("1500")
        page.locator("[data-word=promised_at]").click()
        page.get_by_text("Today", exact=True).click()
        # a minute from now: shortly after midnight 18 hours of charge end before 23:58
        shop = datetime.now(ZoneInfo("Europe/Dublin"))
        soon = min(shop + timedelta(minutes=1), shop.replace(hour=23, minute=59))
        page.locator("input[name=promised_at]").fill(f"{soon:%H:%M}")
        expect(page.get_by_role("status").filter(has_text="Cannot be kept")).to_be_visible()
        page.get_by_role("button", name=re.compile("^Promise .* instead")).click()
        expect(page.get_by_role("status").filter(has_text="Can be kept")).to_be_visible()
        page.get_by_role("button", name="Take it in").click()
        page.wait_for_url("**/check/*")
        tag = int(page.url.rsplit("/", 1)[1])
        self.assertIsNotNone(self.api.get(f"/batteries/{tag}").json()["promised_at"])

    def test_a_time_that_is_none_is_asked_for_in_its_field(self) -> None:
        page = self.page("/counter")
        expect(page.get_by_role("textbox", name="Rated figure")).to_be_focused()
        page.keyboard.type("600")
        page.locator("[data-word=promised_at]").click()
        page.get_by_text("Tomorrow", exact=True).click()
        page.locator("input[name=promised_at]").fill("25:90")
        page.get_by_role("button", name="Take it in").click()
        expect(page.get_by_text("Enter a time of day, such as 17:00")).to_be_visible()
        self.assertTrue(page.url.endswith("/counter"))


class Tools(Rack):
    def test_a_tool_is_written_in_anew_and_its_check_rung_follows(self) -> None:
        page = self.page("/equipment", LEAD)
        page.get_by_role("button", name="Write one in: load").click()
        form = page.get_by_role("form", name="Write in a load")
        form.get_by_label("Name").fill("Old pile")
        form.get_by_label("Amps, or its most").fill("250")
        form.get_by_label("On its face", exact=True).fill("many")
        form.get_by_role("button", name="Write it in").click()
        expect(form.get_by_text(re.compile("valid number|Enter"))).to_be_visible()
        expect(form.get_by_label("Name")).to_have_value("Old pile")
        form.get_by_label("On its face", exact=True).fill("10")
        form.get_by_role("button", name="Write it in").click()
        expect(page.get_by_role("button", name=re.compile("Old pile"))).to_contain_text("to 250 A, 10 s, cools 10 min")
        self.taken_in(page)
        page.locator("input[name=volts]").fill("12.62")
        self.rung(page, "Volts").get_by_role("button", name="Keep").click()
        self.kept(page, "Volts")
        self.open_rung(page, "p", "Pull")
        rung = self.rung(page, "Pull")
        expect(rung).to_contain_text("Set 300 A for 15 s")
        self.say(page, "Pull", "_tool", "Old pile")
        expect(rung).to_contain_text("Set 250 A for 10 s")
        expect(rung.locator("[data-word=amps]")).to_contain_text("250 A")
        expect(rung.locator("[data-word=seconds]")).to_contain_text("10 s")
        rung.locator("input[name=volts]").fill("10.1")
        rung.get_by_role("button", name="Keep").click()
        self.kept(page, "Pull", "10.10")
        # the one last used is preset for the next battery
        self.taken_in(page)
        self.open_rung(page, "p", "Pull")
        expect(self.rung(page, "Pull").locator("[data-word=_tool]")).to_contain_text("Old pile")

    def test_one_overdue_says_so_before_and_after(self) -> None:
        page = self.page(None)
        self.taken_in(page)
        rung = self.rung(page, "Volts")
        expect(rung.locator("[data-word=_tool]")).to_contain_text("Bench meter")
        self.say(page, "Volts", "_tool", "Pocket meter")
        expect(rung.locator("[data-word=_tool]")).to_contain_text("due for its check since")
        rung.locator("input[name=volts]").fill("12.62")
        rung.get_by_role("button", name="Keep").click()
        self.kept(page, "Volts")
        expect(page.get_by_text(re.compile("Pocket meter overdue for its check")).first).to_be_visible()

    def test_opening_hours_are_a_lead_s_and_read_as_people_write_them(self) -> None:
        page = self.page("/equipment", LEAD)
        field = page.get_by_label("Monday, open from and until")
        page.get_by_label("Tuesday, open from and until").fill("8 12, 13 1730")
        field.fill("8 to 1730")
        page.get_by_label("Sunday, open from and until").fill("late")
        expect(page.get_by_text(re.compile("such as 8:30 17:30"))).to_be_visible()
        page.get_by_label("Sunday, open from and until").fill("")
        page.get_by_role("button", name="Save the hours").click()
        expect(field).to_have_value("08:00 17:30")
        hours = self.api.get("/rack").json()["opening_hours"]["days"]
        self.assertEqual((hours[0]["opens"], hours[0]["closes"], hours[0]["pause_from"]), ("08:00", "17:30", None))
        self.assertEqual((hours[1]["pause_from"], hours[1]["pause_until"], hours[6]), ("12:00", "13:00", None))
        page.get_by_role("button", name="Closed besides").click()
        other = self.page("/equipment")
        expect(other.get_by_text("Only a lead changes them.")).to_be_visible()
