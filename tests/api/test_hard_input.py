"""Whatever is sent, the answer is a number or a sentence: never a fault of the server, never a NaN."""

import json
import math
from collections.abc import Iterator
from copy import deepcopy
from typing import Any

import numpy as np
import pytest
from fastapi.testclient import TestClient
from hypothesis import given, settings
from hypothesis import strategies as st

from inclinum.api.app import create_app
from inclinum.api.errors import refusal_of
from inclinum.core.document.errors import DomainError
from inclinum.demo import demo_bike_jobs, demo_jobs
from tests.api import OURS

WHOLE = demo_jobs()[-1].model_dump(mode="json")
BIKES = [job.model_dump(mode="json") for job in demo_bike_jobs()]
client = TestClient(create_app(None), OURS, raise_server_exceptions=False)


def leaves(value: Any, path: tuple = ()) -> Iterator[tuple]:
    """Paths of all numbers of a document."""
    if isinstance(value, dict):
        for key, part in value.items():
            yield from leaves(part, (*path, key))
    elif isinstance(value, list):
        for n, part in enumerate(value):
            yield from leaves(part, (*path, n))
    elif isinstance(value, int | float) and not isinstance(value, bool):
        yield path


NUMBERS = [p for p in leaves(WHOLE) if p[0] in ("vehicle", "plan", "brief")]
ODD = st.one_of(
    st.sampled_from([0, -1, 1e-9, 1e9, 3.2, 1, 5000, -5000]),
    st.floats(-1e4, 1e4, allow_nan=False),
    st.sampled_from(["12", None, [], {}, True]),
)


def put(document: Any, path: tuple, value: Any) -> None:
    for key in path[:-1]:
        document = document[key]
    document[path[-1]] = value


def only_finite(value: Any) -> bool:
    if isinstance(value, dict):
        return all(only_finite(v) for v in value.values())
    if isinstance(value, list):
        return all(only_finite(v) for v in value)
    return not isinstance(value, float) or math.isfinite(value)


@settings(deadline=None, max_examples=120)
@given(st.lists(st.tuples(st.sampled_from(NUMBERS), ODD), min_size=1, max_size=3))
def test_any_number_of_a_job_may_be_wrong(changes: list[tuple[tuple, Any]]) -> None:
    document = deepcopy(WHOLE)
    for path, value in changes:
        put(document, path, value)
    for address in ("/api/predict", "/api/align", "/api/prove"):
        answer = client.post(address, json=document)
        assert answer.status_code in (200, 422), f"{address}: {changes}"
        body = json.loads(answer.text)
        assert only_finite(body)
        if answer.status_code == 422:
            assert len(body["sentence"]) > 10


@settings(deadline=None, max_examples=120)
@given(st.sampled_from(BIKES), st.data())
def test_any_number_of_a_two_wheeler_may_be_wrong(whole: dict[str, Any], data: st.DataObject) -> None:
    document = deepcopy(whole)
    numbers = [p for p in leaves(document) if p[0] in ("vehicle", "plan", "brief")]
    for path in data.draw(st.lists(st.sampled_from(numbers), min_size=1, max_size=3, unique=True)):
        put(document, path, data.draw(ODD, label=str(path)))
    for address, body in (
        ("/api/predict", document),
        ("/api/prove", document),
        ("/api/bench", document["vehicle"]),
        ("/api/sag", {"job": document, "end": "rear", "sag_mm": 55}),
    ):
        answer = client.post(address, json=body)
        assert answer.status_code in (200, 422), address
        prediction = json.loads(answer.text)
        assert only_finite(prediction), address
        if answer.status_code == 422:
            assert len(prediction["sentence"]) > 10


@pytest.mark.parametrize("axle", ["front", "rear"])
@settings(deadline=None, max_examples=25)
@given(st.floats(-400, 400))
def test_any_height_may_be_asked_for(axle: str, rise: float) -> None:
    answer = client.post("/api/ways", json={"job": WHOLE, "axle": axle, "rise": rise})
    assert answer.status_code == 200
    for way in answer.json():
        assert way["rise"] == pytest.approx(rise, abs=1.0)


@settings(deadline=None, max_examples=80)
@given(st.text(max_size=80), st.sampled_from(["length", "angle", "torque", "mass"]))
def test_any_text_may_be_typed(text: str, kind: str) -> None:
    answer = client.post("/api/entry", json={"text": text, "kind": kind})
    assert answer.status_code in (200, 422)
    assert answer.json().get("sentence", "fine")


@pytest.mark.parametrize("body", ["", "{", "[]", "null", '"job"', "{}", '{"id": 5}'])
def test_no_job_at_all(body: str) -> None:
    answer = client.post("/api/predict", content=body, headers={"content-type": "application/json"})
    assert answer.status_code == 422
    assert answer.json()["sentence"]


def test_only_what_is_told_as_a_sentence_is_the_askers_fault() -> None:
    status, body = refusal_of(DomainError("The rear axle has no seat for a ring.")) or (0, None)
    assert (status, getattr(body, "sentence", "")) == (422, "The rear axle has no seat for a ring.")
    assert refusal_of(ValueError("operands could not be broadcast together")) is None, (
        "a fault of ours, with a line in the log"
    )
    assert refusal_of(np.linalg.LinAlgError("Singular matrix")) is None
