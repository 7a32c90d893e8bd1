"""``python -m inclinum.launch``: database, migrations, demo data, server; what of these dies is started again."""

import argparse
import errno
import logging
import os
import shutil
import signal
import socket
import sys
import time
from contextlib import suppress
from functools import partial
from pathlib import Path

from inclinum.launch.account import LaunchError, reachable, unprivileged_user
from inclinum.launch.cluster import Cluster
from inclinum.launch.demo import load_demo
from inclinum.launch.folder import Occupied, data_folder, log_file
from inclinum.launch.serving import load_everything, serve
from inclinum.store.database import migrate, open_engine

ROOT = Path(__file__).parents[3]
DEFAULT_PORT = 8700
LOOK_EVERY_S = 0.2
TOO_OFTEN = 5
"""Server processes that end within ten seconds of their start, one after another, before this gives up."""


class Stop(Exception):  # noqa: N818
    """Somebody asked this program to end."""


def say(text: str) -> None:
    """One line of progress; nobody need be there to read it."""
    with suppress(OSError):
        print(f"  {text}", flush=True)


def port_of(text: str) -> int:
    """A port as it was typed. Raises LaunchError when it is none."""
    if not (text.isascii() and text.isdigit() and 0 < int(text) < 65536):
        raise LaunchError(
            f"“{text[:40]}” is no port: give a number from 1 to 65535, such as INCLINUM_PORT=8701 ./start"
        )
    return int(text)


def listen(port: int) -> socket.socket:
    """A listening socket on loopback. Raises LaunchError when the port cannot be had."""
    listening = socket.socket()
    listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    other = port + 1 if port < 65535 else port - 1
    try:
        listening.bind(("127.0.0.1", port))
        listening.listen(2048)
    except OSError as error:
        listening.close()
        if error.errno in (errno.EACCES, errno.EPERM):
            raise LaunchError(
                f"Port {port} is for the administrator only; choose one above 1023: INCLINUM_PORT=8701 ./start"
            ) from None
        raise LaunchError(
            f"Port {port} is in use, perhaps by another Inclinum. Stop that one, or choose another port: "
            f"INCLINUM_PORT={other} ./start"
        ) from None
    return listening


def main() -> int:
    """Bring everything up, keep it up until told to stop, bring it down again; the exit code."""
    arguments = argparse.ArgumentParser(prog="./start", description="Serves Inclinum on this machine.")
    arguments.add_argument("--port", default=os.environ.get("INCLINUM_PORT") or str(DEFAULT_PORT))
    arguments.add_argument("--data", default=os.environ.get("INCLINUM_DATA") or str(ROOT / ".data"))
    chosen = arguments.parse_args()
    for each in (signal.SIGTERM, signal.SIGHUP, signal.SIGINT):
        signal.signal(each, _asked_to_stop)
    try:
        return _run(port_of(chosen.port), Path(os.path.abspath(chosen.data)))
    except LaunchError as error:
        print(f"\n{error}", file=sys.stderr)
        return 1
    except Stop:
        return 0


def _asked_to_stop(*_: object) -> None:
    raise Stop


def _run(port: int, wanted: Path) -> int:
    folder = data_folder(wanted)
    if folder != wanted:
        say(f"data goes to {folder}: the database's account cannot reach {wanted}")
    address = f"http://127.0.0.1:{port}"
    waiting = partial(say, "a backup or restore is at work on these data; starting when it is done")
    with Occupied(folder, address, waiting), listen(port) as listening:
        cluster = Cluster(folder)
        try:
            if cluster.create():
                say(f"database cluster made in {cluster.data}")
            cluster.start()
            say(f"database running on 127.0.0.1:{cluster.port}")
            migrate(cluster.url)
            engine = open_engine(cluster.url)
            if load_demo(engine):
                say("demo data of an invented island shop loaded")
            engine.dispose()
            _keep_up(cluster, listening, _client(folder), address)
        finally:
            # A second Ctrl-C must not leave the database behind.
            for each in (signal.SIGTERM, signal.SIGHUP, signal.SIGINT):
                signal.signal(each, signal.SIG_IGN)
            say("stopping the database")
            cluster.stop()
    return 0


def _client(folder: Path) -> Path:
    """The built client, where the account that serves can read it; everything else is loaded while it can be."""
    built, user = ROOT / "web" / "build", unprivileged_user()
    needed = (built / "index.html", Path(__file__), Path(sys.executable).resolve(), Path(os.__file__))
    if all(reachable(path, user) for path in needed):
        return built
    load_everything()
    copy = folder / "client"
    shutil.rmtree(copy, ignore_errors=True)
    shutil.copytree(built, copy)
    for path in (copy, *copy.rglob("*")):
        path.chmod(0o755 if path.is_dir() else 0o644)
    return copy


def _keep_up(cluster: Cluster, listening: socket.socket, client: Path, address: str) -> None:
    """Serve, and start again what dies: the server, a computing process, the database."""
    user, log = unprivileged_user(), log_file(cluster.folder, "inclinum.log")
    short_lives = 0
    child, since, warned, wait = 0, 0.0, False, 1.0
    try:
        while True:
            if not child:
                child, since = _start(listening, cluster.url, client, user, log), time.monotonic()
                if not warned:
                    say(f"ready: {address}   (Ctrl-C stops it; the data stays)")
                warned = True
            time.sleep(LOOK_EVERY_S)
            gone, status = os.waitpid(child, os.WNOHANG)
            if gone:
                child = 0
                short_lives = short_lives + 1 if time.monotonic() - since < 10 else 0
                if short_lives >= TOO_OFTEN:
                    raise LaunchError(f"The server ends as soon as it is started; its log {log} says why.")
                say(f"the server ended ({_how(status)}); starting it again")
            if not cluster.runs():
                say("the database ended; starting it again")
                port = cluster.port
                try:
                    cluster.start()
                    wait = 1.0
                except LaunchError as error:
                    say(str(error))
                    time.sleep(wait)
                    wait = min(30.0, 2 * wait)
                if child and cluster.port != port:
                    os.kill(child, signal.SIGTERM)
    finally:
        for each in (signal.SIGTERM, signal.SIGHUP, signal.SIGINT):
            signal.signal(each, signal.SIG_IGN)
        if child:
            _end(child)


def _start(listening: socket.socket, url: str, client: Path, user: str | None, log: Path) -> int:
    """A process that serves."""
    child = os.fork()
    if child:
        return child
    code = 1
    try:
        for each in (signal.SIGTERM, signal.SIGHUP, signal.SIGINT):
            signal.signal(each, signal.SIG_DFL)
        signal.signal(signal.SIGHUP, signal.SIG_IGN)
        os.setsid()
        code = serve(listening, url, client, user, log)
    except BaseException:
        logging.getLogger("inclinum").exception("the server cannot go on")
    finally:
        os._exit(code)


def _end(child: int) -> None:
    """End a process that serves: first in peace, then not."""
    with suppress(ProcessLookupError, ChildProcessError):
        os.kill(child, signal.SIGTERM)
        for _ in range(80):
            if os.waitpid(child, os.WNOHANG)[0]:
                return
            time.sleep(0.1)
        os.kill(child, signal.SIGKILL)
        os.waitpid(child, 0)


def _how(status: int) -> str:
    return f"signal {os.WTERMSIG(status)}" if os.WIFSIGNALED(status) else f"code {os.WEXITSTATUS(status)}"


if __name__ == "__main__":
    sys.exit(main())
