"""Tables of the command line: narrow where they are numbers, with what is asked as JSON has it."""

import json
from pathlib import Path

import pytest
from typer.testing import CliRunner

from inclinum.cli import app
from inclinum.demo import demo_bike_jobs, demo_jobs
from inclinum.jobfile import file_of, write

RUN = CliRunner()


@pytest.mark.parametrize("job", [demo_jobs()[-1], demo_bike_jobs()[-1]], ids=["car", "bike"])
def test_a_sentence_widens_no_column_of_numbers(job: object, tmp_path: Path) -> None:
    file = tmp_path / "job.json"
    file.write_text(write(file_of(job)))  # type: ignore[arg-type]
    lines = RUN.invoke(app, ["predict", str(file), "--table"]).output.splitlines()
    head = next(line for line in lines if line.startswith(("reference", "rider on")))
    assert len(head) < 66
    assert max(map(len, lines)) > len(head) + 10, "there are sentences in it"


def test_what_is_asked_stands_in_the_table_as_in_json(tmp_path: Path) -> None:
    document = json.loads(write(file_of(demo_jobs()[-1])))
    for corner in document["job"]["measure"]["corners"]:
        if (corner["axle"], corner["side"], corner["quantity"]) == ("front", "left", "hub_to_arch"):
            corner["reading"] = {"text": "330", "value": 330.0, "tolerance": None, "unit": "mm"}
    file = tmp_path / "job.json"
    file.write_text(json.dumps(document))
    questions = json.loads(RUN.invoke(app, ["predict", str(file)]).output)["questions"]
    assert questions
    table = RUN.invoke(app, ["predict", str(file), "--table"]).output
    assert all(q["sentence"] in table for q in questions)


def test_a_folder_without_an_installation_is_not_backed_up_and_not_made_one(tmp_path: Path) -> None:
    for data in (tmp_path / "never", tmp_path):
        done = RUN.invoke(app, ["backup", str(tmp_path / "shop.backup"), "--data", str(data)])
        assert done.exit_code == 2
        assert "no data of an installation" in done.output
    assert list(tmp_path.iterdir()) == []
