"""Coupled axles as data: one body carries both wheels. Points are those of the whole axle at travel 0.

Springs and dampers are given for the left side; the right one is its mirror image.
"""

from collections.abc import Callable
from typing import Annotated, ClassVar, Literal, Self

import numpy as np
from pydantic import BaseModel, Field, model_validator

from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.kinematics.body import Body
from inclinum.core.kinematics.constraints import Constraint, CrankRods, EvenPair, Link, PlaneOnChassis, turn_to_reach
from inclinum.core.kinematics.corner import Arm, Corner, PointDistance, PointHeight
from inclinum.core.kinematics.kinds import Independent, Linkage, Member
from inclinum.core.kinematics.leaf import LeafBody
from inclinum.core.kinematics.points import Point, Points, link_name
from inclinum.core.kinematics.rigid import Array, rotation

CENTRE = "centre"
"""Mid-point of the wheel centres, which heave is read at."""


class AxlePoints(Points):
    """Wheel centres, and where spring, damper and steering are, of any solid axle."""

    coaxial: ClassVar[frozenset[str]] = frozenset(
        {"spring_left_body", "damper_left_body", "spring_left_axle", "damper_left_axle"}
    )
    wheel_centre_left: Point
    wheel_centre_right: Point
    spring_left_body: Point | None = None
    spring_left_axle: Point | None = None
    damper_left_body: Point | None = None
    damper_left_axle: Point | None = None


class FourLinkPoints(AxlePoints):
    """Two lower and two upper links."""

    lower_left_body: Point
    lower_left_axle: Point
    lower_right_body: Point
    lower_right_axle: Point
    upper_left_body: Point
    upper_left_axle: Point
    upper_right_body: Point
    upper_right_axle: Point


class ThreeLinkPoints(AxlePoints):
    """Two lower links, one upper link and a lateral rod."""

    lower_left_body: Point
    lower_left_axle: Point
    lower_right_body: Point
    lower_right_axle: Point
    upper_body: Point
    upper_axle: Point
    lateral_rod_body: Point
    lateral_rod_axle: Point


class ParallelLinkPoints(FourLinkPoints):
    """Two lower and two upper links alongside each other, and a lateral rod."""

    lateral_rod_body: Point
    lateral_rod_axle: Point


class RadiusArmPoints(AxlePoints):
    """Two arms that are one with the axle, and a lateral rod."""

    arm_left_body: Point
    arm_left_axle: Point
    arm_right_body: Point
    arm_right_axle: Point
    lateral_rod_body: Point
    lateral_rod_axle: Point


class WattPoints(AxlePoints):
    """Two lower links and an upper one; a crank on the axle with two rods to the frame holds it sideways."""

    lower_left_body: Point
    lower_left_axle: Point
    lower_right_body: Point
    lower_right_axle: Point
    upper_body: Point
    upper_axle: Point
    watt_pivot: Point
    watt_upper: Point
    watt_upper_body: Point
    watt_lower: Point
    watt_lower_body: Point


class LeafPoints(Points):
    """The left pack of a leaf axle; the right one is its mirror image."""

    wheel_centre: Point
    fixed_eye: Point
    seat: Point
    shackle_eye: Point
    shackle_body: Point
    damper_body: Point | None = None
    damper_axle: Point | None = None


class AxleSteering(Document):
    """Drag link from the box's arm to the left knuckle, and track rod to the right one."""

    kingpin_left_lower: Point
    kingpin_left_upper: Point
    drag_link_box: Point = Field(description="at the arm of the steering box, on the frame")
    drag_link_knuckle: Point = Field(description="at the left knuckle")
    track_rod_left: Point
    track_rod_right: Point
    box_arm_mm: float | None = Field(default=None, gt=40, le=400, description="length of the box's arm")
    box_ratio: float | None = Field(default=None, gt=5, le=40, description="turns of the wheel per turn of the arm")


CARRIED_STEERING = (
    "kingpin_left_lower", "kingpin_left_upper", "drag_link_knuckle", "track_rod_left", "track_rod_right",
)  # fmt: skip
"""Points of the steering that move with the axle; the arm of the box stays on the frame."""
LEAST_SHACKLE_MM = 15.0
"""Eyes and their bushes are thicker than that."""
Move = Callable[[Point], Point]


def _flat(at: Array) -> Array:
    """A direction seen from the side."""
    return at * np.array([1.0, 0.0, 1.0])


def _turned(about: Point, nose_up: float) -> Move:
    """Turns points about a line across the vehicle, rad, the front upwards positive."""
    centre, turn = np.array(about), rotation(np.array([0.0, -nose_up, 0.0]))

    def move(at: Point) -> Point:
        x, y, z = (centre + turn @ (np.array(at) - centre)).tolist()
        return (x, y, z)

    return move


KINGPIN = ("kingpin_left_lower", "kingpin_left_upper")
"""The left steering axis, on the axle: lower and upper point."""
OF_ONE_SIDE = ("spring_left", "damper_left")
"""Beginnings of the names of points whose right copy is the mirror image."""


def kingpin_of(steering: AxleSteering | None) -> dict[str, Array]:
    """The steering axis of the left wheel, where the axle is steered."""
    return {} if steering is None else {n: np.array(getattr(steering, n), dtype=float) for n in KINGPIN}


def _other_side(name: str) -> str:
    if name.startswith(OF_ONE_SIDE):
        return name
    left, right = name.replace("_left", "_right"), name.replace("_right", "_left")
    return left if left != name else right


class SolidAxleLinkage(Linkage):
    """Base of the link-located solid axles."""

    coupled = True
    steering: AxleSteering | None = None
    trailing: ClassVar[tuple[tuple[str, str], ...]] = ()
    """Links as (axle end, frame end)."""

    def mirrored(self) -> Self:
        """The axle seen from its right wheel: as a left one in the mirror.

        Springs, dampers and kingpins are given for the left and are their own mirror images; the rods that steer stay
        where they are, since nothing of one wheel asks for them.
        """
        named = self.points.given()  # type: ignore[attr-defined]
        flipped = {
            _other_side(n): at if n.startswith(OF_ONE_SIDE) else (at[0], -at[1], at[2]) for n, at in named.items()
        }
        return self if flipped == named else type(self).model_validate(self.model_dump() | {"points": flipped})

    def constraints(self) -> list[Constraint]:
        """What holds the axle: four scalar constraints."""
        return [Link(axle, body) for axle, body in self.trailing]

    def corner(self, tyre_radius: float, camber: float, toe: float) -> Corner:
        """The left wheel and the axle at baseline."""
        p = self.named_points()
        p[CENTRE] = (p["wheel_centre_left"] + p["wheel_centre_right"]) / 2
        p |= self.helpers(p) | kingpin_of(self.steering)
        spring = PointDistance("spring_left_body", "spring_left_axle") if "spring_left_axle" in p else None
        axle_side = {n for n in p if n.endswith("_axle") or n.startswith("wheel_centre")}
        return Corner(
            body=Body(p, CENTRE, tuple(self.constraints()), ("wheel_centre_right", "wheel_centre_left")),
            tyre_radius=tyre_radius,
            camber=camber,
            toe=toe,
            spring=spring,
            damper=PointDistance("damper_left_body", "damper_left_axle") if "damper_left_axle" in p else None,
            upright=frozenset({CENTRE, *axle_side, *self.carried(), *KINGPIN}),
            wheel="wheel_centre_left",
            steering_axis=KINGPIN if self.steering else None,
            arms=self.swung,
        )

    @property
    def swung(self) -> tuple[Arm, ...]:
        """Links along the vehicle, whose frame bushes turn about a line across it as the axle rises."""
        return tuple(
            Arm(link_name(body), body, f"{body}+y", axle) for axle, body in self.trailing if (axle, body) != _LATERAL
        )

    def helpers(self, p: dict[str, Array]) -> dict[str, Array]:
        """Points that are worked out from the given ones: the pivot lines of the links' bushes run across."""
        return {f"{body}+y": p[body] + np.array([0.0, 100.0, 0.0]) for _, body in self.trailing}

    def carried(self) -> set[str]:
        """Points on the axle whose names do not end in ``_axle``."""
        return set()

    def members(self) -> tuple[Member, ...]:
        """Links, axle tube, springs, dampers."""
        given = self.named_points()
        drawn: list[Member] = [
            *(("rod" if "lateral" in a else "arm", b, a) for a, b in self.trailing),
            ("hub", "wheel_centre_left", "wheel_centre_right"),
            ("spring", "spring_left_body", "spring_left_axle"),
            ("strut", "damper_left_body", "damper_left_axle"),
            *self.further(),
        ]
        return tuple(m for m in drawn if m[1] in given and m[2] in given)

    def further(self) -> tuple[Member, ...]:
        """What else is drawn."""
        return ()


_LOWERS = (("lower_left_axle", "lower_left_body"), ("lower_right_axle", "lower_right_body"))
_LATERAL = ("lateral_rod_axle", "lateral_rod_body")


class FourLinkAxle(SolidAxleLinkage):
    """Four links, the uppers parallel or converging."""

    title = "Solid axle, four links"
    kind: Literal["solid_axle_four_link"] = "solid_axle_four_link"
    points: FourLinkPoints
    trailing = (*_LOWERS, ("upper_left_axle", "upper_left_body"), ("upper_right_axle", "upper_right_body"))


class ThreeLinkAxle(SolidAxleLinkage):
    """Three links and a lateral rod."""

    title = "Solid axle, three links and lateral rod"
    kind: Literal["solid_axle_three_link"] = "solid_axle_three_link"
    points: ThreeLinkPoints
    trailing = (*_LOWERS, ("upper_axle", "upper_body"), _LATERAL)


class ParallelLinkAxle(SolidAxleLinkage):
    """Four links along the vehicle and a lateral rod: one more than an axle needs, which the bushes take up."""

    title = "Solid axle, parallel links and lateral rod"
    kind: Literal["solid_axle_parallel_links"] = "solid_axle_parallel_links"
    points: ParallelLinkPoints
    trailing = (*_LOWERS, ("upper_left_axle", "upper_left_body"), ("upper_right_axle", "upper_right_body"), _LATERAL)

    def constraints(self) -> list[Constraint]:
        """Both lower links, the mean of the upper ones, the rod."""
        uppers = EvenPair("upper_left_axle", "upper_left_body", "upper_right_axle", "upper_right_body")
        return [*(Link(*ends) for ends in _LOWERS), uppers, Link(*_LATERAL)]


class RadiusArmAxle(SolidAxleLinkage):
    """Two radius arms and a lateral rod.

    Arms bolted to the axle by two bushes each would lock it against roll; the bushes give way. Kinematically the axle
    turns about the line through both frame pivots in heave, and in roll it carries those pivots up and down alike.
    """

    title = "Solid axle, radius arms and lateral rod"
    kind: Literal["solid_axle_radius_arms"] = "solid_axle_radius_arms"
    points: RadiusArmPoints
    trailing = (_LATERAL,)

    @property
    def swung(self) -> tuple[Arm, ...]:
        """The arms turn about the line through their frame pivots."""
        return (Arm("radius arm", "arm_right_body", "arm_left_body", "wheel_centre_left"),)

    def helpers(self, p: dict[str, Array]) -> dict[str, Array]:
        """Mid-point of the frame pivots, carried by the axle."""
        return super().helpers(p) | {"arm_middle": (p["arm_left_body"] + p["arm_right_body"]) / 2}

    def carried(self) -> set[str]:
        """The arms are one with the axle up to their frame pivots."""
        return {"arm_middle", "arm_left_body", "arm_right_body"}

    def constraints(self) -> list[Constraint]:
        """Both pivots keep their place fore and aft, their middle its height; the rod holds sideways."""
        forward, up = (1.0, 0.0, 0.0), (0.0, 0.0, 1.0)
        return [
            PlaneOnChassis("arm_left_body", "arm_left_body", forward),
            PlaneOnChassis("arm_right_body", "arm_right_body", forward),
            PlaneOnChassis("arm_middle", "arm_middle", up),
            Link(*_LATERAL),
        ]

    def further(self) -> tuple[Member, ...]:
        """The arms."""
        return tuple(("arm", f"arm_{s}_body", f"arm_{s}_axle") for s in ("left", "right"))


class WattAxle(SolidAxleLinkage):
    """Three links, held sideways by a Watt linkage whose crank sits on the axle."""

    title = "Solid axle, Watt linkage"
    kind: Literal["solid_axle_watt"] = "solid_axle_watt"
    points: WattPoints
    trailing = (*_LOWERS, ("upper_axle", "upper_body"))

    def constraints(self) -> list[Constraint]:
        """The links, and the pair of rods on the crank."""
        crank = CrankRods(
            "watt_pivot", (1.0, 0.0, 0.0), "watt_upper", "watt_upper_body", "watt_lower", "watt_lower_body"
        )
        return [*super().constraints(), crank]

    def carried(self) -> set[str]:
        """The crank: its pivot, and its ends, which turn about it."""
        return {"watt_pivot", "watt_upper", "watt_lower"}

    def further(self) -> tuple[Member, ...]:
        """Crank and rods."""
        return (
            ("hub", "watt_upper", "watt_lower"),
            ("rod", "watt_upper_body", "watt_upper"),
            ("rod", "watt_lower_body", "watt_lower"),
        )


class LeafAxle(Linkage):
    """A solid axle on two leaf packs with shackles."""

    title = "Leaf-sprung axle"
    coupled = True
    kind: Literal["leaf_axle"] = "leaf_axle"
    points: LeafPoints
    steering: AxleSteering | None = None
    effective_radius_factor: float = Field(default=0.75, gt=0.4, lt=1, description="share of the half-lengths")

    @property
    def wheel_name(self) -> str:
        """Given for the left side alone."""
        return "wheel_centre"

    @property
    def over_axle(self) -> bool:
        """Whether the pack sits on top of the axle, and is not slung under it."""
        return self.points.seat[2] > self.points.wheel_centre[2]

    def axle_moved(self, up: float) -> "LeafAxle":
        """The same packs with every point of the axle moved against them, mm up: the wheels, and what it carries."""
        return self._placed(("wheel_centre", "damper_axle"), lambda at: (at[0], at[1], at[2] + up))

    def axle_turned(self, nose_up: float) -> "LeafAxle":
        """The same packs with the axle turned under them about their centre bolts, rad, its front upwards positive."""
        return self._placed(("wheel_centre", "damper_axle"), _turned(self.points.seat, nose_up))

    def shackled(self, longer: float) -> tuple["LeafAxle", float]:
        """With shackles of another length, mm longer, both packs at the arch they had; and the turn.

        Returns:
            The axle, and by how much pack and axle turned, rad, their front upwards positive.

        Source: derived here: pack and axle turn as one about the fixed eye until the other eye is as far from its
        pivot as the shackle is long.

        Raises:
            DomainError: no such shackle reaches from the pivot to the eye.
        """
        fixed, eye, pivot = (np.array(getattr(self.points, n)) for n in ("fixed_eye", "shackle_eye", "shackle_body"))
        length = float(np.hypot(*(eye - pivot)[[0, 2]])) + longer
        # In side view with forward and up positive a turn of the front upwards is about −y.
        with np.errstate(invalid="ignore"):
            across, span = np.array([0.0, -1.0, 0.0]), np.array(length)
            turn = float(turn_to_reach(across, _flat(eye - fixed), _flat(pivot - fixed), span))
        if length < LEAST_SHACKLE_MM or not np.isfinite(turn):
            raise DomainError(f"A shackle {length:.0f} mm long does not reach from its pivot to the spring's eye.")
        carried = ("wheel_centre", "damper_axle", "seat", "shackle_eye")
        return self._placed(carried, _turned(self.points.fixed_eye, turn)), turn

    def _placed(self, names: tuple[str, ...], move: "Move") -> "LeafAxle":
        """With some points, and all the axle carries of the steering, elsewhere."""

        def moved(points: BaseModel, names: tuple[str, ...]) -> dict[str, tuple[float, float, float]]:
            return {n: move(at) for n in names if (at := getattr(points, n)) is not None}

        update: dict[str, object] = {"points": self.points.model_copy(update=moved(self.points, names))}
        if self.steering is not None:
            update["steering"] = self.steering.model_copy(update=moved(self.steering, CARRIED_STEERING))
        return self.model_copy(update=update)

    @model_validator(mode="after")
    def _eyes_on_both_sides(self) -> "LeafAxle":
        p = self.points
        if (p.fixed_eye[0] - p.seat[0]) * (p.shackle_eye[0] - p.seat[0]) >= 0:
            raise DomainError("fixed_eye and shackle_eye are on the same side of the seat")
        return self

    def corner(self, tyre_radius: float, camber: float, toe: float) -> Corner:
        """The left wheel and the axle at baseline."""
        p = self.points.arrays()
        mirror = np.array([1.0, -1.0, 1.0])
        p |= {"wheel_centre_left": p["wheel_centre"], "wheel_centre_right": p["wheel_centre"] * mirror}
        p[CENTRE] = p["wheel_centre"] * np.array([1.0, 0.0, 1.0])
        p |= kingpin_of(self.steering)
        return Corner(
            body=LeafBody(p, self.effective_radius_factor),
            tyre_radius=tyre_radius,
            camber=camber,
            toe=toe,
            spring=PointHeight("seat"),
            damper=PointDistance("damper_body", "damper_axle") if "damper_axle" in p else None,
            upright=frozenset(
                {CENTRE, "wheel_centre", "wheel_centre_left", "wheel_centre_right", "seat", "damper_axle", *KINGPIN}
            ),
            wheel="wheel_centre_left",
            steering_axis=KINGPIN if self.steering else None,
        )

    def members(self) -> tuple[Member, ...]:
        """Pack, shackle, damper."""
        given = self.points.given()
        drawn: tuple[Member, ...] = (
            ("spring", "fixed_eye", "seat"),
            ("spring", "seat", "shackle_eye"),
            ("arm", "shackle_body", "shackle_eye"),
            ("hub", "seat", "wheel_centre"),
            ("strut", "damper_body", "damper_axle"),
        )
        tube: Member = ("hub", "wheel_centre_left", "wheel_centre_right")
        return (tube, *(m for m in drawn if m[1] in given and m[2] in given))


AnyLinkage = Annotated[
    Independent | FourLinkAxle | ThreeLinkAxle | ParallelLinkAxle | RadiusArmAxle | WattAxle | LeafAxle,
    Field(discriminator="kind"),
]


def steered_axle(linkage: Linkage) -> AxleSteering | None:
    """The steering that a solid axle carries, if it has one."""
    return linkage.steering if isinstance(linkage, SolidAxleLinkage | LeafAxle) else None
