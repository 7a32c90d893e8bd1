"""Springs set wheel by wheel: what one collar lifts, by four corners solved by hand; how a lean is levelled."""

import math

import numpy as np
import pytest

from inclinum.core.car.alignment import align
from inclinum.core.car.changes import Collar, SeatSpacer, TorsionAdjuster
from inclinum.core.car.changes.sided import Sided
from inclinum.core.car.corner_weights import by_its_side
from inclinum.core.car.job import AxleAim, CornerReading, Job, Measurements, Prove
from inclinum.core.car.measured import APART_MM
from inclinum.core.car.prediction import Prediction, assess, predict
from inclinum.core.car.proof import SideProof, prove
from inclinum.core.document.names import AXLES, SIDES, AxleName, Side
from inclinum.core.kinematics import axle_motion
from inclinum.core.quantity import Length
from inclinum.core.springs.fitted import TorsionBarData
from tests.core.test_changes_by_hand import done, on
from tests.core.test_every_change import job_on


def corner(answer: Prediction, axle: AxleName, side: Side) -> float:
    return next(h.change for h in answer.heights if h.kind == "hub_to_arch" and (h.axle, h.side) == (axle, side))


def read(job: Job, **heights: float) -> Job:
    """With hub-to-arch readings by corner, as ``front_left=…``; the others as the vehicle's data."""
    corners = []
    for axle in AXLES:
        for side in SIDES:
            value = heights.get(f"{axle}_{side}", job.vehicle.axle(axle).hub_to_arch_mm)
            corners.append(
                CornerReading(
                    axle=axle, side=side, quantity="hub_to_arch", reading=Length.model_validate(f"{value:.2f}")
                )
            )
    return job.model_copy(update={"measure": Measurements(corners=tuple(corners))})


@pytest.mark.parametrize("side", SIDES)
def test_one_collar_lifts_its_corner_and_the_one_across(side: Side) -> None:
    """Three equations of balance over heave, roll and pitch, the collar's push at one wheel: solved here by hand."""
    up = 1.0
    change = Collar(axle="front", by_mm=up if side == "left" else 0, right_mm=0 if side == "left" else up)
    job = on(job_on("wishbones", "front"), change)
    before = assess(job).before
    v = job.vehicle
    k = np.array([s.wheel_rate for s in (before.front, before.front, before.rear, before.rear)])
    x = np.array([0, 0, -v.wheelbase_mm, -v.wheelbase_mm])
    y = np.array([1, -1, 1, -1]) * np.array([v.front.track_mm, v.front.track_mm, v.rear.track_mm, v.rear.track_mm]) / 2
    # A seat further out by up closes the spring by that: more force at the wheel by rate times ratio.
    ratio = float(before.front.ride.spring_length.ratio(before.front.travel))
    coil = v.front.coil
    assert coil is not None
    push = np.zeros(4)
    push[0 if side == "left" else 1] = coil.rate_n_per_mm * ratio * up
    bars = np.zeros((4, 4))
    for at, axle in ((0, v.front), (2, v.rear)):
        bars[at : at + 2, at : at + 2] = axle.anti_roll_n_per_mm * np.array([[1, -1], [-1, 1]])
    stiff = np.diag(k) + bars
    shape = np.stack([np.ones(4), y, x], axis=1)  # rise = heave + roll·y + pitch·x
    rises = shape @ np.linalg.solve(shape.T @ stiff @ shape, shape.T @ push)
    answer = predict(job)
    found = [corner(answer, a, s) for a in AXLES for s in SIDES]
    np.testing.assert_allclose(found, rises, atol=0.012)
    lifted = found[0 if side == "left" else 1]
    assert lifted == max(found) > 0.2
    # The axle as a whole rises as if both collars had half of it.
    assert answer.front.rise == pytest.approx(sum(found[:2]) / 2, abs=0.02)
    lighter = answer.body.cross_after < answer.body.cross_before
    assert lighter == (side == "right"), "a collar up puts load on its own diagonal, front left and rear right"


def test_alike_on_both_sides_is_as_it_was_without_sides() -> None:
    plain = predict(on(job_on("wishbones", "front"), Collar(axle="front", by_mm=6)))
    both = predict(on(job_on("wishbones", "front"), Collar(axle="front", by_mm=6, right_mm=6)))
    assert both.heights == plain.heights
    assert both.front == plain.front


def test_bars_adjusted_apart_turn_apart() -> None:
    """Two turns left, none right: the mean is one turn, each wheel its own angle."""
    change = TorsionAdjuster(axle="front", turns=2, right_turns=0, pitch_mm=1.5, lever_mm=60)
    after = done("wishbones_torsion", "front", change).after.vehicle.front
    came = job_on("wishbones_torsion", "front").vehicle.front.spring
    assert isinstance(came, TorsionBarData)
    free = []
    for side in SIDES:
        bar = after.of_side(side).spring
        assert isinstance(bar, TorsionBarData)
        free.append(bar.free_angle_deg - came.free_angle_deg)
    assert free == pytest.approx([change.angle_deg(2), 0.0])


@pytest.mark.parametrize("low", ["front_left", "front_right", "rear_left", "rear_right"])
def test_a_lean_is_told_and_every_way_out_levels_it(low: str) -> None:
    """12 mm low at one corner: the finding names that side, and its cures bring the sides together."""
    axle, side = low.split("_")
    job = job_on("wishbones", "front")
    data = job.vehicle.front if axle == "front" else job.vehicle.rear
    job = read(job, **{low: data.hub_to_arch_mm - 12})
    found = next(f for f in predict(job).findings if f.id == f"sides.{axle}")
    assert f"lower on the {side}" in found.what
    assert found.severity == "know"
    assert found.cures
    for cure in found.cures:
        healed = predict(job.model_copy(update={"plan": job.plan.model_copy(update={"changes": cure.changes})}))
        assert not [f for f in healed.findings if f.id == f"sides.{axle}"], cure.title


def test_a_collar_planned_wrong_is_a_fix() -> None:
    job = read(on(job_on("wishbones", "front"), Collar(axle="front", by_mm=0, right_mm=25)))
    found = next(f for f in predict(job).findings if f.id == "sides.front")
    assert found.severity == "fix"
    assert "lower on the left" in found.what
    changed = found.cures[0].changes[0].change
    assert isinstance(changed, Collar)
    assert changed.left > 20


@pytest.mark.parametrize(
    "change",
    [
        Collar(axle="front", by_mm=4, right_mm=10),
        SeatSpacer(axle="front", thickness_mm=4, right_mm=10),
        TorsionAdjuster(axle="front", turns=4, right_turns=10),
    ],
)
def test_what_is_set_apart_stays_apart_when_the_axle_is_set(change: Sided) -> None:
    moved = change.at(6.0)
    assert (moved.left, moved.right) == (6.0, 12.0)
    assert "left" in moved.summary()
    assert change.at(4.0) == change
    assert change.one_side("right", 2).right == 12.0
    assert change.one_side("left", 2).right == 10.0
    assert "left" in " ".join(change.steps(job_on("wishbones", "front").vehicle)).lower()


def test_the_thicker_side_is_the_one_that_binds() -> None:
    """Coil bind is judged at the wheel with less room."""
    even = predict(on(job_on("wishbones", "front"), SeatSpacer(axle="front", thickness_mm=40)))
    apart = predict(on(job_on("wishbones", "front"), SeatSpacer(axle="front", thickness_mm=0, right_mm=80)))

    def room(answer: Prediction) -> float:
        return next(f.value for f in answer.findings if f.id == "coil_bind.front")

    assert room(apart) == pytest.approx(room(even) - 40, abs=0.5)


def test_sides_that_are_wanted_or_planned_apart_are_no_spring_out_of_its_pocket() -> None:
    """Heights that come out as predicted, the left one higher: wanted so in one brief, only planned in another."""
    job = read(on(job_on("wishbones_long", "rear"), SeatSpacer(axle="rear", thickness_mm=14, right_mm=0)))
    planned = {h.side: h.after for h in predict(job).heights if h.axle == "rear" and h.kind == "hub_to_arch"}
    apart = planned["left"] - planned["right"]
    assert apart > APART_MM
    corners = tuple(
        CornerReading(
            axle="rear", side=side, quantity="hub_to_arch", reading=Length.model_validate(f"{planned[side]:.1f}")
        )
        for side in SIDES
    )
    after = Measurements(corners=corners)

    def told(aim: AxleAim) -> SideProof:
        brief = job.brief.model_copy(update={"rear": aim})
        return prove(job.model_copy(update={"brief": brief, "prove": Prove(after=after)})).sides[0]

    lean = told(AxleAim(by="none"))
    assert (lean.even, "the plan leans it so" in lean.advice) == (False, True)
    left, right = (Length.model_validate(f"{planned[s]:.1f}") for s in ("left", "right"))
    wanted = told(AxleAim(by="hub_to_arch", height=left, right=right))
    assert (wanted.even, wanted.advice) == (True, "")


@pytest.mark.parametrize("up", ["left", "right"])
def test_a_body_that_leans_takes_camber_along(up: Side) -> None:
    """Each wheel at its own travel on its linkage, and the lean on top: the higher side's wheel leans in with it."""
    change = Collar(axle="front", by_mm=24 if up == "left" else 0, right_mm=0 if up == "left" else 24)
    job = on(job_on("wishbones", "front"), change)
    stood = assess(job)
    stance = stood.after.front
    beyond = by_its_side(job, stood.before, stood.after)
    apart = beyond["front", "left"] - beyond["front", "right"]
    assert abs(apart) > 10
    assert (apart > 0) == (up == "left")
    lean = math.degrees(math.atan(apart / stance.axle.track_mm))
    for wheel in align(job).wheels[:2]:
        travel = stance.travel - beyond["front", wheel.side]
        on_linkage = math.degrees(float(stance.corner.sweep(travel, stood.after.pitch).camber[0]))
        expected = on_linkage + (-lean if wheel.side == "left" else lean)
        planned = next(a.planned for a in wheel.angles if a.angle == "camber")
        assert planned == pytest.approx(expected, abs=2e-3), wheel.side


def test_a_leaning_body_steers_a_solid_axle_and_tilts_it_not() -> None:
    """The lean is a bend the other way round: both wheels steer with the axle, by its roll steer."""
    change = SeatSpacer(axle="rear", thickness_mm=30, right_mm=0)
    job = on(job_on("four_link_axle", "rear"), change)
    stood = assess(job)
    stance = stood.after.rear
    beyond = by_its_side(job, stood.before, stood.after)
    lean = math.degrees(math.atan((beyond["rear", "left"] - beyond["rear", "right"]) / stance.axle.track_mm))
    half = math.radians(lean)
    # The body over to the right is, seen from it, the axle with its left wheel down: its own poses say what it does.
    poses = stance.corner.body.poses(np.full(2, stance.travel), roll=np.array([0.0, -half]))
    steer = np.degrees(axle_motion(stance.corner, poses).steer)
    even = on(job_on("four_link_axle", "rear"), SeatSpacer(axle="rear", thickness_mm=15))
    toes = [
        {w.side: {a.angle: a.planned for a in w.angles} for w in align(one).wheels if w.axle == "rear"}
        for one in (job, even)
    ]
    turned = float(steer[1] - steer[0])
    assert abs(turned) > 0.005
    assert toes[0]["left"]["toe"] - toes[1]["left"]["toe"] == pytest.approx(-turned, abs=0.1 * abs(turned))
    assert toes[0]["right"]["toe"] - toes[1]["right"]["toe"] == pytest.approx(turned, abs=0.1 * abs(turned))
    assert toes[0]["left"]["camber"] == pytest.approx(toes[1]["left"]["camber"], abs=1e-3)


def test_bodies_turned_apart_have_each_their_own_stroke() -> None:
    """Left foot 16 mm further out, right as it was: each damper and stop as long as it is made, the worse one told."""
    job = on(job_on("wishbones", "front"), Collar(axle="front", by_mm=16, right_mm=0, turns="body"))
    came, after = job.vehicle.front, assess(job).after.front
    for side, by in zip(SIDES, (16.0, 0.0), strict=True):
        own = after.of_side(side).axle
        assert own.damper.extended_mm == pytest.approx(came.damper.extended_mm + by)
        assert own.damper.closed_mm == pytest.approx(came.damper.closed_mm + by)
        assert own.spring_offset_mm == pytest.approx(came.spring_offset_mm + by)
        assert own.seat_spacer_mm == came.seat_spacer_mm
    answer = predict(job)
    both = predict(on(job_on("wishbones", "front"), Collar(axle="front", by_mm=8, turns="body")))
    assert answer.front.rise == pytest.approx(both.front.rise, abs=1e-6), "the axle as one has the mean"
    assert corner(answer, "front", "left") > corner(answer, "front", "right") + 3


def test_a_leaning_body_brings_one_wheel_nearer_to_its_stop() -> None:
    """The gap that is told is that of the wheel on the low side."""
    job = read(job_on("strut_front", "front"))
    apart = on(job, SeatSpacer(axle="front", thickness_mm=-20, right_mm=-60))
    stood = assess(apart)
    beyond = by_its_side(apart, stood.before, stood.after)
    stance = stood.after.front
    contact = stance.window.stop_contact
    assert contact is not None
    told = next(f.value for f in predict(apart).findings if f.id == "bump_gap.front")
    assert beyond["front", "right"] < -5
    assert told == pytest.approx(contact - (stance.travel - beyond["front", "right"]), abs=1e-6)
