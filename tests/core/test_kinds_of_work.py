"""Jobs of every kind on the demo's fleet; what limits say of them; a complete rear unit."""

from typing import Any

import pytest

from inclinum.core.bike.changes import PlannedBikeChange, RearUnit
from inclinum.core.bike.job import BikePlan
from inclinum.core.bike.prediction import predict_bike
from inclinum.core.car.card import card
from inclinum.core.car.changes import AirHeight, BracketMoved, Load, SeatSpacer
from inclinum.core.car.job import Cargo, Job
from inclinum.core.car.limits import Finding
from inclinum.core.car.prediction import predict
from inclinum.core.machines import offers
from inclinum.core.quantity.constants import GRAVITY
from inclinum.demo import demo_bike_jobs, demo_jobs, demo_kind_jobs
from tests.core.test_changes_by_hand import on
from tests.core.test_every_change import job_on


@pytest.mark.parametrize("job", demo_kind_jobs(), ids=lambda j: j.id)
def test_every_kind_of_work_can_be_planned_to_its_card(job: Job) -> None:
    found, made = predict(job), card(job)
    brought = {line for p in job.plan.changes for line in p.change.steps(job.vehicle)}
    on_card = " ".join(s.text for s in made.steps)
    assert all(line.split(":")[0][:30] in on_card for line in brought), "what a change is done by stands on its card"
    for axle in ("front", "rear"):
        total = sum(getattr(s, axle) for s in found.shares)
        assert total == pytest.approx(found.axle(axle).rise, abs=1e-6)


def test_half_of_them_hold_something_a_novice_would_miss() -> None:
    told = [j.id for j in demo_kind_jobs() if any(f.severity != "know" for f in predict(j).findings)]
    assert len(told) >= len(demo_kind_jobs()) / 2


def test_a_level_valve_takes_a_spacer_back_and_leaving_it_out_heals() -> None:
    job = on(
        job_on("four_link_air", "rear"), SeatSpacer(axle="rear", thickness_mm=12), AirHeight(axle="rear", rise_mm=9)
    )
    finding = next(f for f in predict(job).findings if f.id == "levelled.rear")
    assert finding.value == pytest.approx(predict(job).rear.rise - 9)
    assert finding.value > 5
    healed = job.model_copy(update={"plan": job.plan.model_copy(update={"changes": finding.cures[0].changes})})
    assert not [f for f in predict(healed).findings if f.id == "levelled.rear"]


def test_whatever_a_level_valve_takes_back_is_told() -> None:
    """50 kg let the body sink, another seat lets it rise: with the valve live it does neither, and says so."""

    def told(*changes: Any, cargo: tuple[Any, ...] = ()) -> list[Finding]:
        job = on(job_on("four_link_air", "rear"), *changes)
        job = job.model_copy(update={"brief": job.brief.model_copy(update={"cargo": cargo})})
        return [f for f in predict(job).findings if f.id.startswith("levelled")]

    assert told() == []
    assert told(AirHeight(axle="rear", rise_mm=25)) == [], "what is set at the sensor stays"
    (heavier,) = told(Load(axle="rear", mass_kg=50))
    sinks = -50 * GRAVITY / 2 / predict(job_on("four_link_air", "rear")).rear.wheel_rate_after
    assert heavier.value == pytest.approx(sinks, rel=0.1)
    assert (heavier.severity, heavier.what) == ("know", "The rear level valve lifts the body 9 mm back")
    (seat,) = told(BracketMoved(axle="rear", point="spring_left_body", up_mm=-10), AirHeight(axle="rear", rise_mm=5))
    assert seat.what == "The rear level valve meets its sensor at another angle"
    assert seat.why.endswith("was not measured: read the height it levels to.")
    (laden,) = told(cargo=(Cargo(name="sand", mass_kg=80, behind_front_axle_mm=2500),))
    assert "with cargo too" in laden.why
    assert laden.what == "The rear level valve lifts back what cargo lets sink"


def test_loads_that_the_vehicle_cannot_weigh_are_asked_about() -> None:
    job = job_on("trailing", "rear")
    assert not [q for q in predict(job).questions if "springs" in q.sentence]
    light = job.model_copy(update={"vehicle": job.vehicle.model_copy(update={"mass_kg": job.vehicle.mass_kg * 0.6})})  # type: ignore[operator]
    assert "which part is not what the data say" in predict(light).questions[-1].sentence
    stiff = job.vehicle.rear.coil
    assert stiff is not None
    heavy = stiff.model_copy(update={"rate_n_per_mm": stiff.rate_n_per_mm * 4})
    rear = job.vehicle.with_axle("rear", spring=heavy)
    asked = predict(job.model_copy(update={"vehicle": rear})).questions
    assert asked[-1].where == "rear.load"


def test_offers_name_every_change_at_both_ends_and_say_why_not() -> None:
    found = {(o.type, o.axle): o.refused for o in offers(demo_jobs()[-1])}
    assert found["spring_swap", "front"] == ""
    assert "no leaf packs" in found["shackle", "rear"]
    bike = {o.type: o.refused for o in offers(demo_bike_jobs()[-1])}
    assert bike["rear_unit"] == ""


def test_a_rear_unit_is_a_damper_with_its_spring_and_preload() -> None:
    job = demo_bike_jobs()[-1].model_copy(update={"plan": BikePlan()})
    came = predict_bike(job)
    like = RearUnit.start(job.machine)

    def with_unit(unit: RearUnit) -> float:
        planned = PlannedBikeChange.model_validate({"id": "c1", "change": unit})
        return predict_bike(job.model_copy(update={"plan": BikePlan(changes=(planned,))})).rear_drop_mm

    assert with_unit(like) == pytest.approx(0, abs=1e-6)
    shorter = like.model_copy(update={"extended_mm": like.extended_mm - 6, "stroke_mm": like.stroke_mm - 6})
    # A unit 6 mm shorter at the same load lets the rear down by 6 mm times the leverage there.
    leverage = came.rear_curve.leverage
    assert min(leverage) * 6 * 0.95 < with_unit(shorter) < max(leverage) * 6 * 1.05
    softer = like.model_copy(update={"preload_mm": max(like.preload_mm - 3, 0)})
    assert with_unit(softer) > 1
    with pytest.raises(ValueError, match="longer than the unit's stroke"):
        RearUnit.model_validate(like.model_dump() | {"stroke_mm": 30, "rubber_mm": 31})
