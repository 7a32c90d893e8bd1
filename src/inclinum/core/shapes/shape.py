"""One line or area of a drawing."""

from dataclasses import dataclass
from typing import Literal

Role = Literal[
    "tyre", "rim", "hub", "arm", "rod", "tube", "rack", "joint", "bush",
    "coil", "coil_behind", "seat", "spacer", "leaf", "block", "bolt", "bar", "air",
    "damper_body", "damper_rod", "bump_stop", "collar", "shaft", "hose", "hose_tight", "roll_bar", "place",
    "frame", "tank", "saddle", "engine", "guard", "bars", "rest", "clamp", "slider", "chain", "swing",
]  # fmt: skip
"""What a shape is of; how it is drawn is the client's, by this alone."""
Point = tuple[float, float]


@dataclass(slots=True)
class Shape:
    """A line or an area in the plane of a picture: right and up, mm. A single point is a circle.

    A plain record, neither a document nor frozen: a drawing has hundreds of them, all made here.

    Args:
        role: what it is of.
        line: its points.
        name: in words, where somebody would ask.
        closed: whether it is an area.
        wide: thickness of a line, or diameter of a circle, mm; 0 is a hairline.
    """

    role: Role
    line: list[Point]
    name: str = ""
    closed: bool = False
    wide: float = 0.0
