"""Whose word a battery's size is: read on it, or lent by its car. What was kept before was read."""

import sqlalchemy as sa
from alembic import op

revision = "0019"
down_revision = "0018"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("batteries", sa.Column("size_source", sa.String(), nullable=False, server_default="label"))
