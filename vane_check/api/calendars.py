"""The shop's calendar feed: no sign-in, the address itself is the secret."""

from typing import Annotated

from fastapi import APIRouter, Path, Request, Response

from ..core.words import say
from ..desks import reminders
from ..desks.desk import NotThere
from .asks import CALENDAR
from .problems import AT_THE_DOOR, problem
from .signed_in import Now, Opener

router = APIRouter(prefix="/api", tags=["rack"])

Secret = Annotated[str, Path(max_length=200)]


@router.get("/calendars/{secret}.ics", response_class=Response, responses=AT_THE_DOOR)
def feed(secret: Secret, request: Request, begin: Opener, now: Now) -> Response:
    """Everything the shop is reminded of, as iCalendar. 401 where the address opens nothing."""
    try:
        with begin() as session:
            words = reminders.feed(session, secret, str(request.base_url), now)
    except NotThere:
        return problem(401, say("calendars.this_address_opens_no_calendar_a_lead"))
    return Response(words, media_type=CALENDAR, headers={"Cache-Control": "private, max-age=300"})
