"""What the documents promise."""

from pathlib import Path

import pytest
from typer.testing import CliRunner

from inclinum.cli import app
from inclinum.core.machines import KINDS
from inclinum.core.plan.catalogue import catalogue
from inclinum.demo import demo_bike_jobs, demo_jobs
from inclinum.jobfile import AxleFile, BikeFile, JobFile, SheetFile, read, read_any, read_job, write

DOCS = Path(__file__).parents[2] / "docs"


def test_the_example_is_the_demo_job_as_it_is_now() -> None:
    assert (DOCS / "example.inclinum.json").read_text() == write(JobFile(job=demo_jobs()[-1]))
    assert (DOCS / "example.bike.inclinum.json").read_text() == write(BikeFile(job=demo_bike_jobs()[-1]))


def test_files_of_earlier_versions_read_as_they_were_meant() -> None:
    here = Path(__file__).parent
    old = (here / "version-1.inclinum.json").read_text()
    assert '"coil": {' in old
    assert read(old).job == demo_jobs()[-1]
    assert read((here / "version-2.inclinum.json").read_text()).job == demo_jobs()[-1]
    for version in (3, 4, 5, 6):
        assert read((here / f"version-{version}.inclinum.json").read_text()).job == demo_jobs()[-1]
    for version in (2, 3, 4, 5):
        assert read_job((here / f"bike-version-{version}.inclinum.json").read_text()).job == demo_bike_jobs()[-1]
    assert read_job((here / "bike-version-1.inclinum.json").read_text()).job == demo_bike_jobs()[-1]


def test_every_screenshot_is_shown_in_the_readme() -> None:
    readme = (DOCS.parent / "README.md").read_text()
    shots = [p.name for p in (DOCS / "screenshots").glob("*.png")]
    assert 6 <= len(shots) < 20
    assert [s for s in shots if f"docs/screenshots/{s}" not in readme] == []


@pytest.mark.parametrize("name", ["example.axle.json", "example.sheet.json"])
def test_the_other_examples_are_read_and_answered(name: str) -> None:
    command = "sweep" if "axle" in name else "predict"
    done = CliRunner().invoke(app, [command, str(DOCS / name)])
    assert done.exit_code == 0, done.output
    assert isinstance(read_any((DOCS / name).read_bytes()), AxleFile if "axle" in name else SheetFile)


def test_the_catalogue_is_what_the_changes_say_of_themselves() -> None:
    written = (DOCS / "catalogue.md").read_text()
    assert written == catalogue({k.title: k.changes for k in KINDS.values()})
    for kind in KINDS.values():
        for change in kind.changes:
            assert change.equation, change.title
            assert change.source, change.title
