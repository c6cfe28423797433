"""The tables. Readings, judgements, take-in entries, moves and claims are append-only: the database refuses a change."""

import secrets
import uuid
from datetime import date, datetime
from typing import Any

from sqlalchemy import CheckConstraint, Computed, ForeignKey, Index, Integer, String, UniqueConstraint, func, text
from sqlalchemy.dialects.postgresql import ARRAY, JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from .base import Base, OfStore

APPEND_ONLY = (
    "take_in_entries", "readings", "judgements", "moves", "claims", "rules_versions", "sign_in_tries", "writes", "erasures",
)  # fmt: skip
"""Tables whose rows are evidence; a trigger refuses UPDATE and DELETE on them."""

PLACES = ("counter", "bench", "on_charge", "standing", "ready", "held_apart", "gone")
"""Where a battery physically is. `gone` has left the house."""


class Store(Base):
    """A shop: its units, money and next free tag."""

    __tablename__ = "stores"

    name: Mapped[str]
    temperature_unit: Mapped[str] = mapped_column(String(1), default="C")
    length_unit: Mapped[str] = mapped_column(String(2), default="mm")
    currency: Mapped[str] = mapped_column(String(3), default="EUR")
    bay_temperature_c: Mapped[float | None]
    idle_minutes: Mapped[int] = mapped_column(default=10)
    session_hours: Mapped[int] = mapped_column(default=12, server_default="12")
    next_tag: Mapped[int] = mapped_column(default=1)
    time_zone: Mapped[str] = mapped_column(default="UTC", server_default="UTC")
    demo: Mapped[bool] = mapped_column(default=False, server_default="false")
    door: Mapped[str] = mapped_column(default=lambda: secrets.token_urlsafe(9), unique=True)
    """What the address of this store's sign-in page carries, where several stores share a server."""


class Staff(OfStore, Base):
    """A person who signs in with a PIN."""

    __tablename__ = "staff"
    __table_args__ = (CheckConstraint("role in ('counter', 'lead')", name="role"),)

    name: Mapped[str]
    role: Mapped[str]
    pin_hash: Mapped[str]
    left_at: Mapped[datetime | None]


class SignInTry(OfStore, Base):
    """A try at a PIN from an address: `tried` before it is looked at, `right` after, `lifted` when a lead ends the waiting."""

    __tablename__ = "sign_in_tries"
    __table_args__ = (
        CheckConstraint("kind in ('tried', 'right', 'lifted')", name="kind"),
        Index("ix_sign_in_tries_of", "staff_id", "address", "id"),
        Index("ix_sign_in_tries_from", "address", "id"),
    )

    staff_id: Mapped[int] = mapped_column(ForeignKey("staff.id"))
    address: Mapped[str]
    kind: Mapped[str]
    tried_at: Mapped[datetime] = mapped_column(server_default=func.now())
    lifted_by: Mapped[int | None] = mapped_column(ForeignKey("staff.id"))


class SignIn(OfStore, Base):
    """A server-side session. Only the hash of its token is kept."""

    __tablename__ = "sessions"

    staff_id: Mapped[int] = mapped_column(ForeignKey("staff.id"), index=True)
    token_hash: Mapped[str] = mapped_column(unique=True)
    csrf_token: Mapped[str]
    began_at: Mapped[datetime] = mapped_column(server_default=func.now())
    seen_at: Mapped[datetime] = mapped_column(server_default=func.now())
    ends_at: Mapped[datetime]
    ended_at: Mapped[datetime | None]

    staff: Mapped[Staff] = relationship()
    store: Mapped[Store] = relationship()


class RulesVersion(OfStore, Base):
    """One version of the house's rules, whole."""

    __tablename__ = "rules_versions"
    __table_args__ = (UniqueConstraint("store_id", "version"),)

    version: Mapped[str]
    made_at: Mapped[datetime] = mapped_column(server_default=func.now())
    made_by: Mapped[int | None] = mapped_column(ForeignKey("staff.id"))
    reason: Mapped[str] = mapped_column(default="")
    body: Mapped[dict[str, Any]]


class Customer(OfStore, Base):
    """As little as the counter needs, apart from all evidence: it can be erased, and evidence stays whole without it."""

    __tablename__ = "customers"
    __table_args__ = (
        Index(
            "ix_customers_search_text",
            "search_text",
            postgresql_using="gin",
            postgresql_ops={"search_text": "gin_trgm_ops"},
        ),
    )

    name: Mapped[str]
    phone: Mapped[str] = mapped_column(default="")
    plate: Mapped[str] = mapped_column(default="", server_default="")
    erased_at: Mapped[datetime | None]
    search_text: Mapped[str] = mapped_column(Computed("lower(name || ' ' || phone || ' ' || plate)", persisted=True))


class Erasure(OfStore, Base):
    """That somebody's name, phone and plate were removed: when, by whom, how many entries. Nothing of the person."""

    __tablename__ = "erasures"

    erased_at: Mapped[datetime]
    staff_id: Mapped[int] = mapped_column(ForeignKey("staff.id"))
    customers: Mapped[int]
    tags: Mapped[list[int]] = mapped_column(ARRAY(Integer))


class Write(OfStore, Base):
    """A write by the name its screen gave it: sent twice it is done once."""

    __tablename__ = "writes"
    __table_args__ = (UniqueConstraint("store_id", "write_id"),)

    write_id: Mapped[uuid.UUID]
    digest: Mapped[str]
    made_at: Mapped[datetime] = mapped_column(server_default=func.now())
    staff_id: Mapped[int] = mapped_column(ForeignKey("staff.id"))
    tag: Mapped[int | None]


class Vehicle(OfStore, Base):
    """The vehicle list: what a car asks of its battery."""

    __tablename__ = "vehicles"

    make: Mapped[str]
    model: Mapped[str]
    from_year: Mapped[int]
    to_year: Mapped[int | None]
    group_code: Mapped[str]
    also_codes: Mapped[list[str]] = mapped_column(ARRAY(String), default=list)
    min_cca_amps: Mapped[float]
    chemistry: Mapped[str]
    stop_start: Mapped[bool] = mapped_column(default=False)
    vent_tube: Mapped[bool] = mapped_column(default=False)
    no_agm: Mapped[bool] = mapped_column(default=False)
    source: Mapped[str] = mapped_column(default="")


class BatteryRow(OfStore, Base):
    """A battery with its tag, its label as last corrected, and where it is."""

    __tablename__ = "batteries"
    __table_args__ = (
        UniqueConstraint("store_id", "tag"),
        CheckConstraint(f"place in {PLACES}", name="place"),
        Index("ix_batteries_in_house", "store_id", postgresql_where="place <> 'gone'"),
        Index("ix_batteries_customer_id", "customer_id"),
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
    rated_amps: Mapped[float | None]
    rated_scale: Mapped[str | None]
    rating_source: Mapped[str] = mapped_column(default="label", server_default="label")
    capacity_ah_20h: Mapped[float | None]
    group_code: Mapped[str | None]
    has_caps: Mapped[bool | None]
    serial: Mapped[str] = mapped_column(default="")
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
    __table_args__ = (Index("ix_judgements_of_check", "check_id", "id"),)

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


class CatalogueItem(OfStore, Base):
    """A battery we can sell."""

    __tablename__ = "catalogue_items"
    __table_args__ = (
        UniqueConstraint("store_id", "name"),
        Index("ix_catalogue_items_fit", "store_id", "group_code", "cca_amps"),
        Index("ix_catalogue_items_line", text("lower(line)"), "group_code"),
    )

    line: Mapped[str]
    name: Mapped[str]
    group_code: Mapped[str]
    chemistry: Mapped[str]
    cca_amps: Mapped[float]
    capacity_ah_20h: Mapped[float]
    vent_tube: Mapped[bool] = mapped_column(default=False)
    price_cents: Mapped[int]
    core_deposit_cents: Mapped[int] = mapped_column(default=0)


class StockPiece(OfStore, Base):
    """One unsold piece on the shelf."""

    __tablename__ = "stock_pieces"
    __table_args__ = (Index("ix_stock_pieces_unsold", "item_id", postgresql_where=text("sold_on is null")),)

    item_id: Mapped[int] = mapped_column(ForeignKey("catalogue_items.id"))
    arrived_on: Mapped[date]
    last_volts: Mapped[float | None]
    last_volts_on: Mapped[date | None]
    sold_on: Mapped[date | None]


class TermsRow(OfStore, Base):
    """What the warranty of a line promises."""

    __tablename__ = "warranty_terms"
    __table_args__ = (UniqueConstraint("store_id", "line"),)

    line: Mapped[str]
    free_months: Mapped[int]
    pro_rata_months: Mapped[int]
    date_code_allowance_months: Mapped[int]
    excluded_uses: Mapped[list[str]] = mapped_column(ARRAY(String), default=list)
    reference: Mapped[str] = mapped_column(default="")


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
