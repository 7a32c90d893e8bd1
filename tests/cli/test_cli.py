"""The command line: numbers on good files, a path and a sentence on bad ones."""

import json
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pypdf import PdfReader
from typer.testing import CliRunner

from inclinum.cli import app
from inclinum.core.car.archetypes import ARCHETYPES, SIZES
from inclinum.core.car.job import Job
from inclinum.core.car.prediction import predict
from inclinum.demo import demo_jobs
from inclinum.jobfile import JobFile, JobFileError, read, write
from tests.core.test_prediction import unbearable

run = CliRunner().invoke


@pytest.fixture
def file(tmp_path: Path, in_hand: Job) -> Path:
    path = tmp_path / "van.inclinum.json"
    path.write_text(write(JobFile(job=in_hand)))
    return path


def test_predict_prints_what_the_core_predicts(file: Path, in_hand: Job) -> None:
    done = run(app, ["predict", str(file)])
    assert done.exit_code == 0
    assert json.loads(done.stdout)["front"]["rise"] == pytest.approx(predict(in_hand).front.rise, abs=1e-9)
    table = run(app, ["predict", str(file), "--table"])
    assert "front rise" in table.stdout
    assert f"{predict(in_hand).front.rise:+.1f}" in table.stdout


def test_check_exits_one_when_something_stops_the_plan(file: Path) -> None:
    assert run(app, ["check", str(file)]).exit_code == 0
    stopping = json.loads(file.read_text())
    stopping["job"]["plan"]["changes"].append(
        {"id": "top", "change": {"type": "strut_top_spacer", "axle": "front", "thickness_mm": 18}}
    )
    file.write_text(json.dumps(stopping))
    done = run(app, ["check", str(file)])
    assert done.exit_code == 1
    assert json.loads(done.stdout)[0]["id"] == "stud_engagement.front"


def test_align_and_card_and_schema(file: Path, tmp_path: Path) -> None:
    assert "top of the wheel" in run(app, ["align", str(file), "--table"]).stdout
    out = tmp_path / "card.pdf"
    assert run(app, ["card", str(file), "--pdf", str(out)]).exit_code == 0
    pages = "\n".join(page.extract_text() for page in PdfReader(out).pages)
    assert "look up the maker's figure" in pages
    assert "92 N·m + 60°" in pages
    assert "417 mm hub to arch" in pages
    schema = json.loads(run(app, ["schema"]).stdout)
    assert schema["properties"]["job"]["$ref"] == "#/$defs/Job"


BAD = [
    (["job", "vehicle", "front", "spring", "rate_n_per_mm"], -30, "must be more than 0"),
    (["job", "vehicle", "front", "spring", "rate_n_per_mm"], "30 N/mm", "not a number"),
    (["job", "vehicle", "wheelbase_mm"], 2.74, "Is the unit right?"),
    (["job", "vehicle", "rear", "linkage", "kind"], "hovercraft", "must be"),
    (["job", "plan", "changes", 0, "change", "coil", "solid_length_mm"], 400, "longer solid"),
    (["job", "measure", "corners", 0, "reading"], "146 kg", "no unit of length"),
    (["job", "brief", "owner"], None, "owner"),
    (["version"], 99, "Version 99"),
]


@pytest.mark.parametrize(("path", "value", "words"), BAD)
def test_a_bad_field_is_named_with_its_path(file: Path, path: list, value: object, words: str) -> None:
    document = json.loads(file.read_text())
    at = document
    for key in path[:-1]:
        at = at[key]
    if value is None:
        del at[path[-1]]
    else:
        at[path[-1]] = value
    file.write_text(json.dumps(document))
    done = run(app, ["predict", str(file)])
    assert done.exit_code == 2
    named = "".join(f"[{k}]" if isinstance(k, int) else f".{k}" for k in path).lstrip(".")
    # What two fields say against each other is told at the part they belong to.
    assert done.stderr.startswith(named.removesuffix(".kind").removesuffix(".solid_length_mm"))
    assert words in done.stderr
    assert "Traceback" not in done.stderr


def test_a_misspelt_field_is_refused_with_the_one_meant(file: Path) -> None:
    file.write_text(file.read_text().replace('"wheelbase_mm"', '"wheel_base_mm"'))
    done = run(app, ["predict", str(file)])
    assert "did you mean “wheelbase_mm”?" in done.stderr


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "cut off"),
        ('{"format": "inclinum-job", "version": 1, "job": {"id": "a"', "cut off"),
        ('{"format": "inclinum-job" "version": 1, "job": {}}', "not JSON"),
        ('{"format": "inclinum-job", "version": 1, "job": {"wheelbase": NaN}}', "NaN is no number"),
        ("[" * 100_000, "nested deeper"),
        ("[1, 2, 3]", "no file of ours"),
        (" " * 10_000_000, "10.0 MB"),
    ],
)
def test_files_that_are_no_job_files(tmp_path: Path, text: str, words: str) -> None:
    path = tmp_path / "bad.json"
    path.write_text(text)
    done = run(app, ["predict", str(path)])
    assert done.exit_code == 2
    assert words in done.stderr


def test_a_plan_that_cannot_stand_is_told_as_a_sentence(file: Path, in_hand: Job) -> None:
    file.write_text(write(JobFile(job=unbearable(in_hand))))
    done = run(app, ["predict", str(file)])
    assert done.exit_code == 2
    assert done.stderr.startswith("plan: The front axle finds no ride height")


def test_every_demo_job_comes_back_from_its_file_exactly() -> None:
    for job in demo_jobs():
        text = write(JobFile(job=job))
        assert read(text).job == job
        assert write(read(text)) == text


@settings(deadline=None, max_examples=60)
@given(st.data())
def test_a_file_cut_anywhere_is_refused_never_half_read(data: st.DataObject) -> None:
    text = write(JobFile(job=demo_jobs()[-1]))
    cut = text[: data.draw(st.integers(0, len(text) - 3))]
    with pytest.raises(JobFileError):
        read(cut)


def axle_file(tmp_path: Path, **changed: object) -> Path:
    linkage = ARCHETYPES["wishbones"].linkage(SIZES["car"]).model_dump(mode="json")
    axle = {"linkage": linkage, "tyre_radius_mm": 312, "static": {"camber_deg": -0.6}} | changed
    path = tmp_path / "front.axle.json"
    path.write_text(json.dumps({"format": "inclinum-axle", "version": 1, "axle": axle}))
    return path


def test_sweep_as_table_and_of_a_job(tmp_path: Path, file: Path) -> None:
    table = run(app, ["sweep", str(axle_file(tmp_path)), "--travel", "-20:20:20", "--table"])
    assert table.exit_code == 0, table.output
    head, *rows = table.stdout.splitlines()
    assert head.split()[:2] == ["travel_mm", "camber_deg"]
    assert [r.split()[0] for r in rows[:3]] == ["-20", "0", "20"]
    assert rows[1].split()[1] == "-0.6"
    rear = json.loads(run(app, ["sweep", str(file), "--axle", "rear", "--travel", "0"]).stdout)
    assert rear["camber_deg"] == [pytest.approx(-1.1, abs=0.5)]
    steer = json.loads(
        run(app, ["sweep", str(axle_file(tmp_path)), "--steer", "-30:30:30", "--wheelbase", "2690"]).stdout
    )
    assert steer["ackermann_error_deg"][1] == 0
    assert steer["steer_left_deg"][0] > 0 > steer["steer_left_deg"][2]


def test_a_travel_beyond_reach_has_no_number_and_a_reason(tmp_path: Path) -> None:
    linkage = {"kind": "trailing_arm", "points": {
        "wheel_centre": [0, 700, 300], "pivot_inner": [150, 400, 320], "pivot_outer": [150, 600, 320]}}  # fmt: skip
    done = run(app, ["sweep", str(axle_file(tmp_path, linkage=linkage)), "--travel", "-200:200:100"])
    answer = json.loads(done.stdout)
    assert answer["camber_deg"][0] is None
    assert None not in answer["camber_deg"][1:4]
    low, high = answer["reachable_travel_mm"]
    radius = (150**2 + 20**2) ** 0.5
    assert high == pytest.approx(radius + 20, abs=0.1)
    assert low == pytest.approx(20 - radius, abs=0.1)
    assert "dead point: pivot_" in answer["reach_ends_because"]["bump"]


@pytest.mark.parametrize(
    ("changed", "path", "words"),
    [
        ({"tyre_radius_mm": 3.12}, "axle.tyre_radius_mm", "Is the unit right?"),
        ({"spring": {"type": "coil_spring", "rate_n_per_mm": 30, "free_length_mm": 200, "solid_length_mm": 240}},
         "axle.spring", "longer solid"),
        ({"linkage": {"kind": "sliding_pillar", "points": {}}}, "axle.linkage", "not known here"),
        ({"linkage": {"kind": "five_link", "points": {}}}, "axle.linkage.points.wheel_centre", "missing"),
    ],
)  # fmt: skip
def test_bad_axles_name_path_and_reason(tmp_path: Path, changed: dict, path: str, words: str) -> None:
    done = run(app, ["sweep", str(axle_file(tmp_path, **changed)), "--travel", "0"])
    assert done.exit_code == 2
    assert done.stderr.startswith(path)
    assert words in done.stderr


@pytest.mark.parametrize(
    ("options", "words"),
    [
        (["--travel", "up"], "no range; write it as from:to:step"),
        (["--travel", "0:1e9:1"], "goes beyond"),
        (["--travel", "nan"], "no range"),
        (["--roll", "-2:2:1"], "do not share an axle"),
        (["--axle", "middle"], "neither front nor rear"),
    ],
)
def test_bad_sweeps_are_refused_in_words(tmp_path: Path, options: list[str], words: str) -> None:
    done = run(app, ["sweep", str(axle_file(tmp_path)), *options])
    assert done.exit_code == 2
    assert words in done.stderr


def test_a_bench_sheet_that_contradicts_itself(tmp_path: Path) -> None:
    arm = {
        "kind": "trailing_arm",
        "points": {"wheel_centre": [0, 700, 300], "pivot_inner": [150, 400, 320], "pivot_outer": [150, 600, 320]},
    }
    axle = {"linkage": arm, "tyre_radius_mm": 300}
    sheet = {"kind": "body-attitude", "corners": {"front": axle, "rear": axle}, "wheelbase_mm": 2400,
             "rise_mm": {"front": 0, "rear": 300}}  # fmt: skip
    path = tmp_path / "attitude.sheet.json"
    path.write_text(json.dumps({"format": "inclinum-sheet", "version": 1, "sheet": sheet}))
    done = run(app, ["predict", str(path)])
    assert done.exit_code == 2
    assert "a rise of 300 mm is beyond what this suspension reaches" in done.stderr
    assert run(app, ["sweep", str(path)]).exit_code == 2
    schema = json.loads(run(app, ["schema", "sheet"]).stdout)
    assert "TorsionBarSheet" in schema["$defs"]
    assert run(app, ["schema", "lorry"]).exit_code == 2
