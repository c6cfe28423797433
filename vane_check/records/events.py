"""What changed, told to other screens (NOTIFY on commit, LISTEN in the server), and whether the database answers at all."""

import asyncio
import json
import os
import socket
from collections.abc import AsyncIterator, Callable
from contextlib import asynccontextmanager
from typing import Any

import psycopg
from sqlalchemy import Engine, event, text
from sqlalchemy.orm import Session

CHANNEL = "vane_check"
RETRY_SECONDS = 0.5
PULSE_SECONDS = 0.25
"""How often the database is asked whether it is there."""
PATIENCE_SECONDS = 0.6
"""How long it may take to say so before it counts as away; counted in slices, so that a busy server is not mistaken for
a database that does not answer."""
SLICE_SECONDS = 0.05
CUT_AFTER_SECONDS = 5.0
"""How long after that the connections of requests that wait in it are cut."""
KEPT_AT_MOST = 200
"""Messages kept for a screen that reads slowly; beyond them it is told to look at everything afresh."""

LISTENER = "vane-check listening"

UNHEARD = "unheard"
"""Set on a session that fills a shop nobody looks at yet: it announces nothing."""

NOTIFY = (
    "select pg_notify(:channel, (cast(:message as jsonb)"
    " || jsonb_build_object('count', pg_current_xact_id()::text::bigint))::text)"
)
"""Answers and announcements carry one count of changes: an announcement the number of its transaction, an answer the
first number it does not know all of before (PostgreSQL's oldest running transaction). What is announced is in an answer
whose count is higher; of any other answer nobody can be sure, so it is asked for again."""

COUNTED = "select pg_snapshot_xmax(pg_current_snapshot())::text::bigint"

AT_WORK_LOCK = 8140_2026_1201
"""Held in common by every server that works on a database, however its connections are called; whoever puts an archive back
wants it alone."""

EVERYTHING = json.dumps({"what": "everything"})


def announce(
    session: Session, store_id: int, what: str, tag: int | None = None, battery: dict[str, Any] | None = None
) -> None:
    """Tell other screens of this store what changed, and how it is shown now; heard only if the transaction commits."""
    if session.info.get(UNHEARD):
        return
    message = json.dumps({"store_id": store_id, "what": what, "tag": tag, **({"shown": battery} if battery else {})})
    session.execute(text(NOTIFY), {"channel": CHANNEL, "message": message})


def count_of(session: Session) -> int:
    """The count beyond which every change is still to be announced."""
    row: int = session.execute(text(COUNTED)).scalar_one()
    return row


class Announcements:
    """One listening connection for the whole server, handed out to every open screen."""

    def __init__(self, url: str, patience_seconds: float = PATIENCE_SECONDS) -> None:
        self._url = url
        self._patience = patience_seconds
        self._screens: set[tuple[int, asyncio.Queue[str | None]]] = set()
        self.away = False
        self.on_away: list[Callable[[], None]] = []
        self.on_told: list[Callable[[dict[str, Any]], None]] = []
        self.on_long_away: list[Callable[[], None]] = []
        self._cutting: asyncio.TimerHandle | None = None

    async def listen(self) -> None:
        """Listen until cancelled; after a lost connection try again and have every screen look afresh."""
        while True:
            try:
                connection = await self._in_time(
                    psycopg.AsyncConnection.connect(
                        self._url, autocommit=True, connect_timeout=2, application_name=LISTENER
                    )
                )
                try:
                    await self._in_time(connection.execute(f"listen {CHANNEL}"))
                    at_work = await self._in_time(
                        connection.execute("select pg_try_advisory_lock_shared(%s)", (AT_WORK_LOCK,))
                    )
                    if await at_work.fetchone() != (True,):
                        raise OSError("an archive is being put back")
                    self._is_back()
                    self._to_all(EVERYTHING)
                    await self._hear(connection)
                finally:
                    cut(connection)
                    await connection.close()
            except (psycopg.Error, OSError, TimeoutError):
                self._is_away()
                await asyncio.sleep(RETRY_SECONDS)

    async def _hear(self, connection: psycopg.AsyncConnection[Any]) -> None:
        while True:
            async for notice in connection.notifies(timeout=PULSE_SECONDS):
                body = json.loads(notice.payload)
                store_id = body.pop("store_id")
                for hear in self.on_told:
                    hear(body)
                self._to_store(store_id, json.dumps(body))
            await self._in_time(connection.execute("select 1"), connection)

    async def _in_time(self, work: Any, connection: psycopg.AsyncConnection[Any] | None = None) -> Any:
        """What was asked of the database, or TimeoutError once its patience is used up."""
        task = asyncio.ensure_future(work)
        task.add_done_callback(
            lambda gone: gone.cancelled() or gone.exception()
        )  # also where nobody waits for it any more
        for _ in range(int(self._patience / SLICE_SECONDS) + 1):
            done, _ = await asyncio.wait({task}, timeout=SLICE_SECONDS)
            if done:
                return task.result()
        self._is_away()
        if connection is not None:
            cut(connection)
        else:
            task.cancel()
        raise TimeoutError

    def _is_away(self) -> None:
        if self.away:
            return
        self.away = True
        for tell in self.on_away:
            tell()
        loop = asyncio.get_running_loop()
        self._cutting = loop.call_later(CUT_AFTER_SECONDS, lambda: [tell() for tell in self.on_long_away])

    def _is_back(self) -> None:
        self.away = False
        if self._cutting is not None:
            self._cutting.cancel()

    def _to_store(self, store_id: int, message: str) -> None:
        for of_store, queue in self._screens:
            if of_store == store_id:
                _put(queue, message)

    def close(self) -> None:
        """Tell every open screen that the server goes away."""
        self._to_all(None)

    def _to_all(self, message: str | None) -> None:
        for _, queue in self._screens:
            _put(queue, message)

    @asynccontextmanager
    async def screen(self, store_id: int) -> AsyncIterator[asyncio.Queue[str | None]]:
        """A queue of what changes in this store for as long as a screen is open; None means the server goes away."""
        entry = (store_id, asyncio.Queue[str | None]())
        self._screens.add(entry)
        try:
            yield entry[1]
        finally:
            self._screens.discard(entry)


def _put(queue: asyncio.Queue[str | None], message: str | None) -> None:
    if queue.qsize() >= KEPT_AT_MOST:
        while not queue.empty():
            queue.get_nowait()
        queue.put_nowait(EVERYTHING)
    queue.put_nowait(message)


def cut(connection: psycopg.AsyncConnection[Any] | psycopg.Connection[Any]) -> None:
    """Cut a connection's line: whoever waits in it wakes with an error. Safe from any thread."""
    try:
        line = socket.socket(fileno=os.dup(connection.pgconn.socket))
    except (OSError, psycopg.Error):
        return
    try:
        line.shutdown(socket.SHUT_RDWR)
    except OSError:
        pass
    finally:
        line.close()


class Lines:
    """The open connections of an engine, so that they can be cut when the database does not answer."""

    def __init__(self, engine: Engine) -> None:
        self._open: set[Any] = set()
        event.listen(engine, "connect", lambda connection, _: self._open.add(connection))
        event.listen(engine, "close", lambda connection, _: self._open.discard(connection))

    def cut_all(self) -> None:
        """Cut them all; the pool makes new ones."""
        for connection in list(self._open):
            cut(connection)
