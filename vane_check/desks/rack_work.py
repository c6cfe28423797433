"""Work at the rack: clamp on, note, take off, pin, promise; each in one transaction, after which the plan is kept anew."""

import uuid
from datetime import datetime, timedelta
from typing import Literal

from pydantic import Field

from ..core.charging.rack import OpeningHours
from ..core.charging.rack.house import rest_hours
from ..core.findings.kinds import StepKey
from ..core.readings import ChargePoint, ChargeRun
from ..core.readings.check import standing_of
from ..core.readings.faults import FieldProblem
from ..core.tables import entry_limits
from ..core.units.model import Model, Moment
from ..core.words import Text, in_a_row, say
from ..records import batteries, rack
from ..records.events import announce
from ..records.models import BatteryRow, CheckRow, Promise, RackPin, RackStay
from .check import AT_ITS_CHARGER, core_check, keep_reading
from .counter import PutThere, battery_or_refused, put
from .desk import Conflict, Desk, Refused
from .equipment import used
from .rack import closed_then
from .rack_jobs import gather, plan_for
from .rack_plan import keep_plan
from .rack_slots import clock, slot_of
from .views import Place, announce_battery

_AMPS, _VOLTS = entry_limits()["charge_amps"], entry_limits()["charge_volts"]
Priority = Literal["waiting", "promised", "warranty", "ordinary", "stock"]


class Connect(Model):
    """A battery clamped to an output of a charger; amps and volts where they were read at once."""

    charger_id: int = Field(ge=0, le=2**62)
    output: int = Field(1, ge=1, le=12)
    amps: float | None = Field(None, ge=_AMPS.low, le=_AMPS.high)
    volts: float | None = Field(None, ge=_VOLTS.low, le=_VOLTS.high)
    reading_id: uuid.UUID


class Note(Model):
    """Amps and volts of a charge as they are now."""

    amps: float = Field(ge=_AMPS.low, le=_AMPS.high)
    volts: float = Field(ge=_VOLTS.low, le=_VOLTS.high)
    reading_id: uuid.UUID


class TakeOff(Model):
    """A battery taken off: full, or before it was; with amps and volts at the end where somebody read them."""

    how: Literal["full", "early"]
    amps: float | None = Field(None, ge=_AMPS.low, le=_AMPS.high)
    volts: float | None = Field(None, ge=_VOLTS.low, le=_VOLTS.high)
    ah_in: float | None = Field(None, ge=entry_limits()["charge_ah"].low, le=entry_limits()["charge_ah"].high)
    reading_id: uuid.UUID


class Promised(Model):
    """When it was promised, and how it is treated; None takes a promise back."""

    promised_at: Moment | None = None
    closed_is_right: bool = Field(
        False, description="somebody looked again: promised for a time when the shop is closed"
    )
    priority: Priority = "ordinary"


class PinThere(Model):
    """A battery set on an output by hand, from a moment on; without a charger the plan decides again."""

    charger_id: int | None = Field(None, ge=0, le=2**62)
    output: int = Field(1, ge=1, le=12)
    starts_at: Moment | None = None


def connect(desk: Desk, tag: int, body: Connect, now: datetime) -> None:
    """Clamp a battery on. One that hangs elsewhere is moved. Raises Refused where it may not be charged there, Conflict where another hangs."""
    rack.lock_rack(desk.session, desk.staff.store_id)
    row = battery_or_refused(desk, tag, lock=True)
    gathered = gather(desk, now, also=tag)
    stay = rack.open_stay(desk.session, row.id)
    if stay is not None and (stay.equipment_id, stay.output) == (body.charger_id, body.output):
        return
    battery = gathered.batteries.get(tag)
    charger = gathered.chargers.get(body.charger_id)
    if charger is None or body.output > charger[1].outputs:
        raise Refused(
            say("rack_work.no_such_charger"),
            [FieldProblem("charger_id", say("rack_work.this_charger_is_not_in_the_book_any_more"))],
        )
    if charger[0].state != "in_use":
        raise Refused(
            say("rack_work.it_cannot_be_clamped_on"),
            [
                FieldProblem(
                    "charger_id",
                    say("rack_work.is", name=charger[0].name, state=say(f"equipment_state.{charger[0].state}")),
                )
            ],
        )
    other = rack.on_output(desk.session, body.charger_id, body.output)
    if other is not None:
        raise Conflict(say("rack_work.hangs_there_take_it_off_first", tag=other.battery.tag))
    if battery is None:
        words = (
            say("rack_work.it_left_the_house")
            if row.place == "gone"
            else say("rack_work.it_is_held_apart_it_is_not_charged_at_all")
        )
        raise Refused(say("rack_work.it_cannot_be_clamped_on"), [FieldProblem("charger_id", words)])
    fit = battery.fits[body.charger_id]
    if fit.mode is None or fit.plan is None:
        raise Refused(
            say("rack_work.it_cannot_be_clamped_on"),
            [FieldProblem("charger_id", say("rack_work.not_there", why_not=fit.why_not))],
        )
    if stay is not None:
        stay.off_at, stay.off_by, stay.how = now, desk.staff.id, "moved"
        desk.session.flush()
    check = batteries.latest_check(desk.session, row.id)
    desk.session.add(
        RackStay(
            battery_id=row.id, check_id=check.id, equipment_id=body.charger_id, output=body.output, step=battery.step.value,
            volts=fit.mode.volts, amps=fit.plan.amps, hours=fit.plan.hours, connected_at=now, connected_by=desk.staff.id,
        )
    )  # fmt: skip
    desk.session.flush()
    watched = battery.step is StepKey.CHARGE_AND_WATCH or fit.plan.ah_assumed
    due = (
        now + timedelta(minutes=desk.rules.cells.watch_minutes.value)
        if watched
        else now + timedelta(hours=fit.plan.hours)
    )
    put(desk, tag, PutThere(place=Place.ON_CHARGE, needs_hand_at=due), now)
    _read_at_once(desk, row, body, now)
    keep_plan(desk, now, say("rack_work.went_on", tag=tag, name=charger[0].name))


def _read_at_once(desk: Desk, row: BatteryRow, body: Connect | TakeOff, now: datetime, **more: object) -> None:
    """Amps and volts that were typed beside an action, kept as a reading of the charge."""
    if (body.amps is None) != (body.volts is None):
        missing = "amps" if body.amps is None else "volts"
        raise Refused(
            say("rack_work.both_or_none"),
            [FieldProblem(missing, say(f"rack_work.enter_the_{missing}_too_or_neither"))],
        )
    if body.amps is not None and body.volts is not None:
        run = _run(desk, row, _hanging(desk, row), body.reading_id, now, body.amps, body.volts)
        keep_reading(desk, row.tag, run.model_copy(update=more), now)


def note(desk: Desk, tag: int, body: Note, now: datetime) -> None:
    """Keep amps and volts of a charge that goes on."""
    rack.lock_rack(desk.session, desk.staff.store_id)
    row = battery_or_refused(desk, tag, lock=True)
    stay = _hanging(desk, row)
    keep_reading(desk, tag, _run(desk, row, stay, body.reading_id, now, body.amps, body.volts), now)
    gathered = gather(desk, now)
    placed = next((placed for placed in plan_for(gathered).placed if placed.tag == tag), None)
    if placed is not None:
        row.needs_hand_at = slot_of(gathered, placed).ends_at
        desk.session.flush()
        announce_battery(desk, row, stay.check_id)
    keep_plan(desk, now, say("rack_work.was_looked_at", tag=tag))


def take_off(desk: Desk, tag: int, body: TakeOff, now: datetime) -> None:
    """Take a battery off: one that is full stands for the house's rest, one stopped early goes to the bench with what it is worth."""
    rack.lock_rack(desk.session, desk.staff.store_id)
    row = battery_or_refused(desk, tag, lock=True)
    stay = _hanging(desk, row)
    if body.how == "full" and body.amps is None and body.volts is None:
        words = say("rack_work.enter_what_it_shows_at_the_end_without_it")
        raise Refused(
            say("rack_work.it_is_not_shown_to_be_full"),
            [FieldProblem("amps", words), FieldProblem("volts", say("rack_work.and_its_volts"))],
        )
    _read_at_once(desk, row, body, now, finished=body.how == "full", stopped=body.how == "early", ah_in=body.ah_in)
    stay.off_at, stay.off_by, stay.how = now, desk.staff.id, body.how
    desk.session.flush()
    rested = now + timedelta(hours=rest_hours(desk.rules))
    there = PutThere(place=Place.STANDING, needs_hand_at=rested) if body.how == "full" else PutThere(place=Place.BENCH)
    put(desk, tag, there, now)
    keep_plan(
        desk,
        now,
        say("rack_work.came_off_full" if body.how == "full" else "rack_work.came_off_early", tag=tag),
    )


_HOURS = entry_limits()["charge_hours"]
"""One forgotten for longer is noted as hanging so long."""


def _hours_since(stay: RackStay, moment: datetime) -> float:
    return (moment - stay.connected_at).total_seconds() / 3600


def _hanging(desk: Desk, row: BatteryRow) -> RackStay:
    stay = rack.open_stay(desk.session, row.id)
    if stay is None:
        raise Conflict(say("rack_work.hangs_on_no_charger_any_more_look_at_the", tag=row.tag))
    return stay


def _run(
    desk: Desk, row: BatteryRow, stay: RackStay, name: uuid.UUID, now: datetime, amps: float, volts: float
) -> ChargeRun:
    """The charge until now as a reading: with every note before it as a point of its log."""
    check = batteries.latest_check(desk.session, row.id)
    checked = core_check(row, check, batteries.readings_of(desk.session, check.id))
    before = [
        run
        for run in standing_of(checked.readings)
        if isinstance(run, ChargeRun) and run.taken_at >= stay.connected_at and run.amps is not None
    ]
    points = tuple(
        ChargePoint(
            minutes=min(_hours_since(stay, run.taken_at), _HOURS.high) * 60, amps=run.amps or 0.0, volts=run.volts
        )
        for run in before[-NOTES_AT_MOST:]
    )
    hours = min(max(_hours_since(stay, now), _HOURS.low), _HOURS.high)
    return ChargeRun(
        id=str(name),
        taken_at=now,
        amps=amps,
        volts=volts,
        hours=round(hours, 4),
        log=points,
        start_amps=points[0].amps if points and points[0].minutes <= AT_ONCE_MINUTES else None,
        recovery=stay.step == StepKey.RECOVERY_CHARGE,
        tool=used(desk, stay.equipment_id, now),
        reason=AT_ITS_CHARGER,
    )


NOTES_AT_MOST = 400
"""So many notes of one charge stand in its log."""

AT_ONCE_MINUTES = 10
"""A note so soon after clamping on tells the amps at the start."""


def promise(desk: Desk, tag: int, body: Promised, now: datetime) -> None:
    """Promise a battery for a time, or take that back."""
    rack.lock_rack(desk.session, desk.staff.store_id)
    row = battery_or_refused(desk, tag, lock=True)
    check = batteries.latest_check(desk.session, row.id)
    if body.promised_at is not None and body.promised_at <= now:
        raise Refused(
            say("rack_work.it_cannot_be_promised"),
            [FieldProblem("promised_at", say("common.that_time_has_passed_promise_a_later_one"))],
        )
    if body.promised_at is not None and not body.closed_is_right:
        gathered = gather(desk, now)
        if not gathered.hours.is_open(body.promised_at, desk.zone):
            words = closed_then(gathered, desk, body.promised_at)
            raise Refused(say("rack_work.it_cannot_be_promised"), [FieldProblem("promised_at", words)])
    keep_promise(desk, check, body, now)
    announce_battery(desk, row, check.id)
    words = (
        say("rack_work.is_promised_no_more")
        if body.promised_at is None
        else say("rack_work.was_promised_for", clock=clock(desk, body.promised_at, now))
    )
    keep_plan(desk, now, in_a_row((str(tag), words), " "))


def keep_promise(desk: Desk, check: CheckRow, body: Promised, now: datetime) -> None:
    """Write down what was promised."""
    desk.session.add(
        Promise(
            check_id=check.id,
            promised_at=body.promised_at,
            priority=body.priority,
            said_at=now,
            staff_id=desk.staff.id,
        )
    )
    desk.session.flush()


def pin(desk: Desk, tag: int, body: PinThere, now: datetime) -> None:
    """Set a battery on an output by hand, or let the plan decide again."""
    rack.lock_rack(desk.session, desk.staff.store_id)
    row = battery_or_refused(desk, tag, lock=True)
    check = batteries.latest_check(desk.session, row.id)
    name: Text = say("rack_work.the_plans_choice")
    if body.charger_id is not None:
        gathered = gather(desk, now)
        charger = gathered.chargers.get(body.charger_id)
        battery = gathered.batteries.get(tag)
        if charger is None or body.output > charger[1].outputs:
            raise Refused(
                say("rack_work.no_such_charger"),
                [FieldProblem("charger_id", say("rack_work.this_charger_is_not_in_the_book_any_more"))],
            )
        if battery is None:
            raise Refused(
                say("rack_work.nothing_to_plan"),
                [FieldProblem("charger_id", say("rack_work.needs_no_charge_now_there_is_nothing_to", tag=tag))],
            )
        fit = battery.fits.get(body.charger_id)
        if fit is None or fit.mode is None:
            raise Refused(
                say("rack_work.it_does_not_go_there"),
                [
                    FieldProblem(
                        "charger_id",
                        say("rack_work.not_there", why_not=fit.why_not if fit else say("rack_work.out_of_use")),
                    )
                ],
            )
        name = charger[0].name
    desk.session.add(
        RackPin(
            check_id=check.id, equipment_id=body.charger_id, output=None if body.charger_id is None else body.output,
            starts_at=body.starts_at, pinned_at=now, staff_id=desk.staff.id,
        )
    )  # fmt: skip
    desk.session.flush()
    announce_battery(desk, row, check.id)
    keep_plan(
        desk,
        now,
        say("rack_work.was_set_on", tag=tag, name=name)
        if body.charger_id is not None
        else say("rack_work.was_left_to_the_plan", tag=tag),
    )


def open_at(desk: Desk, body: OpeningHours, now: datetime) -> None:
    """Say when the shop is open, from now on. Only a lead may."""
    desk.only_lead()
    rack.lock_rack(desk.session, desk.staff.store_id)
    rack.set_hours(desk.session, desk.staff.store_id, body.model_dump(mode="json"))
    keep_plan(desk, now, say("rack_work.the_opening_hours_changed"))
    announce(desk.session, desk.staff.store_id, "rack")
