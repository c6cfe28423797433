"""Seals over the evidence: each carries a hash over the rows that came since the one before, and over that one's own.

Whoever changes a row, takes one away or puts one under the others, the owner of the tables too, changes what the seal over
it must be, and that of every later one. Whoever makes all of them anew differs from the heads that archives hold.

A seal's head is the SHA-256 of the head before it and of its own part: for each table the first and the last row it covers,
the columns it has, and the SHA-256 over the rows in order, each as PostgreSQL's `row_to_json` writes it, one a line.
"""

import hashlib
import json
from collections.abc import Iterator, Mapping
from datetime import UTC, datetime, timedelta
from typing import Any, NamedTuple

import psycopg
from psycopg import sql

from .models import APPEND_ONLY

NOTHING_BEFORE = "0" * 64
WAIT_MS = 200
"""So long a seal waits for a write that is under way: shorter than the database waits before it ends one of two in each
other's way, so that it is never the write that gives up."""
AT_LEAST_EVERY = timedelta(days=1)
AS_WRITTEN = "set local timezone = 'UTC'; set local datestyle = 'ISO'; set local extra_float_digits = 1; set local bytea_output = 'hex'"
"""However a server is set, a row is written the same."""


class CannotSeal(RuntimeError):
    """Somebody writes at this moment, or there is nothing to seal in: it is tried again later."""


class Part(NamedTuple):
    """What a seal covers of one table: rows after one id up to another, in these columns, and the SHA-256 over them."""

    after: int
    up_to: int
    columns: list[str]
    rows: int
    sha256: str


class Seal(NamedTuple):
    """A seal as it is kept."""

    id: int
    made_at: datetime
    head: str
    parts: dict[str, Part]

    @property
    def rows(self) -> int:
        """How many rows it covers."""
        return sum(part.rows for part in self.parts.values())


class Verified(NamedTuple):
    """What walking all seals found: nothing wrong where `faults` is empty."""

    seals: list[Seal]
    faults: list[str]
    since: int
    """Rows that came after the last seal."""


def seals_of(connection: "psycopg.Connection[Any]") -> list[Seal]:
    """All of them, the first one first."""
    result = connection.execute("select id, made_at, head, parts from seals order by id").fetchall()
    return [
        Seal(number, at, head, {table: Part(**part) for table, part in parts.items()})
        for number, at, head, parts in result
    ]


def last_head(connection: "psycopg.Connection[Any]") -> tuple[int, str] | None:
    """The last seal's number and head; None before the first, and where tables are of a release that had none."""
    there = connection.execute("select to_regclass('public.seals')").fetchone()
    if there is None or there[0] is None:
        return None
    row = connection.execute("select id, head from seals order by id desc limit 1").fetchone()
    return None if row is None else (int(row[0]), str(row[1]))


def seal_if_due(url: str, now: datetime | None = None) -> Seal | None:
    """Make one where the last is a day old. None where it is not, or where it has to wait; the next hour tries again."""
    moment = now or datetime.now(UTC)
    try:
        with psycopg.connect(url, connect_timeout=5) as connection:
            last = connection.execute("select max(made_at) from seals").fetchone()
        if last is not None and last[0] is not None and moment - last[0] < AT_LEAST_EVERY:
            return None
        return seal(url, moment)
    except (CannotSeal, psycopg.Error):
        return None


def seal(url: str, now: datetime | None = None) -> Seal | None:
    """Seal what came since the last. None where nothing came. Runs as the owner. Raises CannotSeal where a write is under way."""
    with psycopg.connect(url, connect_timeout=5) as connection:
        ends = _ends(connection)
        connection.commit()
        connection.execute(AS_WRITTEN)
        connection.execute("select pg_advisory_xact_lock(hashtext('vane check seals'))")
        before = seals_of(connection)
        columns = _columns(connection)
        parts = {
            table: _part(connection, table, _last_id(before, table), up_to, columns[table])
            for table, up_to in ends.items()
            if up_to > _last_id(before, table)
        }
        if not parts:
            return None
        head = _head(before[-1].head if before else NOTHING_BEFORE, parts)
        made = connection.execute(
            "insert into seals (made_at, head, parts) values (%s, %s, %s) returning id, made_at",
            (now or datetime.now(UTC), head, json.dumps({table: part._asdict() for table, part in parts.items()})),
        ).fetchone()
        assert made is not None
        return Seal(made[0], made[1], head, parts)


def verify(url: str, heads: Mapping[str, tuple[int, str]] | None = None) -> Verified:
    """Walk every seal, and hold the heads that archives of this database carry against them. Changes nothing."""
    faults: list[str] = []
    with psycopg.connect(url, connect_timeout=5) as connection:
        connection.execute("set transaction isolation level repeatable read read only")
        connection.execute(AS_WRITTEN)
        seals = seals_of(connection)
        head = NOTHING_BEFORE
        reached: dict[str, int] = {}
        for seal in seals:
            for table, part in seal.parts.items():
                faults += _faults_of(connection, seal, table, part, reached.get(table, 0))
                reached[table] = part.up_to
            if _head(head, seal.parts) != seal.head:
                faults.append(
                    f"seal {seal.id} of {_day(seal)} does not follow from the one before it: it was made anew"
                )
            head = seal.head
        known = {seal.id: seal.head for seal in seals}
        for name, (number, kept) in sorted((heads or {}).items()):
            if known.get(number) != kept:
                faults.append(f"{name} holds another head for seal {number}: the seals were made anew after it")
        since = sum(_count_after(connection, table, reached.get(table, 0)) for table in APPEND_ONLY)
    return Verified(seals, faults, since)


def _ends(connection: "psycopg.Connection[Any]") -> dict[str, int]:
    """The last row of each table, at a moment at which nobody writes: no row with a lower number can come later."""
    try:
        connection.execute(f"set local lock_timeout = {WAIT_MS}")
        names = sql.SQL(", ").join(map(sql.Identifier, APPEND_ONLY))
        connection.execute(sql.SQL("lock table {} in exclusive mode").format(names))
    except psycopg.errors.LockNotAvailable as error:
        raise CannotSeal("Somebody writes at this moment: it is tried again later.") from error
    result = {}
    for table in APPEND_ONLY:
        row = connection.execute(
            sql.SQL("select coalesce(max(id), 0) from {}").format(sql.Identifier(table))
        ).fetchone()
        result[table] = int(row[0]) if row else 0
    return result


def _columns(connection: "psycopg.Connection[Any]") -> dict[str, list[str]]:
    """The columns each table has now, by name: one that comes later changes no earlier hash."""
    result = connection.execute(
        "select table_name, array_agg(column_name::text order by column_name) from information_schema.columns"
        " where table_schema = 'public' and table_name = any (%s) group by 1",
        (list(APPEND_ONLY),),
    ).fetchall()
    return dict(result)


def _rows(
    connection: "psycopg.Connection[Any]", table: str, after: int, up_to: int, columns: list[str]
) -> Iterator[str]:
    query = sql.SQL(
        "select row_to_json(r)::text from (select {} from {} where id > %s and id <= %s order by id) r"
    ).format(sql.SQL(", ").join(map(sql.Identifier, columns)), sql.Identifier(table))
    with connection.cursor("sealed") as rows:
        rows.itersize = 2000
        for (row,) in rows.execute(query, (after, up_to)):
            yield row


def _part(connection: "psycopg.Connection[Any]", table: str, after: int, up_to: int, columns: list[str]) -> Part:
    digest, count = hashlib.sha256(), 0
    for row in _rows(connection, table, after, up_to, columns):
        digest.update(row.encode() + b"\n")
        count += 1
    return Part(after, up_to, columns, count, digest.hexdigest())


def _head(before: str, parts: Mapping[str, Part]) -> str:
    figures = {table: part._asdict() for table, part in parts.items()}
    return hashlib.sha256(f"{before}\n{json.dumps(figures, sort_keys=True)}".encode()).hexdigest()


def _faults_of(connection: "psycopg.Connection[Any]", seal: Seal, table: str, part: Part, reached: int) -> list[str]:
    where = f"{table}, rows {part.after + 1} to {part.up_to}, sealed {_day(seal)}"
    if part.after != reached:
        return [f"{where}: they do not follow on row {reached}"]
    try:
        with connection.transaction():
            now = _part(connection, table, part.after, part.up_to, part.columns)
    except psycopg.errors.UndefinedColumn:
        return [f"{where}: a column they were sealed with is gone"]
    if now.rows != part.rows:
        return [f"{where}: {now.rows} rows where {part.rows} were sealed"]
    return [] if now.sha256 == part.sha256 else [f"{where}: changed since"]


def _last_id(seals: list[Seal], table: str) -> int:
    return max((seal.parts[table].up_to for seal in seals if table in seal.parts), default=0)


def _count_after(connection: "psycopg.Connection[Any]", table: str, row: int) -> int:
    result = connection.execute(
        sql.SQL("select count(*) from {} where id > %s").format(sql.Identifier(table)), (row,)
    ).fetchone()
    return int(result[0]) if result else 0


def _day(seal: Seal) -> str:
    return f"{seal.made_at.astimezone(UTC):%d %b %Y}"
