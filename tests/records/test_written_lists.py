"""A list is put in as quickly after a small one as by itself: nothing planned for one row is kept for thousands."""

import unittest
from typing import Any
from unittest import mock

import psycopg
from psycopg.rows import dict_row

from tests.house import as_app, database
from vane_check.records import importing
from vane_check.records.base import StoreSession, engine_of, sessions_of

MANY = 30_000
"""Row by row against each other this is 900 million pairs: minutes, where it takes seconds."""


class AfterASmallOne(unittest.TestCase):
    def setUp(self) -> None:
        self.url = database()
        self.engine = engine_of(as_app(self.url), pool_size=1, for_requests=False)
        self.addCleanup(self.engine.dispose)
        with psycopg.connect(self.url, row_factory=dict_row) as connection:
            found = connection.execute("select * from catalogue_items where store_id = 1 limit 1").fetchone()
        assert found is not None
        self.item = found

    def put(self, count: int, price_cents: int) -> None:
        """So many items of a list, on the one connection there is."""
        rows: list[dict[str, Any]] = [
            {**self.item, "name": f"Quarry {number}", "price_cents": price_cents} for number in range(count)
        ]
        with sessions_of(self.engine).begin() as session:
            assert isinstance(session, StoreSession)
            session.bind_to(1)
            self.assertEqual(importing.write_rows(session, "items", rows, lambda _: None), count)

    def test_many_prices_change_after_one_did(self) -> None:
        self.put(MANY, 100)
        self.put(1, 200)
        with mock.patch.object(importing, "KEEPING_SECONDS", 60):  # the database gives up then
            self.put(MANY, 300)
        with psycopg.connect(self.url) as connection:
            asked = "select count(*), count(distinct e.edition) from item_entries e join catalogue_items i on i.id = e.item_id where i.name like 'Quarry %'"
            self.assertEqual(connection.execute(asked).fetchone(), (MANY + 1, 2))
            self.assertEqual(connection.execute("select count(*) from incoming_rows").fetchone(), (0,))
