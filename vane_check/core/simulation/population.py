"""A shop's year of batteries: mostly discharged or sound, some worn, a few shorted, leaking or dangerous."""

import random

from .battery import SimulatedBattery, Truth

MIX = (
    (Truth.GOOD, 0.56),
    (Truth.MARGINAL, 0.05),
    (Truth.WORN, 0.24),
    (Truth.SHORTED_CELL, 0.06),
    (Truth.LEAKS, 0.05),
    (Truth.HAZARD, 0.04),
)
CHEMISTRIES = (("flooded", 0.34), ("calcium", 0.30), ("efb", 0.16), ("agm", 0.20))
HAZARDS = ("bulged", "cracked", "leaking", "hot", "smelling_of_rotten_egg")
STRENGTHS = {Truth.GOOD: (0.90, 1.12), Truth.MARGINAL: (0.70, 0.85), Truth.WORN: (0.25, 0.62)}


def one(chance: random.Random) -> SimulatedBattery:
    """One battery as it comes in."""
    truth = chance.choices([truth for truth, _ in MIX], [share for _, share in MIX])[0]
    chemistry = chance.choices([name for name, _ in CHEMISTRIES], [share for _, share in CHEMISTRIES])[0]
    flat = chance.random() < 0.55
    battery = SimulatedBattery(
        truth=truth,
        chemistry=chemistry,
        rated_cca_amps=float(chance.randrange(400, 920, 20)),
        strength=chance.uniform(*STRENGTHS.get(truth, STRENGTHS[Truth.GOOD])),
        charge=chance.uniform(0.05, 0.6) if flat else chance.uniform(0.82, 1.0),
        temperature_c=chance.uniform(8, 28),
        has_caps=chemistry == "flooded" and chance.random() < 0.8,
        wet_top=chance.random() < 0.08,
    )
    if truth is Truth.WORN:
        battery.sulphation = chance.uniform(0.0, 0.12)
    elif truth is Truth.SHORTED_CELL:
        battery.shorted_cells = 1 if chance.random() < 0.9 else 2
    elif truth is Truth.LEAKS:
        battery.leak_per_hour = chance.uniform(0.03, 0.08)
        if chance.random() < 0.9:  # it stood overnight at least; the rest were driven to the shop
            battery.charge = chance.uniform(0.05, 0.45)
    elif truth is Truth.HAZARD:
        battery.hazard = chance.choice(HAZARDS)
    if chance.random() < 0.2 and not battery.shorted_cells:
        battery.surface_volts = chance.uniform(0.15, 0.5)
    battery.charge = min(battery.charge, battery.top_charge)
    return battery


def population(size: int, seed: int) -> list[SimulatedBattery]:
    """So many batteries, the same ones for the same seed."""
    chance = random.Random(seed)
    return [one(chance) for _ in range(size)]
