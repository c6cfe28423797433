"""What stands in the way of a start or of a command, said in one sentence."""

import errno
from datetime import datetime

import psycopg

_WHAT_TO_DO = {
    errno.ENOSPC: "the disk is full. Free some room, then try again.",
    errno.EDQUOT: "no more room is given to this user. Free some, then try again.",
    errno.EROFS: "the disk can only be read. Start from a folder that can be written to.",
    errno.EACCES: "this user may not. Start as the user whose folder it is, or give it to this one.",
    errno.EPERM: "this user may not. Start as the user whose folder it is, or give it to this one.",
}
_KEPT_LAST = """
select greatest((select max(kept_at) from readings), (select max(written_at) from take_in_entries), (select max(seen_at) from sessions))
"""


def in_a_sentence(error: BaseException | None) -> str:
    """Where, and what to do; of a database that is away the first of what it says."""
    if not isinstance(error, OSError):
        lines = str(error).strip().splitlines()
        return f"The database cannot be reached: {lines[0] if lines else 'it does not say why'}"
    where = f"{error.filename}: " if error.filename else ""
    return f"{where}{_WHAT_TO_DO.get(error.errno or 0, error.strerror or str(error))}"


def last_kept_at(url: str) -> datetime | None:
    """When anything was kept last, by the clock of then; None where nothing was, or nobody can be asked."""
    try:
        with psycopg.connect(url, connect_timeout=5) as connection:
            row = connection.execute(_KEPT_LAST).fetchone()
    except psycopg.Error:
        return None  # no tables yet, of an earlier release, or away: the migration says which
    return None if row is None else row[0]
