"""The board: lanes and hands as they fill, and the soonest a job can go through on a lane."""

from dataclasses import dataclass, field

from .parts import ChargeJob, Lane, Placed, Rack


@dataclass
class Board:
    """Lanes and hands as they fill."""

    rack: Rack
    blocked: bytearray = field(init=False)
    used: bytearray = field(init=False)
    taken: dict[Lane, list[tuple[int, int]]] = field(init=False)
    last_of_day: list[int] = field(init=False)
    first_end: dict[Lane, int] = field(init=False)
    """The soonest tick at which a lane is free at all."""

    def __post_init__(self) -> None:
        self.blocked = bytearray(self.rack.closed)
        self.used = bytearray(len(self.rack.closed))
        self.taken = {lane: [] for lane in self.rack.lanes}
        self.last_of_day = _closing(self.rack.closed)
        self.first_end = dict.fromkeys(self.rack.lanes, 0)
        for rested in sorted(self.rack.rests):
            test = self.hand(rested, self.rack.test)
            if test is not None:
                self.take_hand(test, self.rack.test)

    def copy(self) -> "Board":
        """The same board, to be filled another way."""
        other = object.__new__(Board)
        other.rack, other.last_of_day = self.rack, self.last_of_day
        other.blocked, other.used = self.blocked[:], self.used[:]
        other.taken = {lane: stays[:] for lane, stays in self.taken.items()}
        other.first_end = self.first_end.copy()
        return other

    def hand(self, earliest: int, ticks: int) -> int | None:
        """The first tick from then on at which a hand is free for so long."""
        result = self.blocked.find(bytes(ticks), max(earliest, 0))
        return None if result < 0 else result

    def take_hand(self, start: int, ticks: int) -> None:
        """One hand is busy for so long."""
        for tick in range(start, start + ticks):
            self.used[tick] += 1
            if self.used[tick] >= self.rack.hands:
                self.blocked[tick] = 1

    def place(self, job: ChargeJob, lane: Lane, ticks: int, earliest: int) -> Placed | None:
        """The soonest a job can go through on a lane; None where it cannot in the days planned."""
        rack, stays, free = self.rack, self.taken[lane], self.blocked.find
        connect, hands_on = rack.connect, bytes(rack.connect)
        on = max(earliest, self.first_end[lane], 0)
        while True:
            on = free(hands_on, on)
            if on < 0 or on >= rack.days_ticks:
                return None
            ends = on + connect + ticks
            off = free(hands_on, ends)
            if off < 0:
                return None
            done = off + connect
            if not lane.night and done > self.last_of_day[on]:
                on = self.last_of_day[on]  # it would run while nobody is in: not before the shop opens again
                continue
            for start, end in stays:
                if on < end and start < done:
                    on = end
                    break
            else:
                rested = done + job.rest
                test = free(bytes(rack.test), rested)
                if test < 0:
                    return None
                return Placed(
                    job.tag, lane, on, on + connect, ends, off, rested, test + rack.test, job.promised, False, False
                )

    def keep(self, placed: Placed) -> None:
        """It stands there: its lane and its hands are taken."""
        rack = self.rack
        done = placed.off + rack.connect
        self.taken[placed.lane].append((placed.on, done))
        if placed.on <= self.first_end[placed.lane] + rack.connect:
            self.first_end[placed.lane] = max(self.first_end[placed.lane], done)
        if not placed.begun:
            self.take_hand(placed.on, rack.connect)
        self.take_hand(placed.off, rack.connect)
        self.take_hand(placed.ready - rack.test, rack.test)


def _closing(closed: bytes) -> list[int]:
    """For each tick, when the shop next closes; itself where it is closed."""
    ends, last = [0] * len(closed), len(closed)
    for tick in range(len(closed) - 1, -1, -1):
        if closed[tick]:
            last = tick
        ends[tick] = last
    return ends
