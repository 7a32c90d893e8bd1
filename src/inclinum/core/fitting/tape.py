"""Where the tape and the angle gauge are put: readings as functions of the hardpoints.

Heights are from the floor at ride height with the tyres loaded, which is where the hardpoints hold.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

import numpy as np

from inclinum.core.kinematics import AnyLinkage, point_name
from inclinum.core.kinematics.rigid import Array

How = Literal["between", "height", "apart", "forward", "lean"]
LENGTH_SIGMA_MM, LEAN_SIGMA_DEG = 1.5, 0.5
"""One standard deviation of a tape under a vehicle, and of an angle gauge, without a stated ±."""


@dataclass(frozen=True)
class Place:
    """One place to measure.

    Args:
        key: its name in a file.
        how: ``between`` two points; ``height`` of one above the floor; ``apart``, from one to its mirror image across
            the vehicle; ``forward``, along the vehicle from the wheel centre; ``lean`` of the line between two
            points from vertical, seen from the front.
        points: one or two.
    """

    key: str
    how: How
    points: tuple[str, ...]

    def value(self, points: Mapping[str, Array], wheel: str) -> float:
        """What the tape would read, mm, or the gauge, degrees."""
        first = points[self.points[0]]
        match self.how:
            case "between":
                return float(np.linalg.norm(points[self.points[1]] - first))
            case "height":
                return float(first[2])
            case "apart":
                return float(2 * first[1])
            case "forward":
                return float(first[0] - points[wheel][0])
            case "lean":
                line = points[self.points[1]] - first
                return float(np.degrees(np.arctan2(abs(line[1]), abs(line[2]))))

    def line(self, points: Mapping[str, Array], wheel: str) -> tuple[Array, Array]:
        """Both ends of the line that is read along, mm: what :meth:`value` is the length (or the lean) of."""
        first = np.asarray(points[self.points[0]], dtype=float)
        match self.how:
            case "between" | "lean":
                return first, np.asarray(points[self.points[1]], dtype=float)
            case "height":
                return first, first * np.array([1.0, 1.0, 0.0])
            case "apart":
                return first, first * np.array([1.0, -1.0, 1.0])
            case "forward":
                return np.array([points[wheel][0], first[1], first[2]]), first

    @property
    def is_angle(self) -> bool:
        """Whether a gauge is read and not a tape."""
        return self.how == "lean"

    @property
    def title(self) -> str:
        """What to measure, in words."""
        names = [point_name(p) for p in self.points]
        match self.how:
            case "between":
                heads = {n.partition(", ")[0] for n in names}
                if len(heads) == 1:
                    return f"{heads.pop().capitalize()}, joint to joint"
                return f"{names[0].capitalize()} to {names[1]}"
            case "height":
                return f"{names[0].capitalize()} above the floor"
            case "apart":
                return f"{names[0].capitalize()}, left to right"
            case "forward":
                return f"{names[0].capitalize()}, ahead of the wheel centre"
            case "lean":
                return f"Lean of the line from {names[0]} to {names[1]}, seen from the front"


def _between(a: str, b: str) -> Place:
    return Place(f"{a}.{b}", "between", (a, b))


def _height(p: str) -> Place:
    return Place(f"{p}.height", "height", (p,))


def _apart(p: str) -> Place:
    return Place(f"{p}.apart", "apart", (p,))


def _forward(p: str) -> Place:
    return Place(f"{p}.forward", "forward", (p,))


def _lean(a: str, b: str) -> Place:
    return Place(f"{a}.{b}.lean", "lean", (a, b))


_ARM = (_height("pivot_inner"), _height("pivot_outer"), _apart("pivot_inner"), _apart("pivot_outer"),
        _between("pivot_outer", "wheel_centre"), _forward("pivot_inner"), _forward("pivot_outer"))  # fmt: skip
_ARM_SPRING = (_height("spring_body"), _height("spring_arm"), _forward("spring_arm"), _apart("spring_arm"),
               _between("damper_body", "damper_arm"), _lean("damper_body", "damper_arm"))  # fmt: skip
_WISHBONES = (
    _height("lower_outer"), _height("lower_front"), _height("lower_rear"), _between("lower_front", "lower_outer"),
    _between("lower_rear", "lower_outer"), _apart("lower_front"), _apart("lower_outer"), _height("upper_outer"),
    _height("upper_front"), _height("upper_rear"), _between("upper_front", "upper_outer"),
    _between("lower_outer", "upper_outer"), _apart("upper_front"), _apart("upper_outer"), _height("tie_inner"),
    _height("tie_outer"), _between("tie_inner", "tie_outer"), _apart("tie_inner"),
)  # fmt: skip
_COILOVER = (_height("damper_body"), _height("damper_arm"), _between("damper_body", "damper_arm"),
             _lean("damper_body", "damper_arm"), _apart("damper_arm"))  # fmt: skip
_SEAT = (_height("spring_arm"), _apart("spring_arm"), _between("spring_body", "spring_arm"))
_AXLE_LOWERS = (_height("lower_left_body"), _height("lower_left_axle"), _between("lower_left_body", "lower_left_axle"),
                _apart("lower_left_body"), _apart("lower_left_axle"))  # fmt: skip
_AXLE_SPRING = (_between("spring_left_body", "spring_left_axle"), _apart("spring_left_axle"),
                _between("damper_left_body", "damper_left_axle"), _height("damper_left_axle"),
                _lean("damper_left_body", "damper_left_axle"))  # fmt: skip
_ROD = (_height("lateral_rod_body"), _height("lateral_rod_axle"), _between("lateral_rod_body", "lateral_rod_axle"))
_UPPER = (_height("upper_body"), _height("upper_axle"), _between("upper_body", "upper_axle"))

PLACES: dict[str, tuple[Place, ...]] = {
    "macpherson": (
        _height("lower_outer"), _height("lower_front"), _height("lower_rear"), _between("lower_front", "lower_outer"),
        _between("lower_rear", "lower_outer"), _apart("lower_front"), _apart("lower_outer"), _height("strut_top"),
        _apart("strut_top"), _lean("strut_lower", "strut_top"), _between("strut_lower", "strut_top"),
        _forward("strut_top"), _height("tie_inner"), _height("tie_outer"), _between("tie_inner", "tie_outer"),
        _apart("tie_inner"), *_SEAT,
    ),
    "double_wishbone": (*_WISHBONES, *_COILOVER, *_SEAT),
    "five_link": (
        *(p for n in ("front_lower", "spring_link", "upper_front", "camber_arm", "toe_link")
          for p in (_between(f"{n}_inner", f"{n}_outer"), _height(f"{n}_inner"), _height(f"{n}_outer"),
                    _apart(f"{n}_inner"))),
        _between("spring_body", "spring_seat"), _apart("spring_seat"), _between("damper_body", "damper_upright"),
        _height("damper_upright"),
    ),
    "semi_trailing_arm": (*_ARM, *_ARM_SPRING),
    "trailing_arm": (*_ARM, *_ARM_SPRING),
    "trailing_arm_torsion": (*_ARM, _between("damper_body", "damper_arm"), _height("damper_arm"),
                             _lean("damper_body", "damper_arm")),
    "twist_beam": (*_ARM, *_ARM_SPRING),
    "swing_arm": (*_ARM, *_ARM_SPRING),
    "solid_axle_four_link": (
        *_AXLE_LOWERS, _height("upper_left_body"), _height("upper_left_axle"), _apart("upper_left_body"),
        _apart("upper_left_axle"), _between("upper_left_body", "upper_left_axle"), *_AXLE_SPRING,
    ),
    "solid_axle_three_link": (*_AXLE_LOWERS, *_UPPER, *_ROD, *_AXLE_SPRING),
    "solid_axle_parallel_links": (
        *_AXLE_LOWERS, _height("upper_left_body"), _height("upper_left_axle"), _apart("upper_left_body"),
        _apart("upper_left_axle"), _between("upper_left_body", "upper_left_axle"), *_ROD, *_AXLE_SPRING,
    ),
    "solid_axle_radius_arms": (_height("arm_left_body"), _apart("arm_left_body"), _forward("arm_left_body"), *_ROD,
                               *_AXLE_SPRING),
    "solid_axle_watt": (*_AXLE_LOWERS, *_UPPER, _height("watt_pivot"), _between("watt_upper", "watt_upper_body"),
                        _between("watt_lower", "watt_lower_body"), _between("watt_upper", "watt_lower"), *_AXLE_SPRING),
    "leaf_axle": (
        _height("fixed_eye"), _height("shackle_eye"), _height("shackle_body"), _height("seat"),
        _between("fixed_eye", "seat"), _between("shackle_eye", "seat"), _between("shackle_body", "shackle_eye"),
        _apart("seat"), _between("damper_body", "damper_axle"), _height("damper_axle"),
        _lean("damper_body", "damper_axle"),
    ),
}  # fmt: skip
"""The few places that matter, per kind, in the order one would go round them."""


def places(linkage: AnyLinkage) -> tuple[Place, ...]:
    """Where the tape goes on a linkage: its kind's places, of points that are there; the wheels' distance first."""
    points = linkage.named_points()
    listed = PLACES.get(linkage.kind)
    if listed is None:
        own = [n for n in points if n != linkage.wheel_name]
        listed = tuple(f(n) for n in own for f in (_height, _apart, _forward))
    here = [p for p in listed if all(n in points for n in p.points)]
    return (_apart(linkage.wheel_name), *here)


def _side(name: str) -> str:
    words = name.split("_")
    return "right" if "right" in words else "left" if "left" in words else ""


def followers(points: Mapping[str, Array]) -> dict[str, str]:
    """Points that lie on an earlier one (a damper inside its spring), with the one they follow."""
    lead: dict[tuple[float, ...], str] = {}
    return {n: first for n, at in points.items() if (first := lead.setdefault(tuple(at), n)) != n}


def free_points(linkage: AnyLinkage) -> list[str]:
    """Points that a fit may move: not those of the right side, which follow their left ones, nor other followers."""
    points = linkage.named_points()
    led = followers(points)
    return [n for n in points if _side(n) != "right" and n not in led]


def with_followers(moved: dict[str, Array], points: Mapping[str, Array]) -> dict[str, Array]:
    """The same with every point that follows another: coaxial ones, and right ones as mirror images.

    Args:
        moved: place (or displacement) of some points, (…, 3).
        points: all points as they are.
    """
    flip = np.array([1.0, -1.0, 1.0])
    coaxial = {n: moved[lead] for n, lead in followers(points).items() if lead in moved}
    images = {n.replace("left", "right"): at * flip for n, at in moved.items() if _side(n) == "left"}
    even = {n: at for n, at in images.items() if n in points and _is_image(points, n)}
    return moved | coaxial | even


def _is_image(points: Mapping[str, Array], right: str) -> bool:
    """Whether a right point lies where its left one is mirrored; one that was moved alone stays alone."""
    left = points[right.replace("right", "left")]
    return bool(np.abs(points[right] * [1.0, -1.0, 1.0] - left).max() < 0.01)
