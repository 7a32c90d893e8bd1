"""Laws of what was once right and unguarded: each turns red when its sign or its term is taken away."""

import pytest

from inclinum.core.car.changes import Block, Load, SubframeLowered, Tyres
from inclinum.core.car.height_spread import height_spread
from inclinum.core.car.prediction import assess, predict
from inclinum.core.document.names import AxleName
from tests.core.test_changes_by_hand import on
from tests.core.test_every_change import AT, job_on


@pytest.mark.parametrize("mass", [260, 120, -120])
def test_a_load_put_on_is_in_the_spread_as_the_whole_product_has_it(mass: float) -> None:
    """±10 % of rate alone: what the rise changes by when the fitted springs' data are that much off.

    With 260 kg on it the stop carries part, so that the sign of what was put on decides.
    """
    job = on(job_on("wishbones", "front"), Load(axle="front", mass_kg=mass))
    coil = job.vehicle.front.coil
    assert coil is not None

    def rise(share: float) -> float:
        other = coil.model_copy(update={"rate_n_per_mm": share * coil.rate_n_per_mm})
        return assess(job.model_copy(update={"vehicle": job.vehicle.with_axle("front", spring=other)})).after.front.rise

    exact = coil.model_copy(update={"rate_tolerance_percent": 10, "free_length_tolerance_mm": 0})
    case = assess(job.model_copy(update={"vehicle": job.vehicle.with_axle("front", spring=exact)}))
    told = height_spread(case.job, case.before.front, case.after.front, "front").inputs
    alone = next(i.plus_minus for i in told if i.label == "rate of the fitted springs")
    assert alone == pytest.approx(abs(rise(1.005) - rise(0.995)) * 10, rel=0.02)


def test_a_body_on_bigger_tyres_is_drawn_turning_about_its_own_front_hub() -> None:
    """Nose up on 40 mm more tyre: the front wheel is drawn under its arch, its hub a radius above the ground."""
    job = on(job_on("wishbones", "front"), Tyres(axle="front", radius_mm=352))
    drawing = predict(job).drawing.after
    x, _, z = drawing.front.centre
    assert (x, z) == pytest.approx((0.0, 352.0), abs=0.02)


def test_a_block_meets_the_frame_stop_as_much_later() -> None:
    """A stop between frame and axle: a block of 30 leaves the wheel 30 more travel before it lands."""
    job = job_on("leaf_axle", "rear")
    before, after = predict(job).rear.travel_after, predict(on(job, Block(axle="rear", height_mm=30))).rear.travel_after
    assert before.stop_contact is not None
    assert after.stop_contact is not None
    assert not job.vehicle.rear.bump_stop.on_damper, "a stop on the damper is met as before"
    assert after.gap == pytest.approx((before.gap or 0.0) + 30, abs=0.2)


@pytest.mark.parametrize(("key", "end"), [(k, e) for k, e in AT if not k.startswith("leaf")])
def test_a_subframe_lowered_lowers_the_wheel_by_as_much(key: str, end: AxleName) -> None:
    """On every kind without leaves: pivots, seats and mounts go down by n, so that the body stands n higher."""
    job = job_on(key, end)
    lowered = assess(on(job, SubframeLowered(axle=end, by_mm=12, carries_springs=True, carries_dampers=True)))
    assert lowered.after.axle(end).rise == pytest.approx(12, abs=0.6)
