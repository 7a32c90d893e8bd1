"""A change that a later one takes the place of is told, and left out it is missed by nothing."""

import pytest

from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.changes import begin as begin_on_bike
from inclinum.core.bike.job import BikePlan
from inclinum.core.bike.prediction import assess, predict_bike
from inclinum.core.car.changes import Collar, LimitStrap, SeatSpacer, SpringSwap, begin
from inclinum.core.car.changes.base import Change
from inclinum.core.car.job import Job, Plan
from inclinum.core.car.prediction import assess as stand
from inclinum.core.car.prediction import predict
from tests.core.test_bike import job_on as bike_job_on
from tests.core.test_changes_by_hand import on
from tests.core.test_every_change import job_on


def told(job: Job) -> dict[str, str]:
    return {f.id: f.why for f in predict(job).findings if f.id.startswith("taken_over.")}


def units(job: Job) -> Change:
    """Units with a softer, longer coil than the one that is there."""
    unit = begin("coil_over", "front", job.vehicle, ()).change.model_dump()
    spring = unit["spring"] | {"rate_n_per_mm": 30.0, "free_length_mm": 350.0}
    return type(begin("coil_over", "front", job.vehicle, ()).change).model_validate(unit | {"spring": spring})


def test_what_a_unit_brings_itself_was_bought_for_nothing() -> None:
    job = job_on("strut_front", "front")
    assert job.vehicle.front.coil is not None
    coil = job.vehicle.front.coil.model_copy(update={"rate_n_per_mm": 40.0})
    spring, ring = SpringSwap(axle="front", coil=coil), SeatSpacer(axle="front", thickness_mm=12)
    collar = Collar(axle="front", by_mm=4)
    both = on(job, spring, ring, units(job), collar)
    assert set(told(both)) == {"taken_over.c0", "taken_over.c1"}, "the collar is turned on the unit and stays"
    assert all("coil-over units, front" in why for why in told(both).values())
    # After the unit they count, and nothing takes their place.
    assert not told(on(job, units(job), spring, ring, collar))
    assert not told(on(job, spring, ring))

    # Left out by its own cure it is missed by nothing.
    finding = next(f for f in predict(both).findings if f.id == "taken_over.c0")
    assert (finding.severity, finding.unit) == ("fix", ""), "no number that would mean nothing"
    less = both.model_copy(update={"plan": Plan(changes=finding.cures[0].changes)})
    assert set(told(less)) == {"taken_over.c1"}
    assert predict(less).front.rise == predict(both).front.rise

    # One that is off takes the place of nothing.
    unit = both.plan.changes[2].model_copy(update={"on": False})
    off = both.model_copy(update={"plan": Plan(changes=(*both.plan.changes[:2], unit, both.plan.changes[3]))})
    assert not told(off)


def test_a_strap_is_no_part_of_a_unit() -> None:
    """It hangs between body and wheel: a unit that goes in after it droops no further."""
    job = job_on("strut_front", "front")
    strap = LimitStrap(axle="front", damper_at_mm=job.vehicle.front.damper.extended_mm - 20)
    unit = begin("coil_over", "front", job.vehicle, ()).change
    assert not told(on(job, strap, unit))
    first, last = (stand(one).after.front.full_droop for one in (on(job, strap, unit), on(job, unit, strap)))
    assert first == pytest.approx(last)
    assert first > stand(on(job, unit)).after.front.full_droop + 10


def test_a_spring_before_a_complete_unit_on_two_wheels() -> None:
    job = bike_job_on(BIKES["linkage_frame"].bike("Law"))
    stack = ()
    for kind in ("rear_spring", "rear_unit"):
        begun = begin_on_bike(kind, assess(job).fitted.bike, stack)
        if kind == "rear_spring":
            said = begun.change.model_dump()
            said["spring"] |= {"rate_n_per_mm": 81.0}
            begun = begun.model_copy(update={"change": type(begun.change).model_validate(said)})
        stack = (*stack, begun)
    planned = job.model_copy(update={"plan": BikePlan(changes=stack)})
    found = [f for f in predict_bike(planned).findings if f.id.startswith("taken_over.")]
    assert [f.id for f in found] == [f"taken_over.{stack[0].id}"]
    assert "unit" in found[0].why
    turned = job.model_copy(update={"plan": BikePlan(changes=stack[::-1])})
    assert not [f for f in predict_bike(turned).findings if f.id.startswith("taken_over.")]
