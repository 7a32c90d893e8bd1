"""Two wheels over HTTP: set up, measured, planned, built, proved, copied out and brought in; refused in sentences."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.job import BikeJob
from inclinum.core.bike.prediction import predict_bike
from inclinum.jobfile import BikeFile, read_job, write

WHO = {"x-acting-person": "Ines%20Tarrow"}
AT = "/api/jobs"


def opened(client: TestClient, archetype: str = "linkage_frame") -> str:
    new = {"kind": "bike", "name": "Skerra Sedge, trail bike", "plate": "Q-M100", "owner": "Eel House"}
    bike = client.post("/api/vehicles", json=new | {"chosen": {"archetype": archetype}}, headers=WHO)
    assert bike.status_code == 200, bike.text
    job = client.post(AT, json={"title": "Sedge: lower", "vehicle_id": bike.json()["id"]}, headers=WHO)
    assert client.get(f"{AT}/{job.json()['id']}").json()["kind"] == "bike"
    return job.json()["id"]


def saved(client: TestClient, job_id: str, stage: str, **fields: Any) -> dict[str, Any]:
    view = client.get(f"{AT}/{job_id}").json()
    body = {"kind": "bike", "version": view["versions"][stage], "section": view["job"][stage] | fields}
    answer = client.put(f"{AT}/{job_id}/{stage}", json=body, headers=WHO)
    assert answer.status_code == 200, answer.text
    return client.get(f"{AT}/{job_id}").json()


def test_every_archetype_is_on_the_island_and_five_jobs_at_five_stages(client: TestClient) -> None:
    bikes = [v for v in client.get("/api/vehicles").json()["items"] if v["kind"] == "bike"]
    assert len(bikes) == len(BIKES)
    jobs = [j for j in client.get("/api/jobs").json()["items"] if j["kind"] == "bike"]
    assert len(jobs) == 5
    stages = {j["stage"] if not j["signed_off"] else "signed" for j in jobs}
    assert stages == {"measure", "plan", "align", "build", "signed"}
    (asked,) = client.get("/api/kinds").json()["bike"]["choices"]
    assert {o["key"] for o in asked["options"]} == set(BIKES)


def test_a_job_from_set_up_to_sign_off(client: TestClient) -> None:
    job_id = opened(client)
    view = client.get(f"{AT}/{job_id}").json()
    assert view["job"]["brief"]["shelf"], "the yard's shelf comes along from its last job"
    rider = {"name": "Tove", "mass": "66", "x_mm": 560}
    saved(client, job_id, "brief", rear_drop="18", rides=[rider], inseam_mm=770)
    view = saved(
        client, job_id, "measure",
        tape=[{"key": "damper.stroke", "reading": "82"}],
        sags=[{"end": "rear", "state": s, "reading": r} for s, r in (("extended", "600"), ("laden", "540"))],
    )  # fmt: skip
    job = view["job"]
    begun = client.post("/api/changes/begin", json={"job": job, "type": "rear_link"}).json()
    assert begun["change"]["type"] == "rear_link"
    begun["change"]["rod_mm"] += 6
    view = saved(client, job_id, "plan", changes=[begun])
    outcome = client.post("/api/predict", json=view["job"]).json()
    assert outcome["rear_drop_mm"] == pytest.approx(predict_bike(BikeJob.model_validate(view["job"])).rear_drop_mm)
    assert outcome["rear_drop_mm"] > 8
    cure = client.post("/api/sag", json={"job": view["job"], "end": "rear", "sag_mm": 60}).json()
    assert [c["change"]["type"] for c in cure["changes"]] == ["rear_link", "rear_preload"]

    card = client.get(f"/api/jobs/{job_id}/card").json()
    step = card["steps"][0]["id"]
    version = view["versions"]["build"]
    body = {"version": version, "step": step, "done": True}
    tick = client.post(f"/api/jobs/{job_id}/build/tick", json=body, headers=WHO)
    assert tick.status_code == 200, tick.text
    torque = {
        "version": tick.json()["version"],
        "fastener": "rod_bolts",
        "axle": "rear",
        "side": "left",
        "torque": "55",
    }
    assert client.post(f"/api/jobs/{job_id}/build/torque", json=torque, headers=WHO).status_code == 200
    assert client.get(f"/api/jobs/{job_id}/card.pdf").content.startswith(b"%PDF")

    early = client.post(f"/api/jobs/{job_id}/sign-off", json={"version": view["versions"]["prove"]}, headers=WHO)
    assert early.status_code == 422
    assert "enter the sags" in early.json()["sentence"]
    after = {"sags": [{"end": "rear", "state": s, "reading": r} for s, r in (("extended", "588"), ("laden", "530"))]}
    view = saved(client, job_id, "prove", after=after)
    assert client.post("/api/prove", json=view["job"]).json()["sags"][0]["after"] == 58
    body = {"version": view["versions"]["prove"]}
    asked = client.post(f"/api/jobs/{job_id}/sign-off", json=body, headers=WHO)
    assert f"of {len(card['steps'])} steps of the card are not ticked" in asked.json()["sentence"]
    done = client.post(f"/api/jobs/{job_id}/sign-off", json=body | {"despite": "ticked on paper"}, headers=WHO)
    assert done.status_code == 200
    view = client.get(f"{AT}/{job_id}").json()
    assert view["job"]["prove"]["sign_off"]["by"] == "Ines Tarrow"
    assert any("ticks" in h["what"] or "ready.sag" in h["what"] for h in view["history"])


def test_two_hands_get_both_values(client: TestClient) -> None:
    job_id = opened(client)
    view = client.get(f"{AT}/{job_id}").json()
    body = {"kind": "bike", "version": view["versions"]["plan"], "section": view["job"]["plan"] | {"override": "one"}}
    assert client.put(f"{AT}/{job_id}/plan", json=body, headers=WHO).status_code == 200
    body["section"]["override"] = "two"
    clash = client.put(f"{AT}/{job_id}/plan", json=body, headers=WHO)
    assert clash.status_code == 409
    assert clash.json()["theirs"]["override"] == "one"


def test_the_machine_as_found_is_the_next_jobs_machine(client: TestClient) -> None:
    job_id = opened(client)
    view = client.get(f"{AT}/{job_id}").json()
    machine = view["job"]["vehicle"]
    machine["spring"]["rate_n_per_mm"] = 91
    saved(client, job_id, "measure", machine=machine)
    bike = next(v for v in client.get("/api/vehicles").json()["items"] if v["name"].startswith("Skerra Sedge"))
    again = client.post(AT, json={"title": "Sedge again", "vehicle_id": bike["id"]}, headers=WHO).json()["id"]
    assert client.get(f"{AT}/{again}").json()["job"]["vehicle"]["spring"]["rate_n_per_mm"] == 91


def test_a_machine_on_its_bench(client: TestClient) -> None:
    listed = next(v for v in client.get("/api/vehicles").json()["items"] if v["name"].startswith("Skerra Whin"))
    at = f"/api/vehicles/{listed['id']}"
    held = client.get(at).json()
    bike = held["vehicle"]
    view = client.post("/api/bench", json=bike).json()
    assert len(view["poses"]) == len(view["travel"]) == len(view["curves"][0]["values"])

    # Points pasted, read back as a table, and saved; a clash gives both values, and a job's finding is one too.
    taken = client.post("/api/points/read", json={"part": bike, "text": "pivot; 553; 405"}).json()
    assert taken["rear"]["pivot"] == [553, 405]
    assert "pivot,553,405" in client.post("/api/points/write", json=taken).text
    bad = client.post("/api/points/read", json={"part": bike, "text": "pivot; 553; four"})
    assert (bad.status_code, bad.json()["complaints"][0]["path"]) == (422, "line 1, column 3")
    saving = {"version": held["version"], "vehicle": taken}
    assert client.put(at, json=saving, headers=WHO).json()["version"] == held["version"] + 1
    clash = client.put(at, json=saving | {"vehicle": bike}, headers=WHO)
    assert clash.status_code == 409
    assert clash.json()["theirs"]["rear"]["pivot"] == [553, 405]
    read = taken | {"tape": [{"key": "axle.pivot", "reading": "556"}]}
    assert client.put(at, json={"version": held["version"] + 1, "vehicle": read}, headers=WHO).status_code == 200
    assert next(v for v in client.get("/api/vehicles").json()["items"] if v["id"] == listed["id"])["measured"] == 1

    job = client.post(AT, json={"title": "Whin again", "vehicle_id": listed["id"]}, headers=WHO).json()["id"]
    assert client.get(f"{AT}/{job}").json()["job"]["vehicle"]["tape"][0]["key"] == "axle.pivot"
    saved(client, job, "measure", machine=read | {"preload_mm": 9})
    assert client.get(at).json()["vehicle"]["preload_mm"] == 9
    assert client.put(at, json={"version": held["version"] + 2, "vehicle": bike}, headers=WHO).status_code == 409


def test_a_kind_is_saved_as_its_own(client: TestClient) -> None:
    ids = {v["kind"]: v["id"] for v in client.get("/api/vehicles").json()["items"]}
    seen = client.get(f"/api/vehicles/{ids['bike']}").json()
    assert seen["kind"] == "bike"
    body = {"version": 1, "vehicle": seen["vehicle"]}
    wrong = client.put(f"/api/vehicles/{ids['car']}", json=body, headers=WHO)
    assert (wrong.status_code, "another kind of machine" in wrong.json()["sentence"]) == (404, True)
    job_id = opened(client)
    brief = client.get(f"{AT}/{job_id}").json()["job"]["brief"]
    outcome = client.put(f"{AT}/{job_id}/brief", json={"kind": "car", "version": 1, "section": brief}, headers=WHO)
    assert outcome.status_code == 422, "told as a brief of a car, it lacks what such a brief has"
    assert {c["path"] for c in outcome.json()["complaints"]} >= {"section.front", "section.rear"}
    plan = {"kind": "car", "version": 1, "section": {"changes": [], "override": "mine"}}
    answer = client.put(f"{AT}/{job_id}/plan", json=plan, headers=WHO)
    assert (answer.status_code, "on two wheels" in answer.json()["sentence"]) == (404, True)
    unknown = client.put(f"{AT}/{job_id}/plan", json=plan | {"kind": "sledge"}, headers=WHO)
    assert (unknown.status_code, unknown.json()["complaints"][0]["path"]) == (422, "kind")


def test_ways_to_a_height_are_plans_that_give_it(client: TestClient) -> None:
    """Each way, put on the plan and saved, gives by the prediction what it says, and leads nearer than the plan did."""
    job_id = opened(client)
    rider = {"name": "Tove", "mass": "66", "x_mm": 560}
    job = saved(client, job_id, "brief", rides=[rider])["job"]
    for axle, rise in (("rear", -12.0), ("rear", 6.0), ("front", -9.0)):
        ways = client.post("/api/ways", json={"job": job, "axle": axle, "rise": rise}).json()
        assert len(ways) >= 2, axle
        for way in ways:
            outcome = client.post("/api/predict", json=job | {"plan": job["plan"] | {"changes": way["changes"]}}).json()
            assert -outcome[f"{axle}_drop_mm"] == pytest.approx(way["rise"], abs=1e-6), way["title"]
            missed, last = abs(way["rise"] - rise), way["changes"][-1]
            if last["change"]["type"] == "rear_damper":
                # Sold in whole millimetres, of each of which the rear end makes more: neither neighbour is nearer.
                for by in (-1, 1):
                    change = last["change"] | {"extended_mm": last["change"]["extended_mm"] + by}
                    beside = job["plan"] | {"changes": [*way["changes"][:-1], last | {"change": change}]}
                    drop = client.post("/api/predict", json=job | {"plan": beside}).json()[f"{axle}_drop_mm"]
                    assert missed <= abs(-drop - rise)
            else:
                assert missed < 0.75, "sold in steps, and none nearer"
            assert way["stops"] == sum(f["severity"] == "stops" for f in outcome["findings"])
    assert client.post("/api/ways", json={"job": job, "axle": "rear", "rise": 900}).json() == []


def test_outcomes_of_a_two_wheeler_stand_beside_each_other(client: TestClient) -> None:
    done = next(j for j in client.get("/api/jobs").json()["items"] if j["kind"] == "bike" and j["signed_off"])
    (outcome,) = client.get(f"/api/jobs/{done['id']}/outcomes").json()
    job = client.get(f"{AT}/{done['id']}").json()["job"]
    prediction = client.post("/api/predict", json=job).json()
    assert outcome["predicted"] == {
        "front": pytest.approx(-prediction["front_drop_mm"]), "rear": pytest.approx(-prediction["rear_drop_mm"])
    }  # fmt: skip
    proof = client.post("/api/prove", json=job).json()
    if proof["rear_drop"]:
        assert outcome["measured"]["rear"] - outcome["predicted"]["rear"] == pytest.approx(
            -proof["rear_drop"]["residual"]
        )


@pytest.mark.parametrize(
    ("name", "place", "words"),
    [
        ("pivot", [0, 318], "ivot and axle are the same point"),
        ("damper_rocker", [430, 256], "ocker pivot"),
        ("damper_frame", [-900, 512], "between its eyes the linkage only goes from"),
        ("damper_frame", [290, -60], "wrong side"),
        ("rod_arm", [2900, 335], ""),
    ],
)
def test_a_point_that_cannot_be_is_told_by_its_name(client: TestClient, name: str, place: Any, words: str) -> None:
    bike = BIKES["linkage_frame"].bike("x").model_dump(mode="json")
    bike["rear"][name] = place
    answer = client.post("/api/bench", json=bike)
    assert answer.status_code == 422 or not words, answer.text[:200]
    assert words in answer.text
    assert "NaN" not in answer.text
    assert "Traceback" not in answer.text


def test_out_and_in_is_the_same(client: TestClient) -> None:
    text = client.get("/api/jobs/whin-2026-lower/file").text
    file = read_job(text)
    assert isinstance(file, BikeFile)
    assert write(file) == text
    client.delete("/api/jobs/whin-2026-lower", headers=WHO)
    back = client.post("/api/jobs/import", content=text, headers=WHO)
    assert back.json() == {"id": "whin-2026-lower"}
    assert client.get("/api/jobs/whin-2026-lower/file").text == text


def _broken(job: dict[str, Any], path: str, value: Any) -> dict[str, Any]:
    *parents, last = path.split(".")
    at: Any = job
    for key in parents:
        at = at[key]
    at[last] = value
    return job


@pytest.mark.parametrize(
    ("path", "value", "words"),
    [
        ("vehicle.rear.pivot", [0, 318], "ivot and axle are the same point"),
        ("vehicle.rear.rod_rocker", [355, 335], "same point"),
        ("vehicle.damper.extended_mm", 690, "between its eyes the linkage only goes from"),
        ("vehicle.spring.stroke_mm", 250, "would have no coils"),
        ("vehicle.damper.stroke_mm", 0.3, "out of range"),
        ("vehicle.wheelbase_mm", 3200, "Is the unit right?"),
        ("vehicle.fork.springs.left.free_length_mm", "abc", "is not a number"),
        ("vehicle.rake_deg", None, ""),
        ("brief.rides", [{"name": "r", "mass": "80 stone", "x_mm": 0}], "“stone” is no unit"),
        ("measure.tape", [{"key": "nowhere", "reading": "10"}], "no place"),
        ("plan.changes", [{"id": "c1", "change": {"type": "rear_link", "hole_mm": 40, "rod_mm": 480}}], "Take a rod"),
        ("plan.changes", [{"id": "c1", "change": {"type": "clevis", "out_mm": 3}}], "no clevis"),
        ("plan.changes", [{"id": "c1", "change": {"type": "rocket"}}], "not known here"),
    ],
)  # fmt: skip
def test_bad_input_is_a_sentence_with_the_part(client: TestClient, path: str, value: Any, words: str) -> None:
    job = client.get(f"{AT}/whin-2026-lower").json()["job"]
    answer = client.post("/api/predict", json=_broken(job, path, value))
    assert answer.status_code == 422, answer.text[:300]
    assert words in answer.text, answer.text[:400]
    assert "Traceback" not in answer.text


def test_the_machine_is_drawn_in_the_conditions_that_are_looked_at(client: TestClient) -> None:
    job = client.get("/api/jobs/whin-2026-lower").json()["job"]
    everything = client.post("/api/predict", json=job).json()
    assert list(everything["drawing"]["planned"]) == ["extended", "unladen", "laden", "full"]
    one = client.post("/api/predict?conditions=full", json=job).json()
    assert one["drawing"]["planned"] == {"full": everything["drawing"]["planned"]["full"]}
    assert one | {"drawing": None} == everything | {"drawing": None}, "nothing but the drawing hangs on it"
    for address, wants in (("?conditions=flying", "flying"), ("?condition=full", "condition")):
        refused = client.post(f"/api/predict{address}", json=job)
        assert refused.status_code == 422
        assert wants in refused.text
    car = client.get("/api/jobs/van-2026-washed-out-track").json()["job"]
    refused = client.post("/api/predict?conditions=laden", json=car)
    assert refused.status_code == 422
    assert "drawn as they stand" in refused.json()["sentence"]


def test_while_something_is_held_only_the_ways_to_a_height_are_left_out(client: TestClient) -> None:
    job, missed = {}, 0
    for row in client.get("/api/jobs?limit=100").json()["items"]:
        job = client.get(f"/api/jobs/{row['id']}").json()["job"]
        whole = client.post("/api/predict", json=job).json()
        if "findings" not in whole:
            continue
        answer = client.post("/api/predict?ways=false", json=job)
        assert answer.status_code == 200, answer.text[:300]
        held = answer.json()
        for sought, left in zip(whole["findings"], held["findings"], strict=True):
            assert sought.pop("ways_sought") is True
            if not left.pop("ways_sought"):
                missed += 1
                left["cures"] = sought["cures"][: len(left["cures"])]
                sought["cures"] = left["cures"]
        assert held == whole, row["title"]
    assert missed > 3
    for address, words in (("ways=perhaps", "'perhaps' is neither yes nor no"), ("ways=false&ways=true", "neither")):
        refused = client.post(f"/api/predict?{address}", json=job)
        assert refused.status_code == 422
        assert words in refused.json()["sentence"], refused.text
