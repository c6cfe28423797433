"""The application's database role: it owns nothing, reads and adds, and sees one store at a time (row-level security)."""

import hashlib

from sqlalchemy import Connection, text

from . import roles_stores

APP_ROLE = "vane_app"

INSERT_ONLY = (
    "take_in_entries", "readings", "judgements", "moves", "claims", "rules_versions", "sign_in_tries", "writes", "erasures",
    "equipment_entries", "promises", "rack_pins", "rack_plans", "piece_entries", "item_entries", "sales", "fitting_ticks",
    "house_entries", "customer_entries", "warranty_terms", "ways_back", "own_calls",
)  # fmt: skip
"""Evidence: SELECT and INSERT, nothing else."""

UPDATED = {
    "batteries": "",
    "checks": "",
    "customers": "",
    "sessions": "(seen_at, ended_at)",
    "stores": "(next_tag, calendar_secret, opening_hours, name, currency, temperature_unit, length_unit, time_zone, bay_temperature_c, idle_minutes, tax_name, tax_pct, tax_on_top, more_taxes, paper_size, paper_head, paper_foot, logo, logo_type, language, rules_from, catalogue_from, terms_from)",
    "staff": "(name, role, pin_hash, left_at)",
    "equipment": "",
    "rack_stays": "(off_at, off_by, how)",
    "vehicles": "",
    "catalogue_items": "",
    "stock_pieces": "",
    "suppliers": "",
    "size_aliases": "",
    "order_notes": "(state, closed_at, closed_by)",
    "remarks": "(text)",
    "import_runs": "",
    "import_mappings": "",
    "transfers": "(state, settled_at, settled_by_name, arrived_tag, body)",
}
"""Tables the application changes, and which columns."""

GOODS = (
    "vehicles", "catalogue_items", "stock_pieces", "suppliers", "size_aliases", "order_notes", "import_runs",
    "import_mappings", "item_boxes",
)  # fmt: skip
IN_TRANSIT = "incoming_rows"
"""Rows of a list on their way: put in and taken out within one transaction. COPY goes into no table with row-level security."""
ADDED = (
    "staff",
    "batteries",
    "checks",
    "customers",
    "sessions",
    "equipment",
    "rack_stays",
    "transfers",
    "remarks",
    *GOODS,
)
READ = ("backups", "alembic_version", "item_boxes", "seals")
AT_THE_DOOR = ("staff", "sessions", "sign_in_tries")
"""What may be looked up before a store is known, so that somebody can sign in."""

OF_A_STORE = (
    *INSERT_ONLY, "batteries", "checks", "customers", "sessions", "staff", "equipment", "rack_stays", "remarks", *GOODS,
)  # fmt: skip

OURS = "store_id = nullif(current_setting('vane.store', true), '')::bigint"
DOOR = "current_setting('vane.door', true) = 'open'"


_OURS = OURS.replace("'", "''")
"""The condition inside a statement that is itself a text."""

_FIND = f"""
    create function find_batteries(pattern text, most int) returns table (way int, battery_id bigint)
    language plpgsql stable security definer set search_path = pg_catalog, public, pg_temp set enable_mergejoin = off set enable_hashjoin = off as $$
    begin
      return query execute '
        (select 1, id from batteries where {_OURS} and search_text like $1 limit $2)
        union all
        (select 2, b.id from (select id from customers where {_OURS} and search_text like $1 limit $2) c
         join batteries b on b.customer_id = c.id limit $2)
        union all
        (select 3, id from batteries where vehicle_id = any (array(
           select id from vehicles where {_OURS} and lower(make || '' '' || model) like $1)) limit $2)'
      using pattern, most;
    end $$
"""
"""Batteries by what is typed: by tag, line and serial (1), by customer (2), by car (3); found by trigrams. LIKE may not be
asked of an index before row-level security has let a row through, so that this goes through the owner, with the same store's
condition inside. Planned anew each time, by the pattern."""

_WALK = f"""
    create function walk_batteries(pattern text, way int, most int) returns setof bigint
    language plpgsql stable security definer set search_path = pg_catalog, public, pg_temp
    set enable_sort = off set enable_bitmapscan = off set enable_seqscan = off set max_parallel_workers_per_gather = 0
    set enable_mergejoin = off set enable_hashjoin = off as $$
    begin
      if way = 1 then
        return query execute 'select id from batteries where {_OURS} and search_text like $1 order by id desc limit $2'
          using pattern, most;
      elsif way = 2 then
        return query execute 'select b.id from
          (select id from customers where {_OURS} and search_text like $1 order by id desc limit $2) c
          join batteries b on b.customer_id = c.id' using pattern, most;
      else
        return query execute 'select id from batteries where {_OURS} and vehicle_id = any (array(
          select id from vehicles where {_OURS} and lower(make || '' '' || model) like $1)) order by id desc limit $2'
          using pattern, most;
      end if;
    end $$
"""
"""The newest of many batteries that one of the ways finds, walked from the end. Customers are written in with their battery,
so the newest customers are the newest batteries'."""


_SWEEP = """
    create function sweep_sessions(before timestamptz) returns bigint
    language sql security definer set search_path = pg_catalog, public, pg_temp as
    $$ with gone as (delete from sessions where ends_at < before or ended_at < before returning 1) select count(*) from gone $$
"""
"""The one thing that is thrown away: sessions that ended long ago."""

_ELSEWHERE = """
    create function pieces_elsewhere(wanted text[]) returns table (store text, name text, pieces int)
    language plpgsql stable security definer set search_path = pg_catalog, public, pg_temp as $$
    #variable_conflict use_column
    begin
      return query select s.name::text, i.name::text, i.in_stock from stores s
        join lateral (select name, in_stock from catalogue_items where store_id = s.id and name = any (wanted) and in_stock > 0) i on true
        where s.id <> nullif(current_setting('vane.store', true), '')::bigint
        order by i.name, i.in_stock desc limit 60;
    end $$
"""
"""A look across stores, beside what `roles_stores.py` has: how many of a name another store of the house has. Nothing else of it is told."""

_PEOPLE = f"""
    create function find_people(pattern text, keyed text, prefix text, most int) returns table (person bigint, way int)
    language plpgsql stable security definer set search_path = pg_catalog, public, pg_temp set enable_mergejoin = off set enable_hashjoin = off as $$
    begin
      return query execute '
        select coalesce(c.merged_into, c.id), min(f.way) from (
          (select 1 as way, id from customers where {_OURS} and erased_at is null and name_key like $3 limit $4)
          union all
          (select 2, id from customers where {_OURS} and erased_at is null and (search_text like $1 or search_text like $2) limit $4)
          union all
          (select 3, customer_id from batteries where {_OURS} and customer_id is not null and search_text like $1 limit $4)
          union all
          (select 4, customer_id from batteries where customer_id is not null and vehicle_id = any (array(
             select id from vehicles where {_OURS} and lower(make || '' '' || model) like $1)) limit $4)
        ) f join customers c on c.id = f.id where c.erased_at is null
        group by 1 order by 2, 1 desc limit $4'
      using pattern, keyed, prefix, most;
    end $$
"""
"""Customers by what is typed: their name's beginning, name, phone or plate, what is on a battery of theirs, their car."""

_ALIKE = f"""
    create function find_alike(phones text[], plates text[], names text[], likeness real, most int) returns setof bigint
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
    begin
      perform set_config('pg_trgm.similarity_threshold', likeness::text, true);
      return query execute '
        select distinct coalesce(merged_into, id) from customers where {_OURS} and erased_at is null
          and (phone_key <> '''' and phone_key = any ($1) or plate_key <> '''' and plate_key = any ($2) or name_key %% any ($3))
          limit $4' using phones, plates, names, most;
    end $$
"""
"""Entries that may be of the same person: by phone, plate, or a name whose threes of letters are alike."""

_OPEN_SHOP = """
    create function open_shop(told jsonb) returns bigint language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
    declare made bigint;
    begin
      lock table stores in exclusive mode;
      if exists (select from stores) then
        return null;
      end if;
      insert into stores (name, currency, temperature_unit, length_unit, time_zone, opening_hours, door, calendar_secret, idle_minutes, next_tag)
        values (told->>'name', told->>'currency', told->>'temperature_unit', told->>'length_unit', told->>'time_zone',
                told->'opening_hours', told->>'door', told->>'calendar_secret', (told->>'idle_minutes')::int, 1)
        returning id into made;
      return made;
    end $$
"""
"""The first store of a server that has none; null where there is one already. An owner opens more (`roles_stores.py`)."""

PATHS = """
    do $$
    declare one regprocedure;
    begin
      for one in select p.oid from pg_proc p
        where p.pronamespace = 'public'::regnamespace and p.proowner = current_user::regrole
          and (p.prosecdef or p.prorettype = 'trigger'::regtype)
      loop
        execute format('alter function %%s set search_path = pg_catalog, public, pg_temp', one);
      end loop;
    end $$
"""
"""Whatever runs as the owner, or for evidence, means the real tables: a caller's temporary table is looked for last, where it
would come first by itself."""

NO_TABLES_OF_ITS_OWN = """
    do $$ begin execute format('revoke temporary on database %I from public', current_database()); end $$
"""
"""The application makes no table, a temporary one neither."""

FUNCTIONS = (
    "sweep_sessions(timestamptz)", "find_batteries(text, int)", "walk_batteries(text, int, int)", "pieces_elsewhere(text[])",
    "open_shop(jsonb)", "find_people(text, text, text, int)", "find_alike(text[], text[], text[], real, int)", *roles_stores.FUNCTIONS,
)  # fmt: skip


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
    run.append(f"grant select, insert, delete on {IN_TRANSIT} to {APP_ROLE}")
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
        "alter table transfers enable row level security",
        "drop policy if exists two_stores on transfers",
        f"create policy two_stores on transfers using ({OURS.replace('store_id', 'from_store_id')} or {OURS.replace('store_id', 'to_store_id')})"
        f" with check ({OURS.replace('store_id', 'from_store_id')} or {OURS.replace('store_id', 'to_store_id')})",
        *(f"drop function if exists {function}" for function in FUNCTIONS),
        _SWEEP,
        _FIND,
        _WALK,
        _ELSEWHERE,
        _OPEN_SHOP,
        _PEOPLE,
        _ALIKE,
        *roles_stores.FUNCTIONS.values(),
        PATHS,
        *(f"revoke all on function {function} from public" for function in FUNCTIONS),
        *(f"grant execute on function {function} to {APP_ROLE}" for function in FUNCTIONS),
    ]


def grant(connection: Connection) -> None:
    """Make the role if it is missing and give it what it needs, where that changed. Runs as the owner of the tables."""
    # not written into the schema, and never copied with it
    connection.execute(text(NO_TABLES_OF_ITS_OWN))
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
    _wait_for_all_tables(connection)
    for statement in (*statements, f"comment on schema public is '{mark}'"):
        connection.exec_driver_sql(statement)


def _wait_for_all_tables(connection: Connection) -> None:
    """Every table is ours before any of them is changed: the database's own housekeeping, which counts new rows just then, would
    wait for what was changed while we wait for it."""
    tables = connection.execute(
        text(
            "select string_agg(oid::regclass::text, ', ' order by oid) from pg_class "
            "where relnamespace = 'public'::regnamespace and relkind in ('r', 'p')"
        )
    ).scalar()
    if tables:
        connection.exec_driver_sql(f"lock table {tables} in access exclusive mode")
