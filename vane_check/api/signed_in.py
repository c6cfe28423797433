"""Who asks: the session cookie, the CSRF token of every write, and the desk in one transaction a request."""

from collections.abc import Iterator
from datetime import UTC, datetime
from typing import Annotated

from fastapi import Depends, HTTPException, Request

from ..desks.desk import Desk
from ..desks.sign_in import desk_of
from ..records.base import StoreSession
from ..records.models import SignIn

COOKIE = "vane_session"
CSRF_HEADER = "X-Vane-CSRF"
SAFE = frozenset({"GET", "HEAD", "OPTIONS"})


def now() -> datetime:
    """This moment; tests replace it."""
    return datetime.now(UTC)


Now = Annotated[datetime, Depends(now)]


def open_session(request: Request) -> Iterator[StoreSession]:
    """A session in a transaction that is committed before the answer leaves: what is answered as kept is kept."""
    with request.app.state.sessions.begin() as session:
        yield session


OpenSession = Annotated[StoreSession, Depends(open_session, scope="function")]


def signed_in(request: Request, session: OpenSession, at: Now) -> tuple[Desk, SignIn]:
    """The desk and session of the person who asks. 401 without a session, 403 for a write without its CSRF token."""
    token = request.cookies.get(COOKIE)
    found = desk_of(session, token, at) if token else None
    if found is None:
        raise HTTPException(401, "Sign in first")
    if request.method not in SAFE and request.headers.get(CSRF_HEADER) != found[1].csrf_token:
        raise HTTPException(403, "This write does not come from a signed-in page: load the page again")
    return found


SignedIn = Annotated[tuple[Desk, SignIn], Depends(signed_in)]


def at_desk(found: SignedIn) -> Desk:
    """The desk alone."""
    return found[0]


AtDesk = Annotated[Desk, Depends(at_desk)]
