"""A private PostgreSQL cluster on loopback, started and stopped by us, gone when we are."""

import os
import pwd
import random
import secrets
import shutil
import signal
import socket
import subprocess
import time
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from sqlalchemy import URL

from inclinum.launch.account import LaunchError, ends_with_parent, unprivileged_user
from inclinum.launch.folder import log_file

MOST_CONNECTIONS = 40
PATIENCE_S = 60


SERVED = range(20_000, 32_000)
"""Ports below those that the system lends to whoever connects somewhere: one is still free when a server comes back."""


def free_port() -> int:
    """A free loopback port to serve on; any free one where none of :data:`SERVED` is found."""
    for port in random.sample(SERVED, 40):
        if _is_free(port):
            return port
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return probe.getsockname()[1]


def server_binaries() -> Path:
    """Folder of the newest PostgreSQL server that Debian installed.

    Raises:
        LaunchError: there is none.
    """
    found = sorted(Path("/usr/lib/postgresql").glob("*/bin/initdb"), key=lambda p: float(p.parts[4]))
    if not found:
        raise LaunchError("The PostgreSQL server is not installed; run ./start, or apt-get install postgresql.")
    return found[-1].parent


@dataclass
class Cluster:
    """One cluster in one folder.

    Args:
        folder: holds the cluster, its password and its log.
    """

    folder: Path

    def __post_init__(self) -> None:
        self.data = self.folder / "cluster"
        self._secret = self.folder / "password"
        self._user = unprivileged_user()
        self._bin = server_binaries()
        self._server: subprocess.Popen[Any] | None = None
        self.port = 0

    @property
    def url(self) -> str:
        """Address of the database, for SQLAlchemy."""
        secret = self._secret.read_text().strip()
        return URL.create(
            "postgresql+psycopg", "inclinum", secret, "127.0.0.1", self.port, "postgres"
        ).render_as_string(hide_password=False)

    def create(self) -> bool:
        """Make the cluster when there is none; whether it did.

        It is made under another name and moved in place when whole, so that a broken start leaves nothing half-made.

        Raises:
            LaunchError: something else is in its place, or it cannot be made; with what the program that makes it said.
        """
        if (self.data / "PG_VERSION").exists():
            self._see_to_version()
            if not self._secret.exists() or not self._secret.read_text().strip():
                self._new_secret()
            return False
        if self.data.exists():
            raise LaunchError(
                f"{self.data} is no whole database cluster. Move it away (it may hold data) and start again."
            )
        making = self.folder / "cluster.new"
        shutil.rmtree(making, ignore_errors=True)
        self._write_secret(secrets.token_urlsafe(24))
        making.mkdir()
        if self._user:
            shutil.chown(making, self._user)
        self._run(
            "initdb", "-D", making, "-U", "inclinum", "-A", "scram-sha-256", "--pwfile", self._secret, "-E", "UTF8",
            "--locale=C.UTF-8", "--no-instructions",
        )  # fmt: skip
        making.rename(self.data)
        return True

    def _see_to_version(self) -> None:
        """Refuse a cluster that another version of the server made, and use its own where that is installed."""
        made_by = (self.data / "PG_VERSION").read_text().strip()
        own = Path("/usr/lib/postgresql") / made_by / "bin"
        if (own / "postgres").exists():
            self._bin = own
        elif made_by:
            raise LaunchError(
                f"{self.data} was made by PostgreSQL {made_by}, which is not installed; "
                f"apt-get install postgresql-{made_by}, or restore a backup into another data folder."
            )

    def _write_secret(self, secret: str) -> None:
        with os.fdopen(os.open(self._secret, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "w") as file:
            file.write(secret)
        self._secret.chmod(0o600)
        if self._user:
            shutil.chown(self._secret, self._user)

    def _new_secret(self) -> None:
        """The password's file is gone or empty: the server, working alone on its files, takes another one."""
        self._make_way()
        secret = secrets.token_urlsafe(24)
        self._run(
            "postgres", "--single", "-D", self.data, "postgres", said=f"ALTER ROLE inclinum PASSWORD '{secret}'\n"
        )  # fmt: skip
        self._write_secret(secret)

    def start(self) -> None:
        """Start the server, on the port it had before where that is free.

        Raises:
            LaunchError: it does not come up; the log's last lines are in the message.
        """
        self._make_way()
        self.port = self.port if self.port and _is_free(self.port) else free_port()
        log = log_file(self.folder, "postgres.log")
        if log.stat().st_size > 10_000_000:
            log.rename(log.with_suffix(".old.log"))
            log = log_file(self.folder, "postgres.log")
        with log.open("ab") as out:
            server = subprocess.Popen(
                [
                    self._bin / "postgres", "-D", self.data, "-c", "listen_addresses=127.0.0.1", "-c",
                    f"port={self.port}", "-c", "unix_socket_directories=", "-c", f"max_connections={MOST_CONNECTIONS}",
                    "-c", "shared_buffers=64MB", "-c", "logging_collector=off",
                ],
                stdin=subprocess.DEVNULL,
                text=False, stdout=out, stderr=out, start_new_session=True,
                preexec_fn=ends_with_parent(signal.SIGINT), **self._as_user(),
            )  # fmt: skip
        self._server = server
        until = time.monotonic() + PATIENCE_S
        while time.monotonic() < until:
            if server.poll() is not None:
                break
            if self._says("ready"):
                return
            time.sleep(0.05)
        self.stop()
        tail = "\n".join(log.read_text(errors="replace").splitlines()[-6:])
        raise LaunchError(f"The database does not start. Its log {log} ends with:\n{tail}")

    def runs(self) -> bool:
        """Whether the server that was started is there."""
        return self._server is not None and self._server.poll() is None

    def stop(self) -> None:
        """Stop the server, finishing what it has; harder when it does not listen."""
        if self._server is None:
            return
        for how in (signal.SIGINT, signal.SIGQUIT, signal.SIGKILL):
            if self._server.poll() is None:
                self._server.send_signal(how)
            try:
                self._server.wait(20)
                break
            except subprocess.TimeoutExpired:
                continue
        self._server = None

    def join(self) -> bool:
        """Find the server that somebody else runs on these files; whether there is one."""
        found = self._running()
        if found is None or not self._secret.exists():
            return False
        self.port = found[1]
        return True

    def _says(self, word: str) -> bool:
        try:
            return (self.data / "postmaster.pid").read_text().splitlines()[7].strip() == word
        except (OSError, IndexError):
            return False

    def _make_way(self) -> None:
        """See to a server left over on these files, and to the note of one that is gone."""
        note = self.data / "postmaster.pid"
        if (found := self._running()) is not None:
            pid = found[0]
            os.kill(pid, signal.SIGINT)
            until = time.monotonic() + PATIENCE_S
            while self._running() is not None:
                if time.monotonic() > until:
                    raise LaunchError(
                        f"Another PostgreSQL server (process {pid}) holds {self.data} and does not stop; stop it first."
                    )
                time.sleep(0.1)
        elif note.exists() and not self._used_by_anybody():
            note.unlink()  # left by a crash, or empty: the server would not start over it

    def _running(self) -> tuple[int, int] | None:
        """Process and port of a server on these files."""
        try:
            lines = (self.data / "postmaster.pid").read_text().splitlines()
            pid, port = int(lines[0]), int(lines[3])
        except (OSError, ValueError, IndexError):
            return None
        return (pid, port) if _works_in(pid, self.data) else None

    def _used_by_anybody(self) -> bool:
        return any(_works_in(int(p.name), self.data) for p in Path("/proc").iterdir() if p.name.isdigit())

    def _as_user(self) -> dict[str, Any]:
        if self._user is None:
            return {"cwd": "/"}
        return {"cwd": "/", "user": self._user, "group": pwd.getpwnam(self._user).pw_gid, "extra_groups": []}

    def _run(self, program: str, *arguments: object, said: str = "") -> None:
        done = subprocess.run(
            [str(self._bin / program), *map(str, arguments)],
            input=said,
            stdout=subprocess.PIPE,
            stderr=subprocess.STDOUT,
            # Ctrl-C is for us: what is being made is finished or thrown away.
            start_new_session=True,
            check=False,
            text=True,
            **self._as_user(),
        )
        if done.returncode != 0:
            tail = "\n".join(done.stdout.strip().splitlines()[-6:])
            raise LaunchError(f"The database cannot be made in {self.folder}; {program} said:\n{tail}")


def _is_free(port: int) -> bool:
    """Whether a server can listen there: connections of one that is gone linger, and stand in nobody's way."""
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return False
    return True


def _works_in(pid: int, folder: Path) -> bool:
    """Whether a process is a PostgreSQL server on a folder: it works inside it."""
    try:
        return (
            Path(f"/proc/{pid}/cwd").resolve() == folder.resolve()
            and "postgres" in Path(f"/proc/{pid}/comm").read_text()
        )
    except OSError:
        return False
