"""A vehicle is data: what hangs on its axles, what was measured of it, and what its maker says of it."""

import itertools
import math
from collections.abc import Callable, Sequence
from typing import Annotated, Literal

import numpy as np
from pydantic import Field, model_validator

from inclinum.core.car.attached import AntiRollLink, FlexLine, HalfShaft, PropShaft, SpringSeats, TyreGap, UBolts
from inclinum.core.card.fastener import Fastener
from inclinum.core.card.own import KeptNote, OwnStep
from inclinum.core.document import Document, InOrder
from inclinum.core.document.errors import DomainError
from inclinum.core.document.known import ANGLE_CHANGE_DEG, RATIO_PERCENT, Known
from inclinum.core.document.names import SIDES, AxleName, Key, Millimetre, Name, Side, Text
from inclinum.core.document.outline import Shape, Station
from inclinum.core.kinematics import AnyLinkage, ArmAngle, PointHeight, corner_of
from inclinum.core.kinematics.axles import steered_axle
from inclinum.core.kinematics.mounts import stand_together
from inclinum.core.kinematics.steered import knuckle_at_locks
from inclinum.core.part_sheets.axle import AxleSheet, JointAngle, StaticAngles
from inclinum.core.quantity import Angle, Entry, Length
from inclinum.core.springs.fitted import BumpStopData, Coil, DamperData, SpringData, TopOutData, TorsionBarData

AngleName = Literal["camber", "toe", "caster"]
ANGLES: tuple[AngleName, ...] = ("camber", "toe", "caster")


class StrutTop(Document):
    """The studs that hold the top mount under the strut tower."""

    stud_length_mm: float = Field(gt=0, le=200, description="thread standing above the tower sheet, nothing between")
    stud_diameter_mm: float = Field(gt=3, le=30)
    nut_height_mm: float = Field(gt=1, le=40)
    washer_mm: float = Field(default=0, ge=0, le=20)
    bonnet_gap_mm: float | None = Field(default=None, ge=-200, le=300, description="from the stud tips to the bonnet")


class SlotAdjuster(Document):
    """A joint that can be slid along a slot when its bolts are loose."""

    type: Literal["slot"] = "slot"
    name: Name
    point: Name
    direction: tuple[float, float, float]
    min_mm: float = Field(ge=-60, le=0, title="Least")
    max_mm: float = Field(ge=0, le=60, title="Most")
    step_mm: float = Field(gt=0, le=10, description="the finest setting a hand can make")
    extra_part: Text = Field(default="", description="what would give more range, in the shop's words")


class LinkAdjuster(Document):
    """A link that is screwed longer or shorter."""

    type: Literal["link_length"] = "link_length"
    name: Name
    outer: Name = Field(title="Outer point", description="of the link")
    min_mm: float = Field(ge=-60, le=0, title="Least")
    max_mm: float = Field(ge=0, le=60, title="Most")
    thread_pitch_mm: float = Field(gt=0.2, le=5)
    turn_step: float = Field(default=0.125, gt=0, le=1, description="the finest part of a turn that is set")
    extra_part: Text = ""

    @property
    def step_mm(self) -> float:
        """Change of length of the finest part of a turn, mm."""
        return self.thread_pitch_mm * self.turn_step


class ClampAdjuster(Document):
    """A strut clamp with a slot at its upper bolt: the upright leans about the lower one."""

    type: Literal["clamp"] = "clamp"
    name: Name
    point: Name = Field(description="foot of the strut")
    bolt_distance_mm: float = Field(gt=15, le=300, description="between the two clamp bolts")
    min_mm: float = Field(ge=-20, le=0, title="Least", description="top of the wheel in, at the upper bolt")
    max_mm: float = Field(ge=0, le=20, title="Most", description="top of the wheel out")
    step_mm: float = Field(gt=0, le=5, description="the finest setting a hand can make")
    extra_part: Text = ""


class EccentricAdjuster(Document):
    """A bolt with an eccentric: turned, it takes its pivot along a slot and back."""

    type: Literal["eccentric"] = "eccentric"
    name: Name
    point: Name
    direction: tuple[float, float, float] = Field(description="of the pivot, where its mark is turned to +90°")
    eccentricity_mm: float = Field(gt=0, le=25, title="Eccentricity", description="half of what it moves in all")
    notches: int = Field(default=24, ge=4, le=360, title="Notches of a turn", description="or marks it is read by")
    extra_part: Text = ""

    @property
    def min_mm(self) -> float:
        """Turned to −90°."""
        return -self.eccentricity_mm

    @property
    def max_mm(self) -> float:
        """Turned to +90°."""
        return self.eccentricity_mm

    @property
    def step_mm(self) -> float:
        """What a notch at the middle moves, mm; near its ends one moves less."""
        return self.eccentricity_mm * math.sin(2 * math.pi / self.notches)

    def turned(self, value: float) -> int:
        """Notches from the middle that come nearest to a place, mm; plus towards its direction.

        Source: derived here: the pivot stands e·sin φ from the middle.
        """
        share = min(1.0, max(-1.0, value / self.eccentricity_mm))
        return round(math.asin(share) / (2 * math.pi) * self.notches)

    def nearest(self, value: float) -> float:
        """The place of the notch nearest to a place, mm."""
        return self.eccentricity_mm * math.sin(2 * math.pi * self.turned(value) / self.notches)


class TrackRodAdjuster(Document):
    """The track rod of a steered solid axle: screwed, it sets the toe of both wheels at once."""

    type: Literal["track_rod"] = "track_rod"
    name: Name = "track rod"
    min_mm: float = Field(default=-15, ge=-60, le=0, title="Least")
    max_mm: float = Field(default=15, ge=0, le=60, title="Most")
    thread_pitch_mm: float = Field(default=3, gt=0.2, le=10, description="longer by a turn of it, both ends together")
    turn_step: float = Field(default=0.125, gt=0, le=1, description="the finest part of a turn that is set")
    extra_part: Text = ""

    @property
    def step_mm(self) -> float:
        """Change of length of the finest part of a turn, mm."""
        return self.thread_pitch_mm * self.turn_step


WheelAdjuster = Annotated[SlotAdjuster | LinkAdjuster | ClampAdjuster | EccentricAdjuster, Field(discriminator="type")]
"""One at each wheel."""
AdjusterData = Annotated[
    SlotAdjuster | LinkAdjuster | ClampAdjuster | EccentricAdjuster | TrackRodAdjuster, Field(discriminator="type")
]


def settable(adjuster: AdjusterData, value: float) -> float:
    """The setting nearest to a value that a hand can make, within the adjuster's range, mm."""
    if isinstance(adjuster, EccentricAdjuster):
        return adjuster.nearest(value)
    return min(adjuster.max_mm, max(adjuster.min_mm, round(value / adjuster.step_mm) * adjuster.step_mm))


class AngleTarget(Document):
    """A wheel angle wanted, and how far off is still right. Toe is of one wheel."""

    target_deg: float = Field(ge=-20, le=20)
    window_deg: float = Field(gt=0, le=10, description="± allowed")
    weight: float = Field(default=1, ge=0, le=1000)
    assumed: bool = Field(
        default=False,
        description="only usual for its kind: settings aim at it, but nothing is judged by it",
    )


class TapeReading(Document):
    """What the tape or the angle gauge read at a place the suspension has for it."""

    key: Name
    length: Length | None = None
    angle: Angle | None = None

    @model_validator(mode="after")
    def _one_of_both(self) -> "TapeReading":
        if (self.length is None) == (self.angle is None):
            raise DomainError(f"the reading “{self.key}” is either a length or an angle")
        return self

    @property
    def reading(self) -> Entry:
        """The one that is there."""
        found = self.length or self.angle
        assert found is not None
        return found


class RightCame(Document):
    """What other arms and brackets made of a right wheel that was measured apart from the left one."""

    came: AnyLinkage
    turned_rad: tuple[float, float, float]
    camber_deg: float = Field(ge=-30, le=30, description="at the reference height, level")
    toe_deg: float = Field(ge=-30, le=30)


class Axle(Document):
    """One axle at the reference height: an independent pair given by its left wheel, or a coupled axle."""

    linkage: AnyLinkage
    right: AnyLinkage | None = Field(
        default=None,
        description="the right wheel's linkage where it is not the mirror image of the left one, drawn as a left one",
    )
    tyre_radius_mm: float = Field(gt=80, le=800, description="loaded")
    camber_deg: float = Field(ge=-15, le=15, description="at the reference height, level")
    toe_deg: float = Field(ge=-20, le=20)
    hub_to_arch_mm: float = Field(gt=0, le=1500, description="at which the points hold")
    spring: SpringData
    spring_offset_mm: float = Field(
        default=0, ge=-500, le=1000, description="distance of the spring's points less its seat-to-seat length"
    )
    damper: DamperData
    bump_stop: BumpStopData
    top_out: TopOutData | None = None
    bush_rate_n_per_mm: float = Field(default=0, ge=0, le=100, description="of the rubber bushes, at the wheel")
    anti_roll_n_per_mm: float = Field(
        default=0, ge=0, le=500, description="force on a wheel per mm of travel difference to the other"
    )
    unsprung_kg: float = Field(default=38, ge=0, le=400, description="at one wheel, half of a coupled axle")
    archetype: str = Field(default="", max_length=40, description="what the linkage was scaled from")
    prior: AnyLinkage | None = Field(default=None, description="the linkage before the tape readings were fitted")
    tape: tuple[TapeReading, ...] = Field(default=(), max_length=80)
    known: Annotated[dict[Key, Known], InOrder] = Field(
        default={},
        max_length=300,
        description="hardpoint or parameter → where it comes from; those left out are assumed",
    )
    seat_spacer_mm: float = Field(default=0, ge=-200, le=1000, description="negative where something was taken out")
    ring_above_mm: float = Field(
        default=0, ge=-200, le=1000, description="of seat_spacer_mm what lies above the spring; the rest lies below it"
    )
    uneven_mm: float = Field(
        default=0, ge=-200, le=200, description="how much more the seat of the left spring stands out than the mean"
    )
    uneven_deg: float = Field(
        default=0, ge=-60, le=60, description="free angle of the left torsion bar, less the mean of both"
    )
    uneven_unit_mm: float = Field(
        default=0, ge=-200, le=200, description="how much longer the left unit is made in its foot than the mean"
    )
    top_spacer_mm: Millimetre = 0
    tired: float = Field(
        default=0, ge=-300, le=300, description="length the fitted springs have lost, mm (of a torsion bar: rad)"
    )
    renewed: bool = Field(default=False, description="whether other springs are in than those its heights were read on")
    levelled_mm: float = Field(
        default=0, ge=-300, le=300, description="how much higher its level valves hold the body than as it came"
    )
    stated_mm: float = Field(
        default=0, ge=-300, le=300, description="how much higher it stands by what was stated, and not computed"
    )
    came: AnyLinkage | None = Field(
        default=None,
        description="the linkage as it came, where arms or brackets were changed: joints turn from it",
    )
    turned_rad: tuple[float, float, float] = Field(
        default=(0.0, 0.0, 0.0), description="turn of the upright or axle by them at the reference height"
    )
    nose_up_deg: float = Field(
        default=0, ge=-45, le=45, description="how far a solid axle was turned by other parts, its front upwards"
    )
    right_came: RightCame | None = Field(
        default=None, description="the same of a right wheel that has its own linkage, where arms or brackets changed"
    )
    carried_kg: float = Field(
        default=0, ge=-5000, le=5000, description="at one wheel, put on or taken off since its heights were read"
    )
    tyre_growth_mm: float = Field(
        default=0, ge=-300, le=300, description="radius of other tyres less that of those the heights were read on"
    )
    stud_left_mm: float | None = Field(
        default=None, ge=0, le=300, description="thread above the sheet with the spacer in; computed when left out"
    )
    strut_top: StrutTop | None = None
    adjusters: tuple[AdjusterData, ...] = Field(default=(), max_length=12)
    targets: Annotated[dict[AngleName, AngleTarget], InOrder] = Field(default={}, max_length=3)
    fasteners: Annotated[dict[Key, Fastener], InOrder] = Field(default={}, max_length=100)
    joint_limits_deg: Annotated[dict[Key, JointAngle], InOrder] = Field(
        default={}, max_length=60, description="point → how far its joint may turn from the reference height"
    )
    half_shaft: HalfShaft | None = Field(default=None, title="Half-shafts")
    lines: tuple[FlexLine, ...] = Field(default=(), max_length=8, title="Hoses and wires")
    full_lock: float | None = Field(
        default=None, gt=0, le=150,
        description="rack travel to full lock, mm; of a steering box, turn of its arm, °; on a solid axle, turn of its "
        "inner wheel, °",
    )  # fmt: skip
    anti_roll_link: AntiRollLink | None = None
    tyre_gaps: tuple[TyreGap, ...] = Field(default=(), max_length=8)
    tyre_width_mm: float | None = Field(
        default=None, gt=20, le=600, title="Tyre width", description="of the tyres its gaps were read on"
    )
    seats: SpringSeats | None = Field(default=None, title="Spring seats")
    u_bolts: UBolts | None = Field(default=None, title="U-bolts")
    blocks_mm: float = Field(default=0, ge=-300, le=400, description="of blocks between pack and axle, put in since")
    prop_shaft: PropShaft | None = Field(default=None, title="Propeller shaft")
    tyre_wider_mm: float = Field(default=0, ge=-200, le=300, description="than the tyres its gaps were read on")
    wheel_out_mm: float = Field(default=0, ge=-200, le=200, description="further out than its gaps were read at")
    ratio_tolerance_percent: float = Field(default=RATIO_PERCENT, ge=0, le=50)
    camber_change_tolerance_deg: float = Field(
        default=ANGLE_CHANGE_DEG, ge=0, le=20, description="± of the camber change that 40 mm of height bring"
    )
    toe_change_tolerance_deg: float = Field(
        default=ANGLE_CHANGE_DEG, ge=0, le=20, description="the same of toe, one wheel"
    )
    own_steps: tuple[OwnStep, ...] = Field(
        default=(), max_length=40, title="The shop's own steps", description="put on every card that opens their place"
    )
    notes: tuple[KeptNote, ...] = Field(
        default=(), max_length=60, title="Kept at a joint", description="shown wherever it is opened"
    )
    orientation: tuple[Text, ...] = Field(
        default=(), max_length=40, description="which way round things go, as the shop found it"
    )

    @model_validator(mode="after")
    def _own_bolts(self) -> "Axle":
        for step in self.own_steps:
            if step.fastener is not None and step.fastener not in self.fasteners:
                raise DomainError(
                    f"the step “{step.text}” tightens “{step.fastener}”, which is not among the axle's fasteners"
                )
        return self

    @property
    def track_mm(self) -> float:
        """Distance between the wheel centres, mm."""
        return 2 * self.linkage.half_track

    def of_side(self, side: Side) -> "Axle":
        """The axle as one wheel sees it: with the right wheel's linkage in place of the left one's where they differ.

        What the tape read was read on the left. Seats and bars that were set wheel by wheel are that wheel's.
        """
        own: dict[str, object] = {}
        sign = 1 if side == "left" else -1
        if self.uneven_mm:
            own |= {
                "seat_spacer_mm": self.seat_spacer_mm + sign * self.uneven_mm, "uneven_mm": 0.0,
                "spring": self.spring.collar_up(sign * self.uneven_mm),
            }  # fmt: skip
        if self.uneven_unit_mm:
            own |= self.with_longer_unit(sign * self.uneven_unit_mm) | {"uneven_unit_mm": 0.0}
        if self.uneven_deg and isinstance(self.spring, TorsionBarData):
            turned = self.spring.free_angle_deg + sign * self.uneven_deg
            own |= {"spring": self.spring.model_copy(update={"free_angle_deg": turned}), "uneven_deg": 0.0}
        if side == "right" and (linkage := self.right or self.linkage.mirrored()) is not self.linkage:
            own |= {"linkage": linkage, "right": None, "prior": None, "tape": ()}
            if self.right_came is not None:
                own |= dict(self.right_came) | {"right_came": None}
        return self.model_copy(update=own) if own else self

    @property
    def uneven(self) -> bool:
        """Whether something that is set wheel by wheel is set otherwise on the right."""
        return bool(self.uneven_mm or self.uneven_deg or self.uneven_unit_mm)

    @property
    def sides(self) -> tuple[Side, ...]:
        """Wheels to look at where each goes its own way: a right one measured apart, both of a coupled axle."""
        return SIDES if self.right is not None or self.linkage.coupled else SIDES[:1]

    def even(self) -> "Axle":
        """The axle with the mean of both sides on both."""
        return self.model_copy(update={"uneven_mm": 0.0, "uneven_deg": 0.0, "uneven_unit_mm": 0.0})

    def with_longer_unit(self, by: float) -> dict[str, object]:
        """Fields of an axle whose unit is so much longer between its eyes, its spring and stroke as they were, mm."""
        d, stop = self.damper, self.bump_stop
        found: dict[str, object] = {
            "damper": d.model_copy(update={"extended_mm": d.extended_mm + by, "closed_mm": d.closed_mm + by}),
            "spring_offset_mm": self.spring_offset_mm + by,
        }
        if stop.contact_mm is not None:
            found["bump_stop"] = stop.model_copy(update={"contact_mm": stop.contact_mm + by})
        if self.top_out is not None:
            found["top_out"] = self.top_out.model_copy(update={"contact_mm": self.top_out.contact_mm + by})
        return found

    def sheet(self) -> AxleSheet:
        """The axle alone, as it can be shared and swept."""
        return AxleSheet(
            linkage=self.linkage,
            tyre_radius_mm=self.tyre_radius_mm,
            static=StaticAngles(camber_deg=self.camber_deg, toe_deg=self.toe_deg),
            spring=self.spring,
            spring_offset_mm=self.spring_offset_mm,
            joint_limits_deg=self.joint_limits_deg,
        )

    @property
    def coil(self) -> Coil | None:
        """The fitted spring where it is a plain coil."""
        return self.spring if isinstance(self.spring, Coil) else None

    @model_validator(mode="after")
    def _parts_belong(self) -> "Axle":
        names = self.linkage.named_points()
        corner = corner_of(self.linkage, self.tyre_radius_mm, 0.0, 0.0)
        for part, what in ((corner.spring, "spring"), (corner.damper, "damper")):
            if part is None:
                raise DomainError(f"the linkage does not say between which points its {what} stands")
        wanted = {ArmAngle: ("torsion_bar",), PointHeight: ("leaf_pack",)}.get(type(corner.spring))
        if wanted and self.spring.type not in wanted:
            raise DomainError(
                f"this suspension is sprung by a {wanted[0].replace('_', ' ')}, not by {self.spring.in_a_sentence}"
            )
        if not wanted and self.spring.type in ("torsion_bar", "leaf_pack"):
            raise DomainError(f"this suspension has two seats for a spring, but {self.spring.in_a_sentence} is fitted")
        if sum(isinstance(a, TrackRodAdjuster) for a in self.adjusters) > 1:
            raise DomainError("an axle has one track rod: leave one of its adjusters out")
        for adjuster in self.adjusters:
            if isinstance(adjuster, TrackRodAdjuster):
                if steered_axle(self.linkage) is None:
                    raise DomainError(f"the adjuster “{adjuster.name}” is a steered solid axle's, which this is not")
                continue
            point = adjuster.outer if isinstance(adjuster, LinkAdjuster) else adjuster.point
            if point not in names:
                raise DomainError(f"the adjuster “{adjuster.name}” moves {point}, which this suspension does not have")
        if self.right is not None:
            if self.linkage.coupled:
                raise DomainError("one body carries both wheels: its right points stand beside its left ones")
            if self.right.kind != self.linkage.kind or set(self.right.named_points()) != set(names):
                raise DomainError("the right wheel's linkage has to be of the left one's kind, with the same points")
        if self.full_lock and (steering := steered_axle(self.linkage)) is not None:
            knuckle_at_locks(steering, math.radians(self.full_lock))
        if self.half_shaft is not None and self.linkage.coupled:
            raise DomainError("the shafts of a solid axle are inside it: half-shafts belong to wheels with their own")
        if self.prop_shaft is not None and not self.linkage.coupled:
            raise DomainError("a propeller shaft ends at a solid axle's pinion; one on the body is none of the wheels'")
        if self.damper.collar and not stand_together(self.linkage):
            raise DomainError("a collar on the damper carries the spring around it; here the spring stands by itself")
        if self.u_bolts is not None and self.spring.type != "leaf_pack":
            raise DomainError("U-bolts hold leaf packs, and this axle has none")
        if self.tyre_width_mm is None and any(gap.at for gap in self.tyre_gaps):
            raise DomainError("a tyre gap with a place of its own needs the width of the tyre")
        if "caster" in self.targets and corner.steering_axis is None:
            raise DomainError("a caster target needs a steering axis, which this suspension does not have")
        return self


class VehicleStation(Station):
    """A place on the body, or on an axle, that is measured from the ground."""

    on: Literal["body", "front_axle", "rear_axle"] = Field(default="body", title="Hangs on")


class Outline(Document):
    """Shapes for the side elevation, x forward of the front axle and z above ground, mm."""

    body: Shape = Field(default=(), max_length=400)
    glass: tuple[Annotated[Shape, Field(max_length=200)], ...] = Field(default=(), max_length=24)
    arch_radius_mm: float = Field(default=380, ge=100, le=900)
    width_mm: float = Field(default=1700, ge=500, le=3000)

    def sized(
        self, wheelbase: float, waist: float, front: float | None, rear: float | None, roof: float | None
    ) -> "Outline":
        """As far over the wheels and as high as was measured, arches where they are.

        Args:
            wheelbase: mm.
            waist: top of the higher wheel arch above ground, mm: what lies below it stays.
            front, rear: wheel centre to the end of the body, mm; None where nobody measured it.
            roof: above ground, mm; None likewise.

        Source: derived here: what lies beyond an arch, or above both, is stretched along, each in its own direction.
        """
        base, r = wheelbase, self.arch_radius_mm
        places = [p for line in (self.body, *self.glass) for p in line]
        if not places or (front, rear, roof) == (None, None, None):
            return self
        ahead, behind = max(x for x, _ in places), min(x for x, _ in places)
        top = max(z for _, z in places)
        along = _stretched(
            (behind, -base - r, r, ahead),
            (behind if rear is None else -base - rear, -base - r, r, ahead if front is None else front),
        )
        up = _stretched((0.0, waist, top), (0.0, waist, top if roof is None else roof))

        def placed(line: Shape) -> Shape:
            return tuple((along(x), up(z)) for x, z in line)

        return self.model_copy(update={"body": placed(self.body), "glass": tuple(placed(pane) for pane in self.glass)})


def _stretched(was: Sequence[float], now: Sequence[float]) -> Callable[[float], float]:
    """Places along a line taken from some marks to others, evenly in between; as they are where marks do not rise."""
    if any(b <= a for a, b in itertools.pairwise(was)):
        return lambda at: at
    return lambda at: round(float(np.interp(at, was, now)), 1)


class Vehicle(Document):
    """A four-wheeled vehicle as it stands before the job."""

    name: Name
    description: Text = ""
    plate: str = Field(default="", max_length=30)
    mass_kg: float | None = Field(default=None, gt=20, le=20_000)
    wheelbase_mm: float = Field(gt=500, le=8000)
    # A form begins with the second of two examples there.
    front: Axle = Field(json_schema_extra={"example": 1})
    rear: Axle
    stations: tuple[VehicleStation, ...] = Field(default=(), max_length=60)
    headlamp: str | None = Field(
        default=None, max_length=120, description="name of the station that is the lamp centre"
    )
    cg_height_mm: float | None = Field(
        default=None, gt=50, le=3000, title="Centre of gravity above ground", description="laden as it is measured"
    )
    driver_assist: Text = Field(default="", description="what looks out of the vehicle and must be set again")
    front_overhang_mm: float | None = Field(
        default=None, ge=100, le=4000, title="Front overhang", description="wheel centre to the foremost of the body"
    )
    rear_overhang_mm: float | None = Field(
        default=None, ge=100, le=6000, title="Rear overhang", description="wheel centre to the rearmost of the body"
    )
    roof_mm: float | None = Field(
        default=None, ge=600, le=4000, title="Roof above ground", description="of the body alone, as it stood drawn"
    )
    outline: Outline = Outline()

    @model_validator(mode="after")
    def _room_for_its_wheels(self) -> "Vehicle":
        for end, overhang in (("front", self.front_overhang_mm), ("rear", self.rear_overhang_mm)):
            if overhang is not None and overhang <= self.outline.arch_radius_mm:
                raise DomainError(
                    f"A {end} overhang of {overhang:.0f} mm ends inside the wheel arch, which is "
                    f"{self.outline.arch_radius_mm:.0f} mm round: measure from the wheel centre."
                )
        waist = self.waist_mm
        if self.roof_mm is not None and self.roof_mm <= waist:
            raise DomainError(f"A roof {self.roof_mm:.0f} mm above ground is lower than the arches, {waist:.0f} mm.")
        return self

    @property
    def waist_mm(self) -> float:
        """Top of the higher wheel arch above ground, mm: what lies below it is where it is, however high the roof."""
        return max(a.linkage.hub_height + a.hub_to_arch_mm for a in (self.front, self.rear))

    @property
    def drawn(self) -> Outline:
        """The outline as it is drawn: as far over the wheels and as high as was measured."""
        return self.outline.sized(
            self.wheelbase_mm, self.waist_mm, self.front_overhang_mm, self.rear_overhang_mm, self.roof_mm
        )

    @model_validator(mode="after")
    def _stations_named_once(self) -> "Vehicle":
        names = [s.name for s in self.stations]
        if len(set(names)) != len(names):
            raise DomainError("two stations have the same name")
        if self.headlamp is not None and self.headlamp not in names:
            raise DomainError(f"the headlamp station “{self.headlamp}” is not among the stations")
        return self

    def axle(self, name: AxleName) -> Axle:
        """The front or the rear axle."""
        return self.front if name == "front" else self.rear

    def with_axle(self, name: AxleName, **changed: object) -> "Vehicle":
        """A vehicle with some fields of one axle replaced."""
        return self.model_copy(update={name: self.axle(name).model_copy(update=changed)})

    def station(self, name: str) -> VehicleStation | None:
        """The station of a name."""
        return next((s for s in self.stations if s.name == name), None)

    def axle_x(self, name: AxleName) -> float:
        """Station of an axle, mm."""
        return 0.0 if name == "front" else -self.wheelbase_mm
