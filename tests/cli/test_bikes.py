"""Two wheels on the command line."""

import json
from pathlib import Path

import pytest
from pypdf import PdfReader
from typer.testing import CliRunner

from inclinum.cli import app
from inclinum.core.bike.prediction import predict_bike
from inclinum.demo import demo_bike_jobs
from inclinum.jobfile import BikeFile, write

run = CliRunner().invoke
JOB = demo_bike_jobs()[-1]


@pytest.fixture
def file(tmp_path: Path) -> Path:
    path = tmp_path / "whin.inclinum.json"
    path.write_text(write(BikeFile(job=JOB)))
    return path


def test_predict_sweep_check_and_card(file: Path, tmp_path: Path) -> None:
    answer = json.loads(run(app, ["predict", str(file)]).stdout)
    assert answer["rear_drop_mm"] == pytest.approx(predict_bike(JOB).rear_drop_mm, abs=1e-9)
    table = run(app, ["predict", str(file), "--table"]).stdout
    assert "fork raise for unchanged trail" in table
    assert f"{answer['rear_drop_mm']:+.1f}" in table
    swept = json.loads(run(app, ["sweep", str(file), "--travel", "0:120:20"]).stdout)
    assert swept["travel_mm"] == [0, 20, 40, 60, 80, 100, 120]
    assert len(swept["chain_slack_mm"]) == 7
    assert swept["damper_length_mm"] == sorted(swept["damper_length_mm"], reverse=True)
    assert run(app, ["check", str(file)]).exit_code == 0
    out = tmp_path / "card.pdf"
    assert run(app, ["card", str(file), "--pdf", str(out)]).exit_code == 0
    pages = "\n".join(page.extract_text() for page in PdfReader(out).pages)
    assert "58 N·m" in pages
    assert "Rear comes down" in pages
    schema = json.loads(run(app, ["schema", "bike-job"]).stdout)
    assert schema["properties"]["job"]["$ref"] == "#/$defs/BikeJob"


def test_a_stopped_plan_exits_one_and_bad_fields_are_named(file: Path) -> None:
    document = json.loads(file.read_text())
    document["job"]["vehicle"]["fork"]["raise_most_mm"] = 19.5  # measured: an archetype's own figure stops nothing
    document["job"]["plan"]["changes"].append({"id": "r", "change": {"type": "fork_raise", "raised_mm": 40}})
    file.write_text(json.dumps(document))
    done = run(app, ["check", str(file)])
    assert done.exit_code == 1
    assert json.loads(done.stdout)[0]["severity"] == "stops"
    document["job"]["vehicle"]["fork"]["stroke_mm"] = "long"
    file.write_text(json.dumps(document))
    bad = run(app, ["predict", str(file)])
    assert bad.exit_code == 2
    assert "job.vehicle.fork.stroke_mm" in bad.output
