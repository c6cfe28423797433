"""What a customer gets for the difference, in two plain sentences that can be turned to them."""

from pydantic import BaseModel, ConfigDict

from ..house.rules import HouseRules
from ..units.compare import AMPS, over
from ..words import Figure, Words, fixed, in_a_row, say
from .requirement import Candidate


class Upgrade(BaseModel):
    """The dearer one beside the one that is asked for: the difference in money [cents], and two sentences."""

    model_config = ConfigDict(frozen=True)

    item_id: int
    than_id: int
    more_cents: int
    sentences: tuple[Words, ...]


def upgrade(base: Candidate, dearer: Candidate, rules: HouseRules) -> Upgrade | None:
    """What the dearer one gives more; None where it gives nothing more."""
    more: list[Words] = []
    if over(dearer.cca_amps, base.cca_amps, AMPS):
        more.append(say("upgrade.a_more_to_start_with_in_the_cold", cca_amps=fixed(dearer.cca_amps - base.cca_amps, 0)))
    if dearer.capacity_ah_20h and base.capacity_ah_20h and dearer.capacity_ah_20h > base.capacity_ah_20h:
        share = (dearer.capacity_ah_20h / base.capacity_ah_20h - 1) * 100
        more.append(say("upgrade.about_more_in_reserve_when_the_engine_is", share=fixed(share, 0)))
    starts = rules.outlook.usual_starts.value
    lasts, lasted = starts[dearer.chemistry.value], starts[base.chemistry.value]
    longer = lasts > lasted
    if not more and not longer:
        return None
    first = (
        say("upgrade.this_one_gives", more=in_a_row(more, "common.and"))
        if more
        else say("upgrade.both_start_the_car_just_as_well")
    )
    if longer:
        second = say(
            "upgrade.it_is_built_for_about_starts_where_the",
            starts=Figure(f"{lasts:,.0f}"),
            other_starts=Figure(f"{lasted:,.0f}"),
        )
    else:
        second = say("upgrade.it_is_built_the_same_way_and_lasts_about")
    return Upgrade(
        item_id=dearer.item_id, than_id=base.item_id, more_cents=dearer.price_cents - base.price_cents,
        sentences=(first, second),
    )  # fmt: skip


def upgrades(fitting: list[Candidate], rules: HouseRules, at_most: int) -> list[Upgrade]:
    """Of what fits, the dearer ones against the cheapest in stock, the nearest in price first."""
    if not fitting:
        return []
    base = min(fitting, key=lambda candidate: (not candidate.in_stock, candidate.price_cents))
    result = [
        better
        for dearer in sorted(fitting, key=lambda other: other.price_cents)
        if dearer.price_cents > base.price_cents and (better := upgrade(base, dearer, rules)) is not None
    ]
    return result[:at_most]
