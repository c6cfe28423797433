"""What a customer gets for the difference, in two plain sentences that can be turned to them."""

from pydantic import BaseModel, ConfigDict

from ..house.rules import HouseRules
from ..units.compare import AMPS, over
from .requirement import Candidate


class Upgrade(BaseModel):
    """The dearer one beside the one that is asked for: the difference in money [cents], and two sentences."""

    model_config = ConfigDict(frozen=True)

    item_id: int
    than_id: int
    more_cents: int
    sentences: tuple[str, ...]


def upgrade(base: Candidate, dearer: Candidate, rules: HouseRules) -> Upgrade | None:
    """What the dearer one gives more; None where it gives nothing more."""
    more: list[str] = []
    if over(dearer.cca_amps, base.cca_amps, AMPS):
        more.append(f"{dearer.cca_amps - base.cca_amps:.0f} A more to start with in the cold")
    if dearer.capacity_ah_20h and base.capacity_ah_20h and dearer.capacity_ah_20h > base.capacity_ah_20h:
        share = (dearer.capacity_ah_20h / base.capacity_ah_20h - 1) * 100
        more.append(f"about {share:.0f} % more in reserve when the engine is off")
    starts = rules.outlook.usual_starts.value
    lasts, lasted = starts[dearer.chemistry.value], starts[base.chemistry.value]
    longer = lasts > lasted
    if not more and not longer:
        return None
    first = f"This one gives {' and '.join(more)}." if more else "Both start the car just as well."
    if longer:
        second = (
            f"It is built for about {lasts:,.0f} starts where the other is built for {lasted:,.0f}, which is what "
            "stopping and starting at every light takes."
        )
    else:
        second = "It is built the same way and lasts about as long, so it is worth it where the winters or the loads are hard."
    return Upgrade(
        item_id=dearer.item_id, than_id=base.item_id, more_cents=dearer.price_cents - base.price_cents,
        sentences=(first, second),
    )  # fmt: skip


def upgrades(fitting: list[Candidate], rules: HouseRules, at_most: int) -> list[Upgrade]:
    """Of what fits, the dearer ones against the cheapest in stock, the nearest in price first."""
    if not fitting:
        return []
    base = min(fitting, key=lambda one: (not one.in_stock, one.price_cents))
    result = [
        one
        for dearer in sorted(fitting, key=lambda other: other.price_cents)
        if dearer.price_cents > base.price_cents and (one := upgrade(base, dearer, rules)) is not None
    ]
    return result[:at_most]
