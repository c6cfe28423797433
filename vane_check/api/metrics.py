"""What to watch a server by, in Prometheus' own text: how long each route takes and how it ends, and what is open. No names."""

import os
import secrets
import time
from typing import Annotated

from fastapi import APIRouter, Header, Request, Response
from prometheus_client import CONTENT_TYPE_LATEST, CollectorRegistry, Gauge, Histogram, generate_latest
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from ..core.words import say
from .problems import ANY, documented_responses, problem

TOKEN = "VANE_METRICS_TOKEN"
"""The environment's name of the word a collector gives. Without one there is nothing to read."""

router = APIRouter(prefix="/api", tags=["running"])


class Metrics:
    """The figures of one application."""

    def __init__(self) -> None:
        self.registry = CollectorRegistry()
        self.seconds = Histogram(
            "vane_request_seconds", "from a request's last byte in to its answer's first out, by route and status",
            ("method", "route", "status"), registry=self.registry, buckets=(0.01, 0.03, 0.1, 0.3, 1, 3, 10),
        )  # fmt: skip
        self.inside = Gauge("vane_requests_inside", "requests that are being answered", registry=self.registry)


class Measured:
    """Counts what goes through, by the route's own pattern: a tag or a name in an address is never a label."""

    def __init__(self, app: ASGIApp, metrics: Metrics) -> None:
        self.app = app
        self.metrics = metrics

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass one request on."""
        if scope["type"] != "http" or not scope["path"].startswith("/api/"):
            return await self.app(scope, receive, send)
        began, told_at = time.perf_counter(), 0.0
        status = 500

        async def noted(message: Message) -> None:
            nonlocal status, told_at
            if message["type"] == "http.response.start":
                status, told_at = message["status"], time.perf_counter()
            await send(message)

        self.metrics.inside.inc()
        try:
            await self.app(scope, receive, noted)
        finally:
            self.metrics.inside.dec()
            pattern = getattr(scope.get("route"), "path", "")
            route = pattern if pattern and ":path" not in pattern else "none"
            took = (told_at or time.perf_counter()) - began
            self.metrics.seconds.labels(scope["method"], route, str(status)).observe(took)


@router.get("/metrics", response_class=Response, responses={**ANY, **documented_responses(401, 404)})
async def metrics(request: Request, authorization: Annotated[str, Header(max_length=400)] = "") -> Response:
    """The figures, for whoever gives the word in `Authorization: Bearer`. 404 where none was set."""
    word = os.environ.get(TOKEN, "")
    if not word:
        return problem(404, say("metrics.there_is_no_such_address", variable=TOKEN))
    if not secrets.compare_digest(authorization.encode(), f"Bearer {word}".encode()):
        return problem(401, say("metrics.not_the_word_that_was_set"))
    metrics: Metrics = request.app.state.metrics
    return Response(generate_latest(metrics.registry), media_type=CONTENT_TYPE_LATEST)
