"""The rack's tag of a battery, and when it is due: as a date, and as a calendar."""

from fastapi import APIRouter, Request, Response

from ..desks import rack_tag, reminders
from ..desks.idempotency import once
from ..papers.rack_tag import TagSize
from .asks import CALENDAR, KnownSessions, TagPath
from .problems import OF_A_BATTERY, SIGNED_IN, WRITE, documented_responses
from .signed_in import AtDesk, Now, WriteId

router = APIRouter(prefix="/api", responses=SIGNED_IN)


@router.get("/batteries/{tag}/rack-tag.pdf", tags=["rack"], responses=OF_A_BATTERY, response_class=Response)
def rack_tag_pdf(tag: TagPath, desk: AtDesk, now: Now, request: Request, size: TagSize = "rack") -> Response:
    """The tag that hangs on a battery at the rack: number, what to set, when it is due, a code that opens it."""
    paper = rack_tag.rack_tag_pdf(desk, tag, str(request.base_url), now, size)
    return Response(
        paper, media_type="application/pdf", headers={"Content-Disposition": f'inline; filename="tag-{tag}.pdf"'}
    )


@router.get("/batteries/{tag}/retest.ics", tags=["rack"], responses=OF_A_BATTERY, response_class=Response)
def retest_ics(tag: TagPath, desk: AtDesk, request: Request) -> Response:
    """The day a watched battery is tested again, as iCalendar."""
    return Response(
        reminders.of_battery(desk, tag, str(request.base_url)), media_type=CALENDAR,
        headers={"Content-Disposition": f'attachment; filename="retest-{tag}.ics"'},
    )  # fmt: skip


@router.get("/calendar", tags=["rack"], responses=documented_responses(403))
def calendar(desk: AtDesk, request: Request) -> reminders.CalendarView:
    """The secret address of the shop's calendar. Only a lead may see it."""
    return reminders.address(desk, str(request.base_url))


@router.post("/calendar", status_code=201, tags=["rack"], responses=WRITE)
def renew_calendar(
    body: reminders.Renewal, desk: AtDesk, request: Request, write: WriteId, signed_in: KnownSessions
) -> reminders.CalendarView:
    """A new secret address: whoever has the old one sees nothing more. Only a lead may."""
    once(desk, write, "calendar", body, lambda: reminders.renew(desk))
    signed_in.forget()
    return reminders.address(desk, str(request.base_url))
