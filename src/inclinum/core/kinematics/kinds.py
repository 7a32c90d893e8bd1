"""Independent suspension kinds as data: the points a kind has, and the constraints they make.

Points are those of the LEFT wheel at travel 0: x from the wheel centre, y from the centre line, z from the
ground. A new kind is one model, with its ``corner`` and its ``members``.
"""

from abc import abstractmethod
from typing import Annotated, ClassVar, Literal

import numpy as np
from pydantic import Field, model_validator

from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.kinematics.body import Body
from inclinum.core.kinematics.carriers import Carrier, OnArm, OnLink, OnRocker
from inclinum.core.kinematics.constraints import Constraint, Link, LinkOnArm, revolute_joint, strut_joint
from inclinum.core.kinematics.corner import Arm, ArmAngle, Corner, PointDistance, Steering
from inclinum.core.kinematics.points import Point, PointName, Points
from inclinum.core.kinematics.rigid import Array

Direction = tuple[float, float, float]
Member = tuple[str, str, str]
"""What is drawn: its look, and the two points it is drawn between."""


class SteeringData(Document):
    """What moves the inner tie-rod point; its left copy is given, the right one moves the same way along y."""

    kind: Literal["rack", "box"] = "rack"
    axis: Direction = Field(default=(0, 1, 0), description="along the rack, or the axis of the box's arm")
    pivot: Point | None = Field(default=None, description="a point of the box arm's (or idler's) axis")
    mm_per_turn: float | None = Field(default=None, gt=5, le=200, description="rack travel per turn of the wheel")

    @model_validator(mode="after")
    def _box_has_pivot(self) -> "SteeringData":
        if self.kind == "box" and self.pivot is None:
            raise DomainError("a steering box needs the pivot its arm turns about")
        if not np.linalg.norm(self.axis):
            raise DomainError("the axis of the steering has no direction")
        return self

    def as_left(self) -> "SteeringData":
        """The left copy of what was given at a right wheel: one rack serves both, an arm has its mirror image."""
        if self.pivot is None or self.kind == "rack":
            return self
        (x, y, z), (px, py, pz) = self.axis, self.pivot
        return self.model_copy(update={"axis": (x, -y, z), "pivot": (px, -py, pz)})

    def steering(self) -> Steering:
        """As the corner uses it."""
        return Steering(self.kind, "tie_inner", self.axis, self.pivot)


class Linkage(Document):
    """Base of the suspension kinds. A subclass adds a literal ``kind`` and ``points``."""

    title: ClassVar[str]
    coupled: ClassVar[bool] = False
    """Whether one body carries both wheels."""
    steerable: ClassVar[bool] = False

    @abstractmethod
    def corner(self, tyre_radius: float, camber: float, toe: float) -> Corner:
        """The left wheel at baseline; angles in rad.

        Raises:
            ValueError: the geometry leaves no freedom, or more than it should, with the part named.
        """

    @abstractmethod
    def members(self) -> tuple[Member, ...]:
        """What is drawn between which points."""

    def mirrored(self) -> "Linkage":
        """As the right wheel of a coupled axle has it, drawn as a left one; an independent pair is its own mirror."""
        return self

    def named_points(self) -> dict[str, Array]:
        """Every hardpoint by name, mm."""
        return self.points.arrays()  # type: ignore[attr-defined]

    def with_points(self, moved: dict[str, Array]) -> "Linkage":
        """The same linkage with some hardpoints elsewhere, validated anew."""
        points = self.model_dump()["points"] | {n: tuple(round(float(c), 4) for c in at) for n, at in moved.items()}
        return type(self).model_validate(self.model_dump() | {"points": points})

    @property
    def hub_height(self) -> float:
        """Of the wheel centre above the ground at travel 0, mm."""
        return float(self.named_points()[self.wheel_name][2])

    @property
    def wheel_name(self) -> str:
        """Name of the left wheel centre."""
        return "wheel_centre_left" if self.coupled else "wheel_centre"

    @property
    def half_track(self) -> float:
        """Of the wheel centres, mm."""
        return float(self.named_points()[self.wheel_name][1])


Moved = Literal["lower_arm", "upper_arm", "upright", "rocker"]


class WishbonePoints(Points):
    """Points of a double-wishbone corner; those of a rocker only where there is one."""

    wheel_centre: Point
    lower_front: Point
    lower_rear: Point
    lower_outer: Point
    upper_front: Point
    upper_rear: Point
    upper_outer: Point
    tie_inner: Point
    tie_outer: Point
    spring_body: Point | None = None
    spring_arm: Point | None = None
    damper_body: Point | None = None
    damper_arm: Point | None = None
    rocker_first: Point | None = Field(default=None, description="a point of the rocker's axis")
    rocker_second: Point | None = Field(default=None, description="another point of the rocker's axis")
    rod_outer: Point | None = Field(default=None, description="push or pull rod at the arm or upright")
    rod_rocker: Point | None = Field(default=None, description="push or pull rod at the rocker")

    @model_validator(mode="after")
    def _rocker_whole(self) -> "WishbonePoints":
        rocker = ("rocker_first", "rocker_second", "rod_outer", "rod_rocker")
        missing = [n for n in rocker if getattr(self, n) is None]
        if missing and len(missing) < len(rocker):
            raise DomainError(f"the rocker lacks {missing[0]}")
        return self


class WishboneLinkage(Linkage):
    """Two wishbones and a tie rod; the spring on an arm, on the upright or on a rocker."""

    title = "Double wishbone"
    steerable = True
    kind: Literal["double_wishbone"] = "double_wishbone"
    points: WishbonePoints
    spring_on: Moved = "lower_arm"
    damper_on: Moved = "lower_arm"
    rod_on: Literal["lower_arm", "upper_arm", "upright"] = "lower_arm"
    torsion_bar_on: Literal["lower_arm", "upper_arm"] | None = Field(
        default=None, description="where a torsion bar lies along an arm's pivot line"
    )
    steering: SteeringData | None = None

    def _carrier(self, moved: str) -> Carrier | None:
        match moved:
            case "rocker":
                return OnRocker("rocker_first", "rocker_second", "rod_outer", "rod_rocker")
            case "upright":
                return None
            case _:
                side = moved.removesuffix("_arm")
                return OnArm(f"{side}_front", f"{side}_rear", f"{side}_outer")

    def corner(self, tyre_radius: float, camber: float, toe: float) -> Corner:
        """The corner at baseline."""
        p = self.points.arrays()
        links = [
            Link(f"{arm}_outer", f"{arm}_{end}") for arm in ("lower", "upper") for end in ("front", "rear")
        ] + [Link("tie_outer", "tie_inner")]  # fmt: skip
        moving = {"spring_arm": self.spring_on, "damper_arm": self.damper_on, "rod_outer": self.rod_on}
        carriers = {n: c for n, on in moving.items() if n in p and (c := self._carrier(on))}
        if "rod_rocker" in p:
            carriers["rod_rocker"] = OnRocker("rocker_first", "rocker_second", "rod_outer", "rod_rocker")
        upright = {"wheel_centre", "lower_outer", "upper_outer", "tie_outer"}
        upright |= {n for n, on in moving.items() if on == "upright"}
        return Corner(
            body=Body(p, "wheel_centre", tuple(links)),
            tyre_radius=tyre_radius,
            camber=camber,
            toe=toe,
            spring=self._spring(p),
            damper=PointDistance("damper_body", "damper_arm") if "damper_arm" in p else None,
            upright=frozenset(upright),
            carriers=carriers,
            steering_axis=("lower_outer", "upper_outer"),
            arms=tuple(Arm(f"{a} arm", f"{a}_rear", f"{a}_front", f"{a}_outer") for a in ("lower", "upper")),
            steering=self.steering.steering() if self.steering else None,
        )

    def _spring(self, p: dict[str, Array]) -> PointDistance | ArmAngle | None:
        if self.torsion_bar_on:
            arm = self.torsion_bar_on.removesuffix("_arm")
            return ArmAngle(f"{arm}_rear", f"{arm}_front", f"{arm}_outer")
        return PointDistance("spring_body", "spring_arm") if "spring_arm" in p else None

    def members(self) -> tuple[Member, ...]:
        """Arms, tie rod, spring, damper, rod and rocker."""
        given = self.points.given()
        drawn: list[Member] = [
            *(("arm", f"{a}_{e}", f"{a}_outer") for a in ("lower", "upper") for e in ("front", "rear")),
            ("rod", "tie_inner", "tie_outer"),
            ("hub", "lower_outer", "upper_outer"),
            ("hub", "lower_outer", "wheel_centre"),
            ("strut", "damper_body", "damper_arm"),
            ("spring", "spring_body", "spring_arm"),
            ("rod", "rod_outer", "rod_rocker"),
            ("arm", "rocker_first", "rod_rocker"),
            ("arm", "rocker_first", "spring_arm" if self.spring_on == "rocker" else "damper_arm"),
        ]
        has_rocker = "rod_rocker" in given
        return tuple(m for m in drawn if m[1] in given and m[2] in given and (has_rocker or "rocker_first" not in m))


STRUT_ENDS = ("strut_top", "strut_lower")


class StrutPoints(Points):
    """Points of a strut corner: the damper body is clamped to the upright, its rod ends in the top mount.

    The spring stands around it, or by itself on the lower arm.
    """

    wheel_centre: Point
    lower_front: Point
    lower_rear: Point
    lower_outer: Point
    strut_top: Point
    strut_lower: Point
    tie_inner: Point
    tie_outer: Point
    spring_body: Point | None = Field(default=None, description="upper seat of a spring that stands on the arm")
    spring_arm: Point | None = Field(default=None, description="its seat on the lower arm")


class StrutLinkage(Linkage):
    """Lower arm, strut and tie rod; steering axis from the lower joint to the strut top."""

    title = "Strut"
    steerable = True
    kind: Literal["macpherson"] = "macpherson"
    points: StrutPoints
    steering: SteeringData | None = None

    @model_validator(mode="after")
    def _spring_stands(self) -> "StrutLinkage":
        if (self.points.spring_body is None) != (self.points.spring_arm is None):
            raise DomainError("a spring on the arm needs both of its seats")
        return self

    @property
    def spring_on_arm(self) -> bool:
        """Whether the spring stands on the lower arm, and not around the strut."""
        return self.points.spring_arm is not None

    def corner(self, tyre_radius: float, camber: float, toe: float) -> Corner:
        """The corner at baseline."""
        p = self.points.arrays()
        constraints = [
            Link("lower_outer", "lower_front"),
            Link("lower_outer", "lower_rear"),
            *strut_joint("strut_lower", "strut_top", p["strut_top"] - p["strut_lower"]),
            Link("tie_outer", "tie_inner"),
        ]
        return Corner(
            body=Body(p, "wheel_centre", tuple(constraints)),
            tyre_radius=tyre_radius,
            camber=camber,
            toe=toe,
            spring=PointDistance(*(("spring_body", "spring_arm") if self.spring_on_arm else STRUT_ENDS)),
            damper=PointDistance(*STRUT_ENDS),
            upright=frozenset({"wheel_centre", "lower_outer", "strut_lower", "tie_outer"}),
            carriers={"spring_arm": OnArm("lower_front", "lower_rear", "lower_outer")} if self.spring_on_arm else {},
            steering_axis=("lower_outer", "strut_top"),
            arms=(Arm("lower arm", "lower_rear", "lower_front", "lower_outer"),),
            steering=self.steering.steering() if self.steering else None,
        )

    def members(self) -> tuple[Member, ...]:
        """Arm, strut, tie rod, upright, spring on the arm."""
        apart: tuple[Member, ...] = (("spring", "spring_body", "spring_arm"),) if self.spring_on_arm else ()
        return (
            *apart,
            ("arm", "lower_front", "lower_outer"),
            ("arm", "lower_rear", "lower_outer"),
            ("strut", "strut_top", "strut_lower"),
            ("rod", "tie_inner", "tie_outer"),
            ("hub", "strut_lower", "lower_outer"),
            ("hub", "lower_outer", "wheel_centre"),
        )


class ReferenceLine(Document):
    """The line on the upright that stands for a steering axis where there is none."""

    lower: str = Field(min_length=1, max_length=60)
    upper: str = Field(min_length=1, max_length=60)


FIVE_LINKS = ("front_lower", "spring_link", "upper_front", "camber_arm", "toe_link")


class FiveLinkPoints(Points):
    """Both ends of five links, and where spring and damper stand."""

    coaxial: ClassVar[frozenset[str]] = frozenset({"spring_body", "damper_body", "spring_seat", "damper_upright"})
    wheel_centre: Point
    front_lower_inner: Point
    front_lower_outer: Point
    spring_link_inner: Point
    spring_link_outer: Point
    upper_front_inner: Point
    upper_front_outer: Point
    camber_arm_inner: Point
    camber_arm_outer: Point
    toe_link_inner: Point
    toe_link_outer: Point
    spring_body: Point | None = None
    spring_seat: Point | None = None
    damper_body: Point | None = None
    damper_upright: Point | None = None


class SpringOnLink(Document):
    """Where the spring stands on a link: the fraction from its inner to its outer end."""

    link: str = Field(min_length=1, max_length=60)
    fraction: float = Field(ge=0, le=1)


class FiveLinkLinkage(Linkage):
    """Five separate links; the spring on one of them, the damper on the upright."""

    title = "Five-link"
    kind: Literal["five_link"] = "five_link"
    points: FiveLinkPoints
    spring_on_link: SpringOnLink | None = None
    reference_line: ReferenceLine | None = None

    @model_validator(mode="after")
    def _names_known(self) -> "FiveLinkLinkage":
        if self.spring_on_link and self.spring_on_link.link not in FIVE_LINKS:
            raise DomainError(f"the spring stands on “{self.spring_on_link.link}”, which is none of the five links")
        _check_line(self.reference_line, set(self.points.given()))
        return self

    def corner(self, tyre_radius: float, camber: float, toe: float) -> Corner:
        """The corner at baseline."""
        p = self.points.arrays()
        carriers: dict[str, Carrier] = {}
        if self.spring_on_link and "spring_seat" in p:
            link = self.spring_on_link
            carriers["spring_seat"] = OnLink(f"{link.link}_inner", f"{link.link}_outer", link.fraction)
        line = self.reference_line
        return Corner(
            body=Body(p, "wheel_centre", tuple(Link(f"{n}_outer", f"{n}_inner") for n in FIVE_LINKS)),
            tyre_radius=tyre_radius,
            camber=camber,
            toe=toe,
            spring=PointDistance("spring_body", "spring_seat") if "spring_seat" in p else None,
            damper=PointDistance("damper_body", "damper_upright") if "damper_upright" in p else None,
            upright=frozenset({"wheel_centre", "damper_upright", "spring_seat", *(f"{n}_outer" for n in FIVE_LINKS)}),
            carriers=carriers,
            steering_axis=(line.lower, line.upper) if line else None,
        )

    def members(self) -> tuple[Member, ...]:
        """Links, spring, damper, upright."""
        given = self.points.given()
        drawn: list[Member] = [("arm", f"{n}_inner", f"{n}_outer") for n in FIVE_LINKS]
        drawn += [
            ("spring", "spring_body", "spring_seat"),
            ("strut", "damper_body", "damper_upright"),
            ("hub", "spring_link_outer", "camber_arm_outer"),
            ("hub", "front_lower_outer", "wheel_centre"),
            ("hub", "toe_link_outer", "wheel_centre"),
        ]
        return tuple(m for m in drawn if m[1] in given and m[2] in given)


def _check_line(line: ReferenceLine | None, names: set[str]) -> None:
    for end in (line.lower, line.upper) if line else ():
        if end not in names:
            raise DomainError(f"the reference line ends at {end}, which is no point of this suspension")


class MultiArm(Document):
    """A rigid arm on two chassis pivots, with one outer joint (an A-arm) or two (an H-arm)."""

    name: str = Field(min_length=1, max_length=40)
    first: str = Field(max_length=60)
    second: str = Field(max_length=60)
    outer: tuple[PointName, ...] = Field(min_length=1, max_length=2)


class MultiLink(Document):
    """A link with two ball ends, from the chassis (or an arm) to the upright."""

    name: str = Field(min_length=1, max_length=40)
    inner: str = Field(max_length=60)
    outer: str = Field(max_length=60)
    on_arm: str | None = Field(default=None, max_length=40, description="the arm its inner end sits on")


class Stand(Document):
    """A spring or damper: its body end, its moving end and what carries that."""

    body: str = Field(max_length=60)
    moving: str = Field(max_length=60)
    on: str = Field(default="upright", max_length=40, description="upright, or the name of an arm or link")


class MultiLinkLinkage(Linkage):
    """Any mix of links, A-arms and H-arms that leaves one freedom."""

    title = "Multi-link"
    kind: Literal["multi_link"] = "multi_link"
    points: dict[PointName, Point] = Field(max_length=60)
    links: tuple[MultiLink, ...] = Field(default=(), max_length=12)
    arms: tuple[MultiArm, ...] = Field(default=(), max_length=6)
    spring: Stand | None = None
    damper: Stand | None = None
    reference_line: ReferenceLine | None = None

    def __hash__(self) -> int:
        return hash(self.model_dump_json())

    @model_validator(mode="after")
    def _whole(self) -> "MultiLinkLinkage":
        if "wheel_centre" not in self.points:
            raise DomainError("points lack the wheel_centre")
        if self.points["wheel_centre"][1] <= 0:
            raise DomainError("wheel_centre is on the wrong side: give the left wheel, y positive")
        used = [n for a in self.arms for n in (a.first, a.second, *a.outer)]
        used += [n for link in self.links for n in (link.inner, link.outer)]
        used += [n for s in (self.spring, self.damper) if s for n in (s.body, s.moving)]
        missing = [n for n in used if n not in self.points]
        if missing:
            raise DomainError(f"{missing[0]} is used but is not among the points")
        arms = {a.name for a in self.arms}
        for link in self.links:
            if link.on_arm is not None and link.on_arm not in arms:
                raise DomainError(f"the link “{link.name}” sits on the arm “{link.on_arm}”, which there is not")
        carriers = {"upright", *arms, *(link.name for link in self.links)}
        for stand in (self.spring, self.damper):
            if stand and stand.on not in carriers:
                raise DomainError(f"“{stand.on}” carries {stand.moving} but is no arm or link here")
        _check_line(self.reference_line, set(self.points))
        self._one_freedom()
        return self

    def _one_freedom(self) -> None:
        held = len(self.links) + sum(2 * len(a.outer) for a in self.arms)
        if held != 5:
            left = 6 - held
            parts = f"{len(self.links)} links and {len(self.arms)} arms hold {held} of the upright's six freedoms"
            raise DomainError(
                f"{parts}: {'none is left, it cannot move' if left < 1 else f'{left} are left, it stays loose'}; "
                "one must be left (a link takes 1, an A-arm 2, an H-arm 4)"
            )

    def named_points(self) -> dict[str, Array]:
        """Every hardpoint by name, mm."""
        return {n: np.array(at, dtype=float) for n, at in self.points.items()}

    def corner(self, tyre_radius: float, camber: float, toe: float) -> Corner:
        """The corner at baseline."""
        p = self.named_points()
        arms = {a.name: a for a in self.arms}
        constraints: list[Constraint] = [
            Link(outer, pivot) for a in self.arms for outer in a.outer for pivot in (a.first, a.second)
        ]
        carriers: dict[str, Carrier] = {}
        for link in self.links:
            if link.on_arm is None:
                constraints.append(Link(link.outer, link.inner))
            else:
                arm = arms[link.on_arm]
                constraints.append(LinkOnArm(link.outer, link.inner, arm.first, arm.second, arm.outer[0]))
                carriers[link.inner] = OnArm(arm.first, arm.second, arm.outer[0])
        upright = {"wheel_centre", *(n for a in self.arms for n in a.outer), *(k.outer for k in self.links)}
        for stand in (self.spring, self.damper):
            if stand is None:
                continue
            if stand.on in arms:
                arm = arms[stand.on]
                carriers[stand.moving] = OnArm(arm.first, arm.second, arm.outer[0])
            elif stand.on == "upright":
                upright.add(stand.moving)
            else:
                link = next(k for k in self.links if k.name == stand.on)
                along = p[link.outer] - p[link.inner]
                fraction = float((p[stand.moving] - p[link.inner]) @ along / (along @ along))
                carriers[stand.moving] = OnLink(link.inner, link.outer, fraction)
        if self.reference_line:
            upright |= {self.reference_line.lower, self.reference_line.upper}
        return Corner(
            body=Body(p, "wheel_centre", tuple(constraints)),
            tyre_radius=tyre_radius,
            camber=camber,
            toe=toe,
            spring=PointDistance(self.spring.body, self.spring.moving) if self.spring else None,
            damper=PointDistance(self.damper.body, self.damper.moving) if self.damper else None,
            upright=frozenset(upright),
            carriers=carriers,
            steering_axis=(self.reference_line.lower, self.reference_line.upper) if self.reference_line else None,
            arms=tuple(Arm(a.name, a.first, a.second, a.outer[0]) for a in self.arms),
        )

    def members(self) -> tuple[Member, ...]:
        """Links, arms, spring, damper, upright."""
        drawn: list[Member] = [("arm", a_end, o) for a in self.arms for o in a.outer for a_end in (a.first, a.second)]
        drawn += [("arm", k.inner, k.outer) for k in self.links]
        drawn += [("hub", k.outer, "wheel_centre") for k in self.links]
        if self.spring:
            drawn.append(("spring", self.spring.body, self.spring.moving))
        if self.damper:
            drawn.append(("strut", self.damper.body, self.damper.moving))
        return tuple(drawn)


class ArmPoints(Points):
    """Points of an arm that carries the hub and turns about one line; spring and damper where they are."""

    wheel_centre: Point
    pivot_inner: Point
    pivot_outer: Point
    spring_body: Point | None = None
    spring_arm: Point | None = None
    damper_body: Point | None = None
    damper_arm: Point | None = None


class ArmLinkage(Linkage):
    """One arm carrying the hub on a chassis line. The kinds differ in where that line lies and what springs them."""

    points: ArmPoints
    arm_name: ClassVar[str] = "trailing arm"
    torsion: ClassVar[bool] = False

    def corner(self, tyre_radius: float, camber: float, toe: float) -> Corner:
        """The corner at baseline."""
        p = self.points.arrays()
        joint = revolute_joint("pivot_inner", "pivot_outer", p["pivot_outer"] - p["pivot_inner"])
        spring = PointDistance("spring_body", "spring_arm") if "spring_arm" in p else None
        return Corner(
            body=Body(p, "wheel_centre", tuple(joint)),
            tyre_radius=tyre_radius,
            camber=camber,
            toe=toe,
            spring=ArmAngle("pivot_inner", "pivot_outer", "wheel_centre") if self.torsion else spring,
            damper=PointDistance("damper_body", "damper_arm") if "damper_arm" in p else None,
            upright=frozenset({"wheel_centre", "spring_arm", "damper_arm"}),
            arms=(Arm(self.arm_name, "pivot_inner", "pivot_outer", "wheel_centre"),),
        )

    def members(self) -> tuple[Member, ...]:
        """Arm, pivot line, spring, damper."""
        given = self.points.given()
        drawn: list[Member] = [
            ("arm", "pivot_inner", "wheel_centre"),
            ("arm", "pivot_outer", "wheel_centre"),
            ("spring", "spring_body", "spring_arm"),
            ("strut", "damper_body", "damper_arm"),
            ("pivot", "pivot_inner", "pivot_outer"),
        ]
        return tuple(m for m in drawn if m[1] in given and m[2] in given)


class SemiTrailingLinkage(ArmLinkage):
    """A slanted pivot line, neither square nor parallel to the vehicle."""

    title = "Semi-trailing arm"
    kind: Literal["semi_trailing_arm"] = "semi_trailing_arm"


class TrailingLinkage(ArmLinkage):
    """A pivot line across the vehicle, with a coil."""

    title = "Trailing arm"
    kind: Literal["trailing_arm"] = "trailing_arm"


class TorsionArmLinkage(ArmLinkage):
    """A trailing arm whose pivot is sprung by a torsion bar."""

    title = "Trailing arm, torsion bar"
    kind: Literal["trailing_arm_torsion"] = "trailing_arm_torsion"
    torsion = True


class SwingLinkage(ArmLinkage):
    """A pivot line along the vehicle: a swing axle."""

    title = "Swing arm"
    arm_name = "swing arm"
    kind: Literal["swing_arm"] = "swing_arm"


class TwistBeamLinkage(ArmLinkage):
    """Two trailing arms joined by a beam that twists: each side is its own arm, the beam an anti-roll spring."""

    title = "Twist beam"
    kind: Literal["twist_beam"] = "twist_beam"


Independent = (
    StrutLinkage
    | WishboneLinkage
    | FiveLinkLinkage
    | MultiLinkLinkage
    | SemiTrailingLinkage
    | TrailingLinkage
    | TorsionArmLinkage
    | SwingLinkage
    | TwistBeamLinkage
)
Side = Annotated[Literal["left", "right", "both"], Field(description="which wheel the points are given for")]
