"""An axle seen from any side over its travel: what is moved, squeezed and stretched there, from one batch of poses."""

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from inclinum.core.car.adjusters import setting_key
from inclinum.core.car.carried import carried_steered, turns_to_lock
from inclinum.core.car.drawing import Ground
from inclinum.core.car.joints import joints_of, on_side, points_of
from inclinum.core.car.parts import STOP_TOUCHES, WheelParts
from inclinum.core.car.stance import Stance
from inclinum.core.car.stood import Stood
from inclinum.core.car.vehicle import AngleName
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import SIDES, AxleName
from inclinum.core.kinematics.axles import steered_axle
from inclinum.core.kinematics.rigid import Array
from inclinum.core.kinematics.steered import knuckle_at_locks
from inclinum.core.shapes import VIEWS, By, Near, Part, Seen, Shape, Spot, Told, ViewName, Whose, bounds, picture

FRAMES = 25
"""Positions over the travel."""


@dataclass(frozen=True)
class _Moved:
    """Wheels of an axle at positions, each drawn as a left one."""

    travel: Array
    left: WheelParts
    right: WheelParts


def axle_view(
    before: Stood,
    after: Stood,
    axle: AxleName,
    view: ViewName,
    whose: Whose = "planned",
    offsets: Mapping[AngleName, float] | None = None,
    by: By = "travel",
) -> Seen:
    """An axle of a vehicle as it came or as it is planned.

    Args:
        before, after: both stances.
        axle: which one.
        view: from which side; from the left only the left wheel is seen.
        whose: the vehicle whose axle moves.
        offsets: what a rack read less what the model has, rad, per angle: told as everywhere else.
        by: whether it goes through its travel, or is steered from lock to lock where it rides.

    Raises:
        DomainError: from lock to lock, of an axle that is not steered or whose lock nobody entered.
    """
    stood, other = (after, before) if whose == "planned" else (before, after)
    stance = stood.axle(axle)
    moved = _travelled(stance, view) if by == "travel" else _steered(stance, axle)
    at_ride = int(np.argmin(np.abs(moved.travel - (stance.travel if by == "travel" else 0.0))))
    frames = [picture(parts, VIEWS[view]) for parts in _parts(stood, axle, moved, view)]
    ghost = axle_at_rest(other, axle, view)
    room = [b for f in (frames[0], frames[at_ride], frames[-1], ghost) if (b := bounds(f)) is not None]
    linkage = stance.axle.linkage
    edge = np.array([0.0, linkage.half_track, linkage.hub_height + stance.axle.hub_to_arch_mm])
    hub = np.array([0.0, linkage.half_track, linkage.hub_height + stance.travel])
    arches = []
    for sign in (1, -1)[: 1 if view == "side" else 2]:
        (a, b), (c, d) = _flat(np.array([hub, edge]) * (1, sign, 1), stood, axle, view)
        arches.append(((a, b), (c, d)))
    told = {"ends": ("right lock", "left lock"), "rest": "straight ahead", "unit": "°"} if by == "lock" else {}
    return Seen(
        view=view,
        by=by,
        locks=turns_to_lock(stance),
        travel=np.round(moved.travel - (stance.travel if by == "travel" else 0.0), 1).tolist(),
        at_ride=at_ride,
        frames=frames,
        ghost=ghost,
        low=(min(b[0] for b in room), min(b[2] for b in room)),
        high=(max(b[1] for b in room), max(b[3] for b in room)),
        arches=tuple(arches),
        told=_told(stance, moved.travel, stood.pitch, offsets or {}) if by == "travel" else _turned(moved),
        near=tuple(_near(moved, before.axle(axle), stood, axle, view)),
        joints=tuple(_joints(moved, at_ride, stood, axle, view)),
        adjusters=tuple(_adjusters(moved, at_ride, stood, axle, view)),
        ground=None if view == "above" else 0.0,
        **told,
    )


def _near(moved: _Moved, before: Stance, stood: Stood, axle: AxleName, view: ViewName) -> list[Near]:
    """What comes together, at both wheels where both are seen: a right one's places on the right."""
    found = []
    for side in SIDES[: 1 if view == "side" else 2]:
        wheel = moved.left if side == "left" else moved.right
        for name, at, left in wheel.near(before.of_side(side)):
            places = at * (1, 1 if side == "left" else -1, 1)
            squeezed = "stop squeezed" if name == STOP_TOUCHES else ""
            found.append(Near(name=name, at=_flat(places, stood, axle, view), mm=_mm(left), pressed=squeezed))
    return found


def _adjusters(moved: _Moved, n: int, stood: Stood, axle: AxleName, view: ViewName) -> list[Spot]:
    """Where each adjuster of the axle is taken hold of: a link in its middle, a clamp or bolt at its point."""
    found = []
    for side in SIDES[: 1 if view == "side" else 2]:
        wheel = moved.left if side == "left" else moved.right
        for data in wheel.stance.axle.adjusters:
            at = wheel.adjuster(data)[n : n + 1] * (1, 1 if side == "left" else -1, 1)
            key = setting_key(axle, side, data.name)
            found.append(Spot(key=key, name=data.name, at=_flat(at, stood, axle, view)[0]))
    return found


def _joints(moved: _Moved, n: int, stood: Stood, axle: AxleName, view: ViewName) -> list[Spot]:
    """Where each joint of the axle is, on both sides where both are seen: what a step of the card is about."""
    found = []
    for side in SIDES[: 1 if view == "side" else 2]:
        wheel = moved.left if side == "left" else moved.right
        own = wheel.stance.axle
        for key in joints_of(own):
            # The right wheel is drawn as a left one: its points bear the left one's names.
            names = points_of(own, on_side(own, key, "left") if side == "right" else key)
            if names:
                at = wheel.middle(names)[n : n + 1] * (1, 1 if side == "left" else -1, 1)
                found.append(Spot(key=f"{side}.{key}", name=key, at=_flat(at, stood, axle, view)[0]))
    return found


def _flat(points: Array, stood: Stood, axle: AxleName, view: ViewName) -> list[tuple[float, float]]:
    """Places (N, 3) told from an axle, in the plane of the picture."""
    places = np.array(Ground(stood).places(points + np.array([stood.vehicle.axle_x(axle), 0.0, 0.0])))
    return [(u, v) for u, v in np.round(VIEWS[view].flat(places), 1).tolist()]


def axle_at_rest(stood: Stood, axle: AxleName, view: ViewName) -> list[Shape]:
    """An axle where it rides, as :func:`axle_view` draws it."""
    stance = stood.axle(axle)
    return picture(_parts(stood, axle, _at(stance, np.array([stance.travel]), view), view)[0], VIEWS[view])


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


def _travelled(stance: Stance, view: ViewName) -> _Moved:
    return _at(stance, _travels(stance), view)


def _at(stance: Stance, travels: Array, view: ViewName) -> _Moved:
    left = right = WheelParts(stance.of_side("left"), stance.corner.body.poses(travels))
    own = stance.of_side("right")
    if own is not stance and view != "side":
        right = WheelParts(own, own.corner.body.poses(travels))
    return _Moved(travels, left, right)


def _steered(stance: Stance, name: AxleName) -> _Moved:
    """Both wheels from right lock to left lock, where the axle rides; told by the turn of the left one, °."""
    if not turns_to_lock(stance):
        steered = stance.corner.steering is not None or steered_axle(stance.axle.linkage) is not None
        raise DomainError(
            f"How far the {name} axle is steered is not known: enter its full lock in the figures."
            if steered
            else f"The {name} axle is not steered: it has no lock to be turned to."
        )
    shares, travels = np.linspace(-1.0, 1.0, FRAMES), np.array([stance.travel])
    sides = [stance.of_side("left"), stance.of_side("right")]
    steering, lock = steered_axle(stance.axle.linkage), stance.axle.full_lock
    if steering is not None and lock is not None:
        turns = []
        for share in shares:
            inner, outer = knuckle_at_locks(steering, math.radians(lock) * abs(float(share)))
            turns.append(inner if share > 0 else outer)
        both = np.array(turns), np.array(turns[::-1])
        at = np.full(shares.shape, stance.travel)
        left, right = (WheelParts(s, s.corner.body.poses(at), turned=t) for s, t in zip(sides, both, strict=True))
    else:
        # Which way the rack goes for a left turn depends on which side of the wheel its rod ends.
        ends = carried_steered(sides[0], travels, np.array([-1.0, 1.0]))
        right_lock, left_lock = _heading(WheelParts(ends.stance, ends.poses, ends.adjusted))
        way = 1.0 if left_lock > right_lock else -1.0
        moved = [carried_steered(s, travels, way * shares, opposite=n == 1) for n, s in enumerate(sides)]
        left, right = (WheelParts(m.stance, m.poses, m.adjusted) for m in moved)
    turn = _heading(left)
    return _Moved(turn - turn[FRAMES // 2], left, right)


def _heading(wheel: WheelParts) -> Array:
    """Which way a wheel points, to the left positive as a left one, °."""
    return np.degrees(np.arctan2(-wheel.spin[:, 0], wheel.spin[:, 1]))


def _turned(moved: _Moved) -> list[Told]:
    """Turn of both wheels from straight ahead, to the left positive, and what lies between them."""
    left, right = _heading(moved.left), -_heading(moved.right)
    return [
        Told(name=name, unit="°", digits=1, values=np.round(values - values[FRAMES // 2], 2).tolist())
        for name, values in (("left wheel turned", left), ("right wheel turned", right))
    ]


def _parts(stood: Stood, axle: AxleName, moved: _Moved, view: ViewName) -> list[list[Part]]:
    """Parts at every position, the body where it rides: both sides, from the left only the left one."""
    ground = Ground(stood)
    found = []
    for n in range(len(moved.travel)):
        parts = [*moved.left.of_axle(n), *moved.left.of_wheel(n)]
        if view != "side":
            parts += [p.mirrored() for p in moved.right.of_wheel(n)]
        found.append(ground.put(parts, stood.vehicle.axle_x(axle)))
    return found


__all__ = ["axle_at_rest", "axle_view"]
