"""Scalar constraints between one moving body and the chassis, each with its batched residual and Jacobian.

* :class:`Link`: a point of the body keeps its distance to a chassis point (1);
* :class:`PlaneOnChassis`: a point of the body stays in a plane fixed in the chassis (1);
* :class:`PlaneOnBody`: a chassis point stays in a plane carried by the body (1);
* :class:`LinkOnArm`: a link between the body and an arm that the body itself moves (1);
* :class:`CrankRods`: two rods on a crank that turns on the body, as in a Watt linkage (1).

A wishbone is two links to one outer joint, an H-arm two links to each of two, a strut two planes on the body,
a revolute arm five planes on the chassis.

Every Jacobian row is with respect to a displacement of the body's centre (mm) and a small turn (rad).

Source: holonomic constraints of rigid bodies, textbooks of multibody dynamics; derived here, with u a displacement
of the centre, w a small turn and a the arm from the centre to the point: the point moves by u + w × a, so that a
link along the unit vector e has the row (e, a × e), a plane in the chassis with normal n the row (n, a × n), a
plane carried by the body (−n, −b × n) with b the arm to the chassis point. Residuals are lengths, mm; valid for
bodies and links that do not bend.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Protocol

import numpy as np

from inclinum.core.kinematics.rigid import Array, about, cross, dot, perpendicular_pair, rotation, turn_about, unit

Vector = tuple[float, float, float]
Line = tuple[str, str]


@dataclass(frozen=True)
class _BetweenPoints:
    """What all constraints between a point of the body and one of the chassis share."""

    on_body: str
    on_chassis: str

    @property
    def label(self) -> str:
        """Its two ends."""
        return f"{self.on_chassis} to {self.on_body}"


class Link(_BetweenPoints):
    """Point ``on_body`` keeps its distance to chassis point ``on_chassis``."""


@dataclass(frozen=True)
class PlaneOnChassis(_BetweenPoints):
    """Point ``on_body`` stays in the chassis plane through ``on_chassis`` square to ``normal``."""

    normal: Vector
    along: Line | None = None
    """The normal is square to the line through these points, and turns with it when they are placed anew."""

    @property
    def label(self) -> str:
        """The point that is held."""
        return self.on_body


@dataclass(frozen=True)
class PlaneOnBody(_BetweenPoints):
    """Chassis point ``on_chassis`` stays in the body plane through ``on_body`` square to ``normal``."""

    normal: Vector
    along: Line | None = None


@dataclass(frozen=True)
class LinkOnArm:
    """Point ``on_body`` keeps its distance to ``on_arm``, a point of an arm.

    The arm turns on the chassis line first–second, and the body moves it at the joint ``outer``.
    """

    on_body: str
    on_arm: str
    first: str
    second: str
    outer: str

    @property
    def label(self) -> str:
        """Its two ends."""
        return f"{self.on_arm} to {self.on_body}"


@dataclass(frozen=True)
class CrankRods:
    """A crank turns on the body about ``pivot``; its two ends are held by rods to the chassis.

    The crank's own freedom takes one of the two rods, so that the pair is one constraint.
    """

    pivot: str
    axis: Vector
    """Of the crank, carried by the body."""
    first_end: str
    first_chassis: str
    second_end: str
    second_chassis: str

    @property
    def label(self) -> str:
        """The crank."""
        return f"rods of {self.pivot}"


@dataclass(frozen=True)
class EvenPair:
    """Two links of which the body needs only one: their bushes give, and the mean of both keeps its length.

    Parallel links at both sides hold an axle twice against turning about its own line. In heave both keep their
    lengths; in roll one is pulled as much as the other is pushed.
    """

    first_body: str
    first_chassis: str
    second_body: str
    second_chassis: str

    @property
    def links(self) -> tuple[Link, Link]:
        """Both."""
        return Link(self.first_body, self.first_chassis), Link(self.second_body, self.second_chassis)

    @property
    def label(self) -> str:
        """Both of them."""
        return f"{self.links[0].label} with {self.links[1].label}"


Constraint = Link | PlaneOnChassis | PlaneOnBody | LinkOnArm | CrankRods | EvenPair


def strut_joint(on_body: str, on_chassis: str, axis: Array) -> list[Constraint]:
    """The chassis point stays on the axis the body carries (2 constraints).

    Args:
        on_body, on_chassis: points of the axis.
        axis: its direction at baseline, (3,), of any length.
    """
    along = (on_body, on_chassis)
    return [PlaneOnBody(on_body, on_chassis, tuple(n), along) for n in perpendicular_pair(unit(axis))]


def revolute_joint(first: str, second: str, axis: Array) -> list[Constraint]:
    """The body turns about the chassis line through two points that are also points of the body (5).

    Args:
        first, second: the points.
        axis: from one to the other at baseline, (3,), of any length.
    """
    across = perpendicular_pair(unit(axis))
    normals = [(1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)]
    held: list[Constraint] = [PlaneOnChassis(first, first, n) for n in normals]
    return held + [PlaneOnChassis(second, second, tuple(n), (first, second)) for n in across]


@dataclass(frozen=True)
class Adjustment:
    """What differs from the neutral linkage; every value once, or one per sample along a leading axis.

    Alignment adjusters keep the link lengths of the neutral points, plus ``lengthened``, wherever the points
    are moved to. Hardpoints that are known only so well are ``placed_anew``: the lengths then follow the points.
    """

    moved: Mapping[str, Array] = field(default_factory=dict)
    """Point → displacement, (3,) or (S, 3), mm: of a chassis point, or of a point along the body that carries it."""
    lengthened: Mapping[str, Array] = field(default_factory=dict)
    """Body-side point of links, or the ``label`` of one link → change of length, scalar or (S,), mm."""
    tilted: Mapping[str, Array] = field(default_factory=dict)
    """Body-side point of a strut → rotation vector of its axis in the body, (3,) or (S, 3), rad."""
    placed_anew: bool = False
    toed: Array | float = 0.0
    """Turn of a steered wheel on its kingpin, inwards, once or (S,), rad: it moves nothing of the linkage."""

    @property
    def samples(self) -> int:
        """Length of the sample axis of what moves, 0 without one."""
        vectors = [np.asarray(v) for v in (*self.moved.values(), *self.tilted.values())]
        scalars = [np.asarray(v) for v in self.lengthened.values()]
        return max(
            [v.shape[0] for v in vectors if v.ndim == 2] + [v.shape[0] for v in scalars if v.ndim == 1], default=0
        )

    def place(self, name: str, at_baseline: Array) -> Array:
        """A point with its displacement, (3,) or (S, 1, 3) so that it broadcasts over travel."""
        shift = self.moved.get(name)
        if shift is None:
            return at_baseline
        return at_baseline + (shift[:, None, :] if np.ndim(shift) == 2 else shift)


NEUTRAL = Adjustment()


class ConstraintRows(Protocol):
    """Constraints of one kind, ready for a batch of poses."""

    count: int

    def rows(self, row: Array | None, centre: Array, turn: Array, residual: Array, jacobian: Array) -> None:
        """Write residuals (N, k) in mm and Jacobian (N, k, 6) into the arrays given.

        Args:
            row: the sample each pose belongs to, (N,); None where all belong to the only one.
            centre, turn: of the poses, (N, 3) and (N, 3, 3).
            residual, jacobian: views to write into.
        """
        ...


class Placement:
    """Where every point lies for each sample, and what turns with it."""

    def __init__(self, points: Mapping[str, Array], centre: str, rows: int, adjusted: Adjustment):
        self.points, self.count, self.adjusted = points, rows, adjusted
        self.centre0 = np.asarray(points[centre], dtype=float)

    def at(self, name: str) -> Array:
        """A point per sample, (S, 3)."""
        moved = np.asarray(self.adjusted.moved.get(name, np.zeros(3)), dtype=float)
        return np.broadcast_to(self.points[name] + moved, (self.count, 3))

    def stacked(self, names: Sequence[str]) -> Array:
        """Several points, (S, k, 3)."""
        return np.stack([self.at(n) for n in names], axis=1)

    def arms(self, names: Sequence[str]) -> Array:
        """Several points from the body's centre, (S, k, 3)."""
        return self.stacked(names) - self.centre0

    def length(self, on_body: str, on_chassis: str) -> Array:
        """Length between two points per sample, (S,), mm."""
        if self.adjusted.placed_anew:
            between = np.linalg.norm(self.at(on_body) - self.at(on_chassis), axis=-1)
        else:
            between = np.linalg.norm(self.points[on_body] - self.points[on_chassis])
        longer = self.adjusted.lengthened
        own = np.asarray(longer.get(on_body, 0.0), dtype=float)
        alone = np.asarray(longer.get(f"{on_chassis} to {on_body}", 0.0), dtype=float)
        return np.broadcast_to(between + own + alone, (self.count,))

    def normal(self, plane: PlaneOnChassis | PlaneOnBody) -> Array:
        """A plane's normal per sample, (S, 3): turned with its line, and with the tilt of a strut clamp."""
        normal = np.broadcast_to(np.array(plane.normal), (self.count, 3))
        if plane.along and self.adjusted.placed_anew:
            start, end = plane.along
            was = unit(self.points[end] - self.points[start])
            now = unit(self.at(end) - self.at(start))
            swing = cross(np.broadcast_to(was, now.shape), now)
            size = np.linalg.norm(swing, axis=-1, keepdims=True)
            angle = np.arcsin(np.minimum(size, 1.0))
            normal = np.einsum("sij,sj->si", rotation(swing / np.maximum(size, 1e-15) * angle), normal)
        tilt = self.adjusted.tilted.get(plane.on_body) if isinstance(plane, PlaneOnBody) else None
        if tilt is not None:
            normal = np.einsum("...ij,...j->...i", rotation(np.asarray(tilt, dtype=float)), normal)
        return normal


def _carried(turn: Array, arms: Array) -> Array:
    """Arms (N, k, 3), or (1, k, 3) for all, turned with the body."""
    return arms @ turn.transpose(0, 2, 1)


def _of(values: Array, row: Array | None) -> Array:
    """What belongs to each pose: one sample's values for all, or each its own."""
    return values if row is None else values[row]


def _write(jacobian: Array, force: Array, moment: Array) -> None:
    jacobian[..., :3] = force
    jacobian[..., 3:] = moment


class _Links:
    def __init__(self, items: Sequence[Link], placed: Placement):
        self.count = len(items)
        self.arm = placed.arms([c.on_body for c in items])
        self.anchor = placed.stacked([c.on_chassis for c in items])
        self.length = np.stack([placed.length(c.on_body, c.on_chassis) for c in items], axis=1)

    def rows(self, row: Array | None, centre: Array, turn: Array, residual: Array, jacobian: Array) -> None:
        r = _carried(turn, _of(self.arm, row))
        span = centre[:, None] + r - _of(self.anchor, row)
        length = _of(self.length, row)
        residual[:] = np.einsum("nki,nki->nk", span, span) / (2 * length) - length / 2
        span /= length[..., None]
        _write(jacobian, span, cross(r, span))


class _EvenPairs:
    """The mean of two links' residuals, and of their Jacobians."""

    def __init__(self, items: Sequence[EvenPair], placed: Placement):
        self.count = len(items)
        self.both = _Links([link for pair in items for link in pair.links], placed)

    def rows(self, row: Array | None, centre: Array, turn: Array, residual: Array, jacobian: Array) -> None:
        single = np.empty((len(residual), 2 * self.count))
        slopes = np.empty((len(residual), 2 * self.count, 6))
        self.both.rows(row, centre, turn, single, slopes)
        residual[:] = (single[:, 0::2] + single[:, 1::2]) / 2
        jacobian[:] = (slopes[:, 0::2] + slopes[:, 1::2]) / 2


class _ChassisPlanes:
    def __init__(self, items: Sequence[PlaneOnChassis], placed: Placement):
        self.count = len(items)
        self.arm = placed.arms([c.on_body for c in items])
        self.anchor = placed.stacked([c.on_chassis for c in items])
        self.normal = np.stack([placed.normal(c) for c in items], axis=1)

    def rows(self, row: Array | None, centre: Array, turn: Array, residual: Array, jacobian: Array) -> None:
        r = _carried(turn, _of(self.arm, row))
        n = np.broadcast_to(_of(self.normal, row), r.shape)
        residual[:] = dot(centre[:, None] + r - _of(self.anchor, row), n)
        _write(jacobian, n, cross(r, n))


class _BodyPlanes:
    def __init__(self, items: Sequence[PlaneOnBody], placed: Placement):
        self.count = len(items)
        self.arm = placed.arms([c.on_body for c in items])
        self.anchor = placed.stacked([c.on_chassis for c in items])
        self.normal = np.stack([placed.normal(c) for c in items], axis=1)

    def rows(self, row: Array | None, centre: Array, turn: Array, residual: Array, jacobian: Array) -> None:
        r = _carried(turn, _of(self.arm, row))
        n = _carried(turn, _of(self.normal, row))
        gap = _of(self.anchor, row) - centre[:, None] - r
        residual[:] = dot(gap, n)
        _write(jacobian, -n, cross(n, gap) - cross(r, n))


class _ArmLinks:
    """The arm's angle follows from where the body holds its outer joint."""

    def __init__(self, items: Sequence[LinkOnArm], placed: Placement):
        self.count = len(items)
        self.body = placed.arms([c.on_body for c in items])
        self.outer = placed.arms([c.outer for c in items])
        self.first = placed.stacked([c.first for c in items])
        self.axis = unit(placed.stacked([c.second for c in items]) - self.first)
        self.outer0 = placed.stacked([c.outer for c in items]) - self.first
        self.on_arm0 = placed.stacked([c.on_arm for c in items]) - self.first
        self.length = np.stack([placed.length(c.on_body, c.on_arm) for c in items], axis=1)

    def rows(self, row: Array | None, centre: Array, turn: Array, residual: Array, jacobian: Array) -> None:
        r, outer_r = _carried(turn, _of(self.body, row)), _carried(turn, _of(self.outer, row))
        first, length = _of(self.first, row), _of(self.length, row)
        outer = centre[:, None] + outer_r - first
        axis = np.broadcast_to(_of(self.axis, row), outer.shape)
        outer0, on_arm0 = (np.broadcast_to(_of(v, row), outer.shape) for v in (self.outer0, self.on_arm0))
        on_arm = first + about(axis, turn_about(axis, outer0, outer), on_arm0)
        span = centre[:, None] + r - on_arm
        square = outer - dot(outer, axis)[..., None] * axis
        # dφ of the arm per displacement of its outer joint, and what that takes off the link.
        per_outer = cross(axis, outer) / dot(square, square)[..., None]
        pull = dot(span, cross(axis, on_arm - first))[..., None] * per_outer
        residual[:] = (dot(span, span) - length**2) / (2 * length)
        _write(jacobian, span - pull, cross(r, span) - cross(outer_r, pull))
        jacobian /= length[..., None]


class _CrankPairs:
    """The crank's angle follows from its first rod; the second one is the constraint."""

    def __init__(self, items: Sequence[CrankRods], placed: Placement):
        self.count = len(items)
        self.pivot = placed.arms([c.pivot for c in items])
        pivots = placed.stacked([c.pivot for c in items])
        self.axis = np.broadcast_to(unit(np.array([c.axis for c in items])), pivots.shape)
        self.first = placed.stacked([c.first_end for c in items]) - pivots
        self.second = placed.stacked([c.second_end for c in items]) - pivots
        self.first_anchor = placed.stacked([c.first_chassis for c in items])
        self.second_anchor = placed.stacked([c.second_chassis for c in items])
        self.first_length = np.stack([placed.length(c.first_end, c.first_chassis) for c in items], axis=1)
        self.second_length = np.stack([placed.length(c.second_end, c.second_chassis) for c in items], axis=1)

    def rows(self, row: Array | None, centre: Array, turn: Array, residual: Array, jacobian: Array) -> None:
        r, axis, first0, second0 = (
            _carried(turn, _of(v, row)) for v in (self.pivot, self.axis, self.first, self.second)
        )
        first_anchor, second_anchor = _of(self.first_anchor, row), _of(self.second_anchor, row)
        pivot = centre[:, None] + r
        angle = turn_to_reach(axis, first0, first_anchor - pivot, _of(self.first_length, row))
        first, second = about(axis, angle, first0), about(axis, angle, second0)
        reach_1, reach_2 = pivot + first - first_anchor, pivot + second - second_anchor
        share = dot(reach_2, cross(axis, second)) / dot(reach_1, cross(axis, first))
        length, share = _of(self.second_length, row), share[..., None]
        residual[:] = (dot(reach_2, reach_2) - length**2) / (2 * length)
        _write(jacobian, reach_2 - share * reach_1, cross(r + second, reach_2) - share * cross(r + first, reach_1))
        jacobian /= length[..., None]


def turn_to_reach(axis: Array, arm: Array, anchor: Array, length: Array) -> Array:
    """Angle by which an arm turns about an axis through the origin until its end is ``length`` from ``anchor``, rad.

    |R(φ)·arm − anchor| = length is A·cosφ + B·sinφ = C; of its two roots the one nearer to no turn is taken.
    NaN where the rod cannot reach. All arguments broadcast; vectors on the last axis.
    """
    along = dot(arm, axis)[..., None] * axis
    square = arm - along
    a = dot(square, anchor)
    b = dot(cross(axis, square), anchor)
    c = (dot(arm, arm) + dot(anchor, anchor) - length**2) / 2 - dot(along, anchor)
    with np.errstate(invalid="ignore"):
        middle, spread = np.arctan2(b, a), np.arccos(c / np.hypot(a, b))
    roots = np.stack([middle + spread, middle - spread])
    roots = (roots + np.pi) % (2 * np.pi) - np.pi
    return np.where(np.abs(roots[0]) <= np.abs(roots[1]), roots[0], roots[1])


_GROUPS: dict[type, Callable[..., ConstraintRows]] = {
    Link: _Links,
    PlaneOnChassis: _ChassisPlanes,
    PlaneOnBody: _BodyPlanes,
    LinkOnArm: _ArmLinks,
    CrankRods: _CrankPairs,
    EvenPair: _EvenPairs,
}


def held(constraints: Sequence[Constraint], placed: Placement) -> list[ConstraintRows]:
    """The constraints by kind, ready for a batch; the order of rows is that of :func:`in_row_order`."""
    groups = [(make, [c for c in constraints if isinstance(c, kind)]) for kind, make in _GROUPS.items()]
    return [make(items, placed) for make, items in groups if items]


def in_row_order(constraints: Sequence[Constraint]) -> list[Constraint]:
    """The constraints in the order of their Jacobian rows."""
    return [c for kind in _GROUPS for c in constraints if isinstance(c, kind)]
