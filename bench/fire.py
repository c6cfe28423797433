"""Under fire: writers of every kind go on while servers, databases, backups and restores are killed, and the database is away.

`python -m bench.fire [--kills 300] [--away-seconds 300]`. Readings, sales, claims, sends between stores and lists are written; a
backup and a restore into a second database go on beside. Every write that was acknowledged is there, once and whole; every archive
in the folder can be read; the second database is always one archive or another, whole.
"""

import argparse
import multiprocessing
import os
import random
import shutil
import signal
import socket
import sys
import tempfile
import threading
import time
import uuid
from collections import Counter
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import httpx
import psycopg
from psycopg import sql

from bench.house import cluster
from bench.kill import _start
from bench.serving import signed_in
from vane_check.records.migrate import CannotMigrate
from vane_check.start.backup import CannotBackUp, back_up, row_counts, unpacked
from vane_check.start.cluster import ADMIN, OWNER, CannotStart, Cluster
from vane_check.start.restore import restore

SECOND = "second"
TRIES_A_STEP = 400
PATIENCE_SECONDS = 30.0


class Gone(Exception):
    """Told to stop."""


class Work(threading.Thread):
    """One who writes: what was acknowledged stands in `done`, what was refused for good in `refused`."""

    def __init__(self, base: str, number: int) -> None:
        super().__init__(daemon=True)
        self.base, self.number = base, number
        self.done: list[tuple[str, Any]] = []
        self.refused: list[str] = []
        self.stop = threading.Event()
        self.longest = 0.0

    def run(self) -> None:
        """Until told to stop."""
        with httpx.Client(base_url=self.base, timeout=8) as self.http:
            try:
                self.surely(lambda: signed_in(self.http, 3))  # the owner works in both stores
                while not self.stop.is_set():
                    self.once()
            except Gone:
                pass

    def once(self) -> None:
        """One piece of work."""
        raise NotImplementedError

    def surely(self, act: Callable[[], Any]) -> Any:
        """Again until it was answered, whatever dies meanwhile."""
        began = time.monotonic()
        while not self.stop.is_set():
            try:
                found = act()
                self.longest = max(self.longest, time.monotonic() - began)
                return found
            except (httpx.HTTPError, KeyError, StopIteration, ValueError):
                time.sleep(0.05)
        raise Gone

    def post(self, path: str, body: Any = None, content: bytes | None = None) -> Any:
        """A write under one name; sent again under it until it is answered. None where it was refused."""
        name = str(uuid.uuid4())

        def send() -> httpx.Response:
            headers = {"Idempotency-Key": name}
            more: dict[str, Any] = {"json": body} if content is None else {"content": content}
            answer = self.http.post(f"/api{path}", headers=headers, **more)
            if answer.status_code >= 500:
                raise httpx.ReadError(str(answer.status_code))
            return answer

        answer = self.surely(send)
        if answer.status_code >= 300:
            self.refused.append(f"{path.split('?')[0]}: {answer.status_code} {answer.text[:160]}")
            return None
        return answer.json()

    def get(self, path: str) -> Any:
        """What is there now."""

        def ask() -> Any:
            answer = self.http.get(f"/api{path}")
            answer.raise_for_status()
            return answer.json()

        return self.surely(ask)

    def taken_in(self, **label: Any) -> int:
        """The tag of a battery taken in now."""
        bought = (datetime.now(UTC) - timedelta(days=100)).date().isoformat()
        battery = {"line": "Merlow Plain", "rating": {"amps": 640}, "group_code": "48", **label}
        context = {"came_in": "carried_in", "complaint": "slow_crank", "use": "private"}
        return int(self.post("/batteries", {"battery": battery, "context": context, "sold_on": bought})["tag"])

    def read(self, tag: int, kind: str, **body: Any) -> str:
        """A reading kept; its name."""
        name = str(uuid.uuid4())
        at = datetime.now(UTC).isoformat()
        self.post(f"/batteries/{tag}/readings", {"id": name, "kind": kind, "taken_at": at, **body})
        return name


class Reads(Work):
    """Batteries and readings."""

    def once(self) -> None:
        """One battery, three readings."""
        tag = self.taken_in()
        for volts in (12.4, 12.5, 12.6):
            self.done.append(("reading", self.read(tag, "rest_volts", volts=volts)))


class Sells(Work):
    """Goods received, sold and claimed."""

    def once(self) -> None:
        """Three pieces in, one sold, one battery claimed with a replacement."""
        item = self.get("/goods?text=Merlow Plain 48 640")["items"][0]["id"]
        self.post("/goods/receive", {"item_id": item, "pieces": 3, "volts": 12.8})
        serial = uuid.uuid4().hex[:12]
        if sold := self.post("/sales", {"item_id": item, "volts": 12.8, "serial": serial}):
            self.done.append(("sale", (sold["tag"], serial)))
        tag = self.taken_in(serial=f"C{serial}")
        self.read(tag, "look")
        self.read(tag, "rest_volts", volts=12.64)
        self.read(tag, "electronic_tester", measured_cca_amps=300, type_set="flooded")
        if self.post(f"/batteries/{tag}/claim", {"replacement_id": item}):
            self.done.append(("claim", f"C{serial}".upper()))


class Sends(Work):
    """Batteries that go to the other store and are called back or arrive there."""

    def once(self) -> None:
        """One battery on its way, and called back."""
        other = next(one["id"] for one in self.get("/stores")["stores"] if one["id"] != 1)
        tag = self.taken_in()
        if self.post("/stores/sends", {"to_store_id": other, "tag": tag}):
            self.done.append(("send", tag))
            going = [one for one in self.get("/stores")["on_the_way"] if one.get("tag") == tag]
            if going and self.number % 2 and self.post(f"/stores/sends/{going[0]['id']}/called-back", {}):
                self.done.append(("called back", tag))


class Brings(Work):
    """Lists brought in."""

    def once(self) -> None:
        """A list of 300 items, looked at and kept, all or none of it."""
        mark = uuid.uuid4().hex[:8]
        rows = "\n".join(f"{mark} {n};Fire;LN3;{600 + n % 90};99" for n in range(300))
        sent = self.post("/imports?kind=items", content=f"Name;Line;Size;Rating;Price\n{rows}".encode())
        run = self._until(sent, "sent")
        for path, body, state in (("check", {"mapping": run and run["mapping"]}, "checked"), ("keep", {}, "kept")):
            if run is None or self.post(f"/imports/{run['id']}/{path}", body) is None:
                self.refused.pop() if run else None  # a server that died at it: it is begun anew, as a person would
                self.done.append(("begun", mark))
                return
            run = self._until(run, state)
        if run is not None:
            self.done.append(("list", mark))

    def _until(self, run: Any, state: str) -> Any:
        for _ in range(TRIES_A_STEP):
            found = self.get(f"/imports/{run['id']}") if run else None
            if found is None or found["state"] == "failed":
                return None
            if found["state"] == state:
                return found
            if self.stop.wait(0.1):
                raise Gone
        return None


def _again_and_again(act: Callable[[], object]) -> None:
    """In a process of its own, to be killed at any moment."""
    os.setsid()
    while True:
        try:
            act()
        except (CannotBackUp, CannotMigrate, CannotStart, psycopg.Error, OSError):
            time.sleep(0.3)


def _restore_newest(folder: Path, url: str, spare: Path) -> None:
    archives = sorted(folder.glob("vane-check-*.zip"))
    if not archives:
        raise OSError("none yet")
    one = spare / "one.zip"
    shutil.copy(archives[-1], one)
    restore(url, one, replace=True, folder=spare)


class Fire:
    """What is killed, how often, and what was there to be killed."""

    def __init__(self, found: Cluster, folder: Path, seed: int) -> None:
        self.found, self.folder, self.chance = found, folder, random.Random(seed)
        self.killed: Counter[str] = Counter()
        with psycopg.connect(found.address(ADMIN, "postgres"), autocommit=True) as connection:
            connection.execute(f"create database {SECOND} owner {OWNER}")
        self.second = found.address(OWNER, SECOND)
        self.spare = folder / "spare"
        self.spare.mkdir()
        self.listening = socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
        self.listening.bind(("127.0.0.1", 0))
        self.listening.listen(256)
        self.base = f"http://127.0.0.1:{self.listening.getsockname()[1]}"
        self.context = multiprocessing.get_context("fork")
        self.server = _start(found.app_url, self.listening)
        self.beside: dict[str, Any] = {}
        self.keep_beside()

    def keep_beside(self) -> None:
        """A backup and a restore go on."""
        for name, act in (
            ("backup", lambda: back_up(self.found.url, self.folder)),
            ("restore", lambda: _restore_newest(self.folder, self.second, self.spare)),
        ):
            if name not in self.beside or not self.beside[name].is_alive():
                self.beside[name] = self.context.Process(target=_again_and_again, args=(act,), daemon=True)
                self.beside[name].start()

    def kill(self) -> None:
        """One of them, and start it again."""
        what = self.chance.choices(("server", "database", "backup", "restore"), (5, 3, 1, 1))[0]
        self.killed[what] += 1
        if what == "server":
            os.kill(self.server.pid, signal.SIGKILL)
            self.server.join()
            self.server = _start(self.found.app_url, self.listening)
        elif what == "database":
            if (pid := self.found.pid()) is not None:
                os.kill(pid, signal.SIGKILL)
            self.database_again()
        else:
            os.killpg(self.beside[what].pid, signal.SIGKILL)
            self.beside[what].join()
            self.keep_beside()

    def database_again(self) -> None:
        """Start it where it was."""
        for _ in range(200):
            try:
                self.found.start_again()
                return
            except CannotStart:
                time.sleep(0.1)

    def away(self, seconds: float) -> str:
        """The database is stopped for so long; what the server says meanwhile."""
        self.found.stop()
        began, said = time.monotonic(), Counter[str]()
        with httpx.Client(base_url=self.base, timeout=10) as http:
            while time.monotonic() - began < seconds:
                for path in ("/api/health", "/api/ready", "/api/shelf"):
                    try:
                        said[f"{path} {http.get(path).status_code}"] += 1
                    except httpx.HTTPError as error:
                        said[f"{path} {type(error).__name__}"] += 1
                time.sleep(1)
        self.database_again()
        return ", ".join(f"{what} x {times}" for what, times in sorted(said.items()))

    def end(self) -> None:
        """Nobody goes on."""
        for one in self.beside.values():
            os.killpg(one.pid, signal.SIGKILL)
            one.join()
        self.server.terminate()
        self.server.join(20)
        self.listening.close()


def wrong_with(url: str, workers: list[Work]) -> list[str]:
    """What was acknowledged and is not there, or is there twice or by half."""
    wrong = []
    with psycopg.connect(url) as connection:

        def every(asked: str) -> Counter[Any]:
            return Counter(row[0] if len(row) == 1 else tuple(row) for row in connection.execute(asked))

        there = {
            "reading": every("select reading_uuid::text from readings"),
            "sale": every("select b.tag, b.serial from sales s join batteries b on b.id = s.battery_id"),
            "claim": every("select serial_key from claims"),
            "send": every("select tag from transfers where tag is not null"),
            "called back": every("select tag from transfers where state = 'called_back' and tag is not null"),
            "list": every("select split_part(name, ' ', 1) from catalogue_items where line = 'Fire' group by 1, store_id having count(*) = 300"),
        }  # fmt: skip
        for worker in workers:
            for what, name in worker.done:
                if what in there and there[what][name] < 1:
                    wrong.append(f"{what} {name} was acknowledged and is not there")
        wrong += [f"{name} stands {times} times among the sales" for name, times in there["sale"].items() if times > 1]
        wrong += [f"{name} was claimed {times} times" for name, times in there["claim"].items() if times > 1 and name]
        for asked, said in (
            ("select count(*) from (select piece_id from sales group by piece_id having count(*) > 1) t", "pieces sold twice"),
            ("select count(*) from sales s join stock_pieces p on p.id = s.piece_id where p.sold_on is null", "sold and still in stock"),
            ("select count(*) from (select tag, store_id from batteries group by 1, 2 having count(*) > 1) t", "tags given twice"),
            ("select count(*) from checks c where not exists (select from take_in_entries t where t.check_id = c.id)", "checks without a take-in"),
            ("select count(*) from readings r where not exists (select from judgements j where j.check_id = r.check_id)", "readings never judged"),
            ("select count(*) from (select split_part(name, ' ', 1) from catalogue_items where line = 'Fire' group by 1, store_id having count(*) <> 300) t", "lists kept by half"),
            ("select count(*) from incoming_rows", "rows of lists left on their way"),
        ):  # fmt: skip
            row = connection.execute(asked).fetchone()
            if row and row[0]:
                wrong.append(f"{row[0]} {said}")
    return wrong


def wrong_with_archives(folder: Path, second: str) -> tuple[int, list[str]]:
    """How many archives there are, and what is wrong with them or with the database they were put into."""
    wrong, counts = [], []
    archives = sorted(folder.glob("vane-check-*.zip")) + sorted((folder / "spare").glob("*.zip"))
    for path in archives:
        with tempfile.TemporaryDirectory() as scratch:
            try:
                counts.append(unpacked(path, Path(scratch))["rows"])
            except CannotBackUp as error:
                if path.name != "one.zip":  # a copy that was cut as it was made is no archive
                    wrong.append(str(error))
    with psycopg.connect(second) as connection:
        rows = row_counts(connection)
        evidence = {name: rows[name] for name in ("readings", "judgements", "sales", "claims") if name in rows}
        if rows and not any(evidence.items() <= one.items() for one in counts):
            wrong.append(f"the second database is none of the {len(counts)} archives: {evidence}")
        connection.execute(sql.SQL("select 1"))
    return len(archives), wrong


def main() -> int:
    """Burn, compare, print."""
    parser = argparse.ArgumentParser(prog="bench.fire")
    parser.add_argument("--kills", type=int, default=300)
    parser.add_argument("--away-seconds", type=float, default=300)
    asked = parser.parse_args()
    with cluster(()) as found, tempfile.TemporaryDirectory() as folder:
        fire = Fire(found, Path(folder), 20261201)
        kinds: tuple[type[Work], ...] = (Reads, Sells, Sends, Sends, Brings)
        workers = [kind(fire.base, number) for number, kind in enumerate(kinds)]
        for worker in workers:
            worker.start()
        while not all(worker.done for worker in workers):
            time.sleep(0.2)
        began = time.monotonic()
        for _ in range(asked.kills):
            wrote, since = sum(len(worker.done) for worker in workers), time.monotonic()
            while sum(len(worker.done) for worker in workers) == wrote and time.monotonic() - since < PATIENCE_SECONDS:
                time.sleep(0.05)  # what is killed before anybody wrote proves nothing
            time.sleep(fire.chance.uniform(0.0, 1.2))
            fire.kill()
        print(f"{asked.kills} kills in {time.monotonic() - began:.0f} s: {dict(fire.killed)}", flush=True)
        print(f"away for {asked.away_seconds:.0f} s: {fire.away(asked.away_seconds)}", flush=True)
        done_before = sum(len(worker.done) for worker in workers)
        time.sleep(15)
        back = sum(len(worker.done) for worker in workers) - done_before
        for worker in workers:
            worker.stop.set()
        for worker in workers:
            worker.join(30)
        fire.end()
        done = Counter(what for worker in workers for what, _ in worker.done)
        archives, wrong = wrong_with_archives(fire.folder, fire.second)
        wrong += wrong_with(found.url, workers) + [fault for worker in workers for fault in worker.refused]
        print(f"acknowledged: {dict(done)}, {back} in the 15 s after the database was back; {archives} archives")
        print(f"{len(wrong)} wrong")
        for fault in wrong[:20]:
            print(f"  {fault}")
    return 1 if wrong or not back else 0


if __name__ == "__main__":
    sys.exit(main())
