"""Room on the disk that holds the records: where little is left, nothing more is written, and all that is there can be read."""

import os
import time
from pathlib import Path

from starlette.types import ASGIApp, Receive, Scope, Send

from .problems import FULL, problem

FULL_BELOW_BYTES = 64_000_000
"""Four segments of PostgreSQL's log of 16 MB each (its default, by its manual): one that finds no room for the next one stops, and
then nothing can be read either."""
REMEMBERED_SECONDS = 60.0
"""So long after a database said that it has no room it is taken as full: a server given from outside tells nobody how much it has."""
KEEP_NOTHING = frozenset(
    {
        "/api/assess", "/api/assess/odds", "/api/match", "/api/match/photo", "/api/sign-in", "/api/sign-in/lift", "/api/sign-out",
    }
)  # fmt: skip
"""Writes by their method that keep nothing, or let somebody in to read."""


class Room:
    """How much room is left in the folder of the records; where none is known, what the database said last."""

    def __init__(self, folder: Path | None) -> None:
        # held open: whoever gave up root may not come to it by its name
        self._folder = None if folder is None else os.open(folder, os.O_RDONLY | os.O_DIRECTORY)
        self._met_full_at: float | None = None

    def is_full(self) -> bool:
        """Whether nothing more should be written."""
        if self._met_full_at is not None and time.monotonic() - self._met_full_at < REMEMBERED_SECONDS:
            return True
        if self._folder is None:
            return False
        left = os.fstatvfs(self._folder)
        return left.f_bavail * left.f_frsize < FULL_BELOW_BYTES

    def met_full(self) -> None:
        """The database found no room."""
        self._met_full_at = time.monotonic()

    def close(self) -> None:
        """Let the folder go."""
        if self._folder is not None:
            os.close(self._folder)
            self._folder = None


class Guarded:
    """Writes are refused while there is no room."""

    def __init__(self, app: ASGIApp, room: Room) -> None:
        self.app = app
        self.room = room

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass one request on."""
        writes = scope["type"] == "http" and scope["method"] not in {"GET", "HEAD", "OPTIONS"}
        if writes and scope["path"] not in KEEP_NOTHING and self.room.is_full():
            return await problem(507, FULL, wait_seconds=5)(scope, receive, send)
        return await self.app(scope, receive, send)
