"""The API: thin, strict, in sentences."""

from concurrent.futures import ThreadPoolExecutor

import pytest
from fastapi.testclient import TestClient

from inclinum.core.car.card import card
from inclinum.core.car.job import Job
from inclinum.core.car.prediction import predict
from tests.api import JOB, WHO
from tests.core.test_prediction import unbearable


def test_predict_is_the_cores_own(client: TestClient, in_hand: Job) -> None:
    answer = client.post("/api/predict", json=in_hand.model_dump(mode="json")).json()
    assert answer["rear"]["rise"] == pytest.approx(predict(in_hand).rear.rise)


def test_bad_bodies_get_a_path_and_a_sentence(client: TestClient, in_hand: Job) -> None:
    document = in_hand.model_dump(mode="json")
    document["vehicle"]["rear"]["spring"]["rate_n_per_mm"] = -1
    answer = client.post("/api/predict", json=document)
    assert answer.status_code == 422
    assert answer.json()["complaints"][0]["path"] == "vehicle.rear.spring.rate_n_per_mm"
    answer = client.post("/api/predict", json=unbearable(in_hand).model_dump(mode="json"))
    assert answer.status_code == 422
    assert "finds no ride height" in answer.json()["sentence"]


def test_entries_are_read_and_refused(client: TestClient) -> None:
    good = client.post("/api/entry", json={"text": "15 5/8", "quantity": "hub_to_arch"}).json()
    assert good["value"] == pytest.approx(396.875)
    bad = client.post("/api/entry", json={"text": "3.2 m", "quantity": "hub_to_arch"})
    assert bad.status_code == 422
    assert "Is the unit right?" in bad.json()["sentence"]


def test_nobody_and_strangers_save_nothing(client: TestClient, in_hand: Job) -> None:
    body = {"kind": "car", "version": 1, "section": in_hand.plan.model_dump(mode="json")}
    assert "Nobody is picked" in client.put(f"/api/jobs/{JOB}/plan", json=body).json()["sentence"]
    stranger = client.put(f"/api/jobs/{JOB}/plan", json=body, headers={"x-acting-person": "Nemo"})
    assert stranger.status_code == 400
    assert client.get(f"/api/jobs/{JOB}").json()["versions"]["plan"] == 1


def test_of_many_writers_one_saves_and_all_others_see_what(client: TestClient, in_hand: Job) -> None:
    def save(n: int) -> tuple[int, dict]:
        section = in_hand.brief.model_dump(mode="json") | {"purpose": f"writer {n}"}
        answer = client.put(
            f"/api/jobs/{JOB}/brief", json={"kind": "car", "version": 1, "section": section}, headers=WHO
        )
        return answer.status_code, answer.json()

    with ThreadPoolExecutor(8) as pool:
        answers = list(pool.map(save, range(8)))
    assert sorted(status for status, _ in answers) == [200] + [409] * 7
    kept = client.get(f"/api/jobs/{JOB}").json()
    assert kept["versions"]["brief"] == 2
    assert {body["theirs"]["purpose"] for status, body in answers if status == 409} == {kept["job"]["brief"]["purpose"]}


def test_a_stopped_plan_cannot_be_built_without_its_override(client: TestClient) -> None:
    plan = client.get(f"/api/jobs/{JOB}").json()["job"]["plan"]
    plan["changes"].append(
        {"id": "top", "on": True, "change": {"type": "strut_top_spacer", "axle": "front", "thickness_mm": 18}}
    )
    assert (
        client.put(
            f"/api/jobs/{JOB}/plan", json={"kind": "car", "version": 1, "section": plan}, headers=WHO
        ).status_code
        == 200
    )
    tick = {"version": 1, "step": "ready.heights", "done": True}
    refused = client.post(f"/api/jobs/{JOB}/build/tick", json=tick, headers=WHO)
    assert refused.status_code == 422
    assert "strut-top nuts do not get full thread" in refused.json()["sentence"]
    plan["override"] = "Nut measured by the inspector, sheet 9"
    client.put(f"/api/jobs/{JOB}/plan", json={"kind": "car", "version": 2, "section": plan}, headers=WHO)
    assert client.post(f"/api/jobs/{JOB}/build/tick", json=tick, headers=WHO).json() == {"version": 2}


def test_ticks_and_torques_carry_who_and_when(client: TestClient, in_hand: Job) -> None:
    step = next(s for s in card(in_hand).steps if s.fasteners and s.axle and s.side)
    client.post(f"/api/jobs/{JOB}/build/tick", json={"version": 1, "step": step.id, "done": True}, headers=WHO)
    torque = {
        "version": 2,
        "fastener": step.fasteners[0].key,
        "axle": step.axle,
        "side": step.side,
        "torque": "66 lbf·ft",
    }
    assert client.post(f"/api/jobs/{JOB}/build/torque", json=torque, headers=WHO).status_code == 200
    build = client.get(f"/api/jobs/{JOB}").json()["job"]["build"]
    assert build["ticks"][0]["by"] == "Ines Tarrow"
    assert build["torques"][0]["torque"]["text"] == "66 lbf·ft"
    assert build["torques"][0]["torque"]["value"] == pytest.approx(89.484, abs=0.001)
    twice = client.post(f"/api/jobs/{JOB}/build/torque", json=torque | {"version": 3, "torque": "90 ± 4"}, headers=WHO)
    assert twice.status_code == 422
    assert "leave the ± out" in twice.json()["sentence"]
    gone = client.post(f"/api/jobs/{JOB}/build/tick", json={"version": 3, "step": "no.such", "done": True}, headers=WHO)
    assert "no longer on the card" in gone.json()["sentence"]


def test_signing_off_needs_a_tape(client: TestClient) -> None:
    refused = client.post(f"/api/jobs/{JOB}/sign-off", json={"version": 1}, headers=WHO)
    assert refused.status_code == 422
    assert "Nothing was measured" in refused.json()["sentence"]


def test_export_delete_import_is_identical(client: TestClient) -> None:
    before = client.get(f"/api/jobs/{JOB}/file").text
    assert client.delete(f"/api/jobs/{JOB}", headers=WHO).status_code == 204
    assert client.get(f"/api/jobs/{JOB}").status_code == 404
    assert client.post("/api/jobs/import", content=before, headers=WHO).json() == {"id": JOB}
    assert client.get(f"/api/jobs/{JOB}/file").text == before


def test_a_bad_file_leaves_nothing_behind(client: TestClient) -> None:
    before = {j["id"] for j in client.get("/api/jobs").json()["items"]}
    text = client.get(f"/api/jobs/{JOB}/file").text.replace(JOB, "another-job").replace('"seat_spacer"', '"magic"')
    answer = client.post("/api/jobs/import", content=text, headers=WHO)
    assert answer.status_code == 422
    assert answer.json()["complaints"][0]["path"].startswith("job.plan.changes[1]")
    assert {j["id"] for j in client.get("/api/jobs").json()["items"]} == before
    huge = client.post("/api/jobs/import", content=" " * 9_000_000, headers=WHO)
    assert huge.status_code == 413


def test_a_new_job_brings_vehicle_and_limits_along(client: TestClient) -> None:
    van = next(v["id"] for v in client.get("/api/vehicles").json()["items"] if v["plate"] == "Q-0417")
    wanted = {"title": "Taller for the quarry", "vehicle_id": van}
    assert client.post("/api/jobs", json=wanted, headers=WHO).json() == {"id": "taller-for-the-quarry"}
    assert client.post("/api/jobs", json=wanted, headers=WHO).json() == {"id": "taller-for-the-quarry-2"}
    job = client.get("/api/jobs/taller-for-the-quarry").json()["job"]
    assert job["vehicle"]["plate"] == "Q-0417"
    assert len(job["brief"]["local_limits"]) == 3


def test_sheets_are_pdfs_and_unknown_addresses_are_told(client: TestClient) -> None:
    assert client.get(f"/api/jobs/{JOB}/card.pdf").content.startswith(b"%PDF")
    sheet = client.get(f"/api/jobs/{JOB}/alignment.pdf")
    assert sheet.content.startswith(b"%PDF")
    outcomes = client.get(f"/api/jobs/{JOB}/outcomes").json()
    assert outcomes[0]["measured"] == {"front": -0.5, "rear": 16.5}


def test_an_end_is_seen_and_what_can_be_chosen_is_drawn(client: TestClient) -> None:
    job = client.get(f"/api/jobs/{JOB}").json()["job"]
    seen = client.post("/api/seen", json={"job": job, "axle": "rear", "view": "above"})
    assert seen.status_code == 200
    frames = seen.json()["frames"]
    assert len(frames) == len(seen.json()["travel"])
    assert {s["role"] for s in frames[0]} >= {"tyre", "damper_body"}
    planned, found = (
        client.post("/api/seen", json={"job": job, "axle": "front", "view": "side", "whose": w}).json()
        for w in ("planned", "found")
    )
    assert planned["frames"][planned["at_ride"]] != found["frames"][found["at_ride"]]
    assert planned["ghost"] == found["frames"][found["at_ride"]], "the other one is the ghost"
    pictures = client.post("/api/pictures", json={"kind": "car", "choice": "front"}).json()
    assert {"strut_front", "leaf_axle_front"} <= set(pictures)
    assert client.post("/api/pictures", json={"kind": "car", "choice": "size"}).json() == {}
    refused = client.post("/api/pictures", json={"kind": "sledge", "choice": "front"})
    assert refused.status_code == 422
    assert "There is no kind of machine “sledge”" in refused.json()["sentence"]
    bike = client.get("/api/jobs/whin-2026-lower").json()["job"]
    refused = client.post("/api/seen", json={"job": bike, "axle": "rear", "view": "behind"})
    assert refused.status_code == 422
    assert "from its side" in refused.json()["sentence"]


def test_a_step_that_stops_work_is_ticked_only_once_somebody_says_that_it_is_so(
    client: TestClient, in_hand: Job
) -> None:
    step = next(s for s in card(in_hand).steps if s.hold and s.id.endswith("spring_on_unit.off"))
    body: dict[str, object] = {"version": 1, "step": step.id, "done": True}
    refused = client.post(f"/api/jobs/{JOB}/build/tick", json=body, headers=WHO)
    assert refused.status_code == 422
    assert step.hold in refused.json()["sentence"]
    passed = client.post(f"/api/jobs/{JOB}/build/tick", json=body | {"despite": "spring was out already"}, headers=WHO)
    assert passed.json() == {"version": 2}
    ticks = client.get(f"/api/jobs/{JOB}").json()["job"]["build"]["ticks"]
    assert [(t["step"], t["despite"]) for t in ticks] == [(step.id, "spring was out already")]
    undone = body | {"version": 2, "done": False}
    assert client.post(f"/api/jobs/{JOB}/build/tick", json=undone, headers=WHO).json() == {"version": 3}
    said = body | {"version": 3, "held": True, "despite": "not needed"}
    assert client.post(f"/api/jobs/{JOB}/build/tick", json=said, headers=WHO).json() == {"version": 4}
    ticks = client.get(f"/api/jobs/{JOB}").json()["job"]["build"]["ticks"]
    assert [(t["step"], t["despite"]) for t in ticks] == [(step.id, "")], "it was so: nothing was passed over"
