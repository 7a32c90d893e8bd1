"""Positions along one branch: how any linkage, in space or in the plane, is solved and followed.

A linkage is a set of equations that hold in every position, and a drive: travel, roll, rise. From a position that is
known the next is found by Newton's method; the drive is taken in stages short enough that it stays on the branch it
started on. The sign of the Jacobian's determinant tells the branch: it changes where the linkage passes a dead point.
"""

from collections.abc import Callable, Iterator
from typing import Any

import numpy as np

from inclinum.core.kinematics.rigid import Array

State = tuple[Array, ...]
"""What a position is told by, each part with the positions along its first axis."""
Which = slice | np.ndarray
Equations = Callable[[State, Any], tuple[Array, Array]]
Stepped = Callable[[State, Array], State]
REACH_GRID = 17
"""Positions tried at once where the end of the reach is looked for."""


def solve(matrices: Array, right: Array) -> Array:
    """Stacked solve of linear systems; a singular one (a dead point) gives zeros.

    Args:
        matrices: (N, k, k).
        right: vectors (N, k) or columns (N, k, m).

    >>> solve(np.array([[[2.0, 0.0], [0.0, 4.0]], [[1.0, 1.0], [1.0, 1.0]]]), np.array([[2.0, 2.0], [1.0, 1.0]]))
    array([[1. , 0.5],
           [0. , 0. ]])
    """
    columns = right if right.ndim == matrices.ndim else right[..., None]
    try:
        solved = np.linalg.solve(matrices, columns)
    except np.linalg.LinAlgError:
        solved = np.zeros_like(columns)
        regular = np.abs(np.linalg.det(matrices)) > 1e-12
        solved[regular] = np.linalg.solve(matrices[regular], columns[regular])
    return solved if right.ndim == matrices.ndim else solved[..., 0]


def sense(jacobian: Array) -> Array:
    """Sign of the determinant: the branch a position lies on; NaN where there is no position.

    Args:
        jacobian: (N, k, k).
    """
    with np.errstate(invalid="ignore"):
        return np.sign(np.linalg.det(jacobian))


def newton(
    equations: Equations, stepped: Stepped, start: State, *, within: float, most: int, pick: float = 0.0
) -> tuple[State, Array, Array]:
    """Newton's method from given positions, all at once.

    Args:
        equations: positions, and which of all they are → residuals (N, k) and their Jacobian (N, k, k).
        stepped: positions and a step (N, k) → the positions after it, cut where it would leave the branch.
        start: the positions to begin with.
        within: a position with every residual below this is found.
        most: steps taken at most.
        pick: share of open positions up to which only those are stepped again. Picking them out costs more than it
            saves while most are left; 0 always steps all.

    Returns:
        Positions, their residuals and their Jacobian; whoever asks says which are found.
    """
    state = tuple(part.copy() for part in start)
    residual, jacobian = equations(state, slice(None))
    for _ in range(most):
        worst = np.abs(residual).max(axis=1)
        open_ = (worst >= within) & (worst < np.inf)
        left = np.count_nonzero(open_)
        if left == 0:
            break
        if left > pick * open_.size:
            state = stepped(state, solve(jacobian, -residual))
            residual, jacobian = equations(state, slice(None))
            continue
        active = np.flatnonzero(open_)
        moved = stepped(tuple(part[active] for part in state), solve(jacobian[active], -residual[active]))
        for part, to in zip(state, moved, strict=True):
            part[active] = to
        residual[active], jacobian[active] = equations(moved, active)
    return state, residual, jacobian


def stages(goal: Array, size: Array | float) -> Iterator[tuple[Array, Array]]:
    """A way from zero to every goal in equal parts, none longer than ``size``: where each begins and ends.

    Args:
        goal: values of the drive, (N,) or (N, drives).
        size: longest part, one for each drive.
    """
    count = max(1, int(np.ceil((np.abs(goal) / size).max(initial=0.0))))
    reached = np.zeros_like(goal)
    for stage in range(1, count + 1):
        ahead = goal * stage / count
        yield reached, ahead
        reached = ahead


def end_of_reach(exists: Callable[[Array], Array], end: float, resolution: float, grid: int = REACH_GRID) -> float:
    """How far a drive goes from 0 towards ``end``: the last value at which a position is found.

    Args:
        exists: values of the drive (N,) → whether each has a position.
        end: as far as is asked for.
        resolution: the end is found this well, in the drive's unit.
        grid: positions tried at once: enough that none is missed in between.

    >>> round(end_of_reach(lambda z: np.abs(z) < 30.0, 100.0, 0.001), 3)
    30.0
    """
    inside, outside = 0.0, end
    while abs(outside - inside) > resolution:
        tried = np.linspace(inside, outside, grid)
        ok = exists(tried)
        if ok.all():
            return float(outside)
        first_lost = int(np.argmin(ok))
        inside, outside = tried[max(first_lost - 1, 0)], tried[first_lost]
    return float(inside)
