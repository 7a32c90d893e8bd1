"""An axle seen from any side over its travel: what is moved, squeezed and stretched there, from one batch of poses."""

from collections.abc import Mapping

import numpy as np

from inclinum.core.car.drawing import Ground
from inclinum.core.car.parts import WheelParts
from inclinum.core.car.stance import Stance
from inclinum.core.car.stood import Stood
from inclinum.core.car.vehicle import AngleName
from inclinum.core.document.names import AxleName
from inclinum.core.kinematics.rigid import Array
from inclinum.core.shapes import VIEWS, Part, Seen, Shape, Told, ViewName, Whose, bounds, picture

FRAMES = 25
"""Positions over the travel."""


def axle_view(
    before: Stood,
    after: Stood,
    axle: AxleName,
    view: ViewName,
    whose: Whose = "planned",
    offsets: Mapping[AngleName, float] | None = None,
) -> Seen:
    """An axle of a vehicle as it came or as it is planned.

    Args:
        before, after: both stances.
        axle: which one.
        view: from which side; from the left only the left wheel is seen.
        whose: the vehicle whose axle moves.
        offsets: what a rack read less what the model has, rad, per angle: told as everywhere else.
    """
    stood, other = (after, before) if whose == "planned" else (before, after)
    stance = stood.axle(axle)
    travels = _travels(stance)
    at_ride = int(np.argmin(np.abs(travels - stance.travel)))
    frames = [picture(parts, VIEWS[view]) for parts in _moved(stood, axle, travels, view)]
    ghost = axle_at_rest(other, axle, view)
    room = [b for f in (frames[0], frames[at_ride], frames[-1], ghost) if (b := bounds(f)) is not None]
    ground = Ground(stood)
    linkage = stance.axle.linkage
    edge = np.array([0.0, linkage.half_track, linkage.hub_height + stance.axle.hub_to_arch_mm])
    hub = np.array([0.0, linkage.half_track, linkage.hub_height + stance.travel])
    arches = []
    for sign in (1, -1)[: 1 if view == "side" else 2]:
        places = np.array(ground.places(np.array([hub, edge]) * (1, sign, 1) + (stood.vehicle.axle_x(axle), 0, 0)))
        (a, b), (c, d) = np.round(VIEWS[view].flat(places), 1).tolist()
        arches.append(((a, b), (c, d)))
    return Seen(
        view=view,
        travel=np.round(travels - stance.travel, 1).tolist(),
        at_ride=at_ride,
        frames=frames,
        ghost=ghost,
        low=(min(b[0] for b in room), min(b[2] for b in room)),
        high=(max(b[1] for b in room), max(b[3] for b in room)),
        arches=tuple(arches),
        told=_told(stance, travels, stood.pitch, offsets or {}),
        ground=None if view == "above" else 0.0,
    )


def axle_at_rest(stood: Stood, axle: AxleName, view: ViewName) -> list[Shape]:
    """An axle where it rides, as :func:`axle_view` draws it."""
    return picture(_moved(stood, axle, np.array([stood.axle(axle).travel]), view)[0], VIEWS[view])


def _travels(stance: Stance) -> Array:
    """From full droop to full bump, the ride point among them."""
    grid = np.linspace(stance.full_droop, stance.bump_end, FRAMES)
    grid[int(np.argmin(np.abs(grid - stance.travel)))] = stance.travel
    return np.sort(grid)


def _told(stance: Stance, travels: Array, pitch: float, offsets: Mapping[AngleName, float]) -> list[Told]:
    """What a mechanic looks for at each of them."""
    motion, ride = stance.corner.sweep(travels, pitch), stance.ride
    damper = ride.damper_at(travels)

    def degrees(angle: AngleName) -> list[float]:
        return np.round(np.degrees(getattr(motion, angle) + offsets.get(angle, 0.0)), 3).tolist()

    found = [
        Told(name="camber", unit="°", digits=2, values=degrees("camber")),
        Told(name="toe, one wheel", unit="°", digits=2, values=degrees("toe")),
        Told(name="damper can still close", unit="mm", digits=0, values=_mm(damper - stance.axle.damper.closed_mm)),
    ]
    contact = stance.window.stop_contact
    if contact is not None:
        found.append(Told(name="wheel to bump stop", unit="mm", digits=0, values=_mm(contact - travels)))
    if stance.axle.spring.is_coil and np.isfinite(ride.spring.solid_length or np.nan):
        room = ride.spring_at(travels) - (ride.spring.solid_length or 0.0)
        found.append(Told(name="spring can still close", unit="mm", digits=0, values=_mm(room)))
    return found


def _mm(values: Array) -> list[float]:
    return np.round(values, 1).tolist()


def _moved(stood: Stood, axle: AxleName, travels: Array, view: ViewName) -> list[list[Part]]:
    """Parts at every travel, the body where it rides: both sides, from the left only the left one."""
    stance, ground = stood.axle(axle), Ground(stood)
    left = WheelParts(stance.of_side("left"), stance.corner.body.poses(travels))
    right = left
    own = stance.of_side("right")
    if own is not stance and view != "side":
        right = WheelParts(own, own.corner.body.poses(travels))
    found = []
    for n in range(len(travels)):
        parts = [*left.of_axle(n), *left.of_wheel(n)]
        if view != "side":
            parts += [p.mirrored() for p in right.of_wheel(n)]
        found.append(ground.put(parts, stood.vehicle.axle_x(axle)))
    return found


__all__ = ["axle_at_rest", "axle_view"]
