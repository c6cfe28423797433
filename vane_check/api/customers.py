"""The customers' routes: found while typing, merged, taken apart, handed out, forgotten."""

from typing import Annotated

from fastapi import APIRouter, Path, Query

from ..core.units.model import ShortText
from ..desks import customer_rights, customers
from ..desks.counter import MOST
from ..desks.idempotency import once
from .asks import NoMore
from .problems import SIGNED_IN, WRITE, documented_responses
from .signed_in import AtDesk, Now, WriteId

router = APIRouter(prefix="/api", tags=["customers"], responses=SIGNED_IN)


CustomerPath = Annotated[int, Path(ge=0, le=MOST)]
OF_ONE = documented_responses(404)


@router.get("/customers")
def find(desk: AtDesk, text: Annotated[ShortText, Query(max_length=80)] = "") -> customers.CustomersFound:
    """Customers by name, phone, plate, what stands on a battery of theirs, or their car; the newest where nothing is typed."""
    return customers.find(desk, text)


@router.get("/customers/{customer_id}", responses=OF_ONE)
def customer(customer_id: CustomerPath, desk: AtDesk) -> customers.CustomerView:
    """One person, by any of the ways they were written in."""
    return customers.view(desk, customer_id)


@router.put("/customers/{customer_id}", responses={**WRITE, **OF_ONE})
def correct(
    customer_id: CustomerPath, body: customers.WriteCustomer, desk: AtDesk, now: Now, write: WriteId
) -> customers.CustomerView:
    """Name, phone and plate from now on."""
    once(desk, write, f"customer {customer_id}", body, lambda: customers.correct(desk, customer_id, body, now))
    return customers.view(desk, customer_id)


@router.post("/customers/{customer_id}/merge", status_code=201, responses={**WRITE, **OF_ONE})
def merge(
    customer_id: CustomerPath, body: customers.OtherCustomer, desk: AtDesk, now: Now, write: WriteId
) -> customers.CustomerView:
    """The other is the same person. It can be taken apart again."""
    once(desk, write, f"merge {customer_id}", body, lambda: customers.merge_customers(desk, customer_id, body, now))
    return customers.view(desk, customer_id)


@router.post("/customers/{customer_id}/apart", status_code=201, responses={**WRITE, **OF_ONE})
def apart(
    customer_id: CustomerPath, body: customers.OtherCustomer, desk: AtDesk, now: Now, write: WriteId
) -> customers.CustomerView:
    """A way of writing is a person of its own again."""
    once(desk, write, f"apart {customer_id}", body, lambda: customers.split_customer(desk, customer_id, body, now))
    return customers.view(desk, customer_id)


@router.post("/customers/{customer_id}/hand-out", status_code=201, responses={**WRITE, **OF_ONE})
def hand_out(
    customer_id: CustomerPath, body: NoMore, desk: AtDesk, now: Now, write: WriteId
) -> customer_rights.HandedOut:
    """Everything kept of a person, in an open format. Only a lead may; that it was done stays on record."""
    return customer_rights.hand_out(desk, customer_id, now)


@router.post("/customers/{customer_id}/forget", status_code=201, responses={**WRITE, **OF_ONE})
def forget(customer_id: CustomerPath, body: NoMore, desk: AtDesk, now: Now, write: WriteId) -> customers.CustomerView:
    """Take name, phone and plate away everywhere. Only a lead may; that it was done stays on record."""
    once(desk, write, f"forget {customer_id}", body, lambda: customer_rights.erase_customer(desk, customer_id, now))
    return customers.view(desk, customer_id)
