"""Past checks, and one battery's life."""

from typing import Annotated

from fastapi import APIRouter, Query

from ..desks import records
from .asks import PAGES_AT_MOST, TagPath, Typed
from .problems import OF_A_BATTERY, SIGNED_IN
from .signed_in import AtDesk

router = APIRouter(prefix="/api", responses=SIGNED_IN)


@router.get("/batteries/{tag}/life", tags=["records"], responses=OF_A_BATTERY)
def life(tag: TagPath, desk: AtDesk) -> records.Life:
    """Everything kept of one battery."""
    return records.life(desk, tag)


@router.get("/checks", tags=["records"])
def past_checks(
    desk: AtDesk, text: Typed = "", page: Annotated[int, Query(ge=0, le=PAGES_AT_MOST)] = 0
) -> records.PastChecks:
    """The newest checks, a page at a time."""
    return records.past_checks(desk, text, page)
