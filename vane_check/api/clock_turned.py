"""Whether this machine's clock was turned since the start: dates of evidence and of warranties go by it."""

import time
from dataclasses import dataclass, field

STEADY = getattr(time, "CLOCK_BOOTTIME", time.CLOCK_MONOTONIC)
"""A clock that nobody turns, and that goes on while the machine sleeps where there is one."""
TURNED_SECONDS = 3600.0
"""Less is a clock that is set right by the network, or a machine that slept."""


@dataclass
class Turned:
    """The clock beside one that nobody can turn."""

    wall: float = field(default_factory=time.time)
    steady: float = field(default_factory=lambda: time.clock_gettime(STEADY))

    def by_hours(self) -> float:
        """How far the clock was turned [h]; 0 where it runs as time does. Time in which the machine slept is no turning."""
        went = time.clock_gettime(STEADY) - self.steady
        off = time.time() - self.wall - went
        return 0.0 if abs(off) < TURNED_SECONDS else off / 3600
