"""Each function and each trigger of the owner's is run as the application runs it: what is written in SQL no type checker reads."""

import unittest
from typing import Any

import psycopg

from tests.house import as_app, cluster, database, empty
from vane_check.start.cluster import ADMIN

OWNER = "(select person_uuid from staff where store_id = 1 and role = 'owner' limit 1)"
SOMEBODY = "(select person_uuid from staff where store_id = 1 and role = 'counter' and pin_hash <> '' limit 1)"
OTHER = "(select max(id) from stores)"
CALLS = {
    "find_batteries": ["select * from find_batteries('%mer%', 50)"],
    "walk_batteries": [f"select * from walk_batteries('%e%', {way}, 50)" for way in (1, 2, 3)],
    "sweep_sessions": ["select sweep_sessions(now() - interval '1 year')"],
    "pieces_elsewhere": ["select * from pieces_elsewhere((select array_agg(name) from catalogue_items))"],
    "find_people": ["select * from find_people('%a%', '%123%', 'a%', 20)"],
    "find_alike": ["select find_alike(array['1234567'], array['AB123'], array['noor halvard'], 0.4::real, 20)"],
    "open_shop": ["""select open_shop('{"name": "Another"}')"""],
    "serial_in_house": ["select * from serial_in_house('QM48')"],
    "house_stores": [f"select * from house_stores({OWNER})"],
    "open_store": [f"""select open_store('{{"name": "By the Station", "time_zone": "Europe/Berlin", "door": "d", "calendar_secret": "c"}}', {OWNER})"""],
    "give_store": [f"select give_store({SOMEBODY}, {OWNER}, {OTHER}, {works})" for works in ("true", "false", "true")],
    "spread_person": [f"select spread_person({SOMEBODY}, {new}) from (select 1) one" for new in ("true", "false")],
    "staff_elsewhere": [f"select staff_elsewhere({OWNER}, {OTHER})"],
    "settle_transfer": ["select settle_transfer(coalesce((select min(id) from transfers where state = 'on_the_way'), 0))"],
    "side_by_side": [f"select * from side_by_side({OWNER})"],
    "follow": [f"select follow('{what}', 1, {OTHER}, null)" for what in ("rules", "catalogue", "terms")],
}  # fmt: skip
"""By the function's name; in the order they need one another."""
WRITES = {
    "keep_as_it_stood": "update catalogue_items set price_cents = price_cents + 1, edition = edition + 1 where id = (select min(id) from catalogue_items)",
    "keep_boxes": "update catalogue_items set length_mm = length_mm + 1, edition = edition + 1 where id = (select min(id) from catalogue_items where length_mm > 0)",
    "count_pieces": "update stock_pieces set sold_on = current_date where id = (select min(id) from stock_pieces where sold_on is null)",
}
"""By the trigger's function: what makes it run."""


class EachIsRun(unittest.TestCase):
    url: str

    @classmethod
    def setUpClass(cls) -> None:
        cls.url = database()

    def connect(self, url: str = "") -> psycopg.Connection[Any]:
        connection = self.enterContext(psycopg.connect(as_app(url or self.url), autocommit=True))
        connection.execute("select set_config('vane.store', '1', false)")
        return connection

    def test_every_function_is_called_and_every_trigger_fires(self) -> None:
        name = self.url.rsplit("/", 1)[1]
        with psycopg.connect(cluster().address(ADMIN, name), autocommit=True) as owner:
            owner.execute(f"alter database {name} set track_functions = 'all'")
            there = {
                row[0]
                for row in owner.execute(
                    "select p.proname from pg_proc p where p.pronamespace = 'public'::regnamespace"
                    " and (p.prosecdef or p.prorettype = 'trigger'::regtype)"
                    " and not exists (select from pg_depend d where d.objid = p.oid and d.deptype = 'e')"
                )
            }
            connection = self.connect()
            for function, calls in CALLS.items():
                for call in calls:
                    with self.subTest(function, call=call):
                        connection.execute(call)
            for function, write in WRITES.items():
                with self.subTest(function):
                    self.assertEqual(connection.execute(write).rowcount, 1)
            with self.subTest("refuse_change"), self.assertRaises(psycopg.errors.RestrictViolation):
                owner.execute("update readings set kind = kind")
            connection.execute(
                "insert into remarks (store_id, staff_id, check_id, written_at, what, text) select store_id, opened_by, id, now(), 'remark', 'so' from checks limit 1"
            )
            with self.subTest("refuse_rewording"), self.assertRaises(psycopg.errors.RaiseException):
                connection.execute("update remarks set text = 'otherwise'")
            self.assertEqual(connection.execute("update remarks set text = ''").rowcount, 1)  # its person is forgotten
            connection.execute("select pg_stat_force_next_flush()")
            run = {row[0] for row in owner.execute("select funcname from pg_stat_user_functions where calls > 0")}
        self.assertEqual(there - run - {"refuse_change"}, set())
        self.assertEqual(there, {*CALLS, *WRITES, "refuse_change", "refuse_rewording"})

    def test_the_first_shop_is_opened_once(self) -> None:
        told = (
            '{"name": "First", "currency": "EUR", "temperature_unit": "C", "length_unit": "mm", "time_zone": "Europe/Berlin",'
            ' "opening_hours": {}, "door": "d", "calendar_secret": "c", "idle_minutes": 5}'
        )
        connection = self.connect(empty())
        opened = [connection.execute("select open_shop(%s::jsonb)", (told,)).fetchone() for _ in range(2)]
        self.assertEqual(opened, [(1,), (None,)])


if __name__ == "__main__":
    unittest.main()
