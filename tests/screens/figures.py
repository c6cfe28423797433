"""Every figure of every rung, typed by keys at any pace and left in any way: what is kept is what was typed."""

import argparse
import time
import unittest
from collections.abc import Iterator
from typing import Any, NamedTuple

from playwright.sync_api import Page, expect

from tests.api.test_dangers import entry
from tests.house import NOOR, PINS, TEO, Client, app_on
from tests.screens.browser import Screens

PACES_MS = (5, 20, 50, 100, 200, 300)


class Typed(NamedTuple):
    """One figure of a rung: what is typed into it, and what is kept of it; one of a row or of a log by its place there."""

    name: str
    text: str
    kept: float
    is_word: bool = False

    def in_reading(self, reading: dict[str, Any]) -> Any:
        """What a reading keeps of it."""
        if "." in self.name:
            log, figure = self.name.split(".")
            return next((moment[figure] for moment in reading[log]), None)
        name, _, place = self.name.partition("[")
        found = reading.get(name)
        return found[int(place[:-1])] if place and found else found


class Rung(NamedTuple):
    """A rung by its key, and its figures with values that go together."""

    key: str
    title: str
    kind: str
    figures: tuple[Typed, ...]


def word(name: str, text: str, kept: float | None = None) -> Typed:
    """A figure of the spoken line."""
    return Typed(name, text, float(text) if kept is None else kept, is_word=True)


def figure(name: str, text: str) -> Typed:
    """A figure in large type."""
    return Typed(name, text, float(text))


def row(name: str, *texts: str, over: float = 1.0) -> tuple[Typed, ...]:
    """A figure a cell."""
    return tuple(Typed(f"{name}[{place}]", text, float(text) / over) for place, text in enumerate(texts))


TEMPERATURE = word("temperature_c", "23")
RUNGS = (
    Rung("e", "Leakage", "case_leakage", (figure("volts", "0.17"),)),
    Rung("v", "Volts", "rest_volts", (figure("volts", "12.65"), word("rested_hours", "17"), TEMPERATURE)),
    Rung("t", "Tester", "electronic_tester", (figure("measured_cca_amps", "613"), word("health_pct", "87"), word("state_of_charge_pct", "96"), word("rated_set_amps", "600"), word("volts", "12.64"), word("resistance_mohm", "5.25"), TEMPERATURE)),
    Rung("p", "Pull", "adjustable_load", (figure("volts", "10.42"), word("amps", "305"), word("seconds", "16"), TEMPERATURE)),
    Rung("f", "Fixed load", "fixed_load", (figure("volts", "11.52"), figure("bounce_volts", "12.47"), word("amps", "104"), TEMPERATURE)),
    Rung("k", "Crank", "crank", (figure("volts", "10.37"), figure("dip_volts", "9.64"), word("seconds", "14"), TEMPERATURE)),
    Rung("h", "Charge", "charge_run", (figure("amps", "5.75"), figure("volts", "14.12"), figure("start_amps", "9.25"), figure("hours", "4.5"), figure("log.minutes", "125"), figure("log.amps", "8.25"))),
    Rung("g", "Cells", "cells", (*row("specific_gravities", "1262", "1258", "1265", "1261", "1259", "1263", over=1000), *row("cell_volts", "2.11", "2.09", "2.12", "2.13", "2.08", "2.14"))),
    Rung("d", "Stand", "stand", (figure("volts", "12.58"), figure("start_volts", "12.66"), figure("hours", "25.5"), TEMPERATURE)),
    Rung("Shift+D", "Reserve", "reserve", (figure("minutes", "113"), word("amps", "25"), word("volts", "10.5"), TEMPERATURE)),
    Rung("a", "The car", "car", (figure("idle_volts", "14.23"), figure("loaded_volts", "13.87"), figure("drain_ma", "34"))),
)  # fmt: skip
"""Each with figures that nothing is asked about."""


class Case(NamedTuple):
    """One figure, one pace, one way to leave it."""

    rung: Rung
    figure: Typed
    pace_ms: int
    leave: str

    @property
    def said(self) -> str:
        """In one line."""
        return f"{self.rung.title}: {self.figure.name}={self.figure.text} at {self.pace_ms} ms, left by {self.leave}"


LEAVES = ("way-key", "Enter", "Tab", "person")


def cases(every: int = 1) -> Iterator[Case]:
    """Every figure by every pace by every way to leave, or each so-many-th of them, spread over all three."""
    number = 0
    for rung in RUNGS:
        for typed in rung.figures:
            for pace in PACES_MS:
                for leave in LEAVES:
                    if number % every == 0:
                        yield Case(rung, typed, pace, leave)
                    number += 1


class Figures(Screens):
    """Plays cases on a page that stands on a battery's Check desk."""

    def setUp(self) -> None:
        self.client = Client(app_on(self.url), TEO)

    def kept_of(self, tag: int, kind: str) -> dict[str, Any] | None:
        """The reading of a kind that stands."""
        entries = [one["reading"] for one in self.client.get(f"/batteries/{tag}").json()["readings"]]
        gone = {one.get("replaces") for one in entries}
        return next((one for one in entries if one["kind"] == kind and one["id"] not in gone), None)

    def field(self, page: Page, rung: Rung, typed: Typed) -> Any:
        """The figure's field, opened where it is a word."""
        field = self.rung(page, rung.title).locator(f'input[name="{typed.name}"]')
        if field.count() == 0:
            at = self.rung(page, rung.title).locator(f"[data-word={typed.name}]")
            if at.count() == 0:
                self.rung(page, rung.title).locator("[data-more]").click()
            at.click()
        return field

    def play(self, page: Page, tag: int, case: Case) -> str | None:
        """Type it and leave it. What is wrong then, or None."""
        rung, typed = case.rung, case.figure
        self.open_rung(page, rung.key, rung.title)
        for other in (*rung.figures[:1], *(one for one in rung.figures[1:] if not one.is_word)):
            if other is not typed:
                self.field(page, rung, other).fill(other.text)
        field = self.field(page, rung, typed)
        field.focus()
        page.keyboard.press("ControlOrMeta+a")
        page.keyboard.type(typed.text, delay=case.pace_ms)
        if case.leave == "Enter":
            page.keyboard.press("Enter")
            if "." in typed.name:  # it notes that moment, and keeps nothing else
                page.keyboard.press("l")
        elif case.leave == "person":
            for person in (NOOR, TEO):
                page.get_by_role("button", name=f"Change to {person}").click()
                page.keyboard.type(PINS[person] + "\n", delay=50)
                expect(page.get_by_role("button", name=f"{person} is signed in")).to_be_visible()
            if self.kept_of(tag, rung.kind) is None:  # then it is half typed, whole, for whoever typed it
                self.open_rung(page, rung.key, rung.title)
                self.field(page, rung, rung.figures[0]).press("Enter")
        else:
            if case.leave == "Tab":
                page.keyboard.press("Tab")
                page.keyboard.press("Escape")
            page.keyboard.press("l")
        return self.outcome(page, tag, case)

    def outcome(self, page: Page, tag: int, case: Case) -> str | None:
        """What is wrong with what is kept; it is taken back, and the rung stands empty again."""
        self.wait_until(page, lambda: self.kept_of(tag, case.rung.kind) is not None)
        kept = self.kept_of(tag, case.rung.kind)
        assert kept is not None
        self.client.send("POST", f"/batteries/{tag}/readings", entry("withdrawal", replaces=kept["id"]))
        expect(self.rung(page, case.rung.title)).not_to_contain_text("kept")
        value = case.figure.in_reading(kept)
        return None if value == case.figure.kept else f"{case.said}: kept {value}"


class AllOfThem(Figures):
    """Every case, or each so-many-th: `bench.keys` runs it, no run of the tests does."""

    every = 1
    slow = 1.0

    def test_all(self) -> None:
        page = self.page("/counter", fresh=True)
        tag = self.taken_in(page)
        if self.slow > 1:
            self.slowed(page, self.slow)
        began, faults = time.monotonic(), 0
        played = list(cases(self.every))
        for case in played:
            fault = self.play(page, tag, case)
            if fault is not None:
                faults += 1
                print(fault, flush=True)
        print(f"{len(played)} figures typed, {faults} kept as something else, {time.monotonic() - began:.0f} s")
        self.assertEqual(faults, 0)


def main() -> int:
    """0 when every figure was kept as typed."""
    parser = argparse.ArgumentParser(prog="bench.keys")
    parser.add_argument("--every", type=int, default=1, help="only each so-many-th case")
    parser.add_argument("--slow", type=float, default=1.0, help="how many times slower the page runs")
    asked = parser.parse_args()
    AllOfThem.every, AllOfThem.slow = asked.every, asked.slow
    result = unittest.TextTestRunner(verbosity=0).run(unittest.defaultTestLoader.loadTestsFromTestCase(AllOfThem))
    return 0 if result.wasSuccessful() else 1


if __name__ == "__main__":
    raise SystemExit(main())
