"""The charge rack: equipment, stays on chargers, promises, pins and plans; a shop's opening hours."""

import json
from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None

WEEK = {"days": [{"opens": "08:30", "closes": "17:30"}] * 5 + [{"opens": "09:00", "closes": "13:00"}, None]}
"""What a shop opens until a lead says otherwise."""

APPENDED = ("equipment_entries", "promises", "rack_pins", "rack_plans")
MOMENT = sa.DateTime(timezone=True)


def _of_store() -> list[sa.Column[Any]]:
    return [
        sa.Column("id", sa.BigInteger(), primary_key=True),
        sa.Column("store_id", sa.BigInteger(), sa.ForeignKey("stores.id"), nullable=False, index=True),
    ]


def _to(table: str, name: str, nullable: bool = False, index: bool = False) -> sa.Column[Any]:
    return sa.Column(name, sa.BigInteger(), sa.ForeignKey(f"{table}.id"), nullable=nullable, index=index)


def upgrade() -> None:
    op.add_column("stores", sa.Column("opening_hours", JSONB(), nullable=True))
    op.execute(sa.text("update stores set opening_hours = cast(:week as jsonb)").bindparams(week=json.dumps(WEEK)))
    op.alter_column("stores", "opening_hours", nullable=False)
    op.create_table(
        "equipment",
        *_of_store(),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("tool", JSONB(), nullable=False),
        sa.Column("state", sa.String(), nullable=False),
        sa.Column("checked_on", sa.Date(), nullable=True),
        sa.Column("check_every_months", sa.Float(), nullable=True),
        sa.Column("remarks", sa.String(), nullable=False),
        sa.Column("edition", sa.Integer(), nullable=False),
        sa.UniqueConstraint("store_id", "name"),
        sa.CheckConstraint("kind in ('charger', 'meter', 'tester', 'load', 'hydrometer', 'discharger')", name="kind"),
        sa.CheckConstraint("state in ('in_use', 'out_of_order', 'away')", name="state"),
    )
    op.create_table(
        "equipment_entries",
        *_of_store(),
        _to("equipment", "equipment_id", index=True),
        sa.Column("edition", sa.Integer(), nullable=False),
        sa.Column("written_at", MOMENT, server_default=sa.func.now(), nullable=False),
        _to("staff", "staff_id"),
        sa.Column("body", JSONB(), nullable=False),
    )
    op.create_table(
        "rack_stays",
        *_of_store(),
        _to("batteries", "battery_id"),
        _to("checks", "check_id"),
        _to("equipment", "equipment_id"),
        sa.Column("output", sa.Integer(), nullable=False),
        sa.Column("step", sa.String(), nullable=False),
        sa.Column("volts", sa.Float(), nullable=False),
        sa.Column("amps", sa.Float(), nullable=False),
        sa.Column("hours", sa.Float(), nullable=False),
        sa.Column("connected_at", MOMENT, nullable=False),
        _to("staff", "connected_by"),
        sa.Column("off_at", MOMENT, nullable=True),
        _to("staff", "off_by", nullable=True),
        sa.Column("how", sa.String(), nullable=True),
        sa.CheckConstraint("how is null or how in ('full', 'early', 'moved')", name="how"),
    )
    on_it = sa.text("off_at is null")
    op.create_index("uq_rack_stays_battery", "rack_stays", ["battery_id"], unique=True, postgresql_where=on_it)
    op.create_index(
        "uq_rack_stays_output", "rack_stays", ["equipment_id", "output"], unique=True, postgresql_where=on_it
    )
    op.create_index("ix_rack_stays_of_battery", "rack_stays", ["battery_id", "id"])
    op.create_table(
        "promises",
        *_of_store(),
        _to("checks", "check_id", index=True),
        sa.Column("promised_at", MOMENT, nullable=True),
        sa.Column("priority", sa.String(), nullable=False),
        sa.Column("said_at", MOMENT, nullable=False),
        _to("staff", "staff_id"),
    )
    op.create_table(
        "rack_pins",
        *_of_store(),
        _to("checks", "check_id", index=True),
        _to("equipment", "equipment_id", nullable=True),
        sa.Column("output", sa.Integer(), nullable=True),
        sa.Column("starts_at", MOMENT, nullable=True),
        sa.Column("pinned_at", MOMENT, nullable=False),
        _to("staff", "staff_id"),
    )
    op.create_table(
        "rack_plans",
        *_of_store(),
        sa.Column("made_at", MOMENT, nullable=False),
        _to("staff", "staff_id"),
        sa.Column("why", sa.String(), nullable=False),
        sa.Column("slots", JSONB(), nullable=False),
        sa.Column("changes", JSONB(), nullable=False),
    )
    op.create_index("ix_rack_plans_newest", "rack_plans", ["store_id", "id"])
    for table in APPENDED:
        op.execute(
            f"create trigger append_only before update or delete on {table} for each row execute function refuse_change()"
        )


def downgrade() -> None:
    raise NotImplementedError("evidence is never thrown away: restore a backup instead")
