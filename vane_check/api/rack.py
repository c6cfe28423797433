"""The rack's routes: the rack, work at it, the book of equipment, opening hours."""

from typing import Annotated

from fastapi import APIRouter, Path

from ..core.charging.rack import OpeningHours
from ..desks import equipment, rack, rack_work
from ..desks.idempotency import once
from .asks import TagPath
from .problems import OF_A_BATTERY, SIGNED_IN, WRITE, documented_responses
from .signed_in import AtDesk, Now, WriteId

router = APIRouter(prefix="/api", responses=SIGNED_IN, tags=["rack"])

ToolPath = Annotated[int, Path(ge=0, le=2**62)]


@router.get("/rack")
def the_rack(desk: AtDesk, now: Now) -> rack.RackView:
    """What stands where, what comes next, what needs a hand."""
    return rack.view(desk, now)


@router.post("/rack/earliest", responses=documented_responses(403))
def earliest(body: rack.AskEarliest, desk: AtDesk, now: Now) -> rack.Earliest:
    """When a battery that is being taken in can be ready. Nothing is kept."""
    return rack.earliest(desk, body, now)


@router.post("/batteries/{tag}/charge", status_code=201, responses={**WRITE, **OF_A_BATTERY})
def connect(tag: TagPath, body: rack_work.Connect, desk: AtDesk, now: Now, write: WriteId) -> rack.RackView:
    """A battery was clamped to a charger."""
    once(desk, write, f"charge {tag}", body, lambda: rack_work.connect(desk, tag, body, now))
    return rack.view(desk, now)


@router.post("/batteries/{tag}/charge/note", status_code=201, responses={**WRITE, **OF_A_BATTERY})
def note(tag: TagPath, body: rack_work.Note, desk: AtDesk, now: Now, write: WriteId) -> rack.RackView:
    """Amps and volts of a charge that goes on."""
    once(desk, write, f"note {tag}", body, lambda: rack_work.note(desk, tag, body, now))
    return rack.view(desk, now)


@router.post("/batteries/{tag}/charge/off", status_code=201, responses={**WRITE, **OF_A_BATTERY})
def take_off(tag: TagPath, body: rack_work.TakeOff, desk: AtDesk, now: Now, write: WriteId) -> rack.RackView:
    """A battery was taken off, full or before it was."""
    once(desk, write, f"off {tag}", body, lambda: rack_work.take_off(desk, tag, body, now))
    return rack.view(desk, now)


@router.put("/batteries/{tag}/promise", responses={**WRITE, **OF_A_BATTERY})
def promise(tag: TagPath, body: rack_work.Promised, desk: AtDesk, now: Now, write: WriteId) -> rack.RackView:
    """Promise a battery for a time, or take that back."""
    once(desk, write, f"promise {tag}", body, lambda: rack_work.promise(desk, tag, body, now))
    return rack.view(desk, now)


@router.put("/batteries/{tag}/pin", responses={**WRITE, **OF_A_BATTERY})
def pin(tag: TagPath, body: rack_work.PinThere, desk: AtDesk, now: Now, write: WriteId) -> rack.RackView:
    """Set a battery on a charger by hand, or leave it to the plan."""
    once(desk, write, f"pin {tag}", body, lambda: rack_work.pin(desk, tag, body, now))
    return rack.view(desk, now)


@router.put("/rack/hours", responses=WRITE)
def opening_hours(body: OpeningHours, desk: AtDesk, now: Now, write: WriteId) -> rack.RackView:
    """When the shop is open. Only a lead may say."""
    once(desk, write, "hours", body, lambda: rack_work.open_at(desk, body, now))
    return rack.view(desk, now)


@router.get("/equipment")
def book(desk: AtDesk, now: Now) -> list[equipment.EquipmentView]:
    """The book of equipment."""
    return equipment.book(desk, now)


@router.post("/equipment", status_code=201, responses=WRITE)
def add_equipment(
    body: equipment.WriteEquipment, desk: AtDesk, now: Now, write: WriteId
) -> list[equipment.EquipmentView]:
    """Write a tool into the book."""
    once(desk, write, "equipment", body, lambda: equipment.add(desk, body, now))
    return equipment.book(desk, now)


@router.get("/equipment/{equipment_id}", responses=documented_responses(404))
def one_tool(equipment_id: ToolPath, desk: AtDesk, now: Now) -> equipment.OneTool:
    """A tool with what was written of it before."""
    return equipment.one_tool(desk, equipment_id, now)


@router.put("/equipment/{equipment_id}", responses={**WRITE, **documented_responses(404)})
def change_equipment(
    equipment_id: ToolPath, body: equipment.WriteEquipment, desk: AtDesk, now: Now, write: WriteId
) -> list[equipment.EquipmentView]:
    """Write a tool anew; what stood before stays readable."""
    once(desk, write, f"equipment {equipment_id}", body, lambda: equipment.change(desk, equipment_id, body, now))
    return equipment.book(desk, now)
