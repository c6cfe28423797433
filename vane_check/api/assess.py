"""The judgement of a check that is being typed: asked on every pause of a hand, so nothing stands in its way."""

from zoneinfo import ZoneInfo

from fastapi import APIRouter, Request, Response
from pydantic import TypeAdapter
from starlette.concurrency import run_in_threadpool

from ..core.judging.judgement import Judgement, assess
from ..core.readings.check import parse_check
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


JUDGEMENT = TypeAdapter(Judgement)
