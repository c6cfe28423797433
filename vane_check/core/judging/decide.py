"""What is decided of the findings: safety, then conflict, then the strongest evidence, then what is still missing."""

from dataclasses import replace

from ..battery.label import CameIn
from ..evidence.cells import cell_under_mates_before_the_charge
from ..evidence.rest_volts import missing_cells, near_one_cell_short
from ..facts.case import Case
from ..facts.state_of_charge import volts_scale
from ..findings.kinds import Kind, StepKey
from ..findings.outcomes import FAILED, Finding, Outcome
from ..readings import METHOD_OF_STEP, QUICK_STARTING, SHOWS_HEALTH, STARTING, Cells, ElectronicTester, Stand
from ..units.compare import AMPS, RATIO, VOLTS, at_least, under
from ..words import NOTHING, fixed, in_a_row, say
from .condemning import condemned
from .decision import Decision, Earlier, combined_weight, needs_charge
from .estimate import any_part_below_limit, barely_enough, clears_a_guess, words_apart
from .jobs import Job, jobs_of
from .open_questions import again, tested_before_it_stood, unanswered
from .repeats import replace_repeated_step
from .steps import JOB_STEPS, NextStep, cheapest, job_step, lacks_tool, load_figures, step, thaw_step


def decide(findings: tuple[Finding, ...], earlier: Earlier, case: Case) -> Decision:
    """What the readings say; where nobody has looked it over that comes first, and nothing is sound without it.

    Jobs hold it: those before testing come before the tests they spoil, those before hand-back make it sound after them.
    """
    decision = replace_repeated_step(_charged_first(_decided(findings, earlier, case), case), case)
    jobs = jobs_of(case, decision.outcome)
    if decision.outcome in FAILED | {Outcome.UNSAFE} or case.looks:
        return _with_jobs(decision, jobs, case)._replace(jobs=jobs)
    if case.context.came_in is CameIn.SOLD and decision.outcome is not Outcome.NEEDS_CHARGE:
        # a new one on its way out: nobody tested it and nobody is asked to
        return Decision(Outcome.CANNOT_TELL, say("decide.sold_as_new"), step(StepKey.SOLD, case))
    look = step(StepKey.LOOK, case)
    if decision.outcome in {Outcome.SOUND, Outcome.WATCH}:
        return Decision(Outcome.CANNOT_TELL, say("decide.it_reads_well_but_nobody_has_looked_it"), look, jobs=jobs)
    return decision._replace(next_step=look, jobs=jobs)


def _charged_first(decision: Decision, case: Case) -> Decision:
    """A timed discharge leaves it flat: what stands on charge waits for one."""
    key = decision.next_step.key
    if decision.outcome is not Outcome.CANNOT_TELL or not case.is_emptied:
        return decision
    if not key.wants_charge and key not in {StepKey.STAND, StepKey.TESTER, StepKey.TESTER_AGAIN}:
        return decision
    words = say("decide.the_discharge_left_it_flat_charge_it")
    return Decision(Outcome.NEEDS_CHARGE, words, step(StepKey.CHARGE_AND_RETEST, case))


NAMED_AT_MOST = 2
"""A headline is read across a counter: of more jobs it says how many, and they stand below it."""


def _named_job(decision: Decision, jobs: tuple[Job, ...]) -> Decision:
    """A step that is a job says which, so that it can be marked as done."""
    job = next((job for job in jobs if JOB_STEPS.get(job.key) is decision.next_step.key), None)
    return decision if job is None else decision._replace(next_step=replace(decision.next_step, job=job.key))


def _with_jobs(decision: Decision, jobs: tuple[Job, ...], case: Case) -> Decision:
    if decision.outcome in {Outcome.SOUND, Outcome.WATCH}:
        holding = [job for job in jobs if job.holds]
        if not holding:
            return decision
        named = list(dict.fromkeys(job.short for job in holding))
        headline = (
            say("decide.after", headline=decision.headline, named=in_a_row(named, ", "))
            if len(named) <= NAMED_AT_MOST
            else say("decide.after_jobs", headline=decision.headline, count=len(named))
        )
        return decision._replace(headline=headline, next_step=job_step(holding[0], case))
    if decision.next_step.key is StepKey.TOP_UP and not any(job.key == "top_up" for job in jobs):
        fill = next((job for job in jobs if job.key == "fill_to_mark"), None)
        return decision._replace(next_step=job_step(fill, case) if fill else step(StepKey.CHARGE_AND_RETEST, case))
    if (
        decision.outcome not in {Outcome.CANNOT_TELL, Outcome.NEEDS_CHARGE}
        or decision.next_step.key in JOB_STEPS.values()
    ):
        return decision if decision.next_step.key not in JOB_STEPS.values() else _named_job(decision, jobs)
    key = decision.next_step.key
    top = next((job for job in jobs if job.key == "clean_top"), None)
    if key is StepKey.STAND and top is not None:  # what drains over its top says nothing of what it holds
        return decision._replace(next_step=job_step(top, case))
    first = next((job for job in jobs if job.when != "before hand-back" and job.key in JOB_STEPS), None)
    method = METHOD_OF_STEP.get(key)
    if first is None or (first.key == "clean_posts" and not (method and method.through_posts)):
        return decision
    if first.key == "top_up" and not (method and method.needs_acid):
        return decision
    return decision._replace(next_step=job_step(first, case))


def _decided(findings: tuple[Finding, ...], earlier: Earlier, case: Case) -> Decision:
    """Safety, then conflict, then the strongest valid evidence, then what is still missing."""
    towards = _towards(findings, case)
    if Outcome.UNSAFE in towards:
        return _unsafe(towards[Outcome.UNSAFE], case)
    condemning = max(
        FAILED & towards.keys(), key=lambda outcome: (combined_weight(towards[outcome]), outcome), default=None
    )
    if condemning is not None:
        return condemned(condemning, towards, findings, earlier, case)
    if Outcome.NEEDS_CHARGE in towards:
        return needs_charge(towards[Outcome.NEEDS_CHARGE], findings, case)
    open_steps = unanswered(findings, case)
    if open_steps == [StepKey.STAND]:  # minutes before days
        doubt = _hardly_enough(findings, earlier, case)
        if doubt is not None and doubt.outcome is Outcome.CANNOT_TELL:
            return doubt
    if Outcome.CANNOT_TELL in towards or open_steps:
        open_ = towards.get(Outcome.CANNOT_TELL, [])
        pulled = any(finding.kind == Kind.ADJUSTABLE_LOAD for finding in open_)
        due = [
            *open_steps,
            *(
                finding.remedy
                for finding in open_
                if finding.remedy and not (pulled and finding.kind in QUICK_STARTING)
            ),
        ]
        if StepKey.STAND in due and StepKey.RESERVE_TEST in due:
            due.remove(StepKey.RESERVE_TEST)  # the discharge leaves it flat: what it holds is seen first
        volts = StepKey.MEASURE_VOLTS  # volts that fell off for want of rest are not read again as they stand
        due = [again(Kind.REST_VOLTS, key, findings) if key is volts else key for key in due]
        headline = Outcome.CANNOT_TELL.headline
        if set(due) <= {StepKey.STOP_START_LIST, StepKey.RESERVE_TEST} and case.asks_why_stop_start_stopped:
            headline = say("decide.cannot_tell_yet_why_stop_start_stopped")
        return Decision(Outcome.CANNOT_TELL, headline, cheapest(due, case))
    once_more = tested_before_it_stood(findings, case)
    if once_more is not None:
        because = say("decide.it_had_to_stand_on_a_cell_may_have_emptied")
        return Decision(Outcome.CANNOT_TELL, Outcome.CANNOT_TELL.headline, step(once_more, case, because))
    if Outcome.WATCH in towards:
        return Decision(Outcome.WATCH, Outcome.WATCH.headline, step(StepKey.RETEST_LATER, case))
    doubt = _hardly_enough(findings, earlier, case)
    if doubt is not None:
        return doubt
    back = _remembered(case) or _brought_back(case)
    if back is not None:
        return back
    if not any(finding.points_to is Outcome.SOUND and finding.kind in SHOWS_HEALTH for finding in findings):
        return _without_a_pass(case)
    return Decision(Outcome.SOUND, Outcome.SOUND.headline, step(StepKey.GIVE_BACK, case))


def _towards(findings: tuple[Finding, ...], case: Case) -> dict[Outcome, list[Finding]]:
    """What points where; a firm pull settles what the quicker starting tests leave open, and proved reserve what they doubt."""
    towards: dict[Outcome, list[Finding]] = {}
    settled = any(_is_firm_pull(finding, case) or _ends_a_guess(finding) for finding in findings) or clears_a_guess(
        case
    )
    works = any(finding.kind == Kind.RESERVE and finding.points_to is Outcome.SOUND for finding in findings)
    for found in findings:
        if found.points_to is None or found.kind == Kind.SAG:
            continue
        if works and found.points_to is Outcome.WATCH:
            continue  # a starting test says little where its own work is proved
        if works and case.judged_by_reserve and found.kind in STARTING and found.points_to is Outcome.CANNOT_TELL:
            continue
        if settled and found.kind in QUICK_STARTING and found.points_to is Outcome.CANNOT_TELL:
            continue
        towards.setdefault(found.points_to, []).append(found)
    worn = towards.get(Outcome.WORN_OUT, [])
    if (
        worn
        and not FAILED & (towards.keys() - {Outcome.WORN_OUT})
        and all(finding.kind == Kind.FADE for finding in worn)
    ):
        towards.setdefault(Outcome.WATCH, []).extend(towards.pop(Outcome.WORN_OUT))  # a charge never condemns alone
    return towards


def _unsafe(findings: list[Finding], case: Case) -> Decision:
    if {finding.kind for finding in findings} == {Kind.ICE}:
        return Decision(Outcome.UNSAFE, say("decide.unsafe_it_may_hold_ice"), thaw_step(case))
    return Decision(Outcome.UNSAFE, Outcome.UNSAFE.headline, step(StepKey.HOLD_APART, case))


def _hardly_enough(findings: tuple[Finding, ...], earlier: Earlier, case: Case) -> Decision | None:
    """A pull is still held at some sixty per cent of the rating, and a tester passes by a hair: where the estimate lies under the
    house's share another method is asked where there is one, and what all say together is no plain sound."""
    if case.judged_by_reserve:
        return None
    there = {finding.kind for finding in findings if finding.status != "dropped"}
    pulled, tested = Kind.ADJUSTABLE_LOAD in there, Kind.ELECTRONIC_TESTER in there
    if any_part_below_limit(case):
        return _lie_apart(pulled, earlier, case)
    if not barely_enough(case):
        return None
    other = StepKey.TESTER if not tested else StepKey.LOAD_TEST if not pulled else None
    if other is None or not _can_settle(other, case):
        return Decision(Outcome.WATCH, say("decide.watch_it_it_gives_hardly_enough"), step(StepKey.RETEST_LATER, case))
    return Decision(Outcome.CANNOT_TELL, say("decide.it_passes_and_gives_hardly_enough"), step(other, case))


def _without_a_pass(case: Case) -> Decision:
    """Charged, and nothing that passes it: what would, where its rating is a guess that it held; else it is watched."""
    if clears_a_guess(case):
        return Decision(Outcome.SOUND, Outcome.SOUND.headline, step(StepKey.GIVE_BACK, case))
    surer = _passes_a_guess(case)
    if surer is not None:
        return Decision(Outcome.CANNOT_TELL, say("decide.it_holds_and_its_rating_is_a_guess"), surer)
    words = say("decide.watch_it_charged_but_nothing_here_measured")
    return Decision(Outcome.WATCH, words, step(StepKey.RETEST_LATER, case))


def _passes_a_guess(case: Case) -> NextStep | None:
    """What passes a battery that held a pull sized by a guess: a tester, or a pull as hard as the most it may be rated asks."""
    if not case.held_a_guess:
        return None
    if not case.all_of(ElectronicTester) and not lacks_tool(StepKey.TESTER, case.rules):
        return step(StepKey.TESTER, case)
    amps = load_figures(case).amps
    pulled = amps is None or any(
        at_least(pull.amps, amps * case.rules.load.enough_ratio.value, AMPS) for pull in case.pulls
    )
    return None if pulled or lacks_tool(StepKey.LOAD_TEST, case.rules) else step(StepKey.LOAD_TEST, case)


def _can_settle(key: StepKey, case: Case) -> bool:
    return not lacks_tool(key, case.rules) and (key is not StepKey.LOAD_TEST or load_figures(case).can_pass)


def _lie_apart(pulled: bool, earlier: Earlier, case: Case) -> Decision | None:
    """Passed, with one method under the house's share: a second pull, the tester clamped again, then a load decide."""
    if pulled:
        enough = earlier.pulls.count(Outcome.SOUND) >= 2
        return None if enough else Decision(Outcome.CANNOT_TELL, words_apart(case), step(StepKey.LOAD_AGAIN, case))
    headline = words_apart(case)
    for key, is_new in ((StepKey.TESTER_AGAIN, len(earlier.testers) < 2), (StepKey.LOAD_TEST, True)):
        if is_new and _can_settle(key, case):
            return Decision(Outcome.CANNOT_TELL, headline, step(key, case), conflict=True)
    return Decision(Outcome.WATCH, say("decide.watch_it_its_figures_lie_apart"), step(StepKey.RETEST_LATER, case))


def _remembered(case: Case) -> Decision | None:
    """What stood before a charge as if a cell were gone, or a cell far under its mates, is not forgotten once the charge is in:
    cells that open are read again; one that was as good as gone is watched however well it reads then."""
    before = [volts for volts in case.valid_rest_volts if case.charge_off_at and volts.taken_at < case.charge_off_at]
    gone = [
        volts.volts
        for volts in before
        if missing_cells(volts.volts, case) == 1 and near_one_cell_short(volts.volts, case)
    ]
    under_mates = cell_under_mates_before_the_charge(case)
    if not gone and under_mates is None:
        return None
    stood = case.last_of(Stand)
    held = stood is not None and case.charge_off_at is not None and stood.taken_at > case.charge_off_at
    if gone and held and under_mates is None:
        return None  # it came to its volts on charge, and a night showed no loss
    since = [cells for cells in case.all_of(Cells) if case.charge_off_at and cells.taken_at >= case.charge_off_at]
    words = (
        say("decide.it_rested_at_v_as_if_a_cell_were_gone", gone=fixed(gone[0], 2))
        if gone
        else say("decide.lay_far_under_its_mates", under_mates=under_mates or NOTHING)
    )
    if since:
        return (
            None
            if not gone
            else Decision(Outcome.WATCH, say("decide.watch_it", words=words), step(StepKey.RETEST_LATER, case))
        )
    can_read = case.battery.has_caps and not case.sealed and not lacks_tool(StepKey.CELLS, case.rules)
    if can_read and under_mates is not None:
        return Decision(Outcome.CANNOT_TELL, say("decide.before_the_charge", words=words), step(StepKey.CELLS, case))
    return Decision(
        Outcome.WATCH, say("decide.watch_it_before_the_charge", words=words), step(StepKey.RETEST_LATER, case)
    )


def _brought_back(case: Case) -> Decision | None:
    """What was brought back from rest volts so low that it is watched; None otherwise."""
    least = case.rules.rest.brought_back_below_volts.value * volts_scale(case.battery.nominal_volts)
    low = [volts.volts for volts in case.valid_rest_volts if under(volts.volts, least, VOLTS)]
    if not low:
        return None
    words = say("decide.watch_it_brought_back_from_v", low=fixed(min(low), 1))
    return Decision(Outcome.WATCH, words, step(StepKey.RETEST_LATER, case))


def _is_firm_pull(finding: Finding, case: Case) -> bool:
    return (
        finding.kind == Kind.ADJUSTABLE_LOAD
        and finding.status == "counts"
        and at_least(finding.weight, case.rules.weight.strong.value, RATIO)
    )


def _ends_a_guess(finding: Finding) -> bool:
    """Whether it held the pull of a guessed rating and not the harder one: no more can be told without a label."""
    return finding.kind == Kind.ADJUSTABLE_LOAD and finding.points_to is Outcome.WATCH


def earlier_of(read: tuple[Finding, ...]) -> Earlier:
    """What every pull and every tester that counted says, the earlier ones too."""
    outcomes: dict[Kind, list[Outcome]] = {Kind.ADJUSTABLE_LOAD: [], Kind.ELECTRONIC_TESTER: []}
    for result in read:
        if result.kind in outcomes and result.status == "counts" and result.points_to is not None:
            outcomes[result.kind].append(result.points_to)
    return Earlier(outcomes[Kind.ADJUSTABLE_LOAD], outcomes[Kind.ELECTRONIC_TESTER])
