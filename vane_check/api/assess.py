"""The judgement of a check that is being typed: asked on every pause of a hand, so nothing stands in its way."""

from zoneinfo import ZoneInfo

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel, TypeAdapter
from starlette.concurrency import run_in_threadpool

from ..core.judging.judgement import Judgement, assess, judge
from ..core.odds import Horizon, Odds, ahead_of
from ..core.readings.check import parse_check
from ..core.words import Words
from .problems import SIGNED_IN, documented_responses
from .sign_in import who
from .signed_in import Now

LONG_BYTES = 30_000
"""A longer file than anybody types (a hundred readings) is read in a thread: it would stand in everybody's way."""

router = APIRouter(prefix="/api", responses=SIGNED_IN)


@router.post(
    "/assess", tags=["check"], response_model=Judgement, responses=documented_responses(403),
    openapi_extra={
        "requestBody": {
            "required": True,
            "content": {"application/json": {"schema": {"$ref": "#/components/schemas/CheckFile"}}},
        }
    },
)  # fmt: skip
async def assess_check(request: Request, at: Now) -> Response:
    """Judge a check file under the house's rules without keeping anything.

    Asked on every pause of a typing hand: read, judged and written without a thread, a transaction or a second check.
    """
    known = await who(request, at)
    body = await request.body()

    def judged() -> bytes:
        return JUDGEMENT.dump_json(assess(parse_check(body), known.rules, ZoneInfo(known.session.store.time_zone)))

    run = await run_in_threadpool(judged) if len(body) > LONG_BYTES else judged()
    return Response(run, media_type="application/json")


class Ahead(BaseModel):
    """The second opinion on a check that is being typed, and what waiting would add."""

    odds: Odds | None
    sureness: Words
    ahead: tuple[Horizon, ...]


@router.post(
    "/assess/odds", tags=["check"], response_model=Ahead, responses=documented_responses(403),
    openapi_extra={
        "requestBody": {
            "required": True,
            "content": {"application/json": {"schema": {"$ref": "#/components/schemas/CheckFile"}}},
        }
    },
)  # fmt: skip
async def look_ahead(request: Request, at: Now) -> Response:
    """How likely each outcome is, and what could be said now, in ten minutes, tonight, in two days. Asked once a hand has paused."""
    known = await who(request, at)
    body = await request.body()

    def weighed() -> bytes:
        check = parse_check(body)
        judgement = assess(check, known.rules, with_odds=True)
        verdict = judge(check, known.rules)
        ahead = ahead_of(verdict.case, verdict.findings, verdict.decision.outcome)
        return AHEAD.dump_json(Ahead(odds=judgement.odds, sureness=judgement.sureness, ahead=ahead))

    return Response(await run_in_threadpool(weighed), media_type="application/json")


JUDGEMENT = TypeAdapter(Judgement)
AHEAD = TypeAdapter(Ahead)
