"""What a house does before it calls a battery worn out: its own method, a second one, a look for acid, a second pull, a recovery charge."""

from dataclasses import replace

from ..battery.label import CameIn, Complaint
from ..evidence.charge_run import may_recover
from ..facts.case import Case
from ..findings.kinds import Kind, StepKey
from ..findings.outcomes import FAILED, Finding, Outcome
from ..readings import (
    LOADING,
    STARTING,
    STEP_OF_KIND,
    AdjustableLoad,
    ElectronicTester,
)
from ..units.compare import HOURS, VOLTS, at_least, under
from ..words import say
from .decision import Decision, Earlier, needs_charge
from .estimate import clearly_under, compare_with_limit
from .open_questions import again, deciding
from .steps import lacks_tool, step


def condemning_testers(earlier: Earlier) -> list[Outcome]:
    """What testers said that condemns."""
    return [reading for reading in earlier.testers if reading in FAILED]


def before_worn_out(
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
    if not clearly_under(case) and (lent := _only_lent(kinds, findings, earlier, case)) is not None:
        return lent
    if (look_in := acid_first(case)) is not None:
        return look_in
    if len(kinds) < case.rules.decision.methods_to_condemn.value:
        second = second_method(kinds, findings, earlier, case)
        if second is not None:
            headline = say("condemning.one_method_says_worn_out_this_house_wants")
            return Decision(Outcome.CANNOT_TELL, headline, step(second, case))
    if kinds == {Kind.ADJUSTABLE_LOAD} and _tester_may_tell(case):
        headline = say("condemning.the_pull_fails_by_little_the_tester_tells")
        return Decision(Outcome.CANNOT_TELL, headline, step(StepKey.TESTER, case))
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


def acid_first(case: Case) -> Decision | None:
    """Where caps open and nobody said how the acid stands, that is seen before it is called worn out."""
    if not case.level_unsaid or len(case.looks) > 1:
        return None
    headline = say("condemning.it_reads_worn_out_and_nobody_looked_in")
    look_in = replace(step(StepKey.LOOK_AGAIN, case, BARE_PLATES_GIVE_LITTLE), text=LOOK_IN)
    return Decision(Outcome.CANNOT_TELL, headline, look_in)


LOOK_IN = say("condemning.lift_the_caps_see_that_acid_covers_its_plates")
BARE_PLATES_GIVE_LITTLE = say("condemning.bare_plates_give_little_and_water_may_bring")


def _tester_may_tell(case: Case) -> bool:
    """Whether a failing pull lies near the line, by what it gives, and no tester was asked yet."""
    near = compare_with_limit(case) in {"between", "over"}
    return near and not case.all_of(ElectronicTester) and not lacks_tool(StepKey.TESTER, case.rules)


def _only_lent(kinds: set[Kind], findings: tuple[Finding, ...], earlier: Earlier, case: Case) -> Decision | None:
    """Where the rating is lent or assumed it never condemns alone: another method, then a watch."""
    rated = case.label_rating or case.rated
    if rated is None or rated.firm or not kinds <= STARTING or case.judged_by_reserve:
        return None
    second = second_method(kinds, findings, earlier, case)
    if second is not None:
        headline = say("condemning.it_fails_a_figure_that_is_only_lent")
        return Decision(Outcome.CANNOT_TELL, headline, step(second, case))
    headline = say("condemning.watch_it_it_fails_a_figure_that_is_only_lent")
    return Decision(Outcome.WATCH, headline, step(StepKey.RETEST_LATER, case))


def second_method(kinds: set[Kind], findings: tuple[Finding, ...], earlier: Earlier, case: Case) -> StepKey | None:
    """Another method this house has the tool of, unless it was asked already. A tester without a load beside it is clamped once more; how
    often a load without a tester is pulled has a rule of its own."""
    ways: tuple[tuple[StepKey, bool], ...]
    if Kind.ADJUSTABLE_LOAD in kinds:
        ways = ((StepKey.TESTER, True),)
    else:
        ways = ((StepKey.LOAD_TEST, True), (StepKey.TESTER_AGAIN, len(condemning_testers(earlier)) < 2))
    other = _TOOL_OF_BOTH[ways[0][0]]
    if other in kinds or any(finding.kind == other and finding.status != "dropped" for finding in findings):
        return None
    return next((key for key, is_new in ways if is_new and not lacks_tool(key, case.rules)), None)


_TOOL_OF_BOTH = {StepKey.TESTER: Kind.ELECTRONIC_TESTER, StepKey.LOAD_TEST: Kind.ADJUSTABLE_LOAD}


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
