"""What badly known hardpoints do to what is predicted, for a rise of 40 mm by the springs."""

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from inclinum.core.fitting.tape import with_followers
from inclinum.core.kinematics import AnyLinkage, Corner, axle_motion
from inclinum.core.kinematics.constraints import Adjustment
from inclinum.core.kinematics.leaf import LeafBody
from inclinum.core.kinematics.rigid import Array

LIFT_MM = 40.0
"""The change of height that consequences are told for."""
_INDEPENDENT = (("height", "mm"), ("camber change", "°"), ("toe change", "°"))
_COUPLED = (("height", "mm"), ("turn of the axle", "°"), ("sideways shift", "mm"))


def consequence_names(linkage: AnyLinkage) -> tuple[tuple[str, str], ...]:
    """Name and unit of every consequence of a kind of suspension."""
    return _COUPLED if linkage.coupled else _INDEPENDENT


def consequences(linkage: AnyLinkage, names: Sequence[str], step: float = 0.5) -> Array:
    """d(consequence)/d(coordinate) of the free points, (3, 3·points); all coordinates are moved in one batch."""
    points = linkage.named_points()
    shifts = np.zeros((6 * len(names), len(names), 3))
    for i in range(3 * len(names)):
        shifts[2 * i, i // 3, i % 3] = step
        shifts[2 * i + 1, i // 3, i % 3] = -step
    corner = linkage.corner(300.0, 0.0, 0.0)
    if isinstance(corner.body, LeafBody):
        # A pack is a plane chain of its own: what is moved sideways changes nothing there.
        angles = np.zeros((len(shifts), 3))
        for i, row in enumerate(shifts):
            if i // 2 % 3 != 1:
                moved = {n: points[n] + row[j] for j, n in enumerate(names) if row[j].any()}
                body = replace(corner.body, points=dict(corner.body.points) | moved)
                angles[i] = _told(replace(corner, body=body), Adjustment())
    else:
        by_name = {n: shifts[:, j] for j, n in enumerate(names)}
        angles = _told(corner, Adjustment(with_followers(by_name, points), placed_anew=True))
    return ((angles[0::2] - angles[1::2]) / (2 * step)).T


def _told(corner: Corner, adjusted: Adjustment) -> Array:
    """The consequences, (3,) or a row per sample (S, 3)."""
    poses = corner.body.poses(np.array([-LIFT_MM, 0.0]), adjusted)
    share = np.zeros(poses.travel.shape[:-1])
    if corner.spring is not None:
        ratio = corner.coordinate(corner.spring, poses, adjusted)[1][..., 1]
        share = LIFT_MM * np.log(np.maximum(ratio, 1e-9))
    if corner.body.across:
        motion = axle_motion(corner, poses)
        others = (
            np.degrees(motion.pitch[..., 0] - motion.pitch[..., 1]),
            (motion.lateral_shift[..., 0] - motion.lateral_shift[..., 1]),
        )
    else:
        swept = corner.motion(poses, adjusted=adjusted)
        others = tuple(np.degrees(a[..., 0] - a[..., 1]) for a in (swept.camber, swept.toe))
    return np.nan_to_num(np.stack([share, *others], axis=-1))
