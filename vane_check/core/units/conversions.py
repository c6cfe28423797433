"""Unit conversions. Storage is Celsius, millimetres, volts and amps; the house may read Fahrenheit and inches."""

MM_PER_INCH = 25.4  # exact by definition (international inch, 1959)


def fahrenheit_of(temperature_c: float) -> float:
    """Degrees Fahrenheit of a temperature in Celsius.

    >>> fahrenheit_of(-17.8) < 0 < fahrenheit_of(-17.7)
    True
    """
    return temperature_c * 9 / 5 + 32


def celsius_of(temperature_f: float) -> float:
    """Degrees Celsius of a temperature in Fahrenheit.

    >>> celsius_of(212)
    100.0
    """
    return (temperature_f - 32) * 5 / 9


def inches_of(length_mm: float) -> float:
    """Inches of a length in millimetres.

    >>> inches_of(254)
    10.0
    """
    return length_mm / MM_PER_INCH


MINUTES_PER_HOUR = 60
HOURS_PER_DAY = 24
HOURS_PER_MONTH = 730
"""A twelfth of a year of 365 days."""
HOURS_OF_RATE = 20
"""Ah are rated at the 20 h rate: Ah / 20 amps to the end volts. Source: SAE J537, EN 50342-1."""
