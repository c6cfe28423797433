"""The case: the label, how it came in, the readings that stand, the house's rules, and what follows from them by time."""

from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import cached_property
from itertools import pairwise
from operator import attrgetter
from typing import TYPE_CHECKING, Literal, TypeVar

from ..battery import Battery, Context
from ..charge import meter_uncertainty_volts, recharge_line_volts, state_of_charge_range
from ..check import Check, standing_of
from ..compare import MINUTES, PERCENT, TENTH_AMP, VOLTS, at_least, over, under
from ..equipment import replaced, rules_through
from ..rated import RatedCca, asked_by_its_car, rated_cca
from ..readings import (
    WITH_TEMPERATURE,
    AdjustableLoad,
    AnyReading,
    ChargeRun,
    Crank,
    ElectronicTester,
    FixedLoad,
    Look,
    RestVolts,
    Settled,
)
from ..rules import HouseRules
from ..tables import charging_limits, entry_limits

if TYPE_CHECKING:
    from .rest_volts import Void

Kept = TypeVar("Kept", bound=AnyReading)

ChargeThen = Literal["enough", "low", "unknown"]


@dataclass(frozen=True)
class Case:
    """What a piece of evidence may look at: the label, how it came in, the readings that stand, the house's rules."""

    battery: Battery
    context: Context
    readings: tuple[AnyReading, ...]
    rules: HouseRules

    @classmethod
    def of(cls, check: Check, rules: HouseRules) -> "Case":
        """The case of a check: corrected entries left out, the rest in order of time.

        Readings of the same instant are ordered by what they say, so the order they are listed in changes nothing.
        """
        standing = standing_of(check.readings)
        standing.sort(key=attrgetter("taken_at", "kind"))
        if any(one.taken_at == other.taken_at and one.kind == other.kind for one, other in pairwise(standing)):
            standing.sort(key=_by_time)
        if check.at_hand is not None:
            rules = replaced(rules, {"tools_at_hand": check.at_hand}, "the shop's book of equipment")
        return cls(check.battery, check.context, tuple(standing), rules)

    def rules_for(self, reading: AnyReading) -> HouseRules:
        """The rules this reading is held against: the house's, with the figures of the tool it was made with."""
        if reading.tool is None or reading.tool.tool is None:
            return self.rules
        kept: dict[int, HouseRules] = self.__dict__.setdefault("_through", {})
        key = id(reading.tool)
        if key not in kept:
            kept[key] = rules_through(self.rules, reading.tool)
        return kept[key]

    @cached_property
    def own(self) -> frozenset[int]:
        """Which objects its readings are: what is kept of one of them stays with it as long as the case does."""
        return frozenset(map(id, (*self.readings, *self.tester_volts)))

    @cached_property
    def valid_rest_volts(self) -> tuple[RestVolts, ...]:
        """Rest volts that can be read as a state of charge; the tester's own where there is nothing better."""
        metered = tuple(reading for reading in self.all_of(RestVolts) if self.void(reading) is None)
        return metered or tuple(volts for volts in self.tester_volts if self.void(volts) is None)

    @cached_property
    def tester_volts(self) -> tuple[RestVolts, ...]:
        """What testers showed as the battery's volts, as rest volts."""
        return tuple(
            RestVolts(taken_at=reading.taken_at, volts=reading.volts)
            for reading in self.all_of(ElectronicTester)
            if reading.volts is not None
        )

    def void(self, reading: RestVolts) -> "Void | None":
        """Why these volts say nothing of the charge, or None."""
        from .rest_volts import why_void

        if self._is_just_off_charge(reading):
            reading = reading.model_copy(update={"settled": Settled.JUST_CHARGED})
        return why_void(reading, self.battery, self.rules, after_charge=self.charges_off_before(reading) > 0)

    def _is_just_off_charge(self, reading: RestVolts) -> bool:
        """Whether a charger came off so lately that nobody's word makes it a rest: only hours that were counted, or headlamps, do."""
        if reading.settled is not Settled.RESTED or reading.rested_hours is not None:
            return False
        # read in the moment it is clamped on, it comes before
        count = bisect_left(self._on_charge_at, reading.taken_at)
        if not count:
            return False
        minutes = (reading.taken_at - self._on_charge_at[count - 1]).total_seconds() / 60
        return under(minutes, entry_limits()["rest_by_word_minutes"].low, MINUTES)

    @property
    def off_charge_until(self) -> datetime | None:
        """Until when nobody's word alone makes a rest of it; None where no charge came off."""
        if not self._on_charge_at:
            return None
        return self._on_charge_at[-1] + timedelta(minutes=entry_limits()["rest_by_word_minutes"].low)

    @cached_property
    def _on_charge_at(self) -> tuple[datetime, ...]:
        """When somebody last saw current in it, whether it came off full, early or not yet: that leaves surface charge."""
        return tuple(run.taken_at for run in self.all_of(ChargeRun) if not self.no_current(run))

    def no_current(self, run: ChargeRun) -> bool:
        """Whether the amps were noted and are none to speak of. A maintainer shows no amps: nobody can say so of it."""
        return run.amps is not None and not over(run.amps, self.rules.no_current_amps.value, TENTH_AMP)

    @cached_property
    def rated(self) -> RatedCca | None:
        """The starting figure the battery is held against; None where its work is reserve."""
        from .reserve import works_by_reserve

        if works_by_reserve(self):
            return None
        return rated_cca(self.battery, self.rules) or asked_by_its_car(self.context, self.rules)

    @cached_property
    def temperature_c(self) -> float | None:
        """The battery's temperature last taken [C]."""
        for reading in reversed(self.readings):
            if type(reading) in WITH_TEMPERATURE and (taken := getattr(reading, "temperature_c")) is not None:  # noqa: B009
                return float(taken)
        return None

    @cached_property
    def recharge_line_volts(self) -> float:
        """The rest volts [V] below which this battery is charged before it is judged."""
        return recharge_line_volts(self.battery, self.rules)

    @cached_property
    def capacity_ah(self) -> float | None:
        """Ah at the 20 h rate [Ah]: from the label, else reckoned from the rating."""
        if self.battery.capacity_ah_20h is not None:
            return self.battery.capacity_ah_20h
        return self.rated.amps / self.rules.cca_per_ah.value if self.rated else None

    @cached_property
    def _charges_off(self) -> tuple[datetime, ...]:
        """When charges were taken off, full or not, the oldest first."""
        return tuple(run.taken_at for run in self.all_of(ChargeRun) if run.finished)

    @property
    def charge_off_at(self) -> datetime | None:
        """When a charge was last taken off, full or not."""
        return self._charges_off[-1] if self._charges_off else None

    @cached_property
    def _full_at(self) -> tuple[datetime, ...]:
        """When full charges were taken off, as far as their current or the rest volts after them say, the oldest first."""
        from .charging import full_by

        return tuple(run.taken_at for run in self.all_of(ChargeRun) if run.finished and full_by(run, self) is not None)

    @property
    def charged_at(self) -> datetime | None:
        """When the last full charge was taken off."""
        return self._full_at[-1] if self._full_at else None

    def charged_before(self, reading: AnyReading) -> bool:
        """Whether a full charge was taken off before this was read."""
        return self.charged_at is not None and self.charged_at <= reading.taken_at

    def charges_off_before(self, reading: AnyReading) -> int:
        """How many charges, full or not, were taken off before this was read."""
        return bisect_right(self._charges_off, reading.taken_at)

    @cached_property
    def by_type(self) -> dict[type, tuple[AnyReading, ...]]:
        """The readings by what they are, each in order of time."""
        found: dict[type, list[AnyReading]] = {}
        for reading in self.readings:
            found.setdefault(type(reading), []).append(reading)
        return {kind: tuple(readings) for kind, readings in found.items()}

    def all_of(self, kind: type[Kept]) -> tuple[Kept, ...]:
        """Every reading of one kind, the oldest first."""
        return self.by_type.get(kind, ())  # type: ignore[return-value]

    def last_of(self, kind: type[Kept]) -> Kept | None:
        """The last reading of one kind."""
        found = self.all_of(kind)
        return found[-1] if found else None

    @cached_property
    def pulls(self) -> "tuple[AdjustableLoad | FixedLoad, ...]":
        """Every pull with a resistive load, the oldest first."""
        both: list[AdjustableLoad | FixedLoad] = [*self.all_of(AdjustableLoad), *self.all_of(FixedLoad)]
        return tuple(sorted(both, key=attrgetter("taken_at")))

    @cached_property
    def looks(self) -> tuple[Look, ...]:
        """Every look, the oldest first."""
        return self.all_of(Look)

    def look_at(self, reading: AnyReading) -> Look | None:
        """The look that says how it was when this was read: the last one before, else the first one after."""
        return last_until(self.looks, reading.taken_at) or (self.looks[0] if self.looks else None)

    @cached_property
    def loads(self) -> "tuple[AdjustableLoad | FixedLoad | Crank, ...]":
        """Everything that put a load on it, the oldest first."""
        return tuple(sorted((*self.pulls, *self.all_of(Crank)), key=attrgetter("taken_at")))

    @cached_property
    def proven_rests(self) -> tuple[RestVolts, ...]:
        """Valid rest volts that headlamps or counted hours stand behind, and not a word alone."""
        from .standing import is_proven_rest

        return tuple(volts for volts in self.valid_rest_volts if is_proven_rest(volts, self))

    def rest_until(self, moment: datetime) -> RestVolts | None:
        """The valid rest volts last read until then."""
        return last_until(self.valid_rest_volts, moment)

    def rests_near(self, reading: AnyReading) -> Sequence[RestVolts]:
        """Valid rest volts within the pairing time of this, with no charge taken off in between."""
        within, offs, rests = self.rules.pairing_minutes.value, self.charges_off_before(reading), self.valid_rest_volts
        reach = timedelta(minutes=within + 1)
        first = bisect_left(rests, reading.taken_at - reach, key=attrgetter("taken_at"))
        after = bisect_right(rests, reading.taken_at + reach, key=attrgetter("taken_at"))
        return [
            volts
            for volts in rests[first:after]
            if not over(abs((volts.taken_at - reading.taken_at).total_seconds()) / 60, within, MINUTES)
            and self.charges_off_before(volts) == offs
        ]

    def runs_of_charge(self, run: ChargeRun) -> Sequence[ChargeRun]:
        """What was seen of the same charge, the oldest first."""
        return self._runs_by_charge[self.charges_off_before(run) - run.finished]

    @cached_property
    def _runs_by_charge(self) -> dict[int, list[ChargeRun]]:
        found: dict[int, list[ChargeRun]] = {}
        for run in self.all_of(ChargeRun):
            found.setdefault(self.charges_off_before(run) - run.finished, []).append(run)
        return found

    @property
    def may_equalise(self) -> bool:
        """Whether the chemistry stands an equalising charge at all."""
        return charging_limits()[self.battery.chemistry.value].equalise_volts is not None

    def charge_near(self, reading: AnyReading, share_pct: float | None = None) -> ChargeThen:
        """Whether the battery was charged enough to be condemned when this was read.

        `share_pct` asks besides that the range of charge shown reaches so much, as a pull does.

        Judged by the valid rest volts nearest in time, within the pairing time, with no charge taken off in between;
        and clear of the recharge line by the meter's own uncertainty, so that no verdict hangs on a hundredth of a volt.
        After a finished full charge there is no more to give: then the line itself, less the uncertainty, is enough.
        """
        nearby = [
            (abs((volts.taken_at - reading.taken_at).total_seconds()), volts) for volts in self.rests_near(reading)
        ]
        if not nearby:
            return "unknown"
        _, rest = min(self._after_the_load(reading) or nearby, key=_nearest)
        volts, rules, on_range = rest.volts, self.rules_for(rest), rest.meter_range
        line, off = self.recharge_line_volts, meter_uncertainty_volts(volts, rules, on_range)
        clear_of = line - off if self.charged_before(reading) else line + off
        if not at_least(volts, clear_of, VOLTS):
            return "low"
        if share_pct is None or self.charged_before(reading):
            return "enough"
        highest = state_of_charge_range(volts, self.battery, rules, meter_range=on_range).high_pct
        return "enough" if at_least(highest, share_pct, PERCENT) else "low"

    def _after_the_load(self, reading: AnyReading) -> list[tuple[float, RestVolts]]:
        """Rest volts read once it had recovered from a load, where nothing but a word says that it was rested before it: the load
        took the surface charge that may have hidden a flat battery."""
        if type(reading) not in LOADING or self.charges_off_before(reading):
            return []
        if last_until(self.proven_rests, reading.taken_at) is not None:
            return []
        rests = self.valid_rest_volts
        recovered = reading.taken_at + timedelta(minutes=self.rules.load_wait_minutes.value)
        place = bisect_left(rests, recovered, key=attrgetter("taken_at"))
        return [
            ((volts.taken_at - reading.taken_at).total_seconds(), volts)
            for volts in rests[place : place + 1]
            if not self.charges_off_before(volts)
        ]

    def rest_before(self, reading: AnyReading) -> float | None:
        """The rest volts [V] last read before this, within the pairing time and with no charge taken off in between."""
        before = [volts.volts for volts in self.rests_near(reading) if volts.taken_at <= reading.taken_at]
        return before[-1] if before else None

    def full_charges_before(self, reading: AnyReading) -> int:
        """How many full charges were taken off before this was read."""
        return bisect_right(self._full_at, reading.taken_at)


def last_until(readings: Sequence[Kept], moment: datetime) -> Kept | None:
    """The last of readings in order of time that was taken until then."""
    place = bisect_right(readings, moment, key=attrgetter("taken_at"))
    return readings[place - 1] if place else None


LOADING = frozenset({AdjustableLoad, FixedLoad, Crank})
"""What takes surface charge."""


def _by_time(reading: AnyReading) -> tuple[datetime, str, str]:
    return (
        reading.taken_at,
        reading.kind,
        reading.model_dump_json(exclude={"id", "taken_at", "taken_by", "replaces"}),
    )


def _nearest(found: tuple[float, RestVolts]) -> tuple[float, float, str]:
    seconds, rest = found
    return seconds, rest.volts, rest.meter_range or ""
