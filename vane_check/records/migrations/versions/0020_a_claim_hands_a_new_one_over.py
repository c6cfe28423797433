"""One act, one record: which claim a sale settles and what of its price that credits, what was taken back, terms as they are
written, several taxes, and what whoever judges says in their own words."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0020"
down_revision = "0019"
branch_labels = None
depends_on = None


def _evidence(name: str, *columns: sa.schema.SchemaItem) -> None:
    """A table of evidence: of a store, by somebody, at a time."""
    op.create_table(
        name,
        sa.Column("id", sa.BigInteger(), primary_key=True),
        sa.Column("store_id", sa.BigInteger(), sa.ForeignKey("stores.id"), nullable=False, index=True),
        sa.Column("staff_id", sa.BigInteger(), sa.ForeignKey("staff.id"), nullable=False),
        *columns,
    )
    op.execute(
        f"create trigger append_only before update or delete on {name} for each row execute function refuse_change()"
    )


def upgrade() -> None:
    op.add_column("sales", sa.Column("claim_id", sa.BigInteger(), sa.ForeignKey("claims.id"), nullable=True))
    op.create_index("ix_sales_claim_id", "sales", ["claim_id"])
    op.add_column("sales", sa.Column("credit_cents", sa.Integer(), nullable=False, server_default="0"))
    op.create_index("ix_sales_sold_at", "sales", ["store_id", "sold_at"])
    op.create_index("ix_fitting_ticks_ticked_at", "fitting_ticks", ["store_id", "ticked_at"])
    _evidence(
        "ways_back",
        sa.Column("sale_id", sa.BigInteger(), sa.ForeignKey("sales.id"), nullable=False, unique=True),
        sa.Column("what", sa.String(), nullable=False),
        sa.Column("reason", sa.String(), nullable=False),
        sa.Column("done_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("refund_cents", sa.Integer(), nullable=False),
        sa.Column("deposit_back_cents", sa.Integer(), nullable=False),
        sa.Column("volts", sa.Float(), nullable=True),
        sa.Column("piece_id", sa.BigInteger(), sa.ForeignKey("stock_pieces.id"), nullable=False),
        sa.Column("exchanged_sale_id", sa.BigInteger(), sa.ForeignKey("sales.id"), nullable=True),
        sa.CheckConstraint("what in ('void', 'return', 'exchange')", name=op.f("ck_ways_back_what")),
        sa.Index("ix_ways_back_done_at", "store_id", "done_at"),
    )
    op.drop_constraint(op.f("ck_stock_pieces_mark"), "stock_pieces")
    op.create_check_constraint(
        op.f("ck_stock_pieces_mark"), "stock_pieces", "mark in ('', 'refused', 'on_the_way', 'sent', 'used', 'dead')"
    )
    op.add_column("stock_pieces", sa.Column("from_sale_id", sa.BigInteger(), sa.ForeignKey("sales.id"), nullable=True))
    op.add_column("warranty_terms", sa.Column("item", sa.String(), nullable=False, server_default=""))
    op.add_column("warranty_terms", sa.Column("body", JSONB(), nullable=False, server_default="{}"))
    op.add_column("stores", sa.Column("tax_on_top", sa.Boolean(), nullable=False, server_default="false"))
    op.add_column("stores", sa.Column("more_taxes", JSONB(), nullable=False, server_default="[]"))
    op.add_column("catalogue_items", sa.Column("tax_name", sa.String(), nullable=False, server_default=""))
    _evidence(
        "own_calls",
        sa.Column("check_id", sa.BigInteger(), sa.ForeignKey("checks.id"), nullable=False, index=True),
        sa.Column("judgement_id", sa.BigInteger(), sa.ForeignKey("judgements.id"), nullable=False),
        sa.Column("written_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("outcome", sa.String(), nullable=True),
        sa.Column("reason", sa.String(), nullable=False),
    )
    op.create_table(
        "remarks",
        sa.Column("id", sa.BigInteger(), primary_key=True),
        sa.Column("store_id", sa.BigInteger(), sa.ForeignKey("stores.id"), nullable=False, index=True),
        sa.Column("staff_id", sa.BigInteger(), sa.ForeignKey("staff.id"), nullable=False),
        sa.Column("check_id", sa.BigInteger(), sa.ForeignKey("checks.id"), nullable=False, index=True),
        sa.Column("written_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("what", sa.String(), nullable=False),
        sa.Column("text", sa.String(), nullable=False),
        sa.CheckConstraint("what in ('remark', 'story')", name=op.f("ck_remarks_what")),
    )
    op.execute("""
        create function refuse_rewording() returns trigger language plpgsql as $$
        begin
          if tg_op = 'UPDATE' and new.text = '' and to_jsonb(new) - 'text' = to_jsonb(old) - 'text' then
            return new;
          end if;
          raise exception 'a remark is never reworded';
        end $$
    """)
    op.execute(
        "create trigger only_forgotten before update or delete on remarks for each row execute function refuse_rewording()"
    )
