"""Has files read by the process of `__main__.py`: what it says is believed within bounds, and what it does not say in time is refused."""

import atexit
import json
import os
import socket
import subprocess
import sys
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any, NamedTuple

from .lists import NotAList, Opened

PACKAGES = Path(__file__).parents[2]
AT_ONCE = 2
"""So many files are read side by side; more wait."""
START_SECONDS = 60
"""On a busy machine it takes its time to load."""
LINE_AT_MOST = 4_000_000
"""Bytes of one line of its answers."""


class Limits(NamedTuple):
    """What reading one file may take."""

    cpu_seconds: int
    memory_bytes: int
    silent_seconds: float
    """Without a word for so long it is given up."""


QUICK = Limits(cpu_seconds=10, memory_bytes=512_000_000, silent_seconds=30)
"""A heading or a picture."""
WHOLE = Limits(cpu_seconds=120, memory_bytes=512_000_000, silent_seconds=180)
"""Every row: 100,000 of twenty columns as XLSX take some ten seconds of a quiet processor."""
TOO_MUCH = "files.takes_too_much"


class CannotRead(RuntimeError):
    """No file can be read just now."""


class FileReader:
    """Sends files to the process that reads them; starts it where there is none."""

    def __init__(self) -> None:
        self._control: socket.socket | None = None
        self._process: subprocess.Popen[bytes] | None = None
        self._starting = threading.Lock()
        self._places = threading.BoundedSemaphore(AT_ONCE)

    def start(self) -> None:
        """Have it there; as root it must be started while its files can still be read."""
        with self._starting:
            if self._process is not None and self._process.poll() is None:
                return
            self._leave()
            ours, its = socket.socketpair()
            with its:
                self._process = subprocess.Popen(
                    [sys.executable, "-m", __package__, str(its.fileno())],
                    stdin=subprocess.DEVNULL,
                    pass_fds=[its.fileno()],
                    env={**os.environ, "PYTHONPATH": str(PACKAGES)},
                )
            self._control = ours

    def close(self) -> None:
        """Let it go."""
        with self._starting:
            self._leave()

    def _leave(self) -> None:
        if self._control is not None:
            self._control.close()
            self._control = None
        if self._process is not None:
            self._process.kill()  # what reads a file at this moment is a process of its own, and reads on
            self._process.wait()
            self._process = None

    @contextmanager
    def opened(self, content: bytes, what: str = "rows", limits: Limits = WHOLE) -> Iterator[Opened]:
        """A list, read while it is looked at. Raises NotAList, in its rows too."""
        with self._answers(what, content, limits) as answers:
            columns: list[str] = next(answers, [])
            yield Opened(columns, (row for some in answers for row in some))

    def heading(self, content: bytes) -> tuple[list[str], list[list[str]]]:
        """A list's columns and its first rows. Raises NotAList."""
        with self.opened(content, "heading", QUICK) as result:
            return result.columns, list(result.rows)

    def picture_kind(self, picture: bytes) -> str | None:
        """As `pictures.picture_kind`: None, too, for one that takes more than it may."""
        try:
            with self._answers("picture", picture, QUICK) as answers:
                kind = next(answers, None)
                return None if kind is None else str(kind)
        except NotAList:
            return None

    @contextmanager
    def _answers(self, what: str, content: bytes, limits: Limits) -> Iterator[Iterator[Any]]:
        if not self._places.acquire(timeout=limits.silent_seconds):
            raise NotAList("files.other_files_are_being_read")
        try:
            with self._line() as line:
                line.settimeout(limits.silent_seconds)
                yield self._listen(line, what, content, limits)
        finally:
            self._places.release()

    def _line(self) -> socket.socket:
        """A line to somebody who reads one file. One that does not answer is gone since: there is another."""
        for last in (False, True):
            self.start()
            ours, its = socket.socketpair()
            try:
                ours.settimeout(START_SECONDS)
                with its:
                    assert self._control is not None
                    socket.send_fds(self._control, [b"1"], [its.fileno()])
                if ours.recv(1):
                    return ours
                raise ConnectionResetError
            except OSError as error:
                ours.close()
                self.close()
                if last:
                    raise CannotRead from error
        raise AssertionError

    @staticmethod
    def _listen(line: socket.socket, what: str, content: bytes, limits: Limits) -> Iterator[Any]:
        job = {
            "what": what, "bytes": len(content), "cpu_seconds": limits.cpu_seconds, "memory_bytes": limits.memory_bytes,
        }  # fmt: skip
        try:
            line.sendall(json.dumps(job).encode() + b"\n")
            line.sendall(content)
            with line.makefile("rb") as file:
                while words := file.readline(LINE_AT_MOST):
                    answer = json.loads(words)
                    if isinstance(answer, dict):
                        if "refused" in answer:
                            raise NotAList(answer["refused"], **answer["figures"])
                        return
                    yield answer
        except (OSError, ValueError) as error:
            if isinstance(error, NotAList):
                raise
            raise NotAList(TOO_MUCH) from error
        raise NotAList(TOO_MUCH)


READER = FileReader()
"""This process's own."""
atexit.register(READER.close)
