"""Engine, sessions and migrations."""

from pathlib import Path

from alembic import command
from alembic.config import Config
from sqlalchemy import Engine, create_engine
from sqlalchemy.orm import Session, sessionmaker


def open_engine(url: str) -> Engine:
    """An engine for ``postgresql+psycopg://…``."""
    return create_engine(url, pool_pre_ping=True)


def session_maker(engine: Engine) -> sessionmaker[Session]:
    """Sessions on an engine."""
    return sessionmaker(engine, expire_on_commit=False)


def migrate(url: str) -> None:
    """Bring the database to the newest schema; does nothing when it is there."""
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    config.attributes["url"] = url
    command.upgrade(config, "head")
