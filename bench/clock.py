"""A clock that was a day ahead, is set right, and is turned under a working server: `python -m bench.clock`.

The server's own readings of the clock are turned, the machine's is left alone. Wanted: what was kept a day ahead stops the next start
with one sentence, `--clock-is-right` overrules it, a clock turned meanwhile is said by `ready`, and what is kept is kept either way.
"""

import multiprocessing
import os
import signal
import subprocess
import sys
import time
import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime, timedelta
from typing import Any

import httpx

from bench.house import cluster
from bench.serving import signed_in
from vane_check.api.clock_turned import Turned
from vane_check.start.cluster import Cluster, free_port
from vane_check.start.server import server_on

START_SECONDS = 90.0
REAL = time.time


def serve(url: str, port: int, hours: Any) -> None:
    """A server whose clock is so many hours off, from one moment to the next."""
    time.time = lambda: REAL() + hours.value * 3600
    server = server_on(url, port)
    app: Any = server.config.app
    app.state.clock = lambda: datetime.now(UTC) + timedelta(hours=hours.value)
    app.state.turned = Turned(wall=time.time())
    server.run()


def answering(port: int) -> httpx.Client:
    """A client, when somebody answers."""
    base, until = f"http://127.0.0.1:{port}", time.monotonic() + START_SECONDS
    while time.monotonic() < until:
        try:
            httpx.get(f"{base}/api/health")
            return httpx.Client(base_url=base, timeout=30)
        except httpx.HTTPError:
            time.sleep(0.1)
    raise TimeoutError


@contextmanager
def turned_server(found: Cluster, hours: Any) -> Iterator[httpx.Client]:
    """Somebody signed in at a server whose clock can be turned."""
    port = free_port()
    process = multiprocessing.get_context("spawn").Process(target=serve, args=(found.app_url, port, hours))
    process.start()
    try:
        with answering(port) as http:
            signed_in(http)
            yield http
    finally:
        process.terminate()
        process.join(20)


def write(http: httpx.Client, hours: float) -> int:
    """The status a reading is answered with that was taken by the server's clock."""
    at = (datetime.now(UTC) + timedelta(hours=hours)).isoformat()
    body = {"id": str(uuid.uuid4()), "kind": "rest_volts", "volts": 12.5, "taken_at": at}
    return http.post("/api/batteries/171/readings", json=body).status_code


def started(found: Cluster, *arguments: str) -> tuple[subprocess.Popen[str], int]:
    """The start command itself, under the machine's clock."""
    port = free_port()
    environment = {**os.environ, "VANE_DATABASE_URL": found.app_url, "VANE_OWNER_URL": found.url}
    command = [sys.executable, "-m", "vane_check.start", "--port", str(port), *arguments]
    return subprocess.Popen(command, env=environment, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True), port


def main() -> int:
    """Turn, look, print."""
    fine = []
    hours = multiprocessing.get_context("spawn").Value("d", 25.0)
    with cluster() as found:
        with turned_server(found, hours) as http:
            kept, ready = write(http, 25), http.get("/api/ready").status_code
            print(f"a day ahead from the start: a reading {kept}, ready {ready}")
            fine.append((kept, ready) == (201, 200))
        process, _ = started(found)
        said = process.communicate(timeout=START_SECONDS)[0].strip().splitlines()[-1]
        print(f"set right, started: ends with {process.returncode}: {said}")
        fine.append(process.returncode == 1 and "something was kept on" in said)
        process, port = started(found, "--clock-is-right")
        with answering(port) as http:
            ready = http.get("/api/ready").status_code
        process.send_signal(signal.SIGINT)
        process.communicate(timeout=START_SECONDS)
        print(f"with --clock-is-right: ready {ready}")
        fine.append(ready == 200)
        for value in (25.0, -25.0):
            hours.value = 0.0
            with turned_server(found, hours) as http:
                before = http.get("/api/ready").status_code
                hours.value = value
                after = http.get("/api/ready")
                signed_in(http)
                kept = write(http, value)
                print(
                    f"turned by {value:+.0f} h at work: ready {before}, then {after.status_code} ({after.json()['detail']}), a reading {kept}"
                )
                fine.append((before, after.status_code, kept) == (200, 503, 201))
    return 0 if all(fine) else 1


if __name__ == "__main__":
    sys.exit(main())
