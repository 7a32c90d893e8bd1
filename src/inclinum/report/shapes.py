"""Shapes as SVG for a page: with the roles as classes, styled by the sheet of styles the page brings."""

from collections.abc import Callable, Iterable
from html import escape

from inclinum.core.shapes import Shape

PATTERNS = (
    '<defs><pattern id="rubber" width="5" height="5" patternUnits="userSpaceOnUse">'
    '<rect width="5" height="5" fill="var(--raised)"/><circle cx="1.4" cy="1.4" r="1.1" fill="var(--ink)"/>'
    '<circle cx="3.9" cy="3.9" r="1.1" fill="var(--ink)"/></pattern>'
    '<pattern id="air" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">'
    '<rect width="7" height="7" fill="var(--raised)"/><path d="M0 3.5h7" stroke="var(--quiet)"/></pattern></defs>'
)


def svg_of(
    shapes: Iterable[Shape], low: tuple[float, float], high: tuple[float, float], width: float, height: float
) -> str:
    """A picture of shapes, as large as it goes into a frame.

    Args:
        shapes: in the order they are drawn in.
        low, high: lower left and upper right corner of what is to be seen, mm.
        width, height: of the frame, pixels.
    """
    margin = 8.0
    scale = min((width - 2 * margin) / (high[0] - low[0]), (height - 2 * margin) / (high[1] - low[1]))
    left, top = (width - (high[0] - low[0]) * scale) / 2, (height - (high[1] - low[1]) * scale) / 2

    def at(u: float, v: float) -> str:
        return f"{left + (u - low[0]) * scale:.1f} {top + (high[1] - v) * scale:.1f}"

    drawn = "".join(_one(shape, at, scale) for shape in shapes)
    return f'<svg width="{width:g}" height="{height:g}" xmlns="http://www.w3.org/2000/svg">{PATTERNS}{drawn}</svg>'


def _one(shape: Shape, at: Callable[[float, float], str], scale: float) -> str:
    title = f"<title>{escape(shape.name)}</title>" if shape.name else ""
    if len(shape.line) == 1:
        x, y = at(*shape.line[0]).split()
        return f'<circle class="shape {shape.role}" cx="{x}" cy="{y}" r="{shape.wide / 2 * scale:.1f}">{title}</circle>'
    path = "M" + "L".join(at(*p) for p in shape.line) + ("Z" if shape.closed else "")
    if shape.closed or not shape.wide:
        bare = "" if shape.closed else " line"
        return f'<path class="shape {shape.role}{bare}" d="{path}">{title}</path>'
    wide = max(shape.wide * scale, 1.6)
    return (
        f'<path class="shape edge {shape.role}" d="{path}" style="stroke-width:{wide:.1f}px">{title}</path>'
        f'<path class="shape core {shape.role}" d="{path}" style="stroke-width:{max(wide - 2, 0.4):.1f}px"/>'
    )
