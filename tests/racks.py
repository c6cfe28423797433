"""Racks for tests: a shop open by day, chargers, batteries that need hours; and a validator that knows nothing of the planner."""

from collections.abc import Sequence
from datetime import UTC, date, datetime, timedelta
from itertools import combinations
from typing import Any
from zoneinfo import ZoneInfo

from tests.build import check, volts
from vane_check.core.charging.rack import (
    Begun,
    ChargeJob,
    Lane,
    OpeningHours,
    Pin,
    Placed,
    Rack,
    open_spans,
    planned,
    suits,
)
from vane_check.core.charging.rack.house import job_of, rack_of, soon_minutes, tick_at
from vane_check.core.facts.case import Case
from vane_check.core.findings.kinds import StepKey
from vane_check.core.house.equipment import Charger, Equipment, Meter, due_on
from vane_check.core.house.rules import HouseRules

MONDAY = datetime(2026, 3, 2, 9, 0, tzinfo=UTC)
WEEK: dict[str, Any] = {"days": [{"opens": "08:00", "closes": "18:00"}] * 6 + [None]}
MODES = [
    {"name": "wet", "volts": 14.7, "chemistries": ["flooded", "calcium", "hybrid", "efb"]},
    {"name": "mat", "volts": 14.6, "chemistries": ["agm"]},
]


def charger(amps: float, **more: Any) -> Charger:
    return Charger.model_validate({"amps": amps, "modes": MODES, **more})


def by_day(ticks_open: int = 120, ticks_closed: int = 168, days: int = 4) -> bytes:
    """Open from now on for so many ticks of five minutes, then closed, and so on."""
    return (b"\0" * ticks_open + b"\1" * ticks_closed) * days


def rack(lanes: Sequence[Lane], **more: Any) -> Rack:
    """Ten hours open, fourteen closed; one hand, five minutes a clamp, fifteen a test, two days ahead."""
    return Rack(
        **{
            "lanes": tuple(lanes), "closed": by_day(), "hands": 1, "connect": 1, "test": 3, "days_ticks": 576, "move_ticks": 6.0,
            **more,
        }
    )  # fmt: skip


def job(tag: int, charge: dict[int, int], rest: int = 24, weight: float = 1.0, **more: Any) -> ChargeJob:
    return ChargeJob(tag=tag, charge=charge, rest=rest, weight=weight, **more)


def rack_figures(rules: HouseRules) -> list[Any]:
    """What a small busy rack comes to under some rules, and when a meter's check falls due."""
    chargers = {1: charger(10), 2: charger(25, limits_itself=False), 3: charger(5)}
    spans = open_spans(OpeningHours.model_validate(WEEK), ZoneInfo("UTC"), MONDAY, MONDAY + timedelta(days=6))
    end = MONDAY + timedelta(days=rules.rack.days.value + 2)
    built = rack_of(chargers, spans, MONDAY, end, [MONDAY + timedelta(minutes=20)], rules)
    case = Case.of(check(volts(11.9), capacity_ah_20h=60), rules)
    fits = {number: suits(case, StepKey.CHARGE_AND_RETEST, one, 20.0) for number, one in chargers.items()}
    priorities = ("stock", "ordinary", "warranty", "waiting", "promised", "ordinary", "ordinary", "ordinary")
    jobs = [
        job_of(
            tag,
            fits,
            priority,
            tick_at(MONDAY + timedelta(hours=26), MONDAY) if priority == "promised" else None,
            rules,
        )
        for tag, priority in enumerate(priorities)
    ]
    placed, unplaced, _ = planned(built, jobs, tries=20)
    elsewhere = [one._replace(lane=built.lanes[-1]) for one in placed]
    again, *_ = planned(built, jobs, elsewhere, tries=20)
    meter = Equipment(name="m", tool=Meter(percent=1, digits=2, resolution_volts=0.01), checked_on=date(2026, 1, 1))
    return [placed, unplaced, again, soon_minutes(rules), due_on(meter, rules)]


def faults(built: Rack, jobs: Sequence[ChargeJob], placed: Sequence[Placed]) -> list[str]:
    """Everything that is wrong with a plan, found by counting minutes; it shares no line with what made it."""
    said: list[str] = []
    asked = {one.tag: one for one in jobs}
    hands: dict[int, int] = {}

    def touch(tag: int, start: int, ticks: int, what: str) -> None:
        for tick in range(start, start + ticks):
            hands[tick] = hands.get(tick, 0) + 1
            if tick >= len(built.closed) or built.closed[tick]:
                said.append(f"{tag}: {what} at {tick} while nobody is in")

    if len({one.tag for one in placed}) != len(placed):
        said.append("a battery stands twice")
    for one in placed:
        wanted = asked[one.tag]
        if wanted.begun is None:
            touch(one.tag, one.on, built.connect, "on")
            said += _of_new(built, wanted, one)
        elif one.lane != wanted.begun.lane:
            said.append(f"{one.tag}: moved although it hangs")
        touch(one.tag, one.off, built.connect, "off")
        touch(one.tag, one.ready - built.test, built.test, "test")
        if one.off < one.ends:
            said.append(f"{one.tag}: taken off before it is done")
        if one.ready - built.test < one.off + built.connect + wanted.rest:
            said.append(f"{one.tag}: tested before it has rested")
    for first, second in combinations(placed, 2):
        apart = first.on >= second.off + built.connect or second.on >= first.off + built.connect
        if first.lane == second.lane and not apart:
            said.append(f"{first.tag} and {second.tag} hang on one output at once")
    return said + [f"{count} hands at {tick}" for tick, count in hands.items() if count > built.hands]


def _of_new(built: Rack, wanted: ChargeJob, one: Placed) -> list[str]:
    said = []
    if one.starts != one.on + built.connect or one.ends != one.starts + wanted.charge.get(one.lane.charger, -1):
        said.append(f"{one.tag}: its charge is not as long as it should be")
    if one.on < wanted.release or one.on >= built.days_ticks:
        said.append(f"{one.tag}: begins out of the days planned")
    if not one.lane.night and any(built.closed[one.on : one.off + built.connect]):
        said.append(f"{one.tag}: runs on a charger that does not limit itself while nobody is in")
    if one.pinned and (wanted.pin is None or one.lane != wanted.pin.lane or one.on < (wanted.pin.start or 0)):
        said.append(f"{one.tag}: is not where it was set")
    return said


__all__ = ["MONDAY", "WEEK", "Begun", "Lane", "Pin", "by_day", "charger", "faults", "job", "rack", "rack_figures"]
