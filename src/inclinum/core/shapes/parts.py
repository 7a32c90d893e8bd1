"""Parts in space that can be seen from anywhere: bars, balls, discs, coils and bent lines, mm.

Each answers ``seen(view)`` with its shapes and ``mirrored()`` with its image across the centre line of a vehicle.
"""

import math
from abc import ABC, abstractmethod
from dataclasses import dataclass, field, replace
from functools import lru_cache
from typing import Self

import numpy as np

from inclinum.core.kinematics.rigid import Array
from inclinum.core.shapes.shape import Point, Role, Shape
from inclinum.core.shapes.view import Axis, View

FLIP = np.array([1.0, -1.0, 1.0])
ROUND = 60
"""Points of a wheel's edge."""
END_ON = 0.25
"""A bar that looks shorter than this share of its length is seen from its end."""
STRAND = 6
"""Points of half a turn of a coil."""


_DIRECTIONS = np.stack([np.cos(a := np.linspace(0, 2 * np.pi, ROUND, endpoint=False)), np.sin(a)], axis=-1)


def _unit_of(axis: Axis) -> Array:
    return axis[1] * np.eye(3)[axis[0]]


def _line(points: Array) -> list[Point]:
    return [(round(u, 1), round(v, 1)) for u, v in points.tolist()]


Places = list[list[float]]
"""Points (x, y, z) in plain numbers: of arrays as small as a part's the calls cost more than the arithmetic."""


def _seen_from(view: View, at: Places) -> list[Point]:
    """Points in the plane of a picture."""
    (u, right), (v, up) = view.right, view.up
    return [(round(right * p[u], 1), round(up * p[v], 1)) for p in at]


@dataclass(eq=False)
class Part(ABC):
    """Base of what can be drawn: like its shapes a plain record, one of hundreds in a drawing, and made anew for each.

    Args:
        role: what it is.
        at: its points, (N, 3), mm.
        name: in words.
    """

    role: Role
    at: Array
    name: str = ""

    def seen(self, view: View) -> list[Shape]:
        """Its shapes in a picture."""
        return self._shapes(view, self.at.tolist())

    @abstractmethod
    def _shapes(self, view: View, at: Places) -> list[Shape]:
        """The same, its points told in plain numbers."""

    def mirrored(self) -> Self:
        """Of the other side of the vehicle."""
        return replace(self, at=self.at * FLIP)

    def placed(self, turn: Array, shift: Array) -> Self:
        """Turned about the origin by a rotation (3, 3), then shifted, mm."""
        return replace(self, at=self.at @ turn.T + shift)

    def layers(self, view: View) -> list[tuple[float, Shape]]:
        """Its shapes with how near each is to whoever looks: of two the nearer is drawn over the other."""
        (axis, sign), at = view.near, self.at.tolist()
        near = sign * sum([p[axis] for p in at]) / len(at)
        return [(near, shape) for shape in self._shapes(view, at)]


@dataclass(eq=False)
class Curve(Part):
    """A bent line with a thickness: a leaf, a hose."""

    wide: float = 0.0
    closed: bool = False

    def _shapes(self, view: View, at: Places) -> list[Shape]:
        """One line."""
        return [Shape(self.role, _seen_from(view, at), self.name, self.closed, self.wide)]


@dataclass(eq=False)
class Directed(Part):
    """Base of parts that have a direction beside their places.

    Args:
        axis: unit, (3,).
    """

    axis: Array = field(default_factory=lambda: np.array([0.0, 1.0, 0.0]))

    def mirrored(self) -> Self:
        """Of the other side, its direction with it."""
        return replace(self, at=self.at * FLIP, axis=self.axis * FLIP)

    def placed(self, turn: Array, shift: Array) -> Self:
        """Turned and shifted, its direction turned with it."""
        return replace(self, at=self.at @ turn.T + shift, axis=turn @ self.axis)


@dataclass(eq=False)
class Ribbon(Directed):
    """A flat strip that is bent: a leaf.

    Args:
        axis: unit, along its width.
        wide, thick: mm.
    """

    wide: float = 60.0
    thick: float = 7.0

    def _shapes(self, view: View, at: Places) -> list[Shape]:
        """Its outline: as much of thickness and of width beside its line as shows from there."""
        middle, runs = view.flat(self.at), np.gradient(self.at, axis=0)
        along = np.gradient(middle, axis=0)
        size = np.hypot(along[:, 0], along[:, 1])[:, None]
        beside = np.stack([-along[:, 1], along[:, 0]], axis=-1) / np.where(size > 0, size, 1.0)
        normal = np.cross(runs, self.axis)
        normal = normal / np.linalg.norm(normal, axis=-1)[:, None]
        shown = np.abs(np.sum(view.flat(normal) * beside, axis=-1)) * self.thick
        shown = shown + np.abs(beside @ view.flat(self.axis)) * self.wide
        half = beside * shown[:, None] / 2
        outline = np.concatenate([middle + half, (middle - half)[::-1]])
        return [Shape(self.role, _line(outline), self.name, closed=True)]


@dataclass(eq=False)
class Bar(Part):
    """Straight and round between two points, thicker or thinner; seen along its length it is a circle."""

    wide: float = 30.0

    def _shapes(self, view: View, at: Places) -> list[Shape]:
        """Its outline."""
        (u, right), (v, up), (one, other) = view.right, view.up, at
        ua, va, ub, vb = right * one[u], up * one[v], right * other[u], up * other[v]
        du, dv = ub - ua, vb - va
        length = math.hypot(du, dv)
        if length == 0.0 or length < END_ON * math.dist(one, other):
            return [Shape(self.role, [(round((ua + ub) / 2, 1), round((va + vb) / 2, 1))], self.name, wide=self.wide)]
        bu, bv = -dv / length * self.wide / 2, du / length * self.wide / 2
        corners = ((ua + bu, va + bv), (ub + bu, vb + bv), (ub - bu, vb - bv), (ua - bu, va - bv))
        return [Shape(self.role, [(round(x, 1), round(y, 1)) for x, y in corners], self.name, closed=True)]


@dataclass(eq=False)
class Ball(Part):
    """A joint or an eye."""

    wide: float = 30.0

    def _shapes(self, view: View, at: Places) -> list[Shape]:
        """A circle."""
        return [Shape(self.role, _seen_from(view, at), self.name, wide=self.wide)]


@dataclass(eq=False)
class Disc(Directed):
    """A wheel: its centre as the one point of ``at``.

    Args:
        axis: unit, along its axle.
        radius, width: mm.
    """

    radius: float = 300.0
    width: float = 200.0

    def _shapes(self, view: View, at: Places) -> list[Shape]:
        """Its outline, shoulders rounded off."""
        about = _of_disc(tuple(self.axis.tolist()), self.radius, self.width, view)
        return [Shape(self.role, _line(view.flat(self.at[0]) + about), self.name, closed=True)]


@lru_cache(maxsize=256)
def _of_disc(axis: tuple[float, float, float], radius: float, width: float, view: View) -> Array:
    """Outline of a wheel about its centre, as a view has it, (points, 2), mm: wherever it stands it is the same.

    Source: derived here: of a circle that is seen at an angle the point furthest out in a direction is where that
    direction, taken into the circle's own plane, meets it; of several circles the furthest one counts.
    """
    along, shoulder = np.array(axis), min(0.18 * width, 0.2 * radius)
    inwards, down = np.array([0.0, 0.3, 1.0]) * shoulder, np.array([1.0, 0.3, 0.0]) * shoulder
    sides = np.concatenate([width / 2 - inwards, inwards - width / 2])
    centres, radii = sides[:, None] * along, np.tile(radius - down, 2)
    outward = _DIRECTIONS[:, :1] * _unit_of(view.right) + _DIRECTIONS[:, 1:] * _unit_of(view.up)
    inplane = outward - (outward @ along)[:, None] * along
    size = np.sqrt(np.sum(inplane**2, axis=-1))
    furthest = np.argmax(outward @ centres.T + size[:, None] * radii, axis=1)
    edge = inplane / np.maximum(size, 1e-12)[:, None]
    return view.flat(centres[furthest] + radii[furthest][:, None] * edge)


@lru_cache(maxsize=64)
def _turned(turns: float) -> Array:
    """What the points of a coil's half-turns are summed of, one after the other, (half-turns · points, 5).

    Once the middle of its first turn; as often a wire as the flat turns raise it; a share of the rest of its length;
    the radius square to the sight by the cosine of the turn, and towards the eye by its sine.
    """
    turn: Array = np.ravel(np.arange(round(2 * max(turns, 2.5)))[:, None] / 2 + np.linspace(0, 0.5, STRAND))
    return np.stack([np.ones_like(turn), *_risen(turn, turns), *(f(2 * np.pi * turn) for f in (np.cos, np.sin))], -1)


def _risen(turn: Array, turns: float) -> tuple[Array, Array]:
    """After so many turns from the first seat: wires that its flat turns raise it by, share of the rest of its length.

    Its first and last turn lie flat on the seats; what is left is shared by those between.
    """
    free = max(turns - 2.0, 0.5)
    ends = [0.0, 1.0, 1.0 + free, 2.0 + free]
    return np.interp(turn, ends, [0.0, 1.0, 1.0, 2.0]), np.interp(turn, ends, [0.0, 0.0, 1.0, 1.0])


@dataclass(eq=False)
class Coil(Part):
    """A coil spring between its two seats, at the length it has there: first point one seat, second the other.

    Its first and last turn lie flat on the seats, what is left of its length is shared by the turns between: pressed
    solid they touch, wire on wire.

    Args:
        mean: diameter of its turns, middle of wire to middle of wire, mm.
        wire: diameter, mm.
        turns: all of them.
    """

    mean: float = 100.0
    wire: float = 12.0
    turns: float = 7.5

    def _room(self, length: float) -> tuple[float, float]:
        """What a flat turn raises it by, and what is left for the turns between, mm."""
        return min(self.wire, max(length - self.wire, 0.0) / 2), max(length - 3 * self.wire, 0.0)

    def heights(self, turn: Array) -> Array:
        """Of the middle of the wire above the first seat, after so many turns from there, mm."""
        flat, rest = self._room(float(np.linalg.norm(self.at[1] - self.at[0])))
        wires, share = _risen(turn, self.turns)
        return self.wire / 2 + flat * wires + rest * share

    def layers(self, view: View) -> list[tuple[float, Shape]]:
        """Half of it behind what stands inside it, half in front."""
        apart = {"coil_behind": -self.mean / 2, "coil": self.mean / 2}
        return [(near + apart[shape.role], shape) for near, shape in super().layers(view)]

    def _shapes(self, view: View, at: Places) -> list[Shape]:
        """Its turns as half-turns: those behind first, then those in front."""
        start, other = at
        length = math.dist(start, other)
        if length < self.wire:
            return []
        along = [(b - a) / length for a, b in zip(start, other, strict=True)]
        axis, sign = view.near
        towards = sign * along[axis]
        beside = math.sqrt(max(1.0 - towards**2, 0.0))
        if beside < END_ON:
            ring = Disc("coil", self.at[:1], axis=np.array(along), radius=self.mean / 2, width=self.wire)
            return ring.seen(view)
        # Turns go about its axis from a line square to the sight to the one nearest to it, and on behind.
        near = [-towards * a / beside for a in along]
        near[axis] += sign / beside
        flat, rest = self._room(length)
        (a, b, c), (d, e, f) = along, (self.mean / 2 * n for n in near)
        summed = (
            [p + self.wire / 2 * n for p, n in zip(start, along, strict=True)],
            [flat * n for n in along], [rest * n for n in along],
            (b * f - c * e, c * d - a * f, a * e - b * d), (d, e, f),
        )  # fmt: skip
        # In the plane of the picture before its points are summed: a coil has a hundred of them.
        (u, right), (v, up) = view.right, view.up
        seen = _turned(self.turns) @ np.array([(right * p[u], up * p[v]) for p in summed])
        points: list[Point] = list(map(tuple, seen.round(1).tolist()))  # type: ignore[arg-type]
        behind, front = [], []
        for n in range(0, len(points), STRAND):
            nearer = n % (2 * STRAND) == 0
            shape = Shape("coil" if nearer else "coil_behind", points[n : n + STRAND], self.name, wide=self.wire)
            (front if nearer else behind).append(shape)
        return behind + front
