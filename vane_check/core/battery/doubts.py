"""A label that may have been misread: the figure, its scale, its Ah and its case held against one another."""

from typing import NamedTuple

from ..tables import entry_limits, footprints, scale_definitions
from ..units.compare import RATIO, over, under
from ..words import NOTHING, Words, digits, fixed, say
from .label import Battery, RatingScale

CUBIC_MM_PER_LITRE = 1_000_000


class Doubt(NamedTuple):
    """A question about one field of the label."""

    path: str
    question: Words


def label_doubts(battery: Battery) -> list[Doubt]:
    """What one would ask again before writing a label down; empty when the figures go together.

    Limits: tables/entry-limits.csv (`cca_per_ah`, `cca_per_litre`).
    """
    rating = battery.rating
    if rating is None:
        return []
    limits, cca = entry_limits(), rating.cca_amps
    words = say("figures.amps_scale", amps=fixed(rating.amps, 0), scale=rating.scale.value)
    about = NOTHING if rating.scale is RatingScale.CCA else say("doubts.about_cca", cca=fixed(cca, 0))
    size = footprints().get(battery.group_code or "")
    if size is not None:
        litres = size.length_mm * size.width_mm * size.height_mm / CUBIC_MM_PER_LITRE
        most = limits["cca_per_litre"].high * litres
        if over(cca / litres, limits["cca_per_litre"].high, RATIO):
            return [
                Doubt(
                    "battery.rating.amps",
                    say(
                        "doubts.is_more_than_a_case_of_group_gives_at_most",
                        words=words,
                        about=about,
                        code=size.code,
                        most=fixed(most, 0),
                        ask_scale=_ask_scale(rating.scale),
                    ),
                )
            ]
    if battery.capacity_ah_20h is not None:
        share = cca / battery.capacity_ah_20h
        if over(share, limits["cca_per_ah"].high, RATIO) or under(share, limits["cca_per_ah"].low, RATIO):
            return [
                Doubt(
                    "battery.rating.amps",
                    say(
                        "doubts.and_ah_do_not_go_together_or_look_at_the",
                        words=words,
                        about=about,
                        capacity_ah_20h=digits(battery.capacity_ah_20h),
                        ask_scale=_ask_scale(rating.scale),
                    ),
                )
            ]
    return []


def _ask_scale(scale: RatingScale) -> Words:
    low = scale_definitions()[scale.value].amps_per_sae_cca_amp < 1
    return (
        say("doubts.is_it_en_or_cca_look_at_the_label_again")
        if low
        else say("doubts.look_at_the_label_again_and_at_its_scale")
    )
