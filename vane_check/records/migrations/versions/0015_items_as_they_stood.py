"""Items as they stood before a list or a hand changed their name, price or deposit: kept by a trigger, whoever changed them."""

import sqlalchemy as sa
from alembic import op

revision = "0015"
down_revision = "0014"
branch_labels = None
depends_on = None

FIELDS = (
    "line", "name", "group_code", "length_mm", "width_mm", "height_mm", "nominal_volts", "positive_side", "post", "ledge", "chemistry",
    "capacity_ah_20h", "reserve_minutes", "vent_tube", "vent_side", "price_cents", "core_deposit_cents", "supplier_id", "supplier_code",
)  # fmt: skip
_TOLD = ", ".join(f"'{name}', s.{name}" for name in FIELDS)
BODY = (
    f"jsonb_build_object({_TOLD}, 'rating', jsonb_build_object('amps', coalesce(nullif(s.rated_amps, 0), s.cca_amps), "
    "'scale', case when s.rated_amps > 0 then s.rated_scale else 'CCA' end))"
)


def upgrade() -> None:
    op.add_column("item_entries", sa.Column("stood", sa.Boolean(), server_default=sa.false(), nullable=False))
    op.execute(
        f"""
        create function keep_as_it_stood() returns trigger language plpgsql as $$
        begin
          insert into item_entries (store_id, item_id, edition, written_at, body, stood)
            select s.store_id, s.id, s.edition, now(), {BODY}, true
            from stood s join fresh f on f.id = s.id
            where (s.name, s.price_cents, s.core_deposit_cents) is distinct from (f.name, f.price_cents, f.core_deposit_cents)
              and not exists (select from item_entries e where e.item_id = s.id and e.edition = s.edition);
          return null;
        end $$
        """
    )
    op.execute(
        "create trigger as_it_stood after update on catalogue_items referencing old table as stood new table as fresh "
        "for each statement execute function keep_as_it_stood()"
    )
