"""Fixtures: the demo jobs, and a throw-away database cluster on a free port."""

import tempfile
from collections.abc import Iterator
from pathlib import Path

import pytest
from sqlalchemy import Connection, Engine, create_engine, text

from inclinum.core.car.job import Job
from inclinum.core.car.vehicle import Vehicle
from inclinum.core.document.names import AxleName
from inclinum.core.springs.fitted import Coil
from inclinum.demo import demo_jobs
from inclinum.launch.cluster import Cluster
from inclinum.launch.demo import load_demo
from inclinum.store.database import migrate, open_engine


@pytest.fixture(scope="session")
def jobs() -> list[Job]:
    """The demo jobs, oldest first; the last one is in hand."""
    return list(demo_jobs())


@pytest.fixture
def in_hand(jobs: list[Job]) -> Job:
    """The demo job in hand."""
    return jobs[-1]


@pytest.fixture(scope="session")
def cluster() -> Iterator[Cluster]:
    """A private cluster in a temporary folder, gone afterwards."""
    with tempfile.TemporaryDirectory(prefix="inclinum-test-") as folder:
        Path(folder).chmod(0o755)
        cluster = Cluster(Path(folder))
        assert cluster.create()
        cluster.start()
        try:
            yield cluster
        finally:
            cluster.stop()


@pytest.fixture(scope="session")
def demo(cluster: Cluster) -> Iterator[Connection]:
    """A hand on the cluster, with a database ``demo`` made once that nobody works in: each test gets a copy."""
    admin = create_engine(cluster.url, isolation_level="AUTOCOMMIT")
    with admin.connect() as connection:
        connection.execute(text("create database demo"))
        migrate(database(cluster, "demo"))
        engine = open_engine(database(cluster, "demo"))
        assert load_demo(engine)
        engine.dispose()
        yield connection
    admin.dispose()


def database(cluster: Cluster, name: str) -> str:
    """Where a database of the cluster is reached."""
    return cluster.url.removesuffix("/postgres") + f"/{name}"


@pytest.fixture
def engine(cluster: Cluster, demo: Connection) -> Iterator[Engine]:
    """A database with nothing but the demo data in it."""
    demo.execute(text("drop database if exists bench with (force)"))
    demo.execute(text("create database bench template demo"))
    engine = open_engine(database(cluster, "bench"))
    yield engine
    engine.dispose()


def plain_coil(vehicle: Vehicle, axle: AxleName) -> Coil:
    """The coil of an axle that has one."""
    coil = vehicle.axle(axle).coil
    assert coil is not None
    return coil
