"""SIGKILL in mid work: four writers go on while the application or its database is killed again and again.

`python -m bench.kill [--kills 200]`. Every write that was acknowledged is there, once and whole; one that was not may be sent
again under its name, and is then there once.
"""

import argparse
import multiprocessing
import os
import random
import signal
import socket
import sys
import threading
import time
import uuid
from datetime import UTC, datetime
from typing import Any

import httpx
import psycopg

from bench.house import cluster
from bench.serving import signed_in
from vane_check.start.cluster import CannotStart, Cluster
from vane_check.start.web import serve

WRITERS = 4
FIRST_WRITE_SECONDS = 60


class Writer(threading.Thread):
    """Takes batteries in and keeps readings; what it was told is kept, it writes down. Unanswered writes are sent again."""

    def __init__(self, base: str, number: int) -> None:
        super().__init__(daemon=True)
        self.base, self.chance = base, random.Random(number)
        self.acknowledged: dict[str, tuple[str, int]] = {}
        self.stop = threading.Event()
        self.refused: list[str] = []

    def run(self) -> None:
        """Until told to stop."""
        with httpx.Client(base_url=self.base, timeout=5) as http:
            self._again(lambda: signed_in(http))
            while not self.stop.is_set():
                tag = self._write(
                    http, "take-in", "/api/batteries", {"context": {"came_in": "carried_in"}, "customer_name": "W"}
                )
                for _ in range(self.chance.randrange(1, 4)):
                    name = str(uuid.uuid4())
                    body = {"id": name, "kind": "rest_volts", "volts": 12.5, "taken_at": datetime.now(UTC).isoformat()}
                    if tag:
                        self._write(http, "reading", f"/api/batteries/{tag}/readings", body, name)

    def _write(self, http: httpx.Client, what: str, path: str, body: Any, name: str = "") -> int:
        name = name or str(uuid.uuid4())
        answer = self._again(lambda: self._sent(http, path, body, name))
        if answer is None:
            return 0
        if answer.status_code != 201:
            self.refused.append(f"{answer.status_code} {answer.text[:150]}")
            return 0
        tag = int(answer.json()["tag"])
        self.acknowledged[name] = (what, tag)
        return tag

    @staticmethod
    def _sent(http: httpx.Client, path: str, body: Any, name: str) -> httpx.Response:
        answer = http.post(path, json=body, headers={"Idempotency-Key": name})
        if answer.status_code in {500, 503}:
            raise httpx.ReadError(f"{answer.status_code}")
        return answer

    def _again(self, act: Any) -> Any:
        while not self.stop.is_set():
            try:
                return act()
            except (httpx.HTTPError, KeyError, StopIteration):
                time.sleep(0.05)
        return None


def _start(app_url: str, listening: socket.socket) -> Any:
    process = multiprocessing.get_context("fork").Process(target=serve, args=(app_url, listening))
    process.start()
    return process


def run(found: Cluster, kills: int, seed: int) -> tuple[int, list[str]]:
    """Kill so often; returns how many writes were acknowledged, and what is wrong."""
    chance = random.Random(seed)
    listening = socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
    listening.bind(("127.0.0.1", 0))
    listening.listen(256)
    base = f"http://127.0.0.1:{listening.getsockname()[1]}"
    process = _start(found.app_url, listening)
    writers = [Writer(base, number) for number in range(WRITERS)]
    for writer in writers:
        writer.start()
    began = time.monotonic()
    while not any(writer.acknowledged for writer in writers) and time.monotonic() - began < FIRST_WRITE_SECONDS:
        time.sleep(0.1)  # a busy machine starts slowly: what is killed before it wrote proves nothing
    for _ in range(kills):
        time.sleep(chance.uniform(0.2, 2.4))
        if chance.random() < 0.6:
            os.kill(process.pid, signal.SIGKILL)
            process.join()
            process = _start(found.app_url, listening)
        elif (pid := found.pid()) is not None:
            os.kill(pid, signal.SIGKILL)
            for _ in range(100):
                try:
                    found.start_again()
                    break
                except CannotStart:
                    time.sleep(0.1)
    time.sleep(1.5)
    for writer in writers:
        writer.stop.set()
    for writer in writers:
        writer.join(20)
    process.terminate()
    process.join(10)
    listening.close()
    wrong = [fault for writer in writers for fault in writer.refused]
    return sum(len(writer.acknowledged) for writer in writers), wrong + _compare(found.url, writers)


def _compare(url: str, writers: list[Writer]) -> list[str]:
    wrong = []
    with psycopg.connect(url) as connection:
        tags: dict[str, int] = dict(connection.execute("select write_id::text, tag from writes").fetchall())
        readings: dict[str, int] = dict(
            connection.execute(
                "select r.reading_uuid::text, b.tag from readings r join checks c on c.id = r.check_id join batteries b on b.id = c.battery_id"
            ).fetchall()
        )
        for writer in writers:
            for name, (what, tag) in writer.acknowledged.items():
                kept = (tags if what == "take-in" else readings).get(name)
                if kept != tag:
                    wrong.append(f"{what} {name} was acknowledged as {tag} and is {kept}")
        for asked, said in (
            ("select count(*) from (select tag from batteries group by store_id, tag having count(*) > 1) t", "tags given twice"),
            ("select count(*) from batteries b where not exists (select from checks c where c.battery_id = b.id)", "batteries without a check"),
            ("select count(*) from checks c where not exists (select from take_in_entries t where t.check_id = c.id)", "checks without a take-in"),
            ("select count(*) from readings r where not exists (select from judgements j where j.check_id = r.check_id)", "readings never judged"),
            ("select count(*) from batteries b where not exists (select from writes w where w.tag = b.tag) and b.tag > 197", "batteries half taken in"),
        ):  # fmt: skip
            row = connection.execute(asked).fetchone()
            if row and row[0]:
                wrong.append(f"{row[0]} {said}")
    return wrong


def main() -> int:
    """Kill, compare, print."""
    parser = argparse.ArgumentParser(prog="bench.kill")
    parser.add_argument("--kills", type=int, default=200)
    asked = parser.parse_args()
    with cluster(()) as found:
        began = time.monotonic()
        acknowledged, wrong = run(found, asked.kills, 20261125)
        print(
            f"{asked.kills} kills in {time.monotonic() - began:.0f} s, {acknowledged} writes acknowledged, {len(wrong)} wrong"
        )
        for fault in wrong[:20]:
            print(f"  {fault}")
    return 1 if wrong or not acknowledged else 0


if __name__ == "__main__":
    sys.exit(main())
