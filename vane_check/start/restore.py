"""Back from an archive, all in one transaction: until it commits the old database stands, whatever is killed meanwhile."""

import json
import tempfile
from pathlib import Path
from typing import Any

import psycopg

from ..records.events import AT_WORK_LOCK
from ..records.migrate import migrate
from . import erasures as erased
from .backup import DUMP, CannotBackUp, back_up, row_counts, run, unpacked

LOCK_SECONDS = 10
AT_WORK, DIFFERS = "vane check is at work", "not what was kept:"

FIRST = f"""
set client_min_messages = warning;
set lock_timeout = '{LOCK_SECONDS}s';
do $$ begin
  if not pg_try_advisory_xact_lock({AT_WORK_LOCK}) then raise exception '{AT_WORK}'; end if;
end $$;
drop schema public cascade;
create schema public;
"""
LAST = """
do $$
declare
  kept constant jsonb := '{rows}';
  name text;
  there bigint;
  differ text[] := '{{}}';
begin
  for name in select tablename from pg_catalog.pg_tables where schemaname = 'public'
              union select key from pg_catalog.jsonb_object_keys(kept) key loop
    there := null;
    if pg_catalog.to_regclass(pg_catalog.format('public.%I', name)) is not null then
      execute pg_catalog.format('select count(*) from public.%I', name) into there;
    end if;
    if there is distinct from (kept ->> name)::bigint then differ := differ || name; end if;
  end loop;
  if differ <> '{{}}' then raise exception '{differs} %', pg_catalog.array_to_string(differ, ', '); end if;
end $$;
comment on schema public is null;
"""
"""What came back is counted before it counts. What an archive was granted is not in it: the mark of that must not be, either."""


def restore(url: str, path: Path, replace: bool = False, folder: Path | None = None) -> tuple[dict[str, int], int]:
    """Put an archive back into an empty database, or over what is there with `replace`, and bring its tables up to date. What it
    replaces goes into an archive of its own in `folder` first (where the one that is put back lies, unless told otherwise), and
    whoever was forgotten since is forgotten again. Returns the rows of each table, and how many people came back and were forgotten.

    Raises CannotBackUp for an archive that is damaged, a database that is not empty (unless `replace`) or that a server works on,
    and for rows that do not come back; then the database is as it was.
    """
    beside = folder or path.parent
    with tempfile.TemporaryDirectory() as scratch:
        place = Path(scratch)
        manifest = unpacked(path, place)
        if _holds_something(url):
            if not replace:
                raise CannotBackUp(
                    "There is a shop in this database already: restore into an empty one, or say so with --yes."
                )
            _nobody_works(url)
            back_up(url, beside, "before another was put back", spare=path)
        (place / "first.sql").write_text(FIRST)
        (place / "last.sql").write_text(LAST.format(rows=_quoted(manifest["rows"]), differs=DIFFERS))
        run("pg_restore", url, "--no-owner", "--no-acl", f"--file={place / 'dump.sql'}", str(place / DUMP))
        try:
            files = [f"--file={place / name}" for name in ("first.sql", "dump.sql", "last.sql")]
            run(
                "psql",
                url,
                "--no-psqlrc",
                "--quiet",
                "--set=ON_ERROR_STOP=1",
                "--single-transaction",
                "--output=/dev/null",
                *files,
            )
        except CannotBackUp as error:
            raise _in_words(error) from error
    with psycopg.connect(url) as connection:
        rows = row_counts(connection)
    migrate(url)
    return rows, erased.forget_again(url, beside, path.parent)


def _quoted(rows: dict[str, int]) -> str:
    return json.dumps(rows).replace("'", "''")


def _holds_something(url: str) -> bool:
    with psycopg.connect(url, connect_timeout=5) as connection:
        there = connection.execute("select to_regclass('public.stores')").fetchone()
        if there is None or there[0] is None:
            return False
        return connection.execute("select 1 from stores limit 1").fetchone() is not None


def _nobody_works(url: str) -> None:
    """Asked before the old one is backed up; the transaction asks again."""
    with psycopg.connect(url, connect_timeout=5) as connection:
        free: Any = connection.execute("select pg_try_advisory_xact_lock(%s)", (AT_WORK_LOCK,)).fetchone()
    if free != (True,):
        raise _at_work()


def _at_work() -> CannotBackUp:
    return CannotBackUp("Vane Check is at work on this database: stop it first, then restore.")


def _in_words(error: CannotBackUp) -> CannotBackUp:
    words = str(error)
    if AT_WORK in words:
        return _at_work()
    if DIFFERS in words:
        return CannotBackUp(f"What came back is {words[words.index(DIFFERS) :]}")
    return CannotBackUp(f"Nothing was put back, and what was there stands: {words}")
