"""A PostgreSQL of the tests' own, databases copied from a filled one, the API in process, and a served app for the browser."""

import atexit
import os
import signal
import subprocess
import tempfile
import threading
import time
import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from functools import cache
from pathlib import Path
from typing import Any
from unittest.mock import patch

import psycopg
from argon2 import PasswordHasher
from sqlalchemy import Engine
from sqlalchemy.orm import Session, sessionmaker

from tests.english import TestClient
from vane_check.api.app import make_app
from vane_check.core.house.rules import house_rules
from vane_check.core.house.rules.parameter import Parameter
from vane_check.demo import branch, goods, shop
from vane_check.desks import sign_in
from vane_check.records.base import engine_of, sessions_of
from vane_check.records.migrate import migrate
from vane_check.records.roles import APP_ROLE
from vane_check.start.cluster import ADMIN, DATABASE, OWNER, Cluster, free_port
from vane_check.start.command import prepare
from vane_check.start.server import server_on

PINS = {name: pin for name, _, pin in goods.PEOPLE}
LEAD, TEO, NOOR, OWNER_NAME = (name for name, _, _ in goods.PEOPLE)


# The data goes away with the run, so a slow disk need not be waited for.
QUICK = ("fsync=off", "synchronous_commit=off", "full_page_writes=off")


SWIFT = PasswordHasher(time_cost=1, memory_cost=64, parallelism=1)
"""The demo shop's people sign in thousands of times in a run; what a PIN costs to guess has a test of its own."""


BARE, FILLED = "template_bare", "template_filled"
"""Databases that others are copied from: with tables alone, and with the demo shop in them."""


def make_templates(folder: Path) -> None:
    """A data folder with both databases, its server stopped: every worker begins with a copy of it.

    The demo shop of the tests knows no cold months: a flat battery is asked for ice by the date, and tests run all year. And one
    method condemns there: what two make of it is asked of the core.
    """
    made = Cluster(folder, QUICK)
    made.start()
    with psycopg.connect(made.address(ADMIN, "postgres"), autocommit=True) as connection:
        connection.execute(f"create database {BARE} owner {OWNER}")
        migrate(made.address(OWNER, BARE))
        connection.execute(f"create database {FILLED} template {BARE} owner {OWNER}")
    seasonless = house_rules()
    months = seasonless.outlook.cold_months.model_copy(update={"value": ()})
    one_method: dict[str, Parameter[Any]] = {
        "outlook.cold_months": months,
        "decision.methods_to_condemn": seasonless.decision.methods_to_condemn.model_copy(update={"value": 1.0}),
        "rest.to_condemn": seasonless.rest.to_condemn.model_copy(update={"value": "as_said"}),
    }
    seasonless = seasonless.with_parameters(one_method)
    with (
        patch.object(sign_in, "_HASHER", SWIFT),
        patch.object(shop, "house_rules", lambda: seasonless),
        patch.object(branch, "house_rules", lambda: seasonless),
    ):
        prepare(made.address(OWNER, FILLED))
    made.stop()


@cache
def cluster() -> Cluster:
    """This process's own server; of a run of many workers a copy of what one of them prepared."""
    given, templates = os.environ.get("VANE_WORKER"), os.environ.get("VANE_TEMPLATES")
    if given and templates:
        folder = Path(given) / "postgres"
        Cluster(folder).remove()  # of a worker that died here before
        subprocess.run(["cp", "-a", templates, folder], check=True)
    else:
        folder = Path(tempfile.mkdtemp(prefix="vane-tests-", dir="/var/lib" if os.geteuid() == 0 else None))
        folder.chmod(0o755)
        make_templates(folder)
    found = Cluster(folder, QUICK)
    atexit.register(found.remove)
    found.start()
    return found


def filled_server(folder: Path) -> Cluster:
    """A server of its own in the folder, started, with the demo shop in it: for tests that stop or kill theirs."""
    templates = os.environ.get("VANE_TEMPLATES")
    if templates:
        subprocess.run(["cp", "-a", f"{templates}/.", folder], check=True)
    else:
        make_templates(folder)
    found = Cluster(folder)
    found.start()
    with psycopg.connect(found.address(ADMIN, "postgres"), autocommit=True) as connection:
        connection.execute(f"drop database {DATABASE}")
        connection.execute(f"alter database {FILLED} rename to {DATABASE}")
    return found


_made = iter(range(1_000_000))
_engines: list[Engine] = []


def kept(engine: Engine) -> Engine:
    """An engine whose idle connections are let go when the next copy is made: a run has more copies than PostgreSQL connections."""
    _engines.append(engine)
    return engine


@atexit.register
def let_go() -> None:
    """Close the idle connections of every engine so far; one that is used again connects again."""
    for engine in _engines:
        engine.dispose()


def database() -> str:
    """The address of a fresh copy of the demo shop, for the owner of its tables."""
    return copy_of(FILLED)


def empty() -> str:
    """The address of a database that has its tables and no shop in them, for the owner of its tables."""
    return copy_of(BARE)


def copy_of(template: str) -> str:
    """A new database like the template, for the owner of its tables."""
    let_go()
    name = f"copy_{next(_made)}"
    with psycopg.connect(cluster().address(ADMIN, "postgres"), autocommit=True) as connection:
        connection.execute(f"create database {name} template {template} owner {OWNER} strategy file_copy")
        connection.execute(f"revoke temporary on database {name} from public")  # as each start does: a copy has it not
    return cluster().address(OWNER, name)


def as_app(url: str) -> str:
    """The same database for the role the application has."""
    return cluster().address(APP_ROLE, url.rsplit("/", 1)[1])


def sessions(url: str) -> sessionmaker[Session]:
    return sessions_of(kept(engine_of(url, pool_size=2)))


class Client:
    """The API as one person uses it."""

    def __init__(self, app: Any, name: str = TEO) -> None:
        self.http = TestClient(app, base_url=HERE)
        self.sign_in(name, PINS[name])

    def sign_in(self, name: str, pin: str, door: str = "") -> None:
        answer = self.http.get("/api/people", params={"door": door})
        until = time.monotonic() + PATIENT_SECONDS
        while answer.status_code == 503 and time.monotonic() < until:  # told to try again, as a screen does
            time.sleep(float(answer.headers["retry-after"]))
            answer = self.http.get("/api/people", params={"door": door})
        people = answer.json()["people"]
        person = next(one for one in people if one["name"] == name)
        found = self.http.post("/api/sign-in", json={"staff_id": person["id"], "pin": pin})
        self.me = found.json()
        self.http.headers["X-Vane-CSRF"] = self.me["csrf_token"]

    def get(self, path: str, **more: Any) -> Any:
        return self.http.get(f"/api{path}", **more)

    def send(self, method: str, path: str, body: Any, write_id: str = "", **more: Any) -> Any:
        headers = {"Idempotency-Key": write_id or str(uuid.uuid4()), **more.pop("headers", {})}
        return self.http.request(method, f"/api{path}", json=body, headers=headers, **more)


HERE = "http://127.0.0.1:8140"


def app_on(url: str) -> Any:
    """The app on a database of the owner's address, as the role that owns nothing."""
    app = make_app(as_app(url))
    kept(app.state.engine)
    return app


PATIENT_SECONDS = 30.0
"""Tests share their machine: the database is not away because the processor is busy. Its own tests are less patient."""


@contextmanager
def served(
    url: str, port: int = 0, patience_seconds: float = PATIENT_SECONDS, set_up_code: str | None = None
) -> Iterator[str]:
    """The app on loopback, as the start command serves it."""
    port = port or free_port()
    server = server_on(as_app(url), port, log_level="error", patience_seconds=patience_seconds, set_up_code=set_up_code)
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    while not server.started:
        time.sleep(0.02)
    try:
        yield f"http://127.0.0.1:{port}"
    finally:
        server.handle_exit(signal.SIGTERM, None)
        thread.join(10)
