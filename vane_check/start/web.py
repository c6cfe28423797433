"""The web process: loads everything, gives up root, serves, and goes when whoever started it goes."""

import ctypes
import gc
import os
import signal
import socket
import sys
import threading
import time
from pathlib import Path

from .. import languages
from ..core import tables
from ..core.goods.fitting import step_rows
from ..core.goods.importing.values import day
from ..core.house.rules import SCHOOLS, former_names, house_rules
from ..core.tables import codes
from ..core.units.zones import known_zones
from ..files import pictures
from ..files.ordinary_user import drop_root
from ..files.reader import READER
from ..papers import lists
from ..papers.scripts import fonts
from ..records.migrate import newest_version
from .connection import Line, room_for_connections
from .server import server_on
from .watch import SIGNS

PR_SET_PDEATHSIG = 1


def serve(
    url: str, listening: socket.socket, set_up_code: str | None = None, records_folder: Path | None = None
) -> int:
    """Serve on a socket that listens already, until told to stop. Runs in a process of its own."""
    parent = os.getppid()
    preload()
    server = server_on(url, listening.getsockname()[1], set_up_code=set_up_code, records_folder=records_folder)
    READER.start()
    Line.at_most = room_for_connections()
    gc.freeze()  # what is loaded by now stays: it is not looked through again while somebody waits
    drop_root()
    _go_with(parent, lambda: server.handle_exit(signal.SIGTERM, None))
    for sign in SIGNS:
        signal.signal(sign, server.handle_exit)
    signal.pthread_sigmask(signal.SIG_UNBLOCK, SIGNS)
    server.run(sockets=[listening])
    return 0


def preload() -> None:
    """Read whatever is read once now: an ordinary user may not reach the files of a checkout of root's."""
    for read in (*vars(tables).values(), *vars(codes).values(), step_rows):
        if hasattr(read, "cache_info"):
            read()
    lists.load()
    day("2026-01-01")  # reading days is a module that Python loads with the first
    for school in SCHOOLS:
        house_rules(school)
    former_names()
    known_zones()
    languages.load()
    fonts()
    pictures.load()
    newest_version()


def _go_with(parent: int, stop: object) -> None:
    """Stop when the process that started this one is gone, however it went."""
    if sys.platform == "linux":
        ctypes.CDLL(None).prctl(PR_SET_PDEATHSIG, signal.SIGKILL, 0, 0, 0)

    def watch() -> None:
        while os.getppid() == parent:
            time.sleep(1)
        os.kill(os.getpid(), signal.SIGTERM)

    threading.Thread(target=watch, daemon=True).start()
