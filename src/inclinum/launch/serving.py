"""The process that serves: it holds no more rights than it needs, and computes in processes of its own."""

import importlib
import io
import logging
import logging.handlers
import os
import pkgutil
import re
import signal
import socket
import sys
import warnings
from contextlib import suppress
from pathlib import Path

import uvicorn

from inclinum.api.app import create_app, description
from inclinum.api.collector import settle
from inclinum.api.computing import Workers
from inclinum.api.wrench import Bench
from inclinum.launch.account import become, ends_with_parent
from inclinum.store.database import open_engine

LOADED_LATE = (
    "anyio", "asyncio", "concurrent", "email", "encodings", "fastapi", "fontTools.ttLib.tables", "httptools", "jinja2",
    "json", "logging", "multiprocessing", "numpy.linalg", "psycopg", "psycopg_binary", "pydantic", "scipy.linalg",
    "scipy.optimize", "sqlalchemy.dialects.postgresql", "starlette", "uvicorn", "uvloop", "weasyprint",
)  # fmt: skip
"""Packages of which parts are loaded when they are first used."""
NOT_LOADED = re.compile(
    r"\.(__main__|tests?|testing|_?mypy|idle|mbcs|oem|cp\w+)(\.|$)|testclient|migrations|windows|winreg"
)
BROKEN = 3
"""Exit code: a computing process died, start me again."""


def load_everything() -> None:
    """Load what is otherwise loaded when it is first needed, and use it once.

    The account that serves may not be able to read the folder that this program was started from.
    """
    warnings.simplefilter("ignore")  # of parts that nobody here uses
    for name in (*LOADED_LATE, "inclinum"):
        package = importlib.import_module(name)
        for module in pkgutil.walk_packages(getattr(package, "__path__", ()), f"{name}.", onerror=lambda _: None):
            if not NOT_LOADED.search(module.name):
                with suppress(Exception, SystemExit):  # some want what is not installed, or another system
                    importlib.import_module(module.name)
    from PIL import Image

    from inclinum import demo, report
    from inclinum.core.bike.bench import bike_bench
    from inclinum.core.car.alignment import align
    from inclinum.core.car.bench import axle_bench
    from inclinum.core.car.proof import prove
    from inclinum.core.machines import KINDS
    from inclinum.photo import TAKEN, cleaned

    job, bike = demo.demo_jobs()[-1], demo.demo_bike_jobs()[-1]
    prove(job)
    align(job)
    axle_bench(job.vehicle.front)
    bike_bench(bike.vehicle)
    # All of them take longer than any one answer may: drawn here, they are there in every process that answers.
    for kind in KINDS.values():
        for choice in kind.choices:
            kind.pictures(choice.name)
    report.card_pdf(job)
    report.card_pdf(bike)
    for paper in (report.quotation_pdf, report.labels_pdf, report.hand_over_pdf):
        paper(job)
    for kind in TAKEN:
        picture = io.BytesIO()
        Image.new("RGB", (8, 8)).save(picture, kind)
        cleaned(picture.getvalue())
    description()


def log_to(path: Path) -> None:
    """Write what goes wrong into a private file, five of them in turn, and on the terminal."""
    os.umask(0o077)
    form = logging.Formatter("%(asctime)s %(levelname)s %(name)s: %(message)s")
    kept = logging.handlers.RotatingFileHandler(path, maxBytes=4_000_000, backupCount=4)
    shown = logging.StreamHandler(sys.stderr)
    shown.setLevel(logging.ERROR)
    for handler in (kept, shown):
        handler.setFormatter(form)
        logging.getLogger().addHandler(handler)
    logging.getLogger().setLevel(logging.INFO)
    logging.getLogger("weasyprint").setLevel(logging.ERROR)
    logging.getLogger("fontTools").setLevel(logging.ERROR)


def serve(listening: socket.socket, url: str, client: Path, user: str | None, log: Path) -> int:
    """Serve until told to stop; the exit code. Called in a process of its own, which has nothing else to do."""
    config = uvicorn.Config(
        "", log_config=None, log_level="warning", timeout_graceful_shutdown=5, timeout_keep_alive=30
    )
    config.get_loop_factory()
    broken = False

    def ends() -> None:
        nonlocal broken
        broken = True
        server.should_exit = True

    become(user)
    ends_with_parent(signal.SIGTERM)()
    log_to(log)
    workers = Workers(ends, begin=ends_with_parent(signal.SIGKILL))
    engine = open_engine(url)
    config.app = create_app(engine, client, workers, Bench())
    config.load()
    server = uvicorn.Server(config)
    # A thread that validates a document hands over soon, so that the loop, which only passes things on, need not wait.
    sys.setswitchinterval(0.001)
    settle()
    server.run(sockets=[listening])
    workers.close()
    engine.dispose()
    return BROKEN if broken else 0
