"""Signing in, who is signed in, and signing out."""

from typing import Annotated

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from ..desks import sign_in as desk
from .problems import problem
from .signed_in import COOKIE, Now, OpenSession, SignedIn

router = APIRouter(tags=["sign in"])


class Pin(BaseModel):
    """A person and their PIN."""

    staff_id: int
    pin: Annotated[str, Field(min_length=1, max_length=32)]


class StoreView(BaseModel):
    """The store's settings that screens follow."""

    name: str
    temperature_unit: str
    length_unit: str
    currency: str
    bay_temperature_c: float | None
    idle_minutes: int


class Me(BaseModel):
    """Who is signed in, and the token that every write must carry."""

    id: int
    name: str
    role: str
    csrf_token: str
    store: StoreView


@router.get("/people")
def people(session: OpenSession) -> list[desk.Person]:
    """The names on the sign-in page."""
    return desk.people_here(session)


@router.post("/sign-in", response_model=Me)
def sign_in(pin: Pin, session: OpenSession, now: Now, response: Response) -> Me | Response:
    """Open a session. 401 for a wrong PIN, 429 when it is too soon to try again."""
    opened = desk.sign_in(session, pin.staff_id, pin.pin, now)
    if isinstance(opened, desk.WrongPin):
        return problem(429 if opened.wait_seconds else 401, str(opened), wait_seconds=opened.wait_seconds or None)
    response.set_cookie(COOKIE, opened.token, httponly=True, samesite="strict", path="/")
    found = desk.desk_of(session, opened.token, now)
    assert found is not None
    return _me(found)


@router.get("/me")
def me(found: SignedIn) -> Me:
    """Who is signed in."""
    return _me(found)


@router.post("/sign-out", status_code=204)
def sign_out(found: SignedIn, now: Now, response: Response) -> None:
    """End the session."""
    desk.sign_out(found[1], now)
    response.delete_cookie(COOKIE, path="/")


def _me(found: SignedIn) -> Me:
    at, sign_in_row = found
    return Me(
        id=at.staff.id,
        name=at.staff.name,
        role=at.staff.role,
        csrf_token=sign_in_row.csrf_token,
        store=StoreView.model_validate(at.store, from_attributes=True),
    )
