"""The process that reads files: `python -m vane_check.files FD`, where FD is a Unix socket that each job's own socket comes by.

It loads what reading needs, gives up root, and forks a process for every job, which has limits of its own and opens nothing.
A job is one line of JSON (what, how many bytes, the limits) and the file; its answers are lines of JSON.
"""

import gc
import json
import os
import resource
import signal
import socket
import sys
from collections.abc import Iterator
from itertools import islice
from typing import Any

from . import lists, pictures
from .ordinary_user import drop_root

SIGNS_A_LINE = 200_000
"""Rows go back in lines of about so many signs."""


def main() -> int:
    """Take jobs until whoever sends them is gone."""
    control = socket.socket(fileno=int(sys.argv[1]))
    for sign in (signal.SIGINT, signal.SIGTERM):  # whoever stops the server stops it by closing the socket
        signal.signal(sign, signal.SIG_IGN)
    signal.signal(signal.SIGCHLD, signal.SIG_IGN)
    lists.load()
    pictures.load()
    gc.collect()
    gc.freeze()
    drop_root()
    while True:
        _, received, _, _ = socket.recv_fds(control, 1, 1)
        if not received:
            return 0
        if os.fork() == 0:
            control.close()
            os._exit(_work(received[0]))
        os.close(received[0])


def _work(received: int) -> int:
    signal.signal(signal.SIGPIPE, signal.SIG_DFL)  # nobody listens any more: that is the end of it
    with socket.socket(fileno=received) as line, line.makefile("rwb") as file:
        try:
            line.sendall(b"1")  # somebody is there
            job = json.loads(file.readline())
        except (OSError, ValueError):  # whoever asked is gone, in the middle of asking
            return 0
        _limit(job)
        try:
            for answer in _answers(job["what"], file.read(job["bytes"])):
                _say(file, answer)
            _say(file, {"end": True})
        except lists.NotAList as error:
            _say(file, {"refused": error.key, "figures": error.figures})
        except MemoryError:
            return 1  # the same as one that was stopped: there may be no memory to say it with
    return 0


def _limit(job: dict[str, Any]) -> None:
    resource.setrlimit(resource.RLIMIT_CPU, (job["cpu_seconds"], job["cpu_seconds"]))
    resource.setrlimit(resource.RLIMIT_AS, (job["memory_bytes"], job["memory_bytes"]))
    resource.setrlimit(resource.RLIMIT_FSIZE, (0, 0))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    resource.setrlimit(resource.RLIMIT_NOFILE, (0, 0))  # opens nothing, connects to nobody


def _say(file: Any, answer: Any) -> None:
    file.write(json.dumps(answer, ensure_ascii=False, separators=(",", ":")).encode("utf-8", "replace") + b"\n")
    file.flush()


def _answers(what: str, content: bytes) -> Iterator[Any]:
    if what == "picture":
        yield pictures.picture_kind(content)
        return
    opened = lists.open_list(content)
    yield opened.columns
    rows = islice(opened.rows, lists.SAMPLE) if what == "heading" else opened.rows
    some: list[list[str]] = []
    signs = 0
    for row in rows:
        some.append(row)
        signs += sum(map(len, row)) + len(row)
        if signs > SIGNS_A_LINE:
            yield some
            some, signs = [], 0
    yield some


if __name__ == "__main__":
    sys.exit(main())
