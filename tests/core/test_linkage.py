"""Laws of the corner solver that hold for any plausible geometry."""

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from inclinum.core.kinematics import Adjustment, Corner, SemiTrailingLinkage, StrutLinkage
from inclinum.demo.van import van

STRUT = van().front.linkage.named_points()
ARM = van().rear.linkage.named_points()
MOVABLE = [n for n in STRUT if n != "wheel_centre"]


def strut_corner(moves: dict[str, list[float]]) -> Corner:
    points = {n: tuple(p + np.array(moves.get(n, [0, 0, 0]))) for n, p in STRUT.items()}
    return StrutLinkage.model_validate({"points": points}).corner(312.0, np.radians(-0.5), np.radians(0.1))


shift = st.lists(st.floats(-25, 25), min_size=3, max_size=3)
geometry = st.fixed_dictionaries(dict.fromkeys(MOVABLE, shift))


@settings(deadline=None, max_examples=40)
@given(geometry)
def test_links_keep_their_lengths_and_the_strut_its_line(moves: dict[str, list[float]]) -> None:
    corner = strut_corner(moves)
    motion = corner.sweep(np.linspace(-80, 80, 9))
    assume(motion.reachable.all())
    body, p = motion.poses, corner.body.points
    for outer, inner in (("lower_outer", "lower_front"), ("lower_outer", "lower_rear"), ("tie_outer", "tie_inner")):
        now = np.linalg.norm(body.point(p[outer]) - p[inner], axis=-1)
        np.testing.assert_allclose(now, np.linalg.norm(p[outer] - p[inner]), atol=1e-6)
    axis = body.direction(p["strut_top"] - p["strut_lower"])
    off = np.linalg.norm(np.cross(axis, p["strut_top"] - body.point(p["strut_lower"])), axis=-1)
    np.testing.assert_allclose(off / np.linalg.norm(axis, axis=-1), 0, atol=1e-6)
    np.testing.assert_allclose(motion.travel, np.linspace(-80, 80, 9), atol=1e-7)


@settings(deadline=None, max_examples=40)
@given(geometry)
def test_motion_is_continuous_and_rates_are_its_slopes(moves: dict[str, list[float]]) -> None:
    corner = strut_corner(moves)
    travel = np.linspace(-90, 90, 181)
    motion = corner.sweep(travel)
    assume(motion.reachable.all())
    assert motion.damper_length is not None
    assert motion.damper_ratio is not None
    for quantity in (motion.camber, motion.toe, motion.damper_length):
        steps = np.diff(quantity)
        assert np.abs(np.diff(steps)).max() < 0.02, "a jump along travel is another branch"
    inner = slice(1, -1)
    np.testing.assert_allclose(motion.damper_ratio[inner], -np.gradient(motion.damper_length, travel)[inner], atol=2e-4)
    np.testing.assert_allclose(motion.bump_steer[inner], np.gradient(motion.toe, travel)[inner], atol=2e-6)


def test_one_batch_gives_what_single_solves_give() -> None:
    corner = strut_corner({})
    slots = np.array([[0.0, -4, 0], [0, 0, 0], [0, 6, 0]])
    together = corner.sweep(np.array([-30.0, 20.0]), adjusted=Adjustment(moved={"strut_top": slots}))
    assert together.camber.shape == (3, 2)
    for i, slot in enumerate(slots):
        alone = corner.sweep(np.array([-30.0, 20.0]), adjusted=Adjustment(moved={"strut_top": slot}))
        np.testing.assert_allclose(together.camber[i], alone.camber, atol=1e-10)


def test_beyond_its_reach_an_arm_gives_no_pose() -> None:
    corner = SemiTrailingLinkage.model_validate({"points": {n: tuple(p) for n, p in ARM.items()}}).corner(312, 0, 0)
    reach = corner.body.travel_range(-900, 900)
    low, high = reach.low, reach.high
    assert "dead point" in reach.low_reason
    # The wheel centre turns on a circle about the pivot line: its reach is where it stands straight up and down.
    axis = (ARM["pivot_outer"] - ARM["pivot_inner"]) / np.linalg.norm(ARM["pivot_outer"] - ARM["pivot_inner"])
    arm = ARM["wheel_centre"] - ARM["pivot_inner"]
    along = arm @ axis * axis
    radius = np.linalg.norm(arm - along)
    top = (ARM["pivot_inner"] + along)[2] + radius * np.sqrt(1 - axis[2] ** 2)
    bottom = (ARM["pivot_inner"] + along)[2] - radius * np.sqrt(1 - axis[2] ** 2)
    z0 = ARM["wheel_centre"][2]
    assert high == pytest.approx(top - z0, abs=0.2)
    assert low == pytest.approx(bottom - z0, abs=0.2)
    motion = corner.sweep(np.array([low - 5, low + 5, high - 5, high + 5]))
    assert motion.reachable.tolist() == [False, True, True, False]


def test_nose_down_takes_its_angle_from_caster_and_leaves_the_rest_alone() -> None:
    corner = strut_corner({})
    level, nose_down = corner.sweep(np.zeros(1)), corner.sweep(np.zeros(1), pitch=np.radians(1.5))
    assert level.caster is not None
    assert nose_down.caster is not None
    # Exact for an axis seen from the side; the kingpin's lean makes it a hair less than exact.
    assert np.degrees(nose_down.caster - level.caster)[0] == pytest.approx(-1.5, abs=0.01)


def test_bad_geometry_names_the_part() -> None:
    points = {n: tuple(p) for n, p in STRUT.items()}
    with pytest.raises(ValidationError, match="tie_outer and tie_inner are the same point"):
        StrutLinkage.model_validate({"points": points | {"tie_outer": points["tie_inner"]}})
    with pytest.raises(ValidationError, match="wrong side"):
        StrutLinkage.model_validate({"points": points | {"wheel_centre": (0, -772, 312)}})
    # Two joints that are apart on paper only: a link of a tenth of a millimetre.
    near = tuple(STRUT["tie_inner"] + np.array([0.1, 0, 0]))
    with pytest.raises(ValueError, match="tie_inner to tie_outer has no length"):
        StrutLinkage.model_validate({"points": points | {"tie_outer": near}}).corner(312, 0, 0)
