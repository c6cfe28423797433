"""The battery itself: what it is, and what happens to it as it is rested, charged and loaded."""

import math
from dataclasses import dataclass, field
from enum import StrEnum

CELLS = 6
VOLTS_PER_GRAVITY = 1.0
CELL_VOLTS_AT_GRAVITY_ONE = 0.845
"""A cell's open-circuit volts are about its gravity plus this (Bode 1977)."""

GRAVITY_FULL = {"flooded": 1.265, "calcium": 1.285, "efb": 1.280, "agm": 1.295, "gel": 1.290}
GRAVITY_EMPTY = 1.12
SHORT_VOLTS = 0.05
"""What a shorted cell still shows."""

END_OF_RATING_VOLTS = 7.2
POLARISATION_SHARE = 0.55
"""Share of a pull's sag that comes with time, after the first instant."""

SURFACE_CHARGE_VOLTS = 0.55
SURFACE_CHARGE_HOURS = 2.6
COLD_DOUBLES_PER_C = 80.0
"""Resistance doubles over so many degrees of cold: hot cranking amps are about 1.47 times the cold ones, 45 C apart."""

CCA_PER_AH = 9.0
LINK_OPENS_AMPS = 40.0
"""A broken link still carries a tester's or a meter's current."""

LINK_LEFT_VOLTS = 1.5
FULL_AT_AMPS_PER_AH = 0.01
CHARGE_TAU_HOURS = 1.3
"""How fast the current falls once the charger's volts are reached."""

CHARGER_AMPS = 10.0
WEAK_CELL_RESISTANCE = 3.0
DEEP_RATE_EXPONENT = 1.2


class Truth(StrEnum):
    """What is really the matter."""

    GOOD = "good"
    WORN = "worn"
    FADED = "faded"
    WEAK_CELL = "weak_cell"
    SHORTED_CELL = "shorted_cell"
    OPEN_LINK = "open_link"
    LEAKS = "leaks"
    FROZEN = "frozen"
    HAZARD = "hazard"

    @property
    def is_bad(self) -> bool:
        """Whether it is unfit. A frozen one is dangerous, and may be sound once it is warm: it counts neither way."""
        return self not in {Truth.GOOD, Truth.FROZEN}


@dataclass
class SimulatedBattery:
    """A 12 V battery with its hidden state.

    `strength` is real over rated starting power when charged, `capacity` real over rated Ah, `charge` 0 to 1, `weak_by`
    what one cell lacks of the others' charge. `ah_on_label` and `reserve_on_label` say what is printed.
    """

    truth: Truth
    chemistry: str
    rated_cca_amps: float
    strength: float
    charge: float
    temperature_c: float = 20.0
    capacity: float = 1.0
    sulphation: float = 0.0
    shorted_cells: int = 0
    weak_by: float = 0.0
    open_link: bool = False
    leak_per_hour: float = 0.0
    hazard: str | None = None
    has_caps: bool = False
    wet_top: bool = False
    surface_volts: float = 0.0
    ah_on_label: bool = True
    reserve_on_label: bool = False
    came_flat_standing: bool = False
    came_back: bool = False
    starter_share: float = 0.35
    """What its car's starter draws at a steady speed, of the rated CCA."""

    slips: float = 0.0
    """How often the hands at this bench go wrong without a word, 0 to 1."""

    clock_hours: float = field(default=0.0)

    @property
    def rated_ah(self) -> float:
        """Ah it was made with."""
        return round(self.rated_cca_amps / CCA_PER_AH)

    @property
    def real_ah(self) -> float:
        """Ah it holds today."""
        return self.rated_ah * self.capacity

    @property
    def rated_reserve_minutes(self) -> float:
        """Minutes at 25 A it was made with."""
        return self.minutes_at(25.0, self.rated_ah)

    @staticmethod
    def minutes_at(amps: float, ah: float) -> float:
        """Minutes so many Ah last: at more amps less comes out."""
        hours: float = ah / amps * (ah / 20 / amps) ** (DEEP_RATE_EXPONENT - 1)
        return hours * 60

    @property
    def top_charge(self) -> float:
        """How far a charge brings it: sulphation keeps part of the acid in the plates."""
        return 1.0 - self.sulphation

    def cell_gravity(self, shorted: bool = False, weak: bool = False) -> float:
        """Gravity of a cell's acid [1]."""
        full = GRAVITY_FULL[self.chemistry]
        charge = self.charge - (self.weak_by if weak else 0.0)
        gravity = GRAVITY_EMPTY + (full - GRAVITY_EMPTY) * min(max(charge, 0.0), 1.0)
        return gravity if not shorted else GRAVITY_EMPTY - 0.03

    def rest_volts(self) -> float:
        """Volts at the posts, off load, surface charge included [V]."""
        weak = 1 if self.weak_by else 0
        live = CELLS - self.shorted_cells - weak
        cells = live * self.cell_gravity() + weak * self.cell_gravity(weak=True)
        base = (live + weak) * CELL_VOLTS_AT_GRAVITY_ONE + VOLTS_PER_GRAVITY * cells
        return base + self.shorted_cells * SHORT_VOLTS + self.surface_volts

    def holds_ice(self) -> bool:
        """Whether its weakest acid is frozen: a smooth curve through what is remembered of acid's freezing points."""
        over_water = self.cell_gravity(weak=bool(self.weak_by)) - 1
        return self.temperature_c <= -60 * over_water - 260 * over_water**2

    def resistance_ohm(self) -> float:
        """Resistance of a 15 s pull at the present temperature and charge [ohm].

        Sized so that a battery of strength 1, full, at -18 C, gives its rated amps at 7.2 V.
        """
        full_volts = CELLS * (CELL_VOLTS_AT_GRAVITY_ONE + GRAVITY_FULL[self.chemistry])
        at_rating = (full_volts - END_OF_RATING_VOLTS) / (self.rated_cca_amps * self.strength)
        warm: float = 2.0 ** (-(self.temperature_c + 18.0) / COLD_DOUBLES_PER_C)
        empty: float = 1.0 + 1.6 * max(0.0, 0.75 - self.charge) ** 1.3
        short = 1.0 + 0.35 * self.shorted_cells
        weak = 1.0 + (WEAK_CELL_RESISTANCE - 1) / CELLS if self.weak_by else 1.0
        return at_rating * warm * empty * short * weak

    def under_load(self, amps: float, seconds: float) -> float:
        """Volts at the end of a pull [V]; the pull takes its charge and the surface charge with it."""
        if self.open_link and amps > LINK_OPENS_AMPS:
            return LINK_LEFT_VOLTS
        self.surface_volts *= 0.3
        settled = 1.0 - POLARISATION_SHARE * max(0.0, 1.0 - seconds / 15.0)
        volts = self.rest_volts() - amps * self.resistance_ohm() * settled
        self.charge = max(0.0, self.charge - amps * seconds / 3600.0 / self.real_ah)
        return max(volts, 0.5)

    def conductance_cca(self) -> float:
        """What an ideal electronic tester set right would show [A]: a small-signal look, less hurt by low charge."""
        charge = 1.0 - 0.32 * max(0.0, 0.7 - self.charge)
        cells = 0.45 if self.shorted_cells else 1.0
        weak = CELLS / (CELLS - 1 + WEAK_CELL_RESISTANCE) if self.weak_by else 1.0
        cold = 1.0 - 0.004 * max(0.0, 5.0 - self.temperature_c)
        return self.rated_cca_amps * self.strength * charge * cells * weak * cold

    def rest(self, hours: float) -> None:
        """Time passes, off everything."""
        self.clock_hours += hours
        self.surface_volts *= 2.0 ** (-hours / SURFACE_CHARGE_HOURS * 2.2)
        leak = self.leak_per_hour + (0.002 if self.wet_top else 0.0)
        self.charge = max(0.0, self.charge - leak * hours)

    def headlamps(self) -> None:
        """Two minutes of headlamps and a quarter of an hour of rest."""
        self.surface_volts *= 0.04
        self.charge = max(0.0, self.charge - 0.004)
        self.rest(0.25)

    def charge_curve(self, efficiency: float) -> list[tuple[float, float]]:
        """Hours and amps of a full charge: steady as long as it takes them, then falling."""
        missing_ah = max(self.top_charge - self.charge, 0.02) * self.real_ah / efficiency
        end = max(FULL_AT_AMPS_PER_AH * self.rated_ah, 0.3)
        start = max(min(CHARGER_AMPS, missing_ah / CHARGE_TAU_HOURS), end)
        steady = max(missing_ah - start * CHARGE_TAU_HOURS, 0.0) / start
        falling = CHARGE_TAU_HOURS * math.log(start / end)
        curve = [(0.0, start), (steady, start)] if steady else [(0.0, start)]
        parts = max(round(falling / 0.5), 2)
        for part in range(1, parts + 1):
            hours = falling * part / parts
            curve.append((steady + hours, start * math.exp(-hours / CHARGE_TAU_HOURS)))
        return curve

    def charge_fully(self, hours: float) -> None:
        """A charge to the end, on a charger that knows its type."""
        self.clock_hours += hours
        self.charge = self.top_charge
        self.weak_by *= 0.6
        self.surface_volts = SURFACE_CHARGE_VOLTS if not self.shorted_cells else 0.2

    def thaw(self) -> None:
        """A day in the warm."""
        self.clock_hours += 24
        self.temperature_c = 18.0

    def discharge_minutes(self, amps: float) -> float:
        """Minutes at steady amps to 10.5 V, from the charge it has; it is flat after."""
        ah = self.real_ah * max(self.charge - 0.7 * self.weak_by, 0.05)
        minutes = 0.1 if self.open_link and amps > LINK_OPENS_AMPS else self.minutes_at(amps, ah)
        if self.shorted_cells:
            minutes = 0.1
        self.charge, self.surface_volts = 0.03, 0.0
        return minutes
