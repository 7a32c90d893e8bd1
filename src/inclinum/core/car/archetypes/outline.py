"""A plain body outline for a vehicle nobody has drawn yet."""

import math

from inclinum.core.car.archetypes.size import BodyName, Size
from inclinum.core.car.vehicle import Outline

Line = list[tuple[float, float]]

_TOPS: dict[BodyName, Line] = {
    "hatchback": [(0.30, 0.42), (0.33, 0.70), (0.31, 1.10), (0.20, 1.30), (-0.14, 1.54), (-0.42, 2.26), (-0.65, 2.37),
                  (-1.00, 2.28), (-1.22, 1.62), (-1.27, 1.05), (-1.24, 0.50)],
    "saloon": [(0.30, 0.42), (0.33, 0.70), (0.31, 1.08), (0.20, 1.28), (-0.14, 1.52), (-0.42, 2.22), (-0.62, 2.32),
               (-0.86, 2.24), (-1.12, 1.66), (-1.33, 1.58), (-1.38, 1.10), (-1.36, 0.55)],
    "estate": [(0.30, 0.42), (0.33, 0.70), (0.31, 1.08), (0.20, 1.28), (-0.14, 1.52), (-0.42, 2.22), (-0.65, 2.33),
               (-1.22, 2.26), (-1.36, 1.60), (-1.40, 1.00), (-1.37, 0.52)],
    "coupe": [(0.31, 0.38), (0.34, 0.62), (0.31, 0.98), (0.18, 1.20), (-0.18, 1.42), (-0.48, 1.98), (-0.66, 2.04),
              (-0.90, 1.94), (-1.26, 1.48), (-1.34, 1.36), (-1.37, 0.90), (-1.34, 0.48)],
    "van": [(0.27, 0.50), (0.30, 0.80), (0.27, 1.35), (0.14, 1.75), (-0.08, 2.75), (-0.20, 3.15), (-0.35, 3.30),
            (-1.28, 3.30), (-1.33, 3.10), (-1.34, 0.70), (-1.31, 0.50)],
    "pick_up": [(0.26, 0.60), (0.29, 0.90), (0.28, 1.38), (0.22, 1.50), (-0.14, 1.62), (-0.32, 2.38), (-0.40, 2.46),
                (-0.70, 2.46), (-0.76, 1.62), (-1.36, 1.60), (-1.37, 0.95), (-1.34, 0.65)],
    "off_roader": [(0.23, 0.65), (0.26, 0.85), (0.25, 1.50), (0.20, 1.58), (-0.16, 1.62), (-0.24, 2.44), (-0.36, 2.55),
                   (-1.22, 2.52), (-1.27, 2.40), (-1.28, 0.90), (-1.25, 0.68)],
    "open": [(0.26, 0.60), (0.30, 0.90), (0.24, 1.35), (-0.08, 1.65), (-0.14, 1.28), (-0.74, 1.22), (-0.82, 1.60),
             (-1.25, 1.55), (-1.28, 0.95), (-1.22, 0.65)],
}  # fmt: skip
"""Corners from the front bumper over the top to the rear: x in wheelbases, z in tyre diameters above the ground."""
_PANES: dict[BodyName, list[Line]] = {
    "hatchback": [[(-0.20, 1.58), (-0.44, 2.18), (-0.60, 2.26), (-0.60, 1.58)],
                  [(-0.64, 1.58), (-0.64, 2.27), (-0.98, 2.18), (-1.12, 1.60)]],
    "saloon": [[(-0.20, 1.56), (-0.44, 2.14), (-0.60, 2.22), (-0.60, 1.58)],
               [(-0.64, 1.58), (-0.64, 2.22), (-0.84, 2.15), (-1.04, 1.62)]],
    "estate": [[(-0.20, 1.56), (-0.44, 2.14), (-0.62, 2.23), (-0.62, 1.58)],
               [(-0.66, 1.58), (-0.66, 2.24), (-0.92, 2.21), (-0.92, 1.58)],
               [(-0.96, 1.58), (-0.96, 2.20), (-1.18, 2.16), (-1.28, 1.60)]],
    "coupe": [[(-0.24, 1.46), (-0.50, 1.90), (-0.66, 1.95), (-0.88, 1.86), (-1.02, 1.48)]],
    "van": [[(0.08, 1.90), (-0.10, 2.70), (-0.36, 2.75), (-0.38, 1.90)]],
    "pick_up": [[(-0.18, 1.68), (-0.34, 2.32), (-0.66, 2.34), (-0.70, 1.68)]],
    "off_roader": [[(-0.20, 1.68), (-0.28, 2.36), (-0.62, 2.40), (-0.62, 1.68)],
                   [(-0.66, 1.68), (-0.66, 2.40), (-1.18, 2.38), (-1.20, 1.68)]],
    "open": [[(-0.08, 1.65), (-0.34, 2.85), (-0.82, 2.88), (-1.05, 1.58)]],
}  # fmt: skip
"""Panes; of an open one its cage."""
BODIES: dict[BodyName, str] = {
    "hatchback": "Hatchback", "saloon": "Saloon", "estate": "Estate", "coupe": "Coupé", "van": "Van",
    "pick_up": "Pick-up with its bed", "off_roader": "Off-roader", "open": "Open, with a cage",
}  # fmt: skip


def outline(size: Size, shape: BodyName | None = None) -> Outline:
    """Body with its two arches, x forward of the front axle and z above ground, mm.

    Args:
        size: what it is scaled to.
        shape: of its body; the usual one for the size where it is None.
    """
    base, hub = size.wheelbase_mm, size.tyre_radius_mm
    arch, body_of = size.hub_to_arch_mm, shape or size.body
    first, last = _TOPS[body_of][0], _TOPS[body_of][-1]
    sill = min(first[1], last[1]) * 2 * hub

    def placed(line: Line) -> Line:
        return [(round(x * base, 1), round(z * 2 * hub, 1)) for x, z in line]

    body = [*placed(_TOPS[body_of]), *_arch(-base, arch, hub, sill), *_arch(0.0, arch, hub, sill)]
    return Outline(
        body=tuple(body), glass=tuple(tuple(placed(pane)) for pane in _PANES[body_of]), arch_radius_mm=min(arch, 900),
        width_mm=min(2 * size.half_track_mm + 220, 3000),
    )  # fmt: skip


def _arch(x: float, radius: float, hub: float, sill: float) -> Line:
    start = math.asin(max(-0.95, min(0.95, (sill - hub) / radius)))
    steps = 20
    angles = [math.pi - start - (math.pi - 2 * start) * n / steps for n in range(steps + 1)]
    return [(round(x + radius * math.cos(a), 1), round(hub + radius * math.sin(a), 1)) for a in angles]
