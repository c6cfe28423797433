"""What a plan of the rack is made of: lanes, jobs, places. Time is counted in ticks of five minutes from now on."""

from collections.abc import Mapping
from typing import NamedTuple

from ...words import Words

TICK_MINUTES = 5


class Lane(NamedTuple):
    """One output of a charger."""

    charger: int
    output: int
    night: bool
    """It may run while nobody is in."""


class Begun(NamedTuple):
    """It hangs on a lane already and is done at that tick (0: now)."""

    lane: Lane
    ends: int


class Pin(NamedTuple):
    """Somebody put it on this lane, from this tick on at the earliest; None is as soon as may be."""

    lane: Lane
    start: int | None


class ChargeJob(NamedTuple):
    """A battery: ticks of charge on each charger it suits, of rest and of its test, what it weighs, when it was promised."""

    tag: int
    charge: Mapping[int, int]
    rest: int
    weight: float
    promised: int | None = None
    release: int = 0
    begun: Begun | None = None
    pin: Pin | None = None


class Rack(NamedTuple):
    """The rack and its people: lanes, ticks with the shop closed (1) or open (0), hands, ticks of clamping and of a test."""

    lanes: tuple[Lane, ...]
    closed: bytes
    hands: int
    connect: int
    test: int
    days_ticks: int
    """How far ahead a charge may begin."""
    move_ticks: float
    """What a change of charger must save."""
    rests: tuple[int, ...] = ()
    """When batteries that only rest may be tested: each takes a hand then."""


class Placed(NamedTuple):
    """Where a battery stands when: clamped on, charging from and to, taken off, rested, ready (tested). Ticks."""

    tag: int
    lane: Lane
    on: int
    starts: int
    ends: int
    off: int
    rested: int
    ready: int
    promised: int | None
    pinned: bool
    begun: bool

    @property
    def late(self) -> int:
        """Ticks behind its promise."""
        return 0 if self.promised is None else max(self.ready - self.promised, 0)


class Unplaced(NamedTuple):
    """A battery that finds no place, and why."""

    tag: int
    why: Words


class Cost(NamedTuple):
    """What a plan costs, the first figure first: promises broken and by how much, each by its weight; then waiting."""

    broken: float
    late: float
    waiting: float
