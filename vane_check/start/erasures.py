"""Who was forgotten stays forgotten: remembered by number in a file beside the archives, and done again after every restore."""

import json
import os
from datetime import UTC, datetime
from pathlib import Path
from typing import NamedTuple

import psycopg

from ..records import customer_rights, stores
from ..records.base import StoreSession, engine_of, sessions_of

FILE = "forgotten.json"

SINCE = """
    select c.store_id, c.id, to_char(least(min(b.came_at), min(e.written_at)) at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US')
    from customers c
    left join batteries b on b.customer_id = c.id left join take_in_entries e on e.customer_id = c.id
    where c.erased_at is {} null group by 1, 2
"""
"""Whom a number means, by the moment they first came: after a restore the same number may be given to somebody else."""


class Forgotten(NamedTuple):
    """Somebody by number and first moment; no name."""

    store_id: int
    customer_id: int
    since: str | None


def remembered(folder: Path) -> set[Forgotten]:
    """Who the file says was forgotten."""
    try:
        return {Forgotten(*load) for load in json.loads((folder / FILE).read_text())}
    except FileNotFoundError:
        return set()


def note(url: str, folder: Path) -> int:
    """Put everybody who is forgotten in this database into the file, beside those who are there. Returns how many there are."""
    with psycopg.connect(url, connect_timeout=5) as connection:
        if (connection.execute("select to_regclass('public.take_in_entries')").fetchone() or (None,))[0] is None:
            return 0  # nothing is set up here
        try:
            here = {Forgotten(*row) for row in connection.execute(SINCE.format("not"))}
        except psycopg.errors.UndefinedColumn:
            return 0  # tables of a release that forgot nobody
    before = remembered(folder)
    if here <= before:
        return len(before)
    folder.mkdir(parents=True, exist_ok=True)
    new = folder / f"{FILE}.part"
    with os.fdopen(os.open(new, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "w") as file:
        json.dump(sorted(before | here, key=lambda erasure: erasure[:2]), file)
        file.flush()
        os.fsync(file.fileno())
    new.rename(folder / FILE)
    return len(before | here)


def forget_again(url: str, *folders: Path) -> int:
    """Forget whoever came back with an archive, as the files in these folders remember them. Returns how many did."""
    known = {erasure for folder in folders for erasure in remembered(folder)}
    with psycopg.connect(url, connect_timeout=5) as connection:
        back = {Forgotten(*row) for row in connection.execute(SINCE.format(""))} & known
    engine = engine_of(url, for_requests=False)
    try:
        for store_id in sorted({erasure.store_id for erasure in back}):
            with sessions_of(engine).begin() as session:
                assert isinstance(session, StoreSession)
                session.bind_to(store_id)
                ids = {erasure.customer_id for erasure in back if erasure.store_id == store_id}
                customer_rights.erase(session, ids, datetime.now(UTC))
                stores.forget_on_the_way(session, ids)
    finally:
        engine.dispose()
    return len(back)
