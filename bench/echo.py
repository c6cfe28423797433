"""POST /api/assess against a bare FastAPI echo of the same models in the same run: `python -m bench.echo`.

The echo reads a check file and answers a judgement made beforehand; nothing else. Wanted: assess at half its rate at least.
"""

import json
import multiprocessing
import socket
import sys
import time
from pathlib import Path
from typing import Any

import httpx
import uvicorn
from fastapi import FastAPI

from bench.house import cluster
from bench.serving import serving, signed_in
from vane_check.core.house.rules import house_rules
from vane_check.core.judging.judgement import Judgement, assess
from vane_check.core.readings.check import CheckFile, parse_check

FORMATS = Path(__file__).parents[1] / "docs" / "formats"
SECONDS = 5.0
CLIENTS = 4


def echo(listening: socket.socket, text: bytes) -> None:
    """Serve the echo in this process."""
    made = assess(parse_check(text), house_rules())
    app = FastAPI()

    @app.post("/api/assess")
    async def same(body: CheckFile) -> Judgement:
        return made

    uvicorn.Server(uvicorn.Config(app, log_level="error", access_log=False)).run(sockets=[listening])


def _ask(base: str, text: bytes, headers: dict[str, str], cookies: dict[str, str], told: Any) -> None:
    count, ends = 0, time.perf_counter() + SECONDS
    with httpx.Client(base_url=base, headers={"Content-Type": "application/json", **headers}, cookies=cookies) as http:
        while time.perf_counter() < ends:
            http.post("/api/assess", content=text).raise_for_status()
            count += 1
    told.put(count)


def rate(base: str, text: bytes, headers: dict[str, str], cookies: dict[str, str]) -> float:
    """Answers a second with a few clients, each in a process of its own."""
    forked = multiprocessing.get_context("fork")
    told = forked.Queue()
    asking = [forked.Process(target=_ask, args=(base, text, headers, cookies, told)) for _ in range(CLIENTS)]
    for one in asking:
        one.start()
    total: float = sum(told.get(timeout=60) for _ in asking)
    for one in asking:
        one.join()
    return total / SECONDS


def main() -> int:
    """Three readings and eleven; each served after the other, twice."""
    worst = 1.0
    with cluster() as found, serving(found.app_url) as base:
        with httpx.Client(base_url=base) as http:
            signed_in(http)
            headers, cookies = {"X-Vane-CSRF": http.headers["X-Vane-CSRF"]}, dict(http.cookies)
        for name in ("example.json", "example-full.json"):
            text = (FORMATS / name).read_bytes()
            listening = socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
            listening.bind(("127.0.0.1", 0))
            listening.listen(64)
            process = multiprocessing.get_context("fork").Process(target=echo, args=(listening, text), daemon=True)
            process.start()
            there = f"http://127.0.0.1:{listening.getsockname()[1]}"
            time.sleep(1)
            rates = {"echo": 0.0, "assess": 0.0}
            for _ in range(2):
                rates["echo"] = max(rates["echo"], rate(there, text, {}, {}))
                rates["assess"] = max(rates["assess"], rate(base, text, headers, cookies))
            process.terminate()
            listening.close()
            share = rates["assess"] / rates["echo"]
            worst = min(worst, share)
            readings = len(json.loads(text)["readings"])
            print(
                f"{readings:2} readings: echo {rates['echo']:.0f} a second, assess {rates['assess']:.0f}, {share:.2f} of it",
                flush=True,
            )
    return 0 if worst >= 0.5 else 1


if __name__ == "__main__":
    sys.exit(main())
