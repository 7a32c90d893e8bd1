"""Every archetype takes every change that fits it, or says in a sentence why not; taken back it leaves no trace."""

from itertools import pairwise

import numpy as np
import pytest

from inclinum.core.car.archetypes import ARCHETYPES, vehicle_of
from inclinum.core.car.archetypes.respring import kinds_for, respring
from inclinum.core.car.attached import FlexLine, HalfShaft, PropShaft, SpringSeats, TyreGap, UBolts
from inclinum.core.car.changes import CHANGE_TYPES, PlannedChange, begin
from inclinum.core.car.job import AxleAim, Brief, Job, Plan
from inclinum.core.car.prediction import predict
from inclinum.core.car.stood import rises, stand_changed, stand_measured
from inclinum.core.car.vehicle import Axle, StrutTop
from inclinum.core.document import Document
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


def equipped(job: Job, end: AxleName) -> Job:
    """The same with every figure a shop can enter, and on tender and main springs where they go."""
    axle = job.vehicle.axle(end)
    if "dual_rate_stack" in kinds_for(axle):
        axle = respring(axle, "dual_rate_stack")
    ahead = -1 if end == "front" else 1
    coupled = axle.linkage.coupled
    inner = 0.25 * axle.track_mm
    figures: dict[str, object] = {
        "seats": SpringSeats(lower_mm=100, upper_mm=100, inside_mm=60), "tyre_width_mm": 215.0, "full_lock": 30.0,
        "tyre_gaps": (TyreGap(name="guard", gap_mm=40, at=(300.0, 600.0, 420.0)),),
        "strut_top": StrutTop(stud_length_mm=34, stud_diameter_mm=8, nut_height_mm=8, bonnet_gap_mm=30),
        "lines": (FlexLine(name="hose", body=(60, 450, 600), wheel=(40, 640, 380), length_mm=480),),
        "u_bolts": UBolts(tube_mm=70, plate_mm=12, nut_mm=12) if axle.spring.type == "leaf_pack" else None,
        "half_shaft": None if coupled else HalfShaft(inner=(0.0, inner, 320.0)),
        "prop_shaft": PropShaft(gearbox_joint=(1300.0 * ahead, 0, 460), pinion_joint=(200.0 * ahead, 0, 380))
        if coupled
        else None,
    }  # fmt: skip
    fitted = Axle.model_validate(axle.model_dump() | {n: f.model_dump() if isinstance(f, Document) else f for n, f in
                                                      figures.items()})  # fmt: skip
    return job.model_copy(update={"vehicle": job.vehicle.model_copy(update={end: fitted, "cg_height_mm": 640.0})})


@pytest.mark.parametrize(("key", "end"), AT)
def test_plans_looked_at_together_rise_as_each_stands_alone(key: str, end: AxleName) -> None:
    """A search solves many plans at once: other arms, levels and stops among them."""
    job = job_on(key, end)
    base = stand_measured(job)
    taken = [p for kind in KINDS if not isinstance(p := begun(kind, end, job), str)]
    plans = [(), *((p,) for p in taken), *pairwise(taken)]
    alone = []
    for plan in plans:
        try:
            alone.append(stand_changed(base, plan).axle(end).rise)
        except DomainError:
            alone.append(np.nan)
    for order in (slice(None), slice(None, None, -1)):
        together = rises(base, plans[order], end)
        np.testing.assert_allclose(together, alone[order], atol=1e-6)
    assert np.ptp([r for r in alone if np.isfinite(r)]) > 10


def test_each_share_of_a_stack_is_what_the_stack_gains_by_it() -> None:
    """Bags held 20 mm higher on a lowered subframe: every step of it by itself."""
    job = job_on("wishbones", "front")
    stack: tuple[PlannedChange, ...] = ()
    for kind in ("air_springs", "air_height", "subframe_lowered", "arm_length", "tower_plate"):
        planned = begun(kind, "front", job.model_copy(update={"plan": Plan(changes=stack)}))
        if not isinstance(planned, str):
            stack = (*stack, planned)
    assert [p.change.type for p in stack[:3]] == ["air_springs", "air_height", "subframe_lowered"]
    risen = [
        predict(job.model_copy(update={"plan": Plan(changes=stack[:n])})).front.rise for n in range(len(stack) + 1)
    ]
    shares = predict(job.model_copy(update={"plan": Plan(changes=stack)})).shares
    assert [s.front for s in shares] == pytest.approx(np.diff(risen).tolist(), abs=1e-6)
    assert shares[1].front == pytest.approx(20, abs=0.01)


@pytest.mark.parametrize("full", [False, True], ids=["bare", "equipped"])
@pytest.mark.parametrize(("key", "end"), AT)
def test_an_archetype_takes_every_change_that_fits_it_and_gives_it_back(key: str, end: AxleName, full: bool) -> None:
    job, taken = job_on(key, end), set()
    if full:
        job = equipped(job, end)
    bare = stand_measured(job)
    for kind in KINDS:
        planned = begun(kind, end, job)
        if isinstance(planned, str):
            assert f" {end} " in planned, kind
            assert planned[0].isupper(), planned
            assert planned.endswith("."), planned
            continue
        taken.add(kind)
        found = predict(job.model_copy(update={"plan": Plan(changes=(planned,))}))
        assert found.axle(end).rise == pytest.approx(getattr(found.shares[0], end), abs=1e-6), kind
        assert planned.change.place, kind
        assert planned.change.costs, kind
        said = (planned.change.summary(), *planned.change.parts(job.vehicle), *planned.change.steps(job.vehicle))
        assert all(said), kind
        assert "None" not in " ".join(said), kind
        back = stand_changed(bare, (planned.model_copy(update={"on": False}),))
        assert [back.axle(name) for name in AXLES] == [bare.axle(name) for name in AXLES], kind
    assert len(taken) >= 14
    axle = job.vehicle.axle(end)
    if full:
        assert ("top_plate" in taken) != axle.linkage.coupled, "slots set the angles of a wheel that hangs on its own"
        assert ("prop_shaft" in taken) == axle.linkage.coupled
        assert ("crossover_ring" in taken) == (axle.spring.type == "dual_rate_stack")
