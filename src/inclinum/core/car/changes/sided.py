"""What is set wheel by wheel: one number for both, or another one on the right."""

from typing import ClassVar, Self

from inclinum.core.car.changes.base import Change
from inclinum.core.document.names import Side
from inclinum.core.quantity.words import signed


class Sided(Change):
    """Base of changes whose one number can be another on the right.

    A subclass declares that number, and beside it the same for the right wheel, None where both are alike.
    """

    left_field: ClassVar[str]
    right_field: ClassVar[str]

    @property
    def left(self) -> float:
        """The number on the left."""
        return getattr(self, self.left_field)

    @property
    def right(self) -> float:
        """The number on the right."""
        own = getattr(self, self.right_field)
        return self.left if own is None else own

    @property
    def uneven(self) -> bool:
        """Whether the sides differ."""
        return self.right != self.left

    @property
    def mean(self) -> float:
        """Of both sides: what the axle as a whole is raised by."""
        return (self.left + self.right) / 2

    @property
    def left_over_mean(self) -> float:
        """How much more the left has than the mean."""
        return (self.left - self.right) / 2

    def on_side(self, side: Side) -> bool:
        """Not where it is nothing at one wheel only: that one stays as it is."""
        return not self.uneven or self.of_side(side) != 0

    def of_side(self, side: Side | None) -> float:
        """The number of one side."""
        return self.right if side == "right" else self.left

    def figure(self, side: Side | None) -> str | None:
        """That of the side."""
        return f"{signed(self.of_side(side))} {self.set_in}" if self.set_in else None

    def one_side(self, side: Side, by: float) -> Self:
        """The same with so much more on one side, the other as it was; put together without validating anew."""
        if side == "left":
            return self.model_copy(update={self.right_field: self.right, self.left_field: self.left + by})
        return self.model_copy(update={self.right_field: self.right + by})

    def both_at(self, value: float) -> Self:
        """The same with another number on the left, and the right as much apart from it as it was."""
        apart = {self.right_field: value + self.right - self.left} if self.uneven else {}
        return self.model_copy(update={self.left_field: value} | apart)

    def each(self, unit: str) -> str:
        """The number in words: one for both, or of each side."""
        if not self.uneven:
            return f"{signed(self.left)}{unit}"
        return f"left {signed(self.left)}{unit}, right {signed(self.right)}{unit}"
