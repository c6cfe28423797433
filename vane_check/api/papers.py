"""Papers: claim pack, recall letter, day sheet, shelf tag."""

from typing import Annotated

from fastapi import APIRouter, Query, Response

from ..core.units.model import Day
from ..desks import claim_papers, papers, sale_papers
from .asks import TagPath
from .problems import OF_A_BATTERY, SIGNED_IN, documented_responses
from .signed_in import AtDesk, Now

router = APIRouter(prefix="/api", tags=["papers"], responses=SIGNED_IN)


def _pdf(content: bytes, name: str) -> Response:
    return Response(
        content, media_type="application/pdf", headers={"Content-Disposition": f'inline; filename="{name}.pdf"'}
    )


@router.get("/batteries/{tag}/claim.pdf", responses=OF_A_BATTERY, response_class=Response)
def claim(tag: TagPath, desk: AtDesk) -> Response:
    """The claim with all it rests on, as it was written."""
    return _pdf(claim_papers.claim_pdf(desk, tag), f"claim-{tag}")


@router.get("/batteries/{tag}/sale.pdf", responses=OF_A_BATTERY, response_class=Response)
def sale(tag: TagPath, desk: AtDesk, now: Now) -> Response:
    """The paper for a sale, as it was made."""
    return _pdf(sale_papers.sale_pdf(desk, tag, now), f"sale-{tag}")


@router.get("/batteries/{tag}/recall.pdf", responses=OF_A_BATTERY, response_class=Response)
def recall(tag: TagPath, desk: AtDesk, now: Now) -> Response:
    """The letter that asks for a watched battery to be tested again."""
    return _pdf(papers.recall_pdf(desk, tag, now), f"recall-{tag}")


@router.get("/day-sheet.pdf", response_class=Response)
def day(desk: AtDesk, now: Now, on: Annotated[Day | None, Query()] = None) -> Response:
    """What happened on a day by the shop's clock; today where none is given."""
    return _pdf(papers.day_pdf(desk, on, now), f"day-{on or desk.today(now)}")


@router.get("/goods/{item_id}/shelf-tag.pdf", responses=documented_responses(404), response_class=Response)
def shelf_tag(item_id: TagPath, desk: AtDesk) -> Response:
    """The tag of an item for the shelf."""
    return _pdf(papers.shelf_tag_pdf(desk, item_id), f"shelf-{item_id}")
