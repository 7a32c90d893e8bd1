"""A linkage put together anew with other parts: brackets elsewhere, links longer, joints offset.

Hardpoints are told where they lie with the wheel at the reference height. With other parts the wheel stands there
turned and shifted: the linkage is solved at that height with its new lengths and places, and told anew from there.
"""

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from inclinum.core.document.errors import DomainError
from inclinum.core.kinematics.axles import CARRIED_STEERING, SolidAxleLinkage
from inclinum.core.kinematics.body import Body
from inclinum.core.kinematics.constraints import Adjustment, EvenPair, Link, PlaneOnChassis
from inclinum.core.kinematics.corner import Corner
from inclinum.core.kinematics.kinds import Linkage
from inclinum.core.kinematics.leaf import LeafBody
from inclinum.core.kinematics.rigid import Array

RADIUS_MM = 300.0
"""Any tyre: only how the upright turns is asked for."""


@dataclass(frozen=True)
class Refit:
    """A linkage with other parts, and what it does to its wheel at the reference height."""

    linkage: Linkage
    camber: float
    """Change of camber with the wheel at the reference height, rad."""
    toe: float
    """The same of toe, one wheel, rad."""
    turn: Array
    """Of the upright or axle at the reference height, (3, 3)."""

    @property
    def nose_up(self) -> float:
        """Turn of the upright or axle, its front upwards, rad."""
        return float(np.arcsin(self.turn[2, 0]))


def frame_points(linkage: Linkage) -> tuple[str, ...]:
    """Hardpoints that stand on the frame or body, in the order they are told."""
    corner = linkage.corner(RADIUS_MM, 0.0, 0.0)
    carried = (set(corner.upright) | set(corner.carriers)) - set(_hinges(corner))
    return tuple(n for n in linkage.named_points() if n not in carried)


def moving_points(linkage: Linkage) -> tuple[str, ...]:
    """Hardpoints that are carried by upright, axle, arm or link, but for the wheel centres."""
    fixed = set(frame_points(linkage))
    return tuple(n for n in linkage.named_points() if n not in fixed and not n.startswith("wheel_centre"))


def links(linkage: Linkage) -> dict[str, tuple[str, str]]:
    """Separate links by the name of their outer point → (outer, inner) point; the legs of one arm are none."""
    corner = linkage.corner(RADIUS_MM, 0.0, 0.0)
    if isinstance(corner.body, LeafBody):
        return {}
    between = _links_of(corner.body)
    outer = [c.on_body for c in between]
    return {c.on_body: (c.on_body, c.on_chassis) for c in between if outer.count(c.on_body) == 1}


def _links_of(body: Body) -> list[Link]:
    """Every link by itself, those of a pair too."""
    alone = [c for c in body.constraints if isinstance(c, Link)]
    return alone + [link for c in body.constraints if isinstance(c, EvenPair) for link in c.links]


@dataclass(frozen=True)
class ArmPoints:
    """An arm on two inner pivots, with one outer joint or two."""

    first: str
    second: str
    outer: tuple[str, ...]


def arms(linkage: Linkage) -> dict[str, ArmPoints]:
    """Arms on two inner pivots, by the name of their (first) outer joint."""
    corner = linkage.corner(RADIUS_MM, 0.0, 0.0)
    if isinstance(corner.body, LeafBody):
        return {}
    legs: dict[str, list[str]] = {}
    for c in corner.body.constraints:
        if isinstance(c, Link):
            legs.setdefault(c.on_body, []).append(c.on_chassis)
    joints: dict[tuple[str, ...], list[str]] = {}
    for outer, inner in legs.items():
        if len(inner) == 2:
            joints.setdefault(tuple(inner), []).append(outer)
    return {outer[0]: ArmPoints(inner[0], inner[1], tuple(outer)) for inner, outer in joints.items()}


def held_at(linkage: Linkage, outer: str) -> tuple[str, ...]:
    """Every point an arm or a link is held at, and none of what else stands on the same upright.

    Args:
        outer: name of its outer point, as :func:`links` and :func:`arms` name it.
    """
    arm = arms(linkage).get(outer)
    return (*arm.outer, arm.first, arm.second) if arm else links(linkage).get(outer, (outer,))


def carried(linkage: Linkage, outer: str) -> frozenset[str]:
    """Points that an arm or a link carries between its own ends, where springs, dampers and rods stand on it.

    Args:
        outer: name of its outer point, as :func:`links` and :func:`arms` name it.
    """
    corner = linkage.corner(RADIUS_MM, 0.0, 0.0)
    return frozenset(name for name, by in corner.carriers.items() if getattr(by, "outer", None) == outer)


def lengthened(linkage: Linkage, outer: str, by: float) -> Refit:
    """With a link or an arm longer or shorter.

    Args:
        outer: name of its outer point, as :func:`links` and :func:`arms` name it.
        by: mm longer; an arm by so much square to the line of its pivots, at
            all its outer joints.

    Source: derived here: a link keeps its line and changes its length; of an arm both legs follow from its outer joint
    moved away from the pivot line, in the arm's plane.

    Raises:
        DomainError: there is no such part, or the linkage does not reach the reference height with it.
    """
    points = linkage.named_points()
    if outer in links(linkage):
        return refitted(linkage, {}, {outer: by})
    arm = arms(linkage).get(outer)
    if arm is None:
        raise DomainError(f"This suspension has no link or arm that ends in {outer}.")
    first, second = points[arm.first], points[arm.second]
    along = (second - first) / np.linalg.norm(second - first)
    legs = {}
    for name in arm.outer:
        joint = points[name]
        square = (joint - first) - ((joint - first) @ along) * along
        away = joint + by * square / np.linalg.norm(square)
        for inner, at in ((arm.first, first), (arm.second, second)):
            legs[f"{inner} to {name}"] = float(np.linalg.norm(away - at) - np.linalg.norm(joint - at))
    return refitted(linkage, {}, legs)


def refitted(linkage: Linkage, moved: Mapping[str, Array], longer: Mapping[str, float]) -> Refit:
    """With hardpoints of frame or upright elsewhere, lengths of links as they are or as told.

    Args:
        moved: name of a point → displacement, (3,), mm: of a bracket on the frame, or of a joint against the part that
            carries it.
        longer: outer point of a link, or ``inner to outer`` of one leg → mm longer.

    Source: derived here: the constraints of the linkage with the new places and lengths, solved with the wheel centre
    at its old height; every point is told where it then lies.

    Raises:
        DomainError: there is no such point, or the linkage does not reach the reference height so.
    """
    corner = linkage.corner(RADIUS_MM, 0.0, 0.0)
    points = linkage.named_points()
    unknown = [n for n in moved if n not in points]
    if unknown:
        raise DomainError(f"This suspension has no {unknown[0]}; its points are {', '.join(points)}.")
    if isinstance(corner.body, LeafBody):
        raise DomainError("The eyes and shackles of leaf packs are moved by changes of their own.")
    hinges = _hinges(corner)
    body, adjusted = corner.body, _adjusted(linkage, corner, moved, longer)
    body = _rehung(body, {n: at for n, at in moved.items() if n in hinges})
    found = replace(corner, body=body)
    poses = body.poses(np.zeros(1), adjusted)
    if not poses.reachable[0]:
        raise DomainError("With these parts the wheel does not reach its reference height: the linkage locks before.")
    places = {n: poses.point(points[n])[0] if n in hinges else found.place(n, poses, adjusted)[0][0] for n in points}
    lost = [n for n, at in places.items() if not np.isfinite(at).all()]
    if lost:
        raise DomainError(f"With these parts the rod to {lost[0]} does not reach.")
    motion = found.motion(poses, adjusted=adjusted)
    new = linkage.with_points(places)
    if isinstance(new, SolidAxleLinkage) and new.steering is not None:
        carried = {n: np.array(getattr(new.steering, n)) for n in CARRIED_STEERING}
        turned = {n: tuple(round(float(v), 4) for v in poses.point(at)[0]) for n, at in carried.items()}
        new = new.model_copy(update={"steering": new.steering.model_copy(update=turned)})
    return Refit(new, float(motion.camber[0]), float(motion.toe[0]), poses.turn[0])


def _adjusted(linkage: Linkage, corner: Corner, moved: Mapping[str, Array], longer: Mapping[str, float]) -> Adjustment:
    """Displacements as the solver takes them: coaxial points go along, hinges are hung elsewhere instead."""
    hinges = _hinges(corner)
    shifts = {n: np.asarray(at, dtype=float) for n, at in moved.items() if n not in hinges}
    return Adjustment(moved=shifts, lengthened={n: np.asarray(by) for n, by in longer.items()})


def _hinges(corner: Corner) -> tuple[str, ...]:
    """Points of the body that turn on the frame where they are: both ends of a pivot line, the frame ends of arms."""
    if isinstance(corner.body, LeafBody):
        return ()
    return tuple(
        dict.fromkeys(
            c.on_body for c in corner.body.constraints if isinstance(c, PlaneOnChassis) and c.on_body == c.on_chassis
        )
    )


def _rehung(body: Body, moved: Mapping[str, Array]) -> Body:
    """The body with its hinges on other places of the frame; its own shape stays."""
    if not moved:
        return body
    points, constraints = dict(body.points), []
    ends = {n for n in moved if not n.startswith("arm_middle")}
    middle = sum((moved[n] for n in ends), np.zeros(3)) / 2 if "arm_middle" in body.points else None
    for c in body.constraints:
        if isinstance(c, PlaneOnChassis) and (c.on_chassis in moved or (c.on_chassis == "arm_middle")):
            shift = moved.get(c.on_chassis, middle)
            assert shift is not None
            name = f"{c.on_chassis} anew"
            points[name] = points[c.on_chassis] + shift
            constraints.append(replace(c, on_chassis=name))
        else:
            constraints.append(c)
    return replace(body, points=points, constraints=tuple(constraints))
