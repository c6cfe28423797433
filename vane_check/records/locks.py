"""One at a time: whoever changes the same thing waits until the other's transaction is over."""

from sqlalchemy import func, select
from sqlalchemy.orm import Session

TRIES, CHANGES, SERIALS, NAMES, RACKS = 1, 2, 3, 4, 5
"""What a name is the name of: the same words of two of them are two locks."""


def wait_for(session: Session, name: str, of: int) -> None:
    """Hold the lock of a name until this transaction ends, after whoever holds it now."""
    session.execute(select(func.pg_advisory_xact_lock(func.hashtextextended(name, of))))
