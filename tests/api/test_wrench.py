"""The simulated wrench over its socket: clicks, what does not count, and a plug that is pulled."""

import asyncio
import time
from collections.abc import Callable, Iterator

import pytest
from fastapi.testclient import TestClient
from sqlalchemy import Engine

from inclinum.api.app import create_app
from inclinum.api.wrench import Bench
from inclinum.core.document.errors import DomainError
from inclinum.wrench import Listener, SimulatedWrench
from inclinum.wrench.protocol import Alive, Hello, Pulled, line_of, read
from tests.api import OURS, WHO


@pytest.fixture
def hoist(engine: Engine) -> Iterator[TestClient]:
    with TestClient(create_app(engine, bench=Bench()), base_url=OURS) as client:
        until(lambda: client.get("/api/wrench").json()["state"] == "ready", "the wrench")
        yield client


def until(true: Callable[[], object], what: str) -> None:
    end = time.monotonic() + 20
    while not true():
        assert time.monotonic() < end, f"{what}: not within 20 s"
        time.sleep(0.05)


def click(client: TestClient, **told: object) -> dict:
    """Click it, and what was heard of that."""
    before = client.get("/api/wrench").json()["count"]
    assert client.post("/api/wrench/simulated", json=told, headers=WHO).status_code == 204
    until(lambda: client.get("/api/wrench").json()["count"] == before + 1, "a click")
    (heard,) = client.get(f"/api/wrench?after={before}").json()["pulls"]
    return heard


def test_nobody_clicks_the_wrench_or_pulls_its_plug(hoist: TestClient) -> None:
    for what in ({"torque_nm": 90}, {"plugged": False}):
        answer = hoist.post("/api/wrench/simulated", json=what)
        assert (answer.status_code, "Nobody is picked" in answer.json()["sentence"]) == (400, True)
    assert hoist.get("/api/wrench").json()["state"] == "ready"
    assert hoist.get("/api/wrench").json()["count"] == 0


def test_clicks_are_heard_in_order_with_their_angle_and_those_that_do_not_count_are_told(hoist: TestClient) -> None:
    told = hoist.get("/api/wrench").json()
    assert (told["name"], told["simulated"], told["least_nm"], told["most_nm"]) == ("Simulated wrench", True, 20, 200)
    good = click(hoist, torque_nm=84.6, angle_deg=31)
    assert (good["torque_nm"], good["angle_deg"], good["doubt"]) == (84.6, 31, "")
    twice = click(hoist, torque_nm=90)
    assert "Clicked twice within 2 s" in twice["doubt"]
    for outside in (12.0, 240.0):
        assert "outside the range of this wrench, 20 to 200" in click(hoist, torque_nm=outside)["doubt"]
    assert hoist.get("/api/wrench?after=4").json()["pulls"] == []
    assert [p["n"] for p in hoist.get("/api/wrench?after=1").json()["pulls"]] == [2, 3, 4]


def test_a_plug_that_is_pulled_is_told_and_found_again(hoist: TestClient) -> None:
    hoist.post("/api/wrench/simulated", json={"plugged": False}, headers=WHO)
    until(lambda: hoist.get("/api/wrench").json()["state"] == "away", "the pulled plug")
    away = hoist.get("/api/wrench").json()
    assert (away["name"], away["simulated"]) == ("Simulated wrench", True), "it is still known which one is missing"
    hoist.post("/api/wrench/simulated", json={"torque_nm": 80}, headers=WHO)
    assert hoist.get("/api/wrench").json()["count"] == 0, "nobody hears it"
    hoist.post("/api/wrench/simulated", json={"plugged": True}, headers=WHO)
    until(lambda: hoist.get("/api/wrench").json()["state"] == "ready", "the wrench again")
    assert click(hoist, torque_nm=80)["doubt"] == ""


def test_without_a_wrench_there_is_none(client: TestClient) -> None:
    assert client.get("/api/wrench").json()["state"] == "none"
    assert client.post("/api/wrench/simulated", json={"torque_nm": 80}).status_code == 404


def test_lines_come_back_as_they_were_said_and_nothing_else_is_one() -> None:
    hello = Hello(name="Bench wrench", least_nm=5, most_nm=50)
    for said in (hello, Alive(), Pulled(torque_nm=12.5, angle_deg=90)):
        assert read(line_of(said)) == said
    for line in (b"", b"84.6", b'{"says": "pulled", "torque_nm": -3}', b'{"says": "sing"}', b"\xff\n"):
        with pytest.raises(DomainError, match="does not say"):
            read(line)


def test_who_talks_nonsense_or_falls_silent_is_not_there() -> None:
    async def heard(first: bytes) -> Hello | None:
        async def talk(_: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
            writer.write(line_of(Hello(name="Odd", least_nm=1, most_nm=9)) + first)
            await writer.drain()

        server = await asyncio.start_server(talk, "127.0.0.1", 0)
        listener = Listener("127.0.0.1", server.sockets[0].getsockname()[1])
        with pytest.raises(TimeoutError):
            await asyncio.wait_for(listener.listen(), 0.3)
        server.close()
        return listener.wrench

    assert asyncio.run(heard(b"")) is not None, "silent for a moment only"
    assert asyncio.run(heard(b"nonsense\n")) is None
    assert asyncio.run(heard(b"x" * 5000)) is None

    async def on_its_own() -> int:
        wrench = SimulatedWrench()
        await wrench.plug()
        port = wrench.port
        await wrench.plug()
        await wrench.unplug()
        await wrench.plug()
        await wrench.unplug()
        return port - wrench.port

    assert asyncio.run(on_its_own()) == 0, "it comes back where it was"
