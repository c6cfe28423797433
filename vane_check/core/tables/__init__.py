"""Reference tables, packaged as CSV and read once. Every row keeps its source and standing."""

import csv
from functools import cache
from importlib.resources import files
from typing import NamedTuple

COMMON_PRACTICE = "common practice"


class Sourced(NamedTuple):
    """Where a figure comes from: a named source and its standing (published, practice or memory)."""

    source: str
    standing: str


class ChargeTable(NamedTuple):
    """Rest volts (12 V) against state of charge for one chemistry, volts rising."""

    rest_volts_12v: tuple[float, ...]
    state_of_charge_pct: tuple[float, ...]
    specific_gravity: tuple[float | None, ...]
    origin: Sourced


class LoadTable(NamedTuple):
    """Minimum volts (12 V) at the end of a half-CCA load against battery temperature, temperature rising."""

    temperature_c: tuple[float, ...]
    min_volts_12v: tuple[float, ...]
    origin: Sourced


class Footprint(NamedTuple):
    """The outside of a case by group or box code, in millimetres."""

    code: str
    system: str
    length_mm: int
    width_mm: int
    height_mm: int
    nominal_volts: int
    positive_side: str
    post: str
    same_as: str
    origin: Sourced


class EntryLimit(NamedTuple):
    """The values a field can hold at all; outside is a slip, caught where it was typed."""

    low: float
    high: float
    unit: str
    what_to_enter: str
    origin: Sourced


class ScaleDefinition(NamedTuple):
    """A rating scale in words, with its approximate ratio to SAE CCA and how far that may be off (relative)."""

    definition: str
    amps_per_sae_cca_amp: float
    relative_spread: float
    origin: Sourced


def _rows(name: str) -> list[dict[str, str]]:
    text = files(__package__).joinpath(name).read_text(encoding="utf-8")
    return list(csv.DictReader(text.splitlines()))


def _origin(row: dict[str, str]) -> Sourced:
    return Sourced(row["source"] or COMMON_PRACTICE, row["standing"])


@cache
def charge_tables() -> dict[str, ChargeTable]:
    """State-of-charge tables by chemistry name."""
    by_chemistry: dict[str, list[dict[str, str]]] = {}
    for row in _rows("state-of-charge.csv"):
        by_chemistry.setdefault(row["chemistry"], []).append(row)
    tables = {}
    for chemistry, rows in by_chemistry.items():
        rows.sort(key=lambda row: float(row["rest_volts_12v"]))
        tables[chemistry] = ChargeTable(
            tuple([float(row["rest_volts_12v"]) for row in rows]),
            tuple([float(row["state_of_charge_pct"]) for row in rows]),
            tuple(float(row["specific_gravity"]) if row["specific_gravity"] else None for row in rows),
            _origin(rows[0]),
        )
    return tables


@cache
def load_table() -> LoadTable:
    """The load test's minimum volts by temperature."""
    rows = sorted(_rows("load-test.csv"), key=lambda row: float(row["temperature_c"]))
    return LoadTable(
        tuple([float(row["temperature_c"]) for row in rows]),
        tuple([float(row["min_volts_12v"]) for row in rows]),
        _origin(rows[0]),
    )


@cache
def footprints() -> dict[str, Footprint]:
    """Case sizes by group or box code."""
    return {
        row["code"]: Footprint(
            row["code"],
            row["system"],
            int(row["length_mm"]),
            int(row["width_mm"]),
            int(row["height_mm"]),
            int(row["nominal_volts"]),
            row["positive_side_posts_near"],
            row["post"],
            row["same_footprint_as"],
            _origin(row),
        )
        for row in _rows("group-sizes.csv")
    }


@cache
def entry_limits() -> dict[str, EntryLimit]:
    """What each typed figure may be at all."""
    return {
        row["name"]: EntryLimit(float(row["low"]), float(row["high"]), row["unit"], row["what_to_enter"], _origin(row))
        for row in _rows("entry-limits.csv")
    }


@cache
def scale_definitions() -> dict[str, ScaleDefinition]:
    """What each rating scale means."""
    return {
        row["scale"]: ScaleDefinition(
            row["definition"], float(row["amps_per_sae_cca_amp"]), float(row["relative_spread"]), _origin(row)
        )
        for row in _rows("rating-scales.csv")
    }


class Caution(NamedTuple):
    """One line said where its hazard arises."""

    where: str
    text: str
    origin: Sourced


@cache
def cautions() -> tuple[Caution, ...]:
    """Every caution with the place it belongs to."""
    return tuple(Caution(row["where"], row["text"], _origin(row)) for row in _rows("cautions.csv"))


class FreezingTable(NamedTuple):
    """Freezing point of the acid against its gravity, gravity rising."""

    specific_gravity: tuple[float, ...]
    freezing_point_c: tuple[float, ...]
    origin: Sourced


@cache
def freezing_table() -> FreezingTable:
    """Where the acid freezes."""
    rows = sorted(_rows("electrolyte.csv"), key=lambda row: float(row["specific_gravity"]))
    return FreezingTable(
        tuple([float(row["specific_gravity"]) for row in rows]),
        tuple([float(row["freezing_point_c"]) for row in rows]),
        _origin(rows[0]),
    )


class ChargingLimits(NamedTuple):
    """Volts and currents a chemistry is charged with (12 V, 25 C). None where the mode is not for it."""

    absorption_volts: float
    float_volts: float
    ceiling_volts: float
    equalise_volts: float | None
    normal_amps_per_ah: float
    max_amps_per_ah: float
    origin: Sourced


@cache
def charging_limits() -> dict[str, ChargingLimits]:
    """Charging by chemistry."""
    return {
        row["chemistry"]: ChargingLimits(
            float(row["absorption_volts_25c"]),
            float(row["float_volts_25c"]),
            float(row["ceiling_volts_25c"]),
            float(row["equalise_volts_25c"]) if row["equalise_volts_25c"] else None,
            float(row["normal_amps_per_ah"]),
            float(row["max_amps_per_ah"]),
            _origin(row),
        )
        for row in _rows("charging.csv")
    }


@cache
def resolutions() -> dict[str, float]:
    """The step in which each quantity is read, by name."""
    return {row["quantity"]: float(row["step"]) for row in _rows("resolutions.csv")}


class VoidEffect(NamedTuple):
    """What a wrong setting usually does to a tester's figure, in words."""

    words: str
    origin: Sourced


@cache
def void_effects() -> dict[str, VoidEffect]:
    """What is known of readings taken wrongly, by the fault."""
    return {row["effect"]: VoidEffect(row["words"], _origin(row)) for row in _rows("void-effects.csv")}


@cache
def cleaning_words() -> str:
    """How a wet or dirty top is cleaned: both schools."""
    return next(row["words"] for row in _rows("cleaning.csv"))


class JobRow(NamedTuple):
    """A job of the closed list: when, whose, whether it holds a sound battery back, what proves it, how it is done."""

    key: str
    time: str
    whose: str
    holds: bool
    proof: str
    short: str
    text: str
    done: str
    how: str
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
            row["short"],
            row["text"],
            row["done"],
            row["how"],
            _origin(row),
        )
        for row in _rows("jobs.csv")
    }


class Curve(NamedTuple):
    """A figure against another, on straight lines between its points."""

    at: tuple[float, ...]
    values: tuple[float, ...]
    origin: Sourced


def _curve(rows: list[dict[str, str]], at: str, value: str) -> Curve:
    rows = sorted(rows, key=lambda row: float(row[at]))
    return Curve(tuple(float(row[at]) for row in rows), tuple(float(row[value]) for row in rows), _origin(rows[-1]))


@cache
def resistance_ratios() -> dict[str, Curve]:
    """Resistance over that at -18 C, full, 30 s: against `temperature_c`, `charge_pct` and `seconds`."""
    rows = _rows("resistance.csv")
    return {of: _curve([row for row in rows if row["of"] == of], "at", "ratio") for of in {row["of"] for row in rows}}


@cache
def cold_shares() -> dict[str, Curve]:
    """What a battery gives (`battery_share`) and an engine asks (`engine_share`) over that at 27 C, against Celsius."""
    rows = _rows("cold.csv")
    return {of: _curve(rows, "temperature_c", of) for of in ("battery_share", "engine_share")}


class Worded(NamedTuple):
    """Words of a closed list, with what to do about it where there is something."""

    words: str
    change: str
    origin: Sourced


@cache
def stop_start_waits() -> dict[str, Worded]:
    """What a stop-start system waits for, in the order it is looked through."""
    return {row["key"]: Worded(row["words"], "", _origin(row)) for row in _rows("stop-start-waits.csv")}


@cache
def causes() -> dict[str, Worded]:
    """Causes of death, the surest first."""
    return {row["key"]: Worded(row["words"], row["change"], _origin(row)) for row in _rows("causes.csv")}


@cache
def hydrometer_bands() -> dict[str, tuple[float, float]]:
    """Gravity from and to of each colour of a hydrometer that shows bands."""
    return {row["band"]: (float(row["low"]), float(row["high"])) for row in _rows("hydrometer-bands.csv")}
