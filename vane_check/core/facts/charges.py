"""Charges: when one was full, by what, and whether the battery was charged enough when something was read."""

from bisect import bisect_left, bisect_right
from dataclasses import dataclass
from datetime import datetime, timedelta
from operator import attrgetter
from statistics import median
from typing import Literal

from ..readings import LOADING, AnyReading, Cells, ChargeRun, Reserve, RestVolts
from ..tables import charging_limits
from ..units.compare import GRAVITY, HOURS, PERCENT, TENTH_AMP, VOLTS, at_least, over, under
from ..words import Words, fixed, say
from .history import last_until
from .remembered import derived, remembered_each
from .rest import RestFacts
from .state_of_charge import meter_uncertainty_volts, state_of_charge_range, volts_scale

ChargeThen = Literal["enough", "low", "unknown"]


@dataclass(frozen=True, kw_only=True)
class ChargeFacts(RestFacts):
    """Its charges."""

    def full_by(self, run: ChargeRun) -> Words | None:
        """By what a charge that was taken off counts as full, in words; None when nothing shows it.

        At its volts, those of the absorption or of the float after it, the current has tapered, or has not changed for an hour; or
        three gravities that far apart agree; or the charger says so and the rest volts after it agree. Source: the house's
        `charge.full_amps_share`, `charge.full_share_of_start` and `charge.full_still_hours`.
        """
        return _why_full(run, self)

    def tapered_amps(self, run: ChargeRun) -> float | None:
        """The amps [A] at which a charge at its volts counts as full; None when nothing tells."""
        if self.capacity_ah is not None:
            return self.capacity_ah * self.rules.charge.full_amps_share.value
        began = began_amps(run)
        return None if began is None else began * self.rules.charge.full_share_of_start.value

    def gravities_agree(self, run: ChargeRun) -> bool:
        """Whether three gravities an hour or more apart, the last at this moment, are the same."""
        until = bisect_right(self.all_of(Cells), run.taken_at, key=attrgetter("taken_at"))
        read = [
            (cells.taken_at, median(cells.specific_gravities))
            for cells in self.all_of(Cells)[max(until - 3, 0) : until]
            if cells.specific_gravities
        ]
        apart = (len(read) - 1) * self.rules.charge.full_still_hours.value
        if len(read) < 3 or under((read[-1][0] - read[0][0]).total_seconds() / 3600, apart, HOURS):
            return False
        gravities = [gravity for _, gravity in read]
        return not over(max(gravities) - min(gravities), self.rules.gravity.resolution.value, GRAVITY)

    @derived
    def _full_at(self) -> tuple[datetime, ...]:
        """When full charges were taken off, as far as their current or the rest volts after them say, the oldest first."""
        return tuple(run.taken_at for run in self.all_of(ChargeRun) if run.finished and self.full_by(run) is not None)

    @property
    def charged_at(self) -> datetime | None:
        """When the last full charge was taken off."""
        return self._full_at[-1] if self._full_at else None

    def charged_before(self, reading: AnyReading) -> bool:
        """Whether a full charge was taken off before this was read, and it was not emptied since."""
        at = self.charged_at
        if at is None or at > reading.taken_at:
            return False
        return not any(at <= run.taken_at < reading.taken_at for run in self.all_of(Reserve))

    @derived
    def came_flat(self) -> bool:
        """Whether it rested under the house's line before any full charge here."""
        line = self.recharge_line_volts
        return any(
            under(volts.volts, line, VOLTS) and not self.charged_before(volts) for volts in self.valid_rest_volts
        )

    @property
    def went_flat_standing(self) -> bool:
        """Whether its story says that it went flat while it stood, and it came in flat."""
        return self.stood_for_weeks and self.came_flat

    @property
    def is_emptied(self) -> bool:
        """Whether a timed discharge left it flat, and neither a charge that was taken off nor rest volts since say otherwise."""
        last, off = self.last_of(Reserve), self.charge_off_at
        if last is None or (off is not None and off >= last.taken_at):
            return False
        since = self.valid_rest_volts[-1:]
        return not any(
            volts.taken_at > last.taken_at and at_least(volts.volts, self.recharge_line_volts, VOLTS) for volts in since
        )

    def full_charges_before(self, reading: AnyReading) -> int:
        """How many full charges were taken off before this was read."""
        return bisect_right(self._full_at, reading.taken_at)

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
        if reading.kind not in LOADING or self.charges_off_before(reading):
            return []
        if last_until(self.proven_rests, reading.taken_at) is not None:
            return []
        rests = self.valid_rest_volts
        recovered = reading.taken_at + timedelta(minutes=self.rules.load.wait_minutes.value)
        place = bisect_left(rests, recovered, key=attrgetter("taken_at"))
        return [
            ((volts.taken_at - reading.taken_at).total_seconds(), volts)
            for volts in rests[place : place + 1]
            if not self.charges_off_before(volts)
        ]


@remembered_each
def _why_full(run: ChargeRun, facts: ChargeFacts) -> Words | None:
    rules = facts.rules
    floats = charging_limits()[facts.battery.chemistry.value].float_volts * volts_scale(facts.battery.nominal_volts)
    if run.amps is not None and at_least(run.volts, floats, VOLTS):
        least = facts.tapered_amps(run)
        if least is not None and not over(run.amps, least, TENTH_AMP):
            return say("charges.the_current_has_fallen_to_a", amps=fixed(run.amps, 1))
        if any(
            note.amps is not None
            and at_least(
                (run.taken_at - note.taken_at).total_seconds() / 3600, rules.charge.full_still_hours.value, HOURS
            )
            and not over(abs(note.amps - run.amps), rules.charge.no_current_amps.value, TENTH_AMP)
            and at_least(note.volts, facts.charge_reaches_volts, VOLTS)
            for note in facts.runs_of_charge(run)
        ):
            return say("charges.current_and_volts_have_stood_still_for_an")
    if facts.gravities_agree(run):
        return say("charges.three_hourly_gravities_agree")
    place = bisect_left(facts.valid_rest_volts, run.taken_at, key=attrgetter("taken_at"))
    after = facts.valid_rest_volts[place : place + 1]
    if (
        after
        and facts.charges_off_before(after[0]) == facts.charges_off_before(run)
        and at_least(after[0].volts, facts.recharge_line_volts, VOLTS)
    ):
        return say("charges.the_charger_says_so_and_the_rest_volts")
    return None


def began_amps(run: ChargeRun) -> float | None:
    """What it drew at the start, or at the first moment that was noted: that current fell or stood by either."""
    if run.start_amps is not None or not run.log:
        return run.start_amps
    return min(run.log, key=attrgetter("minutes")).amps


def _nearest(pair: tuple[float, RestVolts]) -> tuple[float, float, str]:
    seconds, rest = pair
    return seconds, rest.volts, rest.meter_range or ""
