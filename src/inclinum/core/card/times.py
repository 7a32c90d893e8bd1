"""How long steps took: the shop's own times take the place of what is usual, once there are a few."""

from collections.abc import Mapping, Sequence

import numpy as np

Minutes = tuple[float, float]
Taken = Mapping[str, Sequence[float]]
"""Kind of step → minutes it took, job by job."""
NO_TIMES: Taken = {}
ENOUGH = 3
"""Times from which a range is told; fewer say nothing about how they spread."""
LEFT_OUT = 0.1
"""Share of the quickest and of the slowest that is left out of the range."""


def expected(usual: Minutes, taken: Sequence[float]) -> tuple[Minutes, int]:
    """Range of minutes for a step, and from how many times it is told.

    Args:
        usual: what is told where the shop has no times of its own, least and most.
        taken: what the step took before, min.

    Returns:
        the range, and the number of times behind it; 0 where it is what is usual.

    Source: derived here: the middle four fifths of what was timed.

    >>> expected((5, 10), [8.0, 9.0])
    ((5, 10), 0)
    >>> expected((5, 10), [12.0, 12.0, 12.0])
    ((12.0, 12.0), 3)
    """
    if len(taken) < ENOUGH:
        return usual, 0
    low, high = np.quantile(taken, [LEFT_OUT, 1 - LEFT_OUT])
    return (float(low), float(high)), len(taken)
