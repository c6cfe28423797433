"""What a change of the battery makes void of what was read before it, and what is asked anew: tables/after-a-change.csv."""

from collections.abc import Callable
from datetime import datetime
from typing import NamedTuple

from ..facts.case import Case
from ..facts.history import last_before
from ..facts.remembered import remembered
from ..findings.kinds import Kind, StepKey
from ..findings.outcomes import FAILED, Finding, Outcome
from ..readings import (
    METHOD_OF,
    METHODS,
    SPOILED_BY_WATER,
    STARTING,
    AnyReading,
    CaseLeakage,
    ChargeRun,
    Corrosion,
    RestVolts,
    Sign,
    Stand,
)
from ..readings.method import kinds_of
from ..tables import AfterAChange, after_a_change
from ..tables.base import Sourced
from ..units.compare import HOURS, VOLTS, at_least, over
from ..words import Words, say
from .jobs import wet


class Void(NamedTuple):
    """Why something that was read says nothing any more, what is asked instead, and where that is from."""

    why: Words
    asks: StepKey | None
    rule: str
    origin: Sourced


AFTER_A_CHANGE = "after_a_change"
"""What drops a finding where no rule of the house does: a row of the table."""

GROUPS: dict[str, frozenset[Kind]] = {
    "whatever": frozenset(Kind),
    "of_the_battery": SPOILED_BY_WATER,
    "through_posts": kinds_of(method for method in METHODS if method.corrosion_spoils),
    "rest_volts": frozenset({Kind.REST_VOLTS}),
    "stand": frozenset({Kind.STAND}),
}
"""Which readings a row is about."""

ONLY: dict[str, Callable[[Finding], bool]] = {
    "": lambda _found: True,
    "charge": lambda found: found.points_to is Outcome.NEEDS_CHARGE,
    "failing": lambda found: found.points_to in FAILED,
    "not_sound": lambda found: found.points_to is not Outcome.SOUND,
    "doubted": lambda found: found.remedy is StepKey.CLEAN_POSTS,
}
"""Which of them."""

WHY: dict[str, Words] = {
    "water": say("common.read_before_the_water_went_in"),
    "fresh_filling": say("judgement.read_after_the_water_went_in_and_before_a"),
    "charge": say("judgement.from_before_the_charge"),
    "recovery_charge": say("judgement.from_before_the_recovery_charge"),
    "thaw": say("changes.read_while_it_may_have_held_ice"),
    "clean_posts": say("common.read_through_corroded_posts"),
    "clean_top": say("changes.it_stood_with_a_wet_top"),
    "another_meter": say("changes.its_start_was_read_with_another_meter"),
    "another_day": say("changes.read_a_day_before_it_was_tested"),
}


def void_since(found: Finding, reading: AnyReading, case: Case) -> Void | None:
    """What has made void what was found in a reading, by the first row of the table that holds; None where nothing has."""
    for row in after_a_change():
        if found.kind in GROUPS[row.voids] and ONLY[row.only](found) and SINCE[row.change](reading, case):
            return Void(WHY[row.change], _asks(row, reading), row.rule, row.origin)
    return None


def _asks(row: AfterAChange, reading: AnyReading) -> StepKey | None:
    """The step that asks for it anew, the careful one where it was read badly; None where it is simply asked as at first."""
    if row.asks == "again":
        return METHOD_OF[type(reading)].again_by
    return StepKey(row.asks) if row.asks else None


def _before(reading: AnyReading, moment: datetime | None) -> bool:
    return moment is not None and reading.taken_at < moment


def _since_recovery(reading: AnyReading, case: Case) -> bool:
    given = [run.taken_at for run in case.all_of(ChargeRun) if run.recovery and run.finished]
    return bool(given) and reading.taken_at < given[-1]


def _is_fresh(reading: AnyReading, case: Case) -> bool:
    return case.is_fresh_filling and case.filled_at is not None and reading.taken_at >= case.filled_at


@remembered
def _thawed_at(case: Case) -> datetime | None:
    """When its temperature was first taken after the last time it was as cold as its acid freezes."""
    if case.frozen_acid is not None:
        return None
    warm = None
    for place in range(len(case.readings), 0, -1):
        taken = getattr(case.readings[place - 1], "temperature_c", None)
        if taken is None:
            continue
        if taken <= 0 and case.until(place).frozen_acid is not None:
            return warm
        warm = case.readings[place - 1].taken_at
    return None


def _since_clean_posts(reading: AnyReading, case: Case) -> bool:
    """Whether the last look of all found them clean, and came after this was read."""
    last = case.looks[-1] if case.looks else None
    return last is not None and last.corrosion is Corrosion.NONE and last.taken_at > reading.taken_at


@remembered
def _top_cleaned_at(case: Case) -> datetime | None:
    """When a top that was wet was first shown to be dry again, for good; None where it never was, or is wet."""
    limit = case.rules.look.leakage_volts.value
    proofs = [(look.taken_at, any(mark.sign is Sign.WET_TOP for mark in look.marks)) for look in case.looks]
    proofs += [(leak.taken_at, over(leak.worst_volts, limit, VOLTS)) for leak in case.all_of(CaseLeakage)]
    at, was_wet = None, False
    for taken_at, is_wet in sorted(proofs):
        at = None if is_wet else at or (taken_at if was_wet else None)
        was_wet = was_wet or is_wet
    return at if wet(case) is None else None


def _by_another_meter(reading: AnyReading, case: Case) -> bool:
    """Whether a stand's start is what another meter of the house's book read before it."""
    before = last_before(case.all_of(RestVolts), reading.taken_at)
    if not isinstance(reading, Stand) or before is None or before.tool is None or reading.tool is None:
        return False
    same_figure = not over(abs(before.volts - reading.start_volts), 0.0, VOLTS)
    return same_figure and before.tool.equipment_id != reading.tool.equipment_id


def _of_another_day(reading: AnyReading, case: Case) -> bool:
    """Whether it was tested a night or more later, and nobody read its volts then."""
    night = case.rules.stand.hours.value
    return any(
        at_least((later.taken_at - reading.taken_at).total_seconds() / 3600, night, HOURS)
        and not case.rests_near(later)
        for later in case.readings
        if later.kind in STARTING
    )


SINCE: dict[str, Callable[[AnyReading, Case], bool]] = {
    "water": lambda reading, case: _before(reading, case.filled_at),
    "fresh_filling": _is_fresh,
    "charge": lambda reading, case: _before(reading, case.charge_off_at),
    "recovery_charge": _since_recovery,
    "thaw": lambda reading, case: _before(reading, _thawed_at(case)),
    "clean_posts": _since_clean_posts,
    "clean_top": lambda reading, case: _before(reading, _top_cleaned_at(case)),
    "another_meter": _by_another_meter,
    "another_day": _of_another_day,
}
"""Whether the change came after a reading was taken."""
