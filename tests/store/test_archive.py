"""The drill: back up while others save, restore elsewhere, compare; and what is refused."""

import hashlib
import io
import json
import shutil
import threading
import time
import zipfile
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from PIL import Image
from sqlalchemy import Engine, create_engine, text

from inclinum.core.car.job import Brief
from inclinum.demo import demo_bike_jobs, demo_jobs, demo_kind_jobs
from inclinum.launch.cluster import Cluster
from inclinum.photo import cleaned
from inclinum.store import bin, jobs, photos, stages
from inclinum.store.archive import ArchiveError, back_up, read_manifest, restore
from inclinum.store.database import migrate, open_engine, session_maker
from inclinum.store.models import Base

VAN, WHO = "van-2026-washed-out-track", "Ines Tarrow"


@pytest.fixture
def elsewhere(cluster: Cluster) -> Iterator[Engine]:
    """An empty database beside the other one."""
    admin = create_engine(cluster.url, isolation_level="AUTOCOMMIT")
    with admin.connect() as connection:
        connection.execute(text("CREATE DATABASE elsewhere"))
    url = cluster.url.removesuffix("/postgres") + "/elsewhere"
    migrate(url)
    engine = open_engine(url)
    yield engine
    engine.dispose()
    with admin.connect() as connection:
        connection.execute(text("DROP DATABASE elsewhere WITH (FORCE)"))
    admin.dispose()


def test_a_backup_made_while_others_save_is_restored_whole(engine: Engine, elsewhere: Engine, tmp_path: Path) -> None:
    ended = threading.Event()
    acknowledged: list[tuple[float, int]] = []

    def writes() -> None:
        version, n = 1, 0
        while not ended.is_set():
            n += 1
            with session_maker(engine).begin() as session:
                stored = jobs.load(session, VAN, 0).job.brief
                assert isinstance(stored, Brief)
                section = stored.model_copy(update={"purpose": f"note {n}"})
                version = stages.save_stage(session, VAN, "brief", section, version, WHO).version
            acknowledged.append((time.monotonic(), n))

    writer = threading.Thread(target=writes)
    writer.start()
    while len(acknowledged) < 3:
        time.sleep(0.01)
    began = time.monotonic()
    made = back_up(engine, tmp_path / "shop.backup")
    during = len(acknowledged)
    while len(acknowledged) < during + 3:
        time.sleep(0.01)
    ended.set()
    writer.join()

    put = restore(elsewhere, tmp_path / "shop.backup")
    assert put == made == read_manifest(tmp_path / "shop.backup")
    again = back_up(elsewhere, tmp_path / "again.backup")
    assert again.tables == made.tables
    with session_maker(elsewhere).begin() as session:
        there = jobs.load(session, VAN)
        assert there.job.brief.purpose.startswith("note ")
        number = int(there.job.brief.purpose.removeprefix("note "))
        before = max(n for at, n in acknowledged if at < began)
        assert before <= number <= acknowledged[-1][1], "a moment between beginning and end, and nothing before is lost"
        assert there.versions["brief"] == number + 1
        assert len(there.history) == min(200, number + 1), "each save has its line, as at that moment"
        assert stages.save_stage(session, VAN, "brief", there.job.brief.model_copy(update={"load": "new"}),
                               number + 1, WHO).version == number + 2, "rows are numbered on"  # fmt: skip


def test_a_database_with_something_in_it_is_only_replaced_when_told(
    engine: Engine, elsewhere: Engine, tmp_path: Path
) -> None:
    made = back_up(engine, tmp_path / "a.backup")
    with pytest.raises(ArchiveError, match="nothing is written over a backup"):
        back_up(engine, tmp_path / "a.backup")
    restore(elsewhere, tmp_path / "a.backup")
    with session_maker(elsewhere).begin() as session:
        bin.delete_job(session, VAN, WHO)
    with pytest.raises(ArchiveError, match="--replace"):
        restore(elsewhere, tmp_path / "a.backup")
    with session_maker(elsewhere).begin() as session:
        assert VAN not in {j.id for j in jobs.summaries(session).items}, "a refusal changes nothing"
    assert restore(elsewhere, tmp_path / "a.backup", replace=True).tables == made.tables
    with session_maker(elsewhere).begin() as session:
        assert VAN in {j.id for j in jobs.summaries(session).items}
    assert not list(tmp_path.glob("*.part"))


def test_a_damaged_archive_is_refused_before_anything_is_touched(
    engine: Engine, elsewhere: Engine, tmp_path: Path
) -> None:
    good = tmp_path / "good.backup"
    back_up(engine, good)
    data = good.read_bytes()
    (tmp_path / "cut").write_bytes(data[: len(data) // 2])
    (tmp_path / "none").write_text("no archive")
    with zipfile.ZipFile(good) as source, zipfile.ZipFile(tmp_path / "changed", "w") as out:
        for item in source.namelist():
            member = source.read(item)
            out.writestr(item, member.replace(b"Ines Tarrow", b"Ines Tarrov") if item == "tables/person" else member)
    with zipfile.ZipFile(good) as source, zipfile.ZipFile(tmp_path / "later", "w") as out:
        for item in source.namelist():
            out.writestr(item, source.read(item).replace(b'"revision": "0', b'"revision": "9'))
    for name, words in (
        ("cut", "cut off"), ("none", "no backup"), ("changed", "person is not as it was"), ("later", "later version"),
        ("nowhere", "No such file"),
    ):  # fmt: skip
        with pytest.raises(ArchiveError, match=words):
            restore(elsewhere, tmp_path / name)
    with elsewhere.connect() as connection:
        assert connection.scalar(text("select count(*) from person")) == 0
    with pytest.raises(ArchiveError, match="cannot be written"):
        back_up(engine, tmp_path / "no such folder" / "a.backup")
    shutil.copy(good, tmp_path / "whole")
    held = len(demo_jobs()) + len(demo_kind_jobs()) + len(demo_bike_jobs())
    assert read_manifest(tmp_path / "whole").summary().startswith(f"{held} jobs")


def edited(good: Path, to: Path, edit: Callable[[dict], object]) -> Path:
    """The archive with another manifest."""
    with zipfile.ZipFile(good) as source, zipfile.ZipFile(to, "w") as out:
        for item in source.namelist():
            member = source.read(item)
            if item == "manifest.json":
                manifest = json.loads(member)
                edit(manifest)
                member = json.dumps(manifest).encode()
            out.writestr(item, member)
    return to


@pytest.mark.parametrize("table", sorted(Base.metadata.tables))
def test_an_archive_that_leaves_a_table_out_is_refused_and_nothing_is_lost(
    engine: Engine, tmp_path: Path, table: str
) -> None:
    good = tmp_path / "good"
    back_up(engine, good)
    less = edited(good, tmp_path / "less", lambda m: m["tables"].pop(table))
    with pytest.raises(ArchiveError, match=f"its table {table} is left out"):
        restore(engine, less, replace=True)
    with session_maker(engine).begin() as session:
        assert VAN in {j.id for j in jobs.summaries(session, limit=100).items}


def test_an_archive_with_an_odd_manifest_is_told_in_a_sentence(engine: Engine, tmp_path: Path) -> None:
    good = tmp_path / "good"
    back_up(engine, good)
    nothing = hashlib.sha256(b"").hexdigest()
    edits: list[tuple[Callable[[dict], object], str]] = [
        (lambda m: m["tables"].clear(), "is left out"),
        (lambda m: m["tables"].update(stray={"columns": ["id"], "rows": 0, "sha256": nothing}), "no backup"),
        (lambda m: m["tables"]["person"]["columns"].reverse(), "cannot be put in|did not arrive"),
        (lambda m: m["tables"]["person"]["columns"].pop(), "columns of its table person"),
        (lambda m: m["tables"]["person"]["columns"].append("id"), "columns of its table person"),
        (lambda m: m.update(revision="0003"), "left out|never was|columns"),
        (lambda m: m.update(revision=""), "later version"),
        (lambda m: m["tables"].update(person=None), "no backup"),
    ]
    for n, (edit, words) in enumerate(edits):
        with pytest.raises(ArchiveError, match=words):
            restore(engine, edited(good, tmp_path / f"odd{n}", edit), replace=True)
    with session_maker(engine).begin() as session:
        assert VAN in {j.id for j in jobs.summaries(session, limit=100).items}


def test_photographs_come_back_from_a_backup(engine: Engine, elsewhere: Engine, tmp_path: Path) -> None:
    picture = io.BytesIO()
    Image.new("RGB", (64, 48), "grey").save(picture, "PNG")
    photo = cleaned(picture.getvalue())
    with session_maker(engine).begin() as session:
        photos.keep(session, photo, WHO)
        photos.keep(session, photo, WHO)
    made = back_up(engine, tmp_path / "shop.backup")
    assert made.tables["photo"].rows == 1
    restore(elsewhere, tmp_path / "shop.backup")
    with session_maker(elsewhere)() as session:
        assert photos.load(session, photo.id) == photo.data
