"""One axle on the vehicle bench: where every joint is over travel, what it does there, and how well it is known."""

from collections.abc import Mapping
from typing import Literal

import numpy as np

from inclinum.core.car.archetypes.respring import kinds_for
from inclinum.core.car.fitting import AxleFit, fit_axle
from inclinum.core.car.parts import WheelParts
from inclinum.core.car.stance import NoRidePoint, Stance, axle_corner, inferred_load, ride_corner
from inclinum.core.car.vehicle import Axle
from inclinum.core.document import Document
from inclinum.core.document.curve import Curve
from inclinum.core.document.known import ASSUMED_POINT_MM
from inclinum.core.kinematics import Corner, Motion, axle_motion, point_name
from inclinum.core.kinematics.axles import AxleSteering
from inclinum.core.kinematics.body import Poses, TravelRange
from inclinum.core.kinematics.joints import limited_range
from inclinum.core.kinematics.rigid import Array
from inclinum.core.kinematics.steered import knuckle_motion
from inclinum.core.quantity.constants import GRAVITY
from inclinum.core.shapes import VIEWS, Shape, ViewName, picture

FRAMES = 41
"""Positions the axle is drawn at over its travel."""
SWEEP_MM = 120.0
"""Travel shown both ways, as far as the linkage reaches."""
ROLL_DEG = 6.0

Place = tuple[float, float, float]


class BenchPoint(Document):
    """A hardpoint with what is known of it."""

    name: str
    title: str
    at: Place
    source: Literal["measured", "scaled", "assumed"]
    plus_minus: float
    moves: bool
    """Whether it moves with the wheel."""
    along: tuple[str, ...]
    """Points at the same place: a damper inside its spring goes along when it is moved."""
    images: tuple[str, ...]
    """What of a whole axle goes to the mirror image of where it is moved, while the axle stays even."""


class BenchMember(Document):
    """A part drawn between two points."""

    look: str
    start: str
    end: str
    slope_deg: float | None
    """Of an arm in the end view: its outer end above its inner one positive."""


class AxleBench(Document):
    """Everything the bench draws of one axle. Travel is from the reference height, bump positive, mm.

    An independent axle is told by its left wheel; ``right`` tells the other one, drawn as a left one, where it differs.
    """

    kind: str
    title: str
    coupled: bool
    fit: AxleFit
    points: tuple[BenchPoint, ...]
    members: tuple[BenchMember, ...]
    wheel: str
    tyre_radius: float
    travel: list[float]
    frames: dict[str, list[Place]]
    """Every drawn point at every travel, body axes."""
    camber_deg: list[float]
    toe_deg: list[float]
    roll_centre: Place | None
    instant_centre: Place | None
    """Of the left wheel in the end view; None where it lies too far out to draw."""
    curves: tuple[Curve, ...]
    roll: list[float]
    roll_curves: tuple[Curve, ...]
    """Of a coupled axle, over roll at the reference height."""
    steer: list[float]
    """Of a steered independent pair: rack travel to the left, mm, or turn of the box arm, degrees."""
    steer_unit: str
    steer_curves: tuple[Curve, ...]
    """Over steering at the reference height."""
    travel_range: tuple[float, float]
    range_reasons: tuple[str, str]
    load_n: float | None
    frequency_hz: float | None
    spring_kinds: tuple[str, ...]
    """Kinds of spring that can stand where it has its own."""
    trouble: str
    """Why the axle does not stand, in a sentence; empty when it does."""
    right: "AxleBench | None" = None


class BenchDrawn(Document):
    """An axle's parts at the bench's positions, in body axes; nothing of one that does not stand."""

    views: dict[ViewName, list[list[Shape]]]
    right: list[list[Shape]]
    """The right wheel from its own side, as a left one, where it has points of its own."""


def axle_bench(axle: Axle) -> AxleBench:
    """The axle fitted to its readings, over its travel.

    Raises:
        ValueError: its points make no linkage that moves, with the part named.
    """
    bench = _one_wheel(axle)
    if axle.right is None:
        return bench
    return bench.model_copy(update={"right": _one_wheel(bench.fit.axle.of_side("right"))})


def followers(name: str, points: Mapping[str, Array]) -> dict[str, tuple[str, ...]]:
    """What goes along when a hardpoint is moved: those at its place, and on a whole axle their mirror images.

    Args:
        name: of the point.
        points: every point of the linkage by name, each (3,), mm.
    """
    along = tuple(n for n, at in points.items() if n != name and np.array_equal(at, points[name]))
    images = (mirror_name(n) for n in (name, *along))
    return {"along": along, "images": tuple(n for n in images if n is not None and n in points and n not in along)}


def mirror_name(name: str) -> str | None:
    """Name of the same point at the other side of a whole axle; None where a point has no side.

    >>> mirror_name("left_upper_body"), mirror_name("spring_top_right"), mirror_name("wheel_centre")
    ('right_upper_body', 'spring_top_left', None)
    """
    other = {"left": "right", "right": "left"}
    words = name.split("_")
    turned = [other.get(word, word) for word in words]
    return None if turned == words else "_".join(turned)


def bench_drawn(axle: Axle) -> BenchDrawn:
    """The parts of an axle at the positions :func:`axle_bench` tells its points at, in body axes.

    Raises:
        ValueError: its points make no linkage that moves, with the part named.
    """
    fitted = fit_axle(axle).axle
    left = _wheel_parts(fitted.of_side("left"))
    own = fitted.right is not None
    right = _wheel_parts(fitted.of_side("right"), None if left is None else left.poses.travel) if own else left
    beside = _wheel_parts(fitted.of_side("right")) if own else None
    if left is None or right is None:
        return BenchDrawn(views={}, right=[])
    views: dict[ViewName, list[list[Shape]]] = {name: [] for name in VIEWS}
    for n in range(left.poses.travel.size):
        parts = [*left.of_axle(n), *left.of_wheel(n)]
        both = parts + [p.mirrored() for p in right.of_wheel(n)]
        for name, view in VIEWS.items():
            views[name].append(picture(parts if name == "side" else both, view))
    side = VIEWS["side"]
    alone = [] if beside is None else range(beside.poses.travel.size)
    return BenchDrawn(views=views, right=[picture(beside.of_wheel(n), side) for n in alone if beside is not None])


def _wheel_parts(axle: Axle, travels: Array | None = None) -> WheelParts | None:
    """Of a wheel on the bench; None where its spring and damper have no lengths that could be drawn."""
    corner = axle_corner(axle)
    at = _travels(_range(axle, corner)) if travels is None else travels
    try:
        ride, load = ride_corner(axle), inferred_load(axle, 0.0)
    except NoRidePoint:
        return None
    return WheelParts(Stance(axle, corner, ride, 0.0, 0.0, load), corner.body.poses(at))


def _range(axle: Axle, corner: Corner) -> TravelRange:
    limits = {n: float(np.radians(v)) for n, v in axle.joint_limits_deg.items()}
    return limited_range(corner, corner.body.travel_range(-SWEEP_MM, SWEEP_MM), limits)


def _travels(within: TravelRange) -> Array:
    """Positions the bench draws; the reference height is always one of them."""
    travel = np.linspace(within.low, within.high, FRAMES)
    if within.low < 0 < within.high:
        travel[np.argmin(np.abs(travel))] = 0.0
    return travel


def _one_wheel(axle: Axle) -> AxleBench:
    fitted = fit_axle(axle)
    axle = fitted.axle
    corner = axle_corner(axle)
    within = _range(axle, corner)
    travel = _travels(within)
    poses = corner.body.poses(travel)
    motion = corner.motion(poses)
    baseline = int(np.argmin(np.abs(travel)))
    load, frequency, trouble, force = _ride(axle, travel)
    steer, steer_unit, steer_curves = _steer_curves(corner)
    names = axle.linkage.named_points()
    # What follows a point is told of the points as they are typed, not as the readings have pulled them.
    drawn_at = (axle.prior or axle.linkage).named_points()
    drawn = sorted({n for m in axle.linkage.members() for n in m[1:]} | {corner.wheel} | set(names))
    frames = {n: _places(corner.place(n, poses)[0]) for n in drawn if n in corner.body.points}
    return AxleBench(
        kind=axle.linkage.kind,
        title=axle.linkage.title,
        coupled=axle.linkage.coupled,
        fit=fitted,
        points=tuple(
            BenchPoint(
                name=n,
                title=point_name(n),
                at=tuple(round(float(c), 1) for c in at),  # type: ignore[arg-type]
                source=axle.known[n].source if n in axle.known else "assumed",
                plus_minus=axle.known[n].tolerance_mm if n in axle.known else ASSUMED_POINT_MM,
                moves=bool(np.ptp([f[2] for f in frames[n]]) > 1e-6) if n in frames else False,
                **followers(n, drawn_at),
            )
            for n, at in names.items()
        ),
        members=tuple(
            BenchMember(look=look, start=a, end=b, slope_deg=_slope(frames[a][baseline], frames[b][baseline], look))
            for look, a, b in axle.linkage.members()
        ),
        wheel=corner.wheel,
        tyre_radius=axle.tyre_radius_mm,
        travel=np.round(travel, 2).tolist(),
        frames=frames,
        camber_deg=np.round(np.degrees(motion.camber), 4).tolist(),
        toe_deg=np.round(np.degrees(motion.toe), 4).tolist(),
        roll_centre=(0.0, 0.0, round(float(motion.contact[baseline, 2] + motion.roll_centre_height[baseline]), 1)),
        instant_centre=None if axle.linkage.coupled else _instant_centre(corner, poses, baseline),
        curves=tuple(_curves(axle, corner, motion, baseline, force)),
        roll=[] if not axle.linkage.coupled else np.linspace(-ROLL_DEG, ROLL_DEG, 25).tolist(),
        roll_curves=tuple(_roll_curves(corner)) if axle.linkage.coupled else (),
        steer=steer,
        steer_unit=steer_unit,
        steer_curves=steer_curves,
        travel_range=(within.low, within.high),
        range_reasons=(within.low_reason, within.high_reason),
        load_n=load,
        frequency_hz=frequency,
        spring_kinds=kinds_for(axle),
        trouble=trouble,
    )


def _places(at: Array) -> list[Place]:
    return [(x, y, z) for x, y, z in np.round(at, 1).tolist()]


def _slope(start: Place, end: Place, look: str) -> float | None:
    """Angle of an arm in the end view, inner to outer end, degrees."""
    if look not in ("arm", "rod"):
        return None
    inner, outer = sorted((start, end), key=lambda p: abs(p[1]))
    across = abs(outer[1]) - abs(inner[1])
    if across < 40:
        return None
    return round(float(np.degrees(np.arctan2(outer[2] - inner[2], across))), 1)


FARTHEST_CENTRE_MM = 12_000.0


def _instant_centre(corner: Corner, poses: Poses, index: int) -> Place | None:
    """Where the upright's velocity vanishes in the end view."""
    centre, velocity = (v[index] for v in corner.place(corner.wheel, poses))
    spin = float(poses.spin[index, 0])
    if abs(spin) < 1.0 / FARTHEST_CENTRE_MM:
        return None
    y, z = centre[1] - velocity[2] / spin, centre[2] + velocity[1] / spin
    return (round(float(centre[0]), 1), round(float(y), 1), round(float(z), 1))


def _ride(axle: Axle, travel: Array) -> tuple[float | None, float | None, str, Array | None]:
    """Load and frequency at the reference height, why there are none, and the wheel force over travel."""
    try:
        ride, load = ride_corner(axle), inferred_load(axle, 0.0)
        low, high = ride.search
        force = np.where((travel >= low) & (travel <= high), ride.wheel_force(np.clip(travel, low, high)), np.nan)
        if load < 20:
            return None, None, "The springs carry nothing at the reference height: check rate and free length.", force
        rate = float(ride.wheel_rate(0.0))
        frequency = float(np.sqrt(max(rate, 0.0) * 1000 / (load / GRAVITY)) / (2 * np.pi))
    except NoRidePoint as error:
        return None, None, str(error), None
    return load, frequency, "", force


def _curves(axle: Axle, corner: Corner, motion: Motion, index: int, force: Array | None) -> list[Curve]:
    named: list[tuple[str, str, Array | None]]
    if axle.linkage.coupled:
        moved = axle_motion(corner, motion.poses)
        named = [
            ("axle turned front up", "°", np.degrees(moved.pitch)),
            ("sideways shift", "mm", moved.lateral_shift),
            ("fore-aft shift", "mm", moved.fore_aft_shift),
            ("axle steer", "°", np.degrees(moved.steer)),
        ]
        steering = getattr(axle.linkage, "steering", None)
        if isinstance(steering, AxleSteering):
            knuckles = knuckle_motion(corner, steering, motion.poses)
            named.append(("bump steer, left wheel", "°", np.degrees(knuckles.left)))
            if steering.box_arm_mm and steering.box_ratio:
                offset = knuckles.wheel_offset(steering.box_arm_mm, steering.box_ratio)
                named.append(("steering wheel off centre", "°", np.degrees(offset)))
    else:
        named = [
            ("camber", "°", np.degrees(motion.camber)),
            ("toe", "°", np.degrees(motion.toe)),
            ("caster", "°", None if motion.caster is None else np.degrees(motion.caster)),
            ("half track", "mm", motion.half_track_change(motion.contact[index])),
        ]
    named += [
        ("roll centre height", "mm", motion.roll_centre_height),
        ("motion ratio, spring" if axle.spring.type != "torsion_bar" else "bar twist", *_ratio(axle, motion)),
        ("wheel force", "N", force),
    ]
    return [_curve(n, u, v, motion.reachable, index) for n, u, v in named if v is not None]


def _ratio(axle: Axle, motion: Motion) -> tuple[str, Array | None]:
    if axle.spring.type == "torsion_bar" and motion.spring_ratio is not None:
        return "°/mm", np.degrees(motion.spring_ratio)
    return "", motion.spring_ratio


def _roll_curves(corner: Corner) -> list[Curve]:
    roll = np.linspace(-ROLL_DEG, ROLL_DEG, 25)
    moved = axle_motion(corner, corner.body.poses(np.zeros_like(roll), roll=np.radians(roll)))
    return [
        _curve(n, u, v, moved.reachable, 12)
        for n, u, v in (
            ("axle steer", "°", np.degrees(moved.steer)),
            ("sideways shift", "mm", moved.lateral_shift),
            ("roll centre height", "mm", moved.roll_centre_height),
        )
    ]


STEER_MM, STEER_DEG = 70.0, 35.0
"""Steering shown both ways: of a rack, and of a box arm."""


def _steer_curves(corner: Corner) -> tuple[list[float], str, tuple[Curve, ...]]:
    """What the left wheel does as it is steered, at the reference height; nothing where nothing steers it."""
    if corner.steering is None:
        return [], "", ()
    most, unit = (STEER_DEG, "°") if corner.steering.kind == "box" else (STEER_MM, "mm")
    by = np.linspace(-most, most, 29)
    motion = corner.sweep(0.0, adjusted=corner.steered(np.radians(by) if unit == "°" else by))
    named = (
        ("wheel turned to the left", "°", np.degrees(corner.toe - motion.toe[:, 0])),
        ("camber", "°", np.degrees(motion.camber[:, 0])),
        ("caster", "°", None if motion.caster is None else np.degrees(motion.caster[:, 0])),
        ("trail", "mm", None if motion.mechanical_trail is None else motion.mechanical_trail[:, 0]),
    )
    curves = tuple(_curve(n, u, v, motion.reachable[:, 0], 14) for n, u, v in named if v is not None)
    return by.tolist(), unit, curves


def _curve(name: str, unit: str, values: Array, reachable: Array, index: int) -> Curve:
    kept = [round(float(v), 5) if ok and np.isfinite(v) else None for v, ok in zip(values, reachable, strict=True)]
    return Curve(name=name, unit=unit, values=kept, at_baseline=kept[index])
