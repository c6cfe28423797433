"""The base of every table, and the store's scope: no query crosses from one store into another."""

from collections.abc import Callable
from datetime import datetime
from typing import Any

from psycopg.conninfo import conninfo_to_dict
from sqlalchemy import BigInteger, DateTime, ForeignKey, MetaData, create_engine, event
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.engine import Connection, Engine
from sqlalchemy.orm import (
    DeclarativeBase,
    Mapped,
    ORMExecuteState,
    Session,
    mapped_column,
    sessionmaker,
    with_loader_criteria,
)

NAMES = {
    "ix": "ix_%(column_0_label)s",
    "uq": "uq_%(table_name)s_%(column_0_N_name)s",
    "ck": "ck_%(table_name)s_%(constraint_name)s",
    "fk": "fk_%(table_name)s_%(column_0_name)s",
    "pk": "pk_%(table_name)s",
}


class Base(DeclarativeBase):
    """Every table."""

    metadata = MetaData(naming_convention=NAMES)
    type_annotation_map = {datetime: DateTime(timezone=True), dict[str, Any]: JSONB}

    id: Mapped[int] = mapped_column(BigInteger, primary_key=True)


class OfStore:
    """A row that belongs to a store. Sessions see only the rows of the store they are bound to."""

    store_id: Mapped[int] = mapped_column(ForeignKey("stores.id"), index=True)


class OutsideStore(RuntimeError):
    """A query or write that is not bound to a store, or is bound to another one."""


STORE = "store_id"
TOLD = "told_store_id"
"""What the database was told in this transaction."""
SAME_PLANS = "same_plans"
"""Set where a long statement's plan never hangs on its figures: it is planned once for all of them."""
COUNT = "count"
"""Up to where this transaction knows of every change: see `Session.info`, and `records/events.py`."""
TELL = (
    "select set_config('vane.store', %s, true), set_config('vane.door', '', true), set_config('plan_cache_mode', %s, true),"
    " pg_snapshot_xmin(pg_current_snapshot())::text::bigint"
)

ACROSS = "across_stores"


POOL_SIZE = 10
"""Connections of one server process. No more requests than this are let at the database at once (`api/edge.py`), so none
ever waits for a connection while it holds a thread, nor for a thread while it holds a connection."""

POOL_WAIT_SECONDS = 2
CONNECTING = {"connect_timeout": 2, "application_name": "vane-check"}
TIME_LIMITS = "-c statement_timeout=5000 -c lock_timeout=3000 -c idle_in_transaction_session_timeout=15000"
"""How long PostgreSQL lets a statement of a request run or wait for a lock, and its transaction lie idle [ms]."""


def engine_of(url: str, pool_size: int = POOL_SIZE, for_requests: bool = True, **arguments: Any) -> Engine:
    """An engine on psycopg 3 for a `postgresql://` address. Parameters never stand in an error's text: they may be names.

    What is no request (the demo's filling, a command) has no time limits: a busy machine makes it slow, never wrong.
    """
    own = conninfo_to_dict(url).get("options") or ""
    options = f"{TIME_LIMITS if for_requests else ''} {own}".strip()
    return create_engine(
        driver_url(url),
        pool_size=pool_size,
        max_overflow=0,
        pool_timeout=POOL_WAIT_SECONDS,
        pool_pre_ping=False,
        hide_parameters=True,
        connect_args={**CONNECTING, "options": options, **arguments},
    )


def driver_url(url: str) -> str:
    """The address with SQLAlchemy's name of the driver."""
    return url.replace("postgresql://", "postgresql+psycopg://", 1)


def sessions_of(engine: Engine) -> sessionmaker[Session]:
    """Sessions that keep to their store."""
    return sessionmaker(engine, class_=StoreSession, expire_on_commit=False)


class StoreSession(Session):
    """A session bound to one store by `bind_to`; before that it sees nothing that belongs to a store."""

    def bind_to(self, store_id: int) -> None:
        """Keep to this store from here on: the criterion of every statement here, and row-level security in PostgreSQL."""
        self.info[STORE] = store_id
        if self.in_transaction():
            connection = self.connection()  # where this begins it, the database is told
            if self.info.get(TOLD) != store_id:
                self._tell(connection, store_id)

    def _tell(self, connection: Connection, store_id: int) -> None:
        plans = "force_generic_plan" if self.info.get(SAME_PLANS) else "auto"
        *_, self.info[COUNT] = connection.exec_driver_sql(TELL, (str(store_id), plans)).one()
        self.info[TOLD] = store_id

    def after_commit(self, do: Callable[[], None]) -> None:
        """Do something once this transaction is committed; never when it is not."""
        event.listen(self, "after_commit", lambda _: do(), once=True)

    def at_the_door(self) -> None:
        """Look up stores, staff and sessions before anybody is signed in, in this transaction."""
        self.connection().exec_driver_sql("select set_config('vane.door', 'open', true)")
        self.info[TOLD] = None


@event.listens_for(StoreSession, "after_begin")
def _tell_the_database(session: StoreSession, _: object, connection: Connection) -> None:
    session.info[TOLD] = None
    store_id = session.info.get(STORE)
    if store_id is not None:
        session._tell(connection, store_id)


@event.listens_for(StoreSession, "do_orm_execute")
def _keep_to_the_store(state: ORMExecuteState) -> None:
    if state.execution_options.get(ACROSS) or state.is_column_load or state.is_relationship_load:
        return
    store_id = state.session.info.get(STORE)
    if store_id is None:
        touched = [mapper for mapper in state.all_mappers if issubclass(mapper.class_, OfStore)]
        if touched:
            raise OutsideStore(f"{touched[0].class_.__name__} was asked for without a store")
        return
    # always, for what is only counted or looked up inside has no mapper of its own to be seen from here
    state.statement = state.statement.options(
        with_loader_criteria(OfStore, lambda row: row.store_id == store_id, include_aliases=True)
    )


@event.listens_for(StoreSession, "before_flush")
def _write_to_the_store(session: Session, *_: object) -> None:
    store_id = session.info.get(STORE)
    for row in session.new | session.dirty:
        if not isinstance(row, OfStore):
            continue
        if row.store_id is None and store_id is not None:
            row.store_id = store_id
        if store_id is not None and row.store_id != store_id:
            raise OutsideStore(f"{type(row).__name__} belongs to another store")
