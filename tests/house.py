"""A PostgreSQL of the tests' own, databases copied from a filled one, the API in process, and a served app for the browser."""

import atexit
import os
import signal
import tempfile
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from functools import cache
from pathlib import Path
from typing import Any

import psycopg
from fastapi.testclient import TestClient
from sqlalchemy.orm import Session, sessionmaker

from vane_check.api.app import make_app
from vane_check.demo import goods
from vane_check.records.base import engine_of, sessions_of
from vane_check.start.__main__ import prepare
from vane_check.start.cluster import Cluster, free_port
from vane_check.start.server import server_on

PINS = {name: pin for name, _, pin in goods.PEOPLE}
LEAD, TEO, NOOR = (name for name, _, _ in goods.PEOPLE)


# The data goes away with the run, so a slow disk need not be waited for.
QUICK = ("fsync=off", "synchronous_commit=off", "full_page_writes=off")


@cache
def cluster() -> Cluster:
    root = os.geteuid() == 0
    folder = Path(tempfile.mkdtemp(prefix="vane-tests-", dir="/var/lib" if root else None))
    folder.chmod(0o755)
    found = Cluster(folder, QUICK)
    atexit.register(found.remove)
    found.start()
    return found


@cache
def filled() -> str:
    """The name of the database that others are copied from."""
    prepare(cluster().url)
    return cluster().url.rsplit("/", 1)[1]


_made = iter(range(1_000_000))


def database() -> str:
    """The address of a fresh copy of the demo shop."""
    name, base = f"copy_{next(_made)}", filled()
    address = cluster().url.rsplit("/", 1)[0]
    with psycopg.connect(f"{address}/postgres", autocommit=True) as connection:
        connection.execute(f"create database {name} template {base}")
    return f"{address}/{name}"


def sessions(url: str) -> sessionmaker[Session]:
    engine = engine_of(url, pool_size=2)
    atexit.register(engine.dispose)
    return sessions_of(engine)


class Client:
    """The API as one person uses it."""

    def __init__(self, app: Any, name: str = TEO) -> None:
        self.http = TestClient(app)
        person = next(one for one in self.http.get("/api/people").json() if one["name"] == name)
        found = self.http.post("/api/sign-in", json={"staff_id": person["id"], "pin": PINS[name]})
        self.me = found.json()
        self.http.headers["X-Vane-CSRF"] = self.me["csrf_token"]

    def get(self, path: str, **more: Any) -> Any:
        return self.http.get(f"/api{path}", **more)

    def send(self, method: str, path: str, body: Any, **more: Any) -> Any:
        return self.http.request(method, f"/api{path}", json=body, **more)


def app_on(url: str) -> Any:
    app = make_app(url)
    atexit.register(app.state.engine.dispose)
    return app


@contextmanager
def served(url: str, port: int = 0) -> Iterator[str]:
    """The app on loopback, as the start command serves it."""
    port = port or free_port()
    server = server_on(url, port, log_level="error")
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    while not server.started:
        time.sleep(0.02)
    try:
        yield f"http://127.0.0.1:{port}"
    finally:
        server.handle_exit(signal.SIGTERM, None)
        thread.join(10)
