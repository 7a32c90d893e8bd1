"""Acts at the machine: many in one request, each once, and what they cost."""

from uuid import uuid4

import pytest
from fastapi.testclient import TestClient

from inclinum.core.car.job import Job
from inclinum.core.machines import card_of
from tests.api import WHO

JOB = "van-2026-washed-out-track"
URL = f"/api/jobs/{JOB}/build/acts"


def tick(step: str, **more: object) -> dict:
    return {"id": str(uuid4()), "do": "tick", "step": step, "done": True} | more


def test_acts_are_done_in_order_each_once_with_the_time_they_were_done(client: TestClient, in_hand: Job) -> None:
    steps = [s for s in card_of(in_hand).steps if not s.hold][:6]
    acts = [tick(s.id, ago_s=3600.0 * n) for n, s in enumerate(steps)]
    undone = tick(steps[0].id, done=False)
    first = client.post(URL, json={"acts": [*acts, undone]}, headers=WHO).json()
    assert (first["version"], first["refused"]) == (2, [])
    again = client.post(URL, json={"acts": [*acts, undone]}, headers=WHO).json()
    assert again == first, "sent again, it is not done again"
    view = client.get(f"/api/jobs/{JOB}").json()
    ticks = view["job"]["build"]["ticks"]
    assert [t["step"] for t in ticks] == [s.id for s in steps[1:]]
    assert all(t["work"] for t in ticks), "its kind comes from the card"
    times = [t["done_at"] for t in ticks]
    assert times == sorted(times, reverse=True), "each at its own time"
    assert len([line for line in view["history"] if line["what"].startswith("build: ")]) == len(acts) + 1


def test_one_that_cannot_be_done_keeps_no_other_from_being_done(client: TestClient, in_hand: Job) -> None:
    made = card_of(in_hand)
    held = next(s for s in made.steps if s.hold)
    bolt = next(s for s in made.steps if s.fasteners and s.axle and s.side)
    torque = {"do": "torque", "fastener": bolt.fasteners[0].key, "axle": bolt.axle, "side": bolt.side}
    acts = [
        tick("no.such.step"),
        tick(held.id),
        {"id": str(uuid4()), **torque, "torque": "90 Nm ± 4"},
        {"id": str(uuid4()), **torque, "torque": "90 Nm"},
        {"id": str(uuid4()), **torque, "torque": "95 Nm"},
        tick(held.id, held=True),
    ]
    told = client.post(URL, json={"acts": acts}, headers=WHO).json()
    assert [r["id"] for r in told["refused"]] == [a["id"] for a in acts[:3]]
    assert ["no longer on the card" in told["refused"][0]["sentence"], "Work stops" in told["refused"][1]["sentence"]]
    assert "leave the ± out" in told["refused"][2]["sentence"]
    (record,) = told["build"]["torques"]
    assert record["torque"]["text"] == "95 Nm"
    assert [t["step"] for t in told["build"]["ticks"]] == [held.id]
    history = [line["what"] for line in client.get(f"/api/jobs/{JOB}").json()["history"]]
    assert any("90 Nm" in line for line in history)
    assert any("95 Nm" in line for line in history), "the history keeps both"


def test_work_found_on_the_way_can_be_ticked_in_the_same_breath(client: TestClient, in_hand: Job) -> None:
    step = card_of(in_hand).steps[0].id
    found = {"step": step, "what": "Clip broken", "decision": "now", "work": "Fit a new one"}
    acts = [{"id": str(uuid4()), "do": "found", "key": "f-abc", "found": found}, tick("found.f-abc")]
    told = client.post(URL, json={"acts": acts}, headers=WHO).json()
    assert told["refused"] == []
    assert [t["step"] for t in told["build"]["ticks"]] == ["found.f-abc"]
    late = {"id": str(uuid4()), "do": "found", "key": "gone", "again": True, "found": found}
    refused = client.post(URL, json={"acts": [late]}, headers=WHO).json()["refused"]
    assert "tell it as new" in refused[0]["sentence"]


def test_a_tick_lays_no_card_out_that_was_laid_out_before(client: TestClient, monkeypatch: pytest.MonkeyPatch) -> None:
    laid_out = []
    monkeypatch.setattr("inclinum.api.outlines.card_of", lambda job: laid_out.append(1) or card_of(job))
    steps = [s for s in client.get(f"/api/jobs/{JOB}/card").json()["steps"] if not s["hold"]]
    for step in steps[:5]:
        client.post(URL, json={"acts": [tick(step["id"])]}, headers=WHO)
    assert laid_out == []
    plan = client.get(f"/api/jobs/{JOB}").json()["job"]["plan"]
    body = {"kind": "car", "version": 1, "section": plan | {"override": "so it is"}}
    client.put(f"/api/jobs/{JOB}/plan", json=body, headers=WHO)
    client.post(URL, json={"acts": [tick(steps[5]["id"])]}, headers=WHO)
    assert laid_out == [1], "of another plan it is"
