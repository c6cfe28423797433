"""Does it judge better? A seeded population with known truth, played to the end by each policy.

`python -m bench.judgement [SIZE]` writes docs/judgement.md and docs/judgement.svg.
"""

import copy
import random
import sys
import time
from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple

import matplotlib

matplotlib.use("svg")
import matplotlib.pyplot as plt

from vane_check.core.battery import Chemistry
from vane_check.core.check import Check
from vane_check.core.judgement import assess
from vane_check.core.outcomes import FAILED, Outcome
from vane_check.core.readings import AnyReading
from vane_check.core.rules import SCHOOLS, HouseRules, house_rules
from vane_check.core.simulation import SimulatedBattery, SimulatedBench, Truth, population
from vane_check.core.steps import NextStep

SIZE, SEED = 2000, 20260301
MOST_STEPS = 14
DOCS = Path(__file__).parents[1] / "docs"
NOT_HERE = "borrow one, or send it on"
"""How a step ends that this house has no tool for."""


class End(NamedTuple):
    """How a policy left one battery."""

    condemned: bool
    passed: bool
    hazardous: bool
    tests: int
    minutes: float
    watched: bool = False


Policy = Callable[[SimulatedBattery, random.Random], End]


def label(battery: SimulatedBattery) -> dict[str, object]:
    return {
        "chemistry": Chemistry(battery.chemistry),
        "rating": {"amps": battery.rated_cca_amps},
        "has_caps": battery.has_caps,
    }


def done(step: NextStep, bench: SimulatedBench, rules: HouseRules) -> list[AnyReading]:
    """What comes of doing a step: one reading, or several; whatever is no reading is a charge."""
    bench.minutes += WAITS.get(step.key, 0)
    ways: dict[str, Callable[[], list[AnyReading]]] = {
        "measure_volts": lambda: [bench.rest_volts(settle=bench.just_charged)],
        "measure_after_pull": lambda: [bench.rest_volts()],
        "measure_again": lambda: [bench.rest_volts(settle=True)],
        "settle": lambda: [bench.rest_volts(settle=True)],
        "tester": lambda: [bench.tester()],
        "tester_again": lambda: [bench.tester(careful=True)],
        "clean_posts": lambda: [bench.tester(careful=True)],
        "load_test": lambda: [bench.adjustable_load((step.load and step.load.amps) or 250)],
        "load_again": lambda: [bench.adjustable_load((step.load and step.load.amps) or 250)],
        "fixed_test": lambda: [bench.fixed_load(rules.fixed_load_amps.value, rules.fixed_seconds.value)],
        "crank_test": lambda: [bench.crank(rules.crank_hold_seconds.value)],
        "cells": lambda: [bench.cells()],
        "stand": lambda: [bench.stand(max(14, step.minutes / 60)), bench.rest_volts()],
        "clean_top": lambda: [bench.clean_the_top()],
    }
    return ways.get(step.key, bench.charge)()


WAITS = {"load_again": 10, "crank_test": 10, "measure_after_pull": 10}
"""Minutes that are waited before."""


def by_the_house(rules: HouseRules) -> Policy:
    """Look, then follow the judgement's own next step until it is done."""

    def play(battery: SimulatedBattery, chance: random.Random) -> End:
        bench = SimulatedBench(battery, chance)
        readings: list[AnyReading] = [bench.look()]
        touched = False
        outcome = Outcome.CANNOT_TELL
        context = {"came_in": "in_car" if {"crank", "fixed_load"} & set(rules.deciding_kinds.value) else "carried_in"}
        for _ in range(MOST_STEPS):
            body = {"battery": label(battery), "context": context, "readings": readings}
            judged = assess(Check.model_validate(body), rules)
            outcome = judged.outcome
            if outcome in FAILED | {Outcome.SOUND, Outcome.UNSAFE, Outcome.WATCH}:
                break
            if judged.next_step.needs.endswith(NOT_HERE):
                break  # honestly left open: this house has no tool that settles it
            touched = True
            readings.extend(done(judged.next_step, bench, rules))
        hazardous = touched and battery.hazard is not None
        return End(
            outcome in FAILED | {Outcome.UNSAFE},
            outcome is Outcome.SOUND,
            hazardous,
            bench.tests,
            bench.minutes,
            outcome is Outcome.WATCH,
        )

    return play


def volts_only(battery: SimulatedBattery, chance: random.Random) -> End:
    """Under 12.4 V it is charged once and read straight after; still under, it is bad."""
    bench = SimulatedBench(battery, chance)
    good = (bench.rest_volts().volts or 0) >= 12.4  # type: ignore[union-attr]
    if not good:
        bench.charge()
        good = (bench.rest_volts().volts or 0) >= 12.4  # type: ignore[union-attr]
    return End(not good, good, battery.hazard is not None, bench.tests, bench.minutes)


def tester_only(battery: SimulatedBattery, chance: random.Random) -> End:
    """Measured over rated as it stands, whatever the charge and the settings."""
    bench = SimulatedBench(battery, chance)
    good = (bench.tester().measured_cca_amps or 0) >= 0.75 * battery.rated_cca_amps  # type: ignore[union-attr]
    return End(not good, good, battery.hazard is not None, bench.tests, bench.minutes)


def load_only(battery: SimulatedBattery, chance: random.Random) -> End:
    """Half the rating for 15 s as it stands: 9.6 V or it is bad."""
    bench = SimulatedBench(battery, chance)
    good = (bench.adjustable_load(battery.rated_cca_amps / 2).volts or 0) >= 9.6  # type: ignore[union-attr]
    return End(not good, good, battery.hazard is not None, bench.tests, bench.minutes)


class Row(NamedTuple):
    """What a policy did over the population, in per cent of it."""

    name: str
    wrong_condemned_pct: float
    wrong_passed_pct: float
    undecided_pct: float
    watched_pct: float
    hazardous: int
    tests: float
    minutes: float


def score(name: str, policy: Policy, size: int) -> Row:
    batteries = population(size, SEED)
    ends = [policy(copy.copy(battery), random.Random(SEED + place)) for place, battery in enumerate(batteries)]
    both = list(zip(batteries, ends, strict=True))
    share = 100 / size
    return Row(
        name,
        share * sum(end.condemned and battery.truth is Truth.GOOD for battery, end in both),
        share * sum(end.passed and battery.truth.is_bad for battery, end in both),
        share * sum(not (end.condemned or end.passed or end.watched) for _, end in both),
        share * sum(end.watched for _, end in both),
        sum(end.hazardous for _, end in both),
        sum(end.tests for _, end in both) / size,
        sum(end.minutes for _, end in both) / size,
    )


def policies() -> list[tuple[str, Policy]]:
    schools = [
        (f"Vane Check, {house_rules(school).name.lower()}", by_the_house(house_rules(school))) for school in SCHOOLS
    ]
    return [*schools, ("volts only", volts_only), ("tester only", tester_only), ("load only", load_only)]


def table(rows: list[Row]) -> str:
    lines = [
        "| policy | wrong condemnations | wrong passes | left open | watched | hazardous advice | tests each | minutes each |",
        "|---|---|---|---|---|---|---|---|",
    ]
    for row in rows:
        lines.append(
            f"| {row.name} | {row.wrong_condemned_pct:.2f} % | {row.wrong_passed_pct:.2f} % | {row.undecided_pct:.2f} % | {row.watched_pct:.2f} % "
            f"| {row.hazardous} | {row.tests:.1f} | {row.minutes:.0f} |"
        )
    return "\n".join(lines)


def plot(rows: list[Row]) -> None:
    matplotlib.rcParams["svg.hashsalt"] = "vane-check"
    figure, axes = plt.subplots(figsize=(8, 4.2))
    for row in rows:
        ours = row.name.startswith("Vane")
        axes.scatter(
            row.wrong_condemned_pct,
            row.wrong_passed_pct,
            s=70,
            marker="D" if ours else "o",
            color="#0d6355" if ours else "#6b1f47",
        )
        axes.annotate(
            row.name,
            (row.wrong_condemned_pct, row.wrong_passed_pct),
            xytext=(7, 5),
            textcoords="offset points",
            fontsize=9,
        )
    axes.set(
        xlabel="wrong condemnations, % of all",
        ylabel="wrong passes, % of all",
        xscale="symlog",
        yscale="symlog",
        xlim=(-0.1, 60),
        ylim=(-0.1, 30),
    )
    axes.grid(alpha=0.3)
    figure.tight_layout()
    figure.savefig(DOCS / "judgement.svg", metadata={"Date": None})


TEXT = """# Does it judge better?

{size} simulated batteries with known truth (seed {seed}), each played to the end by every policy: the schools follow
Vane Check's own next steps; the single methods do what is often done by hand. The simulator (`vane_check/core/simulation`)
shares no table and no threshold with the judgement: its volts come from the acid, its resistance from temperature, charge
and wear. Testers are set wrong or clamped on studs in seven cases of a hundred. {marginal} % of the batteries are marginal
(between sound and worn out); they count neither way. "Hazardous advice" is a dangerous battery that was tested or charged.

{table}

![Wrong passes against wrong condemnations](judgement.svg)

Aimed at: under 1 % wrong condemnations and under 1 % wrong passes, no hazardous advice. What it costs is time: a flat battery
is charged and stands before it is passed. A simulation is no field trial: it shows that the logic holds together, not how
often a real shop is right.

Made by `python -m bench.judgement`.
"""


def main() -> None:
    size = int(sys.argv[1]) if len(sys.argv) > 1 else SIZE
    began = time.perf_counter()
    rows = [score(name, policy, size) for name, policy in policies()]
    marginal = 100 / size * sum(battery.truth is Truth.MARGINAL for battery in population(size, SEED))
    print(table(rows))
    print(f"{time.perf_counter() - began:.1f} s")
    if size == SIZE:
        plot(rows)
        (DOCS / "judgement.md").write_text(
            TEXT.format(size=size, seed=SEED, marginal=f"{marginal:.1f}", table=table(rows))
        )


if __name__ == "__main__":
    main()
