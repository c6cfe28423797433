"""A connection as a shop can stand it: what is said on it is bounded in length and in time, and there are only so many."""

import asyncio
import resource
from typing import Any

from uvicorn.protocols.http.httptools_impl import HttpToolsProtocol

URL_BYTES = 8_000
HEAD_BYTES = 32_000
"""The request line with all headers."""
HEAD_SECONDS = 10.0
"""Within so long a request is begun and its head said in full."""
BODY_SECONDS = 20.0
BODY_BYTES_A_SECOND = 20_000
"""A body has so long, and more by its length: a list over a poor line takes its time, a request that is never finished does not."""
CONNECTIONS_AT_MOST = 2_000
FILES_SPARED = 200
"""Of the files a process may have open so many are for other things than connections."""


def room_for_connections() -> int:
    """How many connections may be open; asks for as many open files as the machine gives."""
    soft, hard = resource.getrlimit(resource.RLIMIT_NOFILE)
    wanted = CONNECTIONS_AT_MOST + FILES_SPARED
    if soft < wanted:
        soft = wanted if hard == resource.RLIM_INFINITY else min(hard, wanted)
        resource.setrlimit(resource.RLIMIT_NOFILE, (soft, hard))
    return min(CONNECTIONS_AT_MOST, max(soft - FILES_SPARED, 20))


class Line(HttpToolsProtocol):
    """HTTP on one connection."""

    at_most = CONNECTIONS_AT_MOST

    def __init__(self, *arguments: Any, **more: Any) -> None:
        super().__init__(*arguments, **more)
        self._refused = False
        self._head_bytes = 0
        self._body_bytes = 0
        self._body_began = 0.0
        self._in_head = True
        self._in_body = False
        self._timer: asyncio.TimerHandle | None = None
        self.heard_at = 0.0

    @property
    def at_work(self) -> bool:
        """Whether a request that was said in full waits for its answer, or is being told it."""
        return self.cycle is not None and not self.cycle.response_complete and not self._in_body

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        """Somebody came; where there is no room, who waits for nothing goes, the one not heard of for longest first."""
        super().connection_made(transport)
        self.heard_at = self.loop.time()
        self._wait(HEAD_SECONDS)
        if len(self.connections) > type(self).at_most:
            others = (
                connection
                for connection in self.connections
                if isinstance(connection, Line) and connection is not self and not connection.at_work
            )
            gone = min(others, key=lambda store: store.heard_at, default=self)
            gone.connections.discard(gone)
            gone.transport.abort()

    def connection_lost(self, exc: Exception | None) -> None:
        """It is gone."""
        self._wait(None)
        super().connection_lost(exc)

    def data_received(self, data: bytes) -> None:
        """Hear more of it."""
        if self._refused or self.transport.is_closing():
            return
        self.heard_at = self.loop.time()
        if self._timer is None and self._in_head and not self.at_work:
            self._wait(HEAD_SECONDS)
        super().data_received(data)
        if self._in_head and not self._refused:
            self._head_bytes += len(data)
            if self._head_bytes > HEAD_BYTES:
                self._refuse(431, "Request header fields too large")

    def on_message_begin(self) -> None:
        """A request begins."""
        super().on_message_begin()
        self._in_head, self._head_bytes = True, 0

    def on_headers_complete(self) -> None:
        """Its head is said."""
        self._in_head = False
        if len(self.url) > URL_BYTES:
            self._refuse(414, "URI too long")
        elif sum(len(name) + len(value) for name, value in self.headers) > HEAD_BYTES:
            self._refuse(431, "Request header fields too large")
        if self._refused:
            return
        super().on_headers_complete()
        self._in_body, self._body_bytes, self._body_began = True, 0, self.loop.time()
        self._wait(BODY_SECONDS)

    def on_body(self, body: bytes) -> None:
        """A piece of its body."""
        if not self._refused:
            self._body_bytes += len(body)
            super().on_body(body)

    def on_message_complete(self) -> None:
        """All of it is said."""
        self._in_body, self._in_head, self._head_bytes = False, True, 0
        self._wait(None)
        if not self._refused:
            super().on_message_complete()

    def _wait(self, seconds: float | None) -> None:
        if self._timer is not None:
            self._timer.cancel()
            self._timer = None
        if seconds is not None:
            self._timer = self.loop.call_later(seconds, self._too_slow)

    def _too_slow(self) -> None:
        self._timer = None
        if self.transport.is_closing():
            return
        if self._in_body:
            given = BODY_SECONDS + self._body_bytes / BODY_BYTES_A_SECOND
            left = self._body_began + given - self.loop.time()
            if left > 0:
                return self._wait(max(left, 1.0))
            if self.cycle is None or self.cycle.response_started:  # it was answered before it was said
                return self.transport.close()
        self._refuse(408, "Request timeout")

    def _refuse(self, status: int, words: str) -> None:
        self._refused = True
        self._wait(None)
        body = words.encode()
        head = f"HTTP/1.1 {status} {words}\r\ncontent-type: text/plain\r\ncontent-length: {len(body)}\r\nconnection: close\r\n\r\n"
        self.transport.write(head.encode() + body)
        self.transport.close()
