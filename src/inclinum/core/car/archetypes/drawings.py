"""The archetypes' hardpoints as drawn for a half track of 760 mm and a loaded tyre radius of 315 mm.

Invented, and typical of their kind in proportion only; every vehicle is fitted to what is measured on it.
"""

from typing import Any

Points = dict[str, tuple[float, float, float]]

STRUT_FRONT: Points = {
    "wheel_centre": (0, 760, 315), "lower_front": (40, 372, 216), "lower_rear": (-262, 386, 224),
    "lower_outer": (10, 724, 196), "strut_top": (-38, 590, 868), "strut_lower": (-8, 664, 412),
    "tie_inner": (-138, 344, 277), "tie_outer": (-146, 704, 264),
}  # fmt: skip
STRUT_ARM_SPRING: Points = STRUT_FRONT | {"spring_body": (-24, 540, 472), "spring_arm": (-20, 556, 214)}
STRUT_REAR: Points = {
    "wheel_centre": (0, 760, 315), "lower_front": (52, 330, 262), "lower_rear": (-48, 330, 258),
    "lower_outer": (0, 716, 232), "strut_top": (-30, 588, 850), "strut_lower": (-6, 672, 430),
    "tie_inner": (-180, 323, 275), "tie_outer": (-172, 712, 248),
}  # fmt: skip
WISHBONES: Points = {
    "wheel_centre": (0, 760, 315), "lower_front": (158, 366, 210), "lower_rear": (-178, 372, 202),
    "lower_outer": (8, 706, 190), "upper_front": (88, 432, 470), "upper_rear": (-132, 442, 458),
    "upper_outer": (-20, 672, 490), "tie_inner": (-124, 401, 263), "tie_outer": (-130, 700, 260),
    "spring_body": (-6, 546, 636), "spring_arm": (6, 600, 228), "damper_body": (-6, 546, 636),
    "damper_arm": (6, 600, 228),
}  # fmt: skip
WISHBONES_UPPER: Points = WISHBONES | {
    "upper_front": (96, 452, 452), "upper_rear": (-120, 458, 446), "upper_outer": (-14, 676, 468),
    "spring_body": (-10, 560, 838), "spring_arm": (-10, 590, 470), "damper_body": (-10, 560, 838),
    "damper_arm": (-10, 590, 470),
}  # fmt: skip
WISHBONES_TORSION: Points = {
    n: at for n, at in WISHBONES.items() if not n.startswith("spring")
} | {"damper_body": (60, 560, 560), "damper_arm": (40, 612, 224)}  # fmt: skip
WISHBONES_ROCKER: Points = WISHBONES | {
    "rocker_first": (-40, 360, 560), "rocker_second": (40, 360, 560), "rod_outer": (4, 640, 214),
    "rod_rocker": (0, 477, 617), "spring_body": (0, 60, 676), "spring_arm": (0, 360, 680),
    "damper_body": (0, 60, 676), "damper_arm": (0, 360, 680),
}  # fmt: skip
WISHBONES_LONG: Points = {
    "wheel_centre": (0, 760, 315), "lower_front": (150, 190, 262), "lower_rear": (-190, 190, 250),
    "lower_outer": (6, 712, 206), "upper_front": (110, 220, 420), "upper_rear": (-150, 220, 408),
    "upper_outer": (-16, 690, 436), "tie_inner": (-130, 209, 323), "tie_outer": (-134, 700, 306),
    "spring_body": (-30, 330, 820), "spring_arm": (-20, 500, 246), "damper_body": (-30, 330, 820),
    "damper_arm": (-20, 500, 246),
}  # fmt: skip
FIVE_LINK: Points = {
    "wheel_centre": (0, 760, 315), "front_lower_inner": (320, 512, 258), "front_lower_outer": (56, 712, 212),
    "spring_link_inner": (-60, 276, 224), "spring_link_outer": (-46, 714, 206), "upper_front_inner": (144, 448, 444),
    "upper_front_outer": (20, 684, 458), "camber_arm_inner": (-70, 404, 432), "camber_arm_outer": (-42, 692, 454),
    "toe_link_inner": (-188, 271, 261), "toe_link_outer": (-166, 706, 254), "spring_body": (-54, 530, 450),
    "spring_seat": (-51.6, 538.8, 213.2), "damper_body": (-94, 614, 690), "damper_upright": (-76, 690, 246),
}  # fmt: skip
H_ARM: Points = {
    "wheel_centre": (0, 760, 315), "arm_front": (170, 330, 250), "arm_rear": (-150, 300, 246),
    "arm_outer_front": (60, 700, 212), "arm_outer_rear": (-70, 705, 210), "camber_inner": (-20, 420, 452),
    "camber_outer": (-10, 690, 470), "spring_top": (-20, 520, 470), "spring_foot": (-16, 540, 226),
    "damper_top": (-110, 620, 700), "damper_foot": (-100, 690, 236),
}  # fmt: skip
SEMI_TRAILING: Points = {
    "wheel_centre": (0, 760, 315), "pivot_inner": (320, 196, 282), "pivot_outer": (436, 620, 296),
    "spring_body": (96, 540, 520), "spring_arm": (100, 548, 272), "damper_body": (-70, 640, 690),
    "damper_arm": (-62, 660, 262),
}  # fmt: skip
TRAILING: Points = {
    "wheel_centre": (0, 760, 315), "pivot_inner": (430, 430, 338), "pivot_outer": (430, 640, 338),
    "spring_body": (70, 560, 560), "spring_arm": (74, 566, 300), "damper_body": (-20, 650, 720),
    "damper_arm": (-40, 660, 276),
}  # fmt: skip
TRAILING_TORSION: Points = {
    "wheel_centre": (0, 760, 315), "pivot_inner": (410, 400, 366), "pivot_outer": (410, 640, 366),
    "damper_body": (180, 690, 620), "damper_arm": (34, 690, 280),
}  # fmt: skip
TWIST_BEAM: Points = {
    "wheel_centre": (0, 760, 315), "pivot_inner": (420, 470, 352), "pivot_outer": (420, 600, 352),
    "spring_body": (40, 520, 520), "spring_arm": (46, 524, 290), "damper_body": (-50, 610, 730),
    "damper_arm": (-70, 640, 262),
}  # fmt: skip
SWING: Points = {
    "wheel_centre": (0, 760, 315), "pivot_inner": (190, 150, 330), "pivot_outer": (-140, 150, 330),
    "spring_body": (10, 500, 610), "spring_arm": (10, 520, 322), "damper_body": (-60, 560, 700),
    "damper_arm": (-60, 600, 296),
}  # fmt: skip


def _both(left: Points) -> Points:
    """Points of a left side named with ``left``, and their mirror images."""
    return left | {n.replace("left", "right"): (x, -y, z) for n, (x, y, z) in left.items()}


_AXLE: Points = _both({"wheel_centre_left": (0, 760, 315)}) | {
    "spring_left_body": (30, 470, 560), "spring_left_axle": (24, 474, 350), "damper_left_body": (-120, 450, 720),
    "damper_left_axle": (-84, 540, 262),
}  # fmt: skip
_LOWERS = _both({"lower_left_body": (570, 470, 306), "lower_left_axle": (16, 516, 262)})
FOUR_LINK: Points = _AXLE | _LOWERS | _both({"upper_left_body": (410, 430, 470), "upper_left_axle": (-16, 132, 508)})
THREE_LINK: Points = _AXLE | _LOWERS | {
    "upper_body": (380, 60, 508), "upper_axle": (-20, 60, 486), "lateral_rod_body": (-150, -470, 400),
    "lateral_rod_axle": (-146, 500, 382),
}  # fmt: skip
PARALLEL_LINKS: Points = _AXLE | _LOWERS | _both(
    {"upper_left_body": (560, 420, 470), "upper_left_axle": (6, 466, 426)}
) | {"lateral_rod_body": (-150, -470, 400), "lateral_rod_axle": (-146, 500, 382)}  # fmt: skip
RADIUS_ARMS: Points = (
    _AXLE
    | _both({"arm_left_body": (-820, 390, 352), "arm_left_axle": (0, 480, 310)})
    | {"lateral_rod_body": (140, -470, 392), "lateral_rod_axle": (136, 500, 376)}
)
WATT: Points = _AXLE | _LOWERS | {
    "upper_body": (380, 40, 508), "upper_axle": (-20, 40, 486), "watt_pivot": (-130, 0, 350),
    "watt_upper": (-130, 0, 410), "watt_upper_body": (-130, 520, 416), "watt_lower": (-130, 0, 290),
    "watt_lower_body": (-130, -520, 284),
}  # fmt: skip
LEAF_REAR: Points = {
    "wheel_centre": (0, 760, 315), "fixed_eye": (610, 520, 402), "seat": (6, 520, 372),
    "shackle_eye": (-640, 520, 416), "shackle_body": (-628, 520, 514), "damper_body": (-150, 470, 640),
    "damper_axle": (-70, 500, 262),
}  # fmt: skip
LEAF_FRONT: Points = {
    "wheel_centre": (0, 760, 315), "fixed_eye": (520, 430, 380), "seat": (-4, 430, 372),
    "shackle_eye": (-530, 430, 398), "shackle_body": (-516, 430, 490), "damper_body": (60, 420, 690),
    "damper_axle": (30, 520, 300),
}  # fmt: skip

AXLE_STEERING: Points = {
    "kingpin_left_lower": (4, 640, 240), "kingpin_left_upper": (-14, 618, 420), "drag_link_box": (190, -350, 420),
    "drag_link_knuckle": (170, 600, 402), "track_rod_left": (150, 671, 300), "track_rod_right": (150, -671, 300),
}  # fmt: skip

H_ARM_PARTS: dict[str, Any] = {
    "arms": [{"name": "lower H-arm", "first": "arm_front", "second": "arm_rear",
              "outer": ["arm_outer_front", "arm_outer_rear"]}],
    "links": [{"name": "camber link", "inner": "camber_inner", "outer": "camber_outer"}],
    "spring": {"body": "spring_top", "moving": "spring_foot", "on": "lower H-arm"},
    "damper": {"body": "damper_top", "moving": "damper_foot", "on": "upright"},
}  # fmt: skip
