"""Writes by the name their screen gave them."""

import uuid

from sqlalchemy import select
from sqlalchemy.orm import Session

from .locks import NAMES, wait_for
from .models import Write


def find_write(session: Session, write_id: uuid.UUID) -> Write | None:
    """The write of that name, if it was made. Waits for one of the same name that is being made at this moment."""
    wait_for(session, str(write_id), NAMES)
    return session.scalar(select(Write).where(Write.write_id == write_id))
