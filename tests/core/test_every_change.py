"""Every archetype takes every change that fits it, or says in a sentence why not; taken back it leaves no trace."""

import pytest

from inclinum.core.car.archetypes import ARCHETYPES, vehicle_of
from inclinum.core.car.changes import CHANGE_TYPES, PlannedChange, begin
from inclinum.core.car.job import AxleAim, Brief, Job, Plan
from inclinum.core.car.prediction import predict
from inclinum.core.car.stood import stand_changed, stand_measured
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AXLES, AxleName
from inclinum.core.quantity import Length

LEVEL = AxleAim(rise=Length.model_validate("0 mm"))
KINDS = [k.model_fields["type"].default for k in CHANGE_TYPES]
AT = [(key, end) for key, a in ARCHETYPES.items() for end in a.where]


def job_on(key: str, end: AxleName, *changes: PlannedChange) -> Job:
    """A job on a vehicle whose one end is of an archetype, the other of a plain one."""
    size = "off_roader" if "axle" in key else "car"
    front, rear = (key, "trailing") if end == "front" else ("strut_front", key)
    vehicle = vehicle_of(front, rear, size, "Plain")
    brief = Brief(owner="Shop", front=LEVEL, rear=LEVEL)
    return Job(id="law", title="Law", vehicle=vehicle, brief=brief, plan=Plan(changes=changes))


def begun(kind: str, end: AxleName, job: Job) -> PlannedChange | str:
    """The change to begin with, or why there is none."""
    try:
        return begin(kind, end, job.vehicle, job.plan.changes)
    except DomainError as no:
        return str(no)


@pytest.mark.parametrize(("key", "end"), AT)
def test_an_archetype_takes_every_change_that_fits_it_and_gives_it_back(key: str, end: AxleName) -> None:
    job, taken = job_on(key, end), 0
    bare = stand_measured(job)
    for kind in KINDS:
        planned = begun(kind, end, job)
        if isinstance(planned, str):
            assert f" {end} " in planned, kind
            assert planned[0].isupper(), planned
            assert planned.endswith("."), planned
            continue
        taken += 1
        found = predict(job.model_copy(update={"plan": Plan(changes=(planned,))}))
        assert found.axle(end).rise == pytest.approx(getattr(found.shares[0], end), abs=1e-6), kind
        assert planned.change.place, kind
        assert planned.change.costs, kind
        said = (planned.change.summary(), *planned.change.parts(job.vehicle), *planned.change.steps(job.vehicle))
        assert all(said), kind
        assert "None" not in " ".join(said), kind
        back = stand_changed(bare, (planned.model_copy(update={"on": False}),))
        assert [back.axle(name) for name in AXLES] == [bare.axle(name) for name in AXLES], kind
    assert taken >= 14
