"""The House desk's routes, and the one page that is there before there is a shop."""

from typing import Annotated

from fastapi import APIRouter, Depends, Path, Query, Request, Response

from ..core.units.model import Model
from ..core.units.zones import known_zones
from ..desks import house_desk, house_people, set_up, sign_in, terms
from ..desks.idempotency import once
from .problems import AT_THE_DOOR, SIGNED_IN, WRITE, documented_responses
from .sign_in import Me, address_of, admitted, asker
from .signed_in import AtDesk, AtKnownDesk, Now, Opener, WriteId

router = APIRouter(prefix="/api", tags=["house"])

PersonPath = Annotated[int, Path(ge=0, le=2**31 - 1)]


@router.get("/set-up", responses=AT_THE_DOOR)
def set_up_page(begin: Opener) -> set_up.SetUpView:
    """What setting up a shop asks; `open` while there is none here."""
    with begin() as session:
        return set_up.view(session, list(known_zones()))


@router.post("/set-up", status_code=201, response_model=Me, responses={**AT_THE_DOOR, **documented_responses(409)})
def set_up_shop(body: set_up.SetUp, request: Request, begin: Opener, at: Now, response: Response) -> Me | Response:
    """Open the shop and sign its owner in. 403 without the code the start command printed, 409 where there is one already."""
    with begin() as session:
        owner = set_up.set_up(session, body, request.app.state.set_up_code, at)
        staff_id = owner.id
    opened = sign_in.sign_in(begin, staff_id, body.people[0].pin or "", address_of(request), at)
    return admitted(opened, response, at)


@router.get("/house", responses={**SIGNED_IN, **documented_responses(403)})
def house(desk: AtDesk, now: Now) -> house_desk.HouseView:
    """The shop, its people, and what is still missing. Only a lead may see it."""
    return house_desk.view(desk, now)


@router.get("/house/changes", responses={**SIGNED_IN, **documented_responses(403)})
def changes(
    desk: AtDesk, before: Annotated[int | None, Query(ge=0, le=2**31 - 1)] = None
) -> list[house_desk.HouseChange]:
    """What was changed of the house, the newest first. Only a lead may see it."""
    return house_desk.changes(desk, before)


@router.put("/house/shop", responses={**SIGNED_IN, **WRITE})
def write_shop(body: house_desk.WriteShop, desk: AtDesk, now: Now, write: WriteId) -> house_desk.HouseView:
    """The shop's settings from now on. Only a lead may."""
    once(desk, write, "shop", body, lambda: house_desk.write_shop(desk, body, now))
    return house_desk.view(desk, now)


@router.put("/house/logo", responses={**SIGNED_IN, **WRITE}, dependencies=[Depends(asker)])
def write_logo(body: house_desk.WriteLogo, at_desk: AtKnownDesk, now: Now, write: WriteId) -> house_desk.HouseView:
    """The picture on papers from now on, or none. Only a lead may. It is looked at between two transactions."""
    with at_desk() as desk:
        desk.only_lead()
    logo = house_desk.look_at_logo(body)
    with at_desk() as desk:
        once(desk, write, "logo", body, lambda: house_desk.write_logo(desk, logo, now))
        return house_desk.view(desk, now)


@router.get("/house/terms", responses={**SIGNED_IN, **documented_responses(403)})
def terms_view(desk: AtDesk, now: Now) -> list[terms.LineTerms]:
    """Warranty terms by line, every edition. Only a lead may see them here."""
    return terms.view(desk, now)


@router.post("/house/terms", status_code=201, responses={**SIGNED_IN, **WRITE})
def write_terms(body: terms.WriteTerms, desk: AtDesk, now: Now, write: WriteId) -> list[terms.LineTerms]:
    """A new edition of a line's terms. Only a lead may."""
    once(desk, write, "terms", body, lambda: terms.write(desk, body, now))
    return terms.view(desk, now)


@router.post("/house/people", status_code=201, responses={**SIGNED_IN, **WRITE})
def add_person(body: house_people.WritePerson, desk: AtDesk, now: Now, write: WriteId) -> house_desk.HouseView:
    """Somebody new. A lead takes on counter hands, an owner anybody."""
    told_apart = body.model_copy(update={"pin": None})  # a PIN leaves no trace, not even a digest's
    once(
        desk,
        write,
        "person",
        told_apart,
        lambda: house_people.add_person(desk, body, now),
        lambda staff_id: house_people.has_pin(desk, staff_id, body.pin),
    )
    return house_desk.view(desk, now)


@router.put("/house/people/{staff_id}", responses={**SIGNED_IN, **WRITE, **documented_responses(404)})
def write_person(
    staff_id: PersonPath, body: house_people.WritePerson, desk: AtDesk, now: Now, write: WriteId
) -> house_desk.HouseView:
    """Rename, another role or PIN, let go or take back."""
    told_apart = body.model_copy(update={"pin": None})
    once(
        desk,
        write,
        f"person {staff_id}",
        told_apart,
        lambda: house_people.write_person(desk, staff_id, body, now),
        lambda _: house_people.has_pin(desk, staff_id, body.pin),
    )
    return house_desk.view(desk, now)


class Nothing(Model):
    """Nothing more need be said."""


@router.post(
    "/house/people/{staff_id}/unlock", status_code=201, responses={**SIGNED_IN, **WRITE, **documented_responses(404)}
)
def unlock(staff_id: PersonPath, body: Nothing, desk: AtDesk, now: Now, write: WriteId) -> house_desk.HouseView:
    """End somebody's waiting after wrong PINs. Only a lead may."""
    once(desk, write, f"unlock {staff_id}", body, lambda: house_people.unlock(desk, staff_id, now))
    return house_desk.view(desk, now)


@router.post("/house/backup", status_code=201, responses={**SIGNED_IN, **WRITE})
def backup(body: Nothing, desk: AtDesk, now: Now, write: WriteId) -> house_desk.HouseView:
    """Ask for a backup now; it is there some seconds later. Only a lead may."""
    once(desk, write, "backup", body, lambda: house_desk.ask_for_backup(desk, now))
    return house_desk.view(desk, now)
