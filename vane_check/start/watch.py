"""Watches over the web process and the database of our own: a database that dies is started again where it was."""

import os
import signal
import sys
import threading
import time
from collections.abc import Callable

from .backup import Asked
from .cluster import CannotStart, Cluster

LOOK_EVERY_SECONDS = 0.3
SIGNS = (signal.SIGINT, signal.SIGTERM)
"""What ends it; blocked by who calls `over` until both processes listen."""

AGAIN_SECONDS = 3.0
"""One that cannot be started is tried again so often; why is said once."""
HOUR_SECONDS = 3600
FIRST_AFTER_SECONDS = 60
"""What is done each hour is done first when the start is over."""


def over(
    serve: Callable[[], int],
    cluster: Cluster | None,
    request: Asked | None = None,
    hourly: Callable[[], object] = lambda: None,
) -> int:
    """Run the web process until it ends or a signal ends it; make a backup when one is asked for, and do what is done each
    hour. Returns its exit code."""
    sys.stdout.flush()
    child = os.fork()
    if child == 0:
        _be_the_web_process(serve)
    for sign in SIGNS:
        signal.signal(sign, lambda number, _: os.kill(child, number))
    signal.pthread_sigmask(signal.SIG_UNBLOCK, SIGNS)
    words, again_at = "", 0.0
    done_at = time.monotonic() - HOUR_SECONDS + FIRST_AFTER_SECONDS
    while True:
        ended, status = os.waitpid(child, os.WNOHANG)
        if ended:
            return os.waitstatus_to_exitcode(status)
        if cluster is not None and time.monotonic() >= again_at and cluster.pid() is None:
            if not words:
                print("The database ended by itself: starting it again.", file=sys.stderr, flush=True)
            why = _start_again(cluster)
            if why and why != words:
                print(why, file=sys.stderr, flush=True)
            words, again_at = why, time.monotonic() + (AGAIN_SECONDS if why else 0)
        if request is not None and request.look(time.monotonic()):
            threading.Thread(target=request.make, daemon=True).start()
        if time.monotonic() - done_at >= HOUR_SECONDS:
            done_at = time.monotonic()
            threading.Thread(target=hourly, daemon=True).start()
        time.sleep(LOOK_EVERY_SECONDS)


def _start_again(cluster: Cluster) -> str:
    """Start a database that ended by itself; why it cannot be, or nothing."""
    try:
        cluster.start_again()
    except CannotStart as error:
        return str(error)
    return ""


def _be_the_web_process(serve: Callable[[], int]) -> None:
    """In the new process: never come back from here."""
    code = 1
    try:
        os.setsid()  # the terminal's Ctrl-C reaches the watcher alone, which passes it on once
        code = serve()
    except BaseException as error:
        print(f"The web process failed: {type(error).__qualname__}: {error}", file=sys.stderr, flush=True)
    finally:
        sys.stdout.flush()
        os._exit(code)
