"""The application on the throw-away database, asked over HTTP."""

from collections.abc import Iterator

import pytest
from fastapi.testclient import TestClient
from sqlalchemy import Engine

from inclinum.api.app import create_app
from tests.api import OURS


@pytest.fixture
def client(engine: Engine) -> Iterator[TestClient]:
    with TestClient(create_app(engine), base_url=OURS) as client:
        yield client
