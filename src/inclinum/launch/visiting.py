"""The database for a while: the one that is being served, or our own start of it where nobody serves."""

from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from pathlib import Path

from sqlalchemy import Engine

from inclinum.launch.account import LaunchError
from inclinum.launch.cluster import Cluster
from inclinum.launch.folder import Occupied, data_folder
from inclinum.store.database import migrate, open_engine


@contextmanager
def database(wanted: Path) -> Iterator[Engine]:
    """The database in a data folder, made where there is none, migrated; gone again afterwards where we started it.

    Raises:
        LaunchError: it cannot be reached or started.
    """
    cluster = Cluster(folder := data_folder(wanted))
    with ExitStack() as stack:
        try:
            stack.enter_context(Occupied(folder, "a backup or restore"))
        except LaunchError:
            if not cluster.join():
                raise
        else:
            cluster.create()
            stack.callback(cluster.stop)
            cluster.start()
            migrate(cluster.url)
        engine = open_engine(cluster.url)
        stack.callback(engine.dispose)
        yield engine
