"""What fits, from whatever is known."""

from fastapi import APIRouter, Response

from ..core.battery.codes import CodeRead
from ..core.matching.photo import Marks, TrayFound
from ..desks import match
from ..desks.match_claims import AskMatch, code_read
from .asks import TagPath, Typed
from .problems import OF_A_BATTERY, SIGNED_IN, documented_responses
from .signed_in import AtDesk, AtKnownDesk, Now, as_json

router = APIRouter(prefix="/api", responses=SIGNED_IN)


@router.get("/batteries/{tag}/match", tags=["match"], response_model=match.MatchView, responses=OF_A_BATTERY)
def match_battery(tag: TagPath, open_desk: AtKnownDesk, now: Now) -> Response:
    """What replaces a battery."""
    with open_desk() as desk:
        return as_json(match.for_battery(desk, tag, now))


@router.get("/vehicles/{vehicle_id}/match", tags=["match"], response_model=match.MatchView, responses=OF_A_BATTERY)
def match_vehicle(vehicle_id: TagPath, open_desk: AtKnownDesk, now: Now) -> Response:
    """What fits a vehicle of the list."""
    with open_desk() as desk:
        return as_json(match.for_vehicle(desk, vehicle_id, now))


@router.post("/match", tags=["match"], response_model=match.MatchView, responses=documented_responses(403, 404))
def match_known(body: AskMatch, open_desk: AtKnownDesk, now: Now) -> Response:
    """What fits what is known: a battery, a car, a code, the tape, the owner's needs. Nothing is kept."""
    with open_desk() as desk:
        return as_json(match.ask(desk, body, now))


@router.post("/match/others", tags=["match"], response_model=match.Others, responses=documented_responses(403, 404))
def match_others(body: AskMatch, open_desk: AtKnownDesk) -> Response:
    """Why the rest of the catalogue does not fit, counted by reason."""
    with open_desk() as desk:
        return as_json(match.others(desk, body))


@router.post("/match/photo", tags=["match"], responses=documented_responses(403))
def measure_photo(marks: Marks, desk: AtDesk) -> TrayFound:
    """A tray's length and width from corners marked in a photo, which stays where it was taken. Nothing is kept."""
    return match.tray_in_photo(marks)


@router.get("/codes", tags=["match"])
def codes(desk: AtDesk, text: Typed) -> CodeRead:
    """What a code on a label or in a list says."""
    return code_read(desk, text)
