"""Fixtures: the demo jobs, and a throw-away database cluster on a free port."""

import tempfile
from collections.abc import Iterator
from pathlib import Path

import pytest
from sqlalchemy import Engine, text

from inclinum.core.fitted import Coil
from inclinum.core.job import Job
from inclinum.core.vehicle import AxleName, Vehicle
from inclinum.demo import demo_jobs
from inclinum.launch.cluster import Cluster
from inclinum.launch.demo import load_demo
from inclinum.store.database import migrate, open_engine
from inclinum.store.models import Base


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
        migrate(cluster.url)
        try:
            yield cluster
        finally:
            cluster.stop()


@pytest.fixture
def engine(cluster: Cluster) -> Iterator[Engine]:
    """The database with nothing but the demo data in it."""
    engine = open_engine(cluster.url)
    with engine.begin() as connection:
        tables = ", ".join(f'"{t}"' for t in Base.metadata.tables)
        connection.execute(text(f"truncate {tables} restart identity cascade"))
    assert load_demo(engine)
    yield engine
    engine.dispose()


def plain_coil(vehicle: Vehicle, axle: AxleName) -> Coil:
    """The coil of an axle that has one."""
    coil = vehicle.axle(axle).coil
    assert coil is not None
    return coil
