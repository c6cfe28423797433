"""Writes by the name their screen gave them."""

import uuid

from sqlalchemy import select, text
from sqlalchemy.orm import Session

from .models import Write


def made_already(session: Session, write_id: uuid.UUID) -> Write | None:
    """The write of that name, if it was made. Waits for one of the same name that is being made at this moment."""
    session.execute(text("select pg_advisory_xact_lock(hashtextextended(:name, 4))"), {"name": str(write_id)})
    return session.scalar(select(Write).where(Write.write_id == write_id))
