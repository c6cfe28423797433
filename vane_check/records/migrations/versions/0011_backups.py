"""Backups: when each was made, and whether it was good."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "backups",
        sa.Column("id", sa.BigInteger(), primary_key=True),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("why", sa.String(), nullable=False),
        sa.Column("file_name", sa.String(), nullable=False),
        sa.Column("bytes", sa.BigInteger(), nullable=False),
        sa.Column("rows", JSONB(), nullable=False),
        sa.Column("problem", sa.String(), nullable=False, server_default=""),
    )
