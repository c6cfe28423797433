"""A shop's year of batteries: wear without a gap between good and bad, capacity apart from starting power, faults that hide."""

import random

from .battery import SimulatedBattery, Truth

FAULTS = (
    (None, 0.785),
    (Truth.FADED, 0.06),
    (Truth.LEAKS, 0.035),
    (Truth.WEAK_CELL, 0.03),
    (Truth.SHORTED_CELL, 0.03),
    (Truth.OPEN_LINK, 0.015),
    (Truth.HAZARD, 0.03),
    (Truth.FROZEN, 0.015),
)
CHEMISTRIES = (("flooded", 0.34), ("calcium", 0.30), ("efb", 0.16), ("agm", 0.20))
HAZARDS = ("bulged", "cracked", "leaking", "hot", "smelling_of_rotten_egg")
FIT_FROM = 0.75
"""Real over rated starting power from which it is fit: the house's line as delivered, and no gap around it."""

BEST, WORST = 1.12, 0.40
FADED_SHARES = (0.25, 0.60)
LEAKS_PER_DAY = (0.005, 0.05)
TEMPERATURES_C = (-15.0, 45.0)
ICE_C = (-15.0, -11.0)
SLIPS = (0.05, 0.15)


def random_battery(chance: random.Random) -> SimulatedBattery:
    """One battery as it comes in."""
    fault = chance.choices([fault for fault, _ in FAULTS], [share for _, share in FAULTS])[0]
    chemistry = chance.choices([name for name, _ in CHEMISTRIES], [share for _, share in CHEMISTRIES])[0]
    strength = BEST - (BEST - WORST) * chance.random() ** 2.2
    if fault not in {None, Truth.HAZARD}:
        strength = chance.uniform(0.80, 1.08)  # the fault alone is what is the matter
    flat = chance.random() < 0.55
    battery = SimulatedBattery(
        truth=fault or (Truth.GOOD if strength >= FIT_FROM else Truth.WORN),
        chemistry=chemistry,
        rated_cca_amps=float(chance.randrange(400, 920, 20)),
        strength=strength,
        capacity=min(chance.uniform(0.78, 1.05), 0.35 + 0.65 * strength + 0.1),
        charge=chance.uniform(0.05, 0.6) if flat else chance.uniform(0.82, 1.0),
        temperature_c=min(max(chance.gauss(16, 13), TEMPERATURES_C[0]), TEMPERATURES_C[1]),
        has_caps=chemistry == "flooded" and chance.random() < 0.8,
        wet_top=chance.random() < 0.08,
        ah_on_label=chance.random() < 0.75,
        reserve_on_label=chance.random() < 0.15,
        came_flat_standing=chance.random() < 0.08,
        came_back=chance.random() < 0.3,
        starter_share=chance.uniform(0.25, 0.45),
        slips=chance.uniform(*SLIPS),
    )
    _with_its_fault(battery, chance)
    if chance.random() < 0.2 and not battery.shorted_cells and battery.truth is not Truth.FROZEN:
        battery.surface_volts = chance.uniform(0.15, 0.5)
    battery.charge = min(battery.charge, battery.top_charge)
    if battery.truth is not Truth.FROZEN and battery.holds_ice():
        battery.temperature_c = 2.0
    return battery


def _with_its_fault(battery: SimulatedBattery, chance: random.Random) -> None:
    match battery.truth:
        case Truth.WORN:
            battery.sulphation = chance.uniform(0.0, 0.12)
        case Truth.FADED:
            battery.capacity = chance.uniform(*FADED_SHARES)
        case Truth.WEAK_CELL:
            battery.weak_by = chance.uniform(0.3, 0.7)
            battery.strength = chance.uniform(0.70, 1.0)
        case Truth.SHORTED_CELL:
            battery.shorted_cells = 1 if chance.random() < 0.9 else 2
        case Truth.OPEN_LINK:
            battery.open_link = True
        case Truth.LEAKS:
            battery.leak_per_hour = chance.uniform(*LEAKS_PER_DAY) / 24
            battery.came_flat_standing = chance.random() < 0.85
            if chance.random() < 0.8:  # the rest were driven to the shop
                battery.charge = chance.uniform(0.05, 0.55)
        case Truth.HAZARD:
            battery.hazard = chance.choice(HAZARDS)
        case Truth.FROZEN:  # nothing shows on the case
            battery.charge = 0.0
            battery.temperature_c = chance.uniform(*ICE_C)
            battery.surface_volts = 0.0
        case _:
            pass


def population(size: int, seed: int) -> list[SimulatedBattery]:
    """So many batteries, the same ones for the same seed."""
    chance = random.Random(seed)
    return [random_battery(chance) for _ in range(size)]
