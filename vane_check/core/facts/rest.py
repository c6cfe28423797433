"""Rest volts: which of them can be read as a state of charge, and which are proven to have rested."""

from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from operator import attrgetter
from typing import NamedTuple

from ..battery.label import Battery
from ..findings.kinds import StepKey
from ..house.rules import HouseRules
from ..readings import AnyReading, ChargeRun, RestVolts, Settled
from ..tables import entry_limits
from ..units.compare import HOURS, MINUTES, TENTH_AMP, VOLTS, at_least, over, under
from ..words import Words, digits, say
from .history import last_until
from .label import LabelFacts
from .remembered import derived, remembered_each
from .state_of_charge import (
    meter_uncertainty_volts,
    recharge_line_volts,
    surface_charge_volts,
    volts_at_pct,
    volts_scale,
)


class VoidVolts(NamedTuple):
    """Why a rest voltage cannot be read as charge, by which rule, and what to do about it."""

    why: Words
    rule: str
    remedy: StepKey


def school_hours(rules: HouseRules) -> float:
    """What this house's school of resting asks for [h], where no headlamps were used."""
    return rules.rest.hours.value[rules.rest.school.value]


def why_void(reading: RestVolts, battery: Battery, rules: HouseRules, after_charge: bool = False) -> VoidVolts | None:
    """Why this reading says nothing of the charge, or None when it can be read.

    Straight off the charger a reading at or above the recharge line is surface charge; one below it still counts,
    since surface charge can only flatter. After a charge low volts are cells gone, and believed. Hours of rest that were
    counted outrank the line of surface charge.
    """
    scale = volts_scale(battery.nominal_volts)
    if at_least(reading.volts, rules.rest.charging_volts.value * scale, VOLTS):
        return VoidVolts(
            say("rest.that_is_a_charging_voltage_is_the_engine"),
            "rest.charging_volts",
            StepKey.MEASURE_AGAIN,
        )
    if _says_nothing(reading, battery, rules):
        return VoidVolts(
            say("rest.a_600_v_range_reads_whole_volts_turn_to"),
            "meter.range_resolution_volts",
            StepKey.MEASURE_AGAIN,
        )
    after_charge = after_charge or reading.after_full_charge or reading.settled is Settled.JUST_CHARGED
    least = rules.cells.live_volts.value / 2 if after_charge else rules.rest.doubt_below_volts.value * scale
    if under(reading.volts, least, VOLTS) and not reading.confirmed:
        return VoidVolts(
            say("rest.too_low_to_believe_at_first_clean_the"),
            "rest.doubt_below_volts",
            StepKey.MEASURE_AGAIN,
        )
    if reading.settled is Settled.MAINTAINER_ON:
        return VoidVolts(say("rest.a_maintainer_or_a_panel_is_still_on_it"), "rest.school", StepKey.SETTLE)
    line = recharge_line_volts(battery, rules)
    if reading.settled is Settled.JUST_CHARGED:
        if at_least(reading.volts, line, VOLTS):
            return VoidVolts(
                say("rest.straight_off_the_charge_surface_charge"), "rest.surface_charge_volts", StepKey.SETTLE
            )
        return None
    if reading.settled is Settled.RESTED and reading.rested_hours is not None:
        hours = school_hours(rules)
        if not under(reading.rested_hours, hours, HOURS):
            return None
        if at_least(reading.volts, line, VOLTS):
            return VoidVolts(
                say(
                    "rest.rested_h_this_house_waits_h_or_headlamps",
                    rested_hours=digits(reading.rested_hours),
                    hours=digits(hours),
                ),
                "rest.school",
                StepKey.SETTLE,
            )
    if over(reading.volts, surface_charge_volts(battery, rules), VOLTS):
        return VoidVolts(say("rest.surface_charge_is_still_there"), "rest.surface_charge_volts", StepKey.SETTLE)
    return None


def _says_nothing(reading: RestVolts, battery: Battery, rules: HouseRules) -> bool:
    """Whether the meter's range is so coarse that empty and full read alike."""
    if reading.meter_range is None:
        return False
    off = meter_uncertainty_volts(reading.volts, rules, reading.meter_range)
    return over(2 * off, volts_at_pct(100.0, battery) - volts_at_pct(0.0, battery), VOLTS)


LAMPS_AT_MOST = 2
"""What headlamps did not take twice goes with hours of rest that are counted."""


def after_charge(reading: RestVolts) -> bool:
    """Whether a charge came before this reading."""
    return reading.after_full_charge or reading.settled is Settled.JUST_CHARGED


@dataclass(frozen=True, kw_only=True)
class RestFacts(LabelFacts):
    """Its volts at rest."""

    @derived
    def valid_rest_volts(self) -> tuple[RestVolts, ...]:
        """Rest volts that can be read as a state of charge, what a stand ended at among them; the tester's own where there is nothing
        better."""
        both = sorted((*self.all_of(RestVolts), *self.stand_ends), key=attrgetter("taken_at"))
        metered = tuple(reading for reading in both if self.void(reading) is None)
        return metered or tuple(volts for volts in self.tester_volts if self.void(volts) is None)

    def void(self, reading: RestVolts) -> VoidVolts | None:
        """Why these volts say nothing of the charge, or None."""
        if self._is_just_off_charge(reading):
            reading = reading.model_copy(update={"settled": Settled.JUST_CHARGED})
        void = why_void(reading, self.battery, self.rules, after_charge=self.charges_off_before(reading) > 0)
        if void is None or void.remedy is not StepKey.SETTLE or self._lamps_before(reading) < LAMPS_AT_MOST:
            return void
        return void._replace(remedy=StepKey.REST_BY_HOURS)

    def _lamps_before(self, reading: RestVolts) -> int:
        """How often headlamps were tried since the last charge, this time too."""
        times = self._lamps_at.get(self.charges_off_before(reading), ())
        return bisect_right(times, reading.taken_at)

    @derived
    def _lamps_at(self) -> dict[int, list[datetime]]:
        """When headlamps were tried, by how many charges had been taken off."""
        result: dict[int, list[datetime]] = {}
        for volts in self.all_of(RestVolts):
            if volts.settled is Settled.HEADLAMPS:
                result.setdefault(self.charges_off_before(volts), []).append(volts.taken_at)
        return result

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

    @derived
    def _on_charge_at(self) -> tuple[datetime, ...]:
        """When somebody last saw current in it, whether it came off full, early or not yet: that leaves surface charge."""
        return tuple(run.taken_at for run in self.all_of(ChargeRun) if not self.no_current(run))

    def no_current(self, run: ChargeRun) -> bool:
        """Whether the amps were noted and are none to speak of. A maintainer shows no amps: nobody can say so of it."""
        return run.amps is not None and not over(run.amps, self.rules.charge.no_current_amps.value, TENTH_AMP)

    @derived
    def proven_rests(self) -> tuple[RestVolts, ...]:
        """Valid rest volts that headlamps or counted hours stand behind, and not a word alone."""
        return tuple(volts for volts in self.valid_rest_volts if self.is_proven_rest(volts))

    def is_proven_rest(self, reading: RestVolts) -> bool:
        """Whether headlamps or hours that were counted stand behind these rest volts, and not a word alone."""
        hours = self.rules.rest.hours.value["2_h"]
        return reading.settled is Settled.HEADLAMPS or at_least(reading.rested_hours or 0, hours, HOURS)

    def rest_until(self, moment: datetime) -> RestVolts | None:
        """The valid rest volts last read until then."""
        return last_until(self.valid_rest_volts, moment)

    def rests_near(self, reading: AnyReading) -> Sequence[RestVolts]:
        """Valid rest volts within the pairing time of this, with no charge taken off and no discharge in between."""
        return _rests_near(reading, self)

    def rest_before(self, reading: AnyReading) -> float | None:
        """The rest volts [V] last read before this, within the pairing time and with no charge taken off in between."""
        before = [volts.volts for volts in self.rests_near(reading) if volts.taken_at <= reading.taken_at]
        return before[-1] if before else None


@remembered_each
def _rests_near(reading: AnyReading, case: RestFacts) -> Sequence[RestVolts]:
    within, offs = case.rules.tester.pairing_minutes.value, case.charges_off_before(reading)
    emptied = case.emptied_before(reading)
    rests, reach, at = case.valid_rest_volts, timedelta(minutes=within + 1), reading.taken_at
    first = bisect_left(rests, at - reach, key=attrgetter("taken_at"))
    after = bisect_right(rests, at + reach, key=attrgetter("taken_at"))
    return [
        volts
        for volts in rests[first:after]
        if not over(abs((volts.taken_at - at).total_seconds()) / 60, within, MINUTES)
        and case.charges_off_before(volts) == offs
        and case.emptied_before(volts) == emptied
    ]
