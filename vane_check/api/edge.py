"""What stands between the line and the desks: hosts, sizes, headers, a last resort, and no more at the database than fit."""

import asyncio
import logging
import os
import time
import traceback
from collections.abc import Awaitable, Callable, Iterable
from contextlib import AsyncExitStack
from urllib.parse import urlsplit

from starlette.datastructures import Headers
from starlette.requests import cookie_parser
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from ..core.words import Words, say
from ..records.base import POOL_SIZE
from ..records.events import Announcements
from .problems import problem
from .signed_in import COOKIE

LOG = logging.getLogger("vane_check")

LOOPBACK = frozenset({"127.0.0.1", "localhost", "::1"})
BODY_BYTES = 1_000_000
"""A longer body is refused before it is read whole."""
STRANGER_BYTES = 16_000
"""So much of who is not signed in: a name and a PIN, or a shop that is set up. Nobody else is listened to for longer."""
LONG_AT_ONCE = 2
"""So many lists come in side by side: each is held in memory until it is kept."""
LISTS = "/api/imports"
LIST_BYTES = 64_000_000
"""A list that is brought in may be so long."""
GATE_WAIT_SECONDS = 3.0
WITHOUT_DATABASE = frozenset({"/api/assess", "/api/assess/odds", "/api/health", "/api/metrics"})
"""What is answered from memory: it needs no place, and goes on while the database is away."""
TRY_AGAIN_SECONDS = 1

POLICY = (
    "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; frame-ancestors 'self'; base-uri 'none'; "
    "form-action 'self'; object-src 'none'"
)
STREAM = "/api/events"
"""The one answer that has no end, and so no head by itself."""
HEADERS = (
    (b"content-security-policy", POLICY.encode()),
    (b"x-content-type-options", b"nosniff"),
    (b"referrer-policy", b"same-origin"),
)


def hosts_allowed(more: str | None = None) -> frozenset[str]:
    """The names this server answers to: loopback, and those of `VANE_HOSTS`, separated by commas."""
    given = os.environ.get("VANE_HOSTS", "") if more is None else more
    return LOOPBACK | {name.strip().lower() for name in given.split(",") if name.strip()}


def _name_of(host: str) -> str:
    try:
        return (urlsplit(f"//{host}").hostname or "").lower()
    except ValueError:
        return ""


def _is_api(scope: Scope) -> bool:
    return bool(scope["type"] == "http" and scope["path"].startswith("/api/"))


class Edge:
    """Every answer says what the page may load and what time it is; strange hosts and foreign writes are turned away."""

    def __init__(self, app: ASGIApp, hosts: Iterable[str]) -> None:
        self.app = app
        self.hosts = frozenset(hosts)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass one request on."""
        if scope["type"] != "http":
            return await self.app(scope, receive, send)
        api = scope["path"].startswith("/api/")
        state = scope.setdefault("state", {})

        async def send_with_headers(message: Message) -> None:
            if message["type"] == "http.response.start":
                message["headers"] = [*message["headers"], *HEADERS]
                if api:
                    message["headers"].append((b"cache-control", b"no-store"))
                    message["headers"].append((b"x-vane-time", str(time.time_ns() // 1_000_000).encode()))
                    count = state.get("count")
                    if count is not None:
                        message["headers"].append((b"x-vane-count", str(count).encode()))
            await send(message)

        async def send_head(message: Message) -> None:
            if message["type"] == "http.response.body":
                message = {**message, "body": b""}
            await send_with_headers(message)

        answer = send_with_headers
        if scope["method"] == "HEAD" and scope["path"] != STREAM:  # what GET answers, without its body
            scope, answer = {**scope, "method": "GET"}, send_head
        refused = self._refused(scope)
        if refused is not None:
            return await problem(*refused)(scope, receive, answer)
        return await self.app(scope, receive, answer)

    def _refused(self, scope: Scope) -> tuple[int, Words] | None:
        headers = Headers(scope=scope)
        host = headers.get("host", "")
        if _name_of(host) not in self.hosts:
            return 421, say("edge.this_server_does_not_answer_to_that_name")
        if scope["method"] in {"GET", "HEAD", "OPTIONS"}:
            return None
        origin = headers.get("origin")
        if origin is not None and urlsplit(origin).netloc != host:
            return 403, say("edge.this_write_comes_from_another_site")
        return None


class Sized:
    """A body is read here, up to its limit, before anything waits for it: a long one from whoever is signed in alone."""

    def __init__(self, app: ASGIApp, is_signed_in: Callable[[str], Awaitable[bool]]) -> None:
        self.app = app
        self.is_signed_in = is_signed_in
        self.long_ones = asyncio.Semaphore(LONG_AT_ONCE)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass one request on with its body whole."""
        if scope["type"] != "http" or scope["method"] in {"GET", "HEAD", "OPTIONS", "DELETE"}:
            return await self.app(scope, receive, send)
        length = Headers(scope=scope).get("content-length", "")
        words = int(length[:18]) if length.isascii() and length.isdigit() else 0
        body = bytearray()
        async with AsyncExitStack() as stack:
            allowed = STRANGER_BYTES
            while True:
                while max(words, len(body)) > allowed:
                    refused = await self._more(scope, allowed, stack)
                    if isinstance(refused, int):
                        allowed = refused
                    else:
                        return await refused(scope, receive, send)
                message = await receive()
                if message["type"] != "http.request":
                    return None
                body += message.get("body", b"")
                if not message.get("more_body", False) and len(body) <= allowed:
                    break
            whole, given = bytes(body), False
            del body

            async def once() -> Message:
                nonlocal given
                if given:
                    return await receive()
                given = True
                return {"type": "http.request", "body": whole, "more_body": False}

            return await self.app(scope, once, send)

    async def _more(self, scope: Scope, allowed: int, stack: AsyncExitStack) -> int | ASGIApp:
        """How long the body may be at most, where that is more than so far; else what is said instead."""
        is_list = scope["path"] == LISTS
        most = LIST_BYTES if is_list else BODY_BYTES
        if allowed < BODY_BYTES:
            token = cookie_parser(Headers(scope=scope).get("cookie", "")).get(COOKIE, "")
            try:
                known = bool(token) and await self.is_signed_in(token)
            except Exception as error:
                LOG.warning("nobody could say who sends a long request: %s", type(error).__qualname__)
                return away()
            return BODY_BYTES if known else _too_large(STRANGER_BYTES)
        if allowed < most:
            if self.long_ones.locked():
                return problem(
                    503, say("edge.other_lists_are_being_sent_try_again_in_a"), wait_seconds=TRY_AGAIN_SECONDS
                )
            await stack.enter_async_context(self.long_ones)
            return most
        return _too_large(most)


def _too_large(most: int) -> ASGIApp:
    return problem(413, say("edge.that_is_more_than_kb_send_less_at_a_time", most=most // 1000))


class LastResort:
    """What nobody expected is answered as a problem too, and logged by its place alone: messages may hold names."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass one request on."""
        if scope["type"] != "http":
            return await self.app(scope, receive, send)
        started = False

        async def noted(message: Message) -> None:
            nonlocal started
            started = True
            await send(message)

        try:
            await self.app(scope, receive, noted)
        except Exception as error:
            LOG.error("%s in %s\n%s", type(error).__qualname__, scope["method"], _places(error))
            if not started:
                await problem(500, say("edge.something_went_wrong_here_and_it_is_on"))(scope, receive, send)
        return None


def _places(error: BaseException) -> str:
    """Where it went wrong, line by line, without what was in it."""
    frames = traceback.extract_tb(error.__traceback__)
    return "\n".join(f"  {frame.filename}:{frame.lineno} {frame.name}" for frame in frames)


class Gate:
    """No more requests at the database at once than it has connections for.

    One that finds no place in time, or a database that does not answer, is told when to try again. Requests that wait in
    a database that stops answering are answered from here; what their threads say later is nobody's any more.
    """

    def __init__(self, app: ASGIApp, announcements: Announcements, places: int = POOL_SIZE) -> None:
        self.app = app
        self.announcements = announcements
        self.places = asyncio.Semaphore(places)
        self.inside: set[_Inside] = set()
        announcements.on_away.append(self._answer_for_the_database)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass one request on when there is a place."""
        if not _is_api(scope) or scope["path"] in WITHOUT_DATABASE:
            return await self.app(scope, receive, send)
        if self.announcements.away:
            return await away()(scope, receive, send)
        if self.places.locked():
            try:
                await asyncio.wait_for(self.places.acquire(), GATE_WAIT_SECONDS)
            except TimeoutError:
                busy = problem(503, say("edge.too_many_at_once_try_again_in_a_moment"), wait_seconds=TRY_AGAIN_SECONDS)
                return await busy(scope, receive, send)
        else:
            await self.places.acquire()
        part = _Inside(scope, receive, send, self.places)
        self.inside.add(part)
        try:
            await self.app(scope, receive, part.answer)
        finally:
            self.inside.discard(part)
            part.leave()
            if part.telling is not None:
                await part.telling  # what was said in its place goes out before this request is over

    def _answer_for_the_database(self) -> None:
        for request in list(self.inside):
            request.give_up()


class _Inside:
    """A request that has a place. It leaves it when its answer begins: by then it has given back its connection."""

    def __init__(self, scope: Scope, receive: Receive, send: Send, places: asyncio.Semaphore) -> None:
        self.scope, self.receive, self.send, self.places = scope, receive, send, places
        self.begun = self.given_up = self.left = False
        self.telling: asyncio.Task[None] | None = None

    async def answer(self, message: Message) -> None:
        if self.given_up:
            return
        if not self.begun:
            self.begun = True
            self.leave()
        await self.send(message)

    def leave(self) -> None:
        if not self.left:
            self.left = True
            self.places.release()

    def give_up(self) -> None:
        if not self.begun and not self.given_up:
            self.given_up = True
            self.telling = asyncio.ensure_future(away()(self.scope, self.receive, self.send))


def away() -> ASGIApp:
    """What is said for a database that does not answer."""
    return problem(503, say("common.the_database_does_not_answer_what_you_type"), wait_seconds=TRY_AGAIN_SECONDS)
