"""Said plainly: no room, no right to write, a clock that is off. One sentence with what to do, and what is there can be read."""

import contextlib
import errno
import io
import os
import sys
import tempfile
import time
import unittest
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any
from unittest import mock

import psycopg
from sqlalchemy.exc import OperationalError

from tests.api.test_api import TAKE_IN, rest
from tests.english import TestClient
from tests.house import HERE, TEO, Client, as_app, cluster, database
from vane_check.api import disk_room as room
from vane_check.api.app import make_app
from vane_check.api.clock_turned import Turned
from vane_check.api.disk_room import Room
from vane_check.desks import check
from vane_check.start import command
from vane_check.start.cluster import Cluster, _why
from vane_check.start.sentences import in_a_sentence, last_kept_at


class NoRoom(unittest.TestCase):
    def setUp(self) -> None:
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.app = make_app(as_app(database()), records_folder=folder)
        self.addCleanup(self.app.state.engine.dispose)
        self.addCleanup(self.app.state.room.close)
        self.teo = Client(self.app, TEO)

    def full(self) -> Any:
        return mock.patch.object(room, "FULL_BELOW_BYTES", 1 << 62)

    def test_nothing_more_is_kept_and_everything_can_be_read(self) -> None:
        self.assertEqual(self.teo.get("/ready").status_code, 200)
        tag = self.teo.send("POST", "/batteries", TAKE_IN).json()["tag"]
        with self.full():
            for method, path, body in (
                ("POST", "/batteries", TAKE_IN),
                ("POST", f"/batteries/{tag}/readings", rest()),
                ("PUT", f"/batteries/{tag}/place", {"place": "bench"}),
                ("POST", "/imports?kind=items", {}),
            ):
                found = self.teo.send(method, path, body)
                self.assertEqual((found.status_code, found.json()["wait_seconds"]), (507, 5))
                self.assertIn("nothing more is kept until there is room", found.json()["detail"])
            for path in ("/shelf", f"/batteries/{tag}", f"/batteries/{tag}/slip.pdf", "/me"):
                self.assertEqual(self.teo.get(path).status_code, 200)
            Client(self.app, TEO)  # somebody signs in to read
            said = self.teo.get("/ready")
            self.assertEqual(said.status_code, 503)
            self.assertIn("disk", said.json()["detail"])
        self.assertEqual(self.teo.get("/ready").status_code, 200)
        self.assertEqual(self.teo.send("POST", f"/batteries/{tag}/readings", rest()).status_code, 201)

    def test_a_database_that_finds_no_room_says_so_in_the_same_words_for_a_while(self) -> None:
        full = OperationalError("insert", {}, psycopg.errors.DiskFull("could not extend file"))
        tag = self.teo.send("POST", "/batteries", TAKE_IN).json()["tag"]
        with mock.patch.object(check, "judge_and_keep", side_effect=full):
            self.assertEqual(self.teo.send("POST", f"/batteries/{tag}/readings", rest()).status_code, 507)
        self.assertEqual(self.teo.get("/ready").status_code, 503)
        with mock.patch.object(room, "REMEMBERED_SECONDS", 0.0):
            self.assertEqual(self.teo.send("POST", f"/batteries/{tag}/readings", rest()).status_code, 201)

    def test_a_folder_is_held_so_that_giving_up_root_changes_nothing(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            inner = Path(folder) / "records"
            inner.mkdir()
            held = Room(inner)
            inner.rmdir()
            self.assertFalse(held.is_full())
            held.close()
        self.assertFalse(Room(None).is_full())


class Clock(unittest.TestCase):
    def test_a_clock_that_is_turned_is_said_and_a_machine_that_slept_is_not(self) -> None:
        app = make_app(as_app(database()))
        self.addCleanup(app.state.engine.dispose)
        http = TestClient(app, base_url=HERE)
        self.assertEqual(http.get("/api/ready").status_code, 200)
        turned: Turned = app.state.turned
        for seconds, hours in ((86_400, "+24 h"), (-7_200, "-2 h")):
            app.state.turned = Turned(turned.wall - seconds, turned.steady)
            said = http.get("/api/ready")
            self.assertEqual(said.status_code, 503)
            self.assertIn(f"was turned by {hours}", said.json()["detail"])
        app.state.turned = Turned(turned.wall - 86_400, turned.steady - 86_400)  # both went on while it slept
        self.assertEqual(http.get("/api/ready").status_code, 200)
        app.state.turned = Turned(turned.wall - 90, turned.steady)  # set right by the network
        self.assertEqual(http.get("/api/ready").status_code, 200)

    def test_no_start_before_what_was_kept_last(self) -> None:
        url = database()
        last = last_kept_at(url)
        assert last is not None
        self.assertLess(abs((datetime.now(UTC) - last).total_seconds()), 86_400)
        command._look_at_the_clock(url, last - timedelta(minutes=50))
        with self.assertRaisesRegex(command.CannotStart, "set the clock\\s+right, then start again"):
            command._look_at_the_clock(url, last - timedelta(days=1))
        said = self.started("--port", "0", now=last - timedelta(days=1), url=url)
        self.assertEqual(len(said.strip().splitlines()), 1)
        self.assertIn("This machine's clock says", said)

    def test_where_nothing_was_kept_no_clock_is_wrong(self) -> None:
        with psycopg.connect(cluster().address("vane", "postgres"), autocommit=True) as connection:
            connection.execute("create database no_clock")
        self.assertIsNone(last_kept_at(cluster().address("vane", "no_clock")))
        self.assertIsNone(last_kept_at("postgresql://nobody@127.0.0.1:1/x"))

    def started(self, *arguments: str, now: datetime, url: str) -> str:
        said = io.StringIO()
        with (
            mock.patch.object(sys, "argv", ["bin/start", *arguments]),
            mock.patch.dict(os.environ, {"VANE_DATABASE_URL": url, "VANE_OWNER_URL": url}),
            mock.patch.object(command, "datetime", mock.Mock(now=lambda _: now)),
            contextlib.redirect_stderr(said),
        ):
            self.assertEqual(command.main(), 1)
        return said.getvalue().split("program loaded")[-1].split("\n", 1)[1]


class Sentences(unittest.TestCase):
    def test_every_way_a_disk_refuses_is_one_sentence_with_what_to_do(self) -> None:
        for number, words in (
            (errno.ENOSPC, "Free some room"),
            (errno.EROFS, "can be written to"),
            (errno.EACCES, "whose folder it is"),
            (errno.EDQUOT, "Free some"),
        ):
            said = in_a_sentence(OSError(number, os.strerror(number), "/shop/.vane"))
            self.assertIn(words, said)
            self.assertTrue(said.startswith("/shop/.vane: ") and "\n" not in said)
        self.assertNotIn("\n", in_a_sentence(psycopg.OperationalError("it is\nnot there")))

    def test_a_start_that_may_not_write_says_so_and_shows_no_traceback(self) -> None:
        said = io.StringIO()
        refused = OSError(errno.EROFS, "Read-only file system", "/shop/.vane")
        with (
            mock.patch.object(sys, "argv", ["bin/start"]),
            mock.patch.object(command, "lock_file", side_effect=refused),
            contextlib.redirect_stderr(said),
        ):
            self.assertEqual(command.main(), 1)
        self.assertEqual(len(said.getvalue().strip().splitlines()), 1)

    def test_why_a_database_does_not_start_is_its_worst_line(self) -> None:
        log = ["LOG:  starting", "FATAL:  could not write lock file: No space left on device", "LOG:  shut down"]
        self.assertIn("the disk is full. Free some room", _why(log))
        self.assertEqual(
            _why(["LOG:  a", "FATAL:  data directory is of version 14", "LOG:  b"]),
            "FATAL:  data directory is of version 14",
        )
        self.assertEqual(_why([]), "no log was written")

    def test_a_database_that_cannot_start_again_is_said_once(self) -> None:
        from vane_check.start import watch

        dead = mock.Mock(spec=Cluster)
        dead.pid.return_value = None
        dead.start_again.side_effect = command.CannotStart("the disk is full")
        said = io.StringIO()
        with (
            mock.patch.object(watch, "AGAIN_SECONDS", 0.05),
            mock.patch.object(watch, "LOOK_EVERY_SECONDS", 0.02),
            contextlib.redirect_stderr(said),
        ):
            watch.over(lambda: time.sleep(1.5) or 0, dead)  # type: ignore[func-returns-value]
        self.assertGreater(dead.start_again.call_count, 3)
        self.assertEqual(said.getvalue().count("the disk is full"), 1)
