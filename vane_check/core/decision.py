"""What is decided of the findings: safety, then conflict, then the strongest evidence, then what is still missing."""

import math
from collections.abc import Iterable
from typing import NamedTuple

from .charge import recharge_line_volts
from .compare import HOURS, RATIO, VOLTS, at_least, over, under
from .evidence import Case
from .evidence.look import sealed
from .kinds import Kind, StepKey
from .outcomes import FAILED, Finding, Outcome
from .readings import CaseLeakage, Look
from .steps import NextStep, cheapest, lacks_tool, step


class Decision(NamedTuple):
    """An outcome in words, what to do next, and whether strong findings disagree."""

    outcome: Outcome
    headline: str
    next_step: NextStep
    conflict: bool = False


STARTING_KINDS = frozenset({Kind.ELECTRONIC_TESTER, Kind.FIXED_LOAD, Kind.CRANK})
"""Quicker starting tests: a counted pull with the adjustable load settles what they leave open."""

STEP_OF_KIND = {
    Kind.ELECTRONIC_TESTER: StepKey.TESTER,
    Kind.ADJUSTABLE_LOAD: StepKey.LOAD_TEST,
    Kind.CELLS: StepKey.CELLS,
}


def decide(findings: tuple[Finding, ...], pulls: list[Outcome], case: Case) -> Decision:
    """What the readings say; where nobody has looked it over that comes first, and nothing is sound without it."""
    said = _decided(findings, pulls, case)
    if said.outcome in FAILED | {Outcome.UNSAFE} or any(isinstance(reading, Look) for reading in case.readings):
        return said
    look = step(StepKey.LOOK, case)
    if said.outcome in {Outcome.SOUND, Outcome.WATCH}:
        return Decision(Outcome.CANNOT_TELL, "It reads well, but nobody has looked it over", look)
    return said._replace(next_step=look)


def _decided(findings: tuple[Finding, ...], pulls: list[Outcome], case: Case) -> Decision:
    """Safety, then conflict, then the strongest valid evidence, then what is still missing."""
    towards: dict[Outcome, list[Finding]] = {}
    settled = any(_is_firm_pull(found, case) for found in findings)
    for found in findings:
        if found.points_to is None or found.kind == Kind.SAG:
            continue
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
        return Decision(Outcome.CANNOT_TELL, Outcome.CANNOT_TELL.headline, cheapest(asked, case))
    if Outcome.WATCH in towards:
        return Decision(Outcome.WATCH, Outcome.WATCH.headline, step(StepKey.RETEST_LATER, case))
    return Decision(Outcome.SOUND, Outcome.SOUND.headline, step(StepKey.GIVE_BACK, case))


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
    opposing = [
        found
        for found in towards.get(Outcome.SOUND, ())
        if at_least(found.weight, case.rules.strong_weight.value, RATIO)
    ]
    if opposing and outcome is not Outcome.LEAKS_CHARGE:  # a strong battery may still lose its charge: no contradiction
        return _conflict(outcome, agreeing, opposing, findings, pulls, case)
    if outcome is Outcome.LEAKS_CHARGE:
        over_the_top = _over_the_top(agreeing, findings, case)
        if over_the_top is not None:
            return over_the_top
    if outcome is Outcome.WORN_OUT:
        kinds = {found.kind for found in agreeing}
        deciding = _deciding(case)
        if kinds == {Kind.ELECTRONIC_TESTER} and Kind.ELECTRONIC_TESTER not in deciding:
            return Decision(
                Outcome.CANNOT_TELL,
                "Cannot tell yet: this house decides by another method",
                step(STEP_OF_KIND[deciding[0]], case),
            )
        if Kind.LOOK not in kinds and len(kinds) < case.rules.methods_to_condemn.value:
            second = StepKey.TESTER if Kind.ADJUSTABLE_LOAD in kinds else StepKey.LOAD_TEST
            return Decision(
                Outcome.CANNOT_TELL, "One method says worn out; this house wants a second", step(second, case)
            )
    stop = any(found.remedy == StepKey.STOP_CHARGE for found in agreeing)
    return Decision(outcome, outcome.headline, step(StepKey.STOP_CHARGE if stop else StepKey.REPLACE, case))


def _over_the_top(agreeing: list[Finding], findings: tuple[Finding, ...], case: Case) -> Decision | None:
    """A loss that a dirty top may explain: clean it first, and let it stand again once it is clean."""
    tops = [reading for reading in case.readings if isinstance(reading, CaseLeakage)]
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
    elif any(found.remedy == StepKey.EQUALISE for found in asking):
        key = StepKey.EQUALISE
    return Decision(Outcome.NEEDS_CHARGE, Outcome.NEEDS_CHARGE.headline, step(key, case))


def _deciding(case: Case) -> tuple[Kind, ...]:
    """The kinds of reading this house decides by, for this battery: with tools it has, cells only where somebody saw caps."""
    kinds = tuple(
        kind
        for kind in map(Kind, case.rules.deciding_kinds.value)
        if not lacks_tool(STEP_OF_KIND[kind], case.rules)
        and (kind != Kind.CELLS or (case.battery.has_caps and not sealed(case)))
    )
    return kinds or (Kind.ADJUSTABLE_LOAD,)


def _missing(findings: tuple[Finding, ...], case: Case) -> list[StepKey]:
    """The steps that would bring in what is not yet known. The charge comes first: no other figure can be read without."""
    there = {found.kind for found in findings if found.status != "dropped"}
    if Kind.REST_VOLTS not in there:
        return [_again(Kind.REST_VOLTS, StepKey.MEASURE_VOLTS, findings)]
    for kind in _deciding(case):
        if kind in there or (kind == Kind.ELECTRONIC_TESTER and Kind.ADJUSTABLE_LOAD in there):
            continue
        asked = _again(kind, STEP_OF_KIND[kind], findings)
        return [StepKey.READ_LABEL] if asked in {StepKey.TESTER, StepKey.LOAD_TEST} and case.rated is None else [asked]
    return [StepKey.STAND] if _must_stand(there, case) else []


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
