"""Seals over the evidence, each with a hash that follows from the one before: `records/seals.py` makes and walks them. And
a place for the rows of a list on their way, so that the application needs no tables of its own making.

A later migration changes no row that is sealed; one that must, says so in its docstring and begins the seals anew.
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0016"
down_revision = "0015"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "seals",
        sa.Column("id", sa.BigInteger(), primary_key=True),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("head", sa.String(), nullable=False),
        sa.Column("parts", JSONB(), nullable=False),
    )
    op.execute(
        "create trigger append_only before update or delete on seals for each row execute function refuse_change()"
    )
    # a list's rows on their way, within one transaction: they are gone when it ends, so nobody else ever sees one
    op.execute("create unlogged table incoming_rows (batch bigint not null, body jsonb not null)")
    # planned anew each time, by how many rows there are: a plan made for one row and kept for 100,000 never came to its end
    connection = op.get_bind()
    asked = "select prosrc from pg_proc where oid = 'keep_as_it_stood()'::regprocedure"
    body = connection.exec_driver_sql(asked).scalar_one()
    body = body.replace("insert into", "execute $kept$ insert into", 1).replace("return null", "$kept$; return null", 1)
    body = body.replace(";", "", 1)
    connection.exec_driver_sql(
        "create or replace function keep_as_it_stood() returns trigger language plpgsql"
        f" set search_path = pg_catalog, public, pg_temp as $told${body}$told$"
    )
