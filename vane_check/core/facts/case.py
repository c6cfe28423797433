"""The case: the label, how it came in, the readings that stand, the house's rules, and what follows from them by time."""

from dataclasses import dataclass

from ..house.equipment import replaced
from ..house.rules import HouseRules
from ..readings.check import Check, standing_of
from .history import in_order_of_time
from .water import WaterFacts


@dataclass(frozen=True, kw_only=True)
class Case(WaterFacts):
    """All that evidence may look at. It never changes."""

    @classmethod
    def of(cls, check: Check, rules: HouseRules) -> "Case":
        """The case of a check: corrected entries left out, the rest in order of time."""
        if check.at_hand is not None:
            rules = replaced(rules, {"steps.tools_at_hand": check.at_hand}, "the shop's book of equipment")
        standing = in_order_of_time(standing_of(check.readings))
        return cls(readings=standing, battery=check.battery, context=check.context, rules=rules)

    def until(self, count: int) -> "Case":
        """The case as it was after so many of its readings."""
        return Case(readings=self.readings[:count], battery=self.battery, context=self.context, rules=self.rules)
