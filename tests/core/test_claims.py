"""Tired springs, claims over a standard vehicle, and kits: what is sag, what is lift, what the seller says."""

import math

import numpy as np
import pytest
from pydantic import ValidationError

from inclinum.core.car.changes import PlannedChange, SeatSpacer, SpringSwap, StatedSprings, begin
from inclinum.core.car.draws import sample_vehicle
from inclinum.core.car.job import CornerReading, Job, Kit, Measurements, Plan, Prove
from inclinum.core.car.prediction import assess, predict
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import SIDES, AxleName
from inclinum.core.quantity import Length
from tests.core.test_changes_by_hand import on
from tests.core.test_every_change import AT, job_on
from tests.core.test_whole import weighed


def mm(value: float, tolerance: str = "") -> Length:
    return Length.model_validate(f"{value:.3f}{tolerance}")


def sagged(job: Job, end: AxleName, by: float, tolerance: str = " ± 4") -> Job:
    """Read so much below the height that its healthy springs hold it at, which is the vehicle's data's."""
    data = job.vehicle.axle(end).hub_to_arch_mm
    read = tuple(CornerReading(axle=end, side=s, quantity="hub_to_arch", reading=mm(data - by)) for s in SIDES)
    return job.model_copy(
        update={"measure": Measurements.model_validate({"corners": read, f"{end}_as_new": mm(data, tolerance)})}
    )


@pytest.mark.parametrize(("key", "end"), AT)
def test_new_springs_like_the_healthy_ones_give_back_the_sag(key: str, end: AxleName) -> None:
    """On every archetype: a fresh pair of what its data say stands where its data stand, whatever had sagged."""
    job = sagged(job_on(key, end), end, 18)
    axle = assess(job).before.axle(end)
    healthy = assess(job_on(key, end)).before.axle(end)
    assert axle.load == pytest.approx(healthy.load, rel=1e-9)
    assert axle.rise == pytest.approx(0, abs=1e-6)
    sprung = job.vehicle.axle(end).spring.type
    kind = {"coil_spring": "spring_swap", "leaf_pack": "leaf_packs", "torsion_bar": "torsion_bars",
            "air_spring": "air_springs"}[sprung]  # fmt: skip
    planned = begin(kind, end, job.vehicle, ())
    answer = predict(job.model_copy(update={"plan": Plan(changes=(planned,))})).axle(end)
    assert answer.rise == pytest.approx(18, abs=1e-4)
    assert answer.recovered_mm == pytest.approx(18, abs=1e-9)


def test_a_coil_lost_what_its_ratio_makes_of_the_sag() -> None:
    """Same load at another height: it has lost what the linkage closed the spring, plus what its force changed."""
    job = sagged(job_on("wishbones", "front"), "front", 20)
    axle, coil = job.vehicle.front, job.vehicle.front.coil
    assert coil is not None
    ride = assess(job_on("wishbones", "front")).before.front.ride
    # Travel 20 up: the wheel's load over the ratio there is the force, from which the shortened length follows.
    load = float(ride.wheel_force(0.0))
    stop = float(ride.stop_force(20.0))
    beside = axle.bush_rate_n_per_mm * 20 + stop
    force = (load - beside) / float(ride.spring_length.ratio(20.0))
    free = float(ride.spring_at(20.0)) + force / coil.rate_n_per_mm
    told = predict(job).front
    assert told.springs_lost == pytest.approx(coil.free_length_mm - free, abs=1e-3)
    assert told.springs_lost_of == "mm of their length"


def test_a_ring_under_tired_springs_keeps_them_tired() -> None:
    tired = predict(on(sagged(job_on("wishbones", "front"), "front", 20), SeatSpacer(axle="front", thickness_mm=10)))
    assert tired.front.recovered_mm == 0
    assert 5 < tired.front.rise < 20


def test_a_claim_comes_on_top_of_the_sag() -> None:
    """+40 over standard on a vehicle 22 mm below it: +62, and the finding says why."""
    job = on(sagged(job_on("wishbones", "front"), "front", 22), StatedSprings(axle="front", lift_mm=40, tolerance_mm=6))
    answer = predict(job)
    assert answer.front.rise == pytest.approx(62, abs=1e-6)
    assert answer.front.recovered_mm == pytest.approx(22)
    told = next(f for f in answer.findings if f.id == "claim.front")
    assert "+40 mm adds to 22 mm of sag" in told.what
    assert "+62 mm" in told.why
    # Its own ± and that of the height as new, tape and all: never less than the claim's.
    assert answer.front.plus_minus > math.hypot(6, 3)
    assert not [f for f in predict(on(job_on("wishbones", "front"), job.plan.changes[0].change)).findings
                if f.id == "claim.front"]  # fmt: skip


def test_a_claim_for_a_standard_load_gives_less_under_more() -> None:
    """A front 60 kg a wheel heavier than standard, by the scales: the same claim at twice the rate loses half."""
    job = job_on("wishbones", "front")
    axle, at = job.vehicle.front, assess(job).before.front
    mass = at.load / 9.80665 + axle.unsprung_kg + 60
    job = weighed(job, {("front", "left"): mass, ("front", "right"): mass})
    soft = predict(on(job, StatedSprings(axle="front", lift_mm=0))).front.rise
    coil = axle.coil
    assert coil is not None
    hard = predict(on(job, StatedSprings(axle="front", lift_mm=0, rate_n_per_mm=2 * coil.rate_n_per_mm))).front.rise
    assert soft < 0
    assert hard == pytest.approx(soft / 2, rel=0.06)


def test_samples_lie_about_a_prediction_with_tired_springs() -> None:
    job = on(sagged(job_on("wishbones", "front"), "front", 22), StatedSprings(axle="front", lift_mm=30, tolerance_mm=4))
    answer = predict(job)
    drawn = next(w for w in sample_vehicle(job, 4000, seed=3) if w.axle == "front" and w.side == "left").height
    told = next(h for h in answer.heights if h.kind == "hub_to_arch" and h.axle == "front" and h.side == "left")
    assert drawn.mean() == pytest.approx(told.after, abs=0.4)
    assert 2 * drawn.std() == pytest.approx(told.plus_minus, rel=0.12)


def test_a_badly_known_height_as_new_is_told_in_the_plus_minus() -> None:
    close, loose = (
        predict(on(sagged(job_on("wishbones", "front"), "front", 22, t), StatedSprings(axle="front", lift_mm=30)))
        for t in (" ± 1", " ± 20")
    )
    assert loose.front.plus_minus > close.front.plus_minus + 5
    assert loose.front.inputs[0].label == "height with healthy springs"


def test_a_kit_is_held_against_its_advertised_figure() -> None:
    swap, ring = StatedSprings(axle="front", lift_mm=40), SeatSpacer(axle="front", thickness_mm=8)
    job = on(sagged(job_on("wishbones", "front"), "front", 22), swap, ring)
    ids = tuple(p.id for p in job.plan.changes)
    kit = Kit(name="Lift kit", changes=ids, front_mm=45, rear_mm=0)
    job = job.model_copy(update={"plan": job.plan.model_copy(update={"kits": (kit,)})})
    answer = predict(job)
    front, rear = answer.kits[0].ends
    assert front.predicted_mm == pytest.approx(answer.front.rise, abs=1e-6)
    assert (front.advertised_mm, rear.predicted_mm, rear.because) == (45, 0, ())
    assert "sagged 22 mm" in front.because[0]


@pytest.mark.parametrize("by", [-400.0, 400.0])
def test_sag_no_spring_can_have_is_refused_with_both_heights(by: float) -> None:
    with pytest.raises(DomainError, match="no spring loses so much"):
        predict(sagged(job_on("wishbones", "front"), "front", by))


def test_a_height_as_new_is_no_reading_after() -> None:
    with pytest.raises((ValidationError, DomainError), match="before the job"):
        Prove(after=Measurements(front_as_new=mm(400)))


def test_the_same_spring_bought_anew_carries_by_its_data_and_not_by_the_scales() -> None:
    """Scales said the fitted pair carries a tenth more than its data; a new pair of the same does not."""
    job = job_on("wishbones", "front")
    coil, at = job.vehicle.front.coil, assess(job).before.front
    assert coil is not None
    mass = 1.1 * at.load / 9.80665 + job.vehicle.front.unsprung_kg
    heavy = weighed(job, {("front", "left"): mass, ("front", "right"): mass})
    same = PlannedChange(id="c1", change=SpringSwap(axle="front", coil=coil))
    renewed = predict(heavy.model_copy(update={"plan": Plan(changes=(same,))}))
    assert renewed.front.rise < -5
    fitted, planned = renewed.front.springs
    assert (fitted.label, planned.label) == ("fitted", "planned")
    np.testing.assert_allclose(fitted.force, 1.1 * np.array(planned.force), rtol=1e-3, atol=0.2)
    assert planned.ride_force == pytest.approx(fitted.ride_force, rel=0.02), "the same load, but for the ratio"
    assert predict(heavy).front.rise == pytest.approx(0, abs=1e-6)


def test_a_healthy_height_above_the_data_is_the_load_of_that_height() -> None:
    """Healthy 25 mm above its data's height: less load than the data there, in prediction, spread and samples alike."""
    job = job_on("wishbones", "front")
    data = job.vehicle.front.hub_to_arch_mm
    read = tuple(
        CornerReading(axle="front", side=s, quantity="hub_to_arch", reading=mm(data + 3, " ± 1")) for s in SIDES
    )
    measure = Measurements(corners=read, front_as_new=mm(data + 25, " ± 2"))
    job = on(job.model_copy(update={"measure": measure}), StatedSprings(axle="front", lift_mm=0, tolerance_mm=1))
    ride = assess(job_on("wishbones", "front")).before.front.ride
    assert assess(job).before.front.load == pytest.approx(float(ride.wheel_force(-25.0)), rel=1e-6)
    answer = predict(job)
    told = next(h for h in answer.heights if h.kind == "hub_to_arch" and h.axle == "front" and h.side == "left")
    drawn = next(w for w in sample_vehicle(job, 3000, seed=5) if w.axle == "front" and w.side == "left").height
    assert drawn.mean() == pytest.approx(told.after, abs=0.5)


def test_a_claim_that_no_coil_keeps_is_refused_in_a_sentence() -> None:
    """At 1.1 N/mm the load of a corner shortens a coil by metres."""
    job = on(job_on("strut_front", "front"), StatedSprings(axle="front", lift_mm=20, rate_n_per_mm=1.1))
    with pytest.raises(DomainError, match=r"Springs that hold the front axle \+20 mm .* would be \d{4} mm long"):
        predict(job)
