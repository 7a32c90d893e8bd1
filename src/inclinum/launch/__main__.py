"""``python -m inclinum.launch``: database, migrations, demo data, server."""

import argparse
import gc
import os
import socket
import sys
from pathlib import Path

import uvicorn

from inclinum.api.app import create_app
from inclinum.launch.cluster import Cluster, LaunchError, data_folder
from inclinum.launch.demo import load_demo
from inclinum.store.database import migrate, open_engine

ROOT = Path(__file__).parents[3]
DEFAULT_PORT = 8700


def say(text: str) -> None:
    """One line of progress."""
    print(f"  {text}", flush=True)


def check_port(port: int) -> None:
    """Refuse a port somebody else listens on."""
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            raise LaunchError(
                f"Port {port} is in use, perhaps by another Inclinum. Stop that one, or choose another port: "
                f"INCLINUM_PORT={port + 1} ./start"
            ) from None


def main() -> int:
    """Bring everything up, serve until Ctrl-C, bring it down again."""
    arguments = argparse.ArgumentParser(description=__doc__)
    arguments.add_argument("--port", type=int, default=int(os.environ.get("INCLINUM_PORT", DEFAULT_PORT)))
    arguments.add_argument("--data", type=Path, default=Path(os.environ.get("INCLINUM_DATA", ROOT / ".data")))
    chosen = arguments.parse_args()
    started = False
    cluster = None
    try:
        check_port(chosen.port)
        folder = data_folder(chosen.data.resolve())
        if folder != chosen.data.resolve():
            say(f"data goes to {folder}: the database's account cannot reach {chosen.data.resolve()}")
        cluster = Cluster(folder)
        if cluster.create():
            say(f"database cluster made in {cluster.data}")
        started = cluster.start()
        say(f"database running on 127.0.0.1:{cluster.port}")
        migrate(cluster.url)
        engine = open_engine(cluster.url)
        if load_demo(engine):
            say("demo data of an invented island shop loaded")
        app = create_app(engine, ROOT / "web" / "build")
        # What is loaded now stays: the collector need not walk it again while somebody drags an axle.
        gc.collect()
        gc.freeze()
        say(f"ready: http://127.0.0.1:{chosen.port}   (Ctrl-C stops it; the data stays)")
        uvicorn.run(app, host="127.0.0.1", port=chosen.port, log_level="warning")
        engine.dispose()
    except LaunchError as error:
        print(f"\n{error}", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        pass
    finally:
        if cluster and started:
            say("stopping the database")
            cluster.stop()
    return 0


if __name__ == "__main__":
    sys.exit(main())
