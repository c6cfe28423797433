"""Bring a database up to the newest tables."""

from pathlib import Path

from alembic import command
from alembic.config import Config


def config_for(url: str) -> Config:
    """Alembic's settings for a database address."""
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    config.set_main_option("sqlalchemy.url", url.replace("%", "%%"))
    return config


def migrate(url: str) -> None:
    """Run every migration the database has not had."""
    command.upgrade(config_for(url), "head")
