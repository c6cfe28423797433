"""What the warranty gives, and the claim."""

from typing import Annotated

from fastapi import APIRouter, Query

from ..desks import claims, warranty
from ..desks.counter import MOST
from ..desks.idempotency import once
from .asks import TagPath
from .problems import OF_A_BATTERY, SIGNED_IN, WRITE
from .signed_in import AtDesk, Now, WriteId

router = APIRouter(prefix="/api", responses=SIGNED_IN)


@router.get("/batteries/{tag}/warranty", tags=["warranty"], responses=OF_A_BATTERY)
def look_up_warranty(
    tag: TagPath,
    desk: AtDesk,
    now: Now,
    replacement_id: Annotated[int | None, Query(ge=0, le=MOST)] = None,
    price_cents: Annotated[int | None, Query(ge=0, le=MOST)] = None,
) -> warranty.WarrantyView:
    """What the warranty gives; with the price its terms take, where somebody had to say it."""
    return warranty.look_up(desk, tag, replacement_id, now, price_cents)


@router.post("/batteries/{tag}/claim", status_code=201, tags=["warranty"], responses={**WRITE, **OF_A_BATTERY})
def write_claim(tag: TagPath, body: claims.WriteClaim, desk: AtDesk, now: Now, write: WriteId) -> warranty.WarrantyView:
    """Write the claim."""
    once(desk, write, f"claim {tag}", body, lambda: claims.write_claim(desk, tag, body, now))
    return warranty.look_up(desk, tag, body.replacement_id, now, body.price_cents)
