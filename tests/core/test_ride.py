"""Equilibrium: laws for any spring, and what a part does to ride point and window."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, example, given, settings
from hypothesis import strategies as st

from inclinum.core.equilibrium import Damper, QuadraticLength, RideCorner, ride_travels
from inclinum.core.springs import BumpStop, CoilSpring
from inclinum.core.springs.bump_stop import TopOut

CURVE = QuadraticLength(250.0, 0.9, 0.0004)
DAMPER = Damper(extended=330.0, closed=160.0, stop_contact=200.0)
STOP = BumpStop(35.0, 1.5, 2.0)


def corner(rate: float, free: float, seat: float = 0.0, top: float = 0.0) -> RideCorner:
    return RideCorner(CURVE, CURVE, CoilSpring(rate, free), DAMPER, STOP, seat + top, top, (-120.0, 130.0))


@settings(deadline=None)
@example(15.0, 300.0, 6129.0)  # its last step was once a halving, which is not as fine as a step of Newton's
@given(st.floats(15, 60), st.floats(300, 420), st.floats(500, 9000))
def test_at_the_ride_point_the_wheel_force_is_the_load(rate: float, free: float, load: float) -> None:
    ride = corner(rate, free)
    z = float(ride.ride_travel(load))
    assume(not np.isnan(z))
    assert float(ride.wheel_force(z)) == pytest.approx(load, abs=1e-4)


@settings(deadline=None)
@given(st.floats(15, 60), st.floats(300, 420), st.floats(-60, 100))
def test_wheel_rate_is_the_slope_of_wheel_force(rate: float, free: float, z: float) -> None:
    ride = corner(rate, free)
    h = 1e-3
    kink = [ride.window().stop_contact, ride.travel_of_spring(free)]
    assume(all(k is None or abs(z - k) > 0.1 for k in kink))
    slope = (float(ride.wheel_force(z + h)) - float(ride.wheel_force(z - h))) / (2 * h)
    assert float(ride.wheel_rate(z)) == pytest.approx(slope, rel=1e-4, abs=1e-4)


def test_no_ride_point_is_said_not_numbered() -> None:
    assert np.isnan(corner(20, 300).ride_travel(60_000.0))
    assert np.isnan(corner(20, 600).ride_travel(10.0))


def test_a_seat_spacer_moves_the_ride_point_and_a_top_spacer_the_window_too() -> None:
    load = float(corner(30, 360).wheel_force(0.0))
    plain, seat, top = corner(30, 360), corner(30, 360, seat=12), corner(30, 360, top=12)
    assert seat.window() == plain.window()
    assert float(seat.ride_travel(load)) == pytest.approx(float(top.ride_travel(load)), abs=1e-9)
    before, after = plain.window().stop_contact, top.window().stop_contact
    assert before is not None
    assert after is not None
    assert float(CURVE.length(before)) == pytest.approx(200.0, abs=1e-6)
    assert float(CURVE.length(after)) == pytest.approx(212.0, abs=1e-6)


def test_fittings_solved_together_ride_where_each_rides_alone() -> None:
    load = float(corner(30, 360).wheel_force(70.0))
    plain = corner(30, 360)
    fittings = [
        plain, corner(34, 352), corner(30, 360, seat=15), corner(30, 360, top=15),
        replace(plain, spring_length=QuadraticLength(244.0, 0.7, 0.0002)), replace(plain, stop=None),
        replace(plain, stop_travel=12.0), replace(plain, bush_rate=8.0, bush_free_at=-6.0),
        replace(plain, top_out=TopOut(40.0, 180.0)),
    ]  # fmt: skip
    alone = [float(f.ride_travel(load)) for f in fittings]
    np.testing.assert_allclose(ride_travels(fittings, [load] * len(fittings)), alone, atol=1e-7)
    assert len({round(z, 3) for z in alone}) >= 7
