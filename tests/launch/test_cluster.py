"""The private cluster: what stands in its way is told with the way out."""

import socket
from pathlib import Path

import pytest

from inclinum.launch.__main__ import listen
from inclinum.launch.account import LaunchError
from inclinum.launch.cluster import Cluster


def test_who_only_visits_joins_the_running_server(cluster: Cluster) -> None:
    again = Cluster(cluster.folder)
    assert again.create() is False
    assert again.join()
    assert again.url == cluster.url


def test_a_half_made_cluster_is_made_anew_and_a_broken_one_is_not_touched(tmp_path: Path) -> None:
    (tmp_path / "cluster.new").mkdir()
    (tmp_path / "cluster").mkdir()
    (tmp_path / "cluster" / "base").mkdir()
    with pytest.raises(LaunchError, match="Move it away"):
        Cluster(tmp_path).create()
    assert (tmp_path / "cluster" / "base").exists()


def test_a_busy_port_is_named_with_another_one() -> None:
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        with pytest.raises(LaunchError, match=f"INCLINUM_PORT={port + 1}"):
            listen(port)
