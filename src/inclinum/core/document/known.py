"""How well a number is known, and where it comes from."""

from typing import Literal

from pydantic import Field

from inclinum.core.document import Document

Provenance = Literal["measured", "scaled", "assumed"]


class Known(Document):
    """Where a number comes from, and how well it is known."""

    source: Provenance
    tolerance_mm: float = Field(ge=0, le=500, description="±, mm (of an angle: degrees)")
