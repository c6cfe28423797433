"""A failing outcome, unless something stands against it that is settled first."""

from ..battery.label import CameIn, Complaint
from ..evidence.charge_run import may_recover
from ..facts.case import Case
from ..findings.kinds import Kind, StepKey
from ..findings.outcomes import FAILED, Finding, Outcome
from ..readings import LOADING, STEP_OF_KIND, AdjustableLoad, CaseLeakage, ChargeRun, Eye, Sign
from ..units.compare import HOURS, RATIO, VOLTS, at_least, over, under
from ..words import say
from .decision import Decision, Earlier, needs_charge
from .estimate import any_part_above_limit, compare_with_limit, pulls_below_limit, words_apart
from .jobs import wet
from .open_questions import again, deciding, unanswered
from .reasons import BROKE_DOWN, why_replaced
from .steps import step


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
    if opposing and kinds == {Kind.LOOK}:
        return _eye_against_a_pass(case)
    if opposing and outcome is not Outcome.LEAKS_CHARGE:  # a strong battery may still lose its charge: no contradiction
        return _conflict(outcome, agreeing, opposing, findings, earlier, case)
    if outcome is Outcome.LEAKS_CHARGE:
        over_the_top = _over_the_top(agreeing, case)
        if over_the_top is not None:
            return over_the_top
    by_the_tester = kinds == {Kind.ELECTRONIC_TESTER}
    if by_the_tester and any_part_above_limit(case) and len(condemning_testers(earlier)) < 2:
        return Decision(Outcome.CANNOT_TELL, words_apart(case), step(StepKey.TESTER_AGAIN, case), conflict=True)
    if by_the_tester and _wants_second_look(case) and len(condemning_testers(earlier)) < 2:
        headline = say("condemning.one_tester_reading_clamp_again_read_the")
        return Decision(Outcome.CANNOT_TELL, headline, step(StepKey.TESTER_AGAIN, case))
    if outcome is Outcome.WORN_OUT:
        first = _before_worn_out(kinds, towards, findings, earlier, case)
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


def condemning_testers(earlier: Earlier) -> list[Outcome]:
    """What testers said that condemns."""
    return [reading for reading in earlier.testers if reading in FAILED]


def _wants_second_look(case: Case) -> bool:
    """Whether this house clamps the tester again before it condemns alone: most slips are ones nobody told."""
    rule = case.rules.decision.second_look.value
    return rule == "yes" or (rule == "for_returns" and case.context.came_in is CameIn.RETURNED)


def _eye_against_a_pass(case: Case) -> Decision:
    """An eye sees one cell of six, and sticks: against a battery that passes it asks for a second look, then a watch."""
    clear = [look for look in case.looks if look.eye is Eye.CLEAR]
    if len(clear) > 1:
        return Decision(
            Outcome.WATCH, say("condemning.watch_it_the_eye_stays_clear_the_battery"), step(StepKey.RETEST_LATER, case)
        )
    return Decision(
        Outcome.CANNOT_TELL, say("condemning.the_eye_says_dry_the_battery_passes"), step(StepKey.LOOK_AGAIN, case)
    )


def _before_worn_out(
    kinds: set[Kind],
    towards: dict[Outcome, list[Finding]],
    findings: tuple[Finding, ...],
    earlier: Earlier,
    case: Case,
) -> Decision | None:
    """What this house does before it calls a battery worn out: its own method, a second one, a second pull, a recovery charge."""
    methods = deciding(case)
    if kinds == {Kind.ELECTRONIC_TESTER} and Kind.ELECTRONIC_TESTER not in methods:
        return Decision(
            Outcome.CANNOT_TELL,
            say("condemning.cannot_tell_yet_this_house_decides_by"),
            step(STEP_OF_KIND[methods[0]], case),
        )
    if Kind.LOOK in kinds:
        return None
    if len(kinds) < case.rules.decision.methods_to_condemn.value:
        second = StepKey.TESTER if Kind.ADJUSTABLE_LOAD in kinds else StepKey.LOAD_TEST
        return Decision(
            Outcome.CANNOT_TELL, say("condemning.one_method_says_worn_out_this_house_wants"), step(second, case)
        )
    if kinds <= LOADING and case.rules.rest.to_condemn.value == "proven":
        unproven = _unproven_rest(towards, findings, case)
        if unproven is not None:
            return unproven
    if kinds == {Kind.ADJUSTABLE_LOAD} and max(earlier.pulls.count(Outcome.WORN_OUT), 1) < _pulls_asked(case):
        return _second_pull(towards, findings, case)
    if _stood_flat_for_long(case) and may_recover(case):
        return Decision(
            Outcome.NEEDS_CHARGE,
            say("condemning.it_stood_flat_for_long_one_recovery_charge"),
            step(StepKey.RECOVERY_CHARGE, case),
        )
    return None


def _unproven_rest(towards: dict[Outcome, list[Finding]], findings: tuple[Finding, ...], case: Case) -> Decision | None:
    """Where nothing but a word says that it was rested: the pull took the surface charge, the volts after it tell."""
    if case.charge_off_at is not None:
        return None
    read_after = case.valid_rest_volts and case.valid_rest_volts[-1].taken_at > case.loads[0].taken_at
    if not read_after and not case.proven_rests:
        return Decision(
            Outcome.CANNOT_TELL,
            say("condemning.it_failed_under_load_was_it_flat"),
            step(again(Kind.REST_VOLTS, StepKey.MEASURE_AFTER_PULL, findings), case),
        )
    return needs_charge(towards[Outcome.NEEDS_CHARGE], findings, case) if Outcome.NEEDS_CHARGE in towards else None


def _pulls_asked(case: Case) -> int:
    """Failed pulls this house wants before it condemns by pulling alone."""
    rule = case.rules.load.pulls_to_condemn.value
    return 2 if rule == "two" or (rule == "two_for_returns" and case.context.came_in is CameIn.RETURNED) else 1


def _second_pull(towards: dict[Outcome, list[Finding]], findings: tuple[Finding, ...], case: Case) -> Decision:
    """After a first fail: wait, read the volts, charge where they are low, pull again."""
    pulled_at = case.all_of(AdjustableLoad)[-1].taken_at
    since = max(filter(None, (pulled_at, case.charge_off_at)))
    if not any(volts.taken_at > since for volts in case.valid_rest_volts):
        return Decision(
            Outcome.CANNOT_TELL,
            say("condemning.one_pull_failed_a_second_decides"),
            step(again(Kind.REST_VOLTS, StepKey.MEASURE_AFTER_PULL, findings), case),
        )
    if Outcome.NEEDS_CHARGE in towards:
        return needs_charge(towards[Outcome.NEEDS_CHARGE], findings, case)
    return Decision(
        Outcome.CANNOT_TELL, say("condemning.one_pull_failed_a_second_decides"), step(StepKey.LOAD_AGAIN, case)
    )


def _stood_flat_for_long(case: Case) -> bool:
    """Whether it stood for weeks, by its story or by rest volts under the line that far apart."""
    low = [volts.taken_at for volts in case.valid_rest_volts if under(volts.volts, case.recharge_line_volts, VOLTS)]
    if not low:
        return False
    if case.context.complaint is Complaint.STOOD_FOR_WEEKS:
        return True
    return at_least(
        (max(low) - min(low)).total_seconds() / SECONDS_PER_DAY, case.rules.rest.low_for_long_days.value, HOURS
    )


SECONDS_PER_DAY = 86400


def _over_the_top(agreeing: list[Finding], case: Case) -> Decision | None:
    """A loss that a dirty top may explain: clean it first, and let it stand again once it is clean."""
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
    kinds = {finding.kind for finding in agreeing}
    lost_at = max(reading.taken_at for reading in case.readings if reading.kind in kinds)
    if tops and not over(tops[-1].worst_volts, limit, VOLTS) and tops[-1].taken_at > lost_at:
        return Decision(
            Outcome.CANNOT_TELL,
            say("condemning.it_lost_charge_over_its_dirty_top_or"),
            step(StepKey.STAND, case),
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
    first_look = by_the_tester and len(condemning_testers(earlier)) < 2 and not pulls_below_limit(case)
    weighs = max(finding.weight for finding in agreeing)
    holds = any(finding.kind == Kind.RESERVE and at_least(finding.weight, weighs, RATIO) for finding in opposing)
    if outcome is Outcome.WORN_OUT and stands == "under" and not first_look and not holds:
        return _replaced(outcome, case)
    if pulled and first_look and stands in {"unknown", "under"}:
        headline = say("condemning.tester_and_pull_disagree_on_studs_or_the")
        return Decision(Outcome.CANNOT_TELL, headline, step(StepKey.TESTER_AGAIN, case), conflict=True)
    if any(finding.kind == Kind.ADJUSTABLE_LOAD for finding in agreeing) and earlier.pulls.count(outcome) >= 2:
        return _replaced(outcome, case)
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
