"""Goods: own millimetres, suppliers, orders, sales, fitting lists, other trades' codes, files brought in."""

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import ARRAY, JSONB

from vane_check.core.tables import footprints

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None

APPENDED = ("piece_entries", "item_entries", "sales", "fitting_ticks")
MOMENT = sa.DateTime(timezone=True)
COUNTED = "where sold_on is null and mark = ''"


def _of_store() -> list[sa.Column[Any]]:
    return [
        sa.Column("id", sa.BigInteger(), primary_key=True),
        sa.Column("store_id", sa.BigInteger(), sa.ForeignKey("stores.id"), nullable=False, index=True),
    ]


def _to(table: str, name: str, nullable: bool = False, index: bool = False, unique: bool = False) -> sa.Column[Any]:
    return sa.Column(name, sa.BigInteger(), sa.ForeignKey(f"{table}.id"), nullable=nullable, index=index, unique=unique)


def _text(name: str, null: bool = False) -> sa.Column[Any]:
    return sa.Column(name, sa.String(), nullable=null, server_default=None if null else "")


def _number(name: str, kind: Any = sa.Float, default: str | None = None) -> sa.Column[Any]:
    return sa.Column(name, kind(), nullable=default is None, server_default=default)


def upgrade() -> None:
    _vehicles()
    op.create_table(
        "suppliers",
        *_of_store(),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("lead_days", sa.Integer(), nullable=False),
        sa.Column("delivers_on", ARRAY(sa.Integer()), nullable=False),
        sa.Column("order_before", sa.String(), nullable=False),
        sa.Column("terms", sa.String(), nullable=False),
        sa.Column("edition", sa.Integer(), nullable=False),
        sa.UniqueConstraint("store_id", "name"),
    )
    _items()
    _pieces()
    _sales()
    _imports()
    for table in APPENDED:
        op.execute(
            f"create trigger append_only before update or delete on {table} for each row execute function refuse_change()"
        )


def _vehicles() -> None:
    for column in (
        *(_text(name) for name in ("engine", "trim", "battery_place", "access", "programme", "memory")),
        sa.Column("rated_scale", sa.String(), nullable=False, server_default="CCA"),
        _number("min_capacity_ah"),
        _number("min_reserve_minutes"),
        _text("ledge", null=True),
        _text("vent_side", null=True),
        _number("spare_cable_mm", default="0"),
        sa.Column("flooded_stays", sa.Boolean(), nullable=False, server_default=sa.text("false")),
        sa.Column("after_fitting", ARRAY(sa.String()), nullable=False, server_default="{}"),
        sa.Column(
            "search_text",
            sa.String(),
            sa.Computed("lower(make || ' ' || model || ' ' || engine || ' ' || trim)", persisted=True),
            nullable=False,
        ),
    ):
        op.add_column("vehicles", column)
    # two rows that nothing told apart are told apart by their number
    op.execute(
        "update vehicles v set trim = 'no. ' || id where exists (select 1 from vehicles o where o.store_id = v.store_id "
        "and o.make = v.make and o.model = v.model and o.from_year = v.from_year and o.id < v.id)"
    )
    op.create_index(
        "uq_vehicles_variant", "vehicles", ["store_id", "make", "model", "from_year", "engine", "trim"], unique=True
    )
    _trigram("vehicles")


def _trigram(table: str) -> None:
    op.create_index(
        f"ix_{table}_search_text",
        table,
        ["search_text"],
        postgresql_using="gin",
        postgresql_ops={"search_text": "gin_trgm_ops"},
    )


def _items() -> None:
    table = "catalogue_items"
    for column in (
        _text("same_as"),
        *(_number(name, sa.Integer) for name in ("length_mm", "width_mm", "height_mm")),
        _number("nominal_volts", sa.Integer, "12"),
        _text("positive_side", null=True),
        sa.Column("post", sa.String(), nullable=False, server_default="top"),
        sa.Column("ledge", sa.String(), nullable=False, server_default="none"),
        _number("rated_amps"),
        sa.Column("rated_scale", sa.String(), nullable=False, server_default="CCA"),
        _number("reserve_minutes"),
        _text("vent_side", null=True),
        _to("suppliers", "supplier_id", nullable=True),
        _text("supplier_code"),
        _number("in_stock", sa.Integer, "0"),
        _number("edition", sa.Integer, "1"),
    ):
        op.add_column(table, column)
    op.alter_column(table, "capacity_ah_20h", nullable=True)
    fill = sa.text(
        f"update {table} set same_as = :same_as, length_mm = :length_mm, width_mm = :width_mm, height_mm = :height_mm, "
        "nominal_volts = :nominal_volts, positive_side = :positive_side, post = :post, ledge = :ledge where group_code = :code"
    )
    for size in footprints().values():
        told = {name: value for name, value in size._asdict().items() if name not in {"system", "origin"}}
        op.execute(fill.bindparams(**told))
    op.execute(
        f"update {table} set length_mm = coalesce(length_mm, 0), width_mm = coalesce(width_mm, 0), "
        "height_mm = coalesce(height_mm, 0), positive_side = coalesce(positive_side, 'right')"
    )
    for name in ("length_mm", "width_mm", "height_mm", "positive_side"):
        op.alter_column(table, name, nullable=False)
    op.add_column(
        table,
        sa.Column(
            "search_text",
            sa.String(),
            sa.Computed("lower(name || ' ' || group_code || ' ' || supplier_code)", persisted=True),
            nullable=False,
        ),
    )
    op.drop_index("ix_catalogue_items_fit", table)
    op.create_index(
        "ix_catalogue_items_box",
        table,
        ["store_id", "nominal_volts", "positive_side", "length_mm", "width_mm", "height_mm"],
    )
    op.create_index("ix_catalogue_items_size", table, ["store_id", "group_code", "price_cents"])
    _trigram(table)


def _pieces() -> None:
    table = "stock_pieces"
    for column in (
        sa.Column("made_on", sa.Date(), nullable=True),
        sa.Column("dry_charged", sa.Boolean(), nullable=False, server_default=sa.text("false")),
        sa.Column("filled_on", sa.Date(), nullable=True),
        sa.Column("charged_on", sa.Date(), nullable=True),
        _text("serial"),
        _text("mark"),
    ):
        op.add_column(table, column)
    op.create_check_constraint("mark", table, "mark in ('', 'refused')")
    op.execute(
        f"update catalogue_items i set in_stock = p.n from (select item_id, count(*) n from {table} {COUNTED} "
        "group by item_id) p where p.item_id = i.id"
    )
    # how many of an item can be sold, kept with every write of the pieces, a statement at a time
    op.execute(
        f"""
        create function count_pieces() returns trigger language plpgsql as $$
        begin
          if tg_op = 'INSERT' then
            update catalogue_items i set in_stock = i.in_stock + d.n
              from (select item_id, count(*)::int n from fresh {COUNTED} group by item_id) d where d.item_id = i.id;
          else
            update catalogue_items i set in_stock = i.in_stock + d.n from (
              select item_id, sum(n)::int n from (
                select item_id, 1 n from fresh {COUNTED} union all select item_id, -1 from gone {COUNTED}
              ) as turned group by item_id having sum(n) <> 0) d where d.item_id = i.id;
          end if;
          return null;
        end $$
        """
    )
    op.execute(
        f"create trigger count_new after insert on {table} referencing new table as fresh for each statement "
        "execute function count_pieces()"
    )
    op.execute(
        f"create trigger count_changed after update on {table} referencing new table as fresh old table as gone "
        "for each statement execute function count_pieces()"
    )
    op.create_table(
        "piece_entries",
        *_of_store(),
        _to(table, "piece_id", index=True),
        sa.Column("what", sa.String(), nullable=False),
        sa.Column("done_at", MOMENT, nullable=False),
        _to("staff", "staff_id"),
        _number("volts"),
        sa.Column("note", sa.String(), nullable=False),
    )
    op.create_table(
        "item_entries",
        *_of_store(),
        _to("catalogue_items", "item_id", index=True),
        sa.Column("edition", sa.Integer(), nullable=False),
        sa.Column("written_at", MOMENT, nullable=False),
        _to("staff", "staff_id"),
        sa.Column("body", JSONB(), nullable=False),
    )


def _sales() -> None:
    op.create_table(
        "order_notes",
        *_of_store(),
        _to("catalogue_items", "item_id"),
        sa.Column("pieces", sa.Integer(), nullable=False),
        sa.Column("for_tag", sa.Integer(), nullable=True),
        sa.Column("note", sa.String(), nullable=False),
        sa.Column("written_at", MOMENT, nullable=False),
        _to("staff", "staff_id"),
        sa.Column("expected_on", sa.Date(), nullable=True),
        sa.Column("state", sa.String(), nullable=False),
        sa.Column("closed_at", MOMENT, nullable=True),
        _to("staff", "closed_by", nullable=True),
        sa.CheckConstraint("state in ('open', 'received', 'dropped')", name="state"),
    )
    op.create_index(
        "ix_order_notes_open", "order_notes", ["store_id", "item_id"], postgresql_where=sa.text("state = 'open'")
    )
    op.create_table(
        "sales",
        *_of_store(),
        _to("stock_pieces", "piece_id", unique=True),
        _to("catalogue_items", "item_id", index=True),
        _to("batteries", "battery_id", unique=True),
        _to("batteries", "old_battery_id", nullable=True, index=True),
        sa.Column("sold_at", MOMENT, nullable=False),
        _to("staff", "staff_id"),
        sa.Column("volts", sa.Float(), nullable=False),
        sa.Column("price_cents", sa.Integer(), nullable=False),
        sa.Column("core_deposit_cents", sa.Integer(), nullable=False),
        sa.Column("body", JSONB(), nullable=False),
    )
    op.create_table(
        "fitting_ticks",
        *_of_store(),
        _to("sales", "sale_id", index=True),
        sa.Column("step", sa.String(), nullable=False),
        sa.Column("done", sa.Boolean(), nullable=False),
        _number("figure"),
        sa.Column("ticked_at", MOMENT, nullable=False),
        _to("staff", "staff_id"),
    )


def _imports() -> None:
    op.create_table(
        "size_aliases",
        *_of_store(),
        sa.Column("code", sa.String(), nullable=False),
        *(sa.Column(name, sa.String(), nullable=False) for name in ("size", "positive_side")),
        _number("capacity_ah_20h"),
        _number("rated_amps"),
        *(sa.Column(name, sa.String(), nullable=False) for name in ("rated_scale", "trade", "source")),
        sa.UniqueConstraint("store_id", "code"),
    )
    op.create_table(
        "import_runs",
        *_of_store(),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("file_name", sa.String(), nullable=False),
        sa.Column("content", sa.LargeBinary(), nullable=False),
        sa.Column("columns", JSONB(), nullable=False),
        sa.Column("mapping", JSONB(), nullable=False),
        sa.Column("state", sa.String(), nullable=False),
        *(
            sa.Column(name, sa.Integer(), nullable=False)
            for name in ("rows_done", "rows_total", "rows_good", "rows_refused")
        ),
        sa.Column("refused", JSONB(), nullable=False),
        sa.Column("stop_asked", sa.Boolean(), nullable=False),
        sa.Column("problem", sa.String(), nullable=False),
        sa.Column("sent_at", MOMENT, nullable=False),
        sa.Column("beat_at", MOMENT, nullable=False),
        _to("staff", "staff_id"),
        sa.CheckConstraint(
            "state in ('sent', 'checking', 'checked', 'keeping', 'kept', 'stopped', 'failed')", name="state"
        ),
    )
    op.create_table(
        "import_mappings",
        *_of_store(),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("heading", sa.String(), nullable=False),
        sa.Column("mapping", JSONB(), nullable=False),
        sa.Column("confirmed_at", MOMENT, nullable=False),
        _to("staff", "staff_id"),
        sa.UniqueConstraint("store_id", "kind", "heading"),
    )


def downgrade() -> None:
    raise NotImplementedError("evidence is never thrown away: restore a backup instead")
