"""The shop in German: chosen on the House desk, said on every desk, typed and read with a comma."""

import json
import re
from datetime import datetime

import psycopg
from playwright.sync_api import Page, Route, expect

from tests.api.test_api import TAKE_IN, reading
from tests.api.test_languages import NAMES
from tests.house import LEAD, OWNER_NAME, PINS, TEO, Client, app_on, empty, served
from tests.screens.browser import Screens
from vane_check.core.tables import cautions
from vane_check.core.words import dated, fact_of, say
from vane_check.languages import catalogues, speaker_of

SAID_ALOUD = """() => {
  const found = [], walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  for (let node = walker.nextNode(); node; node = walker.nextNode())
    if (node.textContent.trim() && !node.parentElement.closest("[data-own]")) found.push(node.textContent.trim());
  for (const one of document.querySelectorAll("[aria-label], [placeholder]"))
    for (const name of ["aria-label", "placeholder"]) if (one.getAttribute(name)) found.push(one.getAttribute(name));
  return found;
}"""
ENGLISH = set(
    [
        "the",
        "of",
        "and",
        "is",
        "it",
        "to",
        "a",
        "for",
        "with",
        "not",
        "no",
        "on",
        "this",
        "that",
        "are",
        "by",
        "be",
        "your",
        "you",
        "they",
        "its",
        "two",
        "all",
        "none",
        "have",
        "who",
        "from",
        "at",
        "or",
        "until",
        "under",
        "over",
        "charge",
        "charged",
        "charger",
        "measure",
        "read",
        "look",
        "test",
        "pull",
        "stand",
        "sold",
        "price",
        "piece",
        "pieces",
        "order",
        "write",
        "keep",
        "leave",
        "open",
        "customer",
        "before",
        "after",
        "hand",
        "now",
    ]
)
GERMAN = {word.lower() for said in catalogues()["de"].for_pages.values() for word in re.findall(r"[^\W\d_]+", said)}
OWN = re.compile(r"old batteries are taken back|by the old lock|old transformer|fan stands still|clamps loose|door=|api/calendars|evening van|no tester here")  # fmt: skip
"""What the demo shop's people typed, and values of rules that are picked by name."""


class German(Screens):
    shelf_name = "Regal"

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        with psycopg.connect(cls.url, autocommit=True) as connection:
            connection.execute("update stores set language = 'de'")
            connection.execute(
                "update batteries set needs_hand_at = now() - interval '1 hour' where tag = 177 and store_id = 1"
            )

    def leftovers(self, page: Page) -> list[str]:
        """What on the page is English still."""
        found = []
        for said in page.evaluate(SAID_ALOUD):
            words = {word.lower() for word in re.findall(r"[^\W\d_]+", said)}
            if (words & ENGLISH) - GERMAN and not OWN.search(said.lower()) and not NAMES.search(said):
                found.append(said)
        return found

    def test_every_desk_is_german(self) -> None:
        page = self.page("/counter", OWNER_NAME)
        left = {}
        for path, seen in (
            ("/counter", "Annehmen"), ("/check/173", "Verschlissen"), ("/check/174", "Noch kein Befund"), ("/check/183", "Gefährlich"),
            ("/match/173", "passt"), ("/match", "Was passt?"), ("/warranty/173", "Kostenloser Ersatz"), ("/life/173", "Angenommen"), ("/records", "Verlauf"),
            ("/customers", "Kunden"), ("/rack", "Ladeplatz"), ("/equipment", "Gerätebuch"), ("/goods", "Ware"), ("/goods/lists", "Listen"),
            ("/rules", "Geltende Regeln"), ("/house", "Das Haus"), ("/house?stores", "Filialen"), ("/house?terms", "Garantiebedingungen"),
            ("/fitting/197", "Einbau 197"),
        ):  # fmt: skip
            self.desk(page, path)
            expect(page.locator("#root")).to_contain_text(seen)
            page.wait_for_timeout(300)
            if path == "/rules":
                for matter in page.locator("summary").all():
                    matter.click()
            if found := self.leftovers(page):
                left[path] = found
            if path == "/rules":
                for rule, picked in (
                    ("Belastungsproben zum Aussortieren", "zwei bei Rückgaben"),
                    ("zweites Ansehen", "bei Rückgaben"),
                ):
                    expect(
                        page.get_by_role("radiogroup", name=rule).get_by_role("radio", name=picked, exact=True)
                    ).to_be_checked()
        self.assertEqual(left, {})
        self.desk(page, "/check/177")  # its hour has come: the word stands on the shelf, read out by its name alone
        shelf = page.get_by_role("navigation", name=self.shelf_name)
        expect(shelf.locator('a[href="/check/177"]')).to_contain_text("jetzt")

    def test_a_battery_is_typed_and_judged_with_a_comma(self) -> None:
        page = self.page("/check/171")
        expect(page.locator("html")).to_have_attribute("lang", "de")
        page.get_by_role("button", name="Nichts zu beanstanden").press("Enter")
        field = self.rung(page, "Spannung").locator("input[name=volts]")
        field.fill("12,05")
        page.keyboard.press("Enter")
        expect(self.rung(page, "Spannung")).to_contain_text("gespeichert")
        expect(self.rung(page, "Spannung")).to_contain_text("12,05")
        expect(page.get_by_role("region", name="Urteil")).to_contain_text("Muss geladen werden")
        expect(page.get_by_role("region", name="Urteil")).not_to_contain_text("12.05")

    def test_cautions_stand_at_their_rungs_and_a_hydrometer_of_colours_begins_in_colours(self) -> None:
        lead, german = Client(app_on(self.url), LEAD), speaker_of("de")
        tool = next(one for one in lead.get("/equipment").json() if one["equipment"]["name"] == "Hydrometer")
        shows = {**tool["equipment"], "tool": {**tool["equipment"]["tool"], "shows": "bands"}}
        done = lead.send("PUT", f"/equipment/{tool['id']}", {"equipment": shows, "based_on": tool["edition"]})
        self.assertEqual(done.status_code, 200, done.text)
        body = {**TAKE_IN, "battery": {**TAKE_IN["battery"], "has_caps": True}}
        page = self.page(f"/check/{lead.send('POST', '/batteries', body).json()['tag']}")
        page.get_by_role("button", name="Nichts zu beanstanden").press("Enter")
        expect(self.rung(page, "Sichtprüfung")).to_contain_text("gespeichert")
        for key, kind in (("k", "crank"), ("Shift+D", "reserve"), ("g", "cells")):
            page.locator("h2").first.click()
            page.keyboard.press(key)
            for caution in cautions():
                if caution.where == kind:
                    expect(page.get_by_text(german.say(caution.text))).to_be_visible()
        expect(page.locator("[data-word=_colours]")).to_contain_text("Farben")

    def test_what_lies_beyond_a_formula_is_said_in_german(self) -> None:
        client = Client(app_on(self.url), TEO)
        tag = client.send("POST", "/batteries", TAKE_IN).json()["tag"]
        for one in (
            reading("look"),
            reading("rest_volts", volts=12.65, settled="rested", temperature_c=-24),
            reading("adjustable_load", amps=320, seconds=15, volts=9.2),
        ):
            self.assertEqual(client.send("POST", f"/batteries/{tag}/readings", one).status_code, 201)
        beyond = self.page(f"/check/{tag}").locator("[data-outside]")
        expect(beyond).to_have_text(
            "-24 °C liegt außerhalb von Mindestspannung unter Last (-17,8 bis 60), Strom aus dem Spannungsabfall (-18 bis 45): "
            "gerechnet wie am Ende"
        )

    def test_a_refusal_is_german_in_its_field(self) -> None:
        page = self.page("/check/172")
        page.get_by_role("button", name="Nichts zu beanstanden").press("Enter")
        field = self.rung(page, "Spannung").locator("input[name=volts]")
        field.fill("12,x")
        page.keyboard.press("Enter")
        expect(self.rung(page, "Spannung")).to_contain_text("Spannung eingeben, etwa 12,58")

    def test_a_question_of_the_server_is_asked_and_answered_in_german(self) -> None:
        tag = Client(app_on(self.url), TEO).send("POST", "/batteries", TAKE_IN).json()["tag"]
        page = self.page(f"/check/{tag}")
        at = dated(datetime(2026, 11, 20, 9), "%d %b %Y, %H:%M")
        asked = fact_of(say("check.was_it_really_taken_on_say_so_or_type_it", astimezone=at))
        told = {"detail": fact_of(say("check.when_was_this_taken")), "errors": [{"path": "taken_at", "message": asked}]}

        def answer(route: Route) -> None:
            if "time_is_right=true" in route.request.url:
                route.continue_()
            else:
                route.fulfill(status=422, content_type="application/problem+json", body=json.dumps(told))

        page.route(f"**/api/batteries/{tag}/readings*", answer)
        page.get_by_role("button", name="Nichts zu beanstanden").press("Enter")
        expect(page.get_by_role("alert").filter(has_text="20. Nov. 2026")).to_be_visible()
        page.get_by_role("button", name="Sie wurde da gemessen").click()
        expect(self.rung(page, "Sichtprüfung")).to_contain_text("gespeichert")


class Chosen(Screens):
    def test_a_lead_chooses_german_and_english_again(self) -> None:
        page, other = self.page("/house", LEAD), self.page("/check/173", TEO)
        expect(page.get_by_role("heading", name="The house")).to_be_visible()
        page.get_by_role("radiogroup", name="Language").get_by_text("Deutsch").click()
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_role("heading", name="Das Haus")).to_be_visible()
        expect(self.headline(other)).to_contain_text("Verschlissen")
        expect(page.get_by_text("Sprache en → de")).to_be_visible()
        page.get_by_role("button", name=f"{LEAD} ist angemeldet: sperren").click()
        expect(page.get_by_role("list", name="Wer ist an der Theke?")).to_be_visible()
        page.get_by_role("button", name=LEAD).click()
        page.keyboard.type(PINS[LEAD])
        page.keyboard.press("Enter")
        expect(page.get_by_role("navigation", name="Regal")).to_be_visible()
        page.goto(f"{self.base}/house")
        page.get_by_role("radiogroup", name="Sprache").get_by_text("English").click()
        page.get_by_role("button", name="Speichern").click()
        expect(page.get_by_role("heading", name="The house")).to_be_visible()
        expect(self.headline(other)).to_contain_text("Worn out")

    def test_without_its_catalogue_the_page_stays_english_and_works(self) -> None:
        with psycopg.connect(self.url, autocommit=True) as connection:
            connection.execute("update stores set language = 'de'")
        context = self.browser.new_context(service_workers="block", viewport={"width": 1280, "height": 800})
        self.addCleanup(context.close)
        page = context.new_page()
        page.route("**/api/languages/**", lambda route: route.fulfill(status=503, body="{}"))
        page.goto(self.base)
        page.get_by_role("button", name=TEO).click()
        page.keyboard.type(PINS[TEO])
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", name="Take in")).to_be_visible()
        with psycopg.connect(self.url, autocommit=True) as connection:
            connection.execute("update stores set language = 'en'")


class FirstPage(Screens):
    def test_a_german_browser_sets_a_german_shop_up(self) -> None:
        with served(empty(), set_up_code="5ca1ab1e") as base:
            context = self.browser.new_context(
                viewport={"width": 1280, "height": 800},
                locale="de-DE",
                timezone_id="Europe/Berlin",
                service_workers="block",
            )
            self.addCleanup(context.close)
            page = context.new_page()
            page.goto(f"{base}/?code=5ca1ab1e")
            expect(page.get_by_role("heading", name="Ein eigener Laden")).to_be_visible()
            expect(page.get_by_role("radiogroup", name="Sprache").get_by_role("radio", name="Deutsch")).to_be_checked()
            page.get_by_role("radiogroup", name="Haben Sie einen Batterietester").get_by_text("Nein").click()
            page.get_by_role("radiogroup", name="Wenn zwei Messungen").get_by_text("die Spannung unter Last").click()
            expect(page.get_by_text("Anlassen zuerst")).to_be_visible()
            page.locator("input[name=shop]").fill("Batterien am Wehr")
            page.locator("input[name=name-0]").fill("Maren Oduya")
            page.locator("input[name=hours-0]").fill("8 bis 17:30")
            page.locator("input[name=hours-2]").fill("geschlossen")
            page.locator("input[name=pin-0]").fill("5505")
            page.get_by_role("button", name="Laden eröffnen").click()
            expect(page.get_by_text("Eine PIN hat sechs Ziffern oder mehr")).to_be_visible()
            page.locator("input[name=pin-0]").fill("550591")
            page.get_by_role("button", name="Laden eröffnen").click()
            expect(page.get_by_role("heading", name="Das Haus")).to_be_visible()
            expect(page.get_by_text("Kein Ladegerät steht im Gerätebuch")).to_be_visible()
            expect(page.get_by_role("radiogroup", name="Sprache").get_by_role("radio", name="Deutsch")).to_be_checked()
