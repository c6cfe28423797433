"""Seals over the evidence: what anybody changes in it shows, the owner of the tables too; and nobody's write waits for them."""

import contextlib
import hashlib
import io
import json
import shutil
import tempfile
import threading
import unittest
import uuid
from datetime import UTC, datetime, timedelta
from pathlib import Path
from unittest import mock

import psycopg

from tests.house import TEO, Client, app_on, as_app, cluster, database
from vane_check.__main__ import main
from vane_check.records import seals
from vane_check.records.models import APPEND_ONLY
from vane_check.records.seals import CannotSeal, seal, seal_if_due, verify
from vane_check.start.archive_commands import heads_in
from vane_check.start.backup import back_up
from vane_check.start.cluster import ADMIN

VOLTS_OF_173 = """
    from readings r join checks c on c.id = r.check_id join batteries b on b.id = c.battery_id
    where b.tag = 173 and r.kind = 'rest_volts' order by r.id limit 1
"""


class Sealed(unittest.TestCase):
    def setUp(self) -> None:
        self.url = database()
        self.folder = Path(tempfile.mkdtemp())
        self.addCleanup(shutil.rmtree, self.folder, True)

    def by_hand(self, *statements: str) -> None:
        """What somebody does who owns everything, with no trigger in the way."""
        with psycopg.connect(cluster().address(ADMIN, self.url.rsplit("/", 1)[1])) as connection:
            connection.execute("set session_replication_role = replica")
            for statement in statements:
                connection.execute(statement)

    def write(self, tag: int = 173) -> None:
        """A reading, as the application keeps it."""
        body = {"id": None, "kind": "rest_volts", "taken_at": datetime.now(UTC).isoformat(), "volts": 12.5}
        client = Client(app_on(self.url), TEO)
        client.send("POST", f"/batteries/{tag}/readings", {**body, "id": str(uuid.uuid4())})

    def test_what_nobody_touched_is_as_it_was_sealed_and_what_comes_later_is_counted(self) -> None:
        first = seal(self.url)
        assert first is not None
        self.assertIsNone(seal(self.url))  # nothing came
        self.write()
        found = verify(self.url)
        self.assertEqual(found.faults, [])
        self.assertGreater(found.since, 0)
        second = seal(self.url)
        assert second is not None
        self.assertEqual([one.head for one in verify(self.url).seals], [first.head, second.head])
        self.assertEqual(verify(self.url).since, 0)
        with psycopg.connect(self.url) as connection:
            counts = [connection.execute(f"select count(*) from {table}").fetchone() for table in APPEND_ONLY]
        self.assertEqual(first.rows + second.rows, sum(count[0] for count in counts if count))

    def test_the_hash_is_the_published_one_over_the_rows_in_order(self) -> None:
        """By another way: PostgreSQL's own sha256, over rows it puts together itself."""
        made = seal(self.url)
        assert made is not None
        part = made.parts["moves"]
        columns = ", ".join(part.columns)
        with psycopg.connect(self.url) as connection:
            connection.execute("set timezone = 'UTC'")
            (found,) = connection.execute(
                f"select encode(sha256(convert_to(string_agg(t || chr(10), '' order by id), 'UTF8')), 'hex') from"
                f" (select id, row_to_json(r)::text t from (select {columns} from moves where id <= {part.up_to}) r) s"
            ).fetchone() or ("",)
        self.assertEqual(part.sha256, found)
        told = json.dumps({table: one._asdict() for table, one in made.parts.items()}, sort_keys=True)
        self.assertEqual(made.head, hashlib.sha256(f"{'0' * 64}\n{told}".encode()).hexdigest())

    def test_every_table_of_evidence_shows_what_was_changed_taken_away_or_put_under_it(self) -> None:
        seal(self.url)
        with psycopg.connect(self.url) as connection:
            filled = [
                table for table in APPEND_ONLY if connection.execute(f"select count(*) from {table}").fetchone() != (0,)
            ]
        self.assertGreater(len(filled), 10)
        for table in filled:
            with self.subTest(table):
                url = self.url
                self.url = database()
                seal(self.url)
                self.by_hand(f"delete from {table} where id = (select min(id) from {table})")
                self.assertRegex(
                    "\n".join(verify(self.url).faults), rf"^{table}, rows 1 to \d+, sealed .*: \d+ rows where"
                )
                self.url = url

    def test_a_volt_that_the_owner_changes_shows(self) -> None:
        seal(self.url)
        self.by_hand(
            f"update readings set body = jsonb_set(body, '{{volts}}', '99') where id = (select r.id {VOLTS_OF_173})"
        )
        self.assertRegex(verify(self.url).faults[0], r"^readings, rows 1 to \d+, sealed .*: changed since$")

    def test_seals_that_are_made_anew_differ_from_what_an_archive_carries(self) -> None:
        made = back_up(self.url, self.folder)
        self.by_hand(
            f"update readings set body = jsonb_set(body, '{{volts}}', '99') where id = (select r.id {VOLTS_OF_173})"
        )
        self.by_hand("delete from seals", "select setval('seals_id_seq', 1, false)")
        seal(self.url)
        self.assertEqual(verify(self.url).faults, [])  # by itself it looks whole
        faults = verify(self.url, heads_in(self.folder, self.url)).faults
        self.assertEqual(faults, [f"{made.path.name} holds another head for seal 1: the seals were made anew after it"])

    def test_a_seal_that_is_thrown_away_or_written_over_shows(self) -> None:
        for number, act in (
            (1, "delete from seals where id = 1"),
            (2, "update seals set head = repeat('0', 64) where id = 1"),
        ):
            with self.subTest(act):
                self.url = database()
                seal(self.url)
                self.write()
                seal(self.url)
                self.by_hand(act)
                self.assertGreaterEqual(len(verify(self.url).faults), number)

    def test_a_column_that_comes_later_changes_nothing_of_before(self) -> None:
        seal(self.url)
        with psycopg.connect(self.url) as connection:
            connection.execute("alter table readings add column mood text not null default 'fair'")
        self.assertEqual(verify(self.url).faults, [])
        self.write()
        made = seal(self.url)
        assert made is not None
        self.assertIn("mood", made.parts["readings"].columns)
        self.assertEqual(verify(self.url).faults, [])

    def test_a_server_s_settings_change_no_hash(self) -> None:
        seal(self.url)
        name = self.url.rsplit("/", 1)[1]
        with psycopg.connect(self.url, autocommit=True) as connection:
            connection.execute(f"alter database {name} set timezone = 'Asia/Kathmandu'")
            connection.execute(f"alter database {name} set datestyle = 'German'")
        self.assertEqual(verify(self.url).faults, [])

    def test_one_is_due_a_day_and_a_backup_makes_one_too(self) -> None:
        now = datetime.now(UTC)
        self.assertIsNotNone(seal_if_due(self.url, now))
        self.write()
        self.assertIsNone(seal_if_due(self.url, now + timedelta(hours=23)))
        self.assertIsNotNone(seal_if_due(self.url, now + timedelta(hours=25)))
        self.write()
        back_up(self.url, self.folder)
        self.assertEqual(len(verify(self.url).seals), 3)

    def test_whoever_writes_is_never_in_its_way(self) -> None:
        """While a write is under way a seal gives up, soon; the write goes on."""
        done = threading.Event()
        with psycopg.connect(self.url) as writer:
            writer.execute(
                "insert into sign_in_tries (store_id, staff_id, address, kind) values (1, 1, 'here', 'tried')"
            )

            def try_it() -> None:
                with contextlib.suppress(CannotSeal):
                    seal(self.url)
                    return
                done.set()

            thread = threading.Thread(target=try_it)
            thread.start()
            thread.join(30)
            self.assertTrue(done.is_set())
            self.assertIsNone(seal_if_due(self.url))
            writer.commit()
        self.assertLess(seals.WAIT_MS, 1000)  # PostgreSQL looks for two in each other's way after a second
        self.assertIsNotNone(seal(self.url))
        self.assertEqual(verify(self.url).faults, [])

    def test_the_command_says_what_it_found(self) -> None:
        address = mock.patch(
            "vane_check.start.archive_commands.owners_address", lambda *_, **__: contextlib.nullcontext(self.url)
        )
        back_up(self.url, self.folder)
        said, wrong = io.StringIO(), io.StringIO()
        with address, contextlib.redirect_stdout(said), contextlib.redirect_stderr(wrong):
            self.assertEqual(main(["verify", "--archives", str(self.folder)]), 0)
            self.by_hand("delete from moves where id = (select max(id) from moves)")
            self.assertEqual(main(["verify", "--archives", str(self.folder)]), 1)
        self.assertRegex(
            said.getvalue(),
            r"^\d+ rows of evidence under 1 seals, .* 0 came since. Archives that carry a head: 1, and all agree",
        )
        self.assertIn("moves, rows 1 to", wrong.getvalue())

    def test_the_application_can_make_and_change_none(self) -> None:
        seal(self.url)
        for act in (
            "insert into seals (made_at, head, parts) values (now(), '', '{}')",
            "update seals set head = ''",
            "delete from seals",
        ):
            with (
                psycopg.connect(as_app(self.url)) as connection,
                self.assertRaises(psycopg.errors.InsufficientPrivilege),
            ):
                connection.execute(act)
        with psycopg.connect(self.url) as connection, self.assertRaises(psycopg.errors.RestrictViolation):
            connection.execute("update seals set head = ''")
