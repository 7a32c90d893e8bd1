"""The built client as it is served: its own addresses, its caching, its compression."""

from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from inclinum.api.app import create_app
from inclinum.core.car.changes import CHANGE_TYPES
from tests.api import OURS

BUILD = Path(__file__).parents[2] / "web" / "build"


@pytest.fixture
def client() -> TestClient:
    return TestClient(create_app(None, BUILD), base_url=OURS)


def test_every_address_of_the_client_gets_its_page(client: TestClient) -> None:
    page = client.get("/")
    assert "Inclinum" in page.text
    assert page.headers["cache-control"] == "no-cache"
    for address in ("/jobs/anything/plan", "/jobs"):
        assert client.get(address).text == page.text


def test_missing_files_and_api_addresses_are_missing(client: TestClient) -> None:
    assert client.get("/nothing.png").status_code == 404
    assert client.get("/api/nothing").status_code == 404


def test_built_files_are_kept_for_good_and_sent_compressed(client: TestClient) -> None:
    script = next((BUILD / "_app" / "immutable").rglob("*.js"))
    answer = client.get(f"/{script.relative_to(BUILD)}", headers={"accept-encoding": "gzip"})
    assert "immutable" in answer.headers["cache-control"]
    largest = max((BUILD / "_app" / "immutable").rglob("*.js"), key=lambda p: p.stat().st_size)
    sent = client.get(f"/{largest.relative_to(BUILD)}", headers={"accept-encoding": "gzip"})
    assert sent.headers["content-encoding"] == "gzip"


def test_kinds_of_change_come_with_the_schema_of_their_form(client: TestClient) -> None:
    kinds = {k["type"]: k for k in client.get("/api/kinds").json()["car"]["changes"]}
    assert list(kinds) == [k.model_fields["type"].default for k in CHANGE_TYPES]
    thickness = kinds["seat_spacer"]["parameters"]["properties"]["thickness_mm"]
    assert (thickness["title"], thickness["unit"], thickness["minimum"]) == ("Thickness", "mm", -60)


def test_a_wrong_method_is_told_with_the_right_ones_beside_the_client_too(client: TestClient) -> None:
    for method, address, right in (("TRACE", "/api/kinds", "GET"), ("DELETE", "/api/predict", "POST")):
        answer = client.request(method, address)
        assert (answer.status_code, answer.headers["allow"]) == (405, right)
        assert answer.json()["sentence"]
