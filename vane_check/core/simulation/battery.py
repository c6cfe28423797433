"""The battery itself: what it is, and what happens to it as it is rested, charged and loaded."""

from dataclasses import dataclass, field
from enum import StrEnum

CELLS = 6
VOLTS_PER_GRAVITY = 1.0
CELL_VOLTS_AT_GRAVITY_ONE = 0.845
"""A cell's open-circuit volts are about its gravity plus this (Bode 1977)."""

GRAVITY_FULL = {"flooded": 1.265, "calcium": 1.285, "efb": 1.280, "agm": 1.295, "gel": 1.290}
GRAVITY_EMPTY = 1.135
SHORT_VOLTS = 0.05
"""What a shorted cell still shows."""

END_OF_RATING_VOLTS = 7.2
POLARISATION_SHARE = 0.55
"""Share of a pull's sag that comes with time, after the first instant."""

SURFACE_CHARGE_VOLTS = 0.55
SURFACE_CHARGE_HOURS = 2.6
COLD_DOUBLES_PER_C = 80.0
"""Resistance doubles over so many degrees of cold: hot cranking amps are about 1.47 times the cold ones, 45 C apart."""


class Truth(StrEnum):
    """What is really the matter."""

    GOOD = "good"
    MARGINAL = "marginal"
    WORN = "worn"
    SHORTED_CELL = "shorted_cell"
    LEAKS = "leaks"
    HAZARD = "hazard"

    @property
    def is_bad(self) -> bool:
        """Whether it should be condemned."""
        return self in {Truth.WORN, Truth.SHORTED_CELL, Truth.LEAKS, Truth.HAZARD}


@dataclass
class SimulatedBattery:
    """A 12 V battery with its hidden state. `strength` is real over rated starting power when charged; charge is 0 to 1."""

    truth: Truth
    chemistry: str
    rated_cca_amps: float
    strength: float
    charge: float
    temperature_c: float = 20.0
    sulphation: float = 0.0
    shorted_cells: int = 0
    leak_per_hour: float = 0.0
    hazard: str | None = None
    has_caps: bool = False
    wet_top: bool = False
    surface_volts: float = 0.0
    clock_hours: float = field(default=0.0)

    @property
    def top_charge(self) -> float:
        """How far a charge brings it: sulphation keeps part of the acid in the plates."""
        return 1.0 - self.sulphation

    def cell_gravity(self, shorted: bool = False) -> float:
        """Gravity of a cell's acid [1]."""
        full = GRAVITY_FULL[self.chemistry]
        gravity = GRAVITY_EMPTY + (full - GRAVITY_EMPTY) * min(max(self.charge, 0.0), 1.0)
        return gravity if not shorted else GRAVITY_EMPTY - 0.04

    def rest_volts(self) -> float:
        """Volts at the posts, off load, surface charge included [V]."""
        live = CELLS - self.shorted_cells
        cell = CELL_VOLTS_AT_GRAVITY_ONE + VOLTS_PER_GRAVITY * self.cell_gravity()
        return live * cell + self.shorted_cells * SHORT_VOLTS + self.surface_volts

    def resistance_ohm(self) -> float:
        """Resistance of a 15 s pull at the present temperature and charge [ohm].

        Sized so that a battery of strength 1, full, at -18 C, gives its rated amps at 7.2 V.
        """
        full_volts = CELLS * (CELL_VOLTS_AT_GRAVITY_ONE + GRAVITY_FULL[self.chemistry])
        at_rating = (full_volts - END_OF_RATING_VOLTS) / (self.rated_cca_amps * self.strength)
        warm: float = 2.0 ** (-(self.temperature_c + 18.0) / COLD_DOUBLES_PER_C)
        empty: float = 1.0 + 1.6 * max(0.0, 0.75 - self.charge) ** 1.3
        short = 1.0 + 0.35 * self.shorted_cells
        return at_rating * warm * empty * short

    def under_load(self, amps: float, seconds: float) -> float:
        """Volts at the end of a pull [V]; the pull takes its charge and the surface charge with it."""
        self.surface_volts *= 0.3
        settled = 1.0 - POLARISATION_SHARE * max(0.0, 1.0 - seconds / 15.0)
        volts = self.rest_volts() - amps * self.resistance_ohm() * settled
        self.charge = max(0.0, self.charge - amps * seconds / 3600.0 / (self.rated_cca_amps / 9.0))
        return max(volts, 0.5)

    def conductance_cca(self) -> float:
        """What an ideal electronic tester set right would show [A]: a small-signal look, less hurt by low charge."""
        charge = 1.0 - 0.32 * max(0.0, 0.7 - self.charge)
        cells = 0.45 if self.shorted_cells else 1.0
        return self.rated_cca_amps * self.strength * charge * cells

    def rest(self, hours: float) -> None:
        """Time passes, off everything."""
        self.clock_hours += hours
        self.surface_volts *= 2.0 ** (-hours / SURFACE_CHARGE_HOURS * 2.2)
        leak = self.leak_per_hour + (0.002 if self.wet_top else 0.0)
        self.charge = max(0.02, self.charge - leak * hours)

    def headlamps(self) -> None:
        """Two minutes of headlamps and a quarter of an hour of rest."""
        self.surface_volts *= 0.04
        self.charge = max(0.0, self.charge - 0.004)
        self.rest(0.25)

    def charge_fully(self, hours: float) -> None:
        """A charge to the end, on a charger that knows its type."""
        self.clock_hours += hours
        self.charge = self.top_charge
        self.surface_volts = SURFACE_CHARGE_VOLTS if not self.shorted_cells else 0.2
