"""Whose word a battery's type is: read on its label, lent by its car, or assumed. What was kept before was read."""

import sqlalchemy as sa
from alembic import op

revision = "0018"
down_revision = "0017"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("batteries", sa.Column("chemistry_source", sa.String(), nullable=False, server_default="label"))
