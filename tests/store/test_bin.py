"""The bin: a deleted job or vehicle comes back as it was, within its days."""

from datetime import timedelta

import pytest
from sqlalchemy import Engine, text

from inclinum.core.card.acts import Tick
from inclinum.jobfile import write
from inclinum.store import bin, jobs, stages, vehicles
from inclinum.store.database import session_maker
from inclinum.store.errors import Missing, Refused, Taken
from tests.store.test_archive import VAN, WHO


def test_a_deleted_job_comes_back_with_its_history_versions_and_acts(engine: Engine) -> None:
    act = Tick.model_validate({"id": "00000000-0000-4000-8000-000000000007", "step": "ready.heights", "done": True})
    with session_maker(engine).begin() as session:
        before = jobs.load(session, VAN, None)
        plan = before.job.plan.model_copy(update={"override": "so it is"})
        stages.save_stage(session, VAN, "plan", plan, before.versions["plan"], WHO)
        stages.save_acts(session, VAN, [act], lambda build, _: build, {}, WHO)
        before, file = jobs.load(session, VAN, None), write(jobs.export(session, VAN))
        bin.delete_job(session, VAN, WHO)
    with session_maker(engine).begin() as session:
        with pytest.raises(Missing):
            jobs.load(session, VAN)
        (lies,) = bin.summaries(session, 50, 0).items
        assert (lies.what, lies.title, lies.deleted_by) == ("job", before.job.title, WHO)
        assert lies.gone_on - lies.deleted_at == timedelta(days=30)
        assert bin.put_back(session, lies.id, WHO) == ("job", VAN)
    with session_maker(engine).begin() as session:
        assert jobs.load(session, VAN, None) == before
        assert write(jobs.export(session, VAN)) == file
        assert session.scalar(text("select count(*) from build_act where job_id = :id"), {"id": VAN}) == 1
        assert bin.summaries(session, 50, 0).total == 0
        # New rows are numbered on: a save after it clashes with none of those that came back.
        plan = before.job.plan.model_copy(update={"override": "and so"})
        assert stages.save_stage(session, VAN, "plan", plan, before.versions["plan"], WHO).version > 1


def test_what_is_in_the_way_is_told_and_what_is_over_is_gone(engine: Engine) -> None:
    with session_maker(engine).begin() as session:
        file = jobs.export(session, VAN)
        bin.delete_job(session, VAN, WHO)
        jobs.create(session, file, WHO)
        (lies,) = bin.summaries(session, 50, 0).items
        with pytest.raises(Taken, match="has the name"):
            bin.put_back(session, lies.id, WHO)
        assert bin.summaries(session, 50, 0).total == 1, "it lies there still"
        session.execute(text("update bin set deleted_at = deleted_at - interval '29 days'"))
        assert bin.summaries(session, 50, 0).total == 1
        session.execute(text("update bin set deleted_at = deleted_at - interval '2 days'"))
        assert bin.summaries(session, 50, 0).total == 0
        with pytest.raises(Missing, match="days are over"):
            bin.put_back(session, lies.id, WHO)


def test_a_vehicle_is_deleted_once_no_job_is_on_it_and_a_job_needs_its_vehicle_back(engine: Engine) -> None:
    with session_maker(engine).begin() as session:
        whose = {v.id: v for v in vehicles.summaries(session).items}
        number = session.scalar(text("select vehicle_id from job where id = :id"), {"id": VAN})
        assert number is not None
        stored = vehicles.load(session, number)
        with pytest.raises(Refused, match=f"{whose[number].jobs} jobs are on"):
            bin.delete_vehicle(session, number, WHO)
        on_it = list(session.scalars(text("select id from job where vehicle_id = :id"), {"id": number}))
        for job in on_it:
            bin.delete_job(session, job, WHO)
        bin.delete_vehicle(session, number, WHO)
        lying = {b.title: b.id for b in bin.summaries(session, 50, 0).items}
        assert len(lying) == len(on_it) + 1
        title = next(b.title for b in bin.summaries(session, 50, 0).items if b.what == "job")
        with pytest.raises(Refused, match="put the vehicle back first"):
            bin.put_back(session, lying[title], WHO)
        vehicle = next(b for b in bin.summaries(session, 50, 0).items if b.what == "vehicle")
        bin.put_back(session, vehicle.id, WHO)
        assert vehicles.load(session, number) == stored
        assert bin.put_back(session, lying[title], WHO)[0] == "job"


def test_a_vehicle_goes_out_as_a_file_and_comes_in_again(engine: Engine) -> None:
    with session_maker(engine).begin() as session:
        for summary in vehicles.summaries(session).items:
            file = vehicles.export(session, summary.id)
            with pytest.raises(Taken):
                vehicles.bring_in(session, file, WHO)
            renamed = file.vehicle.model_copy(update={"name": "Another", "plate": f"Z-{summary.id}"})
            made = vehicles.bring_in(session, file.model_copy(update={"vehicle": renamed, "vehicle_id": None}), WHO)
            assert vehicles.load(session, made).vehicle == renamed
