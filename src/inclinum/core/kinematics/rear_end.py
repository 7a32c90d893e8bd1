"""Rear ends of two-wheelers as data: swing arm, rocker and rods or four bars, and the damper between two members.

Points are of the machine with both ends at full extension: x forward from the rear axle, z up from the ground, mm. A
new kind is one model that says which members carry which points; the plane solver does the rest.
"""

from abc import abstractmethod
from collections.abc import Mapping
from functools import cached_property, lru_cache
from itertools import pairwise
from typing import Annotated, ClassVar, Literal, get_args

import numpy as np
from pydantic import Field, model_validator
from scipy.interpolate import PPoly

from inclinum.core.document import Document, InOrder
from inclinum.core.document.errors import DomainError
from inclinum.core.kinematics.length_curve import SampledLength
from inclinum.core.kinematics.plane import FRAME, PlanarLinkage, PlanarPoses
from inclinum.core.kinematics.points import PointName
from inclinum.core.kinematics.rigid import Array
from inclinum.core.quantity.hermite import hermite

Coordinate = Annotated[float, Field(ge=-3000, le=3000)]
Place = tuple[Coordinate, Coordinate]
"""x forward from the rear axle, z up from the ground, mm."""
Members = dict[str, tuple[str, ...]]
RISE_LOW, RISE_HIGH, GRID_MM = -200.0, 420.0, 5.0
"""Axle rise looked through from the drawn position, mm."""
REFINED_MM = 5e-4
"""How near a position between two solved ones is to the true one."""


def _places(points: Mapping[str, Array | Place]) -> dict[str, Place]:
    return {n: (round(float(at[0]), 4), round(float(at[1]), 4)) for n, at in points.items()}


class RearEnd(Document):
    """Base of the rear ends. A subclass adds a literal ``kind`` and points."""

    title: ClassVar[str]
    coaxial: ClassVar[bool] = False

    @abstractmethod
    def members(self) -> Members:
        """Which member carries which points; ``frame`` those that stay."""

    @property
    def rods(self) -> tuple[tuple[str, str], ...]:
        """Points that a rod holds apart."""
        return ()

    @property
    def damper(self) -> tuple[str, str]:
        """Points the damper stands between."""
        return "damper_frame", "damper_arm"

    @model_validator(mode="after")
    def _distinct(self) -> "RearEnd":
        seen: dict[tuple[float, float], str] = {}
        for name, at in self.named().items():
            if at in seen:
                raise DomainError(f"{name.replace('_', ' ')} and {seen[at].replace('_', ' ')} are the same point")
            seen[at] = name
        return self

    def named(self) -> dict[str, tuple[float, float]]:
        """Every point by name."""
        return {n: at for n in type(self).model_fields if isinstance(at := getattr(self, n), tuple)}

    def arrays(self) -> dict[str, Array]:
        """Every point by name, (2,)."""
        return {n: np.array(at, dtype=float) for n, at in self.named().items()}

    def moved(self, to: Mapping[str, Array | Place]) -> "RearEnd":
        """With some points elsewhere, not looked over: what a change makes is validated where it is made."""
        return self.model_copy(update=_places(to))

    def with_points(self, moved: dict[str, Array]) -> "RearEnd":
        """The same rear end with some points elsewhere, validated anew."""
        return type(self).model_validate(self.moved(moved).model_dump())

    def lines(self) -> tuple[tuple[str, str, str], ...]:
        """What is drawn: look, and two points of each line."""
        drawn: list[tuple[str, str, str]] = []
        for member, names in self.members().items():
            if member == FRAME:
                continue
            look = "arm" if "axle" in names else "rocker"
            drawn += [(look, a, b) for a, b in pairwise(names)]
            if len(names) > 2:
                drawn.append((look, names[-1], names[0]))
        return (*drawn, *(("rod", a, b) for a, b in self.rods), ("damper", *self.damper))

    def linkage(self) -> PlanarLinkage:
        """The mechanism. Raises ValueError as it does."""
        return PlanarLinkage(self.arrays(), self.members(), self.rods, "axle")


class DirectRear(RearEnd):
    """A damper, or a pair of them, straight between frame and swing arm."""

    title = "Swing arm, damper direct"
    kind: Literal["direct"] = "direct"
    axle: Place
    pivot: Place
    damper_frame: Place
    damper_arm: Place

    def members(self) -> Members:
        """Frame and arm."""
        return {FRAME: ("pivot", "damper_frame"), "swing arm": ("pivot", "damper_arm", "axle")}


class RockerOnFrame(RearEnd):
    """A rocker on the frame, pushed or pulled by a rod from the swing arm."""

    title = "Rocker on the frame, rod to the arm"
    kind: Literal["rocker_on_frame"] = "rocker_on_frame"
    axle: Place
    pivot: Place
    rocker_pivot: Place
    rod_arm: Place
    rod_rocker: Place
    damper_rocker: Place
    damper_frame: Place

    def members(self) -> Members:
        """Frame, arm and rocker."""
        return {
            FRAME: ("pivot", "rocker_pivot", "damper_frame"),
            "swing arm": ("pivot", "rod_arm", "axle"),
            "rocker": ("rocker_pivot", "rod_rocker", "damper_rocker"),
        }

    @property
    def rods(self) -> tuple[tuple[str, str], ...]:
        """The rod."""
        return (("rod_arm", "rod_rocker"),)

    @property
    def damper(self) -> tuple[str, str]:
        """Frame and rocker."""
        return "damper_frame", "damper_rocker"


class RockerOnArm(RearEnd):
    """A rocker on the swing arm, held by a rod from the frame."""

    title = "Rocker on the swing arm, rod to the frame"
    kind: Literal["rocker_on_arm"] = "rocker_on_arm"
    axle: Place
    pivot: Place
    rocker_pivot: Place
    rod_frame: Place
    rod_rocker: Place
    damper_rocker: Place
    damper_frame: Place

    def members(self) -> Members:
        """Frame, arm and rocker."""
        return {
            FRAME: ("pivot", "rod_frame", "damper_frame"),
            "swing arm": ("pivot", "rocker_pivot", "axle"),
            "rocker": ("rocker_pivot", "rod_rocker", "damper_rocker"),
        }

    @property
    def rods(self) -> tuple[tuple[str, str], ...]:
        """The rod."""
        return (("rod_frame", "rod_rocker"),)

    @property
    def damper(self) -> tuple[str, str]:
        """Frame and rocker."""
        return "damper_frame", "damper_rocker"


class FourBarRear(RearEnd):
    """Chain stay, seat stay and rocker; the axle on either stay, the damper between any two members."""

    title = "Four bars"
    kind: Literal["four_bar"] = "four_bar"
    axle: Place
    pivot: Place
    stay_joint: Place
    rocker_joint: Place
    rocker_pivot: Place
    damper_first: Place
    damper_second: Place
    axle_on: Literal["chain stay", "seat stay"] = "seat stay"
    damper_first_on: Literal["frame", "chain stay", "seat stay", "rocker"] = "frame"
    damper_second_on: Literal["frame", "chain stay", "seat stay", "rocker"] = "rocker"

    @model_validator(mode="after")
    def _two_members(self) -> "FourBarRear":
        if self.damper_first_on == self.damper_second_on:
            raise DomainError(f"both ends of the damper are on the {self.damper_first_on}: it would never move")
        return self

    def members(self) -> Members:
        """Frame, both stays and the rocker."""
        carried: dict[str, list[str]] = {
            FRAME: ["pivot", "rocker_pivot"],
            "chain stay": ["pivot", "stay_joint"],
            "seat stay": ["stay_joint", "rocker_joint"],
            "rocker": ["rocker_pivot", "rocker_joint"],
        }
        carried[self.axle_on].append("axle")
        carried[self.damper_first_on].append("damper_first")
        carried[self.damper_second_on].append("damper_second")
        return {m: tuple(names) for m, names in carried.items()}

    @property
    def damper(self) -> tuple[str, str]:
        """Its two eyes."""
        return "damper_first", "damper_second"


class MemberData(Document):
    """A rigid member and the points it carries."""

    name: str = Field(min_length=1, max_length=40)
    points: tuple[PointName, ...] = Field(min_length=2, max_length=12)


class FreeRear(RearEnd):
    """Any plane linkage: members that share points are pinned there; ``frame`` carries what stays."""

    title = "Linkage of one's own"
    kind: Literal["free"] = "free"
    points: Annotated[dict[PointName, Place], InOrder] = Field(max_length=40)
    member_list: tuple[MemberData, ...] = Field(min_length=2, max_length=12)
    rod_list: tuple[tuple[PointName, PointName], ...] = Field(default=(), max_length=8)
    damper_ends: tuple[PointName, PointName]

    @model_validator(mode="after")
    def _named(self) -> "FreeRear":
        carried = {p for m in self.member_list for p in m.points}
        for name in ("axle", "pivot", *self.damper_ends, *(p for r in self.rod_list for p in r), *carried):
            if name not in self.points:
                raise DomainError(f"there is no point “{name}”")
            if name not in carried:
                raise DomainError(f"no member carries the point “{name}”")
        if FRAME not in {m.name for m in self.member_list}:
            raise DomainError("one member has to be the frame")
        return self

    def named(self) -> dict[str, tuple[float, float]]:
        """Every point by name."""
        return dict(self.points)

    def moved(self, to: Mapping[str, Array | Place]) -> "RearEnd":
        """With some points elsewhere, not looked over."""
        return self.model_copy(update={"points": self.points | _places(to)})

    def members(self) -> Members:
        """As given."""
        return {m.name: m.points for m in self.member_list}

    @property
    def rods(self) -> tuple[tuple[str, str], ...]:
        """As given."""
        return self.rod_list

    @property
    def damper(self) -> tuple[str, str]:
        """As given."""
        return self.damper_ends


AnyRear = Annotated[DirectRear | RockerOnFrame | RockerOnArm | FourBarRear | FreeRear, Field(discriminator="kind")]
REARS: dict[str, type[RearEnd]] = {k.model_fields["kind"].default: k for k in get_args(get_args(AnyRear)[0])}


class RearSweep:
    """A rear end in motion: damper length over axle rise, as far as it reaches from where it is drawn.

    Args:
        rear: the linkage.
        shortest, longest: damper lengths beyond which nobody asks, mm.
        near: a rear end of the same kind a little different, whose positions lead to this one's.
    """

    def __init__(self, rear: RearEnd, shortest: float = 0.0, longest: float = np.inf, near: "RearSweep | None" = None):
        self.rear, self.linkage, self.between = rear, rear.linkage(), (shortest, longest)

        def beyond(poses: PlanarPoses, which: int) -> bool:
            length = self.linkage.distance(*rear.damper, poses)[0][which]
            return bool(length > longest if poses.rise[which] < 0 else length < shortest)

        like = near.solved if near is not None and near.rear.members() == rear.members() else None
        self.solved = self.linkage.sweep(RISE_LOW, RISE_HIGH, GRID_MM, beyond, like)
        poses = self.linkage.refined(self.solved, rear.damper, REFINED_MM)
        grid, (length, ratio) = poses.rise, self.linkage.distance(*rear.damper, poses)
        middle = int(np.argmin(np.abs(grid)))
        if ratio[middle] <= 0:
            raise DomainError("The damper gets longer as the wheel rises: one of its ends is on the wrong side.")
        ok = (ratio > 0.02 * ratio[middle]).tolist()
        low, high = middle, middle
        while low > 0 and ok[low - 1]:
            low -= 1
        while high + 1 < grid.size and ok[high + 1]:
            high += 1
        keep = slice(low, high + 1)
        if high - low < 3:
            raise DomainError("The linkage is at a dead point: its axle hardly moves from where it is drawn.")
        self.curve = SampledLength(grid[keep], length[keep], ratio[keep])
        self._solved = grid[keep], poses.state[keep], poses.rate[keep]
        self.rises = (float(grid[low]), float(grid[high]))

    @cached_property
    def _states(self) -> PPoly:
        """The members over axle rise; of what is tried on the way to a plan nobody asks for them."""
        return hermite(*self._solved)

    def rise_at(self, length: float) -> float | None:
        """Axle rise at which the damper has a length, mm; None where the linkage does not reach it."""
        z, lengths = self.curve.travel, self.curve.lengths
        if not lengths[-1] <= length <= lengths[0]:
            return None
        rise = float(np.interp(-length, -lengths, z))
        for _ in range(2):
            at, ratio, _ = self.curve.at(rise)
            rise += float((at - length) / ratio)
        return rise

    def poses(self, rise: Array | float) -> PlanarPoses:
        """The members at axle rises within reach: between solved positions by cubics on their exact rates."""
        at = np.atleast_1d(np.asarray(rise, dtype=float))
        return PlanarPoses(at, self._states(at), self._states(at, 1), np.ones(at.size, dtype=bool))

    def places(self, rise: Array | float) -> dict[str, Array]:
        """Every point at axle rises, (N, 2)."""
        return self.linkage.positions(self._states(np.atleast_1d(np.asarray(rise, dtype=float))))

    def place(self, name: str, rise: Array | float) -> Array:
        """One point at axle rises, (N, 2)."""
        return self.linkage.position(name, self._states(np.atleast_1d(np.asarray(rise, dtype=float))))

    @cached_property
    def lines(self) -> tuple[tuple[str, str, str], ...]:
        """What is drawn of it."""
        return self.rear.lines()


@lru_cache(maxsize=128)
def _remembered(rear: RearEnd, shortest: float, longest: float, near: RearSweep | None) -> RearSweep:
    return RearSweep(rear, shortest, longest, near)


def rear_sweep_of(
    rear: RearEnd, shortest: float = 0.0, longest: float = np.inf, near: RearSweep | None = None
) -> RearSweep:
    """The motion of a rear end between two damper lengths, remembered: documents are immutable.

    Args:
        rear, shortest, longest, near: as for :class:`RearSweep`; ``near`` itself, where it is the same.

    Raises:
        ValueError: it does not move, with the reason.
    """
    if near is not None and near.between == (shortest, longest) and near.rear == rear:
        return near
    return _remembered(rear, shortest, longest, near)  # pyright: ignore[reportArgumentType]


def chain_slack_change(sprocket: tuple[float, float], axle: Array) -> Array:
    """Distance of axle and front sprocket less its greatest over the travel, mm, (N,): what the chain is loose by.

    The upper and the lower run both take up that distance to first order, so the chain is tightest at the greatest.
    """
    distance = np.linalg.norm(axle - np.array(sprocket), axis=-1)
    return distance - distance.max()
