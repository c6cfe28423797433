"""Several stores of one house: a person in more than one, what goes between them, what they share."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None

PLACES = "'counter', 'bench', 'on_charge', 'standing', 'ready', 'held_apart', 'on_the_way', 'gone'"


def upgrade() -> None:
    op.add_column(
        "staff", sa.Column("person_uuid", sa.Uuid(), server_default=sa.text("gen_random_uuid()"), nullable=False)
    )
    op.create_unique_constraint(op.f("uq_staff_store_id_person_uuid"), "staff", ["store_id", "person_uuid"])
    op.add_column("stores", sa.Column("language", sa.String(), server_default="en", nullable=False))
    for what in ("rules_from", "catalogue_from", "terms_from"):
        op.add_column("stores", sa.Column(what, sa.BigInteger(), nullable=True))
        op.create_foreign_key(op.f(f"fk_stores_{what}"), "stores", "stores", [what], ["id"])
    op.alter_column("item_entries", "staff_id", nullable=True)
    op.drop_constraint(op.f("ck_batteries_place"), "batteries")
    op.create_check_constraint(op.f("ck_batteries_place"), "batteries", f"place in ({PLACES})")
    op.drop_constraint(op.f("ck_stock_pieces_mark"), "stock_pieces")
    op.create_check_constraint(
        op.f("ck_stock_pieces_mark"), "stock_pieces", "mark in ('', 'refused', 'on_the_way', 'sent')"
    )
    op.create_table(
        "transfers",
        sa.Column("id", sa.BigInteger(), primary_key=True),
        sa.Column("kind", sa.String(), nullable=False),
        *(sa.Column(name, sa.BigInteger(), sa.ForeignKey("stores.id", name=f"fk_transfers_{name}"), nullable=False) for name in ("from_store_id", "to_store_id")),
        sa.Column("from_name", sa.String(), nullable=False),
        sa.Column("to_name", sa.String(), nullable=False),
        *(
            sa.Column(name, sa.BigInteger(), sa.ForeignKey(f"{table}.id", name=f"fk_transfers_{name}"), nullable=True)
            for name, table in (("battery_id", "batteries"), ("piece_id", "stock_pieces"), ("customer_id", "customers"))
        ),
        sa.Column("tag", sa.Integer(), nullable=True),
        sa.Column("subject", sa.String(), nullable=False),
        sa.Column("note", sa.String(), nullable=False),
        sa.Column("body", postgresql.JSONB(), nullable=False),
        sa.Column("state", sa.String(), nullable=False),
        sa.Column("sent_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("sent_by", sa.BigInteger(), sa.ForeignKey("staff.id", name="fk_transfers_sent_by"), nullable=False),
        sa.Column("sent_by_name", sa.String(), nullable=False),
        sa.Column("settled_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("settled_by_name", sa.String(), nullable=False),
        sa.Column("arrived_tag", sa.Integer(), nullable=True),
        sa.CheckConstraint("kind in ('battery', 'piece', 'customer')", name="kind"),
        sa.CheckConstraint("state in ('on_the_way', 'arrived', 'called_back')", name="state"),
        sa.CheckConstraint("from_store_id <> to_store_id", name="two_stores"),
    )  # fmt: skip
    on_the_way = sa.text("state = 'on_the_way'")
    op.create_index("ix_transfers_open", "transfers", ["from_store_id", "to_store_id"], postgresql_where=on_the_way)
    for name in ("from_store_id", "to_store_id"):
        op.create_index(f"ix_transfers_{name}", "transfers", [name, "id"])
    for name in ("piece_id", "customer_id"):
        op.create_index(op.f(f"ix_transfers_{name}"), "transfers", [name])
    sent = sa.text("battery_id is not null and state <> 'called_back'")
    op.create_index("uq_transfers_battery", "transfers", ["battery_id"], unique=True, postgresql_where=sent)
