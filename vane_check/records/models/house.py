"""The house: stores, people, customers, rules."""

import secrets
import uuid
from datetime import datetime
from typing import Any

from sqlalchemy import (
    BigInteger,
    CheckConstraint,
    Computed,
    ForeignKey,
    Index,
    Integer,
    LargeBinary,
    String,
    UniqueConstraint,
    false,
    func,
    text,
)
from sqlalchemy.dialects.postgresql import ARRAY, JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship, validates

from ...core.life.customers import name_key, phone_key, plate_key
from ..base import Base, OfStore

WEEK = {"days": [{"opens": "08:30", "closes": "17:30"}] * 5 + [{"opens": "09:00", "closes": "13:00"}, None]}
"""What a shop opens until a lead says otherwise."""


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
    opening_hours: Mapped[dict[str, Any]] = mapped_column(default=lambda: dict(WEEK))
    """A week, Monday first (`core/charging/rack/hours.py`)."""
    calendar_secret: Mapped[str] = mapped_column(default=lambda: secrets.token_urlsafe(24), unique=True)
    """What the address of this store's calendar feed carries: whoever knows it reads the reminders."""
    tax_name: Mapped[str] = mapped_column(default="", server_default="")
    tax_pct: Mapped[float] = mapped_column(default=0, server_default="0")
    """The tax that prices include, in percent; 0 where there is none."""
    tax_on_top: Mapped[bool] = mapped_column(default=False, server_default=false())
    """Prices are without it and it comes on top."""
    more_taxes: Mapped[list[Any]] = mapped_column(JSONB, default=list, server_default="[]")
    """Further rates that single items are sold at, each with `name` and `pct`."""

    @property
    def taxes(self) -> list[str]:
        """What its taxes are called, the one most items are sold at first."""
        return [self.tax_name, *(tax["name"] for tax in self.more_taxes)] if self.tax_name else []

    paper_size: Mapped[str] = mapped_column(default="A4", server_default="A4")
    paper_head: Mapped[str] = mapped_column(default="", server_default="")
    paper_foot: Mapped[str] = mapped_column(default="", server_default="")
    language: Mapped[str] = mapped_column(default="en", server_default="en")
    """Of its screens and papers (`vane_check/languages`)."""
    rules_from: Mapped[int | None] = mapped_column(ForeignKey("stores.id"))
    catalogue_from: Mapped[int | None] = mapped_column(ForeignKey("stores.id"))
    terms_from: Mapped[int | None] = mapped_column(ForeignKey("stores.id"))
    """The store whose rules, catalogue and terms this one works by; its own where there is none."""
    logo_type: Mapped[str] = mapped_column(default="", server_default="")
    logo: Mapped[bytes | None] = mapped_column(LargeBinary, deferred=True)


class Staff(OfStore, Base):
    """A person who signs in with a PIN."""

    __tablename__ = "staff"
    __table_args__ = (
        CheckConstraint("role in ('counter', 'lead', 'owner')", name="role"),
        UniqueConstraint("store_id", "person_uuid"),
    )

    person_uuid: Mapped[uuid.UUID] = mapped_column(default=uuid.uuid4, server_default=text("gen_random_uuid()"))
    """The same person in every store they work in, or whose evidence came from there."""
    name: Mapped[str]
    role: Mapped[str]
    pin_hash: Mapped[str]
    left_at: Mapped[datetime | None]


class HouseEntry(OfStore, Base):
    """Something of the house that was changed: the shop itself, a person. `body` has what stood before and what stands now."""

    __tablename__ = "house_entries"

    staff_id: Mapped[int | None] = mapped_column(ForeignKey("staff.id"))
    written_at: Mapped[datetime]
    what: Mapped[str]
    subject: Mapped[str]
    body: Mapped[dict[str, Any]]

    staff: Mapped[Staff | None] = relationship()


class Backup(Base):
    """A backup of the whole database, good or with its problem. It is of the server, not of one store."""

    __tablename__ = "backups"

    made_at: Mapped[datetime]
    why: Mapped[str]
    file_name: Mapped[str]
    bytes: Mapped[int] = mapped_column(BigInteger)
    rows: Mapped[dict[str, Any]]
    problem: Mapped[str] = mapped_column(default="", server_default="")


class SealRow(Base):
    """A seal over the evidence of the whole database: see `records/seals.py`."""

    __tablename__ = "seals"

    made_at: Mapped[datetime]
    head: Mapped[str]
    parts: Mapped[dict[str, Any]]


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


_TRIGRAMS = {"search_text": "gin_trgm_ops", "name_key": "gin_trgm_ops"}


class Customer(OfStore, Base):
    """As little as the counter needs, apart from all evidence: it can be erased, and evidence stays whole without it.

    One row is one way somebody was written in; `merged_into` says whose it is where one person was written in several ways.
    """

    __tablename__ = "customers"
    __table_args__ = (
        Index("ix_customers_search_text", "search_text", postgresql_using="gin", postgresql_ops=_TRIGRAMS),
        Index("ix_customers_name_trigrams", "name_key", postgresql_using="gin", postgresql_ops=_TRIGRAMS),
        Index("ix_customers_name_key", "store_id", "name_key", postgresql_ops={"name_key": "text_pattern_ops"}),
        Index("ix_customers_phone_key", "store_id", "phone_key", postgresql_where=text("phone_key <> ''")),
        Index("ix_customers_plate_key", "store_id", "plate_key", postgresql_where=text("plate_key <> ''")),
        Index("ix_customers_merged_into", "merged_into", postgresql_where=text("merged_into is not null")),
    )

    name: Mapped[str]
    phone: Mapped[str] = mapped_column(default="")
    plate: Mapped[str] = mapped_column(default="", server_default="")
    erased_at: Mapped[datetime | None]
    merged_into: Mapped[int | None] = mapped_column(ForeignKey("customers.id"))
    name_key: Mapped[str] = mapped_column(default="", server_default="")
    phone_key: Mapped[str] = mapped_column(default="", server_default="")
    plate_key: Mapped[str] = mapped_column(default="", server_default="")
    """The three by which two ways of writing are one (`core/life/customers.py`)."""
    search_text: Mapped[str] = mapped_column(
        Computed(
            "lower(name || ' ' || phone || ' ' || plate || ' ' || regexp_replace(phone, '[^0-9]', '', 'g')"
            " || ' ' || regexp_replace(plate, '[^0-9A-Za-z]', '', 'g'))",
            persisted=True,
        )
    )

    @validates("name", "phone", "plate")
    def _keep_keys(self, field: str, value: str) -> str:
        setattr(self, f"{field}_key", _KEYS[field](value))
        return value


_KEYS = {"name": name_key, "phone": phone_key, "plate": plate_key}


class CustomerEntry(OfStore, Base):
    """What was done with somebody's entries: corrected, merged, taken apart, handed out. Nothing of the person."""

    __tablename__ = "customer_entries"

    customer_id: Mapped[int] = mapped_column(ForeignKey("customers.id"), index=True)
    staff_id: Mapped[int] = mapped_column(ForeignKey("staff.id"))
    written_at: Mapped[datetime]
    what: Mapped[str]
    other_ids: Mapped[list[int]] = mapped_column(ARRAY(BigInteger))
    """The ways of writing that went with it."""

    staff: Mapped[Staff] = relationship()


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
