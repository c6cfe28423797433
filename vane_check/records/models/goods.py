"""Cars, goods and what their warranty promises."""

from datetime import date

from sqlalchemy import ForeignKey, Index, String, UniqueConstraint, text
from sqlalchemy.dialects.postgresql import ARRAY
from sqlalchemy.orm import Mapped, mapped_column

from ..base import Base, OfStore


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
    stop_start_line_volts: Mapped[float | None]
    engine_litres: Mapped[float | None]
    engine_fuel: Mapped[str] = mapped_column(default="petrol", server_default="petrol")
    needs_registration: Mapped[bool] = mapped_column(default=False, server_default=text("false"))
    source: Mapped[str] = mapped_column(default="")


class CatalogueItem(OfStore, Base):
    """A battery we can sell."""

    __tablename__ = "catalogue_items"
    __table_args__ = (
        UniqueConstraint("store_id", "name"),
        Index(
            "ix_catalogue_items_fit",
            "store_id",
            "group_code",
            "price_cents",
            postgresql_include=["id", "chemistry", "cca_amps", "vent_tube"],
        ),
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
