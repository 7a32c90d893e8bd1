"""Plane linkages: rigid members pinned to each other and to the frame, driven by the rise of the axle.

x forward to the right, z up, mm; turns counter-clockwise, as in a drawing of the machine's right side. From the frame
outward each member hangs on a pin of one before it and adds its turn to what is unknown; one that no pin leads to adds
the shift of its first point as well. What then has to hold: the pins that close loops, two equations each, the rods,
one each, and the rise of the driven point. All positions are solved in one batched Newton iteration with analytic
Jacobians. Inside, a point of the plane is the complex number x + iz: where any point stands is linear in the members'
turns e^{iθ}, and the derivative by an angle is a factor i.

Source: relative coordinates and closed loops, textbooks of multibody dynamics.
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
WORST_CONDITION = 1e8
"""Of the equations as drawn, by the norm of all their numbers: beyond it the linkage is at a dead point."""
_NEWTON_STEPS = 9
_LEVER_MM = 200.0
_LONGEST_STEP_MM = 60.0
FRAME = "frame"
Plane = NDArray[np.complex128]
"""Points or directions in the plane, x + iz."""


@dataclass(frozen=True)
class PlanarPoses:
    """Where the members are at every rise; arrays of shape (N, …)."""

    rise: Array
    state: Array
    """(N, n) from the drawn position: the turn of every moving member in rad, then dx and dz in mm of those afloat."""
    rate: Array
    """d(state)/d(rise), the same shape."""
    reachable: Array

    @cached_property
    def distances(self) -> dict[tuple[str, str], tuple[Array, Array]]:
        """Those that were asked for, by their points, see :meth:`PlanarLinkage.distance`."""
        return {}

    def part(self, which: "slice | Array") -> "PlanarPoses":
        """Some of them."""
        return PlanarPoses(self.rise[which], self.state[which], self.rate[which], self.reachable[which])


def _joined(parts: list[PlanarPoses]) -> PlanarPoses:
    if len(parts) == 1:
        return parts[0]
    return PlanarPoses(
        np.concatenate([p.rise for p in parts]),
        np.concatenate([p.state for p in parts]),
        np.concatenate([p.rate for p in parts]),
        np.concatenate([p.reachable for p in parts]),
    )


@dataclass(frozen=True)
class _Hung:
    """How members hang on each other, wherever their points are: one for every linkage of a kind.

    Args:
        turning: the members that move; their turns come first in a state.
        afloat: those of them that no pin leads to; two shifts each come after the turns.
        owner: point → its place: a point on a member that carries it. A point that several carry has as many.
        root: of every place the point where its chain of members begins: itself, where the frame carries it.
        levers: numbers of a place and of a member in its chain, and the points from and to which that one carries it.
        floating: numbers of a place and of the member afloat that its chain begins with.
        closing: pairs of places that have to coincide and hang on different chains.
    """

    turning: tuple[str, ...]
    afloat: tuple[str, ...]
    owner: Mapping[str, int]
    root: tuple[str, ...]
    levers: tuple[tuple[int, int, str, str], ...]
    floating: tuple[tuple[int, int], ...]
    closing: tuple[tuple[int, int], ...]


@lru_cache(maxsize=64)
def _hung_by(members: tuple[tuple[str, tuple[str, ...]], ...]) -> _Hung:
    """How members hang together, from the frame outward."""
    carried = {m: tuple(dict.fromkeys(names)) for m, names in members}
    turning = tuple(m for m in carried if m != FRAME)
    chains: dict[str, tuple[tuple[str, str], ...]] = {FRAME: ()}
    pinned, afloat = set[tuple[str, str]](), list[str]()
    while waiting := [m for m in turning if m not in chains]:
        pins = ((m, p, by) for m in waiting for p in carried[m] for by in chains if p in carried[by])
        found = next(pins, None)
        if found is None:
            member, pin, before = waiting[0], carried[waiting[0]][0], ()
            afloat.append(member)
        else:
            member, pin, by = found
            before = chains[by]
            pinned.add((pin, member))
        chains[member] = (*before, (member, pin))
    places = [(name, m) for m in (*turning, FRAME) for name in carried[m]]
    levers, owner, heads = list[tuple[int, int, str, str]](), dict[str, int](), dict[str, list[int]]()
    for n, (name, m) in enumerate(places):
        ends = (*(pin for _, pin in chains[m][1:]), name)
        levers += [(n, turning.index(link), pin, to) for (link, pin), to in zip(chains[m], ends, strict=False)]
        owner.setdefault(name, n)
        if (name, m) not in pinned:
            heads.setdefault(name, []).append(n)
    first = [chains[m][0] if chains[m] else (FRAME, name) for name, m in places]
    return _Hung(
        turning=turning,
        afloat=tuple(afloat),
        owner=owner,
        root=tuple(point for _, point in first),
        levers=tuple(levers),
        floating=tuple((n, afloat.index(m)) for n, (m, _) in enumerate(first) if m in afloat),
        closing=tuple((one, other) for one, *others in heads.values() for other in others),
    )


@dataclass(frozen=True)
class _Spans:
    """Vectors of the plane that follow the members: what stays of each, and what every turn and shift adds to it.

    Args:
        base: (Q,).
        arms: by every member's e^{iθ}, then by every shift as a complex number, (Q, members + afloat).
    """

    base: Plane
    arms: Plane

    def between(self, one: "int | Array", other: "int | Array") -> "_Spans":
        """From some to others."""
        return _Spans(self.base[other] - self.base[one], self.arms[other] - self.arms[one])

    def at(self, turned: Plane) -> Plane:
        """Where the members stand so, (N, Q)."""
        return self.base + turned @ self.arms.T


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
        for (a, b), length in zip(self.rods, self._lengths, strict=True):
            if length < 1.0:
                raise DomainError(f"The rod from {a} to {b} has no length: its ends coincide.")
        freedom = self._size - 2 * len(self._hung.closing) - len(self.rods)
        if freedom != 1:
            what = "stays loose" if freedom > 1 else "cannot move"
            raise DomainError(f"This rear end {what}: its pins and rods leave {freedom} freedoms, it needs one.")
        _ = self._drawn

    @cached_property
    def _hung(self) -> _Hung:
        return _hung_by(tuple(self.members.items()))

    @property
    def _turns(self) -> int:
        return len(self._hung.turning)

    @property
    def _size(self) -> int:
        """Of a state."""
        return self._turns + 2 * len(self._hung.afloat)

    @cached_property
    def _scale(self) -> Array:
        """Of a state to mm."""
        return np.array([_LEVER_MM] * self._turns + [1.0] * (self._size - self._turns))

    @cached_property
    def _drawn_at(self) -> dict[str, complex]:
        return {name: complex(*self.points[name].tolist()) for name in self._hung.owner}

    @cached_property
    def _places(self) -> _Spans:
        """Every point on every member that carries it."""
        h, drawn = self._hung, self._drawn_at
        arms: Plane = np.zeros((len(h.root), self._turns + len(h.afloat)), dtype=complex)
        for place, member, start, end in h.levers:
            arms[place, member] = drawn[end] - drawn[start]
        for place, member in h.floating:
            arms[place, self._turns + member] = 1.0
        return _Spans(np.array([drawn[name] for name in h.root]), arms)

    @cached_property
    def _lengths(self) -> Array:
        """Of the rods."""
        return np.array([abs(self._drawn_at[b] - self._drawn_at[a]) for a, b in self.rods])

    @cached_property
    def _held(self) -> tuple[_Spans, Plane]:
        """What the equations speak of, in their order: gaps of the pins that close loops, rods, the axle's way from
        where it is drawn; and what each is changed by per mm of every coordinate at the drawn position, (Q, n).
        """
        h, places = self._hung, self._places
        one, other = np.array([*h.closing, *((h.owner[a], h.owner[b]) for a, b in self.rods), (0, 0)]).T
        spans, driven = places.between(one, other), h.owner[self.driven]
        spans.base[-1] = places.base[driven] - self._drawn_at[self.driven]
        spans.arms[-1] = places.arms[driven]
        moved: Plane = np.empty((one.size, self._size), dtype=complex)
        moved[:, : self._turns] = 1j / _LEVER_MM * spans.arms[:, : self._turns]
        moved[:, self._turns :: 2] = spans.arms[:, self._turns :]
        moved[:, self._turns + 1 :: 2] = 1j * spans.arms[:, self._turns :]
        return spans, moved

    def _turned(self, state: Array) -> Plane:
        """Every member's e^{iθ}, then every shift as a complex number, (N, members + afloat)."""
        turns = state[:, : self._turns]
        turned: Plane = np.empty(turns.shape, dtype=complex)
        np.cos(turns, out=turned.real)
        np.sin(turns, out=turned.imag)
        return self._with_shifts(turned, state)

    def _with_shifts(self, turns: Plane, of: Array) -> Plane:
        """Beside what each turn makes, the shifts that a state or its rate ends with, as complex numbers."""
        if not self._hung.afloat:
            return turns
        shifts = of[:, self._turns :]
        return np.hstack([turns, shifts[:, ::2] + 1j * shifts[:, 1::2]])

    def _turning(self, poses: PlanarPoses) -> tuple[Plane, Plane]:
        """As :meth:`_turned`, and its change per rise."""
        turned = self._turned(poses.state)
        return turned, self._with_shifts(1j * turned[:, : self._turns] * poses.rate[:, : self._turns], poses.rate)

    def _equations(self, rise: Array, state: Array) -> tuple[Array, Array]:
        """Residuals (N, n) in mm and Jacobian (N, n, n), turns scaled by a lever."""
        (spans, moved), pins, turned = self._held, len(self._hung.closing), self._turned(state)
        span, factor = spans.at(turned), turned
        if self._hung.afloat:
            factor = np.hstack([turned[:, : self._turns], np.ones((rise.size, self._size - self._turns))])
        slope: Plane = factor[:, None] * moved
        residual: Array = np.empty(state.shape)
        jacobian: Array = np.empty((*state.shape, self._size))
        if pins:
            residual[:, : 2 * pins] = span[:, :pins].view(float)
            jacobian[:, 0 : 2 * pins : 2], jacobian[:, 1 : 2 * pins : 2] = slope[:, :pins].real, slope[:, :pins].imag
        if self.rods:
            rod = span[:, pins:-1]
            length = np.abs(rod)
            residual[:, 2 * pins : -1] = length - self._lengths
            jacobian[:, 2 * pins : -1] = ((rod.conj() / length)[..., None] * slope[:, pins:-1]).real
        residual[:, -1] = span[:, -1].imag - rise
        jacobian[:, -1] = slope[:, -1].imag
        return residual, jacobian

    def poses(self, rise: Array | float) -> PlanarPoses:
        """The members at every rise of the driven point from where it is drawn, (N,), mm."""
        goal: Array = np.atleast_1d(np.asarray(rise, dtype=float))
        state: Array = np.zeros((goal.size, self._size))
        rate: Array = np.broadcast_to(self._drawn[1], state.shape)
        last, ok = PlanarPoses(goal, state, rate, np.ones(goal.size, dtype=bool)), np.ones(goal.size, dtype=bool)
        for reached, ahead in stages(goal, STAGE_MM):
            last = self._newton(ahead, last.state + last.rate * (ahead - reached)[:, None])
            ok &= last.reachable
        return PlanarPoses(goal, last.state, last.rate, ok)

    def sweep(
        self,
        low: float,
        high: float,
        step: float,
        enough: Callable[[PlanarPoses, int], bool] = lambda *_: False,
        near: PlanarPoses | None = None,
    ) -> PlanarPoses:
        """Every ``step`` from where it is drawn as far as it reaches both ways, at most from ``low`` to ``high``, mm.

        It goes outward in stages and stops where no position is found, or where ``enough`` says so of the last one,
        told by its place among some.

        Args:
            near: positions of a linkage of the same members a little different, found with the same ``step``: where
                they lead to this one's own unbroken curve, its stages are left out.
        """
        middle = self._from(near)
        if middle is None:
            drawn = np.zeros((1, self._size))
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
        third = np.abs(np.diff(poses.rate, n=3, axis=0) * self._scale).max(axis=1)
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
            off = np.abs((middle.state - guess.state) * self._scale).max(axis=1)
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
        self, middle: PlanarPoses, end: float, step: float, enough: Callable[[PlanarPoses, int], bool]
    ) -> list[PlanarPoses]:
        """Stages of a sweep from the positions that are known to one end, in the order they were found."""
        up, found = end > 0, []
        last: PlanarPoses = middle.part(slice(-1, None) if up else slice(0, 1))
        at: float = float(last.rise[0])
        bend: Array = np.zeros(1)
        way = step if up else -step
        if at and enough(middle, -1 if up else 0):
            return []
        while abs(at + way) <= abs(end) + 1e-9:
            # Downward there is little: most are drawn where they are fully extended.
            size = max(1, round((STAGE_MM if up or at else 3 * step) / step))
            count = min(size, int((abs(end - at) + 1e-9) // step))
            goal: Array = at + way * np.arange(1, count + 1)
            ahead: Array = (goal - at)[:, None]
            stage = self._newton(goal, last.state + last.rate * ahead + bend * ahead**2 / 2)
            good = count if stage.reachable.all() else int(np.argmin(stage.reachable))
            if good:
                found.append(stage.part(slice(0, good) if up else slice(good - 1, None, -1)))
            if good < count:
                # Near a dead point a whole step may start too far off: from the last good one it is walked in parts.
                start = stage.part(slice(good - 1, good)) if good else last
                near = self._walked(start, float(goal[good]))
                if near is None or enough(near, 0):
                    if near is not None:
                        found.append(near)
                    break
                found.append(near)
                last, at, bend = near, float(near.rise[0]), np.zeros(1)
                continue
            last = stage.part(slice(-1, None))
            if enough(last, 0):
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
            moved = np.abs((tried.state - at.state - (tried.rate + at.rate) * step / 2) * self._scale).max()
            if tried.reachable.all() and moved < BROKEN_MM:
                at, step = tried, 2 * step
            else:
                step /= 2
                if abs(step) < abs(goal - float(start.rise[0])) / 2**MOST_HALVED:
                    return None
        return None

    def _from(self, near: PlanarPoses | None) -> PlanarPoses | None:
        """Positions found from another's; None where they are not one unbroken curve of this linkage."""
        if near is None or near.state.shape[1] != self._size:
            return None
        found = self._newton(near.rise, near.state)
        if not found.reachable.all() or np.abs(found.state[np.argmin(np.abs(near.rise))]).max() > 1e-9:
            return None
        # On one curve the ends' rates tell the difference of two neighbours to third order; another branch is far off.
        apart: Array = np.diff(near.rise)[:, None]
        missed: Array = np.diff(found.state, axis=0) - apart * (found.rate[1:] + found.rate[:-1]) / 2
        return found if np.abs(missed * self._scale).max(initial=0.0) < BROKEN_MM else None

    @cached_property
    def _drawn(self) -> tuple[float, Array]:
        """Branch and rates as drawn. Raises ValueError at a dead point."""
        jacobian = self._equations(np.zeros(1), np.zeros((1, self._size)))[1]
        try:
            inverse = np.linalg.inv(jacobian)
        except np.linalg.LinAlgError:
            inverse = np.full_like(jacobian, np.inf)
        if np.linalg.norm(jacobian) * np.linalg.norm(inverse) > WORST_CONDITION:
            raise DomainError("As drawn the linkage is at a dead point: two of its members lie in one line.")
        return float(sense(jacobian)[0]), inverse[..., -1] / self._scale

    def _newton(self, goal: Array, state: Array) -> PlanarPoses:
        """Poses from a start; reachable where a rise was met on the branch it is drawn on."""
        (state,), residual, jacobian = newton(
            lambda at, which: self._equations(goal[which], at[0]), self._stepped, (state,),
            within=RESIDUAL_MM, most=_NEWTON_STEPS,
        )  # fmt: skip
        met = (np.abs(residual).max(axis=1) < RESIDUAL_MM) & (sense(jacobian) == self._drawn[0])
        return PlanarPoses(goal, state, self._by(-1, jacobian), met)

    def _stepped(self, at: State, step: Array) -> State:
        """One step of every coordinate, cut where it would go too far to stay on its branch."""
        (state,) = at
        longest = np.abs(step).max(axis=1)[:, None]
        return (state + step * np.minimum(1.0, _LONGEST_STEP_MM / (longest + 1e-12)) / self._scale,)

    def _by(self, equation: int, jacobian: Array) -> Array:
        """d(state)/d(what one equation is to come to), (N, n)."""
        right = np.zeros((*jacobian.shape[:2], 1))
        right[:, equation] = 1.0
        return solve(jacobian, right)[..., 0] / self._scale

    def positions(self, state: Array) -> dict[str, Array]:
        """Every point where the members stand so, by name, (N, 2) each."""
        at = self._places.at(self._turned(state))
        flat: Array = at.view(float).reshape(*at.shape, 2)
        return {name: flat[:, place] for name, place in self._hung.owner.items()}

    def place(self, name: str, poses: PlanarPoses) -> Array:
        """A point at every pose, (N, 2)."""
        return self.position(name, poses.state)

    def position(self, name: str, state: Array) -> Array:
        """One point where the members stand so, (N, 2): as :meth:`positions`, the others left alone."""
        place = self._hung.owner[name]
        at: Plane = self._places.base[place] + self._turned(state) @ self._places.arms[place]
        return at.view(float).reshape(-1, 2)

    def rod_effect(self, rod: int, poses: PlanarPoses) -> Array:
        """d(state)/d(length of a rod) with the axle held at its rise, (N, n) in rad and mm per mm."""
        return self._by(2 * len(self._hung.closing) + rod, self._equations(poses.rise, poses.state)[1])

    def distance(self, one: str, other: str, poses: PlanarPoses) -> tuple[Array, Array]:
        """Distance of two points at every pose, mm, and minus its change per rise: the installation ratio; once."""
        if known := poses.distances.get((one, other)):
            return known
        between = self._places.between(self._hung.owner[one], self._hung.owner[other])
        turned, turning = self._turning(poses)
        span: Plane = between.at(turned)
        length = np.abs(span)
        ratio = -(span.conj() * (turning @ between.arms)).real / length
        return poses.distances.setdefault((one, other), (length, ratio))


def _between(poses: PlanarPoses, intervals: Array) -> PlanarPoses:
    """Half way between neighbours, by the cubic on their rates."""
    (r0, r1), (s0, s1), (v0, v1) = (
        (values[intervals], values[intervals + 1]) for values in (poses.rise, poses.state, poses.rate)
    )
    wide: Array = (r1 - r0)[:, None]
    state: Array = (s0 + s1) / 2 + wide * (v0 - v1) / 8
    return PlanarPoses((r0 + r1) / 2, state, (s1 - s0) / wide, np.ones(intervals.size, dtype=bool))


def _joined_in_order(one: PlanarPoses, other: PlanarPoses) -> PlanarPoses:
    """Both by increasing rise."""
    both = _joined([one, other])
    return both.part(np.argsort(both.rise, kind="stable"))
