"""What the house did with a serial, in whichever store: sold it, gave it under warranty, wrote a claim for it."""

from collections.abc import Sequence
from datetime import datetime
from typing import Any, NamedTuple

from sqlalchemy import text
from sqlalchemy.orm import Session

from .batteries import serial_key


class Done(NamedTuple):
    """What was done with a serial: where and when, and for one that was given, whose dates and terms it keeps."""

    store: str
    is_here: bool
    battery_id: int | None
    """Only of this store."""
    tag: int | None
    what: str
    """sold, given (under warranty) or claimed."""
    at: datetime
    warranty: dict[str, Any] | None


def done_with(session: Session, serial: str) -> Sequence[Done]:
    """All of it, the newest first; nothing where there is no serial."""
    key = serial_key(serial)
    if not key:
        return ()
    return [Done(*row) for row in session.execute(text("select * from serial_in_house(:key)"), {"key": key})]
