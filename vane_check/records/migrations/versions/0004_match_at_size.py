"""An index that answers what fits without reading the goods themselves: size and price in order, the rest beside them."""

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


def downgrade() -> None:
    op.drop_index("ix_catalogue_items_fit", "catalogue_items")
    op.create_index("ix_catalogue_items_fit", "catalogue_items", ["store_id", "group_code", "cca_amps"])
