"""Terms in editions with the day they hold from; tax, texts and a logo on papers."""

import sqlalchemy as sa
from alembic import op

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("warranty_terms", sa.Column("holds_from", sa.Date(), nullable=True))
    op.add_column("warranty_terms", sa.Column("written_at", sa.DateTime(timezone=True), nullable=True))
    op.add_column("warranty_terms", sa.Column("staff_id", sa.BigInteger(), nullable=True))
    op.create_foreign_key(op.f("fk_warranty_terms_staff_id"), "warranty_terms", "staff", ["staff_id"], ["id"])
    op.drop_constraint(op.f("uq_warranty_terms_store_id_line"), "warranty_terms")
    op.create_index("ix_warranty_terms_line", "warranty_terms", ["store_id", sa.text("lower(line)")])
    op.execute(
        "create trigger append_only before update or delete on warranty_terms for each row execute function refuse_change()"
    )
    for name, kind, default in (
        ("tax_name", sa.String(), ""),
        ("tax_pct", sa.Float(), "0"),
        ("paper_head", sa.String(), ""),
        ("paper_foot", sa.String(), ""),
        ("logo_type", sa.String(), ""),
        ("paper_size", sa.String(), "A4"),
    ):
        op.add_column("stores", sa.Column(name, kind, nullable=False, server_default=default))
    op.add_column("stores", sa.Column("logo", sa.LargeBinary(), nullable=True))
