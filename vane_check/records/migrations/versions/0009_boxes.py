"""Boxes: the outsides the catalogue holds, each once, and an index that holds all that a match asks of an item."""

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None

NUMBERS = ("nominal_volts", "length_mm", "width_mm", "height_mm")
WORDS = ("positive_side", "group_code", "post", "ledge", "chemistry")
BOX_KEY = (
    "hashtextextended(group_code || ' ' || positive_side || ' ' || nominal_volts::text || ' ' || length_mm::text || ' ' || "
    "width_mm::text || ' ' || height_mm::text || ' ' || post || ' ' || ledge || ' ' || chemistry || ' ' || vent_tube::text, 0)"
)
ASKED = (
    "id", "cca_amps", "price_cents", "in_stock", "capacity_ah_20h", "reserve_minutes", "rated_scale", "vent_side", "line_key",
)  # fmt: skip


def upgrade() -> None:
    items, box = "catalogue_items", ", ".join(("store_id", *NUMBERS, *WORDS, "vent_tube"))
    op.add_column(items, sa.Column("line_key", sa.String(), sa.Computed("lower(line)", persisted=True), nullable=False))
    op.add_column(items, _key())
    op.drop_index("ix_catalogue_items_box", items)
    op.create_index("ix_catalogue_items_box", items, ["store_id", "box_key"], postgresql_include=list(ASKED))
    op.create_table(
        "item_boxes",
        sa.Column("id", sa.BigInteger(), primary_key=True),
        sa.Column("store_id", sa.BigInteger(), sa.ForeignKey("stores.id"), nullable=False, index=True),
        *(sa.Column(name, sa.Integer(), nullable=False) for name in NUMBERS),
        *(sa.Column(name, sa.String(), nullable=False) for name in WORDS),
        sa.Column("vent_tube", sa.Boolean(), nullable=False),
        _key(),
        sa.UniqueConstraint("store_id", "box_key"),
    )
    kept = (
        f"insert into item_boxes ({box}) select distinct {box} from %s i where not exists "
        "(select from item_boxes b where b.store_id = i.store_id and b.box_key = i.box_key) on conflict do nothing"
    )
    op.execute(kept % items)
    op.execute(
        "create function keep_boxes() returns trigger language plpgsql as "
        f"$$ begin {kept % 'fresh'}; return null; end $$"
    )
    for name, when in (("boxes_new", "insert"), ("boxes_changed", "update")):
        op.execute(
            f"create trigger {name} after {when} on {items} referencing new table as fresh for each statement "
            "execute function keep_boxes()"
        )


def _key() -> sa.Column[int]:
    return sa.Column("box_key", sa.BigInteger(), sa.Computed(BOX_KEY, persisted=True), nullable=False)
