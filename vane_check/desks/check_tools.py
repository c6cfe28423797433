"""What a battery is read and charged with: the tools that may be picked, the charger it hangs on."""

from datetime import datetime
from typing import NamedTuple

from pydantic import BaseModel

from ..core.charging.plan import CHARGES, plan_of
from ..core.charging.rack import suits
from ..core.facts.case import Case
from ..core.findings.kinds import StepKey
from ..core.house.equipment import Charger
from ..core.judging.limits import Limits, limits_of
from ..core.judging.tool_limits import ToolLimits, tool_limits
from ..records import rack
from ..records.models import RackStay
from .desk import Desk
from .equipment import equipment_of, used


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


class PlannedView(BaseModel):
    """Where the rack will charge it: on which charger, as it is set, and from when."""

    charger: str
    volts: float
    amps: float
    hours: float
    starts_at: datetime


class AtRack(NamedTuple):
    """What it is held against as the rack has it, and where it is planned while it hangs nowhere."""

    limits: Limits
    planned: PlannedView | None


def at_rack(desk: Desk, tag: int, case: Case, key: StepKey, stay: RackStay | None) -> AtRack:
    """What it is held against: its plan is that of the charger it hangs on, or the rack has for it. One volts, one amps, one time for
    the Check desk, the rack and its tag."""
    limits = limits_of(case)
    if stay is not None:
        plan = plan_of(case, StepKey(stay.step), stay.amps, counts_so_far=False, charger_volts=stay.volts)
        return AtRack(limits.model_copy(update={"plan": plan.model_copy(update={"hours": stay.hours})}), None)
    newest = rack.newest_plan(desk.session) if key in CHARGES and desk.equipment else None
    slot = next((each for each in newest.slots if each["tag"] == tag), None) if newest else None
    row = next((each for each in desk.equipment if slot and each.id == slot["charger_id"]), None)
    if slot is None or row is None or row.state != "in_use":
        return AtRack(limits, None)
    charger = equipment_of(row).tool
    if not isinstance(charger, Charger):
        return AtRack(limits, None)
    fit = suits(case, key, charger, desk.store.bay_temperature_c)
    if fit.mode is None or fit.plan is None:
        return AtRack(limits, None)
    planned = PlannedView(
        charger=row.name, volts=fit.plan.volts, amps=fit.plan.amps, hours=fit.plan.hours, starts_at=datetime.fromisoformat(slot["starts_at"]),
    )  # fmt: skip
    return AtRack(limits.model_copy(update={"plan": fit.plan}), planned)


def stay_view(stay: RackStay) -> StayView:
    """Where it hangs, for a screen."""
    return StayView(
        charger_id=stay.equipment_id, charger=stay.equipment.name, output=stay.output, step=StepKey(stay.step),
        volts=stay.volts, amps=stay.amps, hours=stay.hours, connected_at=stay.connected_at,
    )  # fmt: skip
