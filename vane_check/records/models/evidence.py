"""Batteries and what was read of them."""

import uuid
from datetime import date, datetime
from typing import Any

from sqlalchemy import CheckConstraint, Computed, ForeignKey, Index, UniqueConstraint, func, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from ..base import Base, OfStore
from .goods import Vehicle
from .house import Customer, Staff

PLACES = ("counter", "bench", "on_charge", "standing", "ready", "held_apart", "on_the_way", "gone")
"""Where a battery physically is. `on_the_way` was sent to another store, `gone` has left the house."""


class BatteryRow(OfStore, Base):
    """A battery with its tag, its label as last corrected, and where it is."""

    __tablename__ = "batteries"
    __table_args__ = (
        UniqueConstraint("store_id", "tag"),
        CheckConstraint(f"place in {PLACES}", name="place"),
        Index("ix_batteries_in_house", "store_id", postgresql_where="place <> 'gone'"),
        Index("ix_batteries_customer_id", "customer_id"),
        Index("ix_batteries_serial_key", "store_id", "serial_key", postgresql_where=text("serial_key <> ''")),
        Index("ix_batteries_vehicle_id", "vehicle_id", "id"),
        Index(
            "ix_batteries_search_text",
            "search_text",
            postgresql_using="gin",
            postgresql_ops={"search_text": "gin_trgm_ops"},
        ),
    )

    tag: Mapped[int]
    place: Mapped[str] = mapped_column(default="counter")
    needs_hand_at: Mapped[datetime | None]
    line: Mapped[str] = mapped_column(default="")
    nominal_volts: Mapped[int] = mapped_column(default=12)
    chemistry: Mapped[str] = mapped_column(default="flooded")
    chemistry_source: Mapped[str] = mapped_column(default="label", server_default="label")
    rated_amps: Mapped[float | None]
    rated_scale: Mapped[str | None]
    rating_source: Mapped[str] = mapped_column(default="label", server_default="label")
    capacity_ah_20h: Mapped[float | None]
    reserve_minutes: Mapped[float | None]
    group_code: Mapped[str | None]
    size_source: Mapped[str] = mapped_column(default="label", server_default="label")
    has_caps: Mapped[bool | None]
    serial: Mapped[str] = mapped_column(default="")
    serial_key: Mapped[str] = mapped_column(
        Computed("upper(regexp_replace(serial, '[^0-9A-Za-z]', '', 'g'))", persisted=True), deferred=True
    )
    made_on: Mapped[date | None]
    sold_on: Mapped[date | None]
    customer_id: Mapped[int | None] = mapped_column(ForeignKey("customers.id"))
    vehicle_id: Mapped[int | None] = mapped_column(ForeignKey("vehicles.id"))
    came_at: Mapped[datetime] = mapped_column(server_default=func.now())
    search_text: Mapped[str] = mapped_column(
        Computed("lower(tag::text || ' ' || line || ' ' || serial)", persisted=True), deferred=True
    )

    customer: Mapped[Customer | None] = relationship(lazy="joined")
    vehicle: Mapped[Vehicle | None] = relationship(lazy="joined")


class CheckRow(OfStore, Base):
    """One visit of a battery: how it came in, and everything read from it since."""

    __tablename__ = "checks"
    __table_args__ = (Index("ix_checks_of_battery", "battery_id", "id"), Index("ix_checks_of_store", "store_id", "id"))

    battery_id: Mapped[int] = mapped_column(ForeignKey("batteries.id"))
    opened_at: Mapped[datetime] = mapped_column(server_default=func.now())
    opened_by: Mapped[int] = mapped_column(ForeignKey("staff.id"))
    came_in: Mapped[str]
    complaint: Mapped[str]
    use: Mapped[str]
    stop_start_car: Mapped[bool]
    undone_at: Mapped[datetime | None]
    """When this take-in was taken back as a mistake."""
    undone_by: Mapped[int | None] = mapped_column(ForeignKey("staff.id"))

    battery: Mapped[BatteryRow] = relationship()


class TakeInEntry(OfStore, Base):
    """The take-in as it was written, and every correction of it."""

    __tablename__ = "take_in_entries"

    check_id: Mapped[int] = mapped_column(ForeignKey("checks.id"), index=True)
    written_at: Mapped[datetime] = mapped_column(server_default=func.now())
    staff_id: Mapped[int] = mapped_column(ForeignKey("staff.id"))
    customer_id: Mapped[int | None] = mapped_column(ForeignKey("customers.id"), index=True)
    body: Mapped[dict[str, Any]]

    staff: Mapped[Staff] = relationship()
    customer: Mapped[Customer | None] = relationship()


class ReadingRow(OfStore, Base):
    """One reading as it was taken. A correction is another row that replaces this one."""

    __tablename__ = "readings"

    reading_uuid: Mapped[uuid.UUID] = mapped_column(unique=True)
    check_id: Mapped[int] = mapped_column(ForeignKey("checks.id"), index=True)
    kind: Mapped[str]
    taken_at: Mapped[datetime]
    kept_at: Mapped[datetime] = mapped_column(server_default=func.now())
    staff_id: Mapped[int] = mapped_column(ForeignKey("staff.id"))
    replaces: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("readings.reading_uuid"), index=True)
    body: Mapped[dict[str, Any]]

    staff: Mapped[Staff] = relationship()


class JudgementRow(OfStore, Base):
    """What was thought at that moment, with the rules it was made under."""

    __tablename__ = "judgements"
    __table_args__ = (
        Index("ix_judgements_of_check", "check_id", "id"),
        Index("ix_judgements_watched", "check_id", "id", postgresql_where=text("outcome = 'watch'")),
    )

    check_id: Mapped[int] = mapped_column(ForeignKey("checks.id"))
    made_at: Mapped[datetime] = mapped_column(server_default=func.now())
    staff_id: Mapped[int] = mapped_column(ForeignKey("staff.id"))
    rules_version_id: Mapped[int] = mapped_column(ForeignKey("rules_versions.id"))
    outcome: Mapped[str]
    body: Mapped[dict[str, Any]]
    # What lists show of a judgement stands beside its body, so that no list reads bodies.
    next_step: Mapped[str | None] = mapped_column(Computed("body #>> '{next_step,key}'", persisted=True))
    charge_low_pct: Mapped[float | None] = mapped_column(
        Computed("(body #>> '{state_of_charge,low_pct}')::double precision", persisted=True)
    )
    charge_high_pct: Mapped[float | None] = mapped_column(
        Computed("(body #>> '{state_of_charge,high_pct}')::double precision", persisted=True)
    )
    figures: Mapped[list[str] | None] = mapped_column(
        JSONB,
        Computed(
            "jsonb_path_query_array(body, '$.findings[*] ? (@.status != \"dropped\").reading_text')", persisted=True
        ),
    )


class Move(OfStore, Base):
    """A battery put somewhere by somebody, until something."""

    __tablename__ = "moves"

    battery_id: Mapped[int] = mapped_column(ForeignKey("batteries.id"), index=True)
    place: Mapped[str]
    needs_hand_at: Mapped[datetime | None]
    moved_at: Mapped[datetime] = mapped_column(server_default=func.now())
    staff_id: Mapped[int] = mapped_column(ForeignKey("staff.id"))


class OwnCall(OfStore, Base):
    """What whoever judged says otherwise, beside the judgement that stands: an outcome with its reason in their words."""

    __tablename__ = "own_calls"

    check_id: Mapped[int] = mapped_column(ForeignKey("checks.id"), index=True)
    judgement_id: Mapped[int] = mapped_column(ForeignKey("judgements.id"))
    staff_id: Mapped[int] = mapped_column(ForeignKey("staff.id"))
    written_at: Mapped[datetime]
    outcome: Mapped[str | None]
    """None takes the one before back."""
    reason: Mapped[str]

    staff: Mapped[Staff] = relationship()


class Remark(OfStore, Base):
    """A remark in free words, or the customer's story as they told it. It is never reworded; it goes when its person is forgotten."""

    __tablename__ = "remarks"
    __table_args__ = (CheckConstraint("what in ('remark', 'story')", name="what"),)

    check_id: Mapped[int] = mapped_column(ForeignKey("checks.id"), index=True)
    staff_id: Mapped[int] = mapped_column(ForeignKey("staff.id"))
    written_at: Mapped[datetime]
    what: Mapped[str]
    text: Mapped[str]

    staff: Mapped[Staff] = relationship()


class Claim(OfStore, Base):
    """A warranty claim as it was written."""

    __tablename__ = "claims"
    __table_args__ = (Index("ix_claims_serial_key", "store_id", "serial_key"),)

    battery_id: Mapped[int] = mapped_column(ForeignKey("batteries.id"), unique=True)
    judgement_id: Mapped[int] = mapped_column(ForeignKey("judgements.id"))
    replacement_item_id: Mapped[int | None] = mapped_column(ForeignKey("catalogue_items.id"))
    written_at: Mapped[datetime] = mapped_column(server_default=func.now())
    staff_id: Mapped[int] = mapped_column(ForeignKey("staff.id"))
    serial: Mapped[str] = mapped_column(default="")
    serial_key: Mapped[str] = mapped_column(
        Computed("upper(regexp_replace(serial, '[^0-9A-Za-z]', '', 'g'))", persisted=True), deferred=True
    )
    decision: Mapped[str]
    credit_cents: Mapped[int]
    body: Mapped[dict[str, Any]]
