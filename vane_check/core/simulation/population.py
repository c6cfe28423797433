"""A shop's year of batteries: wear without a gap between good and bad, capacity apart from starting power, faults that hide,
stories that have nothing to do with the cause."""

import random
from dataclasses import dataclass

from .battery import DEEP_RATE_EXPONENT, SimulatedBattery, SurfaceCharge, Truth

FAULTS = (
    (None, 0.785),
    (Truth.FADED, 0.05),
    (Truth.LEAKS, 0.035),
    (Truth.WEAK_CELL, 0.03),
    (Truth.SHORTED_CELL, 0.03),
    (Truth.OPEN_LINK, 0.015),
    (Truth.HAZARD, 0.04),
    (Truth.FROZEN, 0.015),
)
CHEMISTRIES = (("flooded", 0.32), ("calcium", 0.30), ("efb", 0.16), ("agm", 0.20), ("gel", 0.02))
HAZARDS = ("bulged", "cracked", "leaking", "hot", "smelling_of_rotten_egg")
HIDDEN_HAZARDS = 0.2
USES = (("private", 0.93), ("deep_cycle", 0.04), ("standby", 0.03))
COMPLAINTS = (
    ("check_only", 0.36), ("will_not_start", 0.2), ("slow_crank", 0.12), ("stood_for_weeks", 0.09), ("clicks", 0.05),
    ("failed_elsewhere", 0.1), ("warning_light", 0.05), ("stop_start_stopped", 0.03),
)  # fmt: skip
CAME_IN = (("in_car", 0.35), ("carried_in", 0.4), ("returned", 0.25))
FIT_FROM = 0.75
"""Real over rated starting power from which it is fit: the house's line as delivered, and no gap around it."""

HOLDS_FROM = {"deep_cycle": 0.6, "standby": 0.8}
"""Real over rated minutes of a discharge from which one that starts nothing is fit. Sources: IEEE 450 and 1188 (standby); common practice (deep cycle)."""

BEST, WORST = 1.12, 0.40
FADED_SHARES = (0.25, 0.60)
LEAKS_PER_DAY = (0.05, 0.50)
CELL_LEAKS_PER_DAY = (0.3, 3.0)
"""Even in their logarithm: flat in days or in weeks. Smaller ones are the shelf's to find: they take weeks."""

ONE_CELL_LEAKS = 0.4
ICE_C = (-15.0, -11.0)
SLIPS = (0.05, 0.15)


@dataclass
class Arrival:
    """A battery as it crosses the counter: what it is, what is printed on it, what its owner says."""

    battery: SimulatedBattery
    use: str = "private"
    came_in: str = "carried_in"
    complaint: str = "check_only"
    rating: str = "label"
    """label, lent (its car's list) or none."""

    lent_share: float = 1.0
    """What its car asks over what it was made with."""

    ah_on_label: bool = True
    reserve_on_label: bool = False
    type_on_label: bool = True
    slips: float = 0.1

    @property
    def nominal_volts(self) -> int:
        """6 or 12."""
        return self.battery.cells * 2


def _pick(chance: random.Random, shares: tuple[tuple[str, float], ...]) -> str:
    return chance.choices([name for name, _ in shares], [share for _, share in shares])[0]


def _surface(chemistry: str, chance: random.Random) -> SurfaceCharge:
    agm = chemistry in {"agm", "gel"}
    return SurfaceCharge(
        left_by_charge_volts=chance.uniform(0.45, 1.0),
        slow_share=chance.uniform(0.2, 0.45),
        fast_hours=chance.uniform(0.25, 0.8),
        slow_hours=chance.uniform(6, 24) if agm else chance.uniform(3, 12),
        lamps_leave=chance.uniform(0.10, 0.40) if agm else chance.uniform(0.05, 0.30),
    )


def random_battery(chance: random.Random) -> Arrival:
    """One battery as it comes in."""
    fault = chance.choices([fault for fault, _ in FAULTS], [share for _, share in FAULTS])[0]
    use = _pick(chance, USES)
    chemistry = _pick(chance, CHEMISTRIES)
    strength = BEST - (BEST - WORST) * chance.random() ** 2.2
    if fault not in {None, Truth.HAZARD}:
        strength = chance.uniform(0.80, 1.08)  # the fault alone is what is the matter
    flat = chance.random() < 0.42
    battery = SimulatedBattery(
        truth=fault or (Truth.GOOD if strength >= FIT_FROM else Truth.WORN),
        chemistry=chemistry,
        rated_cca_amps=float(chance.randrange(400, 920, 20)),
        strength=strength,
        capacity=min(chance.uniform(0.78, 1.05), 0.35 + 0.65 * strength + 0.1),
        charge=chance.uniform(-0.15, 0.6) if flat else chance.uniform(0.85, 1.0),
        temperature_c=min(max(chance.gauss(16, 12), -15.0), 45.0),
        layered=chance.uniform(0.3, 1.0) if chance.random() < 0.05 else 0.0,
        has_caps=chemistry == "flooded" and chance.random() < 0.8,
        wet_top=chance.random() < 0.08,
        corroded=chance.random() < 0.06,
        full_gravity_by=chance.gauss(0, 0.006),
        cold_doubles_per_c=chance.uniform(60, 110),
        ah_per_cca=1 / chance.uniform(7.5, 10.5),
        tester_reads=min(max(chance.gauss(1.0, 0.045), 0.85), 1.15),
        ends_at_amps_per_ah=chance.uniform(0.004, 0.018),
        efficiency=chance.uniform(0.84, 0.96),
        surface=_surface(chemistry, chance),
        starter_share=chance.uniform(0.25, 0.45),
    )
    arrival = Arrival(
        battery, use, _pick(chance, CAME_IN), _pick(chance, COMPLAINTS), slips=chance.uniform(*SLIPS),
        ah_on_label=chance.random() < 0.75, reserve_on_label=chance.random() < 0.15, type_on_label=chance.random() < 0.9,
        lent_share=chance.uniform(0.8, 1.15),
    )  # fmt: skip
    where = chance.random()
    arrival.rating = "none" if where < 0.05 else "lent" if where < 0.12 else "label"
    if use != "private":
        _works_by_reserve(arrival, chance)
    _with_its_fault(battery, chance)
    if battery.has_caps and battery.truth is Truth.GOOD and chance.random() < 0.05:
        battery.dry = True
    if battery.charge < 0.0 and battery.truth is not Truth.FROZEN and chance.random() < 0.6:
        battery.sunk_volts = chance.uniform(0.2, 1.8)
    if chance.random() < 0.2 and battery.charge > 0.0:  # driven in, or just off a charger
        battery.surface.put(chance.uniform(0.15, 0.6))
    battery.charge = min(battery.charge, battery.top_charge)
    if battery.truth is not Truth.FROZEN and battery.holds_ice():
        battery.temperature_c = 2.0
    return arrival


def _works_by_reserve(arrival: Arrival, chance: random.Random) -> None:
    """No starting figure on it: Ah, and what it holds decides."""
    battery = arrival.battery
    arrival.rating, arrival.ah_on_label, arrival.came_in = "none", True, "carried_in"
    battery.ah_per_cca = 1 / chance.uniform(4.5, 6.5)
    if chance.random() < 0.3:
        battery.cells = 3
    if battery.truth in {Truth.GOOD, Truth.WORN}:
        battery.capacity = battery.strength = BEST - (BEST - 0.3) * chance.random() ** 1.6
        gives = battery.capacity**DEEP_RATE_EXPONENT
        battery.truth = Truth.GOOD if gives >= HOLDS_FROM[arrival.use] else Truth.FADED


def _with_its_fault(battery: SimulatedBattery, chance: random.Random) -> None:
    match battery.truth:
        case Truth.WORN:
            battery.sulphation = chance.uniform(0.0, 0.12)
        case Truth.FADED:
            battery.capacity = min(battery.capacity, chance.uniform(*FADED_SHARES))
        case Truth.WEAK_CELL:
            battery.weak_by = chance.uniform(0.3, 0.7)
            battery.strength = chance.uniform(0.70, 1.0)
        case Truth.SHORTED_CELL:
            battery.shorted_cells = 1 if battery.cells == 3 or chance.random() < 0.9 else 2
            battery.charge = max(battery.charge, 0.0)
        case Truth.OPEN_LINK:
            battery.open_link = True
        case Truth.LEAKS:
            _leaks(battery, chance)
        case Truth.HAZARD:
            battery.hazard = chance.choice(HAZARDS)
            battery.hazard_shows = chance.random() >= HIDDEN_HAZARDS
        case Truth.FROZEN:  # nothing shows on the case
            battery.charge, battery.layered = 0.0, 0.0
            battery.temperature_c = chance.uniform(*ICE_C)
        case _:
            pass


def _even_in_log(ends: tuple[float, float], chance: random.Random) -> float:
    result: float = ends[0] * (ends[1] / ends[0]) ** chance.random()
    return result


def _leaks(battery: SimulatedBattery, chance: random.Random) -> None:
    """In all cells, or in one that five others hide."""
    if chance.random() < ONE_CELL_LEAKS:
        battery.cell_leak_per_hour = _even_in_log(CELL_LEAKS_PER_DAY, chance) / 24
        battery.cell_charge_lost = chance.uniform(0.0, 0.6)
    else:
        battery.leak_per_hour = _even_in_log(LEAKS_PER_DAY, chance) / 24
        battery.charge = chance.uniform(0.05, 0.6) if chance.random() < 0.7 else battery.charge


def population(size: int, seed: int) -> list[Arrival]:
    """So many batteries, the same ones for the same seed."""
    chance = random.Random(seed)
    return [random_battery(chance) for _ in range(size)]
