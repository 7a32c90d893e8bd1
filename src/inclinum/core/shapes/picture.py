"""Parts in a picture: in the order they are drawn in, and how much room they take."""

from collections.abc import Iterable

from inclinum.core.shapes.parts import Part
from inclinum.core.shapes.shape import Shape
from inclinum.core.shapes.view import View

FIRST = ("tyre", "rim")
"""Wheels are drawn before everything else: what stands inside or behind them is what is looked for."""


def picture(parts: Iterable[Part], view: View) -> list[Shape]:
    """Shapes of parts, wheels first, then what is furthest away."""
    layers = [layer for part in parts for layer in part.layers(view)]
    return [shape for _, shape in sorted(layers, key=lambda layer: (layer[1].role not in FIRST, layer[0]))]


def bounds(shapes: Iterable[Shape]) -> tuple[float, float, float, float] | None:
    """Left, right, bottom and top of shapes, mm; None of none."""
    sizes = [(u, v, s.wide / 2) for s in shapes for u, v in s.line]
    if not sizes:
        return None
    return (
        min(u - w for u, _, w in sizes), max(u + w for u, _, w in sizes),
        min(v - w for _, v, w in sizes), max(v + w for _, v, w in sizes),
    )  # fmt: skip
