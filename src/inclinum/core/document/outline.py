"""The body from the side, and the places along it that are measured."""

from pydantic import Field

from inclinum.core.document import Document
from inclinum.core.document.names import Millimetre, Name

Shape = tuple[tuple[float, float], ...]


class Station(Document):
    """A place on the body that is measured from the ground, or that something hangs on."""

    name: Name
    x_mm: float = Field(ge=-12_000, le=6000, description="forward of the front axle positive")
    height_mm: Millimetre = Field(description="above ground at the reference height")
    keep_mm: float | None = Field(
        default=None, ge=0, le=2000, title="Clearance to keep", description="where it may touch the ground"
    )
