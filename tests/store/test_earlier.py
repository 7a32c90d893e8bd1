"""Databases as each earlier revision of the schema kept them: brought up to the present one, nothing of them is lost.

Each archive was written by the program of its time with its own demo data; what stands in it is read here without any
of our models, from PostgreSQL's text form.
"""

import json
import zipfile
from collections import Counter
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from sqlalchemy import Engine

from inclinum.store import jobs, vehicles
from inclinum.store.archive import read_manifest, restore
from inclinum.store.database import session_maker
from tests.store.test_archive import elsewhere  # noqa: F401 (a fixture)

EARLIER = sorted((Path(__file__).parent / "earlier").glob("*.backup"))
SAID_OTHERWISE = {"type", "coil", "spring", "kind", "schema_version"}
"""Keys by which a later format says the same otherwise."""


def rows(archive: Path, table: str) -> Iterator[dict[str, str | None]]:
    """Rows of a table of an archive, as text."""
    columns = read_manifest(archive).tables[table].columns
    with zipfile.ZipFile(archive) as file:
        for line in file.read(f"tables/{table}").decode().splitlines():
            values = (v.replace("\\\\", "\\") if v != "\\N" else None for v in line.split("\t"))
            yield dict(zip(columns, values, strict=True))


def said(value: Any, key: str = "") -> Iterator[tuple[str, Any]]:
    """Every number and word of a document with the name of its field; empty ones say nothing."""
    if isinstance(value, dict):
        for name, inner in value.items():
            # Every bar had the ± of a length beside it, 3 mm, which no bar has and no program ever read.
            if not (value.get("type") == "torsion_bar" and name == "free_length_tolerance_mm"):
                yield from said(inner, name)
    elif isinstance(value, list | tuple):
        for inner in value:
            yield from said(inner, key)
    elif value not in (None, "", False) and key not in SAID_OTHERWISE:
        yield key, float(value) if isinstance(value, int | float) and not isinstance(value, bool) else value


def lost(before: Any, after: Any) -> Counter[tuple[str, Any]]:
    """What a document said and no longer says anywhere."""
    return Counter(said(before)) - Counter(said(after))


@pytest.mark.parametrize("archive", EARLIER, ids=lambda path: path.stem)
def test_everything_an_earlier_program_wrote_comes_over(archive: Path, elsewhere: Engine) -> None:  # noqa: F811
    restore(elsewhere, archive)
    with session_maker(elsewhere).begin() as session:
        found = {job["id"]: jobs.load(session, job["id"] or "", None) for job in rows(archive, "job")}
        assert found
        for row in rows(archive, "job"):
            stored = found[row["id"]]
            assert stored.job.title == row["title"]
            now = stored.job.vehicle.model_dump(mode="json")
            assert lost(json.loads(row["vehicle_document"] or "{}"), now) == Counter()
        for stage in rows(archive, "stage"):
            job = found[stage["job_id"]]
            whole = getattr(job.job, stage["name"] or "").model_dump(mode="json")
            assert lost(json.loads(stage["document"] or "{}"), whole) == Counter(), stage["name"]
            assert job.versions[stage["name"]] == int(stage["version"] or 0)  # type: ignore[index]
        for reading in rows(archive, "measurement"):
            job = found[reading["job_id"]]
            part = job.job.measure if reading["stage"] == "measure" else job.job.prove
            assert (
                lost({"text": reading["text"], "value": float(reading["value"] or 0)}, part.model_dump()) == Counter()
            )
        for torque in rows(archive, "torque_record"):
            kept = found[torque["job_id"]].job.build.torques
            assert any(t.fastener == torque["fastener"] and t.by == torque["done_by"] for t in kept)
        for event in rows(archive, "event"):
            if event["job_id"]:
                assert any(line.by == event["by"] for line in found[event["job_id"]].history)
        for listed in vehicles.summaries(session).items:
            assert listed.trouble is None
        assert all(item.trouble is None for item in jobs.summaries(session).items)


def test_there_is_one_of_every_revision_but_the_present_one() -> None:
    versions = Path(jobs.__file__).parent / "migrations" / "versions"
    known = sorted(path.name[:4] for path in versions.glob("0*.py"))
    assert [path.stem.removeprefix("revision-") for path in EARLIER] == known[:-1]
