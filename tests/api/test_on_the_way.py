"""Found on the way, photographs, settings and times, over HTTP."""

import hashlib
import io

import pytest
from fastapi.testclient import TestClient
from PIL import Image
from sqlalchemy import Engine, text

from inclinum.core.car.card import card
from inclinum.core.car.job import Job
from inclinum.photo import LONGEST_PX
from tests.api import JOB, WHO


def picture(kind: str = "JPEG", size: tuple[int, int] = (60, 40), **more: object) -> bytes:
    made = Image.new("RGB", size, "grey")
    made.putpixel((0, 0), (250, 10, 10))
    out = io.BytesIO()
    made.save(out, kind, **more)
    return out.getvalue()


def turned_with_place() -> bytes:
    """A photograph held upright: lying in its file, with place, time and device beside it."""
    exif = Image.Exif()
    exif[0x0112] = 6  # turn it a quarter clockwise to look at it
    exif[0x010F], exif[0x0132] = "Phone of somebody", "2026:05:04 09:00:00"
    exif.get_ifd(0x8825).update({1: "N", 2: (51.0, 30.0, 0.0)})
    return picture(size=(3000, 1000), exif=exif)


def keep(client: TestClient, data: bytes) -> dict:
    answer = client.post("/api/photos", content=data, headers=WHO | {"content-type": "image/jpeg"})
    assert answer.status_code == 200, answer.text
    return answer.json()


def test_a_photograph_is_kept_upright_smaller_and_without_what_stood_beside_it(client: TestClient) -> None:
    kept = keep(client, turned_with_place())
    assert (kept["width"], kept["height"]) == (round(LONGEST_PX / 3), LONGEST_PX)
    shown = client.get(f"/api/photos/{kept['id']}")
    assert shown.headers["content-type"] == "image/jpeg"
    assert hashlib.sha256(shown.content).hexdigest() == kept["id"]
    with Image.open(io.BytesIO(shown.content)) as found:
        assert found.size == (kept["width"], kept["height"])
        assert not dict(found.getexif())
    assert b"Phone of somebody" not in shown.content
    assert keep(client, turned_with_place()) == kept, "the same picture is kept once"


@pytest.mark.parametrize("kind", ["PNG", "WEBP", "JPEG"])
def test_pictures_of_every_kind_a_phone_makes(client: TestClient, kind: str) -> None:
    assert keep(client, picture(kind))["width"] == 60


def test_what_is_see_through_stands_on_white(client: TestClient) -> None:
    out = io.BytesIO()
    Image.new("RGBA", (30, 30), (0, 0, 0, 0)).save(out, "PNG")
    shown = client.get(f"/api/photos/{keep(client, out.getvalue())['id']}").content
    with Image.open(io.BytesIO(shown)) as found:
        assert found.getpixel((15, 15)) == (255, 255, 255)


@pytest.mark.parametrize(
    ("data", "sentence"),
    [
        (b"<svg xmlns='http://www.w3.org/2000/svg'/>", "no picture that can be kept"),
        (picture("GIF"), "no picture that can be kept"),
        (picture()[:200], "no picture that can be kept"),
        (b"", "no picture that can be kept"),
        (b"\xff" * 8_100_000, "larger than 8 MB"),
    ],
    ids=["svg", "gif", "cut off", "empty", "huge"],
)
def test_what_is_no_photograph_is_refused_in_a_sentence(client: TestClient, data: bytes, sentence: str) -> None:
    answer = client.post("/api/photos", content=data, headers=WHO | {"content-type": "image/jpeg"})
    assert answer.status_code in (413, 422)
    assert sentence in answer.json()["sentence"]


def test_a_picture_that_would_fill_the_memory_is_not_opened(client: TestClient) -> None:
    answer = client.post("/api/photos", content=picture("PNG", (9000, 7000)), headers=WHO)
    assert answer.status_code == 422
    assert "63 megapixels" in answer.json()["sentence"]


def test_a_photograph_nobody_kept_is_not_there(client: TestClient) -> None:
    assert client.get(f"/api/photos/{'0' * 64}").status_code == 404


def test_found_on_the_way_it_puts_work_on_the_card_and_opens_one_job(client: TestClient, in_hand: Job) -> None:
    step = next(s.id for s in card(in_hand).steps if s.id.endswith("clamp.off"))
    photo = keep(client, picture())["id"]
    told = {
        "step": step, "kind": "seized", "what": "Pinch bolt\nturns with its nut", "photos": [photo],
        "decision": "now", "work": "Cut it and fit a new one", "part": "Pinch bolt M12", "minutes_least": 20,
        "minutes_most": 40,
    }  # fmt: skip
    url = f"/api/jobs/{JOB}/build/found"
    before = client.get(f"/api/jobs/{JOB}/card").json()
    assert client.post(url, json={"version": 1, "found": told}, headers=WHO).json() == {"version": 2}
    after = client.get(f"/api/jobs/{JOB}/card").json()
    ids = [s["id"] for s in after["steps"]]
    assert ids[ids.index(step) + 1] == "found.f1"
    assert after["minutes"][1] == pytest.approx(before["minutes"][1] + 40)
    assert "Pinch bolt M12 (found on the way)" in after["preflight"]["parts"]
    ticked = {"version": 2, "step": "found.f1", "done": True, "minutes": 31.5}
    assert client.post(f"/api/jobs/{JOB}/build/tick", json=ticked, headers=WHO).json() == {"version": 3}

    opened = client.post(f"{url}/f1/follow-up", json={"version": 3}, headers=WHO).json()
    assert opened == {"id": "pinch-bolt-turns-with-its-nut", "version": 4}
    job = client.get(f"/api/jobs/{opened['id']}").json()["job"]
    assert job["vehicle"]["plate"] == in_hand.vehicle.plate
    assert job["brief"]["purpose"] == f"Found on the job “{in_hand.title}”: {told['what']}"
    again = client.post(f"{url}/f1/follow-up", json={"version": 4}, headers=WHO).json()
    assert again["id"] == opened["id"], "of one finding one job"

    anew = told | {"decision": "left", "because": "Holds well, says the owner", "photos": []}
    assert client.post(url, json={"version": 4, "id": "f1", "found": anew}, headers=WHO).json() == {"version": 5}
    build = client.get(f"/api/jobs/{JOB}").json()["job"]["build"]
    assert [(f["decision"], f["by"], f["follow_up"]) for f in build["found"]] == [("left", "Ines Tarrow", opened["id"])]
    assert "found.f1" not in [s["id"] for s in client.get(f"/api/jobs/{JOB}/card").json()["steps"]]
    gone = client.post(f"{url}/f1/withdraw", json={"version": 5}, headers=WHO)
    assert gone.json() == {"version": 6}
    assert client.get(f"/api/jobs/{JOB}").json()["job"]["build"]["found"] == []
    late = client.post(url, json={"version": 6, "id": "f1", "found": anew}, headers=WHO)
    assert late.status_code == 422
    assert "tell it as new" in late.json()["sentence"]
    assert client.post(f"{url}/f1/follow-up", json={"version": 6}, headers=WHO).status_code == 404


def test_of_two_who_follow_up_on_one_finding_both_are_led_to_one_job(client: TestClient, in_hand: Job) -> None:
    step = card(in_hand).steps[0].id
    url = f"/api/jobs/{JOB}/build/found"
    told = {"step": step, "what": "Hose rubs", "decision": "later"}
    client.post(url, json={"version": 1, "found": told}, headers=WHO)
    many = client.get("/api/jobs").json()["total"]
    opened = {client.post(f"{url}/f1/follow-up", json={"version": 1}, headers=WHO).json()["id"] for _ in range(2)}
    assert len(opened) == 1
    assert client.get("/api/jobs").json()["total"] == many + 1


def test_what_is_left_needs_its_reason(client: TestClient, in_hand: Job) -> None:
    told = {"step": card(in_hand).steps[0].id, "what": "Rust", "decision": "left"}
    answer = client.post(f"/api/jobs/{JOB}/build/found", json={"version": 1, "found": told}, headers=WHO)
    assert answer.status_code == 422
    assert "needs a reason" in answer.json()["sentence"]


def test_a_setting_is_noted_only_where_the_plan_sets_one(client: TestClient, in_hand: Job) -> None:
    url = f"/api/jobs/{JOB}/build/setting"
    stray = {"key": "nothing.thread", "axle": "front", "side": "left", "before": 3}
    answer = client.post(url, json={"version": 1, "setting": stray}, headers=WHO)
    assert answer.status_code == 422
    assert "no longer on the card" in answer.json()["sentence"]
    collar = {"type": "collar", "axle": "rear", "by_mm": 4}
    plan = client.get(f"/api/jobs/{JOB}").json()
    changes = [*plan["job"]["plan"]["changes"], {"id": "turned", "change": collar}]
    section = plan["job"]["plan"] | {"changes": changes}
    saved = client.put(
        f"/api/jobs/{JOB}/plan",
        json={"kind": "car", "version": plan["versions"]["plan"], "section": section},
        headers=WHO,
    )
    assert saved.status_code == 200, saved.text
    read = {"key": "turned.thread", "axle": "rear", "side": "right", "before": 31, "after": 27}
    assert client.post(url, json={"version": 1, "setting": read}, headers=WHO).json() == {"version": 2}
    rows = {(r["key"], r["side"]): r for r in client.get(f"/api/jobs/{JOB}/card").json()["settings"]}
    assert rows["turned.thread", "right"]["doubt"] == "moved by −4 mm, the plan says +4 mm"
    assert rows["turned.thread", "left"]["before"] is None
    # One of the two read anew leaves the other as it was.
    anew = {k: read[k] for k in ("key", "axle", "side")} | {"after": 35}
    assert client.post(url, json={"version": 2, "setting": anew}, headers=WHO).json() == {"version": 3}
    kept = client.get(f"/api/jobs/{JOB}").json()["job"]["build"]["settings"]
    assert [(s["before"], s["after"]) for s in kept] == [(31, 35)]


def test_the_shops_own_times_count_on_the_next_job_of_the_kind(client: TestClient, in_hand: Job) -> None:
    van = client.get("/api/vehicles?words=Q-0417").json()["items"][0]["id"]
    for n, minutes in enumerate((11.0, 12.0, 13.0)):
        made = client.post("/api/jobs", json={"title": f"Timed {n}", "vehicle_id": van}, headers=WHO).json()["id"]
        tick = {"version": 1, "step": "ready.heights", "done": True, "minutes": minutes}
        assert client.post(f"/api/jobs/{made}/build/tick", json=tick, headers=WHO).status_code == 200
    heights = client.get(f"/api/jobs/{JOB}/card").json()["steps"][0]
    assert (heights["id"], heights["timed"]) == ("ready.heights", 3)
    assert heights["minutes"] == pytest.approx([11.2, 12.8])
    own = client.get("/api/jobs/timed-0/card").json()["steps"][0]
    assert own["timed"] == 0, "two others are not enough, and its own does not count"
    bike = client.get("/api/jobs/whin-2026-lower/card").json()
    assert bike["timed"] == 0


def test_papers_come_as_pages(client: TestClient) -> None:
    for paper in ("quotation", "labels", "hand-over"):
        for job in (JOB, "whin-2026-lower"):
            answer = client.get(f"/api/jobs/{job}/{paper}.pdf")
            assert answer.status_code == 200, answer.text
            assert answer.content.startswith(b"%PDF")
    assert client.get("/api/jobs/nothing/labels.pdf").status_code == 404


def test_what_was_tightened_by_feel_is_on_record_as_such(client: TestClient, in_hand: Job) -> None:
    step = next(s for s in card(in_hand).steps if s.fasteners and s.axle and s.side)
    body: dict[str, object] = {"version": 1, "fastener": step.fasteners[0].key, "axle": step.axle, "side": step.side}
    url = f"/api/jobs/{JOB}/build/torque"
    refused = client.post(url, json=body, headers=WHO)
    assert refused.status_code == 422
    assert "read, or by feel" in refused.json()["sentence"]
    assert client.post(url, json=body | {"by_feel": True}, headers=WHO).json() == {"version": 2}
    (record,) = client.get(f"/api/jobs/{JOB}").json()["job"]["build"]["torques"]
    assert (record["torque"], record["by_feel"], record["by"]) == (None, True, "Ines Tarrow")
    told = next(s for s in client.get(f"/api/jobs/{JOB}/card").json()["steps"] if s["id"] == step.id)
    assert told["fasteners"][0]["doubt"] == "tightened by feel, to no figure"
    # Exported and read again it is the same; a reading later takes its place.
    file = client.get(f"/api/jobs/{JOB}/file").json()
    assert file["job"]["build"]["torques"] == [record]
    assert client.post(url, json=body | {"version": 2, "torque": "84 Nm"}, headers=WHO).json() == {"version": 3}
    (record,) = client.get(f"/api/jobs/{JOB}").json()["job"]["build"]["torques"]
    assert (record["torque"]["value"], record["by_feel"]) == (84, False)


def test_what_another_hand_wrote_as_ticks_of_one_job_hides_no_other_card(engine: Engine, client: TestClient) -> None:
    timed = '{"ticks": [{"minutes": "long", "work": 3}, 7, null]}'
    for odd in ('{"ticks": {"a": 1}}', '{"ticks": "none"}', "{}", timed):
        with engine.begin() as connection:
            connection.execute(
                text(
                    "UPDATE stage SET document = CAST(:odd AS jsonb)"
                    " WHERE job_id = 'saloon-2026-collar-kit' AND name = 'build'"
                ),
                {"odd": odd},
            )
        assert client.get(f"/api/jobs/{JOB}/card").status_code == 200, odd


def test_what_was_found_is_kept_at_its_joint_for_the_next_job_on_the_vehicle(client: TestClient, in_hand: Job) -> None:
    made = card(in_hand)
    step = next(s for s in made.steps if s.id.endswith("clamp.off"))
    photo = keep(client, picture())["id"]
    url = f"/api/jobs/{JOB}/build/found"
    told = {
        "step": step.id,
        "what": "Upper bolt seizes.",
        "photos": [photo],
        "decision": "now",
        "work": "Oil it a day ahead",
    }
    client.post(url, json={"version": 1, "found": told}, headers=WHO)
    client.post(url, json={"version": 2, "found": told | {"step": "ready.heights", "decision": "noted"}}, headers=WHO)
    assert client.post(f"{url}/f1/keep", headers=WHO).json() == {"kept": True}
    assert client.post(f"{url}/f1/keep", headers=WHO).json() == {"kept": False}, "once"
    wanted = {
        "joint": step.joint, "side": step.side, "text": "Upper bolt seizes. Oil it a day ahead", "photos": [photo],
    }  # fmt: skip

    def kept(job: str) -> list:
        steps = client.get(f"/api/jobs/{job}/card").json()["steps"]
        return [(s["id"], s["kept"]) for s in steps if s["kept"]]

    assert kept(JOB) == [(step.id, [wanted])]
    van = client.get("/api/vehicles?words=Q-0417").json()["items"][0]["id"]
    assert client.get(f"/api/vehicles/{van}").json()["vehicle"][step.axle]["notes"] == [wanted]
    again = client.post("/api/jobs", json={"title": "Once more", "vehicle_id": van}, headers=WHO).json()["id"]
    plan = client.get(f"/api/jobs/{again}").json()
    changes = client.get(f"/api/jobs/{JOB}").json()["job"]["plan"]["changes"]
    body = {"kind": "car", "version": plan["versions"]["plan"], "section": plan["job"]["plan"] | {"changes": changes}}
    assert client.put(f"/api/jobs/{again}/plan", json=body, headers=WHO).status_code == 200
    assert kept(again) == [(step.id, [wanted])], "whoever opens it next"
    nowhere = client.post(f"{url}/f2/keep", headers=WHO)
    assert nowhere.status_code == 422
    assert "belongs to no joint" in nowhere.json()["sentence"]


def test_figures_put_right_count_on_a_machine_that_was_found_otherwise(client: TestClient) -> None:
    """Its own document is what the job computes with: a note that only its vehicle got would show on no step."""
    job = "whin-2026-lower"
    view = client.get(f"/api/jobs/{job}").json()
    found = view["job"]["vehicle"] | {"seat": view["job"]["vehicle"]["seat"] | {"height_mm": 905.0}}
    body = {
        "kind": "bike",
        "version": view["versions"]["measure"],
        "section": view["job"]["measure"] | {"machine": found},
    }
    assert client.put(f"/api/jobs/{job}/measure", json=body, headers=WHO).status_code == 200
    opened = next(s for s in client.get(f"/api/jobs/{job}/card").json()["steps"] if s["id"].endswith(".off"))
    told = {"step": opened["id"], "what": "Mind the hose", "decision": "noted"}
    build = client.get(f"/api/jobs/{job}").json()["versions"]["build"]
    client.post(f"/api/jobs/{job}/build/found", json={"version": build, "found": told}, headers=WHO)
    assert client.post(f"/api/jobs/{job}/build/found/f1/keep", headers=WHO).json() == {"kept": True}
    view = client.get(f"/api/jobs/{job}").json()["job"]
    assert view["measure"]["machine"]["seat"]["height_mm"] == 905.0, "what was found stays"
    step = next(s for s in client.get(f"/api/jobs/{job}/card").json()["steps"] if s["id"] == opened["id"])
    assert [n["text"] for n in step["kept"]] == ["Mind the hose"]
