"""A machine, or a part of it, seen over its travel: pictures in one plane and scale, with what is told of each."""

from typing import Literal

from inclinum.core.document import Document
from inclinum.core.shapes.shape import Point, Shape
from inclinum.core.shapes.view import ViewName

Whose = Literal["planned", "found"]


class Told(Document):
    """A number of every picture."""

    name: str
    unit: str
    digits: int
    values: list[float]


class Near(Document):
    """A place at which parts come together, over all pictures."""

    name: str
    at: list[Point]
    mm: list[float]
    """What is left between them; negative where they would run into each other."""
    pressed: str = ""
    """Name of what is left where it is negative and may be so: rubber that is squeezed by as much."""


class Spot(Document):
    """A place where a hand sets something, where the machine rides."""

    key: str
    """Of the setting that stands there."""
    name: str
    at: Point


LIT_MM = 12.0
"""What is nearer than this is told at its place. Our judgement of what a mechanic looks for."""
By = Literal["travel", "lock"]


class Seen(Document):
    """Pictures from one end of a movement to the other: from full droop to full bump, or from lock to lock."""

    view: ViewName
    by: By = "travel"
    unit: str = "mm"
    ends: tuple[str, str] = ("full droop", "full bump")
    rest: str = "where it rides"
    locks: bool = False
    """Whether it can be seen from lock to lock."""
    travel: list[float]
    """Of the wheel from where it rides, bump positive, mm; or turn of the left wheel, to the left positive, °."""
    at_ride: int
    """Which of the pictures is that in which it rides."""
    frames: list[list[Shape]]
    ghost: list[Shape]
    """The other one of found and planned, where it rides."""
    low: Point
    high: Point
    arches: tuple[tuple[Point, Point], ...] = ()
    """Wheel centre and arch edge above it where it rides, for every wheel that is seen."""
    told: list[Told]
    near: tuple[Near, ...] = ()
    """Places where something ends the movement or nearly does."""
    lit_mm: float = LIT_MM
    adjusters: tuple[Spot, ...] = ()
    joints: tuple[Spot, ...] = ()
    """What steps of a card are about, by side and joint."""
    ground: float | None
    """Height of the ground in the picture; None from above."""
