"""Backups: the whole database in one dated archive; `restore.py` goes back from it.

An archive is a ZIP of `database.dump` (PostgreSQL's own custom format) and `manifest.json` (when, of which release, how many
rows each table had, the dump's SHA-256, the head of the seals over the evidence), both of one moment: whoever writes meanwhile
is in it whole or not at all.
"""

import hashlib
import json
import os
import re
import shutil
import subprocess
import sys
import tempfile
import threading
import zipfile
from datetime import UTC, datetime
from pathlib import Path
from typing import Any, NamedTuple

import psycopg
from psycopg import sql
from psycopg.conninfo import conninfo_to_dict

from .. import __version__
from ..records.seals import CannotSeal, last_head, seal
from . import erasures as erased
from .cluster import binaries

ROOT = Path(__file__).parents[2]
DUMP, MANIFEST = "database.dump", "manifest.json"
MANIFEST_BYTES = 1_000_000
KEPT = 30
"""So many archives are kept in the folder; the first made beyond them go when a new one is good."""
NUMBERED = re.compile(r"vane-check-(\d{6})-\d{4}-")
"""An archive carries its number before its date: a clock that was once ahead puts none before a later one."""


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


def back_up(
    url: str, folder: Path, why: str = "asked for", now: datetime | None = None, spare: Path | None = None
) -> Made:
    """Make a dated archive and note it in the database; `spare` is not thrown away for it. Raises CannotBackUp; that is noted too
    where it can be."""
    at = now or datetime.now(UTC)
    number = max((_number_of(path) for path in folder.glob("vane-check-*")), default=0) + 1
    path = folder / f"vane-check-{number:06d}-{at:%Y-%m-%d-%H%M%S-%f}.zip"
    try:
        folder.mkdir(parents=True, exist_ok=True)
        _seal(url, at)
        erased.note(url, folder)
        rows = _write_archive(url, path, at)
    except (OSError, CannotBackUp, psycopg.Error) as error:
        path.with_suffix(".part").unlink(missing_ok=True)
        line = str(error).strip().splitlines()[0] if str(error).strip() else type(error).__name__
        _note(url, at, why, path.name, 0, {}, line)
        raise CannotBackUp(f"No backup was made: {line}") from error
    made = Made(path, path.stat().st_size, rows)
    _note(url, at, why, path.name, made.bytes, rows, "")
    for old in sorted(set(folder.glob("vane-check-*.zip")) - {path}, key=_made_order)[: 1 - KEPT or None]:
        if old != spare:
            old.unlink(missing_ok=True)
    return made


def _number_of(path: Path) -> int:
    """An archive's number; 0 for one of a release that gave none."""
    match = NUMBERED.match(path.name)
    return int(match[1]) if match else 0


def _made_order(path: Path) -> tuple[int, str]:
    return _number_of(path), path.name


def _seal(url: str, at: datetime) -> None:
    """What came since the last seal goes into the archive sealed, where nobody writes at this very moment."""
    try:
        seal(url, at)
    except (CannotSeal, psycopg.errors.UndefinedTable):
        return  # the one before stands; tables of an earlier release have none


def _write_archive(url: str, path: Path, at: datetime) -> dict[str, int]:
    with psycopg.connect(url, connect_timeout=5) as connection, tempfile.TemporaryDirectory() as scratch:
        connection.execute("set transaction isolation level repeatable read read only")
        connection.execute("set statement_timeout = 0")
        (snapshot,) = connection.execute("select pg_export_snapshot()").fetchone() or ("",)
        dump = Path(scratch) / DUMP
        run("pg_dump", url, "--format=custom", f"--snapshot={snapshot}", f"--file={dump}")
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
    unpacked(path, kept)
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
        row = connection.execute(sql.SQL("select count(*) from {}").format(sql.Identifier(name))).fetchone()
        counts[name] = int(row[0]) if row else 0
    return counts


def unpacked(path: Path, scratch: Path) -> dict[str, Any]:
    """An archive's manifest, its dump put into a folder. Raises CannotBackUp for one that is not whole."""
    try:
        with zipfile.ZipFile(path) as archive:
            _within_bounds(path, archive, scratch)
            manifest: dict[str, Any] = json.loads(archive.read(MANIFEST))
            archive.extract(DUMP, scratch)
    except (OSError, KeyError, ValueError, zipfile.BadZipFile) as error:
        raise CannotBackUp(f"{path.name} is no whole backup: {type(error).__name__}") from error
    if _digest(scratch / DUMP) != manifest.get("sha256"):
        raise CannotBackUp(f"{path.name} is damaged: its contents are not what its manifest says.")
    return manifest


def _within_bounds(path: Path, archive: zipfile.ZipFile, scratch: Path) -> None:
    """An archive of ours is not packed any further, its manifest is short, and there is room for its dump. Raises CannotBackUp."""
    size, dump = archive.getinfo(MANIFEST), archive.getinfo(DUMP)
    if (
        dump.compress_type != zipfile.ZIP_STORED
        or size.compress_type != zipfile.ZIP_STORED
        or size.file_size > MANIFEST_BYTES
    ):
        raise CannotBackUp(f"{path.name} is no whole backup: it is not packed as one is.")
    free = shutil.disk_usage(scratch).free
    if dump.file_size > free:
        raise CannotBackUp(
            f"{path.name} unfolds to {dump.file_size // 10**6:,} MB, and {scratch} has room for {free // 10**6:,} MB."
        )


def _digest(path: Path) -> str:
    digest = hashlib.sha256()
    with open(path, "rb") as file:
        while part := file.read(1 << 20):
            digest.update(part)
    return digest.hexdigest()


def run(program: str, url: str, *arguments: str) -> None:
    """One of PostgreSQL's programs; the password goes by its environment, where no list of processes shows it."""
    settings = conninfo_to_dict(url)
    environment = {
        **os.environ, "PGHOST": str(settings.get("host", "")), "PGPORT": str(settings.get("port", "5432")),
        "PGUSER": str(settings.get("user", "")), "PGPASSWORD": str(settings.get("password", "")),
        "PGDATABASE": str(settings.get("dbname", "")),
    }  # fmt: skip
    done = subprocess.run(
        [str(binaries() / program), *arguments], env=environment, stdin=subprocess.DEVNULL, capture_output=True
    )
    if done.returncode != 0:
        lines = done.stderr.decode(errors="replace").strip().splitlines()
        words = next(
            (line for line in lines if "ERROR" in line or "error:" in line), lines[0] if lines else done.returncode
        )
        raise CannotBackUp(f"{program} failed: {words}")


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


class Asked:
    """Listens for a screen that asks for a backup, beside what watches over the server. Never in its way."""

    def __init__(self, url: str, folder: Path) -> None:
        self.url = url
        self.folder = folder
        self._line: psycopg.Connection[Any] | None = None
        self._tried = 0.0
        self._noting = threading.Lock()

    def look(self, monotonic: float, retry_seconds: float = 5) -> bool:
        """Whether one was asked for since the last look. A database that is away is asked again later."""
        from ..records.house import BACKUP_CHANNEL, FOR_A_BACKUP

        try:
            if self._line is None:
                if monotonic - self._tried < retry_seconds and self._tried:
                    return False
                self._tried = monotonic
                self._line = psycopg.connect(self.url, autocommit=True, connect_timeout=2)
                self._line.execute(f"listen {BACKUP_CHANNEL}")
            payloads = {notice.payload for notice in self._line.notifies(timeout=0)}
            if payloads - {FOR_A_BACKUP}:
                threading.Thread(target=self.note_erased, daemon=True).start()
            return FOR_A_BACKUP in payloads
        except psycopg.Error:
            self.close()
            return False

    def close(self) -> None:
        """Listen no more."""
        if self._line is not None:
            self._line.close()
            self._line = None

    def note_erased(self) -> None:
        """Somebody was forgotten: that is remembered beside the archives, so that none of them brings them back."""
        try:
            with self._noting:
                erased.note(self.url, self.folder)
        except (OSError, ValueError, psycopg.Error) as error:
            print(f"Who was forgotten is not remembered: {type(error).__name__}", file=sys.stderr, flush=True)

    def make(self) -> None:
        """Make it; what goes wrong is noted in the database and said on standard error."""
        try:
            back_up(self.url, self.folder)
        except CannotBackUp as error:
            print(error, file=sys.stderr, flush=True)
