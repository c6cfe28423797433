"""Held against a limit at the instrument's resolution: no verdict hangs on a digit that nobody can read.

Sums and differences of decimal figures carry noise in the last bits (12.3 + 0.15 is 12.450000000000001, 1.265 - 1.215 is
0.04999999999999982). Both sides are counted in whole steps of what the instrument shows, and the counts are compared.
"""

import math

from ..tables import resolutions

VOLTS = resolutions()["volts"]
GRAVITY = resolutions()["gravity"]
AMPS = resolutions()["amps"]
TENTH_AMP = resolutions()["charge_amps"]
RATIO = resolutions()["ratio"]
PERCENT = resolutions()["percent"]
SECONDS = resolutions()["seconds"]
MINUTES = resolutions()["minutes"]
HOURS = resolutions()["hours"]
CELSIUS = resolutions()["celsius"]
MILLIAMPS = resolutions()["milliamps"]
"""Steps of each quantity. Source: tables/resolutions.csv."""


def steps_of(value: float, resolution: float) -> int:
    """A value in whole steps of the resolution, half a step up.

    >>> steps_of(12.450000000000001, VOLTS), steps_of(12.45, VOLTS)
    (1245, 1245)
    """
    return math.floor(value / resolution + 0.5 + 1e-9)


def under(value: float, limit: float, resolution: float) -> bool:
    """Whether a value lies under a limit as far as the instrument can tell.

    >>> under(1.265 - 1.215, 0.050, GRAVITY), under(12.39, 12.4, VOLTS)
    (False, True)
    """
    if abs(value - limit) >= 2 * resolution:  # two steps apart, no rounding brings them together
        return value < limit
    return steps_of(value, resolution) < steps_of(limit, resolution)


def over(value: float, limit: float, resolution: float) -> bool:
    """Whether a value lies over a limit as far as the instrument can tell.

    >>> over(12.3 + 0.15, 12.45, VOLTS), over(12.46, 12.45, VOLTS)
    (False, True)
    """
    if abs(value - limit) >= 2 * resolution:
        return value > limit
    return steps_of(value, resolution) > steps_of(limit, resolution)


def at_least(value: float, limit: float, resolution: float) -> bool:
    """Whether a value reaches a limit: not under it.

    >>> at_least(1.260 - 1.210, 0.050, GRAVITY)
    True
    """
    return not under(value, limit, resolution)


def rounded(value: float, resolution: float) -> float:
    """A worked-out figure as the instrument would show it.

    >>> rounded(12.450000000000001, VOLTS)
    12.45
    """
    return round(steps_of(value, resolution) * resolution, 6)
