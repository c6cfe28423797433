"""The charge rack: the house's equipment, what hangs on which charger, promises, pins, and the plans that were acted upon."""

from datetime import date, datetime
from typing import Any

from sqlalchemy import CheckConstraint, ForeignKey, Index, UniqueConstraint, func, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from ..base import Base, OfStore
from .evidence import BatteryRow
from .house import Staff

KINDS = ("charger", "meter", "tester", "load", "hydrometer", "discharger")
STATES = ("in_use", "out_of_order", "away")
PRIORITIES = ("waiting", "promised", "warranty", "ordinary", "stock")


class EquipmentRow(OfStore, Base):
    """A tool of the house as it stands now; what was written before stays in its entries."""

    __tablename__ = "equipment"
    __table_args__ = (
        UniqueConstraint("store_id", "name"),
        CheckConstraint(f"kind in {KINDS}", name="kind"),
        CheckConstraint(f"state in {STATES}", name="state"),
    )

    name: Mapped[str]
    kind: Mapped[str]
    tool: Mapped[dict[str, Any]]
    state: Mapped[str] = mapped_column(default="in_use")
    checked_on: Mapped[date | None]
    check_every_months: Mapped[float | None]
    remarks: Mapped[str] = mapped_column(default="")
    edition: Mapped[int] = mapped_column(default=1)
    """Counts its entries: who writes over another's says which one was seen."""


class EquipmentEntry(OfStore, Base):
    """A tool as it was written, by whom and when."""

    __tablename__ = "equipment_entries"

    equipment_id: Mapped[int] = mapped_column(ForeignKey("equipment.id"), index=True)
    edition: Mapped[int]
    written_at: Mapped[datetime] = mapped_column(server_default=func.now())
    staff_id: Mapped[int] = mapped_column(ForeignKey("staff.id"))
    body: Mapped[dict[str, Any]]

    staff: Mapped[Staff] = relationship()


class RackStay(OfStore, Base):
    """A battery on one output of a charger, from when it was clamped on until it was taken off."""

    __tablename__ = "rack_stays"
    __table_args__ = (
        Index("uq_rack_stays_battery", "battery_id", unique=True, postgresql_where=text("off_at is null")),
        Index("uq_rack_stays_output", "equipment_id", "output", unique=True, postgresql_where=text("off_at is null")),
        Index("ix_rack_stays_of_battery", "battery_id", "id"),
        CheckConstraint("how is null or how in ('full', 'early', 'moved')", name="how"),
    )

    battery_id: Mapped[int] = mapped_column(ForeignKey("batteries.id"))
    check_id: Mapped[int] = mapped_column(ForeignKey("checks.id"))
    equipment_id: Mapped[int] = mapped_column(ForeignKey("equipment.id"))
    output: Mapped[int]
    step: Mapped[str]
    volts: Mapped[float]
    amps: Mapped[float]
    hours: Mapped[float]
    connected_at: Mapped[datetime]
    connected_by: Mapped[int] = mapped_column(ForeignKey("staff.id"))
    off_at: Mapped[datetime | None]
    off_by: Mapped[int | None] = mapped_column(ForeignKey("staff.id"))
    how: Mapped[str | None]

    battery: Mapped[BatteryRow] = relationship()
    equipment: Mapped[EquipmentRow] = relationship()


class Promise(OfStore, Base):
    """When a battery was promised, and how it is treated; the newest of a visit holds."""

    __tablename__ = "promises"

    check_id: Mapped[int] = mapped_column(ForeignKey("checks.id"), index=True)
    promised_at: Mapped[datetime | None]
    priority: Mapped[str]
    said_at: Mapped[datetime]
    staff_id: Mapped[int] = mapped_column(ForeignKey("staff.id"))


class RackPin(OfStore, Base):
    """A battery set on a charger by hand; the newest of a visit holds, one without a charger lifts it."""

    __tablename__ = "rack_pins"

    check_id: Mapped[int] = mapped_column(ForeignKey("checks.id"), index=True)
    equipment_id: Mapped[int | None] = mapped_column(ForeignKey("equipment.id"))
    output: Mapped[int | None]
    starts_at: Mapped[datetime | None]
    pinned_at: Mapped[datetime]
    staff_id: Mapped[int] = mapped_column(ForeignKey("staff.id"))


class RackPlan(OfStore, Base):
    """A plan of the rack as it stood after something was done, why it was made anew, and what it changed."""

    __tablename__ = "rack_plans"
    __table_args__ = (Index("ix_rack_plans_newest", "store_id", "id"),)

    made_at: Mapped[datetime]
    staff_id: Mapped[int] = mapped_column(ForeignKey("staff.id"))
    why: Mapped[str]
    slots: Mapped[list[dict[str, Any]]] = mapped_column(JSONB)
    changes: Mapped[list[dict[str, Any]]] = mapped_column(JSONB)

    staff: Mapped[Staff] = relationship()
