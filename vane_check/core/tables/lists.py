"""Closed lists in words, and curves on straight lines."""

from functools import cache
from typing import NamedTuple

from ..words import Words, has, say
from .base import Sourced, origin_of, rows_of


class Caution(NamedTuple):
    """One line said where its hazard arises."""

    where: str
    text: Words
    origin: Sourced


@cache
def cautions() -> tuple[Caution, ...]:
    """Every caution with the place it belongs to."""
    return tuple(
        Caution(row["where"], say(f"cautions.{row['key']}"), origin_of(row)) for row in rows_of("cautions.csv")
    )


class VoidEffect(NamedTuple):
    """What a wrong setting usually does to a tester's figure, in words."""

    words: Words
    origin: Sourced


@cache
def void_effects() -> dict[str, VoidEffect]:
    """What is known of readings taken wrongly, by the fault."""
    return {
        row["effect"]: VoidEffect(say(f"void_effects.{row['effect']}"), origin_of(row))
        for row in rows_of("void-effects.csv")
    }


@cache
def cleaning_words() -> Words:
    """How a wet or dirty top is cleaned: both schools."""
    return next(say(f"cleaning.{row['job']}") for row in rows_of("cleaning.csv"))


class JobRow(NamedTuple):
    """A job of the closed list: when, whose, whether it holds a sound battery back, what proves it, how it is done."""

    key: str
    time: str
    whose: str
    holds: bool
    proof: str
    short: Words
    text: Words
    done: Words | None
    how: Words
    origin: Sourced


@cache
def job_rows() -> dict[str, JobRow]:
    """Every job by its key, in the order they are done."""
    return {
        row["key"]: JobRow(
            row["key"],
            row["time"],
            row["whose"],
            row["holds"] == "yes",
            row["proof"],
            say(f"jobs.{row['key']}.short"),
            say(f"jobs.{row['key']}.text"),
            say(f"jobs.{row['key']}.done") if has(f"jobs.{row['key']}.done") else None,
            say(f"jobs.{row['key']}.how"),
            origin_of(row),
        )
        for row in rows_of("jobs.csv")
    }


class Curve(NamedTuple):
    """A figure against another, on straight lines between its points."""

    at: tuple[float, ...]
    values: tuple[float, ...]
    origin: Sourced


def _curve(rows: list[dict[str, str]], at: str, value: str) -> Curve:
    rows = sorted(rows, key=lambda row: float(row[at]))
    return Curve(tuple(float(row[at]) for row in rows), tuple(float(row[value]) for row in rows), origin_of(rows[-1]))


@cache
def model_resistance_ratios() -> dict[str, Curve]:
    """Resistance over that at -18 C, full, 30 s: against `temperature_c`, `charge_pct` and `seconds`."""
    rows = rows_of("model-resistance.csv")
    return {of: _curve([row for row in rows if row["of"] == of], "at", "ratio") for of in {row["of"] for row in rows}}


@cache
def practice_cold_shares() -> dict[str, Curve]:
    """What a battery gives (`battery_share`) and an engine asks (`engine_share`) over that at 27 C, against Celsius."""
    rows = rows_of("practice-cold-shares.csv")
    return {of: _curve(rows, "temperature_c", of) for of in ("battery_share", "engine_share")}


class Worded(NamedTuple):
    """Words of a closed list, with what to do about it where there is something."""

    words: Words
    change: Words | None
    origin: Sourced


@cache
def stop_start_waits() -> dict[str, Worded]:
    """What a stop-start system waits for, in the order it is looked through."""
    return {
        row["key"]: Worded(say(f"stop_start_waits.{row['key']}"), None, origin_of(row))
        for row in rows_of("stop-start-waits.csv")
    }


@cache
def causes() -> dict[str, Worded]:
    """Causes of death, the surest first."""
    return {
        row["key"]: Worded(
            say(f"causes.{row['key']}.words"),
            say(f"causes.{row['key']}.change") if has(f"causes.{row['key']}.change") else None,
            origin_of(row),
        )
        for row in rows_of("causes.csv")
    }


@cache
def hydrometer_bands() -> dict[str, tuple[float, float]]:
    """Gravity from and to of each colour of a hydrometer that shows bands."""
    return {row["band"]: (float(row["low"]), float(row["high"])) for row in rows_of("hydrometer-bands.csv")}


@cache
def customer_figures() -> dict[str, float]:
    """What tells whether two entries may be one person, by name."""
    return {row["name"]: float(row["value"]) for row in rows_of("customers.csv")}


class Validity(NamedTuple):
    """What a formula was made for: a figure of a kind of reading, from `low` to `high`; beyond them it is held at its end.

    `finding` is the kind of finding it is worked out for.
    """

    formula: str
    words: Words
    finding: str
    method: str
    figure: str
    low: float
    high: float
    unit: str
    origin: Sourced


@cache
def validity() -> tuple[Validity, ...]:
    """From where to where each formula holds."""
    return tuple(
        Validity(
            row["formula"], say(f"validity.{row['formula']}"), row["finding"], row["method"], row["figure"], float(row["low"]), float(row["high"]), row["unit"],
            origin_of(row),
        )
        for row in rows_of("validity.csv")
    )  # fmt: skip


@cache
def sources() -> dict[str, str]:
    """What each published source is, by the name under which rules and tables cite it."""
    return {row["source"]: row["what_it_is"] for row in rows_of("sources.csv")}


class AfterAChange(NamedTuple):
    """What a change of the battery makes void of what was read before it: which readings, which of them only, what is asked anew."""

    change: str
    voids: str
    only: str
    asks: str
    rule: str
    origin: Sourced


@cache
def after_a_change() -> tuple[AfterAChange, ...]:
    """Every change with what it voids."""
    return tuple(
        AfterAChange(row["change"], row["voids"], row["only"], row["asks"], row["rule"], origin_of(row))
        for row in rows_of("after-a-change.csv")
    )


@cache
def currencies() -> dict[str, int]:
    """Decimals of every money in use by its letters. Source: ISO 4217, minor units; from memory, held against CLDR in the tests."""
    return {row["code"]: int(row["decimals"]) for row in rows_of("currencies.csv")}
