"""Reserve minutes on the label; what a car asks beyond size and type: its stop-start line, its engine, its registration."""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("batteries", sa.Column("reserve_minutes", sa.Float(), nullable=True))
    op.add_column("vehicles", sa.Column("stop_start_line_volts", sa.Float(), nullable=True))
    op.add_column("vehicles", sa.Column("engine_litres", sa.Float(), nullable=True))
    op.add_column("vehicles", sa.Column("engine_fuel", sa.String(), nullable=False, server_default="petrol"))
    op.add_column("vehicles", sa.Column("needs_registration", sa.Boolean(), nullable=False, server_default=sa.false()))


def downgrade() -> None:
    raise NotImplementedError("evidence is never thrown away: restore a backup instead")
