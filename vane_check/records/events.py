"""What changed, told to other screens: PostgreSQL NOTIFY on commit, LISTEN in the server."""

import asyncio
import json
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager

import psycopg
from sqlalchemy import text
from sqlalchemy.orm import Session

CHANNEL = "vane_check"
RETRY_SECONDS = 2


def announce(session: Session, store_id: int, what: str, tag: int | None = None) -> None:
    """Tell other screens of this store what changed; heard only if the transaction commits."""
    message = json.dumps({"store_id": store_id, "what": what, "tag": tag})
    session.execute(text("select pg_notify(:channel, :message)"), {"channel": CHANNEL, "message": message})


class Announcements:
    """One listening connection for the whole server, handed out to every open screen."""

    def __init__(self, url: str) -> None:
        self._url = url
        self._screens: set[tuple[int, asyncio.Queue[str | None]]] = set()

    async def listen(self) -> None:
        """Listen until cancelled; after a lost connection try again and have every screen look afresh."""
        while True:
            try:
                async with await psycopg.AsyncConnection.connect(self._url, autocommit=True) as connection:
                    await connection.execute(f"listen {CHANNEL}")
                    self._to_all('{"what": "everything"}')
                    async for notice in connection.notifies():
                        told = json.loads(notice.payload)
                        self._to_store(told.pop("store_id"), json.dumps(told))
            except psycopg.OperationalError:
                await asyncio.sleep(RETRY_SECONDS)

    def _to_store(self, store_id: int, message: str) -> None:
        for of_store, queue in self._screens:
            if of_store == store_id:
                queue.put_nowait(message)

    def close(self) -> None:
        """Tell every open screen that the server goes away."""
        self._to_all(None)

    def _to_all(self, message: str | None) -> None:
        for _, queue in self._screens:
            queue.put_nowait(message)

    @asynccontextmanager
    async def screen(self, store_id: int) -> AsyncIterator[asyncio.Queue[str | None]]:
        """A queue of what changes in this store for as long as a screen is open; None means the server goes away."""
        entry = (store_id, asyncio.Queue[str | None]())
        self._screens.add(entry)
        try:
            yield entry[1]
        finally:
            self._screens.discard(entry)
