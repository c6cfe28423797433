"""Customers: one person written in several ways, found by phone and plate however they are written."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import ARRAY

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None

SEARCH = (
    "lower(name || ' ' || phone || ' ' || plate || ' ' || regexp_replace(phone, '[^0-9]', '', 'g')"
    " || ' ' || regexp_replace(plate, '[^0-9A-Za-z]', '', 'g'))"
)
TRIGRAMS = {"search_text": "gin_trgm_ops", "name_key": "gin_trgm_ops"}


def upgrade() -> None:
    op.add_column("customers", sa.Column("merged_into", sa.BigInteger(), nullable=True))
    op.create_foreign_key(op.f("fk_customers_merged_into"), "customers", "customers", ["merged_into"], ["id"])
    for key in ("name_key", "phone_key", "plate_key"):
        op.add_column("customers", sa.Column(key, sa.String(), nullable=False, server_default=""))
    op.execute(
        "update customers set name_key = lower(regexp_replace(trim(name), '\\s+', ' ', 'g')),"
        " phone_key = case when length(regexp_replace(phone, '[^0-9]', '', 'g')) >= 7"
        " then right(regexp_replace(phone, '[^0-9]', '', 'g'), 7) else '' end,"
        " plate_key = upper(regexp_replace(plate, '[^0-9A-Za-z]', '', 'g'))"
    )
    op.drop_index("ix_customers_search_text", "customers")
    op.drop_column("customers", "search_text")
    op.add_column(
        "customers", sa.Column("search_text", sa.String(), sa.Computed(SEARCH, persisted=True), nullable=False)
    )
    for column in ("search_text", "name_key"):
        name = "ix_customers_search_text" if column == "search_text" else "ix_customers_name_trigrams"
        op.create_index(name, "customers", [column], postgresql_using="gin", postgresql_ops=TRIGRAMS)
    op.create_index(
        "ix_customers_name_key", "customers", ["store_id", "name_key"], postgresql_ops={"name_key": "text_pattern_ops"}
    )
    for key in ("phone_key", "plate_key"):
        op.create_index(f"ix_customers_{key}", "customers", ["store_id", key], postgresql_where=sa.text(f"{key} <> ''"))
    op.create_index(
        "ix_customers_merged_into", "customers", ["merged_into"], postgresql_where=sa.text("merged_into is not null")
    )
    op.create_table(
        "customer_entries",
        sa.Column("id", sa.BigInteger(), primary_key=True),
        sa.Column("store_id", sa.BigInteger(), sa.ForeignKey("stores.id"), nullable=False, index=True),
        sa.Column("customer_id", sa.BigInteger(), sa.ForeignKey("customers.id"), nullable=False, index=True),
        sa.Column("staff_id", sa.BigInteger(), sa.ForeignKey("staff.id"), nullable=False),
        sa.Column("written_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("what", sa.String(), nullable=False),
        sa.Column("other_ids", ARRAY(sa.BigInteger()), nullable=False),
    )
    op.execute(
        "create trigger append_only before update or delete on customer_entries for each row execute function refuse_change()"
    )
