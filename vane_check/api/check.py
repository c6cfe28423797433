"""The check of one battery: its readings and its file."""

from typing import Annotated

from fastapi import APIRouter, Query

from ..core.readings import AnyReading
from ..core.readings.check import CheckFile
from ..desks import check, remarks
from ..desks.idempotency import once
from .asks import TagPath
from .problems import OF_A_BATTERY, SIGNED_IN, WRITE
from .signed_in import AtDesk, Now, WriteId

router = APIRouter(prefix="/api", responses=SIGNED_IN)


@router.get("/batteries/{tag}", tags=["check"], responses=OF_A_BATTERY)
def battery(tag: TagPath, desk: AtDesk) -> check.CheckView:
    """One battery with its readings and judgement."""
    return check.view(desk, tag)


@router.post("/batteries/{tag}/readings", status_code=201, tags=["check"], responses={**WRITE, **OF_A_BATTERY})
def keep_reading(
    tag: TagPath,
    reading: AnyReading,
    desk: AtDesk,
    now: Now,
    time_is_right: Annotated[bool, Query(description="somebody stands by an unlikely time")] = False,
) -> check.CheckView:
    """Keep a reading; sent twice under one name it is kept once."""
    return check.keep_reading(desk, tag, reading, now, time_is_right)


@router.post("/batteries/{tag}/said", status_code=201, tags=["check"], responses={**WRITE, **OF_A_BATTERY})
def say_it(tag: TagPath, said: remarks.Say, desk: AtDesk, now: Now, write: WriteId) -> check.CheckView:
    """A remark, the customer's words, or an outcome said otherwise."""
    once(desk, write, f"said {tag}", said, lambda: remarks.say_it(desk, tag, said, now))
    return check.view(desk, tag)


@router.get("/own-calls", tags=["records"])
def own_calls(desk: AtDesk, now: Now) -> list[remarks.CallCount]:
    """How often something else was said than judged, in the last year."""
    return remarks.counts(desk, now)


@router.get("/batteries/{tag}/check-file", tags=["check"], responses=OF_A_BATTERY)
def check_file(tag: TagPath, desk: AtDesk) -> CheckFile:
    """The check in the open format."""
    return check.check_file(desk, tag)
