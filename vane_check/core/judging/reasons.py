"""Why a step is worth doing: its usual reason where that is true of the case at hand, else the one that is."""

from collections.abc import Callable
from typing import NamedTuple

from ..battery.label import RESERVE_USES
from ..facts.case import Case
from ..facts.tester_settings import reads_low, why_void
from ..findings.kinds import Kind, StepKey
from ..findings.outcomes import Outcome
from ..readings import ElectronicTester, Stand


class _Reason(NamedTuple):
    """Whether the usual reason is true of a case, and what is said where it is not."""

    holds: Callable[[Case], bool]
    otherwise: str


def why_of(key: StepKey, case: Case) -> str:
    """Why a step is worth doing here; nothing is said of a tester, a house's method or a use that is not this battery's."""
    reason = _REASONS.get(key)
    return key.why if reason is None or reason.holds(case) else reason.otherwise


def why_replaced(outcome: Outcome) -> str:
    """Why a battery is replaced that was condemned by something else than a test of its starting power; else nothing."""
    return _REPLACED_FOR.get(outcome, "")


BROKE_DOWN = "It broke down under a load that it should carry"
"""Why a battery is replaced whose volts collapsed."""

_REPLACED_FOR = {
    Outcome.DEAD_CELL: "A cell is gone, and no charge brings one back",
    Outcome.LEAKS_CHARGE: "It takes a charge, and loses it standing",
}


def _decides(kind: Kind) -> Callable[[Case], bool]:
    return lambda case: kind in case.rules.decision.deciding_kinds.value


def _was_tested(case: Case) -> bool:
    return bool(case.all_of(ElectronicTester))


def _cannot_be_used(case: Case) -> bool:
    last = case.last_of(ElectronicTester)
    return last is not None and (why_void(last, case) is not None or reads_low(last, case) is not None)


_OPENS_UNDER_LOAD = "A break inside opens only under a load"

_REASONS: dict[StepKey, _Reason] = {
    StepKey.LOAD_TEST: _Reason(_was_tested, "A resistive load shows what it gives at work, by volts and amps alone"),
    StepKey.TESTER_AGAIN: _Reason(
        _cannot_be_used, "A tester's figure hangs on its clamps and settings; a second one is soon taken"
    ),
    StepKey.CLEAN_TOP: _Reason(lambda case: bool(case.all_of(Stand)), "A wet dirty top drains a good battery"),
    StepKey.CELLS: _Reason(_decides(Kind.CELLS), "The cells show which of them fails"),
    StepKey.FIXED_TEST: _Reason(_decides(Kind.FIXED_LOAD), _OPENS_UNDER_LOAD),
    StepKey.CRANK_TEST: _Reason(
        lambda case: _decides(Kind.CRANK)(case) or StepKey.LOAD_TEST.tool not in case.rules.steps.tools_at_hand.value,
        _OPENS_UNDER_LOAD,
    ),
    StepKey.RETEST_LATER: _Reason(
        lambda case: case.context.use in RESERVE_USES,
        "It works for now; a second set of figures shows whether it fades",
    ),
}
