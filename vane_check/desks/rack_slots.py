"""Where a battery stands on the rack, in moments and words."""

from datetime import datetime

from pydantic import BaseModel

from ..core.charging.rack import Placed
from ..core.charging.rack.parts import TICK_MINUTES
from ..core.findings.kinds import StepKey
from ..core.words import Figure, Words, dated, digits, fixed, say
from .desk import Desk
from .rack_jobs import Gathered, ends_at, priority_of


class Slot(BaseModel):
    """A battery on the rack: it hangs there, or is planned to. Moments in UTC."""

    tag: int
    charger_id: int
    output: int
    hangs: bool
    pinned: bool
    on_at: datetime
    starts_at: datetime
    ends_at: datetime
    off_at: datetime
    rested_at: datetime
    ready_at: datetime
    promised_at: datetime | None
    late_minutes: int
    priority: str
    step: StepKey
    set_words: Words
    mode: str
    volts: float
    amps: float
    hours: float
    missing_pct: float


def slot_of(gathered: Gathered, placed: Placed) -> Slot:
    """Where a battery stands, in moments."""
    battery = gathered.batteries[placed.tag]
    stay, fit = battery.at.stay, battery.fits.get(placed.lane.charger)
    plan = fit.plan if fit is not None and fit.plan is not None else battery.plan
    ends = gathered.moment(placed.ends) if placed.ends else ends_at(battery.at, battery.case, battery.step)
    volts, amps, hours = (
        (stay.volts, stay.amps, stay.hours) if stay is not None else (plan.volts, plan.amps, plan.hours)
    )
    return Slot(
        tag=placed.tag, charger_id=placed.lane.charger, output=placed.lane.output, hangs=stay is not None, pinned=placed.pinned,
        on_at=gathered.moment(placed.on) if stay is None else stay.connected_at,
        starts_at=gathered.moment(placed.starts) if stay is None else stay.connected_at,
        ends_at=ends, off_at=gathered.moment(placed.off), rested_at=gathered.moment(placed.rested), ready_at=gathered.moment(placed.ready),
        promised_at=None if battery.at.promise is None else battery.at.promise.promised_at,
        late_minutes=placed.late * TICK_MINUTES, priority=priority_of(battery.at), step=battery.step,
        set_words=say('rack_slots.v_a_about', volts=fixed(volts, 1), amps=digits(amps), span_words=span_words(hours)),
        mode=fit.mode.name if fit is not None and fit.mode is not None else "",
        volts=volts, amps=amps, hours=hours,
        missing_pct=round((battery.plan.missing_low_pct + battery.plan.missing_high_pct) / 2, 1),
    )  # fmt: skip


def span_words(hours: float) -> Words:
    """Hours as people say them.

    >>> str(span_words(5.33)), str(span_words(0.5))
    ('5 h 20', '30 min')
    """
    whole, minutes = divmod(round(hours * 60 / TICK_MINUTES) * TICK_MINUTES, 60)
    return (
        say("common.min", minutes=minutes)
        if not whole
        else say("figures.hours_and_minutes", hours=whole, minutes=Figure(f"{minutes:02d}"))
        if minutes
        else say("common.h", hours=whole)
    )


def clock(desk: Desk, moment: datetime, now: datetime) -> Words:
    """A moment by the shop's clock: the time, with its day where that is another."""
    there, today = moment.astimezone(desk.zone), now.astimezone(desk.zone).date()
    return (
        say("figures.at", there=dated(there, "%H:%M"))
        if there.date() == today
        else say("figures.day_and_time", day=dated(there, "%a"), time=dated(there, "%H:%M"))
    )
