"""A file system of 300 MB that is filled under a working shop: `python -m bench.full_disk`, as root (it mounts one in memory).

Wanted: nothing more is kept and said so, everything can be read, somebody can sign in to read; with room again it goes on.
"""

import multiprocessing
import os
import socket
import subprocess
import sys
import tempfile
import time
import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path

import httpx

from bench.serving import signed_in
from vane_check.start.cluster import CannotStart, Cluster
from vane_check.start.command import prepare
from vane_check.start.web import serve

SIZE_MB = 300
NEARLY_BYTES = 50_000_000
READS = ("/api/shelf", "/api/batteries/171", "/api/batteries/171/slip.pdf", "/api/checks?text=", "/api/goods")


@contextmanager
def small_disk() -> Iterator[Path]:
    """A file system in memory."""
    with tempfile.TemporaryDirectory(prefix="vane-small-") as place:
        os.chmod(place, 0o755)
        subprocess.run(["mount", "-t", "tmpfs", "-o", f"size={SIZE_MB}m,mode=755", "tmpfs", place], check=True)
        try:
            yield Path(place)
        finally:
            subprocess.run(["umount", "-l", place], check=True)


def free(place: Path) -> int:
    """Bytes that are left."""
    found = os.statvfs(place)
    return found.f_bavail * found.f_frsize


def write(http: httpx.Client) -> int:
    """The status a reading is answered with."""
    at = datetime.now(UTC).isoformat()
    body = {"id": str(uuid.uuid4()), "kind": "rest_volts", "volts": 12.5, "taken_at": at}
    return http.post("/api/batteries/171/readings", json=body).status_code


def seen(base: str, http: httpx.Client) -> str:
    """What a write, the reads, another's sign-in and `ready` are answered with."""
    reads = {http.get(path).status_code for path in READS}
    with httpx.Client(base_url=base, timeout=60) as other:
        signed_in(other, 1)
        reads.add(other.get("/api/shelf").status_code)
    return f"write {write(http)}, reads {sorted(reads)}, ready {http.get('/api/ready').status_code}"


def main() -> int:
    """Fill, look, make room."""
    told: list[tuple[str, str, str]] = []
    with small_disk() as place:
        folder = place / "records"
        folder.mkdir()
        found = Cluster(folder)
        prepare(found.start())
        listening = socket.create_server(("127.0.0.1", 0))
        base = f"http://127.0.0.1:{listening.getsockname()[1]}"
        context = multiprocessing.get_context("fork")
        process = context.Process(target=serve, args=(found.app_url, listening, None, folder))
        process.start()
        try:
            with httpx.Client(base_url=base, timeout=60) as http, open(place / "filled", "wb") as filled:
                signed_in(http)
                reads = "reads [200]"
                told.append(("room", seen(base, http), f"write 201, {reads}, ready 200"))
                filled.write(b"x" * (free(place) - NEARLY_BYTES))
                filled.flush()
                told.append(("50 MB left", seen(base, http), f"write 507, {reads}, ready 503"))
                filled.write(b"x" * max(free(place) - 4096, 0))
                filled.flush()
                told.append(("nothing left", seen(base, http), f"write 507, {reads}, ready 503"))
                pid = found.pid()
                assert pid is not None
                os.kill(pid, 9)
                time.sleep(1)
                try:
                    found.start_again()
                    said = "started"
                except CannotStart as error:
                    said = str(error).split(": ", 1)[1]
                told.append(("killed with nothing left", said, "the disk is full. Free some room, then start again."))
                filled.truncate(0)
                found.start_again()
                while http.get("/api/ready").status_code != 200:
                    time.sleep(0.2)
                told.append(("room again", seen(base, http), f"write 201, {reads}, ready 200"))
        finally:
            process.terminate()
            process.join(20)
            found.stop()
    for when, what, wanted in told:
        print(f"{when}: {what}{'' if what == wanted else f'   WANTED {wanted}'}")
    return 0 if all(what == wanted for _, what, wanted in told) else 1


if __name__ == "__main__":
    sys.exit(main())
