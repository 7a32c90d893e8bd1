"""How well a number is known, and where it comes from."""

from typing import Literal

from pydantic import Field

from inclinum.core.document import Document

Provenance = Literal["measured", "scaled", "assumed"]


MADE_TO_MM = 0.5
"""± of the height of a made part (ring, plate, block) where nobody read it."""
RATE_PERCENT, FREE_LENGTH_MM, FREE_ANGLE_DEG = 4.0, 3.0, 0.5
"""± of a spring's rate, a coil's free length and a bar's free angle where nobody measured them."""
TAPE_MM, CALLIPER_MM = 2.0, 1.0
"""± of a reading by tape and by calliper typed without its own."""
RACK_DEG = 0.05
"""± of an angle read at a wheel, typed without its own."""
RATIO_PERCENT, ANGLE_CHANGE_DEG = 2.0, 0.1
"""± of a motion ratio, and of the wheel angle that 40 mm of height change, where nobody measured them."""
ASSUMED_POINT_MM = 44.0
"""± of a hardpoint of which nothing is known but the kind of suspension."""
ASSUMED_RADIUS_MM = 6.0
"""± of a loaded tyre radius nobody read."""
ASSUMED_HEIGHT_MM = 15.0
"""± of a height nobody measured."""


class Known(Document):
    """Where a number comes from, and how well it is known."""

    source: Provenance
    tolerance_mm: float = Field(ge=0, le=500, description="±, mm (of an angle: degrees)")
