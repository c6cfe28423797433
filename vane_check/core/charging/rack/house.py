"""The rack as this house runs it: its lanes and hands from the book and the rules, a job for each battery."""

import math
from collections.abc import Mapping, Sequence
from datetime import datetime

from ...house.equipment import Charger
from ...house.rules import HouseRules
from .parts import TICK_MINUTES, Begun, ChargeJob, Lane, Pin, Rack
from .suits import Suits


def ticks_of(hours: float) -> int:
    """Whole ticks of so many hours, at least one.

    >>> ticks_of(1), ticks_of(0.01)
    (12, 1)
    """
    return max(math.ceil(round(hours * 60 / TICK_MINUTES, 6)), 1)


def tick_at(moment: datetime, start: datetime) -> int:
    """The tick a moment lies in, counted from the start."""
    return math.floor((moment - start).total_seconds() / 60 / TICK_MINUTES)


def tick_after(moment: datetime, start: datetime) -> int:
    """The first tick that begins at a moment or after it."""
    return math.ceil((moment - start).total_seconds() / 60 / TICK_MINUTES)


def rest_hours(rules: HouseRules) -> float:
    """Hours [h] between a charge and its test, by the house's school of resting."""
    return rules.rack.rest_hours.value[rules.rest.school.value]


def runs_at_night(charger: Charger, rules: HouseRules) -> bool:
    """Whether a charger runs while nobody is in: it limits itself, and the house leaves such a one on."""
    return charger.limits_itself and rules.rack.night_run.value == "limiting"


def rack_of(
    chargers: Mapping[int, Charger],
    spans: Sequence[tuple[datetime, datetime]],
    start: datetime,
    end: datetime,
    rested: Sequence[datetime],
    rules: HouseRules,
) -> Rack:
    """The lanes of all chargers, the smallest first, and the hands of the house, from `start` to `end`.

    `spans` is when the shop is open, `rested` when batteries that only stand may be tested.
    """
    closed = bytearray(b"\1" * tick_at(end, start))
    for opens, closes in spans:
        first, last = tick_after(opens, start), tick_at(closes, start)
        closed[first:last] = bytes(max(last - first, 0))
    by_amps = sorted(chargers.items(), key=lambda named_charger: (named_charger[1].amps, named_charger[0]))
    return Rack(
        lanes=tuple(
            Lane(number, output, runs_at_night(charger, rules))
            for number, charger in by_amps
            for output in range(1, charger.outputs + 1)
        ),
        closed=bytes(closed),
        hands=round(rules.rack.hands.value),
        connect=ticks_of(rules.rack.connect_minutes.value / 60),
        test=ticks_of(rules.rack.test_minutes.value / 60),
        days_ticks=ticks_of(rules.rack.days.value * 24),
        move_ticks=rules.rack.move_minutes.value / TICK_MINUTES,
        rests=tuple(max(tick_after(moment, start), 0) for moment in rested),
    )


def job_of(
    tag: int,
    fits: Mapping[int, Suits],
    priority: str,
    promised: int | None,
    rules: HouseRules,
    begun: Begun | None = None,
    pin: Pin | None = None,
) -> ChargeJob:
    """A battery's job: its hours on each charger that suits it, the house's rest, its weight."""
    return ChargeJob(
        tag=tag,
        charge={
            number: ticks_of(fit.plan.hours)
            for number, fit in fits.items()
            if fit.mode is not None and fit.plan is not None
        },
        rest=ticks_of(rest_hours(rules)),
        weight=rules.rack.weights.value[priority],
        promised=promised,
        begun=begun,
        pin=pin,
    )


def soon_minutes(rules: HouseRules) -> float:
    """How far ahead [min] something counts as soon on the rack."""
    return rules.rack.soon_minutes.value
