"""The check: one battery, its readings, and the judgement over them."""

import uuid
from collections.abc import Sequence
from datetime import UTC, datetime, timedelta
from typing import Any

from pydantic import BaseModel

from ..core.battery.label import Battery, Context
from ..core.charging.rack.house import rest_hours
from ..core.facts.case import Case
from ..core.findings.kinds import StepKey
from ..core.findings.outcomes import Outcome
from ..core.judging.judgement import Judgement, assess
from ..core.judging.limits import Limits
from ..core.judging.tool_limits import ToolLimits
from ..core.readings import HANDS_ON, AnyReading, ChargeRun
from ..core.readings.check import ONE_READING, Check, CheckFile, impossible_values, standing_of
from ..core.readings.faults import FieldProblem
from ..core.tables import entry_limits
from ..core.words import dated, say
from ..records import batteries, rack
from ..records.models import BatteryRow, CheckRow, JudgementRow, ReadingRow
from .check_tools import PlannedView, StayView, at_rack, stay_view, tools_for
from .counter import battery_or_refused, move
from .desk import Conflict, Desk, Refused
from .equipment import used
from .remarks import OwnCallView, RemarkView, own_call_of, remarks_of
from .views import ListedCar, Place, Size, announce_battery, car_view, context_of, label_of, size_of


class KeptReading(BaseModel):
    """A reading as it stands in the records."""

    reading: AnyReading
    kept_at: datetime
    who: str
    corrected: bool


class CheckView(BaseModel):
    """Everything a screen needs of one battery's check."""

    tag: int
    place: Place
    needs_hand_at: datetime | None
    came_at: datetime
    battery: Battery
    context: Context
    sold_on: str | None
    take_in_id: int
    customer_name: str
    customer_phone: str
    customer_plate: str
    customer_erased: bool
    customer_id: int | None
    car: ListedCar | None
    size: Size | None
    readings: list[KeptReading]
    judgement: Judgement
    limits: Limits
    judged_at: datetime | None
    own_call: OwnCallView | None
    remarks: list[RemarkView]
    at_hand: list[str] | None
    """What this shop can reach by its book of equipment."""
    tools: list[ToolLimits]
    """The house's own tools in use, with what this battery is held against with each."""
    racked: bool
    """A charger stands in the book: a charge goes over the rack."""
    stay: StayView | None
    planned: PlannedView | None
    promised_at: datetime | None
    priority: str
    claimed: bool
    undone: bool
    """Its take-in was a mistake and was taken back."""


def view(desk: Desk, tag: int, now: datetime | None = None) -> CheckView:
    """One battery's present check. Where nothing was read yet, the judgement says what to do first."""
    now = now or datetime.now(UTC)
    row = battery_or_refused(desk, tag)
    check = batteries.latest_check(desk.session, row.id)
    entries = batteries.readings_of(desk.session, check.id)
    kept = batteries.latest_judgement(desk.session, check.id)
    checked = core_check(row, check, entries, at_hand=desk.at_hand)
    stands = {id(reading) for reading in standing_of(checked.readings)}
    judgement = Judgement.model_validate(kept.body) if kept else assess(checked, desk.rules, desk.zone)
    customer, case = row.customer, Case.of(checked, desk.rules)
    stay, promise = rack.open_stay(desk.session, row.id), rack.newest_promise(desk.session, check.id)
    hung = at_rack(desk, row.tag, case, judgement.next_step.key, stay)
    return CheckView(
        tag=row.tag,
        place=Place(row.place),
        needs_hand_at=row.needs_hand_at,
        came_at=row.came_at,
        battery=label_of(row),
        context=context_of(check, row),
        sold_on=row.sold_on.isoformat() if row.sold_on else None,
        take_in_id=batteries.newest_take_in(desk.session, check.id).id,
        customer_name=customer.name if customer else "",
        customer_phone=customer.phone if customer else "",
        customer_plate=customer.plate if customer else "",
        customer_erased=bool(customer and customer.erased_at),
        customer_id=customer.merged_into or customer.id if customer else None,
        car=car_view(row.vehicle) if row.vehicle else None,
        size=size_of(row.group_code),
        readings=[
            KeptReading(
                reading=reading,
                kept_at=entry.kept_at,
                who=entry.staff.name,
                corrected=id(reading) not in stands and reading.kind != "withdrawal",
            )
            for entry, reading in zip(entries, checked.readings, strict=True)
        ],
        judgement=judgement,
        limits=hung.limits,
        planned=hung.planned,
        at_hand=None if desk.at_hand is None else list(desk.at_hand),
        tools=tools_for(desk, case, now, None if stay is None else stay.equipment_id),
        racked=any(row.kind == "charger" for row in desk.equipment),
        stay=None if stay is None else stay_view(stay),
        promised_at=None if promise is None else promise.promised_at,
        priority="ordinary" if promise is None else promise.priority,
        judged_at=kept.made_at if kept else None,
        own_call=own_call_of(desk, check),
        remarks=remarks_of(desk, check),
        claimed=batteries.claim_of(desk.session, row.id) is not None,
        undone=check.undone_at is not None,
    )


def is_as_sold(desk: Desk, tag: int) -> bool:
    """Whether it stands as it was handed over new: nobody asked for a check of it."""
    row = battery_or_refused(desk, tag)
    kept = batteries.last_judged(desk.session, batteries.latest_check(desk.session, row.id).id)
    return kept is not None and kept.next_step == StepKey.SOLD


AT_ITS_CHARGER = "read at its charger"
"""Stands in the reading of a charge that the rack kept; no screen shows it."""


def _off_everywhere(desk: Desk, row: BatteryRow, run: ChargeRun, now: datetime) -> None:
    """A charge that is full or was stopped is over wherever that was noted: off its charger, to rest or to the bench."""
    if not (run.finished or run.stopped):
        return
    stay = rack.open_stay(desk.session, row.id)
    if stay is not None:
        stay.off_at, stay.off_by, stay.how = now, desk.staff.id, "full" if run.finished else "early"
        desk.session.flush()
    elif row.place != Place.ON_CHARGE:
        return
    rested = now + timedelta(hours=rest_hours(desk.rules)) if run.finished else None
    move(desk, row, Place.STANDING if run.finished else Place.BENCH, rested, now)


def keep_reading(desk: Desk, tag: int, reading: AnyReading, now: datetime, time_is_right: bool = False) -> CheckView:
    """Keep one reading and the judgement it leads to. The same reading sent twice is kept once.

    `time_is_right` says that somebody looked at an unlikely time and stands by it. Raises Refused for values that cannot
    be, Conflict when the entry does not stand any more or that name holds another reading.
    """
    row = battery_or_refused(desk, tag, lock=True)
    check = batteries.latest_check(desk.session, row.id)
    identity = _identity(reading.id, "id")
    tool = None if reading.tool is None else used(desk, reading.tool.equipment_id, now)
    reading = reading.model_copy(update={"taken_by": desk.staff.name, "tool": tool})
    earlier = batteries.reading_of_uuid(desk.session, identity)
    if earlier is not None:
        if earlier.check_id != check.id:
            raise Conflict(say("check.that_reading_belongs_to_another_battery"))
        if _as_typed(earlier.body) != _as_typed(reading.model_dump(mode="json")):
            raise Conflict(say("check.a_reading_of_that_name_was_kept_with_other"))
        return view(desk, tag)
    entries = batteries.readings_of(desk.session, check.id)
    if len(entries) >= entry_limits()["check_readings"].high:
        words = say("check.there_are_entries_of_this_visit_take_the", count=len(entries))
        raise Refused(say("check.no_more_of_this_visit"), [FieldProblem("", words)])
    before = core_check(row, check, entries, at_hand=desk.at_hand)
    replaced = _replaced(before, reading)
    _ask_why_unsafe(desk, before, reading)
    if replaced is None or replaced.taken_at != reading.taken_at:
        _ask_about_time(desk, reading, now, time_is_right)
    checked = before.model_copy(update={"readings": (*before.readings, reading)})
    own = f"readings[{len(entries)}]."
    if problems := [fault for fault in impossible_values(checked) if fault.path.startswith(own)]:
        faults = [FieldProblem(fault.path.removeprefix(own), fault.message) for fault in problems]
        raise Refused(say("check.the_reading_cannot_be_right"), faults)
    desk.session.add(
        ReadingRow(
            reading_uuid=identity,
            check_id=check.id,
            kind=reading.kind,
            taken_at=reading.taken_at,
            kept_at=now,
            staff_id=desk.staff.id,
            replaces=None if replaced is None else _identity(replaced.id, "replaces"),
            body=reading.model_dump(mode="json"),
        )
    )
    desk.session.flush()
    judge_and_keep(desk, check, checked, now)
    if isinstance(reading, ChargeRun) and replaced is None and reading.reason != AT_ITS_CHARGER:
        _off_everywhere(desk, row, reading, now)
    announce_battery(desk, row, check.id)
    return view(desk, tag)


def _as_typed(body: dict[str, Any]) -> dict[str, Any]:
    """What somebody typed: without what the book said of its tool at that moment, and what a later release added."""
    kept = {name: value for name, value in body.items() if value is not None and value is not False and name != "tool"}
    tool = body.get("tool")
    return kept if not tool else {**kept, "tool": tool["equipment_id"]}


def _ask_why_unsafe(desk: Desk, before: Check, reading: AnyReading) -> None:
    """Nothing is clamped to an unsafe battery without a reason that stands with the reading."""
    if reading.kind not in HANDS_ON or reading.reason or reading.replaces:
        return
    if assess(before, desk.rules, desk.zone).outcome is Outcome.UNSAFE:
        raise Refused(
            say("check.it_is_unsafe_hold_it_apart"),
            [FieldProblem("reason", say("check.it_is_unsafe_say_why_it_is_read"))],
        )


def _ask_about_time(desk: Desk, reading: AnyReading, now: datetime, time_is_right: bool) -> None:
    """A reading from the future is a clock gone wrong; one from long ago is asked about."""
    ahead = (reading.taken_at - now).total_seconds()
    limits = entry_limits()
    if ahead > limits["reading_ahead_minutes"].high * SECONDS_PER_MINUTE:
        words = say("check.that_lies_ahead_of_the_servers_clock_set")
    elif -ahead > limits["reading_age_hours"].high * SECONDS_PER_HOUR and not time_is_right:
        words = say(
            "check.was_it_really_taken_on_say_so_or_type_it",
            astimezone=dated(reading.taken_at.astimezone(desk.zone), "%d %b %Y, %H:%M"),
        )
    else:
        return
    raise Refused(say("check.when_was_this_taken"), [FieldProblem("taken_at", words)])


SECONDS_PER_MINUTE = 60
SECONDS_PER_HOUR = 3600


def judge_and_keep(desk: Desk, check: CheckRow, checked: Check, at: datetime) -> Judgement:
    """Judge under the rules in force and keep what was thought."""
    judgement = assess(checked, desk.rules, desk.zone, with_odds=True)
    desk.session.add(
        JudgementRow(
            check_id=check.id,
            staff_id=desk.staff.id,
            rules_version_id=desk.rules_id,
            made_at=at,
            outcome=judgement.outcome.value,
            body=judgement.model_dump(mode="json"),
        )
    )
    desk.session.flush()
    return judgement


def judge_again(desk: Desk, tag: int, now: datetime) -> None:
    """After the label was corrected: judge what was read against what the label now says."""
    row = battery_or_refused(desk, tag)
    check = batteries.latest_check(desk.session, row.id)
    entries = batteries.readings_of(desk.session, check.id)
    if entries:
        checked = core_check(row, check, entries, at_hand=desk.at_hand)
        if problems := [
            impossible_value
            for impossible_value in impossible_values(checked)
            if not impossible_value.path.endswith(".reason")
        ]:
            raise Refused(
                say("check.the_label_does_not_fit_what_was_read"),
                [FieldProblem("battery.nominal_volts", problems[0].message)],
            )
        judge_and_keep(desk, check, checked, now)
    announce_battery(desk, row, check.id)


def check_file(desk: Desk, tag: int) -> CheckFile:
    """The battery's check in the open format."""
    row = battery_or_refused(desk, tag)
    check = batteries.latest_check(desk.session, row.id)
    return CheckFile.model_validate(
        core_check(row, check, batteries.readings_of(desk.session, check.id), at_hand=desk.at_hand).model_dump(
            mode="json"
        )
    )


def core_check(
    row: BatteryRow,
    check: CheckRow,
    entries: Sequence[ReadingRow],
    *more: AnyReading,
    at_hand: tuple[str, ...] | None = None,
) -> Check:
    """A battery's check as the core reads it, with readings that are not kept yet, and what the shop can reach."""
    kept = tuple(reading_of(entry) for entry in entries)
    return Check(battery=label_of(row), context=context_of(check, row), at_hand=at_hand, readings=(*kept, *more))


def reading_of(entry: ReadingRow) -> AnyReading:
    """A kept reading as the core reads it."""
    return ONE_READING.validate_python(entry.body)


def _identity(text: str | None, field: str) -> uuid.UUID:
    try:
        return uuid.UUID(text or "")
    except ValueError as error:
        raise Refused(
            say("check.the_reading_has_no_name"), [FieldProblem(field, say("check.a_uuid_made_where_it_was_typed"))]
        ) from error


def _replaced(before: Check, reading: AnyReading) -> AnyReading | None:
    """The entry that a correction or a withdrawal is about; it must still stand."""
    if reading.replaces is None:
        return None
    _identity(reading.replaces, "replaces")
    entry = next((earlier for earlier in before.readings if earlier.id == reading.replaces), None)
    if entry is None or reading.kind not in {entry.kind, "withdrawal"}:
        raise Refused(
            say("check.nothing_to_correct"),
            [FieldProblem("replaces", say("check.no_such_entry_of_this_kind_on_this_battery"))],
        )
    if not any(reading is entry for reading in standing_of(before.readings)):
        raise Conflict(say("check.that_entry_was_corrected_or_taken_back"))
    return entry
