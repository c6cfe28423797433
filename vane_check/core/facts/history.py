"""History: the readings that stand, in order of time, by kind. It knows no rule and no evidence."""

from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime
from itertools import pairwise
from operator import attrgetter, itemgetter
from typing import Any, TypeVar

from ..readings import (
    WITH_TEMPERATURE,
    AdjustableLoad,
    AnyReading,
    ChargeRun,
    Crank,
    ElectronicTester,
    FixedLoad,
    Look,
    Reserve,
    RestVolts,
    Stand,
)
from .remembered import derived

Read = TypeVar("Read", bound=AnyReading)


@dataclass(frozen=True, kw_only=True)
class History:
    """Readings that stand, the oldest first."""

    readings: tuple[AnyReading, ...]
    answers: dict[Any, Any] = field(default_factory=dict, init=False, compare=False, repr=False)
    """What was worked out of it, by question (`remembered`)."""

    @derived
    def own(self) -> frozenset[int]:
        """Which objects its readings are: what is remembered of one of them stays with it as long as the history does."""
        return frozenset(map(id, (*self.readings, *self.tester_volts, *self.stand_ends)))

    @derived
    def by_type(self) -> dict[type, tuple[AnyReading, ...]]:
        """The readings by what they are, each in order of time."""
        result: dict[type, list[AnyReading]] = {}
        for reading in self.readings:
            result.setdefault(type(reading), []).append(reading)
        return {kind: tuple(readings) for kind, readings in result.items()}

    def all_of(self, kind: type[Read]) -> tuple[Read, ...]:
        """Every reading of one kind, the oldest first."""
        return self.by_type.get(kind, ())  # type: ignore[return-value]

    def last_of(self, kind: type[Read]) -> Read | None:
        """The last reading of one kind."""
        result = self.all_of(kind)
        return result[-1] if result else None

    @derived
    def looks(self) -> tuple[Look, ...]:
        """Every look, the oldest first."""
        return self.all_of(Look)

    def look_at(self, reading: AnyReading) -> Look | None:
        """The look that says how it was when this was read: the last one before, else the first one after."""
        return last_until(self.looks, reading.taken_at) or (self.looks[0] if self.looks else None)

    def look_into(self, reading: AnyReading) -> Look | None:
        """The look into its cells that says how the acid stood when this was read: the last one before, else the first one after."""
        inside = self._looks_inside
        return last_until(inside, reading.taken_at) or (inside[0] if inside else None)

    @derived
    def _looks_inside(self) -> tuple[Look, ...]:
        return tuple(look for look in self.looks if look.levels)

    @derived
    def pulls(self) -> tuple[AdjustableLoad | FixedLoad, ...]:
        """Every pull with a resistive load, the oldest first."""
        both: list[AdjustableLoad | FixedLoad] = [*self.all_of(AdjustableLoad), *self.all_of(FixedLoad)]
        return tuple(sorted(both, key=attrgetter("taken_at")))

    @derived
    def loads(self) -> tuple[AdjustableLoad | FixedLoad | Crank, ...]:
        """Everything that put a load on it, the oldest first."""
        return tuple(sorted((*self.pulls, *self.all_of(Crank)), key=attrgetter("taken_at")))

    @derived
    def tester_volts(self) -> tuple[RestVolts, ...]:
        """What testers showed as the battery's volts, as rest volts."""
        return tuple(
            RestVolts(taken_at=reading.taken_at, volts=reading.volts)
            for reading in self.all_of(ElectronicTester)
            if reading.volts is not None
        )

    @derived
    def stand_ends(self) -> tuple[RestVolts, ...]:
        """What stands ended at, as rest volts with the hours that were counted."""
        return tuple(
            RestVolts(taken_at=stand.taken_at, volts=stand.volts, rested_hours=stand.hours)
            for stand in self.all_of(Stand)
        )

    @derived
    def _temperatures(self) -> tuple[tuple[datetime, float], ...]:
        """When its temperature was taken, and what it was [C], the oldest first."""
        return tuple(
            (reading.taken_at, float(taken))
            for reading in self.readings
            if type(reading) in WITH_TEMPERATURE and (taken := getattr(reading, "temperature_c")) is not None  # noqa: B009
        )

    @property
    def temperature_c(self) -> float | None:
        """The battery's temperature last taken [C]."""
        return self._temperatures[-1][1] if self._temperatures else None

    def temperature_at(self, reading: AnyReading) -> float | None:
        """The battery's temperature when this was read [C]: as taken with it, else the last one before, else the first one after."""
        own: float | None = getattr(reading, "temperature_c", None)
        if own is not None or not self._temperatures:
            return own
        before = bisect_right(self._temperatures, reading.taken_at, key=itemgetter(0))
        return self._temperatures[max(before - 1, 0)][1]

    @derived
    def _charges_off(self) -> tuple[datetime, ...]:
        """When charges were taken off, full or not, the oldest first."""
        return tuple(run.taken_at for run in self.all_of(ChargeRun) if run.finished)

    @property
    def charge_off_at(self) -> datetime | None:
        """When a charge was last taken off, full or not."""
        return self._charges_off[-1] if self._charges_off else None

    def charges_off_before(self, reading: AnyReading) -> int:
        """How many charges, full or not, were taken off before this was read."""
        return bisect_right(self._charges_off, reading.taken_at)

    @derived
    def _emptied_at(self) -> tuple[datetime, ...]:
        """When timed discharges ended, the oldest first: each leaves it flat."""
        return tuple(run.taken_at for run in self.all_of(Reserve))

    def emptied_before(self, reading: AnyReading) -> int:
        """How many timed discharges had ended before this was read."""
        return bisect_left(self._emptied_at, reading.taken_at)

    def runs_of_charge(self, run: ChargeRun) -> Sequence[ChargeRun]:
        """What was seen of the same charge, the oldest first."""
        return self._runs_by_charge[self.charges_off_before(run) - run.finished]

    @derived
    def _runs_by_charge(self) -> dict[int, list[ChargeRun]]:
        result: dict[int, list[ChargeRun]] = {}
        for run in self.all_of(ChargeRun):
            result.setdefault(self.charges_off_before(run) - run.finished, []).append(run)
        return result


def last_until(readings: Sequence[Read], moment: datetime) -> Read | None:
    """The last of readings in order of time that was taken until then."""
    place = bisect_right(readings, moment, key=attrgetter("taken_at"))
    return readings[place - 1] if place else None


def last_before(readings: Sequence[Read], moment: datetime) -> Read | None:
    """The last of readings in order of time that was taken before then."""
    place = bisect_left(readings, moment, key=attrgetter("taken_at"))
    return readings[place - 1] if place else None


def in_order_of_time(readings: Sequence[AnyReading]) -> tuple[AnyReading, ...]:
    """The readings, the oldest first; those of the same instant by what they say, so that the order they are listed in changes nothing."""
    ordered = sorted(readings, key=attrgetter("taken_at", "kind"))
    if any(one.taken_at == other.taken_at and one.kind == other.kind for one, other in pairwise(ordered)):
        ordered.sort(key=_by_time)
    return tuple(ordered)


def _by_time(reading: AnyReading) -> tuple[datetime, str, str]:
    return (
        reading.taken_at,
        reading.kind,
        reading.model_dump_json(exclude={"id", "taken_at", "taken_by", "replaces"}),
    )
