"""Plane linkages: rigid members pinned to each other and to the frame, driven by the rise of the axle.

x forward to the right, z up, mm; turns counter-clockwise, as in a drawing of the machine's right side. Every member
has three coordinates (dx, dz, turn); a pin takes two of them, a rod one, and the rise of the driven point the last.
All positions are solved in one batched Newton iteration with analytic Jacobians. Inside, a point of the plane is the
complex number x + iz: a turn is a product, and its derivative by the angle a factor i.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray

from inclinum.core.document.errors import DomainError
from inclinum.core.kinematics.branch import State, newton, sense, solve, stages
from inclinum.core.kinematics.rigid import Array

RESIDUAL_MM = 1e-9
STAGE_MM = 100.0
"""The rise is approached in steps of at most this, so that Newton keeps the branch it started on."""
BROKEN_MM = 0.5
"""Neighbours of a curve that miss each other's rates by more lie on different branches."""
MOST_HALVED = 10
"""Times an interval is halved at most: 5 mm down to hundredths of one, beside a dead point."""
_NEWTON_STEPS = 9
_LEVER_MM = 200.0
FRAME = "frame"
Plane = NDArray[np.complex128]
"""Points or directions in the plane, x + iz."""


@dataclass(frozen=True)
class PlanarPoses:
    """Where the members are at every rise; arrays of shape (N, …)."""

    rise: Array
    state: Array
    """(N, members, 3): dx, dz in mm and the turn in rad, from the drawn position."""
    rate: Array
    """d(state)/d(rise), the same shape."""
    reachable: Array

    def part(self, which: "slice | Array") -> "PlanarPoses":
        """Some of them."""
        return PlanarPoses(self.rise[which], self.state[which], self.rate[which], self.reachable[which])

    def on(self, linkage: "PlanarLinkage") -> tuple["Plane", "Plane"]:
        """Where every place of the linkage is, and its change with its member's turn, complex; worked out once."""
        if "_on" not in self.__dict__:
            self.__dict__["_on"] = linkage._on(self.state)
        return self.__dict__["_on"]


def _joined(parts: list[PlanarPoses]) -> PlanarPoses:
    return PlanarPoses(
        np.concatenate([p.rise for p in parts]),
        np.concatenate([p.state for p in parts]),
        np.concatenate([p.rate for p in parts]),
        np.concatenate([p.reachable for p in parts]),
    )


@dataclass(frozen=True)
class _Places:
    """Points on members: which member, where the member turns about, and the arm from there, as drawn; complex."""

    member: Array
    base: Plane
    arm: Plane


@dataclass(frozen=True)
class _Joined:
    """What hangs on what, wherever its points are: one for every linkage of a kind.

    Args:
        moving: members that move, the frame left out.
        listed: every point on every member that carries it, by the member's number; the frame comes last.
        pivots: of each member the point it turns about.
        owners: point → its places among those listed, one on each member that carries it.
        pins: pairs of places that coincide, (P, 2); a point of three members is two pins.
        turns: rows and columns of the Jacobian that the members' turns at the pins are written to.
        template: the part of the Jacobian that never changes, the members' shifts at the pins; spare columns for the
            frame.
    """

    moving: tuple[str, ...]
    listed: tuple[tuple[str, int], ...]
    pivots: tuple[str, ...]
    member: Array
    owners: Mapping[str, tuple[int, ...]]
    pins: Array
    turns: tuple[Array, Array]
    template: Array


@lru_cache(maxsize=64)
def _joined_by(members: tuple[tuple[str, tuple[str, ...]], ...]) -> _Joined:
    """How members hang together."""
    carried = dict(members)
    moving = tuple(m for m in carried if m != FRAME)
    order = (*moving, FRAME)
    listed = tuple((name, n) for n, m in enumerate(order) for name in dict.fromkeys(carried[m]))
    member: Array = np.array([n for _, n in listed])
    owners: dict[str, tuple[int, ...]] = {}
    for place, (name, _) in enumerate(listed):
        owners[name] = (*owners.get(name, ()), place)
    pairs = [(first, other) for first, *others in owners.values() for other in others]
    pins: Array = np.array(pairs, dtype=int).reshape(-1, 2)
    rows = np.arange(2 * len(pins))
    turns = np.concatenate([rows, rows]), np.repeat(3 * member[pins.T.ravel()] + 2, 2)
    n = len(moving)
    template = np.zeros((3 * n, 3 * (n + 1)))
    for row, pair in enumerate(pins):
        for place, sign in zip(pair, (1.0, -1.0), strict=True):
            at = 3 * member[place]
            template[2 * row, at] = template[2 * row + 1, at + 1] = sign
    return _Joined(moving, listed, tuple(carried[m][0] for m in order), member, owners, pins, turns, template)


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
                raise DomainError(f"The rod from {a} to {b} has no length: its ends coincide.")
        freedom = 3 * len(self._moving) - 2 * len(self._pins) - len(self.rods)
        if freedom != 1:
            what = "stays loose" if freedom > 1 else "cannot move"
            raise DomainError(f"This rear end {what}: its pins and rods leave {freedom} freedoms, it needs one.")
        if np.linalg.cond(self._at_rest[0]) > 1e8:
            raise DomainError("As drawn the linkage is at a dead point: two of its members lie in one line.")

    @cached_property
    def _joined(self) -> _Joined:
        return _joined_by(tuple(self.members.items()))

    @property
    def _moving(self) -> tuple[str, ...]:
        return self._joined.moving

    @property
    def _pins(self) -> Array:
        return self._joined.pins

    @property
    def _owners(self) -> Mapping[str, tuple[int, ...]]:
        return self._joined.owners

    @cached_property
    def _places(self) -> "_Places":
        """Every point on every member that carries it; the frame comes last and never moves."""
        j = self._joined
        at = {name: complex(*self.points[name].tolist()) for name in j.owners}
        pivots = [at[name] for name in j.pivots]
        return _Places(
            member=j.member,
            base=np.array([pivots[n] for _, n in j.listed]),
            arm=np.array([at[name] - pivots[n] for name, n in j.listed]),
        )

    @cached_property
    def _rods(self) -> tuple[tuple[int, int, float], ...]:
        """Places of every rod's ends, and its length."""
        return tuple(
            (self._owners[a][0], self._owners[b][0], float(np.linalg.norm(self.points[a] - self.points[b])))
            for a, b in self.rods
        )

    def _on(self, state: Array) -> tuple[Plane, Plane]:
        """Where every place is, (N, K), and its change with its member's turn; complex."""
        p = self._places
        shift: Plane = np.zeros((state.shape[0], len(self._moving) + 1), dtype=complex)
        shift.real[:, :-1], shift.imag[:, :-1] = state[..., 0], state[..., 1]
        spin: Plane = np.ones_like(shift)
        np.exp(1j * state[..., 2], out=spin[:, :-1])
        arm: Plane = spin.take(p.member, axis=1) * p.arm
        return p.base + shift.take(p.member, axis=1) + arm, 1j * arm

    def _equations(self, rise: Array, state: Array) -> tuple[Array, Array]:
        """Residuals (N, n) in mm and Jacobian (N, n, n), turns scaled by a lever."""
        at, turned = self._on(state)
        turned: Plane = turned / _LEVER_MM
        member, (a, b) = self._places.member, self._pins.T
        count, pins = state.shape[0], a.size
        residual: Array = np.empty((count, self._joined.template.shape[0]))
        jacobian: Array = np.empty((count, *self._joined.template.shape))
        jacobian[:] = self._joined.template
        residual[:, : 2 * pins] = (at.take(a, axis=1) - at.take(b, axis=1)).view(float)
        rows, columns = self._joined.turns
        both = (turned.take(a, axis=1), -turned.take(b, axis=1))
        jacobian[:, rows, columns] = np.concatenate(both, axis=1).view(float)
        row = 2 * pins
        for i, j, length in self._rods:
            span: Plane = at[:, i] - at[:, j]
            residual[:, row] = (span.real**2 + span.imag**2 - length**2) / (2 * length)
            for place, by in ((i, span / length), (j, span / -length)):
                column = 3 * member[place]
                jacobian[:, row, column] += by.real
                jacobian[:, row, column + 1] += by.imag
                jacobian[:, row, column + 2] += (by.conj() * turned[:, place]).real
            row += 1
        driven = self._owners[self.driven][0]
        residual[:, row] = at[:, driven].imag - self.points[self.driven][1] - rise
        column = 3 * member[driven]
        jacobian[:, row, column + 1] = 1.0
        jacobian[:, row, column + 2] = turned[:, driven].imag
        return residual, jacobian[..., : self._joined.template.shape[0]]

    def poses(self, rise: Array | float) -> PlanarPoses:
        """The members at every rise of the driven point from where it is drawn, (N,), mm."""
        goal: Array = np.atleast_1d(np.asarray(rise, dtype=float))
        state: Array = np.zeros((goal.size, len(self._moving), 3))
        rate: Array = np.broadcast_to(self._drawn[1], state.shape)
        last, ok = PlanarPoses(goal, state, rate, np.ones(goal.size, dtype=bool)), np.ones(goal.size, dtype=bool)
        for reached, ahead in stages(goal, STAGE_MM):
            last = self._newton(ahead, last.state + last.rate * (ahead - reached)[:, None, None])
            ok &= last.reachable
        return PlanarPoses(goal, last.state, last.rate, ok)

    def sweep(
        self,
        low: float,
        high: float,
        step: float,
        enough: Callable[[PlanarPoses], bool] = lambda _: False,
        near: PlanarPoses | None = None,
    ) -> PlanarPoses:
        """Every ``step`` from where it is drawn as far as it reaches both ways, at most from ``low`` to ``high``, mm.

        It goes outward in stages and stops where no position is found, or where ``enough`` says so of the last one.

        Args:
            near: positions of a linkage of the same members a little different, found with the same ``step``: where
                they lead to this one's own unbroken curve, its stages are left out.
        """
        middle = self._from(near)
        if middle is None:
            drawn = np.zeros((1, len(self._moving), 3))
            middle = PlanarPoses(np.zeros(1), drawn, self._drawn[1], np.ones(1, dtype=bool))
        return _joined(
            [*self._outward(middle, low, step, enough)[::-1], middle, *self._outward(middle, high, step, enough)]
        )

    def refined(self, poses: PlanarPoses, span: tuple[str, str], within: float) -> PlanarPoses:
        """Positions with others between them wherever a cubic on their rates misses the true one by more than told.

        Where a linkage comes near a dead point its members turn ever faster, and equal steps are too long there.

        Args:
            poses: neighbours on one curve, rises increasing and evenly spaced.
            span: two points whose distance is asked for between them as well.
            within: of that distance, and of every member, its turn on a lever of 200 mm, mm.
        """
        if poses.rise.size < 5:
            return poses
        # A cubic on exact rates misses by h⁴/384 of the fourth slope, which the rates' third differences tell.
        third = np.abs(np.diff(poses.rate, n=3, axis=0) * _scale()).max(axis=(1, 2))
        third = np.maximum(third, np.abs(np.diff(self.distance(*span, poses)[1], n=3)))
        misses = np.concatenate([third[:1], third, third[-1:]]) * np.diff(poses.rise).min() / 384
        open_ = np.flatnonzero(np.maximum.reduce([misses[:-2], misses[1:-1], misses[2:]]) > within / 2)
        if not open_.size:
            return poses
        open_ = np.unique(np.concatenate([open_, open_ + 1, open_ + 2])).clip(0, poses.rise.size - 2)
        for _ in range(MOST_HALVED):
            if not open_.size:
                break
            guess = _between(poses, open_)
            middle = self._newton(guess.rise, guess.state)
            off = np.abs((middle.state - guess.state) * _scale()).max(axis=(1, 2))
            length, ratio = self.distance(*span, poses)
            wide = np.diff(poses.rise)[open_]
            halfway = (length[open_] + length[open_ + 1]) / 2 - wide * (ratio[open_] - ratio[open_ + 1]) / 8
            off = np.maximum(off, np.abs(self.distance(*span, middle)[0] - halfway))
            good = middle.reachable
            before = open_[good]
            poses = _joined_in_order(poses, middle.part(good))
            again = before + np.arange(before.size)
            again = again[off[good] > within]
            open_ = np.unique(np.concatenate([again, again + 1]))
        return poses

    def _outward(
        self, middle: PlanarPoses, end: float, step: float, enough: Callable[[PlanarPoses], bool]
    ) -> list[PlanarPoses]:
        """Stages of a sweep from the positions that are known to one end, in the order they were found."""
        up, found = end > 0, []
        last: PlanarPoses = middle.part(slice(-1, None) if up else slice(0, 1))
        at: float = float(last.rise[0])
        bend: Array = np.zeros(1)
        way = step if up else -step
        if at and enough(last):
            return []
        while abs(at + way) <= abs(end) + 1e-9:
            # Downward there is little: most are drawn where they are fully extended.
            size = max(1, round((STAGE_MM if up or at else 3 * step) / step))
            count = min(size, int((abs(end - at) + 1e-9) // step))
            goal: Array = at + way * np.arange(1, count + 1)
            ahead: Array = (goal - at)[:, None, None]
            stage = self._newton(goal, last.state + last.rate * ahead + bend * ahead**2 / 2)
            good = count if stage.reachable.all() else int(np.argmin(stage.reachable))
            if good:
                found.append(stage.part(slice(0, good) if up else slice(good - 1, None, -1)))
            if good < count:
                # Near a dead point a whole step may start too far off: from the last good one it is walked in parts.
                start = stage.part(slice(good - 1, good)) if good else last
                near = self._walked(start, float(goal[good]))
                if near is None or enough(near):
                    if near is not None:
                        found.append(near)
                    break
                found.append(near)
                last, at, bend = near, float(near.rise[0]), np.zeros(1)
                continue
            last = stage.part(slice(-1, None))
            if enough(last):
                break
            if count > 1:
                bend = (stage.rate[-1:] - stage.rate[-2:-1]) / way
            at = float(goal[-1])
        return found

    def _walked(self, start: PlanarPoses, goal: float) -> PlanarPoses | None:
        """The position at a rise near a known one, in ever smaller parts of the way; None where there is none."""
        at, step = start, goal - float(start.rise[0])
        for _ in range(MOST_HALVED * 4):
            left = goal - float(at.rise[0])
            if abs(left) < 1e-9:
                return at
            step = left if abs(step) > abs(left) else step
            tried = self._newton(at.rise + step, at.state + at.rate * step)
            # Another branch would lie far from where the rates lead.
            moved = np.abs((tried.state - at.state - (tried.rate + at.rate) * step / 2) * _scale()).max()
            if tried.reachable.all() and moved < BROKEN_MM:
                at, step = tried, 2 * step
            else:
                step /= 2
                if abs(step) < abs(goal - float(start.rise[0])) / 2**MOST_HALVED:
                    return None
        return None

    def _from(self, near: PlanarPoses | None) -> PlanarPoses | None:
        """Positions found from another's; None where they are not one unbroken curve of this linkage."""
        if near is None or near.state.shape[1] != len(self._moving):
            return None
        found = self._newton(near.rise, near.state)
        if not found.reachable.all() or np.abs(found.state[np.argmin(np.abs(near.rise))]).max() > 1e-9:
            return None
        # On one curve the ends' rates tell the difference of two neighbours to third order; another branch is far off.
        apart: Array = np.diff(near.rise)[:, None, None]
        missed: Array = np.diff(found.state, axis=0) - apart * (found.rate[1:] + found.rate[:-1]) / 2
        missed[..., 2] *= _LEVER_MM
        return found if np.abs(missed).max(initial=0.0) < BROKEN_MM else None

    @cached_property
    def _at_rest(self) -> Array:
        """Jacobian as drawn, (1, n, n)."""
        return self._equations(np.zeros(1), np.zeros((1, len(self._moving), 3)))[1]

    @cached_property
    def _drawn(self) -> tuple[float, Array]:
        """Branch and rates as drawn."""
        return float(sense(self._at_rest)[0]), self._rate(self._at_rest)

    def _newton(self, goal: Array, state: Array) -> PlanarPoses:
        """Poses from a start; reachable where a rise was met on the branch it is drawn on."""
        (state,), residual, jacobian = newton(
            lambda at, which: self._equations(goal[which], at[0]), _stepped, (state,), within=RESIDUAL_MM,
            most=_NEWTON_STEPS,
        )  # fmt: skip
        met = (np.abs(residual).max(axis=1) < RESIDUAL_MM) & (sense(jacobian) == self._drawn[0])
        return PlanarPoses(goal, state, self._rate(jacobian), met)

    def _rate(self, jacobian: Array) -> Array:
        drive = np.zeros((*jacobian.shape[:2], 1))
        drive[:, -1] = 1.0
        rate = solve(jacobian, drive)[..., 0].reshape(jacobian.shape[0], -1, 3)
        rate[..., 2] /= _LEVER_MM
        return rate

    def positions(self, state: Array) -> dict[str, Array]:
        """Every point where the members stand so, by name, (N, 2) each."""
        at: Plane = self._on(state)[0]
        flat: Array = at.view(float).reshape(*at.shape, 2)
        return {name: flat[:, places[0]] for name, places in self._owners.items()}

    def place(self, name: str, poses: PlanarPoses) -> Array:
        """A point at every pose, (N, 2)."""
        return self.position(name, poses.state)

    def position(self, name: str, state: Array) -> Array:
        """One point where the members stand so, (N, 2): as :meth:`positions`, the others left alone."""
        p, place = self._places, self._owners[name][0]
        member = int(p.member[place])
        if member == len(self._moving):
            return np.broadcast_to(self.points[name], (state.shape[0], 2))
        shift, turn = state[:, member, :2], np.exp(1j * state[:, member, 2])
        return shift + (p.base[place] + p.arm[place] * turn).view(float).reshape(-1, 2)

    def _moved(self, name: str, poses: PlanarPoses) -> tuple[Plane, Plane]:
        """A point at every pose and its movement per rise, (N,) complex each."""
        place = self._owners[name][0]
        at, turned = poses.on(self)
        member = self._places.member[place]
        if member == len(self._moving):
            return at[:, place], np.zeros_like(at[:, place])
        rate = poses.rate[:, member]
        return at[:, place], rate[:, 0] + 1j * rate[:, 1] + turned[:, place] * rate[:, 2]

    def rod_effect(self, rod: int, poses: PlanarPoses) -> Array:
        """d(state)/d(length of a rod) with the axle held at its rise, (N, members, 3) in mm and rad per mm."""
        _, jacobian = self._equations(poses.rise, poses.state)
        longer = np.zeros((*jacobian.shape[:2], 1))
        longer[:, 2 * len(self._pins) + rod] = 1.0
        effect = solve(jacobian, longer)[..., 0].reshape(poses.state.shape)
        effect[..., 2] /= _LEVER_MM
        return effect

    def distance(self, one: str, other: str, poses: PlanarPoses) -> tuple[Array, Array]:
        """Distance of two points at every pose, mm, and minus its change per rise: the installation ratio."""
        (a, va), (b, vb) = self._moved(one, poses), self._moved(other, poses)
        span: Plane = b - a
        length = np.abs(span)
        return length, -(span.conj() * (vb - va)).real / length


def _scale() -> Array:
    """Of a member's shifts and turn to mm."""
    return np.array([1.0, 1.0, _LEVER_MM])


def _between(poses: PlanarPoses, intervals: Array) -> PlanarPoses:
    """Half way between neighbours, by the cubic on their rates."""
    (r0, r1), (s0, s1), (v0, v1) = (
        (values[intervals], values[intervals + 1]) for values in (poses.rise, poses.state, poses.rate)
    )
    wide: Array = (r1 - r0)[:, None, None]
    state: Array = (s0 + s1) / 2 + wide * (v0 - v1) / 8
    return PlanarPoses((r0 + r1) / 2, state, (s1 - s0) / wide, np.ones(intervals.size, dtype=bool))


def _joined_in_order(one: PlanarPoses, other: PlanarPoses) -> PlanarPoses:
    """Both by increasing rise."""
    both = _joined([one, other])
    return both.part(np.argsort(both.rise, kind="stable"))


def _stepped(at: State, step: Array) -> State:
    """One step of every member's coordinates, cut where it would go too far to stay on its branch."""
    (state,) = at
    step = step.reshape(state.shape)
    step *= np.minimum(1.0, 60.0 / (np.abs(step).max(axis=(1, 2)) + 1e-12))[:, None, None]
    step[..., 2] /= _LEVER_MM
    return (state + step,)
