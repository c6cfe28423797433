"""Who asks: the session cookie, the CSRF token of every write, and the desk in one transaction a request."""

import uuid
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Annotated, Any, NamedTuple

from fastapi import Depends, Header, HTTPException, Request, Response
from pydantic import BaseModel

from ..core.house.rules import HouseRules
from ..core.words import say
from ..desks.desk import Desk
from ..desks.sign_in import TOUCH_EVERY, Session, desk_for, session_of, token_hash, touch
from ..records.base import COUNT, SAME_PLANS, StoreSession

COOKIE = "vane_session"
CSRF_HEADER = "X-Vane-CSRF"
SAFE = frozenset({"GET", "HEAD", "OPTIONS"})
KNOWN_FOR = timedelta(seconds=5)
"""How long a session that was looked up is taken as known; its end, told by any server process, ends that at once."""
KNOWN_AT_MOST = 1000


async def now(request: Request) -> datetime:
    """This moment, by the application's clock; tests turn it."""
    moment: datetime = request.app.state.clock()
    return moment


Now = Annotated[datetime, Depends(now)]


class Known(NamedTuple):
    """A session as it was found, with the rules its store works by."""

    session: Session
    rules: HouseRules
    rules_id: int
    looked_at: datetime


@dataclass
class SignedIn:
    """The sessions this process has seen lately."""

    begin: Callable[[], Any]

    def __post_init__(self) -> None:
        self._known: dict[str, Known] = {}

    def known(self, token: str, at: datetime) -> Known | None:
        """A session that was looked up a moment ago and still holds."""
        result = self._known.get(token_hash(token))
        if result is None or not timedelta(0) <= at - result.looked_at < KNOWN_FOR or not result.session.holds(at):
            return None
        return result

    def find(self, session: StoreSession, token: str, at: datetime) -> Known | None:
        """A session, looked up unless it is known; notes now and then that the person is still there."""
        known = self.known(token, at)
        if known is not None:
            return known
        result = session_of(session, token, at)
        if result is None:
            self._known.pop(token_hash(token), None)
            return None
        desk = desk_for(session, result)
        if at - result.seen_at > TOUCH_EVERY:
            touch(session, result, at)
            result = result._replace(seen_at=at)
        known = Known(result, desk.rules, desk.rules_id, at)
        if len(self._known) >= KNOWN_AT_MOST:
            self._known.clear()
        self._known[token_hash(token)] = known
        return known

    def look_up(self, token: str, at: datetime) -> Known | None:
        """The same in a transaction of its own."""
        with self.begin() as session:
            return self.find(session, token, at)

    def forget(self, values: dict[str, Any] | None = None) -> None:
        """Look sessions up again: one that ended, or all when staff or rules changed."""
        what = values["what"] if values else "everything"
        if what == "session" and values:
            self._known = {key: known for key, known in self._known.items() if known.session.id != values["tag"]}
        elif what in {"rules", "staff", "everything"}:
            self._known.clear()


def token_of(request: Request) -> str:
    """The session's token. 401 without one."""
    token = request.cookies.get(COOKIE)
    if not token:
        raise HTTPException(401, say("signed_in.sign_in_first"))
    return token


def let_in(request: Request, known: Known | None) -> Known:
    """401 without a session, 403 for a write without its CSRF token."""
    if known is None:
        raise HTTPException(401, say("signed_in.sign_in_first"))
    if request.method not in SAFE and request.headers.get(CSRF_HEADER) != known.session.csrf_token:
        raise HTTPException(403, say("signed_in.this_write_does_not_come_from_a_signed_in"))
    return known


def at_desk(request: Request, at: Now) -> Iterator[Desk]:
    """The desk of who asks, in a transaction that is committed before the answer leaves: what is answered as kept is kept."""
    token = token_of(request)
    signed_in: SignedIn = request.app.state.signed_in
    with request.app.state.sessions.begin() as session:
        yield desk_for(session, let_in(request, signed_in.find(session, token, at)).session)
    request.state.count = session.info.get(COUNT)


AtDesk = Annotated[Desk, Depends(at_desk, scope="function")]


@dataclass(frozen=True)
class KnownDesk:
    """Opens the desk of who asks where nothing is kept: inside the route's own thread, under the rules the session was found with."""

    request: Request
    at: datetime

    @contextmanager
    def __call__(self) -> Iterator[Desk]:
        """The desk in one transaction. 401 without a session, 403 without its CSRF token."""
        signed_in: SignedIn = self.request.app.state.signed_in
        with self.request.app.state.sessions.begin() as session:
            session.info[SAME_PLANS] = True
            known = let_in(self.request, signed_in.find(session, token_of(self.request), self.at))
            desk = desk_for(session, known.session)
            desk.rules_id = known.rules_id
            yield desk
        self.request.state.count = session.info.get(COUNT)


async def desk_opener(request: Request, at: Now) -> KnownDesk:
    """What opens the desk."""
    return KnownDesk(request, at)


AtKnownDesk = Annotated[KnownDesk, Depends(desk_opener)]


def as_json(body: BaseModel) -> Response:
    """An answer written where it was made."""
    return Response(body.model_dump_json(), media_type="application/json")


WriteId = Annotated[
    uuid.UUID,
    Header(alias="Idempotency-Key", description="A UUID the screen made for this write: sent twice it is done once"),
]


def opener(request: Request) -> Callable[[], Any]:
    """Opens transactions for who is not signed in yet."""
    begin: Callable[[], Any] = request.app.state.sessions.begin
    return begin


Opener = Annotated[Callable[[], Any], Depends(opener)]
