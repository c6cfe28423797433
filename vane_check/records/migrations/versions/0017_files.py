"""A list's heading is read beside the requests. And texts of lists that came with line breaks or control signs, which no form
takes and no item with them could be opened: each such sign becomes a space. Evidence is left as it is."""

import sqlalchemy as sa
from alembic import op

revision = "0017"
down_revision = "0016"
branch_labels = None
depends_on = None

STATES = ("reading", "sent", "checking", "checked", "keeping", "kept", "stopped", "failed")
NAMED = {"catalogue_items": "name", "size_aliases": "code"}
"""What a row is known by: where it would be another's, its number is put behind it."""
OTHERS = {
    "catalogue_items": ("line", "group_code", "same_as", "supplier_code"),
    "vehicles": (
        "make", "model", "engine", "trim", "group_code", "programme", "battery_place", "access", "memory", "source",
    ),
    "size_aliases": ("size", "trade", "source"),
    "suppliers": ("name",),
}  # fmt: skip
SIGNS = r"'[\x01-\x1f\x7f-\x9f]+'"


def upgrade() -> None:
    op.drop_constraint(op.f("ck_import_runs_state"), "import_runs", type_="check")
    op.create_check_constraint(op.f("ck_import_runs_state"), "import_runs", sa.column("state").in_(STATES))
    for table, names in OTHERS.items():
        for name in names:
            op.execute(
                f"update {table} set {name} = btrim(regexp_replace({name}, {SIGNS}, ' ', 'g')) where {name} ~ {SIGNS}"
            )
    for table, name in NAMED.items():
        mended = f"btrim(regexp_replace(r.{name}, {SIGNS}, ' ', 'g'))"
        op.execute(
            f"""
            update {table} r set {name} = case
              when exists (select from {table} o where o.store_id = r.store_id and o.id <> r.id and btrim(regexp_replace(o.{name}, {SIGNS}, ' ', 'g')) = {mended})
              then left({mended}, 100) || ' (' || r.id || ')' else {mended} end
            where r.{name} ~ {SIGNS}
            """
        )
    op.execute(
        f"""
        update vehicles set also_codes = (select array_agg(btrim(regexp_replace(one, {SIGNS}, ' ', 'g'))) from unnest(also_codes) one)
        where array_to_string(also_codes, '') ~ {SIGNS}
        """
    )
