"""Springs known by what a press read of them: forces at lengths, whatever their coils look like."""

from typing import ClassVar, Literal

from inclinum.core.car.changes.other_spring import OtherSpring
from inclinum.core.plan import millimetres, named
from inclinum.core.springs.fitted import SpringTable


class TableSprings(OtherSpring):
    """Both springs of an axle replaced by ones that were pressed."""

    title: ClassVar[str] = "Springs by force table"
    known_as: ClassVar[tuple[str, ...]] = ("pressed springs", "force–length table", "spring tester", "no stamp")
    equation: ClassVar[str] = "F between two rows is a straight line; k is its slope at the length it rides at"
    source: ClassVar[str] = "interpolation of what the press read"
    kind: ClassVar[str] = "spring_table"

    type: Literal["table_springs"] = "table_springs"
    spring: SpringTable

    def summary(self) -> str:
        """Free length and the table's ends."""
        (_, first), (length, last) = self.spring.rows[0], self.spring.rows[-1]
        free = millimetres(self.spring.free_length_mm)
        rows = f"{first:g} N" if len(self.spring.rows) == 1 else f"{len(self.spring.rows)} rows to {last:g} N"
        return named(self.spring.part, f"free {free}, {rows} at {millimetres(length)}")
