"""Straight lines between a table's points, held at the ends; scalar and quick, the same as numpy.interp."""

from bisect import bisect_right
from collections.abc import Sequence


def on_line(x: float, xs: Sequence[float], ys: Sequence[float]) -> float:
    """The y of x on straight lines through (xs, ys), xs rising.

    >>> on_line(1.5, (1.0, 2.0), (10.0, 20.0))
    15.0
    >>> on_line(9.0, (1.0, 2.0), (10.0, 20.0))
    20.0
    """
    if x <= xs[0]:
        return ys[0]
    if x >= xs[-1]:
        return ys[-1]
    right = bisect_right(xs, x)
    x0, y0 = xs[right - 1], ys[right - 1]
    return y0 + (ys[right] - y0) * (x - x0) / (xs[right] - x0)
