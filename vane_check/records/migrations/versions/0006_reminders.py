"""The secret in the address of a shop's calendar feed; watched batteries and earlier visits of a serial found by index."""

import secrets

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("stores", sa.Column("calendar_secret", sa.String(), nullable=True))
    connection = op.get_bind()
    for (store_id,) in connection.execute(sa.text("select id from stores")).all():
        connection.execute(
            sa.text("update stores set calendar_secret = :secret where id = :id"),
            {"secret": secrets.token_urlsafe(24), "id": store_id},
        )
    op.alter_column("stores", "calendar_secret", nullable=False)
    op.create_index(
        "ix_judgements_watched", "judgements", ["check_id", "id"], postgresql_where=sa.text("outcome = 'watch'")
    )
    op.add_column(
        "batteries",
        sa.Column(
            "serial_key",
            sa.String(),
            sa.Computed("upper(regexp_replace(serial, '[^0-9A-Za-z]', '', 'g'))", persisted=True),
            nullable=False,
        ),
    )
    op.create_index(
        "ix_batteries_serial_key", "batteries", ["store_id", "serial_key"], postgresql_where=sa.text("serial_key <> ''")
    )
    op.create_unique_constraint(op.f("uq_stores_calendar_secret"), "stores", ["calendar_secret"])


def downgrade() -> None:
    raise NotImplementedError("evidence is never thrown away: restore a backup instead")
