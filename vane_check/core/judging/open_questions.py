"""What is still to be asked: the kinds of reading this house decides by, and the steps that bring in what is missing."""

from ..battery.label import CameIn, Chemistry, Complaint
from ..evidence.car import faults_of
from ..evidence.stand import hours_stood
from ..facts.case import Case
from ..findings.kinds import Kind, StepKey
from ..findings.outcomes import Finding, Outcome
from ..readings import QUICK_STARTING, STEP_OF_KIND, Car, ChargeRun, Crank, ElectronicTester, Stand, Waits
from ..units.compare import HOURS, VOLTS, at_least, under
from .changes import AFTER_A_CHANGE
from .jobs import was_wet
from .steps import lacks_tool

VOLTS_KINDS = frozenset({Kind.REST_VOLTS, Kind.TESTER_VOLTS})
"""What tells the charge: a meter, or the tester's own volts where there is nothing better."""


def deciding(case: Case) -> tuple[Kind, ...]:
    """The kinds of reading this house decides by, for this battery: with tools it has, cells only where somebody saw caps,
    the starter only where the car is there, and reserve where that is its work."""
    if case.works_by_reserve:  # no pull of any size says what it holds
        opens = case.battery.has_caps and not case.sealed
        kinds = (Kind.RESERVE, *((Kind.CELLS,) if opens else ()))
        return next(((kind,) for kind in kinds if not lacks_tool(STEP_OF_KIND[kind], case.rules)), ())
    kinds = tuple(
        kind
        for kind in map(Kind, case.rules.decision.deciding_kinds.value)
        if not lacks_tool(STEP_OF_KIND[kind], case.rules)
        and (kind != Kind.CELLS or (case.battery.has_caps and not case.sealed))
        and (kind != Kind.CRANK or case.context.came_in is CameIn.IN_CAR)
    )
    return kinds or (Kind.ADJUSTABLE_LOAD,)


def unanswered(findings: tuple[Finding, ...], case: Case) -> list[StepKey]:
    """The steps that would bring in what is not yet known. The charge comes first: no other figure can be read without."""
    there = {finding.kind for finding in findings if finding.status != "dropped"}
    if not any(crank.volts is not None for crank in case.all_of(Crank)):
        there.discard(Kind.CRANK)  # the lowest instant of a start alone passes nothing
    if not VOLTS_KINDS & there:
        return [again(Kind.REST_VOLTS, StepKey.MEASURE_VOLTS, findings)]
    for kind in deciding(case):
        if kind is Kind.RESERVE and kind not in there and _must_stand(there, case):
            return [StepKey.STAND]  # the discharge leaves it flat
        if kind in there or (kind in QUICK_STARTING and Kind.ADJUSTABLE_LOAD in there):
            continue  # a pull that counts says more than any of them
        step_key = again(kind, STEP_OF_KIND[kind], findings)
        if step_key is StepKey.LOAD_TEST and kind in {Kind.FIXED_LOAD, Kind.CRANK} and lacks_tool(step_key, case.rules):
            if Kind.CRANK in there or Kind.ELECTRONIC_TESTER in there:
                continue  # too small to pass it, not failing it, and another method holds
            step_key = StepKey.CRANK_TEST if case.context.came_in is CameIn.IN_CAR else step_key
        needs_rating = (
            step_key in {StepKey.TESTER, StepKey.LOAD_TEST} and case.rated is None and not case.works_by_reserve
        )
        return [StepKey.READ_LABEL] if needs_rating else [step_key]
    if _only_clicks(case) and (loads := [key for key in LOADS if _can_be_pulled(key, case)]):
        return loads
    stood_before = Kind.STAND not in there and any(
        finding.kind is Kind.STAND and finding.rule == AFTER_A_CHANGE for finding in findings
    )
    return [StepKey.STAND] if stood_before or _must_stand(there, case) else _stop_start_open(there, case)


DOES_NOT_START = frozenset({Complaint.CLICKS, Complaint.WILL_NOT_START, Complaint.FAILED_ELSEWHERE})
LOADS = (StepKey.FIXED_TEST, StepKey.CRANK_TEST, StepKey.LOAD_TEST)
"""What puts a load on it, the quickest first."""


def _can_be_pulled(key: StepKey, case: Case) -> bool:
    is_there = key is not StepKey.CRANK_TEST or case.context.came_in is CameIn.IN_CAR
    return is_there and not lacks_tool(key, case.rules)


def _only_clicks(case: Case) -> bool:
    """Whether its car does not start at all although it came in charged, and nobody has put a load on it: a broken link opens
    under one."""
    if case.context.complaint not in DOES_NOT_START or case.rules.load.after_clicks.value != "yes":
        return False
    return not case.loads and not case.all_of(ChargeRun)


def _stop_start_open(there: set[Kind], case: Case) -> list[StepKey]:
    """What is still open where stop-start stopped: the list of what it waits for, then the reserve that starting amps hide."""
    if not case.asks_why_stop_start_stopped or case.type_the_car_asks_for is not None:
        return []
    seen = case.all_of(Car)
    if any(faults_of(reading, case) for reading in seen[-1:]):
        return []
    ticked = {wait for reading in seen for wait in reading.waits_checked}
    if len(ticked) < len(Waits):
        return [StepKey.STOP_START_LIST]
    nothing_rated = case.battery.capacity_ah_20h is None and case.battery.reserve_minutes is None
    if Kind.RESERVE in there or nothing_rated or case.battery.chemistry not in START_STOP_TYPES:
        return []
    return [StepKey.RESERVE_TEST]


START_STOP_TYPES = frozenset({Chemistry.EFB, Chemistry.AGM})
"""They lose capacity before starting amps."""


def _must_stand(there: set[Kind], case: Case) -> bool:
    """Whether it came in flat, or charged with a story of going flat while it stood, and has not yet shown that it holds a charge."""
    if case.rules.stand.after_flat.value != "yes":
        return False
    last = case.last_of(Stand)
    if Kind.STAND in there and last is not None:
        days = case.rules.stand.long_hours.value
        return case.went_flat_standing and under(hours_stood(last, case), days, HOURS)
    line = case.recharge_line_volts
    stood = any(
        at_least(volts.rested_hours or 0, case.rules.stand.hours.value, HOURS)
        for volts in case.valid_rest_volts
        if at_least(volts.volts, line, VOLTS) and (volts.after_full_charge or case.charged_before(volts))
    )
    return (case.came_flat or case.charge_off_at is not None or case.stood_for_weeks) and not stood


def tested_before_it_stood(findings: tuple[Finding, ...], case: Case) -> StepKey | None:
    """What tests it once more where it had to stand on: one cell that has emptied meanwhile hides among five at rest, not under a load."""
    since = [stand for stand in case.all_of(Stand) if case.charge_off_at is None or stand.taken_at > case.charge_off_at]
    holds = any(finding.kind is Kind.STAND and finding.points_to is Outcome.SOUND for finding in findings)
    tests = (*case.loads, *case.all_of(ElectronicTester))
    if len(since) < STOOD_ON or not holds or not tests or case.works_by_reserve or was_wet(case):
        return None
    if case.rules.stand.after_flat.value != "yes" or max(test.taken_at for test in tests) > since[-1].taken_at:
        return None
    keys = (STEP_OF_KIND[kind] for kind in deciding(case) if kind in SHOWS_A_CELL)
    return next(keys, None)


STOOD_ON = 2
"""Stands after one charge from which it stood on because the first left a doubt."""

SHOWS_A_CELL = frozenset({Kind.ADJUSTABLE_LOAD, Kind.FIXED_LOAD, Kind.CRANK, Kind.ELECTRONIC_TESTER})
"""What makes one empty cell among five show."""

OLD = frozenset({"judgement.from_before_the_charge", "judgement.measured_again_later"})
"""Why something fell off that says nothing of the way it was read."""


def again(kind: Kind, first: StepKey, findings: tuple[Finding, ...]) -> StepKey:
    """The remedy of the last reading of a kind that fell off for a reason one can mend, else the first step."""
    remedies = [
        finding.remedy
        for finding in findings
        if finding.kind == kind and finding.remedy and (finding.why_not is None or finding.why_not.key not in OLD)
    ]
    return remedies[-1] if remedies else first
