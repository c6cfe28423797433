"""The simulated battery for many at once: the same formulas as in `simulation`, over columns."""

import numpy as np

from ..simulation.acid import cell_volts
from ..simulation.battery import (
    DEEP_RATE_EXPONENT,
    DRY_STRENGTH,
    END_OF_RATING_VOLTS,
    GRAVITY_EMPTY,
    GRAVITY_OVER_EMPTY,
    LINK_LEFT_VOLTS,
    LINK_OPENS_AMPS,
    POLARISATION_SHARE,
    RATING_C,
    SHORT_VOLTS,
    SHORTED_GRAVITY,
    WEAK_CELL_RESISTANCE,
)
from .library import Array, Batteries

LEAST_GRAVITY, MOST_GRAVITY, STEPS_A_GRAVITY = 1.0, 1.36, 20_000
"""A table of so fine a step that its nearest row is right to a hundredth of a millivolt: one look, where a search takes ten times as long."""

_ROWS = round((MOST_GRAVITY - LEAST_GRAVITY) * STEPS_A_GRAVITY) + 1
_VOLTS = np.array([cell_volts(LEAST_GRAVITY + place / STEPS_A_GRAVITY) for place in range(_ROWS)])


def gravity(batteries: Batteries, behind: Array | float = 0.0) -> Array:
    """Gravity of a cell [1] that lacks so much of the others' charge."""
    charge = np.clip(batteries.charge - behind, -1.0, 1.0)
    share = np.maximum(charge, charge * GRAVITY_OVER_EMPTY)  # under empty it goes on, less steeply
    return np.asarray(GRAVITY_EMPTY + (batteries.gravity_full - GRAVITY_EMPTY) * share)


def _volts_of(gravities: Array) -> Array:
    places = np.rint((gravities - LEAST_GRAVITY) * STEPS_A_GRAVITY).astype(np.intp)
    return np.asarray(_VOLTS.take(places, mode="clip"))


def acid_volts(batteries: Batteries) -> Array:
    """Volts [V] of the acid alone."""
    even = batteries.cells - batteries.shorted_cells - 1
    last = _volts_of(gravity(batteries, batteries.weak_by + batteries.cell_charge_lost))
    return np.asarray(even * _volts_of(gravity(batteries)) + last + batteries.shorted_cells * SHORT_VOLTS)


def rest_volts(batteries: Batteries) -> Array:
    """Volts at the posts, off load, surface charge included [V]."""
    over = batteries.fast_volts + batteries.slow_volts + 0.11 * batteries.layered - batteries.sunk_volts
    return np.asarray(acid_volts(batteries) + over * (batteries.cells / 6))


def sag_volts(
    batteries: Batteries, amps_over_rated: Array | float, seconds: float, temperature_c: Array | float
) -> Array:
    """What a pull takes off [V], its amps as a share of the rated CCA."""
    full = batteries.cells * _volts_of(batteries.gravity_full)
    at_rating = (full - END_OF_RATING_VOLTS * batteries.cells / 6) / batteries.strength
    warm = 2.0 ** (-(temperature_c - RATING_C) / batteries.cold_doubles_per_c)
    empty = 1.0 + 1.6 * np.maximum(0.0, 0.75 - batteries.charge) ** 1.3
    behind = np.minimum((batteries.weak_by + batteries.cell_charge_lost) / 0.4, 1.0)
    weak = 1.0 + (WEAK_CELL_RESISTANCE - 1) / batteries.cells * behind
    rest = (1.0 + 0.35 * batteries.shorted_cells) * (1 + 0.35 * batteries.layered)
    dry = 1.0 + (1 / DRY_STRENGTH - 1) * batteries.dry
    settled = 1.0 - POLARISATION_SHARE * max(0.0, 1.0 - seconds / 15.0)
    return np.asarray(amps_over_rated * at_rating * warm * empty * weak * rest * dry * settled)


def under_load(
    batteries: Batteries, amps_over_rated: Array | float, amps: float, seconds: float, temperature_c: Array | float
) -> Array:
    """Volts at the end of a pull [V]; the pull takes its surface charge."""
    columns = batteries.columns
    columns["slow_volts"] = columns["slow_volts"] * 0.5
    columns["fast_volts"] = np.zeros_like(columns["fast_volts"])
    volts = rest_volts(batteries) - sag_volts(batteries, amps_over_rated, seconds, temperature_c)
    opens = (batteries.open_link > 0) & (amps > LINK_OPENS_AMPS)
    return np.where(opens, LINK_LEFT_VOLTS, np.maximum(volts, 0.5))


def tester_share(batteries: Batteries, temperature_c: Array | float) -> Array:
    """What an electronic tester shows over the rating [1]."""
    charge = 1.0 - 0.32 * np.maximum(0.0, 0.7 - batteries.charge)
    short = np.where(batteries.shorted_cells > 0, 0.45, 1.0)
    behind = np.minimum((batteries.weak_by + batteries.cell_charge_lost) / 0.4, 1.0)
    weak = batteries.cells / (batteries.cells + (WEAK_CELL_RESISTANCE - 1) * behind)
    cold = 1.0 - 0.004 * np.maximum(0.0, 5.0 - temperature_c)
    wet = 1.0 - (0.9 - DRY_STRENGTH) * batteries.dry
    surface = 1.0 + 0.05 * np.minimum(batteries.fast_volts + batteries.slow_volts, 1.0)
    whole = batteries.strength * batteries.tester_reads * charge * short * weak * cold * wet * surface
    return np.asarray(whole * (1 - 0.15 * batteries.layered))


def rest(batteries: Batteries, hours: float, temperature_c: Array | float) -> None:
    """Time passes, off everything."""
    columns = batteries.columns
    hours_here = hours * 2.0 ** ((temperature_c - 20.0) / 20.0)
    columns["fast_volts"] = columns["fast_volts"] * np.exp(-hours_here / columns["fast_hours"])
    columns["slow_volts"] = columns["slow_volts"] * np.exp(-hours_here / columns["slow_hours"])
    columns["charge"] = np.maximum(
        columns["charge"] - columns["leak_per_hour"] * hours, np.minimum(columns["charge"], 0.0)
    )
    columns["cell_charge_lost"] = np.minimum(columns["cell_charge_lost"] + columns["cell_leak_per_hour"] * hours, 1.1)


def headlamps(batteries: Batteries) -> None:
    """Two minutes of headlamps: most of the surface charge goes."""
    columns = batteries.columns
    left = columns["lamps_leave"] * (columns["fast_volts"] + columns["slow_volts"])
    columns["slow_volts"], columns["fast_volts"] = left, np.zeros_like(left)


def charge_fully(batteries: Batteries) -> None:
    """A charge to its end, taken off."""
    columns = batteries.columns
    columns["charge"] = columns["top_charge"].copy()
    columns["sunk_volts"] = np.zeros_like(columns["charge"])
    columns["layered"] = columns["layered"] * 0.15
    columns["weak_by"] = columns["weak_by"] * 0.8
    columns["cell_charge_lost"] = columns["cell_charge_lost"] * 0.3
    left = columns["left_by_charge_volts"]
    columns["fast_volts"], columns["slow_volts"] = left * (1 - columns["slow_share"]), left * columns["slow_share"]


def discharge_share(batteries: Batteries) -> Array:
    """Minutes of a timed discharge from the charge it has, over those it was made with [1]."""
    behind = 0.7 * (batteries.weak_by + batteries.cell_charge_lost)
    ah = batteries.capacity * np.maximum(batteries.charge - behind, 0.03) * (1 - 0.3 * batteries.layered)
    ah = np.where(batteries.shorted_cells > 0, 0.001, ah * (1 - 0.5 * batteries.dry))
    return np.asarray(ah**DEEP_RATE_EXPONENT)


def weakest_behind(batteries: Batteries) -> Array:
    """How far the weakest cell's gravity lies under its mates' [1]."""
    mates = gravity(batteries)
    last = gravity(batteries, batteries.weak_by + batteries.cell_charge_lost)
    return np.where(
        batteries.shorted_cells > 0, np.maximum(mates - SHORTED_GRAVITY, 0.0), np.maximum(mates - last, 0.0)
    )
