"""What is decided of the findings: safety, then conflict, then the strongest evidence, then what is still missing."""

import math
from collections.abc import Iterable
from typing import NamedTuple

from .battery import CameIn, Chemistry, Complaint
from .charge import recharge_line_volts, volts_scale
from .compare import HOURS, RATIO, VOLTS, at_least, over, under
from .evidence import Case
from .evidence.car import faults_of
from .evidence.charging import may_recover
from .evidence.known import asked_type, asks_why_stop_start_stopped
from .evidence.look import sealed
from .evidence.reserve import works_by_reserve
from .jobs import Job, jobs_of
from .kinds import Kind, StepKey
from .outcomes import FAILED, Finding, Outcome
from .readings import AdjustableLoad, Car, CaseLeakage, Eye, Waits
from .steps import JOB_STEPS, NextStep, cheapest, job_step, lacks_tool, step


class Decision(NamedTuple):
    """An outcome in words, what to do next, and whether strong findings disagree."""

    outcome: Outcome
    headline: str
    next_step: NextStep
    conflict: bool = False
    jobs: tuple[Job, ...] = ()


STARTING_KINDS = frozenset({Kind.ELECTRONIC_TESTER, Kind.FIXED_LOAD, Kind.CRANK})
"""Quicker starting tests: a counted pull with the adjustable load settles what they leave open."""

STEP_OF_KIND = {
    Kind.ELECTRONIC_TESTER: StepKey.TESTER,
    Kind.ADJUSTABLE_LOAD: StepKey.LOAD_TEST,
    Kind.CELLS: StepKey.CELLS,
    Kind.FIXED_LOAD: StepKey.FIXED_TEST,
    Kind.CRANK: StepKey.CRANK_TEST,
    Kind.RESERVE: StepKey.RESERVE_TEST,
}
VOLTS_KINDS = frozenset({Kind.REST_VOLTS, Kind.TESTER_VOLTS})
"""What tells the charge: a meter, or the tester's own volts where there is nothing better."""


def decide(findings: tuple[Finding, ...], pulls: list[Outcome], case: Case) -> Decision:
    """What the readings say; where nobody has looked it over that comes first, and nothing is sound without it.

    Jobs hold it: those before testing come before the tests they spoil, those before hand-back make it sound after them.
    """
    said = _decided(findings, pulls, case)
    jobs = jobs_of(case, said.outcome)
    if said.outcome in FAILED | {Outcome.UNSAFE} or case.looks:
        return _with_jobs(said, jobs, case)._replace(jobs=jobs)
    look = step(StepKey.LOOK, case)
    if said.outcome in {Outcome.SOUND, Outcome.WATCH}:
        return Decision(Outcome.CANNOT_TELL, "It reads well, but nobody has looked it over", look, jobs=jobs)
    return said._replace(next_step=look, jobs=jobs)


NAMED_AT_MOST = 2
"""A headline is read across a counter: the other jobs stand below it."""

SPOILED_BY_DIRT = frozenset({"meter", "tester", "adjustable_load", "fixed_load", "car"})
"""Tools that read through the posts."""

SPOILED_BY_DRYNESS = frozenset({"tester", "adjustable_load", "fixed_load", "hydrometer", "discharger"})


def _named_job(said: Decision, jobs: tuple[Job, ...]) -> Decision:
    """A step that is a job says which, so that it can be marked as done."""
    job = next((one for one in jobs if JOB_STEPS.get(one.key) is said.next_step.key), None)
    return said if job is None else said._replace(next_step=said.next_step.model_copy(update={"job": job.key}))


def _with_jobs(said: Decision, jobs: tuple[Job, ...], case: Case) -> Decision:
    if said.outcome in {Outcome.SOUND, Outcome.WATCH}:
        holding = [job for job in jobs if job.holds]
        if not holding:
            return said
        named = list(dict.fromkeys(job.short for job in holding))
        more = f" and {len(named) - NAMED_AT_MOST} more" if len(named) > NAMED_AT_MOST else ""
        headline = f"{said.headline}, after: {', '.join(named[:NAMED_AT_MOST])}{more}"
        return said._replace(headline=headline, next_step=job_step(holding[0], case))
    if said.next_step.key is StepKey.TOP_UP and not any(job.key == "top_up" for job in jobs):
        fill = next((job for job in jobs if job.key == "fill_to_mark"), None)
        return said._replace(next_step=job_step(fill, case) if fill else step(StepKey.CHARGE_AND_RETEST, case))
    if said.outcome not in {Outcome.CANNOT_TELL, Outcome.NEEDS_CHARGE} or said.next_step.key in JOB_STEPS.values():
        return said if said.next_step.key not in JOB_STEPS.values() else _named_job(said, jobs)
    asked = said.next_step.key
    first = next((job for job in jobs if job.when != "before hand-back" and job.key in JOB_STEPS), None)
    if first is None or (first.key == "clean_posts" and asked.tool not in SPOILED_BY_DIRT):
        return said
    if first.key == "top_up" and not (asked.tool == "charger" or asked.tool in SPOILED_BY_DRYNESS):
        return said
    return said._replace(next_step=job_step(first, case))


def _decided(findings: tuple[Finding, ...], pulls: list[Outcome], case: Case) -> Decision:
    """Safety, then conflict, then the strongest valid evidence, then what is still missing."""
    towards: dict[Outcome, list[Finding]] = {}
    settled = any(_is_firm_pull(found, case) for found in findings)
    works = any(found.kind == Kind.RESERVE and found.points_to is Outcome.SOUND for found in findings)
    for found in findings:
        if found.points_to is None or found.kind == Kind.SAG:
            continue
        if works and found.points_to is Outcome.WATCH:
            continue  # a starting test says little where its own work is proved
        if settled and found.kind in STARTING_KINDS and found.points_to is Outcome.CANNOT_TELL:
            continue
        towards.setdefault(found.points_to, []).append(found)
    if Outcome.UNSAFE in towards:
        return Decision(Outcome.UNSAFE, Outcome.UNSAFE.headline, step(StepKey.HOLD_APART, case))
    condemning = max(FAILED & towards.keys(), key=lambda outcome: (joined(towards[outcome]), outcome), default=None)
    if condemning is not None:
        return _condemned(condemning, towards, findings, pulls, case)
    if Outcome.NEEDS_CHARGE in towards:
        return _needs_charge(towards[Outcome.NEEDS_CHARGE], findings, case)
    missing = _missing(findings, case)
    if Outcome.CANNOT_TELL in towards or missing:
        open_ = towards.get(Outcome.CANNOT_TELL, [])
        pulled = any(found.kind == Kind.ADJUSTABLE_LOAD for found in open_)
        asked = [*missing, *(one.remedy for one in open_ if one.remedy and not (pulled and one.kind in STARTING_KINDS))]
        volts = StepKey.MEASURE_VOLTS  # volts that fell off for want of rest are not read again as they stand
        asked = [_again(Kind.REST_VOLTS, key, findings) if key is volts else key for key in asked]
        headline = Outcome.CANNOT_TELL.headline
        if set(asked) <= {StepKey.STOP_START_LIST, StepKey.RESERVE_TEST} and asks_why_stop_start_stopped(case):
            headline += ": why stop-start stopped"
        return Decision(Outcome.CANNOT_TELL, headline, cheapest(asked, case))
    if Outcome.WATCH in towards:
        return Decision(Outcome.WATCH, Outcome.WATCH.headline, step(StepKey.RETEST_LATER, case))
    back = _brought_back_from(case)
    if back is not None:
        return Decision(Outcome.WATCH, f"Watch it: brought back from {back:.1f} V", step(StepKey.RETEST_LATER, case))
    return Decision(Outcome.SOUND, Outcome.SOUND.headline, step(StepKey.GIVE_BACK, case))


def _brought_back_from(case: Case) -> float | None:
    """The rest volts [V] it was brought back from, where they lay so low that it is watched; None otherwise."""
    least = case.rules.brought_back_below_volts.value * volts_scale(case.battery.nominal_volts)
    low = [volts.volts for volts in case.valid_rest_volts if under(volts.volts, least, VOLTS)]
    return min(low, default=None)


def _is_firm_pull(found: Finding, case: Case) -> bool:
    return (
        found.kind == Kind.ADJUSTABLE_LOAD
        and found.status == "counts"
        and at_least(found.weight, case.rules.strong_weight.value, RATIO)
    )


def _condemned(
    outcome: Outcome,
    towards: dict[Outcome, list[Finding]],
    findings: tuple[Finding, ...],
    pulls: list[Outcome],
    case: Case,
) -> Decision:
    """A failing outcome, unless something stands against it that must be settled first."""
    agreeing = towards[outcome]
    kinds = {found.kind for found in agreeing}
    broken = next((found for found in agreeing if found.kind == Kind.COLLAPSE), None)
    if broken is not None:
        return Decision(outcome, "Broken inside: it collapses under load", step(StepKey.REPLACE, case))
    opposing = [
        found
        for found in towards.get(Outcome.SOUND, ())
        if at_least(found.weight, case.rules.strong_weight.value, RATIO)
    ]
    if opposing and kinds == {Kind.LOOK}:
        return _eye_against_a_pass(case)
    if opposing and outcome is not Outcome.LEAKS_CHARGE:  # a strong battery may still lose its charge: no contradiction
        return _conflict(outcome, agreeing, opposing, findings, pulls, case)
    if outcome is Outcome.LEAKS_CHARGE:
        over_the_top = _over_the_top(agreeing, findings, case)
        if over_the_top is not None:
            return over_the_top
    if outcome is Outcome.WORN_OUT:
        first = _before_worn_out(kinds, towards, findings, pulls, case)
        if first is not None:
            return first
    stop = any(found.remedy == StepKey.STOP_CHARGE for found in agreeing)
    return Decision(outcome, outcome.headline, step(StepKey.STOP_CHARGE if stop else StepKey.REPLACE, case))


def _eye_against_a_pass(case: Case) -> Decision:
    """An eye sees one cell of six, and sticks: against a battery that passes it asks for a second look, then a watch."""
    clear = [look for look in case.looks if look.eye is Eye.CLEAR]
    if len(clear) > 1:
        return Decision(
            Outcome.WATCH, "Watch it: the eye stays clear, the battery passes", step(StepKey.RETEST_LATER, case)
        )
    return Decision(Outcome.CANNOT_TELL, "The eye says dry, the battery passes", step(StepKey.LOOK_AGAIN, case))


def _before_worn_out(
    kinds: set[Kind],
    towards: dict[Outcome, list[Finding]],
    findings: tuple[Finding, ...],
    pulls: list[Outcome],
    case: Case,
) -> Decision | None:
    """What this house does before it calls a battery worn out: its own method, a second one, a second pull, a recovery charge."""
    deciding = _deciding(case)
    if kinds == {Kind.ELECTRONIC_TESTER} and Kind.ELECTRONIC_TESTER not in deciding:
        return Decision(
            Outcome.CANNOT_TELL,
            "Cannot tell yet: this house decides by another method",
            step(STEP_OF_KIND[deciding[0]], case),
        )
    if Kind.LOOK in kinds:
        return None
    if len(kinds) < case.rules.methods_to_condemn.value:
        second = StepKey.TESTER if Kind.ADJUSTABLE_LOAD in kinds else StepKey.LOAD_TEST
        return Decision(Outcome.CANNOT_TELL, "One method says worn out; this house wants a second", step(second, case))
    if kinds == {Kind.ADJUSTABLE_LOAD} and max(pulls.count(Outcome.WORN_OUT), 1) < _pulls_asked(case):
        return _second_pull(towards, findings, case)
    if _stood_flat_for_long(case) and may_recover(case):
        return Decision(
            Outcome.NEEDS_CHARGE,
            "It stood flat for long: one recovery charge first",
            step(StepKey.RECOVERY_CHARGE, case),
        )
    return None


def _pulls_asked(case: Case) -> int:
    """Failed pulls this house wants before it condemns by pulling alone."""
    rule = case.rules.pulls_to_condemn.value
    return 2 if rule == "two" or (rule == "two_for_returns" and case.context.came_in is CameIn.RETURNED) else 1


def _second_pull(towards: dict[Outcome, list[Finding]], findings: tuple[Finding, ...], case: Case) -> Decision:
    """After a first fail: wait, read the volts, charge where they are low, pull again."""
    pulled_at = case.all_of(AdjustableLoad)[-1].taken_at
    since = max(filter(None, (pulled_at, case.charge_off_at)))
    if not any(volts.taken_at > since for volts in case.valid_rest_volts):
        return Decision(
            Outcome.CANNOT_TELL, "One pull failed: a second decides", step(StepKey.MEASURE_AFTER_PULL, case)
        )
    if Outcome.NEEDS_CHARGE in towards:
        return _needs_charge(towards[Outcome.NEEDS_CHARGE], findings, case)
    return Decision(Outcome.CANNOT_TELL, "One pull failed: a second decides", step(StepKey.LOAD_AGAIN, case))


def _stood_flat_for_long(case: Case) -> bool:
    """Whether it stood for weeks, by its story or by rest volts under the line that far apart."""
    low = [volts.taken_at for volts in case.valid_rest_volts if under(volts.volts, case.recharge_line_volts, VOLTS)]
    if not low:
        return False
    if case.context.complaint is Complaint.STOOD_FOR_WEEKS:
        return True
    return at_least((max(low) - min(low)).total_seconds() / SECONDS_PER_DAY, case.rules.low_for_long_days.value, HOURS)


SECONDS_PER_DAY = 86400


def _over_the_top(agreeing: list[Finding], findings: tuple[Finding, ...], case: Case) -> Decision | None:
    """A loss that a dirty top may explain: clean it first, and let it stand again once it is clean."""
    tops = case.all_of(CaseLeakage)
    limit = case.rules.leakage_volts.value
    if not any(over(top.worst_volts, limit, VOLTS) for top in tops):
        return None
    if any(found.remedy == StepKey.CLEAN_TOP and found.status != "dropped" for found in findings):
        return Decision(
            Outcome.CANNOT_TELL, "It loses charge, perhaps over its dirty top", step(StepKey.CLEAN_TOP, case)
        )
    kinds = {found.kind for found in agreeing}
    lost_at = max(reading.taken_at for reading in case.readings if reading.kind in kinds)
    if not over(tops[-1].worst_volts, limit, VOLTS) and tops[-1].taken_at > lost_at:
        return Decision(
            Outcome.CANNOT_TELL,
            "It lost charge over its dirty top, or inside: stand it again",
            step(StepKey.STAND, case),
        )
    return None


def _conflict(
    outcome: Outcome,
    agreeing: list[Finding],
    opposing: list[Finding],
    findings: tuple[Finding, ...],
    pulls: list[Outcome],
    case: Case,
) -> Decision:
    """Two strong findings disagree: never averaged. Two pulls that agree decide; until then the next pull is asked for."""
    if any(found.kind == Kind.ADJUSTABLE_LOAD for found in agreeing) and pulls.count(outcome) >= 2:
        return Decision(outcome, outcome.headline, step(StepKey.REPLACE, case))
    if (
        any(found.kind == Kind.ADJUSTABLE_LOAD for found in opposing)
        and pulls.count(Outcome.SOUND) >= 2
        and outcome is Outcome.WORN_OUT
    ):
        missing = _missing(findings, case)
        if not missing:
            return Decision(Outcome.SOUND, Outcome.SOUND.headline, step(StepKey.GIVE_BACK, case))
    return Decision(
        Outcome.CANNOT_TELL,
        f"Two strong readings disagree: {'a second pull' if pulls else 'the load test'} decides",
        step(StepKey.LOAD_AGAIN if pulls else StepKey.LOAD_TEST, case),
        conflict=True,
    )


def pulls_of(read: tuple[Finding, ...]) -> list[Outcome]:
    """What every pull with the adjustable load that counted says, the earlier ones too."""
    return [
        found.points_to
        for found in read
        if found.kind == Kind.ADJUSTABLE_LOAD and found.status == "counts" and found.points_to is not None
    ]


def _needs_charge(asking: list[Finding], findings: tuple[Finding, ...], case: Case) -> Decision:
    """A charge; water before it where plates are bare, an equalising one where cells ask for it."""
    look = [found.remedy for found in findings if found.kind == Kind.LOOK and found.status != "dropped"]
    key = StepKey.CHARGE_AND_RETEST
    if StepKey.TOP_UP in look[-1:]:
        key = StepKey.TOP_UP
    else:
        special = (StepKey.EQUALISE, StepKey.WATCH_CHARGE, StepKey.CHARGE_AND_WATCH)
        key = next((one for one in special if any(found.remedy == one for found in asking)), key)
    return Decision(Outcome.NEEDS_CHARGE, Outcome.NEEDS_CHARGE.headline, step(key, case))


def _deciding(case: Case) -> tuple[Kind, ...]:
    """The kinds of reading this house decides by, for this battery: with tools it has, cells only where somebody saw caps,
    the starter only where the car is there, and reserve where that is its work."""
    if works_by_reserve(case) and not lacks_tool(StepKey.RESERVE_TEST, case.rules):
        return (Kind.RESERVE,)
    kinds = tuple(
        kind
        for kind in map(Kind, case.rules.deciding_kinds.value)
        if not lacks_tool(STEP_OF_KIND[kind], case.rules)
        and (kind != Kind.CELLS or (case.battery.has_caps and not sealed(case)))
        and (kind != Kind.CRANK or case.context.came_in is CameIn.IN_CAR)
    )
    return kinds or (Kind.ADJUSTABLE_LOAD,)


def _missing(findings: tuple[Finding, ...], case: Case) -> list[StepKey]:
    """The steps that would bring in what is not yet known. The charge comes first: no other figure can be read without."""
    there = {found.kind for found in findings if found.status != "dropped"}
    if not VOLTS_KINDS & there:
        return [_again(Kind.REST_VOLTS, StepKey.MEASURE_VOLTS, findings)]
    for kind in _deciding(case):
        if kind in there or (kind == Kind.ELECTRONIC_TESTER and Kind.ADJUSTABLE_LOAD in there):
            continue
        asked = _again(kind, STEP_OF_KIND[kind], findings)
        if asked is StepKey.LOAD_TEST and kind in {Kind.FIXED_LOAD, Kind.CRANK} and lacks_tool(asked, case.rules):
            if Kind.CRANK in there or Kind.ELECTRONIC_TESTER in there:
                continue  # too small to pass it, not failing it, and another method holds
            asked = StepKey.CRANK_TEST if case.context.came_in is CameIn.IN_CAR else asked
        needs_rating = (
            asked in {StepKey.TESTER, StepKey.LOAD_TEST} and case.rated is None and not works_by_reserve(case)
        )
        return [StepKey.READ_LABEL] if needs_rating else [asked]
    return [StepKey.STAND] if _must_stand(there, case) else _stop_start_open(there, case)


def _stop_start_open(there: set[Kind], case: Case) -> list[StepKey]:
    """What is still open where stop-start stopped: the list of what it waits for, then the reserve that starting amps hide."""
    if not asks_why_stop_start_stopped(case) or asked_type(case) is not None:
        return []
    seen = case.all_of(Car)
    if any(faults_of(reading, case) for reading in seen[-1:]):
        return []
    ticked = {one for reading in seen for one in reading.waits_checked}
    if len(ticked) < len(Waits):
        return [StepKey.STOP_START_LIST]
    return [] if Kind.RESERVE in there or case.battery.chemistry not in START_STOP_TYPES else [StepKey.RESERVE_TEST]


START_STOP_TYPES = frozenset({Chemistry.EFB, Chemistry.AGM})
"""They lose capacity before starting amps."""


def _must_stand(there: set[Kind], case: Case) -> bool:
    """Whether it came in flat and has not yet shown that it holds a charge, where the house asks for that."""
    if Kind.STAND in there or case.rules.stand_after_flat.value != "yes":
        return False
    line = recharge_line_volts(case.battery, case.rules)
    came_flat = any(
        under(volts.volts, line, VOLTS) and not case.charged_before(volts) for volts in case.valid_rest_volts
    )
    stood = any(
        at_least(volts.rested_hours or 0, case.rules.stand_hours.value, HOURS)
        for volts in case.valid_rest_volts
        if at_least(volts.volts, line, VOLTS) and (volts.after_full_charge or case.charged_before(volts))
    )
    return came_flat and not stood


def _again(kind: Kind, first: StepKey, findings: tuple[Finding, ...]) -> StepKey:
    """The remedy of the last reading of a kind that fell off for a reason one can mend, else the first step."""
    remedies = [
        found.remedy
        for found in findings
        if found.kind == kind and found.remedy and found.why_not != "from before the charge"
    ]
    return remedies[-1] if remedies else first


def joined(findings: Iterable[Finding]) -> float:
    """Weight of findings that agree: 1 minus the product of what each leaves open."""
    return 1 - math.prod(1 - found.weight for found in findings)
