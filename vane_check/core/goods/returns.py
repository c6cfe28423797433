"""Until when a sale may come back, and which papers show what somebody said otherwise of a battery."""

from datetime import date, timedelta

from ..house.rules import HouseRules
from .terms import Terms


def return_until(sold_on: date, terms: Terms | None, rules: HouseRules) -> date:
    """The last day a sale may be returned on: its terms' own days, else the shop's."""
    own = terms.return_days if terms else None
    return sold_on + timedelta(days=int(rules.stock.return_days.value) if own is None else own)


def papers_with_own_call(rules: HouseRules) -> frozenset[str]:
    """Papers that show an own call beside the judgement: `claim`, `slip`, both or none."""
    return frozenset(rules.decision.own_call_shown_on.value)
