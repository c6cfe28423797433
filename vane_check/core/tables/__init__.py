"""Reference tables, packaged as CSV and read once. Every row keeps its source and standing."""

from functools import cache
from typing import NamedTuple

from ..words import Words, say
from .base import Sourced as Sourced
from .base import origin_of, rows_of, words_of
from .lists import AfterAChange as AfterAChange
from .lists import Caution as Caution
from .lists import Curve as Curve
from .lists import JobRow as JobRow
from .lists import Validity as Validity
from .lists import VoidEffect as VoidEffect
from .lists import Worded as Worded
from .lists import after_a_change as after_a_change
from .lists import causes as causes
from .lists import cautions as cautions
from .lists import cleaning_words as cleaning_words
from .lists import currencies as currencies
from .lists import customer_figures as customer_figures
from .lists import hydrometer_bands as hydrometer_bands
from .lists import job_rows as job_rows
from .lists import model_resistance_ratios as model_resistance_ratios
from .lists import practice_cold_shares as practice_cold_shares
from .lists import sources as sources
from .lists import stop_start_waits as stop_start_waits
from .lists import validity as validity
from .lists import void_effects as void_effects


class ChargeTable(NamedTuple):
    """Rest volts (12 V) against state of charge for one chemistry, volts rising; `curve` says whose they are."""

    curve: str
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
    ledge: str
    same_as: str
    origin: Sourced


class EntryLimit(NamedTuple):
    """The values a field can hold at all; outside is a slip, caught where it was typed."""

    low: float
    high: float
    unit: str
    what_to_enter: Words | str
    origin: Sourced


class ScaleDefinition(NamedTuple):
    """A rating scale in words, with its approximate ratio to SAE CCA and how far that may be off (relative)."""

    definition: Words
    amps_per_sae_cca_amp: float
    relative_spread: float
    origin: Sourced


@cache
def charge_tables() -> dict[str, ChargeTable]:
    """State-of-charge tables by chemistry name."""
    by_chemistry: dict[str, list[dict[str, str]]] = {}
    for row in rows_of("state-of-charge.csv"):
        by_chemistry.setdefault(row["chemistry"], []).append(row)
    tables = {}
    for chemistry, rows in by_chemistry.items():
        rows.sort(key=lambda row: float(row["rest_volts_12v"]))
        tables[chemistry] = ChargeTable(
            rows[0]["curve"],
            tuple([float(row["rest_volts_12v"]) for row in rows]),
            tuple([float(row["state_of_charge_pct"]) for row in rows]),
            tuple(float(row["specific_gravity"]) if row["specific_gravity"] else None for row in rows),
            origin_of(rows[0]),
        )
    return tables


@cache
def bci_load_test() -> LoadTable:
    """The load test's minimum volts by temperature."""
    rows = sorted(rows_of("bci-load-test.csv"), key=lambda row: float(row["temperature_c"]))
    return LoadTable(
        tuple([float(row["temperature_c"]) for row in rows]),
        tuple([float(row["min_volts_12v"]) for row in rows]),
        origin_of(rows[0]),
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
            row["ledge"],
            row["same_footprint_as"],
            origin_of(row),
        )
        for row in rows_of("group-sizes.csv")
    }


@cache
def entry_limits() -> dict[str, EntryLimit]:
    """What each typed figure may be at all."""
    return {
        row["name"]: EntryLimit(
            float(row["low"]), float(row["high"]), row["unit"], words_of(f"entry_limits.{row['name']}"), origin_of(row)
        )
        for row in rows_of("entry-limits.csv")
    }


@cache
def scale_definitions() -> dict[str, ScaleDefinition]:
    """What each rating scale means."""
    return {
        row["scale"]: ScaleDefinition(
            say(f"rating_scales.{row['scale']}"),
            float(row["amps_per_sae_cca_amp"]),
            float(row["relative_spread"]),
            origin_of(row),
        )
        for row in rows_of("rating-scales.csv")
    }


class FreezingTable(NamedTuple):
    """Freezing point of the acid against its gravity, gravity rising."""

    specific_gravity: tuple[float, ...]
    freezing_point_c: tuple[float, ...]
    origin: Sourced


@cache
def handbook_freezing_points() -> FreezingTable:
    """Where the acid freezes."""
    rows = sorted(rows_of("handbook-freezing-points.csv"), key=lambda row: float(row["specific_gravity"]))
    return FreezingTable(
        tuple([float(row["specific_gravity"]) for row in rows]),
        tuple([float(row["freezing_point_c"]) for row in rows]),
        origin_of(rows[0]),
    )


class ChargingLimits(NamedTuple):
    """Volts and currents a chemistry is charged with (12 V, 25 C). None where the mode is not for it."""

    absorption_volts: float
    float_volts: float
    ceiling_volts: float
    equalise_volts: float | None
    normal_amps_per_ah: float
    max_amps_per_ah: float
    millivolts_per_c: float
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
            float(row["temperature_mv_per_c"]),
            origin_of(row),
        )
        for row in rows_of("charging.csv")
    }


@cache
def resolutions() -> dict[str, float]:
    """The step in which each quantity is read, by name."""
    return {row["quantity"]: float(row["step"]) for row in rows_of("resolutions.csv")}


@cache
def photo_figures() -> dict[str, float]:
    """What measuring in a photo goes by, by name: the card's sides [mm] and how far a mark set by hand lies off."""
    return {row["name"]: float(row["value"]) for row in rows_of("photo.csv")}
