"""Worked cases, from the first reading to the last: what the judgement says after every one of them.

Each case is a battery as it might stand on the bench; each line one reading, the outcome after it, and the step asked next.
"""

import unittest
from typing import Any, NamedTuple

from tests.build import RULES, check, look, reading, tester, volts
from vane_check.core.judging.judgement import assess
from vane_check.core.readings import AnyReading, Look


class Line(NamedTuple):
    """One reading, then the outcome and the next step."""

    read: AnyReading
    outcome: str
    step: str


def pull(value: float, minutes: float, amps: float = 300, seconds: float = 15, **body: Any) -> AnyReading:
    return reading("adjustable_load", minutes, volts=value, amps=amps, seconds=seconds, **body)


def charged(minutes: float, **body: Any) -> AnyReading:
    full = {"start_amps": 7, "amps": 0.6, "volts": 14.4, "hours": 9, "finished": True}
    return reading("charge_run", minutes, **{**full, **body})


def stood(value: float, minutes: float, hours: float = 14, start: float = 12.75) -> AnyReading:
    return reading("stand", minutes, volts=value, start_volts=start, hours=hours)


def cells(*gravities: float, minutes: float = 10, **body: Any) -> AnyReading:
    return reading("cells", minutes, specific_gravities=list(gravities), **body)


CASES: dict[str, tuple[dict[str, Any], list[Line]]] = {
    "carried in charged and sound": (
        {},
        [
            Line(look(), "cannot_tell", "measure_volts"),
            Line(volts(12.63, 2), "cannot_tell", "tester"),
            Line(tester(610, 4), "sound", "give_back"),
        ],
    ),
    "carried in charged and worn": (
        {},
        [
            Line(look(), "cannot_tell", "measure_volts"),
            Line(volts(12.63, 2), "cannot_tell", "tester"),
            Line(tester(330, 4), "worn_out", "replace"),
            Line(pull(8.7, 12), "worn_out", "replace"),
        ],
    ),
    "flat, charged, stood, sound": (
        {},
        [
            Line(volts(11.95, 2), "needs_charge", "charge_and_retest"),
            Line(charged(600), "cannot_tell", "measure_volts"),
            Line(volts(13.2, 605, settled="just_charged"), "cannot_tell", "settle"),
            Line(volts(12.66, 625, settled="headlamps"), "cannot_tell", "tester"),
            Line(tester(600, 628), "cannot_tell", "stand"),
            Line(stood(12.75, 1500, start=12.75), "sound", "give_back"),
        ],
    ),
    "flat, charged, worn": (
        {},
        [
            Line(volts(12.0, 2), "needs_charge", "charge_and_retest"),
            Line(tester(250, 4, message="recharge_retest"), "needs_charge", "charge_and_retest"),
            Line(charged(600), "cannot_tell", "measure_volts"),
            Line(volts(12.62, 640, settled="headlamps"), "cannot_tell", "tester"),
            Line(tester(300, 642), "worn_out", "replace"),
        ],
    ),
    "flat, charged, will not hold": (
        {},
        [
            Line(volts(12.1, 2), "needs_charge", "charge_and_retest"),
            Line(charged(600), "cannot_tell", "measure_volts"),
            Line(volts(12.64, 640, settled="headlamps"), "cannot_tell", "tester"),
            Line(tester(600, 642), "cannot_tell", "stand"),
            Line(stood(11.9, 1500), "leaks_charge", "replace"),
        ],
    ),
    "lost its charge over a dirty top": (
        {},
        [
            Line(volts(12.64, 2, rested_hours=12), "cannot_tell", "tester"),
            Line(tester(600, 4), "sound", "give_back"),
            Line(reading("case_leakage", 6, volts=6.0), "sound", "clean_top"),
            Line(stood(12.0, 900, start=12.64), "cannot_tell", "clean_top"),
            Line(reading("case_leakage", 910, volts=0.1, cleaned=True), "cannot_tell", "stand"),
            Line(stood(12.63, 1800, start=12.64), "sound", "give_back"),
        ],
    ),
    "shorted cell found on the charger": (
        {},
        [
            Line(volts(10.6, 2), "needs_charge", "charge_and_watch"),
            Line(charged(250, amps=7, volts=11.9, hours=4, finished=False), "needs_charge", "watch_charge"),
            Line(charged(310, amps=7, volts=11.9, hours=5, finished=False), "needs_charge", "watch_charge"),
            Line(charged(430, amps=7, volts=11.9, hours=7, finished=False), "dead_cell", "stop_charge"),
        ],
    ),
    "shorted cell found after the charge": (
        {},
        [
            Line(volts(10.6, 2), "needs_charge", "charge_and_watch"),
            Line(volts(10.5, 700, after_full_charge=True), "dead_cell", "replace"),
        ],
    ),
    "equivocal, settled by a pull that holds": (
        {},
        [
            Line(volts(12.62, 2), "cannot_tell", "tester"),
            Line(tester(470, 4), "cannot_tell", "load_test"),
            Line(pull(10.1, 9), "sound", "give_back"),
        ],
    ),
    "equivocal, borderline pull, then a second": (
        {},
        [
            Line(volts(12.62, 2), "cannot_tell", "tester"),
            Line(tester(470, 4), "cannot_tell", "load_test"),
            Line(pull(9.62, 9), "cannot_tell", "load_again"),
            Line(pull(9.1, 22), "worn_out", "replace"),
        ],
    ),
    "tester says good, pull says no, twice": (
        {},
        [
            Line(volts(12.62, 2), "cannot_tell", "tester"),
            Line(tester(620, 4), "sound", "give_back"),
            Line(pull(8.5, 9), "cannot_tell", "load_again"),
            Line(pull(8.4, 22), "worn_out", "replace"),
        ],
    ),
    "clamped on studs first": (
        {},
        [
            Line(volts(12.62, 2), "cannot_tell", "tester"),
            Line(tester(280, 4, clamped="studs"), "cannot_tell", "tester_again"),
            Line(tester(600, 7), "sound", "give_back"),
        ],
    ),
    "start-stop battery tested on the wrong type": (
        {"chemistry": "efb"},
        [
            Line(volts(12.7, 2), "cannot_tell", "tester"),
            Line(tester(450, 4, type_set="flooded"), "cannot_tell", "tester_again"),
            Line(tester(590, 7, type_set="efb"), "sound", "give_back"),
        ],
    ),
    "absurd probe, then the truth": (
        {},
        [
            Line(volts(2.4, 2), "cannot_tell", "measure_again"),
            Line(volts(12.61, 4), "cannot_tell", "tester"),
            Line(tester(590, 6), "sound", "give_back"),
        ],
    ),
    "no rating on it, Ah known": (
        {"rated": None, "capacity_ah_20h": 60},
        [
            Line(volts(12.64, 2), "cannot_tell", "tester"),
            Line(tester(300, 4), "cannot_tell", "load_test"),
            # 2.3 V of sag at 180 A are some 400 CCA, where 60 Ah usually come with 570: weak, and never condemned by an estimate
            Line(pull(10.3, 9, amps=180), "cannot_tell", "load_test"),
            # 356 A are half of 570 and a quarter more: what holds them passes whatever it is rated, what does not is only weak
            Line(pull(8.1, 22, amps=356), "watch", "retest_later"),
        ],
    ),
    "no rating on it, Ah known, strong": (
        {"rated": None, "capacity_ah_20h": 60},
        [
            Line(volts(12.64, 2), "cannot_tell", "tester"),
            Line(tester(520, 4), "cannot_tell", "load_test"),
            Line(pull(11.2, 9, amps=180), "cannot_tell", "load_test"),
            Line(pull(9.8, 22, amps=356), "sound", "give_back"),
        ],
    ),
    "no rating and no Ah": (
        {"rated": None},
        [Line(volts(12.64, 2), "cannot_tell", "read_label"), Line(tester(420, 4), "cannot_tell", "read_label")],
    ),
    "plates bare": (
        {"has_caps": True},
        [
            # bare is bare: water first, whatever is read and whoever charged it all the same (common practice)
            Line(look(levels=["low", "plates_bare", "low", "low", "low", "low"]), "needs_charge", "top_up"),
            Line(volts(12.0, 2), "needs_charge", "top_up"),
            Line(charged(600), "needs_charge", "top_up"),
        ],
    ),
    "one weak cell, equalised in vain": (
        {"has_caps": True},
        [
            Line(volts(12.6, 2), "cannot_tell", "tester"),
            Line(
                cells(1.265, 1.262, 1.21, 1.264, 1.265, 1.263, minutes=5, after_full_charge=True),
                "needs_charge",
                "equalise",
            ),
            Line(
                cells(1.27, 1.268, 1.214, 1.27, 1.268, 1.27, minutes=600, after_full_charge=True, equalised=True),
                "dead_cell",
                "replace",
            ),
        ],
    ),
    "weak in the car, sound on the bench": (
        {"context": {"complaint": "slow_crank", "came_in": "in_car"}},
        [
            Line(volts(12.62, 2), "cannot_tell", "tester"),
            Line(reading("crank", 4, volts=8.4, seconds=10), "cannot_tell", "tester"),
            Line(tester(600, 6), "cannot_tell", "load_test"),
            Line(pull(10.4, 12), "sound", "give_back"),
        ],
    ),
    "standby bank battery": (
        {"context": {"use": "standby"}},
        [
            Line(volts(12.7, 2), "cannot_tell", "tester"),
            Line(tester(250, 4), "watch", "retest_later"),
            Line(stood(12.65, 900), "watch", "retest_later"),
        ],
    ),
    "cold shop, cold battery": (
        {},
        [
            Line(volts(12.62, 2, temperature_c=-5), "cannot_tell", "tester"),
            Line(tester(470, 4), "cannot_tell", "load_test"),
            Line(pull(9.7, 9, temperature_c=-5), "sound", "give_back"),
        ],
    ),
    "frozen on the doorstep": (
        {},
        [Line(volts(11.8, 2, temperature_c=-15), "unsafe", "hold_apart"), Line(tester(300, 4), "unsafe", "hold_apart")],
    ),
    "smells, whatever it reads": (
        {},
        [
            Line(volts(12.64, 1), "cannot_tell", "look"),
            Line(tester(620, 2), "cannot_tell", "look"),
            Line(look("smelling_of_rotten_egg", minutes=3), "unsafe", "hold_apart"),
        ],
    ),
    "charges twice and never comes up": (
        {},
        [
            Line(volts(11.9, 2), "needs_charge", "charge_and_retest"),
            Line(charged(600), "cannot_tell", "measure_volts"),
            Line(volts(12.15, 640), "needs_charge", "charge_and_retest"),
            Line(charged(1300), "cannot_tell", "measure_volts"),
            Line(volts(12.14, 1340), "worn_out", "replace"),
        ],
    ),
    "6 V": (
        {"nominal_volts": 6},
        [
            Line(volts(6.05, 2), "needs_charge", "charge_and_retest"),
            Line(charged(600, volts=7.2), "cannot_tell", "measure_volts"),
            Line(volts(6.32, 640), "cannot_tell", "tester"),
            Line(tester(600, 642), "cannot_tell", "stand"),
            Line(stood(6.31, 1500, start=6.33), "sound", "give_back"),
        ],
    ),
    "AGM is read on its own scale of volts": (
        {"chemistry": "agm"},
        [
            Line(volts(12.5, 2), "needs_charge", "charge_and_retest"),
            Line(charged(600), "cannot_tell", "measure_volts"),
            Line(volts(12.86, 640), "cannot_tell", "tester"),
            Line(tester(600, 642, type_set="agm_spiral"), "cannot_tell", "stand"),
            Line(stood(12.82, 1500, start=12.9), "sound", "give_back"),
        ],
    ),
}

for _battery, _lines in CASES.values():  # somebody looks first, wherever the case does not say so itself
    if not any(isinstance(line.read, Look) for line in _lines):
        _lines.insert(0, Line(look(minutes=-5), "cannot_tell", "measure_volts"))


class Worked(unittest.TestCase):
    def test_every_case_line_by_line(self) -> None:
        for name, (battery, lines) in CASES.items():
            read: list[AnyReading] = []
            for place, line in enumerate(lines, 1):
                read.append(line.read)
                with self.subTest(name, line=place, kind=line.read.kind):
                    judged = assess(check(*read, **battery), RULES)
                    said = (judged.outcome.value, judged.next_step.key)
                    self.assertEqual(said, (line.outcome, line.step), [one.text for one in judged.findings])

    def test_the_end_is_the_same_in_whatever_order_it_was_typed(self) -> None:
        for name, (battery, lines) in CASES.items():
            read = [line.read for line in lines]
            forward, backward = (assess(check(*each, **battery), RULES) for each in (read, list(reversed(read))))
            with self.subTest(name):
                self.assertEqual(forward, backward)

    def test_every_line_can_be_explained(self) -> None:
        for name, (battery, lines) in CASES.items():
            judged = assess(check(*(line.read for line in lines), **battery), RULES)
            with self.subTest(name):
                for found in judged.findings:
                    self.assertTrue(found.reading_text and found.limit_text and found.text and found.source)
                    self.assertEqual(found.status == "dropped", found.why_not is not None)
                    if found.status == "dropped":
                        self.assertEqual((found.weight, found.points_to), (0, None))
