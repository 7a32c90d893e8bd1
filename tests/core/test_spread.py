"""Spread of tolerances: exact for straight responses, near for bent ones."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from inclinum.core.uncertainty import propagate, sample

numbers = st.lists(st.floats(-5, 5), min_size=3, max_size=3).map(np.array)
sigmas = st.lists(st.floats(0, 3), min_size=3, max_size=3).map(np.array)


@given(numbers, numbers, sigmas)
def test_a_straight_response_spreads_exactly(slope: np.ndarray, at: np.ndarray, sigma: np.ndarray) -> None:
    spread = propagate(lambda x: x @ slope + 7, at, sigma)
    assert float(spread.value) == pytest.approx(float(at @ slope + 7))
    assert spread.contribution == pytest.approx(np.abs(slope) * sigma, abs=1e-6)
    assert float(spread.sigma) == pytest.approx(float(np.sqrt(((slope * sigma) ** 2).sum())), abs=1e-6)


def test_shares_add_up_to_one_and_what_is_exact_has_none() -> None:
    spread = propagate(lambda x: x @ np.array([1.0, 2.0, 3.0]), np.zeros(3), np.array([1.0, 0.0, 1.0]))
    assert spread.share.tolist() == pytest.approx([0.1, 0.0, 0.9])
    certain = propagate(lambda x: x @ np.ones(2), np.zeros(2), np.zeros(2))
    assert certain.share.tolist() == [0, 0]


def test_several_results_are_told_apart() -> None:
    spread = propagate(lambda x: np.stack([x[:, 0], 2 * x[:, 1]], axis=1), np.zeros(2), np.array([1.0, 1.0]))
    assert spread.sigma.tolist() == pytest.approx([1, 2])
    assert spread.share.tolist() == [pytest.approx([1, 0]), pytest.approx([0, 1])]


@settings(deadline=None, max_examples=10)
@given(st.floats(0.5, 3), st.floats(0.01, 0.1))
def test_samples_of_a_gently_bent_response_agree_with_the_straight_one(at: float, sigma: float) -> None:
    def bent(x: np.ndarray) -> np.ndarray:
        return np.sqrt(x[:, 0])

    straight = propagate(bent, np.array([at]), np.array([sigma]))
    drawn = sample(bent, np.array([at]), np.array([sigma]), 40_000, seed=3)
    assert drawn.std() == pytest.approx(float(straight.sigma), rel=0.05)
