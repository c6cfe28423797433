"""Evidence: one module per kind of reading. Reading + what is known + rules -> finding."""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from functools import cached_property
from itertools import pairwise
from operator import attrgetter
from typing import Any, Literal

from ..battery import Battery, Context
from ..charge import meter_uncertainty_volts, recharge_line_volts
from ..check import Check
from ..outcomes import Finding, Outcome, Status
from ..rated import RatedCca, rated_cca
from ..readings import WITH_TEMPERATURE, AnyReading, ChargeRun, RestVolts
from ..rules import HouseRules
from ..tables import charging_limits

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
        corrected = {reading.replaces for reading in check.readings if reading.replaces}
        standing = [
            reading
            for reading in check.readings
            if reading.kind != "withdrawal" and (reading.id is None or reading.id not in corrected)
        ]
        standing.sort(key=attrgetter("taken_at", "kind"))
        if any(one.taken_at == other.taken_at and one.kind == other.kind for one, other in pairwise(standing)):
            standing.sort(key=_by_time)
        return cls(check.battery, check.context, tuple(standing), rules)

    @cached_property
    def valid_rest_volts(self) -> tuple[RestVolts, ...]:
        """Rest volts that can be read as a state of charge."""
        from .rest_volts import why_void

        return tuple(
            reading
            for reading in self.readings
            if isinstance(reading, RestVolts) and why_void(reading, self.battery, self.rules) is None
        )

    @cached_property
    def rated(self) -> RatedCca | None:
        """The figure the battery is held against."""
        return rated_cca(self.battery, self.rules)

    @cached_property
    def temperature_c(self) -> float | None:
        """The battery's temperature last taken [C]."""
        for reading in reversed(self.readings):
            if isinstance(reading, WITH_TEMPERATURE) and reading.temperature_c is not None:
                return reading.temperature_c
        return None

    @cached_property
    def recharge_line_volts(self) -> float:
        """The rest volts [V] below which this battery is charged before it is judged."""
        return recharge_line_volts(self.battery, self.rules)

    @cached_property
    def charged_at(self) -> datetime | None:
        """When the last full charge was taken off, as far as a charge run says."""
        ends = [reading.taken_at for reading in self.readings if isinstance(reading, ChargeRun) and reading.finished]
        return max(ends, default=None)

    def charged_before(self, reading: AnyReading) -> bool:
        """Whether a full charge was taken off before this was read."""
        return self.charged_at is not None and self.charged_at <= reading.taken_at

    @property
    def may_equalise(self) -> bool:
        """Whether the chemistry stands an equalising charge at all."""
        return charging_limits()[self.battery.chemistry.value].equalise_volts is not None

    def charge_near(self, reading: AnyReading) -> ChargeThen:
        """Whether the battery was charged enough to be condemned when this was read.

        Judged by the valid rest volts nearest in time, within the pairing time, with no charge taken off in between;
        and clear of the recharge line by the meter's own uncertainty, so that no verdict hangs on a hundredth of a volt.
        After a finished full charge there is no more to give: then the line itself, less the uncertainty, is enough.
        """
        within = self.rules.pairing_minutes.value * 60
        nearby = [
            (gap, volts.volts)
            for volts in self.valid_rest_volts
            if (gap := abs((volts.taken_at - reading.taken_at).total_seconds())) <= within
            and self.charged_before(volts) == self.charged_before(reading)
        ]
        if not nearby:
            return "unknown"
        _, volts = min(nearby)
        line, off = self.recharge_line_volts, meter_uncertainty_volts(volts, self.rules)
        clear_of = line - off if self.charged_before(reading) else line + off
        return "enough" if volts >= clear_of else "low"

    def full_charges_before(self, reading: AnyReading) -> int:
        """How many full charges were taken off before this was read."""
        return sum(
            isinstance(run, ChargeRun) and run.finished and run.taken_at <= reading.taken_at for run in self.readings
        )


def _by_time(reading: AnyReading) -> tuple[datetime, str, str]:
    return (
        reading.taken_at,
        reading.kind,
        reading.model_dump_json(exclude={"id", "taken_at", "taken_by", "replaces"}),
    )


def finding(
    reading: AnyReading,
    rules: HouseRules,
    rule: str,
    *,
    points_to: Outcome | None,
    weight: str | None,
    status: Status = "counts",
    reading_text: str,
    limit_text: str,
    text: str,
    why_not: str | None = None,
    remedy: str | None = None,
) -> Finding:
    """A finding with the source of its rule filled in. `weight` names the rule that holds it; None is no weight."""
    parameter = rules.parameter(rule)
    return Finding(
        kind=reading.kind,
        reading_id=reading.id,
        status=status,
        points_to=points_to,
        weight=0.0 if weight is None else rules.parameter(weight).value,
        rule=rule,
        source=parameter.source,
        standing=parameter.standing,
        reading_text=reading_text,
        limit_text=limit_text,
        text=text,
        why_not=why_not,
        remedy=remedy,
    )


_finders: dict[str, Callable[[Any, Case], Finding]] = {}


def find(reading: AnyReading, case: Case) -> Finding:
    """What one reading says in its case."""
    if not _finders:
        from . import car, case_leakage, cells, charging, electronic_tester, loads, look, rest_volts

        _finders.update(
            look=look.find,
            case_leakage=case_leakage.find,
            rest_volts=rest_volts.find,
            cells=cells.find,
            electronic_tester=electronic_tester.find,
            adjustable_load=loads.adjustable,
            fixed_load=loads.fixed,
            crank=loads.crank,
            charge_run=charging.charge_run,
            stand=charging.stand,
            car=car.find,
        )
    return _finders[reading.kind](reading, case)
