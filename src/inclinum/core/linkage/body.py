"""One rigid body on scalar constraints: the problem every suspension corner is.

The upright has six degrees of freedom. Five constraints leave one, which is driven by the vertical travel
of the wheel centre. Three scalar constraints are enough to express every joint in use:

* :class:`Link`: a point of the body keeps its distance to a chassis point (1);
* :class:`PlaneOnChassis`: a point of the body stays in a plane fixed in the chassis (1);
* :class:`PlaneOnBody`: a chassis point stays in a plane carried by the body (1).

A wishbone is two links, a strut two planes on the body, a revolute arm five planes on the chassis.
All positions of travel, and all samples, are solved in one batched Newton iteration on stacked 6×6
systems with analytic Jacobians.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np

from inclinum.core.linkage.rigid import Array, cross, dot, perpendicular_pair, rotation, unit

Vector = tuple[float, float, float]

RESIDUAL_MM = 1e-8
"""A pose is accepted when every constraint is met to this."""
STAGE_MM = 60.0
"""Travel is approached in steps of at most this, so that Newton keeps the branch it started on."""
_NEWTON_STEPS = 12
_LEVER_MM = 300.0  # turns the rotational columns into mm so that the 6×6 systems are well scaled


@dataclass(frozen=True)
class Link:
    """Point ``on_body`` keeps its distance to chassis point ``on_chassis``."""

    on_body: str
    on_chassis: str


@dataclass(frozen=True)
class PlaneOnChassis:
    """Point ``on_body`` stays in the chassis plane through ``on_chassis`` square to ``normal``."""

    on_body: str
    on_chassis: str
    normal: Vector


@dataclass(frozen=True)
class PlaneOnBody:
    """Chassis point ``on_chassis`` stays in the body plane through ``on_body`` square to ``normal``."""

    on_body: str
    on_chassis: str
    normal: Vector


Constraint = Link | PlaneOnChassis | PlaneOnBody


def strut_joint(on_body: str, on_chassis: str, axis: Array) -> list[Constraint]:
    """The chassis point stays on the axis the body carries (2 constraints)."""
    return [PlaneOnBody(on_body, on_chassis, tuple(n)) for n in perpendicular_pair(unit(axis))]


def revolute_joint(first: str, second: str, axis: Array) -> list[Constraint]:
    """The body turns about the chassis line through two points that are also points of the body (5)."""
    across = perpendicular_pair(unit(axis))
    normals = [(1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)]
    held: list[Constraint] = [PlaneOnChassis(first, first, n) for n in normals]
    return held + [PlaneOnChassis(second, second, tuple(n)) for n in across]


@dataclass(frozen=True)
class Adjustment:
    """What alignment adjusters do to a corner; every value once, or one per sample along a leading axis.

    Link lengths are those of the neutral points, plus ``lengthened``, wherever the points are moved to.
    """

    moved: Mapping[str, Array] = field(default_factory=dict)
    """Point → displacement, (3,) or (S, 3), mm: of a chassis point, or of a point along the body that carries it."""
    lengthened: Mapping[str, Array] = field(default_factory=dict)
    """Body-side point of a link → change of its length, scalar or (S,), mm."""
    tilted: Mapping[str, Array] = field(default_factory=dict)
    """Body-side point of a strut → rotation vector of its axis in the body, (3,) or (S, 3), rad."""

    @property
    def samples(self) -> int:
        """Length of the sample axis, 0 without one."""
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


@dataclass(frozen=True)
class Poses:
    """Where the body is, and how it moves per millimetre of travel.

    ``shape`` below is the batch shape, samples before travel.
    """

    centre0: Array
    """Wheel centre at baseline, (3,)."""
    centre: Array
    """Wheel centre, shape + (3,), mm."""
    turn: Array
    """Rotation from baseline, shape + (3, 3)."""
    velocity: Array
    """d(centre)/d(travel), shape + (3,)."""
    spin: Array
    """Rotation rate per travel, shape + (3,), rad/mm."""
    reachable: Array
    """True where the position exists on the branch of the baseline, shape, bool."""

    def __getitem__(self, index: slice | list[int]) -> "Poses":
        """Some of the poses of a sweep without samples."""
        parts = (self.centre, self.turn, self.velocity, self.spin, self.reachable)
        return Poses(self.centre0, *(part[index] for part in parts))

    def point(self, at_baseline: Array) -> Array:
        """A point carried by the body, given where it was at baseline, (3,) or samples (S, 1, 3)."""
        return self.centre + self.direction(at_baseline - self.centre0)

    def direction(self, at_baseline: Array) -> Array:
        """A direction carried by the body, (3,) or samples (S, 1, 3)."""
        return np.einsum("...ij,...j->...i", self.turn, at_baseline)

    def point_rate(self, point: Array) -> Array:
        """d(point)/d(travel) of a carried point given where it is now."""
        return self.velocity + cross(self.spin, point - self.centre)

    def direction_rate(self, direction: Array) -> Array:
        """d(direction)/d(travel) of a carried direction given as it is now."""
        return cross(self.spin, direction)


@dataclass(frozen=True)
class Body:
    """A body at baseline with five constraints; travel drives the sixth freedom.

    Args:
        points: every named point at baseline, body-side and chassis-side, mm.
        centre: name of the point whose vertical movement is the travel.
        constraints: exactly five.

    Raises:
        ValueError: not five constraints, or a link without length, with the part named.
    """

    points: Mapping[str, Array]
    centre: str
    constraints: tuple[Constraint, ...]
    lengths: Array = field(init=False)

    def __post_init__(self) -> None:
        if len(self.constraints) != 5:
            raise ValueError(f"A corner needs five constraints, this one has {len(self.constraints)}.")
        lengths = np.zeros(5)
        for i, c in enumerate(self.constraints):
            if isinstance(c, Link):
                lengths[i] = np.linalg.norm(self.points[c.on_body] - self.points[c.on_chassis])
                if lengths[i] < 1.0:
                    raise ValueError(f"The link {c.on_chassis} to {c.on_body} has no length: its ends coincide.")
        object.__setattr__(self, "lengths", lengths)

    def poses(self, travel: Array, adjusted: Adjustment = NEUTRAL, near: Poses | None = None) -> Poses:
        """Solve every travel position, for every sample of an adjustment.

        Args:
            travel: wheel-centre travel, (T,), mm, bump positive.
            adjusted: what the alignment adjusters do.
            near: poses close by to start from, one per travel: a small adjustment, or a few mm of travel, away.

        Returns:
            Poses of shape (T,), or (S, T) when the adjustment has a sample axis.
        """
        samples = adjusted.samples
        travel = np.atleast_1d(np.asarray(travel, dtype=float))
        rows = max(samples, 1)
        system = _System(self, rows, adjusted)
        goal = np.broadcast_to(travel, (rows, travel.size)).reshape(-1)
        row = np.repeat(np.arange(rows), travel.size)
        state = system.follow(goal, row) if near is None else system.approach(goal, row, near)
        shape = (rows, travel.size) if samples else (travel.size,)
        centre, turn, velocity, spin, reachable = (part.reshape(*shape, *part.shape[1:]) for part in state)
        return Poses(self.points[self.centre], centre, turn, velocity, spin, reachable)

    def reachable_travel(self, low: float, high: float, resolution: float = 0.05) -> tuple[float, float]:
        """The part of [low, high] around 0 that exists: a toggle or an overstretched link ends it, mm."""
        ends = []
        for end in (low, high):
            inside, outside = 0.0, end
            while abs(outside - inside) > resolution:
                grid = np.linspace(inside, outside, 17)
                ok = self.poses(grid).reachable
                if ok.all():
                    inside = outside
                    break
                first_lost = int(np.argmin(ok))
                inside, outside = (grid[max(first_lost - 1, 0)], grid[first_lost])
            ends.append(float(inside))
        return ends[0], ends[1]


class _System:
    """Constraint arrays of one body for a number of samples, and the Newton iteration on them."""

    def __init__(self, body: Body, rows: int, adjusted: Adjustment):
        self.centre0 = np.asarray(body.points[body.centre], dtype=float)
        self.neutral = adjusted is NEUTRAL
        self.links = [c for c in body.constraints if isinstance(c, Link)]
        self.fixed = [c for c in body.constraints if isinstance(c, PlaneOnChassis)]
        self.carried = [c for c in body.constraints if isinstance(c, PlaneOnBody)]

        def places(names: list[str]) -> Array:
            at = np.zeros((rows, len(names), 3))
            for i, name in enumerate(names):
                at[:, i] = body.points[name] + adjusted.moved.get(name, np.zeros(3))
            return at

        groups = (self.links, self.fixed, self.carried)
        self.arm = [places([c.on_body for c in group]) - self.centre0 for group in groups]
        self.anchor = [places([c.on_chassis for c in group]) for group in groups]
        self.fixed_normal = np.array([c.normal for c in self.fixed]).reshape(-1, 3)
        self.carried_normal = np.zeros((rows, len(self.carried), 3))
        for i, c in enumerate(self.carried):
            turn = rotation(np.asarray(adjusted.tilted.get(c.on_body, np.zeros(3)), dtype=float))
            self.carried_normal[:, i] = turn @ np.array(c.normal)
        self.length = np.zeros((rows, len(self.links)))
        for i, c in enumerate(self.links):
            neutral = body.lengths[body.constraints.index(c)]
            self.length[:, i] = neutral + adjusted.lengthened.get(c.on_body, np.zeros(1))

    def residual_and_jacobian(self, travel: Array, row: Array, centre: Array, turn: Array) -> tuple[Array, Array]:
        """Constraint residuals (N, 6) in mm and their Jacobian (N, 6, 6) in (mm, rad·lever)."""
        values, rows = [], []
        r = np.einsum("nij,nkj->nki", turn, self.arm[0][row])
        reach = centre[:, None] + r - self.anchor[0][row]
        length = self.length[row]
        values.append((dot(reach, reach) - length**2) / (2 * length))
        rows.append(np.concatenate([reach, cross(r, reach)], axis=-1) / length[..., None])

        if self.fixed:
            r = np.einsum("nij,nkj->nki", turn, self.arm[1][row])
            n = np.broadcast_to(self.fixed_normal, r.shape)
            values.append(dot(centre[:, None] + r - self.anchor[1][row], n))
            rows.append(np.concatenate([n, cross(r, n)], axis=-1))

        if self.carried:
            r = np.einsum("nij,nkj->nki", turn, self.arm[2][row])
            n = np.einsum("nij,nkj->nki", turn, self.carried_normal[row])
            gap = self.anchor[2][row] - centre[:, None] - r
            values.append(dot(gap, n))
            rows.append(np.concatenate([-n, cross(n, gap) - cross(r, n)], axis=-1))

        drive = np.zeros((travel.size, 1, 6))
        drive[:, 0, 2] = 1.0
        values.append((centre[:, 2] - self.centre0[2] - travel)[:, None])
        jacobian = np.concatenate([*rows, drive], axis=1)
        jacobian[..., 3:] /= _LEVER_MM
        return np.concatenate(values, axis=1), jacobian

    def newton(self, travel: Array, row: Array, centre: Array, turn: Array) -> tuple[Array, Array, Array, Array]:
        """Newton from a given pose: centre, turn, whether it converged, and the last Jacobian."""
        centre, turn = centre.copy(), turn.copy()
        residual, jacobian = self.residual_and_jacobian(travel, row, centre, turn)
        for _ in range(_NEWTON_STEPS):
            worst = np.abs(residual).max(axis=1)
            active = np.flatnonzero(~(worst < RESIDUAL_MM) & np.isfinite(worst))
            if active.size == 0:
                break
            step = _solve(jacobian[active], -residual[active])
            step[:, 3:] /= _LEVER_MM
            # A step beyond these is a toggle, not progress: limiting it keeps the branch.
            scale = np.minimum(1.0, 60.0 / (np.abs(step[:, :3]).max(axis=1) + 1e-12))
            scale = np.minimum(scale, 0.3 / (np.abs(step[:, 3:]).max(axis=1) + 1e-12))
            step *= scale[:, None]
            centre[active] += step[:, :3]
            turn[active] = rotation(step[:, 3:]) @ turn[active]
            residual[active], jacobian[active] = self.residual_and_jacobian(
                travel[active], row[active], centre[active], turn[active]
            )
        return centre, turn, np.abs(residual).max(axis=1) < RESIDUAL_MM, jacobian

    def follow(self, goal: Array, row: Array) -> tuple[Array, Array, Array, Array, Array]:
        """From baseline to every goal at once, in stages short enough to stay on one branch."""
        n = goal.size
        centre = np.broadcast_to(self.centre0, (n, 3)).copy()
        turn = np.broadcast_to(np.eye(3), (n, 3, 3)).copy()
        travel = np.zeros(n)
        if self.neutral:
            _, jacobian = self.residual_and_jacobian(travel[:1], row[:1], centre[:1], turn[:1])
            jacobian, ok = np.broadcast_to(jacobian, (n, 6, 6)), np.ones(n, dtype=bool)
        else:
            centre, turn, ok, jacobian = self.newton(travel, row, centre, turn)
        sign = np.sign(np.linalg.det(jacobian))
        stages = max(1, int(np.ceil(np.abs(goal).max(initial=0.0) / STAGE_MM)))
        for stage in range(1, stages + 1):
            velocity, spin = self._rates(jacobian)
            ahead = goal * stage / stages
            step = (ahead - travel)[:, None]
            travel = ahead
            centre, turn, met, jacobian = self.newton(
                travel, row, centre + velocity * step, rotation(spin * step) @ turn
            )
            # The determinant changes sign where the linkage passes a dead point: beyond it lies another branch.
            ok &= met & (np.sign(np.linalg.det(jacobian)) == sign)
        velocity, spin = self._rates(jacobian)
        return centre, turn, velocity, spin, ok

    def approach(self, goal: Array, row: Array, near: Poses) -> tuple[Array, Array, Array, Array, Array]:
        """From poses close to the goals: no travel to follow."""
        rows = goal.size // near.centre.shape[0]

        def repeated(part: Array) -> Array:
            return np.broadcast_to(part, (rows, *part.shape)).reshape(goal.size, *part.shape[1:])

        start, turn = repeated(near.centre), repeated(near.turn)
        _, before = self.residual_and_jacobian(goal, row, start, turn)
        step = (goal - (start[:, 2] - self.centre0[2]))[:, None]
        centre, turn, ok, jacobian = self.newton(
            goal,
            row,
            start + repeated(near.velocity) * step,
            rotation(repeated(near.spin) * step) @ turn,
        )
        ok = ok & (np.sign(np.linalg.det(jacobian)) == np.sign(np.linalg.det(before)))
        return (centre, turn, *self._rates(jacobian), ok)

    @staticmethod
    def _rates(jacobian: Array) -> tuple[Array, Array]:
        """Velocity and spin per unit travel: the Jacobian's answer to the drive alone."""
        unit_drive = np.zeros(jacobian.shape[:2])
        unit_drive[:, 5] = 1.0
        rate = _solve(jacobian, unit_drive)
        return rate[:, :3], rate[:, 3:] / _LEVER_MM


def _solve(matrices: Array, right: Array) -> Array:
    """Stacked solve; a singular system (a dead point) gives a zero step instead of an error."""
    try:
        return np.linalg.solve(matrices, right[..., None])[..., 0]
    except np.linalg.LinAlgError:
        steps = np.zeros_like(right)
        regular = np.abs(np.linalg.det(matrices)) > 1e-12
        steps[regular] = np.linalg.solve(matrices[regular], right[regular][..., None])[..., 0]
        return steps
