"""A shop of its own: the owner's role, and everything changed in the house on record."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.drop_constraint(op.f("ck_staff_role"), "staff")
    op.create_check_constraint(op.f("ck_staff_role"), "staff", "role in ('counter', 'lead', 'owner')")
    op.create_table(
        "house_entries",
        sa.Column("id", sa.BigInteger(), primary_key=True),
        sa.Column("store_id", sa.BigInteger(), sa.ForeignKey("stores.id"), nullable=False, index=True),
        sa.Column("staff_id", sa.BigInteger(), sa.ForeignKey("staff.id"), nullable=True),
        sa.Column("written_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("what", sa.String(), nullable=False),
        sa.Column("subject", sa.String(), nullable=False),
        sa.Column("body", JSONB(), nullable=False),
    )
    op.execute(
        "create trigger append_only before update or delete on house_entries for each row execute function refuse_change()"
    )
