"""Machines as they are usually built: rear-end points at full extension, springs that suit, a fork, a stand.

All geometry is invented. The damper is as long as the points have it; its stroke gives the travel; spring rate and
preload put both sags into the middle of their windows.
"""

from dataclasses import dataclass, field
from typing import Any

import numpy as np

from inclinum.core.bike.machine import Bike, Use
from inclinum.core.bike.windows import USUAL_WINDOWS
from inclinum.core.equilibrium.rear_and_fork import RearCarrying
from inclinum.core.kinematics.rear_end import REARS, RearSweep
from inclinum.core.quantity.constants import ATMOSPHERE, GRAVITY

RIDER_KG, RIDER_SHARE_REAR = 78.0, 0.62
"""Whom the springs of an archetype are chosen for."""


@dataclass(frozen=True)
class BikeArchetype:
    """A machine of a kind.

    Args:
        key: its name in a file.
        title: what a person calls it.
        use: which windows it is set up to.
        kind: of rear end.
        points: at full extension.
        travel: of the rear axle, mm.
        radii: of the front and rear tyre, loaded, mm.
        wheelbase, rake, offset: standing unladen, mm and degrees.
        masses: sprung, front and rear, kg.
        fork: stroke, room and so on.
        extra: further fields of the machine.
    """

    key: str
    title: str
    use: Use
    kind: str
    points: dict[str, Any]
    travel: float
    radii: tuple[float, float]
    wheelbase: float
    rake: float
    offset: float
    masses: tuple[float, float]
    fork: dict[str, Any]
    seat: dict[str, float]
    extra: dict[str, Any] = field(default_factory=dict)
    dampers: int = 1

    def bike(self, name: str, plate: str = "", description: str = "") -> Bike:
        """A machine of this kind, set up for a usual rider."""
        rear = REARS[self.kind].model_validate(self.points)
        swing = RearSweep(rear)
        extended = float(swing.curve.length(0.0))
        stroke = round(extended - float(swing.curve.length(self.travel)), 1)
        rate, preload = self._spring(swing, extended, stroke)
        free = round(stroke * 1.75 + preload + 40, 0)
        damper = {
            "extended_mm": round(extended, 1),
            "stroke_mm": stroke,
            "count": self.dampers,
            "bumper": {
                "height_mm": round(0.18 * stroke, 1),
                "coefficient": round(2.6 * rate / (0.18 * stroke), 2),
                "power": 2,
            },
            "hidden_mm": 0,
            "clevis": {"thread_mm": 18, "least_thread_mm": 12} if self.dampers == 2 else None,
        }
        return Bike.model_validate(
            {
                "name": name,
                "plate": plate,
                "description": description or self.title,
                "use": self.use,
                "archetype": self.key,
                "rear": rear,
                "damper": damper,
                "spring": {
                    "rate_n_per_mm": rate,
                    "free_length_mm": free,
                    "stroke_mm": round(stroke + preload + 12, 0),
                    "max_preload_mm": round(preload + 10, 0),
                },
                "preload_mm": preload,
                "fork": self._fork(),
                "rake_deg": self.rake,
                "offset_mm": self.offset,
                "wheelbase_mm": self.wheelbase,
                "front_tyre_radius_mm": self.radii[0],
                "rear_tyre_radius_mm": self.radii[1],
                "sprung_front_kg": self.masses[0],
                "sprung_rear_kg": self.masses[1],
                "seat": self.seat,
            }
            | self.extra
        )

    def _spring(self, swing: RearSweep, extended: float, stroke: float) -> tuple[float, float]:
        """Rate and preload for the middle of both windows."""
        window = USUAL_WINDOWS[self.use, "rear"]
        unladen = self.masses[1] * GRAVITY
        laden = unladen + RIDER_KG * RIDER_SHARE_REAR * GRAVITY
        low = (window.unladen_low + window.unladen_high) / 2 * self.travel
        high = (window.laden_low + window.laden_high) / 2 * self.travel
        (x1, f1), (x2, f2) = (
            (extended - float(swing.curve.length(z)), load / float(swing.curve.ratio(z)) / self.dampers)
            for z, load in ((low, unladen), (high, laden))
        )
        rate = max(round((f2 - f1) / (x2 - x1)), 4)
        carrying = RearCarrying(swing, float(rate), 0.0, extended, stroke, count=self.dampers)
        preload = carrying.preload_for(laden, high) or 0.0
        return float(rate), round(max(preload, 0.0) * 2) / 2

    def _fork(self) -> dict[str, Any]:
        """Springs for the middle of the laden window at 12 mm of preload."""
        given, window = self.fork, USUAL_WINDOWS[self.use, "front"]
        if "springs" in given:
            return given
        stroke, cosine = given["stroke_mm"], float(np.cos(np.radians(self.rake)))
        axial = (self.masses[0] + RIDER_KG * (1 - RIDER_SHARE_REAR)) * GRAVITY * cosine
        sag = (window.laden_low + window.laden_high) / 2 * stroke
        area = given.get("area_mm2", 1150.0)
        air_height = given.get("oil_level_mm", 110.0)
        v0 = area * (air_height + stroke)
        air = 2 * area * ATMOSPHERE * ((v0 / (v0 - area * sag)) ** 1.3 - 1)
        rate = round((axial - air) / 2 / (12 + sag) * 10) / 10
        free = round(stroke * 2.2)
        return {k: v for k, v in given.items() if k not in ("area_mm2", "oil_level_mm")} | {
            "springs": {
                "type": "coil",
                "left": {"rate_n_per_mm": rate, "free_length_mm": free, "solid_length_mm": round(free - stroke - 40)},
                "spacer_mm": 140,
                "available_mm": free + 140 - 12,
                "max_preload_mm": 30,
                "air": {"area_mm2": area, "oil_level_mm": air_height},
            }
        }


_STAND = {"x_mm": 560, "lateral_mm": 240, "foot_height_mm": 62, "splay_deg": 32}
_TUBES = {"raise_least_mm": 0, "raise_most_mm": 20, "bottomed_clearance_mm": 32}

BIKES: dict[str, BikeArchetype] = {
    a.key: a
    for a in (
        BikeArchetype(
            "linkage_frame", "Trail bike, rocker on the frame", "enduro", "rocker_on_frame",
            {"axle": (0, 318), "pivot": (552, 404), "rocker_pivot": (430, 256), "rod_arm": (355, 335),
             "rod_rocker": (354.5, 217), "damper_rocker": (351, 201), "damper_frame": (382, 512)},
            205, (338, 318), 1438, 26.5, 34, (48, 62),
            {"stroke_mm": 220, **_TUBES},
            {"x_mm": 430, "height_mm": 905, "width_mm": 230, "foam_mm": 35},
            {"drive": {"kind": "chain", "sprocket": (630, 415)}, "stand": _STAND | {"foot_height_mm": 70},
             "clearances": [{"name": "skid plate", "x_mm": 690, "height_mm": 305},
                            {"name": "foot rest", "x_mm": 560, "height_mm": 385}],
             "far_ends": [{"name": "tyre to seat base", "end": "rear", "gap_mm": 22, "wanted_mm": 8},
                          {"name": "front tyre to lower clamp", "end": "front", "gap_mm": 32, "wanted_mm": 10}]},
        ),
        BikeArchetype(
            "linkage_arm", "Road bike, rocker on the swing arm", "road", "rocker_on_arm",
            {"axle": (0, 310), "pivot": (545, 372), "rocker_pivot": (352, 335), "rod_frame": (505, 268),
             "rod_rocker": (395, 262), "damper_rocker": (318, 300), "damper_frame": (402, 588)},
            125, (302, 310), 1410, 24.6, 32, (88, 84),
            {"stroke_mm": 120, **_TUBES},
            {"x_mm": 470, "height_mm": 805, "width_mm": 260, "foam_mm": 40},
            {"drive": {"kind": "chain", "sprocket": (622, 378)}, "stand": _STAND,
             "clearances": [{"name": "exhaust", "x_mm": 620, "height_mm": 165}],
             "far_ends": [{"name": "tyre to mudguard", "end": "rear", "gap_mm": 18, "wanted_mm": 6}]},
        ),
        BikeArchetype(
            "shaft_tourer", "Tourer, shaft in the swing arm", "touring", "direct",
            {"axle": (0, 322), "pivot": (512, 392), "damper_frame": (438, 662), "damper_arm": (322, 392)},
            140, (312, 322), 1520, 27.0, 38, (118, 128),
            {"stroke_mm": 145, "bottomed_clearance_mm": 40, "raise_least_mm": 0, "raise_most_mm": 14,
             "area_mm2": 1380},
            {"x_mm": 520, "height_mm": 840, "width_mm": 300, "foam_mm": 60},
            {"drive": {"kind": "shaft"}, "stand": _STAND | {"x_mm": 640, "foot_height_mm": 66, "lateral_mm": 275},
             "centre_stand": {"wheel_clear_mm": 22, "most_clear_mm": 45},
             "clearances": [{"name": "centre stand foot", "x_mm": 480, "height_mm": 142},
                            {"name": "cylinder guard", "x_mm": 820, "height_mm": 210}],
             "far_ends": [{"name": "tyre to mudguard", "end": "rear", "gap_mm": 24, "wanted_mm": 8}]},
        ),
        BikeArchetype(
            "twin_dampers", "Commuter, two dampers", "commuting", "direct",
            {"axle": (0, 298), "pivot": (498, 352), "damper_frame": (128, 622), "damper_arm": (62, 330)},
            88, (296, 298), 1290, 26.0, 40, (58, 56),
            {"stroke_mm": 105, "bottomed_clearance_mm": 45, "raise_least_mm": 0, "raise_most_mm": 12,
             "area_mm2": 700},
            {"x_mm": 420, "height_mm": 775, "width_mm": 250, "foam_mm": 50},
            {"drive": {"kind": "chain", "sprocket": (572, 345)},
             "stand": _STAND | {"foot_height_mm": 55, "lateral_mm": 205},
             "centre_stand": {"wheel_clear_mm": 30, "most_clear_mm": 55},
             "clearances": [{"name": "exhaust", "x_mm": 520, "height_mm": 160}],
             "far_ends": [{"name": "tyre to mudguard", "end": "rear", "gap_mm": 20, "wanted_mm": 8}]},
            dampers=2,
        ),
        BikeArchetype(
            "trials", "Trials bike, light rocker", "trials", "rocker_on_frame",
            {"axle": (0, 328), "pivot": (498, 400), "rocker_pivot": (388, 268), "rod_arm": (320, 338),
             "rod_rocker": (320, 232), "damper_rocker": (316, 218), "damper_frame": (352, 470)},
            172, (340, 328), 1318, 23.5, 42, (31, 36),
            {"stroke_mm": 170, "raise_least_mm": 0, "raise_most_mm": 16, "bottomed_clearance_mm": 28, "area_mm2": 900},
            {"x_mm": 380, "height_mm": 640, "width_mm": 150, "foam_mm": 10},
            {"drive": {"kind": "chain", "sprocket": (566, 408)}, "stand": _STAND | {"x_mm": 470, "foot_height_mm": 60},
             "clearances": [{"name": "skid plate", "x_mm": 620, "height_mm": 330}],
             "far_ends": [{"name": "tyre to mudguard", "end": "rear", "gap_mm": 16, "wanted_mm": 6}]},
        ),
        BikeArchetype(
            "downhill", "Downhill mountain bike, four bars", "downhill", "four_bar",
            {"axle": (0, 352), "pivot": (432, 352), "stay_joint": (34, 334), "rocker_joint": (300, 560),
             "rocker_pivot": (468, 612), "damper_first": (566, 432), "damper_second": (522, 650)},
            200, (372, 352), 1262, 27.2, 50, (7.5, 9.5),
            {"stroke_mm": 203, "raise_least_mm": 0, "raise_most_mm": 18, "bottomed_clearance_mm": 24, "area_mm2": 620,
             "oil_level_mm": 90},
            {"x_mm": 300, "height_mm": 760, "width_mm": 140, "foam_mm": 0},
            {"drive": {"kind": "chain", "sprocket": (440, 356)},
             "clearances": [{"name": "chain guide", "x_mm": 440, "height_mm": 262}],
             "far_ends": [{"name": "tyre to seat tube", "end": "rear", "gap_mm": 12, "wanted_mm": 5}]},
        ),
        BikeArchetype(
            "mountain", "Trail mountain bike, single-crown air fork", "trail", "four_bar",
            {"axle": (0, 362), "pivot": (428, 350), "stay_joint": (32, 344), "rocker_joint": (318, 610),
             "rocker_pivot": (456, 652), "damper_first": (556, 492), "damper_second": (506, 690)},
            142, (372, 362), 1216, 25.5, 44, (6.0, 8.0),
            {"crown": "single", "stroke_mm": 150, "bottomed_clearance_mm": 22,
             "springs": {"type": "air", "area_mm2": 640, "volume_mm3": 150_000, "gauge_n_per_mm2": 0.52,
                         "negative_n": 280, "negative_over_mm": 40}},
            {"x_mm": 270, "height_mm": 930, "width_mm": 140, "foam_mm": 0},
            {"drive": {"kind": "chain", "sprocket": (440, 352)},
             "clearances": [{"name": "chain ring", "x_mm": 440, "height_mm": 250}],
             "far_ends": [{"name": "tyre to seat tube", "end": "rear", "gap_mm": 14, "wanted_mm": 5}]},
        ),
        BikeArchetype(
            "cantilever", "Swing arm on one damper, chain", "trail", "direct",
            {"axle": (0, 312), "pivot": (530, 380), "damper_frame": (520, 640), "damper_arm": (292, 440)},
            160, (330, 312), 1370, 26.0, 36, (46, 56),
            {"stroke_mm": 180, **_TUBES},
            {"x_mm": 430, "height_mm": 850, "width_mm": 220, "foam_mm": 35},
            {"drive": {"kind": "chain", "sprocket": (606, 392)}, "stand": _STAND},
        ),
    )
}  # fmt: skip
