"""The application: API under /api, the built front end for everything else."""

import asyncio
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path

from fastapi import FastAPI
from fastapi.middleware.gzip import GZipMiddleware
from fastapi.responses import FileResponse
from starlette.datastructures import Headers
from starlette.responses import Response
from starlette.staticfiles import StaticFiles
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from .. import __version__
from ..records.base import engine_of, sessions_of
from ..records.events import Announcements
from . import desks, events, sign_in
from .problems import PROBLEMS, Problem, install, problem

FRONT = Path(__file__).parents[2] / "front" / "dist"
POLICY = "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; frame-ancestors 'self'"


def make_app(database_url: str, front: Path = FRONT) -> FastAPI:
    """The application on a database that is migrated already."""

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        listening = asyncio.create_task(app.state.announcements.listen())
        yield
        listening.cancel()
        app.state.engine.dispose()

    app = FastAPI(
        title="Vane Check",
        version=__version__,
        lifespan=lifespan,
        docs_url=None,
        redoc_url=None,
        separate_input_output_schemas=False,
    )
    app.state.engine = engine_of(database_url)
    app.state.sessions = sessions_of(app.state.engine)
    app.state.announcements = Announcements(database_url)
    install(app)
    app.add_middleware(GZipMiddleware, minimum_size=2000)
    app.add_middleware(SameOrigin)
    for part in (sign_in, desks, events):
        app.include_router(part.router, prefix="/api", responses={**PROBLEMS, 401: {"model": Problem}})
    _serve_front(app, front)
    return app


HEADERS = (
    (b"content-security-policy", POLICY.encode()),
    (b"x-content-type-options", b"nosniff"),
    (b"referrer-policy", b"same-origin"),
)


class SameOrigin:
    """Refuse writes that another site sends, and say on every answer what the page may load."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass one request on."""
        if scope["type"] != "http":
            return await self.app(scope, receive, send)
        asked = Headers(scope=scope)
        origin = asked.get("origin")
        if scope["method"] not in {"GET", "HEAD"} and origin and origin.split("://")[-1] != asked.get("host"):
            return await problem(403, "This write comes from another site")(scope, receive, send)

        async def send_with_headers(message: Message) -> None:
            if message["type"] == "http.response.start":
                message["headers"] = [*message["headers"], *HEADERS]
                if scope["path"].startswith("/api/"):
                    message["headers"].append((b"cache-control", b"no-store"))
            await send(message)

        await self.app(scope, receive, send_with_headers)
        return None


def _serve_front(app: FastAPI, front: Path) -> None:
    if not front.is_dir():
        return
    app.mount("/assets", StaticFiles(directory=front / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> Response:
        """The one page; which desk it shows is its own affair. Unknown API paths stay unknown."""
        if path.startswith("api/"):
            return problem(404, "There is no such address")
        return FileResponse(front / "index.html", headers={"Cache-Control": "no-cache"})
