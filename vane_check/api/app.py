"""The application: API under /api, the built front end for everything else."""

import asyncio
import logging
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from datetime import UTC, datetime, timedelta
from functools import partial
from pathlib import Path

from fastapi import FastAPI, Request
from fastapi.middleware.gzip import GZipMiddleware
from starlette.concurrency import run_in_threadpool
from starlette.responses import Response

from .. import __version__
from ..core.words import say
from ..desks.import_runner import Runner
from ..records import people
from ..records.base import POOL_SIZE, engine_of, sessions_of
from ..records.events import PATIENCE_SECONDS, Announcements, Lines
from . import (
    assess,
    calendars,
    check,
    counter,
    customers,
    events,
    goods,
    health,
    house,
    languages,
    match,
    metrics,
    papers,
    rack,
    records,
    reminders,
    rules,
    sign_in,
    slip,
    stores,
    warranty,
)
from .clock_turned import Turned
from .disk_room import Guarded, Room
from .edge import Edge, Gate, LastResort, Sized, hosts_allowed
from .front import Front
from .metrics import Measured, Metrics
from .problems import install, problem
from .signed_in import SignedIn

FRONT = Path(__file__).parents[2] / "front" / "dist"
PACKED_FROM = 16_000
"""Bytes from which an answer is packed: below it packing takes longer than the line saves."""
SWEPT_EVERY = timedelta(hours=1)
SWEPT_AFTER = timedelta(days=30)
"""How long after its end a session stays on record."""


def clock() -> datetime:
    """This moment."""
    return datetime.now(UTC)


def make_app(
    database_url: str,
    front: Path = FRONT,
    patience_seconds: float = PATIENCE_SECONDS,
    hosts: str | None = None,
    set_up_code: str | None = None,
    records_folder: Path | None = None,
) -> FastAPI:
    """The application on a database that is migrated already, as the role that owns nothing. `records_folder` lies on the disk that
    holds the database, where it is on this machine."""

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        tasks = [asyncio.create_task(app.state.announcements.listen()), asyncio.create_task(_sweep(app))]
        yield
        for task in tasks:
            task.cancel()
        app.state.runner.close()
        app.state.room.close()
        app.state.engine.dispose()

    app = FastAPI(
        title="Vane Check",
        version=__version__,
        lifespan=lifespan,
        docs_url=None,
        redoc_url=None,
        separate_input_output_schemas=False,
    )
    app.state.clock = clock
    app.state.engine = engine_of(database_url, pool_size=POOL_SIZE + 1)  # one more for who asks outside the gate
    app.state.looking_up = asyncio.Semaphore()
    app.state.room = Room(records_folder)
    app.state.turned = Turned()
    app.state.set_up_code = set_up_code
    app.state.sessions = sessions_of(app.state.engine)
    app.state.runner = Runner(database_url)
    app.state.signed_in = SignedIn(app.state.sessions.begin)
    announcements = app.state.announcements = Announcements(database_url, patience_seconds)
    announcements.on_told.append(app.state.signed_in.forget)
    announcements.on_long_away.append(Lines(app.state.engine).cut_all)
    install(app)
    app.add_middleware(GZipMiddleware, minimum_size=PACKED_FROM, compresslevel=2)
    app.state.metrics = Metrics()
    app.add_middleware(Measured, metrics=app.state.metrics)
    app.add_middleware(Gate, announcements=announcements)
    app.add_middleware(Guarded, room=app.state.room)
    app.add_middleware(LastResort)
    app.add_middleware(Sized, is_signed_in=partial(_is_signed_in, app))
    app.add_middleware(Edge, hosts=hosts_allowed(hosts))
    for part in (
        assess,
        sign_in,
        counter,
        check,
        match,
        rules,
        warranty,
        records,
        slip,
        reminders,
        rack,
        goods,
        customers,
        stores,
        languages,
        papers,
        house,
        health,
        metrics,
        events,
        calendars,
    ):  # what is asked most is looked for first
        app.router.routes.extend(part.router.routes)  # as they are: including a router makes each of its routes anew
    _serve_front(app, front)
    return app


async def _is_signed_in(app: FastAPI, token: str) -> bool:
    """Whether a session is behind a token, asked once at a time so that strangers who say so keep nobody from the database."""
    signed_in: SignedIn = app.state.signed_in
    at = app.state.clock()
    if signed_in.known(token, at) is not None:
        return True
    async with app.state.looking_up:
        return await run_in_threadpool(signed_in.look_up, token, at) is not None


async def _sweep(app: FastAPI) -> None:
    """Throw away sessions that ended long ago, now and every hour."""

    def once() -> None:
        with app.state.sessions.begin() as session:
            people.sweep(session, datetime.now(UTC) - SWEPT_AFTER)

    while True:
        try:
            await run_in_threadpool(once)
        except Exception as error:  # the next hour tries again; a message may hold what nobody should read
            logging.getLogger("vane_check").warning("sessions were not swept: %s", type(error).__qualname__)
        await asyncio.sleep(SWEPT_EVERY.total_seconds())


def _serve_front(app: FastAPI, folder: Path) -> None:
    front = Front(folder) if folder.is_dir() else None

    @app.get("/{path:path}", include_in_schema=False)
    async def page(path: str, request: Request) -> Response:
        """A file of the front end, or its one page. Unknown API paths stay unknown."""
        if path.startswith("api/") or front is None:
            return problem(404, say("app.there_is_no_such_address"))
        return front.answer(path, request)
