"""A two-wheeler as data: both ends, what stands beside them, and where people sit.

x forward from the rear axle, z up from the ground, mm. The points of the rear end hold with both ends at full
extension; rake, wheelbase, seat, stand and clearances hold with the machine standing unladen, as it came.
"""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from inclinum.core.card.fastener import Fastener
from inclinum.core.card.own import BikeOwnStep, KeptNote
from inclinum.core.document import BY_CHANGES, Document, InOrder
from inclinum.core.document.errors import DomainError
from inclinum.core.document.known import Known
from inclinum.core.document.names import Key, Name, PartNumber, Text
from inclinum.core.document.outline import Shape, Station
from inclinum.core.kinematics.rear_end import AnyRear
from inclinum.core.quantity import Length
from inclinum.core.springs import BumpStop
from inclinum.core.springs.fork import Fork

End = Literal["front", "rear"]
ENDS: tuple[End, End] = ("front", "rear")
Use = Literal["road", "touring", "commuting", "enduro", "trail", "trials", "downhill"]


class RearSpring(Document):
    """The spring on a damper; both are alike where there are two."""

    part: PartNumber = ""
    rate_n_per_mm: float = Field(gt=1, le=1000, title="Rate", json_schema_extra={"step": 1, "slider": [20, 200]})
    free_length_mm: float = Field(gt=40, le=600, title="Free length")
    stroke_mm: float = Field(gt=5, le=300, title="Stroke", description="shortening until its coils touch")
    inner_diameter_mm: float | None = Field(default=None, gt=10, le=150, title="Inner diameter")
    seat_washer_mm: float = Field(
        default=0,
        ge=0,
        le=30,
        title="Seat washer",
        description="goes with this spring; it is in the count of preload, which starts with it touching",
    )
    max_preload_mm: float | None = Field(default=None, gt=0, le=100, title="Preload at most", description="its maker's")
    rate_tolerance_percent: float | None = Field(
        default=None, ge=0, le=50, title="Rate ±", description="left empty: usual", json_schema_extra={"unit": "%"}
    )

    @model_validator(mode="after")
    def _has_room(self) -> "RearSpring":
        if self.stroke_mm >= self.free_length_mm:
            raise DomainError("the spring's stroke is as long as the spring: it would have no coils")
        return self


class Bumper(Document):
    """The rubber on the damper rod: it is squeezed flat when the damper is closed."""

    height_mm: float = Field(gt=1, le=80, title="Height")
    coefficient: float = Field(default=2.0, gt=0, le=1e4, title="c in F = c·x^p")
    power: float = Field(default=2, ge=1, le=6)

    def stop(self) -> BumpStop:
        """As the core computes with it."""
        return BumpStop(self.height_mm, self.coefficient, self.power)


class Clevis(Document):
    """A clevis or eye screwed on the damper rod, with its lock nut."""

    thread_mm: float = Field(gt=0, le=80, title="Thread inside the clevis", description="of the rod, as it stands")
    least_thread_mm: float = Field(gt=0, le=60, title="Thread needed", description="the part supplier's figure")
    screwed_out_mm: float = Field(default=0, ge=0, le=60, title="Screwed out by")


class RearDamper(Document):
    """A damper, or both of a pair."""

    extended_mm: float = Field(gt=80, le=700, title="Eye to eye, extended")
    stroke_mm: float = Field(gt=5, le=300, title="Stroke")
    count: Literal[1, 2] = Field(default=1, title="Dampers")
    gas_n: float = Field(default=0, ge=0, le=2000, title="Gas force")
    bumper: Bumper | None = Field(default=None, title="Bump rubber")
    hidden_mm: float | None = Field(
        default=None, ge=0, le=40, title="Hidden by its top-out spring",
        description="how much longer it gets when forced to full extension",
    )  # fmt: skip
    zero_found: Literal["forced", "hanging"] = Field(
        default="forced", title="Preload zero found", description="with the damper forced out, or just hanging"
    )
    collar_pitch_mm: float = Field(default=1.5, gt=0.2, le=5, title="Collar thread")
    threads_at_zero_mm: float | None = Field(
        default=None,
        ge=-200,
        le=200,
        title="Thread showing at zero",
        description="past the collar, spring just touching; below nothing where the collar cannot go back so far",
    )
    body_diameter_mm: float | None = Field(default=None, gt=10, le=150, title="Body diameter")
    clevis: Clevis | None = None

    @model_validator(mode="after")
    def _closes(self) -> "RearDamper":
        if self.stroke_mm >= self.extended_mm:
            raise DomainError("the damper's stroke is as long as the damper")
        if self.bumper and self.bumper.height_mm > self.stroke_mm:
            raise DomainError("the bump rubber is longer than the damper's stroke")
        return self


class Drive(Document):
    """What drives the wheel."""

    kind: Literal["chain", "shaft", "belt", "none"] = "chain"
    sprocket: tuple[float, float] | None = Field(default=None, description="front sprocket's centre, x and z")

    @model_validator(mode="after")
    def _has_sprocket(self) -> "Drive":
        if self.kind in ("chain", "belt") and self.sprocket is None:
            raise DomainError(f"a {self.kind} needs the centre of its front sprocket")
        return self


class SideStand(Document):
    """A side stand with the machine upright."""

    x_mm: float = Field(ge=-500, le=2000, title="Ahead of the rear axle")
    lateral_mm: float = Field(gt=20, le=600, title="Foot beside the tyre line")
    foot_height_mm: float = Field(
        ge=-100, le=300, title="Foot above ground", description="with the machine held upright"
    )
    splay_deg: float = Field(ge=0, lt=80, title="Splay from vertical")


class CentreStand(Document):
    """A centre stand."""

    wheel_clear_mm: float = Field(ge=-50, le=200, title="Rear tyre off the ground on it")
    most_clear_mm: float = Field(default=60, ge=0, le=200, title="More is too heavy to roll on")


class Seat(Document):
    """Where the rider sits."""

    x_mm: float = Field(ge=-300, le=1800, title="Ahead of the rear axle")
    height_mm: float = Field(gt=200, le=1300, title="Height, standing unladen")
    width_mm: float = Field(default=220, ge=0, le=500, title="Width where the legs come down")
    foam_mm: float = Field(default=40, ge=0, le=200, title="Foam that can be taken off")


class FarEnd(Document):
    """A gap at the far end of travel with the parts it came with: tyre to mudguard, seat part or exhaust."""

    name: Name
    end: End
    gap_mm: float = Field(ge=-50, le=400, description="at full bump of that end, as it came")
    wanted_mm: float = Field(default=5, ge=0, le=100)


class TapeAt(Document):
    """What the calliper or tape read between two points, or from one to the ground."""

    key: Name
    reading: Length


class Bike(Document):
    """A machine as it stands before the job.

    Its points are where its archetype or a hand put them; the tape is fitted to them on every use.
    """

    name: Name
    description: Text = ""
    plate: str = Field(default="", max_length=30)
    use: Use = "road"
    archetype: str = Field(default="", max_length=40)
    rear: AnyRear
    damper: RearDamper
    spring: RearSpring
    preload_mm: float = Field(
        ge=-20, le=120, title="Preload", description="counted from zero: collar touching the spring, its washer in"
    )
    fork: Fork
    drive: Drive = Field(default=Drive(kind="none"))
    rake_deg: float = Field(gt=5, lt=45, title="Rake")
    offset_mm: float = Field(ge=-20, le=120, title="Fork offset", description="axle ahead of the steering axis")
    wheelbase_mm: float = Field(gt=500, le=2500, title="Wheelbase")
    front_tyre_radius_mm: float = Field(gt=100, le=450, title="Front tyre radius")
    rear_tyre_radius_mm: float = Field(gt=100, le=450, title="Rear tyre radius")
    sprung_front_kg: float = Field(gt=2, le=400, title="Carried by the front, no rider")
    sprung_rear_kg: float = Field(gt=2, le=400, title="Carried by the rear, no rider")
    stated_front_mm: float = Field(
        default=0, ge=-300, le=300, description="higher by what was stated, not computed", json_schema_extra=BY_CHANGES
    )
    stated_rear_mm: float = Field(
        default=0, ge=-300, le=300, description="the same at the rear", json_schema_extra=BY_CHANGES
    )
    seat: Seat
    stand: SideStand | None = None
    centre_stand: CentreStand | None = None
    clearances: tuple[Station, ...] = Field(default=(), max_length=40)
    far_ends: tuple[FarEnd, ...] = Field(default=(), max_length=20)
    fasteners: Annotated[dict[Key, Fastener], InOrder] = Field(default={}, max_length=100)
    own_steps: tuple[BikeOwnStep, ...] = Field(
        default=(), max_length=40, title="The shop's own steps", description="put on every card that opens their place"
    )
    notes: tuple[KeptNote, ...] = Field(
        default=(), max_length=60, title="Kept at a joint", description="shown wherever it is opened"
    )
    orientation: tuple[Text, ...] = Field(default=(), max_length=40)
    known: Annotated[dict[Key, Known], InOrder] = Field(
        default={}, max_length=300, description="points of the rear end of which it is known how well they are"
    )
    tape: tuple[TapeAt, ...] = Field(default=(), max_length=60, description="readings of its rear end")
    body: tuple[Annotated[Shape, Field(max_length=400)], ...] = Field(
        default=(), max_length=40, description="shapes for the side elevation, at full extension"
    )

    @model_validator(mode="after")
    def _each_once(self) -> "Bike":
        keys = [t.key for t in self.tape]
        twice = sorted(k for k in set(keys) if keys.count(k) > 1)
        if twice:
            raise DomainError(f"the reading {twice[0]} is there twice")
        for step in self.own_steps:
            if step.fastener is not None and step.fastener not in self.fasteners:
                raise DomainError(
                    f"the step “{step.text}” tightens “{step.fastener}”, which is no bolt of this machine"
                )
        return self

    @property
    def preload(self) -> float:
        """Shortening of the spring at forced full extension, mm: what was counted, less what the zero hid.

        Zero is the collar just touching the spring with its seat washer in, so the washer is in the count already. A
        zero found with the damper only hanging hides what its top-out spring holds back: the spring is looser by it.
        """
        return self.preload_mm - self.zero_hides

    @property
    def zero_hides(self) -> float:
        """How much longer the damper still gets at the zero that was counted from, mm."""
        return self.damper.hidden_mm or 0.0 if self.damper.zero_found == "hanging" else 0.0

    def counted(self, preload: float) -> float:
        """What to count from zero for a shortening at forced full extension, mm."""
        return preload + self.zero_hides
