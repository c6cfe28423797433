"""Live updates: server-sent events, fed by what desks announce."""

import asyncio
from collections.abc import AsyncIterator

from fastapi import APIRouter, Request
from fastapi.responses import StreamingResponse
from starlette.concurrency import run_in_threadpool

from ..desks.sign_in import desk_of
from ..records.events import Announcements
from .problems import problem
from .signed_in import COOKIE, now

router = APIRouter(tags=["events"])
HEARTBEAT_SECONDS = 15


@router.get("/events", response_class=StreamingResponse)
async def events(request: Request) -> StreamingResponse:
    """What changes in this store, as it changes. Holds no database connection while it waits."""
    store_id = await run_in_threadpool(_store_of, request)
    if store_id is None:
        return problem(401, "Sign in first")  # type: ignore[return-value]
    announcements: Announcements = request.app.state.announcements
    stream = _stream(announcements, store_id)
    return StreamingResponse(stream, media_type="text/event-stream")


def _store_of(request: Request) -> int | None:
    token = request.cookies.get(COOKIE)
    if not token:
        return None
    with request.app.state.sessions.begin() as session:
        found = desk_of(session, token, now())
        return found[0].staff.store_id if found else None


async def _stream(announcements: Announcements, store_id: int) -> AsyncIterator[str]:
    async with announcements.screen(store_id) as queue:
        yield "retry: 1000\n\n"
        while True:
            try:
                message = await asyncio.wait_for(queue.get(), HEARTBEAT_SECONDS)
                if message is None:
                    return
                yield f"data: {message}\n\n"
            except TimeoutError:
                yield ": still here\n\n"
