"""Which claim a sale settles: the battery given under warranty keeps the dates and terms of the first one, in the sale's body."""

import sqlalchemy as sa
from alembic import op

revision = "0020"
down_revision = "0019"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("sales", sa.Column("claim_id", sa.BigInteger(), sa.ForeignKey("claims.id"), nullable=True))
    op.create_unique_constraint("uq_sales_claim_id", "sales", ["claim_id"])
