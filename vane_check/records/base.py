"""The base of every table, and the store's scope: no query crosses from one store into another."""

from datetime import datetime
from typing import Any

from sqlalchemy import BigInteger, DateTime, ForeignKey, MetaData, create_engine, event
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.engine import Engine
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
ACROSS = "across_stores"


def engine_of(url: str, pool_size: int = 10) -> Engine:
    """An engine on psycopg 3 for a `postgresql://` address."""
    driver_url = url.replace("postgresql://", "postgresql+psycopg://", 1)
    return create_engine(driver_url, pool_size=pool_size, max_overflow=10, pool_pre_ping=True)


def sessions_of(engine: Engine) -> sessionmaker[Session]:
    """Sessions that keep to their store."""
    return sessionmaker(engine, class_=StoreSession, expire_on_commit=False)


class StoreSession(Session):
    """A session bound to one store by `bind_to`; before that it sees nothing that belongs to a store."""

    def bind_to(self, store_id: int) -> None:
        """Keep to this store from here on."""
        self.info[STORE] = store_id


@event.listens_for(StoreSession, "do_orm_execute")
def _keep_to_the_store(state: ORMExecuteState) -> None:
    if state.execution_options.get(ACROSS) or state.is_column_load or state.is_relationship_load:
        return
    touched = [mapper for mapper in state.all_mappers if issubclass(mapper.class_, OfStore)]
    if not touched:
        return
    store_id = state.session.info.get(STORE)
    if store_id is None:
        raise OutsideStore(f"{touched[0].class_.__name__} was asked for without a store")
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
