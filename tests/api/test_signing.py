"""What a signature needs, what it covers, and whose it is."""

import json

import pytest
from fastapi.testclient import TestClient

from tests.api import JOB, WHO

DONE = "van-2025-front-springs"


def view(client: TestClient, job: str) -> dict:
    return client.get(f"/api/jobs/{job}").json()


def sign(client: TestClient, job: str, **more: str) -> tuple[int, dict]:
    body = {"version": view(client, job)["versions"]["prove"], **more}
    answer = client.post(f"/api/jobs/{job}/sign-off", json=body, headers=WHO)
    return answer.status_code, answer.json()


def withdraw(client: TestClient) -> None:
    why = {"version": view(client, DONE)["versions"]["prove"], "reason": "looked at again"}
    assert client.post(f"/api/jobs/{DONE}/sign-off/withdraw", json=why, headers=WHO).status_code == 200


def put(client: TestClient, job: str, stage: str, **fields: object) -> tuple[int, dict]:
    now = view(client, job)
    body = {"kind": "car", "version": now["versions"][stage], "section": now["job"][stage] | fields}
    answer = client.put(f"/api/jobs/{job}/{stage}", json=body, headers=WHO)
    return answer.status_code, answer.json()


def test_a_stopped_plan_unticked_steps_and_missing_readings_are_asked_for_and_the_answer_is_kept(
    client: TestClient,
) -> None:
    withdraw(client)
    now = view(client, DONE)["job"]
    stopping = {"type": "strut_top_spacer", "axle": "front", "thickness_mm": 18}
    changes = [*now["plan"]["changes"], {"id": "top", "on": True, "change": stopping}]
    assert put(client, DONE, "plan", changes=changes)[0] == 200
    after = now["prove"]["after"] | {"corners": now["prove"]["after"]["corners"][:1]}
    assert put(client, DONE, "prove", after=after)[0] == 200
    assert put(client, DONE, "brief", load="the same")[0] == 200
    status, refused = sign(client, DONE)
    assert status == 422
    lacks = [c["sentence"] for c in refused["complaints"]]
    assert lacks[0].startswith("the plan is stopped")
    assert "not ticked" in lacks[1]
    assert lacks[2].startswith("not read after: hub to arch")
    assert sign(client, DONE, despite="   ")[0] == 422
    assert sign(client, DONE, despite="Owner had to catch the ferry")[0] == 200
    signed = view(client, DONE)["job"]["prove"]["sign_off"]
    assert (signed["missing"], signed["despite"]) == (lacks, "Owner had to catch the ferry")
    assert "although the plan is stopped" in view(client, DONE)["history"][-1]["what"]


@pytest.mark.parametrize(
    ("stage", "fields"),
    [
        ("brief", {"load": "other"}),
        ("plan", {"override": "so"}),
        ("measure", {"corners": []}),
        ("align", {"chosen": {}}),
    ],
)
def test_what_was_signed_for_stays_at_every_stage_until_it_is_withdrawn(
    client: TestClient, stage: str, fields: dict
) -> None:
    now = view(client, DONE)["job"][stage]
    if now | fields == now:
        fields = {"note": "another"} if "note" in now else {"default_tolerance_mm": 7.0}
    status, body = put(client, DONE, stage, **fields)
    assert (status, "withdraw the signature first" in body["sentence"]) == (422, True)
    assert view(client, DONE)["job"][stage] == now
    withdraw(client)
    assert put(client, DONE, stage, **fields)[0] == 200


def test_the_card_of_a_signed_job_stays_too(client: TestClient) -> None:
    act = {"id": "00000000-0000-4000-8000-000000000001", "do": "tick", "step": "ready.heights", "done": True}
    answer = client.post(f"/api/jobs/{DONE}/build/acts", json={"acts": [act]}, headers=WHO)
    assert (answer.status_code, "withdraw the signature" in answer.json()["sentence"]) == (422, True)


def test_a_signature_that_came_in_a_file_says_so_and_the_seal_tells_whether_it_still_fits(client: TestClient) -> None:
    withdraw(client)
    assert sign(client, DONE, despite="ticked on paper")[0] == 200
    assert view(client, DONE)["as_signed"] is True
    file = json.loads(client.get(f"/api/jobs/{DONE}/file").content)
    for id, purpose in (("copy", None), ("forged", "Something else altogether")):
        file["job"]["id"] = id
        if purpose:
            file["job"]["brief"]["purpose"] = purpose
        who = {"x-acting-person": "Bram%20Okkel"}
        assert client.post("/api/jobs/import", content=json.dumps(file), headers=who).status_code == 200
        found = view(client, id)
        signed = found["job"]["prove"]["sign_off"]
        assert (signed["by"], signed["brought_in_by"]) == ("Ines Tarrow", "Bram Okkel")
        assert found["as_signed"] is (purpose is None)
    assert view(client, JOB)["as_signed"] is None
