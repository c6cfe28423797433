"""first light"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


APPEND_ONLY = ("take_in_entries", "readings", "judgements", "moves", "claims", "rules_versions")


def upgrade() -> None:

    op.create_table(
        "stores",
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("temperature_unit", sa.String(length=1), nullable=False),
        sa.Column("length_unit", sa.String(length=2), nullable=False),
        sa.Column("currency", sa.String(length=3), nullable=False),
        sa.Column("bay_temperature_c", sa.Double(), nullable=True),
        sa.Column("idle_minutes", sa.Integer(), nullable=False),
        sa.Column("next_tag", sa.Integer(), nullable=False),
        sa.Column("id", sa.BigInteger(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_stores")),
    )
    op.create_table(
        "catalogue_items",
        sa.Column("line", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("group_code", sa.String(), nullable=False),
        sa.Column("chemistry", sa.String(), nullable=False),
        sa.Column("cca_amps", sa.Double(), nullable=False),
        sa.Column("capacity_ah_20h", sa.Double(), nullable=False),
        sa.Column("vent_tube", sa.Boolean(), nullable=False),
        sa.Column("price_cents", sa.Integer(), nullable=False),
        sa.Column("core_deposit_cents", sa.Integer(), nullable=False),
        sa.Column("store_id", sa.BigInteger(), nullable=False),
        sa.Column("id", sa.BigInteger(), nullable=False),
        sa.ForeignKeyConstraint(["store_id"], ["stores.id"], name=op.f("fk_catalogue_items_store_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_catalogue_items")),
        sa.UniqueConstraint("store_id", "name", name=op.f("uq_catalogue_items_store_id_name")),
    )
    op.create_index(op.f("ix_catalogue_items_store_id"), "catalogue_items", ["store_id"], unique=False)
    op.create_table(
        "customers",
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("phone", sa.String(), nullable=False),
        sa.Column("store_id", sa.BigInteger(), nullable=False),
        sa.Column("id", sa.BigInteger(), nullable=False),
        sa.ForeignKeyConstraint(["store_id"], ["stores.id"], name=op.f("fk_customers_store_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_customers")),
    )
    op.create_index(op.f("ix_customers_store_id"), "customers", ["store_id"], unique=False)
    op.create_table(
        "staff",
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("role", sa.String(), nullable=False),
        sa.Column("pin_hash", sa.String(), nullable=False),
        sa.Column("wrong_tries", sa.Integer(), nullable=False),
        sa.Column("wait_until", sa.DateTime(timezone=True), nullable=True),
        sa.Column("store_id", sa.BigInteger(), nullable=False),
        sa.Column("id", sa.BigInteger(), nullable=False),
        sa.CheckConstraint("role in ('counter', 'lead')", name=op.f("ck_staff_role")),
        sa.ForeignKeyConstraint(["store_id"], ["stores.id"], name=op.f("fk_staff_store_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_staff")),
    )
    op.create_index(op.f("ix_staff_store_id"), "staff", ["store_id"], unique=False)
    op.create_table(
        "vehicles",
        sa.Column("make", sa.String(), nullable=False),
        sa.Column("model", sa.String(), nullable=False),
        sa.Column("from_year", sa.Integer(), nullable=False),
        sa.Column("to_year", sa.Integer(), nullable=True),
        sa.Column("group_code", sa.String(), nullable=False),
        sa.Column("also_codes", postgresql.ARRAY(sa.String()), nullable=False),
        sa.Column("min_cca_amps", sa.Double(), nullable=False),
        sa.Column("chemistry", sa.String(), nullable=False),
        sa.Column("stop_start", sa.Boolean(), nullable=False),
        sa.Column("vent_tube", sa.Boolean(), nullable=False),
        sa.Column("no_agm", sa.Boolean(), nullable=False),
        sa.Column("source", sa.String(), nullable=False),
        sa.Column("store_id", sa.BigInteger(), nullable=False),
        sa.Column("id", sa.BigInteger(), nullable=False),
        sa.ForeignKeyConstraint(["store_id"], ["stores.id"], name=op.f("fk_vehicles_store_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_vehicles")),
    )
    op.create_index(op.f("ix_vehicles_store_id"), "vehicles", ["store_id"], unique=False)
    op.create_table(
        "warranty_terms",
        sa.Column("line", sa.String(), nullable=False),
        sa.Column("free_months", sa.Integer(), nullable=False),
        sa.Column("pro_rata_months", sa.Integer(), nullable=False),
        sa.Column("date_code_allowance_months", sa.Integer(), nullable=False),
        sa.Column("excluded_uses", postgresql.ARRAY(sa.String()), nullable=False),
        sa.Column("reference", sa.String(), nullable=False),
        sa.Column("store_id", sa.BigInteger(), nullable=False),
        sa.Column("id", sa.BigInteger(), nullable=False),
        sa.ForeignKeyConstraint(["store_id"], ["stores.id"], name=op.f("fk_warranty_terms_store_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_warranty_terms")),
        sa.UniqueConstraint("store_id", "line", name=op.f("uq_warranty_terms_store_id_line")),
    )
    op.create_index(op.f("ix_warranty_terms_store_id"), "warranty_terms", ["store_id"], unique=False)
    op.create_table(
        "batteries",
        sa.Column("tag", sa.Integer(), nullable=False),
        sa.Column("place", sa.String(), nullable=False),
        sa.Column("needs_hand_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("line", sa.String(), nullable=False),
        sa.Column("nominal_volts", sa.Integer(), nullable=False),
        sa.Column("chemistry", sa.String(), nullable=False),
        sa.Column("rated_amps", sa.Double(), nullable=True),
        sa.Column("rated_scale", sa.String(), nullable=True),
        sa.Column("capacity_ah_20h", sa.Double(), nullable=True),
        sa.Column("group_code", sa.String(), nullable=True),
        sa.Column("serial", sa.String(), nullable=False),
        sa.Column("made_on", sa.Date(), nullable=True),
        sa.Column("sold_on", sa.Date(), nullable=True),
        sa.Column("customer_id", sa.BigInteger(), nullable=True),
        sa.Column("vehicle_id", sa.BigInteger(), nullable=True),
        sa.Column("came_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column("store_id", sa.BigInteger(), nullable=False),
        sa.Column("id", sa.BigInteger(), nullable=False),
        sa.CheckConstraint(
            "place in ('counter', 'bench', 'on_charge', 'standing', 'ready', 'held_apart', 'gone')",
            name=op.f("ck_batteries_place"),
        ),
        sa.ForeignKeyConstraint(["customer_id"], ["customers.id"], name=op.f("fk_batteries_customer_id")),
        sa.ForeignKeyConstraint(["store_id"], ["stores.id"], name=op.f("fk_batteries_store_id")),
        sa.ForeignKeyConstraint(["vehicle_id"], ["vehicles.id"], name=op.f("fk_batteries_vehicle_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_batteries")),
        sa.UniqueConstraint("store_id", "tag", name=op.f("uq_batteries_store_id_tag")),
    )
    op.create_index(
        "ix_batteries_in_house", "batteries", ["store_id"], unique=False, postgresql_where="place <> 'gone'"
    )
    op.create_index(op.f("ix_batteries_store_id"), "batteries", ["store_id"], unique=False)
    op.create_table(
        "rules_versions",
        sa.Column("version", sa.String(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column("made_by", sa.BigInteger(), nullable=True),
        sa.Column("reason", sa.String(), nullable=False),
        sa.Column("body", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("store_id", sa.BigInteger(), nullable=False),
        sa.Column("id", sa.BigInteger(), nullable=False),
        sa.ForeignKeyConstraint(["made_by"], ["staff.id"], name=op.f("fk_rules_versions_made_by")),
        sa.ForeignKeyConstraint(["store_id"], ["stores.id"], name=op.f("fk_rules_versions_store_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_rules_versions")),
        sa.UniqueConstraint("store_id", "version", name=op.f("uq_rules_versions_store_id_version")),
    )
    op.create_index(op.f("ix_rules_versions_store_id"), "rules_versions", ["store_id"], unique=False)
    op.create_table(
        "sessions",
        sa.Column("staff_id", sa.BigInteger(), nullable=False),
        sa.Column("token_hash", sa.String(), nullable=False),
        sa.Column("csrf_token", sa.String(), nullable=False),
        sa.Column("began_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column("seen_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column("ended_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("store_id", sa.BigInteger(), nullable=False),
        sa.Column("id", sa.BigInteger(), nullable=False),
        sa.ForeignKeyConstraint(["staff_id"], ["staff.id"], name=op.f("fk_sessions_staff_id")),
        sa.ForeignKeyConstraint(["store_id"], ["stores.id"], name=op.f("fk_sessions_store_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_sessions")),
        sa.UniqueConstraint("token_hash", name=op.f("uq_sessions_token_hash")),
    )
    op.create_index(op.f("ix_sessions_staff_id"), "sessions", ["staff_id"], unique=False)
    op.create_index(op.f("ix_sessions_store_id"), "sessions", ["store_id"], unique=False)
    op.create_table(
        "stock_pieces",
        sa.Column("item_id", sa.BigInteger(), nullable=False),
        sa.Column("arrived_on", sa.Date(), nullable=False),
        sa.Column("last_volts", sa.Double(), nullable=True),
        sa.Column("last_volts_on", sa.Date(), nullable=True),
        sa.Column("sold_on", sa.Date(), nullable=True),
        sa.Column("store_id", sa.BigInteger(), nullable=False),
        sa.Column("id", sa.BigInteger(), nullable=False),
        sa.ForeignKeyConstraint(["item_id"], ["catalogue_items.id"], name=op.f("fk_stock_pieces_item_id")),
        sa.ForeignKeyConstraint(["store_id"], ["stores.id"], name=op.f("fk_stock_pieces_store_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_stock_pieces")),
    )
    op.create_index(op.f("ix_stock_pieces_item_id"), "stock_pieces", ["item_id"], unique=False)
    op.create_index(op.f("ix_stock_pieces_store_id"), "stock_pieces", ["store_id"], unique=False)
    op.create_table(
        "checks",
        sa.Column("battery_id", sa.BigInteger(), nullable=False),
        sa.Column("opened_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column("opened_by", sa.BigInteger(), nullable=False),
        sa.Column("came_in", sa.String(), nullable=False),
        sa.Column("complaint", sa.String(), nullable=False),
        sa.Column("use", sa.String(), nullable=False),
        sa.Column("stop_start_car", sa.Boolean(), nullable=False),
        sa.Column("store_id", sa.BigInteger(), nullable=False),
        sa.Column("id", sa.BigInteger(), nullable=False),
        sa.ForeignKeyConstraint(["battery_id"], ["batteries.id"], name=op.f("fk_checks_battery_id")),
        sa.ForeignKeyConstraint(["opened_by"], ["staff.id"], name=op.f("fk_checks_opened_by")),
        sa.ForeignKeyConstraint(["store_id"], ["stores.id"], name=op.f("fk_checks_store_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_checks")),
    )
    op.create_index(op.f("ix_checks_battery_id"), "checks", ["battery_id"], unique=False)
    op.create_index(op.f("ix_checks_opened_at"), "checks", ["opened_at"], unique=False)
    op.create_index(op.f("ix_checks_store_id"), "checks", ["store_id"], unique=False)
    op.create_table(
        "moves",
        sa.Column("battery_id", sa.BigInteger(), nullable=False),
        sa.Column("place", sa.String(), nullable=False),
        sa.Column("needs_hand_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("moved_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column("staff_id", sa.BigInteger(), nullable=False),
        sa.Column("store_id", sa.BigInteger(), nullable=False),
        sa.Column("id", sa.BigInteger(), nullable=False),
        sa.ForeignKeyConstraint(["battery_id"], ["batteries.id"], name=op.f("fk_moves_battery_id")),
        sa.ForeignKeyConstraint(["staff_id"], ["staff.id"], name=op.f("fk_moves_staff_id")),
        sa.ForeignKeyConstraint(["store_id"], ["stores.id"], name=op.f("fk_moves_store_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_moves")),
    )
    op.create_index(op.f("ix_moves_battery_id"), "moves", ["battery_id"], unique=False)
    op.create_index(op.f("ix_moves_store_id"), "moves", ["store_id"], unique=False)
    op.create_table(
        "judgements",
        sa.Column("check_id", sa.BigInteger(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column("staff_id", sa.BigInteger(), nullable=False),
        sa.Column("rules_version_id", sa.BigInteger(), nullable=False),
        sa.Column("outcome", sa.String(), nullable=False),
        sa.Column("body", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("store_id", sa.BigInteger(), nullable=False),
        sa.Column("id", sa.BigInteger(), nullable=False),
        sa.ForeignKeyConstraint(["check_id"], ["checks.id"], name=op.f("fk_judgements_check_id")),
        sa.ForeignKeyConstraint(
            ["rules_version_id"], ["rules_versions.id"], name=op.f("fk_judgements_rules_version_id")
        ),
        sa.ForeignKeyConstraint(["staff_id"], ["staff.id"], name=op.f("fk_judgements_staff_id")),
        sa.ForeignKeyConstraint(["store_id"], ["stores.id"], name=op.f("fk_judgements_store_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_judgements")),
    )
    op.create_index(op.f("ix_judgements_check_id"), "judgements", ["check_id"], unique=False)
    op.create_index(op.f("ix_judgements_store_id"), "judgements", ["store_id"], unique=False)
    op.create_table(
        "readings",
        sa.Column("reading_uuid", sa.Uuid(), nullable=False),
        sa.Column("check_id", sa.BigInteger(), nullable=False),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("taken_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("kept_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column("staff_id", sa.BigInteger(), nullable=False),
        sa.Column("replaces", sa.Uuid(), nullable=True),
        sa.Column("body", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("store_id", sa.BigInteger(), nullable=False),
        sa.Column("id", sa.BigInteger(), nullable=False),
        sa.ForeignKeyConstraint(["check_id"], ["checks.id"], name=op.f("fk_readings_check_id")),
        sa.ForeignKeyConstraint(["replaces"], ["readings.reading_uuid"], name=op.f("fk_readings_replaces")),
        sa.ForeignKeyConstraint(["staff_id"], ["staff.id"], name=op.f("fk_readings_staff_id")),
        sa.ForeignKeyConstraint(["store_id"], ["stores.id"], name=op.f("fk_readings_store_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_readings")),
        sa.UniqueConstraint("reading_uuid", name=op.f("uq_readings_reading_uuid")),
        sa.UniqueConstraint("replaces", name=op.f("uq_readings_replaces")),
    )
    op.create_index(op.f("ix_readings_check_id"), "readings", ["check_id"], unique=False)
    op.create_index(op.f("ix_readings_store_id"), "readings", ["store_id"], unique=False)
    op.create_table(
        "take_in_entries",
        sa.Column("check_id", sa.BigInteger(), nullable=False),
        sa.Column("written_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column("staff_id", sa.BigInteger(), nullable=False),
        sa.Column("body", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("store_id", sa.BigInteger(), nullable=False),
        sa.Column("id", sa.BigInteger(), nullable=False),
        sa.ForeignKeyConstraint(["check_id"], ["checks.id"], name=op.f("fk_take_in_entries_check_id")),
        sa.ForeignKeyConstraint(["staff_id"], ["staff.id"], name=op.f("fk_take_in_entries_staff_id")),
        sa.ForeignKeyConstraint(["store_id"], ["stores.id"], name=op.f("fk_take_in_entries_store_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_take_in_entries")),
    )
    op.create_index(op.f("ix_take_in_entries_check_id"), "take_in_entries", ["check_id"], unique=False)
    op.create_index(op.f("ix_take_in_entries_store_id"), "take_in_entries", ["store_id"], unique=False)
    op.create_table(
        "claims",
        sa.Column("battery_id", sa.BigInteger(), nullable=False),
        sa.Column("judgement_id", sa.BigInteger(), nullable=False),
        sa.Column("replacement_item_id", sa.BigInteger(), nullable=True),
        sa.Column("written_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column("staff_id", sa.BigInteger(), nullable=False),
        sa.Column("serial", sa.String(), nullable=False),
        sa.Column("decision", sa.String(), nullable=False),
        sa.Column("credit_cents", sa.Integer(), nullable=False),
        sa.Column("body", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("store_id", sa.BigInteger(), nullable=False),
        sa.Column("id", sa.BigInteger(), nullable=False),
        sa.ForeignKeyConstraint(["battery_id"], ["batteries.id"], name=op.f("fk_claims_battery_id")),
        sa.ForeignKeyConstraint(["judgement_id"], ["judgements.id"], name=op.f("fk_claims_judgement_id")),
        sa.ForeignKeyConstraint(
            ["replacement_item_id"], ["catalogue_items.id"], name=op.f("fk_claims_replacement_item_id")
        ),
        sa.ForeignKeyConstraint(["staff_id"], ["staff.id"], name=op.f("fk_claims_staff_id")),
        sa.ForeignKeyConstraint(["store_id"], ["stores.id"], name=op.f("fk_claims_store_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_claims")),
        sa.UniqueConstraint("battery_id", name=op.f("uq_claims_battery_id")),
    )
    op.create_index(op.f("ix_claims_store_id"), "claims", ["store_id"], unique=False)
    op.execute(
        """
        create function refuse_change() returns trigger language plpgsql as $$
        begin
          raise exception 'evidence is append-only: % on % refused', tg_op, tg_table_name using errcode = 'restrict_violation';
        end $$
        """
    )
    for table in APPEND_ONLY:
        op.execute(
            f"create trigger append_only before update or delete on {table} "
            "for each row execute function refuse_change()"
        )


def downgrade() -> None:
    raise NotImplementedError("evidence is never thrown away: restore a backup instead")
