"""Every chain ends: a step that was done again and again and brought nothing new is not asked again in the same form."""

from ..facts.case import Case
from ..findings.kinds import StepKey
from ..findings.outcomes import Outcome
from ..readings import METHOD_OF_STEP, SHOWS_HEALTH, AdjustableLoad, ChargeRun, Reading, Reserve
from ..units.compare import AMPS, at_least
from ..words import say
from .decision import Decision
from .estimate import barely_enough, estimate_of
from .steps import lacks_tool, load_figures, step


def health_readings(case: Case) -> int:
    """How many readings say something of its health."""
    return sum(reading.kind in SHOWS_HEALTH and not isinstance(reading, Reserve) for reading in case.readings)


OTHERS = (StepKey.LOAD_TEST, StepKey.TESTER)
"""Another method, where this house has it and it was not worn out too."""


def _brings(key: StepKey) -> type[Reading] | None:
    """The kind of reading of which each counts as the step done once more."""
    method = METHOD_OF_STEP.get(key)
    return method.reading if method is not None and key in method.counts_for else None


def times_done(key: StepKey, case: Case) -> int:
    """How often a step was done since the battery last changed; charges count over the whole check."""
    kind = _brings(key)
    if kind is None:
        return 0
    read = case.by_type.get(kind, ())
    if key is StepKey.CHECK_CHARGER:  # no current shows at once, on or off
        return sum(case.no_current(run) for run in case.all_of(ChargeRun))
    if kind is ChargeRun:
        return sum(isinstance(run, ChargeRun) and run.finished for run in read)
    since = case.charge_off_at
    return sum(since is None or reading.taken_at >= since for reading in read)


def _is_worn_out(key: StepKey, case: Case) -> bool:
    """Whether a step would bring nothing new: done as often as the house allows, or once with a load that can never pass it."""
    if times_done(key, case) >= case.rules.decision.same_step_times.value:
        return True
    if _brings(key) is not AdjustableLoad or times_done(key, case) == 0:
        return False
    figures = load_figures(case)
    last = case.last_of(AdjustableLoad)
    return (
        not figures.can_pass
        and last is not None
        and figures.amps is not None
        and at_least(last.amps, figures.amps * case.rules.load.enough_ratio.value, AMPS)
    )


def replace_repeated_step(decision: Decision, case: Case) -> Decision:
    """The decision, or another method, or a watch with a date, where its step would only be done once more."""
    key = decision.next_step.key
    if decision.outcome is Outcome.CANNOT_TELL and lacks_tool(key, case.rules) and estimate_of(case) is not None:
        hardly = barely_enough(case)
        headline = (
            say("repeats.watch_it_it_gives_hardly_enough_for_this")
            if hardly
            else say("repeats.it_stays_open_here_watch_it")
        )
        return Decision(Outcome.WATCH, headline, step(StepKey.RETEST_LATER, case))
    if key is StepKey.READ_LABEL and health_readings(case) >= case.rules.steps.label_asked_readings.value:
        headline = say("repeats.no_label_to_hold_it_against_watch_it")
        return Decision(Outcome.WATCH, headline, step(StepKey.RETEST_LATER, case))
    if decision.outcome not in {Outcome.CANNOT_TELL, Outcome.NEEDS_CHARGE} or not _is_worn_out(key, case):
        return decision
    if _brings(key) is not ChargeRun:
        for other in OTHERS:
            fresh = (
                _brings(other) is not _brings(key)
                and times_done(other, case) == 0
                and not lacks_tool(other, case.rules)
            )
            if (
                fresh
                and case.rated is not None
                and not (other is StepKey.LOAD_TEST and not load_figures(case).can_pass)
            ):
                return decision._replace(
                    next_step=step(other, case), headline=say("repeats.cannot_tell_yet_another_method_decides")
                )
    return Decision(Outcome.WATCH, say("repeats.it_stays_open_here_watch_it"), step(StepKey.RETEST_LATER, case))
