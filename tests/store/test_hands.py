"""Many hands on one database: the end is what some order of them would have given, and nobody is told wrong."""

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from itertools import permutations
from threading import Barrier
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from sqlalchemy import Engine, text

from inclinum.core.bike.job import BikeMeasurements
from inclinum.core.car.job import Brief, Job
from inclinum.core.card.record import SignOff
from inclinum.core.document import Document
from inclinum.core.document.names import STAGES, StageName
from inclinum.demo import demo_bike_jobs, demo_jobs
from inclinum.jobfile import BikeFile, JobFile
from inclinum.store import bin, jobs, stages, vehicles
from inclinum.store.database import session_maker
from inclinum.store.errors import Conflict, Missing, Refused

VAN, WHIN = "van-2026-washed-out-track", "whin-2026-lower"
WHO = "Ines Tarrow"


def at_once(work: list[Callable[[], Any]]) -> list[Any]:
    """Results, or errors, of pieces of work that begin at the same moment."""
    gate = Barrier(len(work))

    def one(piece: Callable[[], Any]) -> Any:
        gate.wait()
        try:
            return piece()
        except Exception as error:
            return error

    with ThreadPoolExecutor(len(work)) as pool:
        return list(pool.map(one, work))


def another(section: Document, n: int) -> Document:
    """The stage with something else in it, in its document and, where it has some, in its rows."""
    document = section.model_dump(mode="json")
    reading = {"text": f"{390 + n}", "value": 390.0 + n, "tolerance": None, "unit": "mm"}
    corner = {"axle": "rear", "side": "left", "quantity": "hub_to_arch", "reading": reading}
    match type(section).__name__:
        case "Brief" | "BikeBrief":
            document |= {"purpose": f"writer {n}", "owner": f"Owner {n}"}
        case "Plan" | "BikePlan":
            document["override"] = f"writer {n}"
        case "Measurements":
            document |= {"corners": [corner], "note": f"writer {n}"}
        case "Prove":
            document["after"] |= {"corners": [corner], "note": f"writer {n}"}
        case "BikeProve":
            document["after"] |= {"note": f"writer {n}"}
        case "Build":
            torque = {"text": f"{80 + n}", "value": 80.0 + n, "tolerance": None, "unit": "nm"}
            at = "2026-05-04T08:00:00Z"
            document["torques"] = [
                {"fastener": "hub", "axle": "front", "side": None, "torque": torque, "done_at": at, "by": WHO}
            ]
        case _:
            document["note"] = f"writer {n}"
    return type(section).model_validate(document)


@dataclass
class Shop:
    """The database of a test, asked in transactions of their own."""

    engine: Engine

    def do(self, work: Callable[..., Any], *given: Any, **named: Any) -> Any:
        with session_maker(self.engine).begin() as session:
            done = work(session, *given, **named)
        return done.version if isinstance(done, stages.Written | vehicles.Written) else done

    def fresh(self, job_id: str) -> jobs.StoredJob:
        """The demo job as it first was."""
        with self.engine.begin() as connection:
            connection.execute(text("delete from job"))
        demo = next(j for j in (*demo_jobs(), *demo_bike_jobs()) if j.id == job_id)
        self.do(jobs.create, JobFile(job=demo) if isinstance(demo, Job) else BikeFile(job=demo), WHO)
        return self.do(jobs.load, job_id)


@pytest.fixture
def shop(engine: Engine) -> Shop:
    return Shop(engine)


@settings(deadline=None, max_examples=24, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(job_id=st.sampled_from([VAN, WHIN]), stage=st.sampled_from(STAGES), writers=st.integers(2, 4), data=st.data())
def test_of_many_writers_of_a_stage_one_is_first_and_the_others_see_what_it_wrote(
    shop: Shop, job_id: str, stage: StageName, writers: int, data: st.DataObject
) -> None:
    before = shop.fresh(job_id)
    section = getattr(before.job, stage)
    versions = [data.draw(st.sampled_from([1, 1, 1, 2])) for _ in range(writers)]
    wanted = [another(section, n) for n in range(writers)]
    prediction = at_once(
        [
            lambda n=n: shop.do(stages.save_stage, job_id, stage, wanted[n], versions[n], WHO) for n in range(writers)
        ]
    )  # fmt: skip
    assert all(isinstance(t, int | Conflict) for t in prediction), prediction

    def serially(order: tuple[int, ...]) -> tuple[Document, int]:
        stands, version = section, 1
        for n in order:
            if versions[n] == version:
                stands, version = wanted[n], version + 1
        return stands, version

    after = shop.do(jobs.load, job_id)
    end = (getattr(after.job, stage), after.versions[stage])
    assert end in [serially(order) for order in permutations(range(writers))]
    assert len(after.history) == len(before.history) + sum(isinstance(t, int) for t in prediction)
    # Whoever lost is given what was stored at that moment, rows included: never the version of one and the
    # readings of another.
    pairs = {(1, section.model_dump_json())}
    pairs |= {(t, wanted[n].model_dump_json()) for n, t in enumerate(prediction) if isinstance(t, int)}
    for t in prediction:
        if isinstance(t, Conflict):
            assert (t.version, t.theirs.model_dump_json()) in pairs
    summary = shop.do(jobs.summaries).items[0]
    assert summary.owner == after.job.brief.owner


@pytest.mark.parametrize("turn", range(6))
def test_a_machine_found_in_a_job_and_one_set_on_its_bench_are_never_both_written(shop: Shop, turn: int) -> None:
    job = shop.fresh(WHIN).job
    assert not isinstance(job, Job)
    with shop.engine.begin() as connection:
        vehicle_id = connection.scalar(text("select vehicle_id from job"))
        connection.execute(
            text("update vehicle set document = (select vehicle_document from job), version = 1 where id = :id"),
            {"id": vehicle_id},
        )
    found = job.measure.model_copy(update={"machine": job.vehicle.model_copy(update={"preload_mm": 11.0})})
    bench = job.vehicle.model_copy(update={"description": "corrected on the bench"})
    prediction = at_once(
        [
            lambda: shop.do(stages.save_stage, WHIN, "measure", found, 1, WHO),
            lambda: shop.do(vehicles.save, vehicle_id, bench, 1, "Bram Okkel"),
        ]
    )
    assert prediction[0] == 2, "a job keeps what it found in any case"
    stored = shop.do(vehicles.load, vehicle_id)
    assert stored.version == 2, "of two versions one was not written"
    assert stored.vehicle == (bench if prediction[1] == 2 else found.machine)
    if prediction[1] != 2:
        assert isinstance(prediction[1], Conflict)
        assert prediction[1].theirs == found.machine
    else:
        assert "was changed since and stays" in shop.do(jobs.load, WHIN).history[-1].what


def test_of_two_on_one_stage_each_keeps_what_only_they_changed_and_both_are_asked_about_the_rest(shop: Shop) -> None:
    base = shop.fresh(VAN).job.brief
    assert isinstance(base, Brief)
    mine = base.model_copy(update={"purpose": "mine", "load": "mine"})
    theirs = base.model_copy(update={"reference": "theirs", "load": "theirs", "due": None})
    shop.do(stages.save_stage, VAN, "brief", theirs, 1, "Bram Okkel", base=base)
    with pytest.raises(Conflict) as clash:
        shop.do(stages.save_stage, VAN, "brief", mine, 1, WHO, base=base)
    assert [(c.where, c.mine, c.theirs) for c in clash.value.contested] == [
        ("On board when heights are taken", "mine", "theirs")
    ]
    with shop.engine.begin() as connection:
        assert connection.scalar(text("select version from stage where name = 'brief'")) == 2, "nothing was written"
    chosen = {"load": "mine"}
    assert shop.do(stages.save_stage, VAN, "brief", mine, 1, WHO, base=base, chosen=chosen) == 3
    stands = shop.do(jobs.load, VAN).job.brief
    assert (stands.purpose, stands.load, stands.reference, stands.due) == ("mine", "mine", "theirs", None)
    # Whoever does not say what it was made on is asked about every difference, also where one of both has nothing.
    with pytest.raises(Conflict) as blind:
        shop.do(stages.save_stage, VAN, "brief", base, 1, WHO)
    assert {c.path for c in blind.value.contested} == {"purpose", "load", "reference", "due"}


def test_new_owners_are_brought_by_many_at_once_without_waiting_in_a_circle(shop: Shop) -> None:
    job = shop.fresh(VAN).job
    assert isinstance(job, Job)
    brief = job.brief.model_copy(update={"owner": "Brand New"})

    def brought(n: int) -> JobFile:
        vehicle = job.vehicle.model_copy(update={"name": f"Another {n % 3}", "plate": "Q-1"})
        return JobFile(job=job.model_copy(update={"id": f"brought-{n}", "brief": brief, "vehicle": vehicle}))

    work: list[Callable[[], Any]] = [lambda n=n: shop.do(jobs.create, brought(n), WHO) for n in range(8)]
    work += [lambda: shop.do(stages.save_stage, VAN, "brief", brief, 1, WHO)]
    prediction = at_once(work)
    assert prediction == [None] * 8 + [2], prediction
    with shop.engine.connect() as connection:
        assert connection.scalar(text("select count(*) from owner where name = 'Brand New'")) == 1
        assert connection.scalar(text("select count(*) from vehicle where plate = 'Q-1'")) == 3


def test_a_job_deleted_while_it_is_saved_is_gone_or_was_saved_before(shop: Shop) -> None:
    for _ in range(5):
        plan = shop.fresh(VAN).job.plan
        prediction = at_once(
            [
                lambda: shop.do(bin.delete_job, VAN, WHO),
                *(
                    lambda n=n, plan=plan: shop.do(stages.save_stage, VAN, "plan", another(plan, n), 1, WHO)
                    for n in range(3)
                ),
            ]
        )
        assert prediction[0] is None
        assert all(isinstance(t, int | Missing | Conflict) for t in prediction[1:]), prediction


def test_only_signing_off_sets_a_signature_and_it_holds_for_what_was_measured(shop: Shop) -> None:
    job = shop.fresh(VAN).job
    signature = SignOff.model_validate({"by": WHO, "at": "2026-05-04T08:00:00Z"})
    signed = job.prove.model_copy(update={"sign_off": signature})
    with pytest.raises(Refused, match="set by signing off"):
        shop.do(stages.save_stage, VAN, "prove", signed, 1, WHO)
    assert shop.do(stages.save_stage, VAN, "prove", signed, 1, WHO, signing="signed off") == 2
    for change in (another(signed, 3), job.prove):
        with pytest.raises(Refused, match="withdraw the signature first"):
            shop.do(stages.save_stage, VAN, "prove", change, 2, WHO)
    assert shop.do(jobs.summaries).items[0].signed_off == signature.at
    assert shop.do(stages.save_stage, VAN, "prove", job.prove, 2, WHO, signing="withdrew it: wrong tape") == 3
    stored = shop.do(jobs.load, VAN)
    assert stored.history[-1].what == "withdrew it: wrong tape"
    assert shop.do(jobs.summaries).items[0].signed_off is None


def test_a_stage_is_of_its_jobs_kind_in_the_store_and_in_the_database(shop: Shop) -> None:
    car = shop.fresh(VAN).job
    with pytest.raises(Missing, match="on four wheels"):
        shop.do(stages.save_stage, VAN, "measure", BikeMeasurements(), 1, WHO)
    with shop.engine.connect() as connection, pytest.raises(Exception, match="stage_of_kind"):
        connection.execute(text("update stage set wheels = 2 where job_id = :id and name = 'plan'"), {"id": VAN})
    bike = demo_bike_jobs()[0]
    named_alike = bike.vehicle.model_copy(update={"name": car.vehicle.name, "plate": car.vehicle.plate})
    shop.do(jobs.create, BikeFile(job=bike.model_copy(update={"id": "two", "vehicle": named_alike})), WHO)
    with shop.engine.connect() as connection:
        kinds = connection.execute(
            text("select wheels, document ? 'fork' from vehicle where name = :n"), {"n": car.vehicle.name}
        ).all()  # fmt: skip
    assert sorted(map(tuple, kinds)) == [(2, True), (4, False)]


def test_two_vehicles_without_a_plate_are_two_whatever_their_name(shop: Shop) -> None:
    car = shop.fresh(VAN)
    assert isinstance(car.job, Job)
    plain = car.job.vehicle.model_copy(update={"plate": "", "name": "Van"})
    for n, mass in enumerate((1800.0, 2100.0, 2100.0)):
        vehicle = plain.model_copy(update={"mass_kg": mass})
        shop.do(jobs.create, JobFile(job=car.job.model_copy(update={"id": f"v{n}", "vehicle": vehicle})), WHO)
    with shop.engine.connect() as connection:
        of = {r.id: r.vehicle_id for r in connection.execute(text("select id, vehicle_id from job where id like 'v_'"))}
    assert of["v0"] != of["v1"] == of["v2"]
    exported = shop.do(jobs.export, "v0")
    shop.do(bin.delete_job, "v0", WHO)
    shop.do(jobs.create, exported, WHO)
    with shop.engine.connect() as connection:
        again = connection.scalar(text("select vehicle_id from job where id = 'v0'"))
    assert again == of["v0"], "its id tells which of them it is"
    assert shop.do(jobs.export, "v0") == exported, "created_at and all"


@pytest.mark.parametrize("turn", range(4))
def test_of_many_writers_of_a_vehicle_one_is_first_and_the_others_see_it(shop: Shop, turn: int) -> None:
    with shop.engine.begin() as connection:
        vehicle_id = connection.scalar(text("select id from vehicle where plate = 'Q-0417'"))
    before = shop.do(vehicles.load, vehicle_id)
    wanted = [before.vehicle.model_copy(update={"description": f"writer {turn}.{n}"}) for n in range(4)]
    prediction = at_once([lambda n=n: shop.do(vehicles.save, vehicle_id, wanted[n], 1, WHO) for n in range(4)])
    first = [n for n, t in enumerate(prediction) if t == 2]
    assert len(first) == 1, prediction
    assert all(
        isinstance(t, Conflict) and t.theirs == wanted[first[0]] and t.version == 2 for t in prediction if t != 2
    )
    after = shop.do(vehicles.load, vehicle_id)
    assert (after.vehicle, after.version) == (wanted[first[0]], 2)
    listed = next(v for v in shop.do(vehicles.summaries).items if v.id == vehicle_id)
    assert listed.description == f"writer {turn}.{first[0]}"


@pytest.mark.parametrize("job_id", [VAN, WHIN])
def test_the_list_tells_where_work_goes_on_as_a_job_opened_whole_would(shop: Shop, job_id: str) -> None:
    """The columns a save writes beside the documents agree with those of a job that comes in as it then is."""
    shop.fresh(job_id)
    seen = set()
    for stage in STAGES:
        stored = shop.do(jobs.load, job_id)
        section = getattr(stored.job, stage)
        for n, wanted in enumerate(
            (another(section, 5), type(section).model_construct() if stage == "build" else section)
        ):
            shop.do(stages.save_stage, job_id, stage, wanted, stored.versions[stage] + n, WHO)
            listed = shop.do(jobs.summaries).items[0]
            exported = shop.do(jobs.export, job_id)
            copy = exported.model_copy(update={"job": exported.job.model_copy(update={"id": "copy"})})
            shop.do(jobs.create, copy, WHO)
            fresh = next(j for j in shop.do(jobs.summaries).items if j.id == "copy")
            shop.do(bin.delete_job, "copy", WHO)
            same = ("stage", "owner", "due", "front_rise", "rear_rise", "signed_off", "vehicle", "plate")
            assert {f: getattr(listed, f) for f in same} == {f: getattr(fresh, f) for f in same}, stage
            seen.add(listed.stage)
    assert len(seen) >= 2
