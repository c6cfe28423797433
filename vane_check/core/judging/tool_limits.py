"""What each of the shop's own tools makes of a battery's limits: the set-point its load can draw, its seconds, its bands, its wait."""

from dataclasses import replace
from datetime import date

from pydantic import BaseModel, ConfigDict

from ..battery.label import RatingScale
from ..facts.case import Case
from ..house.equipment import AnyTool, Load, Tester, ToolUsed, rules_through
from .limits import FixedFigures, fixed_figures
from .steps import LoadFigures, load_figures


class ToolLimits(BaseModel):
    """A tool that may be picked for a reading, and what this battery is held against with it."""

    model_config = ConfigDict(frozen=True)

    equipment_id: int
    name: str
    tool: AnyTool
    overdue_since: date | None
    never_checked: bool
    load: LoadFigures | None
    fixed: FixedFigures | None
    wait_minutes: float | None
    scale: RatingScale | None
    """The scale an electronic tester is set to for this battery: the label's where it has it."""


def tool_limits(case: Case, used: ToolUsed, never_checked: bool) -> ToolLimits:
    """The limits of a battery read with one tool."""
    tool = used.tool
    assert tool is not None
    seen = replace(case, rules=rules_through(case.rules, used))
    load = tool if isinstance(tool, Load) else None
    return ToolLimits(
        equipment_id=used.equipment_id, name=used.name, tool=tool, overdue_since=used.overdue_since, never_checked=never_checked,
        load=load_figures(seen) if load and load.adjustable else None,
        fixed=fixed_figures(seen) if load and not load.adjustable else None,
        wait_minutes=seen.rules.load.wait_minutes.value if load else None,
        scale=_scale_for(case, tool) if isinstance(tool, Tester) else None,
    )  # fmt: skip


def _scale_for(case: Case, tool: Tester) -> RatingScale:
    rating = case.battery.rating
    return rating.scale if rating is not None and rating.scale in tool.scales else tool.scales[0]
