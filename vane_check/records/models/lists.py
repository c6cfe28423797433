"""What is brought in by lists: codes of other trades, the runs themselves, how a heading is read, warranty terms."""

from datetime import date, datetime
from typing import Any

from sqlalchemy import (
    BigInteger,
    CheckConstraint,
    Column,
    ForeignKey,
    Index,
    LargeBinary,
    String,
    Table,
    UniqueConstraint,
    text,
)
from sqlalchemy.dialects.postgresql import ARRAY, JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from ..base import Base, OfStore
from .house import Staff

INCOMING = Table(
    "incoming_rows",
    Base.metadata,
    Column("batch", BigInteger, nullable=False),
    Column("body", JSONB, nullable=False),
    prefixes=["unlogged"],
)
"""Rows of a list on their way, within one transaction: `records/importing.py`."""


class SizeAlias(OfStore, Base):
    """A code of another trade, as this shop brought it in."""

    __tablename__ = "size_aliases"
    __table_args__ = (UniqueConstraint("store_id", "code"),)

    code: Mapped[str]
    size: Mapped[str] = mapped_column(default="")
    positive_side: Mapped[str] = mapped_column(default="")
    capacity_ah_20h: Mapped[float | None]
    rated_amps: Mapped[float | None]
    rated_scale: Mapped[str] = mapped_column(default="CCA")
    trade: Mapped[str] = mapped_column(default="")
    source: Mapped[str] = mapped_column(default="")


class ImportRun(OfStore, Base):
    """A file being brought in: what was sent, how it is read, how far it is, what was refused."""

    __tablename__ = "import_runs"
    __table_args__ = (
        CheckConstraint(
            "state in ('reading', 'sent', 'checking', 'checked', 'keeping', 'kept', 'stopped', 'failed')", name="state"
        ),
    )

    kind: Mapped[str]
    file_name: Mapped[str]
    content: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    columns: Mapped[dict[str, Any]]
    mapping: Mapped[dict[str, Any]]
    state: Mapped[str]
    rows_done: Mapped[int] = mapped_column(default=0)
    rows_total: Mapped[int] = mapped_column(default=0)
    rows_good: Mapped[int] = mapped_column(default=0)
    rows_refused: Mapped[int] = mapped_column(default=0)
    refused: Mapped[dict[str, Any]] = mapped_column(default=dict, deferred=True)
    stop_asked: Mapped[bool] = mapped_column(default=False)
    problem: Mapped[str] = mapped_column(default="")
    sent_at: Mapped[datetime]
    beat_at: Mapped[datetime]
    staff_id: Mapped[int] = mapped_column(ForeignKey("staff.id"))


class ImportMapping(OfStore, Base):
    """How columns of one heading are read, as somebody confirmed it once."""

    __tablename__ = "import_mappings"
    __table_args__ = (UniqueConstraint("store_id", "kind", "heading"),)

    kind: Mapped[str]
    heading: Mapped[str]
    mapping: Mapped[dict[str, Any]]
    confirmed_at: Mapped[datetime]
    staff_id: Mapped[int] = mapped_column(ForeignKey("staff.id"))


class TermsRow(OfStore, Base):
    """An edition of what the warranty of a line promises, once. The newest of those that hold on a day is in force then."""

    __tablename__ = "warranty_terms"
    __table_args__ = (Index("ix_warranty_terms_line", "store_id", text("lower(line)")),)

    line: Mapped[str]
    free_months: Mapped[int]
    pro_rata_months: Mapped[int]
    date_code_allowance_months: Mapped[int]
    excluded_uses: Mapped[list[str]] = mapped_column(ARRAY(String), default=list)
    reference: Mapped[str] = mapped_column(default="")
    holds_from: Mapped[date | None]
    """The first day of a sale it holds for; None is from the beginning."""
    item: Mapped[str] = mapped_column(default="", server_default="")
    """The one item it is for; none is the whole line."""
    body: Mapped[dict[str, Any]] = mapped_column(default=dict, server_default="{}")
    """How its pro rata is counted, and shorter terms by use: `core/goods/terms.py`."""
    written_at: Mapped[datetime | None]
    staff_id: Mapped[int | None] = mapped_column(ForeignKey("staff.id"))

    staff: Mapped[Staff | None] = relationship()
