"""Parallel links with a lateral rod, and a strut whose spring stands on the arm: worked by hand."""

import numpy as np
import pytest
from scipy.optimize import fsolve

from inclinum.core.car.archetypes import ARCHETYPES, SIZES
from inclinum.core.car.card import card
from inclinum.core.car.changes import ArmLength, SeatSpacer, StrutTopSpacer
from inclinum.core.car.prediction import assess, predict
from inclinum.core.car.stance import axle_corner
from inclinum.core.car.vehicle import StrutTop
from inclinum.core.document.errors import DomainError
from inclinum.core.kinematics import axle_motion
from inclinum.core.kinematics.axles import ParallelLinkAxle
from inclinum.core.kinematics.kinds import StrutLinkage
from inclinum.core.kinematics.mounts import stand_together
from inclinum.core.kinematics.rigid import Array
from tests.core.test_changes_by_hand import on
from tests.core.test_every_change import job_on

POINTS = {
    "wheel_centre_left": (0, 760, 315), "wheel_centre_right": (0, -760, 315),
    "lower_left_body": (560, 470, 330), "lower_left_axle": (20, 470, 270),
    "lower_right_body": (560, -470, 330), "lower_right_axle": (20, -470, 270),
    "upper_left_body": (530, 430, 500), "upper_left_axle": (-10, 430, 440),
    "upper_right_body": (530, -430, 500), "upper_right_axle": (-10, -430, 440),
    "lateral_rod_body": (-150, -470, 410), "lateral_rod_axle": (-150, 500, 380),
}  # fmt: skip
"""All four links alike and straight along the vehicle."""


def axle() -> ParallelLinkAxle:
    return ParallelLinkAxle.model_validate({"kind": "solid_axle_parallel_links", "points": POINTS})


@pytest.mark.parametrize("heave", [-80.0, 55.0])
def test_alike_and_parallel_links_keep_the_pinion_and_the_rod_shifts_the_axle(heave: float) -> None:
    """The axle only moves, without turning: two equations for how far forward and sideways, solved here."""
    link, rod = (np.subtract(POINTS[a], POINTS[b]).astype(float) for a, b in
                 (("lower_left_axle", "lower_left_body"), ("lateral_rod_axle", "lateral_rod_body")))  # fmt: skip

    def missed(move: Array) -> list[float]:
        by = np.array([move[0], move[1], heave])
        return [float(np.linalg.norm(v + by) - np.linalg.norm(v)) for v in (link, rod)]

    forward, left = np.asarray(fsolve(missed, [0.0, 0.0]))
    corner = axle().corner(315, 0, 0)
    moved = axle_motion(corner, corner.body.poses(np.array([heave])))
    assert moved.pitch[0] == pytest.approx(0, abs=1e-9)
    assert moved.steer[0] == pytest.approx(0, abs=1e-9)
    assert (moved.fore_aft_shift[0], moved.lateral_shift[0]) == pytest.approx((forward, left), abs=1e-6)


@pytest.mark.parametrize("roll_deg", [-5.0, 3.0])
def test_in_roll_one_upper_link_is_pulled_as_the_other_is_pushed(roll_deg: float) -> None:
    linkage = ARCHETYPES["parallel_link_axle"].linkage(SIZES["off_roader"], "rear")
    corner = linkage.corner(380, 0, 0)
    poses = corner.body.poses(np.array([20.0]), roll=np.radians([roll_deg]))
    assert poses.reachable.all()
    p, stretched = linkage.named_points(), []
    for side in ("left", "right"):
        at = poses.point(p[f"upper_{side}_axle"])[0]
        was = np.linalg.norm(p[f"upper_{side}_axle"] - p[f"upper_{side}_body"])
        stretched.append(float(np.linalg.norm(at - p[f"upper_{side}_body"]) ** 2 / (2 * was) - was / 2))
        lower = poses.point(p[f"lower_{side}_axle"])[0] - p[f"lower_{side}_body"]
        assert np.linalg.norm(lower) == pytest.approx(
            np.linalg.norm(p[f"lower_{side}_axle"] - p[f"lower_{side}_body"]), abs=1e-7
        )
    assert sum(stretched) == pytest.approx(0, abs=1e-7)
    assert abs(stretched[0]) > 0.05, "they are not alike in roll"


def test_longer_upper_links_turn_the_pinion_by_what_they_are_longer() -> None:
    """Both upper links 8 mm longer, 170 mm above the lower ones: atan(8/170), nose down, but for their slope."""
    job = job_on("parallel_link_axle", "rear")
    both = on(job, ArmLength(axle="rear", outer="upper_left_axle", longer_mm=8))
    told = predict(both).rear.coupled
    assert told is not None
    points = job.vehicle.rear.linkage.named_points()
    apart = points["upper_left_axle"][2] - points["lower_left_axle"][2]
    assert abs(told.nose_up_deg) == pytest.approx(np.degrees(8 / apart), rel=0.06)


def strut() -> StrutLinkage:
    linkage = job_on("strut_arm_spring", "front").vehicle.front.linkage
    assert isinstance(linkage, StrutLinkage)
    return linkage


def test_the_seat_on_the_arm_goes_with_the_arm() -> None:
    linkage, corner = strut(), axle_corner(job_on("strut_arm_spring", "front").vehicle.front)
    poses = corner.sweep(np.array([-70.0, 0.0, 60.0])).poses
    seat, ball = (corner.place(n, poses)[0] for n in ("spring_arm", "lower_outer"))
    points = linkage.named_points()
    for inner in ("lower_front", "lower_rear"):
        apart = np.linalg.norm(points["spring_arm"] - points[inner])
        np.testing.assert_allclose(np.linalg.norm(seat - points[inner], axis=-1), apart, atol=1e-7)
    np.testing.assert_allclose(
        np.linalg.norm(seat - ball, axis=-1), np.linalg.norm(points["spring_arm"] - points["lower_outer"]), atol=1e-7
    )


def test_a_ring_on_the_arm_lifts_by_the_arm_and_a_plate_on_the_tower_does_not_lift() -> None:
    """The seat lies at about half of the arm; what stands on the strut's mount is the damper alone."""
    job = job_on("strut_arm_spring", "front")
    assert not stand_together(job.vehicle.front.linkage)
    ratio = float(assess(job).before.front.ride.spring_length.ratio(0.0))
    assert 0.4 < ratio < 0.75
    ring = predict(on(job, SeatSpacer(axle="front", thickness_mm=3))).front.rise
    assert ring == pytest.approx(3 / ratio, rel=0.06)
    top = StrutTop(stud_length_mm=30, stud_diameter_mm=8, nut_height_mm=8)
    job = job.model_copy(update={"vehicle": job.vehicle.with_axle("front", strut_top=top)})
    plate = predict(on(job, StrutTopSpacer(axle="front", thickness_mm=10))).front
    assert plate.rise == pytest.approx(0, abs=1e-6)
    assert plate.travel_after.droop == pytest.approx(plate.travel_before.droop - 10, abs=1.0)


def test_its_card_holds_an_arm_and_squeezes_no_strut() -> None:
    job = on(job_on("strut_arm_spring", "front"), SeatSpacer(axle="front", thickness_mm=10))
    text = " ".join(step.text for step in card(job).steps).lower()
    assert "arm" in text
    assert "compress" not in " ".join(t.lower() for t in card(job).preflight.tools)
    around = on(job_on("strut_front", "front"), SeatSpacer(axle="front", thickness_mm=10))
    assert "compress" in " ".join(t.lower() for t in card(around).preflight.tools)


def test_a_seat_alone_is_no_spring() -> None:
    half = strut().model_dump()
    half["points"]["spring_arm"] = None
    with pytest.raises((ValueError, DomainError), match="both of its seats"):
        StrutLinkage.model_validate(half)
