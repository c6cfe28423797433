"""Bring a database up to the newest tables, and give the application's role what it needs."""

from functools import cache
from pathlib import Path

from alembic import command
from alembic.config import Config
from alembic.runtime.migration import MigrationContext
from alembic.script import ScriptDirectory
from sqlalchemy import create_engine, pool, text
from sqlalchemy.exc import DBAPIError, OperationalError
from sqlalchemy.orm import Session

from .base import driver_url
from .roles import APP_ROLE, grant


class CannotMigrate(RuntimeError):
    """The database cannot be used as it is; the message is one sentence with what to do."""


def config_for(url: str) -> Config:
    """Alembic's settings for a database address."""
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    config.set_main_option("sqlalchemy.url", url.replace("%", "%%"))
    return config


def migrate(url: str) -> None:
    """Run every migration the database has not had. Runs as the owner of the tables.

    Raises CannotMigrate for a database that cannot be reached, is of a newer release, or where a migration fails: each
    with a sentence that names no password.
    """
    config = config_for(url)
    engine = create_engine(
        driver_url(url), poolclass=pool.NullPool, hide_parameters=True, connect_args={"connect_timeout": 5}
    )
    try:
        with engine.connect() as connection:
            has = MigrationContext.configure(connection).get_current_revision()
        known = {script.revision for script in ScriptDirectory.from_config(config).walk_revisions()}
        if has is not None and has not in known:
            raise CannotMigrate(
                f"This database was last used by a newer Vane Check (its tables are version {has}): start that release, "
                "or restore a backup made with this one."
            )
        command.upgrade(config, "head")
        with engine.begin() as connection:
            grant(connection)
    except OperationalError as error:
        raise CannotMigrate(f"The database cannot be reached: {_reason(error)}") from error
    except DBAPIError as error:
        raise CannotMigrate(
            f"The database could not be brought up to date and was left as it was: {_reason(error)}. "
            f"Its owner must be able to make tables, the extension pg_trgm and the role {APP_ROLE}."
        ) from error
    finally:
        engine.dispose()


def wants_migration(url: str) -> bool:
    """Whether a shop works in this database with tables of an earlier release."""
    engine = create_engine(driver_url(url), poolclass=pool.NullPool, connect_args={"connect_timeout": 5})
    try:
        with engine.connect() as connection:
            has = MigrationContext.configure(connection).get_current_revision()
            if has is None or has == ScriptDirectory.from_config(config_for(url)).get_current_head():
                return False
            return connection.exec_driver_sql("select 1 from stores limit 1").first() is not None
    except OperationalError as error:
        raise CannotMigrate(f"The database cannot be reached: {_reason(error)}") from error
    finally:
        engine.dispose()


@cache
def newest_version() -> str | None:
    """The tables this release works with."""
    return ScriptDirectory.from_config(config_for("")).get_current_head()


def version_of(session: Session) -> str | None:
    """The tables a database has, as the application sees them."""
    found: str | None = session.execute(text("select version_num from alembic_version")).scalar()
    return found


def _reason(error: DBAPIError) -> str:
    return str(error.orig).strip().splitlines()[0].rstrip(".") if error.orig else type(error).__name__
