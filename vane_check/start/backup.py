"""Backups: the whole database in one dated archive, and back from it into an empty place.

An archive is a ZIP of `database.dump` (PostgreSQL's own custom format) and `manifest.json` (when, of which release, how many
rows each table had, the dump's SHA-256, the head of the seals over the evidence), both of one moment: whoever writes meanwhile
is in it whole or not at all.
"""

import argparse
import hashlib
import json
import os
import re
import subprocess
import sys
import tempfile
import zipfile
from datetime import UTC, datetime
from pathlib import Path
from typing import Any, NamedTuple

import psycopg
from psycopg import sql
from psycopg.conninfo import conninfo_to_dict

from .. import __version__
from ..records.migrate import CannotMigrate, migrate
from ..records.seals import CannotSeal, last_head, seal, verify
from .cluster import CannotStart, binaries, cluster_folder, owners_address

ROOT = Path(__file__).parents[2]
DUMP, MANIFEST = "database.dump", "manifest.json"
KEPT = 30
"""So many archives are kept in the folder; the first made beyond them go when a new one is good."""
NUMBERED = re.compile(r"vane-check-(\d{6})-\d{4}-")
"""An archive carries its number before its date: a clock that was once ahead puts none before a later one."""


AT_WORK = (
    "select count(*) from pg_stat_activity where datname = current_database() and application_name = 'vane-check' "
    "and pid <> pg_backend_pid()"
)


class CannotBackUp(RuntimeError):
    """No archive was made, or none could be read back; the message is one sentence with what to do."""


class Made(NamedTuple):
    """A good archive."""

    path: Path
    bytes: int
    rows: dict[str, int]


def backups_folder() -> Path:
    """Where archives go unless told otherwise."""
    return Path(os.environ.get("VANE_BACKUPS") or ROOT / ".vane" / "backups")


def back_up(url: str, folder: Path, why: str = "asked for", now: datetime | None = None) -> Made:
    """Make a dated archive and note it in the database. Raises CannotBackUp; that is noted too where it can be."""
    at = now or datetime.now(UTC)
    number = max((_number_of(one) for one in folder.glob("vane-check-*")), default=0) + 1
    path = folder / f"vane-check-{number:06d}-{at:%Y-%m-%d-%H%M%S-%f}.zip"
    try:
        folder.mkdir(parents=True, exist_ok=True)
        _seal(url, at)
        rows = _written(url, path, at)
    except (OSError, CannotBackUp, psycopg.Error) as error:
        path.with_suffix(".part").unlink(missing_ok=True)
        said = str(error).strip().splitlines()[0] if str(error).strip() else type(error).__name__
        _note(url, at, why, path.name, 0, {}, said)
        raise CannotBackUp(f"No backup was made: {said}") from error
    made = Made(path, path.stat().st_size, rows)
    _note(url, at, why, path.name, made.bytes, rows, "")
    for old in sorted(set(folder.glob("vane-check-*.zip")) - {path}, key=_made_order)[: 1 - KEPT or None]:
        old.unlink(missing_ok=True)
    return made


def _number_of(path: Path) -> int:
    """An archive's number; 0 for one of a release that gave none."""
    found = NUMBERED.match(path.name)
    return int(found[1]) if found else 0


def _made_order(path: Path) -> tuple[int, str]:
    return _number_of(path), path.name


def _seal(url: str, at: datetime) -> None:
    """What came since the last seal goes into the archive sealed, where nobody writes at this very moment."""
    try:
        seal(url, at)
    except (CannotSeal, psycopg.errors.UndefinedTable):
        return  # the one before stands; tables of an earlier release have none


def _written(url: str, path: Path, at: datetime) -> dict[str, int]:
    with psycopg.connect(url, connect_timeout=5) as connection, tempfile.TemporaryDirectory() as scratch:
        connection.execute("set transaction isolation level repeatable read read only")
        connection.execute("set statement_timeout = 0")
        (snapshot,) = connection.execute("select pg_export_snapshot()").fetchone() or ("",)
        dump = Path(scratch) / DUMP
        _run("pg_dump", url, "--format=custom", f"--snapshot={snapshot}", f"--file={dump}")
        rows = row_counts(connection)
        version = connection.execute("select version_num from alembic_version").fetchone()
        sealed = last_head(connection)
        manifest = {
            "made_at": at.isoformat(), "release": __version__, "tables_version": version[0] if version else None,
            "sha256": _digest(dump), "rows": rows, "seal": None if sealed is None else {"id": sealed[0], "head": sealed[1]},
        }  # fmt: skip
        whole = path.with_suffix(".part")
        descriptor = os.open(whole, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600)
        with os.fdopen(descriptor, "wb") as file, zipfile.ZipFile(file, "w", zipfile.ZIP_STORED) as archive:
            archive.write(dump, DUMP)
            archive.writestr(MANIFEST, json.dumps(manifest, indent=1))
        _read_back(whole, Path(scratch))
        whole.rename(path)
        return rows


def _read_back(path: Path, scratch: Path) -> None:
    """A good archive is one that was read: its manifest holds, and PostgreSQL reads all of the dump. Raises CannotBackUp."""
    kept = scratch / "again"
    kept.mkdir()
    _unpacked(path, kept)
    done = subprocess.run(
        [str(binaries() / "pg_restore"), "--file=/dev/null", str(kept / DUMP)],
        stdin=subprocess.DEVNULL,
        capture_output=True,
    )
    if done.returncode != 0:
        raise CannotBackUp(f"{path.name} cannot be read back: {done.stderr.decode(errors='replace').strip()[:200]}")


def row_counts(connection: "psycopg.Connection[Any]") -> dict[str, int]:
    """How many rows each table has."""
    names = connection.execute("select tablename from pg_tables where schemaname = 'public' order by 1").fetchall()
    counts = {}
    for (name,) in names:
        found = connection.execute(sql.SQL("select count(*) from {}").format(sql.Identifier(name))).fetchone()
        counts[name] = int(found[0]) if found else 0
    return counts


def restore(url: str, path: Path, replace: bool = False) -> dict[str, int]:
    """Put an archive back into an empty database and bring its tables up to date. Returns the rows of each table.

    Raises CannotBackUp for an archive that is damaged, a database that is not empty (unless `replace`), or rows that do not
    come back; then the database is left empty.
    """
    with tempfile.TemporaryDirectory() as scratch:
        manifest = _unpacked(path, Path(scratch))
        with psycopg.connect(url, autocommit=True, connect_timeout=5) as connection:
            if not replace and _holds_something(connection):
                raise CannotBackUp(
                    "There is a shop in this database already: restore into an empty one, or say so with --yes."
                )
            if connection.execute(AT_WORK).fetchone() != (0,):
                raise CannotBackUp("Vane Check is at work on this database: stop it first, then restore.")
            connection.execute("drop schema public cascade")
            connection.execute("create schema public")
        _run(
            "pg_restore",
            url,
            "--no-owner",
            "--no-acl",
            "--exit-on-error",
            "--single-transaction",
            str(Path(scratch) / DUMP),
        )
    with psycopg.connect(url, autocommit=True) as connection:
        rows = row_counts(connection)
        # what an archive was granted is not in it: the mark of it must not be, either
        connection.execute("comment on schema public is null")
    if rows != manifest["rows"]:
        differ = sorted(name for name in rows | manifest["rows"] if rows.get(name) != manifest["rows"].get(name))
        raise CannotBackUp(f"What came back is not what was kept: {', '.join(differ)}")
    migrate(url)
    return rows


def _unpacked(path: Path, scratch: Path) -> dict[str, Any]:
    try:
        with zipfile.ZipFile(path) as archive:
            manifest: dict[str, Any] = json.loads(archive.read(MANIFEST))
            archive.extract(DUMP, scratch)
    except (OSError, KeyError, ValueError, zipfile.BadZipFile) as error:
        raise CannotBackUp(f"{path.name} is no whole backup: {type(error).__name__}") from error
    if _digest(scratch / DUMP) != manifest.get("sha256"):
        raise CannotBackUp(f"{path.name} is damaged: its contents are not what its manifest says.")
    return manifest


def _holds_something(connection: "psycopg.Connection[Any]") -> bool:
    there = connection.execute("select to_regclass('public.stores')").fetchone()
    if there is None or there[0] is None:
        return False
    return connection.execute("select 1 from stores limit 1").fetchone() is not None


def _digest(path: Path) -> str:
    found = hashlib.sha256()
    with open(path, "rb") as file:
        while part := file.read(1 << 20):
            found.update(part)
    return found.hexdigest()


def _run(program: str, url: str, *arguments: str) -> None:
    """One of PostgreSQL's programs; the password goes by its environment, where no list of processes shows it."""
    told = conninfo_to_dict(url)
    environment = {
        **os.environ, "PGHOST": str(told.get("host", "")), "PGPORT": str(told.get("port", "5432")),
        "PGUSER": str(told.get("user", "")), "PGPASSWORD": str(told.get("password", "")),
        "PGDATABASE": str(told.get("dbname", "")),
    }  # fmt: skip
    into = ["--dbname", str(told.get("dbname", ""))] if program == "pg_restore" else []
    done = subprocess.run(
        [str(binaries() / program), *into, *arguments], env=environment, stdin=subprocess.DEVNULL, capture_output=True
    )
    if done.returncode != 0:
        said = done.stderr.decode(errors="replace").strip().splitlines()
        raise CannotBackUp(f"{program} failed: {said[0] if said else done.returncode}")


def _note(url: str, at: datetime, why: str, name: str, size: int, rows: dict[str, int], problem: str) -> None:
    try:
        with psycopg.connect(url, autocommit=True, connect_timeout=5) as connection:
            connection.execute(
                "insert into backups (made_at, why, file_name, bytes, rows, problem) values (%s, %s, %s, %s, %s, %s)",
                (at, why, name, size, json.dumps(rows), problem[:300]),
            )
    except psycopg.errors.UndefinedTable:
        return  # tables of a release that kept no list of its backups
    except psycopg.Error:
        if not problem:
            raise


def heads_in(folder: Path, url: str) -> dict[str, tuple[int, str]]:
    """By name the head that each archive made of this database carries; one nobody can read says so by having none."""
    with psycopg.connect(url, connect_timeout=5) as connection:
        ours = {name for (name,) in connection.execute("select file_name from backups where problem = ''")}
    found = {}
    for path in sorted(folder.glob("vane-check-*.zip")):
        if path.name not in ours:
            continue  # of another database, or of this one before something was put back
        try:
            with zipfile.ZipFile(path) as archive:
                kept = json.loads(archive.read(MANIFEST)).get("seal")
        except (OSError, KeyError, ValueError, zipfile.BadZipFile):
            continue  # putting it back says so
        if kept:
            found[path.name] = (int(kept["id"]), str(kept["head"]))
    return found


def _verified(url: str, folder: Path) -> int:
    heads = heads_in(folder, url)
    found = verify(url, heads)
    for fault in found.faults:
        print(fault, file=sys.stderr)
    if found.faults:
        return 1
    rows = sum(one.rows for one in found.seals)
    last = f", the last of {found.seals[-1].made_at:%d %b %Y %H:%M}" if found.seals else ""
    print(
        f"{rows} rows of evidence under {len(found.seals)} seals{last}: all as they were sealed. "
        f"{found.since} came since. Archives that carry a head: {len(heads)}, and all agree."
    )
    return 0


def add_commands(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    """The commands and what each takes."""
    one = commands.add_parser("backup", help="make a dated archive of everything")
    one.add_argument("--to", type=Path, default=None, help="the folder it goes to; .vane/backups, or VANE_BACKUPS")
    back = commands.add_parser("restore", help="put an archive back into an empty place")
    back.add_argument("archive", type=Path)
    back.add_argument("--yes", action="store_true", help="throw away what is in the database now")
    walk = commands.add_parser(
        "verify", help="hold the evidence against its seals, and those against what archives carry"
    )
    walk.add_argument(
        "--archives", type=Path, default=None, help="the folder they are in; .vane/backups, or VANE_BACKUPS"
    )


def run(asked: argparse.Namespace) -> int:
    """Run one command. Returns 0, or 2 with one sentence; `verify` 1 where evidence is not what was sealed."""
    try:
        with owners_address(cluster_folder(ROOT), may_make=asked.command == "restore") as url:
            if asked.command == "backup":
                made = back_up(url, asked.to or backups_folder())
                print(f"{made.path}  {made.bytes / 1e6:.1f} MB, {sum(made.rows.values())} rows")
            elif asked.command == "verify":
                return _verified(url, asked.archives or backups_folder())
            else:
                rows = restore(url, asked.archive, asked.yes)
                print(f"{sum(rows.values())} rows of {len(rows)} tables are back")
    except (CannotStart, CannotBackUp, CannotMigrate) as error:
        print(error, file=sys.stderr)
        return 2
    return 0


class Asked:
    """Listens for a screen that asks for a backup, beside what watches over the server. Never in its way."""

    def __init__(self, url: str, folder: Path) -> None:
        self.url = url
        self.folder = folder
        self._line: psycopg.Connection[Any] | None = None
        self._tried = 0.0

    def look(self, monotonic: float, retry_seconds: float = 5) -> bool:
        """Whether one was asked for since the last look. A database that is away is asked again later."""
        from ..records.house import BACKUP_CHANNEL

        try:
            if self._line is None:
                if monotonic - self._tried < retry_seconds and self._tried:
                    return False
                self._tried = monotonic
                self._line = psycopg.connect(self.url, autocommit=True, connect_timeout=2)
                self._line.execute(f"listen {BACKUP_CHANNEL}")
            return bool(list(self._line.notifies(timeout=0)))
        except psycopg.Error:
            self.close()
            return False

    def close(self) -> None:
        """Listen no more."""
        if self._line is not None:
            self._line.close()
            self._line = None

    def make(self) -> None:
        """Make it; what goes wrong is noted in the database and said on standard error."""
        try:
            back_up(self.url, self.folder)
        except CannotBackUp as error:
            print(error, file=sys.stderr, flush=True)
