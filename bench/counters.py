"""Fifty counters: each with its live stream, each doing something every ten seconds: `python -m bench.counters [--seconds 600]`.

Wanted: p95 under 300 ms, no error, and nothing left hanging after the last one has gone.
"""

import argparse
import asyncio
import random
import statistics
import sys
import time
import uuid
from datetime import UTC, datetime
from typing import Any

import httpx
import psycopg

from bench.house import cluster
from bench.serving import serving
from vane_check.demo import goods

WANTED_MS = 300
TAGS = range(171, 188)


class Counter:
    """One screen."""

    def __init__(self, base: str, number: int, took: list[tuple[str, float]], errors: list[str]) -> None:
        self.http = httpx.AsyncClient(base_url=base, timeout=30)
        self.chance, self.took, self.errors, self.told = random.Random(number), took, errors, 0
        self.number = number

    async def ask(self, what: str, method: str, path: str, body: Any = None) -> Any:
        """One request, timed; anything but a 2xx is an error."""
        began = time.perf_counter()
        headers = {"Idempotency-Key": str(uuid.uuid4())}
        try:
            answer = await self.http.request(method, f"/api{path}", json=body, headers=headers)
        except httpx.HTTPError as error:
            self.errors.append(f"{what}: {type(error).__name__}")
            return None
        self.took.append((what, (time.perf_counter() - began) * 1000))
        if not answer.is_success:
            self.errors.append(f"{what}: {answer.status_code} {answer.text[:120]}")
            return None
        return answer.json()

    async def sign_in(self) -> None:
        """As one of the shop's people."""
        name, _, pin = goods.PEOPLE[self.number % len(goods.PEOPLE)]
        people = (await self.http.get("/api/people")).json()["people"]
        person = next(one["id"] for one in people if one["name"] == name)
        me = await self.http.post("/api/sign-in", json={"staff_id": person, "pin": pin})
        me.raise_for_status()
        self.http.headers["X-Vane-CSRF"] = me.json()["csrf_token"]

    async def listen(self) -> None:
        """The live stream, for as long as the screen is there."""
        async with self.http.stream("GET", "/api/events", timeout=None) as stream:
            async for line in stream.aiter_lines():
                self.told += line.startswith("data:")

    async def work(self, ends: float) -> None:
        """Something every ten seconds, as a page does it: look, type, keep, put."""
        await asyncio.sleep(self.chance.uniform(0, 10))
        while time.monotonic() < ends:
            began, tag = time.monotonic(), self.chance.choice(TAGS)
            view = await self.ask("open", "GET", f"/batteries/{tag}")
            does = self.chance.random()
            if view and does < 0.6:
                reading = {
                    "kind": "rest_volts",
                    "volts": round(self.chance.uniform(12, 12.8), 2),
                    "taken_at": datetime.now(UTC).isoformat(),
                }
                check = {
                    "format": "vane-check/1",
                    "battery": view["battery"],
                    "context": view["context"],
                    "readings": [reading],
                }
                for _ in range(4):
                    await self.ask("assess", "POST", "/assess", check)
                await self.ask("keep", "POST", f"/batteries/{tag}/readings", {**reading, "id": str(uuid.uuid4())})
            elif does < 0.8:
                await self.ask(
                    "put",
                    "PUT",
                    f"/batteries/{tag}/place",
                    {"place": self.chance.choice(("bench", "ready", "counter"))},
                )
            elif does < 0.9:
                await self.ask("records", "GET", "/checks")
            else:
                await self.ask("match", "GET", f"/batteries/{tag}/match")
            await asyncio.sleep(max(0, 10 - (time.monotonic() - began)))


async def run(base: str, how_many: int, seconds: float) -> tuple[list[tuple[str, float]], list[str], int]:
    """All of them at once."""
    took: list[tuple[str, float]] = []
    errors: list[str] = []
    screens = [Counter(base, number, took, errors) for number in range(how_many)]
    for screen in screens:
        await screen.sign_in()
    listening = [asyncio.create_task(screen.listen()) for screen in screens]
    ends = time.monotonic() + seconds
    await asyncio.gather(*(screen.work(ends) for screen in screens))
    for task in listening:
        task.cancel()
    await asyncio.gather(*listening, return_exceptions=True)
    for screen in screens:
        await screen.http.aclose()
    return took, errors, sum(screen.told for screen in screens)


def main() -> int:
    """Run and print. Returns 1 for an error, a slow answer or something left hanging."""
    parser = argparse.ArgumentParser(prog="bench.counters")
    parser.add_argument("--counters", type=int, default=50)
    parser.add_argument("--seconds", type=float, default=600)
    asked = parser.parse_args()
    with cluster(()) as found, serving(found.app_url) as base:
        took, errors, told = asyncio.run(run(base, asked.counters, asked.seconds))
        time.sleep(2)
        began = time.perf_counter()
        quiet = httpx.get(f"{base}/api/people").status_code == 200 and time.perf_counter() - began < 1
        with psycopg.connect(found.address("vane", "postgres")) as connection:
            left = connection.execute(
                "select count(*) from pg_stat_activity where datname = 'vane_check' and state like '%transaction%'"
            ).fetchone()
    everything = sorted(ms for _, ms in took)
    for what in sorted({what for what, _ in took}):
        each = sorted(ms for name, ms in took if name == what)
        print(
            f"{what:8} {len(each):6} p50 {statistics.median(each):6.1f} ms  p95 {each[int(len(each) * 0.95)]:6.1f} ms"
        )
    p95 = everything[int(len(everything) * 0.95)]
    print(
        f"{asked.counters} counters, {asked.seconds:.0f} s: {len(everything)} requests, p95 {p95:.1f} ms, {told} changes told, {len(errors)} errors"
    )
    print(
        f"after the last has gone: answers {'at once' if quiet else 'SLOWLY'}, {left[0] if left else '?'} transactions open"
    )
    for error in errors[:10]:
        print(f"  {error}")
    return 1 if errors or p95 > WANTED_MS or not quiet or not left or left[0] else 0


if __name__ == "__main__":
    sys.exit(main())
