"""Does it judge better? A seeded population with known truth, played to the end by each policy.

`python -m bench.judgement [SIZE]` writes docs/judgement.md and docs/judgement.svg.
"""

import copy
import random
import sys
import time
from collections import Counter
from multiprocessing import Pool
from pathlib import Path
from typing import NamedTuple

import matplotlib

matplotlib.use("svg")
import matplotlib.pyplot as plt

from bench.policies import End, Policy, by_the_house, careful, careful_with_reserve, load_only, tester_only, volts_only
from vane_check.core.house.rules import SCHOOLS, changed_rules, house_rules
from vane_check.core.simulation import SimulatedBattery, Truth, population
from vane_check.core.simulation.population import FIT_FROM

SIZE, SEED = 3000, 20260301
DOCS = Path(__file__).parents[1] / "docs"
NEAR_THE_LINE = 0.05
"""A worn one so little under the line is counted by itself: no instrument at a counter tells it from one over it."""

CAUSES = ("worn", "worn, near the line", "faded", "leaks", "weak_cell", "shorted_cell", "open_link", "hazard")


class Row(NamedTuple):
    """What a policy did over the population. Wrong condemnations in per cent of the fit, wrong passes of the unfit."""

    name: str
    wrong_condemned_pct: float
    wrong_passed_pct: float
    passed_but_capacity_pct: float
    faded_found_pct: float
    faded_said_pct: float
    undecided_pct: float
    watched_pct: float
    watched_fit_pct: float
    hazardous: int
    tests: float
    minutes: float
    passed_by_cause: dict[str, int]
    slipped_condemned: int


def cause_of(battery: SimulatedBattery) -> str:
    """By what a bad one is bad; a worn one near the line apart."""
    if battery.truth is Truth.WORN and battery.strength >= FIT_FROM - NEAR_THE_LINE:
        return "worn, near the line"
    return battery.truth.value


def _pct(part: int, whole: int) -> float:
    return 100 * part / max(whole, 1)


def score(name: str, policy: Policy, size: int) -> Row:
    """The policy over a population of this size."""
    batteries = population(size, SEED)
    ends = [policy(copy.copy(battery), random.Random(SEED + place)) for place, battery in enumerate(batteries)]
    return row_of(name, list(zip(batteries, ends, strict=True)))


def row_of(name: str, both: list[tuple[SimulatedBattery, End]]) -> Row:
    """How the ends of a population count."""
    fit = [end for battery, end in both if battery.truth is Truth.GOOD]
    unfit = [(battery, end) for battery, end in both if battery.truth.is_bad]
    faded = [end for battery, end in unfit if battery.truth is Truth.FADED]
    others = [end for battery, end in unfit if battery.truth is not Truth.FADED]
    wrong = [end for end in fit if end.condemned]
    passed = Counter(cause_of(battery) for battery, end in unfit if end.passed)
    size = len(both)
    return Row(
        name,
        _pct(len(wrong), len(fit)),
        _pct(passed.total(), len(unfit)),
        _pct(sum(end.passed for end in others), len(unfit)),
        _pct(sum(not end.passed for end in faded), len(faded)),
        _pct(sum(not end.passed or end.said for end in faded), len(faded)),
        _pct(sum(not (end.condemned or end.passed or end.watched) for _, end in both), size),
        _pct(sum(end.watched for _, end in both), size),
        _pct(sum(end.watched for end in fit), len(fit)),
        sum(end.hazardous for _, end in both),
        sum(end.tests for _, end in both) / size,
        sum(end.minutes for _, end in both) / size,
        {cause: passed[cause] for cause in CAUSES},
        sum(bool(end.slips) for end in wrong),
    )


def policies() -> list[tuple[str, Policy]]:
    """The five schools, the single methods, a careful technician."""
    schools = [
        (f"Vane Check, {house_rules(school).name.lower()}", by_the_house(house_rules(school))) for school in SCHOOLS
    ]
    twice = changed_rules(house_rules(), {"decision.second_look": "yes"}, "for the bench")
    return [
        *schools,
        ("Vane Check, electronic first, every one clamped twice", by_the_house(twice)),
        ("careful technician", careful),
        ("careful, and 25 A from full", careful_with_reserve),
        ("volts only", volts_only),
        ("tester only", tester_only),
        ("load only", load_only),
    ]


def table(rows: list[Row]) -> str:
    """What came of it."""
    lines = [
        "| policy | wrong condemnations, of the fit | wrong passes, of the unfit | the same but for capacity | fade found | fade found or said "
        "| left open | watched (of the fit) | dangerous advice | tests each | hours each |",
        "|---|---|---|---|---|---|---|---|---|---|---|",
    ]
    for row in rows:
        lines.append(
            f"| {row.name} | {row.wrong_condemned_pct:.2f} % | {row.wrong_passed_pct:.1f} % | {row.passed_but_capacity_pct:.1f} % "
            f"| {row.faded_found_pct:.0f} % | {row.faded_said_pct:.0f} % | {row.undecided_pct:.2f} % "
            f"| {row.watched_pct:.1f} % ({row.watched_fit_pct:.1f} %) | {row.hazardous} | {row.tests:.1f} | {row.minutes / 60:.1f} |"
        )
    return "\n".join(lines)


def by_cause(rows: list[Row]) -> str:
    """Wrong passes split by what was the matter."""
    lines = [
        "| policy | " + " | ".join(cause.replace("_", " ") for cause in CAUSES) + " |",
        "|---" * (len(CAUSES) + 1) + "|",
    ]
    lines += [
        f"| {row.name} | " + " | ".join(str(row.passed_by_cause[cause]) for cause in CAUSES) + " |" for row in rows
    ]
    return "\n".join(lines)


def plot(rows: list[Row]) -> None:
    """Wrong passes against wrong condemnations, and the passes by cause."""
    matplotlib.rcParams["svg.hashsalt"] = "vane-check"
    figure, (axes, bars) = plt.subplots(1, 2, figsize=(12.5, 5))
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
            row.name.removeprefix("Vane Check, "),
            (row.wrong_condemned_pct, row.wrong_passed_pct),
            xytext=(7, 5),
            textcoords="offset points",
            fontsize=9,
        )
    axes.set(
        xlabel="wrong condemnations, % of the fit",
        ylabel="wrong passes, % of the unfit",
        xscale="symlog",
        yscale="linear",
        xlim=(-0.1, 60),
    )
    axes.grid(alpha=0.3)
    left = [0] * len(rows)
    shades = plt.get_cmap("cividis")
    for place, cause in enumerate(CAUSES):
        counts = [row.passed_by_cause[cause] for row in rows]
        bars.barh(
            [row.name for row in rows],
            counts,
            left=left,
            label=cause.replace("_", " "),
            color=shades(place / len(CAUSES)),
        )
        left = [total + count for total, count in zip(left, counts, strict=True)]
    bars.invert_yaxis()
    bars.set(xlabel="unfit batteries passed")
    bars.legend(fontsize=8)
    figure.tight_layout()
    figure.savefig(DOCS / "judgement.svg", metadata={"Date": None})


TEXT = """# Does it judge better?

{size} simulated batteries with known truth (seed {seed}), each played to the end by every policy: the five schools follow
Vane Check's own next steps; the single methods do what is often done by hand; a careful technician looks, charges what is low,
rests it, uses tester and load, and pulls again where the two disagree. The simulator (`vane_check/core/simulation`) shares no
table and no threshold with the judgement but the line of 75 % of the rating that both call fit: its volts come from the acid, its
resistance from temperature, charge and wear.

It is made hard. Wear runs from 112 down to 40 % of the rating without a gap ({near} % of all lie within five points under the line,
where no instrument at a counter tells them apart); capacity is lost apart from starting power (down to a quarter); leaks of 0.5 to
5 % a day; weak and shorted cells; links that open only under load; frozen ones without a sign on the case; -15 to 45 °C. Of all
readings 5 to 15 % go wrong in the hands, **and nobody says so**: studs, wrong type (low or high), dirty posts, a pull held half its
time, the rest skipped, no temperature taken.

{table}

*Wrong passes but for capacity* leaves out those that only hold too little; *fade found or said*: not passed, or passed with the
words that what it holds was not measured. *Dangerous advice*: a dangerous battery that was tested or charged, a frozen one that was charged.

Unfit batteries that were passed, by what was the matter:

{causes}

![Wrong passes against wrong condemnations, and passes by cause](judgement.svg)

What costs most is the tester alone: with the rules as delivered a returned battery is clamped again before the tester
condemns it by itself, one that was carried in is not; the row *every one clamped twice* is the same school with `decision.second_look` set to
*yes*. Time is what the rest costs: what came in flat stands a night, and what went flat standing stands two days (three batteries in four
of those that leak are found by that). The two schools of small tools watch what they cannot see, which is every fifth battery or so.

A simulation is no field trial: it shows that the logic holds together, not how often a real shop is right.

Made by `python -m bench.judgement`.
"""


def _scored(asked: tuple[int, int]) -> Row:
    place, size = asked
    name, policy = policies()[place]
    return score(name, policy, size)


def main() -> None:
    size = int(sys.argv[1]) if len(sys.argv) > 1 else SIZE
    began = time.perf_counter()
    with Pool(2) as pool:
        rows = pool.map(_scored, [(place, size) for place in range(len(policies()))], chunksize=1)
    print(table(rows))
    print(by_cause(rows))
    print(f"{time.perf_counter() - began:.1f} s")
    if size == SIZE:
        near = _pct(sum(cause_of(one) == "worn, near the line" for one in population(size, SEED)), size)
        plot(rows)
        (DOCS / "judgement.md").write_text(
            TEXT.format(size=size, seed=SEED, near=f"{near:.1f}", table=table(rows), causes=by_cause(rows))
        )


if __name__ == "__main__":
    main()
