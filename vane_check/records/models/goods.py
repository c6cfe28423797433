"""Cars, goods and what their warranty promises."""

from datetime import date, datetime
from typing import Any

from sqlalchemy import (
    BigInteger,
    CheckConstraint,
    Computed,
    ForeignKey,
    Index,
    Integer,
    String,
    UniqueConstraint,
    false,
    text,
)
from sqlalchemy.dialects.postgresql import ARRAY
from sqlalchemy.orm import Mapped, mapped_column, relationship

from ..base import Base, OfStore
from .house import Staff


class Vehicle(OfStore, Base):
    """The vehicle list: what a car asks of its battery, where that sits, and what the car wants done."""

    __tablename__ = "vehicles"
    __table_args__ = (
        Index("uq_vehicles_variant", "store_id", "make", "model", "from_year", "engine", "trim", unique=True),
        Index(
            "ix_vehicles_search_text",
            "search_text",
            postgresql_using="gin",
            postgresql_ops={"search_text": "gin_trgm_ops"},
        ),
    )

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
    stop_start_line_volts: Mapped[float | None]
    engine_litres: Mapped[float | None]
    engine_fuel: Mapped[str] = mapped_column(default="petrol", server_default="petrol")
    needs_registration: Mapped[bool] = mapped_column(default=False, server_default=text("false"))
    source: Mapped[str] = mapped_column(default="")
    engine: Mapped[str] = mapped_column(default="", server_default="")
    trim: Mapped[str] = mapped_column(default="", server_default="")
    battery_place: Mapped[str] = mapped_column(default="", server_default="")
    access: Mapped[str] = mapped_column(default="", server_default="")
    programme: Mapped[str] = mapped_column(default="", server_default="")
    memory: Mapped[str] = mapped_column(default="", server_default="")
    rated_scale: Mapped[str] = mapped_column(default="CCA", server_default="CCA")
    min_capacity_ah: Mapped[float | None]
    min_reserve_minutes: Mapped[float | None]
    ledge: Mapped[str | None]
    vent_side: Mapped[str | None]
    spare_cable_mm: Mapped[float] = mapped_column(default=0, server_default="0")
    flooded_stays: Mapped[bool] = mapped_column(default=False, server_default=text("false"))
    after_fitting: Mapped[list[str]] = mapped_column(ARRAY(String), default=list, server_default="{}")
    search_text: Mapped[str] = mapped_column(
        Computed("lower(make || ' ' || model || ' ' || engine || ' ' || trim)", persisted=True), deferred=True
    )


class Supplier(OfStore, Base):
    """Who brings goods, on which days, and on what terms."""

    __tablename__ = "suppliers"
    __table_args__ = (UniqueConstraint("store_id", "name"),)

    name: Mapped[str]
    lead_days: Mapped[int]
    delivers_on: Mapped[list[int]] = mapped_column(ARRAY(Integer))
    """Days of the week, Monday 0."""
    order_before: Mapped[str] = mapped_column(default="")
    terms: Mapped[str] = mapped_column(default="")
    edition: Mapped[int] = mapped_column(default=1)


BOX_KEY = (
    "hashtextextended(group_code || ' ' || positive_side || ' ' || nominal_volts::text || ' ' || length_mm::text || ' ' || "
    "width_mm::text || ' ' || height_mm::text || ' ' || post || ' ' || ledge || ' ' || chemistry || ' ' || vent_tube::text, 0)"
)
"""One number for an outside with its size name, terminals and type, so that items are found by box with one comparison."""


class CatalogueItem(OfStore, Base):
    """A battery we can sell, with its own outside in millimetres so that the fit can be asked of the database."""

    __tablename__ = "catalogue_items"
    __table_args__ = (
        UniqueConstraint("store_id", "name"),
        Index(
            "ix_catalogue_items_box",
            "store_id",
            "box_key",
            postgresql_include=[
                "id",
                "cca_amps",
                "price_cents",
                "in_stock",
                "vent_tube",
                "capacity_ah_20h",
                "reserve_minutes",
                "chemistry",
                "post",
                "ledge",
                "rated_scale",
                "vent_side",
                "line_key",
            ],
        ),  # all that a match asks of an item
        Index("ix_catalogue_items_size", "store_id", "group_code", "price_cents"),
        Index("ix_catalogue_items_line", text("lower(line)"), "group_code"),
        Index(
            "ix_catalogue_items_search_text",
            "search_text",
            postgresql_using="gin",
            postgresql_ops={"search_text": "gin_trgm_ops"},
        ),
    )

    line: Mapped[str]
    name: Mapped[str]
    group_code: Mapped[str]
    same_as: Mapped[str] = mapped_column(default="", server_default="")
    length_mm: Mapped[int]
    width_mm: Mapped[int]
    height_mm: Mapped[int]
    nominal_volts: Mapped[int] = mapped_column(default=12, server_default="12")
    positive_side: Mapped[str]
    post: Mapped[str] = mapped_column(default="top", server_default="top")
    ledge: Mapped[str] = mapped_column(default="none", server_default="none")
    chemistry: Mapped[str]
    cca_amps: Mapped[float]
    rated_amps: Mapped[float | None]
    rated_scale: Mapped[str] = mapped_column(default="CCA", server_default="CCA")
    capacity_ah_20h: Mapped[float | None]
    reserve_minutes: Mapped[float | None]
    vent_tube: Mapped[bool] = mapped_column(default=False)
    vent_side: Mapped[str | None]
    price_cents: Mapped[int]
    core_deposit_cents: Mapped[int] = mapped_column(default=0)
    tax_name: Mapped[str] = mapped_column(default="", server_default="")
    """Which of the shop's further taxes it is sold at; none is the first."""
    supplier_id: Mapped[int | None] = mapped_column(ForeignKey("suppliers.id"))
    supplier_code: Mapped[str] = mapped_column(default="", server_default="")
    in_stock: Mapped[int] = mapped_column(default=0, server_default="0")
    """Pieces unsold and not set aside; a trigger on the pieces keeps it."""
    edition: Mapped[int] = mapped_column(default=1, server_default="1")
    search_text: Mapped[str] = mapped_column(
        Computed("lower(name || ' ' || group_code || ' ' || supplier_code)", persisted=True), deferred=True
    )
    line_key: Mapped[str] = mapped_column(Computed("lower(line)", persisted=True), deferred=True)
    box_key: Mapped[int] = mapped_column(BigInteger, Computed(BOX_KEY, persisted=True), deferred=True)


class ItemBox(OfStore, Base):
    """An outside of the catalogue with its size name, terminals and type, once however many items have it; a trigger on the
    items adds to them."""

    __tablename__ = "item_boxes"
    __table_args__ = (UniqueConstraint("store_id", "box_key"),)

    nominal_volts: Mapped[int]
    positive_side: Mapped[str]
    length_mm: Mapped[int]
    width_mm: Mapped[int]
    height_mm: Mapped[int]
    group_code: Mapped[str]
    post: Mapped[str]
    ledge: Mapped[str]
    chemistry: Mapped[str]
    vent_tube: Mapped[bool]
    box_key: Mapped[int] = mapped_column(BigInteger, Computed(BOX_KEY, persisted=True))


class StockPiece(OfStore, Base):
    """One piece on the shelf."""

    __tablename__ = "stock_pieces"
    __table_args__ = (
        Index("ix_stock_pieces_unsold", "item_id", postgresql_where=text("sold_on is null")),
        CheckConstraint("mark in ('', 'refused', 'on_the_way', 'sent', 'used', 'dead')", name="mark"),
    )

    item_id: Mapped[int] = mapped_column(ForeignKey("catalogue_items.id"))
    arrived_on: Mapped[date]
    made_on: Mapped[date | None]
    dry_charged: Mapped[bool] = mapped_column(default=False, server_default=text("false"))
    filled_on: Mapped[date | None]
    charged_on: Mapped[date | None]
    last_volts: Mapped[float | None]
    last_volts_on: Mapped[date | None]
    serial: Mapped[str] = mapped_column(default="", server_default="")
    mark: Mapped[str] = mapped_column(default="", server_default="")
    sold_on: Mapped[date | None]
    """The day it left: sold, or arrived at another store (mark `sent`)."""
    from_sale_id: Mapped[int | None] = mapped_column(ForeignKey("sales.id", use_alter=True))
    """The sale it came back from (mark `used` or `dead`, none where the sale was void)."""


class PieceEntry(OfStore, Base):
    """What was done to a piece: received, read, charged, filled, set aside, sold."""

    __tablename__ = "piece_entries"

    piece_id: Mapped[int] = mapped_column(ForeignKey("stock_pieces.id"), index=True)
    what: Mapped[str]
    done_at: Mapped[datetime]
    staff_id: Mapped[int] = mapped_column(ForeignKey("staff.id"))
    volts: Mapped[float | None]
    note: Mapped[str] = mapped_column(default="")

    staff: Mapped[Staff] = relationship()


class ItemEntry(OfStore, Base):
    """An item as it was written, with its price and deposit, once."""

    __tablename__ = "item_entries"

    item_id: Mapped[int] = mapped_column(ForeignKey("catalogue_items.id"), index=True)
    edition: Mapped[int]
    written_at: Mapped[datetime]
    staff_id: Mapped[int | None] = mapped_column(ForeignKey("staff.id"))
    """None where it came with the catalogue of the store this one follows, and where nobody wrote it."""
    body: Mapped[dict[str, Any]]
    stood: Mapped[bool] = mapped_column(default=False, server_default=false())
    """It was never written by hand: a trigger kept it when its name, price or deposit changed."""

    staff: Mapped[Staff | None] = relationship()


class OrderNote(OfStore, Base):
    """Goods to be ordered, or on their way."""

    __tablename__ = "order_notes"
    __table_args__ = (
        CheckConstraint("state in ('open', 'received', 'dropped')", name="state"),
        Index("ix_order_notes_open", "store_id", "item_id", postgresql_where=text("state = 'open'")),
    )

    item_id: Mapped[int] = mapped_column(ForeignKey("catalogue_items.id"))
    pieces: Mapped[int]
    for_tag: Mapped[int | None]
    note: Mapped[str] = mapped_column(default="")
    written_at: Mapped[datetime]
    staff_id: Mapped[int] = mapped_column(ForeignKey("staff.id"))
    expected_on: Mapped[date | None]
    state: Mapped[str] = mapped_column(default="open")
    closed_at: Mapped[datetime | None]
    closed_by: Mapped[int | None] = mapped_column(ForeignKey("staff.id"))

    item: Mapped[CatalogueItem] = relationship()


class Sale(OfStore, Base):
    """A piece handed over: its volts and serial then, what was paid, for which car, and the list it is fitted by."""

    __tablename__ = "sales"
    __table_args__ = (Index("ix_sales_sold_at", "store_id", "sold_at"),)

    piece_id: Mapped[int] = mapped_column(ForeignKey("stock_pieces.id"), unique=True)
    item_id: Mapped[int] = mapped_column(ForeignKey("catalogue_items.id"), index=True)
    battery_id: Mapped[int] = mapped_column(ForeignKey("batteries.id"), unique=True)
    old_battery_id: Mapped[int | None] = mapped_column(ForeignKey("batteries.id"), index=True)
    claim_id: Mapped[int | None] = mapped_column(ForeignKey("claims.id"), index=True)
    """The claim it settles: then `body["warranty"]` has the first one's dates and terms, which it keeps."""

    sold_at: Mapped[datetime]
    staff_id: Mapped[int] = mapped_column(ForeignKey("staff.id"))
    volts: Mapped[float]
    price_cents: Mapped[int]
    """What was paid, tax in it, after `credit_cents` came off."""
    credit_cents: Mapped[int] = mapped_column(default=0, server_default="0")
    core_deposit_cents: Mapped[int]
    body: Mapped[dict[str, Any]]

    staff: Mapped[Staff] = relationship()


class WayBack(OfStore, Base):
    """A sale taken back: void on its day, returned, or exchanged for another; the piece it became again stands in stock."""

    __tablename__ = "ways_back"
    __table_args__ = (
        CheckConstraint("what in ('void', 'return', 'exchange')", name="what"),
        Index("ix_ways_back_done_at", "store_id", "done_at"),
    )

    sale_id: Mapped[int] = mapped_column(ForeignKey("sales.id"), unique=True)
    staff_id: Mapped[int] = mapped_column(ForeignKey("staff.id"))
    what: Mapped[str]
    reason: Mapped[str]
    done_at: Mapped[datetime]
    refund_cents: Mapped[int]
    deposit_back_cents: Mapped[int]
    volts: Mapped[float | None]
    piece_id: Mapped[int] = mapped_column(ForeignKey("stock_pieces.id"))
    exchanged_sale_id: Mapped[int | None] = mapped_column(ForeignKey("sales.id"))

    staff: Mapped[Staff] = relationship()


class FittingTick(OfStore, Base):
    """A step of a fitting list, done or taken back, with the figure read at it."""

    __tablename__ = "fitting_ticks"
    __table_args__ = (Index("ix_fitting_ticks_ticked_at", "store_id", "ticked_at"),)

    sale_id: Mapped[int] = mapped_column(ForeignKey("sales.id"), index=True)
    step: Mapped[str]
    done: Mapped[bool]
    figure: Mapped[float | None]
    ticked_at: Mapped[datetime]
    staff_id: Mapped[int] = mapped_column(ForeignKey("staff.id"))

    staff: Mapped[Staff] = relationship()
