"""The page of docs/judgement: its tables, its picture, its words."""

from pathlib import Path

import matplotlib

matplotlib.use("svg")
import matplotlib.pyplot as plt

from bench.scoring import CAUSES, Row

DOCS = Path(__file__).parents[1] / "docs"


def _ends(share: float, ends: tuple[float, float], digits: int = 1) -> str:
    return f"{share:.{digits}f} ({ends[0]:.{digits}f} to {ends[1]:.{digits}f}) %"


def table(rows: list[Row]) -> str:
    """What came of it."""
    lines = [
        "| policy | wrong condemnations, of the fit | wrong passes but for capacity, of the unfit | all wrong passes | fade found or said "
        "| left open | watched, of the fit | watched, of all | dangerous advice | tests each | hours, median | hours, mean |",
        "|---" * 12 + "|",
    ]
    for row in rows:
        lines.append(
            f"| {row.name} | {_ends(row.wrong_condemned_pct, row.wrong_condemned_ends, 2)} "
            f"| {_ends(row.passed_but_capacity_pct, row.passed_but_capacity_ends)} | {row.wrong_passed_pct:.1f} % "
            f"| {row.faded_said_pct:.0f} % | {row.undecided_pct:.2f} % | {_ends(row.watched_fit_pct, row.watched_fit_ends)} "
            f"| {row.watched_pct:.1f} % | {row.hazardous} | {row.tests:.1f} | {row.median_minutes / 60:.1f} | {row.minutes / 60:.1f} |"
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

{size} simulated batteries with known truth (seed {seed}, never run before these figures), each played to the end by every policy: the
five schools follow Vane Check's own next steps, **each done as it is asked**; the single methods do what is often done by hand; a careful
technician looks, charges what is low, rests it, uses tester and load, and pulls again where the two disagree.

The simulator (`vane_check/core/simulation`) shares no table and no threshold with the judgement but the line of 75 % of the rating that
both call fit. Acid by Bode (1977), resistance from temperature, charge and wear, a charge that is current limited for most of its hours.
It was written to be failed: the judgement of the release before condemned 16 % of its fit batteries.

It is made hard. Wear runs from 112 down to 40 % of the rating without a gap ({near} % of all lie within five points under the line,
where no instrument at a counter tells them apart). Headlamps leave 5 to 30 % of the surface charge (AGM 10 to 40 %), and it fades over hours, in the
cold over twice as many; one in twenty rests on layered acid; leaks of 5 to 50 % a day sit in all cells, or in one hidden by five; complaints have
nothing to do with causes; a fifth of the dangers do not show (they count neither way); one label in twenty is gone, one in fourteen lent by the car, one
type in ten misread; 7 % work by what they hold, a third of those with three cells; meter, tester and load each have an error of their own that stays. Of all readings
5 to 15 % go wrong in the hands, **and nobody says so**: studs, wrong type, dirty posts, a pull held half its time, the rest skipped, no temperature
taken or the room's in its place, a digit misread. The houses of small tools judge what stands in its car.

{table}

Intervals are of 95 % (Clopper and Pearson). *Fade found or said*: not passed, or passed with the words that what it holds was not measured. *Dangerous
advice*: a danger that shows and was tested or charged all the same, ice that could be known and was charged.

Unfit batteries that were passed, by what was the matter:

{causes}

![Wrong passes against wrong condemnations, and passes by cause](judgement.svg)

## What each rule buys

Electronic first, one rule switched off at a time:

{switched}

## With steadier hands

The same batteries, where hands go wrong a third as often (2 to 5 % of all readings), and still nobody says so:

{steadier}

## What it says of its own odds

{odds}

## A hundred of them

Picked at random (seed {seed} + 1), electronic first.

{cases}

A simulation is no field trial: it shows that the logic holds together, not how often a real shop is right.

Made by `python -m bench.judgement`.
"""
