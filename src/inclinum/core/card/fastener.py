"""Bolts and nuts with their maker's figures."""

from pydantic import Field, model_validator

from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import Name, Text


class Fastener(Document):
    """A bolt or nut of the job, with the maker's figure where the shop has it."""

    name: Name
    count_per_side: int = Field(default=1, ge=1, le=20)
    torque_nm: float | None = Field(default=None, gt=0, le=2000)
    angle_deg: float | None = Field(default=None, gt=0, le=720, description="further turn after the torque")
    source: Text = Field(default="", description="where the figure stands; needed with a figure")
    renew: bool = Field(default=False, description="to be replaced each time it is undone")
    at_ride_height: bool = Field(default=False, description="clamps a rubber bush: tightened at ride height")

    @model_validator(mode="after")
    def _figure_has_source(self) -> "Fastener":
        if self.torque_nm is not None and not self.source:
            raise DomainError(f"the torque of “{self.name}” has no source; name the sheet it stands on")
        return self
