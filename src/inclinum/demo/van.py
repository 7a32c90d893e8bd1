"""The island's post van: a compact high-sided van of about 1.7 t, struts in front, semi-trailing arms behind."""

import math

from inclinum.core.car.vehicle import Vehicle
from inclinum.core.springs.fitted import Coil

WHEELBASE = 2740.0
HUB_Z = 312.0
ARCH = {"front": 388.0, "rear": 398.0}
SHEET = "yard sheet V-7, taken from the maker's manual by the owner"

FRONT_COIL = Coil(
    part="YS-F30", rate_n_per_mm=30, free_length_mm=370, solid_length_mm=112, active_coils=6.5,
    rate_tolerance_percent=4, free_length_tolerance_mm=3,
)  # fmt: skip
REAR_COIL = Coil(
    part="YS-R52", rate_n_per_mm=52, free_length_mm=338, solid_length_mm=128, active_coils=7,
    rate_tolerance_percent=4, free_length_tolerance_mm=3,
)  # fmt: skip


def _arc(x: float, radius: float, sill: float) -> list[tuple[float, float]]:
    """A wheel arch from rear to front, ending at the sill on both sides."""
    start = math.asin((sill - HUB_Z) / radius)
    steps = 24
    angles = [math.pi - start - (math.pi - 2 * start) * n / steps for n in range(steps + 1)]
    return [(round(x + radius * math.cos(a), 1), round(HUB_Z + radius * math.sin(a), 1)) for a in angles]


def _outline() -> dict[str, object]:
    top = [
        (812, 232), (846, 300), (852, 430), (838, 610), (760, 790), (560, 905), (330, 985), (-300, 1590),
        (-470, 1700), (-760, 1778), (-1500, 1830), (-3150, 1822), (-3385, 1770), (-3455, 1640), (-3520, 1050),
        (-3545, 600), (-3560, 420), (-3540, 300), (-3420, 262),
    ]  # fmt: skip
    body = [*top, *_arc(-WHEELBASE, ARCH["rear"], 236), *_arc(0, ARCH["front"], 228)]
    door = [(150, 1030), (-330, 1500), (-520, 1600), (-960, 1655), (-985, 1030)]
    return {"body": body, "glass": [door], "arch_radius_mm": 388, "width_mm": 1760}


def van() -> Vehicle:
    """The van as its data sheet has it."""
    return Vehicle.model_validate(
        {
            "name": "Veddic Pannier, post van",
            "description": "Compact high-sided van, about 1.7 t with the usual mail on board.",
            "plate": "Q-0417",
            "mass_kg": 1700,
            "wheelbase_mm": WHEELBASE,
            "front": {
                "linkage": {
                    "kind": "macpherson",
                    "points": {
                        "wheel_centre": (0, 772, HUB_Z),
                        "lower_front": (42, 372, 214),
                        "lower_rear": (-270, 386, 222),
                        "lower_outer": (10, 735, 194),
                        "strut_top": (-40, 596, 872),
                        "strut_lower": (-10, 672, 412),
                        "tie_inner": (-140, 346, 262),
                        "tie_outer": (-148, 714, 266),
                    },
                },
                "tyre_radius_mm": HUB_Z,
                "camber_deg": -0.5,
                "toe_deg": 0.08,
                "hub_to_arch_mm": ARCH["front"],
                "spring": FRONT_COIL,
                "spring_offset_mm": 241,
                "damper": {"extended_mm": 548, "closed_mm": 368, "rod_hidden_mm": 12},
                "bump_stop": {
                    "height_mm": 62, "contact_mm": 415, "max_compression_mm": 40, "coefficient": 1.6, "power": 2.0,
                },
                "strut_top": {
                    "stud_length_mm": 24, "stud_diameter_mm": 10, "nut_height_mm": 10, "washer_mm": 2.5,
                    "bonnet_gap_mm": 30,
                },
                "adjusters": [
                    {
                        "type": "clamp", "name": "slotted strut clamp", "point": "strut_lower", "bolt_distance_mm": 64,
                        "min_mm": -0.6, "max_mm": 0.6, "step_mm": 0.1,
                        "extra_part": "A camber bolt of smaller shank in the clamp would widen the range.",
                    },
                    {
                        "type": "link_length", "name": "tie rod", "outer": "tie_outer", "min_mm": -14, "max_mm": 14,
                        "thread_pitch_mm": 1.5,
                    },
                ],
                "targets": {
                    "camber": {"target_deg": -0.5, "window_deg": 0.5},
                    "caster": {"target_deg": 4.2, "window_deg": 0.5, "weight": 0.3},
                    "toe": {"target_deg": 0.08, "window_deg": 0.08, "weight": 5},
                },
                "fasteners": {
                    "wheel": {"name": "wheel bolt", "count_per_side": 5, "torque_nm": 118, "source": SHEET},
                    "strut_rod_nut": {
                        "name": "damper rod nut", "count_per_side": 1, "torque_nm": 62, "source": SHEET, "renew": True,
                    },
                    "strut_top_nut": {
                        "name": "strut-top nut", "count_per_side": 3, "torque_nm": 27, "source": SHEET, "renew": True,
                    },
                    "strut_clamp": {
                        "name": "strut clamp bolt and nut", "count_per_side": 2, "torque_nm": 92, "angle_deg": 60,
                        "source": SHEET, "renew": True,
                    },
                    "arm_pivot": {
                        "name": "lower arm bush bolt", "count_per_side": 2, "torque_nm": 84, "angle_deg": 90,
                        "source": SHEET, "renew": True, "at_ride_height": True,
                    },
                    "anti_roll_link": {"name": "anti-roll bar link nut", "count_per_side": 1},
                },
                "orientation": [
                    "Spring: closer coils up, tail of the wire against the step of the lower seat.",
                    "Top mount: arrow to the outside of the vehicle.",
                ],
            },
            "rear": {
                "linkage": {
                    "kind": "semi_trailing_arm",
                    "points": {
                        "wheel_centre": (0, 765, HUB_Z),
                        "pivot_inner": (330, 190, 280),
                        "pivot_outer": (452, 590, 266),
                        "spring_body": (60, 520, 486),
                        "spring_arm": (72, 514, 240),
                        "damper_body": (-92, 612, 640),
                        "damper_arm": (-80, 628, 250),
                    },
                },
                "tyre_radius_mm": HUB_Z,
                "camber_deg": -1.1,
                "toe_deg": 0.15,
                "hub_to_arch_mm": ARCH["rear"],
                "spring": REAR_COIL,
                "spring_offset_mm": 0,
                "damper": {"extended_mm": 486, "closed_mm": 272, "rod_hidden_mm": 10},
                "bump_stop": {
                    "height_mm": 70, "contact_mm": 330, "max_compression_mm": 46, "coefficient": 1.1, "power": 2.0,
                },
                "targets": {
                    "camber": {"target_deg": -1.1, "window_deg": 0.6},
                    "toe": {"target_deg": 0.15, "window_deg": 0.15},
                },
                "fasteners": {
                    "wheel": {"name": "wheel bolt", "count_per_side": 5, "torque_nm": 118, "source": SHEET},
                    "damper_foot": {
                        "name": "damper foot bolt", "count_per_side": 1, "torque_nm": 76, "source": SHEET,
                        "at_ride_height": True,
                    },
                    "arm_pivot": {"name": "trailing-arm pivot bolt", "count_per_side": 2, "at_ride_height": True},
                    "anti_roll_link": {
                        "name": "anti-roll bar link nut", "count_per_side": 1, "torque_nm": 44, "source": SHEET,
                    },
                },
                "orientation": ["Spring: tail of the wire to the rear, in the pocket of the arm."],
            },
            "stations": [
                {"name": "front bumper", "x_mm": 700, "height_mm": 232},
                {"name": "sill middle", "x_mm": -1300, "height_mm": 232},
                {"name": "rear bumper", "x_mm": -3420, "height_mm": 262},
                {"name": "lamp centre", "x_mm": 700, "height_mm": 716},
            ],
            "headlamp": "lamp centre",
            "driver_assist": "A camera behind the windscreen looks for the road edge.",
            "outline": _outline(),
        }
    )  # fmt: skip
