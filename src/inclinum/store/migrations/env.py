"""Alembic's entry: runs migrations on the URL or the connection it is handed."""

from alembic import context
from sqlalchemy import Connection, create_engine

from inclinum.store.models import Base


def run(connection: Connection) -> None:
    """All of them in one transaction."""
    context.configure(connection=connection, target_metadata=Base.metadata)
    with context.begin_transaction():
        context.run_migrations()


where = context.config.attributes["where"]
if isinstance(where, Connection):
    run(where)
else:
    engine = create_engine(where)
    with engine.connect() as connection:
        run(connection)
    engine.dispose()
