"""The line itself: heads and bodies that are too long or never end, too many connections, strangers who send much."""

import asyncio
import contextlib
import socket
import time
import unittest
from collections.abc import AsyncIterator, Iterator
from unittest import mock
from urllib.parse import urlsplit

import httpx
from sqlalchemy.exc import TimeoutError as PoolTimeout

from tests.house import LEAD, PINS, database, served
from vane_check.api import edge, events
from vane_check.start import connection as line
from vane_check.start.connection import Line

LONG = 600


class Connections(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.address = cls.enterClassContext(served(database()))
        cls.port = urlsplit(cls.address).port

    @contextlib.contextmanager
    def line(self, said: bytes = b"") -> Iterator[socket.socket]:
        with socket.create_connection(("127.0.0.1", self.port), timeout=LONG) as one:
            one.sendall(said)
            yield one

    def head(self, more: str = "", path: str = "/api/health", method: str = "GET") -> bytes:
        return f"{method} {path} HTTP/1.1\r\nHost: 127.0.0.1:{self.port}\r\n{more}".encode()

    def until_closed(self, one: socket.socket) -> bytes:
        """All it says until it closes: a test that hangs here has found a line that never does."""
        said = b""
        with contextlib.suppress(ConnectionError):
            while part := one.recv(65536):
                said += part
        return said

    def status(self, said: bytes) -> int:
        return int(said.split(b" ")[1]) if said else 0

    def test_a_head_or_an_address_longer_than_any_is_refused(self) -> None:
        for more, path, status in (
            ("X-Long: " + "a" * 40_000 + "\r\n\r\n", "/api/health", 431),
            ("".join(f"X-{n}: {'a' * 100}\r\n" for n in range(400)) + "\r\n", "/api/health", 431),
            ("\r\n", "/api/health?" + "a" * 9_000, 414),
            ("X-Endless: " + "a" * 500_000, "/api/health", 431),
        ):
            with self.subTest(more[:12]), self.line() as one:
                with contextlib.suppress(ConnectionError):
                    one.sendall(self.head(more, path))
                self.assertEqual(self.status(self.until_closed(one)), status)
        with self.line(self.head("X-Fair: " + "a" * 20_000 + "\r\nConnection: close\r\n\r\n")) as one:
            self.assertEqual(self.status(self.until_closed(one)), 200)

    def test_a_request_that_is_not_said_in_full_is_given_up(self) -> None:
        body = "Content-Type: application/json\r\nContent-Length: 100\r\n\r\n{"
        halves = (b"", self.head(), b"\r\n" * 3, self.head(body, "/api/sign-in", "POST"))
        with (
            mock.patch.object(line, "HEAD_SECONDS", 0.3),
            mock.patch.object(line, "BODY_SECONDS", 0.3),
        ):
            for said in halves:
                with self.subTest(said[:20]), self.line(said) as one:
                    self.assertIn(self.status(self.until_closed(one)), (0, 408))
            with self.line() as one:  # a letter now and then holds no line open
                closed = b""
                with contextlib.suppress(ConnectionError):
                    for sign in self.head("X-Slow: " + "a" * 4000):
                        one.sendall(bytes([sign]))
                        time.sleep(0.005)
                    closed = self.until_closed(one)
                self.assertNotIn(b" 200 ", closed)

    def test_a_long_body_over_a_poor_line_has_its_time(self) -> None:
        with httpx.Client(base_url=self.address) as http, mock.patch.object(line, "BODY_SECONDS", 0.5):
            person = next(one["id"] for one in http.get("/api/people").json()["people"] if one["name"] == LEAD)
            me = http.post("/api/sign-in", json={"staff_id": person, "pin": PINS[LEAD]}).json()

            def slowly() -> Iterator[bytes]:
                for _ in range(8):
                    yield b" " * 20_000
                    time.sleep(0.25)

            headers = {"Content-Type": "application/json", "X-Vane-CSRF": me["csrf_token"]}
            found = http.post("/api/assess", content=slowly(), headers=headers)
        self.assertEqual(found.status_code, 422)  # heard to its end: it holds no check

    def test_more_half_said_requests_than_there_is_room_for_shut_nobody_out(self) -> None:
        with mock.patch.object(Line, "at_most", 20), contextlib.ExitStack() as stack:
            stream = stack.enter_context(httpx.Client(base_url=self.address, timeout=LONG))
            person = next(one["id"] for one in stream.get("/api/people").json()["people"] if one["name"] == LEAD)
            stream.post("/api/sign-in", json={"staff_id": person, "pin": PINS[LEAD]})
            told = stack.enter_context(stream.stream("GET", "/api/events"))
            lines = told.iter_lines()
            next(lines)
            for _ in range(60):
                stack.enter_context(self.line(self.head()))
                self.assertEqual(httpx.get(f"{self.address}/api/health", timeout=LONG).status_code, 200)
            next(lines)  # who is at work is not sent away for it
        self.assertEqual(httpx.get(f"{self.address}/api/health", timeout=LONG).status_code, 200)

    def test_as_many_files_are_asked_for_as_the_machine_gives(self) -> None:
        with mock.patch.object(line.resource, "getrlimit", return_value=(1024, 1_048_576)):
            with mock.patch.object(line.resource, "setrlimit") as wanted:
                self.assertEqual(line.room_for_connections(), line.CONNECTIONS_AT_MOST)
            self.assertEqual(wanted.call_args.args[1][0], line.CONNECTIONS_AT_MOST + line.FILES_SPARED)
        with (
            mock.patch.object(line.resource, "getrlimit", return_value=(256, 1024)),
            mock.patch.object(line.resource, "setrlimit"),
        ):
            self.assertEqual(line.room_for_connections(), 1024 - line.FILES_SPARED)

    def test_a_stranger_s_long_body_is_not_listened_to_whatever_cookie_it_has(self) -> None:
        for path in ("/api/imports?kind=items", "/api/sign-in", "/api/assess", "/api/nowhere"):
            for cookie in ("", "Cookie: vane_session=made-up\r\n"):
                with self.subTest(path=path, cookie=cookie):
                    more = f"{cookie}Content-Type: application/json\r\nContent-Length: 60000000\r\n\r\n"
                    with self.line(
                        self.head(more, path, "POST")
                    ) as one:  # refused by its head: nothing of it is awaited
                        said = one.recv(65536)
                    self.assertEqual(self.status(said), 413)
                    chunk = b"10000\r\n" + b"a" * 65_536 + b"\r\n"
                    with self.line(self.head(f"{cookie}Transfer-Encoding: chunked\r\n\r\n", path, "POST")) as one:
                        one.sendall(chunk)
                        self.assertEqual(self.status(one.recv(65536)), 413)

    def test_more_lists_at_once_than_memory_has_room_for_are_told_to_wait(self) -> None:
        with httpx.Client(base_url=self.address, timeout=LONG) as http, contextlib.ExitStack() as stack:
            person = next(one["id"] for one in http.get("/api/people").json()["people"] if one["name"] == LEAD)
            http.post("/api/sign-in", json={"staff_id": person, "pin": PINS[LEAD]})
            more = f"Cookie: vane_session={http.cookies['vane_session']}\r\nContent-Length: 60000000\r\n\r\n"
            for _ in range(edge.LONG_AT_ONCE):
                stack.enter_context(self.line(self.head(more, "/api/imports?kind=items", "POST")))
            until, said = time.monotonic() + LONG, b""
            while b" 503 " not in said:  # the two are a moment on their way
                self.assertLess(time.monotonic(), until)
                with self.line(self.head(more, "/api/imports?kind=items", "POST")) as one:
                    one.settimeout(0.5)
                    with contextlib.suppress(TimeoutError):
                        said = one.recv(65536)
            self.assertIn(b"retry-after", said)


class ABusyDatabase(unittest.TestCase):
    def test_a_stream_whose_session_cannot_be_looked_up_goes_on_and_asks_again(self) -> None:
        """Two hundred streams ask every few seconds: one that finds no connection free says so to nobody, and is not cut off."""

        class Nothing:
            away = False

            @contextlib.asynccontextmanager
            async def screen(self, _: int) -> AsyncIterator[asyncio.Queue[str | None]]:
                yield asyncio.Queue()

        busy = mock.Mock(begin=mock.Mock(side_effect=PoolTimeout("no connection is free")))
        found = mock.Mock(staff=mock.Mock(store_id=1), id=1)

        async def first(count: int) -> list[str]:
            stream = events._stream(Nothing(), busy, "token", found)  # type: ignore[arg-type]
            return [await anext(stream) for _ in range(count)]

        with mock.patch.object(events, "HEARTBEAT_SECONDS", 0.01):
            said = asyncio.run(first(5))
        self.assertEqual(said[2:], ["event: still\ndata: \n\n"] * 3)
