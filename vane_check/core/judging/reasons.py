"""Why a step is worth doing: its usual reason where that is true of the case at hand, else the one that is."""

from collections.abc import Callable
from typing import NamedTuple

from ..battery.label import RESERVE_USES
from ..facts.case import Case
from ..facts.tester_settings import reads_low, why_void
from ..findings.kinds import Kind, StepKey
from ..findings.outcomes import Outcome
from ..readings import ElectronicTester, Stand
from ..words import Words, say


class _Reason(NamedTuple):
    """Whether the usual reason is true of a case, and what is said where it is not."""

    holds: Callable[[Case], bool]
    otherwise: Words


def why_instead(key: StepKey, case: Case) -> Words | None:
    """Why a step is worth doing here where its usual reason is not true of the case: nothing is said of a tester, a house's method
    or a use that is not this battery's."""
    reason = _REASONS.get(key)
    return None if reason is None or reason.holds(case) else reason.otherwise


def why_replaced(outcome: Outcome) -> Words | None:
    """Why a battery is replaced that was condemned by something else than a test of its starting power; else nothing."""
    return _REPLACED_FOR.get(outcome)


BROKE_DOWN = say("reasons.it_broke_down_under_a_load_that_it_should")
"""Why a battery is replaced whose volts collapsed."""

_REPLACED_FOR = {
    Outcome.DEAD_CELL: say("reasons.a_cell_is_gone_and_no_charge_brings_one"),
    Outcome.LEAKS_CHARGE: say("reasons.it_takes_a_charge_and_loses_it_standing"),
}


def _decides(kind: Kind) -> Callable[[Case], bool]:
    return lambda case: kind in case.rules.decision.deciding_kinds.value


def _was_tested(case: Case) -> bool:
    return bool(case.all_of(ElectronicTester))


def _cannot_be_used(case: Case) -> bool:
    last = case.last_of(ElectronicTester)
    return last is not None and (why_void(last, case) is not None or reads_low(last, case) is not None)


_OPENS_UNDER_LOAD = say("reasons.a_break_inside_opens_only_under_a_load")

_REASONS: dict[StepKey, _Reason] = {
    StepKey.LOAD_TEST: _Reason(_was_tested, say("reasons.a_resistive_load_shows_what_it_gives_at")),
    StepKey.TESTER_AGAIN: _Reason(_cannot_be_used, say("reasons.a_testers_figure_hangs_on_its_clamps_and")),
    StepKey.CLEAN_TOP: _Reason(
        lambda case: bool(case.all_of(Stand)), say("reasons.a_wet_dirty_top_drains_a_good_battery")
    ),
    StepKey.CELLS: _Reason(_decides(Kind.CELLS), say("reasons.the_cells_show_which_of_them_fails")),
    StepKey.FIXED_TEST: _Reason(_decides(Kind.FIXED_LOAD), _OPENS_UNDER_LOAD),
    StepKey.CRANK_TEST: _Reason(
        lambda case: _decides(Kind.CRANK)(case) or StepKey.LOAD_TEST.tool not in case.rules.steps.tools_at_hand.value,
        _OPENS_UNDER_LOAD,
    ),
    StepKey.RETEST_LATER: _Reason(
        lambda case: case.context.use in RESERVE_USES,
        say("reasons.it_works_for_now_a_second_set_of_figures"),
    ),
}
