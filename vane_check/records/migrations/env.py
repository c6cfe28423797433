"""Alembic's way in: the address comes from the caller, never from a file."""

from alembic import context

from vane_check.records import models  # noqa: F401  (registers the tables)
from vane_check.records.base import Base, engine_of

url = context.config.get_main_option("sqlalchemy.url")
assert url is not None
engine = engine_of(url)
with engine.connect() as connection:
    context.configure(connection=connection, target_metadata=Base.metadata, compare_type=True)
    with context.begin_transaction():
        context.run_migrations()
engine.dispose()
