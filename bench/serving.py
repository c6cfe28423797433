"""The server in a process of its own, as bin/start runs it, for the benches."""

import multiprocessing
import socket
import time
from collections.abc import Iterator
from contextlib import contextmanager

import httpx

from vane_check.demo import goods
from vane_check.start.web import serve


@contextmanager
def serving(app_url: str) -> Iterator[str]:
    """Serve a database on loopback; yields the address."""
    listening = socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
    listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    listening.bind(("127.0.0.1", 0))
    listening.listen(2048)
    base = f"http://127.0.0.1:{listening.getsockname()[1]}"
    process = multiprocessing.get_context("fork").Process(target=serve, args=(app_url, listening))
    process.start()
    listening.close()
    for _ in range(200):
        try:
            httpx.get(f"{base}/api/people")
            break
        except httpx.HTTPError:
            time.sleep(0.05)
    try:
        yield base
    finally:
        process.terminate()
        process.join(10)
        if process.is_alive():
            process.kill()


def signed_in(http: httpx.Client, who: int = 0) -> int:
    """Sign a client in as one of the demo shop; every write carries its token. Returns the person's number."""
    name, _, pin = goods.PEOPLE[who]
    person = next(one for one in http.get("/api/people").json()["people"] if one["name"] == name)
    me = http.post("/api/sign-in", json={"staff_id": person["id"], "pin": pin})
    me.raise_for_status()
    http.headers["X-Vane-CSRF"] = me.json()["csrf_token"]
    return int(person["id"])
