"""What a match takes with a hundred thousand items, and what bringing them in takes: `python -m bench.match`.

The catalogue is brought in by the product's own import, against a bare COPY into the same table. Then requirements of many
kinds are asked over HTTP (session, row-level security, JSON and all) and as the bare SQL alone, and the plan is shown.
"""

import argparse
import io
import random
import statistics
import sys
import time
import uuid
from datetime import UTC, datetime
from typing import Any

import httpx
import psycopg
from sqlalchemy import text

from bench.house import cluster
from bench.serving import serving, signed_in
from vane_check.core.matching import Requirement, bounds_of
from vane_check.core.rules import house_rules
from vane_check.core.tables import footprints
from vane_check.records import fit
from vane_check.records.base import StoreSession, engine_of, sessions_of
from vane_check.records.importing import INTO
from vane_check.start.__main__ import prepare

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


def p95(took: list[float]) -> float:
    """The slowest but one in twenty."""
    return sorted(took)[int(len(took) * 0.95)]


def main() -> int:
    """Bring in, ask, print. Returns 1 when something is slower than wanted."""
    parser = argparse.ArgumentParser(prog="bench.match")
    parser.add_argument("--items", type=int, default=100_000)
    parser.add_argument("--asks", type=int, default=200)
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
                owner.execute("vacuum analyze")  # the copy was thrown away, its dead rows with it
            bodies = requirements(asked.asks)
            for name, path in (("match", "/api/match"), ("why the others do not fit", "/api/match/others")):
                took = []
                for number, body in enumerate([*bodies[:10], *bodies]):
                    began = time.perf_counter()
                    http.post(path, json={"requirement": body}).raise_for_status()
                    if number >= 10:
                        took.append((time.perf_counter() - began) * 1000)
                print(f"{name:28} p50 {statistics.median(took):6.1f} ms  p95 {p95(took):6.1f} ms", flush=True)
                if path == "/api/match":
                    at_api = took
        bare = by_sql(found.app_url, bodies)
        print(f"{'its SQL alone':28} p50 {statistics.median(bare):6.1f} ms  p95 {p95(bare):6.1f} ms")
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
                session.bind_to(1)
                began = time.perf_counter()
                told = {**fit.parameters(bounds), "store": 1, "at_most": 15, "misses": 5}
                session.execute(text(fit.statement_for(bounds)), told).all()
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
        asked = text("explain (analyze, costs off, timing off) " + fit.statement_for(bounds))
        for (line,) in connection.execute(asked, told):
            print(f"  {line}")
    engine.dispose()


if __name__ == "__main__":
    sys.exit(main())
