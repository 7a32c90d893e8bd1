"""Vehicles over HTTP: set up, fitted, drawn, saved, pasted, and made the subject of a job."""

import pytest
from fastapi.testclient import TestClient

from inclinum.core.car.archetypes import ARCHETYPES, SIZES
from inclinum.jobfile.points_csv import PointsError, read_points, write_points

WHO = {"x-acting-person": "Ines%20Tarrow"}
NEW = {"kind": "car", "name": "Tarsk Reed, eel catcher", "plate": "Q-0999", "owner": "Eel House",
       "chosen": {"size": "pick_up", "front": "strut_front", "rear": "leaf_axle"}}  # fmt: skip


def set_up(client: TestClient) -> tuple[int, dict]:
    made = client.post("/api/vehicles", json=NEW, headers=WHO)
    assert made.status_code == 200, made.text
    vehicle_id = made.json()["id"]
    return vehicle_id, client.get(f"/api/vehicles/{vehicle_id}").json()


def test_the_fleet_is_there_and_every_archetype_is_used_by_one(client: TestClient) -> None:
    listed = [v for v in client.get("/api/vehicles").json()["items"] if v["kind"] == "car"]
    assert len(listed) >= 9
    used = set()
    for row in listed:
        vehicle = client.get(f"/api/vehicles/{row['id']}").json()["vehicle"]
        used |= {vehicle["front"]["archetype"], vehicle["rear"]["archetype"]}
    assert ARCHETYPES.keys() <= used
    size, _, front, rear = client.get("/api/kinds").json()["car"]["choices"]
    assert {o["key"] for asked in (front, rear) for o in asked["options"]} == set(ARCHETYPES)
    assert {o["key"] for o in size["options"]} == set(SIZES)
    assert len(ARCHETYPES) >= 14


@pytest.mark.parametrize(
    ("wrong", "words"),
    [
        ({"kind": "sledge"}, "There is no kind of machine “sledge”; there are car, bike"),
        ({"chosen": {"size": "pick_up", "front": "strut_front"}}, "Rear suspension: “rear” is not chosen"),
        ({"chosen": NEW["chosen"] | {"front": "leaf_axel"}}, "There is no “leaf_axel”; there are"),
        ({"chosen": NEW["chosen"] | {"colour": "red"}}, "“colour” is nothing that is chosen for four wheels"),
    ],
)
def test_what_cannot_be_set_up_is_told(client: TestClient, wrong: dict, words: str) -> None:
    answer = client.post("/api/vehicles", json=NEW | wrong, headers=WHO)
    assert answer.status_code == 422
    assert words in answer.json()["sentence"]


def test_a_vehicle_is_set_up_measured_and_given_a_job(client: TestClient) -> None:
    vehicle_id, view = set_up(client)
    rear = view["vehicle"]["rear"]
    before = client.post("/api/bench", json=rear).json()
    row = next(r for r in before["fit"]["rows"] if r["key"] == "fixed_eye.seat")
    rear["tape"] = [{"key": "fixed_eye.seat", "length": client.post(
        "/api/entry", json={"text": f"{row['fitted'] + 20:.0f} ± 1"}).json()}]  # fmt: skip
    after = client.post("/api/bench", json=rear).json()
    fitted = next(r for r in after["fit"]["rows"] if r["key"] == "fixed_eye.seat")
    assert fitted["fitted"] == pytest.approx(row["fitted"] + 20, abs=0.6)
    assert after["fit"]["consequences"][0]["plus_minus"] < before["fit"]["consequences"][0]["plus_minus"]
    assert "fixed_eye.seat" not in {n["key"] for n in after["fit"]["next"]}

    vehicle = view["vehicle"] | {"rear": after["fit"]["axle"]}
    saved = client.put(f"/api/vehicles/{vehicle_id}", json={"version": 1, "vehicle": vehicle}, headers=WHO)
    assert saved.json()["version"] == 2
    stale = view["vehicle"] | {"plate": "Q-1000"}
    clash = client.put(f"/api/vehicles/{vehicle_id}", json={"version": 1, "vehicle": stale}, headers=WHO)
    assert clash.status_code == 409
    assert clash.json()["theirs"]["rear"]["tape"][0]["key"] == "fixed_eye.seat"
    assert "Nothing was overwritten" in clash.json()["sentence"]

    made = client.post("/api/jobs", json={"title": "Eels up", "vehicle_id": vehicle_id}, headers=WHO).json()
    job = client.get(f"/api/jobs/{made['id']}").json()["job"]
    assert job["vehicle"] == vehicle
    assert job["brief"]["owner"] == "Eel House"
    predicted = client.post("/api/predict", json=job)
    assert predicted.status_code == 200
    assert predicted.json()["rear"]["rise"] == pytest.approx(0, abs=1e-6)
    again = client.post("/api/vehicles", json=NEW, headers=WHO)
    assert again.status_code == 409
    assert "already a vehicle" in again.json()["sentence"]


def test_bad_geometry_comes_back_as_a_sentence_about_the_part(client: TestClient) -> None:
    _, view = set_up(client)
    front = view["vehicle"]["front"]
    front["prior"]["points"]["tie_outer"] = front["prior"]["points"]["tie_inner"]
    refused = client.post("/api/bench", json=front)
    assert refused.status_code == 422
    assert "ie_outer and tie_inner are the same point" in str(refused.json())
    _, view = client.get("/api/vehicles").json()["items"][0], client.get("/api/vehicles/1").json()
    rear = view["vehicle"]["rear"]
    rear["spring"] = {"type": "leaf_pack"}
    refused = client.post("/api/bench", json=rear)
    assert refused.status_code == 422
    assert refused.json()["complaints"][0]["path"].startswith("spring")


STRUT = ARCHETYPES["strut_front"].linkage(SIZES["car"])


def test_points_go_out_as_csv_and_come_back_the_same() -> None:
    text = write_points(STRUT)
    assert text.startswith("point,x_mm,y_mm,z_mm\nwheel_centre,0,")
    assert read_points(text, STRUT) == {n: pytest.approx(tuple(at)) for n, at in STRUT.named_points().items()}


def test_a_pasted_table_is_understood() -> None:
    pasted = "Lower ball joint\t9,5\t70,7 cm\t188\n\nstrut_top;-40;600;35 in\n"
    assert read_points(pasted, STRUT) == {"lower_outer": (9.5, 707.0, 188.0), "strut_top": (-40.0, 600.0, 889.0)}


def test_bad_rows_name_line_and_column() -> None:
    with pytest.raises(PointsError) as refused:
        read_points(
            "point,x,y,z\nlower_outer,9,7 parsec,188\nsprocket,1,2,3\ntie_inner,1,2\nstrut_top,9,600,32000", STRUT
        )
    prediction = {c.path: c.sentence for c in refused.value.complaints}
    assert "parsec" in prediction["line 2, column 3"]
    assert "no point of this suspension" in prediction["line 3, column 1"]
    assert "three coordinates" in prediction["line 4, column 4"]
    assert "32.0 m from the wheel: is the unit right?" in prediction["line 5, column 4"]
    with pytest.raises(PointsError, match="There is no point in this"):
        read_points("", STRUT)


def test_a_pasted_table_over_http(client: TestClient) -> None:
    _, view = set_up(client)
    front = view["vehicle"]["front"]
    taken = client.post("/api/points/read", json={"part": front, "text": "lower_outer, 9, 700, 210"})
    assert taken.status_code == 200
    assert taken.json()["linkage"]["points"]["lower_outer"] == [9, 700, 210]
    refused = client.post("/api/points/read", json={"part": front, "text": "lower_outer, 9, 700"})
    assert refused.status_code == 422
    assert refused.json()["complaints"][0]["path"] == "line 1, column 4"
    assert client.post("/api/points/write", json=front).text.startswith("point,")
