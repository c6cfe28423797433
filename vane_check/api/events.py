"""Live updates: server-sent events, fed by what desks announce; a stream ends with its session."""

import asyncio
import json
from collections.abc import AsyncIterator
from datetime import UTC, datetime

from fastapi import APIRouter, Request
from fastapi.responses import StreamingResponse
from sqlalchemy.exc import SQLAlchemyError
from starlette.concurrency import run_in_threadpool

from ..desks.sign_in import Session, session_of
from ..records.events import Announcements, count_of
from .problems import SIGNED_IN
from .sign_in import who
from .signed_in import Now, SignedIn, token_of

router = APIRouter(prefix="/api", tags=["events"])
HEARTBEAT_SECONDS = 15


@router.get(
    "/events", response_class=StreamingResponse, responses={**SIGNED_IN, 200: {"content": {"text/event-stream": {}}}}
)
async def events(request: Request, at: Now) -> StreamingResponse:
    """What changes in this store, as it changes. Holds no database connection while it waits."""
    session = (await who(request, at)).session
    stream = _stream(request.app.state.announcements, request.app.state.signed_in, token_of(request), session)
    return StreamingResponse(stream, media_type="text/event-stream")


async def _stream(
    announcements: Announcements, signed_in: SignedIn, token: str, session: Session
) -> AsyncIterator[str]:
    async with announcements.screen(session.staff.store_id) as queue:
        yield "retry: 1000\n\n"
        yield f"event: count\ndata: {await run_in_threadpool(_count, signed_in)}\n\n"
        while True:
            try:
                message = await asyncio.wait_for(queue.get(), HEARTBEAT_SECONDS)
            except TimeoutError:
                if not announcements.away and not await run_in_threadpool(_holds, signed_in, token):
                    return
                yield "event: still\ndata: \n\n"
                continue
            if message is None:
                return
            body = json.loads(message)
            if body["what"] == "session":
                if body["tag"] == session.id:
                    return
                continue
            yield f"data: {message}\n\n"


def _count(signed_in: SignedIn) -> int | str:
    """What was answered before this count may lack something; nothing where the database is away."""
    try:
        with signed_in.begin() as session:
            return count_of(session)
    except SQLAlchemyError:
        return ""


def _holds(signed_in: SignedIn, token: str) -> bool:
    """Whether the session goes on. Listening is no sign of a person: nothing is noted as seen.

    Where the database has no time to say so it is asked again at the next beat; what ends meanwhile is announced besides.
    """
    try:
        with signed_in.begin() as session:
            return session_of(session, token, datetime.now(UTC)) is not None
    except SQLAlchemyError:
        return True
