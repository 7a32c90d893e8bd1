"""A plain body outline for a vehicle nobody has drawn yet."""

import math

from inclinum.core.car.archetypes.size import BodyName, Size
from inclinum.core.car.vehicle import Outline

Line = list[tuple[float, float]]

_TOPS: dict[BodyName, Line] = {
    "car": [(0.30, 0.10), (0.31, 0.55), (0.24, 0.80), (-0.18, 0.98), (-0.40, 1.62), (-0.62, 1.74), (-0.90, 1.70),
            (-1.16, 1.12), (-1.28, 1.02), (-1.31, 0.55), (-1.28, 0.10)],
    "van": [(0.27, 0.10), (0.29, 0.70), (0.20, 1.10), (-0.06, 1.80), (-0.20, 2.02), (-1.22, 2.05), (-1.26, 1.90),
            (-1.28, 0.60), (-1.26, 0.10)],
    "pick_up": [(0.25, 0.15), (0.27, 0.85), (0.20, 1.06), (-0.16, 1.14), (-0.32, 1.68), (-0.62, 1.72), (-0.70, 1.14),
                (-1.26, 1.14), (-1.27, 0.60), (-1.25, 0.25)],
    "off_roader": [(0.22, 0.25), (0.24, 0.95), (0.18, 1.12), (-0.14, 1.16), (-0.22, 1.82), (-0.40, 1.88), (-1.20, 1.86),
                   (-1.24, 1.10), (-1.24, 0.30)],
    "open": [(0.24, 0.30), (0.26, 0.75), (-0.05, 1.15), (-0.30, 1.92), (-0.86, 1.95), (-0.98, 1.20), (-1.20, 1.12),
             (-1.22, 0.50), (-1.18, 0.35)],
}  # fmt: skip
"""Corners from the front bumper over the top to the rear: x in wheelbases, z in arch heights above the sill."""
_PANES: dict[BodyName, Line] = {
    "car": [(-0.22, 1.02), (-0.42, 1.58), (-0.62, 1.68), (-0.88, 1.64), (-1.06, 1.12), (-0.62, 1.04)],
    "van": [(0.12, 1.25), (-0.06, 1.74), (-0.34, 1.86), (-0.36, 1.25)],
    "pick_up": [(-0.20, 1.18), (-0.34, 1.62), (-0.60, 1.65), (-0.66, 1.18)],
    "off_roader": [(-0.18, 1.20), (-0.25, 1.74), (-0.66, 1.78), (-1.12, 1.76), (-1.16, 1.20)],
    "open": [(-0.12, 1.22), (-0.32, 1.84), (-0.80, 1.86), (-0.90, 1.26)],
}  # fmt: skip


def outline(size: Size) -> Outline:
    """Body with its two arches, x forward of the front axle and z above ground, mm."""
    base, hub = size.wheelbase_mm, size.tyre_radius_mm
    arch = size.hub_to_arch_mm
    sill = 0.75 * hub if size.body in ("car", "van") else 1.05 * hub
    top = arch + hub - sill

    def placed(line: Line) -> Line:
        return [(round(x * base, 1), round(sill + z * top / 1.0 * 0.92, 1)) for x, z in line]

    body = [*placed(_TOPS[size.body]), *_arch(-base, arch, hub, sill), *_arch(0.0, arch, hub, sill)]
    return Outline(
        body=tuple(body), glass=(tuple(placed(_PANES[size.body])),), arch_radius_mm=min(arch, 900),
        width_mm=min(2 * size.half_track_mm + 220, 3000),
    )  # fmt: skip


def _arch(x: float, radius: float, hub: float, sill: float) -> Line:
    start = math.asin(max(-0.95, min(0.95, (sill - hub) / radius)))
    steps = 20
    angles = [math.pi - start - (math.pi - 2 * start) * n / steps for n in range(steps + 1)]
    return [(round(x + radius * math.cos(a), 1), round(hub + radius * math.sin(a), 1)) for a in angles]
