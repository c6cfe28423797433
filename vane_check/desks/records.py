"""Records: past checks, and one battery's life."""

from datetime import datetime

from pydantic import BaseModel

from ..core.battery import Battery
from ..records import batteries
from .check import CheckView, view
from .counter import TakeIn, found_battery
from .desk import Desk
from .views import Place, label_of

AT_MOST = 200


class PastCheck(BaseModel):
    """One line of the list of checks."""

    tag: int
    opened_at: datetime
    battery: Battery
    place: Place
    complaint: str
    outcome: str | None
    figures: list[str]


class WrittenTakeIn(BaseModel):
    """The take-in as somebody wrote it."""

    written_at: datetime
    who: str
    take_in: TakeIn


class Stay(BaseModel):
    """Where a battery was put."""

    moved_at: datetime
    who: str
    place: Place
    needs_hand_at: datetime | None


class Life(BaseModel):
    """Everything kept of one battery, corrections included."""

    check: CheckView
    take_ins: list[WrittenTakeIn]
    stays: list[Stay]


def past_checks(desk: Desk, text: str = "") -> list[PastCheck]:
    """The newest checks, at most 200, whose line, serial or tag holds the text."""
    return [
        PastCheck(
            tag=row.tag,
            opened_at=check.opened_at,
            battery=label_of(row),
            place=row.place,
            complaint=check.complaint,
            outcome=judgement.outcome if judgement else None,
            figures=[found["reading_text"] for found in judgement.body["findings"] if found["status"] != "dropped"]
            if judgement
            else [],
        )
        for check, row, judgement in batteries.past_checks(desk.session, AT_MOST, text)
    ]


def life(desk: Desk, tag: int) -> Life:
    """One battery's life in this house."""
    row = found_battery(desk, tag)
    check = batteries.latest_check(desk.session, row.id)
    return Life(
        check=view(desk, tag),
        take_ins=[
            WrittenTakeIn(written_at=entry.written_at, who=staff.name, take_in=TakeIn.model_validate(entry.body))
            for entry, staff in batteries.take_in_entries(desk.session, check.id)
        ],
        stays=[
            Stay(moved_at=move.moved_at, who=staff.name, place=move.place, needs_hand_at=move.needs_hand_at)
            for move, staff in batteries.moves_of(desk.session, row.id)
        ],
    )
