"""Jobs in the database: exact, versioned, with a history."""

import pytest
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from sqlalchemy import Engine, text

from inclinum.core.car.changes import PlannedChange, SeatSpacer
from inclinum.core.car.job import Job, Plan
from inclinum.core.car.vehicle import Vehicle
from inclinum.jobfile import write
from inclinum.launch.demo import load_demo
from inclinum.store import bin, jobs, stages, vehicles
from inclinum.store.database import session_maker
from inclinum.store.errors import Conflict
from inclinum.store.models import Base

JOB = "van-2026-washed-out-track"
WHO = "Ines Tarrow"


def spacer(mm: float) -> Plan:
    return Plan(changes=(PlannedChange(id="c9", change=SeatSpacer(axle="rear", thickness_mm=mm)),))


def test_migrations_make_exactly_the_models(engine: Engine) -> None:
    with engine.connect() as connection:
        assert compare_metadata(MigrationContext.configure(connection), Base.metadata) == []


def test_demo_data_goes_in_once_and_comes_out_whole(engine: Engine, in_hand: Job) -> None:
    assert not load_demo(engine)
    with session_maker(engine).begin() as session:
        assert jobs.load(session, JOB).job == in_hand
        assert next(s.id for s in jobs.summaries(session).items if s.kind == "car") == JOB


def test_saving_makes_a_version_and_one_event_in_words(engine: Engine) -> None:
    with session_maker(engine).begin() as session:
        before = jobs.load(session, JOB)
        assert stages.save_stage(session, JOB, "plan", spacer(12), before.versions["plan"], WHO).version == 2
    with session_maker(engine).begin() as session:
        after = jobs.load(session, JOB)
        assert after.job.plan == spacer(12)
        assert len(after.history) == len(before.history) + 1
        assert (after.history[-1].by, after.versions["plan"]) == (WHO, 2)
        prediction = after.history[-1].what
        assert prediction.startswith("plan: changes removed: id c1")
        assert "changes added: id c9, on yes, change axle rear, type seat_spacer" in prediction
        assert "thickness 12 mm" in prediction
        assert stages.save_stage(session, JOB, "plan", spacer(12), 2, WHO).version == 2, (
            "nothing changed, nothing is written"
        )


def test_a_second_writer_overwrites_nothing_and_sees_both(engine: Engine) -> None:
    with session_maker(engine).begin() as session:
        stages.save_stage(session, JOB, "plan", spacer(12), 1, WHO)
    with session_maker(engine)() as session, pytest.raises(Conflict) as clash:
        stages.save_stage(session, JOB, "plan", spacer(20), 1, "Bram Okkel")
    assert (clash.value.theirs, clash.value.version, clash.value.by) == (spacer(12), 2, WHO)
    with session_maker(engine).begin() as session:
        assert jobs.load(session, JOB).job.plan == spacer(12)


def test_readings_and_torques_can_be_asked_across_jobs(engine: Engine, jobs: list[Job]) -> None:
    with engine.connect() as connection:
        rear = connection.execute(
            text("select job_id, value from measurement where stage='measure' and kind='corners' and place='rear'"
                 " and side='left' and quantity='hub_to_arch' and job_id like 'van-%' order by value")
        ).all()  # fmt: skip
        torques = connection.scalar(text("select count(*) from torque_record"))
    assert [(r.job_id, r.value) for r in rear] == [
        ("van-2024-rear-sag", 383.0), (JOB, 397.0), ("van-2025-front-springs", 398.0),
    ]  # fmt: skip
    assert torques == sum(len(j.build.torques) for j in jobs)


def test_export_delete_import_export_is_the_same_text(engine: Engine) -> None:
    maker = session_maker(engine)
    with maker.begin() as session:
        stages.save_stage(session, JOB, "plan", spacer(12), 1, WHO)
        file = jobs.export(session, JOB)
        before = write(file)
        bin.delete_job(session, JOB, WHO)
    with maker.begin() as session:
        with pytest.raises(jobs.Missing, match="may have been deleted"):
            jobs.load(session, JOB)
        jobs.create(session, file, WHO)
    with maker.begin() as session:
        assert write(jobs.export(session, JOB)) == before
        with pytest.raises(jobs.Taken):
            jobs.create(session, file, WHO)
        whole_shop = session.execute(text("select what from event where job_id is null order by id")).scalars().all()
    prediction = [w.split(" ")[0] for w in whole_shop if not w.startswith("set up the vehicle")]
    assert prediction == ["deleted", "imported"]


def test_a_list_is_narrowed_and_ordered_as_it_is_asked(engine: Engine) -> None:
    with session_maker(engine).begin() as session:
        every = jobs.summaries(session, 100)
        ids = [s.id for s in every.items]
        finished = [s.id for s in every.items if s.signed_off]
        assert 0 < len(finished) < every.total == len(ids)
        assert [s.id for s in jobs.summaries(session, 100, state="finished").items] == finished
        opened = jobs.summaries(session, 100, state="open")
        assert [s.id for s in opened.items] == [i for i in ids if i not in finished]
        assert opened.total == len(opened.items)
        two = jobs.summaries(session, 100, kind="bike")
        assert {s.kind for s in two.items} == {"bike"}
        assert two.total == sum(s.kind == "bike" for s in every.items)
        assert jobs.summaries(session, 100, kind="sledge").total == 0
        titles = [s.title for s in jobs.summaries(session, 100, order="title").items]
        assert sorted(titles, key=str.lower)[0].lower() == min(titles, key=str.lower).lower()
        assert len(titles) == every.total
        touched = [s.saved_at for s in jobs.summaries(session, 100, order="saved").items]
        assert touched == sorted(touched, reverse=True)
        # A date gone by is one before today; a job signed off is not overdue.
        first = next(s.id for s in opened.items)
        session.execute(text("UPDATE job SET due = current_date - 1 WHERE id = :id"), {"id": first})
        session.execute(text("UPDATE job SET due = current_date - 1 WHERE id = :id"), {"id": finished[0]})
        session.execute(text("UPDATE job SET due = current_date WHERE id = :id"), {"id": opened.items[1].id})
        late = [s.id for s in jobs.summaries(session, 100, state="overdue").items]
        assert first in late
        assert finished[0] not in late
        assert opened.items[1].id not in late
        paged = [s.id for n in range(0, every.total, 5) for s in jobs.summaries(session, 5, n, order="title").items]
        assert len(set(paged)) == every.total


def test_a_list_shows_each_machine_by_its_own_outline(engine: Engine) -> None:
    with session_maker(engine).begin() as session:
        for summary in (*jobs.summaries(session, 100).items, *vehicles.summaries(session, 100).items):
            drawn = summary.silhouette
            assert drawn is not None
            if summary.kind == "bike":
                assert drawn.archetype
                continue
            assert len(drawn.body) > 10
            if isinstance(summary, jobs.JobSummary):
                vehicle = jobs.load(session, summary.id).job.vehicle
                assert isinstance(vehicle, Vehicle)
                assert drawn.body == vehicle.outline.body
                assert drawn.radii == (vehicle.front.tyre_radius_mm, vehicle.rear.tyre_radius_mm)
        # What was measured of it shows on the list as it does on the bench, on every kind of axle.
        measured = '{"front_overhang_mm": 1111, "rear_overhang_mm": 1555, "roof_mm": 2222}'
        # On some the front arch is the higher one, on the others the rear.
        end = "CASE WHEN id % 2 = 0 THEN ARRAY['front', 'hub_to_arch_mm'] ELSE ARRAY['rear', 'hub_to_arch_mm'] END"
        sized = f"jsonb_set(document || CAST(:measured AS jsonb), {end}, '640')"
        update = text(f"UPDATE vehicle SET document = {sized} WHERE wheels = 4")
        session.execute(update, {"measured": measured})
        session.expire_all()
        seen = [v for v in vehicles.summaries(session, 100).items if v.kind == "car"]
        for shown in seen:
            drawn = shown.silhouette
            assert drawn is not None
            vehicle = vehicles.load(session, shown.id).vehicle
            assert isinstance(vehicle, Vehicle)
            assert drawn.body == vehicle.drawn.body
            assert drawn.body != vehicle.outline.body
        assert len(seen) > 5
        session.execute(text('UPDATE vehicle SET document = document || \'{"wheelbase_mm": "long"}\' WHERE wheels = 4'))
        broken = [v for v in vehicles.summaries(session, 100).items if v.kind == "car"]
        assert broken
        assert all(v.silhouette is None for v in broken), "what is none has no silhouette, and breaks no list"
