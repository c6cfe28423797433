"""The application's database role: it owns nothing, reads and adds, and sees one store at a time (row-level security)."""

import hashlib

from sqlalchemy import Connection, text

APP_ROLE = "vane_app"

INSERT_ONLY = (
    "take_in_entries", "readings", "judgements", "moves", "claims", "rules_versions", "sign_in_tries", "writes", "erasures",
)  # fmt: skip
"""Evidence: SELECT and INSERT, nothing else."""

UPDATED = {
    "batteries": "",
    "checks": "",
    "customers": "",
    "sessions": "(seen_at, ended_at)",
    "stores": "(next_tag)",
}
"""Tables the application changes, and which columns."""

ADDED = ("batteries", "checks", "customers", "sessions")
READ = ("staff", "vehicles", "catalogue_items", "stock_pieces", "warranty_terms", "alembic_version")
AT_THE_DOOR = ("staff", "sessions", "sign_in_tries")
"""What may be looked up before a store is known, so that somebody can sign in."""

OF_A_STORE = (
    *INSERT_ONLY, "batteries", "checks", "customers", "sessions", "staff", "vehicles", "catalogue_items", "stock_pieces",
    "warranty_terms",
)  # fmt: skip

OURS = "store_id = nullif(current_setting('vane.store', true), '')::bigint"
DOOR = "current_setting('vane.door', true) = 'open'"


def _statements() -> list[str]:
    """All that is granted, in order; each may be run again."""
    run = [
        "revoke create on schema public from public",
        f"grant usage on schema public to {APP_ROLE}",
        f"revoke all on all tables in schema public from {APP_ROLE}",
        f"grant usage on all sequences in schema public to {APP_ROLE}",
    ]
    run += [f"grant select on {table} to {APP_ROLE}" for table in (*INSERT_ONLY, *UPDATED, *READ)]
    run += [f"grant insert on {table} to {APP_ROLE}" for table in (*INSERT_ONLY, *ADDED)]
    run += [f"grant update {columns} on {table} to {APP_ROLE}" for table, columns in UPDATED.items()]
    for table in OF_A_STORE:
        seen = f"({OURS}) or ({DOOR})" if table in AT_THE_DOOR else OURS
        run += [
            f"alter table {table} enable row level security",
            f"drop policy if exists one_store on {table}",
            f"create policy one_store on {table} using ({seen}) with check ({OURS})",
        ]
    return [
        *run,
        "alter table stores enable row level security",
        "drop policy if exists one_store on stores",
        f"create policy one_store on stores using (id = nullif(current_setting('vane.store', true), '')::bigint or {DOOR})",
        """
        create or replace function sweep_sessions(before timestamptz) returns bigint
        language sql security definer set search_path = public as
        $$ with gone as (delete from sessions where ends_at < before or ended_at < before returning 1) select count(*) from gone $$
        """,
        "revoke all on function sweep_sessions(timestamptz) from public",
        f"grant execute on function sweep_sessions(timestamptz) to {APP_ROLE}",
    ]


def grant(connection: Connection) -> None:
    """Make the role if it is missing and give it what it needs, where that changed. Runs as the owner of the tables."""
    statements = _statements()
    mark = f"vane check grants {hashlib.sha256(''.join(statements).encode()).hexdigest()[:16]}"
    there = connection.scalar(text("select 1 from pg_roles where rolname = :role"), {"role": APP_ROLE})
    if there and connection.scalar(text("select obj_description('public'::regnamespace)")) == mark:
        return
    if not there:
        connection.execute(text(f"create role {APP_ROLE} nologin"))
    if not connection.scalar(text(f"select pg_has_role(current_user, '{APP_ROLE}', 'member')")):
        # where one address is given for everything, the application's connections take this role
        connection.execute(text(f"grant {APP_ROLE} to current_user"))
    for statement in (*statements, f"comment on schema public is '{mark}'"):
        connection.exec_driver_sql(statement)
