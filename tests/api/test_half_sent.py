"""What is sent by half, or is no picture, stands in nobody's way."""

import io
import json
import socket
import struct
import time
import zlib

import httpx
import pytest
from fastapi.testclient import TestClient
from PIL import Image, ImageFile
from psycopg.errors import AdminShutdown, DiskFull
from sqlalchemy import Engine
from sqlalchemy.exc import OperationalError

from inclinum.api import guard
from inclinum.api.app import create_app
from inclinum.api.errors import refusal_of
from inclinum.core.document.errors import DomainError
from inclinum.photo import MOST_PX, cleaned
from tests.api import JOB, WHO
from tests.api.test_client import BUILD
from tests.serving import served


def test_requests_sent_by_half_hold_no_place_of_those_who_save(engine: Engine, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(guard, "BEGIN_S", 1.0)
    with served(create_app(engine)) as here:
        host, port = here.removeprefix("http://").split(":")
        head = f"PUT /api/jobs/{JOB}/brief HTTP/1.1\r\nHost: {host}:{port}\r\nContent-Length: 5000\r\n\r\n{{".encode()
        half = [socket.create_connection((host, int(port))) for _ in range(8)]
        for each in half:
            each.sendall(head)
        time.sleep(0.2)
        with httpx.Client(base_url=here, headers=WHO, timeout=30) as client:
            view = client.get(f"/api/jobs/{JOB}").json()
            body = {"kind": "car", "version": 1, "section": view["job"]["brief"] | {"load": "kept"}}
            assert client.put(f"/api/jobs/{JOB}/brief", json=body).status_code == 200
        told = ""
        while "did not come" not in told and (part := half[0].recv(4000)):
            told += part.decode()
        assert told.startswith("HTTP/1.1 408")
        assert "did not come" in told
        for each in half:
            each.close()


def test_a_key_that_stands_twice_is_refused(client: TestClient) -> None:
    view = client.get(f"/api/jobs/{JOB}").json()
    body = json.dumps({"kind": "car", "version": 1, "section": view["job"]["brief"]})
    twice = body.replace('"version": 1', '"version": 1, "version": 1')
    headers = WHO | {"content-type": "application/json"}
    answer = client.put(f"/api/jobs/{JOB}/brief", content=twice, headers=headers)
    assert (answer.status_code, "“version” stands twice" in answer.json()["sentence"]) == (422, True)
    file = client.get(f"/api/jobs/{JOB}/file").text
    both = file.replace('"title":', '"title": "One",\n "title":', 1)
    answer = client.post("/api/jobs/import", content=both, headers=WHO)
    assert (answer.status_code, "“title” stands twice" in answer.json()["sentence"]) == (422, True)


@pytest.mark.parametrize("odd", ["Post\r\nvan", "Post\x07van", "Post\u202evan", "Post\u2028van"])
def test_a_title_is_one_line_that_reads_as_it_is_written(client: TestClient, odd: str) -> None:
    number = client.get("/api/vehicles").json()["items"][0]["id"]
    made = client.post("/api/jobs", json={"title": odd, "vehicle_id": number}, headers=WHO).json()["id"]
    assert client.get(f"/api/jobs/{made}").json()["job"]["title"] == "Post van"


def head_only(width: int, height: int) -> bytes:
    """A PNG that claims a size and brings next to nothing of it."""
    parts = {b"IHDR": struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0), b"IDAT": zlib.compress(b"")}
    chunks = (struct.pack(">I", len(d)) + k + d + struct.pack(">I", zlib.crc32(k + d)) for k, d in parts.items())
    return b"\x89PNG\r\n\x1a\n" + b"".join(chunks)


@pytest.mark.parametrize("size", [(7700, 7700), (4000, 4000), (100_000, 10)])
def test_a_picture_is_refused_by_its_head_before_it_is_opened(
    size: tuple[int, int], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(ImageFile.ImageFile, "load", lambda _: pytest.fail("it was opened"))
    with pytest.raises(DomainError, match=r"megapixels|no picture"):
        cleaned(head_only(*size))


def test_a_large_photograph_is_opened_at_a_fraction_of_its_size(monkeypatch: pytest.MonkeyPatch) -> None:
    out = io.BytesIO()
    Image.radial_gradient("L").resize((9000, 6000)).convert("RGB").save(out, "JPEG", quality=70)
    assert MOST_PX["JPEG"] > 9000 * 6000
    opened: list[tuple[int, int]] = []
    load = Image.Image.convert
    monkeypatch.setattr(Image.Image, "convert", lambda s, *a: opened.append(s.size) or load(s, *a))
    kept = cleaned(out.getvalue())
    assert max(kept.width, kept.height) == 2048
    assert max(opened[0]) == 2048


def test_a_full_disk_is_told_as_one() -> None:
    full = OperationalError("insert", {}, DiskFull("could not extend file"))
    told = refusal_of(full)
    assert told is not None
    assert (told[0], "disk that holds the shop's data is full" in str(told[1].model_dump()["sentence"])) == (507, True)
    away = refusal_of(OperationalError("insert", {}, AdminShutdown("going")))
    assert away is not None
    assert (away[0], "does not answer" in str(away[1].model_dump()["sentence"])) == (503, True)


def test_a_job_whose_id_has_a_dot_has_its_page() -> None:
    with_page = TestClient(create_app(None, BUILD), "http://127.0.0.1")
    for address in ("/jobs/van.2026", "/jobs/van.2026/plan"):
        answer = with_page.get(address)
        assert (answer.status_code, answer.headers["content-type"].split(";")[0]) == (200, "text/html")
    assert with_page.get("/nothing.png").status_code == 404
