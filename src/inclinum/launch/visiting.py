"""The database for a while: the one that is being served, or our own start of it where nobody serves."""

from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from pathlib import Path

from sqlalchemy import Engine

from inclinum.launch.account import LaunchError
from inclinum.launch.cluster import Cluster
from inclinum.launch.folder import VISIT, Occupied, data_folder
from inclinum.store.database import migrate, open_engine


@contextmanager
def database(wanted: Path, made: bool) -> Iterator[Engine]:
    """The database in a data folder, migrated; gone again afterwards where we started it.

    Args:
        wanted: the data folder.
        made: whether one is made where there is none.

    Raises:
        LaunchError: there is none and none is to be made; or it cannot be reached or started.
    """
    there = wanted.exists() and (data_folder(wanted) / "cluster" / "PG_VERSION").exists()
    if not (made or there):
        raise LaunchError(f"There are no data of an installation in {wanted}: name the folder that ./start uses.")
    cluster = Cluster(folder := data_folder(wanted))
    with ExitStack() as stack:
        try:
            stack.enter_context(Occupied(folder, VISIT))
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
