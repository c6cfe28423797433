"""Alembic's way in: the address comes from the caller, never from a file."""

from alembic import context
from sqlalchemy import create_engine, pool

from vane_check.records import models  # noqa: F401  (registers the tables)
from vane_check.records.base import Base, driver_url

url = context.config.get_main_option("sqlalchemy.url")
assert url is not None
# no time-outs here: on a large house a migration takes as long as it takes
engine = create_engine(driver_url(url), poolclass=pool.NullPool, hide_parameters=True)
with engine.connect() as connection:
    context.configure(connection=connection, target_metadata=Base.metadata, compare_type=True)
    with context.begin_transaction():
        context.run_migrations()
engine.dispose()
