"""Springs and stops: hand-worked forces, and what holds for all of them."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from inclinum.core.equilibrium import QuadraticLength, SampledLength, ScaledLength, frequency
from inclinum.core.springs import BumpStop, CoilSpring, bind_margin_wanted, wire_rate, wire_solid_length


def test_a_coil_by_hand() -> None:
    spring = CoilSpring(28.0, 350.0)
    assert float(spring.force(300.0)) == 1400
    assert float(spring.force(360.0)) == 0, "a loose spring does not pull"
    assert float(spring.stiffness(300.0)) == 28
    assert float(spring.stiffness(360.0)) == 0
    assert float(spring.length_at(1400.0)) == 300


@given(st.floats(5, 200), st.floats(150, 600), st.floats(1, 8000))
def test_length_and_force_of_a_coil_undo_each_other(rate: float, free: float, force: float) -> None:
    spring = CoilSpring(rate, free)
    assert float(spring.force(spring.length_at(force))) == pytest.approx(force, rel=1e-9)


@given(st.floats(8, 20), st.floats(80, 160), st.floats(3, 12))
def test_wire_laws(wire: float, mean: float, coils: float) -> None:
    rate = wire_rate(wire, mean, coils)
    assert wire_rate(2 * wire, mean, coils) == pytest.approx(16 * rate), "rate goes with the wire to the fourth"
    assert wire_rate(wire, 2 * mean, coils) == pytest.approx(rate / 8), "and with the coil to the minus third"
    assert wire_rate(wire, mean, coils / 2) == pytest.approx(2 * rate), "half a spring is twice as stiff"
    assert wire_solid_length(wire, coils) == pytest.approx(wire * coils)


def test_the_margin_to_solid_is_a_millimetre_a_coil_or_five() -> None:
    assert bind_margin_wanted(8.5) == 8.5
    assert bind_margin_wanted(3.0) == 5
    assert bind_margin_wanted(None) == 5


def test_a_bump_stop_by_hand() -> None:
    stop = BumpStop(40.0, 2.0, 2.0)
    assert stop.force(np.array([-5.0, 0.0, 10.0, 30.0])).tolist() == [0, 0, 200, 1800]
    assert float(stop.stiffness(10.0)) == 40


@given(st.floats(0.1, 10), st.floats(1.2, 4), st.floats(0.5, 60))
def test_a_stops_stiffness_is_the_slope_of_its_force(coefficient: float, power: float, x: float) -> None:
    stop, h = BumpStop(80.0, coefficient, power), 1e-5
    slope = (float(stop.force(x + h)) - float(stop.force(x - h))) / (2 * h)
    assert float(stop.stiffness(x)) == pytest.approx(slope, rel=1e-4)


def test_frequency_by_hand() -> None:
    # 25 N/mm under a quarter of 400 kg is √(25000/400)/2π.
    assert float(frequency(25.0, 400 * 9.80665)) == pytest.approx(np.sqrt(25_000 / 400) / (2 * np.pi))


@given(st.floats(200, 400), st.floats(0.5, 1.2), st.floats(-8e-4, 8e-4), st.floats(-90, 90))
def test_a_sampled_curve_gives_back_the_curve_it_was_sampled_from(base: float, a: float, b: float, z: float) -> None:
    true = QuadraticLength(base, a, b)
    travel = np.linspace(-100, 100, 21)
    sampled = SampledLength(travel, true.length(travel), true.ratio(travel))
    for got, want in zip(sampled.at(z), true.at(z), strict=True):
        assert float(got) == pytest.approx(float(want), abs=1e-9)


@given(st.floats(0.9, 1.1), st.floats(-40, 40))
def test_a_scaled_ratio_scales_every_change_of_length(factor: float, z: float) -> None:
    true = QuadraticLength(250.0, 0.8, 3e-4)
    scaled = ScaledLength(true, factor, about=10.0)
    assert float(scaled.length(10.0)) == pytest.approx(float(true.length(10.0)))
    moved = float(true.length(z) - true.length(10.0))
    assert float(scaled.length(z) - scaled.length(10.0)) == pytest.approx(factor * moved, abs=1e-9)
    length, ratio, slope = scaled.at(z)
    assert (float(length), float(ratio)) == (float(scaled.length(z)), float(scaled.ratio(z)))
    assert float(slope) == pytest.approx(factor * 6e-4)
