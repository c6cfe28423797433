"""A failing outcome, unless something stands against it that is settled first."""

from ..battery.label import CameIn
from ..facts.case import Case
from ..findings.kinds import Kind, StepKey
from ..findings.outcomes import Finding, Outcome
from ..readings import (
    STARTING,
    CaseLeakage,
    ChargeRun,
    Eye,
    Sign,
)
from ..units.compare import RATIO, VOLTS, at_least, over
from ..words import say
from .before_worn_out import acid_first, before_worn_out, condemning_testers, second_method
from .decision import Decision, Earlier
from .estimate import any_part_above_limit, compare_with_limit, words_apart
from .jobs import wet
from .open_questions import unanswered
from .reasons import BROKE_DOWN, why_replaced
from .steps import lacks_tool, step


def condemned(
    outcome: Outcome,
    towards: dict[Outcome, list[Finding]],
    findings: tuple[Finding, ...],
    earlier: Earlier,
    case: Case,
) -> Decision:
    """A failing outcome, unless something stands against it that must be settled first."""
    agreeing = towards[outcome]
    kinds = {finding.kind for finding in agreeing}
    broken = next((finding for finding in agreeing if finding.kind == Kind.COLLAPSE), None)
    if broken is not None:
        return Decision(
            outcome, say("condemning.broken_inside_it_collapses_under_load"), step(StepKey.REPLACE, case, BROKE_DOWN)
        )
    opposing = [
        finding
        for finding in towards.get(Outcome.SOUND, ())
        if at_least(finding.weight, case.rules.weight.strong.value, RATIO)
    ]
    if kinds == {Kind.LOOK}:
        return _eye_alone(case, bool(opposing))
    if opposing and outcome is not Outcome.LEAKS_CHARGE:  # a strong battery may still lose its charge: no contradiction
        return _conflict(outcome, agreeing, opposing, findings, earlier, case)
    if outcome is Outcome.LEAKS_CHARGE:
        over_the_top = _over_the_top(case)
        if over_the_top is not None:
            return over_the_top
    by_the_tester = kinds == {Kind.ELECTRONIC_TESTER}
    if by_the_tester and any_part_above_limit(case) and len(condemning_testers(earlier)) < 2:
        return Decision(Outcome.CANNOT_TELL, words_apart(case), step(StepKey.TESTER_AGAIN, case), conflict=True)
    if by_the_tester and _wants_second_look(case) and len(condemning_testers(earlier)) < 2:
        headline = say("condemning.one_tester_reading_clamp_again_read_the")
        return Decision(Outcome.CANNOT_TELL, headline, step(StepKey.TESTER_AGAIN, case))
    if outcome is Outcome.WORN_OUT:
        first = before_worn_out(kinds, towards, findings, earlier, case)
        if first is not None:
            return first
    stop = any(finding.remedy == StepKey.STOP_CHARGE for finding in agreeing) and not _is_off_charge(case)
    if stop:
        return Decision(outcome, outcome.headline, step(StepKey.STOP_CHARGE, case))
    return _replaced(outcome, case)


def _replaced(outcome: Outcome, case: Case) -> Decision:
    return Decision(outcome, outcome.headline, step(StepKey.REPLACE, case, why_replaced(outcome)))


def _is_off_charge(case: Case) -> bool:
    """Whether the charge that was to be stopped is over: taken off, or read at rest since."""
    last = case.last_of(ChargeRun)
    if last is None:
        return False
    return last.finished or last.stopped or any(volts.taken_at > last.taken_at for volts in case.valid_rest_volts)


def _wants_second_look(case: Case) -> bool:
    """Whether this house clamps the tester again before it condemns alone: most slips are ones nobody told."""
    rule = case.rules.decision.second_look.value
    return rule == "yes" or (rule == "for_returns" and case.context.came_in is CameIn.RETURNED)


def _eye_alone(case: Case, passes: bool) -> Decision:
    """An eye sees one cell of six, and sticks: it asks for a second look, then for a tester, and by itself condemns nothing."""
    clear = [look for look in case.looks if look.eye is Eye.CLEAR]
    tested = any(reading.kind in STARTING for reading in case.readings)
    if len(clear) > 1 and not tested and not lacks_tool(StepKey.TESTER, case.rules):
        return Decision(
            Outcome.CANNOT_TELL, say("condemning.the_eye_stays_clear_the_tester_tells"), step(StepKey.TESTER, case)
        )
    if len(clear) > 1 and not passes:
        return Decision(Outcome.WATCH, say("condemning.watch_it_the_eye_stays_clear"), step(StepKey.RETEST_LATER, case))
    if len(clear) > 1:
        return Decision(
            Outcome.WATCH, say("condemning.watch_it_the_eye_stays_clear_the_battery"), step(StepKey.RETEST_LATER, case)
        )
    headline = "condemning.the_eye_says_dry_the_battery_passes" if passes else "condemning.the_eye_says_dry_look_again"
    return Decision(Outcome.CANNOT_TELL, say(headline), step(StepKey.LOOK_AGAIN, case))


def _over_the_top(case: Case) -> Decision | None:
    """A loss that a dirty top may explain: clean it first."""
    tops, limit, now = case.all_of(CaseLeakage), case.rules.look.leakage_volts.value, wet(case)
    seen = any(mark.sign is Sign.WET_TOP for look in case.looks for mark in look.marks)
    if not seen and not any(over(top.worst_volts, limit, VOLTS) for top in tops):
        return None
    if now is not None and not (isinstance(now, CaseLeakage) and now.cleaned):
        return Decision(
            Outcome.CANNOT_TELL,
            say("condemning.it_loses_charge_perhaps_over_its_dirty_top"),
            step(StepKey.CLEAN_TOP, case),
        )
    return None


def _conflict(
    outcome: Outcome,
    agreeing: list[Finding],
    opposing: list[Finding],
    findings: tuple[Finding, ...],
    earlier: Earlier,
    case: Case,
) -> Decision:
    """Two strong findings disagree: never averaged. What the pull itself is worth in amps does the talking; a slip of the
    tester is asked about first; two pulls that agree decide."""
    pulled = {finding.kind for finding in (*agreeing, *opposing)} >= {Kind.ADJUSTABLE_LOAD}
    stands = compare_with_limit(case) if pulled else "unknown"
    by_the_tester = {finding.kind for finding in agreeing} == {Kind.ELECTRONIC_TESTER}
    first_look = by_the_tester and len(condemning_testers(earlier)) < 2
    weighs = max(finding.weight for finding in agreeing)
    holds = any(finding.kind == Kind.RESERVE and at_least(finding.weight, weighs, RATIO) for finding in opposing)
    if outcome is Outcome.WORN_OUT and stands == "under" and not first_look and not holds:
        kinds = {finding.kind for finding in agreeing}
        alone = len(kinds) < case.rules.decision.methods_to_condemn.value
        second = second_method(kinds, findings, earlier, case) if alone else None
        if second is None:
            return acid_first(case) or _replaced(outcome, case)
        headline = say("condemning.one_method_says_worn_out_this_house_wants")
        return Decision(Outcome.CANNOT_TELL, headline, step(second, case), conflict=True)
    if pulled and first_look and stands in {"unknown", "under"}:
        headline = say("condemning.tester_and_pull_disagree_on_studs_or_the")
        return Decision(Outcome.CANNOT_TELL, headline, step(StepKey.TESTER_AGAIN, case), conflict=True)
    if any(finding.kind == Kind.ADJUSTABLE_LOAD for finding in agreeing) and earlier.pulls.count(outcome) >= 2:
        if stands == "under" or stands == "unknown":
            return acid_first(case) or _replaced(outcome, case)
        headline = say("condemning.watch_it_it_fails_the_pull_by_little")
        return Decision(Outcome.WATCH, headline, step(StepKey.RETEST_LATER, case))
    if (
        any(finding.kind == Kind.ADJUSTABLE_LOAD for finding in opposing)
        and earlier.pulls.count(Outcome.SOUND) >= 2
        and outcome is Outcome.WORN_OUT
    ) and not unanswered(findings, case):
        if stands == "between":
            headline = say("condemning.watch_it_it_passes_the_pull_and_gives")
            return Decision(Outcome.WATCH, headline, step(StepKey.RETEST_LATER, case))
        return Decision(Outcome.SOUND, Outcome.SOUND.headline, step(StepKey.GIVE_BACK, case))
    return Decision(
        Outcome.CANNOT_TELL,
        say(
            "condemning.two_strong_readings_disagree_decides",
            method=say("condemning.a_second_pull") if earlier.pulls else say("condemning.the_load_test"),
        ),
        step(StepKey.LOAD_AGAIN if earlier.pulls else StepKey.LOAD_TEST, case),
        conflict=True,
    )
