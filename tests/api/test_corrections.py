"""What is corrected on a vehicle reaches its open jobs when somebody says yes, and only then."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

JOB = "van-2026-washed-out-track"


def vehicle_of(client: TestClient, job: dict[str, Any]) -> dict[str, Any]:
    listed = client.get("/api/vehicles").json()["items"]
    found = next(v for v in listed if v["name"] == job["vehicle"]["name"] and v["plate"] == job["vehicle"]["plate"])
    return client.get(f"/api/vehicles/{found['id']}").json() | {"id": found["id"]}


@pytest.fixture(autouse=True)
def acting(client: TestClient) -> None:
    client.headers["x-acting-person"] = "Ines%20Tarrow"


@pytest.fixture
def corrected(client: TestClient) -> tuple[str, dict[str, Any]]:
    """The van's torque of its wheel bolts put right, a target too, and its springs changed."""
    job = client.get("/api/jobs/van-2026-washed-out-track").json()["job"]
    assert client.get(f"/api/jobs/{job['id']}/corrections").json() == []
    seen = vehicle_of(client, job)
    data = seen["vehicle"]
    data["front"]["fasteners"]["wheel"] |= {"torque_nm": 111, "source": "sheet of the maker, page 9"}
    data["front"]["targets"]["toe"] |= {"target_deg": 0.11}
    data["front"]["spring"]["rate_n_per_mm"] = 33.3
    saved = client.put(f"/api/vehicles/{seen['id']}", json={"version": seen["version"], "vehicle": data})
    assert saved.status_code == 200, saved.text
    return job["id"], job


def test_a_corrected_torque_is_offered_and_taken_over_alone(
    client: TestClient, corrected: tuple[str, dict[str, Any]]
) -> None:
    job_id, job = corrected
    offered = client.get(f"/api/jobs/{job_id}/corrections").json()
    assert [c["key"] for c in offered] == ["front.targets.toe", "front.fasteners.wheel"], "springs are the job's own"
    assert "→ 111" in offered[1]["what"]
    done = client.post(f"/api/jobs/{job_id}/corrections", json={"keys": ["front.fasteners.wheel"]})
    assert done.json() == {"taken": 1}
    view = client.get(f"/api/jobs/{job_id}").json()
    now, was = view["job"]["vehicle"]["front"], job["vehicle"]["front"]
    assert now["fasteners"]["wheel"]["torque_nm"] == 111
    assert now["targets"] == was["targets"]
    assert now["spring"] == was["spring"]
    assert "took over from the vehicle: front fasteners wheel" in view["history"][-1]["what"]
    card = client.get(f"/api/jobs/{job_id}/card").json()
    prediction = [
        f["torque_nm"] for s in card["steps"] for f in s["fasteners"] if f["key"] == "wheel" and s["axle"] == "front"
    ]
    assert set(prediction) == {111}
    assert [c["key"] for c in client.get(f"/api/jobs/{job_id}/corrections").json()] == ["front.targets.toe"]
    again = client.post(f"/api/jobs/{job_id}/corrections", json={"keys": ["front.fasteners.wheel"]})
    assert again.status_code == 422
    assert "stands otherwise by now" in again.json()["sentence"]


def test_what_was_signed_off_stays_as_it_was(client: TestClient) -> None:
    done = next(j for j in client.get("/api/jobs").json()["items"] if j["signed_off"] and j["kind"] == "car")
    job = client.get(f"/api/jobs/{done['id']}").json()["job"]
    seen = vehicle_of(client, job)
    data = seen["vehicle"] | {"driver_assist": "A camera that looks for the road edge: have it set again."}
    client.put(f"/api/vehicles/{seen['id']}", json={"version": seen["version"], "vehicle": data})
    assert client.get(f"/api/jobs/{done['id']}/corrections").json() == []
    refused = client.post(f"/api/jobs/{done['id']}/corrections", json={"keys": ["driver_assist"]})
    assert "signed off" in refused.json()["sentence"]
    assert client.get("/api/jobs/none-such/corrections").status_code == 404


def test_a_two_wheelers_bolts_reach_the_job_and_the_machine_as_found(client: TestClient) -> None:
    job = client.get("/api/jobs/whin-2026-lower").json()
    measure = job["job"]["measure"] | {"machine": job["job"]["vehicle"]}
    body = {"kind": "bike", "version": job["versions"]["measure"], "section": measure}
    assert client.put("/api/jobs/whin-2026-lower/measure", json=body).status_code == 200
    seen = vehicle_of(client, job["job"])
    data = seen["vehicle"]
    data["fasteners"]["rod_bolts"] |= {"torque_nm": 61, "source": "sheet of the maker, page 3"}
    saved = client.put(f"/api/vehicles/{seen['id']}", json={"version": seen["version"], "vehicle": data})
    assert saved.status_code == 200, saved.text
    offered = client.get("/api/jobs/whin-2026-lower/corrections").json()
    assert [c["key"] for c in offered] == ["fasteners.rod_bolts"]
    client.post("/api/jobs/whin-2026-lower/corrections", json={"keys": ["fasteners.rod_bolts"]})
    now = client.get("/api/jobs/whin-2026-lower").json()["job"]
    for where in (now["vehicle"], now["measure"]["machine"]):
        assert where["fasteners"]["rod_bolts"]["torque_nm"] == 61


def test_figures_put_right_in_a_job_reach_the_shops_vehicle_and_nothing_else_does(client: TestClient) -> None:
    """A hose and a gap typed in the job: in its prediction at once, on the vehicle for the next job, in the history."""
    job = client.get(f"/api/jobs/{JOB}").json()["job"]
    vehicle = job["vehicle"]
    hose = {"name": "brake hose", "body": [60, 450, 600], "wheel": [40, 640, 380], "length_mm": 120}
    vehicle["front"]["lines"] = [hose]
    vehicle["cg_height_mm"] = 710
    at = f"/api/jobs/{JOB}/figures"
    assert client.post(at, json={"vehicle": vehicle}).json() == {"taken": 2}
    now = client.get(f"/api/jobs/{JOB}").json()
    assert [line["name"] for line in now["job"]["vehicle"]["front"]["lines"]] == ["brake hose"]
    found = client.post("/api/predict", json=now["job"]).json()["findings"]
    assert any(f["id"] == "line.front.0" for f in found)
    assert now["history"][-1]["what"].startswith("put right on the vehicle: ")
    # The shop's vehicle has them as well, so that nothing is offered back.
    assert client.get(f"/api/jobs/{JOB}/corrections").json() == []
    assert client.post(at, json={"vehicle": now["job"]["vehicle"]}).json() == {"taken": 0}
    moved = now["job"]["vehicle"]
    moved["front"]["hub_to_arch_mm"] += 5
    refused = client.post(at, json={"vehicle": moved})
    assert refused.status_code == 422
    assert "Only figures" in refused.json()["sentence"]
    gone = client.post("/api/jobs/nowhere/figures", json={"vehicle": vehicle})
    assert gone.status_code == 404


def test_a_figure_somebody_else_put_right_on_the_vehicle_stays_theirs(client: TestClient) -> None:
    job = client.get(f"/api/jobs/{JOB}").json()["job"]
    shop = vehicle_of(client, job)
    number = shop["id"]
    theirs = shop["vehicle"] | {"cg_height_mm": 650}
    saved = client.put(f"/api/vehicles/{number}", json={"version": shop["version"], "vehicle": theirs})
    assert saved.status_code == 200
    mine = job["vehicle"] | {"cg_height_mm": 700}
    assert client.post(f"/api/jobs/{JOB}/figures", json={"vehicle": mine}).json() == {"taken": 1}
    assert client.get(f"/api/vehicles/{number}").json()["vehicle"]["cg_height_mm"] == 650
    assert client.get(f"/api/jobs/{JOB}").json()["job"]["vehicle"]["cg_height_mm"] == 700
