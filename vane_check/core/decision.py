"""What is decided of the findings: safety, then conflict, then the strongest evidence, then what is still missing."""

from .asking import again, missing
from .charge import volts_scale
from .compare import RATIO, VOLTS, at_least, under
from .condemning import condemned
from .decided import Decision, Earlier, joined, needs_charge
from .ending import at_its_end
from .estimate import stands_to_limit
from .evidence import Case
from .evidence.known import asks_why_stop_start_stopped
from .jobs import Job, jobs_of
from .kinds import Kind, StepKey
from .outcomes import FAILED, Finding, Outcome
from .steps import JOB_STEPS, cheapest, job_step, lacks_tool, step

STARTING_KINDS = frozenset({Kind.ELECTRONIC_TESTER, Kind.FIXED_LOAD, Kind.CRANK})
"""Quicker starting tests: a counted pull with the adjustable load settles what they leave open."""


def decide(findings: tuple[Finding, ...], earlier: Earlier, case: Case) -> Decision:
    """What the readings say; where nobody has looked it over that comes first, and nothing is sound without it.

    Jobs hold it: those before testing come before the tests they spoil, those before hand-back make it sound after them.
    """
    said = at_its_end(_decided(findings, earlier, case), case)
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


def _decided(findings: tuple[Finding, ...], earlier: Earlier, case: Case) -> Decision:
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
        return condemned(condemning, towards, findings, earlier, case)
    if Outcome.NEEDS_CHARGE in towards:
        return needs_charge(towards[Outcome.NEEDS_CHARGE], findings, case)
    open_steps = missing(findings, case)
    if Outcome.CANNOT_TELL in towards or open_steps:
        open_ = towards.get(Outcome.CANNOT_TELL, [])
        pulled = any(found.kind == Kind.ADJUSTABLE_LOAD for found in open_)
        asked = [
            *open_steps,
            *(one.remedy for one in open_ if one.remedy and not (pulled and one.kind in STARTING_KINDS)),
        ]
        volts = StepKey.MEASURE_VOLTS  # volts that fell off for want of rest are not read again as they stand
        asked = [again(Kind.REST_VOLTS, key, findings) if key is volts else key for key in asked]
        headline = Outcome.CANNOT_TELL.headline
        if set(asked) <= {StepKey.STOP_START_LIST, StepKey.RESERVE_TEST} and asks_why_stop_start_stopped(case):
            headline += ": why stop-start stopped"
        return Decision(Outcome.CANNOT_TELL, headline, cheapest(asked, case))
    if Outcome.WATCH in towards:
        return Decision(Outcome.WATCH, Outcome.WATCH.headline, step(StepKey.RETEST_LATER, case))
    doubt = _hardly_enough(findings, case)
    if doubt is not None:
        return doubt
    back = _brought_back_from(case)
    if back is not None:
        return Decision(Outcome.WATCH, f"Watch it: brought back from {back:.1f} V", step(StepKey.RETEST_LATER, case))
    return Decision(Outcome.SOUND, Outcome.SOUND.headline, step(StepKey.GIVE_BACK, case))


def _hardly_enough(findings: tuple[Finding, ...], case: Case) -> Decision | None:
    """A pull is still held at some sixty per cent of the rating: where its own estimate lies clearly under the house's share, a
    tester is asked where there is one, and what both say together is no plain sound."""
    there = {found.kind for found in findings if found.status != "dropped"}
    if Kind.ADJUSTABLE_LOAD not in there or stands_to_limit(case) != "under":
        return None
    if Kind.ELECTRONIC_TESTER in there:
        return Decision(Outcome.WATCH, "Watch it: it gives hardly enough", step(StepKey.RETEST_LATER, case))
    if lacks_tool(StepKey.TESTER, case.rules) or case.rated is None:
        return None
    return Decision(Outcome.CANNOT_TELL, "It holds the pull, and gives hardly enough", step(StepKey.TESTER, case))


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


def earlier_of(read: tuple[Finding, ...]) -> Earlier:
    """What every pull and every tester that counted says, the earlier ones too."""
    said: dict[Kind, list[Outcome]] = {Kind.ADJUSTABLE_LOAD: [], Kind.ELECTRONIC_TESTER: []}
    for found in read:
        if found.kind in said and found.status == "counts" and found.points_to is not None:
            said[found.kind].append(found.points_to)
    return Earlier(said[Kind.ADJUSTABLE_LOAD], said[Kind.ELECTRONIC_TESTER])
