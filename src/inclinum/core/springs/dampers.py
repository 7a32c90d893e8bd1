"""Dampers, stops and top-out springs of an axle as documents."""

from pydantic import Field, model_validator

from inclinum.core.document import BY_CHANGES, Document
from inclinum.core.document.errors import DomainError
from inclinum.core.springs import (
    BumpStop,
    TableStop,
    TopOut,
)


class DamperData(Document):
    """A damper's lengths, between the two points the linkage names."""

    extended_mm: float = Field(gt=50, le=2000, title="Extended length")
    closed_mm: float = Field(gt=30, le=2000, title="Closed length")
    rod_hidden_mm: float = Field(
        default=0, ge=0, le=400, description="rod still showing when the damper is fully closed"
    )
    upper_bolt_mm: float | None = Field(
        default=None, gt=3, le=60, title="Upper bolt", description="what its upper eye or pin goes on, diameter"
    )
    lower_bolt_mm: float | None = Field(default=None, gt=3, le=60, title="Lower bolt", description="the same below")
    upper_bore_mm: float | None = Field(default=None, gt=3, le=60, title="Upper eye", description="its bore")
    lower_bore_mm: float | None = Field(default=None, gt=3, le=60, title="Lower eye", description="its bore")

    collar: bool = Field(
        default=False, title="Its spring stands on a collar", description="screwed back, it frees the spring by hand"
    )
    strapped_mm: float | None = Field(
        default=None, gt=30, le=2000, description="length at which a strap holds the wheel, whatever damper is in",
        json_schema_extra=BY_CHANGES,
    )  # fmt: skip

    @property
    def open_mm(self) -> float:
        """Length at which droop ends, mm: the damper's own, or where a strap is tight before that."""
        return self.extended_mm if self.strapped_mm is None else min(self.extended_mm, self.strapped_mm)

    @model_validator(mode="after")
    def _opens(self) -> "DamperData":
        if self.closed_mm >= self.extended_mm:
            raise DomainError("the damper is longer closed than extended")
        if self.closed_mm >= self.open_mm:
            raise DomainError("a strap is tight before the damper is closed")
        return self


class BumpStopData(Document):
    """A bump stop, on the damper rod or over the axle: where it is first touched, and its force from there."""

    height_mm: float = Field(gt=0, le=300, title="Height of the stop")
    contact_mm: float | None = Field(
        default=None,
        gt=30,
        le=2000,
        title="Touched at damper length",
        description="damper length at which a stop on the damper is first touched",
    )
    contact_travel_mm: float | None = Field(
        default=None,
        gt=-300,
        le=400,
        title="Or at wheel travel",
        description="wheel travel at which a stop over the axle is first touched",
    )
    max_compression_mm: float = Field(gt=0, le=250, title="Squeezed at most")
    coefficient: float = Field(default=1.5, gt=0, le=1e5, description="c in F = c·x^p, N/mm^p")
    power: float = Field(default=2, ge=1, le=6)
    table: tuple[tuple[float, float], ...] = Field(
        default=(), max_length=60, title="Rows of mm squeezed and N", description="wins over coefficient and power"
    )

    @model_validator(mode="after")
    def _one_place_and_a_rising_table(self) -> "BumpStopData":
        if (self.contact_mm is None) == (self.contact_travel_mm is None):
            raise DomainError("give contact_mm for a stop on the damper, or contact_travel_mm for one over the axle")
        if self.table:
            if len(self.table) < 2 or self.table[0] != (0, 0):
                raise DomainError("a stop's table starts with 0, 0 and has at least two rows")
            for (x0, f0), (x1, f1) in zip(self.table, self.table[1:], strict=False):
                if x1 <= x0 or f1 < f0:
                    raise DomainError(f"the stop's table does not rise at {x1:g} mm")
        return self

    @property
    def on_damper(self) -> bool:
        """Whether it sits on the damper."""
        return self.contact_mm is not None

    def stop(self) -> BumpStop | TableStop:
        """As the core computes with it."""
        if self.table:
            x, f = zip(*self.table, strict=True)
            return TableStop(x, f)
        return BumpStop(self.max_compression_mm, self.coefficient, self.power)


class TopOutData(Document):
    """A top-out spring inside the damper."""

    rate_n_per_mm: float = Field(gt=0, le=2000, examples=[60])
    contact_mm: float = Field(
        gt=30, le=2000, title="Felt from damper length", examples=[400],
        description="damper length from which on it pulls back",
    )  # fmt: skip

    def top_out(self) -> TopOut:
        """As the core computes with it."""
        return TopOut(self.rate_n_per_mm, self.contact_mm)
