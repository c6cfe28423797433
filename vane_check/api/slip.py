"""The customer's slip."""

from fastapi import APIRouter, Response

from ..desks import slip
from .asks import TagPath
from .problems import OF_A_BATTERY, SIGNED_IN
from .signed_in import AtDesk, Now

router = APIRouter(prefix="/api", responses=SIGNED_IN)


@router.get("/batteries/{tag}/slip.pdf", tags=["slip"], responses=OF_A_BATTERY, response_class=Response)
def slip_pdf(tag: TagPath, desk: AtDesk, now: Now) -> Response:
    """The customer's slip."""
    paper = slip.slip_pdf(desk, tag, now)
    return Response(
        paper, media_type="application/pdf", headers={"Content-Disposition": f'inline; filename="slip-{tag}.pdf"'}
    )
