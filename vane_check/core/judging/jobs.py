"""Jobs: a closed, ordered list of what is to be done, derived from what was seen. Words, ways and proofs: tables/jobs.csv."""

from collections.abc import Iterator
from functools import lru_cache
from operator import attrgetter
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, model_validator

from ..battery.label import Complaint
from ..evidence.car import UNREGISTERED, faults_of, without_days
from ..facts.case import Case
from ..facts.remembered import remembered
from ..findings.outcomes import FAILED, Outcome
from ..readings import (
    AnyReading,
    Car,
    CaseLeakage,
    Cells,
    ChargeRun,
    Corrosion,
    ElectronicTester,
    Eye,
    Level,
    Look,
    Sign,
    TesterMessage,
    Waits,
)
from ..tables import job_rows
from ..units.compare import VOLTS, over
from ..words import NOTHING, Words, say

When = Literal["before testing", "before charging", "before hand-back"]
_ONCE_CALLED = {
    "before the charge": "before charging",
    "before the test": "before testing",
    "with the car": "before hand-back",
    "ours": "house",
}
"""Words of judgements kept by earlier releases."""


class Job(BaseModel):
    """One thing to do: by when, whose it is, how it is done, what proves it done, and whether it holds a sound battery back."""

    model_config = ConfigDict(frozen=True)

    key: str = ""
    text: Words
    short: Words = NOTHING
    when: When
    whose: Literal["house", "owner", "garage"]
    how: Words = NOTHING
    proof: Literal["look", "case_leakage", "car", ""] = ""
    holds: bool = False

    @model_validator(mode="before")
    @classmethod
    def _as_it_was_called(cls, data: Any) -> Any:
        if not isinstance(data, dict):
            return data
        return {
            name: _ONCE_CALLED.get(value, value) if isinstance(value, str) else value for name, value in data.items()
        }


def jobs_of(case: Case, outcome: Outcome) -> tuple[Job, ...]:
    """Every open job in the order it is done. An unsafe battery has none but to be held apart; a failed one only the car's."""
    if outcome is Outcome.UNSAFE:
        return ()
    result = list(_open(case, handed_back=outcome not in FAILED))
    if outcome is Outcome.SOUND and _took_something_out(case):
        result.append(("recharge", None))
    if outcome in FAILED:
        result = [(key, text) for key, text in result if job_rows()[key].whose == "garage"]
    order = list(job_rows())
    return tuple(_job(key, text) for key, text in sorted(result, key=lambda open_job: order.index(open_job[0])))


@lru_cache(maxsize=512)
def _job(key: str, text: Words | None) -> Job:
    row = job_rows()[key]
    return Job.model_validate(
        {
            "key": key, "text": text or row.text, "short": row.short, "when": row.time, "whose": row.whose, "how": row.how,
            "proof": row.proof, "holds": row.holds,
        }
    )  # fmt: skip


Open = tuple[str, Words | None]


def _open(case: Case, handed_back: bool = True) -> Iterator[Open]:
    look = case.looks[-1] if case.looks else None
    if look is not None:
        yield from _of_the_look(look, case)
    yield from _of_the_top(look, case)
    if handed_back and (chemistry := case.type_the_car_asks_for) is not None:
        yield "right_type", say("jobs.this_car_asks_for", chemistry=chemistry)
    yield from _of_the_car(case)


def _of_the_look(look: Look, case: Case) -> Iterator[Open]:
    signs = {mark.sign for mark in look.marks}
    if look.corrosion is not Corrosion.NONE:
        yield ("clean_posts" if look.corrosion is Corrosion.HEAVY else "polish_posts"), None
    if not case.sealed:
        dry = Level.PLATES_BARE in look.levels
        if dry or (look.eye is Eye.CLEAR and case.battery.has_caps and not look.levels):
            yield "top_up", None
        if dry or Level.LOW in look.levels:
            yield "fill_to_mark", None
    if Level.OVER in look.levels:
        yield "mind_level", None
    for sign, key in (
        (Sign.HOLD_DOWN_MISSING, "fit_hold_down"),
        (Sign.HOLD_DOWN_LOOSE, "tighten_hold_down"),
        (Sign.THIN_POST, "shim_post"),
        (Sign.VENT_TUBE_OFF, "vent_tube"),
        (Sign.TRAY_RUSTED, "mend_tray"),
    ):
        if sign in signs:
            yield key, None


@remembered
def wet(case: Case) -> CaseLeakage | Look | None:
    """What says that it drains over its top: the last leakage reading, else the last look; None when nothing does."""
    top = case.last_of(CaseLeakage)
    look = case.looks[-1] if case.looks else None
    if top is not None and over(top.worst_volts, case.rules.look.leakage_volts.value, VOLTS):
        return top
    seen = look is not None and any(mark.sign is Sign.WET_TOP for mark in look.marks)
    return look if seen and (top is None or top.taken_at < look.taken_at) else None  # type: ignore[union-attr]


def was_wet(case: Case) -> bool:
    """Whether it drained over its top at any time of this check: the cause outlives its cleaning."""
    limit = case.rules.look.leakage_volts.value
    seen = any(mark.sign is Sign.WET_TOP for look in case.looks for mark in look.marks)
    return seen or any(over(top.worst_volts, limit, VOLTS) for top in case.all_of(CaseLeakage))


def _of_the_top(look: Look | None, case: Case) -> Iterator[Open]:
    result = wet(case)
    if result is None:
        return
    again = isinstance(result, CaseLeakage) and result.cleaned
    yield ("under_sticker" if again else "clean_top"), None


def _of_the_car(case: Case) -> Iterator[Open]:
    seen = case.last_of(Car)
    ran = any(run.idle_volts is not None or run.loaded_volts is not None for run in case.all_of(Car))
    if (case.was_dry or case.context.complaint is Complaint.WARNING_LIGHT) and not ran:
        yield "check_running_volts", None
    for fault in faults_of(seen, case) if seen else ():
        if fault.key != UNREGISTERED:
            yield "find_car_fault", say("jobs.the_car", fault=without_days(fault))
    is_registered = seen is not None and Waits.REGISTERED in seen.waits_checked
    register = case.context.needs_registration and case.context.complaint is Complaint.STOP_START_STOPPED
    if (seen is not None and seen.unregistered) or (register and not is_registered):
        yield "register", None


def _took_something_out(case: Case) -> bool:
    """Whether the tester or a pull since the last charge asks that it is charged again soon."""
    off = case.charge_off_at
    pulled = bool(case.pulls) and (off is None or case.pulls[-1].taken_at > off)
    return (
        pulled
        or case.is_emptied
        or any(
            tested.message is TesterMessage.GOOD_RECHARGE and (off is None or tested.taken_at > off)
            for tested in case.all_of(ElectronicTester)
        )
    )


PROOFS = (Look, CaseLeakage, Car)


def _as_it_was(case: Case) -> Iterator[Case]:
    """The case after each proof but the last, with no more in it than jobs are told from: the last of each kind, a look at bare
    plates, a car that ran. As many readings each time, however many there are."""
    kept: dict[str, AnyReading] = {}
    proofs = [reading for reading in case.readings if type(reading) in PROOFS]
    for proof in proofs[:-1]:
        kept.pop(proof.kind, None)
        kept[proof.kind] = proof
        if isinstance(proof, Look) and Level.PLATES_BARE in proof.levels:
            kept.setdefault("dry", proof)
        if isinstance(proof, Car) and (proof.idle_volts is not None or proof.loaded_volts is not None):
            kept.setdefault("ran", proof)
        ordered = sorted(
            {id(kept_reading): kept_reading for kept_reading in kept.values()}.values(), key=attrgetter("taken_at")
        )
        yield Case(readings=tuple(ordered), battery=case.battery, context=case.context, rules=case.rules)


def jobs_done(case: Case) -> tuple[Words, ...]:
    """What was done here, as its readings show it: jobs that were open once and are not any more, charges, equalising."""
    still = {key for key, _ in _open(case)}
    was: dict[str, None] = {}
    for earlier in _as_it_was(case):
        was |= dict.fromkeys(key for key, _ in _open(earlier))
    if any(top.cleaned for top in case.all_of(CaseLeakage)) and wet(case) is None:
        was["clean_top"] = None
    rows = job_rows()
    lesser = {"clean_posts": "polish_posts", "clean_top": "under_sticker"}
    lines = dict.fromkeys(
        done
        for key in rows
        if (done := rows[key].done) is not None
        and key in was
        and key not in still
        and lesser.get(key) not in still
        and key not in {"right_type", "mind_level"}
    )
    for run in case.all_of(ChargeRun):
        if run.finished:
            lines[say("jobs.charged_until_full") if case.charged_before(run) else say("jobs.recharge.done")] = None
        if run.recovery:
            lines[say("jobs.given_a_recovery_charge")] = None
    if any(read.equalised for read in case.all_of(Cells)):
        lines[say("jobs.cells_equalised")] = None
    return tuple(lines)
