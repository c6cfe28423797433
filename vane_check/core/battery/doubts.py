"""A label that may have been misread: the figure, its scale, its Ah and its case held against one another."""

from typing import NamedTuple

from ..tables import entry_limits, footprints, scale_definitions
from ..units.compare import RATIO, over, under
from .label import Battery, RatingScale

CUBIC_MM_PER_LITRE = 1_000_000


class Doubt(NamedTuple):
    """A question about one field of the label."""

    path: str
    question: str


def label_doubts(battery: Battery) -> list[Doubt]:
    """What one would ask again before writing a label down; empty when the figures go together.

    Limits: tables/entry-limits.csv (`cca_per_ah`, `cca_per_litre`).
    """
    rating = battery.rating
    if rating is None:
        return []
    limits, cca = entry_limits(), rating.cca_amps
    words = f"{rating.amps:.0f} {rating.scale.value}"
    about = "" if rating.scale is RatingScale.CCA else f", about {cca:.0f} CCA,"
    size = footprints().get(battery.group_code or "")
    if size is not None:
        litres = size.length_mm * size.width_mm * size.height_mm / CUBIC_MM_PER_LITRE
        most = limits["cca_per_litre"].high * litres
        if over(cca / litres, limits["cca_per_litre"].high, RATIO):
            return [
                Doubt(
                    "battery.rating.amps",
                    f"{words}{about} is more than a case of group {size.code} gives (at most about {most:.0f} CCA): {_ask_scale(rating.scale)}",
                )
            ]
    if battery.capacity_ah_20h is not None:
        share = cca / battery.capacity_ah_20h
        if over(share, limits["cca_per_ah"].high, RATIO) or under(share, limits["cca_per_ah"].low, RATIO):
            return [
                Doubt(
                    "battery.rating.amps",
                    f"{words}{about} and {battery.capacity_ah_20h:g} Ah do not go together: {_ask_scale(rating.scale)}, or look at the Ah",
                )
            ]
    return []


def _ask_scale(scale: RatingScale) -> str:
    low = scale_definitions()[scale.value].amps_per_sae_cca_amp < 1
    return "is it EN or CCA? Look at the label again" if low else "look at the label again, and at its scale"
