"""The book of equipment: chargers, meters, testers, loads, hydrometers, with their state and last check."""

from datetime import date, datetime

from pydantic import BaseModel, Field

from ..core.house.equipment import AnyTool, Equipment, ToolUsed, due_on, figures_out_of_bounds, overdue_since
from ..core.readings.faults import FieldProblem
from ..core.units.model import Model
from ..core.words import say
from ..records import rack
from ..records.events import announce
from ..records.models import EquipmentEntry, EquipmentRow
from .desk import Conflict, Desk, NotThere, Refused


class EquipmentView(BaseModel):
    """A tool as it stands in the book."""

    id: int
    edition: int
    equipment: Equipment
    due_on: date | None
    overdue_since: date | None


class WrittenBefore(BaseModel):
    """A tool as it was written once."""

    edition: int
    who: str
    written_at: datetime
    equipment: Equipment


class OneTool(BaseModel):
    """A tool and what was written of it before, the newest first."""

    now: EquipmentView
    before: list[WrittenBefore]


class WriteEquipment(Model):
    """A tool written anew; over one that stands, `based_on` says which edition was seen."""

    equipment: Equipment
    based_on: int = Field(0, ge=0, le=2**31 - 1)


def equipment_of(row: EquipmentRow) -> Equipment:
    """A row as the core reads it."""
    return Equipment.model_validate(
        {
            "name": row.name, "tool": row.tool, "state": row.state, "checked_on": row.checked_on,
            "check_every_months": row.check_every_months, "remarks": row.remarks,
        }
    )  # fmt: skip


def view_of(desk: Desk, row: EquipmentRow, today: date) -> EquipmentView:
    """A row for a screen."""
    equipment = equipment_of(row)
    return EquipmentView(
        id=row.id, edition=row.edition, equipment=equipment, due_on=due_on(equipment, desk.rules),
        overdue_since=overdue_since(equipment, desk.rules, today),
    )  # fmt: skip


def book(desk: Desk, now: datetime) -> list[EquipmentView]:
    """The whole book."""
    return [view_of(desk, row, desk.today(now)) for row in desk.equipment]


def one_tool(desk: Desk, equipment_id: int, now: datetime) -> OneTool:
    """A tool with everything that was written of it. Raises NotThere."""
    row = _tool_of(desk, equipment_id)
    return OneTool(
        now=view_of(desk, row, desk.today(now)),
        before=[
            WrittenBefore(
                edition=entry.edition, who=entry.staff.name, written_at=entry.written_at,
                equipment=Equipment.model_validate(entry.body),
            )
            for entry in rack.entries_of(desk.session, row.id)
        ],
    )  # fmt: skip


def _tool_of(desk: Desk, equipment_id: int, lock: bool = False) -> EquipmentRow:
    row = rack.tool_of(desk.session, equipment_id, lock)
    if row is None:
        raise NotThere(say("equipment.no_tool_stands_in_the_book", equipment_id=equipment_id))
    return row


def add(desk: Desk, body: WriteEquipment, now: datetime) -> None:
    """Write a tool into the book."""
    _write(desk, EquipmentRow(edition=0), body.equipment, now)


def change(desk: Desk, equipment_id: int, body: WriteEquipment, now: datetime) -> None:
    """Write a tool anew; what stood before stays readable. Raises Conflict where another wrote meanwhile."""
    row = _tool_of(desk, equipment_id, lock=True)
    if row.edition != body.based_on:
        raise Conflict(say("common.was_written_anew_meanwhile_look_at_what", row_name=row.name))
    if body.equipment.tool.kind != row.kind:
        raise Refused(
            say("equipment.another_kind_of_tool"),
            [FieldProblem("equipment.tool", say("equipment.it_is_a_write_the_other_in_anew", kind=row.kind))],
        )
    _write(desk, row, body.equipment, now)


def _write(desk: Desk, row: EquipmentRow, equipment: Equipment, now: datetime) -> None:
    rack.lock_rack(desk.session, desk.staff.store_id)
    if equipment.checked_on is not None and equipment.checked_on > desk.today(now):
        raise Refused(
            say("common.it_cannot_be_right"),
            [FieldProblem("equipment.checked_on", say("equipment.checked_in_the_future_enter_the_day_it_was"))],
        )
    if out := figures_out_of_bounds(equipment.tool, desk.rules):
        raise Refused(
            say("common.it_cannot_be_right"),
            [FieldProblem(f"equipment.tool.{field}", said) for field, said in out.items()],
        )
    if any(other.id != row.id and other.name.lower() == equipment.name.lower() for other in desk.equipment):
        raise Refused(
            say("common.it_cannot_be_right"),
            [FieldProblem("equipment.name", say("equipment.another_tool_has_this_name_give_each_its"))],
        )
    if row.id is not None and equipment.tool.kind == "charger":
        _keeps_what_hangs(desk, row, equipment.tool)
    row.name, row.kind, row.tool = equipment.name, equipment.tool.kind, equipment.tool.model_dump(mode="json")
    row.state, row.checked_on, row.check_every_months, row.remarks = (
        equipment.state,
        equipment.checked_on,
        equipment.check_every_months,
        equipment.remarks,
    )
    row.edition += 1
    desk.session.add(row)
    desk.session.flush()
    desk.session.add(
        EquipmentEntry(
            equipment_id=row.id,
            edition=row.edition,
            staff_id=desk.staff.id,
            written_at=now,
            body=equipment.model_dump(mode="json"),
        )
    )
    desk.session.flush()
    desk.forget_equipment()
    announce(desk.session, desk.staff.store_id, "rack")


def _keeps_what_hangs(desk: Desk, row: EquipmentRow, tool: AnyTool) -> None:
    assert tool.kind == "charger"
    for output in range(tool.outputs + 1, 13):
        stay = rack.on_output(desk.session, row.id, output)
        if stay is not None:
            raise Refused(
                say("equipment.a_battery_hangs_there"),
                [
                    FieldProblem(
                        "equipment.tool.outputs",
                        say("equipment.hangs_on_output_take_it_off_first", tag=stay.battery.tag, output=output),
                    )
                ],
            )


def used(desk: Desk, equipment_id: int, now: datetime) -> ToolUsed:
    """A tool as a reading keeps it. Raises Refused for one that is not in the book."""
    row = next((tool for tool in desk.equipment if tool.id == equipment_id), None)
    if row is None:
        raise Refused(
            say("equipment.no_such_tool"),
            [FieldProblem("tool", say("equipment.this_tool_is_not_in_the_book_any_more_pick"))],
        )
    kept = equipment_of(row)
    return ToolUsed(
        equipment_id=row.id,
        name=row.name,
        tool=kept.tool,
        overdue_since=overdue_since(kept, desk.rules, desk.today(now)),
    )
