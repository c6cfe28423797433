"""What goes from one store of the house to another."""

from datetime import datetime
from typing import Any

from sqlalchemy import CheckConstraint, ForeignKey, Index, text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from ..base import Base
from .house import Staff

KINDS = ("battery", "piece", "customer")
STATES = ("on_the_way", "arrived", "called_back")


class Transfer(Base):
    """A battery, a piece or a customer on its way. Seen by the two stores it is between, and by no other.

    `body` is what the other store needs to write it in; it is emptied where it arrived, for then it stands there.
    """

    __tablename__ = "transfers"
    __table_args__ = (
        CheckConstraint(f"kind in {KINDS}", name="kind"),
        CheckConstraint(f"state in {STATES}", name="state"),
        CheckConstraint("from_store_id <> to_store_id", name="two_stores"),
        Index("ix_transfers_open", "from_store_id", "to_store_id", postgresql_where=text("state = 'on_the_way'")),
        Index("ix_transfers_to_store_id", "to_store_id", "id"),
        Index("ix_transfers_from_store_id", "from_store_id", "id"),
        Index(
            "uq_transfers_battery",
            "battery_id",
            unique=True,
            postgresql_where=text("battery_id is not null and state <> 'called_back'"),
        ),
    )

    kind: Mapped[str]
    from_store_id: Mapped[int] = mapped_column(ForeignKey("stores.id"))
    to_store_id: Mapped[int] = mapped_column(ForeignKey("stores.id"))
    from_name: Mapped[str]
    to_name: Mapped[str]
    """As the stores were called then."""
    battery_id: Mapped[int | None] = mapped_column(ForeignKey("batteries.id"))
    piece_id: Mapped[int | None] = mapped_column(ForeignKey("stock_pieces.id"), index=True)
    customer_id: Mapped[int | None] = mapped_column(ForeignKey("customers.id"), index=True)
    tag: Mapped[int | None]
    subject: Mapped[str]
    """What it is, without whose."""
    note: Mapped[str] = mapped_column(default="")
    body: Mapped[dict[str, Any]]
    state: Mapped[str] = mapped_column(default="on_the_way")
    sent_at: Mapped[datetime]
    sent_by: Mapped[int] = mapped_column(ForeignKey("staff.id"))
    sent_by_name: Mapped[str]
    settled_at: Mapped[datetime | None]
    settled_by_name: Mapped[str] = mapped_column(default="")
    arrived_tag: Mapped[int | None]

    sender: Mapped[Staff] = relationship()
