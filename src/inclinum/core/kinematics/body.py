"""One rigid body on scalar constraints: the problem every suspension is.

A body has six degrees of freedom. An independent corner leaves one, driven by the vertical travel of its wheel
centre; a solid axle leaves two, driven by heave of the mid-point of its wheel centres and by roll. All positions,
and all samples, are solved in one batched Newton iteration on stacked 6×6 systems with analytic Jacobians; the
constraints are those of :mod:`~inclinum.core.kinematics.constraints`.
"""

from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from inclinum.core.document.errors import DomainError
from inclinum.core.kinematics.branch import State, end_of_reach, newton, sense, solve, stages
from inclinum.core.kinematics.constraints import (
    NEUTRAL,
    Adjustment,
    Constraint,
    CrankRods,
    EvenPair,
    Link,
    Placement,
    held,
    in_row_order,
    turn_to_reach,
)
from inclinum.core.kinematics.points import link_name
from inclinum.core.kinematics.rigid import Array, about, cross, dot, rotation

RESIDUAL_MM = 1e-8
"""A pose is accepted when every constraint is met to this."""
STAGE_MM = 90.0
"""Travel is approached in steps of at most this, so that Newton keeps the branch it started on."""
STAGE_ROLL = 0.08
"""The same for roll, sine of the angle."""
_NEWTON_STEPS = 12
BLOCK = 1024
"""Poses solved together at most."""
MANY = 16
"""Samples from which on they are solved from the neutral linkage's own positions."""
MOST = 0.6
"""Share of unfinished poses above which all are stepped again."""
_LEVER_MM = 300.0  # turns the rotational columns into mm so that the 6×6 systems are well scaled


@dataclass(frozen=True)
class Poses:
    """Where the body is, and how it moves per millimetre of travel.

    ``shape`` below is the batch shape, samples before travel.
    """

    centre0: Array
    """Wheel centre (of an axle: the mid-point of both) at baseline, (3,)."""
    centre: Array
    """The same now, shape + (3,), mm."""
    turn: Array
    """Rotation from baseline, shape + (3, 3)."""
    velocity: Array
    """d(centre)/d(travel), shape + (3,)."""
    spin: Array
    """Rotation rate per travel, shape + (3,), rad/mm."""
    reachable: Array
    """True where the position exists on the branch of the baseline, shape, bool."""
    roll_velocity: Array
    """d(centre)/d(roll) of an axle with heave held, shape + (3,), mm/rad; zero for a corner."""
    roll_spin: Array
    """Rotation rate per roll of an axle with heave held, shape + (3,); zero for a corner."""

    def __getitem__(self, index: slice | list[int]) -> "Poses":
        """Some of the poses of a sweep without samples."""
        return Poses(self.centre0, *(part[index] for part in self.parts()))

    def parts(self) -> tuple[Array, ...]:
        """Everything with the batch shape, in the order of the fields."""
        return (
            self.centre, self.turn, self.velocity, self.spin, self.reachable, self.roll_velocity, self.roll_spin,
        )  # fmt: skip

    @property
    def travel(self) -> Array:
        """Vertical movement of the centre from baseline, bump positive, the batch shape, mm."""
        return self.centre[..., 2] - self.centre0[2]

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

    def roll_rate(self, point: Array) -> Array:
        """d(point)/d(roll) of a point an axle carries, given where it is now, mm/rad."""
        return self.roll_velocity + cross(self.roll_spin, point - self.centre)


@dataclass(frozen=True)
class TravelRange:
    """The travel that exists around baseline, mm, and what ends it; empty where the range asked for does."""

    low: float
    high: float
    low_reason: str = ""
    high_reason: str = ""


@dataclass(frozen=True)
class Body:
    """A body at baseline on its constraints; what they leave free is driven.

    Args:
        points: every named point at baseline, body-side and chassis-side, mm.
        centre: name of the point whose vertical movement is the travel.
        constraints: five for a corner, four for an axle.
        across: names of the right and the left wheel centre of an axle, which its roll is read from.

    Raises:
        ValueError: too few or too many constraints, or a link without length, with the part named.
    """

    points: Mapping[str, Array]
    centre: str
    constraints: tuple[Constraint, ...]
    across: tuple[str, str] | None = None

    def __post_init__(self) -> None:
        wanted, what = (4, "An axle") if self.across else (5, "A corner")
        if (count := len(self.constraints)) != wanted:
            free = "too few: it stays loose" if count < wanted else "too many: it cannot move"
            raise DomainError(f"{what} needs {wanted} constraints, this one has {count}, {free}.")
        for c in self.constraints:
            if isinstance(c, Link) and np.linalg.norm(self.points[c.on_body] - self.points[c.on_chassis]) < 1.0:
                raise DomainError(f"The link {c.label} has no length: its ends coincide.")
        baseline = self._neutral
        _, jacobian = baseline.residual_and_jacobian(
            np.zeros((1, baseline.drives)), np.zeros(1, dtype=int), baseline.centre0[None], np.eye(3)[None]
        )
        if np.linalg.cond(jacobian[0]) > 1e9:
            raise DomainError(
                f"At baseline the linkage is at a dead point or leaves a part loose: {self._loaded_most(jacobian[0])}."
            )

    def bush_turns(self, poses: "Poses", told: Collection[str] = ()) -> dict[str, float]:
        """What each rod turns by at its chassis end from the first pose to the last, rad, unsigned.

        Steering rods are left out: they end in ball joints, which store nothing. Of a left and a right one the one that
        turns more is told.

        Args:
            poses: from one to the other.
            told: chassis points that somebody else tells of.
        """
        turns: dict[str, float] = {}
        for on_body, on_chassis in self._rods():
            if on_chassis in told or on_chassis.startswith(("tie", "drag", "track_rod")):
                continue
            crank = self.cranks.get(on_body)
            end = poses.point(self.points[on_body]) if crank is None else self.on_crank(on_body, crank, poses)[0]
            span = end[[0, -1]] - self.points[on_chassis]
            was, now = span / np.linalg.norm(span, axis=-1, keepdims=True)
            name, turn = link_name(on_chassis), float(np.arccos(np.clip(was @ now, -1.0, 1.0)))
            turns[name] = max(turn, turns.get(name, 0.0))
        return turns

    def _rods(self) -> Iterator[tuple[str, str]]:
        """Ends of every link and rod between body and chassis, (body, chassis)."""
        for c in self.constraints:
            match c:
                case Link():
                    yield c.on_body, c.on_chassis
                case EvenPair():
                    yield from ((link.on_body, link.on_chassis) for link in c.links)
                case CrankRods():
                    yield c.first_end, c.first_chassis
                    yield c.second_end, c.second_chassis
                case _:
                    pass

    @cached_property
    def cranks(self) -> dict[str, CrankRods]:
        """Ends of cranks that turn on the body, and on which."""
        found = [c for c in self.constraints if isinstance(c, CrankRods)]
        return {end: c for c in found for end in (c.first_end, c.second_end)}

    def on_crank(
        self, name: str, crank: CrankRods, poses: "Poses", adjusted: Adjustment = NEUTRAL
    ) -> tuple[Array, Array]:
        """An end of a crank: where it is and its rate per travel, both the poses' shape + (3,).

        The first rod keeps its length, |p + R(φ)·a − b| = l, and so does its rate: ṙ·(v + φ̇·axis × a) = 0.
        """

        def at(point: str, kept: Adjustment = adjusted) -> Array:
            return kept.place(point, np.asarray(self.points[point], dtype=float))

        def longer(key: str) -> Array:
            by = np.asarray(adjusted.lengthened.get(key, 0.0), dtype=float)
            return by[:, None] if by.ndim else by

        first, anchor = crank.first_end, crank.first_chassis
        kept = adjusted if adjusted.placed_anew else NEUTRAL
        length = np.linalg.norm(at(first, kept) - at(anchor, kept), axis=-1)
        length = length + longer(first) + longer(f"{anchor} to {first}")
        pivot, axis = poses.point(at(crank.pivot)), poses.direction(np.array(crank.axis))
        arm, reach = (poses.direction(at(end) - at(crank.pivot)) for end in (first, name))
        angle = turn_to_reach(axis, arm, at(anchor) - pivot, length)
        arm, reach = about(axis, angle, arm), about(axis, angle, reach)
        rod = pivot + arm - at(anchor)
        turning = -dot(rod, poses.point_rate(pivot + arm)) / dot(rod, cross(axis, arm))
        place = pivot + reach
        return place, poses.point_rate(place) + turning[..., None] * cross(axis, reach)

    @cached_property
    def _neutral(self) -> "_System":
        return _System(self, 1, NEUTRAL)

    def poses(
        self,
        travel: Array,
        adjusted: Adjustment = NEUTRAL,
        near: Poses | None = None,
        roll: Array | float = 0.0,
    ) -> Poses:
        """Solve every travel position, for every sample of an adjustment.

        Args:
            travel: of the centre, (T,) or one row per sample (S, T), mm, bump positive.
            adjusted: what differs from the neutral linkage.
            near: poses close by to start from, one per travel: a small adjustment, or a few mm of travel, away.
            roll: of an axle, one per travel, (T,), rad, left wheel up positive.

        Returns:
            Poses of shape (T,), or (S, T) when the adjustment has a sample axis.
        """
        samples = adjusted.samples
        travel = np.atleast_1d(np.asarray(travel, dtype=float))
        rows, count = max(samples, 1), travel.shape[-1]
        system = self._neutral if adjusted is NEUTRAL else _System(self, rows, adjusted)
        goal = np.zeros((rows, count, system.drives))
        goal[..., 0] = travel
        if system.drives > 1:
            goal[..., 1] = np.sin(roll)
        goal = goal.reshape(rows * count, -1)
        row = np.repeat(np.arange(rows), count)
        if near is None:
            # In blocks that stay in the processor's cache: the cost then grows with the samples, not faster.
            blocks = [slice(i, i + BLOCK) for i in range(0, row.size, BLOCK)]
            if samples >= MANY and travel.ndim == 1:
                centre, turn, *_ = self._neutral.follow(goal[:count], row[:count])
                each = np.tile(np.arange(count), rows)
                solved = [
                    system.beside(goal[b], row[b], centre[each[b]], turn[each[b]], self._neutral.baseline[0])
                    for b in blocks
                ]
            else:
                solved = [system.follow(goal[b], row[b]) for b in blocks]
            state = solved[0] if len(solved) == 1 else tuple(np.concatenate(p) for p in zip(*solved, strict=True))
        else:
            state = system.approach(goal, row, near)
        shape = (rows, count) if samples else (count,)
        return Poses(self.points[self.centre], *(part.reshape(*shape, *part.shape[1:]) for part in state))

    def travel_range(self, low: float, high: float, resolution: float = 0.05) -> TravelRange:
        """The part of [low, high] around 0 that exists, and which part is at its dead point at an end, mm."""
        ends = [end_of_reach(lambda z: self.poses(z).reachable, end, resolution) for end in (low, high)]
        reasons = ["" if at == end else self._end_reason(at) for at, end in zip(ends, (low, high), strict=True)]
        return TravelRange(ends[0], ends[1], reasons[0], reasons[1])

    def _end_reason(self, travel: float) -> str:
        system = self._neutral
        # Asked for alone, the very end may be found by nobody: then a little before it.
        for share in (1.0, 0.999, 0.99, 0.9):
            there = self.poses(np.array([share * travel]))
            if there.reachable.all():
                break
        else:
            return "dead point"
        _, jacobian = system.residual_and_jacobian(
            np.zeros((1, system.drives)), np.zeros(1, dtype=int), there.centre, there.turn
        )
        return f"dead point: {self._loaded_most(jacobian[0])}"

    def _loaded_most(self, jacobian: Array) -> str:
        """The constraint that a vertical load strains most: at a dead point its force grows without bound."""
        wheel = np.zeros(6)
        wheel[2] = 1.0
        forces = np.linalg.lstsq(jacobian.T, wheel, rcond=None)[0][: len(self.constraints)]
        names = in_row_order(self.constraints)
        if np.abs(forces).max() < 1e-6:
            _, _, loose = np.linalg.svd(jacobian)
            forces = jacobian[: len(names)] @ loose[-1]
            return names[int(np.argmin(np.abs(forces)))].label
        return names[int(np.argmax(np.abs(forces)))].label


class _System:
    """Constraints and drives of one body for a number of samples, and the Newton iteration on them."""

    def __init__(self, body: Body, rows: int, adjusted: Adjustment):
        placed = Placement(body.points, body.centre, rows, adjusted)
        self.centre0, self.samples = placed.centre0, rows
        self.neutral = adjusted is NEUTRAL
        self.held = held(body.constraints, placed)
        self.across = None
        if body.across:
            right, left = (placed.at(name) for name in body.across)
            self.across = (left - right) / np.linalg.norm(left - right, axis=-1, keepdims=True)
        self.drives = 2 if body.across else 1

    @cached_property
    def baseline(self) -> tuple[Array, Array]:
        """Branch and rates of the neutral linkage at baseline, (1,) and (1, 6, drives)."""
        goal, row = np.zeros((1, self.drives)), np.zeros(1, dtype=int)
        _, jacobian = self.residual_and_jacobian(goal, row, self.centre0[None], np.eye(3)[None])
        return sense(jacobian), self._rates(jacobian)

    @cached_property
    def bend(self) -> Array:
        """Change of a corner's rates per travel at baseline, (6,): what its paths curve by."""
        h, row = 2.0, np.zeros(2, dtype=int)
        goal, still = np.array([[-h], [h]]), np.broadcast_to(np.eye(3), (2, 3, 3))
        rates = np.broadcast_to(self.baseline[1], (2, 6, 1))
        start = self._ahead(rates, goal, np.broadcast_to(self.centre0, (2, 3)), still)
        *_, met, jacobian = self.newton(goal, row, *start)
        if not met.all():  # a dead point is that close
            return np.zeros(6)
        beside = self._rates(jacobian)[..., 0]
        return (beside[1] - beside[0]) / (2 * h)

    def residual_and_jacobian(self, goal: Array, row: Array, centre: Array, turn: Array) -> tuple[Array, Array]:
        """Residuals (N, 6) in mm and their Jacobian (N, 6, 6) in (mm, rad·lever); ``goal`` (N, drives)."""
        count = goal.shape[0]
        residual, jacobian = np.empty((count, 6)), np.empty((count, 6, 6))
        sample, at = (row if self.samples > 1 else None), 0
        for group in self.held:
            end = at + group.count
            group.rows(sample, centre, turn, residual[:, at:end], jacobian[:, at:end])
            at = end
        drive = jacobian[:, at:]
        drive[:] = 0.0
        drive[:, 0, 2] = 1.0
        residual[:, at] = centre[:, 2] - self.centre0[2] - goal[:, 0]
        if self.across is not None:
            line = np.einsum("nij,nj->ni", turn, self.across[row])
            drive[:, 1, 3], drive[:, 1, 4] = _LEVER_MM * line[:, 1], -_LEVER_MM * line[:, 0]
            residual[:, at + 1] = _LEVER_MM * (line[:, 2] - goal[:, 1])
        jacobian[..., 3:] /= _LEVER_MM
        return residual, jacobian

    def newton(self, goal: Array, row: Array, centre: Array, turn: Array) -> tuple[Array, Array, Array, Array]:
        """Newton from a given pose: centre, turn, whether it converged, and the last Jacobian."""

        def equations(at: State, which: Any) -> tuple[Array, Array]:
            return self.residual_and_jacobian(goal[which], row[which], *at)

        (centre, turn), residual, jacobian = newton(
            equations, _stepped, (centre, turn), within=RESIDUAL_MM, most=_NEWTON_STEPS, pick=MOST
        )
        return centre, turn, np.abs(residual).max(axis=1) < RESIDUAL_MM, jacobian

    def follow(self, goal: Array, row: Array) -> tuple[Array, ...]:
        """From baseline to every goal at once, in stages short enough to stay on one branch."""
        # One baseline per sample, whatever the number of travels.
        begins = np.diff(row, prepend=row[0] - 1) != 0
        first, own = np.flatnonzero(begins), np.cumsum(begins) - 1
        centre = np.broadcast_to(self.centre0, (first.size, 3)).copy()
        turn = np.broadcast_to(np.eye(3), (first.size, 3, 3)).copy()
        ok = np.ones(first.size, dtype=bool)
        if self.neutral:
            sign, rates = self.baseline
        else:
            centre, turn, ok, jacobian = self.newton(np.zeros_like(goal[first]), row[first], centre, turn)
            sign, rates = sense(jacobian), self._rates(jacobian)
        centre, turn, ok, sign, rates = (v[own] for v in (centre, turn, ok, sign, rates))
        sizes = np.array([STAGE_MM, STAGE_ROLL])[: self.drives]
        for stage, (reached, ahead) in enumerate(stages(goal, sizes)):
            step = ahead - reached
            start = self._ahead(rates, step, centre, turn)
            if self.neutral and self.drives == 1 and stage == 0:
                # The second order saves every position a Newton step.
                bent = step**2 / 2 * self.bend
                start = start[0] + bent[:, :3], rotation(bent[:, 3:]) @ start[1]
            centre, turn, met, jacobian = self.newton(ahead, row, *start)
            rates = self._rates(jacobian)
            # The determinant changes sign where the linkage passes a dead point: beyond it lies another branch.
            ok &= met & (sense(jacobian) == sign)
        return self._state(goal, centre, turn, rates, ok)

    def beside(self, goal: Array, row: Array, centre: Array, turn: Array, sign: Array) -> tuple[Array, ...]:
        """The same for samples that differ little from a linkage whose own poses at the goals are known.

        Args:
            goal, row: as for :meth:`follow`.
            centre, turn: of the neutral linkage at each goal.
            sign: the branch it is on. A sample that does not end up on it is followed from its own baseline.
        """
        centre, turn, met, jacobian = self.newton(goal, row, centre, turn)
        state = self._state(goal, centre, turn, self._rates(jacobian), met & (sense(jacobian) == sign))
        lost = ~state[4]
        if lost.any():
            for part, again in zip(state, self.follow(goal[lost], row[lost]), strict=True):
                part[lost] = again
        return state

    def approach(self, goal: Array, row: Array, near: Poses) -> tuple[Array, ...]:
        """From poses close to the goals: no travel to follow."""
        rows = row.size // near.centre.shape[0]

        def repeated(part: Array) -> Array:
            return np.broadcast_to(part, (rows, *part.shape)).reshape(row.size, *part.shape[1:])

        centre, turn = repeated(near.centre), repeated(near.turn)
        missed, before = self.residual_and_jacobian(goal, row, centre, turn)
        step = -missed[:, -self.drives :].copy()
        if self.drives > 1:
            step[:, 1] /= _LEVER_MM
        centre, turn, ok, jacobian = self.newton(goal, row, *self._ahead(self._rates(before), step, centre, turn))
        ok = ok & (sense(jacobian) == sense(before))
        return self._state(goal, centre, turn, self._rates(jacobian), ok)

    def _ahead(self, rates: Array, step: Array, centre: Array, turn: Array) -> tuple[Array, Array]:
        """The pose a step of the drives (N, drives) leads to, to first order."""
        move = np.einsum("nid,nd->ni", rates, step)
        return centre + move[:, :3], rotation(move[:, 3:]) @ turn

    def _rates(self, jacobian: Array) -> Array:
        """Movement per unit of each drive, (N, 6, drives): the Jacobian's answer to the drives alone."""
        unit_drives = np.zeros((*jacobian.shape[:2], self.drives))
        unit_drives[:, 5, -1] = 1.0
        if self.drives > 1:
            unit_drives[:, 4, 0] = 1.0
            unit_drives[:, 5, 1] = _LEVER_MM
        rates = solve(jacobian, unit_drives)
        rates[:, 3:] /= _LEVER_MM
        return rates

    def _state(self, goal: Array, centre: Array, turn: Array, rates: Array, ok: Array) -> tuple[Array, ...]:
        roll = np.zeros_like(rates[..., 0])
        if self.drives > 1:  # the drive is the sine of the roll
            roll = rates[..., 1] * np.sqrt(1 - goal[:, 1:] ** 2)
        return centre, turn, rates[:, :3, 0], rates[:, 3:, 0], ok, roll[:, :3], roll[:, 3:]


def _stepped(at: State, step: Array) -> State:
    """A step (N, 6) of centre and turn; one beyond these limits is a toggle, not progress: cut, it keeps the branch."""
    centre, turn = at
    step[:, 3:] /= _LEVER_MM
    size = np.abs(step)
    scale = np.minimum(60.0 / (size[:, :3].max(axis=1) + 1e-12), 0.3 / (size[:, 3:].max(axis=1) + 1e-12))
    if scale.min() < 1.0:
        step *= np.minimum(scale, 1.0)[:, None]
    return centre + step[:, :3], rotation(step[:, 3:]) @ turn
