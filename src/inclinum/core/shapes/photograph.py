"""A photograph from the side, laid behind the drawing by the middles of both wheels."""

from typing import Annotated

from pydantic import Field, model_validator

from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import PhotoId
from inclinum.core.shapes.shape import Point

Share = Annotated[float, Field(ge=0, le=1)]
LEAST_APART = 0.1
"""Wheels that stand nearer, as a share of the picture's width, give no scale to trust. Our judgement."""


class SidePhotograph(Document):
    """A picture from the side, with the two places that say how large it is and where it belongs.

    Args:
        photo: the picture.
        width, height: of it, px.
        front, rear: middle of each wheel, as shares of width and height from its upper left corner.
    """

    photo: PhotoId
    width: int = Field(gt=0, le=20_000)
    height: int = Field(gt=0, le=20_000)
    front: tuple[Share, Share]
    rear: tuple[Share, Share]

    @model_validator(mode="after")
    def _apart(self) -> "SidePhotograph":
        if abs(self.front[0] - self.rear[0]) < LEAST_APART:
            raise DomainError("the wheels in the photograph are too near each other to scale it by: click both middles")
        return self


class PlacedPhotograph(Document):
    """A picture where it belongs in the drawing, mm: three of its corners say where, how large, how turned."""

    photo: PhotoId
    corner: Point
    """Upper left of the picture."""
    right: Point
    """Upper right."""
    down: Point
    """Lower left."""


def placed(photograph: SidePhotograph, front: Point, rear: Point) -> PlacedPhotograph:
    """A picture laid so that its wheels stand on those of the drawing.

    Args:
        photograph: with its two places.
        front, rear: the same in the drawing, mm, up positive.

    A picture from the other side than the drawing's is turned over.

    Source: derived here: two points fix shift, turn and size of a plane figure, z' = s·z + t in complex numbers.
    """
    to_front = (front[0] - rear[0]) * (photograph.front[0] - photograph.rear[0]) > 0
    across = photograph.width if to_front else -photograph.width

    def of(u: float, v: float) -> complex:
        return complex(u * across, -v * photograph.height)

    near, far = of(*photograph.front), of(*photograph.rear)
    scale = (complex(*front) - complex(*rear)) / (near - far)

    def at(u: float, v: float) -> Point:
        z = complex(*front) + scale * (of(u, v) - near)
        return round(z.real, 1), round(z.imag, 1)

    return PlacedPhotograph(photo=photograph.photo, corner=at(0, 0), right=at(1, 0), down=at(0, 1))
