"""What hangs between body and wheel beside the suspension: shafts, hoses and wires, anti-roll links, tyre gaps.

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
