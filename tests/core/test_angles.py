"""Angle formulas by hand, and the roll centre against the drawn construction."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from inclinum.core.kinematics import wheel_angles
from inclinum.demo.van import van

angle = st.floats(-0.2, 0.2)


@given(angle, angle)
def test_the_spin_axis_has_the_angles_it_was_made_of(camber: float, toe: float) -> None:
    axis = wheel_angles.spin_axis(camber, toe)
    assert np.linalg.norm(axis) == pytest.approx(1)
    assert float(wheel_angles.camber(axis)) == pytest.approx(camber, abs=1e-12)
    assert float(wheel_angles.toe(axis)) == pytest.approx(toe, abs=1e-12)


def test_signs_of_a_left_wheel() -> None:
    leaning_out = np.array([0.0, 1.0, -0.05])  # the outward axis points down when the top leans out
    assert float(wheel_angles.camber(leaning_out)) > 0
    toe_in = np.array([0.05, 1.0, 0.0])  # the outward axis points forward when the front of the wheel turns in
    assert float(wheel_angles.toe(toe_in)) > 0
    lower, upper = np.array([0.0, 700.0, 200.0]), np.array([-40.0, 600.0, 850.0])
    assert float(np.degrees(wheel_angles.caster(lower, upper))) == pytest.approx(np.degrees(np.arctan(40 / 650)))
    assert float(np.degrees(wheel_angles.kingpin_inclination(lower, upper))) == pytest.approx(
        np.degrees(np.arctan(100 / 650))
    )


def test_where_the_steering_axis_meets_the_ground() -> None:
    lower, upper = np.array([0.0, 700.0, 200.0]), np.array([-40.0, 600.0, 850.0])
    at = wheel_angles.axis_at_ground(lower, upper, np.array(0.0))
    # Similar triangles: 200 mm further down the same line.
    assert at == pytest.approx([40 * 200 / 650, 700 + 100 * 200 / 650, 0.0])


@given(angle, angle, st.floats(-1, 1), st.floats(-1, 1), st.floats(-1, 1))
def test_the_rate_of_the_contact_direction_is_its_slope(
    camber: float, toe: float, wx: float, wy: float, wz: float
) -> None:
    axis = wheel_angles.spin_axis(camber, toe)
    rate = np.cross([wx, wy, wz], axis)
    down, down_rate = wheel_angles.down_in_wheel_plane(axis, rate)
    assert float(down @ axis) == pytest.approx(0, abs=1e-12), "it lies in the wheel's plane"
    h = 1e-6
    ahead, behind = (wheel_angles.down_in_wheel_plane(axis + s * h * rate, rate)[0] for s in (1, -1))
    assert down_rate == pytest.approx((ahead - behind) / (2 * h), abs=1e-6)
    turned = float(wheel_angles.toe(axis + h * rate) - wheel_angles.toe(axis - h * rate)) / (2 * h)
    assert float(wheel_angles.toe_rate(axis, rate)) == pytest.approx(turned, abs=1e-6)


@pytest.mark.parametrize("travel", [-60.0, 0.0, 45.0])
def test_the_roll_centre_is_where_the_drawn_construction_puts_it(travel: float) -> None:
    """Contact patch to the instant centre, met with the centre line, all from two poses a hair apart."""
    axle = van().rear
    corner = axle.linkage.corner(axle.tyre_radius_mm, 0.0, 0.0)
    h = 1e-3
    motion = corner.sweep(np.array([travel - h, travel, travel + h]))
    contact = motion.contact
    step = (contact[2] - contact[0]) / (2 * h)
    # In the end elevation the patch moves square to the line through the instant centre; that line crosses the
    # centre line at the roll centre.
    slope = -step[1] / step[2]
    height = contact[1, 2] + slope * (0 - contact[1, 1])
    assert motion.roll_centre_height[1] == pytest.approx(height - contact[1, 2], abs=0.05)


def test_pitch_and_stations_by_hand() -> None:
    assert np.degrees(wheel_angles.pitch_nose_down(10.0, 20.0, 2500.0)) == pytest.approx(
        np.degrees(np.arctan(10 / 2500))
    )
    assert wheel_angles.rise_at(0.0, 30.0, 20.0, 0.0, 2500.0) == 30
    assert wheel_angles.rise_at(-2500.0, 30.0, 20.0, 0.0, 2500.0) == 20
    # A bumper 800 mm behind the rear axle moves by 800/2500 of the difference more than the axle.
    assert wheel_angles.rise_at(-3300.0, 30.0, 20.0, 0.0, 2500.0) == pytest.approx(20 - 10 * 800 / 2500)


@given(st.floats(-60, 60), st.floats(-60, 60), st.floats(300, 1200), st.floats(-4200, -1800))
def test_two_stations_give_the_axles_back(front: float, rear: float, ahead: float, behind: float) -> None:
    readings = np.array([[x, wheel_angles.rise_at(x, front, rear, 0.0, 2600.0)] for x in (ahead, behind)])
    rises, _ = wheel_angles.axle_rises(readings, 0.0, 2600.0)
    assert rises == pytest.approx([front, rear], abs=1e-6)


def test_two_readings_at_one_station_say_nothing_about_two_axles() -> None:
    with pytest.raises(ValueError, match="one at each end"):
        wheel_angles.axle_rises(np.array([[700.0, 10.0], [700.4, 11.0]]), 0.0, 2600.0)
