"""``inclinum prove``: readings after a job, a two-wheeler's, a sheet of heights; what proves nothing is told."""

import json
from pathlib import Path
from typing import Any

import pytest
from typer.testing import CliRunner

from inclinum.cli import app
from inclinum.core.car.prediction import predict
from inclinum.demo import demo_bike_jobs, demo_jobs
from inclinum.jobfile import BikeFile, JobFile, write

run = CliRunner().invoke
SHEET = json.loads((Path(__file__).parents[1] / "reference" / "statics-reconcile-public.json").read_text())


def on_file(tmp_path: Path, document: Any) -> str:
    path = tmp_path / "x.json"
    path.write_text(document if isinstance(document, str) else json.dumps(document))
    return str(path)


def test_a_job_measured_too_high_is_told_with_its_causes(tmp_path: Path) -> None:
    job = demo_jobs()[-1]
    heights = [h for h in predict(job).heights if h.kind == "hub_to_arch" and h.axle]
    document = json.loads(write(JobFile(job=job)))
    document["job"]["prove"]["after"]["corners"] = [
        {"axle": h.axle, "side": h.side, "quantity": "hub_to_arch", "reading": f"{h.after + 14:.1f}"} for h in heights
    ]
    file = on_file(tmp_path, document)
    answer = json.loads(run(app, ["prove", file]).stdout)
    assert answer["verdict"] == "outside"
    assert [h["residual"] for h in answer["heights"]] == pytest.approx([14] * 4, abs=0.1)
    assert [c["explains"] for c in answer["causes"]] == sorted((c["explains"] for c in answer["causes"]), reverse=True)
    weights = {c["label"]: c["value"] for c in answer["causes"] if c["unit"] == "kg"}
    assert weights["weight at the very rear"] < -20, "what stands too high carries less than was thought"
    table = run(app, ["prove", file, "--table"]).stdout
    assert "+14.0" in table
    assert "one cause" in table


def test_a_two_wheeler_and_a_sheet(tmp_path: Path) -> None:
    bike = on_file(tmp_path, write(BikeFile(job=demo_bike_jobs()[0])))
    assert json.loads(run(app, ["prove", bike]).stdout)["verdict"] == "within"
    assert "rear drop, rider on" in run(app, ["prove", bike, "--table"]).stdout
    sheet = {"format": "inclinum-sheet", "version": 1, "sheet": {"kind": "reconcile"} | SHEET["given"]}
    answer = run(app, ["prove", on_file(tmp_path, sheet)])
    assert json.loads(answer.stdout)["ranking_best_first"] == SHEET["expect"]["ranking_best_first"]
    other = {"format": "inclinum-sheet", "version": 1, "sheet": {"kind": "stations", "front_axle_x_mm": 0,
                                                                "wheelbase_mm": 2600}}  # fmt: skip
    refused = run(app, ["prove", on_file(tmp_path, other)])
    assert refused.exit_code == 2
    assert "“stations” proves nothing" in refused.output


def test_everything_uncertain_can_be_drawn_instead(tmp_path: Path) -> None:
    job = demo_jobs()[-1]
    file = on_file(tmp_path, write(JobFile(job=job)))
    answer = json.loads(run(app, ["predict", file, "--samples", "2000", "--seed", "7"]).stdout)
    for h in predict(job).heights:
        if h.kind == "hub_to_arch":
            drawn = answer["wheels"][f"{h.axle} {h.side}"]["hub_to_arch_mm"]
            assert drawn["mean"] == pytest.approx(h.after, abs=1.5)
            # Hardpoints are drawn too, which the first order tells by the ratio alone: it is never less.
            assert 2 * drawn["sigma"] > 0.9 * h.plus_minus
            if h.axle == "front":
                assert 2 * drawn["sigma"] == pytest.approx(h.plus_minus, rel=0.2), "springs in doubt outweigh them"
    assert json.loads(run(app, ["predict", file, "--samples", "2000", "--seed", "7"]).stdout) == answer
    bike = on_file(tmp_path, write(BikeFile(job=demo_bike_jobs()[0])))
    assert "only a job on four wheels" in run(app, ["predict", bike, "--samples", "10"]).output
