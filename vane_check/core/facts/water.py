"""Water: plates that stood bare, and what was filled in."""

from dataclasses import dataclass
from datetime import datetime
from itertools import pairwise

from ..readings import Eye, Level, Look
from .acid import AcidFacts
from .remembered import derived


@dataclass(frozen=True, kw_only=True)
class WaterFacts(AcidFacts):
    """Whether acid covers its plates, and did."""

    @derived
    def was_dry(self) -> bool:
        """Whether plates were bare at any look of this check."""
        return any(Level.PLATES_BARE in look.levels for look in self.looks)

    @derived
    def filled_at(self) -> datetime | None:
        """When plates that stood bare were last seen covered; None where they never were bare, or are bare still."""
        at = None
        for earlier, look in pairwise(self.looks):
            if Level.PLATES_BARE in look.levels:
                at = None
            elif Level.PLATES_BARE in earlier.levels and look.levels:
                at = look.taken_at
        return at

    @derived
    def is_bare(self) -> bool:
        """Whether plates stand bare now: at the last look into the cells."""
        seen = next((look for look in reversed(self.looks) if look.levels), None)
        return seen is not None and Level.PLATES_BARE in seen.levels

    @derived
    def is_fresh_filling(self) -> bool:
        """Whether it was filled from dry and not charged since: whatever it reads then says nothing."""
        at, off = self.filled_at, self.charge_off_at
        return at is not None and (off is None or off < at)

    def is_thirsty(self, look: Look) -> bool:
        """Whether a look found too little acid in a battery that can be opened."""
        if self.sealed:
            return False
        low = any(level in {Level.PLATES_BARE, Level.LOW} for level in look.levels)
        return low or (look.eye is Eye.CLEAR and self.battery.has_caps is True and not look.levels)

    def is_dry(self, look: Look) -> bool:
        """Whether plates stood bare, or a clear eye says so where there are caps."""
        bare = Level.PLATES_BARE in look.levels
        return self.is_thirsty(look) and (bare or not look.levels)

    def eye_cannot_be_helped(self, look: Look) -> bool:
        """Whether the eye is clear and no water can be added: sealed, or nobody knows of caps."""
        return look.eye is Eye.CLEAR and not look.levels and (self.sealed or not self.battery.has_caps)
