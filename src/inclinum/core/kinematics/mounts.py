"""Where a spring and a damper stand against each other."""

from functools import lru_cache

import numpy as np

from inclinum.core.kinematics import PointDistance
from inclinum.core.kinematics.kinds import Linkage


def stand_together(linkage: Linkage) -> bool:
    """Whether spring and damper are one unit: both ends of one stand where those of the other do."""
    return _together(linkage, both=True)  # pyright: ignore[reportArgumentType] (hashable)


def share_a_mount(linkage: Linkage) -> bool:
    """Whether spring and damper hang on one mount at the body, so that a plate on top of it presses both."""
    return _together(linkage, both=False)  # pyright: ignore[reportArgumentType] (hashable)


@lru_cache(maxsize=512)
def _together(linkage: Linkage, *, both: bool) -> bool:
    corner = linkage.corner(300.0, 0.0, 0.0)
    spring, damper = corner.spring, corner.damper
    if not isinstance(spring, PointDistance) or damper is None:
        return False
    at = corner.body.points
    ends = [(spring.start, damper.start), *([(spring.end, damper.end)] if both else [])]
    return all(bool(np.linalg.norm(at[a] - at[b]) < SAME_MOUNT_MM) for a, b in ends)


SAME_MOUNT_MM = 1.0
"""Mounts closer than this are one."""
