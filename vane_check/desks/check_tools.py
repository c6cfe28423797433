"""What a battery is read and charged with: the tools that may be picked, the charger it hangs on."""

from datetime import datetime

from pydantic import BaseModel

from ..core.charging.plan import plan_of
from ..core.facts.case import Case
from ..core.findings.kinds import StepKey
from ..core.judging.limits import Limits, limits_of
from ..core.judging.tool_limits import ToolLimits, tool_limits
from ..records.models import RackStay
from .desk import Desk
from .equipment import used


class StayView(BaseModel):
    """On which charger it hangs, since when, and what was set."""

    charger_id: int
    charger: str
    output: int
    step: StepKey
    volts: float
    amps: float
    hours: float
    connected_at: datetime


def tools_for(desk: Desk, case: Case, now: datetime, hangs_on: int | None) -> list[ToolLimits]:
    """Every tool that may be picked for a reading of this battery, and the charger it hangs on."""
    result = []
    for row in desk.equipment:
        if row.id == hangs_on or (row.state == "in_use" and row.kind != "charger"):
            result.append(tool_limits(case, used(desk, row.id, now), row.checked_on is None))
    return result


def limits_where_it_hangs(case: Case, stay: RackStay | None) -> Limits:
    """What it is held against; where it hangs on a charger, the plan is of that one's amps."""
    limits = limits_of(case)
    if stay is None:
        return limits
    return limits.model_copy(update={"plan": plan_of(case, StepKey(stay.step), stay.amps, counts_so_far=False)})


def stay_view(stay: RackStay) -> StayView:
    """Where it hangs, for a screen."""
    return StayView(
        charger_id=stay.equipment_id, charger=stay.equipment.name, output=stay.output, step=StepKey(stay.step),
        volts=stay.volts, amps=stay.amps, hours=stay.hours, connected_at=stay.connected_at,
    )  # fmt: skip
