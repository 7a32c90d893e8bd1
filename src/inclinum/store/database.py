"""Engine, sessions and migrations."""

from pathlib import Path

from alembic import command
from alembic.config import Config
from sqlalchemy import Connection, Engine, create_engine
from sqlalchemy.orm import Session, sessionmaker

SCRIPTS = Path(__file__).parent / "migrations"
CONNECTIONS = 16
"""At once. Whoever serves lets no more requests near the database, so that none waits for a connection."""
TIMEOUTS = "-c lock_timeout=5s -c statement_timeout=15s -c idle_in_transaction_session_timeout=60s -c timezone=UTC"
"""No statement waits for ever: a request that cannot get on says so, and what it held is free again."""


def open_engine(url: str) -> Engine:
    """An engine for ``postgresql+psycopg://…``."""
    return create_engine(
        url, pool_size=CONNECTIONS, max_overflow=0, pool_timeout=10, pool_pre_ping=True,
        connect_args={"options": TIMEOUTS, "connect_timeout": 5},
    )  # fmt: skip


def session_maker(engine: Engine) -> sessionmaker[Session]:
    """Sessions on an engine."""
    return sessionmaker(engine, expire_on_commit=False)


def migrate(where: str | Connection, revision: str = "head") -> None:
    """Bring a database (its URL, or a connection in a transaction) to a revision; does nothing when it is there."""
    config = Config()
    config.set_main_option("script_location", str(SCRIPTS).replace("%", "%%"))
    config.attributes["where"] = where
    command.upgrade(config, revision)
