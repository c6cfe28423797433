"""How long POST /api/assess takes with 8 clients at once: `python -m bench.api http://127.0.0.1:8140` on the demo shop."""

import json
import statistics
import sys
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import httpx

from vane_check.demo import goods

EXAMPLE = Path(__file__).parents[1] / "docs" / "formats" / "example.json"
CLIENTS, EACH = 8, 150


def one_client(base: str) -> list[float]:
    name, _, pin = goods.PEOPLE[0]
    body = json.loads(EXAMPLE.read_text())
    took = []
    with httpx.Client(base_url=base) as http:
        person = next(one for one in http.get("/api/people").json() if one["name"] == name)
        me = http.post("/api/sign-in", json={"staff_id": person["id"], "pin": pin}).json()
        headers = {"X-Vane-CSRF": me["csrf_token"]}
        for _ in range(EACH):
            began = time.perf_counter()
            http.post("/api/assess", json=body, headers=headers).raise_for_status()
            took.append((time.perf_counter() - began) * 1000)
    return took


def main() -> None:
    base = sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8140"
    began = time.perf_counter()
    with ThreadPoolExecutor(CLIENTS) as pool:
        took = sorted(ms for each in pool.map(one_client, [base] * CLIENTS) for ms in each)
    seconds = time.perf_counter() - began
    p95 = took[int(len(took) * 0.95)]
    print(
        f"{CLIENTS} clients: median {statistics.median(took):.1f} ms, p95 {p95:.1f} ms, {len(took) / seconds:.0f} a second"
    )


if __name__ == "__main__":
    main()
