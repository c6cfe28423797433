"""The plan of the rack as it is kept with every action: what stands where, what it changed, and why."""

from datetime import datetime

from ..core.charging.rack import Lane, Placed, changes_between
from ..core.charging.rack.house import soon_minutes
from ..core.words import Words, fact_of, for_record
from ..records.models import RackPlan
from .desk import Desk
from .rack_jobs import Gathered, adopt_plan, before_of, gather, plan_for


def keep_plan(desk: Desk, now: datetime, why: Words) -> None:
    """Plan anew after something was done, and keep the plan with what it changed and why. Called under the rack's lock."""
    gathered = gather(desk, now)
    if not gathered.chargers:
        return
    plan = plan_for(gathered)
    changes = changes_between(before_of(gathered), plan.placed, gathered.name, soon_minutes(desk.rules))
    row = RackPlan(
        made_at=now, staff_id=desk.staff.id, why=for_record(why), slots=[_row_of(gathered, placed) for placed in plan.placed],
        changes=[{"tag": change.tag, "words": fact_of(change.words)} for change in changes],
    )  # fmt: skip
    desk.session.add(row)
    desk.session.flush()
    adopt_plan(gathered, plan, row)


def _row_of(gathered: Gathered, placed: Placed) -> dict[str, object]:
    lane: Lane = placed.lane
    moments = {
        "on_at": placed.on, "starts_at": placed.starts, "ends_at": placed.ends, "off_at": placed.off,
        "rested_at": placed.rested, "ready_at": placed.ready,
    }  # fmt: skip
    return {
        "tag": placed.tag,
        "charger_id": lane.charger,
        "output": lane.output,
        **{name: gathered.moment(tick).isoformat() for name, tick in moments.items()},
    }
