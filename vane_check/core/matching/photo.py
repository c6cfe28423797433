"""A tray in a photo: a bank card laid in it is the measure, whatever the camera's angle.

Card and tray bottom lie in one plane. The four corners of a card, whose size is a standard, give the projective map from
the picture to that plane; the tray's corners through it are millimetres. Nothing of the picture itself is needed.
"""

from itertools import pairwise
from math import dist, hypot

from pydantic import Field

from ..tables import photo_figures
from ..units.model import Model
from ..words import Words, say, word

Point = tuple[float, float]
Quad = tuple[Point, Point, Point, Point]
Plane = tuple[float, ...]
"""The eight figures of a projective map."""


class Marks(Model):
    """Corners marked in a picture [pixels], each four in turn round their shape."""

    card: Quad
    tray: Quad
    picture_px: float = Field(gt=0, le=100_000, description="the picture's longer side")


class TrayFound(Model):
    """The bottom of a tray [mm], and how far that may be off for marks that lie off their corners."""

    length_mm: float
    width_mm: float
    off_mm: float


class CannotMeasure(ValueError):
    """The marks are no card and tray; the message says what to do. `part` is the shape that is wrong."""

    def __init__(self, part: str, message: Words) -> None:
        super().__init__(message)
        self.part = part


def tray_in(marks: Marks) -> TrayFound:
    """The tray's length and width. Raises CannotMeasure for marks that cross, or lie on a line."""
    for part in ("card", "tray"):
        if not _goes_round(getattr(marks, part)):
            raise CannotMeasure(part, say("photo.the_marks_of_the_cross_set_them_in_turn", part=word(part)))
    length, width = _sides(marks.card, marks.tray)
    step = photo_figures()["mark_thousandths"] / 1000 * marks.picture_px
    off = [0.0, 0.0]
    for part in ("card", "tray"):
        for corner in range(4):
            for axis in range(2):
                shifted = _shifted(getattr(marks, part), corner, axis, step)
                card, tray = (shifted, marks.tray) if part == "card" else (marks.card, shifted)
                other = _sides(card, tray)
                off = [hypot(off[0], other[0] - length), hypot(off[1], other[1] - width)]
    return TrayFound(length_mm=max(length, width), width_mm=min(length, width), off_mm=max(off))


def _sides(card: Quad, tray: Quad) -> tuple[float, float]:
    """Both sides of the tray, each the mean of two [mm]."""
    figures = photo_figures()
    long, short = figures["card_length_mm"], figures["card_width_mm"]
    if dist(card[0], card[1]) + dist(card[2], card[3]) < dist(card[1], card[2]) + dist(card[3], card[0]):
        long, short = short, long
    flat = plane_of(card, ((0.0, 0.0), (long, 0.0), (long, short), (0.0, short)))
    corners = [through(flat, corner) for corner in tray]
    sides = [dist(one, other) for one, other in pairwise([*corners, corners[0]])]
    return (sides[0] + sides[2]) / 2, (sides[1] + sides[3]) / 2


def plane_of(seen: Quad, true: Quad) -> Plane:
    """The projective map that carries four points onto four others. Raises CannotMeasure where three lie on a line."""
    rows = []
    for (x, y), (u, v) in zip(seen, true, strict=True):
        rows.append([x, y, 1, 0, 0, 0, -u * x, -u * y, u])
        rows.append([0, 0, 0, x, y, 1, -v * x, -v * y, v])
    for at in range(8):
        pivot = max(range(at, 8), key=lambda row: abs(rows[row][at]))
        rows[at], rows[pivot] = rows[pivot], rows[at]
        if abs(rows[at][at]) < TINY:
            raise CannotMeasure("card", say("photo.three_marks_of_the_card_lie_on_a_line_set"))
        rows[at] = [value / rows[at][at] for value in rows[at]]
        for other in range(8):
            if other != at:
                factor = rows[other][at]
                rows[other] = [value - factor * own for value, own in zip(rows[other], rows[at], strict=True)]
    return tuple(row[8] for row in rows)


TINY = 1e-12
"""Smaller is nothing, for a computer's own rounding."""


def through(plane: Plane, point: Point) -> Point:
    """A point of the picture on the plane [mm]. Raises CannotMeasure for one on its horizon."""
    a, b, c, d, e, f, g, h = plane
    x, y = point
    below = g * x + h * y + 1
    if abs(below) < TINY:
        raise CannotMeasure("tray", say("photo.a_mark_of_the_tray_lies_at_the_horizon"))
    return (a * x + b * y + c) / below, (d * x + e * y + f) / below


def _goes_round(quad: Quad) -> bool:
    turns = []
    for at in range(4):
        (x0, y0), (x1, y1), (x2, y2) = quad[at], quad[(at + 1) % 4], quad[(at + 2) % 4]
        turns.append((x1 - x0) * (y2 - y1) - (y1 - y0) * (x2 - x1))
    return all(turn > 0 for turn in turns) or all(turn < 0 for turn in turns)


def _shifted(quad: Quad, corner: int, axis: int, step: float) -> Quad:
    moved = [list(point) for point in quad]
    moved[corner][axis] += step
    one, two, three, four = ((x, y) for x, y in moved)
    return one, two, three, four
