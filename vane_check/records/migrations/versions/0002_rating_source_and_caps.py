"""Where a rating comes from, and whether the cells can be opened."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("batteries", sa.Column("rating_source", sa.String(), nullable=False, server_default="label"))
    op.add_column("batteries", sa.Column("has_caps", sa.Boolean(), nullable=True))


def downgrade() -> None:
    raise NotImplementedError("evidence is never thrown away: restore a backup instead")
