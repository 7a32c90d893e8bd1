"""A job from brief to proof: what the shop writes down, stage by stage."""

import math
from typing import Annotated, Literal

from pydantic import Field, model_validator

from inclinum.core.car.changes import PlannedChange
from inclinum.core.car.vehicle import AngleName, Vehicle
from inclinum.core.card.record import Build, HandOver, SignOff
from inclinum.core.card.schools import Schools
from inclinum.core.document import Document, InOrder
from inclinum.core.document.errors import DomainError
from inclinum.core.document.known import TAPE_MM
from inclinum.core.document.names import SIDES, AxleName, ChangeId, Key, Name, Side, Text
from inclinum.core.plan.job import Titled, Wanted, each_once
from inclinum.core.quantity import Angle, Length, Mass
from inclinum.core.shapes import SidePhotograph
from inclinum.core.springs.fitted import SpringData

AimedBy = Literal[
    "rise", "hub_to_arch", "arch_to_ground", "tyre_to_arch", "station", "fits_under", "sag", "rake", "none"
]
HEIGHTS: tuple[AimedBy, ...] = ("hub_to_arch", "arch_to_ground", "tyre_to_arch", "station", "fits_under", "sag")
SIDED: tuple[AimedBy, ...] = ("hub_to_arch", "arch_to_ground", "tyre_to_arch")


class AxleAim(Document):
    """What is wanted of one end, as people say it: a rise, a height at a reference, a rake, or nothing."""

    by: AimedBy = Field(default="rise", description="how it is said")
    rise: Length = Field(default_factory=lambda: Length.model_validate("0"), description="of the body; negative: drop")
    height: Length | None = Field(
        default=None,
        description="wanted at the reference, where it is said by a height; of a sag, of the wheel from full droop",
    )
    right: Length | None = Field(
        default=None, description="wanted on the right, where it is another height than on the left"
    )
    station: str = Field(default="", max_length=120, description="the one whose height above ground is wanted")
    rake: Angle | None = Field(
        default=None, description="wanted from arch to arch above the ground, nose-down positive; 0 is level"
    )
    tolerance_mm: float = Field(
        default=5, gt=0, le=100, description="how near counts as met; a ± typed with what is wanted comes before it"
    )

    @property
    def within_mm(self) -> float:
        """How near counts as met where it is wanted: what was typed after ± of a length, else the brief's."""
        said = (self.rise,) if self.by == "rise" else (self.height, self.right) if self.by in HEIGHTS else ()
        return max((w.tolerance for w in said if w is not None and w.tolerance), default=self.tolerance_mm)

    @property
    def mean_height(self) -> float | None:
        """Of both sides, mm."""
        if self.height is None:
            return None
        return self.height.value if self.right is None else (self.height.value + self.right.value) / 2

    @property
    def left_higher(self) -> float:
        """How much higher the left side is wanted than the right one, mm."""
        return 0.0 if self.height is None or self.right is None else self.height.value - self.right.value

    @model_validator(mode="after")
    def _said(self) -> "AxleAim":
        if self.by in HEIGHTS and self.height is None:
            raise DomainError("an aim by a height needs that height")
        if self.right is not None and self.by not in SIDED:
            raise DomainError("only a height at the arches can be wanted otherwise on the right")
        if self.by == "station" and not self.station:
            raise DomainError("an aim at a station needs the name of the station")
        if self.by == "rake" and self.rake is None:
            raise DomainError("an aim by a rake needs its angle: 0 is level")
        return self


class LocalLimit(Document):
    """A rule where the shop works, in its own words and with its own number."""

    quantity: Literal["rise", "lamp_height_max", "lamp_height_min"]
    value_mm: float = Field(ge=-500, le=3000)
    text: Text = Field(min_length=1)


class Cargo(Document):
    """Something that is put in after the heights are taken, at its place in the vehicle."""

    name: Name
    mass_kg: float = Field(gt=0, le=20_000)
    behind_front_axle_mm: float = Field(ge=-4000, le=12_000)
    left_mm: float = Field(default=0, ge=-2000, le=2000, description="left of the centre line")


EXAMPLE_COIL = {"type": "coil_spring", "rate_n_per_mm": 28.0, "free_length_mm": 330.0, "solid_length_mm": 140.0}
"""What a form begins with."""


class SpringOnShelf(Document):
    """Springs the shop has or can get, of any kind."""

    spring: SpringData = Field(examples=[EXAMPLE_COIL])
    pairs: int = Field(default=1, ge=0, le=99, description="on the shelf")


class Brief(Wanted):
    """What the owner wants."""

    front: AxleAim
    rear: AxleAim
    rake_change_max_deg: float = Field(default=0.3, gt=0, le=10, description="how far the pitch may change")
    reference: Name = "hub to arch"
    load: Text = Field(default="", description="what is on board when heights are taken")
    local_limits: tuple[LocalLimit, ...] = Field(default=(), max_length=20)
    shelf: tuple[SpringOnShelf, ...] = Field(
        default=(), max_length=100, description="compared on the card of a spring change, one press from being planned"
    )
    cargo: tuple[Cargo, ...] = Field(default=(), max_length=20, description="looked at on top of the planned stance")
    schools: Schools = Field(  # pyright: ignore[reportIncompatibleVariableOverride] (frozen)
        default=Schools(), title="How this shop does it"
    )

    @model_validator(mode="after")
    def _one_end_follows(self) -> "Brief":
        if self.front.by == self.rear.by == "rake":
            raise DomainError("a rake follows from the other end: give one end a height, a rise, or no aim")
        return self

    def aim(self, axle: AxleName) -> AxleAim:
        """The aim of one axle."""
        return self.front if axle == "front" else self.rear


class CornerReading(Document):
    """A reading at one corner."""

    axle: AxleName
    side: Side
    quantity: Literal["hub_to_arch", "tyre_radius", "bump_stop_gap", "exposed_rod", "tyre_to_arch"]
    reading: Length


class StationReading(Document):
    """A height above ground at a stated station."""

    station: Name
    side: Side
    reading: Length


class AngleReading(Document):
    """What the rack read at one wheel."""

    axle: AxleName
    side: Side
    angle: AngleName
    reading: Angle


class ScaleReading(Document):
    """What the scale under one wheel read."""

    axle: AxleName
    side: Side
    reading: Mass


class Measurements(Document):
    """One round of readings."""

    corners: tuple[CornerReading, ...] = Field(default=(), max_length=20)
    stations: tuple[StationReading, ...] = Field(default=(), max_length=120)
    angles: tuple[AngleReading, ...] = Field(default=(), max_length=12)
    scales: tuple[ScaleReading, ...] = Field(default=(), max_length=4)
    front_as_new: Length | None = Field(
        default=None, description="front hub to arch with healthy springs and this load: the maker's, or another's"
    )
    rear_as_new: Length | None = Field(default=None, description="the same at the rear")
    default_tolerance_mm: float = Field(default=TAPE_MM, ge=0, le=50, description="± of a tape reading without its own")
    photograph: SidePhotograph | None = Field(default=None, description="of the vehicle as it came, from the side")
    note: Text = ""

    @model_validator(mode="after")
    def _each_once(self) -> "Measurements":
        for label, keys in {
            "corner": [f"{c.axle} {c.side} {c.quantity}" for c in self.corners],
            "station": [f"{s.station} {s.side}" for s in self.stations],
            "angle": [f"{a.axle} {a.side} {a.angle}" for a in self.angles],
            "scale": [f"{s.axle} {s.side}" for s in self.scales],
        }.items():
            each_once(f"{label} reading", keys)
        return self

    def corner(self, axle: AxleName, side: Side, quantity: str) -> Length | None:
        """A corner reading, when taken."""
        return next((c.reading for c in self.corners if (c.axle, c.side, c.quantity) == (axle, side, quantity)), None)

    def mean(self, axle: AxleName, quantity: str) -> float | None:
        """Mean of both sides of a corner quantity, mm; None when neither was taken."""
        found = [r.value for s in SIDES if (r := self.corner(axle, s, quantity))]
        return sum(found) / len(found) if found else None

    def mean_plus_minus(self, axle: AxleName, quantity: str) -> float | None:
        """± of that mean, mm, each reading by itself; None when neither was taken."""
        found = [r.plus_minus(self.default_tolerance_mm) for s in SIDES if (r := self.corner(axle, s, quantity))]
        return math.hypot(*found) / len(found) if found else None

    def as_new(self, axle: AxleName) -> Length | None:
        """Hub to arch with healthy springs, where somebody knows it."""
        return self.front_as_new if axle == "front" else self.rear_as_new

    def station(self, station: str, side: Side) -> Length | None:
        """A station reading, when taken."""
        return next((s.reading for s in self.stations if (s.station, s.side) == (station, side)), None)

    def scale(self, axle: AxleName, side: Side) -> Mass | None:
        """A scale reading, when taken."""
        return next((s.reading for s in self.scales if (s.axle, s.side) == (axle, side)), None)

    def angle(self, axle: AxleName, side: Side, angle: AngleName) -> Angle | None:
        """A rack reading, when taken."""
        return next((a.reading for a in self.angles if (a.axle, a.side, a.angle) == (axle, side, angle)), None)


class Kit(Document):
    """Changes that were bought as one, with the rise their seller advertises."""

    name: Name
    changes: tuple[ChangeId, ...] = Field(min_length=1, max_length=40, description="ids of what belongs to it")
    front_mm: float | None = Field(default=None, ge=-300, le=300, description="advertised rise; negative for a drop")
    rear_mm: float | None = Field(default=None, ge=-300, le=300, description="the same at the rear")


class Plan(Document):
    """The stack of changes, in order, and a written override when something stops it."""

    changes: tuple[PlannedChange, ...] = Field(default=(), max_length=40)
    kits: tuple[Kit, ...] = Field(default=(), max_length=10, description="what of them was bought as one")
    override: Text = Field(default="", description="why it is built although a finding stops it")


class Align(Document):
    """The adjuster settings the shop decided to use, mm, per axle and side: solved ones when left out."""

    chosen: Annotated[dict[Key, float], InOrder] = Field(default={}, max_length=60)
    note: Text = ""


class Prove(Document):
    """Readings after, and the sign-off."""

    after: Measurements = Measurements()
    hand_over: HandOver = HandOver()
    sign_off: SignOff | None = None

    @model_validator(mode="after")
    def _belongs_to_before(self) -> "Prove":
        if self.after.front_as_new or self.after.rear_as_new:
            raise DomainError("heights with healthy springs belong to the readings before the job, under Measure")
        if self.after.photograph is not None:
            raise DomainError("the photograph behind the drawing is of the vehicle as it came, under Measure")
        return self


class Job(Titled):
    """One job: the vehicle as it came, and the six stages."""

    vehicle: Vehicle
    brief: Brief
    measure: Measurements = Measurements()
    plan: Plan = Plan()
    align: Align = Align()
    build: Build = Build()
    prove: Prove = Prove()
