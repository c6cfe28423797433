"""The battery itself: what it is, and what happens to it as it is rested, charged and loaded.

Figures of the model are of general knowledge of lead-acid batteries, from memory unless said otherwise.
"""

import math
from dataclasses import dataclass, field
from enum import StrEnum

from .acid import cell_volts, freezing_c

GRAVITY_FULL = {"flooded": 1.268, "calcium": 1.285, "efb": 1.280, "agm": 1.300, "gel": 1.290}
GRAVITY_EMPTY = 1.12
GRAVITY_OVER_EMPTY = 0.45
"""How fast the acid weakens below empty: gravity falls on as if charge went on under nothing, by so much of the usual slope."""

SHORT_VOLTS = 0.05
"""What a shorted cell still shows."""

SHORTED_GRAVITY = 1.09
END_OF_RATING_VOLTS = 7.2
"""SAE J537: rated amps at -18 C end at 7.2 V, 1.2 V a cell."""

RATING_C = -18.0
POLARISATION_SHARE = 0.55
"""Share of a pull's sag that comes with time, after the first instant."""

LINK_OPENS_AMPS = 40.0
"""A broken link still carries a tester's or a meter's current."""

LINK_LEFT_VOLTS = 1.5
WEAK_CELL_RESISTANCE = 3.0
DEEP_RATE_EXPONENT = 1.2
CHARGE_TAU_HOURS = 1.3
"""How fast the current falls once the charger's volts are reached."""

STEP_HOURS = 0.05
ABSORPTION_VOLTS = {"flooded": 14.4, "calcium": 14.7, "efb": 14.5, "agm": 14.6, "gel": 14.2}
DRY_STRENGTH = 0.55
"""What bare plates leave of its starting power, until water covers them."""


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
class SurfaceCharge:
    """Volts over rest that a charge leaves: most of it goes within the hour, a rest of it over a night.

    `lamps_leave` is the share that headlamps do not take: 0.05 to 0.30, in AGM 0.10 to 0.40 (common practice).
    """

    fast_volts: float = 0.0
    slow_volts: float = 0.0
    left_by_charge_volts: float = 0.75
    slow_share: float = 0.3
    fast_hours: float = 0.4
    slow_hours: float = 5.0
    lamps_leave: float = 0.12

    @property
    def volts(self) -> float:
        """What is there now [V]."""
        return self.fast_volts + self.slow_volts

    def put(self, volts: float) -> None:
        """A charge has left so much."""
        self.fast_volts, self.slow_volts = volts * (1 - self.slow_share), volts * self.slow_share

    def fade(self, hours: float, temperature_c: float) -> None:
        """Time goes by; half as fast for every 20 C of cold."""
        hours *= 2.0 ** ((temperature_c - 20.0) / 20.0)
        self.fast_volts *= math.exp(-hours / self.fast_hours)
        self.slow_volts *= math.exp(-hours / self.slow_hours)

    def drain(self) -> None:
        """Headlamps, or a pull that takes as much."""
        self.fast_volts, self.slow_volts = 0.0, self.lamps_leave * self.volts


@dataclass
class SimulatedBattery:
    """A battery of three or six cells with its hidden state.

    `strength` is real over rated starting power when charged, `capacity` real over rated Ah, `charge` 0 to 1 (under 0 where it was left
    flat for long), `weak_by` what one cell lacks of the others' charge. Fields `*_on_label` say what is printed.
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
    """What all cells lose [share of charge an hour]."""

    cell_leak_per_hour: float = 0.0
    """What one cell loses, which five others hide."""

    layered: float = 0.0
    """0 to 1: strong acid below, weak above; it rests high and gives little until a long charge mixes it."""

    dry: bool = False
    hazard: str | None = None
    hazard_shows: bool = True
    has_caps: bool = False
    wet_top: bool = False
    corroded: bool = False
    cells: int = 6
    full_gravity_by: float = 0.0
    """How far its full acid lies from what its type usually has [1]."""

    cold_doubles_per_c: float = 80.0
    """Resistance doubles over so many degrees of cold."""

    ah_per_cca: float = 1 / 9.0
    tester_reads: float = 1.0
    """What a small signal sees of this battery, over what a pull would show."""

    ends_at_amps_per_ah: float = 0.01
    """Current that goes on flowing at the charger's volts when it is full."""

    efficiency: float = 0.9
    sunk_volts: float = 0.0
    """How far under its acid it rests where it stood flat for weeks, until it has been charged for an hour."""

    surface: SurfaceCharge = field(default_factory=SurfaceCharge)
    starter_share: float = 0.35
    """What its car's starter draws at a steady speed, of the rated CCA."""

    cell_charge_lost: float = 0.0
    clock_hours: float = 0.0

    @property
    def rated_ah(self) -> float:
        """Ah it was made with."""
        return round(self.rated_cca_amps * self.ah_per_cca)

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

    def cell_gravity(self, behind: float = 0.0, shorted: bool = False) -> float:
        """Gravity of a cell's acid [1]; `behind` is what it lacks of the others' charge."""
        if shorted:
            return SHORTED_GRAVITY
        slope = GRAVITY_FULL[self.chemistry] + self.full_gravity_by - GRAVITY_EMPTY
        charge = self.charge - behind
        return GRAVITY_EMPTY + slope * (min(charge, 1.0) if charge > 0 else max(charge, -1.0) * GRAVITY_OVER_EMPTY)

    def gravities(self) -> list[float]:
        """Gravity of each cell [1], the shorted ones first, the weak or leaking one last."""
        behind = self.weak_by + self.cell_charge_lost
        return [
            self.cell_gravity(behind if place == self.cells - 1 else 0.0, shorted=place < self.shorted_cells)
            for place in range(self.cells)
        ]

    def rest_volts(self) -> float:
        """Volts at the posts, off load, surface charge included [V]."""
        even = self.cells - self.shorted_cells - 1
        last = cell_volts(self.cell_gravity(self.weak_by + self.cell_charge_lost))
        base = even * cell_volts(self.cell_gravity()) + last + self.shorted_cells * SHORT_VOLTS
        size = self.cells / 6
        return base + (self.surface.volts + 0.11 * self.layered - self.sunk_volts) * size

    def holds_ice(self) -> bool:
        """Whether its weakest acid is frozen."""
        return self.temperature_c <= freezing_c(self.cell_gravity(self.weak_by + self.cell_charge_lost))

    def resistance_ohm(self) -> float:
        """Resistance of a 15 s pull at the present temperature and charge [ohm].

        Sized so that a battery of strength 1, full, at -18 C, gives its rated amps at 1.2 V a cell.
        """
        full_volts = self.cells * cell_volts(GRAVITY_FULL[self.chemistry])
        at_rating = (full_volts - END_OF_RATING_VOLTS * self.cells / 6) / (self.rated_cca_amps * self.strength)
        warm: float = 2.0 ** (-(self.temperature_c - RATING_C) / self.cold_doubles_per_c)
        empty: float = 1.0 + 1.6 * max(0.0, 0.75 - self.charge) ** 1.3
        short = 1.0 + 0.35 * self.shorted_cells
        behind = self.weak_by + self.cell_charge_lost
        weak = 1.0 + (WEAK_CELL_RESISTANCE - 1) / self.cells * min(behind / 0.4, 1.0)
        return at_rating * warm * empty * short * weak * (1 + 0.35 * self.layered) / (DRY_STRENGTH if self.dry else 1.0)

    def under_load(self, amps: float, seconds: float) -> float:
        """Volts at the end of a pull [V]; the pull takes its charge and surface charge with it."""
        if self.open_link and amps > LINK_OPENS_AMPS:
            return LINK_LEFT_VOLTS
        self.surface.fast_volts = 0.0
        self.surface.slow_volts *= 0.5
        settled = 1.0 - POLARISATION_SHARE * max(0.0, 1.0 - seconds / 15.0)
        volts = self.rest_volts() - amps * self.resistance_ohm() * settled
        self.charge = max(self.charge - amps * seconds / 3600.0 / self.real_ah, min(self.charge, 0.0))
        return max(volts, 0.5)

    def conductance_cca(self) -> float:
        """What an ideal electronic tester set right would show [A]: a small-signal look, less hurt by low charge."""
        charge = 1.0 - 0.32 * max(0.0, 0.7 - self.charge)
        short = 0.45 if self.shorted_cells else 1.0
        behind = min((self.weak_by + self.cell_charge_lost) / 0.4, 1.0)
        weak = self.cells / (self.cells + (WEAK_CELL_RESISTANCE - 1) * behind)
        cold = 1.0 - 0.004 * max(0.0, 5.0 - self.temperature_c)
        wet = DRY_STRENGTH + 0.1 if self.dry else 1.0
        surface = 1.0 + 0.05 * min(self.surface.volts, 1.0)
        share = charge * short * weak * cold * wet * surface * (1 - 0.15 * self.layered)
        return self.rated_cca_amps * self.strength * share * self.tester_reads

    def rest(self, hours: float) -> None:
        """Time passes, off everything."""
        self.clock_hours += hours
        self.surface.fade(hours, self.temperature_c)
        leak = self.leak_per_hour + (0.002 if self.wet_top else 0.0)
        self.charge = max(self.charge - leak * hours, min(self.charge, 0.0))
        self.cell_charge_lost = min(self.cell_charge_lost + self.cell_leak_per_hour * hours, 1.1)

    def headlamps(self) -> None:
        """Two minutes of headlamps and a quarter of an hour of rest."""
        self.surface.drain()
        self.charge = max(self.charge - 0.25 / self.real_ah, min(self.charge, 0.0))
        self.rest(0.25)

    def thaw(self) -> None:
        """A day in the warm."""
        self.clock_hours += 24
        self.temperature_c = 18.0

    def discharge_minutes(self, amps: float) -> float:
        """Minutes at steady amps to 1.75 V a cell, from the charge it has; it is flat after."""
        behind = 0.7 * (self.weak_by + self.cell_charge_lost)
        ah = self.real_ah * max(self.charge - behind, 0.03) * (1 - 0.3 * self.layered) * (0.5 if self.dry else 1.0)
        minutes = 0.1 if self.open_link and amps > LINK_OPENS_AMPS else self.minutes_at(amps, ah)
        if self.shorted_cells:
            minutes = 0.1
        self.charge = 0.03
        self.surface.put(0.0)
        return minutes
