"""A backup is the whole of it, and comes back row by row; a damaged one, or a full place, is refused."""

import json
import shutil
import tempfile
import time
import unittest
import zipfile
from datetime import UTC, datetime
from pathlib import Path
from unittest import mock

import psycopg
from psycopg import sql

from tests.house import LEAD, TEO, Client, app_on, database, empty
from vane_check.__main__ import main
from vane_check.records.seals import seal
from vane_check.start import backup
from vane_check.start import command as start
from vane_check.start.backup import Asked, CannotBackUp, back_up, restore


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
        rows = restore(place, made.path)
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

    def test_what_is_there_already_is_not_thrown_away_unasked(self) -> None:
        source, full = database(), database()
        made = back_up(source, self.folder)
        before = every_row(full)
        with self.assertRaisesRegex(CannotBackUp, "There is a shop in this database already"):
            restore(full, made.path)
        self.assertEqual(every_row(full), before)
        restore(full, made.path, replace=True)

    def test_nothing_is_restored_under_a_server_that_works(self) -> None:
        source, place = database(), database()
        made = back_up(source, self.folder)
        app = app_on(place)
        Client(app, TEO).get("/shelf")
        with self.assertRaisesRegex(CannotBackUp, "at work"):
            restore(place, made.path, replace=True)
        app.state.engine.dispose()
        restore(place, made.path, replace=True)

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
        run = backup._run

        def write_first(program: str, url: str, *arguments: str) -> None:
            with psycopg.connect(source, autocommit=True) as connection:
                connection.execute("insert into customers (store_id, name, phone) values (1, 'Late Comer', '')")
            run(program, url, *arguments)

        with mock.patch.object(backup, "_run", write_first):
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
        with mock.patch.object(backup, "_run", side_effect=CannotBackUp("pg_dump failed: the disk is full")):
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
