"""The figure a battery is held against: from its label on any scale, borrowed, or estimated from Ah, with its spread."""

from typing import NamedTuple

from ..battery.label import Battery, Context, RatingSource
from ..house.rules import HouseRules
from ..tables import footprints
from ..words import NOTHING, Words, digits, fixed, say, word
from .state_of_charge import volts_scale


class RatedCca(NamedTuple):
    """Rated SAE CCA [A] with how far it may be off (relative) and whether it is more than the label's own word."""

    amps: float
    relative_spread: float
    firm: bool
    words: Words


def rated_cca(battery: Battery, rules: HouseRules) -> RatedCca | None:
    """The rating as SAE CCA. A borrowed or estimated one is not firm: nothing is condemned by it alone.

    >>> from ..house.rules import house_rules
    >>> rated_cca(Battery(capacity_ah_20h=70), house_rules()).amps
    665.0
    """
    rating = battery.rating
    if rating is not None:
        borrowed = battery.rating_source is not RatingSource.LABEL
        width = (
            rules.estimate.borrowed_spread_ratio
            if battery.rating_source is not RatingSource.ASSUMED
            else rules.estimate.spread_ratio
        )
        spread = rating.relative_spread + (width.value if borrowed else 0.0)
        words = say("figures.amps_scale", amps=fixed(rating.amps, 0), scale=rating.scale.value) + (
            NOTHING
            if not borrowed
            else say("rating.assumed")
            if battery.rating_source is RatingSource.ASSUMED
            else say("rating.from_the", rating_source=word(battery.rating_source.value))
        )
        return RatedCca(rating.cca_amps, spread, not borrowed, words)
    if battery.capacity_ah_20h is not None:
        amps = battery.capacity_ah_20h * rules.estimate.cca_per_ah.value
        return RatedCca(
            amps,
            rules.estimate.spread_ratio.value,
            False,
            say("rating.about_cca_estimated_from_ah", amps=fixed(amps, 0)),
        )
    return None


def asked_by_its_car(context: Context, rules: HouseRules) -> RatedCca | None:
    """What its car asks, where nothing on the battery can be read: never firm. None where the car is not known either."""
    if context.car_cca_amps is not None:
        spread = rules.estimate.borrowed_spread_ratio.value
        return RatedCca(
            context.car_cca_amps,
            spread,
            False,
            say("rating.cca_that_its_car_asks_for", car_cca_amps=fixed(context.car_cca_amps, 0)),
        )
    if context.engine_litres is not None:
        amps = context.engine_litres * rules.match.need_cca_per_litre.value[context.engine_fuel]
        spread = rules.estimate.spread_ratio.value
        return RatedCca(
            amps,
            spread,
            False,
            say(
                "rating.about_cca_for_its_litre_engine",
                amps=fixed(amps, 0),
                engine_litres=digits(context.engine_litres),
            ),
        )
    return None


def by_its_case(battery: Battery, rules: HouseRules) -> RatedCca | None:
    """What a case of its size usually holds and gives, where nothing else tells: never firm. None where nobody knows its size.

    Source: the house's `estimate.ah_per_litre` and `estimate.cca_per_ah`; tables/group-sizes.csv.
    """
    size = footprints().get(battery.group_code or "")
    if size is None:
        return None
    litres = size.length_mm * size.width_mm * size.height_mm / CUBIC_MM_A_LITRE
    capacity_ah = litres * rules.estimate.ah_per_litre.value / volts_scale(battery.nominal_volts)
    amps = capacity_ah * rules.estimate.cca_per_ah.value
    spread = rules.estimate.size_spread_ratio.value
    return RatedCca(
        amps,
        spread,
        False,
        say("rating.about_cca_by_the_size_of_its_case", amps=fixed(amps, 0)),
    )


CUBIC_MM_A_LITRE = 1e6
