"""The customer's slip."""

from fastapi import APIRouter, Response

from ..desks import check, sale_papers, slip
from .asks import TagPath
from .problems import OF_A_BATTERY, SIGNED_IN
from .signed_in import AtDesk, Now

router = APIRouter(prefix="/api", responses=SIGNED_IN)


@router.get("/batteries/{tag}/slip.pdf", tags=["slip"], responses=OF_A_BATTERY, response_class=Response)
def slip_pdf(tag: TagPath, desk: AtDesk, now: Now) -> Response:
    """The customer's slip."""
    # of one that was sold and not looked at since, its slip is the paper for the sale
    paper = sale_papers.sale_pdf(desk, tag, now) if check.is_as_sold(desk, tag) else slip.slip_pdf(desk, tag, now)
    return Response(
        paper, media_type="application/pdf", headers={"Content-Disposition": f'inline; filename="slip-{tag}.pdf"'}
    )
