"""How a battery is played to its end: by the house's own next steps, by single methods, by a careful technician."""

import random
from collections.abc import Callable
from typing import NamedTuple

from vane_check.core.battery.label import Chemistry
from vane_check.core.findings.outcomes import FAILED, Outcome
from vane_check.core.house.rules import HouseRules
from vane_check.core.judging.judgement import Judgement, assess
from vane_check.core.judging.steps import NextStep
from vane_check.core.readings import AnyReading
from vane_check.core.readings.check import Check
from vane_check.core.simulation import SimulatedBattery, SimulatedBench

MOST_STEPS = 14
NOT_HERE = "borrow one, or send it on"
"""How a step ends that this house has no tool for."""

ENDS = FAILED | {Outcome.SOUND, Outcome.UNSAFE, Outcome.WATCH}
SOUND_FROM, VOLTS_FROM, LOAD_VOLTS, RESERVE_FROM = 0.75, 12.4, 9.6, 0.6


class End(NamedTuple):
    """How a policy left one battery. `said` tells whether a pass said that what it holds was not measured."""

    condemned: bool
    passed: bool
    hazardous: bool
    tests: int
    minutes: float
    watched: bool = False
    said: bool = False
    slips: tuple[str, ...] = ()


Policy = Callable[[SimulatedBattery, random.Random], End]


def label(battery: SimulatedBattery) -> dict[str, object]:
    """What is printed on it."""
    return {
        "chemistry": Chemistry(battery.chemistry),
        "rating": {"amps": battery.rated_cca_amps},
        "has_caps": battery.has_caps,
        "capacity_ah_20h": battery.rated_ah if battery.ah_on_label else None,
        "reserve_minutes": round(battery.rated_reserve_minutes) if battery.reserve_on_label else None,
    }


def context(battery: SimulatedBattery, rules: HouseRules) -> dict[str, object]:
    """What is asked at the counter."""
    in_car = {"crank", "fixed_load"} & set(rules.decision.deciding_kinds.value)
    complaint = "clicks" if battery.open_link else "stood_for_weeks" if battery.came_flat_standing else "check_only"
    return {
        "came_in": "in_car" if in_car else "returned" if battery.came_back else "carried_in",
        "complaint": complaint,
        "stop_start_car": battery.chemistry in {"efb", "agm"},
    }


WAITS = {"load_again": 10, "crank_test": 10, "measure_after_pull": 10}
"""Minutes that are waited before."""


def done(step: NextStep, bench: SimulatedBench, rules: HouseRules) -> list[AnyReading]:
    """What comes of doing a step: one reading, or several; whatever is no reading is a charge."""
    bench.minutes += WAITS.get(step.key, 0)

    ways: dict[str, Callable[[], list[AnyReading]]] = {
        "look": lambda: [bench.look()],
        "look_again": lambda: [bench.look()],
        "measure_volts": lambda: [
            bench.rest_volts(
                bench.just_charged, ask_temperature=step.text.key == "steps.take_its_temperature_with_the_volts_acid"
            )
        ],
        "measure_after_pull": lambda: [bench.rest_volts()],
        "measure_again": lambda: [bench.rest_volts(settle=True)],
        "settle": lambda: [bench.rest_volts(settle=True)],
        "tester": lambda: [bench.tester()],
        "tester_again": lambda: [bench.tester(careful=True)],
        "clean_posts": lambda: [bench.tester(careful=True)],
        "load_test": lambda: [bench.adjustable_load((step.load and step.load.amps) or 250)],
        "load_again": lambda: [bench.adjustable_load((step.load and step.load.amps) or 250)],
        "fixed_test": lambda: [bench.fixed_load(rules.fixed_load.amps.value, rules.fixed_load.seconds.value)],
        "crank_test": lambda: [bench.crank(rules.crank.hold_seconds.value)],
        "cells": lambda: [bench.cells()],
        "recovery_charge": lambda: bench.charge(recovery=True),
        "reserve_test": lambda: [bench.reserve(rules.reserve.amps.value)],
        "stand": lambda: [bench.stand(max(14, step.minutes / 60)), bench.rest_volts()],
        "clean_top": lambda: [bench.clean_the_top()],
    }
    return ways.get(step.key, bench.charge)()


def thawed(bench: SimulatedBench) -> list[AnyReading]:
    """A day in the warm, a look, and the volts with the temperature."""
    bench.battery.thaw()
    bench.minutes += 24 * 60
    return [bench.look(), bench.rest_volts(ask_temperature=True)]


def is_ice(judged: Judgement) -> bool:
    """Whether it is unsafe for nothing but ice: it is thawed first, and only then judged."""
    hazards = {found.kind.value for found in judged.findings if found.points_to is Outcome.UNSAFE}
    return judged.outcome is Outcome.UNSAFE and hazards == {"ice"}


def by_the_house(rules: HouseRules) -> Policy:
    """Look, then follow the judgement's own next step until it is done."""

    def play(battery: SimulatedBattery, chance: random.Random) -> End:
        bench = SimulatedBench(battery, chance)
        readings: list[AnyReading] = [bench.look()]
        touched = said = False
        outcome = Outcome.CANNOT_TELL
        story = context(battery, rules)
        for _ in range(MOST_STEPS):
            body = {"battery": label(battery), "context": story, "readings": readings}
            judged = assess(Check.model_validate(body), rules)
            outcome, said = judged.outcome, judged.not_measured is not None
            if is_ice(judged):
                readings.extend(thawed(bench))
                continue
            if judged.outcome in ENDS or str(judged.next_step.needs).endswith(NOT_HERE):
                break  # ended, or honestly left open: this house has no tool that settles it
            touched = True
            readings.extend(done(judged.next_step, bench, rules))
        hazardous = bench.charged_ice or (touched and battery.hazard is not None)
        return End(
            outcome in FAILED | {Outcome.UNSAFE},
            outcome is Outcome.SOUND,
            hazardous,
            bench.tests,
            bench.minutes,
            outcome is Outcome.WATCH,
            said,
            tuple(bench.slipped),
        )

    return play


def _end(bench: SimulatedBench, good: bool) -> End:
    battery = bench.battery
    return End(
        not good, good, bench.charged_ice or battery.hazard is not None, bench.tests, bench.minutes,
        slips=tuple(bench.slipped),
    )  # fmt: skip


def _volts(bench: SimulatedBench, settle: bool = False) -> float:
    return float(bench.rest_volts(settle=settle).volts or 0)  # type: ignore[union-attr]


def _tests_good(bench: SimulatedBench) -> bool:
    shown = bench.tester().measured_cca_amps or 0  # type: ignore[union-attr]
    return bool(shown >= SOUND_FROM * bench.battery.rated_cca_amps)


def _pulls_good(bench: SimulatedBench) -> bool:
    cold = max(21 - bench.battery.temperature_c, 0)
    least = LOAD_VOLTS - 0.018 * cold  # 8.9 V at -18 C or thereabouts, as a card on the wall has it
    return bool((bench.adjustable_load(bench.battery.rated_cca_amps / 2).volts or 0) >= least)  # type: ignore[union-attr]


def volts_only(battery: SimulatedBattery, chance: random.Random) -> End:
    """Under 12.4 V it is charged once and read straight after; still under, it is bad."""
    bench = SimulatedBench(battery, chance)
    good = _volts(bench) >= VOLTS_FROM
    if not good:
        bench.charge()
        good = _volts(bench) >= VOLTS_FROM
    return _end(bench, good)


def tester_only(battery: SimulatedBattery, chance: random.Random) -> End:
    """Measured over rated as it stands, whatever the charge and the settings."""
    bench = SimulatedBench(battery, chance)
    return _end(bench, _tests_good(bench))


def load_only(battery: SimulatedBattery, chance: random.Random) -> End:
    """Half the rating for 15 s as it stands: 9.6 V or it is bad."""
    bench = SimulatedBench(battery, chance)
    return _end(bench, bool((bench.adjustable_load(battery.rated_cca_amps / 2).volts or 0) >= LOAD_VOLTS))  # type: ignore[union-attr]


def careful(battery: SimulatedBattery, chance: random.Random, reserve: bool = False) -> End:
    """Looks, charges what is low, rests it, tests and pulls it; condemns where both say so, pulls again where one does."""
    bench = SimulatedBench(battery, chance)
    bench.look()
    if battery.hazard is not None:
        return End(True, False, False, bench.tests, bench.minutes)
    if _volts(bench) < VOLTS_FROM:
        bench.charge()
        if _volts(bench, settle=True) < VOLTS_FROM - 0.1:
            return _end(bench, False)
    tests_good, pulls_good = _tests_good(bench), _pulls_good(bench)
    good = tests_good and pulls_good
    if tests_good != pulls_good:
        bench.minutes += 10
        good = _pulls_good(bench)
    if good and reserve:
        bench.charge()
        rated = battery.rated_reserve_minutes
        good = bool(bench.reserve(25).minutes >= RESERVE_FROM * rated)  # type: ignore[union-attr]
    return _end(bench, good)


def careful_with_reserve(battery: SimulatedBattery, chance: random.Random) -> End:
    """The same, and a discharge at 25 A from full."""
    return careful(battery, chance, reserve=True)
