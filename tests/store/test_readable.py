"""What was accepted can be read back, and what cannot be read hides nothing else."""

import json

import pytest
from fastapi.testclient import TestClient
from sqlalchemy import Engine, text

from inclinum.jobfile import LARGEST_BYTES, LONGEST_LINE, read_job
from inclinum.store import bin, jobs
from inclinum.store.database import migrate, session_maker
from tests.api import OURS, WHO

VAN, WHIN = "van-2026-washed-out-track", "whin-2026-lower"


@pytest.fixture
def client(engine: Engine) -> TestClient:
    from inclinum.api.app import create_app

    return TestClient(create_app(engine), OURS, headers=WHO)


def test_the_longest_texts_and_a_changed_machine_can_be_read_back(client: TestClient) -> None:
    view = client.get(f"/api/jobs/{VAN}").json()
    long = "ö" * 4000
    section = view["job"]["brief"] | {"purpose": long, "load": long}
    assert (
        client.put(f"/api/jobs/{VAN}/brief", json={"kind": "car", "version": 1, "section": section}).status_code == 200
    )
    again = client.get(f"/api/jobs/{VAN}").json()
    assert again["job"]["brief"]["purpose"] == long
    assert len(again["history"][-1]["what"]) <= LONGEST_LINE
    line = client.get(f"/api/jobs/{VAN}/history").json()[0]
    assert {d["path"]: d["new"] for d in line["detail"]} == {"purpose": long, "load": long}, "kept whole beside"
    for address in ("card", "card.pdf", "file"):
        assert client.get(f"/api/jobs/{VAN}/{address}").status_code == 200

    view = client.get(f"/api/jobs/{WHIN}").json()
    machine = view["job"]["vehicle"] | {"preload_mm": 7.5}
    body = {
        "kind": "bike",
        "version": view["versions"]["measure"],
        "section": view["job"]["measure"] | {"machine": machine},
    }
    assert client.put(f"/api/jobs/{WHIN}/measure", json=body).status_code == 200
    assert client.get(f"/api/jobs/{WHIN}").json()["job"]["measure"]["machine"]["preload_mm"] == 7.5


def test_an_unreadable_row_is_marked_and_can_be_downloaded_and_hides_no_other(
    client: TestClient, engine: Engine
) -> None:
    listed = client.get("/api/jobs").json()
    fleet = client.get("/api/vehicles").json()
    assert all(row["trouble"] is None for row in (*listed["items"], *fleet["items"]))
    with engine.begin() as connection:
        connection.execute(
            text("update stage set document = document || '{\"purpose\": 7}' where name = 'brief' and job_id = :id"),
            {"id": VAN},
        )
        broken = connection.scalar(
            text("update vehicle set document = document - 'wheelbase_mm' where plate = 'Q-0417' returning id")
        )
    after = client.get("/api/jobs").json()
    assert after["total"] == listed["total"]
    assert {r["id"]: bool(r["trouble"]) for r in after["items"]} == {r["id"]: r["id"] == VAN for r in listed["items"]}
    prediction = client.get(f"/api/jobs/{VAN}")
    assert prediction.status_code == 422
    assert "brief.purpose" in prediction.json()["sentence"]
    raw = client.get(prediction.json()["raw_address"]).json()
    assert raw["job"]["brief"]["purpose"] == 7
    assert len(raw["job"]["measure"]["corners"]) > 3, "with its rows"
    marked = [v for v in client.get("/api/vehicles").json()["items"] if v["trouble"]]
    assert [v["id"] for v in marked] == [broken]
    assert "mass_kg" in client.get(f"/api/vehicles/{broken}/raw").json()
    assert client.get("/api/jobs/van-2025-front-springs/outcomes").status_code == 200
    with engine.begin() as connection:
        connection.execute(
            text(
                "update stage set document = document || '{\"purpose\": \"7\"}' where name = 'brief' and job_id = :id"
            ),
            {"id": VAN},
        )
    assert all(row["trouble"] is None for row in client.get("/api/jobs").json()["items"]), "mended, it is sound again"


def test_what_earlier_versions_stored_is_repaired(engine: Engine) -> None:
    """From the schema before: a line too long, a stage of the other kind, a machine over a car."""
    with engine.begin() as connection:
        connection.execute(text("drop schema public cascade; create schema public"))
        migrate(connection, "0005")
        job = json.dumps({"name": "Car", "plate": "Q-1", "wheelbase_mm": 2500})
        bike = json.dumps({"name": "Car", "plate": "Q-1", "fork": {}})
        connection.execute(text("insert into owner (name) values ('Ada')"))
        connection.execute(
            text(
                "insert into vehicle (owner_id, name, plate, wheels, document, schema_version)"
                " values (1, 'Car', 'Q-1', 4, :bike, 2)"
            ),
            {"bike": bike},
        )
        for job_id, wheels, document in (("car", 4, job), ("bike", 2, bike)):
            connection.execute(
                text(
                    "insert into job (id, title, wheels, vehicle_id, vehicle_document, schema_version)"
                    " values (:id, :id, :wheels, 1, :document, 2)"
                ),
                {"id": job_id, "wheels": wheels, "document": document},
            )
            for name in ("brief", "measure", "plan", "align", "build", "prove"):
                stored = {"owner": "Ada", "due": "2026-03-01"} if name == "brief" else {}
                if name == "align":
                    stored = {"chosen": {"a": 1.0}, "note": "kept"}
                connection.execute(
                    text(
                        "insert into stage (job_id, name, version, document, schema_version, saved_by)"
                        " values (:id, :name, 1, :document, 2, 'Ada')"
                    ),
                    {"id": job_id, "name": name, "document": json.dumps(stored)},
                )
        connection.execute(
            text("insert into event (job_id, by, what) values ('car', 'Ada', :what)"), {"what": "x" * 9000}
        )
        migrate(connection)
        rows = connection.execute(
            text("select job.id, job.wheels, vehicle.wheels, vehicle.document ? 'fork', job.begun, job.due::text"
                 " from job join vehicle on vehicle.id = job.vehicle_id order by job.id")
        ).all()  # fmt: skip
        assert [tuple(r) for r in rows] == [
            ("bike", 2, 2, True, 8, "2026-03-01"),
            ("car", 4, 4, False, 8, "2026-03-01"),
        ]
        assert connection.scalar(text("select document from stage where job_id = 'bike' and name = 'align'")) == {
            "note": "kept"
        }
        assert connection.execute(text("select char_length(what), detail->0->>'new' from event")).one() == (
            2000,
            "x" * 9000,
        )


def test_an_export_is_never_larger_than_what_is_taken_in(engine: Engine) -> None:
    with engine.begin() as connection:
        connection.execute(
            text("insert into event (job_id, by, what) select :id, 'Ines Tarrow', n || repeat('ü', 1990)"
                 " from generate_series(1, 4000) n"), {"id": VAN},
        )  # fmt: skip
    with session_maker(engine).begin() as session:
        exported = jobs.export(session, VAN)
        from inclinum.jobfile import write

        data = write(exported).encode()
        assert len(data) <= LARGEST_BYTES
        assert "older lines are not in this file" in exported.history[0].what
        assert exported.history[-1].what.startswith("4000ü")
        assert read_job(data) == exported
        bin.delete_job(session, VAN, "Ines Tarrow")
        jobs.create(session, exported, "Ines Tarrow")
        assert jobs.export(session, VAN) == exported
