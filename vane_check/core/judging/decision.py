"""A decision, how findings that agree add up, and the charge that comes before anything else."""

import math
from collections.abc import Iterable
from typing import NamedTuple

from ..evidence.charge_run import fills_well
from ..facts.case import Case
from ..findings.kinds import Kind, StepKey
from ..findings.outcomes import Finding, Outcome
from ..readings import ChargeRun
from ..words import Words, say
from .jobs import Job
from .steps import NextStep, step, temperature_step


class Earlier(NamedTuple):
    """What every reading that counted says, the superseded ones too: pulls with the adjustable load, and testers."""

    pulls: list[Outcome]
    testers: list[Outcome]


class Decision(NamedTuple):
    """An outcome in words, what to do next, and whether strong findings disagree."""

    outcome: Outcome
    headline: Words
    next_step: NextStep
    conflict: bool = False
    jobs: tuple[Job, ...] = ()


def needs_charge(asking: list[Finding], findings: tuple[Finding, ...], case: Case) -> Decision:
    """A charge; water before it where plates are bare, an equalising one where cells ask for it."""
    look = [finding.remedy for finding in findings if finding.kind == Kind.LOOK and finding.status != "dropped"]
    key = StepKey.CHARGE_AND_RETEST
    if StepKey.TOP_UP in look[-1:] or any(finding.remedy == StepKey.TOP_UP for finding in asking):
        key = StepKey.TOP_UP
    else:
        special = (StepKey.EQUALISE, StepKey.WATCH_CHARGE, StepKey.CHARGE_AND_WATCH)
        key = next((remedy for remedy in special if any(finding.remedy == remedy for finding in asking)), key)
        if key is StepKey.CHARGE_AND_WATCH and fills_well(case):
            key = StepKey.CHARGE_AND_RETEST
    if key is StepKey.TOP_UP:
        return Decision(Outcome.NEEDS_CHARGE, say("decision.needs_water_first_then_a_charge"), step(key, case))
    point = case.may_hold_ice
    if point is not None:
        return Decision(
            Outcome.NEEDS_CHARGE, say("decision.needs_a_charge_unless_it_holds_ice"), temperature_step(point, case)
        )
    none = takes_no_current(findings, case)
    if none is not None and key in {StepKey.CHARGE_AND_RETEST, StepKey.CHARGE_AND_WATCH}:
        because = TAKES_NONE if none is StepKey.RECOVERY_CHARGE else None
        return Decision(
            Outcome.NEEDS_CHARGE, say("decision.needs_a_charge_and_takes_none_yet"), step(none, case, because)
        )
    return Decision(Outcome.NEEDS_CHARGE, Outcome.NEEDS_CHARGE.headline, step(key, case))


def takes_no_current(findings: tuple[Finding, ...], case: Case) -> StepKey | None:
    """What is tried where the last charge showed no current: the same for fourteen hours more brings nothing."""
    last = case.last_of(ChargeRun)
    if last is None:
        return None
    return next(
        (finding.remedy for finding in findings if finding.reading_id == last.id and finding.remedy in UNSEEN), None
    )


TAKES_NONE = say("decision.sulphation_keeps_current_out_and_may_come")
UNSEEN = frozenset({StepKey.CHECK_CHARGER, StepKey.RECOVERY_CHARGE})
"""Steps for a battery that takes no current, or is not seen by its charger."""


def combined_weight(findings: Iterable[Finding]) -> float:
    """Weight of findings that agree: 1 minus the product of what each leaves open."""
    return 1 - math.prod(1 - finding.weight for finding in findings)
