"""What hangs between body and wheel beside the suspension: shafts, hoses, anti-roll links, tyre gaps, seats, bolts.

Places are of the left wheel at the reference height, x forward of the wheel centre, y left of the centre line, z up
from the ground, mm; the right side is their mirror image.
"""

from typing import Annotated, Literal

from pydantic import Field

from inclinum.core.document import Document
from inclinum.core.document.names import Name

Across = Annotated[float, Field(ge=-3000, le=3000)]
Place = tuple[Across, Across, Across]


class HalfShaft(Document):
    """A shaft from the differential to the hub, with a joint at each end."""

    inner: Place = Field(
        title="Inner joint: forward, left, up",
        examples=[(0.0, 150.0, 300.0)],
        description="middle of the inner joint, on the body",
    )
    outer: Place | None = Field(
        title="Outer joint: forward, left, up",
        examples=[(0.0, 680.0, 315.0)],
        default=None,
        description="of the outer joint, on the hub; the wheel centre if left out",
    )
    inner_max_deg: float = Field(default=20, gt=0, le=60, title="Inner joint bends to")
    outer_max_deg: float = Field(default=40, gt=0, le=60, title="Outer joint bends to")
    plunge_in_mm: float = Field(default=15, ge=0, le=100, title="Can shorten by", description="from reference height")
    plunge_out_mm: float = Field(default=15, ge=0, le=100, title="Can lengthen by", description="from reference height")


class FlexLine(Document):
    """A hose, wire or cable between a clip on the body and one on the hub."""

    name: Name
    body: Place = Field(title="Clip on the body: forward, left, up", examples=[(60.0, 450.0, 600.0)])
    wheel: Place = Field(title="Clip on hub or axle: forward, left, up", examples=[(40.0, 640.0, 380.0)])
    length_mm: float = Field(examples=[400.0], gt=20, le=2000, title="Free length between the clips")
    spare_mm: float = Field(default=15, ge=0, le=300, title="To be left", description="so that it is never tight")


class AntiRollLink(Document):
    """The link between an arm of the anti-roll bar and what moves with the wheel."""

    bar_x_mm: float = Field(examples=[300.0], ge=-1500, le=1500, title="Axis of the bar, forward")
    bar_z_mm: float = Field(examples=[420.0], ge=0, le=1500, title="Axis of the bar, up")
    eye: Place = Field(title="Link on the bar's arm: forward, left, up", examples=[(100.0, 520.0, 400.0)])
    foot: Place = Field(title="Link at the wheel: forward, left, up", examples=[(90.0, 580.0, 220.0)])
    on: str = Field(
        default="upright", max_length=60, title="Foot is on", description="the upright (or axle, or strut), or an arm"
    )
    longer_mm: float = Field(default=0, ge=-200, le=300, title="Link longer by")
    least_deg: float = Field(
        default=35,
        ge=5,
        le=80,
        title="Nearest to a straight line",
        description="of link and arm: beyond, it turns over",
    )


class TyreGap(Document):
    """Room between the tyre and what is nearest to it, read at the height the vehicle stood at."""

    name: Name
    gap_mm: float = Field(examples=[150.0], ge=-100, le=500, title="Gap as read")
    lies: Literal["above", "inside", "outside"] = Field(default="above", title="Lies", description="seen from the tyre")
    keep_mm: float = Field(
        default=10, ge=0, le=200, title="To be kept", description="chains included, where they go on"
    )
    at: Place | None = Field(
        default=None, title="Nearest place of it: forward, left, up", examples=[(150.0, 560.0, 420.0)],
        description="with it, it is worked out at full bump and at both locks; needs the tyre's width",
    )  # fmt: skip


class SpringSeats(Document):
    """What a coil centres on at both ends, and the thickest thing that stands inside it."""

    lower_mm: float | None = Field(
        default=None, gt=10, le=400, title="Lower seat centres on", description="diameter that the coil goes over"
    )
    upper_mm: float | None = Field(default=None, gt=10, le=400, title="Upper seat centres on")
    inside_mm: float | None = Field(
        default=None, gt=5, le=380, title="Thickest thing inside it", description="damper body, collar or stop cup"
    )


class UBolts(Document):
    """What the U-bolts of a leaf axle go round, and their thread."""

    tube_mm: float = Field(
        gt=10, le=400, title="Axle tube", examples=[70.0], description="its whole height, or half of it, as seated"
    )
    seat_mm: float = Field(default=0, ge=0, le=200, title="Spring seat on it")
    plate_mm: float = Field(ge=0, le=100, title="Plate", examples=[12.0])
    washer_mm: float = Field(default=3, ge=0, le=20, title="Washer")
    nut_mm: float = Field(gt=2, le=60, title="Nut", examples=[12.0])
    pitch_mm: float = Field(default=1.5, gt=0.2, le=6, title="Thread pitch")
    leg_mm: float | None = Field(
        default=None, gt=10, le=1000, title="Leg", description="of those that are on, from inside the bend"
    )


class PropShaft(Document):
    """A propeller shaft from the gearbox, or its last centre bearing, to the pinion of a solid axle.

    Where a place has two examples the second is a front axle's.
    """

    gearbox_joint: Place = Field(
        title="Joint at the gearbox: forward, left, up",
        examples=[(1400.0, 0.0, 480.0), (-1100.0, 0.0, 480.0)],
        description="on the body",
    )
    pinion_joint: Place = Field(
        title="Joint at the pinion: forward, left, up",
        examples=[(220.0, 0.0, 360.0), (-220.0, 0.0, 360.0)],
        description="on the axle",
    )
    gearbox_down_deg: float = Field(
        default=3, ge=-30, le=30, title="Gearbox points down by", description="towards the axle"
    )
    pinion_up_deg: float = Field(
        default=3, ge=-30, le=30, title="Pinion points up by", description="towards the gearbox"
    )
    most_deg: float | None = Field(
        default=None, gt=0, le=60, title="A joint may bend to", description="as its maker says"
    )
    mismatch_deg: float = Field(
        default=1, ge=0, le=30, title="Joints may differ by", description="at ride height: beyond, it shakes"
    )
    plunge_in_mm: float | None = Field(default=None, ge=0, le=200, title="Can shorten by")
    plunge_out_mm: float | None = Field(default=None, ge=0, le=200, title="Can lengthen by")
    longer_mm: float = Field(default=0, ge=-300, le=300, title="Spacer on its flange")
