"""Where a picture is looked at from: which of forward, left and up go right and up in it."""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from inclinum.core.kinematics.rigid import Array

ViewName = Literal["side", "behind", "above"]


Axis = tuple[int, int]
"""Which coordinate, and its sign."""


@dataclass(frozen=True)
class View:
    """A direction of sight along one of the axes.

    Args:
        name: for a caption.
        right, up, near: which of x forward, y left, z up goes right and up in the picture, and towards the eye.
    """

    name: ViewName
    right: Axis
    up: Axis
    near: Axis

    def flat(self, points: Array) -> Array:
        """Points (…, 3) in the plane of the picture, (…, 2)."""
        (u, right), (v, up) = self.right, self.up
        flat = points[..., [u, v]]
        flat *= (right, up)
        return flat

    @property
    def sight(self) -> Array:
        """Unit vector towards the eye."""
        return self.near[1] * np.eye(3)[self.near[0]]


SIDE = View("side", (0, -1), (2, 1), (1, 1))
"""From the left, the front to the left."""
BEHIND = View("behind", (1, -1), (2, 1), (0, -1))
"""From behind, left on the left."""
ABOVE = View("above", (1, -1), (0, 1), (2, 1))
"""From above, the front on top and left on the left."""
FROM_THE_RIGHT = View("side", (0, 1), (2, 1), (1, -1))
"""As two wheels are drawn: the chain's side, the front to the right."""
VIEWS: dict[ViewName, View] = {v.name: v for v in (SIDE, BEHIND, ABOVE)}
