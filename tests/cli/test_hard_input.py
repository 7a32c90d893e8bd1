"""Whatever a file or an option holds: an answer or exit 2 with a sentence, never a fault, never for long."""

import json
from pathlib import Path
from typing import Any

import pytest
from typer.testing import CliRunner

from inclinum.cli import app
from inclinum.jobfile import VERSION

DOCS = Path(__file__).parents[2] / "docs"
JOB, AXLE, BIKE = (DOCS / f"example{kind}.json" for kind in (".inclinum", ".axle", ".bike.inclinum"))
run = CliRunner().invoke
TICK = {"step": "a", "by": "x"}


def sentence(*words: str) -> str:
    """What a refusal says: exit 2, nothing of a library's or of ours that only a programmer reads."""
    done = run(app, list(words))
    assert done.exit_code == 2, (words, done.output[-300:])
    assert "Traceback" not in done.output
    for leak in ("Input should", "pydantic", "validation error", "datetimes"):
        assert leak not in done.output
    return done.stderr


@pytest.mark.parametrize(
    ("path", "value", "words"),
    [
        (("version",), [], "not known to this program"),
        (("version",), True, "not known to this program"),
        (("version",), "9" * 3000, "not known to this program"),
        (("job", "vehicle", "wheelbase_mm"), 10**400, "wheelbase_mm"),
        (("job", "vehicle", "mass_kg"), "heavy", "mass_kg"),
        (("job", "brief", "due"), "999999999-01-01", "is not a date"),
        (("job", "brief", "due"), 1e30, "is not a date"),
        (("job", "brief", "reversible"), "perhaps", "neither yes nor no"),
        (("job", "vehicle", "mass_kg"), "1700", "a text where a number belongs"),
        (("job", "brief", "reversible"), "yes", "neither yes nor no"),
        (("job", "brief", "reversible"), 1, "neither yes nor no"),
        (("job", "brief", "owner"), "", "needs a word"),
        (("job", "brief", "owner"), "x" * 121, "more than 120 characters"),
        (("job", "build", "ticks"), [TICK | {"done_at": "0001-01-01T00:00:00+14:00"}], "no year"),
        (("job", "build", "ticks"), [TICK | {"done_at": "9999-12-31T23:59:59-14:00"}], "no year"),
        (("job", "build", "ticks"), [TICK | {"done_at": "2026-05-04T08:00:00"}], "lacks its zone"),
        (("job", "plan", "changes"), 7, "is not a list"),
        (("created_at",), "9999-12-31T23:59:59-14:00", "no year"),
        (("vehicle_id",), "nobody", "is not an id"),
        (("job", "brief", "purpose"), "a\x00b", "no text"),
        (("job", "id"), "..", "cannot stand here"),
    ],
)
def test_a_bad_value_is_told_where_it_stands(tmp_path: Path, path: tuple[str, ...], value: Any, words: str) -> None:
    document = json.loads(JOB.read_text())
    part = document
    for key in path[:-1]:
        part = part[key]
    part[path[-1]] = value
    (tmp_path / "job.json").write_text(json.dumps(document))
    prediction = sentence("predict", str(tmp_path / "job.json"))
    assert words in prediction
    assert path[-1] in prediction


def test_a_number_without_end_and_a_mark_before_the_text(tmp_path: Path) -> None:
    bad = tmp_path / "bad.json"
    bad.write_text(JOB.read_text().replace(f'"version": {VERSION}', f'"version": {VERSION}' + "1" * 6000, 1))
    assert "thousands of digits" in sentence("predict", str(bad))
    marked = tmp_path / "marked.json"
    marked.write_bytes(b"\xef\xbb\xbf" + JOB.read_bytes())
    assert run(app, ["predict", str(marked)]).output == run(app, ["predict", str(JOB)]).output


@pytest.mark.parametrize(
    "options",
    [
        ["--travel", "1e300"], ["--travel", "0:1e308:1e307"], ["--travel", "nan"], ["--travel", "-100:100:0.001"],
        ["--travel", "1:2:3:4"], ["--travel", "5:1:1"], ["--travel", "0:1:0"], ["--pitch", "nan"], ["--pitch", "inf"],
        ["--rack", "1e300"], ["--rack", "nan"], ["--steer", "1e300"], ["--steer", "-1:1:1", "--wheelbase", "nan"],
        ["--roll", "-50:50:0.1", "--heave", "-50:50:0.1"], ["--roll", "0", "--heave", "1e300"],
    ],
)  # fmt: skip
def test_an_option_nothing_can_be_worked_out_from_is_refused_by_name(options: list[str]) -> None:
    for file in (AXLE, JOB):
        assert options[-2] in sentence("sweep", str(file), *options)
    if options[0] == "--travel":
        sentence("sweep", str(BIKE), *options)
