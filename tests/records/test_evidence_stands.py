"""The application's role cannot change evidence, not by way of a function that runs as the owner either."""

import unittest

import psycopg

from tests.house import as_app, cluster, database
from vane_check.records.migrate import migrate
from vane_check.start.cluster import ADMIN

ATTACK = """
    create temporary table sessions (ends_at timestamptz, ended_at timestamptz);
    insert into sessions (ends_at) values (now() - interval '1 year');
    create function pg_temp.strike() returns trigger language plpgsql as $$
    begin
      alter table public.readings disable trigger user;
      update public.readings set body = jsonb_set(body, '{volts}', '99') where kind = 'rest_volts';
      return old;
    end $$;
    create trigger strike before delete on sessions for each row execute function pg_temp.strike();
    select sweep_sessions(now());
"""
"""A table of the caller's own under a real one's name, with a trigger that would run as whoever touches it."""


class ByFunctions(unittest.TestCase):
    def setUp(self) -> None:
        self.url = database()

    def owned(self, question: str) -> list[tuple[object, ...]]:
        with psycopg.connect(cluster().address(ADMIN, self.url.rsplit("/", 1)[1])) as connection:
            return connection.execute(question).fetchall()

    def may_make_tables(self) -> None:
        """What the application may not, so that the functions are proved by themselves."""
        name = self.url.rsplit("/", 1)[1]
        with psycopg.connect(cluster().address(ADMIN, name), autocommit=True) as connection:
            connection.execute(f"grant temporary on database {name} to public")

    def struck(self) -> bool:
        """Whether the attack of somebody with the application's role changed what was read."""
        self.may_make_tables()
        asked = "select id, body from readings order by id"
        before = self.owned(asked)
        with psycopg.connect(as_app(self.url), autocommit=True) as connection:
            connection.execute(ATTACK)
        return self.owned(asked) != before

    def test_the_application_makes_no_table_a_temporary_one_neither(self) -> None:
        migrate(self.url)
        with psycopg.connect(as_app(self.url)) as connection, self.assertRaises(psycopg.errors.InsufficientPrivilege):
            connection.execute(ATTACK)

    def test_a_start_takes_that_right_from_a_database_that_has_it(self) -> None:
        self.may_make_tables()
        migrate(self.url)
        asked = "select has_database_privilege('vane_app', current_database(), 'temporary')"
        self.assertEqual(self.owned(asked), [(False,)])

    def test_a_shadow_of_a_table_is_never_touched_as_the_owner(self) -> None:
        self.assertFalse(self.struck())

    def test_the_attack_is_one_where_a_function_looks_at_the_caller_s_tables(self) -> None:
        with psycopg.connect(self.url, autocommit=True) as connection:
            connection.execute("alter function sweep_sessions(timestamptz) set search_path = public")
        self.assertTrue(self.struck())

    def test_every_function_of_the_owner_s_and_every_trigger_means_the_real_tables(self) -> None:
        loose = self.owned(
            "select p.oid::regprocedure::text from pg_proc p where p.pronamespace = 'public'::regnamespace"
            " and (p.prosecdef or p.prorettype = 'trigger'::regtype)"
            " and not exists (select from pg_depend d where d.objid = p.oid and d.deptype = 'e')"
            " and not coalesce('search_path=pg_catalog, public, pg_temp' = any (p.proconfig), false)"
        )
        self.assertEqual(loose, [])

    def test_a_shadow_catches_no_evidence_that_a_trigger_keeps(self) -> None:
        count = "select count(*) from item_entries"
        before = self.owned(count)
        self.may_make_tables()
        with psycopg.connect(as_app(self.url), autocommit=True) as connection:
            connection.execute("create temporary table item_entries (like public.item_entries)")
            connection.execute("select set_config('vane.store', '1', false)")
            connection.execute(
                "update public.catalogue_items set price_cents = price_cents + 100, edition = edition + 1"
                " where id = (select min(id) from public.catalogue_items)"
            )
            self.assertEqual(connection.execute("select count(*) from pg_temp.item_entries").fetchone(), (0,))
        self.assertNotEqual(self.owned(count), before)
