"""Match by an index that answers what fits without reading the goods; a take-in made by mistake can be undone."""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.drop_index("ix_catalogue_items_fit", "catalogue_items")
    op.create_index(
        "ix_catalogue_items_fit",
        "catalogue_items",
        ["store_id", "group_code", "price_cents"],
        postgresql_include=["id", "chemistry", "cca_amps", "vent_tube"],
    )
    op.add_column("checks", sa.Column("undone_at", sa.DateTime(timezone=True), nullable=True))
    op.add_column(
        "checks",
        sa.Column(
            "undone_by", sa.BigInteger(), sa.ForeignKey("staff.id", name=op.f("fk_checks_undone_by")), nullable=True
        ),
    )


def downgrade() -> None:
    op.drop_column("checks", "undone_by")
    op.drop_column("checks", "undone_at")
    op.drop_index("ix_catalogue_items_fit", "catalogue_items")
    op.create_index("ix_catalogue_items_fit", "catalogue_items", ["store_id", "group_code", "cca_amps"])
