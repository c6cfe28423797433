"""Bring a database up to the newest tables, and give the application's role what it needs."""

from functools import cache
from pathlib import Path
from typing import TYPE_CHECKING

from sqlalchemy import Connection, create_engine, pool, text
from sqlalchemy.exc import DBAPIError, OperationalError
from sqlalchemy.orm import Session

from .base import driver_url
from .roles import APP_ROLE, grant

if TYPE_CHECKING:
    from alembic.config import Config

MIGRATIONS = Path(__file__).parent / "migrations"
VERSIONS = MIGRATIONS / "versions"
"""A file each, named by its version; a start that finds the newest tables there does not load what makes them."""


class CannotMigrate(RuntimeError):
    """The database cannot be used as it is; the message is one sentence with what to do."""


def config_for(url: str) -> "Config":
    """Alembic's settings for a database address."""
    from alembic.config import Config

    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    config.set_main_option("sqlalchemy.url", url.replace("%", "%%"))
    return config


def migrate(url: str) -> None:
    """Run every migration the database has not had. Runs as the owner of the tables.

    Raises CannotMigrate for a database that cannot be reached, is of a newer release, or where a migration fails: each
    with a sentence that names no password.
    """
    engine = create_engine(
        driver_url(url), poolclass=pool.NullPool, hide_parameters=True, connect_args={"connect_timeout": 5}
    )
    try:
        with engine.connect() as connection:
            has = _current(connection)
        if has is not None and has not in versions():
            raise CannotMigrate(
                f"This database was last used by a newer Vane Check (its tables are version {has}): start that release, "
                "or restore a backup made with this one."
            )
        if has != newest_version():
            from alembic import command

            command.upgrade(config_for(url), "head")
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
            has = _current(connection)
            if has is None or has == newest_version():
                return False
            return connection.exec_driver_sql("select 1 from stores limit 1").first() is not None
    except OperationalError as error:
        raise CannotMigrate(f"The database cannot be reached: {_reason(error)}") from error
    finally:
        engine.dispose()


@cache
def versions() -> tuple[str, ...]:
    """Every version of the tables this release knows, the oldest first."""
    return tuple(sorted(path.name.split("_")[0] for path in VERSIONS.glob("[0-9]*.py")))


def newest_version() -> str:
    """The tables this release works with."""
    return versions()[-1]


def _current(connection: Connection) -> str | None:
    """The tables a database has; None where it has none yet."""
    if connection.scalar(text("select to_regclass('alembic_version')")) is None:
        return None
    result: str | None = connection.scalar(text("select version_num from alembic_version"))
    return result


def version_of(session: Session) -> str | None:
    """The tables a database has, as the application sees them."""
    result: str | None = session.execute(text("select version_num from alembic_version")).scalar()
    return result


def _reason(error: DBAPIError) -> str:
    return str(error.orig).strip().splitlines()[0].rstrip(".") if error.orig else type(error).__name__
