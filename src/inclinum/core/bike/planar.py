"""Plane linkages: rigid members pinned to each other and to the frame, driven by the rise of the axle.

x forward to the right, z up, mm; turns counter-clockwise, as in a drawing of the machine's right side. Every member
has three coordinates (dx, dz, turn); a pin takes two of them, a rod one, and the rise of the driven point the last.
All positions are solved in one batched Newton iteration with analytic Jacobians.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from inclinum.core.linkage.rigid import Array

RESIDUAL_MM = 1e-9
STAGE_MM = 100.0
"""The rise is approached in steps of at most this, so that Newton keeps the branch it started on."""
_NEWTON_STEPS = 9
_LEVER_MM = 200.0
FRAME = "frame"


@dataclass(frozen=True)
class PlanarPoses:
    """Where the members are at every rise; arrays of shape (N, …)."""

    rise: Array
    state: Array
    """(N, members, 3): dx, dz in mm and the turn in rad, from the drawn position."""
    rate: Array
    """d(state)/d(rise), the same shape."""
    reachable: Array

    def on(self, linkage: "PlanarLinkage") -> tuple[Array, Array]:
        """Where every place of the linkage is, and its change with its member's turn; worked out once."""
        if "_on" not in self.__dict__:
            self.__dict__["_on"] = linkage._on(self.state)
        return self.__dict__["_on"]


@dataclass(frozen=True)
class _Places:
    """Points on members: which member, where the member turns about, and the arm from there, as drawn."""

    where: Mapping[tuple[str, int], int]
    member: Array
    base: Array
    arm: Array


@dataclass(frozen=True)
class PlanarLinkage:
    """Members on pins and rods.

    Args:
        points: every point as drawn, (2,).
        members: moving members and the points they carry; ``frame`` holds the points that stay.
        rods: pairs of points a rod holds apart.
        driven: the point whose rise is the travel.

    Raises:
        ValueError: it leaves no freedom, or more than one, or stands at a dead point; parts are named.
    """

    points: Mapping[str, Array]
    members: Mapping[str, tuple[str, ...]]
    rods: tuple[tuple[str, str], ...]
    driven: str

    def __post_init__(self) -> None:
        for a, b in self.rods:
            if np.linalg.norm(self.points[a] - self.points[b]) < 1.0:
                raise ValueError(f"The rod from {a} to {b} has no length: its ends coincide.")
        freedom = 3 * len(self._moving) - 2 * len(self._pins) - len(self.rods)
        if freedom != 1:
            what = "stays loose" if freedom > 1 else "cannot move"
            raise ValueError(f"This rear end {what}: its pins and rods leave {freedom} freedoms, it needs one.")
        rest = np.zeros((1, len(self._moving), 3))
        _, jacobian = self._equations(np.zeros(1), rest)
        if np.linalg.cond(jacobian[0]) > 1e8:
            raise ValueError("As drawn the linkage is at a dead point: two of its members lie in one line.")

    @cached_property
    def _moving(self) -> tuple[str, ...]:
        return tuple(m for m in self.members if m != FRAME)

    @cached_property
    def _places(self) -> "_Places":
        """Every point on every member that carries it; the frame comes last and never moves."""
        order = (*self._moving, FRAME)
        listed = [(name, n) for n, m in enumerate(order) for name in self.members.get(m, ())]
        pivots = {n: np.asarray(self.points[self.members[m][0]], dtype=float) for n, m in enumerate(order)}
        return _Places(
            where={pair: i for i, pair in enumerate(listed)},
            member=np.array([n for _, n in listed]),
            base=np.array([pivots[n] for _, n in listed]),
            arm=np.array([np.asarray(self.points[name], dtype=float) - pivots[n] for name, n in listed]),
        )

    @cached_property
    def _owners(self) -> dict[str, list[int]]:
        """Point → its places, one on each member that carries it."""
        owners: dict[str, list[int]] = {}
        for (name, _), place in self._places.where.items():
            owners.setdefault(name, []).append(place)
        return owners

    @cached_property
    def _pins(self) -> Array:
        """Pairs of places that coincide, (P, 2); a point of three members is two pins."""
        pairs = [(first, other) for first, *others in self._owners.values() for other in others]
        return np.array(pairs, dtype=int).reshape(-1, 2)

    @cached_property
    def _turns(self) -> tuple[Array, Array]:
        """Rows and columns of the Jacobian that the members' turns at the pins are written to."""
        rows = np.arange(2 * len(self._pins))
        return np.concatenate([rows, rows]), np.repeat(3 * self._places.member[self._pins.T.ravel()] + 2, 2)

    @cached_property
    def _template(self) -> Array:
        """The part of the Jacobian that never changes, the members' shifts at the pins; spare columns for the frame."""
        n = len(self._moving)
        fixed = np.zeros((3 * n, 3 * (n + 1)))
        for row, pair in enumerate(self._pins):
            for place, sign in zip(pair, (1.0, -1.0), strict=True):
                at = 3 * self._places.member[place]
                fixed[2 * row, at] = fixed[2 * row + 1, at + 1] = sign
        return fixed

    def _on(self, state: Array) -> tuple[Array, Array]:
        """Where every place is, (N, K, 2), and its change with its member's turn."""
        p = self._places
        still = np.zeros((state.shape[0], 1, 3))
        own = np.concatenate([state, still], axis=1)[:, p.member]
        c, s = np.cos(own[..., 2]), np.sin(own[..., 2])
        turned = np.empty((*c.shape, 2))
        turned[..., 1] = c * p.arm[:, 0] - s * p.arm[:, 1]
        turned[..., 0] = -(s * p.arm[:, 0] + c * p.arm[:, 1])
        at = p.base + own[..., :2]
        at[..., 0] += turned[..., 1]
        at[..., 1] -= turned[..., 0]
        return at, turned

    def _equations(self, rise: Array, state: Array) -> tuple[Array, Array]:
        """Residuals (N, n) in mm and Jacobian (N, n, n), turns scaled by a lever."""
        at, turned = self._on(state)
        member, (a, b) = self._places.member, self._pins.T
        count, pins = state.shape[0], a.size
        residual = np.empty((count, self._template.shape[0]))
        jacobian = np.repeat(self._template[None], count, axis=0)
        residual[:, : 2 * pins] = (at[:, a] - at[:, b]).reshape(count, -1)
        rows, columns = self._turns
        both = np.concatenate([turned[:, a], -turned[:, b]], axis=1)
        jacobian[:, rows, columns] = both.reshape(count, -1) / _LEVER_MM
        row = 2 * pins
        for one, other in self.rods:
            i, j = self._owners[one][0], self._owners[other][0]
            length = float(np.linalg.norm(self.points[one] - self.points[other]))
            reach = at[:, i] - at[:, j]
            residual[:, row] = (np.einsum("ni,ni->n", reach, reach) - length**2) / (2 * length)
            for place, by in ((i, reach / length), (j, -reach / length)):
                column = 3 * member[place]
                jacobian[:, row, column : column + 2] += by
                jacobian[:, row, column + 2] += np.einsum("ni,ni->n", by, turned[:, place]) / _LEVER_MM
            row += 1
        driven = self._owners[self.driven][0]
        residual[:, row] = at[:, driven, 1] - self.points[self.driven][1] - rise
        column = 3 * member[driven]
        jacobian[:, row, column + 1] = 1.0
        jacobian[:, row, column + 2] = turned[:, driven, 1] / _LEVER_MM
        return residual, jacobian[..., : self._template.shape[0]]

    def poses(self, rise: Array | float) -> PlanarPoses:
        """The members at every rise of the driven point from where it is drawn, (N,), mm."""
        goal = np.atleast_1d(np.asarray(rise, dtype=float))
        state = np.zeros((goal.size, len(self._moving), 3))
        rate = np.broadcast_to(self._drawn[1], state.shape)
        ok = np.ones(goal.size, dtype=bool)
        stages = max(1, int(np.ceil(np.abs(goal).max(initial=0.0) / STAGE_MM)))
        for stage in range(1, stages + 1):
            start = state + rate * (goal / stages)[:, None, None]
            state, rate, met = self._newton(goal * stage / stages, start)
            ok &= met
        return PlanarPoses(goal, state, rate, ok)

    def sweep(
        self, low: float, high: float, step: float, enough: Callable[[PlanarPoses], bool] = lambda _: False
    ) -> PlanarPoses:
        """Every ``step`` from where it is drawn as far as it reaches both ways, at most from ``low`` to ``high``, mm.

        It goes outward in stages and stops where no position is found, or where ``enough`` says so of the last one.
        """
        found: list[tuple[Array, Array, Array]] = [(np.zeros(1), np.zeros((1, len(self._moving), 3)), self._drawn[1])]
        for end in (high, low):
            at, state, rate, bend = 0.0, found[0][1], found[0][2], np.zeros(1)
            way = step if end > 0 else -step
            while abs(at + way) <= abs(end) + 1e-9:
                # Downward there is little: most are drawn where they are fully extended.
                size = max(1, round((STAGE_MM if end > 0 or at else 3 * step) / step))
                count = min(size, int((abs(end - at) + 1e-9) // step))
                goal = at + way * np.arange(1, count + 1)
                ahead = (goal - at)[:, None, None]
                states, rates, met = self._newton(goal, state + rate * ahead + bend * ahead**2 / 2)
                good = count if met.all() else int(np.argmin(met))
                if good:
                    found.append((goal[:good], states[:good], rates[:good]))
                if good < count or enough(PlanarPoses(goal[-1:], states[-1:], rates[-1:], met[-1:])):
                    break
                bend = (rates[-1:] - rates[-2:-1]) / way if count > 1 else bend
                at, state, rate = float(goal[-1]), states[-1:], rates[-1:]
        rise, state, rate = (np.concatenate(part) for part in zip(*found, strict=True))
        order = np.argsort(rise)
        return PlanarPoses(rise[order], state[order], rate[order], np.ones(rise.size, dtype=bool))

    @cached_property
    def _drawn(self) -> tuple[float, Array]:
        """Branch and rates as drawn."""
        _, jacobian = self._equations(np.zeros(1), np.zeros((1, len(self._moving), 3)))
        return float(np.sign(np.linalg.det(jacobian[0]))), self._rate(jacobian)

    def _newton(self, goal: Array, state: Array) -> tuple[Array, Array, Array]:
        """State, rates, and whether each rise was met on the branch it is drawn on."""
        residual, jacobian = self._equations(goal, state)
        for _ in range(_NEWTON_STEPS):
            if not (np.abs(residual).max(axis=1) > RESIDUAL_MM).any():
                break
            step = _solve(jacobian, -residual[..., None])[..., 0].reshape(state.shape)
            step *= np.minimum(1.0, 60.0 / (np.abs(step).max(axis=(1, 2)) + 1e-12))[:, None, None]
            step[..., 2] /= _LEVER_MM
            state = state + step
            residual, jacobian = self._equations(goal, state)
        with np.errstate(invalid="ignore"):
            met = (np.abs(residual).max(axis=1) <= RESIDUAL_MM) & (np.sign(np.linalg.det(jacobian)) == self._drawn[0])
        return state, self._rate(jacobian), met

    def _rate(self, jacobian: Array) -> Array:
        drive = np.zeros((*jacobian.shape[:2], 1))
        drive[:, -1] = 1.0
        rate = _solve(jacobian, drive)[..., 0].reshape(jacobian.shape[0], -1, 3)
        rate[..., 2] /= _LEVER_MM
        return rate

    def place(self, name: str, poses: PlanarPoses) -> tuple[Array, Array]:
        """A point at every pose and its movement per rise, (N, 2) each."""
        place = self._owners[name][0]
        at, turned = poses.on(self)
        member = self._places.member[place]
        if member == len(self._moving):
            return at[:, place], np.zeros_like(at[:, place])
        rate = poses.rate[:, member]
        return at[:, place], rate[:, :2] + turned[:, place] * rate[:, 2:]

    def rod_effect(self, rod: int, poses: PlanarPoses) -> Array:
        """d(state)/d(length of a rod) with the axle held at its rise, (N, members, 3) in mm and rad per mm."""
        _, jacobian = self._equations(poses.rise, poses.state)
        longer = np.zeros((*jacobian.shape[:2], 1))
        longer[:, 2 * len(self._pins) + rod] = 1.0
        effect = _solve(jacobian, longer)[..., 0].reshape(poses.state.shape)
        effect[..., 2] /= _LEVER_MM
        return effect

    def distance(self, one: str, other: str, poses: PlanarPoses) -> tuple[Array, Array]:
        """Distance of two points at every pose, mm, and minus its change per rise: the installation ratio."""
        (a, va), (b, vb) = self.place(one, poses), self.place(other, poses)
        reach = b - a
        length = np.linalg.norm(reach, axis=-1)
        return length, -np.einsum("ni,ni->n", reach, vb - va) / length


def _solve(matrices: Array, right: Array) -> Array:
    """Stacked solve; a singular system (a dead point) gives zeros."""
    try:
        return np.linalg.solve(matrices, right)
    except np.linalg.LinAlgError:
        solved = np.zeros_like(right)
        regular = np.abs(np.linalg.det(matrices)) > 1e-12
        solved[regular] = np.linalg.solve(matrices[regular], right[regular])
        return solved
