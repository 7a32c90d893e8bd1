"""Whom things run as: never as root, where they need not."""

import ctypes
import os
import pwd
import signal
import subprocess
from collections.abc import Callable
from pathlib import Path

END_WITH_PARENT, NO_NEW_PRIVILEGES = 1, 38
"""Of prctl(2)."""
_libc = ctypes.CDLL(None, use_errno=True)


class LaunchError(RuntimeError):
    """Something outside is in the way; the message is a sentence with the way out."""


def unprivileged_user() -> str | None:
    """Whom database and server run as: nobody special normally; as root, an account that owns nothing else."""
    if os.geteuid() != 0:
        return None
    for name in ("postgres", "nobody"):
        try:
            pwd.getpwnam(name)
        except KeyError:
            continue
        return name
    raise LaunchError("There is no account “postgres” or “nobody” to run as; run as another user than root.")


def reachable(path: Path, user: str | None) -> bool:
    """Whether an account may read a file, or enter a folder."""
    if user is None:
        return os.access(path, os.R_OK | (os.X_OK if path.is_dir() else 0))
    checks = ("-r", "-x") if path.is_dir() else ("-r",)
    return all(
        subprocess.run(["/usr/bin/test", check, path], user=user, group=_group(user), extra_groups=[], cwd="/",
                       check=False).returncode == 0
        for check in checks
    )  # fmt: skip


def _group(user: str) -> int:
    return pwd.getpwnam(user).pw_gid


def ends_with_parent(by: signal.Signals) -> Callable[[], None]:
    """For a new process: it gets a signal when the one that started it is gone, however that went."""

    def arrange() -> None:
        _libc.prctl(END_WITH_PARENT, int(by), 0, 0, 0)

    return arrange


def become(user: str | None) -> None:
    """Give everything up but an account's own rights, for good. What is not loaded by now may be out of reach."""
    if user is not None:
        account = pwd.getpwnam(user)
        os.setgroups([])
        os.setresgid(account.pw_gid, account.pw_gid, account.pw_gid)
        os.setresuid(account.pw_uid, account.pw_uid, account.pw_uid)
        os.environ.update(HOME=account.pw_dir, USER=user, LOGNAME=user)
        os.chdir("/")
    _libc.prctl(NO_NEW_PRIVILEGES, 1, 0, 0, 0)
    os.umask(0o077)
