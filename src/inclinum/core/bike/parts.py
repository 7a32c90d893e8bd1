"""What a two-wheeler looks like from its right side, to scale where its data say so, sketched through them elsewhere.

Linkage, damper, spring, fork, wheels, seat and stations stand where they are computed to be; tank, engine, bars and
guards are sketched between them, and their names say so.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from inclinum.core.bike.machine import Bike
from inclinum.core.kinematics.rigid import Array
from inclinum.core.shapes import Ball, Bar, Coil, Curve, Part, Role

Point = tuple[float, float]
PEDALLED_KG = 45.0
"""Sprung mass below which a machine has no engine."""
SPRING_TURNS = 7.5
EYE_MM = 24.0
"""From a damper's eye to its spring seat, and to the end of its body."""
LINKS: dict[str, tuple[Role, float, str]] = {
    "arm": ("swing", 44.0, "swing arm"), "rocker": ("arm", 28.0, "rocker"), "rod": ("rod", 20.0, "rod"),
}  # fmt: skip
LIGHT = 0.6
"""Of those thicknesses on a machine that is pedalled."""


@dataclass(frozen=True, slots=True)
class ForkPlaces:
    """A fork in the plane of the drawing, lower end of each first.

    Args:
        slider: from the axle to where it meets the tube.
        tube: from there to its top.
        head: the steering axis.
        clamps: at the tubes.
    """

    slider: tuple[Point, Point]
    tube: tuple[Point, Point]
    head: tuple[Point, Point]
    clamps: tuple[Point, Point]


def side_parts(
    bike: Bike,
    body: Sequence[Sequence[Point]],
    lines: Sequence[tuple[str, str, str]],
    at: Mapping[str, Point],
    fork: ForkPlaces,
    seat: Point,
    stations: Mapping[str, Point],
    sprocket: Point | None,
) -> list[Part]:
    """Parts of a machine in one condition, those furthest behind first, in the plane of the drawing: x, 0, z.

    Args:
        bike: as planned.
        body: what somebody drew of this machine, on the ground.
        lines: of its rear end: what it is, and between which points.
        at: those points on the ground.
        fork: on the ground.
        seat: where the rider sits.
        stations: what is measured from the ground.
        sprocket: the front one, where there is one.
    """
    pedalled = bike.sprung_front_kg + bike.sprung_rear_kg < PEDALLED_KG
    thick = LIGHT if pedalled else 1.0
    rear, front = at["axle"], fork.slider[0]
    parts: list[Part] = [
        *_wheel(rear, bike.rear_tyre_radius_mm, pedalled=pedalled),
        *_wheel(front, bike.front_tyre_radius_mm, pedalled=pedalled),
    ]
    if sprocket is not None:
        parts += _chain(sprocket, rear, pedalled=pedalled)
    # What somebody drew of this machine takes the place of the sketch.
    drawn: list[Part] = [Curve("frame", _flat(*shape), "body", closed=True) for shape in body]
    parts += drawn or _frame(at, fork.head, seat, sprocket, pedalled=pedalled)
    for look, a, b in lines:
        if look == "damper":
            parts += _unit(bike, at[a], at[b])
        else:
            role, wide, name = LINKS[look]
            parts.append(Bar(role, _flat(at[a], at[b]), name, wide=wide * thick))
    parts += [Ball("joint", _flat(q), n.replace("_", " "), wide=24 * thick) for n, q in at.items() if n != "axle"]
    parts += _fork(bike, fork, thick, pedalled=pedalled)
    parts += [Ball("rest", _flat(q), n, wide=26) for n, q in stations.items() if "rest" in n or "peg" in n]
    return parts


def _flat(*points: Point) -> Array:
    return np.array([(x, 0.0, z) for x, z in points])


def _wheel(axle: Point, radius: float, *, pedalled: bool) -> list[Part]:
    section = 0.16 * radius if pedalled else 0.26 * radius
    where = _flat(axle)
    return [
        Ball("tyre", where, "tyre, radius under load", wide=2 * radius),
        Ball("rim", where, wide=2 * (radius - section)),
        Ball("hub", where, wide=0.28 * radius),
    ]


def _chain(sprocket: Point, axle: Point, *, pedalled: bool) -> list[Part]:
    """Two runs outside both sprockets, whose sizes are sketched."""
    small, large = (62.0, 46.0) if pedalled else (38.0, 100.0)
    (sx, sz), (ax, az) = sprocket, axle
    length = math.hypot(ax - sx, az - sz)
    nx, nz = -(az - sz) / length, (ax - sx) / length
    runs: list[Part] = [
        Curve("chain", _flat((sx + s * nx * small, sz + s * nz * small), (ax + s * nx * large, az + s * nz * large)))
        for s in (1, -1)
    ]
    return [
        Ball("hub", _flat(axle), "rear sprocket, sketched", wide=2 * large),
        Ball("hub", _flat(sprocket), "front sprocket, size sketched", wide=2 * small),
        *runs,
    ]


def _frame(
    at: Mapping[str, Point],
    head: tuple[Point, Point],
    seat: Point,
    sprocket: Point | None,
    *,
    pedalled: bool,
) -> list[Part]:
    """A frame sketched through head, pivot, seat and sprocket, with what usually stands on it."""
    (lx, lz), (ux, uz) = head
    px, pz = at.get("pivot", (0.0, 0.0))
    sx, sz = seat
    if pedalled:
        crank, post = sprocket or (px, pz), (sx - 30, sz - 60)
        tubes = ((head[1], crank), (head[0], crank), (crank, post), ((sx + 20, sz - 200), head[1]))
        named = "frame, sketched through its known points"
        return [
            *(Bar("frame", _flat(a, b), named, wide=38) for a, b in tubes),
            Bar("bars", _flat(post, (sx - 20, sz - 8)), "seat post", wide=26),
            Curve("saddle", _flat((sx - 130, sz + 8), (sx - 30, sz - 6), (sx + 120, sz - 10)), "seat", wide=34),
            _bars((ux, uz), 90, 40),
        ]
    tail, nose = (sx - 330, sz - 20), (sx + 180, sz + 10)
    below = (px + 330, pz - 170)
    drawn: list[Part] = [
        *(Bar("frame", _flat(a, b), "frame, sketched through its known points", wide=w) for a, b, w in (
            ((ux, uz), (px + 40, pz + 40), 62), ((lx, lz), below, 44), (below, (px, pz - 60), 40),
            ((px + 20, pz + 90), (tail[0] + 40, tail[1] - 50), 34), (nose, (tail[0], tail[1] - 30), 34),
        )),
        Curve(
            "engine",
            _flat((px + 60, pz - 70), (px + 40, pz + 70), (px + 190, pz + 110), (px + 230, pz + 270),
                  (px + 350, pz + 240), (px + 330, pz + 60), (px + 400, pz - 40), (px + 340, pz - 140)),
            "engine, sketched", closed=True,
        ),
        Curve(
            "tank",
            _flat((ux - 45, uz + 30), ((ux + nose[0]) / 2, max(uz, nose[1]) + 75), (nose[0] - 20, nose[1] + 30),
                  (nose[0] - 30, nose[1] - 60), ((ux + nose[0]) / 2, min(uz, nose[1]) - 60), (ux - 60, uz - 60)),
            "tank, sketched", closed=True,
        ),
        Curve("saddle", _flat(tail, (sx - 150, sz + 6), seat, nose), "seat", wide=58),
        _bars((ux, uz), 40, 110),
    ]  # fmt: skip
    return drawn


def _bars(top: Point, back: float, up: float) -> Part:
    x, z = top
    line = _flat(top, (x + 10, z + 0.7 * up), (x - back, z + up), (x - back - 90, z + up - 12))
    return Curve("bars", line, "bars, sketched", wide=24)


def _guard(axle: Point, radius: float, first: float, last: float, name: str) -> Part:
    turn = [math.radians(first + (last - first) * n / 8) for n in range(9)]
    out = radius + 34
    return Curve(
        "guard", _flat(*((axle[0] + out * math.cos(a), axle[1] + out * math.sin(a)) for a in turn)), name, wide=12
    )


def _fork(bike: Bike, fork: ForkPlaces, thick: float, *, pedalled: bool) -> list[Part]:
    low, high = fork.clamps
    parts: list[Part] = [
        Bar("damper_rod", _flat(*fork.tube), "fork tube", wide=44 * thick),
        Bar("slider", _flat(*fork.slider), "slider", wide=58 * thick),
        Bar("tube", _flat(*fork.head), "steering head", wide=60 * thick),
    ]
    clamps = (low, high) if bike.fork.crown == "double" else (low,)
    parts += [
        Bar("clamp", _flat(at, beside), "clamp", wide=34 * thick) for at, beside in zip(clamps, fork.head, strict=False)
    ]
    if not pedalled:
        parts.insert(0, _guard(fork.slider[0], bike.front_tyre_radius_mm, 50, 140, "front guard, sketched"))
    return parts


def _unit(bike: Bike, fixed: Point, moving: Point) -> list[Part]:
    """Damper with its spring: body from the frame, rod at the moving end, coil between collar and seat."""
    d, spring = bike.damper, bike.spring
    start, end = complex(*fixed), complex(*moving)
    length = abs(end - start)
    if length < 1:
        return []
    along = (end - start) / length
    closed = d.extended_mm - d.stroke_mm
    body = min(closed - EYE_MM, length - 1)

    def on(far: float) -> Point:
        at = start + along * far
        return at.real, at.imag

    # Pressed by its preload with the damper out, and by every millimetre that the damper closes.
    coil = min(spring.free_length_mm - bike.preload - (d.extended_mm - length), spring.free_length_mm)
    seat = length - EYE_MM
    solid = spring.free_length_mm - spring.stroke_mm
    wire = solid / (SPRING_TURNS + 1)
    mean = (spring.inner_diameter_mm or 0.32 * spring.free_length_mm) + wire
    parts: list[Part] = [
        Bar("damper_rod", _flat(on(body), moving), "damper rod", wide=15),
        Bar("damper_body", _flat(fixed, on(body)), "damper", wide=min(46.0, 0.8 * (mean - wire))),
    ]
    if d.bumper is not None:
        squeezed = min(d.bumper.height_mm, max(seat - body, 1.0))
        parts.append(Bar("bump_stop", _flat(on(seat), on(seat - squeezed)), "bump rubber", wide=30))
    parts += [
        Coil(
            "coil", _flat(on(seat - coil), on(seat)), "spring, wire sketched", mean=mean, wire=wire, turns=SPRING_TURNS
        ),
        Bar("collar", _flat(on(seat - coil - 8), on(seat - coil)), "collar", wide=1.12 * (mean + wire)),
        Bar("seat", _flat(on(seat), on(seat + 5)), "spring seat", wide=1.1 * (mean + wire)),
        Ball("bush", _flat(fixed), wide=26),
        Ball("bush", _flat(moving), wide=26),
    ]
    return parts
