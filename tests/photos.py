"""A camera of the tests' own over a tray with a card in it: where corners fall in its picture, by a pinhole and nothing else."""

import io
from math import cos, radians, sin

PICTURE = (1600, 1200)
CARD = (85.60, 53.98)
"""ISO/IEC 7810, ID-1 [mm]."""


def seen(
    x: float, y: float, tilt: float = 0, turn: float = 0, high: float = 600, focal: float = 1400
) -> tuple[float, float]:
    """A point of the floor [mm, its middle 0] as a pinhole camera `high` mm over it sees it, tilted and turned [degrees]."""
    across = x * cos(radians(turn)) - y * sin(radians(turn))
    along = x * sin(radians(turn)) + y * cos(radians(turn))
    up, away = along * cos(radians(tilt)), high - along * sin(radians(tilt))
    return PICTURE[0] / 2 + focal * across / away, PICTURE[1] / 2 + focal * up / away


def corners(
    length: float, width: float, at: tuple[float, float] = (0, 0), turned: float = 0
) -> list[tuple[float, float]]:
    """A rectangle's corners on the floor in turn [mm]."""
    half = [(-length / 2, -width / 2), (length / 2, -width / 2), (length / 2, width / 2), (-length / 2, width / 2)]
    c, s = cos(radians(turned)), sin(radians(turned))
    return [(at[0] + x * c - y * s, at[1] + x * s + y * c) for x, y in half]


def picture(
    length: float, width: float, **camera: float
) -> tuple[bytes, list[tuple[float, float]], list[tuple[float, float]]]:
    """A PNG of a tray with a card in it, and where the corners of tray and card are."""
    from PIL import Image, ImageDraw

    tray = [seen(*point, **camera) for point in corners(length, width)]
    card = [seen(*point, **camera) for point in corners(*CARD, at=(20, 10), turned=12)]
    image = Image.new("RGB", PICTURE, (74, 78, 84))
    draw = ImageDraw.Draw(image)
    draw.polygon(tray, fill=(38, 40, 44), outline=(150, 154, 160))
    draw.polygon(card, fill=(196, 208, 214))
    out = io.BytesIO()
    image.save(out, "PNG")
    return out.getvalue(), tray, card
