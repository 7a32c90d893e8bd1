"""The application served for real, on a free port."""

import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager

import uvicorn
from fastapi import FastAPI

from inclinum.launch.__main__ import listen
from inclinum.launch.cluster import free_port


@contextmanager
def served(app: FastAPI) -> Iterator[str]:
    """Its address, as long as it is served."""
    with listen(free_port()) as listening:
        server = uvicorn.Server(uvicorn.Config(app, log_level="error"))
        thread = threading.Thread(target=server.run, kwargs={"sockets": [listening]}, daemon=True)
        thread.start()
        while not server.started:
            time.sleep(0.05)
        yield f"http://127.0.0.1:{listening.getsockname()[1]}"
        server.should_exit = True
        thread.join(10)
