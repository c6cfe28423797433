"""Whether this process lives, and whether it can work: for whatever watches over it. Nobody need be signed in."""

from fastapi import APIRouter, Request
from fastapi.responses import JSONResponse
from pydantic import BaseModel

from .. import __version__
from ..desks.readiness import why_not_ready
from .clock_turned import Turned
from .disk_room import Room
from .problems import ANY, ITSELF, problem
from .signed_in import Opener

router = APIRouter(prefix="/api", tags=["running"])


class Alive(BaseModel):
    """This process answers."""

    release: str


@router.get("/health", responses=ANY)
async def health() -> Alive:
    """200 as long as the process answers, whatever its database does."""
    return Alive(release=__version__)


@router.get("/ready", response_model=Alive, responses={**ANY, **ITSELF})
def ready(begin: Opener, request: Request) -> Alive | JSONResponse:
    """200 when the database answers with tables of this release, there is room and the clock runs right; 503 with the reason else."""
    room: Room = request.app.state.room
    turned: Turned = request.app.state.turned
    with begin() as session:
        why_not = why_not_ready(session, room.is_full(), turned.by_hours())
    return Alive(release=__version__) if why_not is None else problem(503, why_not, wait_seconds=5)
