"""How long the API takes in a house a hundred times the size: `python -m bench.size` builds it and prints p50, p95 and plans.

Asked through the whole of it: HTTP, session, row-level security, JSON. One client after another, as a counter asks.
"""

import argparse
import statistics
import sys
import time
import uuid
from typing import Any

import httpx
import psycopg

from bench.house import build, cluster
from bench.serving import serving, signed_in

WANTED_MS = {"shelf": 50, "records": 50, "records, page 15": 50, "search": 50, "check": 30, "match": 100, "keep": 100}
EACH = 60


def times(ask: Any) -> list[float]:
    """Milliseconds of each asking, after a few that warm up."""
    took = []
    for number in range(EACH + 5):
        began = time.perf_counter()
        ask(number).raise_for_status()
        if number >= 5:
            took.append((time.perf_counter() - began) * 1000)
    return sorted(took)


def main() -> int:
    """Build, ask, print. Returns 1 when something takes longer than wanted."""
    parser = argparse.ArgumentParser(prog="bench.size")
    parser.add_argument("--checks", type=int, default=200_000)
    parser.add_argument("--items", type=int, default=100_000)
    asked = parser.parse_args()
    slow = False
    with cluster() as found:
        began = time.perf_counter()
        build(found.url, items=asked.items, checks=asked.checks)
        print(
            f"{asked.items} items, {asked.checks} checks, {2 * asked.checks} judgements built in {time.perf_counter() - began:.0f} s",
            flush=True,
        )
        with serving(found.app_url) as base, httpx.Client(base_url=base, timeout=60) as http:
            signed_in(http)
            last = 10_000 + asked.checks

            def reading(number: int) -> httpx.Response:
                from datetime import UTC, datetime

                body = {
                    "id": str(uuid.uuid4()),
                    "kind": "rest_volts",
                    "volts": 12.6,
                    "taken_at": datetime.now(UTC).isoformat(),
                }
                return http.post(f"/api/batteries/{last - number}/readings", json=body)

            hits = ("merlow", "quellan mat", "sn00", "customer a", "0555 01", "make 7", "tillet", "200")
            none = ("zzzzqq", "no such thing", "9x9x9x9")
            asks: dict[str, Any] = {
                "shelf": lambda _: http.get("/api/shelf"),
                "records": lambda _: http.get("/api/checks"),
                "records, page 15": lambda _: http.get("/api/checks", params={"page": 15}),
                "search": lambda n: http.get("/api/checks", params={"text": hits[n % len(hits)]}),
                "search without a hit": lambda n: http.get("/api/checks", params={"text": none[n % len(none)]}),
                "check": lambda n: http.get(f"/api/batteries/{10_001 + (n * 3301) % asked.checks}"),
                "match": lambda n: http.get(f"/api/vehicles/{1 + n % 30}/match"),
                "match of a battery": lambda n: http.get(f"/api/batteries/{10_001 + n * 7}/match"),
                "warranty": lambda n: http.get(f"/api/batteries/{10_001 + n * 7}/warranty"),
                "reference": lambda _: http.get("/api/reference"),
                "cars by what is typed": lambda n: http.get("/api/vehicles", params={"text": f"model {n}"}),
                "keep a reading": reading,
            }
            for name, ask in asks.items():
                took = times(ask)
                p95 = took[int(len(took) * 0.95)]
                size = len(ask(1).content)
                wanted = next((limit for start, limit in WANTED_MS.items() if name.startswith(start)), None)
                missed = (wanted is not None and p95 > wanted) or size > 1_000_000
                slow |= missed
                print(
                    f"{name:24} p50 {statistics.median(took):6.1f} ms  p95 {p95:6.1f} ms  {size / 1000:7.1f} kB{'  SLOW' if missed else ''}",
                    flush=True,
                )
        _plans(found.url)
    return 1 if slow else 0


def _plans(url: str) -> None:
    """How PostgreSQL finds what is asked for most."""
    with psycopg.connect(url) as connection:
        for name, statement in (
            (
                "shelf",
                "select b.id, j.outcome from batteries b left join lateral (select id from checks c where c.battery_id = b.id order by id desc limit 1) c on true left join lateral (select outcome from judgements j where j.check_id = c.id order by id desc limit 1) j on true where b.store_id = 1 and b.place <> 'gone'",
            ),
            ("search", "select id from batteries where search_text like '%sn00ab%' limit 1001"),
            (
                "fit",
                "select * from catalogue_items where store_id = 1 and group_code in ('47', 'LN2') and cca_amps >= 560 order by price_cents limit 60",
            ),
        ):
            print(f"\n{name}")
            for (line,) in connection.execute(f"explain (analyze, costs off, timing off) {statement}").fetchall():
                print(f"  {line}")


if __name__ == "__main__":
    sys.exit(main())
