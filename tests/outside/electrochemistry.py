"""Sulphuric acid and the lead-acid cell, from published fits; nothing in here comes from the product.

H. Bode, Lead-Acid Batteries (1977): electrode potentials as polynomials in log10 molality (coefficients from memory, as
handed down in open battery models). C. E. L. Myhre et al., J. Chem. Eng. Data 43 (1998) 617: acid density, as computed by
the package chempy.
"""

import math
import warnings

from chempy.properties.sulfuric_acid_density_myhre_1998 import sulfuric_acid_density
from scipy.optimize import brentq

TABLE_KELVIN = 26.7 + 273.15
WATER_DENSITY_15_6C = 999.0
"""kg/m3 at 60 F, the reference of specific gravity in the trade."""
ACID_MOLAR_MASS = 0.098079
CELLS = 6


def gravity_of(mass_fraction: float, kelvin: float) -> float:
    """Specific gravity of acid of a mass fraction at a temperature."""
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        return float(sulfuric_acid_density(mass_fraction, T=kelvin)) / WATER_DENSITY_15_6C


def mass_fraction_of(specific_gravity: float, kelvin: float) -> float:
    """Mass fraction of the acid that has this gravity at a temperature."""
    return float(brentq(lambda fraction: gravity_of(fraction, kelvin) - specific_gravity, 0.11, 0.6))


def molality_of(specific_gravity: float) -> float:
    """mol/kg of the acid whose density at 26.7 C gives this gravity."""

    fraction = mass_fraction_of(specific_gravity, TABLE_KELVIN)
    return fraction / (1 - fraction) / ACID_MOLAR_MASS


def bode_cell_volts(molality: float) -> float:
    """Open-circuit volts of one cell."""
    log = math.log10(molality)
    positive = 1.628 + 0.074 * log + 0.033 * log**2 + 0.043 * log**3 + 0.022 * log**4
    negative = -0.294 - 0.074 * log - 0.030 * log**2 - 0.031 * log**3 - 0.012 * log**4
    return positive - negative
