"""Alignment solves: what was planted is found again, and nothing leaves its range."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from inclinum.core.kinematics.adjusting import AlignmentProblem, Clamp, LinkLength, Slot, together
from inclinum.demo.van import van

AXLE = van().front
CORNER = AXLE.linkage.corner(AXLE.tyre_radius_mm, np.radians(AXLE.camber_deg), np.radians(AXLE.toe_deg))
ADJUSTERS = (
    Slot("plate, across", "strut_top", (0, 1, 0), -12, 12),
    Slot("plate, along", "strut_top", (1, 0, 0), -10, 10),
    LinkLength("tie rod", "tie_outer", -12, 12),
)
within = st.tuples(st.floats(-9, 9), st.floats(-8, 8), st.floats(-9, 9))


def angles_at(travel: float, values: tuple[float, ...]) -> dict:
    adjusted = together([a.effect(np.array([v])) for a, v in zip(ADJUSTERS, values, strict=True)])
    motion = CORNER.sweep(np.array([travel]), adjusted=adjusted)
    assert motion.caster is not None
    return {q: float(np.ravel(getattr(motion, q))[0]) for q in ("camber", "toe", "caster")}


@settings(deadline=None, max_examples=25)
@given(within, st.floats(-50, 50))
def test_settings_that_made_the_targets_are_found_again(planted: tuple[float, ...], travel: float) -> None:
    solution = AlignmentProblem(CORNER, travel, ADJUSTERS, angles_at(travel, planted)).solve()
    assert list(solution.values.values()) == pytest.approx(planted, abs=0.02)
    assert solution.weighted_cost < 1e-10
    assert solution.at_stop == []


@settings(deadline=None, max_examples=15)
@given(st.floats(-4, 4), st.floats(-1, 1), st.floats(1, 8))
def test_targets_out_of_reach_end_at_a_stop_and_never_beyond(camber: float, toe: float, caster: float) -> None:
    targets = {"camber": np.radians(camber), "toe": np.radians(toe), "caster": np.radians(caster)}
    solution = AlignmentProblem(CORNER, 0.0, ADJUSTERS, targets).solve()  # pyright: ignore[reportArgumentType]
    for adjuster in ADJUSTERS:
        assert adjuster.low - 1e-9 <= solution.values[adjuster.name] <= adjuster.high + 1e-9
    missed = max(abs(r) for r in solution.remaining.values())
    assert (missed > np.radians(0.02)) <= bool(solution.at_stop)


def test_what_the_rack_read_shifts_the_answer_by_as_much() -> None:
    target = {"toe": np.radians(0.1)}
    rod = (ADJUSTERS[2],)
    plain = AlignmentProblem(CORNER, 0.0, rod, target).solve()  # pyright: ignore[reportArgumentType]
    off = AlignmentProblem(CORNER, 0.0, rod, target, offsets={"toe": np.radians(0.3)}).solve()  # pyright: ignore[reportArgumentType]
    assert off.achieved["toe"] == pytest.approx(target["toe"], abs=1e-9)
    assert np.degrees(off.before["toe"] - plain.before["toe"]) == pytest.approx(0.3)
    # The rod is behind the axle: longer turns the wheel's front in.
    assert off.values["tie rod"] < plain.values["tie rod"]


def test_an_adjuster_that_is_held_is_not_touched() -> None:
    target = {"toe": 0.0}
    held = AlignmentProblem(CORNER, 0.0, ADJUSTERS, target, held={"plate, across": 3.0}).solve()  # pyright: ignore[reportArgumentType]
    assert held.values["plate, across"] == 3.0
    assert held.achieved["toe"] == pytest.approx(0, abs=1e-6)
    assert held.achieved["toe"] != pytest.approx(held.before["toe"], abs=1e-3)


def test_caster_of_a_suspension_without_a_steering_axis_is_refused() -> None:
    rear = van().rear.linkage.corner(312, 0, 0)
    with pytest.raises(ValueError, match="no steering axis"):
        AlignmentProblem(rear, 0.0, (), {"caster": 0.1}).evaluate(np.zeros(0))


def test_effects_on_the_same_part_add_up() -> None:
    both = together([a.effect(np.array([2.0])) for a in ADJUSTERS[:2]])
    assert both.moved["strut_top"].tolist() == [[2, 2, 0]]
    lean = together([Clamp("c", "strut_lower", 50.0, -2, 2).effect(np.array([1.0, -0.5]))])
    assert lean.samples == 2
    assert lean.tilted["strut_lower"][:, 0].tolist() == [0.02, -0.01]
