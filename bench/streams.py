"""Two hundred live streams for an hour while somebody works: `python -m bench.streams [--streams 200] [--seconds 3600]`.

Wanted: every stream is told every change, and the server's memory stays flat.
"""

import argparse
import asyncio
import contextlib
import multiprocessing
import random
import sys
import time
from pathlib import Path
from typing import Any

import httpx

from bench.counters import Counter
from bench.house import cluster
from bench.serving import serving

EVERY_SECONDS = 1.0
STILL_THERE_SECONDS = 120
AGAIN_SECONDS = 2
WARM_SHARE = 0.2
MAY_GROW = 1.1
PLACES = ("bench", "ready", "counter", "standing")


def memory_mb(pid: int) -> float:
    """What a process holds in memory [MB]."""
    status = Path(f"/proc/{pid}/status").read_text()
    return int(next(line.split()[1] for line in status.splitlines() if line.startswith("VmRSS"))) / 1000


class Stream(Counter):
    """A screen that nobody works at but that is not left alone."""

    opened = 0

    async def listen(self) -> None:
        """The live stream, opened again where it was refused or cut, as a page does."""
        while True:
            with contextlib.suppress(httpx.HTTPError):  # its line had lain idle and was closed in this very moment
                async with self.http.stream("GET", "/api/events", timeout=None) as stream:
                    if stream.status_code == 200:
                        self.opened += 1
                        async for line in stream.aiter_lines():
                            self.told += line.startswith("data:")
            await asyncio.sleep(AGAIN_SECONDS)

    async def stay(self) -> None:
        """A sign of life now and then, as of somebody who looks on."""
        while True:
            await asyncio.sleep(STILL_THERE_SECONDS)
            await self.ask("still there", "GET", "/me")


async def run(base: str, pid: int, how_many: int, seconds: float) -> tuple[list[float], list[int], int, list[str]]:
    """All streams at once, one who works; the server's memory [MB] by the minute, what each was told, how much there was to tell."""
    errors: list[str] = []
    took: list[tuple[str, float]] = []
    streams = [Stream(base, number, took, errors) for number in range(how_many)]
    for stream in streams:
        await stream.sign_in()
    worker = Counter(base, 0, took, errors)
    await worker.sign_in()
    tasks = [asyncio.create_task(act()) for stream in streams for act in (stream.listen, stream.stay)]
    while not all(stream.opened for stream in streams):
        await asyncio.sleep(0.5)
    before = [stream.told for stream in streams]
    chance, held, wrote = random.Random(1), [memory_mb(pid)], 0
    ends, next_look = time.monotonic() + seconds, time.monotonic() + 60
    while time.monotonic() < ends:
        began = time.monotonic()
        body: dict[str, Any] = {"place": chance.choice(PLACES)}
        wrote += await worker.ask("put", "PUT", f"/batteries/{chance.randrange(171, 176)}/place", body) is not None
        if time.monotonic() >= next_look:
            held.append(memory_mb(pid))
            next_look += 60
            print(f"  {len(held) - 1} min: {held[-1]:.0f} MB", flush=True)
        await asyncio.sleep(max(0.0, EVERY_SECONDS - (time.monotonic() - began)))
    await asyncio.sleep(5)
    told = [stream.told - earlier for stream, earlier in zip(streams, before, strict=True)]
    for task in tasks:
        task.cancel()
    await asyncio.gather(*tasks, return_exceptions=True)
    for screen in (*streams, worker):
        await screen.http.aclose()
    return held, told, wrote, errors


def main() -> int:
    """Run and print. Returns 1 where a stream missed something or memory grew."""
    parser = argparse.ArgumentParser(prog="bench.streams")
    parser.add_argument("--streams", type=int, default=200)
    parser.add_argument("--seconds", type=float, default=3600)
    asked = parser.parse_args()
    with cluster(()) as found, serving(found.app_url) as base:
        pid = next(one.pid for one in multiprocessing.active_children() if one.pid)
        held, told, wrote, errors = asyncio.run(run(base, pid, asked.streams, asked.seconds))
    warm = held[int(len(held) * WARM_SHARE)]
    print(
        f"{asked.streams} streams for {asked.seconds:.0f} s, {wrote} changes; told {min(told)} to {max(told)}; {len(errors)} errors"
    )
    print(
        f"memory {held[0]:.0f} MB at the begin, {warm:.0f} when warm, {held[-1]:.0f} at the end, {max(held):.0f} at most"
    )
    for error in errors[:10]:
        print(f"  {error}")
    return 1 if errors or min(told) < wrote or max(told) != min(told) or held[-1] > warm * MAY_GROW else 0


if __name__ == "__main__":
    sys.exit(main())
