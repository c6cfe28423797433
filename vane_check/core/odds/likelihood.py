"""How well each battery of the library explains a reading, by the width of its tool and its chance of a slip.

Widths and slips are those of a bench in use (common practice), not of the house's rules: a second opinion that shared them would only
repeat the first.
"""

import math
from collections.abc import Callable
from typing import NamedTuple

import numpy as np

from ..readings import (
    AdjustableLoad,
    AnyReading,
    Cells,
    ChargeRun,
    Clamped,
    Crank,
    ElectronicTester,
    FixedLoad,
    Level,
    Look,
    Reserve,
    RestVolts,
    Settled,
    Stand,
)
from . import physics
from .library import Array, Batteries

METER_VOLTS, MODEL_VOLTS = 0.03, 0.04
"""What a meter and the model of the acid may be off [V], 12 V."""

SAME_METER_VOLTS = 0.012
LEAKS_DIFFER = 0.3
"""How far the loss of one leak may lie from what the library has of its kind, as a share of it."""

TESTER_SHARE = 0.035
PULL_SHARE, PULL_VOLTS = 0.08, 0.05
GRAVITY_WIDTH = 0.008
MINUTES_SHARE = 0.12
AH_SHARE = 0.18
CHARGING_VOLTS = 0.25
SLIP = 0.07
"""How often a reading says nothing, because a hand or a setting went wrong without a word."""

TESTER_SLIPS = (0.5, 0.77, 0.8, 1.12)
"""What studs, a wrong type and dirty posts make of a tester's figure."""

FINISHED_WITH_A_SHORT = 0.02
NO_CURRENT = {True: 0.4, False: 0.01}
"""How often a charger sees no current, with an open link and without."""

LEAST_HOURS = 0.02
TOO_UNLIKELY = 12.0
"""How far under the likeliest, in its logarithm."""


class Known(NamedTuple):
    """What is known of the battery apart from its readings: rated CCA [A] and Ah [Ah], with how far they may be off."""

    rated_cca_amps: float | None
    rating_spread: float
    rated_ah: float | None
    reserve_minutes: float | None
    temperature_c: float | None


def _normal(observed: float, expected: Array, width: Array | float) -> Array:
    return np.asarray(np.exp(-0.5 * ((observed - expected) / width) ** 2) / (width * math.sqrt(2 * math.pi)))


def _with_slips(told: Array, flat: float) -> Array:
    return (1 - SLIP) * told + SLIP * flat


class Weighing:
    """A library that is weighed reading by reading, each battery lived on between them."""

    def __init__(self, batteries: Batteries, known: Known) -> None:
        self.batteries = batteries
        self.known = known
        self.log_weight = np.zeros(len(batteries))
        self.scale = batteries.cells / 6
        self.ways: dict[type, Callable[..., Array | None]] = {
            Look: self._look,
            RestVolts: self._rest_volts,
            ElectronicTester: self._tester,
            AdjustableLoad: self._pull,
            FixedLoad: self._pull,
            Crank: self._crank,
            ChargeRun: self._charge,
            Stand: self._stand,
            Cells: self._cells,
            Reserve: self._reserve,
        }

    @property
    def temperature_c(self) -> Array | float:
        """Its temperature as it was taken, else each battery's own [C]."""
        return self.batteries.temperature_c if self.known.temperature_c is None else self.known.temperature_c

    def weigh(self, reading: AnyReading, hours_since: float, counts: bool) -> None:
        """One more reading, so many hours after the one before; one that does not count only lets its time pass."""
        stood = reading.hours if isinstance(reading, Stand | ChargeRun) else 0.0
        if hours_since - stood > LEAST_HOURS:
            physics.rest(self.batteries, hours_since - stood, self.temperature_c)
        way = self.ways.get(type(reading))
        before = None if counts else self.log_weight.copy()
        likelihood = None if way is None else way(reading)
        if likelihood is not None:
            self.log_weight = self.log_weight + np.log(np.maximum(likelihood, 1e-12))
        if before is not None:
            self.log_weight = before
        self._leave_out_the_unlikely()

    def _leave_out_the_unlikely(self) -> None:
        """Batteries that two slips at once would have to explain no longer count: what is left is weighed the faster."""
        keep = self.log_weight > self.log_weight.max() - TOO_UNLIKELY
        if keep.sum() < 0.8 * len(keep):
            self.batteries = self.batteries.picked(np.flatnonzero(keep))
            self.log_weight = self.log_weight[keep]

    def _look(self, reading: Look) -> Array | None:
        if not reading.levels:
            return None
        bare = Level.PLATES_BARE in reading.levels
        told = np.where((self.batteries.dry > 0) == bare, 0.98, 0.02)
        if not bare:
            self.batteries.columns["dry"] = np.zeros(len(self.batteries))
        return told

    def _rest_volts(self, reading: RestVolts) -> Array | None:
        if reading.settled is Settled.HEADLAMPS:
            physics.headlamps(self.batteries)
        width = math.hypot(METER_VOLTS, MODEL_VOLTS) * self.scale
        return _with_slips(_normal(reading.volts, physics.rest_volts(self.batteries), width), 0.15)

    def _tester(self, reading: ElectronicTester) -> Array | None:
        rated = self.known.rated_cca_amps
        if rated is None or reading.measured_cca_amps is None:
            return None
        observed = reading.measured_cca_amps / rated
        expected = physics.tester_share(self.batteries, self.temperature_c)
        width = np.hypot(TESTER_SHARE, self.known.rating_spread) * np.maximum(expected, 0.1)
        slipped = sum(_normal(observed, expected * slip, width * 1.5) for slip in TESTER_SLIPS) / len(TESTER_SLIPS)
        slips = 0.6 if reading.clamped is not Clamped.LEAD_POSTS else SLIP
        return np.asarray((1 - slips) * _normal(observed, expected, width) + slips * (0.8 * slipped + 0.2 * 0.7))

    def _under(self, volts: float, share: Array | float, amps: float, seconds: float) -> Array:
        expected = physics.under_load(self.batteries, share, amps, seconds, self.temperature_c)
        sag = np.abs(physics.rest_volts(self.batteries) - expected)
        width = np.hypot(np.hypot(PULL_SHARE, self.known.rating_spread) * sag, PULL_VOLTS) * max(self.scale, 0.5)
        return _with_slips(_normal(volts, expected, width), 0.12)

    def _pull(self, reading: AdjustableLoad | FixedLoad) -> Array | None:
        rated = self.known.rated_cca_amps
        if rated is None or reading.volts is None:
            return None
        return self._under(reading.volts, reading.amps / rated, reading.amps, reading.seconds)

    def _crank(self, reading: Crank) -> Array | None:
        if self.known.rated_cca_amps is None or reading.volts is None:
            return None
        return self._under(reading.volts, self.batteries.starter_share, 200.0, reading.seconds)

    def _charge(self, reading: ChargeRun) -> Array | None:
        batteries, start = self.batteries, reading.start_amps
        if reading.amps is not None and reading.amps < 0.1 and (start is None or start < 0.1):
            return np.where(batteries.open_link > 0, NO_CURRENT[True], NO_CURRENT[False])
        told = np.ones(len(batteries))
        ah = self.known.rated_ah
        if reading.finished:
            if ah and start is not None and reading.amps is not None:
                told = _with_slips(self._ah_put_in(start, reading.amps, reading.hours, ah), 0.3)
            physics.charge_fully(batteries)
            return np.where(batteries.shorted_cells > 0, FINISHED_WITH_A_SHORT, told)
        if ah and start is not None and start >= 0.1:
            reached = batteries.charge + start * reading.hours * batteries.efficiency / np.maximum(
                batteries.capacity * ah, 1.0
            )
            at = batteries.copy()
            at.columns["charge"] = np.minimum(reached, batteries.top_charge)
            at.columns["sunk_volts"] = np.zeros(len(batteries))
            rate = np.maximum(start / np.maximum(batteries.capacity * ah, 1.0) / 0.1, 0.02)
            live = 1 - batteries.shorted_cells / batteries.cells
            over = 0.5 * rate**0.4 + 1.3 * np.maximum(at.columns["charge"], 0.0) ** 4 * rate**0.3
            expected = physics.acid_volts(at) + over * live * self.scale
            limit = 14.4 * self.scale
            expected = np.where(
                (batteries.shorted_cells == 0) & (expected > 0.96 * limit), limit, np.minimum(expected, limit)
            )
            told = _with_slips(_normal(min(reading.volts, limit), expected, CHARGING_VOLTS * self.scale), 0.2)
            if reading.stopped:
                batteries.columns["charge"] = at.columns["charge"]
                batteries.columns["sunk_volts"] = np.zeros(len(batteries))
        return told

    def _ah_put_in(self, start: float, end: float, hours: float, ah: float) -> Array:
        batteries = self.batteries
        tail = min(1.3 * math.log(max(start / max(end, 0.1), 1.0)), hours)
        put = start * (hours - tail) + (start - end) * min(1.3, tail or 1.3) + end * tail
        missing = (
            np.maximum(batteries.top_charge - batteries.charge, 0.02) * batteries.capacity * ah / batteries.efficiency
        )
        return _normal(put, missing, AH_SHARE * missing + 0.04 * ah) * ah

    def _stand(self, reading: Stand) -> Array | None:
        width = math.hypot(METER_VOLTS, MODEL_VOLTS) * self.scale
        before = physics.rest_volts(self.batteries)
        told = _with_slips(_normal(reading.start_volts, before, width), 0.15)
        physics.rest(self.batteries, reading.hours, self.temperature_c)
        lost = before - physics.rest_volts(self.batteries)
        wide = SAME_METER_VOLTS + LEAKS_DIFFER * lost
        return told * _with_slips(_normal(reading.start_volts - reading.volts, lost, wide), 0.2)

    def _cells(self, reading: Cells) -> Array | None:
        figures = reading.specific_gravities
        if len(figures) < 3:
            return None
        low = min(figures)
        mates = sorted(figures)[1:]
        behind = mates[len(mates) // 2] - low
        return _with_slips(_normal(behind, physics.weakest_behind(self.batteries) + 0.003, GRAVITY_WIDTH), 3.0)

    def _reserve(self, reading: Reserve) -> Array | None:
        rated = self.known.reserve_minutes
        if rated is None and self.known.rated_ah is not None:
            rated = 60 * self.known.rated_ah / reading.amps * (self.known.rated_ah / 20 / reading.amps) ** 0.2
        share = physics.discharge_share(self.batteries)
        self.batteries.columns["charge"] = np.full(len(self.batteries), 0.03)
        for name in ("fast_volts", "slow_volts"):
            self.batteries.columns[name] = np.zeros(len(self.batteries))
        if rated is None:
            return None
        return _with_slips(_normal(reading.minutes / rated, share, MINUTES_SHARE * share + 0.03), 0.5)
