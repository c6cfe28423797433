"""Hard ground: people apart from evidence, writes by name, tries at a PIN, zones, indexes for size, and a role that owns nothing."""

import secrets

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.execute("create extension if not exists pg_trgm")
    _stores_and_people()
    _customers_apart()
    _evidence()
    _for_size()


def _stores_and_people() -> None:
    op.add_column("stores", sa.Column("session_hours", sa.Integer(), nullable=False, server_default="12"))
    op.add_column("stores", sa.Column("time_zone", sa.String(), nullable=False, server_default="UTC"))
    op.add_column("stores", sa.Column("demo", sa.Boolean(), nullable=False, server_default="false"))
    op.add_column("stores", sa.Column("door", sa.String(), nullable=True))
    connection = op.get_bind()
    for (store_id,) in connection.execute(sa.text("select id from stores")).all():
        connection.execute(
            sa.text("update stores set door = :door where id = :id"), {"door": secrets.token_urlsafe(9), "id": store_id}
        )
    op.alter_column("stores", "door", nullable=False)
    op.create_unique_constraint(op.f("uq_stores_door"), "stores", ["door"])
    op.drop_column("staff", "wrong_tries")
    op.drop_column("staff", "wait_until")
    op.add_column("staff", sa.Column("left_at", sa.DateTime(timezone=True), nullable=True))
    op.execute("delete from sessions")
    op.add_column("sessions", sa.Column("ends_at", sa.DateTime(timezone=True), nullable=False))
    _of_store(
        "sign_in_tries",
        sa.Column(
            "staff_id",
            sa.BigInteger(),
            sa.ForeignKey("staff.id", name=op.f("fk_sign_in_tries_staff_id")),
            nullable=False,
        ),
        sa.Column("address", sa.String(), nullable=False),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("tried_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column(
            "lifted_by",
            sa.BigInteger(),
            sa.ForeignKey("staff.id", name=op.f("fk_sign_in_tries_lifted_by")),
            nullable=True,
        ),
        sa.CheckConstraint("kind in ('tried', 'right', 'lifted')", name=op.f("ck_sign_in_tries_kind")),
    )
    op.create_index("ix_sign_in_tries_of", "sign_in_tries", ["staff_id", "address", "id"])
    op.create_index("ix_sign_in_tries_from", "sign_in_tries", ["address", "id"])


def _of_store(name: str, *parts: sa.schema.SchemaItem) -> None:
    """A table of a store with its key, its store and its index."""
    op.create_table(
        name,
        *parts,
        sa.Column("store_id", sa.BigInteger(), nullable=False),
        sa.Column("id", sa.BigInteger(), nullable=False),
        sa.ForeignKeyConstraint(["store_id"], ["stores.id"], name=op.f(f"fk_{name}_store_id")),
        sa.PrimaryKeyConstraint("id", name=op.f(f"pk_{name}")),
    )
    op.create_index(op.f(f"ix_{name}_store_id"), name, ["store_id"])


def _customers_apart() -> None:
    """Names and phones move out of the evidence into their own table, which can be erased."""
    op.add_column("customers", sa.Column("plate", sa.String(), nullable=False, server_default=""))
    op.add_column("customers", sa.Column("erased_at", sa.DateTime(timezone=True), nullable=True))
    op.add_column(
        "customers",
        sa.Column(
            "search_text",
            sa.String(),
            sa.Computed("lower(name || ' ' || phone || ' ' || plate)", persisted=True),
            nullable=False,
        ),
    )
    op.create_index(
        "ix_customers_search_text",
        "customers",
        ["search_text"],
        postgresql_using="gin",
        postgresql_ops={"search_text": "gin_trgm_ops"},
    )
    op.add_column(
        "take_in_entries",
        sa.Column(
            "customer_id",
            sa.BigInteger(),
            sa.ForeignKey("customers.id", name=op.f("fk_take_in_entries_customer_id")),
            nullable=True,
        ),
    )
    op.create_index(op.f("ix_take_in_entries_customer_id"), "take_in_entries", ["customer_id"])
    for table in ("take_in_entries", "claims"):
        op.execute(f"alter table {table} disable trigger append_only")
    op.execute(
        """
        do $$
        declare entry record; made bigint;
        begin
          for entry in
            select t.id, t.store_id, coalesce(t.body->>'customer_name', '') as name, coalesce(t.body->>'customer_phone', '') as phone,
                   b.customer_id, c.name as now_name, c.phone as now_phone
            from take_in_entries t join checks k on k.id = t.check_id join batteries b on b.id = k.battery_id
            left join customers c on c.id = b.customer_id
          loop
            made := null;
            if entry.name <> '' or entry.phone <> '' then
              if entry.customer_id is not null and entry.name = entry.now_name and entry.phone = entry.now_phone then
                made := entry.customer_id;
              else
                insert into customers (store_id, name, phone) values (entry.store_id, entry.name, entry.phone) returning id into made;
              end if;
            end if;
            update take_in_entries set customer_id = made, body = body - 'customer_name' - 'customer_phone' where id = entry.id;
          end loop;
        end $$
        """
    )
    op.execute(
        "update claims set body = body #- '{evidence,customer_name}' #- '{evidence,customer_phone}' where body ? 'evidence'"
    )
    for table in ("take_in_entries", "claims"):
        op.execute(f"alter table {table} enable trigger append_only")
    _of_store(
        "erasures",
        sa.Column("erased_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column(
            "staff_id", sa.BigInteger(), sa.ForeignKey("staff.id", name=op.f("fk_erasures_staff_id")), nullable=False
        ),
        sa.Column("customers", sa.Integer(), nullable=False),
        sa.Column("tags", postgresql.ARRAY(sa.Integer()), nullable=False),
    )


def _evidence() -> None:
    op.drop_constraint("uq_readings_replaces", "readings", type_="unique")
    op.create_index(op.f("ix_readings_replaces"), "readings", ["replaces"])
    _of_store(
        "writes",
        sa.Column("write_id", sa.Uuid(), nullable=False),
        sa.Column("digest", sa.String(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column(
            "staff_id", sa.BigInteger(), sa.ForeignKey("staff.id", name=op.f("fk_writes_staff_id")), nullable=False
        ),
        sa.Column("tag", sa.Integer(), nullable=True),
        sa.UniqueConstraint("store_id", "write_id", name=op.f("uq_writes_store_id_write_id")),
    )
    op.add_column(
        "claims",
        sa.Column(
            "serial_key",
            sa.String(),
            sa.Computed("upper(regexp_replace(serial, '[^0-9A-Za-z]', '', 'g'))", persisted=True),
            nullable=False,
        ),
    )
    op.create_index("ix_claims_serial_key", "claims", ["store_id", "serial_key"])
    for table in ("sign_in_tries", "writes", "erasures"):
        op.execute(
            f"create trigger append_only before update or delete on {table} for each row execute function refuse_change()"
        )


def _for_size() -> None:
    op.add_column(
        "batteries",
        sa.Column(
            "search_text",
            sa.String(),
            sa.Computed("lower(tag::text || ' ' || line || ' ' || serial)", persisted=True),
            nullable=False,
        ),
    )
    op.create_index(
        "ix_batteries_search_text",
        "batteries",
        ["search_text"],
        postgresql_using="gin",
        postgresql_ops={"search_text": "gin_trgm_ops"},
    )
    op.create_index("ix_batteries_customer_id", "batteries", ["customer_id"])
    op.create_index("ix_batteries_vehicle_id", "batteries", ["vehicle_id", "id"])
    op.drop_index("ix_checks_battery_id", "checks")
    op.drop_index("ix_checks_opened_at", "checks")
    op.create_index("ix_checks_of_battery", "checks", ["battery_id", "id"])
    op.create_index("ix_checks_of_store", "checks", ["store_id", "id"])
    op.drop_index("ix_judgements_check_id", "judgements")
    op.create_index("ix_judgements_of_check", "judgements", ["check_id", "id"])
    op.execute(
        """
        alter table judgements
          add column next_step varchar generated always as (body #>> '{next_step,key}') stored,
          add column charge_low_pct double precision generated always as ((body #>> '{state_of_charge,low_pct}')::double precision) stored,
          add column charge_high_pct double precision generated always as ((body #>> '{state_of_charge,high_pct}')::double precision) stored,
          add column figures jsonb generated always as
            (jsonb_path_query_array(body, '$.findings[*] ? (@.status != "dropped").reading_text')) stored
        """
    )
    op.create_index("ix_catalogue_items_fit", "catalogue_items", ["store_id", "group_code", "cca_amps"])
    op.create_index("ix_catalogue_items_line", "catalogue_items", [sa.text("lower(line)"), "group_code"])
    op.drop_index("ix_stock_pieces_item_id", "stock_pieces")
    op.create_index("ix_stock_pieces_unsold", "stock_pieces", ["item_id"], postgresql_where=sa.text("sold_on is null"))


def downgrade() -> None:
    raise NotImplementedError("evidence is never thrown away: restore a backup instead")
