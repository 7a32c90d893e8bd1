"""Computing beside serving: in processes of its own, bounded, stopped when nobody waits."""

import asyncio
import os
import time
from collections.abc import Iterator
from typing import Any

import pytest
from fastapi import Request

from inclinum.api import computing
from inclinum.api.computing import Workers
from inclinum.api.errors import AnsweredElsewhere
from inclinum.jobfile import read_job


def where() -> int:
    return os.getpid()


def spin(seconds: float, done: str) -> str:
    until = time.process_time() + seconds
    while time.process_time() < until:
        sum(range(1000))
    with open(done, "w") as file:
        file.write("done")
    return "done"


def faulty() -> None:
    raise KeyError("ours")


def asker(hang_up_after: float | None = None) -> Request:
    """A request whose asker hangs up after a while, or never."""

    async def receive() -> dict[str, Any]:
        await asyncio.sleep(1e6 if hang_up_after is None else hang_up_after)
        return {"type": "http.disconnect"}

    return Request({"type": "http", "method": "POST", "path": "/x", "headers": [], "query_string": b""}, receive)


@pytest.fixture
def broken() -> list[str]:
    return []


@pytest.fixture
def workers(broken: list[str]) -> Iterator[Workers]:
    made = Workers(lambda: broken.append("broken"), count=2)
    yield made
    made.close()


def test_it_is_done_elsewhere_and_errors_come_back_as_sentences(workers: Workers) -> None:
    async def ask() -> None:
        assert await workers.run(asker(), where) != os.getpid()
        with pytest.raises(AnsweredElsewhere) as prediction:
            await workers.run(asker(), read_job, b"{")
        assert prediction.value.status == 422
        assert "cut off" in prediction.value.body["sentence"]
        with pytest.raises(AnsweredElsewhere) as fault:
            await workers.run(asker(), faulty)
        assert fault.value.status == 500
        assert fault.value.body["trouble_id"] in fault.value.body["sentence"]

    asyncio.run(ask())


def test_what_takes_too_long_is_stopped_and_the_worker_goes_on(workers: Workers, tmp_path: Any) -> None:
    async def ask() -> None:
        began = time.monotonic()
        with pytest.raises(AnsweredElsewhere) as prediction:
            await workers.run(asker(), spin, 60.0, str(tmp_path / "late"), longest_s=0.3)
        assert prediction.value.status == 422
        assert "longer to compute than any answer may" in prediction.value.body["sentence"]
        assert time.monotonic() - began < 30
        assert await workers.run(asker(), spin, 0.2, str(tmp_path / "in time"), longest_s=computing.LONGEST_S) == "done"

    asyncio.run(ask())
    assert not (tmp_path / "late").exists()


def test_what_nobody_waits_for_is_stopped_also_in_the_queue(workers: Workers, tmp_path: Any) -> None:
    async def ask() -> list[Any]:
        left = [workers.run(asker(0.3), spin, 1.5, str(tmp_path / str(n))) for n in range(6)]
        return await asyncio.gather(*left, return_exceptions=True)

    prediction = asyncio.run(ask())
    assert [getattr(t, "status_code", t) for t in prediction] == [499] * 6

    async def after() -> None:
        assert await workers.run(asker(), where) > 0, "the workers are free again"

    asyncio.run(after())
    # Places come back as workers get to it, which a busy machine may take its time for.
    until = time.monotonic() + 30
    while len(workers._free) < computing.PLACES and time.monotonic() < until:
        time.sleep(0.05)
    assert len(workers._free) == computing.PLACES
    assert not list(tmp_path.iterdir()), "none of them was finished"


def test_a_worker_that_dies_is_told_to_whoever_looks_after_this_process(workers: Workers, broken: list[str]) -> None:
    async def ask() -> None:
        with pytest.raises(Exception, match="started anew"):
            await workers.run(asker(), os._exit, 1)

    asyncio.run(ask())
    assert broken == ["broken"]
