"""Jobs that stand open whatever the judgement is: on the battery before it is handed back, on the car for its owner."""

from typing import Literal

from pydantic import BaseModel, ConfigDict

from .compare import VOLTS, over
from .evidence import Case
from .evidence.car import faults_of
from .evidence.look import sealed
from .outcomes import Outcome
from .readings import Car, CaseLeakage, Cells, ChargeRun, Corrosion, Level, Look, Sign


class Job(BaseModel):
    """One thing to do, by when, and whose it is."""

    model_config = ConfigDict(frozen=True)

    text: str
    when: Literal["before the charge", "before the test", "before hand-back", "with the car"]
    whose: Literal["ours", "owner"]


def jobs_of(case: Case, outcome: Outcome) -> tuple[Job, ...]:
    """Every open job in the order it is done. An unsafe battery has none but to be held apart; a failed one only the car's."""
    if outcome is Outcome.UNSAFE:
        return ()
    ours = () if outcome in {Outcome.WORN_OUT, Outcome.DEAD_CELL, Outcome.LEAKS_CHARGE} else _on_the_battery(case)
    return (*ours, *_on_the_car(case))


def _on_the_battery(case: Case) -> tuple[Job, ...]:
    look = next((reading for reading in reversed(case.readings) if isinstance(reading, Look)), None)
    top = next((reading for reading in reversed(case.readings) if isinstance(reading, CaseLeakage)), None)
    signs = {mark.sign for mark in look.marks} if look else set()
    levels = set(look.levels) if look else set()
    corrosion = look.corrosion if look else Corrosion.NONE
    jobs = []
    if Level.PLATES_BARE in levels and not sealed(case):
        jobs.append(Job(text="cover the plates with distilled water", when="before the charge", whose="ours"))
    elif Level.LOW in levels and not sealed(case):
        jobs.append(Job(text="top up to the mark, after the charge", when="before hand-back", whose="ours"))
    if corrosion is Corrosion.HEAVY:
        jobs.append(Job(text="clean posts and clamps to bright metal", when="before the test", whose="ours"))
    elif corrosion is Corrosion.LIGHT:
        jobs.append(Job(text="clean posts and clamps", when="before hand-back", whose="ours"))
    dirty = over(top.worst_volts, case.rules.leakage_volts.value, VOLTS) if top else Sign.WET_TOP in signs
    if dirty:
        jobs.append(Job(text="clean and dry the top, measure it again", when="before hand-back", whose="ours"))
    if Sign.HOLD_DOWN_MISSING in signs:
        jobs.append(Job(text="fit a hold-down", when="with the car", whose="owner"))
    return tuple(jobs)


def _on_the_car(case: Case) -> tuple[Job, ...]:
    seen = next((reading for reading in reversed(case.readings) if isinstance(reading, Car)), None)
    return tuple(
        Job(text=f"the car: {fault.partition(': from')[0]}", when="with the car", whose="owner")
        for fault in (faults_of(seen, case) if seen else ())
    )


def done(case: Case) -> tuple[str, ...]:
    """What was done to the battery here, as its readings show it, in the order people tell it."""
    looks = [reading for reading in case.readings if isinstance(reading, Look)]
    tops = [reading for reading in case.readings if isinstance(reading, CaseLeakage)]
    dry = [top for top in tops if top.cleaned and not over(top.worst_volts, case.rules.leakage_volts.value, VOLTS)]
    was_corroded = any(look.corrosion is not Corrosion.NONE for look in looks[:-1])
    told = []
    if was_corroded and looks[-1].corrosion is Corrosion.NONE:
        told.append("posts and clamps cleaned")
    if dry and dry[-1] is tops[-1]:
        told.append("top cleaned and dried")
    if any(isinstance(reading, ChargeRun) and reading.finished for reading in case.readings):
        told.append("charged until full")
    if any(isinstance(reading, Cells) and reading.equalised for reading in case.readings):
        told.append("cells equalised")
    return tuple(told)
