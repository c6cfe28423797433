"""The counter: the shelf, batteries taken in, where they stand."""

from typing import Annotated

from fastapi import APIRouter, Query

from ..desks import check, counter
from ..desks.erasure import erase_customer as erase
from ..desks.idempotency import once
from ..desks.views import ShelfBattery
from .asks import NoMore, TagPath
from .problems import OF_A_BATTERY, SIGNED_IN, WRITE
from .signed_in import AtDesk, Now, WriteId

LookedAgain = Annotated[bool, Query(description="somebody looked at the label again and stands by it")]

router = APIRouter(prefix="/api", responses=SIGNED_IN)


@router.get("/shelf", tags=["counter"])
def shelf(desk: AtDesk) -> list[ShelfBattery]:
    """Every battery in the house."""
    return counter.shelf(desk)


@router.post("/batteries", status_code=201, tags=["counter"], responses=WRITE)
def take_in(
    body: counter.TakeIn, desk: AtDesk, now: Now, write: WriteId, label_is_right: LookedAgain = False
) -> check.CheckView:
    """Take a battery in; it is given a tag."""
    tag = once(desk, write, "take-in", body, lambda: counter.take_in(desk, body, now, label_is_right))
    assert tag is not None
    return check.view(desk, tag)


@router.put("/batteries/{tag}", tags=["counter"], responses={**WRITE, **OF_A_BATTERY})
def correct_take_in(
    tag: TagPath,
    body: counter.CorrectTakeIn,
    desk: AtDesk,
    now: Now,
    write: WriteId,
    label_is_right: LookedAgain = False,
) -> check.CheckView:
    """Correct the take-in; the earlier one stays readable. What was read is judged again."""

    def correct() -> int:
        counter.correct_take_in(desk, tag, body, now, label_is_right)
        check.judge_again(desk, tag, now)
        return tag

    once(desk, write, f"correction {tag}", body, correct)
    return check.view(desk, tag)


@router.put("/batteries/{tag}/place", tags=["counter"], responses={**WRITE, **OF_A_BATTERY})
def put(tag: TagPath, there: counter.PutThere, desk: AtDesk, now: Now, write: WriteId) -> check.CheckView:
    """Put a battery somewhere."""
    once(desk, write, f"put {tag}", there, lambda: counter.put(desk, tag, there, now))
    return check.view(desk, tag)


@router.post("/batteries/{tag}/undo", tags=["counter"], responses={**WRITE, **OF_A_BATTERY})
def undo_take_in(tag: TagPath, body: NoMore, desk: AtDesk, now: Now, write: WriteId) -> check.CheckView:
    """Take back a take-in made by mistake, while nothing was read of it."""
    once(desk, write, f"undo {tag}", body, lambda: counter.undo_take_in(desk, tag, now))
    return check.view(desk, tag)


@router.post("/batteries/{tag}/erase-customer", tags=["counter"], responses={**WRITE, **OF_A_BATTERY})
def erase_customer(tag: TagPath, body: NoMore, desk: AtDesk, now: Now, write: WriteId) -> check.CheckView:
    """Take name, phone and plate of whom this battery is for away, everywhere. Only a lead may; it stays on record."""
    once(desk, write, f"erase {tag}", body, lambda: erase(desk, tag, now))
    return check.view(desk, tag)
