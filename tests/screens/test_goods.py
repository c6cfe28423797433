"""Match from whatever is known, goods, sales with their fitting list, and lists brought in, as people use them."""

import re
from pathlib import Path
from tempfile import TemporaryDirectory

from playwright.sync_api import Page, Route, expect

from tests.house import LEAD, NOOR, PINS, TEO, Client, app_on
from tests.photos import PICTURE, picture
from tests.screens.browser import Screens


class AtTheMatch(Screens):
    def car(self, page: Page, text: str, name: str) -> None:
        page.locator("input[name=car]").fill(text)
        page.get_by_role("button", name=re.compile(name)).click()

    def test_with_no_battery_in_hand_m_asks_for_a_car_and_its_variants_stand_side_by_side(self) -> None:
        page = self.page("/counter")
        page.locator("h1").first.click()
        page.keyboard.press("m")
        page.wait_for_url("**/match")
        expect(page.locator("input[name=car]")).to_be_focused()
        page.keyboard.type("senna 2016")
        senna = page.get_by_role("button", name="Ulmar Senna")
        expect(senna).to_have_count(1)  # the list of what was typed, not of its beginning
        senna.click()
        variants = page.get_by_role("region", name="Variants").get_by_role("button")
        expect(variants).to_have_count(4)
        expect(page.get_by_text("Which Ulmar Senna? 4 variants")).to_be_visible()
        expect(page.locator('[data-fit="exact"]')).to_have_count(0)
        variants.nth(1).click()
        expect(page.locator('[data-fit="exact"]').first).to_be_visible()
        expect(page.get_by_label("What is asked")).to_contain_text("EFB or better, stop-start")
        expect(page.get_by_label("Variants")).to_contain_text("register it: battery replacement, by a diagnostic tool")
        # away and back: what is known is still there
        page.get_by_role("link", name="goods").click()
        page.go_back()
        expect(variants.nth(1)).to_have_attribute("aria-pressed", "true")
        page.get_by_role("button", name="Start afresh").click()
        expect(page.locator("input[name=car]")).to_have_value("")

    def test_what_one_person_typed_is_not_the_next_ones(self) -> None:
        page = self.page("/match", fresh=True)
        page.locator("input[name=code]").fill("574 012 068")
        expect(page.locator('[data-fit="exact"]').first).to_be_visible()
        page.get_by_role("button", name=f"Change to {NOOR}").click()
        page.keyboard.type(PINS[NOOR] + "\n")
        expect(page.get_by_role("button", name=f"{NOOR} is signed in")).to_be_visible()
        expect(page.locator("input[name=code]")).to_have_value("")

    def test_sources_that_differ_stand_beside_one_another_with_who_wins_and_why(self) -> None:
        page = self.page("/match/173")
        rating = page.locator('[data-line="rating"]')
        expect(rating).to_contain_text("car's list ● 680 CCA")
        expect(rating).to_contain_text("old label 700 CCA (stricter)")
        expect(rating).to_contain_text("at least what the car's list asks")
        page.locator("input[name=code]").fill("574 012 068")
        expect(page.get_by_text("12 V, 74 Ah, 680 A EN; size LN3")).to_be_visible()
        expect(rating).to_contain_text("code 716 CCA")
        page.locator("input[name=code]").fill("nonsense")
        expect(page.get_by_text("nonsense stands in no list here: measure length, width and height")).to_be_visible()
        expect(page.locator("input[name=code]")).to_have_value("nonsense")

    def test_the_tray_under_the_tape(self) -> None:
        page = self.page("/match")
        page.get_by_role("button", name="Measure tray or old one").click()
        for name, mm in (("length", "290"), ("width", "178"), ("height", "200")):
            page.locator(f"input[name={name}]").fill(mm)
        page.get_by_role("radiogroup", name=re.compile("Positive")).get_by_text("Right").click()
        expect(page.get_by_label("What is asked")).to_contain_text("into 290 mm")
        near = page.locator('[data-fit="near"]', has_text="12 mm less long").first
        near.click()
        expect(page.get_by_label("Old and new").get_by_text("Fit a spacer for 12 mm of length")).to_be_visible()
        expect(page.get_by_text(re.compile("length: 278 mm, .12 mm"))).to_be_visible()
        page.locator("input[name=off]").fill("12")
        expect(
            page.locator('[data-fit="exact"]', has_text="48").first
        ).to_be_visible()  # within what the tape may be off
        page.locator("input[name=off]").fill("31")
        expect(page.get_by_text(re.compile("Enter 0 to 30 mm"))).to_be_visible()
        expect(page.locator("input[name=off]")).to_have_value("31")
        page.locator("input[name=off]").fill("")
        expect(page.locator('[data-fit="near"]', has_text="12 mm less long").first).to_be_visible()
        page.locator("input[name=length]").fill("27,8")
        expect(page.get_by_text(re.compile("Enter 50 to 700 mm"))).to_be_visible()

    def test_a_tray_in_a_photo_fills_the_tape_and_the_picture_is_never_sent(self) -> None:
        page = self.page("/match")
        sent: list[int] = []
        page.on(
            "request", lambda request: sent.append(len(request.post_data or "")) if request.method == "POST" else None
        )
        png, tray, card = picture(290, 178, tilt=12, turn=6)
        page.get_by_role("button", name="Measure tray or old one").click()
        page.get_by_role("button", name="From a photo").click()
        dialog = page.get_by_role("dialog", name="Measure in a photo")
        dialog.locator("input[type=file]").set_input_files({"name": "tray.png", "mimeType": "image/png", "buffer": png})
        dialog.get_by_role("button", name="Measure").click()
        expect(
            dialog.get_by_role("alert").or_(dialog.get_by_role("status"))
        ).to_be_visible()  # marks as they lie at first
        shown = dialog.get_by_role("img", name="The tray as it was taken").bounding_box()
        assert shown is not None
        for part, points in (("card", card), ("tray", tray)):
            for at, (x, y) in enumerate(points, 1):
                mark = dialog.get_by_role("button", name=f"Corner {at} of the {part}").bounding_box()
                assert mark is not None
                page.mouse.move(mark["x"] + mark["width"] / 2, mark["y"] + mark["height"] / 2)
                page.mouse.down()
                page.mouse.move(
                    shown["x"] + x / PICTURE[0] * shown["width"], shown["y"] + y / PICTURE[1] * shown["height"], steps=3
                )
                page.mouse.up()
        first = dialog.get_by_role("button", name="Corner 1 of the tray")
        first.press("ArrowRight")
        first.press("ArrowLeft")
        dialog.get_by_role("button", name="Measure").click()
        expect(dialog.get_by_role("status")).to_contain_text(re.compile(r"About (289|290|291) mm by (177|178|179) mm"))
        dialog.get_by_role("button", name="Take these").click()
        expect(page.locator("input[name=length]")).to_have_value(re.compile("289|290|291"))
        page.locator("input[name=height]").fill("200")
        expect(page.get_by_label("What is asked")).to_contain_text(re.compile("into (289|290|291) mm"))
        self.assertLess(max(sent), 2000)

    def test_what_the_dearer_one_buys_is_turned_to_the_customer(self) -> None:
        page = self.page("/match/173")
        page.locator('[data-fit="exact"]').nth(1).click()
        expect(page.get_by_test_id("upgrade")).to_contain_text("more to start with in the cold")
        page.get_by_role("button", name="Turn it to the customer").click()
        turned = page.get_by_role("dialog", name="For the customer")
        expect(turned).to_contain_text("Quellan Mat")
        self.assertGreaterEqual(float(turned.evaluate("el => parseFloat(getComputedStyle(el).fontSize)")), 30)
        page.keyboard.press("Enter")
        expect(turned).to_have_count(0)
        missing = page.get_by_role("region", name="Not in stock")
        expect(missing).to_contain_text("Weir Lane Batteries, Quay Street has 1")
        expect(missing).to_contain_text("Ordered now it is here on")
        expect(missing).to_contain_text("In stock now: Quellan Cycle 48 700")
        expect(missing).to_contain_text("Lend one, or keep theirs alive")
        missing.get_by_role("button", name="Put it on the order list").click()
        expect(missing).to_contain_text("1 on order")

    def test_why_the_others_do_not_fit_is_counted_when_asked(self) -> None:
        page = self.page("/match/173")
        asked: list[str] = []
        page.on("request", lambda request: asked.append(request.url))
        expect(page.locator('[data-fit="exact"]').first).to_be_visible()
        self.assertFalse(any("others" in url for url in asked))
        page.get_by_role("button", name="Why the others do not fit").click()
        expect(page.get_by_label("Why the others do not fit")).to_contain_text("too large, or too small for a spacer")


class Selling(Screens):
    def test_sold_fitted_and_ticked_off(self) -> None:
        page = self.page("/match/173")
        page.get_by_role("button", name="Sell this one").click()
        expect(page.locator("input[name=volts]")).to_be_focused()
        page.keyboard.type("12.2")
        page.locator("input[name=serial]").fill("QC 9001")
        page.keyboard.press("Enter")
        expect(page.get_by_text("12.20 V is 37 % charged: charge it before it is handed over")).to_be_visible()
        expect(page.locator("input[name=serial]")).to_have_value("QC 9001")
        page.locator("input[name=volts]").fill("1278")
        # the answer is lost: the same sale sent again is one sale
        sent = []

        def lose(route: object) -> None:
            sent.append(1)
            if len(sent) == 1:
                route.fetch()  # type: ignore[attr-defined]
                route.abort()  # type: ignore[attr-defined]
            else:
                route.continue_()  # type: ignore[attr-defined]

        page.route("**/api/sales", lose)
        page.keyboard.press("Enter")
        expect(page.get_by_role("main").get_by_text("The server does not answer")).to_be_visible()
        page.wait_for_timeout(1500)  # by then the page knows that the piece it sold is gone
        page.get_by_role("button", name="Hand it over").click()
        page.wait_for_url("**/fitting/*")
        expect(page.get_by_role("heading", name=re.compile("Fitting"))).to_be_visible()
        tag = int(page.url.rsplit("/", 1)[1])
        self.assertEqual(len(sent), 2)
        sold = [one for one in Client(app_on(self.url), TEO).get("/sales").json() if one["serial"] == "QC 9001"]
        self.assertEqual([one["tag"] for one in sold], [tag])
        expect(page.get_by_text("handed over")).to_be_visible()
        # two at the same list
        noor = self.page(f"/fitting/{tag}", person=NOOR)
        page.get_by_role("button", name="Negative clamp off first").click()
        expect(noor.locator('[data-step="negative_off"]').get_by_role("button")).to_have_attribute(
            "aria-pressed", "true"
        )
        expect(noor.locator('[data-step="negative_off"]')).to_contain_text(TEO)
        noor.get_by_role("button", name=re.compile("Volts at the posts with the engine running")).click()
        expect(noor.locator("input[name=figure]")).to_be_focused()
        noor.keyboard.type("14,3\n")
        expect(page.locator('[data-step="running_volts"]')).to_contain_text("14.3 V")
        page.get_by_role("button", name=re.compile("Book the old battery in")).click()
        expect(page.get_by_text("given back for the old one")).to_be_visible()
        page.get_by_role("link", name="Its check").click()
        expect(page.locator("[data-rung='The car']")).to_contain_text("14.3")


class SoldMeanwhile(Screens):
    def test_what_is_being_sold_stays_in_front_though_better_ones_push_it_off_the_list(self) -> None:
        page = self.page("/match/173")
        teo = Client(app_on(self.url), TEO)
        sold = teo.send("POST", "/match", {"tag": 173}).json()["matches"][0]["candidate"]["item_id"]
        page.get_by_role("button", name="Sell this one").click()
        page.locator("input[name=serial]").fill("QC 9002")

        def without_it(route: Route) -> None:
            answer = route.fetch()
            result = answer.json()
            result["matches"] = [match for match in result["matches"] if match["candidate"]["item_id"] != sold]
            route.fulfill(response=answer, json=result)

        page.route("**/api/match", without_it)
        order = {"item_id": sold, "pieces": 1, "for_tag": None, "note": "for the shelf", "expected_on": None}
        with page.expect_response("**/api/match"):
            self.assertLess(teo.send("POST", "/orders", order).status_code, 300)
        page.wait_for_timeout(300)
        expect(page.locator("input[name=serial]")).to_have_value("QC 9002")
        # and for what is asked otherwise it says nothing
        with page.expect_response("**/api/match"):
            page.get_by_text("Hard winters").click()
        expect(page.locator("input[name=serial]")).to_have_count(0)

    def test_two_at_the_last_fresh_one_the_second_is_told_and_asked_the_price_of_the_next(self) -> None:
        """The next piece stood too long: the house prices it down, and a price nobody typed follows it."""
        page, teo = self.page("/match/173"), Client(app_on(self.url), TEO)
        first = teo.send("POST", "/match", {"tag": 173}).json()["matches"][0]["candidate"]
        self.assertEqual(first["piece"]["mark"], "")
        page.get_by_role("button", name="Sell this one").click()
        page.locator("input[name=volts]").fill("12.78")
        page.locator("input[name=serial]").fill("QC 9003")
        before = page.locator("input[name=price]").input_value()
        sale = {"item_id": first["item_id"], "piece_id": first["piece"]["id"], "volts": 12.78, "serial": "QC 9004"}
        self.assertEqual(teo.send("POST", "/sales", sale).status_code, 201)
        reduced = teo.send("POST", "/match", {"tag": 173}).json()
        now = next(one["candidate"] for one in reduced["matches"] if one["candidate"]["item_id"] == first["item_id"])
        self.assertEqual((now["piece"]["mark"], now["price_cents"] < first["price_cents"]), ("reduced", True))
        expect(page.get_by_text("priced down")).to_be_visible()
        expect(page.locator("input[name=price]")).to_have_value(before)  # of the piece that was opened, till it is gone
        page.get_by_role("button", name="Hand it over").click()
        expect(page.get_by_text("this piece was sold meanwhile: take the next")).to_be_visible()
        expect(page.locator("input[name=price]")).to_have_value(f"{now['price_cents'] / 100:.2f}")
        expect(page.locator("input[name=serial]")).to_have_value("QC 9003")
        page.get_by_role("button", name="Hand it over").click()
        page.wait_for_url("**/fitting/*")


class Held:
    """What is asked of one address waits until it is let go; what is asked after that does not."""

    def __init__(self, page: Page, address: str) -> None:
        self.waiting: list[Route] | None = []
        page.route(address, self.hold)

    def hold(self, route: Route) -> None:
        if self.waiting is None:
            route.continue_()
        else:
            self.waiting.append(route)

    def let_go(self) -> None:
        waiting, self.waiting = self.waiting or [], None
        for route in waiting:
            route.continue_()


class OnTheShelf(Screens):
    @staticmethod
    def written_anew(page: Page, text: str, name: str) -> None:
        """The form of an item, opened from what its text finds."""
        page.locator("input[name=text]").fill(text)
        page.get_by_role("button", name=re.compile(name)).first.click()
        page.get_by_role("button", name="Price and figures").click()

    def test_what_wants_a_hand_is_one_action_and_other_screens_follow(self) -> None:
        page = self.page("/counter")
        page.locator("h1").first.click()
        page.keyboard.press("+")
        page.wait_for_url("**/goods")
        row = page.locator('[data-due="charge"]').first
        number = row.locator("span").first.inner_text()
        noor = self.page("/goods", person=NOOR)
        expect(noor.get_by_text(number, exact=True)).to_be_visible()
        row.get_by_role("button", name=re.compile("Charged")).click()
        page.keyboard.type("99\n")
        expect(row.get_by_text(re.compile("volts at rest"))).to_be_visible()
        page.keyboard.press("Control+a")
        page.keyboard.type("12.9\n")
        expect(page.get_by_text(number, exact=True)).to_have_count(0)
        expect(noor.get_by_text(number, exact=True)).to_have_count(0)
        expect(page.get_by_role("button", name=re.compile("Set aside"))).to_have_count(0)  # a lead's

    def test_a_price_written_anew_by_a_lead(self) -> None:
        page = self.page("/goods?view=catalogue", person=LEAD)
        page.locator("input[name=text]").fill("silver 47")
        found = page.get_by_role("button", name=re.compile("Merlow Silver 47 600"))
        was = re.search(r"€[\d.]+", found.inner_text())
        assert was is not None
        found.click()
        page.get_by_role("button", name="Price and figures").click()
        page.locator("input[name=price]").fill("133,30")
        page.get_by_role("button", name="Write it anew").click()
        expect(page.get_by_text("Ilse Marrant: €133.30, deposit")).to_be_visible()
        expect(page.get_by_text(f"as it stood until then: {was[0]}, deposit")).to_be_visible()
        page.get_by_role("button", name="Goods received").click()
        page.locator("input[name=pieces]").fill("0")
        page.get_by_role("button", name="Put them on the shelf").click()
        expect(page.get_by_role("form", name="Goods received")).to_contain_text("Enter 1 to 500")

    def test_what_an_item_has_besides_its_size_stays_when_another_size_is_picked(self) -> None:
        lead = Client(app_on(self.url), LEAD)
        row = next(one for one in lead.get("/goods?text=mat 94r").json()["items"])
        before = lead.get(f"/goods/{row['id']}").json()["item"]
        self.assertEqual((before["vent_tube"], before["vent_side"] is not None), (True, True))
        page = self.page("/goods?view=catalogue", person=LEAD)
        self.written_anew(page, "mat 94r", row["name"])
        page.get_by_role("combobox", name="Size").click()
        page.keyboard.press("ControlOrMeta+a")
        page.keyboard.type("49")  # a name typed whole is picked
        page.get_by_role("button", name="Write it anew").click()
        expect(page.get_by_role("button", name="Price and figures")).to_be_visible()
        after = lead.get(f"/goods/{row['id']}").json()["item"]
        outside = {
            "group_code",
            "length_mm",
            "width_mm",
            "height_mm",
            "positive_side",
            "post",
            "ledge",
            "nominal_volts",
        }
        self.assertEqual(after["group_code"], "49")
        self.assertNotEqual(after["length_mm"], before["length_mm"])
        for name in before.keys() - outside:
            self.assertEqual(after[name], before[name], name)

    def test_a_size_typed_before_the_sizes_are_here_is_picked_and_one_that_is_none_stays_and_says_so(self) -> None:
        page = self.page("/goods?view=catalogue", person=LEAD)
        sizes = Held(page, "**/api/reference")
        page.reload()
        self.written_anew(page, "mat 94r", "Mat 94R")
        form = page.get_by_role("form", name=re.compile("anew"))
        size = form.get_by_role("combobox", name="Size")
        size.fill("49")
        page.keyboard.press("Tab")  # away from it, before there is any list to look in
        expect(size).to_have_value("49")
        sizes.let_go()
        expect(form.get_by_text("Not in the list")).to_have_count(0)
        page.route(
            re.compile(r"/api/goods/\d+$"),
            lambda route: route.abort() if route.request.method == "PUT" else route.fallback(),
        )
        with page.expect_request(re.compile(r"/api/goods/\d+$")) as sent:
            form.get_by_role("button", name="Write it anew").click()
        self.assertEqual((sent.value.post_data_json or {})["item"]["group_code"], "49")
        size.fill("no such size")
        page.keyboard.press("Tab")
        expect(size).to_have_value("no such size")
        expect(form.get_by_text("Not in the list: pick one, or leave it empty")).to_be_visible()

    def test_the_list_of_a_size_picked_by_its_whole_name_stands_open_over_nothing(self) -> None:
        page = self.page("/goods?view=catalogue", person=LEAD)
        sizes = Held(page, "**/api/reference")
        page.reload()
        self.written_anew(page, "mat 94r", "Mat 94R")
        size = page.get_by_role("combobox", name="Size")
        size.click()  # nothing to open yet
        with page.expect_response("**/api/reference"):
            sizes.let_go()
        self.drawn(page)
        page.keyboard.press("ControlOrMeta+a")
        page.keyboard.type("4")
        expect(page.get_by_role("listbox")).to_be_visible()
        page.keyboard.press("Escape")
        expect(page.get_by_role("listbox")).to_have_count(0)
        page.keyboard.type("9")
        self.drawn(page)
        expect(page.get_by_role("listbox")).to_have_count(0)
        expect(page.get_by_role("button", name="Write it anew")).to_be_visible()
        page.keyboard.press("ArrowDown")  # asked for, it opens
        expect(page.get_by_role("listbox")).to_be_visible()

    def test_what_is_marked_while_the_sizes_are_on_their_way_is_typed_over(self) -> None:
        lead = Client(app_on(self.url), LEAD)
        row = next(one for one in lead.get("/goods?text=silver 47").json()["items"])
        now = lead.get(f"/goods/{row['id']}").json()["item"]["group_code"]
        page = self.page("/goods?view=catalogue", person=LEAD)
        sizes = Held(page, "**/api/reference")
        page.reload()
        self.written_anew(page, "silver 47", row["name"])
        size = page.get_by_role("combobox", name="Size")
        expect(size).to_have_value(now)
        size.click()
        page.keyboard.press("ControlOrMeta+a")
        with page.expect_response("**/api/reference"):
            sizes.let_go()
        self.drawn(page)
        page.keyboard.type("24F")
        expect(size).to_have_value("24F")

    def test_a_form_half_written_stays_where_what_it_stands_on_cannot_be_asked_for_again(self) -> None:
        lead = Client(app_on(self.url), LEAD)
        row = next(one for one in lead.get("/goods?text=mat 94r").json()["items"])
        page = self.page("/goods?view=catalogue", person=LEAD)
        self.written_anew(page, "mat 94r", row["name"])
        price = page.get_by_role("form", name=re.compile("anew")).locator("input[name=price]")
        price.fill("77,7")
        page.route(f"**/api/goods/{row['id']}", lambda route: route.fulfill(status=500, json={}))
        found = lead.get(f"/goods/{row['id']}").json()
        item = {**found["item"], "price_cents": found["item"]["price_cents"] + 100}
        with page.expect_response(f"**/api/goods/{row['id']}"):  # it is told of, and asked for again
            kept = lead.send("PUT", f"/goods/{row['id']}", {"item": item, "based_on": found["edition"]})
        self.assertEqual(kept.status_code, 200, kept.text)
        self.drawn(page)
        expect(price).to_have_value("77,7")

    def test_a_list_is_confirmed_looked_at_and_kept(self) -> None:
        page = self.page("/goods/lists", person=LEAD)
        rows = [
            "Artikel;Marke;Box;EN;Preis",
            *(f"Nordal {n};Nordal;LN3;{600 + n};9{n},50" for n in range(5)),
            *(f"Bad {n};Nordal;Z9;600;1" for n in range(12)),
        ]
        with TemporaryDirectory() as folder:
            path = Path(folder) / "nordal.csv"
            path.write_text("\n".join(rows))
            page.locator("input[type=file]").set_input_files(str(path))
            expect(page.get_by_role("heading", name="nordal.csv: columns to be confirmed")).to_be_visible()
        expect(page.get_by_label("Name *")).to_have_value("Artikel")
        page.get_by_role("button", name="Look at every row").click()
        expect(page.get_by_text("5 rows can be kept, 12 are refused")).to_be_visible()
        refused = page.get_by_role("table", name="Refused rows")
        expect(refused).to_contain_text("size Z9 is in no table here")
        # every refused row can be seen: the table is as high as its rows
        self.assertTrue(refused.evaluate("table => table.parentElement.clientHeight >= table.offsetHeight - 1"))
        expect(page.get_by_role("button", name="Keep 5 rows")).to_be_disabled()
        page.get_by_text("Stay out, keep the others").click()
        page.get_by_role("button", name="Keep 5 rows").click()
        expect(page.get_by_role("heading", name="nordal.csv: kept")).to_be_visible()
        found = Client(app_on(self.url), TEO).get("/goods", params={"text": "nordal"}).json()
        self.assertEqual(found["found"], 5)

    def test_lists_are_a_leads(self) -> None:
        page = self.page("/goods/lists")
        expect(page.get_by_text("Lists are brought in by a lead")).to_be_visible()

    def test_the_life_of_what_was_sold_leads_to_its_fitting_list(self) -> None:
        page = self.page("/life/197")
        page.get_by_role("link", name="Its fitting list").click()
        expect(page).to_have_url(re.compile("/fitting/197"))
        page.goto(self.base + "/life/174")
        expect(page.get_by_role("heading", name="174")).to_be_visible()
        expect(page.get_by_role("link", name="Its fitting list")).to_have_count(0)
