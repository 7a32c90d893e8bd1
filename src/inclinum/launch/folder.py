"""The data folder: who is in it, and what lies where."""

import fcntl
import hashlib
import os
import shutil
import time
from collections.abc import Callable
from pathlib import Path
from types import TracebackType
from typing import Self

from inclinum.launch.account import LaunchError, reachable, unprivileged_user

ELSEWHERE = Path("/var/lib/inclinum")


def data_folder(wanted: Path) -> Path:
    """Where the data goes: the wanted folder, or one that the account can reach when it cannot reach that.

    Raises:
        LaunchError: it cannot be made or written.
    """
    user = unprivileged_user()
    folder = _made(wanted)
    if user is None or reachable(folder, user):
        return folder
    return _made(ELSEWHERE / hashlib.sha256(str(wanted).encode("utf-8", "surrogateescape")).hexdigest()[:10])


def _made(folder: Path) -> Path:
    try:
        folder.mkdir(parents=True, exist_ok=True)
        probe = folder / ".writable"
        probe.touch()
        probe.unlink()
    except OSError as error:
        raise LaunchError(
            f"The data folder {folder} cannot be used: {error.strerror}. "
            "Make it writable, or choose another one: INCLINUM_DATA=/somewhere/else ./start"
        ) from None
    return folder


def logs(folder: Path) -> Path:
    """The folder of the logs, which nobody else reads."""
    made = folder / "logs"
    made.mkdir(exist_ok=True)
    made.chmod(0o700)
    if user := unprivileged_user():
        shutil.chown(made, user)
    return made


def log_file(folder: Path, name: str) -> Path:
    """A log in it, there and private before anything is written."""
    path = logs(folder) / name
    path.touch(mode=0o600)
    path.chmod(0o600)
    if user := unprivileged_user():
        shutil.chown(path, user)
    return path


VISIT = "a backup or restore"
"""What a visitor of the data says of itself: it is gone by itself after a while."""
LONGEST_VISIT_S = 600.0


class Occupied:
    """One starter at a time has a data folder. The next one is told where the first one is.

    Args:
        folder: the data folder.
        address: told to whoever comes second.
        waiting: called once when a backup or restore is waited for; without it nobody is waited for.
    """

    def __init__(self, folder: Path, address: str, waiting: Callable[[], None] | None = None):
        self._path, self._address, self._waiting = folder / "in-use", address, waiting
        self._file: int | None = None

    def __enter__(self) -> Self:
        self._file = os.open(self._path, os.O_RDWR | os.O_CREAT | os.O_CLOEXEC, 0o600)
        until = time.monotonic() + LONGEST_VISIT_S
        while not self._had():
            by = os.pread(self._file, 200, 0).decode(errors="replace").strip()
            if by == VISIT and self._waiting and time.monotonic() < until:
                self._waiting()
                while not self._had() and time.monotonic() < until:
                    time.sleep(0.2)
                continue
            os.close(self._file)
            if by == VISIT:
                raise LaunchError(
                    f"A backup or restore is at work on {self._path.parent}: start again once it is done."
                )
            raise LaunchError(
                f"These data are in use already{f' by Inclinum at {by}' if by else ''}: {self._path.parent}. "
                "Use that one, stop it first, or choose other data: INCLINUM_DATA=/somewhere/else ./start"
            ) from None
        os.ftruncate(self._file, 0)
        os.pwrite(self._file, self._address.encode(), 0)
        return self

    def _had(self) -> bool:
        assert self._file is not None
        try:
            fcntl.flock(self._file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            return False
        return True

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        if self._file is not None:
            os.ftruncate(self._file, 0)
            os.close(self._file)
