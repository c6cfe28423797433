"""What several routes ask for alike: a tag, a typed text, the sessions this process knows."""

from typing import Annotated

from fastapi import Depends, Path, Query, Request

from ..core.units.model import Model, ShortText
from ..desks.counter import MOST
from .signed_in import SignedIn

TagPath = Annotated[int, Path(ge=0, le=MOST)]
Typed = Annotated[ShortText, Query(max_length=80)]
PAGES_AT_MOST = 1000


def sessions_of(request: Request) -> SignedIn:
    """The sessions this process knows."""
    session: SignedIn = request.app.state.signed_in
    return session


KnownSessions = Annotated[SignedIn, Depends(sessions_of)]


class NoMore(Model):
    """Nothing more is to be said."""


CALENDAR = "text/calendar; charset=utf-8"
