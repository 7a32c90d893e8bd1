"""A job on a two-wheeler: what is wanted, who rides it, what was measured, planned, done and proved."""

from functools import cached_property
from typing import Literal

from pydantic import Field, model_validator

from inclinum.core.bike.changes import PlannedBikeChange
from inclinum.core.bike.machine import Bike, End, RearSpring, TapeAt, Use
from inclinum.core.card.record import Build, HandOver, SignOff
from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.document.known import CALLIPER_MM
from inclinum.core.document.names import Name, Text
from inclinum.core.plan.job import Titled, Wanted, each_once
from inclinum.core.quantity import Length, Mass
from inclinum.core.shapes import SidePhotograph


class Rides(Document):
    """Somebody or something the machine carries, at its station."""

    name: Name
    role: Literal["rider", "kit", "luggage", "passenger"] = "rider"
    mass: Mass
    x_mm: float = Field(ge=-800, le=2200, title="Ahead of the rear axle")
    aboard: bool = True


class SagWindow(Document):
    """Sag wanted at one end for a use, as shares of its travel, with the reason."""

    use: Use
    end: End
    laden_low: float = Field(ge=0, le=0.8)
    laden_high: float = Field(gt=0, le=0.9)
    unladen_low: float = Field(ge=0, le=0.6)
    unladen_high: float = Field(gt=0, le=0.8)
    frequency_hz: float = Field(gt=0.3, le=6, description="ride frequency wanted with the rider on")
    reason: Text = ""

    @model_validator(mode="after")
    def _ordered(self) -> "SagWindow":
        if self.laden_low >= self.laden_high or self.unladen_low >= self.unladen_high:
            raise DomainError(f"the sag window of {self.use}, {self.end}, ends before it begins")
        return self


class ShelfSpring(Document):
    """A rear spring on the shop's shelf."""

    spring: RearSpring
    count: int = Field(default=1, ge=0, le=99)


RearBy = Literal["drop", "seat", "both_feet", "one_foot"]


class BikeBrief(Wanted):
    """What the owner wants."""

    rear_drop: Length | None = Field(
        default=None,
        description="how far the rear is to come down; negative to go up; left out where no height is wanted",
    )
    rear_by: RearBy = Field(
        default="drop",
        description="how the rear aim is said: a drop, a seat height, or feet that reach",
    )
    seat_wanted: Length | None = Field(default=None, description="seat height above ground under the rider, where so")
    front_drop: Length | None = Field(
        default=None, description="the same of the front; left out where it follows the steering"
    )
    tolerance_mm: float = Field(default=3, gt=0, le=50, description="how near counts as met")
    keep_steering: bool = Field(default=True, description="trail unchanged, as far as the clamps allow")
    supplier_raise_mm: float | None = Field(
        default=None, ge=-60, le=100, description="fork raise the link's supplier states, shown beside ours"
    )
    use: Use = "road"
    rides: tuple[Rides, ...] = Field(default=(), max_length=12)
    inseam_mm: float | None = Field(default=None, gt=400, le=1100, description="of the rider, barefoot")
    sole_mm: float = Field(default=25, ge=0, le=80)
    one_foot_lean_deg: float = Field(default=5, ge=0, le=20)
    slope_deg: float = Field(default=3, ge=-10, le=10, description="of the shop's yard, falling to the stand's side")
    windows: tuple[SagWindow, ...] = Field(default=(), max_length=28, description="the shop's own, before ours")
    shelf: tuple[ShelfSpring, ...] = Field(default=(), max_length=200)

    @model_validator(mode="after")
    def _said(self) -> "BikeBrief":
        if self.rear_by == "seat" and self.seat_wanted is None:
            raise DomainError("an aim by the seat needs its height above ground")
        if self.rear_by != "seat" and self.seat_wanted is not None:
            raise DomainError("a seat height is wanted: say the rear aim by the seat, or leave that height out")
        if self.rear_by in ("both_feet", "one_foot") and self.inseam_mm is None:
            raise DomainError("feet that are to reach need the rider's inseam")
        return self

    def aim(self, end: End) -> Length | None:
        """Drop wanted of an end; None where no height is."""
        return self.front_drop if end == "front" else self.rear_drop


class SagReading(Document):
    """From the axle to a mark above it (of a fork: along it): wheel hanging, on its own, with the rider on."""

    end: End
    state: Literal["extended", "unladen", "laden"]
    reading: Length


class BikeMeasurements(Document):
    """One round of readings."""

    tape: tuple[TapeAt, ...] = Field(default=(), max_length=60)
    sags: tuple[SagReading, ...] = Field(default=(), max_length=6)
    seat: Length | None = Field(default=None, description="seat height, unladen")
    machine: Bike | None = Field(
        default=None, description="the machine as found, where it is not as it was set up: springs, damper, fork, stand"
    )
    default_tolerance_mm: float = Field(default=CALLIPER_MM, ge=0, le=20, description="± of a reading without its own")
    photograph: SidePhotograph | None = Field(default=None, description="of the machine as it came, from the side")
    note: Text = ""

    @model_validator(mode="after")
    def _each_once(self) -> "BikeMeasurements":
        each_once("reading", [t.key for t in self.tape])
        each_once("reading", [f"{s.end} {s.state}" for s in self.sags])
        return self

    @cached_property
    def _read(self) -> dict[tuple[str, str], Length]:
        return {(s.end, s.state): s.reading for s in self.sags}

    def sag_reading(self, end: End, state: str) -> float | None:
        """One reading, mm."""
        read = self._read.get((end, state))
        return None if read is None else read.value

    def plus_minus(self, end: End, state: str) -> float:
        """± of one reading, mm: its own, or what a reading is good to here."""
        read = self._read.get((end, state))
        return self.default_tolerance_mm if read is None else read.plus_minus(self.default_tolerance_mm)

    def sag(self, end: End, state: Literal["unladen", "laden"]) -> float | None:
        """Measured sag against the machine's own full extension, mm."""
        extended, sunk = self.sag_reading(end, "extended"), self.sag_reading(end, state)
        return None if extended is None or sunk is None else extended - sunk


class BikePlan(Document):
    """The stack of changes, and a written override when something stops it."""

    changes: tuple[PlannedBikeChange, ...] = Field(default=(), max_length=40)
    override: Text = ""


class BikeAlign(Document):
    """What was decided about the steering."""

    note: Text = ""


class BikeProve(Document):
    """Readings after, and the sign-off."""

    after: BikeMeasurements = BikeMeasurements()
    hand_over: HandOver = HandOver()
    sign_off: SignOff | None = None

    @model_validator(mode="after")
    def _belongs_to_before(self) -> "BikeProve":
        if self.after.photograph is not None:
            raise DomainError("the photograph behind the drawing is of the machine as it came, under Measure")
        return self


class BikeJob(Titled):
    """One job on a two-wheeler."""

    vehicle: Bike
    brief: BikeBrief
    measure: BikeMeasurements = BikeMeasurements()
    plan: BikePlan = BikePlan()
    align: BikeAlign = BikeAlign()
    build: Build = Build()
    prove: BikeProve = BikeProve()

    @property
    def ridden(self) -> bool:
        """Whether anybody or anything is aboard: without, there is no laden sag to judge."""
        return any(r.aboard for r in self.brief.rides)

    @property
    def machine(self) -> Bike:
        """As it was found, or as it was set up where nobody found it otherwise."""
        return self.measure.machine or self.vehicle
