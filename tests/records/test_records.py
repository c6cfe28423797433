import unittest
import uuid
from datetime import UTC, datetime

from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from alembic.script import ScriptDirectory
from sqlalchemy import select, text
from sqlalchemy.exc import DBAPIError

from tests.house import database, sessions
from vane_check.demo import goods
from vane_check.desks.counter import TakeIn, shelf, take_in
from vane_check.desks.desk import Desk
from vane_check.records import batteries, shop
from vane_check.records import goods as goods_records
from vane_check.records.base import ACROSS, Base, OutsideStore, StoreSession, engine_of
from vane_check.records.migrate import config_for, versions
from vane_check.records.models import (
    APPEND_ONLY,
    BatteryRow,
    CatalogueItem,
    CheckRow,
    Customer,
    JudgementRow,
    RulesVersion,
    Staff,
    Store,
    TermsRow,
    Vehicle,
)
from vane_check.records.past_checks import find_checks

TAKEN_IN = TakeIn.model_validate({"context": {"came_in": "carried_in"}, "battery": {"rating": {"amps": 600}}})


class Records(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = database()
        cls.sessions = sessions(cls.url)

    def open(self, store_id: int | None = 1) -> StoreSession:
        session = self.enterContext(self.sessions.begin())
        assert isinstance(session, StoreSession)
        if store_id is not None:
            session.bind_to(store_id)
        return session


class DemoShop(Records):
    def test_the_made_up_shop_is_as_large_as_promised(self) -> None:
        session = self.open()
        in_house = batteries.in_house(session)
        self.assertGreaterEqual(len(in_house), 14)
        self.assertGreaterEqual(len({judged.outcome for _, judged in in_house if judged}), 7)
        self.assertEqual(len({row.place for row, _ in in_house}), 6)
        self.assertGreaterEqual(len(session.scalars(select(Staff)).all()), 3)
        items = session.scalars(select(CatalogueItem)).all()
        self.assertGreaterEqual(len(items), 60)
        self.assertGreaterEqual(len({item.group_code for item in items}), 20)
        self.assertTrue({"efb", "agm"} <= {item.chemistry for item in items})
        cars = shop.vehicles(session, 200)
        self.assertGreaterEqual(len(cars), 30)
        self.assertGreaterEqual(sum(car.stop_start for car in cars), 8)
        self.assertGreaterEqual(len(session.scalars(select(TermsRow)).all()), 5)
        opened = session.scalars(select(CheckRow.opened_at)).all()
        self.assertGreater((max(opened) - min(opened)).days, 150)

    def test_every_car_has_something_that_fits_in_the_catalogue(self) -> None:
        groups = {item.group_code for item in goods.items()}
        self.assertEqual([car.model for car in goods.CARS if car.group_code not in groups], [])


class Migrations(Records):
    def test_the_migrated_tables_are_the_models(self) -> None:
        engine = engine_of(self.url)
        with engine.connect() as connection:
            self.assertEqual(compare_metadata(MigrationContext.configure(connection), Base.metadata), [])
        engine.dispose()

    def test_their_files_are_named_by_their_versions(self) -> None:
        """A start goes by the names alone."""
        known = ScriptDirectory.from_config(config_for(self.url)).walk_revisions()
        self.assertEqual(list(versions()), [script.revision for script in known][::-1])


class Evidence(Records):
    def test_evidence_cannot_be_changed_or_thrown_away(self) -> None:
        for table in APPEND_ONLY:
            for statement in (f"update {table} set id = id", f"delete from {table}"):
                with self.subTest(statement), self.assertRaises(DBAPIError), self.sessions.begin() as session:
                    self._one(session, table)
                    session.execute(text(statement))

    @staticmethod
    def _one(session: object, table: str) -> None:
        assert isinstance(session, StoreSession)
        made = {
            "claims": "(store_id, battery_id, judgement_id, staff_id, serial, decision, credit_cents, body)"
            " select 1, c.battery_id, j.id, 1, '', 'free', 0, '{}' from judgements j join checks c on c.id = j.check_id limit 1",
            "own_calls": "(store_id, staff_id, check_id, judgement_id, written_at, outcome, reason) select 1, 1, check_id, id, now(), 'watch', 'x' from judgements limit 1",
            "ways_back": "(store_id, staff_id, sale_id, what, reason, done_at, refund_cents, deposit_back_cents, piece_id)"
            " select 1, 1, id, 'void', 'x', now(), 0, 0, piece_id from sales limit 1",
            "sign_in_tries": "(store_id, staff_id, address, kind) values (1, 1, 'here', 'tried')",
            "writes": "(store_id, write_id, digest, staff_id) values (1, gen_random_uuid(), '', 1)",
            "erasures": "(store_id, erased_at, staff_id, customers, tags) values (1, now(), 1, 1, '{}')",
        }
        if table in made:
            session.execute(text(f"insert into {table} {made[table]}"))


class Stores(Records):
    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        with cls.sessions.begin() as session:
            assert isinstance(session, StoreSession)
            other = Store(name="Other shop")
            session.add(other)
            session.flush()
            session.bind_to(other.id)
            cls.other_id = other.id
            staff = Staff(name="Other", role="lead", pin_hash="x")
            session.add_all([staff, RulesVersion(version="other", body={}), Customer(name="Theirs")])
            session.flush()
            desk = Desk(session, staff)
            take_in(desk, TAKEN_IN, datetime.now(UTC))

    def test_every_table_of_a_store_shows_only_its_own_rows(self) -> None:
        ours, theirs = self.open(), self.open(self.other_id)
        for model in (BatteryRow, CheckRow, Customer, Staff, RulesVersion, CatalogueItem, Vehicle, JudgementRow):
            with self.subTest(model.__name__):
                seen = {row.store_id for row in theirs.scalars(select(model))}  # type: ignore[attr-defined]
                self.assertLessEqual(seen, {self.other_id})
                self.assertEqual({row.store_id for row in ours.scalars(select(model))}, {1})  # type: ignore[attr-defined]

    def test_shelf_tags_and_past_checks_keep_apart(self) -> None:
        theirs = self.open(self.other_id)
        staff = theirs.scalars(select(Staff)).one()
        self.assertEqual([found.tag for found in shelf(Desk(theirs, staff))], [1])
        self.assertEqual(find_checks(theirs, 50, 0).total, 1)
        self.assertIsNone(batteries.battery_of_tag(theirs, 171))
        self.assertEqual(goods_records.items(theirs, "", in_stock=False, at_most=9, after=0), ([], 0))

    def test_without_a_store_nothing_is_seen(self) -> None:
        session = self.open(None)
        with self.assertRaises(OutsideStore):
            session.scalars(select(BatteryRow)).all()
        self.assertTrue(session.scalars(select(BatteryRow), execution_options={ACROSS: True}).all())

    def test_a_row_of_another_store_is_not_written(self) -> None:
        session = self.sessions()
        assert isinstance(session, StoreSession)
        session.bind_to(1)
        session.add(Customer(name="x", store_id=self.other_id))
        with self.assertRaises(OutsideStore):
            session.flush()
        session.close()


class Queries(Records):
    def test_the_shelf_and_a_check_take_a_fixed_number_of_queries(self) -> None:
        from sqlalchemy import event

        session = self.open()
        staff = session.scalars(select(Staff).limit(1)).one()
        count = 0

        def counted(*_: object) -> None:
            nonlocal count
            count += 1

        event.listen(session.get_bind(), "before_cursor_execute", counted)
        shelf(Desk(session, staff))
        self.assertEqual(count, 1)
        event.remove(session.get_bind(), "before_cursor_execute", counted)

    def test_tags_are_given_once_even_at_the_same_moment(self) -> None:
        from concurrent.futures import ThreadPoolExecutor

        def one(_: int) -> int:
            with self.sessions.begin() as session:
                assert isinstance(session, StoreSession)
                session.bind_to(1)
                return take_in(Desk(session, session.get_one(Staff, 1)), TAKEN_IN, datetime.now(UTC))

        with ThreadPoolExecutor(4) as pool:
            tags = list(pool.map(one, range(8)))
        self.assertEqual(len(set(tags)), 8)

    def test_uuid_names_are_found(self) -> None:
        self.assertIsNone(batteries.reading_of_uuid(self.open(), uuid.uuid4()))
