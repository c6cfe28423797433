"""Signing in, who is signed in, and signing out."""

import os
from datetime import datetime
from typing import Annotated

from fastapi import APIRouter, HTTPException, Query, Request, Response
from pydantic import BaseModel, Field
from starlette.concurrency import run_in_threadpool

from ..core.units.model import Model, ShortText
from ..core.words import say
from ..desks import sign_in as desk
from ..desks.counter import MOST
from .problems import AT_THE_DOOR, problem
from .signed_in import COOKIE, Known, Now, Opener, SignedIn, let_in, token_of

router = APIRouter(prefix="/api", tags=["sign in"])

StaffId = Annotated[int, Field(ge=0, le=MOST)]
PinText = Annotated[str, Field(min_length=1, max_length=32)]


class Pin(Model):
    """A person and their PIN."""

    staff_id: StaffId
    pin: PinText


class Lift(Model):
    """Whose waiting a lead ends."""

    staff_id: StaffId
    lead_id: StaffId
    lead_pin: PinText


class StoreView(BaseModel):
    """The store's settings that screens follow."""

    id: int
    name: str
    door: str
    """What the address of its sign-in page carries: the device remembers it."""
    temperature_unit: str
    length_unit: str
    currency: str
    bay_temperature_c: float | None
    idle_minutes: int
    time_zone: str
    language: str
    taxes: list[str]
    """What its taxes are called, the one most items are sold at first."""


class Me(BaseModel):
    """Who is signed in, and the token that every write must carry."""

    id: int
    name: str
    role: str
    session_id: int
    csrf_token: str
    store: StoreView


@router.get("/people", responses=AT_THE_DOOR)
def people(
    request: Request,
    begin: Opener,
    at: Now,
    door: Annotated[ShortText, Query(description="of the store's own address")] = "",
) -> desk.DoorView:
    """The names on the sign-in page of this store."""
    token = request.cookies.get(COOKIE)
    with begin() as session:
        result = desk.session_of(session, token, at) if token else None
        return desk.people_here(session, result.store.door if result else door)


@router.post("/sign-in", response_model=Me, responses=AT_THE_DOOR)
def sign_in(pin: Pin, request: Request, begin: Opener, at: Now, response: Response) -> Me | Response:
    """Open a session. 401 for a wrong PIN, 429 when it is too soon to try again."""
    opened = desk.sign_in(begin, pin.staff_id, pin.pin, address_of(request), at)
    before = request.cookies.get(COOKIE)
    if before and isinstance(opened, desk.Opened):  # one page, one session: the one before ends
        with begin() as session:
            desk.sign_out(session, before, at)
        request.app.state.signed_in.forget()
    return admitted(opened, response, at)


def admitted(opened: desk.Opened | desk.WrongPin, response: Response, at: datetime) -> Me | Response:
    """The cookie of a session that was opened, or why none was."""
    if isinstance(opened, desk.WrongPin):
        return problem(429 if opened.wait_seconds else 401, opened.args[0], wait_seconds=opened.wait_seconds or None)
    response.set_cookie(COOKIE, opened.token, httponly=True, samesite="strict", path="/", secure=over_tls())
    return _me(desk.Session(opened.session_id, opened.staff, opened.store, opened.csrf_token, at, at))


@router.post("/sign-in/lift", status_code=204, responses=AT_THE_DOOR, response_class=Response)
def lift(body: Lift, request: Request, begin: Opener, at: Now) -> Response:
    """A lead ends somebody's waiting at the counter they stand at."""
    why_not = desk.lift(begin, body.staff_id, body.lead_id, body.lead_pin, address_of(request), at)
    if why_not is None:
        return Response(status_code=204)
    return problem(429 if why_not.wait_seconds else 401, why_not.args[0], wait_seconds=why_not.wait_seconds or None)


@router.get("/me", responses=AT_THE_DOOR)
async def me(request: Request, at: Now) -> Me:
    """Who is signed in."""
    return _me((await who(request, at)).session)


@router.post("/sign-out", status_code=204, responses=AT_THE_DOOR)
def sign_out(request: Request, begin: Opener, at: Now, response: Response) -> None:
    """End the session, if there is one. Asks for no token: an end must always be had."""
    token = request.cookies.get(COOKIE)
    if token:
        with begin() as session:
            desk.sign_out(session, token, at)
        request.app.state.signed_in.forget()
    response.delete_cookie(COOKIE, path="/")


def over_tls() -> bool:
    """Whether pages come over TLS alone (`VANE_TLS=yes`, behind a proxy that speaks it): the cookie keeps to it then."""
    return os.environ.get("VANE_TLS", "").lower() in {"1", "yes", "true"}


async def asker(request: Request, at: Now) -> Known:
    """Who asks, before anything of what they sent is looked at. 401 without a session, 403 for a write without its token."""
    return await who(request, at)


async def who(request: Request, at: datetime) -> Known:
    """Who asks, without a transaction when they are known."""
    token, signed_in = token_of(request), request.app.state.signed_in
    assert isinstance(signed_in, SignedIn)
    return let_in(request, signed_in.known(token, at) or await run_in_threadpool(signed_in.look_up, token, at))


def address_of(request: Request) -> str:
    """Where a request comes from."""
    if request.client is None:
        raise HTTPException(403, say("sign_in.a_request_without_an_address"))
    return request.client.host


def _me(session: desk.Session) -> Me:
    return Me(
        id=session.staff.id,
        name=session.staff.name,
        role=session.staff.role,
        session_id=session.id,
        csrf_token=session.csrf_token,
        store=StoreView.model_validate(session.store, from_attributes=True),
    )
