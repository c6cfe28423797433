"""Findings -> outcome, confidence, reasons, and one next step. Pure: the same check and rules give the same judgement."""

from dataclasses import dataclass
from datetime import date, tzinfo

from pydantic import BaseModel, ConfigDict

from ..battery.label import RESERVE_USES, CameIn, Complaint
from ..evidence import rest_volts
from ..evidence.car import faults_of
from ..evidence.fade import fade
from ..evidence.filling import dry, fresh_filling
from ..evidence.ice import ice
from ..evidence.its_car import stop_start, wrong_type
from ..evidence.register import find
from ..evidence.under_load import collapse, sag
from ..facts.capacity import is_known_to_hold
from ..facts.case import Case
from ..facts.state_of_charge import StateOfCharge
from ..findings.kinds import Kind, StepKey
from ..findings.outcomes import FAILED, Finding, Outcome
from ..house.rules import HouseRules
from ..odds.second_opinion import Odds, odds_of, share_of
from ..readings import Car
from ..readings.check import Check
from ..tables.base import COMMON_PRACTICE
from ..units.compare import RATIO, at_least
from ..units.months import add_months
from ..words import Words, capital, cited, in_a_row, rules_in_words, say
from .changes import void_since
from .decide import decide, earlier_of
from .decision import Decision, combined_weight
from .estimate import Estimate, estimate_of
from .jobs import Job, jobs_done, wet
from .outlook import Age, Cause, Prospect, age_of, cause_of, prospect_of
from .steps import NextStep
from .validity import OutsideValidity, outside_validity


class Judgement(BaseModel):
    """What is thought of a battery now, and why.

    `confidence` is 0 to 1; `sureness` its words. `findings` hold every reading, the dropped ones too.
    """

    model_config = ConfigDict(frozen=True)

    outcome: Outcome
    confidence: float
    sureness: Words
    headline: Words
    conflict: bool
    findings: tuple[Finding, ...]
    next_step: NextStep
    state_of_charge: StateOfCharge | None
    jobs: tuple[Job, ...] = ()
    """What stands open beside the next step; empty in judgements kept before this was told."""
    jobs_done: tuple[Words, ...] = ()
    estimate: Estimate | None = None
    odds: Odds | None = None
    """The second opinion, where it was asked for; the rules stay the judge."""
    not_measured: Words | None = None
    """What stays unknown although it is sound."""
    age: Age | None = None
    prospect: Prospect | None = None
    cause: Cause | None = None
    look_at_the_car: bool
    look_at_the_car_why: Words | None
    watch_until: date | None
    outside_validity: tuple[OutsideValidity, ...] = ()
    """Formulas that were fed with what they were not made for; empty in judgements kept before this was told."""
    rules_version: str
    rules_name: Words


BLAMES_THE_CAR = frozenset(
    {
        Complaint.WILL_NOT_START,
        Complaint.SLOW_CRANK,
        Complaint.CLICKS,
        Complaint.WARNING_LIGHT,
        Complaint.STOP_START_STOPPED,
    }
)


@dataclass(frozen=True, slots=True)
class Verdict:
    """What is decided of a battery and on what, before its outlook, its cause and its papers' words are worked out.

    Enough to replay a year of checks: `confidence` is 0 to 1, `decision` holds outcome, headline, jobs and next step.
    """

    case: Case
    findings: tuple[Finding, ...]
    decision: Decision
    confidence: float


def judge(check: Check, rules: HouseRules) -> Verdict:
    """Decide on one battery from everything read from it, under one version of the house's rules."""
    case = Case.of(check, rules)
    read = tuple(find(reading, case) for reading in case.readings)
    derived = (
        *_tester_volts(case),
        ice(case),
        sag(case),
        collapse(case),
        dry(case),
        fresh_filling(case),
        wrong_type(case),
        stop_start(case),
        fade(case),
    )
    findings = (*_superseded(read, case), *(finding for finding in derived if finding is not None))
    decision = decide(findings, earlier_of(read), case)
    return Verdict(case, findings, decision, _confidence(decision, findings))


def assess(check: Check, rules: HouseRules, zone: tzinfo | None = None, with_odds: bool = False) -> Judgement:
    """The whole judgement of one battery: what is decided, and what follows from it for its owner, its car and its papers.

    `zone` is the shop's, by which a date to come is counted; without it the readings' own offset is. `with_odds` asks for the second
    opinion too (some milliseconds); how sure a final outcome is is said by it then.
    """
    verdict = judge(check, rules)
    case, findings, decision, confidence = verdict.case, verdict.findings, verdict.decision, verdict.confidence
    odds = odds_of(case, findings, decision.outcome) if with_odds else None
    sure = confidence if odds is None else share_of(odds, decision.outcome, confidence)
    unmeasured, sureness = _not_measured(decision, findings, case), _sureness(decision, sure, rules)
    unsure = unmeasured is not None and sureness.key == "judgement.sure" and _works_by_what_it_holds(case)
    car_why = _car_why(decision.outcome, decision.next_step.key, case)
    age = age_of(case, _today(case, zone))
    return Judgement(
        outcome=decision.outcome,
        confidence=confidence,
        sureness=say("judgement.fairly_sure") if unsure else sureness,
        estimate=estimate_of(case),
        odds=odds,
        not_measured=unmeasured,
        headline=decision.headline,
        conflict=decision.conflict,
        findings=findings,
        next_step=decision.next_step,
        state_of_charge=case.state_of_charge,
        jobs=decision.jobs,
        jobs_done=jobs_done(case),
        age=age,
        prospect=prospect_of(case, decision.outcome),
        cause=cause_of(case, decision.outcome, age),
        look_at_the_car=car_why is not None,
        look_at_the_car_why=car_why,
        watch_until=_watch_until(decision.outcome, case, zone),
        outside_validity=outside_validity(findings, case),
        rules_version=rules.version,
        rules_name=rules_in_words(rules.name),
    )


def _tester_volts(case: Case) -> tuple[Finding, ...]:
    """What the tester's own volts say of the charge, where no meter said it better."""
    used = [volts for volts in case.tester_volts if any(volts is rest for rest in case.valid_rest_volts)]
    if not used:
        return ()
    result = rest_volts.find(used[-1], case)
    return (result.but(kind=Kind.TESTER_VOLTS, text=say("judgement.the_testers_own_volts", result_text=result.text)),)


def _today(case: Case, zone: tzinfo | None) -> date | None:
    """The day of the last reading; a judgement says the same whenever it is read again."""
    if not case.readings:
        return None
    last = case.readings[-1].taken_at
    return (last.astimezone(zone) if zone else last).date()


def _superseded(findings: tuple[Finding, ...], case: Case) -> tuple[Finding, ...]:
    """Of each kind the latest reading that counts stands; earlier ones fall off, and what a change since has made void. A hazard once
    seen stays."""
    last = {found.kind: index for index, found in enumerate(findings) if found.status != "dropped"}

    def stands(found: Finding, index: int) -> Finding:
        if found.status == "dropped" or found.points_to is Outcome.UNSAFE:
            return found
        if last[found.kind] != index:
            return _dropped(found, say("judgement.measured_again_later"), "newest_stands", COMMON_PRACTICE, "practice")
        void = void_since(found, case.readings[index], case)
        if void is None:
            return found
        by = case.rules.parameter(void.rule) if "." in void.rule else None
        source, standing = (void.origin.source, void.origin.standing) if by is None else (by.source, by.standing)
        return _dropped(found, void.why, void.rule, source, standing).but(remedy=void.asks)

    return tuple(stands(found, index) for index, found in enumerate(findings))


def _dropped(finding: Finding, why: Words, rule: str, source: str, standing: str) -> Finding:
    """A finding that fell off cites what dropped it, not what it was held against: a house rule, or common practice."""
    return finding.but(
        status="dropped", weight=0.0, points_to=None, why_not=why, rule=rule, source=cited(source), standing=standing
    )  # fmt: skip


def _confidence(decision: Decision, findings: tuple[Finding, ...]) -> float:
    """How sure, 0 to 1: agreeing weight, cut by what points elsewhere (charge and health do not contradict)."""
    findings = tuple(finding for finding in findings if finding.kind != Kind.SAG)
    agree = combined_weight(finding for finding in findings if finding.points_to is decision.outcome)
    if decision.outcome is Outcome.CANNOT_TELL:
        return round(0.5 * agree, 3)
    if decision.outcome is Outcome.WATCH and not agree:  # watched for want of a test: as sure as what there is
        return round(0.5 * combined_weight(finding for finding in findings if finding.points_to is Outcome.SOUND), 3)
    if decision.outcome in FAILED | {Outcome.UNSAFE, Outcome.NEEDS_CHARGE, Outcome.WATCH}:
        return round(agree, 3)
    works = any(finding.kind == Kind.RESERVE and finding.points_to is Outcome.SOUND for finding in findings)
    settled = {
        None,
        decision.outcome,
        *((Outcome.WATCH,) if works else ()),
    }  # its own work outranks what only doubts it
    against = combined_weight(finding for finding in findings if finding.points_to not in settled)
    return round(agree * (1 - against / 2), 3)


def _sureness(decision: Decision, confidence: float, rules: HouseRules) -> Words:
    if decision.outcome is Outcome.CANNOT_TELL:
        return say("judgement.evidence_disagrees") if decision.conflict else say("judgement.not_enough_to_go_on")
    if at_least(confidence, rules.decision.sure_at.value, RATIO):
        return say("judgement.sure")
    return (
        say("judgement.fairly_sure")
        if at_least(confidence, rules.decision.fairly_sure_at.value, RATIO)
        else say("judgement.not_sure")
    )


def _not_measured(decision: Decision, findings: tuple[Finding, ...], case: Case) -> Words | None:
    """Starting amps say little of what a battery holds: said wherever nobody measured it."""
    measured = any(finding.kind == Kind.RESERVE and finding.status != "dropped" for finding in findings)
    if decision.outcome is not Outcome.SOUND or measured or is_known_to_hold(case):
        return None
    return say("judgement.it_starts_well_what_it_holds_was_not")


def _works_by_what_it_holds(case: Case) -> bool:
    """Whether its work is to hold more than to start: such a pass is never plainly sure without a measure of it."""
    context = case.context
    return context.use in RESERVE_USES or context.stop_start_car or case.asks_why_stop_start_stopped


def _car_why(outcome: Outcome, step_key: StepKey, case: Case) -> Words | None:
    """Why the car should be looked at too; never a reason against the battery."""
    seen = case.last_of(Car)
    faults = faults_of(seen, case) if seen else []
    if faults:
        return capital(in_a_row(faults, "; "))
    context = case.context
    if wet(case) is not None:  # what drains over its top is cleaned before the car is blamed
        return None
    open_steps = {StepKey.STOP_START_LIST, StepKey.RESERVE_TEST}
    if case.asks_why_stop_start_stopped and case.type_the_car_asks_for is None and step_key in open_steps:
        return say("judgement.stop_start_also_waits_for_doors_belt")
    if seen or context.use in RESERVE_USES or context.complaint not in BLAMES_THE_CAR:
        return None
    if outcome is Outcome.SOUND:
        why = say("judgement.the_battery_is_sound_so_the_complaint")
        if context.complaint is Complaint.STOP_START_STOPPED:
            why = say("judgement.the_battery_is_sound_stop_start_also_waits")
        return why
    dried = case.is_bare or case.is_fresh_filling  # what it wants is water: nothing says yet that it was flat
    if outcome is Outcome.NEEDS_CHARGE and context.came_in is not CameIn.RETURNED and not dried:
        return say("judgement.something_left_it_flat_check_running_volts")
    return None


def _watch_until(outcome: Outcome, case: Case, zone: tzinfo | None) -> date | None:
    last = _today(case, zone)
    if outcome is not Outcome.WATCH or last is None:
        return None
    return add_months(last, int(case.rules.decision.watch_months.value))
