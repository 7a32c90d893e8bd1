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


class Seen(Document):
    """Pictures from full droop to full bump."""

    view: ViewName
    travel: list[float]
    """Of the wheel from where it rides, bump positive, mm; first full droop, last full bump."""
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
    ground: float | None
    """Height of the ground in the picture; None from above."""
