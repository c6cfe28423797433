"""A backup is the whole of it, and comes back row by row; a damaged one, or a full place, is refused."""

import contextlib
import json
import os
import shutil
import signal
import tempfile
import time
import unittest
import zipfile
from datetime import UTC, datetime
from pathlib import Path
from unittest import mock

import psycopg
from alembic import command
from psycopg import sql

from tests.house import LEAD, TEO, Client, app_on, cluster, database, empty, served
from vane_check.__main__ import main
from vane_check.records.migrate import config_for
from vane_check.records.seals import seal
from vane_check.start import backup
from vane_check.start import command as start
from vane_check.start import erasures as erased
from vane_check.start.backup import Asked, CannotBackUp, back_up
from vane_check.start.cluster import ADMIN, OWNER
from vane_check.start.restore import restore


def every_row(url: str) -> dict[str, tuple[int, str]]:
    """Of every table how many rows it has, and a digest of all of them."""
    found = {}
    with psycopg.connect(url) as connection:
        names = connection.execute("select tablename from pg_tables where schemaname = 'public' order by 1").fetchall()
        for (name,) in names:
            asked = sql.SQL(
                "select count(*), coalesce(md5(string_agg(t::text, chr(10) order by t::text)), '') from {} t"
            )
            row = connection.execute(asked.format(sql.Identifier(name))).fetchone()
            assert row is not None
            found[name] = (row[0], row[1])
    return found


class Backups(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(tempfile.mkdtemp())
        self.addCleanup(shutil.rmtree, self.folder, True)

    def test_all_comes_back_row_by_row_and_the_application_works_on_it(self) -> None:
        source = database()
        seal(source)  # else the backup makes one
        kept = every_row(source)
        made = back_up(source, self.folder)
        self.assertEqual(made.rows, {name: count for name, (count, _) in kept.items()})
        place = empty()
        rows, _ = restore(place, made.path)
        self.assertEqual(rows, made.rows)
        self.assertEqual(every_row(place), kept)
        lead = Client(app_on(place), LEAD)
        self.assertEqual(lead.get("/house").json()["shop"]["name"], "Weir Lane Batteries")
        shelf = lead.get("/shelf").json()
        self.assertEqual(len(shelf), len(Client(app_on(source), LEAD).get("/shelf").json()))
        with psycopg.connect(place) as connection, self.assertRaises(psycopg.errors.RestrictViolation):
            connection.execute("delete from readings")  # what kept evidence whole came back with it

    def test_a_clock_that_was_once_ahead_throws_no_later_one_away(self) -> None:
        source = empty()
        days = [datetime(2031, 1, 1, tzinfo=UTC), *(datetime(2026, 12, day, tzinfo=UTC) for day in (1, 2, 3))]
        with mock.patch.object(backup, "KEPT", 2):
            made = [back_up(source, self.folder, now=day).path for day in days]
        self.assertEqual(sorted(self.folder.iterdir()), made[-2:])
        (self.folder / "vane-check-2027-05-05-000000-000000.zip").touch()  # of a release that gave no numbers
        with mock.patch.object(backup, "KEPT", 2):
            last = back_up(source, self.folder, now=days[1]).path
        self.assertEqual(sorted(self.folder.iterdir()), [made[-1], last])

    def test_tables_of_every_release_are_backed_up_before_they_are_changed(self) -> None:
        for version in ("0001", "0003", "0007", "0012", "0015"):
            with self.subTest(version):
                place = cluster().address(OWNER, f"release_{version}")
                with psycopg.connect(cluster().address(ADMIN, "postgres"), autocommit=True) as connection:
                    connection.execute(f"create database release_{version} owner {OWNER}")
                command.upgrade(config_for(place), version)
                made = back_up(place, self.folder)
                self.assertEqual(made.rows["alembic_version"], 1)

    def test_one_that_cannot_be_read_back_is_none(self) -> None:
        source, write = empty(), zipfile.ZipFile.write

        def half(archive: zipfile.ZipFile, path: Path, name: str) -> None:
            whole = path.read_bytes()
            path.write_bytes(whole[: len(whole) // 2])  # a disk that says it wrote
            write(archive, path, name)

        with mock.patch.object(zipfile.ZipFile, "write", half), self.assertRaisesRegex(CannotBackUp, "damaged"):
            back_up(source, self.folder)
        self.assertEqual(list(self.folder.iterdir()), [])
        digest = backup._digest
        with (
            mock.patch.object(zipfile.ZipFile, "write", half),
            mock.patch.object(backup, "_digest", lambda path: "" if path.name == backup.DUMP else digest(path)),
            self.assertRaisesRegex(CannotBackUp, "cannot be read back"),
        ):
            back_up(source, self.folder)
        with psycopg.connect(source) as connection:
            noted = connection.execute("select problem <> '' from backups order by id").fetchall()
        self.assertEqual(noted, [(True,), (True,)])

    def test_an_archive_that_is_packed_to_unfold_or_has_no_room_is_not_unpacked(self) -> None:
        made = back_up(empty(), self.folder)
        with zipfile.ZipFile(made.path) as archive:
            parts = {name: archive.read(name) for name in archive.namelist()}
        for name, how, change in (
            ("a dump that unfolds", zipfile.ZIP_DEFLATED, {backup.DUMP: b" " * 50_000_000}),
            ("a manifest without an end", zipfile.ZIP_STORED, {backup.MANIFEST: b" " * 2_000_000}),
        ):
            bomb = self.folder / "bomb.zip"
            with zipfile.ZipFile(bomb, "w", how) as archive:
                for part, body in {**parts, **change}.items():
                    archive.writestr(part, body)
            with self.subTest(name), self.assertRaisesRegex(CannotBackUp, "no whole backup"):
                restore(empty(), bomb)
        little = mock.Mock(free=1000)
        with (
            mock.patch.object(backup.shutil, "disk_usage", return_value=little),
            self.assertRaisesRegex(CannotBackUp, "has room for"),
        ):
            restore(empty(), made.path)

    def test_what_is_there_already_is_not_thrown_away_unasked(self) -> None:
        source, full = database(), database()
        made = back_up(source, self.folder)
        before = every_row(full)
        with self.assertRaisesRegex(CannotBackUp, "There is a shop in this database already"):
            restore(full, made.path)
        self.assertEqual(every_row(full), before)
        restore(full, made.path, replace=True)

    def test_nothing_is_restored_under_a_server_that_works_however_its_connections_are_called(self) -> None:
        source, place = database(), database()
        made = back_up(source, self.folder)
        before = every_row(place)
        with served(place), psycopg.connect(place, autocommit=True) as connection:
            until = time.monotonic() + 30  # the server's listener is there a moment after its first answer
            while (
                connection.execute("select 1 from pg_locks where locktype = 'advisory' and granted").fetchone() is None
            ):
                self.assertLess(time.monotonic(), until)
                time.sleep(0.05)
            connection.execute("set application_name = 'vane-check'")
            with self.assertRaisesRegex(CannotBackUp, "at work"):
                restore(place, made.path, replace=True)
            self.assertEqual(every_row(place), before)
        with psycopg.connect(place, application_name="vane-check"):  # a name alone keeps nobody out
            restore(place, made.path, replace=True)

    def test_what_is_replaced_goes_into_an_archive_first_and_the_one_put_back_stays(self) -> None:
        source, place = database(), database()
        with psycopg.connect(place) as connection:
            connection.execute("insert into customers (store_id, name, phone) values (1, 'Only Here', '')")
        made = back_up(source, self.folder)
        with mock.patch.object(backup, "KEPT", 1):
            restore(place, made.path, replace=True)
        kept = sorted(self.folder.glob("*.zip"))
        self.assertEqual(len(kept), 2)
        self.assertEqual(kept[0], made.path)
        again = empty()
        restore(again, kept[1])
        with psycopg.connect(again) as connection:
            found = connection.execute("select count(*) from customers where name = 'Only Here'").fetchone()
        self.assertEqual(found, (1,))

    def test_rows_that_do_not_come_back_put_nothing_back(self) -> None:
        source, place = database(), database()
        made = back_up(source, self.folder)
        with zipfile.ZipFile(made.path) as archive:
            dump, manifest = archive.read(backup.DUMP), json.loads(archive.read(backup.MANIFEST))
        manifest["rows"]["readings"] += 1
        with zipfile.ZipFile(self.folder / "short.zip", "w") as archive:
            archive.writestr(backup.DUMP, dump)
            archive.writestr(backup.MANIFEST, json.dumps(manifest))
        seal(place)
        before = {name: rows for name, rows in every_row(place).items() if name != "backups"}
        with self.assertRaisesRegex(CannotBackUp, "What came back is not what was kept: readings"):
            restore(place, self.folder / "short.zip", replace=True)
        self.assertEqual({name: rows for name, rows in every_row(place).items() if name != "backups"}, before)

    def test_killed_at_any_moment_the_old_one_or_the_new_one_answers(self) -> None:
        """Twenty moments over the time that a whole one takes; whoever put it back and PostgreSQL's programs die together."""
        source, place = database(), database()
        with psycopg.connect(source) as connection:
            connection.execute("update stores set name = 'The New One'")
        with psycopg.connect(place) as connection:
            connection.execute("update stores set name = 'The Old One'")
        made = back_up(source, self.folder)
        began = time.monotonic()
        os.waitpid(self._restoring(place, made.path), 0)
        whole, names = time.monotonic() - began, set()
        for moment in range(20):
            with psycopg.connect(place) as connection:
                connection.execute("update stores set name = 'The Old One'")
            going = self._restoring(place, made.path)
            time.sleep(whole * (0.05 + 0.95 * moment / 19))
            with contextlib.suppress(ProcessLookupError):
                os.killpg(going, signal.SIGKILL)
            os.waitpid(going, 0)
            with self.subTest(moment):
                self._rests(place)
                start.prepare(place)
                with psycopg.connect(place) as connection:
                    name, readings = connection.execute(
                        "select name, (select count(*) from readings) from stores order by id limit 1"
                    ).fetchone() or ("", 0)
                self.assertEqual(readings, made.rows["readings"])
                names.add(name)
        self.assertLessEqual(names, {"The Old One", "The New One"})
        self.assertIn("The Old One", names)
        self.assertEqual(Client(app_on(place), LEAD).get("/house").status_code, 200)

    @staticmethod
    def _restoring(url: str, path: Path) -> int:
        """A process, of a group of its own with what it starts, that puts an archive back."""
        child = os.fork()
        if child == 0:
            os.setsid()
            os.dup2(os.open(os.devnull, os.O_WRONLY), 2)
            with contextlib.suppress(BaseException):
                restore(url, path, replace=True)
            os._exit(0)
        return child

    def _rests(self, url: str) -> None:
        """Nobody is at work in it any more: what a killed one began is taken back."""
        asked = "select count(*) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid() and state <> 'idle'"
        with psycopg.connect(url, autocommit=True) as connection:
            until = time.monotonic() + 60
            while connection.execute(asked).fetchone() != (0,):
                self.assertLess(time.monotonic(), until)
                time.sleep(0.05)

    def test_who_was_forgotten_is_forgotten_again_and_nobody_else(self) -> None:
        source = database()
        app = app_on(source)
        lead = Client(app, LEAD)
        made = back_up(source, self.folder)  # they are in it still
        self.assertEqual(erased.remembered(self.folder), set())
        with psycopg.connect(source) as connection:
            tag, name = connection.execute(
                "select b.tag, c.name from batteries b join customers c on c.id = b.customer_id where c.name <> '' limit 1"
            ).fetchone() or (0, "")
        asked = Asked(source, self.folder)
        self.addCleanup(asked.close)
        asked.look(time.monotonic())
        lead.send("POST", f"/batteries/{tag}/erase-customer", {})
        until = time.monotonic() + 30
        while not erased.remembered(self.folder):
            self.assertFalse(asked.look(time.monotonic()))
            self.assertLess(time.monotonic(), until, "nobody told that somebody was forgotten")
        app.state.engine.dispose()
        rows, again = restore(source, made.path, replace=True)
        self.assertGreater(again, 0)
        with psycopg.connect(source) as connection:
            found = connection.execute("select count(*) from customers where name = %s", (name,)).fetchone()
            others = connection.execute("select count(*) from customers where name <> ''").fetchone()
        self.assertEqual(found, (0,))
        self.assertEqual(others, (rows["customers"] - again,))
        # the same number, given to somebody who came at another time, is somebody else's
        with psycopg.connect(source) as connection:
            connection.execute(
                "update customers set name = 'Somebody Else', erased_at = null where erased_at is not null"
            )
            connection.execute("update batteries set came_at = came_at + interval '1 second'")
        with psycopg.connect(cluster().address(ADMIN, source.rsplit("/", 1)[1])) as connection:
            connection.execute("set session_replication_role = replica")
            connection.execute("update take_in_entries set written_at = written_at + interval '1 second'")
        self.assertEqual(erased.forget_again(source, self.folder), 0)

    def test_a_damaged_archive_is_refused_before_anything_is_thrown_away(self) -> None:
        source, place = database(), empty()
        made = back_up(source, self.folder)
        with zipfile.ZipFile(made.path) as archive:
            dump, manifest = archive.read(backup.DUMP), json.loads(archive.read(backup.MANIFEST))
        for what, contents in (("changed", dump[:-1] + b"x"), ("cut short", dump[: len(dump) // 2])):
            with zipfile.ZipFile(self.folder / "bad.zip", "w") as archive:
                archive.writestr(backup.DUMP, contents)
                archive.writestr(backup.MANIFEST, json.dumps(manifest))
            with self.subTest(what), self.assertRaisesRegex(CannotBackUp, "damaged"):
                restore(place, self.folder / "bad.zip")
        (self.folder / "none.zip").write_bytes(b"not a ZIP at all")
        with self.assertRaisesRegex(CannotBackUp, "no whole backup"):
            restore(place, self.folder / "none.zip")
        self.assertEqual(every_row(place)["alembic_version"][0], 1)

    def test_who_writes_meanwhile_is_in_it_whole_or_not_at_all(self) -> None:
        source = database()
        run = backup.run

        def write_first(program: str, url: str, *arguments: str) -> None:
            with psycopg.connect(source, autocommit=True) as connection:
                connection.execute("insert into customers (store_id, name, phone) values (1, 'Late Comer', '')")
            run(program, url, *arguments)

        with mock.patch.object(backup, "run", write_first):
            made = back_up(source, self.folder)
        place = empty()
        restore(place, made.path)
        with psycopg.connect(place) as connection:
            late = connection.execute("select count(*) from customers where name = 'Late Comer'").fetchone()
        self.assertEqual(late, (0,))

    def test_the_button_asks_and_the_desk_says_how_old_the_last_good_one_is(self) -> None:
        source = database()
        app = app_on(source)
        lead, teo = Client(app, LEAD), Client(app, TEO)
        self.assertIsNone(lead.get("/house").json()["backup"]["made_at"])
        asked = Asked(source, self.folder)
        self.addCleanup(asked.close)
        self.assertFalse(asked.look(time.monotonic()))
        self.assertEqual(teo.send("POST", "/house/backup", {}).status_code, 403)
        self.assertFalse(asked.look(time.monotonic()))
        self.assertEqual(lead.send("POST", "/house/backup", {}).status_code, 201)
        until = time.monotonic() + 30  # a busy machine tells it later
        while not asked.look(time.monotonic()):
            self.assertLess(time.monotonic(), until, "nobody told that a backup is wanted")
            time.sleep(0.05)
        asked.make()
        found = lead.get("/house").json()["backup"]
        self.assertEqual((found["days_old"], found["problem"]), (0, ""))
        self.assertGreater(found["rows"], 3000)
        with mock.patch.object(backup, "run", side_effect=CannotBackUp("pg_dump failed: the disk is full")):
            asked.make()
        found = lead.get("/house").json()["backup"]
        self.assertEqual((found["days_old"], found["problem"]), (0, "pg_dump failed: the disk is full"))
        self.assertEqual(len(list(self.folder.glob("*.zip"))), 1)

    def test_only_the_newest_thirty_stay(self) -> None:
        source = database()
        for day in range(1, 32):
            (self.folder / f"vane-check-2026-01-{day:02}-120000.zip").touch()
        back_up(source, self.folder)
        self.assertEqual(len(list(self.folder.glob("*.zip"))), 30)
        self.assertFalse((self.folder / "vane-check-2026-01-02-120000.zip").exists())

    def test_the_command_makes_one_and_an_update_takes_one_first(self) -> None:
        source = database()
        with mock.patch.dict("os.environ", {"VANE_OWNER_URL": source, "VANE_BACKUPS": str(self.folder)}):
            self.assertEqual(main(["backup"]), 0)
            (made,) = self.folder.glob("*.zip")
            self.assertEqual(main(["restore", str(made)]), 2)
            start._keep_before_update(source)
            self.assertEqual(len(list(self.folder.glob("*.zip"))), 1, "nothing to update")
            with psycopg.connect(source, autocommit=True) as connection:
                connection.execute("drop table backups")
                connection.execute("update alembic_version set version_num = '0010'")
            made.unlink()
            start._keep_before_update(source)
        self.assertEqual(len(list(self.folder.glob("*.zip"))), 1)
