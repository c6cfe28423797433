"""The check: one battery, its readings, and the judgement over them."""

import uuid
from collections.abc import Sequence
from datetime import datetime, timedelta

from pydantic import BaseModel

from ..core.battery import Battery, Context
from ..core.check import ONE_READING, Check, CheckFile, FieldProblem, impossible_values
from ..core.evidence import Case
from ..core.judgement import Judgement, assess
from ..core.readings import AnyReading
from ..core.steps import Limits, limits_of
from ..records import batteries
from ..records.events import announce
from ..records.models import BatteryRow, CheckRow, JudgementRow, ReadingRow
from .counter import found_battery
from .desk import Conflict, Desk, Refused
from .views import ListedCar, Place, Size, car_view, context_of, label_of, size_of

CLOCK_MAY_DIFFER = timedelta(minutes=5)
"""How far a screen's clock may run ahead before its readings are refused."""


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
    customer_name: str
    customer_phone: str
    car: ListedCar | None
    size: Size | None
    readings: list[KeptReading]
    judgement: Judgement
    limits: Limits
    judged_at: datetime | None
    claimed: bool


def view(desk: Desk, tag: int) -> CheckView:
    """One battery's present check. Where nothing was read yet, the judgement says what to do first."""
    row = found_battery(desk, tag)
    check = batteries.latest_check(desk.session, row.id)
    entries = batteries.readings_of(desk.session, check.id)
    corrected = {entry.replaces for entry in entries if entry.replaces}
    kept = batteries.latest_judgement(desk.session, check.id)
    checked = core_check(row, check, entries)
    judgement = Judgement.model_validate(kept.body) if kept else assess(checked, desk.rules)
    return CheckView(
        tag=row.tag,
        place=row.place,
        needs_hand_at=row.needs_hand_at,
        came_at=row.came_at,
        battery=label_of(row),
        context=context_of(check),
        sold_on=row.sold_on.isoformat() if row.sold_on else None,
        customer_name=row.customer.name if row.customer else "",
        customer_phone=row.customer.phone if row.customer else "",
        car=car_view(row.vehicle) if row.vehicle else None,
        size=size_of(row.group_code),
        readings=[
            KeptReading(
                reading=_reading_of(entry),
                kept_at=entry.kept_at,
                who=entry.staff.name,
                corrected=entry.reading_uuid in corrected,
            )
            for entry in entries
        ],
        judgement=judgement,
        limits=limits_of(Case.of(checked, desk.rules)),
        judged_at=kept.made_at if kept else None,
        claimed=batteries.claim_of(desk.session, row.id) is not None,
    )


def keep_reading(desk: Desk, tag: int, reading: AnyReading, now: datetime) -> CheckView:
    """Keep one reading and the judgement it leads to. The same reading sent twice is kept once.

    Raises Refused for values that cannot be, Conflict when the corrected entry was corrected already.
    """
    row = found_battery(desk, tag, lock=True)
    check = batteries.latest_check(desk.session, row.id)
    identity = _identity(reading.id, "id")
    earlier = batteries.reading_of_uuid(desk.session, identity)
    if earlier is not None:
        if earlier.check_id != check.id:
            raise Conflict("that reading belongs to another battery")
        return view(desk, tag)
    replaces = _replaced(desk, check, reading)
    if reading.taken_at > now + CLOCK_MAY_DIFFER:
        raise Refused("The reading lies in the future", [FieldProblem("taken_at", "Set this screen's clock right")])
    entries = batteries.readings_of(desk.session, check.id)
    reading = reading.model_copy(update={"taken_by": desk.staff.name})
    checked = core_check(row, check, entries, reading)
    if problems := impossible_values(checked):
        raise Refused("The reading cannot be right", [FieldProblem(p.path.split(".")[-1], p.message) for p in problems])
    desk.session.add(
        ReadingRow(
            reading_uuid=identity,
            check_id=check.id,
            kind=reading.kind,
            taken_at=reading.taken_at,
            staff_id=desk.staff.id,
            replaces=replaces,
            body=reading.model_dump(mode="json"),
        )
    )
    desk.session.flush()
    judge_and_keep(desk, check, checked, now)
    announce(desk.session, desk.staff.store_id, "battery", tag)
    return view(desk, tag)


def judge_and_keep(desk: Desk, check: CheckRow, checked: Check, at: datetime) -> Judgement:
    """Judge under the rules in force and keep what was thought."""
    judgement = assess(checked, desk.rules)
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
    row = found_battery(desk, tag)
    check = batteries.latest_check(desk.session, row.id)
    entries = batteries.readings_of(desk.session, check.id)
    if entries:
        checked = core_check(row, check, entries)
        if problems := impossible_values(checked):
            raise Refused(
                "The label does not fit what was read",
                [FieldProblem("battery.nominal_volts", problems[0].message)],
            )
        judge_and_keep(desk, check, checked, now)


def check_file(desk: Desk, tag: int) -> CheckFile:
    """The battery's check in the open format."""
    row = found_battery(desk, tag)
    check = batteries.latest_check(desk.session, row.id)
    return CheckFile.model_validate(
        core_check(row, check, batteries.readings_of(desk.session, check.id)).model_dump(mode="json")
    )


def core_check(row: BatteryRow, check: CheckRow, entries: Sequence[ReadingRow], *more: AnyReading) -> Check:
    """A battery's check as the core reads it, with readings that are not kept yet."""
    kept = tuple(_reading_of(entry) for entry in entries)
    return Check(battery=label_of(row), context=context_of(check), readings=(*kept, *more))


def _reading_of(entry: ReadingRow) -> AnyReading:
    return ONE_READING.validate_python(entry.body)


def _identity(text: str | None, field: str) -> uuid.UUID:
    try:
        return uuid.UUID(text or "")
    except ValueError as error:
        raise Refused("The reading has no name", [FieldProblem(field, "A UUID made where it was typed")]) from error


def _replaced(desk: Desk, check: CheckRow, reading: AnyReading) -> uuid.UUID | None:
    if reading.replaces is None:
        return None
    replaces = _identity(reading.replaces, "replaces")
    entry = batteries.reading_of_uuid(desk.session, replaces)
    if entry is None or entry.check_id != check.id or reading.kind not in {entry.kind, "withdrawal"}:
        raise Refused("Nothing to correct", [FieldProblem("replaces", "No such entry of this kind on this battery")])
    if batteries.replaced_by(desk.session, replaces) is not None:
        raise Conflict("that entry was corrected already: look at the newest one")
    return replaces
