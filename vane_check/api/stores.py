"""Several stores: what goes between them, who goes to work where, and an owner's look at all."""

from typing import Annotated

from fastapi import APIRouter, Path, Request, Response

from ..core.units.model import Model
from ..desks import sending, sign_in, stores
from ..desks.idempotency import once
from .house import PersonPath
from .problems import SIGNED_IN, WRITE, documented_responses
from .sign_in import Me, admitted
from .signed_in import AtDesk, Now, WriteId, token_of

router = APIRouter(prefix="/api", tags=["stores"])

Number = Annotated[int, Path(ge=0, le=2**31 - 1)]


class Settle(Model):
    """Nothing more need be said of it."""


class Arrived(sending.StoresView):
    """What is between the stores now, and the tag a battery got here."""

    tag: int | None


@router.get("/stores", responses=SIGNED_IN)
def house_stores(desk: AtDesk) -> sending.StoresView:
    """The stores of the house by name, and what is on its way between this one and others."""
    return sending.view(desk)


@router.post("/stores/sends", status_code=201, responses={**SIGNED_IN, **WRITE, **documented_responses(404)})
def send(body: sending.Send, desk: AtDesk, now: Now, write: WriteId) -> sending.StoresView:
    """Put a battery, a piece or a customer on its way. 409 for what cannot leave."""
    once(desk, write, "send", body, lambda: sending.send(desk, body, now))
    return sending.view(desk)


@router.post(
    "/stores/sends/{transfer_id}/arrived",
    status_code=201,
    responses={**SIGNED_IN, **WRITE, **documented_responses(404)},
)
def arrived(transfer_id: Number, body: Settle, desk: AtDesk, now: Now, write: WriteId) -> Arrived:
    """It is here: written in as this store's own, under a tag of its own."""
    tag = once(desk, write, f"arrived {transfer_id}", body, lambda: sending.arrived(desk, transfer_id, now))
    return Arrived(**dict(sending.view(desk)), tag=tag)


@router.post(
    "/stores/sends/{transfer_id}/called-back",
    status_code=201,
    responses={**SIGNED_IN, **WRITE, **documented_responses(404)},
)
def call_back(transfer_id: Number, body: Settle, desk: AtDesk, now: Now, write: WriteId) -> sending.StoresView:
    """It does not go after all."""
    once(desk, write, f"called back {transfer_id}", body, lambda: sending.call_back(desk, transfer_id, now))
    return sending.view(desk)


@router.post(
    "/stores/{store_id}/enter", status_code=201, responses={**SIGNED_IN, **documented_responses(403, 404, 409)}
)
def enter(store_id: Number, body: Settle, request: Request, desk: AtDesk, now: Now, response: Response) -> Me:
    """Go to work in another store of one's own: this session ends, another begins there."""
    staff_id = stores.who_elsewhere(desk, store_id)
    opened = sign_in.change_store(desk.session, token_of(request), staff_id, now)
    request.app.state.signed_in.forget()
    result = admitted(opened, response, now)
    assert isinstance(result, Me)
    return result


@router.get("/house/stores", responses={**SIGNED_IN, **documented_responses(403)})
def side_by_side(desk: AtDesk) -> stores.HouseStores:
    """Every store side by side. Only an owner may see it."""
    return stores.view(desk)


@router.post("/house/stores", status_code=201, responses={**SIGNED_IN, **WRITE})
def open_store(body: stores.OpenStore, desk: AtDesk, now: Now, write: WriteId) -> stores.HouseStores:
    """Open another store. Only an owner may."""
    once(desk, write, "open store", body, lambda: stores.open_store(desk, body, now))
    return stores.view(desk)


@router.put("/house/stores/follows", responses={**SIGNED_IN, **WRITE})
def write_follows(body: stores.Follows, desk: AtDesk, now: Now, write: WriteId) -> stores.HouseStores:
    """Whose rules, catalogue and terms this store works by. Only an owner may."""
    once(desk, write, "follows", body, lambda: stores.write_follows(desk, body, now))
    return stores.view(desk)


@router.get("/house/people/{staff_id}/stores", responses={**SIGNED_IN, **documented_responses(403, 404)})
def stores_of_person(staff_id: PersonPath, desk: AtDesk) -> list[stores.StoreName]:
    """In which stores somebody works. Only an owner may see it."""
    return stores.of_person(desk, staff_id)


@router.put("/house/people/{staff_id}/stores", responses={**SIGNED_IN, **WRITE, **documented_responses(404)})
def give(
    staff_id: PersonPath, body: stores.GiveStore, desk: AtDesk, now: Now, write: WriteId
) -> list[stores.StoreName]:
    """Let somebody work in another store, or no longer. Only an owner may."""
    once(desk, write, f"give {staff_id}", body, lambda: stores.give(desk, staff_id, body, now))
    return stores.of_person(desk, staff_id)
