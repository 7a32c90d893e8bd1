"""Words and names as documents keep them, with their limits."""

from typing import Annotated, Literal

from pydantic import Field

Name = Annotated[str, Field(min_length=1, max_length=120)]
Text = Annotated[str, Field(max_length=4000)]
Key = Annotated[str, Field(max_length=120)]
"""Of a mapping: the name of a point, a fastener, a setting."""
Millimetre = Annotated[float, Field(ge=0, le=10_000)]
AxleName = Literal["front", "rear"]
AXLES: tuple[AxleName, AxleName] = ("front", "rear")
Side = Literal["left", "right"]
SIDES: tuple[Side, Side] = ("left", "right")

JobId = Annotated[str, Field(min_length=1, max_length=64, pattern=r"^\.*[A-Za-z0-9_-][A-Za-z0-9._-]*$")]
"""A job's name in addresses and files: dots alone would be a folder."""

StageName = Literal["brief", "measure", "plan", "align", "build", "prove"]
STAGES: tuple[StageName, ...] = ("brief", "measure", "plan", "align", "build", "prove")

PartNumber = Annotated[str, Field(max_length=60, title="Part number")]
"""As the shop's supplier writes it; empty where a part has none."""

ChangeId = Annotated[str, Field(min_length=1, max_length=40)]
"""Of a change on a stack."""

PhotoId = Annotated[str, Field(max_length=64, pattern=r"^[0-9a-f]{64}$", description="of a picture that was kept")]
"""A photograph, by its content."""
