"""The side elevation as SVG, to scale: before dashed, planned solid."""

from collections.abc import Iterable
from itertools import groupby
from xml.sax.saxutils import escape

from inclinum.core.car.drawing import Drawing, Polyline, StanceDrawing
from inclinum.core.shapes import Shape

# Looks stand on the shapes themselves: the page renderer does not carry the page's style into a drawing.
BEFORE = 'fill="none" stroke="#7d8890" stroke-dasharray="5 3"'
AFTER = 'fill="none" stroke="#1d4f8c" stroke-width="1.3"'
WHEEL = 'fill="none" stroke="#14181c" stroke-width="1.6"'
PART = 'fill="#ffffff" stroke="#14181c" stroke-width="0.6"'
FILLS = {"damper_body": "#c4ccd4", "tube": "#c4ccd4", "joint": "#14181c", "bush": "#7d8890", "bump_stop": "#7d8890",
         "spacer": "#1d4f8c", "block": "#1d4f8c", "seat": "#14181c", "air": "#dde4ea"}  # fmt: skip
"""Of a part on paper, by its role; the others are white."""


def side_elevation(drawing: Drawing, width_px: float = 640) -> str:
    """An SVG element of the vehicle from its left side, front to the left.

    Args:
        drawing: positions in ground axes, mm.
        width_px: width of the picture; height follows, since both axes have one scale.
    """
    margin = 120.0
    long = drawing.high[0] - drawing.low[0] + 2 * margin
    tall = drawing.high[1] + 2 * margin
    scale = width_px / long

    def at(x: float, z: float) -> str:
        return f"{(drawing.high[0] + margin - x) * scale:.1f},{(tall - margin - z) * scale:.1f}"

    def line(points: Polyline, look: str) -> str:
        return f'<polygon {look} points="{" ".join(at(*p) for p in points)}"/>' if points else ""

    def wheels(stance: StanceDrawing) -> str:
        circles = []
        for wheel in (stance.front, stance.rear):
            x, y = at(wheel.centre[0], wheel.centre[2]).split(",")
            circles.append(f'<circle {WHEEL} cx="{x}" cy="{y}" r="{wheel.radius * scale:.1f}"/>')
        return "".join(circles)

    def parts(shapes: Iterable[Shape]) -> str:
        # Neighbours of one look are one path: a page is laid out element by element, and slowly.
        drawn = [(_look(s, scale), path(s)) for s in shapes]
        runs = groupby(drawn, key=lambda one: one[0])
        return "".join(f'<path {look} d="{"".join(p for _, p in run)}"/>' for look, run in runs)

    def path(shape: Shape) -> str:
        # In a picture of the left side the front points to the left: its right is the rear.
        points = [at(-u, v) for u, v in shape.line]
        if len(points) > 1:
            return f"M{'L'.join(points)}{'Z' if shape.closed else ''}"
        r = max(shape.wide * scale / 2, 0.6)
        x, y = map(float, points[0].split(","))
        half = f"a{r:.1f},{r:.1f} 0 1 0 {{}},0"
        return f"M{x - r:.1f},{y:.1f}{half.format(f'{2 * r:.1f}')}{half.format(f'{-2 * r:.1f}')}Z"

    x0, ground = at(drawing.high[0] + margin, 0).split(",")
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width_px:.0f}" height="{tall * scale:.0f}" '
        f'role="img" aria-label="{escape("Side elevation, before and planned")}">'
        f'<line stroke="#14181c" x1="{x0}" x2="{width_px:.0f}" y1="{ground}" y2="{ground}"/>'
        + line(drawing.before.body, BEFORE)
        + line(drawing.after.body, AFTER)
        + "".join(line(g, AFTER) for g in drawing.after.glass)
        + wheels(drawing.after)
        + parts(s for s in drawing.after.parts if s.role not in ("tyre", "rim"))
        + "</svg>"
    )


def _look(shape: Shape, scale: float) -> str:
    if shape.closed or len(shape.line) == 1:
        return PART.replace("#ffffff", FILLS.get(shape.role, "#ffffff"))
    return f'fill="none" stroke="#14181c" stroke-width="{max(shape.wide * scale * 0.5, 0.5):.1f}"'
