"""Blocks, torsion bars and dampers: each against numbers worked by hand, on axles as they are set up."""

import math

import numpy as np
import pytest
from pydantic import TypeAdapter

from inclinum.core.car.archetypes import vehicle_of
from inclinum.core.car.changes import Block, DamperSwap, TorsionReindex
from inclinum.core.car.job import Job
from inclinum.core.car.prediction import assess, predict
from inclinum.core.document.names import AXLES, AxleName
from inclinum.core.kinematics.axles import LeafAxle
from inclinum.core.springs.fitted import SpringData
from tests.core.test_prediction import with_changes
from tests.core.test_whole import bare_job, weighed

SpringData_of = TypeAdapter(SpringData).validate_python
PICK_UP = vehicle_of("leaf_axle_front", "leaf_axle", "pick_up", "x")
BARS = vehicle_of("wishbones_torsion", "trailing_torsion", "car", "x")


def read(job: Job, end: AxleName, height: float) -> Job:
    from tests.core.test_assumed import read as reading

    return reading(job, "hub_to_arch", end, height)


@pytest.mark.parametrize("end", AXLES)
@pytest.mark.parametrize("lower", [0, 23])
def test_a_block_raises_by_its_own_height_wherever_it_was_measured(end: AxleName, lower: float) -> None:
    job = read(bare_job(PICK_UP), end, PICK_UP.axle(end).hub_to_arch_mm - lower)
    plain, answer = predict(with_changes(job)), predict(with_changes(job, Block(axle=end, height_mm=40)))
    axle, was = answer.axle(end), plain.axle(end)
    # Both length curves are splines through their own 41 positions: a thousandth of a millimetre apart.
    assert axle.rise == pytest.approx(40, abs=2e-3)
    assert axle.load_n == pytest.approx(was.load_n), "the pack carries what it carried, at the same arch"
    assert axle.wheel_rate_after == pytest.approx(was.wheel_rate_after, rel=1e-4)
    other = "rear" if end == "front" else "front"
    assert answer.axle(other).rise == pytest.approx(0, abs=1e-6)
    # The stop between frame and axle is met 40 mm later; the damper has 40 mm more to reach, at its own ratio.
    assert axle.travel_after.gap == pytest.approx((was.travel_after.gap or 0) + 40, abs=2e-3)
    droop = (x.ride - x.droop for x in (axle.travel_after, was.travel_after))
    assert next(droop) < next(droop) - 30
    corners = [c.rise_mm for c in answer.body.corners if c.axle == end]
    assert np.mean(corners) == pytest.approx(40, abs=0.6)
    heights = [h for h in answer.heights if h.kind == "hub_to_arch" and h.axle == end]
    assert [h.change for h in heights] == pytest.approx([40, 40], abs=2e-3)


def test_a_block_under_an_underslung_pack_lowers() -> None:
    leaf = PICK_UP.rear.linkage
    assert isinstance(leaf, LeafAxle)
    up = 2 * (leaf.points.seat[2] - leaf.points.wheel_centre[2])
    slung = leaf.axle_moved(up)
    assert not slung.over_axle
    axle = PICK_UP.rear.model_copy(update={"linkage": slung})
    changed = Block(axle="rear", height_mm=30).changed(axle)
    assert changed["hub_to_arch_mm"] == pytest.approx(PICK_UP.rear.hub_to_arch_mm - 30)
    assert Block(axle="rear", height_mm=30).search(axle) is None


def test_the_spread_of_a_block_is_its_own_thickness() -> None:
    job = read(bare_job(PICK_UP), "rear", PICK_UP.rear.hub_to_arch_mm)
    exact, rough = (
        predict(with_changes(job, Block(axle="rear", height_mm=40, tolerance_mm=t))).rear.plus_minus for t in (0, 2)
    )
    assert rough == pytest.approx(math.hypot(exact, 2), rel=1e-3)


@pytest.mark.parametrize("end", AXLES)
def test_a_bar_turned_by_teeth_raises_as_its_angle_does(end: AxleName) -> None:
    job = bare_job(BARS)
    turned = TorsionReindex(axle=end, inner_teeth=36, outer_teeth=40, inner_by=1, outer_by=1)
    # 10° at the inner end less 9° at the outer one.
    assert math.degrees(turned.angle) == pytest.approx(1.0)
    answer = predict(with_changes(job, turned)).axle(end)
    before = assess(job).before.axle(end)
    # To first order the arm's end comes down by 1° times its reach, which is what the motion ratio is, mm/rad.
    reach = 1 / float(before.ride.spring_length.ratio(before.travel))
    assert answer.rise > 0
    assert answer.rise == pytest.approx(math.radians(1) * reach, rel=0.12)
    back = predict(with_changes(job, turned.model_copy(update={"inner_by": -1, "outer_by": -1}))).axle(end)
    assert back.rise < 0
    with pytest.raises(ValueError, match="Fewer teeth"):
        TorsionReindex(axle=end, inner_teeth=20, inner_by=5).changed(BARS.axle(end))


def test_a_longer_damper_gives_its_length_back_at_droop_and_takes_it_at_bump(in_hand: Job) -> None:
    job = with_changes(in_hand)
    end: AxleName = "rear"
    was = assess(job).after.axle(end)
    old = was.axle.damper
    new = DamperSwap(axle=end, extended_mm=old.extended_mm + 20, closed_mm=old.closed_mm + 12)
    now = assess(with_changes(in_hand, new)).after.axle(end)
    assert now.rise == pytest.approx(was.rise, abs=1e-9), "a damper holds nothing up"
    ratio = float(was.ride.damper_at(was.full_droop) - was.ride.damper_at(was.full_droop - 1))
    assert was.full_droop - now.full_droop == pytest.approx(20 / abs(ratio), rel=0.1)
    # The stop on the rod goes with the closed length, 12 mm earlier.
    assert now.axle.bump_stop.contact_mm == pytest.approx((was.axle.bump_stop.contact_mm or 0) + 12)
    closing = float(was.ride.damper_at(was.bump_end - 1) - was.ride.damper_at(was.bump_end))
    assert was.bump_end - now.bump_end == pytest.approx(12 / closing, rel=0.05)
    own = new.model_copy(update={"contact_mm": old.closed_mm + 60})
    assert assess(with_changes(in_hand, own)).after.axle(end).axle.bump_stop.contact_mm == old.closed_mm + 60
    with pytest.raises(ValueError, match="sit over the axle"):
        DamperSwap(axle="rear", extended_mm=600, closed_mm=300, contact_mm=400).changed(PICK_UP.rear)
    with pytest.raises(ValueError, match="between the closed and the extended"):
        DamperSwap(axle="rear", extended_mm=600, closed_mm=300, contact_mm=200)


def test_what_reaches_a_height_now_has_blocks_and_teeth_among_its_ways() -> None:
    from inclinum.core.car.limits import Case
    from inclinum.core.car.ways import ways

    for vehicle, wanted in ((PICK_UP, "Add rear block 40 mm"), (BARS, "Rear torsion bars")):
        assessed = assess(bare_job(vehicle))
        found = ways(Case(assessed.job, assessed.before, assessed.after), "rear", 38)
        way = next(w for w in found if wanted in w.title)
        assert way.rise == pytest.approx(38, abs=3), "to the nearest block, or the nearest pair of teeth"


def test_a_raised_axle_is_drawn_on_the_ground_and_lamps_and_pitch_follow_it(in_hand: Job) -> None:
    _ = in_hand
    for end in AXLES:
        job = bare_job(PICK_UP)
        answer = predict(with_changes(job, Block(axle=end, height_mm=50)))
        was, now = answer.drawing.before, answer.drawing.after
        for axle in AXLES:
            assert getattr(now, axle).centre[2] == pytest.approx(getattr(was, axle).centre[2], abs=0.3), "on the ground"
        raised = [getattr(now, e).arch_top[1] - getattr(was, e).arch_top[1] for e in AXLES]
        assert raised == pytest.approx([50.0 if e == end else 0.0 for e in AXLES], abs=0.5)
        down = math.degrees(math.atan(50 / PICK_UP.wheelbase_mm)) * (1 if end == "rear" else -1)
        assert answer.pitch_change_deg == pytest.approx(down, abs=0.01)


def test_a_lamp_nobody_measured_rises_with_the_block() -> None:
    lamp = PICK_UP.model_copy(update={"headlamp": "front bumper"})
    job = bare_job(lamp)
    plain, answer = predict(with_changes(job)), predict(with_changes(job, Block(axle="front", height_mm=40)))
    at = -lamp.stations[0].x_mm / lamp.wheelbase_mm
    assert (answer.lamp_height_mm or 0) - (plain.lamp_height_mm or 0) == pytest.approx((1 - at) * 40, abs=0.01)


@pytest.mark.parametrize("end", AXLES)
def test_a_turned_bar_is_the_same_bar_and_its_errors_cancel(end: AxleName) -> None:
    job = read(bare_job(BARS), end, BARS.axle(end).hub_to_arch_mm)
    turned = TorsionReindex(axle=end, inner_by=3, outer_by=3)
    answer = predict(with_changes(job, turned)).axle(end)
    # The load is inferred from the bar's own rate and angle: what is wrong with either is wrong before and after.
    assert "rate of the new springs" not in {i.label for i in answer.inputs}
    assert answer.plus_minus < 0.15 * answer.rise
    bar = BARS.axle(end).spring
    other = SpringData_of(bar.model_dump() | {"diameter_mm": 25.0})
    assert not bar.is_same_part(other)
    # On scales that disagree with the data the bar keeps the force it was weighed with.
    kilograms = {(end, s): 420.0 for s in ("left", "right")}
    still = predict(weighed(with_changes(job, turned.model_copy(update={"inner_by": 0, "outer_by": 0})), kilograms))
    assert still.axle(end).rise == pytest.approx(0, abs=1e-6)
