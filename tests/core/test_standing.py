"""Which entries stand: corrections, what is taken back, and a correction that is taken back itself. Pulls that cannot be."""

import unittest
from itertools import permutations
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from tests.build import check, reading, volts
from vane_check.core.readings import AnyReading
from vane_check.core.readings.check import impossible_values, parse_check, standing_of
from vane_check.core.readings.faults import CheckRefused, FieldProblem


def entry(name: str, replaces: str | None = None, minutes: float = 0) -> AnyReading:
    return volts(12.5, minutes, id=name, replaces=replaces)


def back(name: str, replaces: str) -> AnyReading:
    return reading("withdrawal", id=name, replaces=replaces)


def stands(*entries: AnyReading) -> set[str]:
    return {one.id or "" for one in standing_of(entries)}


class Standing(unittest.TestCase):
    def test_table(self) -> None:
        a, b, c = entry("a"), entry("b", "a"), entry("c", "b")
        for entries, left in (
            ([a], {"a"}),
            ([a, b], {"b"}),
            ([a, b, c], {"c"}),
            ([a, back("w", "a")], set()),
            ([a, b, back("w", "b")], {"a"}),
            ([a, b, c, back("w", "c")], {"b"}),
            ([a, b, c, back("w", "c"), back("v", "b")], {"a"}),
            ([a, back("w", "a"), back("v", "w")], {"a"}),
            ([a, b, back("w", "b"), back("v", "w")], {"b"}),
            ([a, b, back("w", "b"), back("v", "w"), back("u", "v")], {"a"}),
            ([a, b, back("w", "b"), entry("d", "a")], {"d"}),
        ):
            for order in permutations(entries) if len(entries) < 5 else [entries, entries[::-1]]:
                with self.subTest([one.id for one in order]):
                    self.assertEqual(stands(*order), left)

    def test_entries_without_a_name_stand(self) -> None:
        self.assertEqual(len(standing_of([volts(12.5), volts(12.6), entry("a"), back("w", "a")])), 2)

    @given(st.lists(st.tuples(st.integers(0, 5), st.sampled_from([None, 0, 1, 2, 3, 4, 5]), st.booleans()), max_size=8))
    def test_rings_and_names_that_are_not_there_stop_nothing(self, links: list[tuple[int, int | None, bool]]) -> None:
        entries: list[Any] = [
            back(f"r{name}", f"r{to}")
            if gone and to is not None
            else entry(f"r{name}", None if to is None else f"r{to}")
            for name, to, gone in links
        ]
        found = standing_of(entries)
        self.assertTrue(all(one in entries and one.kind != "withdrawal" for one in found))

    def test_a_long_row_of_taking_back_is_followed_to_its_end(self) -> None:
        row = [entry("w0"), *(back(f"w{number}", f"w{number - 1}") for number in range(1, 3001))]
        self.assertEqual(stands(*row), {"w0"})
        self.assertEqual(stands(*row[:-1]), set())


class Pulls(unittest.TestCase):
    def faults(self, *readings: AnyReading) -> list[FieldProblem]:
        return impossible_values(check(*readings, rated=None))

    def test_no_load_lifts_volts(self) -> None:
        rest = volts(12.60)
        for kind, body in (
            ("adjustable_load", {"amps": 300, "seconds": 15}),
            ("fixed_load", {"seconds": 10}),
            ("crank", {"seconds": 10}),
        ):
            for value, wrong in ((12.70, False), (12.71, True), (9.8, False)):
                with self.subTest(kind, value=value):
                    found = self.faults(rest, reading(kind, 5, volts=value, **body))
                    self.assertEqual([one.path for one in found], ["readings[1].volts"] if wrong else [])
                    if wrong:
                        self.assertIn("12.71 V under load is more than the 12.60 V it rested at", found[0].message)

    def test_only_the_rest_before_it_counts_and_only_one_that_stands(self) -> None:
        pull = reading("adjustable_load", 5, volts=12.9, amps=300, seconds=15)
        self.assertEqual(self.faults(pull, volts(12.6, 10)), [])
        self.assertEqual(self.faults(volts(12.2, 0), volts(12.9, 2), pull), [])
        self.assertEqual(len(self.faults(volts(12.9, 0), volts(12.2, 2), pull)), 1)
        self.assertEqual(self.faults(volts(12.2, 0, id="a"), volts(12.9, 0, id="b", replaces="a"), pull), [])
        taken_back = reading("adjustable_load", 5, volts=12.9, amps=300, seconds=15, id="p")
        self.assertEqual(self.faults(volts(12.2), taken_back, back("w", "p")), [])

    def test_a_slip_of_the_point_is_caught_under_load_as_at_rest(self) -> None:
        for kind, more in (("adjustable_load", {"amps": 300, "seconds": 15}), ("crank", {"seconds": 10})):
            found = self.faults(reading(kind, volts=120, **more))
            self.assertIn("120 V cannot be read on a 12 V battery", found[0].message)


class Strange(unittest.TestCase):
    def refused(self, text: str | bytes) -> list[FieldProblem]:
        with self.assertRaises(CheckRefused) as error:
            parse_check(text)
        return error.exception.problems

    def test_what_no_keyboard_types_names_its_field(self) -> None:
        def file(**more: Any) -> str:
            import json

            return json.dumps({"format": "vane-check/1", **more})

        at = "2026-03-02T09:00:00Z"
        for body, path in (
            ({"battery": {"line": "a\x00b"}}, "battery.line"),
            ({"battery": {"serial": "\x1b[2J"}}, "battery.serial"),
            ({"battery": {"made_on": "0001-01-01"}}, "battery.made_on"),
            ({"battery": {"made_on": "9999-12-31"}}, "battery.made_on"),
            (
                {"readings": [{"kind": "rest_volts", "volts": 12, "taken_at": "0001-01-01T00:00:00+14:00"}]},
                "readings[0].taken_at",
            ),
            (
                {"readings": [{"kind": "rest_volts", "volts": 12, "taken_at": "9999-12-31T23:59:59-14:00"}]},
                "readings[0].taken_at",
            ),
            ({"readings": [{"kind": "rest_volts", "volts": 12, "taken_at": at, "id": "\x00"}]}, "readings[0].id"),
            ({"battery": {"rating": {"amps": 1e999}}}, "battery.rating.amps"),
        ):
            with self.subTest(path, body=str(body)[:40]):
                self.assertEqual([one.path for one in self.refused(file(**body))], [path])

    def test_many_faults_are_told_a_hundred_at_a_time(self) -> None:
        bad = ",".join(['{"kind":"rest_volts","volts":"x","taken_at":"2026-03-02T09:00:00Z"}'] * 500)
        self.assertEqual(len(self.refused('{"format":"vane-check/1","readings":[' + bad + "]}")), 100)
