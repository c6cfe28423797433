"""Acid: gravity at its reference temperature, and where it freezes."""

from ..house.rules import HouseRules
from ..tables import handbook_freezing_points
from ..units.lines import on_line

FAHRENHEIT_PER_CELSIUS = 1.8


def corrected_gravity(gravity: float, temperature_c: float, rules: HouseRules) -> float:
    """Gravity corrected to 26.7 C (80 F) [1]: 0.004 more for each 10 F above, less below. Source: trade tables.

    >>> from ..house.rules import house_rules
    >>> round(corrected_gravity(1.250, 4.5, house_rules()), 3)
    1.234
    """
    tens_of_f = (temperature_c - rules.gravity.reference_c.value) * FAHRENHEIT_PER_CELSIUS / 10
    return gravity + rules.gravity.per_10f.value * tens_of_f


def freezing_point_c(specific_gravity: float) -> float:
    """Where acid of this gravity freezes [C], by straight lines. Source: tables/handbook-freezing-points.csv (from memory).

    >>> freezing_point_c(1.265)
    -58.0
    """
    table = handbook_freezing_points()
    return on_line(specific_gravity, table.specific_gravity, table.freezing_point_c)
